import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  assemblyU,
  checkProject,
  deriveFaces,
  exportBuilding,
  faceAssembly,
  importBuilding,
  parseProjectText,
  projectWeather,
  runToEnd,
  starterContext,
  type Project,
} from "@arroyo/core";
import { readGbxml, writeGbxml } from "./index.ts";

function demo(name: string): Project {
  const parsed = parseProjectText(readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), "utf8"));
  if (!parsed.ok) throw new Error(parsed.problems[0].message);
  return parsed.project;
}
function read(text: string) {
  const outcome = readGbxml(text);
  if (!outcome.ok) throw new Error(outcome.message);
  return outcome.records;
}
const back = (text: string) => importBuilding(read(text), starterContext, "back");

/** Area by space, kind and contact, and the spaces that touch. */
function facts(p: Project) {
  const { faces } = deriveFaces(p);
  const name = (id: string | null): string => (id === null ? "" : p.spaces[id].name);
  const areas = new Map<string, number>();
  for (const f of faces) {
    const key = `${name(f.space)} ${f.kind} ${f.contact} ${name(f.partnerSpace)}`;
    areas.set(key, (areas.get(key) ?? 0) + f.area);
  }
  return areas;
}

describe.each(["library", "clinic", "hall"])("the %s written as gbXML and read again", (name) => {
  const project = demo(name);
  const text = writeGbxml(exportBuilding(project));
  const { project: again, report } = back(text);
  it("has the same areas to 0.01 % and touches exactly the same neighbours", () => {
    const [a, b] = [facts(project), facts(again)];
    expect([...b.keys()].sort()).toEqual([...a.keys()].sort());
    for (const [key, area] of a) expect(Math.abs((b.get(key) ?? 0) / area - 1), key).toBeLessThan(1e-4);
    expect(report.filter((m) => m.kind === "left out" && m.affects)).toEqual([]);
  });
  it("has the same openings", () => {
    const sum = (p: Project): number => checkProject(p).openings.reduce((s, o) => s + o.area, 0);
    expect(sum(again) / sum(project)).toBeCloseTo(1, 4);
    expect(checkProject(again).problems.filter((x) => x.severity === "error")).toEqual([]);
  });
  it("has the same doors and ways through inner walls", () => {
    const inner = (p: Project): string[] =>
      checkProject(p)
        .inner.map(
          (o) =>
            `${o.name} ${o.use} ${o.area.toFixed(2)} ${o.spaces
              .map((s) => p.spaces[s].name)
              .sort()
              .join(" ")}`,
        )
        .sort();
    expect(inner(again)).toEqual(inner(project));
    if (name === "hall") expect(inner(project)).toHaveLength(5);
  });
  it("has the same U-values to 0.1 % on every face, inner ones and sides of several parts too", () => {
    const u = (p: Project): Map<string, number> => {
      const { faces, byKey } = deriveFaces(p);
      const out = new Map<string, number>();
      for (const f of faces) {
        const a = faceAssembly(p, f, f.partner ? (byKey.get(f.partner)?.host ?? null) : null);
        out.set(
          `${p.spaces[f.space].name} ${f.kind} ${f.contact} ${f.partnerSpace ? p.spaces[f.partnerSpace].name : Math.round(f.azimuth)}`,
          assemblyU(p, { ...p.assemblies[a.id], use: "exterior wall" }),
        );
      }
      return out;
    };
    const [a, b] = [u(project), u(again)];
    for (const [key, v] of a) expect(Math.abs((b.get(key) ?? 0) / v - 1), key).toBeLessThan(1e-3);
  });
  it("runs its year", () => {
    const weather = projectWeather(again);
    if (!weather) throw new Error("no weather");
    const { summary } = runToEnd(again, weather, { stepsPerHour: 1, shortYear: true });
    expect(summary.closure).toBeLessThan(1e-9);
    expect(summary.loads.heating.total).toBeGreaterThan(0);
  });
});

describe("a court round a tower", () => {
  it("is told in outlines without holes, whole in area, each window in the part that holds it", () => {
    const p = demo("clinic");
    const form = (ring: [number, number][], height: number) => ({
      kind: "prism" as const,
      outline: ring.map(([x, y], i) => ({ id: `e${i}`, x, y })),
      floor: "floor",
      ceiling: "ceiling",
      height,
    });
    const [one, two] = Object.keys(p.spaces);
    const storey = p.spaces[one].storey;
    const space = (id: string, ring: [number, number][], height: number, base?: number) => ({
      ...p.spaces[id],
      storey,
      form: { ...form(ring, height), ...(base === undefined ? {} : { base }) },
    });
    // a small room on the middle of a large one: the roof of the large one has a hole
    p.spaces = {
      [one]: space(
        one,
        [
          [0, 0],
          [20, 0],
          [20, 16],
          [0, 16],
        ],
        3,
      ),
      [two]: space(
        two,
        [
          [8, 6],
          [12, 6],
          [12, 10],
          [8, 10],
        ],
        3,
        3,
      ),
    };
    p.zones = Object.fromEntries(Object.entries(p.zones).filter(([id]) => [one, two].some((s) => p.spaces[s].zone === id)));
    p.openings = {
      left: { kind: "skylight", name: "Left", host: `${one}/ceiling`, x: 3, y: 8, width: 1, depth: 1, glazing: null },
      right: { kind: "skylight", name: "Right", host: `${one}/ceiling`, x: 17, y: 8, width: 1, depth: 1, glazing: null },
    };
    p.shades = {};
    p.sensors = {};
    p.airExchanges = {};
    p.faceOverrides = {};
    const records = exportBuilding(p);
    const roofs = records.surfaces.filter((s) => s.kind === "roof" && s.adjacent[0] === one);
    expect(roofs.length).toBeGreaterThan(1);
    expect(roofs.flatMap((s) => s.openings.map((o) => o.name)).sort()).toEqual(["Left", "Right"]);
    for (const r of roofs) expect(r.openings.length).toBeLessThan(2);
    const again = importBuilding(records, starterContext, "x").project;
    const [a, b] = [facts(p), facts(again)];
    for (const [key, area] of a) expect((b.get(key) ?? 0) / area, key).toBeCloseTo(1, 4);
    expect(checkProject(again).openings).toHaveLength(2);
  });
});

/** A box of two spaces with a sloped roof over one, written by hand. */
function file(parts: { units?: string; surfaces?: string; extra?: string; spaces?: string } = {}): string {
  const k = parts.units === "Feet" ? 1 / 0.3048 : 1;
  const loop = (ring: number[][]): string =>
    `<PlanarGeometry><PolyLoop>${ring.map((p) => `<CartesianPoint>${p.map((c) => `<Coordinate>${c * k}</Coordinate>`).join("")}</CartesianPoint>`).join("")}</PolyLoop></PlanarGeometry>`;
  const surface = (id: string, type: string, adjacent: string[], ring: number[][], inner = ""): string =>
    `<Surface id="${id}" surfaceType="${type}" constructionIdRef="c1">${loop(ring)}${adjacent.map((a) => `<AdjacentSpaceId spaceIdRef="${a}"/>`).join("")}${inner}</Surface>`;
  const opening = `<Opening id="o1" openingType="FixedWindow" windowTypeIdRef="w1">${loop([
    [1, 0, 1],
    [3, 0, 1],
    [3, 0, 2],
    [1, 0, 2],
  ])}<Name>Window</Name></Opening>`;
  const own = [
    surface(
      "s1",
      "SlabOnGrade",
      ["a"],
      [
        [0, 4, 0],
        [5, 4, 0],
        [5, 0, 0],
        [0, 0, 0],
      ],
    ),
    surface(
      "s2",
      "ExteriorWall",
      ["a"],
      [
        [0, 0, 0],
        [5, 0, 0],
        [5, 0, 3],
        [0, 0, 3],
      ],
      opening,
    ),
    surface(
      "s3",
      "ExteriorWall",
      ["a"],
      [
        [0, 4, 0],
        [0, 0, 0],
        [0, 0, 3],
        [0, 4, 4],
      ],
    ),
    // inside out: the corners run the other way round
    surface(
      "s4",
      "ExteriorWall",
      ["a"],
      [
        [0, 4, 4],
        [5, 4, 4],
        [5, 4, 0],
        [0, 4, 0],
      ].reverse(),
    ),
    surface(
      "s5",
      "Roof",
      ["a"],
      [
        [0, 0, 3],
        [5, 0, 3],
        [5, 4, 4],
        [0, 4, 4],
      ],
    ),
    surface(
      "s6",
      "InteriorWall",
      ["a", "b"],
      [
        [5, 0, 0],
        [5, 4, 0],
        [5, 4, 4],
        [5, 0, 3],
      ],
    ),
    surface(
      "t1",
      "SlabOnGrade",
      ["b"],
      [
        [5, 4, 0],
        [9, 4, 0],
        [9, 0, 0],
        [5, 0, 0],
      ],
    ),
    surface(
      "t2",
      "ExteriorWall",
      ["b"],
      [
        [5, 0, 0],
        [9, 0, 0],
        [9, 0, 3],
        [5, 0, 3],
      ],
    ),
    surface(
      "t3",
      "ExteriorWall",
      ["b"],
      [
        [9, 0, 0],
        [9, 4, 0],
        [9, 4, 4],
        [9, 0, 3],
      ],
    ),
    surface(
      "t4",
      "ExteriorWall",
      ["b"],
      [
        [9, 4, 0],
        [5, 4, 0],
        [5, 4, 4],
        [9, 4, 4],
      ],
    ),
    surface(
      "t5",
      "Roof",
      ["b"],
      [
        [5, 0, 3],
        [9, 0, 3],
        [9, 4, 4],
        [5, 4, 4],
      ],
    ),
  ].join("");
  return `<?xml version="1.0"?><gbXML xmlns="http://www.gbxml.org/schema" version="6.01" lengthUnit="${parts.units ?? "Meters"}" areaUnit="SquareMeters" volumeUnit="CubicMeters" temperatureUnit="C">
${parts.extra ?? ""}
<WindowType id="w1"><U-value unit="BtuPerHourSquareFtF">0.3</U-value><SolarHeatGainCoeff unit="Fraction">0.4</SolarHeatGainCoeff><Name>Glass</Name></WindowType>
<Campus id="campus">${parts.surfaces ?? own}<Building id="b"><Name>Shed</Name>${parts.spaces ?? '<Space id="a" spaceType="OfficeEnclosed"><Name>A</Name></Space><Space id="b"><Name>B</Name></Space>'}</Building>
<Location><Latitude>45</Latitude><Longitude>10</Longitude></Location></Campus>
<Construction id="c1"><U-value unit="WPerSquareMeterK">0.5</U-value><Name>Wall</Name></Construction></gbXML>`;
}

describe("a file of sloped roofs, in any order of elements", () => {
  it("becomes free faces that close and can be simulated, the turned wall mended and told", () => {
    const { project, report, matching } = back(file());
    const { problems, geometry, openings } = checkProject(project);
    expect(problems.filter((p) => p.severity === "error")).toEqual([]);
    expect(Object.values(project.spaces).map((s) => s.form.kind)).toEqual(["faces", "faces"]);
    expect(geometry.spaces.get("a")?.volume).toBeCloseTo(5 * 4 * 3.5, 6);
    expect(geometry.faces.filter((f) => f.contact === "space")).toHaveLength(2);
    expect(openings).toHaveLength(1);
    expect(report.some((m) => m.kind === "mended" && /^1 surface.* turned outward/.test(m.text))).toBe(true);
    expect(matching.find((m) => m.kind === "use")?.chosen).toBe("main");
    const weather = projectWeather(project);
    if (!weather) throw new Error("no weather");
    const { summary } = runToEnd(project, weather, { stepsPerHour: 1, shortYear: true });
    expect(summary.closure).toBeLessThan(1e-9);
    const w = project.glazings.file_w1;
    expect(w.kind === "rated" && w.u).toBeCloseTo(0.3 * 5.678263, 6);
  });
  it("is the same building in feet", () => {
    const [m, f] = [back(file()).project, back(file({ units: "Feet" })).project];
    const [a, b] = [facts(m), facts(f)];
    for (const [key, area] of a) expect((b.get(key) ?? 0) / area).toBeCloseTo(1, 4);
  });
});

describe("a schedule that is not told in full", () => {
  it("is a row to match, and the match is what the space takes", () => {
    const text = file({
      spaces: '<Space id="a" lightScheduleIdRef="odd"><Name>A</Name></Space><Space id="b"><Name>B</Name></Space>',
      extra: '<Schedule id="odd" type="Fraction"><Name>Odd hours</Name></Schedule>',
    });
    const first = back(text);
    const row = first.matching.find((m) => m.kind === "schedule");
    expect(row).toMatchObject({ name: "Odd hours", count: 1, chosen: null });
    expect(first.report.some((m) => m.affects && /Odd hours/.test(m.text))).toBe(true);
    const [option] = row?.options ?? [];
    const matched = importBuilding(read(text), starterContext, "m", { "schedule:Odd hours": option.id });
    expect(matched.project.spaces.a.inputs.lightingSchedule).toBe(option.id);
  });
});

describe("bad input", () => {
  const message = (text: string): string => {
    const o = readGbxml(text);
    return o.ok ? "" : o.message;
  };
  it("is told in a sentence: malformed, empty, something else, no building", () => {
    expect(message("<gbXML><Campus></gbXML>")).toMatch(/not well-formed XML: line \d+/);
    expect(message("")).toBe("The file is empty.");
    expect(message("<html></html>")).toMatch(/root is "html"/);
    expect(message("<gbXML></gbXML>")).toMatch(/no Campus/);
    expect(message("<gbXML><Campus><Building/></Campus></gbXML>")).toMatch(/no Surface/);
  });
  it("refuses entity bombs and outside entities unread, and files too large or nested too deep", () => {
    const bomb = `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><gbXML>&b;</gbXML>`;
    const outside = `<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/hostname">]><gbXML>&e;</gbXML>`;
    for (const t of [bomb, outside]) expect(message(t)).toMatch(/document type or entities/);
    expect(message(" ".repeat(51 * 1024 * 1024))).toMatch(/larger than 50 MB/);
    expect(message(`<gbXML>${"<a>".repeat(200)}${"</a>".repeat(200)}</gbXML>`)).toMatch(/nested too deep/);
  });
  it("keeps what is sound and tells the rest: two points, missing spaces, double ids, unknown units, openings outside", () => {
    const last = "<Coordinate>9</Coordinate><Coordinate>4</Coordinate><Coordinate>4</Coordinate>";
    const roof = file().lastIndexOf(last, file().lastIndexOf('<AdjacentSpaceId spaceIdRef="b"/>'));
    const bent =
      file().slice(0, roof) +
      last.replace("<Coordinate>4</Coordinate><Coordinate>4", "<Coordinate>4</Coordinate><Coordinate>4.5") +
      file().slice(roof + last.length);
    const cases: [string, RegExp][] = [
      [file().replace('id="t2"', 'id="s2"'), /id "s2" is used by 2/],
      [file({ extra: '<Material id="m"><Thickness unit="Cubits">1</Thickness><Name>M</Name></Material>' }), /unit "Cubits"/],
      [file().replace(/spaceIdRef="b"/, 'spaceIdRef="ghost"'), /"ghost" the file does not have/],
      [
        file().replace(
          "</Campus>",
          '<Surface id="x" surfaceType="ExteriorWall"><PlanarGeometry><PolyLoop><CartesianPoint><Coordinate>0</Coordinate><Coordinate>0</Coordinate><Coordinate>0</Coordinate></CartesianPoint></PolyLoop></PlanarGeometry><AdjacentSpaceId spaceIdRef="a"/></Surface></Campus>',
        ),
        /"x" of A has fewer than three corners/,
      ],
      [file({ spaces: '<Space id="a"><Name>A</Name></Space>' }), /"b" the file does not have/],
      [bent, /not plane/],
    ];
    for (const [text, expected] of cases) {
      const { project, report } = back(text);
      expect(report.map((m) => m.text).join("\n")).toMatch(expected);
      expect(Object.keys(project.spaces).length).toBeGreaterThan(0);
    }
    const far = file().replace(
      "<Coordinate>3</Coordinate><Coordinate>0</Coordinate><Coordinate>2</Coordinate>",
      "<Coordinate>8</Coordinate><Coordinate>0</Coordinate><Coordinate>2</Coordinate>",
    );
    expect(checkProject(back(far).project).problems.map((p) => p.code)).toContain("past-wall");
  });
  it("never throws, whatever is cut out of or put into a file", () => {
    const text = file();
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: text.length }),
        fc.integer({ min: 0, max: 300 }),
        fc.constantFrom("", "<", "1e999", "-7", "&amp;", "</Surface>", '"'),
        (at, cut, put) => {
          const outcome = readGbxml(text.slice(0, at) + put + text.slice(at + cut));
          if (outcome.ok) checkProject(importBuilding(outcome.records, starterContext, "x").project);
          else expect(outcome.message).toMatch(/\.$/);
        },
      ),
      { numRuns: 150 },
    );
  });
});
