import { writeFileSync } from "node:fs";
import {
  applyChanges,
  minutesOf,
  momentText,
  parseProject,
  projectWeather,
  randomStream,
  readingsHash,
  runToEnd,
  seriesTable,
  setChange,
  withoutLeapDay,
  type Project,
  type Readings,
  type SeriesTable,
  type WeatherYear,
} from "../core/src/index.ts";
import { installWebAssembly } from "../adapters/src/stepKernel.ts";
import { library } from "./library.ts";

/** Year the stand-in's logger ran. */
export const LOGGED_YEAR = 2025;
const SEED = 20250101;
const START = minutesOf(LOGGED_YEAR, 1, 1);

/**
 * The library as it "really" is, which no user of the demo is told: leakier rooms, more machines at night, later visitors, a worn chiller,
 * warmer supply air upstairs, and a cooling valve there that stuck shut for two weeks of July.
 */
export function trueLibrary(): { project: Project; logged: Record<string, Readings> } {
  const parsed = parseProject(JSON.parse(JSON.stringify(library)));
  if (!parsed.ok) throw new Error(parsed.problems.map((p) => `${p.path}: ${p.message}`).join("\n"));
  let { project } = parsed;
  const set = (path: string[], value: unknown): void => {
    const done = applyChanges(project, [setChange(project, path, value)]);
    if (!done.ok) throw new Error(done.message);
    project = done.project;
  };
  set(["calendar", "year"], LOGGED_YEAR);
  for (const [id, t] of Object.entries(project.spaceTypes)) {
    const { infiltration, appliancePower } = t.inputs as Record<string, number>;
    set(["spaceTypes", id, "inputs", "infiltration"], Math.round(1000 * infiltration * 1.3) / 1000);
    set(["spaceTypes", id, "inputs", "appliancePower"], Math.round(100 * appliancePower * 1.6) / 100);
  }
  const devices = structuredClone(project.schedules.devices);
  for (const profile of Object.values(devices.profiles)) profile.values = profile.values.map((v) => Math.max(v, 0.55));
  set(["schedules", "devices"], devices);
  const visitors = structuredClone(project.schedules.visitors);
  for (const profile of Object.values(visitors.profiles)) profile.values = profile.values.map((_, h) => profile.values[(h + 23) % 24]);
  set(["schedules", "visitors"], visitors);
  set(["loops", "chilled", "parts", "chiller", "inputs", "cop"], 2.3);
  set(["airSystems", "upper_air", "inputs", "supplyTemperature"], 15.5);
  // the valve sticks from 7 to 20 July: no cooling comes out of the coil
  const stuck: Readings = { start: START, interval: 60, at: "interval", values: new Float64Array(8760).fill(NaN) };
  for (let h = 24 * 187; h < 24 * 201; h++) stuck.values[h] = 27;
  const hash = readingsHash(stuck);
  set(["points"], { valve: { name: "Supply with the valve stuck", unit: "°C", hash } });
  set(["drives"], { valve: { point: "valve", input: "airSystems/upper_air/inputs/supplyTemperature", from: [7, 7], to: [7, 20] } });
  return { project, logged: { [hash]: stuck } };
}

interface Logged {
  readonly head: string;
  readonly digits: number;
  /** Value of an hour; NaN: the logger was silent. */
  readonly of: (h: number) => number;
}

/** A year of trend data of the true library, as two text files of different layouts. Run after editing this or what its figures depend on: node --import tsx demo/logger.ts */
function write(): void {
  const { project, logged } = trueLibrary();
  const weather = withoutLeapDay(projectWeather(project, { weather: null, logged }) as WeatherYear);
  const result = runToEnd(project, weather, {
    stepsPerHour: 4,
    series: ["airTemperature", "lighting", "appliances", "componentOut", "componentPower", "componentFuel", "componentFlow"],
  });
  const table: SeriesTable = seriesTable(result.series, weather, result.fuel);
  const values = (quantity: string, of: string): ArrayLike<number> => {
    const row = (table.series[quantity] as Record<string, ArrayLike<number>> | undefined)?.[of];
    if (!row) throw new Error(`no series ${quantity} of ${of}`);
    return row;
  };
  const random = randomStream(SEED);
  const noisy = (row: ArrayLike<number>, scale: number, noise: number): Float64Array => Float64Array.from(row, (v) => v * scale + noise * random.normal());
  const silent = (h: number): boolean => (h >= 24 * 252 + 9 && h < 24 * 257 + 15) || (h * 7919) % 1009 === 3;
  const day = (h: number): boolean => weather.globalHorizontal[h] > 10;
  const room = (id: string): Float64Array => noisy(values("airTemperature", id), 1, 0.12);
  const roof = Float64Array.from({ length: 8760 }, (_, h) => weather.dryBulb[h] + (day(h) ? 1.1 : 1.7) + 0.15 * random.normal());
  const history = room("history");
  // a sensor that stood still for eleven days of March
  for (let h = 24 * 68; h < 24 * 79; h++) history[h] = 21.4;
  const fan = values("componentPower", "airSystems/upper_air/parts/fan");
  const supply = noisy(values("componentOut", "airSystems/upper_air"), 1, 0.15);
  // while the fan stands still its sensor drifts to the temperature of the plant room
  for (let h = 0; h < 8760; h++) if (fan[h] < 5) supply[h] = 21 + 3 * Math.sin((2 * Math.PI * (h - 24 * 110)) / 8760) + 0.2 * random.normal();
  const lines: Logged[] = [
    { head: "Roof sensor [°C]", digits: 1, of: (h) => roof[h] },
    { head: "Reading room temperature [°C]", digits: 1, of: (h) => room0[h] },
    { head: "Study rooms east temperature [°C]", digits: 1, of: (h) => east[h] },
    { head: "Study rooms west temperature [°C]", digits: 1, of: (h) => west[h] },
    { head: "Quiet study temperature [°C]", digits: 1, of: (h) => quiet[h] },
    { head: "Children’s corner temperature [°F]", digits: 1, of: (h) => 32 + 1.8 * children[h] },
    { head: "Local history temperature [°C]", digits: 1, of: (h) => history[h] },
    { head: "Upper air supply temperature [°C]", digits: 1, of: (h) => supply[h] },
    { head: "Upper air supply fan power [kW]", digits: 2, of: (h) => fan[h] / 1000 },
    { head: "Reading room lighting [kW]", digits: 2, of: (h) => light[h] / 1000 },
    { head: "Reading room sockets [kW]", digits: 2, of: (h) => sockets[h] / 1000 },
    { head: "Study rooms east sockets [kW]", digits: 2, of: (h) => eastSockets[h] / 1000 },
    { head: "Chiller power [kW]", digits: 2, of: (h) => chiller[h] / 1000 },
  ];
  const [room0, east, west, quiet, children] = ["reading", "study_east", "study_west", "quiet", "children"].map(room);
  const positive = (row: ArrayLike<number>, noise: number): Float64Array =>
    Float64Array.from(row, (v) => (v > 0 ? Math.max(0, v * (1 + noise * random.normal())) : 0));
  const light = positive(values("lighting", "reading"), 0.02);
  const sockets = positive(values("appliances", "reading"), 0.04);
  const eastSockets = positive(values("appliances", "study_east"), 0.04);
  const chiller = positive(values("componentPower", "loops/chilled/parts/chiller"), 0.02);
  const rows = Array.from({ length: 8760 }, (_, h) => {
    if (silent(h)) return null;
    return `${momentText(START + 60 * (h + 1))},${lines.map((l) => (Number.isFinite(l.of(h)) ? l.of(h).toFixed(l.digits) : "")).join(",")}`;
  }).filter((r) => r !== null);
  writeFileSync(new URL("./measured/plant.csv", import.meta.url), `Time,${lines.map((l) => l.head).join(",")}\n${rows.join("\n")}\n`);
  // meters: every hour, semicolons and decimal commas, a clock in UTC, a counter that was changed in October
  let [gas, electricity] = [18240.5, 402118];
  const [burnt, used] = [values("fuel gas", "building"), values("fuel electricity", "building")];
  const comma = (v: number, digits: number): string => v.toFixed(digits).replace(".", ",");
  const meters = Array.from({ length: 8760 }, (_, h) => {
    gas += (burnt[h] / 1000) * (1 + 0.005 * random.normal());
    electricity += (used[h] / 1000) * (1 + 0.005 * random.normal());
    if (h === 24 * 285 + 10) electricity = 12;
    const [date, clock] = momentText(START + 60 * (h + 8)).split(" ");
    return `${date.split("-").reverse().join(".")};${clock};${comma(gas, 1)};${comma(electricity, 1)}`;
  });
  writeFileSync(
    new URL("./measured/meters.csv", import.meta.url),
    `Meters of the community library\nDate;Time (UTC);Gas meter [kWh];Electricity meter [kWh]\n${meters.join("\n")}\n`,
  );
}
if (process.argv[1]?.endsWith("logger.ts")) {
  installWebAssembly();
  write();
}
