import { quantity, unitOfText } from "./units.ts";
import { COMMON_YEAR, dateOfDay, dateText, dayExists, inRange } from "./calendar.ts";
import { stageOf, type Problem } from "./problem.ts";
import { spaceFieldNames } from "./fields.ts";
import { spaceFields } from "./spaceFields.ts";
import { signalRef } from "./signal.ts";
import type { FieldSpec } from "./fieldSpec.ts";
import { componentsOf } from "./components.ts";
import { serviceFieldsOf } from "./serviceFields.ts";
import { outlineFault, type Point } from "./outline.ts";
import { isGlazed, kitRoles, type Project } from "./schema.ts";

/** Each bridged layer doubles the sections of the upper limit of ISO 6946. */
const MOST_BRIDGED = 5;

/** Checks that every reference names something that exists and that schedules cover the year. */
export function checkReferences(p: Project): Problem[] {
  const problems: Problem[] = [];
  const report = (path: string, message: string, code = "reference"): void => {
    problems.push({ code, severity: "error", path, message, stage: stageOf(path.split("/")[0]) });
  };
  const need = (set: Record<string, unknown>, kind: string, target: string | null, path: string): void => {
    if (target !== null && !Object.hasOwn(set, target)) report(path, `There is no ${kind} "${target}" in this project.`);
  };
  const shares = (id: string | null, path: string): void => {
    need(p.schedules, "schedule", id, path);
    const s = id === null ? undefined : p.schedules[id];
    if (s && s.kind !== "fraction") report(path, `"${s.name}" holds temperatures; a schedule of shares is needed here.`);
  };
  const schedulesOf = (inputs: Record<string, unknown>, path: string): void => {
    for (const f of spaceFieldNames) {
      const v = inputs[f];
      if (spaceFields[f].kind === "schedule" && typeof v === "string") shares(v, `${path}/${f}`);
      if (spaceFields[f].kind === "number" && typeof v === "string") signal(f, v, `${path}/${f}`);
      if (spaceFields[f].kind === "devices" && typeof v === "string") need(p.deviceLists, "device list", v, `${path}/${f}`);
    }
  };
  /** What a signal field follows: a schedule of temperatures within the bounds of the field, or a reset. */
  const signal = (f: (typeof spaceFieldNames)[number], value: string, path: string): void => signalWithin(spaceFields[f], value, path);
  const signalWithin = (spec: FieldSpec, value: string, path: string): void => {
    const { part, id } = signalRef(value);
    need(p[part], part === "resets" ? "reset by outdoor temperature" : "schedule", id, path);
    if (!Object.hasOwn(p[part], id)) return;
    const record = p[part][id];
    if ("kind" in record && record.kind !== "temperature") return report(path, `"${record.name}" holds shares; a schedule of temperatures is needed here.`);
    const values = "kind" in record ? Object.values(record.profiles).flatMap((d) => d.values) : [record.cold.value, record.warm.value];
    const beyond = values.find((v) => v < (spec.min ?? -Infinity) || v > (spec.max ?? Infinity));
    if (beyond !== undefined)
      report(
        path,
        `"${record.name}" asks for ${quantity(beyond, spec.unit)}; the ${spec.label.toLowerCase()} lies between ${quantity(spec.min ?? -Infinity, spec.unit)} and ${quantity(spec.max ?? Infinity, spec.unit)}.`,
        "range",
      );
  };
  const unique = (list: readonly { readonly id: string }[], path: string, of: string): void => {
    if (new Set(list.map((x) => x.id)).size < list.length) report(path, `Two ${of} share an id.`);
  };
  const date = ([month, day]: readonly [number, number], path: string): void => {
    if (!dayExists(month, day)) report(path, `There is no ${month >= 1 && month <= 12 ? dateText(month, day) : `month ${month}`}.`, "date");
  };
  need(p.weathers, "weather year", p.weather, "weather");
  for (const [key, y] of Object.entries(p.weathers))
    if (y.kind === "morphed") {
      need(p.weathers, "weather year", y.of, `weathers/${key}/of`);
      if (Object.hasOwn(p.weathers, y.of) && p.weathers[y.of].kind === "morphed")
        report(`weathers/${key}/of`, `"${y.name}" is made of "${p.weathers[y.of].name}", which is morphed itself; take the year that one is made of.`, "morph");
    }
  need(p.kits, "envelope kit", p.defaults.kit, "defaults/kit");
  need(p.services, "set of services", p.defaults.services, "defaults/services");
  for (const [key, s] of Object.entries(p.spaces)) {
    need(p.storeys, "storey", s.storey, `spaces/${key}/storey`);
    need(p.zones, "zone", s.zone, `spaces/${key}/zone`);
    need(p.spaceTypes, "space type", s.spaceType, `spaces/${key}/spaceType`);
    need(p.kits, "envelope kit", s.kit, `spaces/${key}/kit`);
    schedulesOf(s.inputs, `spaces/${key}/inputs`);
    if (s.form.kind === "prism") {
      need(p.roofs, "roof", s.form.roof ?? null, `spaces/${key}/form/roof`);
      const ids = new Set<string>([s.form.floor, s.form.ceiling, ...s.form.outline.map((v) => v.id)]);
      const fault = outlineFault(s.form.outline.map((v): Point => [v.x, v.y]));
      if (fault !== null) report(`spaces/${key}/form/outline`, `The outline of ${s.name} cannot be used: ${fault}.`, "outline");
      if (ids.size < s.form.outline.length + 2) report(`spaces/${key}/form`, "Two edges, or an edge and the floor or ceiling, share an id.");
    }
  }
  for (const [key, t] of Object.entries(p.spaceTypes)) schedulesOf(t.inputs, `spaceTypes/${key}/inputs`);
  for (const [key, zn] of Object.entries(p.zones)) need(p.services, "set of services", zn.services, `zones/${key}/services`);
  for (const [key, zone] of Object.entries(p.zones)) if (zone.equipment) unique(zone.equipment, `zones/${key}/equipment`, "pieces of equipment");
  for (const part of ["airSystems", "loops", "waterSystems"] as const)
    for (const [key, x] of Object.entries(p[part])) unique(x.parts, `${part}/${key}/parts`, "parts");
  for (const c of componentsOf(p)) {
    const at = c.path.join("/");
    for (const [f, v] of Object.entries(c.inputs)) {
      const spec = serviceFieldsOf(c.kind)[f];
      if (typeof v !== "string") continue;
      const path = `${at}/inputs/${f}`;
      if (spec.kind === "schedule") shares(v, path);
      else if (spec.kind === "number") signalWithin(spec, v, path);
      else if (spec.of) {
        need(p[spec.of], spec.of === "loops" ? "loop" : spec.of === "zones" ? "zone" : "air system", v, path);
        const found = Object.hasOwn(p[spec.of], v) ? p[spec.of][v] : undefined;
        if (found && "kind" in found && spec.ofKind !== undefined && found.kind !== spec.ofKind)
          report(path, `"${found.name}" is a loop of ${found.kind}; one of ${spec.ofKind} is needed here.`);
      }
    }
  }
  for (const [key, x] of Object.entries(p.waterSystems)) for (const z of x.zones ?? []) need(p.zones, "zone", z, `waterSystems/${key}/zones`);
  for (const [key, x] of Object.entries(p.onSite)) {
    if (x.kind === "pvArray" && x.host !== null && !hostExists(p, x.host))
      report(`onSite/${key}/host`, `"${x.name}" stands on "${x.host}", which does not exist.`, "host");
    if (x.kind !== "windTurbine") continue;
    unique(x.curve, `onSite/${key}/curve`, "points of a power curve");
    const fall = x.curve.findIndex((c, i) => i > 0 && !(c.speed > x.curve[i - 1].speed));
    if (fall > 0)
      report(
        `onSite/${key}/curve/${x.curve[fall].id}`,
        `The power curve of "${x.name}" has ${quantity(x.curve[fall].speed, "m/s")} after ${quantity(x.curve[fall - 1].speed, "m/s")}; its wind speeds rise.`,
        "range",
      );
  }
  const host = (target: string, path: string, message: string): void => {
    if (!hostExists(p, target)) report(path, message, "host");
  };
  for (const [key, o] of Object.entries(p.openings)) {
    if (o.kind === "ratio" || o.kind === "repeated") {
      need(p.glazings, "glazing", o.glazing, `openings/${key}/glazing`);
      need(p.storeys, "storey", o.storey, `openings/${key}/storey`);
      need(p.spaces, "space", o.space, `openings/${key}/space`);
      if (o.host) host(o.host, `openings/${key}/host`, `"${o.name}" is for wall "${o.host}", which does not exist.`);
    } else {
      if (o.kind === "skylight" || o.use === "window") need(p.glazings, "glazing", o.glazing, `openings/${key}/glazing`);
      else need(p.assemblies, "assembly", o.glazing, `openings/${key}/glazing`);
      host(o.host, `openings/${key}/host`, `"${o.name}" lies in ${o.kind === "skylight" ? "roof" : "wall"} "${o.host}", which does not exist.`);
    }
  }
  for (const [key, r] of Object.entries(p.roofs)) {
    need(p.storeys, "storey", r.storey, `roofs/${key}/storey`);
    const fault = outlineFault(r.outline.map((v): Point => [v.x, v.y]));
    if (fault !== null) report(`roofs/${key}/outline`, `The outline of ${r.name} cannot be used: ${fault}.`, "outline");
  }
  for (const [key, s] of Object.entries(p.surroundings))
    if (s.kind === "tree") shares(s.transmittanceSchedule ?? null, `surroundings/${key}/transmittanceSchedule`);
  for (const [key, s] of Object.entries(p.shades)) {
    shares(s.transmittanceSchedule ?? null, `shades/${key}/transmittanceSchedule`);
    if (s.kind === "plane") continue;
    if (s.kind === "plate") {
      host(s.host, `shades/${key}/host`, `"${s.name}" stands on wall "${s.host}", which does not exist.`);
      if (s.to <= s.from)
        report(`shades/${key}/to`, `"${s.name}" ends at ${quantity(s.to, "m")}, which is not past its start at ${quantity(s.from, "m")}.`, "range");
    } else if (s.target.kind === "opening") need(p.openings, "opening", s.target.opening, `shades/${key}/target/opening`);
    else if (s.target.kind === "wall") host(s.target.host, `shades/${key}/target/host`, `"${s.name}" is for wall "${s.target.host}", which does not exist.`);
    else need(p.storeys, "storey", s.target.storey, `shades/${key}/target/storey`);
  }
  for (const [key, o] of Object.entries(p.faceOverrides)) {
    need(p.assemblies, "assembly", o.assembly, `faceOverrides/${key}/assembly`);
    host(o.host, `faceOverrides/${key}/host`, `The face "${o.host}" does not exist.`);
  }
  for (const [key, e] of Object.entries(p.airExchanges)) {
    for (const z of e.zones) need(p.zones, "zone", z, `airExchanges/${key}/zones`);
    if (e.zones[0] === e.zones[1]) report(`airExchanges/${key}/zones`, `"${e.name}" passes air from a zone to itself.`, "exchange");
    need(p.schedules, "schedule", e.schedule, `airExchanges/${key}/schedule`);
  }
  if (p.airNetwork) {
    for (const [key, t] of Object.entries(p.airNetwork.types)) shares(t.control.schedule ?? null, `airNetwork/types/${key}/control/schedule`);
    for (const [key, l] of Object.entries(p.airNetwork.links)) {
      const at = `airNetwork/links/${key}`;
      if (l.kind === "fan") shares(l.schedule, `${at}/schedule`);
      else {
        need(p.airNetwork.types, "opening type", l.type ?? null, `${at}/type`);
        shares(l.control?.schedule ?? null, `${at}/control/schedule`);
      }
    }
  }
  for (const [key, r] of Object.entries(p.resets))
    if (!(r.cold.outdoor < r.warm.outdoor))
      report(
        `resets/${key}/warm/outdoor`,
        `The warm end of "${r.name}", ${quantity(r.warm.outdoor, "°C")} outdoors, is not above its cold end, ${quantity(r.cold.outdoor, "°C")}.`,
        "range",
      );
  for (const [key, d] of Object.entries(p.deviceLists)) {
    unique(d.devices, `deviceLists/${key}/devices`, "devices");
    for (const x of d.devices)
      if (x.sensible + x.latent > 1 + ROUNDING)
        report(`deviceLists/${key}/devices/${x.id}`, `"${x.name}" gives the room more than all of its power: ${shareSum(x.sensible, x.latent)}.`, "shares");
  }
  for (const [key, d] of Object.entries(p.drawPoints)) {
    shares(d.schedule, `drawPoints/${key}/schedule`);
    need(p.spaces, "space", d.space, `drawPoints/${key}/space`);
    if (d.sensible + d.latent > 1 + ROUNDING)
      report(`drawPoints/${key}`, `"${d.name}" leaves more than all of its heat in the room: ${shareSum(d.sensible, d.latent)}.`, "shares");
    if (d.kind === "taps") unique(d.taps, `drawPoints/${key}/taps`, "taps");
    if (d.kind === "fixtures") unique(d.fixtures, `drawPoints/${key}/fixtures`, "fixtures");
  }
  for (const [key, l] of Object.entries(p.siteLights)) shares(l.schedule, `siteLights/${key}/schedule`);
  for (const [key, x] of Object.entries(p.points ?? {})) {
    if (!unitOfText(x.unit)) report(`points/${key}/unit`, `"${x.unit}" of "${x.name}" is no unit Arroyo knows.`, "unit");
    for (const mask of x.masks ?? []) need(p.points ?? {}, "point", mask.point, `points/${key}/masks`);
    for (const out of x.without ?? [])
      if (!(out.from < out.to))
        report(`points/${key}/without`, `A stretch of "${x.name}" ends at ${out.to}, which is not after its start at ${out.from}.`, "range");
  }
  for (const [key, d] of Object.entries(p.drives ?? {}))
    for (const end of ["from", "to"] as const) {
      const day = d[end];
      if (day) date(day, `drives/${key}/${end}`);
    }
  unique(p.pairs ?? [], "pairs", "pairs");
  unique(p.rules, "rules", "rules");
  for (const r of p.rules) unique(r.conditions, `rules/${r.id}/conditions`, "conditions");
  const valueNames = new Map<string, string>();
  for (const [key, v] of Object.entries(p.values)) {
    if (valueNames.has(v.name)) report(`values/${key}/name`, `Two named values are called "${v.name}"; an expression could not tell them apart.`, "name");
    valueNames.set(v.name, key);
    if (!unitOfText(v.unit)) report(`values/${key}/unit`, `"${v.unit}" is no unit Arroyo knows.`, "unit");
  }
  for (const [key, s] of Object.entries(p.sensors)) need(p.spaces, "space", s.space, `sensors/${key}/space`);
  for (const [key, m] of Object.entries(p.materials))
    if (m.phaseChange && !(m.phaseChange.to > m.phaseChange.from))
      report(
        `materials/${key}/phaseChange`,
        `"${m.name}" ends melting at ${quantity(m.phaseChange.to, "°C")}, which is not above ${quantity(m.phaseChange.from, "°C")}.`,
        "melting",
      );
  for (const [key, g] of Object.entries(p.glazings)) {
    if (g.kind === "panes" && g.gaps.length !== g.panes.length - 1)
      report(`glazings/${key}/gaps`, `"${g.name}" has ${g.panes.length} panes and ${g.gaps.length} gaps; there is one gap between each two panes.`, "gaps");
    if (g.kind === "panes")
      for (const q of g.panes)
        if (q.solarTransmittance + Math.max(q.solarReflectanceOut, q.solarReflectanceIn) > 1 || q.visibleTransmittance + q.visibleReflectance > 1)
          report(`glazings/${key}/panes/${q.id}`, `"${q.name}" lets through and reflects more than all light.`, "optics");
    if (g.blind) {
      if (g.blind.solarTransmittance + g.blind.solarReflectance > 1)
        report(`glazings/${key}/blind`, `The blind of "${g.name}" lets through and reflects more than all sun.`, "optics");
      if (g.blind.control.kind === "schedule") need(p.schedules, "schedule", g.blind.control.schedule, `glazings/${key}/blind/control`);
    }
  }
  for (const [key, a] of Object.entries(p.assemblies)) {
    if (a.rated && a.layers.length > 0) report(`assemblies/${key}/layers`, `"${a.name}" has both a U of its own and layers; one of them must go.`, "layers");
    else if (!a.rated && a.layers.length === 0) report(`assemblies/${key}/layers`, `"${a.name}" has no layers and no U.`, "layers");
    else if (!a.rated && a.layers.every((l) => l.kind === "circuit"))
      report(`assemblies/${key}/layers`, `"${a.name}" has a circuit but no layer around it.`, "layers");
    let bridged = 0;
    for (const l of a.layers) {
      if (l.kind === "circuit" || !l.bridge) continue;
      bridged++;
      need(p.materials, "material", l.bridge.material, `assemblies/${key}/layers/${l.id}/bridge/material`);
      if (l.kind === "resistance" && l.thickness === undefined)
        report(`assemblies/${key}/layers/${l.id}/thickness`, `"${l.name}" of "${a.name}" is bridged; its thickness is needed.`, "layers");
    }
    if (bridged > MOST_BRIDGED)
      report(`assemblies/${key}/layers`, `"${a.name}" has ${bridged} bridged layers; at most ${MOST_BRIDGED} are computed.`, "layers");
    if (a.layers.filter((l) => l.kind === "circuit").length > 1)
      report(`assemblies/${key}/layers`, `"${a.name}" has more than one embedded circuit; one is computed.`, "layers");
    const ids = new Set(a.layers.map((l) => l.id));
    if (ids.size < a.layers.length) report(`assemblies/${key}/layers`, "Two layers share an id.");
    for (const l of a.layers) if (l.kind === "solid") need(p.materials, "material", l.material, `assemblies/${key}/layers/${l.id}/material`);
  }
  for (const [key, k] of Object.entries(p.kits))
    for (const role of kitRoles) need(isGlazed(role) ? p.glazings : p.assemblies, isGlazed(role) ? "glazing" : "assembly", k[role], `kits/${key}/${role}`);
  for (const h of p.calendar.holidays) date([h.month, h.day], `calendar/holidays/${h.id}`);
  if (p.calendar.daylightSaving) for (const end of ["from", "to"] as const) date(p.calendar.daylightSaving[end], `calendar/daylightSaving/${end}`);
  unique(p.site.horizon ?? [], "site/horizon", "points of the horizon");
  const designDays = p.designDays ?? [];
  unique(designDays, "designDays", "design days");
  for (const d of designDays) if (d.kind === "typed") date(d.date, `designDays/${d.id}/date`);
  if (p.run.period) date(p.run.period.from, "run/period/from");
  for (const [key, s] of Object.entries(p.schedules)) {
    for (const w of s.weeks) for (const end of ["from", "to"] as const) date(w[end], `schedules/${key}/weeks/${w.id}/${end}`);
    checkSchedule(key, s, report, need);
  }
  return problems;
}

/** Shares typed as per cent may add up to a few bits more than 1. */
const ROUNDING = 1e-9;
const shareSum = (a: number, b: number): string => `${Math.round(1000 * a) / 10} % and ${Math.round(1000 * b) / 10} %`;

function checkSchedule(
  key: string,
  s: Project["schedules"][string],
  report: (path: string, message: string, code?: string) => void,
  need: (set: Record<string, unknown>, kind: string, target: string, path: string) => void,
): void {
  for (const w of s.weeks) for (const d of w.days) need(s.profiles, "day profile", d, `schedules/${key}/weeks/${w.id}`);
  const gap = COMMON_YEAR.monthOfDay.findIndex((_, d) => !s.weeks.some((w) => inRange(d, w.from, w.to)));
  if (gap >= 0)
    report(`schedules/${key}/weeks`, `"${s.name}" leaves day ${gap + 1} of the year, ${dateText(...dateOfDay(gap))}, without a profile.`, "coverage");
  if (s.kind === "fraction")
    for (const [pk, profile] of Object.entries(s.profiles))
      profile.values.forEach((v, h) => {
        if (v < 0 || v > 1) report(`schedules/${key}/profiles/${pk}/values`, `"${profile.name}" has ${v} at hour ${h}; a share lies between 0 and 1.`, "range");
      });
}

/** Whether "space/edge" (or floor, ceiling or free face id) names an existing face host. */
export function hostExists(p: Project, host: string): boolean {
  const [space, part] = host.split("/");
  const form = p.spaces[space]?.form;
  if (!form) return false;
  if (form.kind === "faces") return Object.hasOwn(form.faces, part);
  return form.floor === part || form.ceiling === part || form.outline.some((v) => v.id === part);
}
