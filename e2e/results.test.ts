import { By } from "selenium-webdriver";
import { describe, expect, it } from "vitest";
import type { Project } from "../core/src/index.ts";
import { browser, choose, go, press, push, type, undo, untilSaved, useApplication } from "./harness.ts";

useApplication();

const saved = async (test: (p: Project) => boolean): Promise<Project> =>
  (await untilSaved<{ document: Project }>("/api/projects/clinic", (r) => test(r.document))).document;
/** Rows of a table by its label, as texts of their cells, once there are any. */
async function rowsOf(label: string, test: (all: string[][]) => boolean = (all) => all.length > 0): Promise<string[][]> {
  let found: string[][] = [];
  await browser.driver.wait(
    async () => {
      found = await browser.driver.executeScript<string[][]>(
        `return [...document.querySelectorAll('table[aria-label="${label}"] tbody tr')].map((r) => [...r.querySelectorAll("td")].map((c) => c.textContent))`,
      );
      return test(found);
    },
    90000,
    `the table "${label}"`,
  );
  return found;
}
const rows = (test: (all: string[][]) => boolean): Promise<string[][]> => rowsOf("Zone figures", (all) => all.length > 0 && test(all));
const figure = (cell: string): number =>
  Number(
    cell
      .replace("\u2212", "-")
      .replace(/\u00a0/g, " ")
      .match(/^-?[\d\s,.\u202f]+/)?.[0]
      .replace(/[^\d.-]/g, "") ?? NaN,
  );

const openRow = (label: string, text: string): Promise<void> =>
  browser.driver.findElement(By.xpath(`//table[@aria-label="${label}"]//tr[td[1][starts-with(normalize-space(.),"${text}")]]`)).click();

describe("when and why a cooling peak was", () => {
  it("goes from the Tally down to flows, a window, the formula with its numbers, and to an input with its origin", async () => {
    await go("/p/library/results");
    await browser.exact();
    await (await browser.find('footer button[title="Explain the largest cooling"]')).click();
    const zones = await rowsOf("Zones in the hour", (all) => all.length === 17);
    expect(zones.find((r) => r[0] === "Meeting hall")?.[4]).toMatch(/\d+ \w{3} \d\d:00/);
    await openRow("Zones in the hour", "Meeting hall");
    await push("its largest hour");
    const FLOWS = "Heat flows of the hour";
    const flows = await rowsOf(FLOWS);
    expect(await browser.text('[data-testid="hour-title"]', (t) => t.includes("Meeting hall"))).toMatch(/hour to \d+ \w{3} \d\d:00: cooling [\d.]+/);
    // whole watts: every row may be half a watt off
    for (const column of [1, 2]) expect(Math.abs(flows.reduce((s, r) => s + figure(r[column]), 0))).toBeLessThan(flows.length / 2);
    await openRow(FLOWS, "sun›");
    const parts = await rowsOf(FLOWS, (all) => all.length > flows.length);
    expect(parts.some((r) => /Meeting hall/.test(r[0]))).toBe(true);
    await openRow(FLOWS, parts.find((r) => /Meeting hall/.test(r[0]))?.[0] ?? "");
    const told = await browser.text('[data-testid="explained"]', (t) => t.includes("T_b"));
    expect(told).toContain("EN 410");
    expect(told).toMatch(/solar gain, g-value/);
    await openRow(FLOWS, "people›");
    const people = await browser.text('[data-testid="explained"]', (t) => t.includes("Sensible heat per person"));
    expect(people).toMatch(/Q = n · q · s/);
    expect(people).toMatch(/from Meeting hall/);
    await (await browser.driver.findElement(By.xpath('//*[@data-testid="explained"]//div[contains(.,"Sensible heat per person")]/button[.="Show"]'))).click();
    await browser.driver.wait(async () => (await browser.driver.getCurrentUrl()).includes("/form"), 20000, "the space on its desk");
  });
});

describe("any quantity of zones and groups", () => {
  it("tells who loses most by infiltration in a month, loads by zone and group, a group's coincident largest, and is undone", async () => {
    await go("/p/clinic/results?view=figures");
    await browser.exact();
    await choose("Quantity", "Infiltration");
    await choose("Over", "Feb");
    await rows((all) => all.length === 11);
    await push("Sum");
    const losses = (await rows((all) => all.length === 11)).map((r) => figure(r[1]));
    expect(losses.every((v) => v < 0)).toBe(true);
    expect(losses).toEqual([...losses].sort((a, b) => a - b));

    await push("+ group by hand");
    const id = Object.keys((await saved((p) => Object.keys(p.groups ?? {}).length === 1)).groups ?? {})[0];
    const within = (name: string): Promise<void> =>
      browser.driver.findElement(By.xpath(`//*[@data-testid="group-${id}"]//button[normalize-space(.)="${name}"]`)).click();
    await within("Kennels");
    await within("Corridor");
    await type("Name of New group", "Back of house");
    await choose("Quantity", "Heating");
    await choose("Over", "the whole run");
    const all = await rows((r) => r.some((c) => c[0] === "Back of house (2 zones)") && r.length === 12);
    const row = (name: string): string[] => all.find((r) => r[0] === name) as string[];
    const [group, one, two] = [row("Back of house (2 zones)"), row("Kennels"), row("Corridor")];
    expect(Math.abs(figure(group[1]) - figure(one[1]) - figure(two[1]))).toBeLessThan(2);
    // together they peak no higher than both peaks
    expect(figure(group[6])).toBeLessThanOrEqual(figure(one[6]) + figure(two[6]) + 1);
    expect(group[6]).toMatch(/\d+ \w{3} \d\d:00/);
    expect(figure(group[7])).toBeGreaterThan(100);

    // by rule: what looks to the north
    await push("+ group by rule");
    const rule = Object.keys((await saved((p) => Object.keys(p.groups ?? {}).length === 2)).groups ?? {}).find((k) => k !== id) as string;
    await press("Add a condition");
    await choose("Condition 1", "looks to");
    await choose("Condition 1, add", "north");
    await saved((p) => {
      const g = p.groups?.[rule];
      return g?.kind === "by rule" && g.conditions[0]?.is[0] === "north";
    });
    await rows((r) => r.length === 13 && r.some((c) => /New group \([1-9]\d? zones\)/.test(c[0]) && !c[0].includes("(11 ")));
    for (let i = 0; i < 12; i++) {
      await undo(1);
      const { document } = await untilSaved<{ document: Project }>("/api/projects/clinic", () => true);
      if (Object.keys(document.groups ?? {}).length === 0) break;
    }
    await saved((p) => Object.keys(p.groups ?? {}).length === 0);
  });
});

describe("what is implausible", () => {
  it("is told with the chain that made it, down to the input and where it comes from, and is gone when it is undone", async () => {
    await go("/p/clinic/use?on=spaceType:ward");
    await browser.exact();
    const problems = 'nav[aria-label="Stages"]';
    expect(await browser.text(problems, (t) => t.includes("No problems"))).not.toContain("implausible");
    await type("Hot water per person", "450");
    await saved((p) => p.spaceTypes.ward.inputs.hotWaterPerPerson === 450);
    await browser.exact();
    await browser.text(problems, (t) => t.includes("1 implausible"));
    await (await browser.driver.findElement(By.xpath('//button[contains(normalize-space(.),"1 implausible")]'))).click();
    const told = await browser.text('[data-testid="implausible"]', (t) => t.includes("Hot water a person and day"));
    expect(told).toMatch(/most of it in [\s\S]*Hot water per person of [\s\S]*from Animal ward[\s\S]*450/);
    await undo(1);
    await saved((p) => p.spaceTypes.ward.inputs.hotWaterPerPerson === undefined);
    await browser.exact();
    await browser.text(problems, (t) => t.includes("No problems") && !t.includes("implausible"));
  });
});

describe("series of groups and zones over one stretch of time", () => {
  const IN_VIEW = "In view";
  const inView = (test: (all: string[][]) => boolean): Promise<string[][]> => rowsOf(IN_VIEW, test);
  const named = (all: string[][], text: string): string[] | undefined => all.find((r) => r[0].startsWith(text));
  const pickSeries = async (kind: string, thing: string | null, quantity: string): Promise<void> => {
    const within = '//*[@aria-label="Choose a series"]';
    const click = async (words: string): Promise<void> => {
      const at = By.xpath(`${within}//button[starts-with(normalize-space(.),"${words}")]`);
      await browser.driver.wait(async () => (await browser.driver.findElements(at)).length > 0, 60000, words);
      await browser.driver.findElement(at).click();
    };
    await click(kind);
    if (thing !== null) await click(thing);
    await click(quantity);
  };

  it("plots the air and the mean radiant temperature of a group by rule with the outdoors, a formula over them, and is undone", async () => {
    await go("/p/clinic/results?view=figures");
    await browser.exact();
    await rowsOf("Zone figures");
    await push("+ group by rule");
    await press("Add a condition");
    await choose("Condition 1", "looks to");
    await choose("Condition 1, add", "north");
    await push("Series");
    await push("+ plot");
    const plot = '//section[@aria-label="plot 3"]';
    await browser.driver.findElement(By.xpath(`${plot}//button[.="+ series"]`)).click();
    await pickSeries("Groups of zones", "New group", "Air temperature");
    await pickSeries("Groups of zones", "New group", "Mean radiant temperature");
    await pickSeries("Outdoors", null, "Outdoor temperature");
    await push("Done");
    await push("month");
    expect(await browser.text('[data-testid="stretch"]', (t) => t.includes("31 Jan"))).toBe("1 Jan to 31 Jan");
    const all = await inView((r) => r.some((c) => c[0].startsWith("New group, mean radiant")));
    const mean = (text: string): number => figure(named(all, text)?.[1] ?? "");
    const [air, radiant, outdoors] = [mean("New group, air temperature"), mean("New group, mean radiant"), mean("Outdoor temperature")];
    expect(Math.abs(air - radiant)).toBeLessThan(5);
    expect(air - outdoors).toBeGreaterThan(5);

    await browser.driver.findElement(By.xpath(`${plot}//button[.="formula"]`)).click();
    await type("Unit of the series", "W");
    expect(await browser.text('[aria-label="Derived series"] [role="alert"]', (t) => t !== "")).toContain("is needed");
    await type("Name of the series", "Air over radiant");
    await type("Unit of the series", "K");
    const difference = await inView((r) => r.some((c) => c[0].startsWith("Air over radiant")));
    expect(Math.abs(figure(named(difference, "Air over radiant")?.[1] ?? "") - (air - radiant))).toBeLessThan(0.11);
    await saved((p) => Object.values(p.derived ?? {}).some((d) => d.formula === "a - b" && d.unit === "K"));
    for (let i = 0; i < 6; i++) {
      await undo(1);
      const { document } = await untilSaved<{ document: Project }>("/api/projects/clinic", () => true);
      if (Object.keys({ ...document.groups, ...document.derived }).length === 0) break;
    }
    await saved((p) => Object.keys({ ...p.groups, ...p.derived }).length === 0);
    await browser.driver.findElement(By.xpath(`${plot}//button[@title="Take plot 3 away"]`)).click();
  });

  it("reads all plots by one cursor, takes typed limits back to their fit, hides lines, and shows duration and scatter", async () => {
    await go("/p/clinic/results?view=series");
    await browser.exact();
    await inView((r) => r.length === 5);
    await push("week");
    const chart = await browser.find('section[aria-label="plot 1"] .u-over');
    await browser.driver.actions().move({ origin: chart, x: 60, y: 5 }).perform();
    const hours = await Promise.all([1, 2].map((n) => browser.text(`section[aria-label="plot ${n}"] [data-testid="cursor-hour"]`, (t) => t !== "")));
    expect(hours[0]).toMatch(/\d+ \w{3} \d\d:00/);
    expect(hours[1]).toBe(hours[0]);
    expect(await browser.text('section[aria-label="plot 2"] [data-testid="at-cursor"]', (t) => t !== "")).toMatch(/^[\d\s\u202f]+ W$/);

    await type("Upper limit, left axis of plot 1", "80");
    await (await browser.find('button[title="Fit the left axis of plot 1"]')).click();
    await browser.driver.wait(
      async () => (await (await browser.find('input[aria-label="Upper limit, left axis of plot 1"]')).getAttribute("value")) !== "80",
      10000,
    );
    await type("Lower limit, left axis of plot 1", "900");
    expect(await browser.text('section[aria-label="plot 1"] [role="alert"]', (t) => t !== "")).toContain("above the lower one");

    await browser.driver.findElement(By.xpath('//section[@aria-label="plot 2"]//button[@title="Hide it"]')).click();
    await inView((r) => r.length === 4);
    await browser.driver.findElement(By.xpath('//section[@aria-label="plot 2"]//button[@title="Show it"]')).click();
    const before = await browser.text('[data-testid="stretch"]', (t) => t !== "");
    await (await browser.find('button[title="The stretch after"]')).click();
    expect(await browser.text('[data-testid="stretch"]', (t) => t !== before)).not.toBe(before);
    await choose("Form of plot 1", "duration");
    await browser.find('[role="img"][aria-label^="plot 1: duration"]');
    await choose("Form of plot 1", "scatter");
    await browser.find('[role="img"][aria-label^="plot 1: scatter"]');
    await choose("Form of plot 1", "over time");
  });
});

describe("where and when a face is hottest", () => {
  it("is told on the building, hour by hour and as a film, and as a map of the year", async () => {
    await go("/p/clinic/results?view=building");
    await browser.exact();
    const faces = await rowsOf("Values on the building", (all) => all.some((r) => r[0].startsWith("wall west")));
    const west = faces.find((r) => r[0].startsWith("wall west")) as string[];
    await openRow("Values on the building", west[0]);
    const at = await browser.text('[data-testid="hour-on-building"]', (t) => t.includes(west[3]));
    expect(at).toContain(west[3]);
    const now = (await rowsOf("Values on the building")).find((r) => r[0] === west[0]) as string[];
    expect(now[1]).toBe(now[2]);
    // a west wall is hottest when the sun stands in the west
    expect(Number(west[3].slice(-5, -3))).toBeGreaterThanOrEqual(15);
    await push("Play");
    await browser.text('[data-testid="hour-on-building"]', (t) => !t.includes(west[3]));
    await push("Pause");

    await push("Series");
    await browser.find('section[aria-label="plot 1"]');
    await browser.driver.findElement(By.xpath('//section[@aria-label="plot 1"]//button[.="+ series"]')).click();
    const faceKind = By.xpath('//*[@aria-label="Choose a series"]//button[starts-with(normalize-space(.),"Faces and openings")]');
    await browser.driver.findElement(faceKind).click();
    const search = await browser.find('input[aria-label="Search series"]');
    await search.sendKeys("wall west outside surface");
    const found = By.xpath('//*[@aria-label="Choose a series"]//button[contains(.,"Outside surface temperature")]');
    await browser.driver.wait(async () => (await browser.driver.findElements(found)).length > 0, 60000);
    await (await browser.driver.findElements(found))[0].click();
    await push("Done");
    await choose("Map of", "wall west");
    await browser.find('canvas[role="img"][aria-label^="wall west"]');
    await type("Upper end of the map’s scale", "90");
    await push("fit");
  });
});

describe("which inputs matter most for cooling", () => {
  it("are ranked with direction, spread and origin, lead to the input, and are found anew after an edit", async () => {
    await go("/p/clinic/results?view=matters");
    await browser.exact();
    const status = '[data-testid="screening"]';
    await browser.text(status, (t) => /^\d+ short years in/.test(t), 240);
    const ranked = await rowsOf("What matters", (all) => all.length > 12);
    const size = ranked.map((r) => Math.abs(figure(r[4].replace("+", ""))));
    // within the spread of directions the sizes fall
    expect(size[0]).toBeGreaterThan(3 * size[10]);
    const [first] = ranked;
    expect(first[3]).toMatch(/raises it|lowers it/);
    expect(ranked.some((r) => r[0].includes("still a default"))).toBe(true);
    const setpoint = ranked.find((r) => r[0].includes("Cooling set-point")) as string[];
    expect(setpoint[3]).toBe("lowers it");
    await choose("Figure", "Heating");
    const heating = await rowsOf("What matters", (all) => all.find((r) => r[0].includes("Heating set-point"))?.[3] === "raises it");
    expect(heating[0][0]).not.toBe("");
    await browser.driver.findElement(By.xpath('//table[@aria-label="What matters"]//tr[contains(.,"Heating set-point, all")]//button[.="Show"]')).click();
    await browser.driver.wait(async () => (await browser.driver.getCurrentUrl()).includes("/form"), 20000);
  });
});

describe("what changed in a month", () => {
  it("is told of the year as it is now against a pin, and gains and losses are read of a group with chosen flows", async () => {
    await go("/p/clinic/use?on=spaceType:ward");
    await browser.exact();
    await push("Pin");
    await type("Lighting", "14");
    await saved((p) => p.spaceTypes.ward.inputs.lightingPower === 14);
    await browser.exact();
    await browser.driver.findElement(By.css("body")).sendKeys("6");
    await push("Compared");
    await choose("Add to the comparison", "Pin ");
    const over = async (words: string, value: string): Promise<void> => {
      await choose("Compared over", words);
      await browser.driver.wait(async () => (await (await browser.find('select[aria-label="Compared over"]')).getAttribute("value")) === value, 20000, words);
    };
    await over("May", "4");
    const now = await rowsOf("Compared", (all) => all.some((r) => r.length === 4 && r[1].startsWith("lighting")));
    const lighting = now.find((r) => r[1].startsWith("lighting")) as string[];
    // against the one before it: the pin has less
    expect(lighting[3]).toMatch(/^−/);
    const whole = now.find((r) => r[1].startsWith("all end uses")) as string[];
    await over("the whole run", "whole");
    const year = await rowsOf("Compared", (all) => all.find((r) => r[1].startsWith("all end uses"))?.[2] !== whole[2]);
    expect(figure((year.find((r) => r[1].startsWith("all end uses")) as string[])[2])).toBeGreaterThan(8 * figure(whole[2]));

    await push("Gains and losses");
    await push("no flow: choose some");
    await push("lighting");
    await browser.driver.wait(
      async () => (await browser.driver.findElements(By.css('section[aria-label="Gains and losses"] button[aria-pressed="true"]'))).length === 1,
      20000,
    );
    expect((await rowsOf("Hours of discomfort by month")).map((r) => r.length)).toEqual([14, 14]);
    await undo(1);
    await saved((p) => p.spaceTypes.ward.inputs.lightingPower !== 14);
    await push("Unpin");
  });
});

describe("a report made by an outline", () => {
  it("takes a view into an outline, is changed, and keeps its words on another model", async () => {
    await go("/p/clinic/results?view=flows");
    await browser.exact();
    await choose("Add this view to an outline", "a new outline");
    await push("Show");
    const report = '[data-testid="report"]';
    await browser.text(report, (t) => t.includes("Gains and losses by month"));
    const flows = await rowsOf("Heat into all zones, losses negative, kWh");
    expect(flows.some((r) => r[0] === "infiltration")).toBe(true);
    await choose("Add a topic", "Heating and cooling by zone");
    const loads = await rowsOf("Heating and cooling, All zones");
    expect(loads).toHaveLength(12);
    const note = await browser.find('textarea[aria-label="Note of topic 2"]');
    await note.click();
    await note.sendKeys("Measured in March.");
    await type("Title of topic 1", "Where the heat goes");
    await browser.text(report, (t) => t.includes("Measured in March.") && t.includes("Where the heat goes"));
    await saved((p) => Object.values(p.outlines ?? {}).some((o) => o.topics[1]?.note === "Measured in March."));
    const before = loads[0][2];
    // another model: the figures follow, the words stay
    await go("/p/clinic/use?on=spaceType:ward");
    await type("Lighting", "15");
    await saved((p) => p.spaceTypes.ward.inputs.lightingPower === 15);
    await browser.driver.findElement(By.xpath('//nav[@aria-label="Stages"]//button[contains(.,"Results")]')).click();
    await push("Reports");
    await browser.exact();
    await rowsOf("Heating and cooling, All zones", (all) => all.length === 12 && all.some((r, i) => r[2] !== loads[i][2]));
    expect(await browser.text(report, (t) => t.includes("Measured in March."))).toContain("Where the heat goes");
    expect(before).not.toBe("");
    await undo(1);
    await saved((p) => p.spaceTypes.ward.inputs.lightingPower !== 15);
  });
});
