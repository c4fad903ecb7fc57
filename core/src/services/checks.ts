import {
  componentsOf,
  componentWords,
  isSource,
  ownerName,
  quantity,
  setChange,
  settingAsked,
  settingOf,
  serviceFieldsOf,
  type Component,
  type Problem,
  type Project,
} from "../model/index.ts";
import { CP_AIR } from "../airflow/index.ts";
import { effective } from "../inputs/index.ts";
import { signalSpan } from "../use/index.ts";
import { equipmentOf, isOnAir } from "./build.ts";
import { addToList } from "./paths.ts";

/** Warming of the air by a fan that is told, K. */
const WARM_FAN = 2;
/** Density of air at which fans are looked at, kg/m³. */
const DENSITY = 1.2;
/** Water must be colder than the air it is to cool to by this, K. */
const LEAST_APPROACH = 2;

const word = (c: Component, field: string): string => String(settingOf(c.kind, c.inputs, field));

/** Whether a piece of equipment can heat and cool its room. */
export function ableTo(project: Project, c: Component): { heat: boolean; cool: boolean } {
  if (c.kind === "terminal") {
    const system = typeof c.inputs.system === "string" ? project.airSystems[c.inputs.system] : undefined;
    if (!system) return { heat: false, cool: false };
    const thermostat = settingOf("airSystem", system.inputs, "supplyRule") === "room thermostat";
    return {
      heat: word(c, "reheat") !== "none" || (thermostat && system.parts.some((p) => p.kind === "heatingCoil")),
      cool: system.parts.some((p) => p.kind === "coolingCoil"),
    };
  }
  if (c.kind === "slabCircuit") return { heat: typeof c.inputs.loop === "string", cool: typeof c.inputs.coldLoop === "string" };
  if (c.kind === "fanCoil") return { heat: word(c, "heat") !== "none", cool: word(c, "cold") !== "none" };
  if (c.kind === "splitUnit") return { heat: word(c, "heat") !== "none", cool: word(c, "cooling") === "yes" };
  return { heat: true, cool: false };
}

/** What can run but serves less than it seems, in systems, equipment and plant. */
export function serviceProblems(project: Project): Problem[] {
  const problems: Problem[] = [];
  const warn = (code: string, path: string, message: string, fix?: Problem["fix"]): void =>
    void problems.push({ code, severity: "warning", stage: "services", path, message, ...(fix ? { fix } : {}) });
  const drawnOn = new Set<string>();
  for (const c of componentsOf(project)) {
    const path = c.path.join("/");
    const of = ownerName(project, c);
    for (const [field, spec] of Object.entries(serviceFieldsOf(c.kind))) {
      if (spec.kind !== "record" || spec.of === "zones" || !settingAsked(c.kind, c.inputs, field)) continue;
      const value = c.inputs[field];
      if (typeof value === "string") {
        if (spec.of === "loops") drawnOn.add(value);
        continue;
      }
      // a slab may have but one of its loops
      if (c.kind === "slabCircuit" && (typeof c.inputs.loop === "string" || typeof c.inputs.coldLoop === "string")) continue;
      const fits = Object.entries(project[spec.of as "loops" | "airSystems"]).filter(([, x]) => !("kind" in x) || x.kind === spec.ofKind);
      warn(
        "not-connected",
        `${path}/inputs/${field}`,
        `The ${componentWords[c.kind]} of ${of} has no ${spec.of === "loops" ? `loop of ${spec.ofKind ?? "water"}` : "air system"}; it does nothing.`,
        fits.length > 0 ? { label: `Connect it to ${fits[0][1].name}`, changes: [setChange(project, [...c.path, "inputs", field], fits[0][0])] } : undefined,
      );
    }
    if (c.kind === "supplyFan" || c.kind === "returnFan") {
      const rise =
        ((settingOf(c.kind, c.inputs, "pressure") as number) * (settingOf(c.kind, c.inputs, "heatIntoAir") as number)) /
        ((settingOf(c.kind, c.inputs, "efficiency") as number) * DENSITY * CP_AIR);
      if (rise > WARM_FAN)
        warn(
          "fan-heat",
          `${path}/inputs/pressure`,
          `The ${componentWords[c.kind]} of ${of} warms the air by ${quantity(rise, "K", 1)}; check its pressure rise and efficiency.`,
        );
    }
  }
  for (const [id, system] of Object.entries(project.airSystems)) {
    const path = `airSystems/${id}`;
    const served = Object.keys(project.zones).filter((z) => equipmentOf(project, z).some((c) => c.kind === "terminal" && c.inputs.system === id));
    if (served.length === 0) warn("serves-nothing", path, `${system.name} serves no zone.`);
    const of = (kind: Component["kind"]): readonly Component[] => system.parts.filter((p) => p.kind === kind);
    if (of("supplyFan").length === 0) warn("no-fan", path, `${system.name} has no supply fan: its air moves for nothing.`);
    if (of("mixing").length > 1) warn("parts", path, `${system.name} has more than one mixing box; the first is used.`);
    const mixes = system.parts.findIndex((p) => p.kind === "mixing");
    const recovers = system.parts.findIndex((p) => p.kind === "recovery");
    if (mixes >= 0 && recovers > mixes)
      warn(
        "parts",
        `${path}/parts/${system.parts[recovers].id}`,
        `The heat recovery of ${system.name} stands behind the mixing box; it belongs into the outdoor air before it.`,
      );
    const supply = signalSpan(project, settingOf("airSystem", system.inputs, "supplyTemperature"));
    if (settingOf("airSystem", system.inputs, "supplyRule") === "room thermostat" && served.length > 1)
      warn(
        "one-thermostat",
        `${path}/inputs/supplyRule`,
        `${system.name} follows the thermostat of one room and serves ${served.length}; the others get the same air.`,
      );
    for (const p of system.parts) {
      const at = `${path}/parts/${p.id}`;
      const leaving = p.kind === "heatingCoil" ? (settingOf(p.kind, p.inputs, "leaving") as number | null) : null;
      if (leaving !== null && supply && leaving > supply.least && of("coolingCoil").length > 0)
        warn(
          "fight",
          `${at}/inputs/leaving`,
          `A heating coil of ${system.name} heats to ${quantity(leaving, "°C", 1)} air that is supplied at ${quantity(supply.least, "°C", 1)}: heating and cooling fight.`,
        );
      if (p.kind !== "coolingCoil" || typeof p.inputs.loop !== "string" || word(p, "cold") !== "chilled water" || !supply) continue;
      const water = signalSpan(project, settingOf("loop", project.loops[p.inputs.loop].inputs, "supplyTemperature"));
      if (water && water.least > supply.least - LEAST_APPROACH)
        warn(
          "warm-water",
          `${at}/inputs/loop`,
          `${project.loops[p.inputs.loop].name} leaves at ${quantity(water.least, "°C", 1)}; it cannot cool the air of ${system.name} to ${quantity(supply.least, "°C", 1)}.`,
        );
    }
  }
  for (const [id, loop] of Object.entries(project.loops)) {
    if (!drawnOn.has(id)) warn("serves-nothing", `loops/${id}`, `Nothing draws on ${loop.name}.`);
    else if (!loop.parts.some((p) => isSource(p.kind))) warn("no-source", `loops/${id}`, `${loop.name} has no source: what draws on it gets nothing.`);
    if (!loop.parts.some((p) => p.kind === "pump")) warn("no-pump", `loops/${id}`, `${loop.name} has no pump: its water moves for nothing.`);
    const towers = loop.parts.filter((p) => p.kind === "tower");
    const cooled = loop.parts.filter((p) => p.kind === "chiller" && word(p, "condenser") === "water of a tower");
    if (cooled.length > 0 && towers.length === 0)
      warn(
        "no-tower",
        `loops/${id}/parts/${cooled[0].id}`,
        `The ${componentWords.chiller} of ${loop.name} is to be cooled by the water of a tower and there is none; it runs on outdoor air.`,
        {
          label: "Add a cooling tower",
          changes: [addToList(project, ["loops", id, "parts"], loop.parts, "tower").change],
        },
      );
    if (towers.length > 0 && cooled.length === 0)
      warn("serves-nothing", `loops/${id}/parts/${towers[0].id}`, `No chiller of ${loop.name} is cooled by the water of its tower.`);
  }
  const spacesOf = (zone: string): string[] => Object.keys(project.spaces).filter((s) => project.spaces[s].zone === zone);
  for (const [id, zone] of Object.entries(project.zones)) {
    const list = equipmentOf(project, id);
    if (list.length === 0) continue;
    const able = list.map((c) => ableTo(project, c));
    const spaces = spacesOf(id);
    const asks = (field: "heatingSetpoint" | "coolingSetpoint"): boolean => spaces.some((s) => effective(project, "space", s, field).value !== null);
    if (asks("heatingSetpoint") && !able.some((a) => a.heat)) warn("nothing-serves", `zones/${id}`, `Nothing heats ${zone.name}: none of its equipment can.`);
    if (asks("coolingSetpoint") && !able.some((a) => a.cool)) warn("nothing-serves", `zones/${id}`, `Nothing cools ${zone.name}: none of its equipment can.`);
    if (!isOnAir(project, id)) continue;
    for (const s of spaces)
      if (((effective(project, "space", s, "freeCooling").value as number | null) ?? 0) > 0)
        warn(
          "free-cooling",
          `spaces/${s}/inputs/freeCooling`,
          `${project.spaces[s].name} has free cooling of its own beside the air of a system; the economizer of the system is the place for it.`,
          { label: "Without its own free cooling", changes: [setChange(project, ["spaces", s, "inputs", "freeCooling"], 0)] },
        );
  }
  return problems;
}
