import { freeId, namedAxis, setChange, studyBase, type AxisChoice, type Change, type Project, type Study } from "@arroyo/core";

/** The change that puts a study into the project, or in place of the one that is there. */
export function studyChange(document: Project, id: string, study: Study): Change {
  if (!document.studies) return setChange(document, ["studies"], { [id]: study });
  return Object.hasOwn(document.studies, id) ? setChange(document, ["studies", id], study) : { op: "insert", path: ["studies", id], value: study };
}

/** A study with a further axis. */
export function withAxis(document: Project, study: Study, choice: AxisChoice): Study {
  const ids = Object.fromEntries(study.axes.map((a) => [a.id, a]));
  return { ...study, axes: [...study.axes, namedAxis(studyBase(document, study), choice, freeId(ids, "axis"))] };
}
