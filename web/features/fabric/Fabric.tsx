"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect } from "react";
import { assemblyU, checkProject, copyChange, coveredAreas, glazingRating, placeWords, whereUsed, type Project } from "@arroyo/core";
import { Actions, type Action, type ActionName } from "../../ui/Actions.tsx";
import { Act } from "../../ui/fields.tsx";
import { Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { SheetTable } from "../../ui/SheetTable.tsx";
import { useUnits } from "../../ui/units.ts";
import { Toggle } from "../../ui/Toggle.tsx";
import { useStore } from "../store.ts";
import { AssemblyDesk } from "./AssemblyDesk.tsx";
import { fabricSheet } from "./fabricSheets.ts";
import { fabricParts, newThing, partWord, showThing, useFabric, type FabricPart } from "./fabricStore.ts";
import { GlazingDesk } from "./GlazingDesk.tsx";
import { KitDesk } from "./KitDesk.tsx";
import { LibraryDesk } from "./LibraryDesk.tsx";
import { MaterialDesk } from "./MaterialDesk.tsx";
import { useMine } from "./myLibrary.ts";
import { NAME_FIELD } from "./ThingHead.tsx";
import { ThingInspector } from "./ThingInspector.tsx";
import { Tidy } from "./Tidy.tsx";

/** What a building is made of: assemblies, glazings, materials and the kits that give them to elements. */
export function Fabric() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const selection = useStore((s) => s.selection);
  const stored = useFabric((s) => s.part);
  const panel = useFabric((s) => s.panel);
  const set = useFabric((s) => s.set);
  const units = useUnits();
  const fetchMine = useMine((s) => s.fetch);
  const mineKnown = useMine((s) => s.document !== null);
  // a link or the command bar may name a thing of another kind than the one listed last
  const named = fabricParts.find((p) => selection.some((s) => s.kind === partWord[p].kind && project[p][s.id]));
  const part = named ?? stored;
  const fromMine = fabricParts.some((p) => Object.values(project[p]).some((x: { from?: { library: string } }) => x.from?.library === "mine"));
  useEffect(() => {
    if (fromMine && !mineKnown) void fetchMine();
  }, [fromMine, mineKnown, fetchMine]);
  const id: string | undefined = selection.find((s) => s.kind === partWord[part].kind && project[part][s.id])?.id ?? Object.keys(project[part])[0];
  const { geometry, openings } = checkProject(project);
  const covered = coveredAreas(project, geometry.faces, openings);
  const show = (p: FabricPart): void => {
    set({ part: p, panel: null });
    const [first] = Object.keys(project[p]);
    if (first !== undefined) useStore.getState().select([{ kind: partWord[p].kind, id: first }]);
    else useStore.getState().select([]);
  };
  const uses = id === undefined ? [] : whereUsed(project, part, id);
  const word = partWord[part].one;
  const name = id === undefined ? "" : project[part][id].name;
  const figure = (k: string): string => {
    try {
      if (part === "assemblies") return units.text(assemblyU(project, project.assemblies[k]), "W/m²K", 2);
      if (part === "glazings") {
        const r = glazingRating(project.glazings[k]);
        return `${units.text(r.u, "W/m²K", 2)}, ${r.g.toFixed(2)}`;
      }
      if (part === "materials") return units.text(project.materials[k].conductivity, "W/m·K", 3);
      return k === project.defaults.kit ? "project" : "";
    } catch {
      return "—";
    }
  };
  const head = { assemblies: `U, ${units.unit("W/m²K")}`, glazings: `U, g`, materials: units.unit("W/m·K"), kits: "" }[part];
  const unused = (k: string): boolean => (part === "materials" || part === "kits" ? whereUsed(project, part, k).length === 0 : !covered.has(k));
  const rename = (): void => document.querySelector<HTMLInputElement>(`#${NAME_FIELD} input`)?.focus();
  const add = (): void => {
    const made = newThing(project, part, part === "assemblies" && id !== undefined ? project.assemblies[id].use : "exterior wall");
    if (edit(`New ${word}`, [made.change]).length > 0) return;
    showThing(part, made.id);
    requestAnimationFrame(() => requestAnimationFrame(rename));
  };
  const remove = (): void => {
    if (id === undefined) return;
    const keys = Object.keys(project[part]);
    const next = keys[keys.indexOf(id) + 1] ?? keys[keys.indexOf(id) - 1];
    if (edit(`Without ${name}`, [{ op: "remove", path: [part, id], old: project[part][id] }]).length > 0) return;
    if (next !== undefined) showThing(part, next);
    else useStore.getState().select([]);
  };
  const actions: Partial<Record<ActionName, Action>> = {
    add: { label: `Add ${article(word)}`, run: add },
    library: { label: `Take ${article(word)} from a library`, run: () => set({ panel: "library", part }) },
    ...(id === undefined
      ? {}
      : {
          copy: {
            label: `Copy ${name}`,
            run: () => {
              const made = copyChange(project, part, id);
              if (edit(`Copy of ${name}`, [made.change]).length === 0) showThing(part, made.id);
            },
          },
          rename: { label: `Rename ${name}`, run: rename },
          where: { label: `Where ${name} is used`, run: () => document.getElementById("where-used")?.scrollIntoView({ block: "start" }) },
          remove: {
            label: `Remove ${name}`,
            run: remove,
            ...(uses.length > 0
              ? { not: `it is used by ${placeWords(project, uses[0])}${uses.length > 1 ? ` and ${uses.length - 1} more` : ""}; put another in its place first` }
              : {}),
          },
        }),
  };
  return (
    <>
      <Side label="Fabric" width="250px">
        <Flex px="1.5" mb="1">
          {fabricParts.map((p) => (
            <Toggle key={p} on={part === p} tight onClick={() => show(p)}>
              {partWord[p].many}
            </Toggle>
          ))}
        </Flex>
        <Actions label={`What can be done with ${partWord[part].many.toLowerCase()}`} actions={actions} />
        <SideHead unit={head}>{partWord[part].many}</SideHead>
        {Object.entries(project[part]).map(([k, x]) => (
          <SideItem key={k} active={panel === null && k === id} value={figure(k)} onClick={() => showThing(part, k)}>
            {x.name}
            {unused(k) && (
              <Text as="span" display="block" fontSize="11px" color="clay">
                used nowhere
              </Text>
            )}
          </SideItem>
        ))}
        {Object.keys(project[part]).length === 0 && (
          <Text px="3" color="ink2">
            There is none yet. Add one, or take one from a library.
          </Text>
        )}
        <Flex px="3" pt="3" direction="column" align="flex-start" gap="1">
          <Act onClick={() => set({ panel: panel === "sheet" ? null : "sheet", part })}>{partWord[part].many} as a sheet</Act>
          <Act onClick={() => set({ panel: panel === "tidy" ? null : "tidy", part })}>Tidy: what is unused</Act>
        </Flex>
      </Side>
      {panel === "sheet" ? (
        <Box as="main" aria-label="Sheet" flex="1" minW="0" position="relative" background="sheet">
          <SheetTable project={project} names={fabricParts} first={part} of={fabricSheet} />
        </Box>
      ) : (
        <Middle label={panel === "library" ? "Library" : panel === "tidy" ? "Tidy" : word[0].toUpperCase() + word.slice(1)}>
          {panel === "library" ? (
            <LibraryDesk part={part} many={partWord[part].many} onTaken={(k) => showThing(part, k)} />
          ) : panel === "tidy" ? (
            <Tidy />
          ) : id === undefined ? (
            <Text color="ink2">There is no {word} yet.</Text>
          ) : part === "assemblies" ? (
            <AssemblyDesk key={id} id={id} />
          ) : part === "glazings" ? (
            <GlazingDesk key={id} id={id} area={covered.get(id) ?? 0} />
          ) : part === "materials" ? (
            <MaterialDesk key={id} id={id} />
          ) : (
            <KitDesk key={id} id={id} />
          )}
        </Middle>
      )}
      {(panel === null || panel === "sheet") && id !== undefined ? (
        <ThingInspector key={`${part} ${id}`} part={part} id={id} area={part === "assemblies" || part === "glazings" ? (covered.get(id) ?? 0) : null} />
      ) : (
        <Inspector title="Fabric" about="What is taken in or made here is the project’s own; shipped things stay as they are.">
          <Act onClick={() => set({ panel: null })}>Back to the {word}</Act>
        </Inspector>
      )}
    </>
  );
}

const article = (noun: string): string => `${/^[aeiou]/.test(noun) ? "an" : "a"} ${noun}`;
