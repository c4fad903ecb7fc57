"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  canonicalJson,
  convert,
  effective,
  fieldSpec,
  freezeChanges,
  ruledComponents,
  loadComponents,
  setChange,
  SIZED,
  sizingHash,
  unsetChange,
  type LoadComponent,
  type Peak,
  type Project,
  type Sizing,
} from "@arroyo/core";
import type { ToSizing } from "../../live/sizing.ts";
import { useFound, type Found } from "../../live/useFound.ts";
import { Act, Quantity, Row, SelectInput, Unit } from "../../ui/fields.tsx";
import { monthNames } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

/** Peaks of the project as it is, found again after every edit; the last ones stay until the new ones are there. */
function useSizing(project: Project): Found<Sizing> {
  return useFound<Sizing>(
    `${sizingHash(project)} ${Object.keys(project.zones)
      .map((z) => (["heatingFactor", "coolingFactor"] as const).map((f) => effective(project, "zone", z, f).value).join(" "))
      .join(" ")} ${canonicalJson([project.sizingDays ?? {}, project.airSystems, project.loops, Object.values(project.zones).map((z) => z.equipment ?? [])])}`,
    project,
    () => new Worker(new URL("../../live/sizing.ts", import.meta.url), { type: "module" }),
    (stored): ToSizing => ({ project, stored }),
  );
}

/** Found peaks beside typed capacities, zone by zone, and the components of one of them. */
export function SizingTable() {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const { result: sizing, current, message } = useSizing(project);
  const [shown, setShown] = useState<{ zone: string | null; load: "heating" | "cooling" }>({ zone: null, load: "cooling" });
  if (!sizing)
    return <Box h="300px">{message ? <Text color="clay">{message}</Text> : <Text color="ink2">Finding the design days and their peaks …</Text>}</Box>;
  const capacity = (zone: string, field: "heatingCapacity" | "coolingCapacity", peak: number, sized: Sizing["zones"][number]["heatingCapacity"]) => {
    const { value } = effective(project, "zone", zone, field);
    const path = ["zones", zone, "inputs", field];
    const own = project.zones[zone].inputs[field];
    const { name } = project.zones[zone];
    if (value === SIZED)
      return (
        <Act
          title={`By sizing: ${sized.recovery !== null && sized.power === sized.recovery ? "what recovery from setback asks for" : `the peak times ${sized.factor}`}. Type another capacity for ${name}`}
          onClick={() => edit(`${name}: capacity typed`, [setChange(project, path, Math.ceil(sized.power / 100) * 100)])}
        >
          {sized.power > 0 ? `${units.text(sized.power / 1000, "kW", 1)} ⌁` : "—"}
        </Act>
      );
    const typed = value as number | null;
    const short = typed !== null && typed < peak - 1;
    return (
      <Flex as="span" display="inline-flex" align="center" gap="1" color={short ? "clay" : undefined}>
        {short && <span title="Less than the design day needs">!</span>}
        {typed === null ? (
          <Text as="span">unlimited</Text>
        ) : (
          <Quantity
            bare
            label={`${field === "heatingCapacity" ? "Heating" : "Cooling"} capacity of ${name}`}
            width="52px"
            value={typed}
            unit="W"
            shown="kW"
            digits={1}
            onCommit={(v) => edit(`${name}: capacity ${units.words(v / 1000, "kW", 1)}`, [setChange(project, path, v)])}
          />
        )}
        {own !== undefined && (
          <Act title="Back to sizing" onClick={() => edit(`${name}: capacity by sizing`, [{ op: "unset", path, old: own }])}>
            ×
          </Act>
        )}
      </Flex>
    );
  };
  /** Zones with equipment have their capacities there. */
  const served = (id: string) =>
    (project.zones[id].equipment ?? []).length === 0 ? null : (
      <Text as="span" color="ink2" title="Capacities are those of its equipment, below">
        equipment
      </Text>
    );
  /** The factor of one load: of the zone that is chosen, else of all. */
  const factor = (field: "heatingFactor" | "coolingFactor") => {
    const ids = (shown.zone === null ? Object.keys(project.zones) : [shown.zone]).filter((z) => project.zones[z]);
    const values = new Set(ids.map((z) => effective(project, "zone", z, field).value as number));
    const label = field === "heatingFactor" ? "Factor, heating" : "Factor, cooling";
    return (
      <Row label={label} title={fieldSpec("zone", field).help} note={values.size > 1 ? "differs by zone; typing sets all of them" : undefined}>
        <Quantity
          label={label}
          value={values.size === 1 ? [...values][0] : null}
          unit="1"
          digits={2}
          onCommit={(v) =>
            edit(
              `${label} ${v}`,
              ids.map((z) => setChange(project, ["zones", z, "inputs", field], v)),
            )
          }
        />
      </Row>
    );
  };
  const when = (peak: Peak) => {
    const day = sizing.days.find((d) => d.id === peak.day);
    return day ? <span title={day.name}>{`${Number(day.date.slice(3))} ${monthNames[Number(day.date.slice(0, 2)) - 1]} ${peak.at ?? ""}`}</span> : "—";
  };
  /** Design day a capacity is sized by. */
  const dayOf = (address: string, load: "heating" | "cooling", thing: string) => (
    <DayChoice address={address} thing={thing} days={sizing.days.filter((d) => d.for === load)} />
  );
  const zone = shown.zone === null ? null : (sizing.zones.find((z) => z.id === shown.zone) ?? null);
  const peak = (zone ?? sizing.building)[shown.load];
  return (
    <Box {...(current ? {} : { color: "ink2", fontStyle: "italic" })}>
      <Text as="h2" textStyle="title">
        Peaks of design days
      </Text>
      <Text color="ink2" mb="1">
        The worst of {sizing.days.length} design days, chosen on Place, at held set-points: heating without sun or gains, cooling under a clear sky; each
        repeated until cyclic. Sized capacities (⌁) are the peak times the factor.{" "}
        {sizing.days.map((d) => `${d.name} ${units.words(d.highest, "°C", 1)}`).join(" · ")}
      </Text>
      {sizing.warnings.map((w) => (
        <Text key={w} color="clay" mb="1">
          {w}
        </Text>
      ))}
      <Flex gap="5" align="flex-start">
        <Box flex="1">
          <Grid
            label="Peaks of design days"
            head={[
              { text: "Zone", left: true },
              { text: "Heating", unit: units.unit("kW") },
              { text: "Capacity", unit: units.unit("kW") },
              { text: "Cooling", unit: units.unit("kW") },
              { text: "Latent", unit: units.unit("kW") },
              { text: "at" },
              { text: "Capacity", unit: units.unit("kW") },
            ]}
            rows={[
              ...sizing.zones
                .filter((z) => project.zones[z.id])
                .map((z) => ({
                  key: z.id,
                  active: shown.zone === z.id,
                  onClick: () => setShown({ ...shown, zone: z.id }),
                  cells: [
                    z.name,
                    units.text(z.heating.power / 1000, "kW", 1),
                    served(z.id) ?? capacity(z.id, "heatingCapacity", z.heating.power, z.heatingCapacity),
                    units.text(z.cooling.power / 1000, "kW", 1),
                    units.text(z.cooling.latent / 1000, "kW", 1),
                    when(z.cooling),
                    served(z.id) ?? capacity(z.id, "coolingCapacity", z.cooling.power, z.coolingCapacity),
                  ],
                })),
              {
                key: "building",
                active: shown.zone === null,
                onClick: () => setShown({ ...shown, zone: null }),
                cells: [
                  <b key="b">Building, at one time</b>,
                  <b key="h">{units.text(sizing.building.heating.power / 1000, "kW", 1)}</b>,
                  "",
                  <b key="c">{units.text(sizing.building.cooling.power / 1000, "kW", 1)}</b>,
                  units.text(sizing.building.cooling.latent / 1000, "kW", 1),
                  when(sizing.building.cooling),
                  "",
                ],
              },
            ]}
          />
        </Box>
        <Box w="212px" flexShrink={0}>
          <Text fontWeight="600">{zone ? zone.name : "Building"}</Text>
          <Flex gap="3" mb="1">
            {(["heating", "cooling"] as const).map((load) => (
              <Act key={load} onClick={() => setShown({ ...shown, load })}>
                <Text as="span" fontWeight={shown.load === load ? "600" : "400"} textDecoration={shown.load === load ? "underline" : "none"}>
                  {load}
                </Text>
              </Act>
            ))}
            <Text color="ink2" ml="auto">
              {units.unit("kW")} at {when(peak)}
            </Text>
          </Flex>
          <Components components={peak.components} />
          <Box mt="3">
            {zone && (project.zones[zone.id]?.equipment ?? []).length === 0 && (
              <Row label="Sized by">{dayOf(`zones/${zone.id}/inputs/${shown.load}Capacity`, shown.load, `${zone.name}, ${shown.load}`)}</Row>
            )}
            {factor("heatingFactor")}
            {factor("coolingFactor")}
            {zone && zone.heatingCapacity.recovery !== null && (
              <Row label="For recovery" note="least heating that brings it back to its set-point in time">
                {units.text(zone.heatingCapacity.recovery / 1000, "kW", 1)}
                <Unit>{units.unit("kW")}</Unit>
              </Row>
            )}
            {zone?.supplyAir && (
              <Row label="Supply air at the peak" note={`at ${units.words(zone.supplyAir.temperature, "°C", 1)} off the coil`}>
                {units.text(zone.supplyAir.flow * 1000, "L/s", 0)}
                <Unit>{units.unit("L/s")}</Unit>
              </Row>
            )}
          </Box>
        </Box>
      </Flex>
      <ComponentSizes sizing={sizing} />
    </Box>
  );
}

/** Sizes of systems, equipment and plant: what sizing found, by which day and hour, and what a load is made of. */
function ComponentSizes({ sizing }: { sizing: Sizing }) {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const [open, setOpen] = useState<string | null>(null);
  if (sizing.components.length === 0) return null;
  const shown = (c: Sizing["components"][number], v: number): string => {
    const flow = !c.field.toLowerCase().includes("capacity");
    return flow ? units.words(convert(v, "m³/s", "L/s"), "L/s", v < 0.01 ? 2 : 0) : units.words(v / 1000, "kW", 1);
  };
  const row = sizing.components.find((c) => c.address === open);
  const { given } = ruledComponents(project);
  return (
    <Box mt="5">
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          Systems, equipment and plant
        </Text>
        <Text color="ink2">found by the design days, beside what is typed in its place; a row opens into what its load is made of</Text>
        <Box ml="auto">
          <Act
            title="Types every size, so that it no longer follows"
            onClick={() =>
              edit(
                "All sizes frozen",
                freezeChanges(project, Object.fromEntries(sizing.components.filter((c) => c.typed === null).map((c) => [c.address, c.value]))),
              )
            }
          >
            freeze all
          </Act>
        </Box>
      </Flex>
      {row && row.typed === null && (
        <Flex gap="2" align="center" mt="1">
          <Text>
            {row.component} of {row.of}, sized by
          </Text>
          <DayChoice address={row.address} thing={`${row.component} of ${row.of}`} days={sizing.days} />
        </Flex>
      )}
      {row && Object.keys(row.parts).length > 0 && row.field.toLowerCase().includes("capacity") && (
        <Text color="ink2" mt="1">
          {row.component} of {row.of}:{" "}
          {Object.entries(row.parts)
            .map(([name, w]) => `${name} ${units.words(w / 1000, "kW", 1)}`)
            .join(" · ")}
        </Text>
      )}
      <Grid
        label="Sizes of components"
        head={[
          { text: "Component", left: true },
          { text: "of", left: true },
          { text: "Asked for" },
          { text: "Factor" },
          { text: "Size" },
          { text: "Typed" },
          { text: "at" },
          { text: "" },
        ]}
        rows={sizing.components.map((c) => {
          const day = sizing.days.find((d) => d.id === c.day);
          return {
            key: c.address,
            active: open === c.address,
            onClick: () => setOpen(open === c.address ? null : c.address),
            cells: [
              c.component,
              c.of,
              shown(c, c.peak),
              units.text(c.factor, "1", 2),
              c.typed === null ? <b key="v">{`⌁ ${shown(c, c.value)}`}</b> : shown(c, c.value),
              c.typed === null ? "" : <TypedSize key="t" text={shown(c, c.typed)} rule={given.get(c.address)?.name} short={c.typed < c.peak * (1 - 1e-6)} />,
              day ? <span title={day.name}>{`${Number(day.date.slice(3))} ${monthNames[Number(day.date.slice(0, 2)) - 1]} ${c.at ?? ""}`}</span> : "—",
              c.typed === null ? (
                <Act
                  key="f"
                  title="Type this size"
                  onClick={() => edit(`${c.component} of ${c.of}: size typed`, freezeChanges(project, { [c.address]: c.value }))}
                >
                  type
                </Act>
              ) : given.has(c.address) ? (
                ""
              ) : (
                <Act key="f" title="Back to sizing" onClick={() => edit(`${c.component} of ${c.of}: by sizing`, [unsetChange(project, c.address.split("/"))])}>
                  re-size
                </Act>
              ),
            ],
          };
        })}
      />
    </Box>
  );
}

/** The design day a quantity is sized by: the worst of all, or one that is chosen. */
function DayChoice({ address, thing, days }: { address: string; thing: string; days: Sizing["days"] }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const chosen = project.sizingDays?.[address] ?? "";
  const gone = chosen !== "" && !days.some((d) => d.id === chosen);
  return (
    <SelectInput
      label={`Design day of ${thing}`}
      width="200px"
      value={chosen}
      options={[
        { value: "", label: "the worst of all days" },
        ...(gone ? [{ value: chosen, label: "a day that is gone" }] : []),
        ...days.map((d) => ({ value: d.id, label: d.name })),
      ]}
      onChange={(day) => {
        const { [address]: _, ...rest } = project.sizingDays ?? {};
        const words = day === "" ? "the worst of all days" : (days.find((d) => d.id === day)?.name ?? day);
        edit(`${thing}: sized by ${words}`.slice(0, 190), [setChange(project, ["sizingDays"], day === "" ? rest : { ...rest, [address]: day })]);
      }}
    />
  );
}

/** A size that is typed in place of the one found. */
function TypedSize({ text, rule, short }: { text: string; rule: string | undefined; short: boolean }) {
  return (
    <Text
      as="span"
      fontWeight="600"
      color={short ? "clay" : undefined}
      title={short ? "Less than the design days ask for" : rule === undefined ? undefined : `by the rule “${rule}”`}
    >
      {rule === undefined ? "●" : "ƒ"} {text}
    </Text>
  );
}

/** What a peak is made of, gains to the right of the line and losses to the left. */
function Components({ components }: { components: Partial<Record<LoadComponent, number>> }) {
  const units = useUnits();
  const rows = loadComponents.map((c) => ({ c, w: components[c] ?? 0 })).filter((r) => Math.abs(r.w) >= 0.5);
  const top = Math.max(1, ...rows.map((r) => Math.abs(r.w)));
  return (
    <>
      {rows.map((r) => (
        <Box key={r.c} py="0.5" borderBottom="1px solid" borderColor="line">
          <Flex justify="space-between">
            <Text color="ink2">{r.c}</Text>
            <Text>{units.text(r.w / 1000, "kW", 2)}</Text>
          </Flex>
          <Box position="relative" h="4px">
            <Box
              position="absolute"
              h="4px"
              background={r.w > 0 ? "clay" : "water"}
              style={r.w > 0 ? { left: "50%", width: `${(50 * r.w) / top}%` } : { right: "50%", width: `${(-50 * r.w) / top}%` }}
            />
          </Box>
        </Box>
      ))}
      {rows.length === 0 && <Text color="ink2">No load.</Text>}
    </>
  );
}
