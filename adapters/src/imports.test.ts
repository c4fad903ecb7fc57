import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import {
  checkProject,
  deriveFaces,
  emptyProject,
  exportBuilding,
  importBuilding,
  parseProject,
  parseProjectText,
  randomStream,
  starterContext,
  tryImport,
  type Project,
} from "@arroyo/core";
import { readGbxml, writeGbxml } from "./index.ts";

const parsed = parseProjectText(readFileSync(new URL("../../demo/clinic.json", import.meta.url), "utf8"));
if (!parsed.ok) throw new Error(parsed.problems[0].message);
const clinic = parsed.project;
const text = writeGbxml(exportBuilding(clinic));
function read(xml: string) {
  const outcome = readGbxml(xml);
  if (!outcome.ok) throw new Error(outcome.message);
  return outcome.records;
}
const imported = (xml: string) => importBuilding(read(xml), starterContext, "x");
const floor = (p: Project): number => [...deriveFaces(p).spaces.values()].reduce((s, g) => s + g.floorArea, 0);
/** The file with every coordinate as a function of itself. */
const moved = (f: (v: number) => number): string =>
  text.replace(/<Coordinate>([^<]*)<\/Coordinate>/g, (_, v: string) => `<Coordinate>${f(Number(v))}</Coordinate>`);

describe("an import", () => {
  it("leaves the shipped things alone: the same file again gives the same project, and a new one starts as before", () => {
    const before = JSON.stringify(emptyProject(starterContext, "n", "N"));
    const all = Array.from({ length: 5 }, () => imported(text).project);
    for (const p of all) expect(JSON.stringify(p)).toBe(JSON.stringify(all[0]));
    expect(JSON.stringify(emptyProject(starterContext, "n", "N"))).toBe(before);
  });
  it("with a unit that every object knows the word of is told, and every figure is one", () => {
    const before = imported(text).project.materials;
    const odd = text.replace(/(<Density unit=")[^"]*"/, '$1toString"').replace(/(<Conductivity unit=")[^"]*"/, '$1constructor"');
    const { project, report } = imported(odd);
    expect(report.filter((m) => m.text.includes("is not of the schema")).map((m) => m.text)).toEqual([
      expect.stringContaining('"constructor"'),
      expect.stringContaining('"toString"'),
    ]);
    for (const m of Object.values(project.materials)) expect(Number.isFinite(m.density) && Number.isFinite(m.conductivity), m.name).toBe(true);
    expect(imported(text).project.materials).toEqual(before);
  });
  it("of corners with a tenth of a millimetre of noise has the same rooms, which touch the same neighbours", () => {
    const random = randomStream(7);
    const { project, report } = imported(moved((v) => v + (random.uniform() - 0.5) * 2e-4));
    const sound = parseProject(project);
    expect(sound.ok ? [] : sound.problems).toEqual([]);
    expect(floor(project) / floor(clinic)).toBeCloseTo(1, 3);
    expect(report.some((m) => m.kind === "mended" && /corners lay within 5\u00a0mm/.test(m.text))).toBe(true);
    const contacts = (p: Project): number => deriveFaces(p).faces.filter((f) => f.contact === "space").length;
    expect(contacts(project)).toBe(contacts(imported(text).project));
    expect(checkProject(project).problems.filter((p) => p.severity === "error")).toEqual([]);
  });
  it("closes up an edge shorter than a centimetre and says so, in place of refusing the file", () => {
    // an outline whose first corner is given twice, 8 mm apart: further than corners are welded
    const records = read(text);
    const [space] = records.spaces;
    const ring = [0, 1, 2, 3].map((i): [number, number, number] => [i === 1 || i === 2 ? 4 : 0, i > 1 ? 3 : 0, 0]);
    const outline = { ring: [ring[0], [0.008, 0, 0] as [number, number, number], ...ring.slice(1)], height: 3 };
    const made = importBuilding({ ...records, surfaces: [], spaces: [{ ...space, outline }] }, starterContext, "x");
    const sound = parseProject(made.project);
    expect(sound.ok ? [] : sound.problems).toEqual([]);
    expect(floor(made.project)).toBeCloseTo(12, 6);
  });
  it("in kilometres, or in millimetres called metres, is refused with the size and what to look at, at once", () => {
    for (const wrong of [text.replace('lengthUnit="Meters"', 'lengthUnit="Kilometers"'), moved((v) => v * 1000)]) {
      const outcome = tryImport(read(wrong), starterContext, "x");
      expect(outcome.ok ? "" : outcome.message).toMatch(/reaches from -?[\d.]+ km to [\d.]+ km.*unit of length/);
    }
  });
  it("of a plan enlarged 300 times is large, and not told to overlap itself", () => {
    const { project } = imported(moved((v) => v * 300));
    expect(checkProject(project).problems.filter((p) => p.code === "overlap")).toEqual([]);
  });
  it("of elements nested 20,000 deep is refused before it is read", () => {
    const deep = `<gbXML>${"<a>".repeat(20000)}${"</a>".repeat(20000)}</gbXML>`;
    const outcome = readGbxml(deep);
    expect(!outcome.ok && outcome.message).toMatch(/nested too deep/);
  });
});
