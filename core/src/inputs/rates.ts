import { rateRow, type RateRow } from "../library/index.ts";
import { setChange, unsetChange, type Change, type Project } from "../model/index.ts";
import { spaceUses } from "./gains.ts";

const RATE_INPUTS = { outdoorAirPerPerson: "perPerson", outdoorAirPerArea: "perArea" } as const;

/** Changes that give a space type the rates of a row, each remembered with its clause; null: no row any more, its values stay as typed. */
export function rateChanges(project: Project, type: string, rate: string | null): Change[] {
  const at = (...path: string[]): string[] => ["spaceTypes", type, ...path];
  const clauseAt = (field: string): string[] => ["provenance", `spaceTypes/${type}/inputs/${field}`];
  const t = project.spaceTypes[type];
  const found = rate === null ? null : rateRow(rate);
  if (!found)
    return [
      ...(t.rate === undefined ? [] : [unsetChange(project, at("rate"))]),
      ...Object.keys(RATE_INPUTS).flatMap((f) => (Object.hasOwn(project.provenance, clauseAt(f)[1]) ? [unsetChange(project, clauseAt(f))] : [])),
    ];
  return [
    setChange(project, at("rate"), found.row.id),
    setChange(project, at("inputs", "outdoorAirChanges"), found.row.changes ?? 0),
    setChange(project, at("inputs", "outdoorAirCombined"), "sum"),
    ...Object.entries(RATE_INPUTS).flatMap(([field, key]): Change[] => [
      setChange(project, at("inputs", field), found.row[key]),
      setChange(project, clauseAt(field), { kind: "code", words: `${found.table.clause}: ${found.row.name}`, value: found.row[key] }),
    ]),
  ];
}

/** Flow a row asks for in a space, m³/s. */
export const askedFlow = (row: RateRow, use: { readonly people: number; readonly area: number; readonly volume: number }): number =>
  row.perPerson * use.people + row.perArea * use.area + ((row.changes ?? 0) * use.volume) / 3600;

/** A space with the flow its type's row of the table asks for, and the one it has, m³/s. */
export interface RateCheck {
  readonly space: string;
  readonly row: RateRow;
  readonly asked: number;
  readonly given: number;
}
/** Spaces of types with a row of the rates table. */
export function rateChecks(project: Project): RateCheck[] {
  const uses = spaceUses(project);
  return Object.entries(project.spaces).flatMap(([space, s]) => {
    const rate = s.spaceType === null ? undefined : project.spaceTypes[s.spaceType].rate;
    const found = rate === undefined ? null : rateRow(rate);
    const use = uses.get(space);
    return found && use ? [{ space, row: found.row, asked: askedFlow(found.row, use), given: use.outdoorAir.needed }] : [];
  });
}
