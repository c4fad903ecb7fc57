import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { parseProject, studyTable, type Study, type StudyRow } from "@arroyo/core";
import { pageModule, pageScript } from "../../scripts/lib/page.ts";
import { studyHtml } from "./studyPage.ts";

const read = (name: string): unknown => JSON.parse(readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), "utf8"));

describe("the page of a study", () => {
  it("has the script that the sources of the axes make today", async () => {
    expect(readFileSync(new URL("./studyPageScript.ts", import.meta.url), "utf8")).toBe(pageModule(await pageScript()));
  });

  it("holds every run, needs nothing from outside, and is not broken by what a name contains", () => {
    const parsed = parseProject(read("library"));
    if (!parsed.ok) throw new Error("the library cannot be read");
    const { project } = parsed;
    const own = project.studies?.envelope as Study;
    const study: Study = { ...own, name: "Glass </script><b> & more", axes: own.axes.map((a, i) => (i === 0 ? { ...a, name: '<img src="x">' } : a)) };
    const { rows } = read("library-study") as { rows: StudyRow[] };
    const page = studyHtml(project, study, studyTable(project, study, rows), "12 days");
    expect(page).not.toMatch(/https?:\/\//);
    expect(page).not.toContain("<img");
    expect(page.match(/<\/script>/g)).toHaveLength(2);
    const data = JSON.parse(/id="study">(.*?)<\/script>/s.exec(page)?.[1] ?? "") as {
      data: { runs: number[]; columns: { key: string; name: string; values: (number | null)[] }[] };
      csv: string;
    };
    expect(data.data.runs).toHaveLength(109);
    expect(data.data.columns[0].name).toBe('<img src="x">');
    expect(data.data.columns.every((c) => c.values.length === 109)).toBe(true);
    expect(data.csv.split("\n")).toHaveLength(111);
  });
});
