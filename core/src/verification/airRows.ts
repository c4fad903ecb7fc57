import { AirNetwork, type NetworkLink, type NetworkNode } from "../airflow/index.ts";
import { pow } from "../numeric/index.ts";
import { collect, type Row } from "./row.ts";

const G = 9.81;
const room = (height = 0): NetworkNode => ({ height, outdoors: false });
const outside = (height = 0): NetworkNode => ({ height, outdoors: true });
const orifice = (from: number, to: number, area: number, height: number): NetworkLink => ({ kind: "orifice", from, to, area, discharge: 0.6, height });

/** A network solved with pressures and densities of its nodes. */
function solved(nodes: NetworkNode[], links: NetworkLink[], pressures: readonly number[], densities: readonly number[]): AirNetwork {
  const net = new AirNetwork(nodes, links);
  net.pressure.set(pressures);
  net.density.set(densities);
  net.solve();
  return net;
}
const net = (n: AirNetwork, i: number): number => n.forward[i] - n.backward[i];

/** Flows of the pressure network against closed forms. */
export function airRows(): Row[] {
  return collect((add) => {
    const d = 1.2;
    // two openings behind each other at 10 Pa: one with 1/A² = 1/A₁² + 1/A₂²
    const series = solved([outside(), room(), outside()], [orifice(0, 1, 0.3, 0), orifice(1, 2, 0.4, 0)], [10, 0, 0], [d, d, d]);
    add("airflow", "orifices", "0.3 and 0.4 m² behind each other at 10 Pa", "kg/s", 0.6 * 0.24 * Math.sqrt(2 * d * 10), net(series, 0), 1e-4);
    const beside = solved([outside(), room(), outside()], [orifice(0, 1, 0.1, 0), orifice(0, 1, 0.2, 0), orifice(1, 2, 0.3, 0)], [10, 0, 0], [d, d, d]);
    add("airflow", "orifices", "0.1 and 0.2 m² beside each other, 0.3 m² behind, 10 Pa", "Pa in the room", 5, beside.pressure[1], 1e-3);
    // a shaft of 6 m: enters below, leaves above; equal openings put the neutral level by density: ρ_o·h_n = ρ_i·(h − h_n) at equal mass flow
    const [cold, warm] = [1.292, 1.204];
    const stack = solved([outside(0), room(0), outside(6)], [orifice(0, 1, 0.5, 0), orifice(1, 2, 0.5, 6)], [0, 0, -cold * G * 6], [cold, warm, cold]);
    const neutral = 6 * (warm / (warm + cold));
    add(
      "airflow",
      "stack with neutral level",
      "0.5 m² below and above, 6 m apart, 0 and 20 °C",
      "kg/s",
      0.6 * 0.5 * Math.sqrt(2 * cold * (cold - warm) * G * neutral),
      net(stack, 0),
      1e-3,
    );
    add("airflow", "stack with neutral level", "the same", "neutral level, m", neutral, -stack.pressure[1] / ((cold - warm) * G), 1e-3);
    // wind against the stack: what drives is the difference of both
    const wind = solved([outside(0), room(0), outside(6)], [orifice(0, 1, 0.5, 0), orifice(1, 2, 0.5, 6)], [2, 0, -cold * G * 6], [cold, warm, cold]);
    const drive = 2 + (cold - warm) * G * 6;
    const share = 1 / (1 + cold / warm);
    add("airflow", "wind and stack together", "the same with 2 Pa of wind below", "kg/s", 0.6 * 0.5 * Math.sqrt(2 * cold * drive * share), net(wind, 0), 1e-3);
    // three rooms and their corridor as resistances
    const line = (from: number, to: number, c: number): NetworkLink => ({ kind: "crack", from, to, coefficient: c, exponent: 1, height: 0 });
    const three = solved(
      [outside(), room(), room(), room(), outside()],
      [line(0, 1, 1), line(1, 3, 1), line(3, 2, 1), line(2, 4, 1), line(3, 4, 2)],
      [12, 0, 0, 0, 0],
      [d, d, d, d, d],
    );
    add("airflow", "three rooms by hand", "12 Pa over ½, then ½ beside 2", "Pa in the corridor", 2, three.pressure[3], 1e-4);
    // a door of 0.9 m by 2 m between rooms of 21 and 19 °C: Q = (C_d/3)·A·√(g·H·Δρ/ρ)
    const [a, b] = [1.1998, 1.2081];
    const door = solved([room(), outside()], [{ kind: "opening", from: 0, to: 1, low: 0, high: 2, width: 0.9, discharge: 0.6 }], [0, 0], [a, b]);
    const mean = (a + b) / 2;
    add(
      "airflow",
      "Brown and Solvason 1962",
      "door of 0.9 by 2 m, 21 and 19 °C",
      "m³/s each way",
      (0.6 / 3) * 1.8 * Math.sqrt((G * 2 * (b - a)) / mean),
      door.backward[0] / b,
      0.002,
    );
    // a crack by its power law
    const crack = solved(
      [outside(), room(), outside()],
      [
        { kind: "crack", from: 0, to: 1, coefficient: 0.02, exponent: 0.65, height: 0 },
        { kind: "crack", from: 1, to: 2, coefficient: 0.02, exponent: 0.65, height: 0 },
      ],
      [8, 0, 0],
      [d, d, d],
    );
    add("airflow", "V = C·Δpⁿ", "two equal cracks at 8 Pa", "kg/s", d * 0.02 * pow(4, 0.65), net(crack, 0), 1e-6);
  });
}
