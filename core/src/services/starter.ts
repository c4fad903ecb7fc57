import {
  applyChanges,
  drawnFrom,
  loopStart,
  setChange,
  zonesOnSystem,
  type AirSystem,
  type Change,
  type Component,
  type EquipmentKind,
  type InputValue,
  type Loop,
  type LoopKind,
  type Project,
} from "../model/index.ts";

/** Systems by plain description. */
export const systemChoices = [
  { id: "variable", words: "Variable air volume with reheat", about: "One air system; each room throttles its air and reheats it by hot water." },
  { id: "constant", words: "Constant air volume with reheat", about: "One air system at full flow; each room reheats its air by hot water." },
  {
    id: "variable refrigerant",
    words: "Variable air volume, direct expansion",
    about: "Cooled by its own refrigerant circuit, heated by gas, electric reheat in the rooms.",
  },
  { id: "single", words: "Single-zone unit for each room", about: "A constant fan a room, gas heat and direct expansion after the room's thermostat." },
  {
    id: "fan coils",
    words: "Fan coils with fresh air from an outdoor-air unit",
    about: "Hot and chilled water in the rooms; outdoor air with heat recovery from one unit.",
  },
  {
    id: "split units",
    words: "Split heat pumps with fresh air from an outdoor-air unit",
    about: "A heat pump a room; outdoor air with heat recovery and an electric coil from one unit.",
  },
  {
    id: "slabs",
    words: "Slabs heated and cooled, with fresh air from an outdoor-air unit",
    about: "Water through floors or ceilings that have a circuit; outdoor air with heat recovery.",
  },
  { id: "baseboards", words: "Baseboards with heat-only ventilation", about: "Hot water in the rooms; outdoor air with heat recovery, heated and not cooled." },
] as const;
export type SystemChoice = (typeof systemChoices)[number]["id"];
export const plantChoices = [
  { id: "boiler and chiller", words: "Gas boiler and air-cooled chiller" },
  { id: "heat pump and chiller", words: "Air-source heat pump and air-cooled chiller" },
  { id: "district", words: "District heat and cold" },
] as const;
export type PlantChoice = (typeof plantChoices)[number]["id"];

type Inputs = Readonly<Record<string, InputValue>>;
const part = <K extends Component["kind"]>(id: string, kind: K, inputs: Inputs = {}): Component<K> => ({ id, kind, inputs });

/** A key that is not taken yet: a word, or the word with a number. */
export function freeKey(taken: Readonly<Record<string, unknown>>, word: string): string {
  const base =
    word
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "_")
      .replace(/^_|_$/g, "")
      .slice(0, 40) || "system";
  if (!Object.hasOwn(taken, base)) return base;
  for (let i = 2; ; i++) if (!Object.hasOwn(taken, `${base}_${i}`)) return `${base}_${i}`;
}

/** A loop of a kind with its pump and sources, all left to sizing. */
export function newLoop(kind: LoopKind, plant: PlantChoice): Loop {
  const hot = kind === "hot water";
  const pumped = plant === "heat pump and chiller" && hot;
  return {
    name: hot ? "Hot water" : "Chilled water",
    kind,
    inputs: pumped ? { supplyTemperature: 45, difference: 7 } : { ...loopStart[kind] },
    parts: [
      part("pump", "pump"),
      plant === "district"
        ? part("district", "district")
        : hot
          ? pumped
            ? part("heat_pump", "heatPump")
            : part("boiler", "boiler")
          : part("chiller", "chiller"),
    ] as Loop["parts"],
  };
}

/** What served something before a change and serves nothing after it is removed with it: air systems without a room, loops that nothing draws on. */
function withoutOrphans(project: Project, changes: readonly Change[]): Change[] {
  const out = [...changes];
  // a system first: loops of its coils may be left over by it
  for (const part of ["airSystems", "loops"] as const) {
    const made = applyChanges(project, out);
    if (!made.ok) return out;
    const users = (p: Project, id: string): number => (part === "loops" ? drawnFrom(p, id) : zonesOnSystem(p, id)).length;
    for (const id of Object.keys(project[part]))
      if (users(project, id) > 0 && users(made.project, id) === 0) out.push({ op: "remove", path: [part, id], old: made.project[part][id] });
  }
  return out;
}

/**
 * Changes that put zones on a system chosen by plain description, everything left to sizing. Loops that are there are used; what is
 * lacking is made with the plant. What served the zones before is taken from them, and removed where it serves nothing any more.
 */
export function systemChanges(project: Project, choice: SystemChoice, plant: PlantChoice, zones: readonly string[], name: string): Change[] {
  return withoutOrphans(project, newSystem(project, choice, plant, zones, name));
}

function newSystem(project: Project, choice: SystemChoice, plant: PlantChoice, zones: readonly string[], name: string): Change[] {
  const changes: Change[] = [];
  const made: Record<string, Loop> = { ...project.loops };
  const loopOf = (kind: LoopKind): string => {
    const there = Object.entries(made).find(([, l]) => l.kind === kind);
    if (there) return there[0];
    const key = freeKey(made, kind === "hot water" ? "hot" : "chilled");
    made[key] = newLoop(kind, plant);
    changes.push({ op: "insert", path: ["loops", key], value: made[key] });
    return key;
  };
  const systems: Record<string, AirSystem> = { ...project.airSystems };
  const systemOf = (called: string, inputs: Inputs, parts: readonly Component[]): string => {
    const key = freeKey(systems, called);
    systems[key] = { name: called, inputs, parts: [...parts] as AirSystem["parts"] };
    changes.push({ op: "insert", path: ["airSystems", key], value: systems[key] });
    return key;
  };
  const equip = (zone: string, list: readonly Component<EquipmentKind>[]): void => void changes.push(setChange(project, ["zones", zone, "equipment"], list));
  const outdoorUnit = (heat: Inputs): string =>
    systemOf(name, { flow: "constant", supplyTemperature: 18 }, [
      part("recovery", "recovery"),
      part("heating", "heatingCoil", heat),
      part("fan", "supplyFan", { pressure: 500 }),
    ]);

  if (choice === "variable" || choice === "constant" || choice === "variable refrigerant") {
    const refrigerant = choice === "variable refrigerant";
    const hot = refrigerant ? null : loopOf("hot water");
    const system = systemOf(name, { flow: choice === "constant" ? "constant" : "variable" }, [
      part("mixing", "mixing", { economizer: "fixed dry bulb" }),
      part("heating", "heatingCoil", refrigerant ? { heat: "gas" } : { loop: hot }),
      part("cooling", "coolingCoil", refrigerant ? { cold: "direct expansion" } : { loop: loopOf("chilled water") }),
      part("fan", "supplyFan"),
      part("return", "returnFan"),
    ]);
    for (const z of zones)
      equip(z, [part("terminal", "terminal", { system, ...(refrigerant ? { reheat: "electricity" } : { reheat: "hot water", loop: hot }) })]);
  } else if (choice === "single") {
    for (const z of zones) {
      const system = systemOf(zones.length === 1 ? name : `${name}, ${project.zones[z].name}`, { flow: "constant", supplyRule: "room thermostat" }, [
        part("mixing", "mixing", { economizer: "fixed dry bulb" }),
        part("heating", "heatingCoil", { heat: "gas" }),
        part("cooling", "coolingCoil", { cold: "direct expansion" }),
        part("fan", "supplyFan", { pressure: 500 }),
      ]);
      equip(z, [part("terminal", "terminal", { system })]);
    }
  } else if (choice === "fan coils") {
    const hot = loopOf("hot water");
    const coldLoop = loopOf("chilled water");
    const system = outdoorUnit({ loop: hot });
    for (const z of zones) equip(z, [part("fan_coil", "fanCoil", { loop: hot, coldLoop }), part("terminal", "terminal", { system })]);
  } else if (choice === "split units") {
    const system = outdoorUnit({ heat: "electricity" });
    for (const z of zones) equip(z, [part("split", "splitUnit"), part("terminal", "terminal", { system })]);
  } else if (choice === "slabs") {
    const hot = loopOf("hot water");
    const coldLoop = loopOf("chilled water");
    const system = outdoorUnit({ loop: hot });
    for (const z of zones) equip(z, [part("slab", "slabCircuit", { loop: hot, coldLoop }), part("terminal", "terminal", { system })]);
  } else {
    const hot = loopOf("hot water");
    const system = outdoorUnit({ loop: hot });
    for (const z of zones) equip(z, [part("baseboard", "baseboard", { loop: hot }), part("terminal", "terminal", { system })]);
  }
  return changes;
}

/** Changes that give zones back to their plain services. */
export function plainChanges(project: Project, zones: readonly string[]): Change[] {
  return withoutOrphans(
    project,
    zones.flatMap((z): Change[] => (project.zones[z].equipment ? [{ op: "unset", path: ["zones", z, "equipment"], old: project.zones[z].equipment }] : [])),
  );
}

/** Plant by plain description that fits a loop. */
export const plantsOf = (kind: LoopKind): { readonly id: PlantChoice; readonly words: string }[] => {
  const words: Readonly<Record<PlantChoice, string>> =
    kind === "hot water"
      ? { "boiler and chiller": "gas boiler", "heat pump and chiller": "air-source heat pump", district: "district heat" }
      : { "boiler and chiller": "air-cooled chiller", "heat pump and chiller": "air-cooled chiller", district: "district cold" };
  return plantChoices.filter((p, i) => plantChoices.findIndex((q) => words[q.id] === words[p.id]) === i).map((p) => ({ id: p.id, words: words[p.id] }));
};

/**
 * Changes that give a loop another plant in place of its sources, left to sizing; its pump stays. The temperature and the difference of
 * its water become those usual for the plant where they are typed as usual for another or not typed; what a user made of them stays.
 */
export function plantChanges(project: Project, loop: string, plant: PlantChoice): Change[] {
  const own = project.loops[loop];
  const fresh = newLoop(own.kind, plant);
  const pumps = own.parts.filter((p) => p.kind === "pump");
  const changes: Change[] = [setChange(project, ["loops", loop, "parts"], [...pumps, ...fresh.parts.filter((p) => p.kind !== "pump")])];
  const usual = plantChoices.map((p) => newLoop(own.kind, p.id).inputs);
  for (const field of ["supplyTemperature", "difference"]) {
    const typed = own.inputs[field];
    const to = fresh.inputs[field];
    if (to !== undefined && to !== typed && (typed === undefined || usual.some((u) => u[field] === typed)))
      changes.push(setChange(project, ["loops", loop, "inputs", field], to));
  }
  return changes;
}
