import { defaultsLeft, effective, type DefaultRow } from "../inputs/index.ts";
import type { FieldSpec, Problem, Project, SpaceField } from "../model/index.ts";
import { checkProject } from "../simulate/index.ts";

/** Questions a model is asked, in the order in which they can be answered. */
export const questions = ["sun study", "loads", "annual energy", "sizing", "code"] as const;
export type Question = (typeof questions)[number];

/** What a question lacks: a sentence, and where it is put right. */
export interface Lack {
  readonly message: string;
  readonly path: string;
  readonly stage: Problem["stage"];
}
export interface Readiness {
  readonly question: Question;
  /** Nothing: it is answered now. */
  readonly lacks: readonly Lack[];
  /** Inputs it depends on that nobody has stated. */
  readonly defaults: readonly DefaultRow[];
}

/** Groups of inputs that loads do not depend on. */
const BESIDE_LOADS: ReadonlySet<FieldSpec["group"]> = new Set<FieldSpec["group"]>(["Comfort", "Hot water", "Capacity", "Efficiency"]);
/** Stages whose faults stand in the way of a question. */
const STAGES: Readonly<Record<Question, readonly Problem["stage"][]>> = {
  "sun study": ["place", "form"],
  loads: ["place", "form", "fabric", "use"],
  "annual energy": ["place", "form", "fabric", "use", "services"],
  sizing: ["place", "form", "fabric", "use", "services"],
  code: ["place", "form", "fabric", "use", "services"],
};

/** Which questions a model can answer as it is, what the others lack, and on how many defaults each answer stands. */
export function readinessOf(project: Project): Readiness[] {
  const { problems, geometry } = checkProject(project);
  const faults = problems.filter((p) => p.severity === "error");
  const rows = defaultsLeft(project);
  const loads = rows.filter((r) => r.kind === "space" && !BESIDE_LOADS.has(r.spec.group));
  const defaults: Readonly<Record<Question, readonly DefaultRow[]>> = {
    "sun study": [],
    loads,
    "annual energy": rows,
    sizing: rows.filter((r) => r.spec.group !== "Comfort"),
    code: rows,
  };
  return questions.map((question) => ({
    question,
    lacks: [
      ...lacksOf(
        project,
        question,
        geometry.faces.some((f) => f.contact === "outdoors"),
      ),
      ...faults.filter((p) => STAGES[question].includes(p.stage)),
    ],
    defaults: defaults[question],
  }));
}

function lacksOf(project: Project, question: Question, outdoors: boolean): Lack[] {
  const spaces = Object.keys(project.spaces);
  const form = (message: string): Lack[] => [{ message, path: "spaces", stage: "form" }];
  if (spaces.length === 0) return form("No space is drawn yet.");
  if (!outdoors) return form("Nothing of the building is outdoors.");
  if (question === "sun study") return [];
  const number = (id: string, field: SpaceField): boolean => effective(project, "space", id, field).value !== null;
  if (!spaces.some((id) => number(id, "heatingSetpoint") || number(id, "coolingSetpoint")))
    return [{ message: "No space is heated or cooled: there are temperatures to read, and no loads.", path: `spaces/${spaces[0]}`, stage: "use" }];
  if (question !== "code") return [];
  const untyped = spaces.filter((id) => project.spaces[id].spaceType === null);
  return untyped.length === 0
    ? []
    : [
        {
          message: `${untyped.length === 1 ? `${project.spaces[untyped[0]].name} has` : `${untyped.length} spaces have`} no space type: a code asks what each is used for.`,
          path: `spaces/${untyped[0]}`,
          stage: "form",
        },
      ];
}
