"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  setChange,
  swapChanges,
  thicknessForResistance,
  thicknessForTarget,
  placeWords,
  whereUsed,
  insulatingLayer,
  type NamedPart,
  type Project,
} from "@arroyo/core";
import { Act, Head, Quantity, SelectInput } from "../../ui/fields.tsx";
import { Inspector } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { partWord, type FabricPart } from "./fabricStore.ts";
import { useMine } from "./myLibrary.ts";
import { GiveKit, PutOn } from "./PutOn.tsx";

/** Where a thing of Fabric is used, where it can be put, and what can stand in its place. */
export function ThingInspector({ part, id, area }: { part: FabricPart; id: string; area: number | null }) {
  const project = useStore((s) => s.project) as Project;
  const units = useUnits();
  const uses = whereUsed(project, part, id);
  const [all, setAll] = useState(false);
  const words = [...new Set(uses.map((u) => placeWords(project, u)))];
  return (
    <Inspector title={project[part][id].name}>
      <Box id="where-used">
        <Head mt="1">Where it is used</Head>
        {area !== null && area > 0 && (
          <Text color="ink2">
            {units.words(area, "m²", 0)} in the model{part === "assemblies" ? ", openings taken out" : ""}.
          </Text>
        )}
        {words.length === 0 && <Text color="clay">Used nowhere.</Text>}
        {words.slice(0, all ? undefined : 6).map((w) => (
          <Text key={w}>{w}</Text>
        ))}
        {words.length > 6 && <Act onClick={() => setAll(!all)}>{all ? "fewer" : `and ${words.length - 6} more`}</Act>}
      </Box>
      {part === "assemblies" && <Target key={`target ${id}`} id={id} />}
      {part === "assemblies" && <PutOn key={`put ${id}`} id={id} />}
      {part === "kits" && <GiveKit id={id} />}
      {uses.length > 0 && (
        <Swap
          part={part}
          one={partWord[part].one}
          id={id}
          {...(part === "assemblies" ? { suits: (k: string) => project.assemblies[k].use === project.assemblies[id].use } : {})}
        />
      )}
      <Keep key={`keep ${part} ${id}`} part={part} id={id} />
    </Inspector>
  );
}

/** Thickness of one layer for a wanted U of the whole, or a wanted R of the layer. */
function Target({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const a = project.assemblies[id];
  const solids = a.layers.flatMap((l) => (l.kind === "solid" ? [l] : []));
  const [layer, setLayer] = useState<string | null>(null);
  const [kind, setKind] = useState<"u" | "r">("u");
  const [told, setTold] = useState<string | null>(null);
  const at = solids.find((l) => l.id === (layer ?? insulatingLayer(project, a))) ?? solids[0];
  if (!at) return null;
  const name = project.materials[at.material].name;
  const find = (v: number): string | null => {
    const found = kind === "u" ? thicknessForTarget(project, a, at.id, v) : thicknessForResistance(project, a, at.id, v);
    if (!found.ok) return found.message;
    const problems = edit(`${a.name}: ${name} for ${kind === "u" ? `U ${units.words(v, "W/m²K", 3)}` : `R ${units.words(v, "m²K/W", 2)}`}`, [
      setChange(project, ["assemblies", id, "layers", at.id, "thickness"], found.thickness),
    ]);
    if (problems.length === 0) setTold(`${name}: ${units.words(found.now * 1000, "mm", 1)} before, ${units.words(found.thickness * 1000, "mm", 1)} now.`);
    return problems[0]?.message ?? null;
  };
  return (
    <Box>
      <Head>Thickness for a target</Head>
      <SelectInput
        label="Layer to be found"
        width="258px"
        align="left"
        value={at.id}
        options={solids.map((l) => ({ value: l.id, label: project.materials[l.material].name }))}
        onChange={setLayer}
      />
      <Flex align="center" gap="1.5">
        <SelectInput
          label="Target"
          width="124px"
          align="left"
          value={kind}
          options={[
            { value: "u", label: "U of the whole" },
            { value: "r", label: "R of the layer" },
          ]}
          onChange={(v) => setKind(v === "r" ? "r" : "u")}
        />
        <Quantity key={kind} label="Wanted value" width="64px" value={null} unit={kind === "u" ? "W/m²K" : "m²K/W"} onCommit={find} />
      </Flex>
      {told && (
        <Text role="status" color="water">
          {told}
        </Text>
      )}
    </Box>
  );
}

/** Another in its place everywhere. @param suits those that may take its place; absent: all of its kind */
export function Swap({ part, one, id, suits = () => true }: { part: NamedPart; one: string; id: string; suits?: (other: string) => boolean }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const set = project[part] as Readonly<Record<string, { readonly name: string }>>;
  const others = Object.entries(set).filter(([k]) => k !== id && suits(k));
  if (others.length === 0) return null;
  return (
    <Box>
      <Head>In its place everywhere</Head>
      <SelectInput
        label={`In place of this ${one}`}
        width="258px"
        align="left"
        value=""
        options={[{ value: "", label: `another ${one} …` }, ...others.map(([k, x]) => ({ value: k, label: x.name }))]}
        onChange={(v) => v !== "" && edit(`${set[v].name} in place of ${set[id].name}`, swapChanges(project, part, id, v))}
      />
    </Box>
  );
}

/** Kept for the next project. */
export function Keep({ part, id }: { part: NamedPart; id: string }) {
  const project = useStore((s) => s.project) as Project;
  const keep = useMine((s) => s.keep);
  const [told, setTold] = useState<string | null>(null);
  const thing = (project[part] as Readonly<Record<string, { readonly name: string }>>)[id];
  return (
    <Box>
      <Head>For the next project</Head>
      <Act onClick={() => void keep(project, part, id).then(setTold)} title={`Keep ${thing.name} with all it depends on`}>
        Keep in my library
      </Act>
      {told && (
        <Text role="status" color="ink2">
          {told}
        </Text>
      )}
    </Box>
  );
}
