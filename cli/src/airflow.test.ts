import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { expect, it } from "vitest";
import type { Project } from "@arroyo/core";
import { model, rectangle } from "../../core/src/verification/formModel.ts";
import { arroyo as run } from "./arroyo.ts";

const folder = mkdtempSync(path.join(os.tmpdir(), "arroyo-airflow-"));
const at = (name: string): string => path.join(folder, name);
async function arroyo(...words: string[]): Promise<{ code: number; out: string; err: string }> {
  const said = { out: "", err: "" };
  const code = await run(words, { out: (t) => void (said.out += `${t}\n`), err: (t) => void (said.err += `${t}\n`) });
  return { code, ...said };
}

it("arroyo airflow makes a network, studies the flow around it in two tiny directions, and writes and reads its table", async () => {
  const p = model({ a: rectangle(0, 0, 4, 4) });
  p.openings = {
    w: { kind: "placed", name: "Window", host: "a/e1", use: "window", offset: 1, sill: 1, width: 1.5, height: 1, glazing: null, operable: 0.5 },
  };
  writeFileSync(at("room.json"), JSON.stringify(p));
  expect((await arroyo("airflow", at("room.json"))).err).toContain("make one with --make");
  const made = await arroyo("airflow", at("room.json"), "--make", "--out", at("made.json"));
  expect([made.code, made.out]).toEqual([0, expect.stringContaining("1 zones · 1 paths")]);
  const study = await arroyo("airflow", at("made.json"), "--study", "tiny", "--directions", "2", "--out", at("studied.json"), "--csv", at("points.csv"));
  expect([study.code, study.out]).toEqual([0, expect.stringContaining("wind pressures by flow study")]);
  const studied = JSON.parse(readFileSync(at("studied.json"), "utf8")) as Project;
  const points = studied.airNetwork?.study?.points ?? [];
  const of = (host: string, k: number): number => points.find((x) => x.name === `${host} 1`)?.coefficients[k] ?? NaN;
  // wind from the north, then from the south: the wall it strikes is pressed, the one behind is drawn, alike when the wind turns
  expect(of("a/e3", 0)).toBeGreaterThan(0.2);
  expect(of("a/e1", 0)).toBeLessThan(-0.05);
  expect(of("a/e1", 1)).toBeCloseTo(of("a/e3", 0), 1);
  const lines = readFileSync(at("points.csv"), "utf8").split("\n");
  expect(lines[1]).toBe("point,0,180");
  // two directions leave too much of the rose without a figure: a table of them is refused with its line
  const refused = await arroyo("airflow", at("made.json"), "--table", at("points.csv"), "--out", at("table.json"));
  expect([refused.code, refused.err]).toEqual([1, expect.stringMatching(/line 2: Coefficients are missing between 180° and 0°/)]);
  expect((await arroyo("airflow", at("made.json"), "--study", "huge", "--out", at("x.json"))).code).toBe(2);
}, 120000);
