import { writeFileSync } from "node:fs";
import path from "node:path";
import { By, Key } from "selenium-webdriver";
import { describe, expect, it } from "vitest";
import { projectWeather, writeWeatherCsv, yearInView, type Project, type WeatherYear } from "../core/src/index.ts";
import { withLeapDay } from "../core/src/verification/box.ts";
import { api, browser, choose, go, INTENSITY, press, push, scratch, type, undo, untilSaved, useApplication } from "./harness.ts";

useApplication();

/** Gives a file to a field that takes one. */
async function give(name: string, text: string): Promise<void> {
  const file = path.join(scratch, name);
  writeFileSync(file, text);
  await (await browser.find('input[aria-label="Weather file"]')).sendKeys(file);
}
const found = "main";
const inspector = 'aside[aria-label="Inspector"]';
const use = async (label: string): Promise<number> => {
  const text = await browser.text('footer[aria-label="Tally"]', (t) => new RegExp(`${label} \\d`).test(t));
  return Number(new RegExp(`${label} ([\\d.]+)`).exec(text)?.[1]);
};

/** A station's text file of a year: two header lines, semicolons, decimal commas, 10-minute rows, °F and mph, only global sun. */
function station(warmer: number): string {
  const rows = ["Station Hilltop;;;;", "Datum/Zeit;Temperatur (°F);Feuchte (%);Windgeschw. (mph);Globalstrahlung (W/m²)"];
  const two = (n: number): string => String(n).padStart(2, "0");
  for (let k = 0; k < 365 * 144; k++) {
    const [day, hour] = [k / 144, (k % 144) / 6];
    const end = new Date(Date.UTC(2019, 0, 1) + (k + 1) * 600000);
    const t = 9 + warmer - 13 * Math.cos((2 * Math.PI * (day - 15)) / 365) + 6 * Math.cos((2 * Math.PI * (hour - 15)) / 24);
    const sun = hour > 6.5 && hour < 18 ? (500 - 300 * Math.cos((2 * Math.PI * (day + 10)) / 365)) * Math.sin((Math.PI * (hour - 6.5)) / 11.5) : 0;
    const cells = [1.8 * t + 32, 60 + 20 * Math.cos((2 * Math.PI * (hour - 4)) / 24), 6 + 2 * Math.sin(day), k >= 9000 && k < 9012 ? -999 : sun];
    rows.push(
      [
        `${two(end.getUTCDate())}.${two(end.getUTCMonth() + 1)}.${end.getUTCFullYear()} ${two(end.getUTCHours())}:${two(end.getUTCMinutes())}`,
        ...cells.map((v) => v.toFixed(1).replace(".", ",")),
      ].join(";"),
    );
  }
  return rows.join("\r\n");
}

describe("weather of any origin", () => {
  it("a station's text file is mapped, put right and used; its mapping is offered for the next; both are taken back", async () => {
    await go("/p/clinic/place?view=file");
    await browser.exact();
    const before = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    const rubbish = `${"\u0000".repeat(40)}\n`;
    await give("rubbish.dat", rubbish);
    await browser.text(found, (t) => t.includes("no text file"));
    await give("hilltop.txt", station(0));
    await browser.text('[data-testid="year-as-read"]', (t) => t.includes("2019, 365 days"));
    // the quantities were guessed from the header; what the values tell is said
    expect(await browser.driver.executeScript("return document.querySelector('select[aria-label=\"Column 2 holds\"]').value")).toBe("dryBulb");
    expect(await browser.driver.executeScript("return document.querySelector('select[aria-label=\"Unit of column 4\"]').value")).toBe("mph");
    await browser.text(found, (t) => t.includes("There is no pressure in the file") && /2 hours of global irradiance are missing/.test(t));
    // a wrong unit shows at once, and is put right
    await choose("Unit of column 2", "°C");
    await browser.text(found, (t) => /values of dry-bulb temperature cannot be/.test(t));
    await choose("Unit of column 2", "°F");
    await browser.text('[data-testid="year-as-read"]', (t) => t.includes("mean 8.9"));
    await type("Name of the mapping", "Hilltop station");
    await push("Keep");
    await browser.text(found, (t) => t.includes("Kept as “Hilltop station”"));
    await push("Use this year");
    await browser.text(inspector, (t) => t.includes("2019, 365 days"));
    await browser.exact();
    await browser.text(INTENSITY, (t) => /^\d/.test(t) && t !== before);
    const kept = await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => yearInView(r.document).kind === "stored");
    expect(kept.document.calendar.year).toBe(2019);
    // a second file of the same shape
    await push("Read a weather file");
    await give("hilltop2.txt", station(2));
    await push("Read it as “Hilltop station”");
    await browser.text('[data-testid="year-as-read"]', (t) => t.includes("mean 10.9"));
    await push("Use this year");
    await browser.text(inspector, (t) => t.includes("hilltop2"));
    await browser.exact();
    await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => Object.keys(r.document.weathers).length === 3);
    await undo(2);
    await browser.exact();
    expect(await browser.text(INTENSITY, (t) => t === before)).toBe(before);
    const last = await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => Object.keys(r.document.weathers).length === 1);
    expect(last.document.calendar.year ?? null).toBeNull();
  });
  it("the weather service answers for the place and a year; a year it has not is told", async () => {
    await go("/p/clinic/place?view=file");
    await browser.exact();
    const before = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    await type("Year asked for", "1930");
    await push("Ask for the year");
    await browser.text(found, (t) => t.includes("The weather service answers 404: There is no year 1930 here"));
    await type("Year asked for", "2020");
    await push("Ask for the year");
    await browser.text(inspector, (t) => t.includes("2020, 366 days"));
    await browser.exact();
    await push("Undo");
    expect(await browser.text(INTENSITY, (t) => t === before)).toBe(before);
  });
  it("a future year heats less and cools more; all years stand side by side; the year is taken back", async () => {
    await go("/p/clinic/place");
    await browser.exact();
    const [heating, cooling] = [await use("heating"), await use("cooling")];
    await choose("Add a weather year", "future: 2060");
    await browser.text(inspector, (t) => t.includes("made of another year by monthly changes"));
    await browser.exact();
    expect(await use("heating")).toBeLessThan(heating);
    expect(await use("cooling")).toBeGreaterThan(cooling);
    const saved = await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => yearInView(r.document).kind === "morphed");
    expect(yearInView(saved.document).label).toBe("2060");
    await push("All years side by side");
    await browser.text(found, (t) => t.includes("Site energy") && !t.includes("still to compute"), 240);
    const cells = await browser.driver.findElements(By.css('[data-testid^="intensity-"]'));
    expect(cells).toHaveLength(Object.keys(saved.document.weathers).length);
    await push("Undo");
    await browser.exact();
    expect(await use("heating")).toBe(heating);
  });
  it("a month of the changes is typed, bounded, and moves the year", async () => {
    await go("/p/clinic/place");
    await browser.exact();
    const heating = await use("heating");
    await choose("Add a weather year", "future: Fernhollow typical year with changes");
    await browser.exact();
    expect(await use("heating")).toBe(heating);
    await type("Jan change", "50");
    await browser.text(inspector, (t) => /at most 20/.test(t));
    await type("Jan change", "4");
    await push("Every month as January");
    await browser.exact();
    expect(await use("heating")).toBeLessThan(heating);
    await undo(3);
    await browser.exact();
    expect(await use("heating")).toBe(heating);
  });
  it("a measured leap year is read with its calendar and its 29 February; one that is not whole is refused by line", async () => {
    await go("/p/clinic/place?view=file");
    await browser.exact();
    const before = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    const { document } = await api<{ document: Project }>("/api/projects/clinic");
    const csv = writeWeatherCsv(withLeapDay(projectWeather(document) as WeatherYear, 2028));
    const read = async (name: string, text: string): Promise<void> => {
      const file = path.join(scratch, name);
      writeFileSync(file, text);
      await (await browser.find('input[aria-label="Weather file"]')).sendKeys(file);
    };
    const inspector = 'aside[aria-label="Inspector"]';
    await read("wrong.csv", csv.replace("# year: 2028", "# year: 2027"));
    await browser.text("main", (t) => /line \d+: 2027 has no 29 February/.test(t));
    await read("measured.csv", csv);
    await browser.text(inspector, (t) => /2028, 366 days/.test(t));
    await browser.exact();
    await browser.text(INTENSITY, (t) => /^\d/.test(t) && t !== before);
    const saved = await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => yearInView(r.document).kind === "stored");
    expect(saved.document.calendar.year).toBe(2028);
    await browser.driver.findElement(By.css("body")).sendKeys("6");
    await (await browser.button("Series")).click();
    await (await browser.button("month")).click();
    await (await browser.find('button[title="The stretch after"]')).click();
    await browser.text('[data-testid="stretch"]', (t) => t === "1 Feb to 29 Feb");
    // one step to undo: the weather with its year
    await (await browser.button("Undo")).click();
    await browser.text(INTENSITY, (t) => t === before);
    const undone = await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => yearInView(r.document).kind === "normals");
    expect(undone.document.calendar.year ?? null).toBeNull();
  });
});

describe("prices and design days", () => {
  const cost = async (): Promise<number> => {
    const text = await browser.text('table[aria-label="Cost and carbon by month"]', (t) => /Cost/.test(t));
    return Number(
      (/Cost[^\n]*/.exec(text)?.[0] ?? "")
        .replace(/[\u202f ](?=\d{3}(\D|$))/g, "")
        .trim()
        .split(/\s+/)
        .pop(),
    );
  };
  it("a tariff by season and hour, a demand charge and water move the cost at once, without a year run, and are taken back", async () => {
    await go("/p/clinic/place?view=prices");
    await browser.exact();
    const intensity = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    const before = await cost();
    await press("Add a band to the tariff of electricity");
    await type("Price of Band 1", "0.5");
    await browser.driver.wait(async () => (await cost()) > before, 20000);
    // the year is not run anew: its figure stays exact all the while
    expect(await browser.text(INTENSITY, (t) => /^\d/.test(t), 2)).toBe(intensity);
    const banded = await cost();
    await type("Demand charge of electricity", "20");
    await browser.driver.wait(async () => (await cost()) > banded, 20000);
    await type("Price of water", "-1");
    await browser.text(found, (t) => /at least 0|not negative|must be/.test(t));
    await type("Price of water", "5");
    await browser.text('table[aria-label="Cost by fuel"]', (t) => /water/.test(t));
    const saved = await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => r.document.prices.water === 5);
    expect(saved.document.prices.tariffs?.electricity).toMatchObject({ demand: 20, bands: [{ price: 0.5 }] });
    await undo(4);
    expect(await cost()).toBe(before);
  });
  it("design days are changed, sizing follows, and the usual ones come back", async () => {
    await go("/p/clinic/place?view=design");
    await browser.exact();
    await choose("Kind of Cooling 0.4 %", "typed");
    await type("highest of Cooling 0.4 %", "45");
    const saved = await untilSaved<{ document: Project }>("/api/projects/clinic", (r) =>
      (r.document.designDays ?? []).some((d) => d.kind === "typed" && d.dryBulb === 45),
    );
    expect(saved.document.designDays?.length).toBe(8);
    await browser.driver.findElement(By.css("body")).sendKeys("5");
    await push("What was sized");
    // the hottest day is the worst of all now
    await browser.text(found, (t) => /Cooling 0\.4 % 45\.0/.test(t.replace(/\u00a0/g, " ")), 240);
    await browser.driver.findElement(By.css("body")).sendKeys("1");
    await push("Design days");
    await push("Back to the usual days of this year");
    await browser.text(found, (t) => t.includes("these are the usual ones"));
    await undo(3);
    await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => r.document.designDays === undefined);
  });
});

describe("what stands around", () => {
  it("a block is put on the site plan and moved, a skyline typed and refused; the year follows both, and goes back", async () => {
    await go("/p/clinic/place?view=surroundings");
    await browser.exact();
    const before = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    await push("Add a block");
    // high enough to take the winter sun
    await type("Height of Block", "40");
    await browser.text(INTENSITY, (t) => /^\d/.test(t) && t !== before);
    const block = await browser.find('svg[aria-label="Site plan"] g[role="button"]');
    // ten metres nearer, half a metre a key
    for (let i = 0; i < 20; i++) await block.sendKeys(Key.ARROW_UP);
    const saved = await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => Object.values(r.document.surroundings).some((s) => s.y === -20));
    expect(Object.values(saved.document.surroundings).some((s) => s.kind === "block" && s.x === 0)).toBe(true);
    await press("Add a point of the skyline");
    await type("Height of point 1", "95");
    await browser.text(found, (t) => /at most 80/.test(t));
    await type("Height of point 1", "35");
    const high = await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => (r.document.site.horizon ?? [])[0]?.height === 35);
    expect(high.document.site.horizon).toHaveLength(1);
    await browser.exact();
    await undo(24);
    await browser.exact();
    expect(await browser.text(INTENSITY, (t) => t === before)).toBe(before);
  });
});

describe("the calendar", () => {
  it("summer time and holidays are saved and undone; a day no month has is refused", async () => {
    await go("/p/clinic/place?view=calendar");
    await browser.exact();
    const before = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    const { document: first } = await api<{ document: Project }>("/api/projects/clinic");
    await choose("Summer time", "between");
    await type("Summer time to, day", "32");
    await browser.text("main", (t) => /There is no 32 October|at most 31/.test(t));
    await type("Summer time to, day", "20");
    await (await browser.button("Add a holiday")).click();
    await type("Day of Holiday, day", "9");
    const saved = await untilSaved<{ document: Project }>("/api/projects/clinic", (r) =>
      r.document.calendar.holidays.some((h) => h.name === "Holiday" && h.day === 9),
    );
    expect(saved.document.calendar.daylightSaving).toEqual({ from: [3, 29], to: [10, 20] });
    await browser.exact();
    for (let i = 0; i < 4; i++) await (await browser.button("Undo")).click();
    await browser.exact();
    expect(await browser.text(INTENSITY, (t) => t === before)).toBe(before);
    const undone = await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => r.document.calendar.daylightSaving === null);
    expect(undone.document.calendar.holidays).toEqual(first.calendar.holidays);
  });
});
