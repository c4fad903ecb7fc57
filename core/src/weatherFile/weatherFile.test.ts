import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { dewPoint, saturationPressure, sunVector, synthesizeYear, weatherProblems, yearEpoch, type WeatherYear } from "../climate/index.ts";
import { COMMON_YEAR, dateOfDay, isLeapYear, LEAP_YEAR, yearInView } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import { guessMapping, HOUR, WeatherFileReader, type FileSite, type WeatherFileOutcome, type WeatherMapping } from "./index.ts";

const project = boxProject();
const view = yearInView(project);
if (view.kind !== "normals") throw new Error("the box makes its own year");
const year: WeatherYear = synthesizeYear(project.site, view.normals, 7);
const place: FileSite = {
  name: "Here",
  latitude: project.site.latitude,
  longitude: project.site.longitude,
  elevation: project.site.elevation,
  timeZone: project.site.timeZone,
};
const HOURS = COMMON_YEAR.hours;
const two = (n: number): string => String(n).padStart(2, "0");
const fixed = (v: number, digits = 4): string => v.toFixed(digits);

/** Reads a text as a user would: guessed, with what the guess cannot know said. */
function read(text: string, say: (m: WeatherMapping) => Partial<WeatherMapping> = () => ({}), wanted?: number, pieces = 1): WeatherFileOutcome {
  const guess = guessMapping(text.slice(0, 200000), "file.csv");
  if (typeof guess === "string") throw new Error(guess);
  const reader = new WeatherFileReader({ ...guess.mapping, ...say(guess.mapping) }, place);
  const size = Math.ceil(text.length / pieces);
  for (let i = 0; i < text.length; i += size) reader.feed(text.slice(i, i + size));
  return reader.finish("read", wanted);
}
function whole(outcome: WeatherFileOutcome): WeatherYear {
  if (!outcome.ok) throw new Error(outcome.problems.map((p) => `${p.line}: ${p.message}`).join("; "));
  expect(weatherProblems(outcome.weather)).toEqual([]);
  return outcome.weather;
}
const worst = (a: Float64Array, b: Float64Array): number => a.reduce((m, v, i) => Math.max(m, Math.abs(v - b[i])), 0);
const codes = (o: WeatherFileOutcome): string[] => (o.ok ? o.report.findings.map((f) => f.code) : []);

/** Month, day and hour of the row that ends with an hour of the year, as clocks write it: hour 0 is the next day's. */
function ending(h: number, in_: number): { y: number; m: number; d: number; hour: number } {
  const days = isLeapYear(in_) ? LEAP_YEAR : COMMON_YEAR;
  const at = h + 1;
  const [m, d] = at === days.hours ? [1, 1] : dateOfDay(Math.floor(at / 24), days);
  return { y: at === days.hours ? in_ + 1 : in_, m, d, hour: at % 24 };
}
/** Instants between two hours, as a line. */
const between = (a: Float64Array, h: number, share: number): number => a[(h - 1 + HOURS) % HOURS] + (a[h] - a[(h - 1 + HOURS) % HOURS]) * share;
const lines = (of: (h: number) => string, hours = HOURS): string => Array.from({ length: hours }, (_, h) => of(h)).join("\n");

/** The same year in many shapes; each is to give temperature, humidity, wind and sun back to within its own rounding. */
const shapes: Readonly<Record<string, { text: string; say?: (m: WeatherMapping) => Partial<WeatherMapping>; wanted?: number }>> = {
  "TMY3, its months of different years": {
    text: [
      `700001,"HERE",XX,${place.timeZone},${place.latitude},${place.longitude},${place.elevation}`,
      "Date (MM/DD/YYYY),Time (HH:MM),ETR (W/m^2),GHI (W/m^2),GHI source,DHI (W/m^2),TotCld (tenths),Dry-bulb (C),RHum (%),Pressure (mbar),Wdir (degrees),Wspd (m/s)",
      lines((h) => {
        const [m, d] = dateOfDay(Math.floor(h / 24));
        return `${two(m)}/${two(d)}/${1990 + ((m * 7) % 9)},${two((h % 24) + 1)}:00,0,${fixed(year.globalHorizontal[h])},1,${fixed(year.diffuseHorizontal[h])},${fixed(10 * year.cloudCover[h])},${fixed(year.dryBulb[h])},${fixed(year.relativeHumidity[h])},${fixed(year.pressure[h] / 100)},${year.windDirection[h]},${fixed(year.windSpeed[h])}`;
      }),
    ].join("\n"),
  },
  "semicolons, decimal commas, two header lines, °F and mph, ten minutes": {
    text: [
      "Station Hilltop;;;;",
      "Datum/Zeit;Temperatur (°F);Feuchte (%);Windgeschwindigkeit (mph);Globalstrahlung (W/m²)",
      lines((k) => {
        const h = Math.floor(k / 6);
        const share = ((k % 6) + 1) / 6;
        const { m, d, hour } = ending(h - (share === 1 ? 0 : 1), 2019);
        const [y, mm, dd, hh] = h === 0 && share < 1 ? [2019, 1, 1, 0] : [ending(h, 2019).y > 2019 && share === 1 ? 2020 : 2019, m, d, hour];
        const minute = share === 1 ? 0 : 10 * ((k % 6) + 1);
        const row = [
          `${two(dd)}.${two(mm)}.${y} ${two(hh)}:${two(minute)}`,
          fixed(between(year.dryBulb, h, share) * 1.8 + 32),
          fixed(between(year.relativeHumidity, h, share)),
          fixed(between(year.windSpeed, h, share) / 0.44704),
          fixed(year.globalHorizontal[h]),
        ];
        return row.join(";").replace(/\.(\d{4}(;|$))/g, ",$1");
      }, 6 * HOURS),
    ].join("\n"),
    say: () => ({ stamp: "end" }),
  },
  "ISO times with an offset from UTC": {
    text: [
      "time,temp_C,rh,ws (m/s),wd,ghi,dhi,p (hPa)",
      lines((h) => {
        const { y, m, d, hour } = ending(h, 2021);
        const zone = `${place.timeZone < 0 ? "-" : "+"}${two(Math.abs(place.timeZone))}:00`;
        return `${y}-${two(m)}-${two(d)}T${two(hour)}:00:00${zone},${fixed(year.dryBulb[h])},${fixed(year.relativeHumidity[h])},${fixed(year.windSpeed[h])},${year.windDirection[h]},${fixed(year.globalHorizontal[h])},${fixed(year.diffuseHorizontal[h])},${fixed(year.pressure[h] / 100)}`;
      }),
    ].join("\n"),
    say: () => ({ stamp: "end" }),
  },
  "ISO times in UTC": {
    text: [
      "date,T (K),RH (1),wind speed (km/h),global (Wh/m²),diffuse (Wh/m²)",
      lines((h) => {
        const at = new Date(Date.UTC(2022, 0, 1) + (h + 1 - place.timeZone) * 3600000).toISOString().replace(".000", "");
        return `${at},${fixed(year.dryBulb[h] + 273.15)},${fixed(year.relativeHumidity[h] / 100, 6)},${fixed(year.windSpeed[h] * 3.6)},${fixed(year.globalHorizontal[h])},${fixed(year.diffuseHorizontal[h])}`;
      }),
    ].join("\n"),
    say: () => ({ stamp: "end" }),
  },
  "parts of the time in columns, hours 1 to 24": {
    text: [
      "Year,Month,Day,Hour,Dry bulb (°C),Dew point (°C),Wind speed (m/s),Global (W/m²)",
      lines((h) => {
        const [m, d] = dateOfDay(Math.floor(h / 24));
        const dew = dewPoint((year.relativeHumidity[h] / 100) * saturationPressure(year.dryBulb[h]));
        return `2018,${m},${d},${(h % 24) + 1},${fixed(year.dryBulb[h])},${fixed(dew, 6)},${fixed(year.windSpeed[h])},${fixed(year.globalHorizontal[h])}`;
      }),
    ].join("\n"),
  },
  "date and time apart, tabs, times at the start of the hour": {
    text: [
      "Date\tTime\tAir temp\tHumidity\tWind\tSolar radiation\tPressure",
      lines((h) => {
        const [m, d] = dateOfDay(Math.floor(h / 24));
        // readings at the stamp are those of the hour's beginning, sun is the hour's that begins
        const b = (h - 1 + HOURS) % HOURS;
        return `${two(m)}/${two(d)}/2023\t${two(h % 24)}:00\t${fixed(year.dryBulb[b])}\t${fixed(year.relativeHumidity[b])}\t${fixed(year.windSpeed[b])}\t${fixed(year.globalHorizontal[h])}\t${fixed(year.pressure[b])}`;
      }),
    ].join("\n"),
    say: () => ({ typical: true }),
  },
  "no header at all": {
    text: lines((h) => {
      const { y, m, d, hour } = ending(h, 2017);
      return `${y}-${two(m)}-${two(d)} ${two(hour)}:00,${fixed(year.dryBulb[h], 3)},${fixed(year.relativeHumidity[h], 3)},${fixed(year.windSpeed[h], 3)},${fixed(year.globalHorizontal[h], 3)},${fixed(year.pressure[h], 0)}`;
    }),
    say: (m) => ({
      stamp: "end",
      columns: m.columns.map((c) => (c.column === 3 ? { ...c, quantity: "windSpeed", unit: "m/s", at: "stamp" } : c)),
    }),
  },
  "no time at all, blanks between columns": {
    text: [
      "TEMP RH WIND GHI",
      lines((h) => `${fixed(year.dryBulb[h])}   ${fixed(year.relativeHumidity[h])} ${fixed(year.windSpeed[h])}  ${fixed(year.globalHorizontal[h])}`),
    ].join("\n"),
    say: () => ({ stamp: "end", time: { kind: "none", minutes: 60 } }),
  },
  "fifteen minutes, means": {
    text: [
      "timestamp;t_air;rh;wind;ghi",
      lines((k) => {
        const h = Math.floor(k / 4);
        const [m, d] = dateOfDay(Math.floor(h / 24));
        // from half an hour before to half an hour after the end of an hour it is as at that end
        const near = (Math.round((15 * k + 7.5) / 60) - 1 + HOURS) % HOURS;
        return `2015-${two(m)}-${two(d)} ${two(h % 24)}:${two(15 * (k % 4))};${fixed(year.dryBulb[near])};${fixed(year.relativeHumidity[near])};${fixed(year.windSpeed[near])};${fixed(year.globalHorizontal[h])}`;
      }, 4 * HOURS),
    ].join("\n"),
    say: (m) => ({ typical: true, columns: m.columns.map((c) => ({ ...c, at: "interval" })) }),
  },
  "two years, one of them with a leap day": {
    text: [
      "time,temp,rh,wind,ghi",
      ...[2019, 2020].map((y) =>
        lines(
          (h) => {
            const e = ending(h, y);
            const k = y === 2020 ? h : 0;
            const v = y === 2020 ? (h < 59 * 24 ? h : h < 60 * 24 ? h - 24 : h - 24) : k;
            return y === 2020
              ? `${e.y}-${two(e.m)}-${two(e.d)} ${two(e.hour)}:00,${fixed(year.dryBulb[v])},${fixed(year.relativeHumidity[v])},${fixed(year.windSpeed[v])},${fixed(year.globalHorizontal[v])}`
              : `${e.y}-${two(e.m)}-${two(e.d)} ${two(e.hour)}:00,5,50,2,0`;
          },
          y === 2020 ? 8784 : 8760,
        ),
      ),
    ].join("\n"),
    say: () => ({ stamp: "end" }),
    wanted: 2020,
  },
  "quotes, a clock put forward in summer, J/cm²": {
    text: [
      '"Zeit";"Lufttemperatur, 2 m (°C)";"rel. Feuchte (%)";"Wind (m/s)";"Global (J/cm²)"',
      lines((h) => {
        const ahead = h >= 24 * 88 + 2 && h < 24 * 300 + 2 ? 1 : 0;
        const { y, m, d, hour } = ending(h + ahead === HOURS ? h : h + ahead, 2014);
        return `"${two(d)}.${two(m)}.${y} ${two(hour)}:00";${fixed(year.dryBulb[h])};${fixed(year.relativeHumidity[h])};${fixed(year.windSpeed[h])};${fixed(year.globalHorizontal[h] * 0.36)}`;
      }),
    ].join("\n"),
    say: () => ({ stamp: "end", clock: "saving" }),
  },
  "codes for missing, rows out of order and twice": {
    text: (() => {
      const row = (h: number): string => {
        const { y, m, d, hour } = ending(h, 2013);
        return `${y}/${two(m)}/${two(d)} ${two(hour)}:00,${h === 4000 ? "-9999" : fixed(year.dryBulb[h])},${fixed(year.relativeHumidity[h])},${fixed(year.windSpeed[h])},${fixed(year.globalHorizontal[h])}`;
      };
      const all = Array.from({ length: HOURS }, (_, h) => row(h));
      return [
        "when,temp,rh,wind,ghi",
        all[0].replace(fixed(year.dryBulb[0]), "40"),
        ...all.slice(0, 500),
        ...all.slice(501, 900),
        all[500],
        ...all.slice(900),
      ].join("\n");
    })(),
    say: () => ({ stamp: "end", missing: ["-9999"] }),
  },
};

describe("one year in many shapes", () => {
  it.each(Object.entries(shapes))("%s", (name, { text, say, wanted }) => {
    const found = whole(read(text, say, wanted, 3));
    const leap = found.dryBulb.length === LEAP_YEAR.hours;
    const same = (a: Float64Array): Float64Array =>
      leap ? Float64Array.from([...a.subarray(0, 59 * 24), ...a.subarray(58 * 24, 59 * 24), ...a.subarray(59 * 24)]) : a;
    const skip = (a: Float64Array): Float64Array => (name.startsWith("codes") ? a.map((v, h) => (h === 4000 ? 0 : v)) : a);
    // hours at the edge of summer time, and the last of a file that ends with it, are not those of the year that was written
    expect(worst(skip(found.dryBulb), skip(same(year.dryBulb)))).toBeLessThan(1e-3);
    expect(worst(found.relativeHumidity, same(year.relativeHumidity))).toBeLessThan(1e-2);
    expect(worst(found.windSpeed, same(year.windSpeed))).toBeLessThan(1e-3);
    // the sun of a leap year rises and sets a little otherwise
    expect(worst(found.globalHorizontal, same(year.globalHorizontal))).toBeLessThan(leap ? 0.2 : 2e-3);
  });
  it("the public layout is read without a question, with its place", () => {
    const guess = guessMapping(shapes["TMY3, its months of different years"].text.slice(0, 5000), "a.csv");
    if (typeof guess === "string") throw new Error(guess);
    expect(guess.certain).toBe(true);
    expect(guess.mapping.site).toEqual({ ...place, name: "HERE" });
  });
  it("a file of several years tells how much it has of each", () => {
    const { text, say } = shapes["two years, one of them with a leap day"];
    const both = read(text, say);
    // the last hour of 2020 ends in 2021 and belongs to 2020
    expect(both.years.map((y) => [y.year, Math.round(1000 * y.share)])).toEqual([
      [2019, 1000],
      [2020, 1000],
    ]);
    expect(read(text, say, 2012)).toMatchObject({ ok: false, problems: [{ message: "The file has no rows of 2012." }] });
  });
});

/** The year as a plain hourly file of a typical year, with changes to its cells. */
const plain = (
  edit: (h: number, cells: number[]) => (number | string)[] = (_, c) => c,
  head = "month,day,hour,temp (°C),rh (%),wind (m/s),ghi (W/m²)",
): string =>
  [
    head,
    lines((h) => {
      const [m, d] = dateOfDay(Math.floor(h / 24));
      return [m, d, (h % 24) + 1, ...edit(h, [year.dryBulb[h], year.relativeHumidity[h], year.windSpeed[h], year.globalHorizontal[h]])].join(",");
    }),
  ].join("\n");

describe("what is wrong with a file", () => {
  it("a clock an hour late is found against the sun, and put right by what is offered", () => {
    const late = plain((h, c) => {
      const b = (h - 1 + HOURS) % HOURS;
      return [c[0], c[1], c[2], year.globalHorizontal[b]];
    });
    const outcome = read(late);
    if (!outcome.ok) throw new Error("it can be read");
    const clock = outcome.report.findings.find((f) => f.code === "clock");
    expect(clock?.shift).toBe(-60);
    const mended = read(late, () => ({ shift: clock?.shift ?? 0 }));
    expect(codes(mended)).not.toContain("clock");
    expect(worst(whole(mended).globalHorizontal, year.globalHorizontal)).toBeLessThan(1e-9);
    expect(codes(read(plain()))).not.toContain("clock");
  });
  it("short gaps are filled by a line, long ones from like days, and both counted", () => {
    const outcome = read(plain((h, c) => [h >= 1000 && h < 1003 ? "" : h >= 2000 && h < 2048 ? "" : c[0], ...c.slice(1)]));
    const found = whole(outcome);
    const gap = outcome.ok ? outcome.report.findings.filter((f) => f.code === "gap") : [];
    expect(gap).toHaveLength(1);
    expect(gap[0]).toMatchObject({ field: "dryBulb", count: 51 });
    expect(gap[0].message).toContain("3 filled between their neighbours, 48 from the same hour of the nearest days");
    expect(found.dryBulb[1001]).toBeCloseTo((year.dryBulb[999] + year.dryBulb[1003]) / 2, 9);
    // 48 h from hour 2000: the day before and the day after it, at the same hour
    expect(found.dryBulb[2010]).toBeCloseTo(year.dryBulb[1986], 9);
    expect(outcome.ok && Array.from(outcome.report.flags.dryBulb.subarray(999, 1004))).toEqual([0, 1, 1, 1, 0]);
  });
  it("what is not in the file is derived, and told", () => {
    const outcome = read(plain());
    const found = whole(outcome);
    expect(outcome.ok && outcome.report.findings.filter((f) => f.code === "derived").map((f) => f.field)).toEqual([
      "pressure",
      "windDirection",
      "diffuseHorizontal",
      "cloudCover",
    ]);
    expect(found.pressure[0]).toBeCloseTo(year.pressure[0], -1);
    // the year was made with the same split of the sun
    expect(worst(found.diffuseHorizontal, year.diffuseHorizontal)).toBeLessThan(0.2);
  });
  it("sun in the dark goes, sun above the air and a standing sensor are told", () => {
    const outcome = read(plain((h, c) => [h >= 300 && h < 320 ? 4.5 : c[0], c[1], c[2], h === 24 * 100 + 1 ? 60 : h === 24 * 172 + 12 ? 1600 : c[3]]));
    const found = whole(outcome);
    expect(codes(outcome)).toEqual(expect.arrayContaining(["stuck", "dark", "above the air"]));
    expect(found.globalHorizontal[24 * 100 + 1]).toBe(0);
    expect(outcome.ok && outcome.report.flags.globalHorizontal[24 * 172 + 12]).toBe(HOUR.doubtful);
    expect(outcome.ok && outcome.report.flags.dryBulb[310]).toBe(HOUR.doubtful);
  });
  it("global, diffuse and beam that do not add up are told; global is made of the other two", () => {
    const epoch = yearEpoch();
    const cosine = (h: number): number => {
      let sum = 0;
      for (let k = 0; k < 4; k++) sum += Math.max(0, sunVector(h + (k + 0.5) / 4, place.latitude, place.longitude, place.timeZone, epoch)[2]) / 4;
      return sum;
    };
    const normal = (h: number): number => (cosine(h) > 0.05 ? (year.globalHorizontal[h] - year.diffuseHorizontal[h]) / cosine(h) : 0);
    const head = "month,day,hour,temp (°C),rh (%),dhi (W/m²),dni (W/m²),ghi (W/m²)";
    const file = (global: (h: number) => number | string): string => plain((h, c) => [c[0], c[1], year.diffuseHorizontal[h], normal(h), global(h)], head);
    expect(codes(read(file((h) => year.globalHorizontal[h])))).not.toContain("closure");
    const wrong = read(file((h) => 1.4 * year.globalHorizontal[h]));
    expect(codes(wrong)).toContain("closure");
    const without = whole(read(file(() => "")));
    let apart = 0;
    for (let h = 0; h < HOURS; h++) if (cosine(h) > 0.05) apart = Math.max(apart, Math.abs(without.globalHorizontal[h] - year.globalHorizontal[h]));
    expect(apart).toBeLessThan(1e-6);
  });
  it("a pressure reduced to sea level is brought back", () => {
    const head = "month,day,hour,temp (°C),rh (%),pressure (hPa),ghi (W/m²)";
    const outcome = read(plain((_, c) => [c[0], c[1], 1013.25, c[3]], head));
    expect(codes(outcome)).toContain("sea level");
    expect(whole(outcome).pressure[5]).toBeCloseTo(year.pressure[5], -1);
  });
  it("a clock said to have summer time that never turns is told", () => {
    expect(codes(read(plain(), () => ({ clock: "saving" })))).toContain("summer time");
  });
  it("values that cannot be are counted with their place, and filled", () => {
    const outcome = read(plain((h, c) => [h === 77 ? 120 : h === 99 ? "abc" : c[0], ...c.slice(1)]));
    const words = outcome.ok ? outcome.report.findings.map((f) => f.message) : [];
    expect(words.some((w) => w.includes('the first in line 101: "abc"'))).toBe(true);
    expect(words.some((w) => w.includes("cannot be, such as 120 °C"))).toBe(true);
    expect(whole(outcome).dryBulb[77]).toBeCloseTo((year.dryBulb[76] + year.dryBulb[78]) / 2, 9);
  });
});

describe("any text at all", () => {
  const line = fc.oneof(
    fc.constantFrom(
      "",
      ";;;",
      "2019-01-01 00:00,1,2,3",
      "31.12.2019 24:00;1,5;2;3",
      '"a;b";"',
      "month,day,hour,temp (°C),rh (%),ghi (W/m²)",
      "1,1,1,5,50,0",
      "9999999999999999,,,",
    ),
    fc
      .array(fc.oneof(fc.integer({ min: -99999, max: 99999 }).map(String), fc.double({ noNaN: true }).map(String), fc.string({ maxLength: 8 })), {
        maxLength: 12,
      })
      .map((c) => c.join(",")),
    fc.string({ maxLength: 60 }),
  );
  it("is guessed at and read, or told in a sentence; it never throws and never hangs", () => {
    fc.assert(
      fc.property(fc.array(line, { maxLength: 60 }), fc.integer({ min: 1, max: 50 }), (rows, size) => {
        const text = rows.join("\n");
        const guess = guessMapping(text, "any");
        if (typeof guess === "string") return guess.length > 10;
        const reader = new WeatherFileReader(guess.mapping, place);
        for (let i = 0; i < text.length; i += size) reader.feed(text.slice(i, i + size));
        const outcome = reader.finish("any");
        return outcome.ok || outcome.problems.every((p) => p.message.length > 10);
      }),
      { numRuns: 400 },
    );
  });
  it("read in pieces of any length gives the same year", () => {
    const text = plain();
    const mapping = (guessMapping(text.slice(0, 100000), "x") as { mapping: WeatherMapping }).mapping;
    const years = [text.length, 7, 1000].map((size) => {
      const reader = new WeatherFileReader(mapping, place);
      for (let i = 0; i < text.length; i += size) reader.feed(text.slice(i, i + size));
      return whole(reader.finish("x")).dryBulb;
    });
    for (const y of years) expect(worst(y, years[0])).toBe(0);
  });
});

describe("what cannot be read", () => {
  it("gets a sentence", () => {
    expect(guessMapping("\u0000\u0001\u0002PNG\u0000", "x.png")).toMatch(/no text file/);
    expect(guessMapping("hello", "x.txt")).toMatch(/fewer than three lines/);
    expect(guessMapping("one\ntwo\nthree\nfour\nfive\n", "x.txt")).toMatch(/delimiter|rows of numbers/);
    const few = read(plain().split("\n").slice(0, 400).join("\n"));
    expect(few).toMatchObject({ ok: false, problems: [{ message: expect.stringContaining("Only 399 of 8760 hours") }] });
    const without = read(plain(), (m) => ({ columns: m.columns.filter((c) => c.quantity !== "relativeHumidity" && c.quantity !== "globalHorizontal") }));
    expect(without.ok ? [] : without.problems.map((p) => p.message)).toEqual([
      expect.stringContaining("No column holds the humidity"),
      expect.stringContaining("No column holds the sun"),
    ]);
    const unit = read(plain(), (m) => ({ columns: m.columns.map((c) => (c.quantity === "dryBulb" ? { ...c, unit: "hPa" } : c)) }));
    expect(unit.ok ? "" : unit.problems[0].message).toBe('"hPa" is no unit of dry-bulb temperature.');
  });
});
