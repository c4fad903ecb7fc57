import { CP_AIR, CP_VAPOUR, LATENT_HEAT } from "../airflow/index.ts";
import { componentName, isSized, isSource, resetAt, settingOf, signalRef, type Component, type Project } from "../model/index.ts";
import { effective } from "../inputs/index.ts";
import { signalSpan } from "../use/index.ts";
import { leavingRatio } from "./coolingCoil.ts";
import { biquadratic, machineCurves } from "./curves.ts";
import { fanDesignPower } from "./fan.ts";
import { equipmentOf } from "./build.ts";
import { circuitEffectiveness, pipeResistance } from "./circuit.ts";
import { WATER_CP, WATER_DENSITY } from "./pump.ts";

/** Loads of all zones over one settled design day at held set-points, [zone][step], as the rooms have them: outdoor air that comes by systems is not in them. */
export interface DesignLoads {
  readonly day: string;
  readonly for: "heating" | "cooling";
  readonly steps: number;
  /** By step: °C, kg/kg and Pa. */
  readonly outdoor: Float64Array;
  readonly ratio: Float64Array;
  readonly pressure: number;
  /** By zone and step: sensible W, latent W, °C, kg/kg, and outdoor air asked for, m³/s. */
  readonly heat: readonly Float64Array[];
  readonly cool: readonly Float64Array[];
  readonly latent: readonly Float64Array[];
  readonly air: readonly Float64Array[];
  readonly humidity: readonly Float64Array[];
  readonly outdoorAir: readonly Float64Array[];
}

/** One size that was found. */
export interface SizedValue {
  /** Address of the setting, ids joined by "/". */
  readonly address: string;
  readonly component: string;
  readonly of: string;
  readonly field: string;
  /** What sizing gives, in the unit of the document, and what is typed in its place; null: nothing. */
  readonly value: number;
  readonly typed: number | null;
  /** What the design days ask for, before the factor. */
  readonly peak: number;
  readonly factor: number;
  readonly day: string | null;
  /** End of the step, counted from the start of the day. */
  readonly step: number | null;
  /** What a load is made of, W; empty for flows that follow from others. */
  readonly parts: Readonly<Record<string, number>>;
}

interface Peak {
  /** The one design day it is taken from; null: the worst of all. */
  readonly only: string | null;
  value: number;
  day: string | null;
  step: number | null;
  parts: Record<string, number>;
}
const peakOf = (only: string | null): Peak => ({ only, value: 0, day: null, step: null, parts: {} });
const raise = (p: Peak, value: number, day: string, step: number, parts: () => Record<string, number>): void => {
  if (!(value > p.value) || (p.only !== null && p.only !== day)) return;
  p.value = value;
  p.day = day;
  p.step = step + 1;
  p.parts = parts();
};

/** Of a slab: resistances of its layers and of its surface's film, m²K/W: typical, unverified. */
const SLAB_LAYERS = 0.15;
const SLAB_FILM = 0.093;
/** Conductivity about the pipes while a circuit is sized, W/m·K: typical screed, unverified. */
const SCREED = 1.2;
/** Rooms nearer to the supply air than this would ask for endless air, K. */
const LEAST_DIFFERENCE = 2;

interface System {
  readonly id: string;
  readonly cools: boolean;
  readonly heats: boolean;
  readonly constant: boolean;
  readonly thermostat: boolean;
  /** Coldest supply, and that on a cold day, °C. */
  readonly coldest: number;
  readonly winter: number;
  readonly heatingSupply: number;
}
interface Terminal {
  readonly zone: number;
  readonly times: number;
  readonly system: System;
  /** m³/s of 20 °C. */
  flow: number;
  least: number;
  readonly reheats: boolean;
  readonly takesCooling: boolean;
  readonly takesHeating: boolean;
  /** Warmest air of a terminal that reheats, °C. */
  readonly warmest: number;
}

/**
 * Sizes of everything that is left to sizing, from the loads of the rooms on the design days (ASHRAE Handbook, HVAC Systems and Equipment:
 * from the rooms to the terminals, the systems, their coils, and the loops with what draws on them at one time). What is typed is taken as
 * it is on the way. In a room, the first in order that can heat is sized for all of its heating, and the first that can cool for its cooling.
 * @param density of air that flows are given for, kg/m³ @param area of floors of zones, m², for slabs
 */
export function componentSizes(
  project: Project,
  zoneIds: readonly string[],
  multiplier: Float64Array,
  area: Float64Array,
  days: readonly DesignLoads[],
  density: number,
): SizedValue[] {
  const out: SizedValue[] = [];
  const cp = CP_AIR + CP_VAPOUR * 0.008;
  const rc = density * cp;
  /** Records a size where it is left to sizing, and answers what then holds. */
  const size = (c: Component, path: readonly string[], of: string, field: string, peak: Peak, factor: number): number => {
    const value = peak.value * factor;
    const typed = isSized(c.kind, c.inputs, field) ? null : ((settingOf(c.kind, c.inputs, field) as number | null) ?? Infinity);
    const address = [...path, "inputs", field].join("/");
    out.push({ address, component: componentName(c), of, field, value, typed, peak: peak.value, factor, day: peak.day, step: peak.step, parts: peak.parts });
    return typed ?? value;
  };
  const chosen = project.sizingDays ?? {};
  const known = new Set(days.map((d) => d.day));
  /** A peak to find for a setting: of the design day chosen for it, where that is among them. */
  const none = (path: readonly string[], field: string): Peak => {
    const address = [...path, "inputs", field].join("/");
    const day = Object.hasOwn(chosen, address) ? chosen[address] : null;
    return peakOf(day !== null && known.has(day) ? day : null);
  };
  const num = (c: Component, field: string): number => settingOf(c.kind, c.inputs, field) as number;
  const word = (c: Component, field: string): string => String(settingOf(c.kind, c.inputs, field));
  const zoneFactor = (z: number, field: "heatingFactor" | "coolingFactor"): number => effective(project, "zone", zoneIds[z], field).value as number;
  const lowest = days.filter((d) => d.for === "heating").reduce((t, d) => Math.min(t, ...d.outdoor), Infinity);

  const systems = new Map<string, System>(
    Object.entries(project.airSystems).map(([id, s]) => {
      const setting = settingOf("airSystem", s.inputs, "supplyTemperature");
      const span = signalSpan(project, setting);
      const reset = typeof setting === "string" && signalRef(setting).part === "resets" ? project.resets[signalRef(setting).id] : null;
      const thermostat = settingOf("airSystem", s.inputs, "supplyRule") === "room thermostat";
      return [
        id,
        {
          id,
          cools: s.parts.some((p) => p.kind === "coolingCoil"),
          heats: s.parts.some((p) => p.kind === "heatingCoil" && settingOf(p.kind, p.inputs, "leaving") === null),
          constant: settingOf("airSystem", s.inputs, "flow") === "constant",
          thermostat,
          coldest: span?.least ?? 14,
          winter: reset && lowest < Infinity ? resetAt(reset, lowest) : (span?.least ?? 14),
          heatingSupply: settingOf("airSystem", s.inputs, "heatingSupply") as number,
        },
      ];
    }),
  );

  // rooms: terminals and equipment
  const terminals: Terminal[] = [];
  const onHot = new Map<string, ((d: DesignLoads, t: number) => number)[]>();
  const onCold = new Map<string, ((d: DesignLoads, t: number) => number)[]>();
  /** Water the slabs of a loop are laid out for, kg/s. */
  const slabWater = new Map<string, number>();
  const draw = (of: typeof onHot, loop: unknown, load: (d: DesignLoads, t: number) => number): void => {
    if (typeof loop !== "string") return;
    of.set(loop, [...(of.get(loop) ?? []), load]);
  };
  const over = (use: DesignLoads["for"] | null, each: (d: DesignLoads, t: number) => void): void => {
    for (const d of days) if (use === null || d.for === use) for (let t = 0; t < d.steps; t++) each(d, t);
  };
  zoneIds.forEach((zone, z) => {
    const of = project.zones[zone].name;
    const times = multiplier[z];
    let heated = false;
    let cooled = false;
    for (const c of equipmentOf(project, zone)) {
      const path = ["zones", zone, "equipment", c.id];
      if (c.kind === "terminal") {
        const system = typeof c.inputs.system === "string" ? systems.get(c.inputs.system) : undefined;
        if (!system) continue;
        const reheats = word(c, "reheat") !== "none";
        const takesCooling: boolean = !cooled && system.cools;
        const takesHeating: boolean = !heated && (reheats || (system.thermostat && system.heats));
        const flow = none(path, "flow");
        over(null, (d, t) => {
          const air = d.air[z][t];
          raise(flow, d.outdoorAir[z][t], d.day, t, () => ({ "outdoor air": d.outdoorAir[z][t] }));
          if (takesCooling && d.for === "cooling") {
            const needs = (d.cool[z][t] * zoneFactor(z, "coolingFactor")) / (rc * Math.max(LEAST_DIFFERENCE, air - system.coldest));
            raise(flow, needs, d.day, t, () => ({ cooling: d.cool[z][t] }));
          }
          if (takesHeating && reheats && d.for === "heating")
            raise(flow, (d.heat[z][t] * zoneFactor(z, "heatingFactor")) / (rc * Math.max(LEAST_DIFFERENCE, num(c, "warmest") - air)), d.day, t, () => ({
              heating: d.heat[z][t],
            }));
          if (takesHeating && !reheats && d.for === "heating")
            raise(flow, (d.heat[z][t] * zoneFactor(z, "heatingFactor")) / (rc * Math.max(LEAST_DIFFERENCE, system.heatingSupply - air)), d.day, t, () => ({
              heating: d.heat[z][t],
            }));
        });
        const most = size(c, path, of, "flow", flow, num(c, "factor"));
        const terminal: Terminal = {
          zone: z,
          times,
          system,
          flow: most,
          least: system.constant ? most : most * num(c, "least"),
          reheats,
          takesCooling,
          takesHeating,
          warmest: reheats ? num(c, "warmest") : Infinity,
        };
        terminals.push(terminal);
        cooled ||= system.cools;
        if (reheats) {
          heated = true;
          const need = (d: DesignLoads, t: number): number => {
            const air = d.air[z][t];
            const supply = d.for === "heating" ? system.winter : system.coldest;
            const room = takesHeating ? d.heat[z][t] * zoneFactor(z, "heatingFactor") : 0;
            // as warm as it may be, else by more air than the least, all of it from the supply temperature
            const byMore = Math.min(terminal.flow, room / (rc * Math.max(LEAST_DIFFERENCE, num(c, "warmest") - air)));
            return Math.max(0, room + Math.max(terminal.least, byMore) * rc * Math.max(0, air - supply) - d.cool[z][t]);
          };
          const peak = none(path, "reheatCapacity");
          over(null, (d, t) =>
            raise(peak, need(d, t), d.day, t, () => ({ room: d.heat[z][t], "supply air to the room's temperature": need(d, t) - d.heat[z][t] })),
          );
          size(c, path, of, "reheatCapacity", peak, 1);
          if (word(c, "reheat") === "hot water") draw(onHot, c.inputs.loop, (d, t) => times * need(d, t));
        } else if (takesHeating) heated = true;
        continue;
      }
      if (c.kind === "slabCircuit") {
        const flow = num(c, "flow");
        const effectiveness =
          word(c, "given") === "effectiveness"
            ? num(c, "effectiveness")
            : circuitEffectiveness(
                pipeResistance(num(c, "spacing"), num(c, "diameter"), num(c, "wall"), num(c, "pipeConductivity"), SCREED, flow, num(c, "length")),
                flow,
              );
        const resistance = 1 / (flow * WATER_CP * effectiveness) + SLAB_LAYERS + SLAB_FILM;
        const carried = area[z] * (word(c, "where") === "floor and ceiling" ? 2 : 1);
        for (const [field, into, use] of [
          ["loop", onHot, "heating"],
          ["coldLoop", onCold, "cooling"],
        ] as const) {
          const id = c.inputs[field];
          const loop = typeof id === "string" ? project.loops[id] : undefined;
          const span = loop ? signalSpan(project, settingOf("loop", loop.inputs, "supplyTemperature")) : null;
          if (loop && carried > 0) slabWater.set(id as string, (slabWater.get(id as string) ?? 0) + times * flow * carried);
          if (span)
            draw(into, id, (d, t) =>
              d.for === use ? (times * carried * Math.max(0, use === "heating" ? span.most - d.air[z][t] : d.air[z][t] - span.least)) / resistance : 0,
            );
        }
        continue;
      }
      const heats = c.kind === "baseboard" || c.kind === "unitHeater" || word(c, "heat") !== "none";
      const cools = (c.kind === "fanCoil" && word(c, "cold") !== "none") || (c.kind === "splitUnit" && word(c, "cooling") === "yes");
      const takesHeat: boolean = heats && !heated;
      const takesCold: boolean = cools && !cooled;
      const single = c.kind === "baseboard" || c.kind === "unitHeater";
      const heat = none(path, single ? "capacity" : "heatingCapacity");
      const cool = none(path, "coolingCapacity");
      const ratingOf = (d: DesignLoads, t: number): number => {
        if (c.kind !== "splitUnit" || word(c, "heat") !== "heat pump" || d.outdoor[t] < num(c, "leastOutdoor")) return 1;
        return Math.max(0.3, biquadratic(machineCurves["split unit, heating"].capacity, d.air[z][t], d.outdoor[t]));
      };
      over(null, (d, t) => {
        if (takesHeat && d.for === "heating") raise(heat, d.heat[z][t] / ratingOf(d, t), d.day, t, () => ({ room: d.heat[z][t] }));
        const total = d.cool[z][t] + d.latent[z][t];
        if (takesCold && d.for === "cooling") raise(cool, total, d.day, t, () => ({ sensible: d.cool[z][t], latent: d.latent[z][t] }));
      });
      if (heats) {
        size(c, path, of, single ? "capacity" : "heatingCapacity", heat, zoneFactor(z, "heatingFactor"));
        if (takesHeat && word(c, "heat") === "hot water") draw(onHot, c.inputs.loop, (d, t) => (d.for === "heating" ? times * d.heat[z][t] : 0));
      }
      if (cools) {
        size(c, path, of, "coolingCapacity", cool, zoneFactor(z, "coolingFactor"));
        if (takesCold && c.kind === "fanCoil") draw(onCold, c.inputs.coldLoop, (d, t) => (d.for === "cooling" ? times * (d.cool[z][t] + d.latent[z][t]) : 0));
      }
      heated ||= heats;
      cooled ||= cools;
    }
  });

  // systems: air of all rooms at one time, and the coils by the state of the air through them
  for (const system of systems.values()) {
    const doc = project.airSystems[system.id];
    const mine = terminals.filter((x) => x.system === system);
    const flowAt = (x: Terminal, d: DesignLoads, t: number): number => {
      if (system.constant) return x.flow;
      const air = d.air[x.zone][t];
      let needs = x.takesCooling ? d.cool[x.zone][t] / (rc * Math.max(LEAST_DIFFERENCE, air - system.coldest)) : d.outdoorAir[x.zone][t];
      if (x.takesHeating && x.warmest < Infinity) needs = Math.max(needs, d.heat[x.zone][t] / (rc * Math.max(LEAST_DIFFERENCE, x.warmest - air)));
      return Math.max(x.least, Math.min(x.flow, needs));
    };
    const together = (d: DesignLoads, t: number): number => mine.reduce((s, x) => s + x.times * flowAt(x, d, t), 0);
    let rise = 0;
    for (const p of doc.parts)
      if (p.kind === "supplyFan" || p.kind === "returnFan") {
        const path = ["airSystems", system.id, "parts", p.id];
        const fans = none(path, "flow");
        over(null, (d, t) => raise(fans, together(d, t), d.day, t, () => ({})));
        const flow = size(p, path, doc.name, "flow", fans, num(p, "factor"));
        if (p.kind === "supplyFan" && flow > 0) rise += (fanDesignPower(flow, num(p, "pressure"), num(p, "efficiency")) * num(p, "heatIntoAir")) / (flow * rc);
      }
    const mixing = doc.parts.find((p) => p.kind === "mixing");
    const recovery = doc.parts.find((p) => p.kind === "recovery");
    /** The air as it comes to the coils. */
    const before = (d: DesignLoads, t: number): { flow: number; t: number; w: number; outdoor: number; returned: number } => {
      const flow = together(d, t);
      const mean = (of: readonly Float64Array[]): number =>
        flow > 0 ? mine.reduce((s, x) => s + x.times * flowAt(x, d, t) * of[x.zone][t], 0) / flow : (of[0]?.[t] ?? 20);
      const returned = mean(d.air);
      const wet = mean(d.humidity);
      const asked = !mixing
        ? flow
        : word(mixing, "outdoorGiven") === "flow"
          ? num(mixing, "outdoorFlow")
          : word(mixing, "outdoorGiven") === "share of the supply air"
            ? num(mixing, "outdoorShare") * flow
            : mine.reduce((s, x) => s + x.times * d.outdoorAir[x.zone][t], 0);
      const part = flow > 0 ? Math.min(1, asked / flow) : 0;
      const winter = d.for === "heating";
      const helps = recovery && (winter ? d.outdoor[t] < returned : d.outdoor[t] > returned);
      const to = d.outdoor[t] + (helps ? num(recovery, "sensible") * (returned - d.outdoor[t]) : 0);
      const wo = d.ratio[t] + (helps ? num(recovery, "latent") * (wet - d.ratio[t]) : 0);
      return { flow, t: part * to + (1 - part) * returned, w: part * wo + (1 - part) * wet, outdoor: part * flow, returned };
    };
    for (const p of doc.parts) {
      const path = ["airSystems", system.id, "parts", p.id];
      if (p.kind === "coolingCoil") {
        const load = (d: DesignLoads, t: number): { total: number; parts: Record<string, number> } => {
          const a = before(d, t);
          const leaving = system.coldest - rise;
          if (!(leaving < a.t)) return { total: 0, parts: {} };
          const bypass = num(p, "bypass");
          const w = leavingRatio(a.t, a.w, leaving, bypass, d.pressure);
          const mass = a.flow * density;
          const sensible = mass * cp * (a.t - leaving);
          const latent = mass * LATENT_HEAT * (a.w - w);
          const rooms = mass * cp * (a.returned - system.coldest);
          return { total: sensible + latent, parts: { rooms, "outdoor air": sensible - rooms - mass * cp * rise, "fan heat": mass * cp * rise, latent } };
        };
        const peak = none(path, "capacity");
        over("cooling", (d, t) => {
          const { total, parts } = load(d, t);
          raise(peak, total, d.day, t, () => parts);
        });
        size(p, path, doc.name, "capacity", peak, num(p, "factor"));
        if (word(p, "cold") === "chilled water") draw(onCold, p.inputs.loop, (d, t) => (d.for === "cooling" ? load(d, t).total : 0));
      } else if (p.kind === "heatingCoil") {
        const preheat = settingOf(p.kind, p.inputs, "leaving") as number | null;
        const heatsRooms = system.thermostat || mine.every((x) => !x.reheats);
        const load = (d: DesignLoads, t: number): { total: number; parts: Record<string, number> } => {
          const a = before(d, t);
          const mass = a.flow * density;
          if (preheat !== null) {
            const through = mixing && doc.parts.indexOf(p) < doc.parts.indexOf(mixing) ? a.outdoor * density : mass;
            return { total: through * cp * Math.max(0, preheat - (through === mass ? a.t : d.outdoor[t])), parts: {} };
          }
          const air = mass * cp * Math.max(0, (system.thermostat ? a.returned : system.winter) - rise - a.t);
          const rooms = heatsRooms ? mine.reduce((s, x) => s + (x.takesHeating ? x.times * d.heat[x.zone][t] * zoneFactor(x.zone, "heatingFactor") : 0), 0) : 0;
          return { total: air + rooms, parts: { "outdoor air": air, rooms } };
        };
        const peak = none(path, "capacity");
        over("heating", (d, t) => {
          const { total, parts } = load(d, t);
          raise(peak, total, d.day, t, () => parts);
        });
        size(p, path, doc.name, "capacity", peak, num(p, "factor"));
        if (word(p, "heat") === "hot water") draw(onHot, p.inputs.loop, (d, t) => (d.for === "heating" ? load(d, t).total : 0));
      }
    }
  }

  // loops: everything that draws at one time
  for (const [id, loop] of Object.entries(project.loops)) {
    const hot = loop.kind === "hot water";
    const loads = (hot ? onHot : onCold).get(id) ?? [];
    const peakFor = (path: readonly string[], field: string): Peak => {
      const peak = none(path, field);
      over(null, (d, t) =>
        raise(
          peak,
          loads.reduce((s, f) => s + f(d, t), 0),
          d.day,
          t,
          () => ({}),
        ),
      );
      return peak;
    };
    const difference = settingOf("loop", loop.inputs, "difference") as number;
    const sources = loop.parts.filter((p) => isSource(p.kind));
    // what is typed serves first; the rest is shared by the sources that are left to sizing
    const typed = sources.reduce(
      (s, p) => s + (isSized(p.kind, p.inputs, "capacity") ? 0 : ((settingOf(p.kind, p.inputs, "capacity") as number | null) ?? Infinity)),
      0,
    );
    const open = sources.filter((p) => isSized(p.kind, p.inputs, "capacity")).length;
    for (const p of loop.parts) {
      const path = ["loops", id, "parts", p.id];
      if (p.kind === "pump") {
        // no less than what its slabs are laid out for
        const peak = peakFor(path, "flow");
        const flow = { ...peak, value: Math.max(peak.value / (WATER_CP * difference), slabWater.get(id) ?? 0) / WATER_DENSITY, parts: {} };
        size(p, path, loop.name, "flow", flow, 1);
      } else if (isSource(p.kind)) {
        const peak = peakFor(path, "capacity");
        size(p, path, loop.name, "capacity", { ...peak, value: Math.max(0, peak.value - typed) / Math.max(1, open) }, num(p, "factor"));
      }
    }
  }
  return out;
}
