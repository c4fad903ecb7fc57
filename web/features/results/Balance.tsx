"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useRouter, usePathname, useSearchParams } from "next/navigation";
import { useMemo, useState } from "react";
import { groupsOf, zoneWeights, flowNames, sunDirections, waterNames, type FlowName, type Project, type Summary, type WaterName } from "@arroyo/core";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { flowColour, flowLabel, mergedFlows } from "../../ui/colours.ts";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { figure, monthNames, sum } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useHidden } from "../../ui/useHidden.ts";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { csvOf, MonthStack, type Stack } from "./MonthlyCharts.tsx";

/** Roles of faces behind a flow of conduction. */
const ROLES: Partial<Record<FlowName, readonly string[]>> = {
  walls: ["walls"],
  roof: ["roof"],
  ground: ["ground floor", "walls to ground"],
  exposedFloor: ["exposed floor"],
  doors: ["doors"],
  glass: ["glass"],
  glassSun: ["glass"],
  partitions: ["neighbours"],
};

/** Heat into all zones or into one by month, gains above the line and losses below, down to the single face. */
export function Balance({ summary, source, spaceNames }: { summary: Summary; source: string; spaceNames: (key: string) => string }) {
  const units = useUnits();
  const query = useSearchParams();
  const router = useRouter();
  const path = usePathname();
  const [hidden, toggle, setHidden] = useHidden();
  const [apart, setApart] = useState(false);
  const [open, setOpen] = useState<FlowName | null>(null);
  const project = useStore((s) => s.project) as Project;
  const asked = query.get("of") ?? "";
  const of = summary.zones.find((z) => z.id === asked) ?? null;
  const group = of ? null : (groupsOf(project).find((g) => `group:${g.id}` === asked) ?? null);
  const members = of ? [of] : group ? summary.zones.filter((z) => group.zones.includes(z.id)) : summary.zones;
  const weights = useMemo(() => zoneWeights(project), [project]);
  const times = (id: string): number => (of ? 1 : (weights.get(id)?.times ?? 1));
  const flows =
    of?.flows ??
    (group
      ? (Object.fromEntries(flowNames.map((f) => [f, monthNames.map((_, m) => sum(members.map((z) => times(z.id) * z.flows[f][m])))])) as Summary["flows"])
      : summary.flows);
  const title = of ? of.name : group ? group.group.name : "Whole building";
  const year = (f: FlowName): number => sum(flows[f]) / 1000;
  const present = flowNames.filter((f) => flows[f].some((v) => Math.abs(v) > 1e-6));
  const stacks: readonly (Stack & { readonly of: readonly FlowName[] })[] = (
    apart ? present.map((f) => ({ key: f, label: flowLabel[f], colour: flowColour[f], of: [f] as readonly FlowName[] })) : mergedFlows
  ).filter((s) => s.of.some((f) => present.includes(f)));
  const rows = monthNames.map(
    (month, m) => ({ month, ...Object.fromEntries(stacks.map((s) => [s.key, sum(s.of.map((f) => flows[f][m])) / 1000])) }) as Record<string, number | string>,
  );
  const choose = (id: string): void => {
    const next = new URLSearchParams(query.toString());
    if (id === "") next.delete("of");
    else next.set("of", id);
    setOpen(null);
    router.replace(`${path}?${next.toString()}`);
  };
  const whole = sum(present.map(year));
  const gross = sum(present.map((f) => Math.abs(year(f))));
  return (
    <>
      <Flex align="center" gap="3" mb="1">
        <SelectInput
          label="Zone whose heat is shown"
          align="left"
          width="220px"
          value={of?.id ?? ""}
          options={[
            { value: "", label: "Whole building" },
            ...groupsOf(project).map((g) => ({ value: `group:${g.id}`, label: `${g.group.name} (${g.zones.length} zone${g.zones.length === 1 ? "" : "s"})` })),
            ...summary.zones.map((z) => ({ value: z.id, label: z.name })),
          ]}
          onChange={choose}
        />
        <Act onClick={() => setApart(!apart)}>{apart ? "merge like flows" : "show every flow apart"}</Act>
        <Act onClick={() => setHidden(hidden.size > 0 ? [] : stacks.map((s) => s.key))}>{hidden.size > 0 ? "all flows" : "no flow: choose some"}</Act>
      </Flex>
      <ChartFrame
        title="Gains and losses"
        unit={`${units.unit("MWh")} a month, into ${of || group ? title : "the zones"} above the line · ${source}`}
        legend={stacks.map((s) => ({ ...s, hatched: s.key === "heating" }))}
        hidden={hidden}
        onToggle={toggle}
        csv={() => csvOf(rows, stacks, units)}
      >
        <MonthStack rows={rows} stacks={stacks} hidden={hidden} height={236} signed />
      </ChartFrame>
      <Discomfort zones={members} weight={(id) => (weights.get(id)?.area ?? 0) * (weights.get(id)?.times ?? 1)} name={title} />
      <Flex gap="6" mt="2" align="flex-start">
        <Box flex="1" minW="0">
          <Grid
            label="Energy balance of the year by kind"
            head={[
              { text: title, left: true },
              { text: "Year", unit: units.unit("MWh") },
              { text: "Largest month", unit: units.unit("MWh") },
              { text: "", left: true },
            ]}
            rows={[
              ...present.map((f) => {
                const month = flows[f].reduce((best, v, m) => (Math.abs(v) > Math.abs(flows[f][best]) ? m : best), 0);
                const opens = f === "sun" || (ROLES[f] !== undefined && of !== null);
                return {
                  key: f,
                  active: open === f,
                  ...(opens ? { onClick: () => setOpen(open === f ? null : f) } : {}),
                  cells: [
                    flowLabel[f],
                    units.text(year(f), "MWh", 2),
                    `${units.text(flows[f][month] / 1000, "MWh", 2)} ${monthNames[month]}`,
                    opens ? (f === "sun" ? "by direction ›" : "by face ›") : "",
                  ],
                };
              }),
              {
                key: "all",
                cells: [
                  <b key="a">adds up to</b>,
                  <b key="s" data-testid="flows-sum">
                    {units.text(Math.abs(whole) < 1e-6 * gross ? 0 : whole, "MWh", 2)}
                  </b>,
                  "",
                  "",
                ],
              },
            ]}
          />
        </Box>
        <Box w="330px" flexShrink={0}>
          {open === "sun" ? (
            <ByDirection summary={summary} zone={of?.id ?? null} />
          ) : open && of ? (
            <ByFace summary={summary} zone={of.id} flow={open} names={spaceNames} />
          ) : (
            <Text color="ink2" mt="1">
              {of
                ? "Open a line to see the faces or directions that make it."
                : "Choose a zone to open its walls, roof, floor and glass face by face; sun opens by direction."}
            </Text>
          )}
          {!group && <Moisture water={of?.water ?? summary.water} name={title} />}
        </Box>
      </Flex>
    </>
  );
}

const waterLabel: Record<WaterName, string> = {
  people: "People",
  appliances: "Appliances",
  infiltration: "Infiltration",
  outdoorAir: "Outdoor air",
  supplyAir: "Supply air of systems",
  openedAir: "Windows, night ventilation, free cooling",
  betweenZones: "Air between zones",
  humidification: "Humidification",
  dehumidification: "Dehumidification",
  condensation: "Condensation",
  storage: "Stored",
};

/** Hours of discomfort by month, of several zones their mean by floor area, with the worst of them. */
function Discomfort({ zones, weight, name }: { zones: readonly Summary["zones"][number][]; weight: (id: string) => number; name: string }) {
  const peopled = zones.filter((z) => z.comfort?.discomfort);
  const area = sum(peopled.map((z) => weight(z.id)));
  if (peopled.length === 0 || area <= 0) return null;
  const month = (kind: "cold" | "warm", m: number): number => sum(peopled.map((z) => (weight(z.id) / area) * (z.comfort?.discomfort?.[kind][m] ?? 0)));
  const rows = (["cold", "warm"] as const).map((kind) => ({ kind, months: monthNames.map((_, m) => month(kind, m)) }));
  const hours = (z: Summary["zones"][number]): number => sum([...(z.comfort?.discomfort?.cold ?? []), ...(z.comfort?.discomfort?.warm ?? [])]);
  const [worst] = [...peopled].sort((a, b) => hours(b) - hours(a));
  return (
    <Box mt="1">
      <Grid
        label="Hours of discomfort by month"
        head={[{ text: `Hours of discomfort, ${name}`, left: true }, ...monthNames.map((m) => ({ text: m })), { text: "Year", unit: "h" }]}
        rows={rows.map((r) => ({
          key: r.kind,
          cells: [
            r.kind === "cold" ? "too cold, vote below −0.5" : "too warm, vote above +0.5",
            ...r.months.map((v) => (v === 0 ? "" : figure(v, 0))),
            figure(sum(r.months), 0),
          ],
        }))}
      />
      <Text color="ink2" fontSize="11.5px">
        hours with people (EN 16798-1, category II)
        {peopled.length > 1 && worst ? `; mean of ${peopled.length} zones by floor area, most in ${worst.name}: ${figure(hours(worst), 0)} h` : ""}
      </Text>
    </Box>
  );
}

/** Moisture balance of the air over the year: what comes in and what goes out adds up to nothing. */
function Moisture({ water, name }: { water: Summary["water"]; name: string }) {
  const units = useUnits();
  const rows = waterNames.map((w) => ({ w, year: sum(water[w]) })).filter((r) => Math.abs(r.year) >= 0.5);
  if (rows.length === 0) return null;
  return (
    <Box mt="4">
      <Grid
        label="Moisture balance"
        head={[
          { text: `Moisture balance, ${name}`, left: true },
          { text: "Year", unit: units.unit("kg") },
        ]}
        rows={rows.map((r) => ({ key: r.w, cells: [waterLabel[r.w], units.text(r.year, "kg", 0)] }))}
      />
    </Box>
  );
}

/** Sun through glass that stays, by the direction the glass faces. */
function ByDirection({ summary, zone }: { summary: Summary; zone: string | null }) {
  const units = useUnits();
  const zones = zone === null ? summary.zones : summary.zones.filter((z) => z.id === zone);
  const rows = sunDirections.map((d) => ({ d, year: sum(zones.map((z) => sum(z.sun[d]))) })).filter((r) => r.year > 0.05);
  return (
    <Grid
      label="Sun by direction"
      head={[
        { text: "Sun through glass", left: true },
        { text: "Year", unit: units.unit("kWh") },
      ]}
      rows={[
        ...rows.map((r) => ({ key: r.d, cells: [r.d === "above" ? "from above" : `glass to the ${r.d}`, units.text(r.year, "kWh", 0)] })),
        { key: "sum", cells: [<b key="s">all</b>, <b key="v">{units.text(sum(rows.map((r) => r.year)), "kWh", 0)}</b>] },
      ]}
    />
  );
}

/** Faces of one zone behind a flow, the largest first. */
function ByFace({ summary, zone, flow, names }: { summary: Summary; zone: string; flow: FlowName; names: (key: string) => string }) {
  const units = useUnits();
  const faces = summary.faces
    .filter((f) => f.zone === zone && ROLES[flow]?.includes(f.role))
    .map((f) => ({ ...f, year: sum(f.monthly) }))
    .sort((a, b) => Math.abs(b.year) - Math.abs(a.year));
  return (
    <>
      <Grid
        label={`Faces: ${flowLabel[flow]}`}
        head={[
          { text: flowLabel[flow], left: true },
          { text: "Area", unit: units.unit("m²") },
          { text: "Year", unit: units.unit("kWh") },
        ]}
        rows={faces.slice(0, 14).map((f) => ({ key: `${f.key} ${f.year}`, cells: [names(f.key), units.text(f.area, "m²", 1), units.text(f.year, "kWh", 0)] }))}
      />
      {faces.length > 14 && <Text color="ink2">and {faces.length - 14} smaller ones</Text>}
      {(flow === "glass" || flow === "glassSun") && <Text color="ink2">Of glass: conduction and inward heat of absorbed sun together.</Text>}
    </>
  );
}
