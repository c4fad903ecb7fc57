import { By, Key } from "selenium-webdriver";
import { describe, expect, it } from "vitest";
import { assemblyU, canonicalJson, type Project } from "../core/src/index.ts";
import { api, browser, choose, go, INTENSITY, press, push, type, undo, untilSaved, useApplication } from "./harness.ts";

useApplication();

interface Stored {
  readonly document: Project;
}
const CLINIC = "/api/projects/clinic";
const saved = async (test: (p: Project) => boolean): Promise<Project> => (await untilSaved<Stored>(CLINIC, (r) => test(r.document))).document;
const stored = async (): Promise<Project> => (await api<Stored>(CLINIC)).document;
/** Finds by words in a list that can be searched, and takes the first with Enter. */
async function find(label: string, words: string): Promise<void> {
  const field = await browser.find(`input[aria-label="Search: ${label}"]`);
  await field.sendKeys(words);
  await browser.find(`[role="listbox"][aria-label="${label}"] [role="option"]`);
  await field.sendKeys(Key.ENTER);
}
const rename = async (label: string, name: string): Promise<void> => type(label, name);
const byName = <T extends { name: string }>(set: Record<string, T>, name: string): [string, T] => {
  const found = Object.entries(set).find(([, x]) => x.name === name);
  if (!found)
    throw new Error(
      `there is no "${name}" among ${Object.values(set)
        .map((x) => x.name)
        .join(", ")}`,
    );
  return found;
};

describe("a material from a data sheet", () => {
  it("becomes the project's own, in the units of the sheet, and stands in a copy of a shipped timber wall", async () => {
    await go("/p/clinic/fabric");
    await push("Materials");
    await press("Take a material from a library");
    await find("Materials to take in", "hemp-lime board");
    await press("Copy Hemp-lime board");
    await rename("Name of the material", "Hemp-lime board, as sheet");
    // the sheet is North American
    await type("Conductivity", "0.5 Btu·in/h·ft²·°F");
    await type("Density", "20 lb/ft³");
    await type("Specific heat", "0.4 Btu/lb·°F");
    expect(await browser.text('[data-testid="copied-from"]', (t) => t !== "")).toContain("Hemp-lime board");
    const [id, m] = byName(
      (await saved((p) => Object.values(p.materials).some((x) => x.name === "Hemp-lime board, as sheet" && x.specificHeat > 1670))).materials,
      "Hemp-lime board, as sheet",
    );
    // by hand: 0.5 · 0.144228, 20 · 16.01846, 0.4 · 4186.8
    expect(m.conductivity).toBeCloseTo(0.072114, 5);
    expect(m.density).toBeCloseTo(320.369, 2);
    expect(m.specificHeat).toBeCloseTo(1674.72, 2);
    expect(m.from).toMatchObject({ library: "Arroyo", id: "hemp_lime_board" });
    // the one it came from is as it was shipped
    expect((await stored()).materials[m.from?.id ?? ""].conductivity).toBe(0.07);
    await push("Assemblies");
    await press("Take an assembly from a library");
    await find("Assemblies to take in", "timber frame wall, two layers");
    await press("Copy Timber frame wall, two layers");
    await rename("Name of the assembly", "Hemp wall");
    await (await browser.find('button[aria-label="Material: Wood fibre board"]')).click();
    await find("Material of the layer", "hemp-lime board, as sheet");
    const u = Number(await browser.text('[data-testid="assembly-u"]', (t) => /^\d/.test(t)));
    const [, wall] = byName(
      (await saved((p) => Object.values(p.assemblies).some((a) => a.name === "Hemp wall" && a.layers.some((l) => l.kind === "solid" && l.material === id))))
        .assemblies,
      "Hemp wall",
    );
    expect(u).toBeCloseTo(assemblyU(await stored(), wall), 3);
    // before and after stand side by side
    const side = await browser.text('table[aria-label="Now and before"]', (t) => t.includes("Time shift"));
    for (const row of ["U", "R of the layers", "Mass", "Heat capacity", "Decrement factor", "Time shift", "Temperature factor"]) expect(side).toContain(row);
  });
  it("has the thickness for a wanted U of the wall, or for a wanted R of its layer", async () => {
    await choose("Layer to be found", "Hemp-lime board, as sheet");
    await type("Wanted value", "0.11");
    await browser.text('[data-testid="assembly-u"]', (t) => t === "0.110");
    await choose("Target", "R of the layer");
    await type("Wanted value", "R-10");
    await browser.text('[data-testid="assembly-u"]', (t) => t !== "0.110");
    const p = await saved((d) => {
      const wall = Object.values(d.assemblies).find((a) => a.name === "Hemp wall");
      return (
        wall?.layers.some((l) => l.kind === "solid" && d.materials[l.material].name.startsWith("Hemp") && Math.abs(l.thickness - 0.072114 * 1.7611) < 1e-4) ??
        false
      );
    });
    expect(byName(p.assemblies, "Hemp wall")[1].use).toBe("exterior wall");
  });
  it("reaches the façade: no face has it, it is put on those of one orientation, the Tally moves, and undo takes it back", async () => {
    expect(await browser.text('[data-testid="face-area"]', (t) => t !== "")).toBe("No face has it.");
    await browser.exact();
    const before = await browser.text(INTENSITY, (t) => /^\d/.test(t));
    await choose("Orientation of the faces", "north");
    const put = await browser.driver.wait(async () => {
      for (const b of await browser.driver.findElements(By.css("button"))) if (/^Put on \d+ faces?$/.test(await b.getText())) return b;
      return null;
    }, 60000);
    await put?.click();
    await browser.text('[data-testid="face-area"]', (t) => / have it\.$/.test(t));
    await browser.driver.wait(async () => (await browser.driver.findElement(By.css(INTENSITY)).getText()) !== before, 120000);
    await browser.exact();
    expect(await browser.text(INTENSITY, (t) => /^\d/.test(t))).not.toBe(before);
    await choose("Put into a kit", "Standard envelope");
    const p = await saved((d) => d.assemblies[d.kits.standard.exteriorWall].name === "Hemp wall");
    expect(Object.values(p.faceOverrides).filter((o) => o.assembly !== null && p.assemblies[o.assembly].name === "Hemp wall").length).toBeGreaterThan(0);
    await undo(2);
    await browser.text('[data-testid="face-area"]', (t) => t === "No face has it.");
    await browser.exact();
    expect(await browser.text(INTENSITY, (t) => /^\d/.test(t))).toBe(before);
  });
});

describe("a roof from nothing and a kit", () => {
  it("is known by its U first, then built of layers found by search, with a gap and rafters, moved by keys", async () => {
    await press("Add an assembly");
    await choose("Kind of element", "roof");
    await rename("Name of the assembly", "Roof from nothing");
    await type("U of the assembly", "0.2");
    await browser.text('[data-testid="assembly-u"]', (t) => t === "0.200");
    await choose("Class of mass", "heavy");
    for (const words of ["plasterboard dense", "mineral wool 0.035", "air gap", "clay tiles"]) {
      await push("Add a layer inside");
      await find("Material of the layer", words);
    }
    // built from inside to outside, then turned over by keys: the tiles go up three places
    const handle = 'button[aria-label="Move Clay tiles"]';
    for (let i = 0; i < 3; i++) await (await browser.find(handle)).sendKeys(Key.chord(Key.ALT, Key.ARROW_UP));
    await (await browser.find('button[aria-label="Move Air gap"]')).sendKeys(Key.chord(Key.ALT, Key.ARROW_UP));
    await (await browser.find('button[aria-label="Move Air gap"]')).sendKeys(Key.chord(Key.ALT, Key.ARROW_UP));
    await (await browser.find('button[aria-label="Move Mineral wool, 0.035"]')).sendKeys(Key.chord(Key.ALT, Key.ARROW_UP));
    const typing = await browser.find('input[aria-label="Thickness of Mineral wool, 0.035"]');
    const u = await browser.text('[data-testid="assembly-u"]', (t) => /^\d/.test(t));
    await typing.click();
    await typing.sendKeys(Key.chord(Key.CONTROL, "a"), "240");
    // live at every keystroke, before Enter
    await browser.text('[data-testid="assembly-u"]', (t) => Number(t) < Number(u));
    await typing.sendKeys(Key.ENTER);
    await browser.driver.executeScript(
      `[...document.querySelectorAll("tr.layer")].find((r) => r.textContent.includes("Mineral wool")).querySelector("button[title^='What bridges']").click()`,
    );
    await find("Material that bridges the layer", "softwood");
    await type("Share bridged of Mineral wool, 0.035", "12");
    const p = await saved((d) =>
      Object.values(d.assemblies).some(
        (a) => a.name === "Roof from nothing" && a.layers.some((l) => l.kind === "solid" && l.bridge?.share === 0.12 && Math.abs(l.thickness - 0.24) < 1e-9),
      ),
    );
    const [, roof] = byName(p.assemblies, "Roof from nothing");
    expect(roof.rated).toBeUndefined();
    expect(roof.layers.map((l) => (l.kind === "solid" ? p.materials[l.material].name : l.name))).toEqual([
      "Clay tiles",
      "Air gap",
      "Mineral wool, 0.035",
      "Gypsum plasterboard, dense",
    ]);
    // by hand, ISO 6946: upper limit of two sections, lower of the mixed layer
    const rest = 0.04 + 0.1 + (p.materials.tile_clay ? 0.012 / p.materials.tile_clay.conductivity : 0) + 0.16 + 0.0125 / 0.25;
    const upper = 1 / (0.88 / (rest + 0.24 / 0.035) + 0.12 / (rest + 0.24 / 0.13));
    const lower = rest + 0.24 / (0.88 * 0.035 + 0.12 * 0.13);
    expect(Number(await browser.text('[data-testid="assembly-u"]', (t) => t !== ""))).toBeCloseTo(2 / (upper + lower), 3);
  });
  it("goes into a kit, which is given to a space, a storey and the project, and the 3D view by assembly shows it", async () => {
    await push("Kits");
    await press("Add an envelope kit");
    await rename("Name of the envelope kit", "With the new roof");
    await choose("roof of the kit", "Roof from nothing");
    const first = await stored();
    const space = Object.values(first.spaces)[0];
    const storey = Object.values(first.storeys)[0];
    expect(await browser.text('[data-testid="kit-spaces"]', (t) => t !== "")).toMatch(/^0 of/);
    await choose("Give to a space", space.name);
    await browser.text('[data-testid="kit-spaces"]', (t) => t.startsWith("1 of"));
    await choose("Give to a storey", storey.name);
    const count = Object.values(first.spaces).filter((s) => s.storey === Object.keys(first.storeys)[0]).length;
    await browser.text('[data-testid="kit-spaces"]', (t) => t.startsWith(`${count} of`));
    await undo(2);
    await push("Give to the whole project");
    await browser.text('[data-testid="kit-spaces"]', (t) => t.startsWith("The whole project"));
    const p = await saved((d) => d.kits[d.defaults.kit].name === "With the new roof");
    expect(p.assemblies[p.kits[p.defaults.kit].roof].name).toBe("Roof from nothing");
    expect(await browser.text("header", () => true)).toContain("Undo");
    // the 3D view by assembly shows it
    await go("/p/clinic/form");
    await push("Building");
    await choose("Shown by", "assembly");
    await browser.driver.wait(async () => (await browser.driver.findElement(By.css("main, body")).getText()).includes("Roof from nothing"), 60000);
  });
});

describe("thermal bridges", () => {
  it("typed for a kit raise the figure by their lengths in the model, and are taken back", async () => {
    await go(`/p/clinic/fabric?on=kit:${(await stored()).defaults.kit}`);
    await browser.exact();
    const before = Number(await browser.text(INTENSITY, (t) => /^\d/.test(t)));
    await type("ψ of wall and roof", "0.3");
    expect(await browser.text('[data-testid="bridges-sum"]', (t) => !t.startsWith("Junctions 0"))).toContain("W/K");
    await browser.driver.wait(async () => Number((await browser.driver.findElement(By.css(INTENSITY)).getText()).replace("≈ ", "")) > before + 0.05, 120000);
    await undo(1);
    await browser.text('[data-testid="bridges-sum"]', (t) => t.startsWith("Junctions 0"));
  });
});

describe("tidy", () => {
  it("tells where a thing is used, swaps it everywhere, and removes what is unused in one step", async () => {
    await go("/p/clinic/fabric?on=material:insulation");
    const p = await stored();
    const [wool] = byName(p.materials, "Mineral wool");
    await go(`/p/clinic/fabric?on=material:${wool}`);
    const where = await browser.text("#where-used", (t) => t.includes("assembly"));
    expect(where).toContain("Brick");
    await choose("In place of this material", "Mineral wool, 0.035");
    await browser.text("#where-used", (t) => t.includes("Used nowhere."));
    await push("Tidy: what is unused");
    const unused = await browser.text('[data-testid="unused"]', (t) => t.includes("Mineral wool"));
    expect(unused).toContain("MATERIALS");
    const before = await stored();
    await push("Remove what is unused");
    await browser.text('main[aria-label="Tidy"]', (t) => t.includes("Everything the project holds is used."));
    const after = await saved((d) => d.materials[wool] === undefined);
    expect(Object.keys(after.materials).length).toBeLessThan(Object.keys(before.materials).length);
    await undo(2);
    const back = await saved((d) => d.materials[wool] !== undefined && d.assemblies.wall_brick.layers.some((l) => l.kind === "solid" && l.material === wool));
    expect(canonicalJson(back.materials)).toBe(canonicalJson(before.materials));
  });
});

describe("units", () => {
  it("turn every figure to IP and back, the document the same to the bit, and any field takes any unit", async () => {
    await go("/p/clinic/fabric?on=assembly:wall_brick");
    const document = canonicalJson(await stored());
    await browser.exact();
    const si = await browser.text('main[aria-label="Assembly"]', (t) => t.includes("W/m²K") && t.includes("Condensation inside it"));
    await push("IP");
    const ip = await browser.text('main[aria-label="Assembly"]', (t) => t.includes("Btu/h·ft²·°F"));
    expect(ip).not.toContain("W/m²K");
    expect(await browser.text('footer[aria-label="Tally"]', (t) => t.includes("kBtu/ft²·yr"))).not.toContain("kWh/m²");
    await push("SI");
    expect(await browser.text('main[aria-label="Assembly"]', (t) => t.includes("W/m²K"))).toBe(si);
    expect(canonicalJson(await stored())).toBe(document);
    await type("Thickness of Mineral wool", "4 in");
    await saved((p) => p.assemblies.wall_brick.layers.some((l) => l.kind === "solid" && Math.abs(l.thickness - 0.1016) < 1e-12));
    await type("Thickness of Mineral wool", "R-19");
    expect(await browser.text('[role="alert"]', (t) => t !== "")).toContain("is a thermal resistance; a length is needed here");
    await (await browser.find('input[aria-label="Thickness of Mineral wool"]')).sendKeys(Key.ESCAPE);
    await undo(1);
    // sentences turn as well: the changes that make the reference building, and the problems
    await push("IP");
    await type("Thickness of Mineral wool", "5 ft");
    await push("2 problems");
    const problem = await browser.text('[aria-label="Problems"]', (t) => t.includes("thick; check its unit"));
    expect(problem).toContain("5.0 ft thick");
    await undo(1);
    await go("/p/clinic/compliance?view=reference");
    const table = await browser.text('main[aria-label="Reference building"]', (t) => t.includes("W/ft²") && t.includes(" in "));
    expect(table).not.toMatch(/W\/m²(?!K)|W\/m²K|\d mm|L\/s/);
    await push("SI");
  });
});
