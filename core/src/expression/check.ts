import { dimensionName, sameDimension, unitOfText, type Dimension } from "../model/index.ts";
import { plain, type ExpressionFault, type Node } from "./parse.ts";

/** Dimension of each name an expression may use. */
export type Dimensions = ReadonlyMap<string, Dimension>;
export type CheckedExpression = { readonly ok: true; readonly dimension: Dimension } | { readonly ok: false; readonly fault: ExpressionFault };

const NONE: Dimension = [0, 0, 0, 0, 0, 0, 0];
type Found = Dimension | "truth";

class Fault extends Error {
  readonly at: number;
  constructor(message: string, at: number) {
    super(message);
    this.at = at;
  }
}

const word = (d: Found): string => (d === "truth" ? "a condition" : dimensionName(d));

/** Dimension of an expression, people counted as numbers; faults are names that are not known and quantities that do not fit each other. */
export function checkDimensions(root: Node, names: Dimensions): CheckedExpression {
  try {
    const found = dimensionOf(root, names);
    if (found === "truth") throw new Fault("This is a condition; a quantity is needed. Use if(condition, value, value).", root.at);
    return { ok: true, dimension: found };
  } catch (error) {
    if (error instanceof Fault) return { ok: false, fault: { message: error.message, at: error.at } };
    throw error;
  }
}

/** What is wrong with an expression as a condition: names that are not known, quantities that do not fit, or a quantity where it asks yes or no; null: nothing. */
export function conditionFault(root: Node, names: Dimensions): ExpressionFault | null {
  try {
    if (dimensionOf(root, names) === "truth") return null;
    return { message: "This is a quantity; a condition is needed, such as area > 100 m².", at: root.at };
  } catch (error) {
    if (error instanceof Fault) return { message: error.message, at: error.at };
    throw error;
  }
}

/** Whether an expression's dimension suits a unit; a sentence where not. */
export function unfit(dimension: Dimension, unit: string, at = 0): ExpressionFault | null {
  const wanted = unitOfText(unit === "" ? "1" : unit);
  if (wanted && sameDimension(plain(wanted.dimension), dimension)) return null;
  return {
    at,
    message: `The expression gives ${dimensionName(dimension)}; ${wanted ? dimensionName(plain(wanted.dimension)) : "another"} (${unit}) is needed.`,
  };
}

function dimensionOf(n: Node, names: Dimensions): Found {
  const quantity = (m: Node): Dimension => {
    const d = dimensionOf(m, names);
    if (d === "truth") throw new Fault("A quantity is needed here, not a condition.", m.at);
    return d;
  };
  const truth = (m: Node): void => {
    if (dimensionOf(m, names) !== "truth") throw new Fault("A condition is needed here, such as people > 3.", m.at);
  };
  const alike = (parts: readonly Node[], at: number, what: string): Dimension => {
    const [first, ...rest] = parts.map(quantity);
    for (const d of rest)
      if (!sameDimension(d, first)) throw new Fault(`${what} needs quantities of one kind: ${word(first)} and ${word(d)} do not go together.`, at);
    return first;
  };
  switch (n.kind) {
    case "number":
      return n.dimension;
    case "name": {
      const d = names.get(n.name);
      if (!d) throw new Fault(`There is no quantity "${n.name}" here; there are ${[...names.keys()].join(", ")}.`, n.at);
      return plain(d);
    }
    case "negative":
      return quantity(n.of);
    case "not":
      truth(n.of);
      return "truth";
    case "call":
      if (n.name === "if") {
        truth(n.parts[0]);
        return alike(n.parts.slice(1), n.at, "if");
      }
      if (n.name === "sqrt") return quantity(n.parts[0]).map((x) => x / 2) as unknown as Dimension;
      if (n.name === "round" || n.name === "floor" || n.name === "ceil") {
        const d = quantity(n.parts[0]);
        if (!sameDimension(d, NONE)) throw new Fault(`${n.name} takes a number without unit, not ${word(d)}; divide by the unit first.`, n.at);
        return d;
      }
      return alike(n.parts, n.at, n.name);
    case "pair":
      if (n.operator === "and" || n.operator === "or") {
        truth(n.left);
        truth(n.right);
        return "truth";
      }
      if (n.operator === "*" || n.operator === "/") {
        const [a, b] = [quantity(n.left), quantity(n.right)];
        return a.map((x, i) => (n.operator === "*" ? x + b[i] : x - b[i])) as unknown as Dimension;
      }
      if (n.operator === "+" || n.operator === "-") return alike([n.left, n.right], n.at, n.operator);
      alike([n.left, n.right], n.at, n.operator);
      return "truth";
  }
}
