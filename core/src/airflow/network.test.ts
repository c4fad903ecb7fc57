import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { airDensity, AirNetwork, islands, linkFlow, NODE_RESIDUAL, NODE_SHARE, type LinkFlow, type NetworkLink, type NetworkNode } from "./index.ts";

const G = 9.81;
const room = (height = 0): NetworkNode => ({ height, outdoors: false });
const outside = (height = 0): NetworkNode => ({ height, outdoors: true });
const crack = (from: number, to: number, coefficient: number, height = 0, exponent = 0.65): NetworkLink => ({
  kind: "crack",
  from,
  to,
  coefficient,
  exponent,
  height,
});
const orifice = (from: number, to: number, area: number, height: number): NetworkLink => ({ kind: "orifice", from, to, area, discharge: 0.6, height });
/** A network solved with pressures outdoors and densities by node. */
function solved(
  nodes: NetworkNode[],
  links: NetworkLink[],
  pressures: Record<number, number> = {},
  densities: Record<number, number> = {},
  sources: Record<number, number> = {},
): AirNetwork {
  const net = new AirNetwork(nodes, links);
  for (const [i, p] of Object.entries(pressures)) net.pressure[Number(i)] = p;
  for (const [i, d] of Object.entries(densities)) net.density[Number(i)] = d;
  for (const [i, m] of Object.entries(sources)) net.source[Number(i)] = m;
  expect(net.solve().converged).toBe(true);
  return net;
}
const netOf = (n: AirNetwork, link: number): number => n.forward[link] - n.backward[link];

describe("openings one behind the other", () => {
  it("share the difference: alike, half each; unlike, by the root of their sizes", () => {
    const nodes = [outside(), room(), outside()];
    const alike = solved(nodes, [crack(0, 1, 0.01), crack(1, 2, 0.01)], { 0: 10 });
    expect(alike.pressure[1]).toBeCloseTo(5, 4);
    expect(netOf(alike, 0)).toBeCloseTo(1.2 * 0.01 * 5 ** 0.65, 6);
    const unlike = solved(nodes, [crack(0, 1, 0.01), crack(1, 2, 0.03)], { 0: 10 });
    // C₁(10 − p)ⁿ = C₂pⁿ
    expect(unlike.pressure[1]).toBeCloseTo(10 / (1 + 3 ** (1 / 0.65)), 4);
    const chain = solved(
      [outside(), room(), room(), room(), outside()],
      [0, 1, 2, 3].map((i) => crack(i, i + 1, 0.02)),
      { 0: 8 },
    );
    expect([1, 2, 3].map((i) => Math.round(1e3 * chain.pressure[i]) / 1e3)).toEqual([6, 4, 2]);
  });
  it("beside each other add up, and three rooms around a corridor are as by hand", () => {
    const two = solved([outside(), room(), outside()], [crack(0, 1, 0.01), crack(0, 1, 0.02), crack(1, 2, 0.03)], { 0: 6 });
    expect(two.pressure[1]).toBeCloseTo(3, 4);
    expect(netOf(two, 0) + netOf(two, 1)).toBeCloseTo(netOf(two, 2), 5);
    // n = 1: a network of resistances. Rooms 1 and 2 at +12 and 0 Pa behind cracks of 1, corridor 3 between them, its own crack of 2 to 0 Pa
    const line = (from: number, to: number, c: number): NetworkLink => crack(from, to, c, 0, 1);
    const three = solved([outside(), room(), room(), room(), outside()], [line(0, 1, 1), line(1, 3, 1), line(3, 2, 1), line(2, 4, 1), line(3, 4, 2)], {
      0: 12,
    });
    // from 12 Pa two cracks in a row (½), to 0 Pa ½ beside 2: p₃ = 12·½/(½ + 2½)
    expect(three.pressure[3]).toBeCloseTo(2, 5);
    expect([three.pressure[1], three.pressure[2]]).toEqual([expect.closeTo(7, 5), expect.closeTo(1, 5)]);
  });
});

describe("buoyancy", () => {
  const [cold, warm] = [airDensity(0, 101325), airDensity(25, 101325)];
  const shaft = (wind: number, inner = warm, outer = cold): AirNetwork =>
    solved([outside(), room(), outside()], [orifice(0, 1, 0.5, 1), orifice(1, 2, 0.5, 9)], { 0: wind }, { 0: outer, 1: inner, 2: outer });
  it("draws air in low and out high, about a neutral level where the inside has the pressure of the outside", () => {
    const n = shaft(0);
    // ρ_o·Δp_low = ρ_i·Δp_high and Δp_low + Δp_high = Δρ·g·8 m
    const low = ((cold - warm) * G * 8 * warm) / (cold + warm);
    expect(netOf(n, 0)).toBeCloseTo(0.6 * 0.5 * Math.sqrt(2 * cold * low), 5);
    expect(netOf(n, 1)).toBeCloseTo(netOf(n, 0), 5);
    const neutral = n.pressure[1] / (G * (warm - cold));
    expect(neutral).toBeGreaterThan(4.5);
    expect(neutral).toBeLessThan(5.5);
  });
  it("and wind on the lower opening add their pressures; against it they turn the flow", () => {
    const both = shaft(3);
    const low = (((cold - warm) * G * 8 + 3) * warm) / (cold + warm);
    expect(netOf(both, 0)).toBeCloseTo(0.6 * 0.5 * Math.sqrt(2 * cold * low), 5);
    expect(netOf(shaft(-30), 0)).toBeLessThan(0);
  });
  it("turns about with the temperatures: a cold inside lets air fall", () => {
    const down = shaft(0, cold, warm);
    expect(netOf(down, 0)).toBeLessThan(0);
    expect(-netOf(down, 0)).toBeCloseTo(0.6 * 0.5 * Math.sqrt((2 * cold * ((cold - warm) * G * 8 * warm)) / (cold + warm)), 5);
    expect(netOf(shaft(0, cold, cold), 0)).toBeCloseTo(0, 9);
  });
  it("moves air both ways through a door, as Brown and Solvason found", () => {
    const door: NetworkLink = { kind: "opening", from: 1, to: 2, low: 0, high: 2, width: 0.9, discharge: 0.6 };
    const n = solved([outside(), room(), room()], [crack(0, 1, 1e-5), door], {}, { 0: 1.2, 1: airDensity(20, 101325), 2: airDensity(24, 101325) });
    const [a, b] = [n.density[1], n.density[2]];
    // V = C_d/3·w·H·√(g·H·Δρ/ρ)
    const volume = (0.6 / 3) * 0.9 * 2 * Math.sqrt((G * 2 * (a - b)) / (0.5 * (a + b)));
    expect(n.forward[1] / (0.5 * (a + b)) / volume).toBeCloseTo(1, 3);
    expect(n.forward[1]).toBeCloseTo(n.backward[1], 5);
    // of the same temperature nothing passes
    const still = solved([outside(), room(), room()], [crack(0, 1, 1e-5), door], {}, { 0: 1.2, 1: 1.2, 2: 1.2 });
    expect(still.forward[1] + still.backward[1]).toBeLessThan(1e-5);
  });
});

describe("fans, shafts and systems", () => {
  it("a fan works against a crack where its curve meets it", () => {
    const fan: NetworkLink = { kind: "fan", from: 0, to: 1, height: 0, shutOff: 60, free: 0.3 };
    const n = solved([outside(), room(), outside()], [fan, { ...crack(1, 2, 0.02, 0, 0.5) }]);
    const p = n.pressure[1];
    expect(netOf(n, 0) / 1.2).toBeCloseTo(0.3 * (1 - p / 60), 6);
    expect(netOf(n, 1) / 1.2).toBeCloseTo(0.02 * Math.sqrt(p), 6);
    n.open[0] = 0;
    expect(n.solve().converged).toBe(true);
    expect(netOf(n, 1)).toBeCloseTo(0, 6);
  });
  it("what a system blows in leaves by the cracks, and a duct passes the root of its difference", () => {
    const fed = solved([outside(), room()], [crack(1, 0, 0.02)], {}, {}, { 1: 0.05 });
    expect(netOf(fed, 0)).toBeCloseTo(0.05, 6);
    expect(fed.pressure[1]).toBeCloseTo((0.05 / 1.2 / 0.02) ** (1 / 0.65), 3);
    const duct: NetworkLink = { kind: "duct", from: 0, to: 1, bottom: 0, top: 0, resistance: 400 };
    const n = solved([outside(), room(), outside()], [duct, crack(1, 2, 10)], { 0: 16 });
    expect(netOf(n, 0) / 1.2).toBeCloseTo(Math.sqrt((16 - n.pressure[1]) / 400), 6);
  });
});

describe("any network", () => {
  const build = fc
    .record({
      rooms: fc.integer({ min: 1, max: 7 }),
      picks: fc.array(
        fc.tuple(
          fc.nat(),
          fc.nat(),
          fc.integer({ min: 0, max: 3 }),
          fc.double({ min: 0.02, max: 2, noNaN: true }),
          fc.double({ min: 0, max: 12, noNaN: true }),
        ),
        { minLength: 1, maxLength: 18 },
      ),
      temperatures: fc.array(fc.double({ min: -20, max: 40, noNaN: true }), { minLength: 10, maxLength: 10 }),
      winds: fc.array(fc.double({ min: -40, max: 40, noNaN: true }), { minLength: 3, maxLength: 3 }),
    })
    .map(({ rooms, picks, temperatures, winds }) => {
      const nodes = [outside(), outside(4), outside(9), ...Array.from({ length: rooms }, (_, i) => room((i % 3) * 3))];
      const links: NetworkLink[] = Array.from({ length: rooms }, (_, i) => crack(i % 3, 3 + i, 0.002, (i % 3) * 3));
      for (const [x, y, kind, size, height] of picks) {
        const from = x % nodes.length;
        const to = y % nodes.length;
        if (from === to) continue;
        links.push(
          kind === 0
            ? crack(from, to, 0.01 * size, height)
            : kind === 1
              ? orifice(from, to, size, height)
              : kind === 2
                ? { kind: "opening", from, to, low: height, high: height + 2, width: size, discharge: 0.6 }
                : { kind: "duct", from, to, bottom: height, top: height + 3, resistance: 10 / size },
        );
      }
      return { nodes, links, temperatures, winds };
    });
  const make = ({ nodes, links, temperatures, winds }: { nodes: NetworkNode[]; links: NetworkLink[]; temperatures: number[]; winds: number[] }): AirNetwork => {
    const net = new AirNetwork(nodes, links);
    nodes.forEach((n, i) => {
      net.density[i] = airDensity(n.outdoors ? temperatures[0] : temperatures[i % 10], 101325);
      if (n.outdoors) net.pressure[i] = winds[i] - net.density[i] * G * n.height;
    });
    return net;
  };
  it("is solved, closes its balances, and mirrored has mirrored flows", () => {
    fc.assert(
      fc.property(build, (spec) => {
        const net = make(spec);
        const done = net.solve();
        expect(done.converged, JSON.stringify({ ...done, ...spec })).toBe(true);
        spec.nodes.forEach((n, i) => {
          if (n.outdoors) return;
          let [sum, gross] = [0, 0];
          spec.links.forEach((l, k) => {
            if (l.from !== i && l.to !== i) return;
            sum += (l.to === i ? 1 : -1) * netOf(net, k);
            gross += net.forward[k] + net.backward[k];
          });
          expect(Math.abs(sum)).toBeLessThanOrEqual(Math.max(NODE_RESIDUAL, NODE_SHARE * gross) * 1.0001);
        });
        const turned = make({
          ...spec,
          links: spec.links.map((l) => (l.kind === "duct" ? { ...l, from: l.to, to: l.from, bottom: l.top, top: l.bottom } : { ...l, from: l.to, to: l.from })),
        });
        expect(turned.solve().converged).toBe(true);
        spec.links.forEach((_, k) => expect(Math.abs(netOf(turned, k) + netOf(net, k))).toBeLessThan(1e-4 + 1e-3 * Math.abs(netOf(net, k))));
      }),
      { numRuns: 300 },
    );
  });
  it("has slopes that are those of its flows", () => {
    const out = (): LinkFlow => ({ net: 0, slope: 0, forward: 0, backward: 0 });
    fc.assert(
      fc.property(build, fc.double({ min: -30, max: 30, noNaN: true }), ({ nodes, links, temperatures }, d) => {
        for (const l of links) {
          const densities = [l.from, l.to].map((i) => airDensity(temperatures[i % 10], 101325));
          const at = (p: number): LinkFlow => {
            const o = out();
            const [a, b] = [l.from, l.to].map((i, k) => -densities[k] * G * nodes[i].height);
            linkFlow(l, nodes, a + p, b, densities[0], densities[1], 1, o);
            return o;
          };
          const [f, g] = [at(d - 1e-4), at(d + 1e-4)];
          // not across the place where the flow turns and the density changes
          if (Math.sign(f.net) !== Math.sign(g.net)) continue;
          expect(Math.abs((g.net - f.net) / 2e-4 - at(d).slope)).toBeLessThan(1e-3 + 0.02 * at(d).slope);
          expect(at(d).forward - at(d).backward).toBeCloseTo(at(d).net, 9);
        }
      }),
      { numRuns: 100 },
    );
  });
  it("tells nodes from which no way leads outdoors", () => {
    const nodes = [outside(), room(), room(), room(), room()];
    expect(islands(nodes, [crack(0, 1, 1), crack(2, 3, 1)])).toEqual([[2, 3], [4]]);
    expect(() => new AirNetwork(nodes, [crack(1, 1, 1)])).toThrow(/link 0/);
    const lost = new AirNetwork([outside(), room()], []);
    lost.source[1] = 0.1;
    expect(lost.solve()).toMatchObject({ converged: false, node: 1 });
  });
});
