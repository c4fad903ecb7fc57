"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useRef, useState } from "react";
import {
  freeId,
  packDifference,
  packFault,
  packsOf,
  packs as shipped,
  parsePack,
  readJson,
  readValueFile,
  setChange,
  submissionOf,
  type Pack,
  type Project,
} from "@arroyo/core";
import { Act, firstMessage, Head, NumberInput, Row, TextInput } from "../../ui/fields.tsx";
import { Actions } from "../../ui/Actions.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { saveBlob } from "../../ui/saveCsv.ts";
import { useStore } from "../store.ts";
import { inputChange, useSubmitting } from "./useCompliance.ts";

const copyOf = (pack: Pack): Pack => JSON.parse(JSON.stringify(pack)) as Pack;
/** The next version after one such as 2.0 or 3. */
const nextVersion = (v: string): string => v.replace(/\d+$/, (n) => String(Number(n) + 1));

/** Codes and ratings at hand: those that ship are copied, those made here are changed; what a new version would change is told before it is taken. */
export function PackDesk({ zone }: { zone: string | null }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const { input } = useSubmitting();
  const all = packsOf(project);
  const [chosen, setChosen] = useState<string | null>(null);
  const id = chosen !== null && all[chosen] ? chosen : input.pack;
  const pack = all[id] ?? Object.values(all)[0];
  const own = Object.hasOwn(project.packs ?? {}, pack.id);
  const [said, setSaid] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const store = (name: string, next: Pack): string | null => {
    const outcome = parsePack(next);
    if (!outcome.ok) return `${outcome.problems[0].path}: ${outcome.problems[0].message}`;
    const at = project.packs ? [setChange(project, ["packs", next.id], next)] : [setChange(project, ["packs"], { [next.id]: next })];
    return firstMessage(edit(name, at));
  };
  const copy = (): void => {
    const next: Pack = { ...copyOf(pack), id: freeId(all, `${pack.id.slice(0, 40)}_copy`), name: `${pack.name}, copy`, version: "1.0" };
    setSaid(store(`Copy of ${pack.name}`, next));
    setChosen(next.id);
  };
  const take = async (f: File | undefined): Promise<void> => {
    if (!f) return;
    const json = readJson(await f.text());
    if (!json.ok) return setSaid(`${f.name}: ${json.message}`);
    const outcome = parsePack(json.value);
    if (!outcome.ok) return setSaid(`${f.name}: ${outcome.problems.map((p) => `${p.path}: ${p.message}`).join(" ")}`);
    const named = Object.hasOwn(shipped, outcome.pack.id) ? { ...outcome.pack, id: freeId(all, outcome.pack.id) } : outcome.pack;
    setSaid(store(`Pack ${named.name}`, named));
    setChosen(named.id);
  };
  return (
    <>
      <Flex align="baseline" gap="3" mb="2" wrap="wrap">
        <Text as="h2" textStyle="title">
          Rule packs
        </Text>
        <Act onClick={copy}>Copy of the one below</Act>
        <Act onClick={() => file.current?.click()}>Read from a JSON file</Act>
        <input ref={file} type="file" accept="application/json,.json" hidden aria-label="Pack file" onChange={(e) => void take(e.target.files?.[0])} />
        {said && (
          <Text role="alert" color="clay">
            {said}
          </Text>
        )}
      </Flex>
      <Grid
        label="Rule packs"
        head={["Pack", "Jurisdiction", "Version", "Measure", "Made"].map((text) => ({ text, left: true }))}
        rows={Object.values(all).map((p) => ({
          key: p.id,
          active: p.id === pack.id,
          onClick: () => setChosen(p.id),
          cells: [
            <b key="n" style={{ fontWeight: p.id === input.pack ? 600 : 400 }}>
              {p.name}, {p.edition}
              {p.id === input.pack ? " · in use" : ""}
            </b>,
            p.jurisdiction,
            p.version,
            p.performance.measure,
            Object.hasOwn(project.packs ?? {}, p.id) ? "here" : "ships",
          ],
        }))}
      />
      <Flex align="baseline" gap="4" mt="4">
        <Text as="h3" textStyle="title">
          {pack.name}
        </Text>
        {pack.id !== input.pack && (
          <Act onClick={() => edit(`Code or rating: ${pack.name}`, [inputChange(project, { pack: pack.id, uses: undefined, spaceUses: undefined })])}>
            Use it for this project
          </Act>
        )}
        <Act onClick={() => saveBlob(`${pack.id}.json`, new Blob([JSON.stringify(pack, null, 2)], { type: "application/json" }))}>Save as JSON</Act>
        {own && (
          <Actions
            label={pack.name}
            actions={{
              remove: {
                label: `Remove ${pack.name}`,
                run: () =>
                  void edit(`${pack.name} removed`, [
                    { op: "remove", path: ["packs", pack.id], old: pack },
                    ...(input.pack === pack.id ? [inputChange(project, { pack: "plateau" })] : []),
                  ]),
              },
            }}
          />
        )}
      </Flex>
      {packFault(pack) !== null && (
        <Text role="alert" color="clay">
          {packFault(pack)}
        </Text>
      )}
      {!own && <Text color="ink2">It ships and is read only: copy it to change a limit or to add a use.</Text>}
      <PackTables pack={pack} own={own} store={store} />
      <Difference pack={pack} zone={zone} />
    </>
  );
}

const hourlyWords = (pack: Pack): string =>
  pack.performance.hourly
    ? `by hourly value: ${pack.performance.hourly.map((h) => `${h.name} (zones ${h.zones.join(", ")})`).join("; ")}`
    : "none: rated by yearly factors";

/** Factors of 8,760 hours by fuel and climate zone, from a CSV: the pack then rates by hourly value. */
function HourlyFile({ pack, change }: { pack: Pack; change: (name: string, work: (p: Pack) => void) => string | null }) {
  const input = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<string | null>(null);
  const take = async (f: File | undefined): Promise<void> => {
    if (!f) return;
    const read = readValueFile(await f.text());
    if (typeof read === "string") return setSaid(`${f.name}: ${read}`);
    const all = Object.keys(pack.climateZones);
    const rows = Object.entries(read).map(([zone, byFuel]) => ({
      zones: zone === "" ? all : all.filter((z) => z === zone || z === zone.replace(/[A-C]$/, "")),
      byFuel,
    }));
    const lost = Object.keys(read).find((_, i) => rows[i].zones.length === 0);
    if (lost !== undefined) return setSaid(`${f.name}: this pack has no climate zone ${lost}; it has ${all.join(", ")}.`);
    setSaid(
      change("Hourly factors", (p) => {
        p.performance.measure = "hourly value";
        p.performance.hourly = rows.map((r) => ({
          zones: r.zones,
          name: f.name.slice(0, 200),
          unit: "kWh",
          clause: p.performance.clause,
          byFuel: Object.fromEntries(Object.entries(r.byFuel).map(([fuel, v]) => [fuel, [...v]])),
        }));
      }),
    );
  };
  return (
    <>
      <Act title="A header of fuels, each with a climate zone or none, and 8,760 rows" onClick={() => input.current?.click()}>
        Read from a CSV
      </Act>
      <input ref={input} type="file" accept=".csv,text/csv" hidden aria-label="Hourly factors file" onChange={(e) => void take(e.target.files?.[0])} />
      {said && (
        <Text role="alert" color="clay" fontSize="12px">
          {said}
        </Text>
      )}
    </>
  );
}

const LIMITS = [
  ["exteriorWall", "Outside walls, U"],
  ["roof", "Roofs, U"],
  ["groundFloor", "Ground floors, U"],
  ["exposedFloor", "Floors over air, U"],
] as const;

/** Limits by climate zone and the uses, typed where the pack is one's own; each edit makes a new version. */
function PackTables({ pack, own, store }: { pack: Pack; own: boolean; store: (name: string, next: Pack) => string | null }) {
  const zones = Object.keys(pack.climateZones);
  const change = (name: string, work: (p: Pack) => void): string | null => {
    const next = copyOf(pack);
    work(next);
    next.version = nextVersion(pack.version);
    return store(name, next);
  };
  const cell = (label: string, value: number, set: (p: Pack, v: number) => void) =>
    own ? (
      <NumberInput key={label} label={label} width="64px" value={value} digits={2} onCommit={(v) => change(label, (p) => set(p, v))} />
    ) : (
      <span key={label}>{value}</span>
    );
  return (
    <>
      {own && (
        <>
          <Row label="Name">
            <TextInput label="Name of the pack" width="300px" value={pack.name} onCommit={(t) => change("Name of the pack", (p) => void (p.name = t))} />
          </Row>
          <Row label="Hourly factors" note={hourlyWords(pack)}>
            <HourlyFile pack={pack} change={change} />
          </Row>
          <Row label="Version" note="each change makes the next one">
            <TextInput label="Version" width="80px" value={pack.version} onCommit={(t) => store("Version", { ...copyOf(pack), version: t })} />
          </Row>
        </>
      )}
      <Head>Limits by climate zone</Head>
      <Grid
        label="Limits by climate zone"
        head={[{ text: "Limit", left: true }, ...zones.map((z) => ({ text: `zone ${z}` })), { text: "Unit", left: true }, { text: "Clause", left: true }]}
        rows={[
          ...LIMITS.map(([part, words]) => ({
            key: part,
            cells: [
              words,
              ...zones.map((z) => cell(`${words}, zone ${z}`, pack.climateZones[z].u[part].value, (p, v) => void (p.climateZones[z].u[part].value = v))),
              "W/m²K",
              `§ ${pack.climateZones[zones[0]].u[part].clause}${pack.climateZones[zones[0]].u[part].unverified ? " *" : ""}`,
            ],
          })),
          ...(["glazingU", "glazingG"] as const).map((part) => ({
            key: part,
            cells: [
              part === "glazingU" ? "Glazing, U" : "Glazing, g",
              ...zones.map((z) =>
                cell(
                  `${part === "glazingU" ? "Glazing, U" : "Glazing, g"}, zone ${z}`,
                  pack.climateZones[z][part].value,
                  (p, v) => void (p.climateZones[z][part].value = v),
                ),
              ),
              part === "glazingU" ? "W/m²K" : "1",
              `§ ${pack.climateZones[zones[0]][part].clause}${pack.climateZones[zones[0]][part].unverified ? " *" : ""}`,
            ],
          })),
          ...Object.entries(pack.values)
            .filter(([, v]) => v.byZone !== undefined)
            .map(([name, v]) => ({
              key: name,
              cells: [
                v.label,
                ...zones.map((z) =>
                  cell(`${v.label}, zone ${z}`, v.byZone?.[z] ?? 0, (p, n) => void ((p.values[name].byZone as Record<string, number>)[z] = n)),
                ),
                v.unit,
                `§ ${v.clause}${v.unverified ? " *" : ""}`,
              ],
            })),
        ]}
      />
      <Flex align="baseline" gap="3">
        <Head>Uses</Head>
        {own && (
          <Act
            onClick={() =>
              change("A use added", (p) => {
                const other = p.uses.find((u) => u.words.length === 0) as Pack["uses"][number];
                const id = freeId(Object.fromEntries(p.uses.map((u) => [u.id, u])), "new_use");
                p.uses.unshift({ ...copyOfUse(other), id, name: "new use", words: ["new use"] });
              })
            }
          >
            Add a use
          </Act>
        )}
      </Flex>
      <Grid
        label="Uses of the pack"
        head={[
          { text: "Use", left: true },
          { text: "Words that suggest it", left: true },
          { text: "Lighting", unit: "W/m²" },
          { text: "Equipment", unit: "W/m²" },
          { text: "Outdoor air", unit: "L/s per person" },
          { text: "and", unit: "L/s·m²" },
        ]}
        rows={pack.uses.map((u, i) => ({
          key: u.id,
          cells: [
            own ? (
              <TextInput
                key="n"
                label={`Name of the use ${u.name}`}
                align="left"
                width="180px"
                value={u.name}
                onCommit={(t) => change("Name of a use", (p) => void (p.uses[i].name = t))}
              />
            ) : (
              u.name
            ),
            own && u.words.length > 0 ? (
              <TextInput
                key="w"
                label={`Words of ${u.name}`}
                align="left"
                width="230px"
                value={u.words.join(", ")}
                onCommit={(t) =>
                  change(
                    "Words of a use",
                    (p) =>
                      void (p.uses[i].words = t
                        .split(",")
                        .map((x) => x.trim().toLowerCase())
                        .filter((x) => x !== "")),
                  )
                }
              />
            ) : (
              u.words.join(", ") || "all others"
            ),
            cell(`Lighting of ${u.name}`, u.lighting.value, (p, v) => void (p.uses[i].lighting.value = v)),
            cell(`Equipment of ${u.name}`, u.appliances.value, (p, v) => void (p.uses[i].appliances.value = v)),
            u.outdoorAirPerPerson
              ? cell(
                  `Outdoor air per person of ${u.name}`,
                  u.outdoorAirPerPerson.value,
                  (p, v) => void ((p.uses[i].outdoorAirPerPerson as { value: number }).value = v),
                )
              : "—",
            u.outdoorAirPerArea
              ? cell(
                  `Outdoor air per area of ${u.name}`,
                  u.outdoorAirPerArea.value,
                  (p, v) => void ((p.uses[i].outdoorAirPerArea as { value: number }).value = v),
                )
              : "—",
          ],
        }))}
      />
      <Head>Map of systems of the reference building</Head>
      <Grid
        label="Map of systems"
        head={["System", "Where", "Each", "Clause"].map((text) => ({ text, left: true }))}
        rows={pack.reference.systems.map((r) => ({
          key: r.id,
          cells: [r.name, r.when ?? "everywhere else", r.per, `§ ${r.clause}${r.unverified ? " *" : ""}`],
        }))}
      />
      <Text color="ink2" fontSize="12px" mt="1">
        * to be checked against the document it is cited from. Checks, formulas and the map are changed in the JSON file and read again.
      </Text>
    </>
  );
}
const copyOfUse = (u: Pack["uses"][number]): Pack["uses"][number] => JSON.parse(JSON.stringify(u)) as Pack["uses"][number];

/** What a pack would change in this project against the one in use. */
function Difference({ pack, zone }: { pack: Pack; zone: string | null }) {
  const project = useStore((s) => s.project) as Project;
  const { input } = useSubmitting();
  const rows = useMemo(() => {
    if (pack.id === input.pack || zone === null || packFault(pack) !== null) return null;
    const of = (p: Partial<Parameters<typeof submissionOf>[2]>) => submissionOf(project, null, { climateZone: zone, ...p });
    const [now, then] = [of({}), of({ pack: pack.id, uses: {}, spaceUses: {} })];
    if (!now.ok || !then.ok) return null;
    try {
      return packDifference(project, now.submission, then.submission);
    } catch (error) {
      // a formula of the pack that gives no number is told in its place
      if (error instanceof RangeError) return error.message;
      throw error;
    }
  }, [project, pack, input.pack, zone]);
  if (rows === null) return null;
  if (typeof rows === "string")
    return (
      <Text role="alert" color="clay" mt="4">
        {rows}
      </Text>
    );
  return (
    <Box mt="4">
      <Head>What it would change in this project, against the pack in use · {String(rows.length)}</Head>
      <Grid
        label="What the pack would change"
        head={["Of", "With the pack in use", "With this one"].map((text) => ({ text, left: true }))}
        rows={rows.slice(0, 200).map((r) => ({ key: r.id, cells: [r.subject, r.before, r.after] }))}
      />
      {rows.length > 200 && <Text color="ink2">and {rows.length - 200} more.</Text>}
    </Box>
  );
}
