import path from "node:path";
import { parseArgs } from "node:util";
import {
  airPlan,
  applyChanges,
  checkCell,
  checkProject,
  connectChanges,
  flowStudySpec,
  gridCheck,
  MOST_CELLS,
  ProjectError,
  proposeNetwork,
  readFacadeCsv,
  runDirection,
  studyCells,
  studyGrains,
  studyPressures,
  unconnected,
  writeFacadeCsv,
  type AirNetworkInput,
  type FlowDirection,
  type Project,
} from "@arroyo/core";
import { fileToWrite, line, readText, UsageError, write, type Terminal } from "./files.ts";
import { one, readProject } from "./project.ts";

/** One direction of a flow study to its end. */
function direction(spec: Parameters<typeof runDirection>[0], from: number, cell: number): FlowDirection {
  const run = runDirection(spec, from, cell, 200);
  for (;;) {
    const step = run.next();
    if (step.done) return step.value;
  }
}

function studied(project: Project, input: AirNetworkInput, words: string, directions: number, terminal: Terminal): AirNetworkInput {
  const grain = studyGrains.find((g) => g === words);
  if (!grain) throw new UsageError(`--study takes ${studyGrains.join(", ")}, not "${words}".`);
  if (!Number.isInteger(directions) || directions < 2 || directions > 36) throw new UsageError("--directions takes 2 to 36.");
  const spec = flowStudySpec(project, checkProject(project).geometry, grain, directions);
  const cells = studyCells(spec);
  if (cells > MOST_CELLS) throw new UsageError(`The grid would have ${(cells / 1e6).toFixed(1)} million cells; take a coarser one.`);
  const found = spec.directions.map((d) => {
    const made = direction(spec, d, spec.cell);
    terminal.err(`${d}° done, ${made.cells} cells, ${made.steps} steps`);
    return made;
  });
  const check = gridCheck(found[0], direction(spec, spec.directions[0], checkCell(spec)));
  terminal.out(`flow study: ${found.length} directions, cells of ${spec.cell} m, against cells half as large again coefficients differ by ${check.toFixed(2)}`);
  return { ...input, study: studyPressures(spec, found, check), pressures: "flow study" };
}

/** arroyo airflow: makes the network, gives it wind pressures, tells what it has and what is not connected. */
export function airflowCommand(args: string[], terminal: Terminal): void {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      make: { type: "boolean" },
      connect: { type: "boolean" },
      study: { type: "string" },
      directions: { type: "string" },
      table: { type: "string" },
      csv: { type: "string" },
      out: { type: "string" },
    },
  });
  if ((values.make || values.connect || values.study || values.table) && values.out === undefined)
    throw new UsageError("Say where to write the project: --out FILE.json.");
  let project = readProject(one(positionals));
  for (const file of [values.out, values.csv]) if (file !== undefined) fileToWrite(file);
  if (values.make) project = { ...project, airNetwork: proposeNetwork(project, checkProject(project)) };
  if (!project.airNetwork) throw new UsageError("The project has no airflow network; make one with --make.");
  if (values.connect) {
    const applied = applyChanges(project, connectChanges(project, checkProject(project)));
    if (applied.ok) project = applied.project;
  }
  let input = project.airNetwork as AirNetworkInput;
  if (values.table !== undefined) {
    const read = readFacadeCsv(readText(values.table));
    if (!read.ok)
      throw new ProjectError(
        read.problems.map((p) => ({
          code: "table",
          severity: "error",
          stage: "form",
          path: `${path.basename(values.table ?? "")}:line ${p.line}`,
          message: p.message,
        })),
      );
    const { reference, directions, points } = read.table;
    input = {
      ...input,
      table: { reference, directions: [...directions], points: points.map((p) => ({ name: p.name, coefficients: [...p.coefficients] })) },
      pressures: "table",
    };
  }
  if (values.study !== undefined) input = studied(project, input, values.study, Number(values.directions ?? 12), terminal);
  project = { ...project, airNetwork: input };
  const checked = checkProject(project);
  const plan = airPlan(project, input, checked);
  for (const p of checked.problems) if (p.path.startsWith("airNetwork")) terminal.err(line(p));
  for (const o of unconnected(project, input, checked)) terminal.err(`not connected: ${o.label}`);
  terminal.out(
    `${plan.zones.length} zones · ${plan.planned.filter((p) => p.record !== null).length} paths · ${plan.planned.filter((p) => p.record === null).length} cracks · wind pressures by ${input.pressures}`,
  );
  const zone = (z: string | null): string => (z === null ? "outdoors" : (project.zones[z]?.name ?? z));
  for (const p of plan.planned)
    if (p.record !== null)
      terminal.out(`  ${p.name}: ${zone(p.ends[0])} – ${zone(p.ends[1])}${p.area > 0 ? `, ${p.area.toFixed(2)} m²` : ""}, ${p.control.rule}`);
  const table = input.pressures === "table" ? input.table : input.study;
  if (values.csv !== undefined) {
    if (!table) throw new UsageError("There is no table of wind pressures to write: read one with --table or run --study.");
    write(values.csv, writeFacadeCsv(table));
  }
  if (values.out !== undefined) write(values.out, `${JSON.stringify(project, null, 2)}\n`);
}
