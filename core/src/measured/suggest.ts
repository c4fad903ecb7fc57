import { componentName, componentsOf, ownerName, unitOfText, type LoggedPoint, type Pair, type Project, type SeriesRef } from "../model/index.ts";
import { driveTargets, fitsInput, type DriveTarget } from "../inputs/index.ts";
import { pointUnit } from "../logged/index.ts";

const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .replace(/[’']/g, "")
    .split(/[^a-z0-9äöüéèáóí]+/)
    .filter((w) => w.length > 1 && !["of", "the", "room", "and"].includes(w));
/** Share of the words of a name that another has. */
function shared(name: string, words: ReadonlySet<string>): number {
  const own = wordsOf(name);
  return own.length === 0 ? 0 : own.filter((w) => words.has(w)).length / own.length;
}
const isOf = (unit: string, kind: string): boolean => {
  const [a, b] = [unitOfText(unit), unitOfText(kind)];
  return a !== null && b !== null && a.dimension.every((d, i) => d === b.dimension[i]);
};

/** The series a point most likely stands for, by its name and what it measures; null: none is like it. */
export function suggestedSeries(project: Project, point: LoggedPoint): SeriesRef | null {
  const words = new Set(wordsOf([point.name, ...(point.tags ?? [])].join(" ")));
  const unit = pointUnit(point);
  const has = (...any: string[]): boolean => any.some((w) => words.has(w));
  const temperature = isOf(unit, "°C");
  const power = isOf(unit, "W");
  if (temperature && has("outdoor", "outside", "ambient", "roof", "weather")) return { of: "outdoors", id: "outdoors", quantity: "dryBulb" };
  if (power && has("meter") && has("gas")) return { of: "building", id: "building", quantity: "fuel gas" };
  if (power && has("meter") && has("electricity", "electric")) return { of: "building", id: "building", quantity: "fuel electricity" };
  let best: SeriesRef | null = null;
  let most = 0.55;
  const offer = (score: number, ref: SeriesRef): void => {
    if (score > most) [best, most] = [ref, score];
  };
  if (has("setpoint", "set")) return null;
  if (temperature || power)
    for (const c of componentsOf(project)) {
      const owner = ownerName(project, c);
      const own = c.path.length > 2 ? shared(componentName(c), words) : 0;
      const of = shared(owner, words);
      const id = c.path.join("/");
      if (temperature && c.path.length === 2 && has("supply", "leaving", "discharge")) offer(of + 0.01, { of: "component", id, quantity: "componentOut" });
      if (power && c.path.length > 2 && own >= 0.5) offer(0.5 * of + 0.6 * own, { of: "component", id, quantity: "componentPower" });
    }
  for (const [id, zone] of Object.entries(project.zones)) {
    const score = shared(zone.name, words);
    if (temperature) offer(score, { of: "zone", id, quantity: "airTemperature" });
    if (unit === "%" && has("humidity", "rh")) offer(score, { of: "zone", id, quantity: "relativeHumidity" });
    if (power && has("light", "lighting", "lights")) offer(score + 0.01, { of: "zone", id, quantity: "lighting" });
    if (power && has("sockets", "plug", "plugs", "equipment", "appliances", "devices")) offer(score + 0.01, { of: "zone", id, quantity: "appliances" });
  }
  return best;
}

/** Pairs of all points that have a series like them and none yet. */
export function suggestedPairs(project: Project): Pair[] {
  const taken = new Set((project.pairs ?? []).map((p) => p.point));
  return Object.entries(project.points ?? {}).flatMap(([id, point]): Pair[] => {
    if (taken.has(id)) return [];
    const series = suggestedSeries(project, point);
    return series ? [{ id, point: id, series }] : [];
  });
}

/** Inputs a point may drive by what it measures, the likeliest by its name first. */
export function inputsFor(project: Project, point: LoggedPoint): DriveTarget[] {
  const words = new Set(wordsOf([point.name, ...(point.tags ?? [])].join(" ").replace(/sockets|plugs?|devices/gi, "$& equipment")));
  const unit = pointUnit(point);
  const score = (t: DriveTarget): number => shared(t.of, words) + 0.5 * shared(t.label, words);
  return driveTargets(project)
    .filter((t) => fitsInput(t, unit))
    .sort((a, b) => score(b) - score(a));
}
