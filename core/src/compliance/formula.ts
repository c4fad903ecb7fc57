import { evaluate, parseExpression, type Node } from "../expression/index.ts";
import { buildingNames, unitOfText, type Pack, type PackName } from "../model/index.ts";
import { commonNames } from "../packs/index.ts";

/** Values of names in the units they are told in; null: not known yet. */
export type Known = Readonly<Record<string, number | null>>;

const factorOf = (unit: string): number => unitOfText(unit === "" ? "1" : unit)?.factor ?? 1;
const trees = new Map<string, Node>();

function treeOf(text: string, names: readonly PackName[]): Node {
  const key = `${text}\n${names.map((n) => n.name).join(" ")}`;
  let root = trees.get(key);
  if (!root) {
    const parsed = parseExpression(
      text,
      names.map((n) => n.name),
    );
    if (!parsed.ok) throw new RangeError(`"${text}": ${parsed.fault.message}`);
    root = parsed.root;
    if (trees.size > 2000) trees.clear();
    trees.set(key, root);
  }
  return root;
}

/** A name without a value ends an evaluation: what depends on it is not known yet. */
class Unknown extends Error {}

/** Expressions of a pack over what is known of a building and of one thing in it. */
export class Formulas {
  private readonly pack: Pack;
  private readonly zone: string;
  private readonly building: Known;
  private readonly common: readonly PackName[];
  private readonly found = new Map<string, number | null>();

  constructor(pack: Pack, zone: string, building: Known) {
    this.pack = pack;
    this.zone = zone;
    this.building = building;
    this.common = commonNames(pack);
  }

  /** Value of an expression in a unit; null: it needs what is not known yet. @param names of the thing, with their units */
  value(text: string, unit: string, names: readonly PackName[] = [], known: Known = {}): number | null {
    const si = this.si(text, names, known);
    return si === null ? null : si / factorOf(unit);
  }

  /** Whether a condition holds; null: it needs what is not known yet. */
  holds(text: string, names: readonly PackName[] = [], known: Known = {}): boolean | null {
    const si = this.si(`if(${text}, 1, 0)`, names, known);
    return si === null ? null : si !== 0;
  }

  private si(text: string, names: readonly PackName[], known: Known): number | null {
    const units = new Map([...this.common, ...names].map((n) => [n.name, n.unit]));
    try {
      const [v] = evaluate(treeOf(text, [...this.common, ...names]), { rows: 1, column: (name) => this.column(name, units, known) });
      if (!Number.isFinite(v)) throw new RangeError(`"${text}" of ${this.pack.name} gives no number in climate zone ${this.zone}.`);
      return v;
    } catch (error) {
      if (error instanceof Unknown) return null;
      throw error;
    }
  }

  private column(name: string, units: ReadonlyMap<string, string>, known: Known): number {
    const own = Object.hasOwn(known, name) ? known[name] : undefined;
    if (own !== undefined) return needed(own) * factorOf(units.get(name) ?? "1");
    if (Object.hasOwn(this.building, name)) return needed(this.building[name]) * factorOf(buildingNames.find((b) => b.name === name)?.unit ?? "1");
    const value = Object.hasOwn(this.pack.values, name) ? this.pack.values[name] : undefined;
    if (!value) throw new Unknown();
    let si = this.found.get(name);
    if (si === undefined) {
      si = value.formula === undefined ? (value.value ?? value.byZone?.[this.zone] ?? NaN) * factorOf(value.unit) : this.si(value.formula, [], {});
      this.found.set(name, si);
    }
    return needed(si);
  }
}

function needed(v: number | null): number {
  if (v === null || v !== v) throw new Unknown();
  return v;
}
