"use client";
import { Text } from "@chakra-ui/react";
import { Fragment } from "react";
import {
  checkProject,
  openingRules,
  openingWay,
  setChange,
  unsetChange,
  usualControl,
  USUAL_LIMIT,
  type AirLink,
  type AirNetworkInput,
  type AirPlan,
  type OpeningControl,
  type OpeningRule,
  type Project,
} from "@arroyo/core";
import { Act, firstMessage, Head, Quantity, Row, SelectInput, TextInput, Unit } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Inspector } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { hostName } from "./names.ts";

export const ruleWords: Record<OpeningRule, string> = {
  "windows of the space": "by its space’s inputs",
  constant: "always",
  temperature: "above a temperature",
  "temperature difference": "warmer than outdoors",
  "carbon dioxide": "by carbon dioxide",
  schedule: "by a schedule",
};
/** A rule in a few words, with how far it opens where that is not all. */
export const ruleText = ({ rule, share = 1 }: OpeningControl): string =>
  share === 0 ? "shut" : `${ruleWords[rule]}${share < 1 ? `, ${figure(100 * share, 0)} %` : ""}`;
export const kindWords: Record<AirLink["kind"], string> = {
  opening: "opening",
  grille: "grille",
  "floor opening": "between storeys",
  shaft: "shaft",
  fan: "fan",
};
const limitUnit: Partial<Record<OpeningRule, "°C" | "K" | "ppm">> = { temperature: "°C", "temperature difference": "K", "carbon dioxide": "ppm" };

/** Faces that a grille or an opening between storeys may lie in, or that a shaft or fan may end at outdoors. */
export function hostOptions(project: Project, kind: "grille" | "floor opening" | "outdoors"): { value: string; label: string }[] {
  const seen = new Map<string, string>();
  for (const f of checkProject(project).geometry.faces) {
    const fits =
      kind === "outdoors"
        ? f.contact === "outdoors"
        : kind === "grille"
          ? f.contact === "outdoors" || (f.contact === "space" && f.kind === "wall")
          : f.kind === "ceiling" && f.contact === "space";
    if (fits && !seen.has(f.host)) seen.set(f.host, hostName(project, f.host));
  }
  return [...seen].map(([value, label]) => ({ value, label }));
}

/** Rule by which openings open, with its limits. */
export function ControlRows({
  project,
  control,
  onChange,
  prefix = "",
}: {
  project: Project;
  control: OpeningControl;
  onChange: (next: OpeningControl) => string | null;
  prefix?: string;
}) {
  const unit = limitUnit[control.rule];
  const fractions = Object.entries(project.schedules).filter(([, s]) => s.kind === "fraction");
  const optional = (key: "outdoorLeast" | "outdoorMost" | "windMost", label: string, of: string, begin: number) => {
    const value = control[key];
    return (
      <Row key={key} label={label}>
        {typeof value === "number" ? (
          <>
            <Quantity label={`${prefix}${label}`} value={value} unit={of} digits={1} onCommit={(v) => onChange({ ...control, [key]: v })} />
            <Act onClick={() => onChange({ ...control, [key]: null })}>none</Act>
          </>
        ) : (
          <Act onClick={() => onChange({ ...control, [key]: begin })}>set</Act>
        )}
      </Row>
    );
  };
  return (
    <>
      <Row label="Opens">
        <SelectInput
          label={`${prefix}Opens`}
          value={control.rule}
          width="180px"
          options={openingRules.map((r) => ({ value: r, label: ruleWords[r] }))}
          onChange={(v) => {
            const rule = openingRules.find((r) => r === v) ?? "constant";
            const { above: _, ...rest } = control;
            const usual = USUAL_LIMIT[rule];
            onChange({
              ...rest,
              rule,
              ...(usual === undefined ? {} : { above: usual }),
              ...(rule === "schedule" && !rest.schedule ? { schedule: fractions[0]?.[0] ?? null } : {}),
            });
          }}
        />
      </Row>
      {unit && (
        <Row label="Limit" note={unit === "ppm" ? "opens a tenth above it, closes at it" : "opens 0.5 K above it, all of it from 2 K on; closes at it"}>
          <Quantity
            label={`${prefix}Limit`}
            value={control.above ?? USUAL_LIMIT[control.rule] ?? 0}
            unit={unit}
            digits={unit === "ppm" ? 0 : 1}
            onCommit={(v) => onChange({ ...control, above: v })}
          />
        </Row>
      )}
      <Row label="How far">
        <Quantity label={`${prefix}How far`} value={control.share ?? 1} unit="1" shown="%" digits={0} onCommit={(v) => onChange({ ...control, share: v })} />
      </Row>
      <Row label={control.rule === "schedule" ? "Schedule" : "May open"}>
        <SelectInput
          label={`${prefix}Schedule`}
          value={control.schedule ?? ""}
          options={[{ value: "", label: "at any time" }, ...fractions.map(([k, s]) => ({ value: k, label: s.name }))]}
          onChange={(v) => onChange({ ...control, schedule: v === "" ? null : v })}
        />
      </Row>
      {optional("outdoorLeast", `Not below, outdoors`, "°C", 10)}
      {optional("outdoorMost", `Not above, outdoors`, "°C", 30)}
      {optional("windMost", `Not in wind above`, "m/s", 10)}
      <Text color="ink2" fontSize="12px">
        {control.rule === "temperature" || control.rule === "temperature difference"
          ? "To outdoors it opens only while outdoors is cooler, and shuts before heating would begin."
          : ""}
      </Text>
    </>
  );
}

/** One path of the airflow network, or several chosen together. */
export function AirPathInspector({ ids, plan }: { ids: readonly string[]; plan: AirPlan }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const units = useUnits();
  const input = project.airNetwork as AirNetworkInput;
  const { problems } = checkProject(project);
  const [id] = ids;
  const link = input.links[id];
  const planned = plan.planned.find((p) => p.record === id);
  const types = Object.entries(input.types);
  const path = (key: string): string[] => ["airNetwork", "links", id, key];
  const put = (label: string, key: string, value: unknown): string | null =>
    firstMessage(edit(`${link.name}: ${label}`, [setChange(project, path(key), value)]));
  const remove = (): void => {
    const changes = ids.map((k) => ({ op: "remove" as const, path: ["airNetwork", "links", k], old: input.links[k] }));
    if (edit(ids.length > 1 ? `Take ${ids.length} paths out` : `Take ${link.name} out`, changes).length === 0) select([]);
  };
  const giveType = (v: string): void =>
    void edit(
      `Opening type ${v === "" ? "usual" : input.types[v].name}`,
      ids.flatMap((k) => (input.links[k].kind === "fan" ? [] : [setChange(project, ["airNetwork", "links", k, "type"], v === "" ? null : v)])),
    );
  if (ids.length > 1)
    return (
      <Inspector title={`${ids.length} paths`} about="chosen together">
        <Row label="Opening type">
          <SelectInput
            label="Opening type of all"
            value=""
            options={[{ value: "", label: "give them …" }, ...types.map(([k, t]) => ({ value: k, label: t.name }))]}
            onChange={(v) => v !== "" && giveType(v)}
          />
        </Row>
        <Row label="">
          <Act onClick={remove}>Take them out of the network</Act>
        </Row>
      </Inspector>
    );
  const zone = (z: string | null): string => (z === null ? "outdoors" : (project.zones[z]?.name ?? z));
  const own = problems.filter((p) => p.path === `airNetwork/links/${id}` || p.path.startsWith(`airNetwork/links/${id}/`));
  const usual = planned && link.kind !== "fan" ? usualControl(planned.kind, planned.ends[1] !== null) : { rule: "constant" as const };
  const way = link.kind === "fan" ? null : openingWay(input, link, usual);
  const size = (key: "area" | "level" | "bottom" | "top" | "loss" | "flow" | "pressure", label: string, value: number, unit: string, digits = 2) => (
    <Row key={key} label={label}>
      <Quantity label={label} value={value} unit={unit} digits={digits} onCommit={(v) => put(`${label} ${Number(v.toPrecision(5))}`, key, v)} />
    </Row>
  );
  return (
    <Inspector title={link.name} about={`${kindWords[link.kind]} · ${planned ? `${zone(planned.ends[0])} to ${zone(planned.ends[1])}` : "leads nowhere yet"}`}>
      {own.map((p, i) => (
        <Text key={i} color={p.severity === "error" ? "clay" : "ink2"} fontSize="12px" mb="1">
          {p.message} {p.fix && <Act onClick={() => edit(p.fix?.label ?? "Fix", p.fix?.changes ?? [])}>{p.fix.label}</Act>}
        </Text>
      ))}
      <Row label="Name">
        <TextInput label="Path name" value={link.name} onCommit={(v) => put(`name ${v}`, "name", v)} />
      </Row>
      {link.kind !== "fan" && (
        <Row label="Opening type">
          <SelectInput
            label="Opening type"
            value={link.type ?? ""}
            options={[{ value: "", label: "usual for its kind" }, ...types.map(([k, t]) => ({ value: k, label: t.name }))]}
            onChange={giveType}
          />
        </Row>
      )}
      {planned && planned.area > 0 && (
        <Row label="Free area" note={link.kind === "opening" ? "fully open" : undefined}>
          <b>{units.text(planned.area, "m²", 2)}</b>
          <Unit>{units.unit("m²")}</Unit>
        </Row>
      )}
      {link.kind === "opening" && (
        <Row label="Free share" note={link.free === undefined ? "of its type or its window" : "own"}>
          <Quantity label="Free share" value={link.free ?? way?.free ?? 1} unit="1" shown="%" digits={0} onCommit={(v) => put("free share", "free", v)} />
        </Row>
      )}
      {(link.kind === "grille" || link.kind === "floor opening") && (
        <Row label="Lies in">
          <SelectInput label="Lies in" value={link.host} options={hostOptions(project, link.kind)} onChange={(v) => put("place", "host", v)} />
        </Row>
      )}
      {link.kind === "grille" && [size("area", "Free area", link.area, "m²", 3), size("level", "Above the floor", link.level, "m")]}
      {link.kind === "floor opening" && size("area", "Free area", link.area, "m²")}
      {link.kind === "shaft" && [
        size("area", "Cross-section", link.area, "m²", 3),
        size("bottom", "Lower end", link.bottom, "m"),
        size("top", "Upper end", link.top, "m"),
        size("loss", "Loss coefficients", link.loss, "1"),
      ]}
      {link.kind === "fan" && [
        size("flow", "Free flow", link.flow, "m³/s", 3),
        size("pressure", "Shut-off pressure", link.pressure, "Pa", 0),
        size("level", "Level", link.level, "m"),
        <Row key="s" label="Schedule">
          <SelectInput
            label="Schedule of the fan"
            value={link.schedule ?? ""}
            options={[
              { value: "", label: "always" },
              ...Object.entries(project.schedules).flatMap(([k, s]) => (s.kind === "fraction" ? [{ value: k, label: s.name }] : [])),
            ]}
            onChange={(v) => put("schedule", "schedule", v === "" ? null : v)}
          />
        </Row>,
      ]}
      {link.kind === "fan" && (
        <Text color="ink2" fontSize="12px">
          Its electricity is not counted with the fans of the services.
        </Text>
      )}
      {(link.kind === "shaft" || link.kind === "fan") &&
        (["from", "to"] as const).map((k) => (
          <Fragment key={k}>
            <Row label={k === "from" ? "From" : "To"}>
              <SelectInput
                label={k === "from" ? "From" : "To"}
                value={link[k].zone ?? ""}
                options={[{ value: "", label: "outdoors" }, ...input.zones.map((z) => ({ value: z, label: project.zones[z]?.name ?? z }))]}
                onChange={(v) => put(k, k, { zone: v === "" ? null : v })}
              />
            </Row>
            {link[k].zone === null && (
              <Row label="Wind there" note="the face whose wind pressure it feels">
                <SelectInput
                  label={k === "from" ? "Face it begins at" : "Face it ends at"}
                  value={link[k].host ?? ""}
                  options={[{ value: "", label: "none: sheltered" }, ...hostOptions(project, "outdoors")]}
                  onChange={(v) => put("face outdoors", k, { zone: null, ...(v === "" ? {} : { host: v }) })}
                />
              </Row>
            )}
          </Fragment>
        ))}
      {link.kind !== "fan" && way && (
        <>
          <Row label="Discharge" note={link.discharge === undefined ? "usual" : "own"}>
            <Quantity label="Discharge coefficient" value={way.discharge} unit="1" digits={2} onCommit={(v) => put("discharge coefficient", "discharge", v)} />
          </Row>
          <Head>{way.from === "own" ? "Its own rule" : way.from === "type" ? "Rule of its type" : "Usual rule"}</Head>
          <ControlRows project={project} control={way.control} onChange={(next) => put("rule", "control", next)} />
          {link.control && (
            <Row label="">
              <Act onClick={() => edit(`${link.name}: rule of its type`, [unsetChange(project, path("control"))])}>Back to the rule of its type</Act>
            </Row>
          )}
        </>
      )}
      <Row label="">
        <Act onClick={remove}>Take it out of the network</Act>
      </Row>
    </Inspector>
  );
}
