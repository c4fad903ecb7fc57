import { describe, expect, it } from "vitest";
import { COMMON_YEAR, LEAP_YEAR, type LoggedPoint } from "../model/index.ts";
import { minutesOf } from "../weatherFile/index.ts";
import {
  guessPointFile,
  hourlyInstants,
  hourlyMeans,
  maskOf,
  momentMinutes,
  momentText,
  PointFileReader,
  pointUnit,
  putRight,
  readingsHash,
  readReadings,
  runWords,
  turnedTo,
  writeReadings,
  yearOfReadings,
  type PointFileOutcome,
  type PointMapping,
  type Readings,
} from "./index.ts";

const read = (text: string, change: Partial<PointMapping> = {}, timeZone = -7): Extract<PointFileOutcome, { ok: true }> => {
  const guess = guessPointFile(text, "trend.csv");
  if (typeof guess === "string") throw new Error(guess);
  const reader = new PointFileReader({ ...guess.mapping, ...change }, timeZone);
  for (let i = 0; i < text.length; i += 777) reader.feed(text.slice(i, i + 777));
  const outcome = reader.finish();
  if (!outcome.ok) throw new Error(outcome.problems.map((p) => `${p.line}: ${p.message}`).join(" "));
  return outcome;
};
const two = (n: number): string => String(n).padStart(2, "0");
/** Rows every half hour of some days of June, each written by a function of its place. */
const rows = (count: number, write: (i: number, date: string, clock: string) => string): string =>
  Array.from({ length: count }, (_, i) =>
    write(i, `${two(1 + Math.floor(i / 48))}.06.2025`, `${two(Math.floor((i % 48) / 2))}:${i % 2 === 0 ? "00" : "30"}`),
  ).join("\n");

describe("a file of trend data", () => {
  it("is read by its header: names, units, counters, semicolons and decimal commas", () => {
    const text = `Export\nZeit;Reading room temp [°C];Meter_kWh;Fan speed (%)\n${rows(96, (i, d, c) => `${d} ${c};${(20 + i / 100).toFixed(2).replace(".", ",")};${1000 + 2 * i};${i < 4 ? "" : 55}`)}\n`;
    const guess = guessPointFile(text, "plant.csv");
    expect(typeof guess === "string" ? [] : guess.mapping.columns.map((c) => [c.name, c.unit, c.kind])).toEqual([
      ["Reading room temp", "°C", "reading"],
      ["Meter", "kWh", "counter"],
      ["Fan speed", "%", "reading"],
    ]);
    const { points, interval, first } = read(text, { stamp: "start" });
    expect([interval, momentText(first)]).toEqual([30, "2025-06-01 00:00"]);
    expect(points[0].readings.values[50]).toBeCloseTo(20.5, 12);
    expect(points[2].coverage).toBeCloseTo(92 / 96, 12);
    expect(points[2].gaps).toEqual([{ from: 0, to: 4 }]);
  });
  it("has gaps where rows are missing, the later of two rows of one time, and jumps told", () => {
    const all = rows(96, (i, d, c) => `${d} ${c};${i}`).split("\n");
    const text = ["time;value [W]", ...all.slice(0, 40), all[10].replace(";10", ";99"), ...all.slice(60)].join("\n");
    const { points, told } = read(`${text}\n`, { stamp: "start" });
    expect(points[0].gaps).toEqual([{ from: 40, to: 60 }]);
    expect(points[0].readings.values[10]).toBe(99);
    expect(told.join(" ")).toMatch(/1 row has the time of another.*jumps back once/);
  });
  it("finds a sensor that stands still for more than a day, and not a valve that is shut", () => {
    const text = `time;temp [°C];valve [%]\n${rows(48 * 5, (i, d, c) => `${d} ${c};${i > 60 && i < 140 ? 21.4 : 20 + (i % 48) / 10};${i < 150 ? 0 : 40 + (i % 7)}`)}\n`;
    const { points } = read(text, { stamp: "start" });
    expect(points[0].stuck).toHaveLength(1);
    expect(runWords(points[0].readings, points[0].stuck[0])).toBe("2025-06-02 06:30 to 2025-06-03 22:00");
    expect(points[1].stuck).toEqual([]);
  });
  it("of a clock in UTC, and of one put forward in summer, lands in local standard time", () => {
    const utc = read(`time,t [°C]\n${rows(96, (i, d, c) => `${d.split(".").reverse().join("-")}T${c}:00Z,${i}`)}\n`, { stamp: "start" });
    expect(momentText(utc.first)).toBe("2025-05-31 17:00");
    const shifted = read(`time,t [°C]\n${rows(96, (i, d, c) => `${d.split(".").reverse().join("-")} ${c},${i}`)}\n`, { stamp: "start", shift: -60 });
    expect(momentText(shifted.first)).toBe("2025-05-31 23:00");
  });
  it("is refused with a sentence where it holds nothing that could be used", () => {
    expect(guessPointFile("\u0000\u0001", "x")).toMatch(/no text file/);
    const text = `time;a [°C];a [°C]\n${rows(48, (i, d, c) => `${d} ${c};${i};${i}`)}\n`;
    expect(() => read(text)).toThrow(/Two columns are called "a"/);
    expect(() => read(text.replace("a [°C];a", "a [°C];b"), { columns: [] })).toThrow(/No column is taken/);
    const far = `time;a [°C]\n${rows(48, (i, d, c) => `${d} ${c};${i}`)}\n01.06.9025 00:00;3\n`;
    expect(() => read(far)).toThrow(/One of the times may be wrong/);
  });
  it("never fails on text of any kind but with a sentence", () => {
    const cells = ["", "12", "x", "2025-01-01 00:00", "31.02.2025 25:61", "NaN", "-", '"', "1e999", "24:00"];
    let seed = 5;
    const next = (n: number): number => (seed = (seed * 1103515245 + 12345) % 2147483648) % n;
    for (let k = 0; k < 200; k++) {
      const text = Array.from({ length: 30 }, () => Array.from({ length: 1 + next(4) }, () => cells[next(cells.length)]).join([",", ";", "\t"][next(3)])).join(
        "\n",
      );
      const guess = guessPointFile(text, "x");
      if (typeof guess === "string") continue;
      const reader = new PointFileReader(guess.mapping, 0);
      reader.feed(text);
      const outcome = reader.finish();
      if (!outcome.ok) expect(outcome.problems[0].message.length).toBeGreaterThan(10);
    }
  });
});

const hourly = (values: number[], change: Partial<Readings> = {}): Readings => ({
  start: minutesOf(2025, 1, 1),
  interval: 60,
  at: "interval",
  values: Float64Array.from(values),
  ...change,
});
const point = (change: Partial<LoggedPoint> = {}): LoggedPoint => ({ name: "p", unit: "°C", hash: "", ...change });

describe("readings over a year", () => {
  it("by the hour on the hour stay to the bit; finer ones are averaged, half an hour is enough and less is not", () => {
    expect(hourlyMeans(hourly([0.1, 0.2, NaN, 0.3]), 2025, COMMON_YEAR).slice(0, 4)).toEqual(Float64Array.of(0.1, 0.2, NaN, 0.3));
    const fine = hourlyMeans(hourly([1, 2, 3, 6, NaN, NaN, NaN, 8, 5, 5, NaN, NaN], { interval: 15 }), 2025, COMMON_YEAR);
    expect([...fine.slice(0, 3)]).toEqual([3, NaN, 5]);
  });
  it("read at their times are joined by lines: the hour from 10 to 12 has the mean 11, and its end is 12", () => {
    const r = hourly([10, 12, 16], { at: "stamp", start: minutesOf(2025, 1, 1) });
    expect(hourlyMeans(r, 2025, COMMON_YEAR)[1]).toBeCloseTo(11, 12);
    expect(hourlyInstants(r, 2025, COMMON_YEAR)[1]).toBe(12);
  });
  it("pass over a 29 February that the year looked at has not, and keep it where it has", () => {
    const r = hourly(
      Array.from({ length: 24 * 366 }, (_, h) => Math.floor(h / 24)),
      { start: minutesOf(2024, 1, 1) },
    );
    const common = hourlyMeans(r, 2024, COMMON_YEAR);
    expect([common[24 * 58], common[24 * 59], common[8759]]).toEqual([58, 60, 365]);
    expect(hourlyMeans(r, 2024, LEAP_YEAR)[24 * 59]).toBe(59);
    expect(yearOfReadings(r)).toBe(2024);
  });
  it("are put right: clock, counter, sum, offset, and what is taken out", () => {
    const counter = putRight(point({ unit: "kWh", kind: "counter" }), hourly([100, 103, 104, 2], { interval: 30 }));
    // the counter began anew and has counted 2 since
    expect([...counter.values]).toEqual([NaN, 6, 2, 4]);
    expect(pointUnit(point({ unit: "kWh", kind: "counter" }))).toBe("kW");
    expect([...putRight(point({ unit: "kWh", kind: "sum" }), hourly([3, 4], { interval: 15 })).values]).toEqual([12, 16]);
    const right = putRight(
      point({ shift: 60, offset: -1.5, without: [{ from: "2025-01-01 02:00", to: "2025-01-01 03:00", reason: "stuck" }] }),
      hourly([20, 21, 22]),
    );
    expect(momentText(right.start)).toBe("2025-01-01 01:00");
    expect([...right.values]).toEqual([18.5, NaN, 20.5]);
  });
  it("are masked by other points, with how many hours each reason takes", () => {
    const p = point({ masks: [{ point: "fan", is: "below", value: 0.1, reason: "the fan stands still" }] });
    const { mask, by } = maskOf(p, 4, (id) => (id === "fan" ? [0, 0.5, NaN, 0.05] : null));
    expect([...mask]).toEqual([1, 0, 0, 1]);
    expect(by).toEqual([{ reason: "the fan stands still", hours: 2 }]);
  });
  it("come back from their bytes, and cut or foreign bytes are told", () => {
    const r = hourly([1.5, NaN, -3], { at: "stamp", interval: 15 });
    const bytes = writeReadings(r);
    const back = readReadings(bytes);
    expect(back).toEqual(r);
    expect(typeof back === "string" ? "" : readingsHash(back)).toBe(readingsHash(r));
    expect(readReadings(bytes.slice(0, -8))).toMatch(/cut off/);
    expect(readReadings(new Uint8Array(64))).toMatch(/no readings/);
  });
  it("have times that are read as they are written", () => {
    for (const text of ["2025-01-01 00:00", "2024-02-29 23:30", "2025-12-31 12:05"]) expect(momentText(momentMinutes(text))).toBe(text);
  });
  it("turn into another unit of the same kind only", () => {
    expect([...(turnedTo([50, 68], "°F", "°C") ?? [])].map((v) => Math.round(v * 1e9) / 1e9)).toEqual([10, 20]);
    expect(turnedTo([1], "kW", "°C")).toBeNull();
  });
});
