import JSZip from "jszip";
import { describe, expect, it } from "vitest";
import type { Report, ReportTable } from "@arroyo/core";
import { reportDocx } from "./reportDocx.ts";

const table = (columns: number, rows = 2): ReportTable => ({
  kind: "table",
  caption: `Table of ${columns}`,
  head: Array.from({ length: columns }, (_, i) => ({ text: i === 0 ? "Zone" : `C${i}`, unit: i === 0 ? "" : "kWh" })),
  rows: Array.from({ length: rows }, (_, r) => Array.from({ length: columns }, (__, i) => (i === 0 ? `Zone ${r}` : { value: 1000 * r + i + 0.25, digits: 1 }))),
});
async function xmlOf(report: Report): Promise<string> {
  const zip = await JSZip.loadAsync(await reportDocx(report));
  return (await zip.file("word/document.xml")?.async("string")) as string;
}
const sections = (xml: string): string[] => [...xml.matchAll(/<w:pgSz[^>]*>/g)].map((m) => m[0]);
const columns = (xml: string): number[] => [...xml.matchAll(/<w:tblGrid>(.*?)<\/w:tblGrid>/g)].map((m) => (m[1].match(/<w:gridCol/g) ?? []).length);
const width = (xml: string): number[] =>
  [...xml.matchAll(/<w:tblGrid>(.*?)<\/w:tblGrid>/g)].map((m) => [...m[1].matchAll(/w:w="(\d+)"/g)].reduce((s, x) => s + Number(x[1]), 0));

describe("a report as an office document", () => {
  it("has its title, headings, paragraphs and every figure as it is written elsewhere", async () => {
    const xml = await xmlOf({
      title: "Loads: Saltbrush Community Library",
      blocks: [{ kind: "heading", level: 1, text: "Loads" }, { kind: "paragraph", text: "A note & more" }, { kind: "remark", text: "Not kept" }, table(4)],
    });
    for (const text of ["Loads: Saltbrush Community Library", "A note &amp; more", "Not kept", "Table of 4", "1\u202f003.3"]) expect(xml).toContain(text);
  });

  it("puts wide tables on landscape pages with their heading, splits those that fit no page, and keeps all on the paper", async () => {
    const xml = await xmlOf({
      title: "R",
      blocks: [
        { kind: "heading", level: 1, text: "Narrow" },
        table(5),
        { kind: "heading", level: 1, text: "Wide" },
        table(14),
        table(30),
        { kind: "paragraph", text: "End" },
      ],
    });
    const pages = sections(xml);
    expect(pages).toHaveLength(3);
    expect(pages[1]).toContain('w:orient="landscape"');
    expect(pages[0]).not.toContain('w:orient="landscape"');
    expect(columns(xml)).toEqual([5, 14, 11, 11, 10]);
    // within the margins of the page each stands on, twentieths of a point
    width(xml).forEach((w, i) => expect(w).toBeLessThanOrEqual(i === 0 ? 11906 - 2268 : 16838 - 2268));
    // the page turns before the heading of the wide table, not after it
    expect(xml.indexOf("<w:pgSz")).toBeLessThan(xml.indexOf("Wide"));
    // each part has the rows' names
    expect(xml.match(/Zone 1/g)).toHaveLength(5);
  });

  it("repeats the head of a table on every page and keeps rows whole", async () => {
    const xml = await xmlOf({ title: "R", blocks: [table(4, 80)] });
    expect(xml.match(/<w:tblHeader/g)).toHaveLength(1);
    expect(xml.match(/<w:cantSplit/g)).toHaveLength(81);
  });
});
