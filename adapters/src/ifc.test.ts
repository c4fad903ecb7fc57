import { describe, expect, it } from "vitest";
import { checkProject, importBuilding, starterContext } from "@arroyo/core";
import { readIfc } from "./ifcRead.ts";

/** Two rooms of 5 by 4 and 4 by 4 m side by side on one storey, 3 m high, in millimetres, with a window in the first. */
function file(): string {
  const lines: string[] = [];
  let n = 0;
  const add = (body: string): string => {
    n++;
    lines.push(`#${n}=${body};`);
    return `#${n}`;
  };
  const point = (x: number, y: number, z?: number): string =>
    add(`IFCCARTESIANPOINT((${[x, y, ...(z === undefined ? [] : [z])].map((v) => v.toFixed(1)).join(",")}))`);
  const origin = point(0, 0, 0);
  const axis = add(`IFCAXIS2PLACEMENT3D(${origin},$,$)`);
  const up = add("IFCDIRECTION((0.,0.,1.))");
  const context = add(`IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.E-5,${axis},$)`);
  const unit = add("IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.)");
  const units = add(`IFCUNITASSIGNMENT((${unit}))`);
  const project = add(`IFCPROJECT('0000000000000000000001',$,'P',$,$,$,$,(${context}),${units})`);
  const place = (x: number, y: number, z: number): string => add(`IFCLOCALPLACEMENT($,${add(`IFCAXIS2PLACEMENT3D(${point(x, y, z)},$,$)`)})`);
  const body = (w: number, d: number, h: number): string => {
    const corners = [point(0, 0), point(w, 0), point(w, d), point(0, d)];
    const outline = add(`IFCPOLYLINE((${[...corners, corners[0]].join(",")}))`);
    const profile = add(`IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,${outline})`);
    const solid = add(`IFCEXTRUDEDAREASOLID(${profile},${axis},${up},${h.toFixed(1)})`);
    return add(`IFCPRODUCTDEFINITIONSHAPE($,$,(${add(`IFCSHAPEREPRESENTATION(${context},'Body','SweptSolid',(${solid}))`)}))`);
  };
  const building = add(`IFCBUILDING('0000000000000000000002',$,'Shed',$,$,${place(0, 0, 0)},$,$,.ELEMENT.,$,$,$)`);
  const storey = add(`IFCBUILDINGSTOREY('0000000000000000000003',$,'Ground',$,$,${place(0, 0, 0)},$,$,.ELEMENT.,0.)`);
  const a = add(`IFCSPACE('0000000000000000000004',$,'01',$,'Office',${place(0, 0, 0)},${body(5000, 4000, 3000)},'Office',.ELEMENT.,.INTERNAL.,$)`);
  const b = add(`IFCSPACE('0000000000000000000005',$,'02',$,$,${place(5000, 0, 0)},${body(4000, 4000, 3000)},$,.ELEMENT.,.INTERNAL.,$)`);
  add(`IFCWINDOW('0000000000000000000006',$,'Window',$,$,${place(1000, -200, 900)},${body(1500, 200, 1200)},$,$,$,$,$,$)`);
  add(`IFCRELAGGREGATES('0000000000000000000007',$,$,$,${project},(${building}))`);
  add(`IFCRELAGGREGATES('0000000000000000000008',$,$,$,${building},(${storey}))`);
  add(`IFCRELAGGREGATES('0000000000000000000009',$,$,$,${storey},(${a},${b}))`);
  return `ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n${lines.join("\n")}\nENDSEC;\nEND-ISO-10303-21;\n`;
}
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

describe("an IFC file", () => {
  it("gives storeys, spaces with their outlines in metres, and windows in their walls", async () => {
    const outcome = await readIfc(bytes(file()));
    if (!outcome.ok) throw new Error(outcome.message);
    expect(outcome.records.storeys.map((s) => [s.name, s.level])).toEqual([["Ground", 0]]);
    const { project } = importBuilding(outcome.records, starterContext, "ifc");
    const { geometry, openings, problems } = checkProject(project);
    expect(problems.filter((p) => p.severity === "error")).toEqual([]);
    expect([...geometry.spaces.values()].map((g) => [g.floorArea, g.volume]).sort((x, y) => x[0] - y[0])).toEqual([
      [expect.closeTo(16, 3), expect.closeTo(48, 3)],
      [expect.closeTo(20, 3), expect.closeTo(60, 3)],
    ]);
    expect(geometry.faces.filter((f) => f.contact === "space")).toHaveLength(2);
    expect(openings).toHaveLength(1);
    expect(openings[0].area).toBeCloseTo(1.5 * 1.2, 3);
    expect(openings[0].low).toBeCloseTo(0.9, 3);
    expect(Object.values(project.spaces).map((s) => s.name)).toContain("01 Office");
  });
  it("that is none, is cut off or has no spaces is told", async () => {
    for (const [text, words] of [
      ["<xml/>", /no IFC file/],
      [file().replace(/IFCSPACE/g, "IFCSLAB"), /no space|cannot be read/],
    ] as const) {
      const outcome = await readIfc(bytes(text));
      expect(outcome.ok ? "" : outcome.message).toMatch(words);
    }
    const cut = await readIfc(bytes(file().slice(0, 900)));
    expect(cut.ok ? "" : cut.message).toMatch(/\.$/);
  });
});
