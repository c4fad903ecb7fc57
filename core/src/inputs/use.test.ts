import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import { checkProject } from "../simulate/index.ts";
import { parseProject, type Device, type Project, type Rule } from "../model/index.ts";
import {
  devicesPower,
  drawOf,
  effective,
  faceAssembly,
  fullHours,
  massingProject,
  modelledArea,
  openingConstruction,
  resolve,
  ruleValuesOf,
  shareWords,
  spaceUses,
} from "./index.ts";
import { deriveFaces } from "../geometry/index.ts";

const copied = <T>(v: T): T => JSON.parse(JSON.stringify(v)) as T;
/** One storey with a core and four rooms at its edge, two of them examination rooms. */
function surgery(): Project {
  const outcome = massingProject(
    {
      name: "Trial",
      footprint: { kind: "rectangle", length: 20, width: 14 },
      storeys: 1,
      storeyHeight: 3,
      glazing: { north: 0.3, east: 0.2, south: 0.4, west: 0.2 },
      perimeterDepth: 4,
      use: "office",
      level: "code",
    },
    boxProject(),
    "trial",
  );
  if (!outcome.ok) throw new Error(outcome.message);
  const p = outcome.project;
  const [type] = Object.keys(p.spaceTypes);
  p.spaceTypes.exam = { ...copied(p.spaceTypes[type]), name: "Examination" };
  Object.keys(p.spaces)
    .slice(0, 2)
    .forEach((id, k) => Object.assign(p.spaces[id], { name: `Exam ${k + 1}`, spaceType: "exam" }));
  return p;
}
const clinic = surgery();
const changed = (change: (p: Project) => void): Project => {
  const p = copied(clinic);
  change(p);
  const parsed = parseProject(p);
  if (!parsed.ok) throw new Error(parsed.problems[0].message);
  return parsed.project;
};
const problems = (p: Project): string[] => checkProject(p).problems.map((x) => x.message);
const exams = Object.keys(clinic.spaces).filter((id) => clinic.spaces[id].spaceType === "exam");
const use = (p: Project, id: string) => spaceUses(p).get(id) as NonNullable<ReturnType<ReturnType<typeof spaceUses>["get"]>>;

describe("people", () => {
  const type = clinic.spaces[exams[0]].spaceType as string;
  it("are counted, have an area each or a density, as the type says, each room alike or by its area", () => {
    const three = changed((p) => Object.assign(p.spaceTypes[type].inputs, { peopleGiven: "count", peopleCount: 3 }));
    for (const id of exams) expect(use(three, id).people).toBe(3);
    const each = changed((p) => Object.assign(p.spaceTypes[type].inputs, { peopleGiven: "area each", peopleArea: 6 }));
    for (const id of exams) expect(use(each, id).people).toBeCloseTo(use(each, id).area / 6, 12);
  });
  it("of the whole building are spread by floor area over the spaces that ask, scaled to the part modelled", () => {
    const asked = changed((p) => {
      p.known.headcount = 60;
      p.known.area = 2 * modelledArea(clinic);
      p.spaceTypes[type].inputs.peopleGiven = "share of headcount";
    });
    const all = exams.map((id) => use(asked, id));
    // half of the building is modelled, so half of the people are in these rooms
    expect(all.reduce((s, u) => s + u.people, 0)).toBeCloseTo(30, 9);
    expect(all[0].people / all[0].area).toBeCloseTo(all[1].people / all[1].area, 12);
    expect(problems(changed((p) => (p.spaceTypes[type].inputs.peopleGiven = "share of headcount"))).join(" ")).toContain("headcount, which is not typed yet");
  });
});

describe("a yearly energy of the building", () => {
  it("is worked back with the schedules, so that the part modelled uses its part of it", () => {
    const p = changed((q) => {
      q.known.lighting = 12000;
      q.known.area = 4 * modelledArea(clinic);
      for (const t of Object.values(q.spaceTypes)) t.inputs.lightingGiven = "share of yearly energy";
    });
    let sum = 0;
    for (const id of Object.keys(p.spaces))
      sum += (use(p, id).lighting * fullHours(p, effective(p, "space", id, "lightingSchedule").value as string | null)) / 1000;
    expect(sum).toBeCloseTo(3000, 6);
  });
});

describe("a list of devices", () => {
  // a café kitchen worked by hand: an espresso machine, two ovens under a hood, a dishwasher, a refrigerator
  const row = (id: string, number: number, power: number, standby: number, running: number, sensible: number, latent: number): Device => ({
    id,
    name: id,
    number,
    power,
    standby,
    running,
    sensible,
    latent,
  });
  const kitchen = [
    row("espresso", 1, 3000, 200, 0.35, 0.65, 0.25),
    row("oven", 2, 6000, 0, 0.4, 0.25, 0.05),
    row("dishwasher", 1, 4500, 100, 0.4, 0.25, 0.4),
    row("fridge", 3, 350, 0, 0.4, 1, 0),
  ];
  it("gives the power, the latent and the sensible heat worked by hand", () => {
    const { always, scheduled } = devicesPower(kitchen);
    // espresso 0.35·3000 + 0.65·200 = 1180; ovens 2·0.4·6000 = 4800; dishwasher 0.4·4500 + 0.6·100 = 1860; refrigerators 3·0.4·350 = 420
    expect(always.power + scheduled.power).toBeCloseTo(8260, 9);
    // 1180·0.25 + 4800·0.05 + 1860·0.4
    expect(always.latent + scheduled.latent).toBeCloseTo(295 + 240 + 744, 9);
    // 1180·0.65 + 4800·0.25 + 1860·0.25 + 420
    expect(always.sensible + scheduled.sensible).toBeCloseTo(767 + 1200 + 465 + 420, 9);
    expect(always.power).toBe(300);
  });
  it("is the room's appliances where its type says so", () => {
    const [id] = exams;
    const p = changed((q) => {
      q.deviceLists.kitchen = { name: "Café kitchen", devices: kitchen };
      q.spaces[id].inputs = { ...q.spaces[id].inputs, applianceGiven: "device list", deviceList: "kitchen" };
    });
    expect(use(p, id).appliances.power + use(p, id).standby.power).toBeCloseTo(8260, 9);
    // what stays of it with 150 W/m² of lighting is more than any room has
    expect(problems(p)).toEqual([]);
    expect(problems(changed((q) => (q.spaces[id].inputs.lightingPower = 150))).join(" ")).toContain("check their units");
  });
});

describe("hot water", () => {
  const known = (more: object): Project =>
    changed((p) => {
      p.drawPoints.taps = {
        kind: "known",
        name: "Taps",
        schedule: null,
        space: null,
        sensible: 0,
        latent: 0,
        of: "energy",
        yearly: 20000,
        area: 1000,
        modelled: 250,
        ...more,
      };
      for (const s of Object.values(p.services)) Object.assign(s.hotWater, { deliveryTemperature: 60, mainsTemperature: 10 });
    });
  it("known for the whole building gives the flow by hand: 5,000 kWh over 50 K are 86.0 m³, 9.82 L/h all year", () => {
    const d = drawOf(known({}), "taps");
    expect(d.share).toBe(0.25);
    expect(d.energy).toBeCloseTo(5000, 9);
    // 5000·3.6e6 / (4186·50) kg
    expect(d.volume).toBeCloseTo(86.001, 3);
    expect(d.flow).toBeCloseTo(9.8175, 3);
    expect((d.flow * d.hours) / 1000).toBeCloseTo(d.volume, 9);
  });
  it("by volume, and with a schedule, draws the same in fewer hours", () => {
    const [schedule] = Object.keys(clinic.schedules);
    const p = known({ of: "volume", yearly: 400, schedule });
    const d = drawOf(p, "taps");
    expect(d.volume).toBeCloseTo(100, 9);
    expect(d.hours).toBe(fullHours(p, schedule));
    expect((d.flow * d.hours) / 1000).toBeCloseTo(100, 9);
  });
  it("takes the model's own floor area where none is typed, and tells a share that cannot be", () => {
    expect(drawOf(known({ modelled: null }), "taps").modelled).toBeCloseTo(modelledArea(clinic), 9);
    expect(problems(known({ modelled: 1200 })).join(" ")).toContain("120 % of the building");
    expect(problems(known({ modelled: 15 })).join(" ")).toContain("1.5 % of the building");
    expect(problems(known({}))).toEqual([]);
    expect(shareWords(0.25)).toBe("a quarter of the building");
    expect(shareWords(0.31)).toBe("about a third of the building");
    expect(shareWords(1.2)).toContain("more than all");
  });
  it("is built up from its fixtures: 10 people × 3 uses × 1.5 L and 1 shower × 40 L are 85 L a day", () => {
    const p = changed((q) => {
      q.drawPoints.taps = {
        kind: "fixtures",
        name: "Taps",
        schedule: null,
        space: null,
        sensible: 0,
        latent: 0,
        fixtures: [
          { id: "basin", name: "Basin", litres: 1.5, uses: 3, users: 10 },
          { id: "shower", name: "Shower", litres: 40, uses: 1, users: 1 },
        ],
      };
    });
    expect(drawOf(p, "taps").volume).toBeCloseTo((365 * 85) / 1000, 9);
  });
});

describe("outdoor air", () => {
  const [id] = exams;
  const air = (inputs: object): ReturnType<typeof use>["outdoorAir"] =>
    use(
      changed((p) => Object.assign(p.spaces[id].inputs, { peopleGiven: "count", peopleCount: 3, ...inputs })),
      id,
    ).outdoorAir;
  const { area, volume } = use(clinic, id);
  it("adds people, area and air changes up, or takes the largest, over the effectiveness of ASHRAE 62.1", () => {
    const terms = { outdoorAirPerPerson: 0.0025, outdoorAirPerArea: 0.0003, outdoorAirChanges: 2 };
    const by = [0.0075, 0.0003 * area, (2 * volume) / 3600];
    expect(air(terms).needed).toBeCloseTo(by[0] + by[1] + by[2], 12);
    expect(air({ ...terms, outdoorAirCombined: "largest" }).needed).toBeCloseTo(Math.max(...by), 12);
    expect(air({ ...terms, airDistributionEffectiveness: 0.8, ventilationEfficiency: 0.75 }).supplied).toBeCloseTo((by[0] + by[1] + by[2]) / 0.6, 12);
    expect(air({ ...terms, outdoorAirPerSpace: 0.02 }).needed).toBe(0.02);
  });
  it("is drawn in besides where exhaust takes more than is supplied and passed in", () => {
    const given = { outdoorAirPerPerson: 0.0025, outdoorAirPerArea: 0, exhaustAir: 0.05, transferAir: 0.01 };
    expect(air(given).makeup).toBeCloseTo(0.05 - 0.01 - 0.0075, 12);
    expect(air({ ...given, exhaustAir: 0.01 }).makeup).toBe(0);
  });
});

describe("rules", () => {
  const rule = (more: Partial<Rule>): Rule => ({
    id: "r1",
    name: "Air",
    on: true,
    target: "space",
    field: "outdoorAirPerSpace",
    conditions: [],
    value: "3 L/s * people + 0.35 L/s/m² * area",
    ...more,
  });
  const ruled = (...rules: Rule[]): Project => changed((p) => p.rules.push(...rules));
  const [a] = exams;
  it("fill an input everywhere, and follow when people, area or type change", () => {
    const p = ruled(rule({}));
    for (const id of Object.keys(p.spaces)) {
      const u = use(p, id);
      const e = effective(p, "space", id, "outdoorAirPerSpace");
      expect(e.value).toBeCloseTo(0.003 * u.people + 0.00035 * u.area, 12);
      expect(e.origin).toEqual({ kind: "rule", from: "r1", name: "Air" });
    }
    const crowded = changed((q) => {
      q.rules.push(rule({}));
      Object.assign(q.spaces[a].inputs, { peopleGiven: "count", peopleCount: 10 });
    });
    expect(effective(crowded, "space", a, "outdoorAirPerSpace").value).toBeCloseTo(0.03 + 0.00035 * use(p, a).area, 12);
  });
  it("stand below what is typed and above the type, later ones above earlier ones", () => {
    const p = changed((q) => {
      q.rules.push(
        rule({ field: "heatingSetpoint", value: "19 °C" }),
        rule({ id: "r2", name: "Warm", field: "heatingSetpoint", value: "22 °C", conditions: [{ id: "c", on: "name", not: false, is: ["EXAM"] }] }),
      );
      q.spaces[exams[1]].inputs.heatingSetpoint = 20.5;
    });
    expect(effective(p, "space", a, "heatingSetpoint")).toMatchObject({ value: expect.closeTo(22, 9), origin: { name: "Warm" } });
    expect(effective(p, "space", exams[1], "heatingSetpoint")).toMatchObject({ value: 20.5, origin: { kind: "typed" } });
    const other = Object.keys(p.spaces).find((id) => !/exam/i.test(p.spaces[id].name)) as string;
    expect(effective(p, "space", other, "heatingSetpoint").value).toBeCloseTo(19, 9);
  });
  it("read each other in whatever order they stand, and not in a circle", () => {
    const cool = rule({ id: "c", name: "Cool", field: "coolingSetpoint", value: "heatingSetpoint + 4 K" });
    const heat = rule({ id: "h", name: "Heat", field: "heatingSetpoint", value: "if(people > 2, 20 °C, 21 °C)" });
    const p = ruled(cool, heat);
    const warm = effective(p, "space", a, "heatingSetpoint").value as number;
    expect(effective(p, "space", a, "coolingSetpoint").value).toBeCloseTo(warm + 4, 9);
    const round = ruled(cool, { ...heat, value: "coolingSetpoint - 4 K" });
    expect(effective(round, "space", a, "heatingSetpoint").origin.kind).not.toBe("rule");
    expect(problems(round).filter((m) => m.includes("reads what it fills"))).toHaveLength(2);
  });
  it("choose, switch off, and leave out what gives no number or too much", () => {
    expect(effective(ruled(rule({ field: "coolingSetpoint", value: "not cooled" })), "space", a, "coolingSetpoint").value).toBeNull();
    expect(effective(ruled(rule({ field: "peopleGiven", value: "count" })), "space", a, "peopleGiven").value).toBe("count");
    const none = ruled(rule({ value: "1 L/s / (people - people)" }));
    expect(effective(none, "space", a, "outdoorAirPerSpace").origin.kind).not.toBe("rule");
    expect(problems(none).join(" ")).toContain("gives no number for");
    expect(problems(ruled(rule({ field: "heatingSetpoint", value: "90 °C" }))).join(" ")).toContain("outside -10 to 40");
    expect(problems(ruled(rule({ value: "3 L/s + area" }))).join(" ")).toContain("do not go together");
    expect(problems(ruled(rule({ value: "3 m" }))).join(" ")).toContain("a length");
    expect(problems(ruled(rule({ on: false, value: "3 m" })))).toEqual([]);
  });
  it("fill zones from sums over their spaces, and use named values", () => {
    const [zone] = Object.keys(clinic.zones);
    const p = changed((q) => {
      q.values.w = { name: "perArea", value: 50, unit: "W/m²" };
      q.rules.push(rule({ target: "zone", field: "heatingCapacity", value: "zoneSum(area) * perArea + people * 10 W" }));
    });
    const members = Object.keys(p.spaces).filter((id) => p.spaces[id].zone === zone);
    const area = members.reduce((s, id) => s + use(p, id).area, 0);
    const people = members.reduce((s, id) => s + use(p, id).people, 0);
    expect(effective(p, "zone", zone, "heatingCapacity").value).toBeCloseTo(50 * area + 10 * people, 6);
  });
  it("give faces and windows their construction by what they are and where they look", () => {
    const { faces } = deriveFaces(clinic);
    const south = faces.find((f) => f.kind === "wall" && f.contact === "outdoors" && Math.round(f.azimuth / 45) % 8 === 4);
    const north = faces.find((f) => f.kind === "wall" && f.contact === "outdoors" && Math.round(f.azimuth / 45) % 8 === 0);
    const [roof] = Object.keys(clinic.assemblies).filter((x) => clinic.assemblies[x].use === "roof");
    const walls = ruled(
      rule({
        target: "face",
        field: "assembly",
        value: roof,
        conditions: [
          { id: "c", on: "orientation", not: false, is: ["south"] },
          { id: "d", on: "role", not: false, is: ["exteriorWall"] },
        ],
      }),
    );
    if (!south || !north) throw new Error("the clinic looks south and north");
    expect(faceAssembly(walls, south)).toMatchObject({ id: roof, origin: { kind: "rule" } });
    expect(faceAssembly(walls, north).origin.kind).toBe("kit");
    const glass = changed((q) => {
      q.glazings.other = copied(Object.values(q.glazings)[0]);
      q.rules.push(rule({ target: "opening", field: "construction", value: "other", conditions: [{ id: "c", on: "orientation", not: true, is: ["south"] }] }));
    });
    const window = { use: "window", inRoof: false, construction: null, name: "Window" } as const;
    expect(openingConstruction(glass, window, north).id).toBe("other");
    expect(openingConstruction(glass, window, south).origin.kind).toBe("kit");
    expect(openingConstruction(glass, { ...window, use: "door" }, north).origin.kind).toBe("kit");
  });
  it("can be tried on one space before they act", () => {
    const p = ruled(rule({ on: false }));
    const tried = ruleValuesOf(p, p.rules[0], a);
    expect(tried.result).toBeCloseTo(0.003 * use(p, a).people + 0.00035 * use(p, a).area, 12);
    expect([...tried.used].sort()).toEqual(["area", "people"]);
    expect(effective(p, "space", a, "outdoorAirPerSpace").origin.kind).toBe("default");
    expect(resolve(p).problems).toEqual([]);
  });
});

describe("a value that was taken over", () => {
  it("names its clause while it is that value, and none once it is another", () => {
    const type = clinic.spaces[exams[0]].spaceType as string;
    const p = changed((q) => {
      q.spaceTypes[type].inputs.outdoorAirPerArea = 0.0003;
      q.provenance[`spaceTypes/${type}/inputs/outdoorAirPerArea`] = { kind: "code", words: "table 6-1", value: 0.0003 };
    });
    expect(effective(p, "space", exams[0], "outdoorAirPerArea").origin).toMatchObject({ kind: "spaceType", words: "table 6-1" });
    const typed = {
      ...p,
      spaceTypes: { ...p.spaceTypes, [type]: { ...p.spaceTypes[type], inputs: { ...p.spaceTypes[type].inputs, outdoorAirPerArea: 0.0004 } } },
    };
    expect(effective(typed, "space", exams[0], "outdoorAirPerArea").origin).not.toHaveProperty("words");
  });
});
