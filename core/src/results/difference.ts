import type { Project } from "../model/index.ts";
import { pricedLike } from "./pricing.ts";
import type { Summary } from "./summary.ts";

type EndUse = Summary["energy"]["endUses"][number];

/**
 * The headline figures of an edited model before its year has run: those of the last exact year, plus what the edit moves
 * the short year by. What a short year misses is missed on both sides and mostly cancels. Energy by end use, loads, cost,
 * carbon, primary energy and peaks follow; months keep their proportions; everything else stays that of the
 * last exact year.
 * @param exact summary of a whole year of the model before the edit
 * @param before short year of the same model
 * @param after short year of the edited one, of the same days
 * @param project the edited model's prices and factors
 * @returns null where the three are not of the same zones, days and whole years, so that no difference means anything
 */
export function byDifference(exact: Summary, before: Summary, after: Summary, project: Pick<Project, "prices" | "factors">): Summary | null {
  const days = (s: Summary): string => JSON.stringify(s.shortYear?.days);
  const zones = (s: Summary): string => s.zones.map((z) => z.id).join(" ");
  if (exact.shortYear || !before.shortYear || days(before) !== days(after) || exact.energy.intensity === null) return null;
  if (zones(exact) !== zones(before) || zones(before) !== zones(after)) return null;
  const moved = (e: number, b: number, a: number): number => Math.max(0, e + (a - b));
  const load = <L extends { total: number; monthly: number[] }>(e: L, b: L, a: L): L => ({ ...e, ...spread(e, moved(e.total, b.total, a.total), a.monthly) });
  const newLoads = {
    heating: load(exact.loads.heating, before.loads.heating, after.loads.heating),
    cooling: load(exact.loads.cooling, before.loads.cooling, after.loads.cooling),
  };
  const uses = new Map<string, { e?: EndUse; b?: EndUse; a?: EndUse }>();
  for (const [name, s] of [
    ["e", exact],
    ["b", before],
    ["a", after],
  ] as const)
    for (const u of s.energy.endUses) {
      const key = `${u.use} ${u.fuel}`;
      uses.set(key, { ...uses.get(key), [name]: u });
    }
  const endUses = [...uses.values()].flatMap(({ e, b, a }): EndUse[] => {
    const some = e ?? a ?? b;
    if (!some) return [];
    const of = e ?? { ...some, total: 0, monthly: some.monthly.map(() => 0) };
    const load = some.use === "heating" || some.use === "cooling" ? after.loads[some.use].total : 0;
    // fuel of a load is taken from the load, so that an efficiency acts on all of it and not on the short year's part
    const total = load > 0 ? newLoads[some.use as "heating" | "cooling"].total * ((a?.total ?? 0) / load) : moved(of.total, b?.total ?? 0, a?.total ?? 0);
    return [{ ...of, ...spread(of, total, a?.monthly ?? of.monthly) }];
  });
  const total = endUses.reduce((s, u) => s + u.total, 0);
  const { energy, loads, peaks } = exact;
  const { floorArea } = after;
  const intensity = floorArea > 0 ? total / floorArea : 0;
  const peak = (k: "heating" | "cooling"): Summary["peaks"]["heating"] => ({
    power: moved(peaks[k].power, before.peaks[k].power, after.peaks[k].power),
    latent: moved(peaks[k].latent, before.peaks[k].latent, after.peaks[k].latent),
    at: peaks[k].at ?? after.peaks[k].at,
    step: moved(peaks[k].step, before.peaks[k].step, after.peaks[k].step),
    stepAt: peaks[k].stepAt ?? after.peaks[k].stepAt,
  });
  return {
    ...exact,
    project: after.project,
    floorArea,
    wholeFloorArea: after.wholeFloorArea,
    fingerprint: "",
    warnings: after.warnings,
    unmetHours: exact.unmetHours,
    unmetCauses: exact.unmetCauses,
    waterSystems: after.waterSystems,
    arrays: after.arrays,
    energy: {
      intensity,
      perFloorArea: after.wholeFloorArea > 0 ? total / after.wholeFloorArea : null,
      net: after.energy.net,
      site: after.energy.site,
      endUses,
      ...pricedLike({ endUses }, energy.bill ?? { parts: [] }, project),
      ...(energy.bill ? { bill: energy.bill } : {}),
    },
    loads: {
      ...newLoads,
      humidification: load(loads.humidification, before.loads.humidification, after.loads.humidification),
      dehumidification: load(loads.dehumidification, before.loads.dehumidification, after.loads.dehumidification),
    },
    peaks: { heating: peak("heating"), cooling: peak("cooling") },
  };
}

/** A new total over the months in the proportions it had, or, where it was nothing, in those of another year. */
function spread(
  had: { readonly total: number; readonly monthly: readonly number[] },
  total: number,
  otherwise: readonly number[],
): { total: number; monthly: number[] } {
  const shape = had.total > 0 ? had.monthly : otherwise;
  const sum = shape.reduce((s, v) => s + v, 0);
  return { total, monthly: shape.map((v) => (sum > 0 ? (v * total) / sum : total / 12)) };
}
