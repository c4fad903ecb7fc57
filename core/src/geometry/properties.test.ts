import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { boxProject } from "../verification/box.ts";
import type { Project } from "../model/index.ts";
import { areaOf, clipLeft, deriveFaces, deriveOpenings, litShares, type Vector } from "./index.ts";

/** Rectangles of a grid of cells, merged in rows at random, on one or two storeys of random heights. */
const building = fc
  .record({
    cuts: fc.array(fc.array(fc.boolean(), { minLength: 3, maxLength: 3 }), { minLength: 3, maxLength: 3 }),
    present: fc.array(fc.boolean(), { minLength: 18, maxLength: 18 }),
    xs: fc.array(fc.integer({ min: 2, max: 9 }), { minLength: 4, maxLength: 4 }),
    ys: fc.array(fc.integer({ min: 2, max: 9 }), { minLength: 3, maxLength: 3 }),
    heights: fc.array(fc.integer({ min: 5, max: 12 }), { minLength: 2, maxLength: 2 }),
    planNorth: fc.integer({ min: 0, max: 359 }),
  })
  .map((b): Project => {
    const p = boxProject();
    p.site.planNorth = b.planNorth;
    p.storeys = {
      s0: { name: "0", elevation: 0, height: b.heights[0] / 2, multiplier: 1 },
      s1: { name: "1", elevation: b.heights[0] / 2, height: b.heights[1] / 2, multiplier: 1 },
    };
    p.spaces = {};
    p.zones = {};
    const at = (sizes: readonly number[], i: number): number => sizes.slice(0, i).reduce((a, v) => a + v, 0);
    for (let storey = 0; storey < 2; storey++)
      for (let row = 0; row < 3; row++)
        for (let from = 0; from < 4;) {
          let to = from + 1;
          while (to < 4 && !b.cuts[row][to - 1]) to++;
          if (storey === 0 || b.present[row * 4 + from]) {
            const id = `r${storey}_${row}_${from}`;
            const [x0, x1, y0, y1] = [at(b.xs, from), at(b.xs, to), at(b.ys, row), at(b.ys, row + 1)];
            p.zones[id] = { name: id, services: null, inputs: {} };
            p.spaces[id] = {
              name: id,
              storey: `s${storey}`,
              zone: id,
              spaceType: "box",
              kit: null,
              form: {
                kind: "prism",
                outline: [
                  { id: "e0", x: x0, y: y0 },
                  { id: "e1", x: x1, y: y0 },
                  { id: "e2", x: x1, y: y1 },
                  { id: "e3", x: x0, y: y1 },
                ],
                floor: "floor",
                ceiling: "ceiling",
              },
              inputs: {},
            };
          }
          from = to;
        }
    return p;
  });

/** Where the sky does not matter. */
const NO_SKY = { patches: [], ring: [] };

describe("faces of any building of boxes", () => {
  it("wrap each space: areas add up to its surface and their normals cancel", () => {
    fc.assert(
      fc.property(building, (p) => {
        const { faces, spaces, problems } = deriveFaces(p);
        expect(problems.filter((x) => x.severity === "error")).toEqual([]);
        for (const g of spaces.values()) {
          const own = faces.filter((f) => f.space === g.id);
          const [a, , c] = g.outline;
          const height = g.high - g.low;
          const surface = 2 * g.floorArea + 2 * (c[0] - a[0] + c[1] - a[1]) * height;
          expect(own.reduce((s, f) => s + f.area, 0)).toBeCloseTo(surface, 6);
          for (const axis of [0, 1, 2] as const) expect(own.reduce((s, f) => s + f.area * f.normal[axis], 0)).toBeCloseTo(0, 6);
        }
      }),
      { numRuns: 60 },
    );
  });
  it("meet in pairs of the same area, each naming the other, with opposite normals", () => {
    fc.assert(
      fc.property(building, (p) => {
        const { faces, byKey } = deriveFaces(p);
        expect(byKey.size).toBe(faces.length);
        for (const f of faces.filter((x) => x.contact === "space")) {
          const twin = byKey.get(f.partner as string);
          expect(twin?.partner).toBe(f.key);
          expect(twin?.area).toBeCloseTo(f.area, 9);
          for (const axis of [0, 1, 2] as const) expect((twin?.normal[axis] ?? NaN) + f.normal[axis]).toBeCloseTo(0, 12);
        }
      }),
      { numRuns: 60 },
    );
  });
  it("are after an edit those of a building never seen before, whatever is remembered", () => {
    fc.assert(
      fc.property(building, fc.nat(), fc.integer({ min: 1, max: 3 }), fc.nat(4), (p, which, shift, edit) => {
        deriveFaces(p);
        const ids = Object.keys(p.spaces);
        const id = ids[which % ids.length];
        const space = p.spaces[id];
        if (space.form.kind !== "prism") return;
        const host = `${id}/${space.form.outline[0].id}`;
        const rest = { ...p.spaces };
        delete rest[id];
        const edited: Project[] = [
          // a corner drawn outward, a space taken away, the plan turned, a side set by hand, a storey made lower
          {
            ...p,
            spaces: {
              ...p.spaces,
              [id]: { ...space, form: { ...space.form, outline: space.form.outline.map((v, i) => (i === 0 ? { ...v, x: v.x - shift } : v)) } },
            },
          },
          { ...p, spaces: rest },
          { ...p, site: { ...p.site, planNorth: (p.site.planNorth + 10 * shift) % 360 } },
          { ...p, faceOverrides: { ...p.faceOverrides, o: { host, contact: "adiabatic", assembly: null } } },
          { ...p, storeys: { ...p.storeys, s0: { ...p.storeys.s0, height: p.storeys.s0.height - 0.5 } } },
        ];
        const anew = JSON.parse(JSON.stringify(edited[edit])) as Project;
        expect(deriveFaces(edited[edit]).faces).toEqual(deriveFaces(anew).faces);
        // and back again
        expect(deriveFaces(p).faces).toEqual(deriveFaces(JSON.parse(JSON.stringify(p)) as Project).faces);
      }),
      { numRuns: 60 },
    );
  });
  it("take openings by ratio of exactly that share on every outdoor wall of a side, wherever the plan points", () => {
    fc.assert(
      fc.property(building, fc.integer({ min: 1, max: 95 }), (p, percent) => {
        p.openings = Object.fromEntries(
          (["north", "east", "south", "west"] as const).map((o) => [
            o,
            { kind: "ratio" as const, name: o, orientation: o, storey: null, space: null, ratio: percent / 100, sill: 0.8, height: 1.5, glazing: null },
          ]),
        );
        const g = deriveFaces(p);
        const { openings, problems } = deriveOpenings(p, g);
        expect(problems.filter((x) => x.severity === "error")).toEqual([]);
        const walls = g.faces.filter((f) => f.kind === "wall" && f.contact === "outdoors");
        expect(openings).toHaveLength(walls.length);
        for (const o of openings) {
          const w = g.byKey.get(o.face)?.wall;
          expect(o.area / (g.byKey.get(o.face)?.area ?? NaN)).toBeCloseTo(percent / 100, 9);
          if (w) expect(o.from >= w.from && o.to <= w.to && o.low >= w.low && o.high <= w.high).toBe(true);
        }
      }),
      { numRuns: 40 },
    );
  });
});

describe("shadows on a window", () => {
  const window: Vector[] = [
    [0, 0, 1],
    [3, 0, 1],
    [3, 0, 3],
    [0, 0, 3],
  ];
  const receiver = { pieces: [window], normal: [0, -1, 0] as Vector };
  const plate = fc
    .record({
      x: fc.integer({ min: -4, max: 4 }),
      y: fc.integer({ min: -9, max: 0 }),
      z: fc.integer({ min: 0, max: 8 }),
      l: fc.integer({ min: 1, max: 6 }),
      d: fc.integer({ min: 1, max: 5 }),
    })
    .map(({ x, y, z, l, d }): Vector[] => [
      [x, y, z],
      [x + l, y, z],
      [x + l, y - d, z],
      [x, y - d, z],
    ]);
  const sun = fc.record({ a: fc.integer({ min: -80, max: 80 }), h: fc.integer({ min: 3, max: 87 }) }).map(({ a, h }): Vector => {
    const [az, alt] = [(a * Math.PI) / 180, (h * Math.PI) / 180];
    return [Math.sin(az) * Math.cos(alt), -Math.cos(az) * Math.cos(alt), Math.sin(alt)];
  });
  const lit = (casters: readonly Vector[][], s: Vector): number => litShares(receiver, casters, [s], NO_SKY).lit[0];
  it("never grow lighter by one more plate, and never depend on the order of plates", () => {
    fc.assert(
      fc.property(fc.array(plate, { maxLength: 4 }), plate, sun, (plates, more, s) => {
        const before = lit(plates, s);
        const after = lit([...plates, more], s);
        expect(before).toBeGreaterThanOrEqual(0);
        expect(before).toBeLessThanOrEqual(1);
        expect(after).toBeLessThanOrEqual(before + 1e-9);
        expect(lit([more, ...[...plates].reverse()], s)).toBeCloseTo(after, 9);
      }),
      { numRuns: 300 },
    );
  });
});

describe("any partition of a rectangle", () => {
  type Plan = readonly (readonly [number, number])[];
  /** Cuts one after another, each of the space it names, upright, level or aslant. */
  const partition = fc
    .record({
      cuts: fc.array(fc.record({ which: fc.nat(20), at: fc.integer({ min: 25, max: 75 }), turn: fc.integer({ min: -40, max: 40 }), upright: fc.boolean() }), {
        minLength: 1,
        maxLength: 9,
      }),
      upper: fc.array(fc.record({ which: fc.nat(20), at: fc.integer({ min: 25, max: 75 }), turn: fc.constant(0), upright: fc.boolean() }), { maxLength: 5 }),
    })
    .map(({ cuts, upper }) => {
      const parts = (list: typeof cuts): Plan[] => {
        let out: Plan[] = [
          [
            [0, 0],
            [24, 0],
            [24, 16],
            [0, 16],
          ],
        ];
        for (const c of list) {
          const i = c.which % out.length;
          const ring = out[i];
          const xs = ring.map((p) => p[0]);
          const ys = ring.map((p) => p[1]);
          const mid = (v: number[], k: number): number => Math.min(...v) + ((Math.max(...v) - Math.min(...v)) * k) / 100;
          const p: [number, number] = [mid(xs, c.at), mid(ys, c.at)];
          const a = ((c.upright ? 90 : 0) + c.turn) * (Math.PI / 180);
          const q: [number, number] = [p[0] + Math.cos(a), p[1] + Math.sin(a)];
          const halves = [clipLeft(ring, p, q), clipLeft(ring, q, p)].map((r) =>
            r.map(([x, y]) => [Math.round(x * 1e3) / 1e3, Math.round(y * 1e3) / 1e3] as const),
          );
          // slivers are told apart by the checks; here every part is a room
          if (halves.some((r) => r.length < 3 || areaOf([[r]]) < 4)) continue;
          out = [...out.slice(0, i), ...halves, ...out.slice(i + 1)];
        }
        return out;
      };
      const p = boxProject();
      p.storeys = { s0: { name: "0", elevation: 0, height: 3, multiplier: 1 }, s1: { name: "1", elevation: 3, height: 3, multiplier: 1 } };
      p.openings = {};
      p.zones = {};
      p.spaces = {};
      [parts(cuts), parts(upper)].forEach((rings, s) =>
        rings.forEach((ring, i) => {
          const id = `r${s}_${i}`;
          p.zones[id] = { name: id, services: null, inputs: {} };
          const form = { kind: "prism" as const, outline: ring.map(([x, y], k) => ({ id: `e${k}`, x, y })), floor: "floor", ceiling: "ceiling" };
          p.spaces[id] = { name: id, storey: `s${s}`, zone: id, spaceType: "box", kit: null, form, inputs: {} };
        }),
      );
      return p;
    });
  it("has faces whose areas add up, every inner face exactly one partner, and volumes that add up", () => {
    fc.assert(
      fc.property(partition, (p) => {
        const { faces, spaces, problems } = deriveFaces(p);
        expect(problems).toEqual([]);
        const sum = (list: typeof faces): number => list.reduce((s, f) => s + f.area, 0);
        expect([...spaces.values()].reduce((s, g) => s + g.volume, 0)).toBeCloseTo(24 * 16 * 6, 0);
        // walls outside, roof and ground are those of the undivided block
        expect(sum(faces.filter((f) => f.kind === "wall" && f.contact === "outdoors"))).toBeCloseTo(80 * 6, 0);
        expect(sum(faces.filter((f) => f.kind === "ceiling" && f.contact === "outdoors"))).toBeCloseTo(24 * 16, 0);
        expect(sum(faces.filter((f) => f.contact === "ground"))).toBeCloseTo(24 * 16, 0);
        const partners = new Map<string, number>();
        for (const f of faces) if (f.partner !== null) partners.set(f.partner, (partners.get(f.partner) ?? 0) + 1);
        for (const f of faces) expect(partners.get(f.key) ?? 0).toBe(f.contact === "space" ? 1 : 0);
        // between the storeys every floor lies on a ceiling
        expect(sum(faces.filter((f) => f.kind === "floor" && f.contact === "space"))).toBeCloseTo(24 * 16, 0);
      }),
      { numRuns: 80 },
    );
  });
});
