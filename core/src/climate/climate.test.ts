import { describe, expect, it } from "vitest";
import closed from "../verification/closedForms.json" with { type: "json" };
import { boxProject } from "../verification/box.ts";
import { yearInView } from "../model/index.ts";
import { readWeatherCsv, writeWeatherCsv } from "../exchange/index.ts";
import {
  deriveWeather,
  dewPoint,
  enthalpy,
  erbsDiffuseShare,
  extraterrestrial,
  humidityRatio,
  monthlyWeather,
  perezSky,
  relativeHumidity,
  saturationPressure,
  skyTemperature,
  specificVolume,
  sunPosition,
  sunVector,
  synthesizeYear,
  vapourPressure,
  weatherHash,
  weatherProblems,
  wetBulb,
} from "./index.ts";

const project = boxProject();
const inView = yearInView(project);
const normals = inView.kind === "normals" ? inView.normals : null;
if (!normals) throw new Error("the box has normals");
const year = synthesizeYear(project.site, normals, 140);

describe("the sun", () => {
  it("stands where the reference puts it on 17 October 2003", () => {
    const days = (Date.UTC(2003, 9, 17, 19, 30, 30) - Date.UTC(2000, 0, 1, 12)) / 86400000;
    const p = sunPosition(days, 39.742476, -105.1786);
    expect(Math.abs(p.zenith - 50.112)).toBeLessThan(0.05);
    expect(Math.abs(p.azimuth - 194.34)).toBeLessThan(0.05);
  });
  it("is due south and 23.44° higher at midsummer noon than at the equinox", () => {
    const noon = (day: number): number => Math.max(...Array.from({ length: 240 }, (_, i) => sunVector(day * 24 + 10 + i / 60, 40, 0, 0)[2]));
    const altitude = (z: number): number => (Math.asin(z) * 180) / Math.PI;
    expect(altitude(noon(171)) - altitude(noon(79))).toBeCloseTo(23.4, 0);
  });
  it("is 7 % stronger in January than in July", () => {
    expect(extraterrestrial(2) / extraterrestrial(184)).toBeCloseTo(1.069, 2);
  });
});

describe("moist air", () => {
  it.each(closed.psychrometrics.points)("at $t °C and $rh % agrees with the published formulas", (q) => {
    const w = humidityRatio(q.t, q.rh / 100, q.p);
    expect(saturationPressure(q.t) / q.p_ws).toBeCloseTo(1, 7);
    expect(w / q.W).toBeCloseTo(1, 6);
    expect(enthalpy(q.t, w) / 1000).toBeCloseTo(q.h_kJ_kg, 3);
    expect(specificVolume(q.t, w, q.p)).toBeCloseTo(q.v_m3_kg, 5);
    expect(dewPoint(vapourPressure(w, q.p))).toBeCloseTo(q.dew_point, 4);
    expect(wetBulb(q.t, w, q.p)).toBeCloseTo(q.wet_bulb, 2);
    expect(relativeHumidity(q.t, w, q.p)).toBeCloseTo(q.rh / 100, 9);
  });
});

describe("the sky", () => {
  it("is brighter round the sun when clear and even when overcast", () => {
    const clear = perezSky(90, 850, 0.8, 1367);
    const overcast = perezSky(200, 0, 0.8, 1367);
    expect(clear.circumsolar).toBeGreaterThan(0.2);
    expect(overcast.circumsolar).toBeLessThan(0.15);
  });
  it("is some 10 to 30 K colder than clear dry air", () => {
    const { infrared } = deriveWeather(year);
    let difference = 0;
    for (let h = 0; h < 8760; h++) difference += (year.dryBulb[h] - skyTemperature(infrared[h])) / 8760;
    expect(difference).toBeGreaterThan(8);
    expect(difference).toBeLessThan(30);
  });
  it("turns wholly diffuse when the clearness falls", () => {
    expect(erbsDiffuseShare(0.05)).toBeGreaterThan(0.99);
    expect(erbsDiffuseShare(0.75)).toBeLessThan(0.3);
  });
});

describe("a year made from normals", () => {
  const m = monthlyWeather(year);
  it("keeps its monthly means", () => {
    for (let i = 0; i < 12; i++) {
      expect(Math.abs(m.meanDryBulb[i] - normals.dryBulb[i])).toBeLessThan(0.01);
      expect(Math.abs(m.relativeHumidity[i] - normals.relativeHumidity[i])).toBeLessThan(0.5);
      expect(Math.abs(m.windSpeed[i] - normals.windSpeed[i])).toBeLessThan(0.1);
    }
  });
  it("keeps the clearness it is given", () => {
    let top = 0;
    let got = 0;
    for (let h = 0; h < 8760; h++) {
      for (let k = 0; k < 4; k++)
        top += (Math.max(0, sunVector(h + (k + 0.5) / 4, project.site.latitude, project.site.longitude, -7)[2]) * extraterrestrial(Math.floor(h / 24))) / 4;
      got += year.globalHorizontal[h];
    }
    expect(got / top).toBeCloseTo(0.6, 1);
  });
  it("has no sun at night, no diffuse above global, no impossible humidity", () => {
    for (let h = 0; h < 8760; h++) {
      expect(year.diffuseHorizontal[h]).toBeLessThanOrEqual(year.globalHorizontal[h]);
      expect(year.relativeHumidity[h]).toBeLessThanOrEqual(100);
      if (h % 24 < 3) expect(year.globalHorizontal[h]).toBe(0);
    }
  });
  it("is the same every time, and another with another seed", () => {
    expect(weatherHash(synthesizeYear(project.site, normals, 140))).toBe(weatherHash(year));
    expect(weatherHash(synthesizeYear(project.site, normals, 141))).not.toBe(weatherHash(year));
  });
});

describe("the weather CSV", () => {
  const text = writeWeatherCsv(year);
  const lines = text.split("\n");
  it("gives back the same year to the bit", () => {
    const back = readWeatherCsv(text);
    expect(back.ok && weatherHash(back.weather)).toBe(weatherHash(year));
  });
  it("with a missing hour is told with its line", () => {
    const back = readWeatherCsv([...lines.slice(0, 100), ...lines.slice(101)].join("\n"));
    expect(!back.ok && back.problems[0]).toMatchObject({ line: 101, message: expect.stringContaining("missing") });
  });
  it("cut short, repeated or out of range is told", () => {
    const short = readWeatherCsv(lines.slice(0, 5000).join("\n"));
    expect(!short.ok && short.problems[0].message).toMatch(/hours are missing at the end/);
    const twice = readWeatherCsv([...lines.slice(0, 50), lines[49], ...lines.slice(50)].join("\n"));
    expect(!twice.ok && twice.problems[0].message).toMatch(/again/);
    const hot = readWeatherCsv(lines.map((l, i) => (i === 20 ? l.replace(/^(\d+,\d+,\d+),[^,]+/, "$1,99") : l)).join("\n"));
    expect(!hot.ok && hot.problems[0].message).toContain("from -90 to 70");
    const empty = readWeatherCsv(lines.map((l, i) => (i === 20 ? l.replace(/^(\d+,\d+,\d+),[^,]+/, "$1,") : l)).join("\n"));
    expect(!empty.ok && empty.problems[0].message).toContain("empty");
  });
  it("with an empty place, a name too long for any list or a byte-order mark is told or read", () => {
    const head = (from: string, to: string) => readWeatherCsv(lines.join("\n").replace(new RegExp(`# ${from}:.*`), `# ${from}: ${to}`));
    const nowhere = head("latitude", "");
    expect(!nowhere.ok && nowhere.problems[0].message).toContain('"latitude" as a number');
    const long = head("site", "s".repeat(201));
    expect(!long.ok && long.problems[0].message).toContain("at most 200 characters");
    expect(head("site", "s".repeat(200)).ok).toBe(true);
    expect(readWeatherCsv(`\uFEFF${lines.join("\n")}`).ok).toBe(true);
  });
  it("written from a year that can be run is read again, however hot and humid it is", () => {
    const hot = {
      ...year,
      dryBulb: year.dryBulb.map((t, i) => (i === 5000 ? 70 : t)),
      relativeHumidity: year.relativeHumidity.map((r, i) => (i === 10 ? 104 : r)),
    };
    expect(weatherProblems(hot)).toEqual([]);
    const back = readWeatherCsv(writeWeatherCsv(hot));
    expect(back.ok && back.weather.dryBulb[5000]).toBe(70);
  });
  it("that is another kind of file is refused at once", () => {
    const other = readWeatherCsv("a,b,c\n1,2,3");
    expect(!other.ok && other.problems[0].message).toContain("arroyo-weather");
  });
});
