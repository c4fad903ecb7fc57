import { describe, expect, it } from "vitest";
import type { WeatherYear } from "../climate/index.ts";
import { shippedOutlines } from "../library/index.ts";
import { parseProject, reportOutlineSchema, type Project, type ReportOutline, type Topic } from "../model/index.ts";
import { runToEnd, seriesTable } from "../results/index.ts";
import { projectWeather } from "../simulate/index.ts";
import { boxProject } from "../verification/box.ts";
import { buildReport, cellText, reportCsv, reportHtml, reportMarkdown, type Report, type ReportRun, type ReportTable } from "./index.ts";

function room(edit: (p: Project) => void = () => undefined): Project {
  const p = JSON.parse(JSON.stringify(boxProject({ glass: 0.4, heating: 20, cooling: 26, gains: 300, second: { heating: 20, cooling: 26 } }))) as Project;
  Object.assign(p.spaceTypes.box.inputs, { peopleDensity: 0.05, lightingPower: 7 });
  edit(p);
  const read = parseProject(JSON.parse(JSON.stringify(p)));
  if (!read.ok) throw new Error(read.problems.map((x) => x.message).join("\n"));
  return read.project;
}
function run(p: Project, name: string, series: readonly string[] = []): ReportRun {
  const w = projectWeather(p) as WeatherYear;
  const r = runToEnd(p, w, { stepsPerHour: 1, series });
  return { name, project: p, summary: r.summary, table: seriesTable(r.series, w, r.fuel) };
}
const outline = (...topics: readonly Omit<Topic, "id">[]): ReportOutline => ({ name: "Test", topics: topics.map((t, i) => ({ id: `t${i}`, ...t })) });
const tables = (r: Report): ReportTable[] => r.blocks.filter((b) => b.kind === "table");
const value = (t: ReportTable, row: string, column: string): number => {
  const c = t.rows.find((r) => r[0] === row)?.[t.head.findIndex((h) => h.text === column)];
  if (typeof c !== "object" || c === null) throw new Error(`${row} has no ${column}`);
  return c.value;
};

const p = room();
const base = run(p, "Base", ["infiltration", "radiantTemperature"]);

describe("a report by an outline", () => {
  it("tells energy by month that adds up to the year, to the shown digits, and drops what is nothing", () => {
    const [energy] = tables(buildReport(outline({ kind: "energy" }), [base]));
    const months = energy.head.slice(1, -1).map((h) => h.text);
    const sum = months.reduce((s, m) => s + value(energy, "all", m), 0);
    expect(sum).toBeCloseTo(value(energy, "all", "Year"), 6);
    expect(value(energy, "all", "Year")).toBeCloseTo(
      base.summary.energy.endUses.reduce((s, u) => s + u.total, 0),
      6,
    );
    const loads = tables(buildReport(outline({ kind: "loads" }), [base]))[0];
    const mute = run(
      room((d) => {
        for (const space of Object.values(d.spaces)) Object.assign(space.inputs, { coolingSetpoint: null, coolingSetback: null });
      }),
      "Warm",
    );
    expect(mute.summary.loads.cooling.total).toBe(0);
    const without = tables(buildReport(outline({ kind: "loads" }), [mute]))[0];
    expect(loads.head.map((h) => h.text)).toContain("Cooling");
    expect(without.head.map((h) => h.text)).not.toContain("Cooling");
    expect(value(loads, "All zones", "Heating")).toBeCloseTo(
      base.summary.zones.reduce((s, z) => s + z.heating, 0),
      6,
    );
  });

  it("closes the balance of every month in gains and losses, in the unit asked for", () => {
    const [flows] = tables(buildReport(outline({ kind: "flows", energy: "MWh", digits: 3 }), [base]));
    for (const m of ["Jan", "Jul", "Year"]) {
      const column = flows.head.findIndex((h) => h.text === m);
      const all = flows.rows.map((r) => (typeof r[column] === "object" && r[column] !== null ? r[column].value : 0));
      expect(Math.abs(all.reduce((s, v) => s + v, 0))).toBeLessThan(1e-3 * all.reduce((s, v) => s + Math.abs(v), 0));
    }
    expect(flows.head[1].unit).toBe("MWh");
  });

  it("tells groups apart, one month alone, and leaves out rows and columns that were taken out by hand", () => {
    const grouped = room((d) => {
      d.groups = { g: { kind: "by hand", name: "First", zones: ["a"] } };
    });
    const r = run(grouped, "Base");
    const [loads] = tables(buildReport(outline({ kind: "loads", of: ["g"], without: ["Floor"] }), [r]));
    expect(loads.rows.map((x) => x[0])).toEqual([grouped.zones.a.name, "First"]);
    expect(loads.head.map((h) => h.text)).not.toContain("Floor");
    const [january] = tables(buildReport(outline({ kind: "energy", month: 0 }), [r]));
    expect(january.head.map((h) => h.text)).toEqual(["End use", "Jan"]);
  });

  it("sets several runs side by side in the summary, and keeps what was written by hand on every run", () => {
    const tight = run(
      room((d) => Object.assign(d.spaceTypes.box.inputs, { lightingPower: 3 })),
      "Fewer lights",
    );
    const o = outline({ kind: "summary", note: "The roof is to be renewed in spring.\n\nAsk again then." }, { kind: "text", title: "By hand", note: "Kept." });
    for (const runs of [[base], [base, tight]]) {
      const report = buildReport(o, runs);
      expect(report.blocks.filter((b) => b.kind === "paragraph").map((b) => b.text)).toEqual([
        "The roof is to be renewed in spring.",
        "Ask again then.",
        "Kept.",
      ]);
    }
    const [summary] = tables(buildReport(o, [base, tight]));
    expect(summary.head.map((h) => h.text)).toEqual(["Figure", "Unit", "Base", "Fewer lights"]);
    expect(value(summary, "Heating delivered", "Fewer lights")).toBeGreaterThan(value(summary, "Heating delivered", "Base"));
  });

  it("reads series over the run or a month, and says which it cannot read", () => {
    const series = [
      { of: "zone" as const, id: "a", quantity: "infiltration" },
      { of: "outdoors" as const, id: "outdoors", quantity: "dryBulb" },
      { of: "zone" as const, id: "a", quantity: "sun" },
    ];
    const report = buildReport(outline({ kind: "series", month: 1, series }), [base]);
    const [t] = tables(report);
    const dry = (projectWeather(p) as WeatherYear).dryBulb.slice(24 * 31, 24 * 59);
    expect(value(t, "Outdoor temperature", "Mean")).toBeCloseTo(dry.reduce((s, v) => s + v, 0) / dry.length, 9);
    expect(value(t, `${p.zones.a.name}, infiltration`, "Sum")).toBeCloseTo(base.summary.zones[0].flows.infiltration[1], 6);
    expect(report.blocks.filter((b) => b.kind === "remark").map((b) => b.text)).toEqual([
      expect.stringContaining("sun through glass: Sun through glass is not kept"),
    ]);
  });

  it("is written from every outline that ships", () => {
    for (const o of Object.values(shippedOutlines)) {
      expect(reportOutlineSchema.safeParse(o).success).toBe(true);
      const report = buildReport(o, [base]);
      expect(tables(report).length).toBeGreaterThan(0);
      for (const t of tables(report)) for (const r of t.rows) expect(r.length).toBe(t.head.length);
    }
  });
});

describe("the documents of a report", () => {
  const report = buildReport(outline({ kind: "loads" }, { kind: "energy" }, { kind: "assumptions" }, { kind: "text", note: "5 < 6 & *bold* | pipe" }), [base]);
  const csv = reportCsv(report);
  /** Rows of the CSV by caption. */
  const sheets = new Map(
    csv
      .trimEnd()
      .split("\n\n")
      .map((s): [string, string[]] => [s.split("\n")[0].replace(/^"|"$/g, ""), s.split("\n").slice(2)]),
  );
  it("agree figure by figure: Markdown and HTML have what the CSV has", () => {
    const html = reportHtml(report);
    const markdown = reportMarkdown(report);
    const [loads] = tables(report);
    const rows = sheets.get(loads.caption) as string[];
    expect(rows).toHaveLength(loads.rows.length);
    rows.forEach((line, i) => {
      const cells = line.split(",");
      loads.rows[i].forEach((c, k) => {
        const shown = cellText(c);
        expect(html).toContain(`>${shown}</td>`);
        expect(markdown).toContain(shown);
        if (typeof c === "object" && c !== null) expect(cells[k]).toBe(shown.replace(/\u202f/g, "").replace("−", "-"));
      });
    });
  });
  it("take text for text", () => {
    expect(reportHtml(report)).toContain("5 &lt; 6 &amp; *bold* | pipe");
    expect(reportMarkdown(report)).toContain("5 \\< 6 & \\*bold\\* \\| pipe");
  });
  it("write figures with their decimals, nothing as a dash, and no negative nothing", () => {
    expect(cellText({ value: 1234567.25, digits: 1 })).toBe("1\u202f234\u202f567.3");
    expect(cellText({ value: -0.04, digits: 1 })).toBe("0.0");
    expect(cellText({ value: -12.5, digits: 0 })).toBe("−13");
    expect(cellText(null)).toBe("—");
  });
});
