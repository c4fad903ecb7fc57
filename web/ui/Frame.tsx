"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useRouter } from "next/navigation";
import { useEffect, useState, type ReactNode } from "react";
import { unitSystems, type Problem, type Project } from "@arroyo/core";
import { builtStageNames, stageName, stages, type Stage } from "../features/stages.ts";
import { newOption, stageAddress, useOutliers, useProblems, useStore } from "../features/store.ts";
import { CommandBar } from "./CommandBar.tsx";
import { ProblemsDrawer } from "./ProblemsDrawer.tsx";
import { Act, SelectInput } from "./fields.tsx";
import { ReadinessPanel } from "./ReadinessPanel.tsx";
import { Tally } from "./Tally.tsx";
import { useUnitSystem } from "./units.ts";

const builtStages: readonly Stage[] = builtStageNames;

function entered(stage: Stage, p: Project): boolean {
  switch (stage) {
    case "place":
      return true;
    case "form":
      return Object.keys(p.spaces).length > 0;
    case "fabric":
      return Object.keys(p.assemblies).length > 0;
    case "use":
      return Object.keys(p.spaceTypes).length > 0;
    case "services":
      return Object.keys(p.services).length > 0;
    case "options":
      return Object.keys(p.options).length > 0 || Object.keys(p.studies ?? {}).length > 0;
    case "compliance":
      return p.compliance !== undefined;
    case "measured":
      return Object.keys(p.points ?? {}).length > 0;
    default:
      return false;
  }
}

export function Logo() {
  return (
    <Flex align="center" gap="2" fontWeight="600" fontSize="14px">
      <svg width="24" height="16" viewBox="0 0 24 16" aria-hidden="true">
        <path
          d="M1 5c3-4 6-4 9 0s6 4 9 0q1.5-2 3.5-2M1 12c3-4 6-4 9 0s6 4 9 0q1.5-2 3.5-2"
          fill="none"
          stroke="var(--chakra-colors-water)"
          strokeWidth="2"
          strokeLinecap="round"
        />
      </svg>
      Arroyo
    </Flex>
  );
}

function SavedState() {
  const saved = useStore((s) => s.saved);
  const savedAt = useStore((s) => s.savedAt);
  const again = useStore((s) => s.saveAgain);
  if (saved.state === "refused")
    return (
      <Text as="span" color="clay" data-testid="saved">
        Not saved
      </Text>
    );
  if (saved.state === "retrying")
    return (
      <Flex gap="2" color="clay" role="status">
        <Text as="span" data-testid="saved" title={`${saved.message} Your edits are kept in this browser until they are saved.`}>
          Not saved yet
        </Text>
        <Act onClick={again} title={saved.message}>
          Try again
        </Act>
      </Flex>
    );
  const time = savedAt ? ` ${savedAt.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}` : "";
  return (
    <Text as="span" data-testid="saved">
      {saved.state === "saved" ? `Saved${time}` : "Saving…"}
    </Text>
  );
}

/** What was refused, and the ways on. */
function Refused() {
  const saved = useStore((s) => s.saved);
  const copy = useStore((s) => s.keepMineAsCopy);
  const theirs = useStore((s) => s.takeTheirs);
  const onTop = useStore((s) => s.saveOnTop);
  const [told, setTold] = useState<string | null>(null);
  const router = useRouter();
  if (saved.state !== "refused") return null;
  return (
    <Flex px="4" py="1.5" gap="4" background="claywash" borderBottom="1px solid" borderColor="line" role="alert" align="center" flexWrap="wrap">
      <Text>
        {saved.message} {told}
      </Text>
      <Act onClick={() => void copy().then((made) => ("id" in made ? router.push(`/p/${made.id}/form`) : setTold(made.message)))}>Keep mine as a copy</Act>
      <Act onClick={() => void theirs()}>Take the saved one</Act>
      <Act onClick={() => void onTop().then(setTold)}>Save mine on top of it</Act>
    </Flex>
  );
}

/** Top line, stage line, desk, Tally: what stays around every stage. */
export function Frame({ stage, children }: { stage: Stage; children: ReactNode }) {
  const project = useStore((s) => s.project);
  const problems = useProblems();
  const outliers = useOutliers();
  const router = useRouter();
  const [panel, setPanel] = useState<"problems" | "ready" | "commands" | "keys" | null>(null);
  const go = (s: Stage): void => {
    if (project) router.push(stageAddress(s));
  };
  useKeys(setPanel);
  if (!project) return null;
  const of = (s: Stage): readonly Problem[] => problems.filter((p) => p.stage === s);
  return (
    <Flex direction="column" h="100dvh">
      <Flex as="header" align="center" gap="5" px="4" h="40px" borderBottom="1px solid" borderColor="line" flexShrink={0}>
        <Box as="button" cursor="pointer" title="All projects" aria-label="Arroyo, all projects" {...{ type: "button", onClick: () => router.push("/") }}>
          <Logo />
        </Box>
        <Text as="h1" fontWeight="500">
          {project.name}
        </Text>
        <OptionSwitch />
        <Flex ml="auto" gap="4" color="ink2" align="center">
          <Undo />
          <UnitSwitch />
          <SavedState />
          <Act onClick={() => setPanel("commands")} title="Every action and thing by name (Ctrl-K)">
            ⌘K
          </Act>
          <Act onClick={() => setPanel("keys")} title="Keyboard shortcuts">
            ?
          </Act>
        </Flex>
      </Flex>
      <Refused />
      <Flex as="nav" aria-label="Stages" px="2" h="38px" borderBottom="1px solid" borderColor="line" flexShrink={0} align="stretch">
        {stages.map((s) => {
          const count = of(s).length;
          const built = builtStages.includes(s);
          const active = s === stage;
          return (
            <Flex
              as="button"
              key={s}
              align="center"
              gap="2"
              px="3.5"
              borderBottom="3px solid"
              borderColor={active ? "water" : "transparent"}
              fontWeight={active ? "600" : "400"}
              color={active ? "ink" : "ink2"}
              cursor={built ? "pointer" : "default"}
              opacity={built ? 1 : 0.6}
              title={built ? `${stageName(s)}${count ? `: ${count} problems` : entered(s, project) ? ": entered" : ""}` : "Opens in a later version"}
              aria-current={active ? "page" : undefined}
              {...{ type: "button", disabled: !built, onClick: () => go(s) }}
            >
              {count > 0 ? (
                <Text
                  as="span"
                  background="clay"
                  color="sheet"
                  fontSize="11px"
                  px="1"
                  borderRadius="small"
                  fontWeight="600"
                  onClick={(e) => {
                    e.stopPropagation();
                    setPanel("problems");
                  }}
                >
                  {count}
                </Text>
              ) : (
                <Box
                  w="8px"
                  h="8px"
                  borderRadius="pill"
                  border="1.5px solid"
                  borderColor="ink2"
                  background={entered(s, project) || s === "results" ? "ink2" : "transparent"}
                />
              )}
              {stageName(s)}
            </Flex>
          );
        })}
        <Flex ml="auto" align="center" pr="2" gap="3">
          <Act onClick={() => setPanel(panel === "ready" ? null : "ready")} title="What the model can answer as it is">
            Answers
          </Act>
          <Act onClick={() => setPanel(panel === "problems" ? null : "problems")}>
            {problems.length === 0 ? "No problems" : `${problems.length} problem${problems.length > 1 ? "s" : ""}`}
            {outliers.length > 0 && ` · ${outliers.length} implausible`}
          </Act>
        </Flex>
      </Flex>
      <Flex flex="1" minH="0" position="relative">
        {children}
        {panel === "ready" && <ReadinessPanel project={project} onClose={() => setPanel(null)} />}
        {panel === "problems" && <ProblemsDrawer problems={problems} outliers={outliers} onClose={() => setPanel(null)} onShow={(s) => go(s)} />}
      </Flex>
      <Tally />
      {panel === "commands" && <CommandBar onClose={() => setPanel(null)} go={go} onProblems={() => setPanel("problems")} onKeys={() => setPanel("keys")} />}
      {panel === "keys" && <Keys onClose={() => setPanel(null)} />}
    </Flex>
  );
}

/** The option in view: an edit goes to it. */
function OptionSwitch() {
  const document = useStore((s) => s.document);
  const option = useStore((s) => s.option);
  const look = useStore((s) => s.look);
  const router = useRouter();
  if (!document) return null;
  const count = option === null ? 0 : (document.options[option]?.changes.length ?? 0);
  return (
    <Flex
      border="1px solid"
      borderColor={option === null ? "line" : "water"}
      borderRadius="pill"
      pl="3"
      pr="2"
      background="sheet"
      fontSize="12px"
      align="center"
      gap="1"
      title="Edits go to the option in view"
    >
      Option
      <SelectInput
        label="Option in view"
        width="136px"
        align="left"
        value={option ?? ""}
        options={[
          { value: "", label: "Base" },
          ...Object.entries(document.options).map(([id, o]) => ({ value: id, label: o.name })),
          { value: " new", label: "new option …" },
        ]}
        onChange={(v) => {
          if (v === " new") {
            newOption();
            router.push(stageAddress("options"));
          } else look(v === "" ? null : v);
        }}
      />
      {option !== null && (
        <Text color="ink2">
          {count} change{count === 1 ? "" : "s"} over base
        </Text>
      )}
    </Flex>
  );
}

/** Turns every figure to the other system of units; the document stays as it is. */
function UnitSwitch() {
  const system = useUnitSystem((s) => s.system);
  const set = useUnitSystem((s) => s.set);
  return (
    <Flex role="group" aria-label="Units" border="1px solid" borderColor="line" borderRadius="small" overflow="hidden" fontSize="12px">
      {unitSystems.map((s) => (
        <Box
          as="button"
          key={s}
          px="2"
          background={s === system ? "wash" : "transparent"}
          color={s === system ? "ink" : "ink2"}
          cursor="pointer"
          aria-pressed={s === system}
          title={s === "SI" ? "Metres, watts, °C" : "Feet, Btu/h, °F"}
          {...{ type: "button", onClick: () => set(s) }}
        >
          {s}
        </Box>
      ))}
    </Flex>
  );
}

function Undo() {
  const done = useStore((s) => s.done);
  const undone = useStore((s) => s.undone);
  const undo = useStore((s) => s.undo);
  const redo = useStore((s) => s.redo);
  return (
    <Flex gap="2.5">
      <Act onClick={undo} disabled={done.length === 0} title={done.length > 0 ? `Undo: ${done[done.length - 1].edit.name} (Ctrl-Z)` : "Nothing to undo"}>
        Undo
      </Act>
      <Act
        onClick={redo}
        disabled={undone.length === 0}
        title={undone.length > 0 ? `Redo: ${undone[undone.length - 1].edit.name} (Ctrl-Shift-Z)` : "Nothing to redo"}
      >
        Redo
      </Act>
    </Flex>
  );
}

const KEYS: readonly [string, string][] = [
  ["Ctrl-K", "find any action or thing"],
  ["Ctrl-Z", "undo"],
  ["Ctrl-Shift-Z", "redo"],
  ["P", "pin the figures"],
  ["1 … 9", "go to a stage"],
  ["V R P S F", "on the plan: select, rectangle, polygon, split, fit"],
  ["arrows", "on the plan and elevation: move what is chosen; Shift: further"],
  ["Enter", "on the plan: place a corner, close an outline; in a sheet: edit"],
  ["Delete", "on an elevation: remove; in a sheet: back to inherited"],
  ["Alt, Shift", "on the plan: do not catch, keep straight"],
  ["Escape", "close, or take a typed value back"],
  ["?", "this list"],
];

function useKeys(setPanel: (p: "problems" | "commands" | "keys" | null) => void): void {
  const router = useRouter();
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      const { undo, redo, pin, project } = useStore.getState();
      const typing = e.target instanceof HTMLElement && ["INPUT", "TEXTAREA", "SELECT"].includes(e.target.tagName);
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "k") {
        e.preventDefault();
        setPanel("commands");
      } else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "z" && !typing) {
        e.preventDefault();
        if (e.shiftKey) redo();
        else undo();
      } else if (e.key === "Escape") setPanel(null);
      else if (!typing && !e.ctrlKey && !e.metaKey && !e.altKey) {
        if (e.key === "?") setPanel("keys");
        else if (e.key === "p" || e.key === "P") pin();
        else if (/^[1-9]$/.test(e.key) && project) router.push(stageAddress(builtStages[Number(e.key) - 1]));
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [router, setPanel]);
}

function Keys({ onClose }: { onClose: () => void }) {
  return (
    <Box position="fixed" inset="0" zIndex="20" onClick={onClose} background="blackAlpha.300">
      <Box
        role="dialog"
        aria-label="Keyboard shortcuts"
        position="absolute"
        top="120px"
        left="50%"
        transform="translateX(-50%)"
        background="sheet"
        border="1px solid"
        borderColor="line"
        p="5"
        w="360px"
        onClick={(e) => e.stopPropagation()}
      >
        <Text textStyle="title" mb="2">
          Keyboard shortcuts
        </Text>
        {KEYS.map(([key, what]) => (
          <Flex key={key} py="1" borderTop="1px solid" borderColor="line">
            <Text w="120px" fontFamily="mono" fontSize="12px">
              {key}
            </Text>
            <Text>{what}</Text>
          </Flex>
        ))}
      </Box>
    </Box>
  );
}
