"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useRef, useState } from "react";
import { assemblyU, glazingRating, MINE, SHIPPED, shippedLibrary, takeChanges, type NamedPart, type Project, type RecordSet } from "@arroyo/core";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { Find, type Found } from "../../ui/Find.tsx";
import { useUnits, type Units } from "../../ui/units.ts";
import { ask } from "../../live/server.ts";
import { useStore } from "../store.ts";
import { otherProject, useMine } from "./myLibrary.ts";

function figures(set: RecordSet, part: NamedPart, id: string, units: Units): string {
  try {
    if (part === "materials") return `${units.text((set.materials ?? {})[id].conductivity, "W/m·K", 3)} ${units.unit("W/m·K")}`;
    if (part === "assemblies") return `U ${units.words(assemblyU({ materials: set.materials ?? {} }, (set.assemblies ?? {})[id]), "W/m²K", 2)}`;
    if (part === "glazings") {
      const r = glazingRating((set.glazings ?? {})[id]);
      return `U ${units.words(r.u, "W/m²K", 2)} · g ${r.g.toFixed(2)} · light ${r.visibleTransmittance.toFixed(2)}`;
    }
    if (part === "spaceTypes") {
      const { peopleDensity, lightingPower } = (set.spaceTypes ?? {})[id].inputs;
      return [
        typeof peopleDensity === "number" ? units.words(peopleDensity, "person/m²", 2) : "",
        typeof lightingPower === "number" ? units.words(lightingPower, "W/m²", 1, true) : "",
      ]
        .filter((t) => t !== "")
        .join(" · ");
    }
    if (part === "deviceLists") return `${(set.deviceLists ?? {})[id].devices.length} devices`;
    return "";
  } catch {
    return "—";
  }
}

function kindOf(set: RecordSet, part: NamedPart, id: string): string {
  if (part === "materials") return (set.materials ?? {})[id].kind ?? "other";
  if (part === "assemblies") return (set.assemblies ?? {})[id].use;
  if (part === "glazings") {
    const g = (set.glazings ?? {})[id];
    return g.kind === "rated" ? "by rating" : ["single", "double", "triple"][g.panes.length - 1];
  }
  if (part === "schedules") return (set.schedules ?? {})[id].kind === "temperature" ? "temperature" : "share";
  return KINDS[part] ?? part;
}
const KINDS: Partial<Record<NamedPart, string>> = { kits: "kit", spaceTypes: "space type", deviceLists: "device list", resets: "outdoor reset" };

/** Takes things into the project: shipped ones, my own, or those of another project or its file. */
export function LibraryDesk({ part, many, onTaken }: { part: NamedPart; many: string; onTaken: (id: string) => void }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const mine = useMine((s) => s.document);
  const fetchMine = useMine((s) => s.fetch);
  const drop = useMine((s) => s.drop);
  const [from, setFrom] = useState("shipped");
  const [other, setOther] = useState<Project | null>(null);
  const [projects, setProjects] = useState<readonly { id: string; name: string }[]>([]);
  const [told, setTold] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const zone = useStore((s) => s.live.weather?.climateZone ?? null);
  useEffect(() => {
    void fetchMine();
    void ask<{ id: string; name: string }[]>("/api/projects").then((a) => a.ok && setProjects(a.body));
  }, [fetchMine]);
  const set: RecordSet | null = from === "shipped" ? shippedLibrary() : from === "mine" ? mine : other;
  const name = from === "shipped" ? SHIPPED : from === "mine" ? MINE : (other?.name ?? "");
  const open = async (what: string | File): Promise<void> => {
    const found = await otherProject(what);
    setOther(found.ok ? found.project : null);
    setTold(found.ok ? null : found.message);
  };
  const choose = (value: string): void => {
    setTold(null);
    if (value === "file") return file.current?.click();
    setFrom(value);
    if (value !== "shipped" && value !== "mine") void open(value);
  };
  const take = (id: string): void => {
    if (!set) return;
    const made = takeChanges(project, set, name, part, id);
    if (!made.ok) return setTold(made.message);
    const thing = (set[part] as Record<string, { name: string }>)[id];
    if (made.changes.length > 0) {
      const problems = edit(`${thing.name} taken in`, made.changes);
      if (problems.length > 0) return setTold(problems[0].message);
    }
    onTaken(made.id);
  };
  const items = useMemo((): Found[] => {
    if (!set) return [];
    const inZone = (id: string): boolean => zone !== null && new RegExp(`^[a-z]+_${zone}_`).test(id);
    const rows = Object.entries((set[part] ?? {}) as Record<string, { name: string }>).map(([id, x]): Found => {
      const byLimit = from === "shipped" && /^[a-z]+_\d_/.test(id);
      return {
        key: id,
        name: x.name,
        group: byLimit
          ? inZone(id)
            ? `Just meets the limit here, climate zone ${zone ?? ""}`
            : "Just meets the limit of another climate zone"
          : kindOf(set, part, id),
        kind: kindOf(set, part, id),
        figures: figures(set, part, id, units),
      };
    });
    // what just meets the limit here is offered first, what meets those of other zones last
    const rank = (f: Found): number => (f.group.includes("limit here") ? 0 : f.group.includes("limit of another") ? 2 : 1);
    const groups = [...new Set(rows.map((r) => r.group))];
    return rows.sort((a, b) => rank(a) - rank(b) || groups.indexOf(a.group) - groups.indexOf(b.group));
  }, [set, part, units, zone, from]);
  return (
    <>
      <Flex align="baseline" gap="3" mb="2">
        <Text as="h2" textStyle="title">
          {many} to take in
        </Text>
        <SelectInput
          label="Taken from"
          width="230px"
          align="left"
          value={from}
          options={[
            { value: "shipped", label: "shipped library" },
            { value: "mine", label: "my library" },
            ...projects.filter((p) => p.id !== project.id).map((p) => ({ value: p.id, label: p.name })),
            ...(from === "opened" && other ? [{ value: "opened", label: other.name }] : []),
            { value: "file", label: "a project file …" },
          ]}
          onChange={choose}
        />
        <chakra.input
          ref={file}
          type="file"
          accept=".json,application/json"
          display="none"
          aria-label="Project file to take from"
          onChange={(e) => {
            const [chosen] = e.target.files ?? [];
            if (!chosen) return;
            setFrom("opened");
            void open(chosen);
          }}
        />
      </Flex>
      {told && (
        <Text role="alert" color="clay" mb="1">
          {told}
        </Text>
      )}
      {!set && !told && <Text color="ink2">Reading …</Text>}
      {set && items.length === 0 && (
        <Text color="ink2">
          {from === "mine" ? "Nothing is kept yet. “Keep in my library” beside a thing keeps it for the next project." : "There is nothing of this kind there."}
        </Text>
      )}
      {items.length > 0 && (
        <Box>
          <Find key={`${from} ${part}`} label={`${many} to take in`} items={items} onChoose={take} height="calc(100dvh - 330px)" />
          <Text color="ink2" fontSize="11.5px" mt="1.5">
            Chosen, it becomes the project’s own with all it depends on; what is there already is used. Shipped things: nothing from a maker; what could not be
            checked says “typical, unverified”.
          </Text>
        </Box>
      )}
      {from === "mine" && items.length > 0 && (
        <Flex gap="3" mt="2" wrap="wrap" align="baseline">
          <Text color="ink2">Take out of my library:</Text>
          {items.map((i) => (
            <Act key={i.key} onClick={() => void drop(part, i.key).then(setTold)}>
              {i.name}
            </Act>
          ))}
        </Flex>
      )}
    </>
  );
}
