import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { unitOfText, type Dimension } from "../model/index.ts";
import { checkDimensions, evaluate, functions, parseExpression, unfit, type Node, type Table } from "./index.ts";

const of = (unit: string): Dimension => unitOfText(unit)?.dimension as Dimension;
const NAMES = new Map<string, Dimension>([
  ["area", of("m²")],
  ["volume", of("m³")],
  ["people", of("1")],
  ["setpoint", of("°C")],
]);
const COLUMNS: Record<string, number[]> = { area: [12, 40, 0], volume: [36, 120, 0], people: [3, 4, 0], setpoint: [293.15, 295.15, 290.15] };
const table: Table = { rows: 3, column: (n) => Float64Array.from(COLUMNS[n]), zoneOf: Int32Array.of(0, 0, 1) };

const parsed = (text: string): Node => {
  const p = parseExpression(text, NAMES.keys());
  if (!p.ok) throw new Error(`${p.fault.message} at ${p.fault.at}`);
  return p.root;
};
const values = (text: string): number[] => [...evaluate(parsed(text), table)];
const fault = (text: string, unit?: string): { message: string; at: number } => {
  const p = parseExpression(text, NAMES.keys());
  if (!p.ok) return p.fault;
  const c = checkDimensions(p.root, NAMES);
  if (!c.ok) return c.fault;
  return (unit === undefined ? null : unfit(c.dimension, unit)) ?? { message: "", at: -1 };
};

describe("an expression", () => {
  it("is evaluated over all things at once, its numbers taken to SI", () => {
    const [a, b, c] = values("3 L/s * people + 0.35 L/s/m² * area");
    expect(a).toBeCloseTo(0.009 + 0.0042, 12);
    expect(b).toBeCloseTo(0.012 + 0.014, 12);
    expect(c).toBe(0);
    // 10 cfm is 4.719 L/s
    expect(values("10 cfm * people")[0]).toBeCloseTo(3 * 0.00471947, 7);
    expect(fault("3 L/s * people + 0.35 L/s/m² * area", "m³/s").message).toBe("");
  });
  it("counts people as a number, so that a flow per person times people is a flow", () => {
    expect(fault("8 L/s per person * people", "m³/s").message).toBe("");
    expect(values("8 L/s per person * people")[0]).toBeCloseTo(0.024, 12);
    // where the thing has people, "/people" divides by how many there are
    expect(values("60 L/s/people")[0]).toBeCloseTo(0.02, 12);
  });
  it("keeps temperatures and their differences apart", () => {
    expect(values("setpoint - 2 K")[0]).toBeCloseTo(291.15, 10);
    expect(values("20 °C")[0]).toBeCloseTo(293.15, 10);
    expect(values("68 °F")[0]).toBeCloseTo(293.15, 10);
  });
  it("binds as written in a book", () => {
    expect(values("2 + 3 * 4")[0]).toBe(14);
    expect(values("(2 + 3) × 4 ÷ 2")[0]).toBe(10);
    expect(values("-2 * -3 − 1")[0]).toBe(5);
    expect(values("if(people > 3 and not area = 0 m², 1, 2)")).toEqual([2, 1, 2]);
    expect(values("if(people >= 3 or area = 0 m², 1, 2)")).toEqual([1, 1, 1]);
    expect(values("min(people, 3.5, 9)")).toEqual([3, 3.5, 0]);
    expect(values("max(abs(0 - people), sqrt(9))")).toEqual([3, 4, 3]);
    expect(values("round(area / 5 m²) + floor(0.9) + ceil(0.1)")).toEqual([3, 9, 1]);
  });
  it("adds up over a zone's things", () => {
    expect(values("zoneSum(people)")).toEqual([7, 7, 0]);
    expect(values("zoneSum(area * 2) / zoneSum(people)").slice(0, 2)).toEqual([104 / 7, 104 / 7]);
  });
  it("that does not hold together is told with the place", () => {
    expect(fault("3 L/s + area")).toEqual({ message: "+ needs quantities of one kind: a volume flow and an area do not go together.", at: 6 });
    expect(fault("3 flops * people")).toMatchObject({ at: 2, message: expect.stringContaining('"flops"') });
    expect(fault("persons * 2")).toMatchObject({ at: 0, message: expect.stringContaining("There is no quantity") });
    expect(fault("(2 + 3")).toMatchObject({ at: 6, message: expect.stringContaining('")" is missing') });
    expect(fault("2 +")).toMatchObject({ at: 3 });
    expect(fault("2 3")).toMatchObject({ at: 2 });
    expect(fault("if(people, 1, 2)")).toMatchObject({ at: 3, message: expect.stringContaining("A condition is needed") });
    expect(fault("people > 3")).toMatchObject({ message: expect.stringContaining("This is a condition") });
    expect(fault("pow(2)")).toMatchObject({ message: expect.stringContaining("There is no function") });
    expect(fault("min(2)")).toMatchObject({ message: expect.stringContaining("takes 2 to 20") });
    expect(fault("round(area)")).toMatchObject({ message: expect.stringContaining("without unit") });
    expect(fault("")).toMatchObject({ message: "Nothing is typed." });
    expect(fault("area", "m³/s").message).toBe("The expression gives an area; a volume flow (m³/s) is needed.");
  });
  it("that divides by nothing gives no number, and no fault", () => {
    expect(values("area / people")[2]).toBeNaN();
    expect(values("1 / people")[2]).toBe(Infinity);
  });
});

describe("any text", () => {
  const words = [
    "area",
    "people",
    "volume",
    "zoneSum",
    "3 L/s",
    "0.2",
    "1e9 W",
    "20 °C",
    "(",
    ")",
    ",",
    "+",
    "-",
    "*",
    "/",
    "<",
    ">=",
    "and",
    "or",
    "not",
    "m²",
    "per",
    "²",
    "💧",
    " ",
    "if",
    ...Object.keys(functions),
  ];
  it("is read or refused, never thrown at, and quickly", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...words), { maxLength: 60 }), fc.string({ maxLength: 30 }), (tokens, tail) => {
        for (const text of [tokens.join(" "), tokens.join(""), tail]) {
          const p = parseExpression(text, NAMES.keys());
          if (!p.ok) {
            expect(p.fault.message.length).toBeGreaterThan(8);
            expect(p.fault.at).toBeGreaterThanOrEqual(0);
            continue;
          }
          const c = checkDimensions(p.root, NAMES);
          if (c.ok) expect(evaluate(p.root, table)).toHaveLength(3);
        }
      }),
      { numRuns: 3000 },
    );
  });
  it("too long or too deep is refused", () => {
    expect(fault("(".repeat(1900)).message).toContain("too deep");
    expect(fault("-".repeat(1900) + "1").message).toContain("too deep");
    expect(fault("1+".repeat(1500) + "1").message).toContain("at most 2000 characters");
    expect(values("1+".repeat(900) + "1")[0]).toBe(901);
  });
  it("of sums and products gives what arithmetic gives", () => {
    type Tree = number | { op: "+" | "-" | "*"; a: Tree; b: Tree };
    const { tree } = fc.letrec<{ tree: Tree }>((tie) => ({
      tree: fc.oneof(
        { depthSize: "small" },
        fc.integer({ min: 0, max: 50 }),
        fc.record({ op: fc.constantFrom("+" as const, "-" as const, "*" as const), a: tie("tree"), b: tie("tree") }),
      ),
    }));
    const print = (t: Tree): string => (typeof t === "number" ? String(t) : `(${print(t.a)} ${t.op} ${print(t.b)})`);
    const value = (t: Tree): number =>
      typeof t === "number" ? t : t.op === "+" ? value(t.a) + value(t.b) : t.op === "-" ? value(t.a) - value(t.b) : value(t.a) * value(t.b);
    fc.assert(
      fc.property(tree, (t) => {
        const p = parseExpression(print(t));
        if (p.ok) expect(evaluate(p.root, table)[0]).toBe(value(t));
        else expect(p.fault.message).toContain("deep");
      }),
      { numRuns: 300 },
    );
  });
});
