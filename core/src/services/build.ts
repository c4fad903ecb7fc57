import {
  componentName,
  settingOf,
  SIZED,
  type Component,
  type ComponentKind,
  type Fuel,
  type PlacedComponent,
  type Project,
  type ServiceField,
} from "../model/index.ts";
import { signalSpan } from "../use/index.ts";
import { BY, MOIST, RULE, type AirPart, type AirSystemModel, type FanPart, type MixingPart, type RecoveryPart } from "./airPath.ts";
import { AS_RATED, machineCurves } from "./curves.ts";
import { fanDesignPower, partFlowShape } from "./fan.ts";
import { follow, type DriveOf, type Followed } from "./follow.ts";
import { ECONOMIZER } from "./mixing.ts";
import type { LoopModel, SourceModel } from "./plant.ts";
import { pumpDesignPower, WATER_DENSITY } from "./pump.ts";
import type { EndUse } from "./plain.ts";

/** What a component's electricity and fuel are counted as. */
export interface ComponentInfo {
  readonly path: readonly string[];
  readonly kind: ComponentKind;
  readonly name: string;
  /** What it belongs to: a system, a loop or a zone, by name. */
  readonly of: string;
  readonly powerUse: EndUse;
  readonly fuel: Fuel | null;
  readonly fuelUse: EndUse;
  /** How many times its outputs count: the copies of a multiplied storey for room equipment. */
  readonly times: number;
}

/** A piece of room equipment. */
export interface DeviceModel {
  readonly component: number;
  readonly kind: "terminal" | "baseboard" | "fanCoil" | "unitHeater" | "splitUnit" | "slabCircuit";
  readonly zone: number;
  readonly times: number;
  /** One of BY, and the loops of heat and cold (−1: none). */
  readonly heat: number;
  readonly cold: number;
  readonly heatLoop: number;
  readonly coldLoop: number;
  /** W at the design temperatures; Infinity: unlimited; 0: does not. */
  readonly heatCapacity: number;
  readonly coolCapacity: number;
  readonly efficiency: number;
  readonly heatingCop: number;
  readonly coolingCop: number;
  readonly leastOutdoor: number;
  readonly backup: boolean;
  readonly fanShare: number;
  /** Of terminals: their system, design and least flow, kg/s of dry air. */
  readonly system: number;
  readonly flow: number;
  readonly least: number;
  /** Warmest air they give, °C. */
  readonly warmest: number;
  readonly slab: SlabSettings | null;
}
/** Settings of a slab circuit; what its faces are is found when the model is compiled. */
export interface SlabSettings {
  readonly where: string;
  readonly effectiveness: number;
  readonly pipes: { readonly spacing: number; readonly diameter: number; readonly wall: number; readonly conductivity: number; readonly length: number } | null;
  /** kg/s·m² */
  readonly flow: number;
  readonly rule: string;
  readonly season: number;
  readonly guard: number;
}

/** Air systems, room equipment and plant of a project as numbers, in the order a step takes them. */
export interface ServiceModel {
  readonly components: readonly ComponentInfo[];
  readonly systems: readonly AirSystemModel[];
  readonly devices: readonly DeviceModel[];
  readonly loops: readonly LoopModel[];
  /** Devices of each zone in order of heating; empty: plain services. */
  readonly ofZone: readonly Int32Array[];
  /** 1: its outdoor air comes by a terminal; 1: it has any equipment. */
  readonly onAir: Uint8Array;
  readonly equipped: Uint8Array;
  /** Whether any loop has a tower, for which the outdoor wet bulb is needed. */
  readonly towers: boolean;
}

/** Sizes found for settings that are left to sizing, by address: "zones/a/equipment/b/inputs/flow". */
export type ComponentSizes = Readonly<Record<string, number>>;

export interface BuildContext {
  readonly zoneIds: readonly string[];
  readonly multiplier: Float64Array;
  readonly area: Float64Array;
  readonly rowOf: (id: string) => number;
  /** Air that typed flows are given for, kg/m³. */
  readonly density: number;
  readonly sizes: ComponentSizes;
  readonly driveOf: DriveOf;
}

const ECONOMIZERS: Readonly<Record<string, number>> = {
  none: ECONOMIZER.NONE,
  "fixed dry bulb": ECONOMIZER.FIXED,
  "differential dry bulb": ECONOMIZER.DIFFERENTIAL,
  enthalpy: ECONOMIZER.ENTHALPY,
};
const HEATED_BY: Readonly<Record<string, number>> = {
  none: BY.NONE,
  "hot water": BY.WATER,
  gas: BY.GAS,
  electricity: BY.ELECTRICITY,
  "heat pump": BY.REFRIGERANT,
};

/** Equipment of a zone that serves it. */
export const equipmentOf = (project: Pick<Project, "zones">, zone: string): readonly Component[] => project.zones[zone].equipment ?? [];
/** Whether a zone's air comes from a system. */
export const isOnAir = (project: Pick<Project, "zones" | "airSystems">, zone: string): boolean =>
  equipmentOf(project, zone).some((c) => c.kind === "terminal" && typeof c.inputs.system === "string" && Object.hasOwn(project.airSystems, c.inputs.system));

/**
 * Systems, equipment and plant of a project; null where every zone has plain services.
 * @throws RangeError when a setting left to sizing has no size
 */
export function buildServices(project: Project, context: BuildContext): ServiceModel | null {
  const { zoneIds, multiplier, rowOf, density, sizes, driveOf } = context;
  if (!zoneIds.some((z) => equipmentOf(project, z).length > 0)) return null;
  const components: ComponentInfo[] = [];
  const systemIds = Object.keys(project.airSystems).sort();
  const loopIds = Object.keys(project.loops).sort();
  const raw = (c: PlacedComponent, field: string): number | string | null => {
    const v = settingOf(c.kind, c.inputs, field);
    if (v !== SIZED) return v;
    const address = [...c.path, "inputs", field].join("/");
    if (!Object.hasOwn(sizes, address)) throw new RangeError(`${address} has no size`);
    return sizes[address];
  };
  const numberOf = <K extends ComponentKind>(c: PlacedComponent & { kind: K }, field: ServiceField<K>): number => (raw(c, field) as number | null) ?? NaN;
  const wordOf = <K extends ComponentKind>(c: PlacedComponent & { kind: K }, field: ServiceField<K>): string => String(raw(c, field));
  const signalOf = <K extends ComponentKind>(c: PlacedComponent & { kind: K }, field: ServiceField<K>): Followed =>
    driveOf([...c.path, "inputs", field].join("/"), follow(project, raw(c, field), rowOf));
  /** Row of a schedule; −1 for none, and nothing drives it. */
  const hoursOf = (c: PlacedComponent, field: string): number => {
    const id = raw(c, field);
    return driveOf([...c.path, "inputs", field].join("/"), { value: NaN, row: typeof id === "string" ? rowOf(id) : -1, reset: null }).row;
  };
  const loopAt = (c: PlacedComponent, field: string): number => {
    const id = raw(c, field);
    return typeof id === "string" ? loopIds.indexOf(id) : -1;
  };
  const add = (c: PlacedComponent, of: string, uses: Partial<Pick<ComponentInfo, "powerUse" | "fuel" | "fuelUse" | "times">>): number =>
    components.push({ path: c.path, kind: c.kind, name: componentName(c), of, powerUse: "heating", fuel: null, fuelUse: "heating", times: 1, ...uses }) - 1;
  const placed = <K extends ComponentKind>(c: Component<K>, ...path: string[]): PlacedComponent & { kind: K } => ({ ...c, path });

  const fanOf = (c: PlacedComponent & { kind: "supplyFan" | "returnFan" }, of: string, variable: boolean): FanPart => {
    const flow = numberOf(c, "flow");
    return {
      kind: c.kind,
      component: add(c, of, { powerUse: "fans" }),
      flow: flow * density,
      power: fanDesignPower(flow, numberOf(c, "pressure"), numberOf(c, "efficiency")),
      heat: numberOf(c, "heatIntoAir"),
      shape: variable ? partFlowShape(wordOf(c, "partLoad")) : partFlowShape("pressure held"),
    };
  };

  const devices: DeviceModel[] = [];
  const ofZone = zoneIds.map((zone, z) =>
    Int32Array.from(
      equipmentOf(project, zone).flatMap((c) => {
        const d = deviceOf(placed(c, "zones", zone, "equipment", c.id), z);
        return d ? [devices.push(d) - 1] : [];
      }),
    ),
  );

  function deviceOf(p: PlacedComponent, zone: number): DeviceModel | null {
    const times = multiplier[zone];
    const of = project.zones[zoneIds[zone]].name;
    const base: Omit<DeviceModel, "component" | "kind"> = {
      zone,
      times,
      heat: BY.NONE,
      cold: BY.NONE,
      heatLoop: -1,
      coldLoop: -1,
      heatCapacity: 0,
      coolCapacity: 0,
      efficiency: 1,
      heatingCop: 1,
      coolingCop: 1,
      leastOutdoor: -Infinity,
      backup: false,
      fanShare: 0,
      system: -1,
      flow: 0,
      least: 0,
      warmest: Infinity,
      slab: null,
    };
    const heatBy = (word: string): number => HEATED_BY[word] ?? BY.NONE;
    const able = (by: number, loop: number): boolean => by !== BY.NONE && (by !== BY.WATER || loop >= 0);
    if (p.kind === "terminal") {
      const c = p as PlacedComponent & { kind: "terminal" };
      const id = raw(c, "system");
      const system = typeof id === "string" ? systemIds.indexOf(id) : -1;
      if (system < 0) return null;
      const by = heatBy(wordOf(c, "reheat"));
      const heatLoop = by === BY.WATER ? loopAt(c, "loop") : -1;
      const heats = able(by, heatLoop);
      const constant = settingOf("airSystem", project.airSystems[systemIds[system]].inputs, "flow") === "constant";
      const flow = numberOf(c, "flow") * density;
      return {
        ...base,
        component: add(c, of, { times, powerUse: "heating" }),
        kind: "terminal",
        heat: heats ? by : BY.NONE,
        heatLoop,
        heatCapacity: heats ? numberOf(c, "reheatCapacity") : 0,
        system,
        flow,
        least: constant ? flow : flow * numberOf(c, "least"),
        warmest: numberOf(c, "warmest"),
      };
    }
    if (p.kind === "baseboard" || p.kind === "unitHeater") {
      const c = p as PlacedComponent & { kind: "unitHeater" };
      const by = heatBy(wordOf(c, "heat"));
      const heatLoop = by === BY.WATER ? loopAt(c, "loop") : -1;
      return {
        ...base,
        component: add(c, of, { times, powerUse: by === BY.ELECTRICITY ? "heating" : "fans", fuel: by === BY.GAS ? "gas" : null }),
        kind: p.kind,
        heat: able(by, heatLoop) ? by : BY.NONE,
        heatLoop,
        heatCapacity: able(by, heatLoop) ? numberOf(c, "capacity") : 0,
        efficiency: by === BY.GAS ? numberOf(c, "efficiency") : 1,
        fanShare: p.kind === "unitHeater" ? numberOf(c, "fanShare") : 0,
      };
    }
    if (p.kind === "fanCoil") {
      const c = p as PlacedComponent & { kind: "fanCoil" };
      const by = heatBy(wordOf(c, "heat"));
      const heatLoop = by === BY.WATER ? loopAt(c, "loop") : -1;
      const coldLoop = wordOf(c, "cold") === "chilled water" ? loopAt(c, "coldLoop") : -1;
      return {
        ...base,
        component: add(c, of, { times, powerUse: "fans" }),
        kind: "fanCoil",
        heat: able(by, heatLoop) ? by : BY.NONE,
        cold: coldLoop >= 0 ? BY.WATER : BY.NONE,
        heatLoop,
        coldLoop,
        heatCapacity: able(by, heatLoop) ? numberOf(c, "heatingCapacity") : 0,
        coolCapacity: coldLoop >= 0 ? numberOf(c, "coolingCapacity") : 0,
        fanShare: numberOf(c, "fanShare"),
      };
    }
    if (p.kind === "splitUnit") {
      const c = p as PlacedComponent & { kind: "splitUnit" };
      const by = heatBy(wordOf(c, "heat"));
      const cools = wordOf(c, "cooling") === "yes";
      return {
        ...base,
        component: add(c, of, { times, powerUse: "heating" }),
        kind: "splitUnit",
        heat: by,
        cold: cools ? BY.REFRIGERANT : BY.NONE,
        heatCapacity: by === BY.NONE ? 0 : numberOf(c, "heatingCapacity"),
        coolCapacity: cools ? numberOf(c, "coolingCapacity") : 0,
        heatingCop: numberOf(c, "heatingCop"),
        coolingCop: numberOf(c, "coolingCop"),
        leastOutdoor: by === BY.REFRIGERANT ? numberOf(c, "leastOutdoor") : -Infinity,
        backup: by === BY.REFRIGERANT && wordOf(c, "backup") === "electricity",
      };
    }
    if (p.kind !== "slabCircuit") return null;
    const c = p as PlacedComponent & { kind: "slabCircuit" };
    const heatLoop = loopAt(c, "loop");
    const coldLoop = loopAt(c, "coldLoop");
    return {
      ...base,
      component: add(c, of, { times }),
      kind: "slabCircuit",
      heat: heatLoop >= 0 ? BY.WATER : BY.NONE,
      cold: coldLoop >= 0 ? BY.WATER : BY.NONE,
      heatLoop,
      coldLoop,
      slab: {
        where: wordOf(c, "where"),
        effectiveness: numberOf(c, "effectiveness"),
        pipes:
          wordOf(c, "given") === "pipes"
            ? {
                spacing: numberOf(c, "spacing"),
                diameter: numberOf(c, "diameter"),
                wall: numberOf(c, "wall"),
                conductivity: numberOf(c, "pipeConductivity"),
                length: numberOf(c, "length"),
              }
            : null,
        flow: numberOf(c, "flow"),
        rule: wordOf(c, "flowRule"),
        season: hoursOf(c, "season"),
        guard: numberOf(c, "guard"),
      },
    };
  }

  const systems = systemIds.map((id, index): AirSystemModel => {
    const system = project.airSystems[id];
    const own = placed({ id, kind: "airSystem", name: system.name, inputs: system.inputs }, "airSystems", id);
    const component = add(own, system.name, {});
    const variable = wordOf(own, "flow") === "variable";
    const terminals = Int32Array.from(devices.keys()).filter((d) => devices[d].system === index);
    let returnFan: FanPart | null = null;
    const parts: AirPart[] = [];
    for (const p of system.parts) {
      const at = placed(p, "airSystems", id, "parts", p.id);
      if (at.kind === "returnFan") returnFan = fanOf(at as PlacedComponent & { kind: "returnFan" }, system.name, variable);
      else if (at.kind === "supplyFan") parts.push(fanOf(at as PlacedComponent & { kind: "supplyFan" }, system.name, variable));
      else if (at.kind === "recovery") {
        const c = at as PlacedComponent & { kind: "recovery" };
        parts.push({
          kind: "recovery",
          component: add(c, system.name, {}),
          sensible: numberOf(c, "sensible"),
          latent: numberOf(c, "latent"),
          bypass: wordOf(c, "bypass") !== "none",
          frost: raw(c, "frostLimit") === null ? -Infinity : numberOf(c, "frostLimit"),
        });
      } else if (at.kind === "mixing") {
        const c = at as PlacedComponent & { kind: "mixing" };
        const given = wordOf(c, "outdoorGiven");
        parts.push({
          kind: "mixing",
          component: add(c, system.name, {}),
          share: given === "sum of the rooms" ? NaN : given === "flow" ? 0 : numberOf(c, "outdoorShare"),
          flow: given === "flow" ? numberOf(c, "outdoorFlow") : 0,
          economizer: ECONOMIZERS[wordOf(c, "economizer")],
          highLimit: numberOf(c, "highLimit"),
          locksCoil: wordOf(c, "withCoil") !== "together",
        });
      } else if (at.kind === "heatingCoil") {
        const c = at as PlacedComponent & { kind: "heatingCoil" };
        const by = HEATED_BY[wordOf(c, "heat")];
        parts.push({
          kind: "heatingCoil",
          component: add(c, system.name, { fuel: by === BY.GAS ? "gas" : null }),
          by,
          loop: by === BY.WATER ? loopAt(c, "loop") : -1,
          efficiency: numberOf(c, "efficiency"),
          capacity: numberOf(c, "capacity"),
          leaving: numberOf(c, "leaving"),
        });
      } else if (at.kind === "humidifier") {
        const c = at as PlacedComponent & { kind: "humidifier" };
        const by = wordOf(c, "by");
        parts.push({
          kind: "humidifier",
          component: add(c, system.name, { powerUse: "humidification", fuel: by === "gas steam" ? "gas" : null, fuelUse: "humidification" }),
          by: by === "gas steam" ? MOIST.GAS : by === "evaporation" ? MOIST.EVAPORATION : MOIST.ELECTRIC,
          least: numberOf(c, "least"),
          most: raw(c, "most") === null ? Infinity : numberOf(c, "most"),
          efficiency: numberOf(c, "efficiency"),
        });
      } else {
        const c = at as PlacedComponent & { kind: "coolingCoil" };
        const water = wordOf(c, "cold") === "chilled water";
        parts.push({
          kind: "coolingCoil",
          component: add(c, system.name, { powerUse: "cooling" }),
          by: water ? BY.WATER : BY.REFRIGERANT,
          loop: water ? loopAt(c, "loop") : -1,
          cop: numberOf(c, "cop"),
          capacity: numberOf(c, "capacity"),
          bypass: numberOf(c, "bypass"),
          curves: machineCurves["direct expansion"],
        });
      }
    }
    const rules = { "set temperature": RULE.SET, "warmest room": RULE.WARMEST, "room thermostat": RULE.THERMOSTAT } as const;
    const largest = [...terminals].reduce((best, d) => (best < 0 || context.area[devices[d].zone] > context.area[best] ? devices[d].zone : best), -1);
    return {
      component,
      variable,
      rule: rules[wordOf(own, "supplyRule") as keyof typeof rules],
      supply: signalOf(own, "supplyTemperature"),
      warmest: numberOf(own, "supplyWarmest"),
      heatingSupply: numberOf(own, "heatingSupply"),
      hours: hoursOf(own, "hours"),
      night: wordOf(own, "night") !== "stands still",
      nightBand: numberOf(own, "nightBand"),
      minimumRun: 60 * numberOf(own, "minimumRun"),
      parts,
      returnFan,
      mixesAt: parts.findIndex((x) => x.kind === "mixing"),
      mixing: (parts.find((x) => x.kind === "mixing") as MixingPart | undefined) ?? null,
      recovery: (parts.find((x) => x.kind === "recovery") as RecoveryPart | undefined) ?? null,
      terminals,
      controlZone: largest,
      reheats: terminals.length > 0 && [...terminals].every((d) => devices[d].heat !== BY.NONE),
    };
  });

  const loops = loopIds.map((id): LoopModel => {
    const loop = project.loops[id];
    const hot = loop.kind === "hot water";
    const own = placed({ id, kind: "loop", name: loop.name, inputs: loop.inputs }, "loops", id);
    const component = add(own, loop.name, { powerUse: "pumps" });
    const use: EndUse = hot ? "heating" : "cooling";
    const setting = settingOf("loop", loop.inputs, "supplyTemperature");
    const span = signalSpan(project, setting);
    let pump: LoopModel["pump"] = null;
    const sources: SourceModel[] = [];
    const towered = loop.parts.some((p) => p.kind === "tower");
    let tower: LoopModel["tower"] = null;
    for (const p of loop.parts) {
      const at = placed(p, "loops", id, "parts", p.id);
      if (at.kind === "pump") {
        const c = at as PlacedComponent & { kind: "pump" };
        const flow = numberOf(c, "flow");
        pump = {
          component: add(c, loop.name, { powerUse: "pumps" }),
          flow: flow * WATER_DENSITY,
          power: pumpDesignPower(flow, numberOf(c, "head"), numberOf(c, "efficiency")),
          variable: wordOf(c, "control") === "variable",
          heat: numberOf(c, "heatIntoWater"),
        };
      } else if (at.kind === "boiler") {
        const c = at as PlacedComponent & { kind: "boiler" };
        const fuel = wordOf(c, "fuel") as Fuel;
        const electric = fuel === "electricity";
        sources.push({
          kind: "boiler",
          component: add(c, loop.name, { powerUse: use, fuel: electric ? null : fuel, fuelUse: use }),
          electric,
          capacity: numberOf(c, "capacity"),
          efficiency: numberOf(c, "efficiency"),
          condensing: wordOf(c, "condensing") === "yes" ? numberOf(c, "condensingEfficiency") : NaN,
          standingLoss: numberOf(c, "standingLoss"),
        });
      } else if (at.kind === "chiller") {
        const c = at as PlacedComponent & { kind: "chiller" };
        const water = wordOf(c, "condenser") === "water of a tower" && towered;
        sources.push({
          kind: "chiller",
          component: add(c, loop.name, { powerUse: use }),
          capacity: numberOf(c, "capacity"),
          cop: numberOf(c, water ? "waterCop" : "cop"),
          curves: machineCurves[wordOf(c, water ? "waterCurves" : "curves")] ?? AS_RATED,
          water,
        });
      } else if (at.kind === "heatPump") {
        const c = at as PlacedComponent & { kind: "heatPump" };
        sources.push({
          kind: "heatPump",
          component: add(c, loop.name, { powerUse: use }),
          capacity: numberOf(c, "capacity"),
          cop: numberOf(c, "cop"),
          curves: machineCurves[wordOf(c, "curves")] ?? AS_RATED,
          leastOutdoor: numberOf(c, "leastOutdoor"),
        });
      } else if (at.kind === "tower") {
        const c = at as PlacedComponent & { kind: "tower" };
        tower ??= {
          component: add(c, loop.name, { powerUse: "heat rejection" }),
          approach: numberOf(c, "approach"),
          least: numberOf(c, "least"),
          power: numberOf(c, "power"),
        };
      } else if (at.kind === "district") {
        const c = at as PlacedComponent & { kind: "district" };
        sources.push({
          kind: "district",
          component: add(c, loop.name, { fuel: hot ? "district heat" : "district cooling", fuelUse: use }),
          capacity: numberOf(c, "capacity"),
          efficiency: numberOf(c, "efficiency"),
        });
      } else {
        const c = at as PlacedComponent & { kind: "naturalSource" };
        sources.push({
          kind: "naturalSource",
          component: add(c, loop.name, { powerUse: "pumps" }),
          capacity: numberOf(c, "capacity"),
          temperature: signalOf(c, "temperature"),
          approach: numberOf(c, "approach"),
          power: numberOf(c, "power"),
        });
      }
    }
    return {
      component,
      hot,
      supply: signalOf(own, "supplyTemperature"),
      design: span === null ? NaN : hot ? span.most : span.least,
      difference: numberOf(own, "difference"),
      pump,
      sources,
      tower,
    };
  });

  return {
    components,
    systems,
    devices,
    loops,
    ofZone,
    onAir: Uint8Array.from(ofZone, (list) => +[...list].some((d) => devices[d].kind === "terminal")),
    equipped: Uint8Array.from(ofZone, (list) => +(list.length > 0)),
    towers: loops.some((l) => l.tower !== null),
  };
}
