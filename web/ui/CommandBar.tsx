"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useRouter } from "next/navigation";
import { useMemo, useState, type KeyboardEvent } from "react";
import { useForm } from "../features/form/formStore.ts";
import { saveGbxml } from "../features/form/saveGbxml.ts";
import { useFabric } from "../features/fabric/fabricStore.ts";
import { stageAddress, useStore, type Selection } from "../features/store.ts";
import { useUnitSystem } from "./units.ts";
import { builtStageNames, stageName, type Stage } from "../features/stages.ts";

interface Command {
  readonly name: string;
  readonly what: string;
  run(): void;
}

/** Every action and every thing by name. */
export function CommandBar({ onClose, go, onProblems, onKeys }: { onClose: () => void; go: (s: Stage) => void; onProblems: () => void; onKeys: () => void }) {
  const project = useStore((s) => s.project);
  const studies = useStore((s) => s.document?.studies);
  const router = useRouter();
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const toForm = (part: Parameters<ReturnType<typeof useForm.getState>["set"]>[0]) => (): void => {
    useForm.getState().set(part);
    go("form");
  };
  const toFabric = (panel: "tidy" | "library") => (): void => {
    useFabric.getState().set({ panel });
    go("fabric");
  };
  const commands = useMemo((): Command[] => {
    const { undo, redo, pin, unpin, select } = useStore.getState();
    if (!project) return [];
    const thing = (kind: Selection["kind"], id: string, name: string, what: string, stage: Stage): Command => ({
      name,
      what,
      run: () => {
        select([{ kind, id }]);
        go(stage);
      },
    });
    const named = <T extends { name: string }>(records: Record<string, T>, kind: Parameters<typeof thing>[0], what: string, stage: Stage): Command[] =>
      Object.entries(records).map(([id, r]) => thing(kind, id, r.name, what, stage));
    return [
      ...builtStageNames.map((s) => ({ name: `Go to ${stageName(s)}`, what: "stage", run: () => go(s) })),
      { name: "Undo", what: "action", run: undo },
      { name: "Redo", what: "action", run: redo },
      { name: "Pin the figures", what: "action", run: pin },
      { name: "Take the last pin away", what: "action", run: unpin },
      { name: "Show problems", what: "action", run: onProblems },
      { name: "Draw a rectangle", what: "action", run: toForm({ view: "plan", tool: "rectangle" }) },
      { name: "Draw a polygon", what: "action", run: toForm({ view: "plan", tool: "polygon" }) },
      { name: "Split a space", what: "action", run: toForm({ view: "plan", tool: "split" }) },
      { name: "Building in 3D", what: "view", run: toForm({ view: "building" }) },
      { name: "Elevation of a wall", what: "view", run: toForm({ view: "elevation" }) },
      { name: "Sheets of spaces, faces, openings", what: "view", run: toForm({ view: "sheets" }) },
      { name: "Sun study", what: "view", run: toForm({ view: "sun" }) },
      { name: "Figures in SI", what: "units", run: () => useUnitSystem.getState().set("SI") },
      { name: "Figures in IP", what: "units", run: () => useUnitSystem.getState().set("IP") },
      { name: "Remove what is unused", what: "action", run: toFabric("tidy") },
      { name: "Take from a library", what: "action", run: toFabric("library") },
      { name: "Keyboard shortcuts", what: "action", run: onKeys },
      { name: "Export gbXML", what: "action", run: () => void saveGbxml(project) },
      { name: "Export project JSON", what: "action", run: () => window.location.assign(`/api/projects/${project.id}/export`) },
      {
        name: "Light or dark",
        what: "action",
        run: () => {
          const dark = document.documentElement.classList.toggle("dark");
          localStorage.setItem("arroyo-dark", dark ? "1" : "0");
        },
      },
      ...named(project.spaces, "space", "space", "form"),
      ...named(project.openings, "opening", "opening", "form"),
      ...named(project.assemblies, "assembly", "assembly", "fabric"),
      ...named(project.glazings, "glazing", "glazing", "fabric"),
      ...named(project.materials, "material", "material", "fabric"),
      ...named(project.kits, "kit", "envelope kit", "fabric"),
      ...named(project.spaceTypes, "spaceType", "space type", "use"),
      ...named(project.services, "services", "services", "services"),
      ...named(project.airSystems, "airSystem", "air system", "services"),
      ...named(project.loops, "loop", "loop", "services"),
      ...Object.entries(studies ?? {}).map(([id, s]): Command => ({
        name: s.name,
        what: "study",
        run: () => router.push(stageAddress("options", { study: id })),
      })),
      ...(
        [
          ["submission", "What is submitted"],
          ["match", "Uses matched with the code"],
          ["checks", "Checks of the code"],
          ["building", "Pass and fail in 3D"],
          ["daylight", "Daylight areas"],
          ["reference", "Reference building"],
          ["performance", "Performance against the reference building"],
          ["certificate", "Certificate"],
          ["packs", "Rule packs"],
        ] as const
      ).map(([view, name]): Command => ({ name, what: "view", run: () => router.push(stageAddress("compliance", { view })) })),
      { name: "Staircase of measures", what: "view", run: () => router.push(stageAddress("options", { read: "staircase" })) },
    ];
    // toForm follows go
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [project, studies, go, onProblems, onKeys]);
  const found = commands
    .filter((c) =>
      text
        .toLowerCase()
        .split(/\s+/)
        .every((w) => `${c.name} ${c.what}`.toLowerCase().includes(w)),
    )
    .slice(0, 12);
  const choose = (c: Command | undefined): void => {
    if (!c) return;
    onClose();
    c.run();
  };
  const onKey = (e: KeyboardEvent): void => {
    if (e.key === "ArrowDown") setAt(Math.min(at + 1, found.length - 1));
    else if (e.key === "ArrowUp") setAt(Math.max(0, at - 1));
    else if (e.key === "Enter") choose(found[at]);
    else if (e.key === "Escape") onClose();
    else return;
    e.preventDefault();
  };
  return (
    <Box position="fixed" inset="0" zIndex="20" background="blackAlpha.300" onClick={onClose}>
      <Box
        role="dialog"
        aria-label="Commands"
        position="absolute"
        top="90px"
        left="50%"
        transform="translateX(-50%)"
        w="520px"
        background="sheet"
        border="1px solid"
        borderColor="line"
        onClick={(e) => e.stopPropagation()}
      >
        <chakra.input
          aria-label="Find an action or a thing"
          w="100%"
          p="3"
          fontSize="15px"
          background="transparent"
          borderBottom="1px solid"
          borderColor="line"
          autoFocus
          placeholder="Find an action or a thing"
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            setAt(0);
          }}
          onKeyDown={onKey}
        />
        <Box role="listbox" aria-label="Found">
          {found.map((c, i) => (
            <Flex
              key={`${c.what}-${c.name}-${i}`}
              role="option"
              aria-selected={i === at}
              px="3"
              py="1.5"
              justify="space-between"
              cursor="pointer"
              background={i === at ? "wash" : "transparent"}
              onMouseEnter={() => setAt(i)}
              onClick={() => choose(c)}
            >
              <Text>{c.name}</Text>
              <Text color="ink2" fontSize="12px">
                {c.what}
              </Text>
            </Flex>
          ))}
          {found.length === 0 && (
            <Text p="3" color="ink2">
              Nothing by that name.
            </Text>
          )}
        </Box>
      </Box>
    </Box>
  );
}
