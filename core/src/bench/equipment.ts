import {
  biquadratic,
  BY,
  circuitEffectiveness,
  machineCurves,
  machineInput,
  pipeResistance,
  resistanceOf,
  saturated,
  WATER_CP,
  type DeviceModel,
  type ServiceModel,
} from "../services/index.ts";
import { CP } from "./air.ts";
import { KILOWATT, LITRES, SHARE, Sheet, type Bench, type BenchFigure, type BenchInput, type BenchStep } from "./types.ts";

/** Conductivity about the pipes where the assembly is not looked at, W/m·K: typical screed, unverified. */
const SCREED = 1.2;

/** A piece of room equipment on a chosen need of its room. */
export function equipmentBench(model: ServiceModel, x: DeviceModel, site: { readonly pressure: number }): Bench {
  const title = model.components[x.component].name;
  if (x.kind === "slabCircuit") return slabBench(model, x, title, site);
  const heats = x.heat !== BY.NONE;
  const cools = x.cold !== BY.NONE;
  const heatMost = heats && Number.isFinite(x.heatCapacity) ? x.heatCapacity : 3000;
  const coolMost = cools && Number.isFinite(x.coolCapacity) ? x.coolCapacity : 3000;
  const pumped = x.heat === BY.REFRIGERANT || x.cold === BY.REFRIGERANT;
  const inputs: BenchInput[] = [
    ...(heats
      ? [{ name: "Q_h", words: "heat the room needs", unit: "W", value: cools ? 0 : 0.6 * heatMost, min: 0, max: 1.3 * heatMost, shown: KILOWATT }]
      : []),
    ...(cools
      ? [{ name: "Q_c", words: "cold the room needs, sensible and latent", unit: "W", value: 0.6 * coolMost, min: 0, max: 1.3 * coolMost, shown: KILOWATT }]
      : []),
    ...(pumped
      ? [
          { name: "t_i", words: "room", unit: "°C", value: cools ? 25 : 20, min: 15, max: 32 },
          { name: "t_o", words: "outdoors", unit: "°C", value: cools ? 32 : 2, min: -20, max: 48 },
        ]
      : []),
  ];
  const figures: BenchFigure[] = [];
  const add = (name: string, words: string, unit: string, value: number, shown?: BenchFigure["shown"]): void =>
    void (Number.isFinite(value) && figures.push({ name, words, unit, value, ...(shown ? { shown } : {}) }));
  if (heats) add("H_rated", "heating capacity", "W", x.heatCapacity, KILOWATT);
  if (cools) add("C_rated", "cooling capacity", "W", x.coolCapacity, KILOWATT);
  if (x.heat === BY.GAS) add("eta", "efficiency", "1", x.efficiency, SHARE);
  if (x.fanShare > 0) add("x_fan", "fan power over the heat moved", "1", x.fanShare, SHARE);
  const [hot, cold] = [machineCurves["split unit, heating"], machineCurves["split unit, cooling"]];
  if (x.heat === BY.REFRIGERANT) {
    add("cop_h", "heating COP at its rating", "1", x.heatingCop);
    hot.part.forEach((c, k) => add(`h${k}`, `input at part load, heating, coefficient ${k}`, "1", c));
  }
  if (x.cold === BY.REFRIGERANT) {
    add("cop_c", "cooling COP at its rating", "1", x.coolingCop);
    cold.part.forEach((c, k) => add(`k${k}`, `input at part load, cooling, coefficient ${k}`, "1", c));
  }

  const run = (given: Readonly<Record<string, number>>): readonly BenchStep[] => {
    const at = (name: string): number => given[name] ?? inputs.find((i) => i.name === name)?.value ?? 0;
    const [room, outdoor] = [at("t_i"), at("t_o")];
    const sheet = new Sheet(title);
    const fan: string[] = [];
    let power = 0;
    const powers: string[] = [];
    if (heats) {
      let most = x.heatCapacity;
      let most_ = "H_rated";
      let pump = most;
      if (x.heat === BY.REFRIGERANT) {
        const f = outdoor < x.leastOutdoor ? 0 : biquadratic(hot.capacity, room, outdoor);
        sheet.add("f_H", "heating capacity now over its rating", "1", f, null, {
          source: `biquadratic of room and outdoors, typical, unverified; nothing below ${x.leastOutdoor} °C`,
        });
        pump = x.heatCapacity * f;
        if (Number.isFinite(x.heatCapacity)) {
          sheet.add("H_pump", "of the heat pump now", "W", pump, "H_rated * f_H", { shown: KILOWATT });
          most_ = x.backup ? "max(H_pump, H_rated)" : "H_pump";
        }
        most = x.backup ? Math.max(pump, x.heatCapacity) : pump;
      }
      const heat = Math.min(at("Q_h"), most);
      sheet.add("Q", "heat given", "W", heat, Number.isFinite(most) ? `min(Q_h, ${most_})` : "Q_h", { shown: KILOWATT });
      if (x.fanShare > 0) fan.push("Q");
      if (x.heat === BY.GAS) sheet.add("F", "gas", "W", heat / x.efficiency, "Q / eta", { shown: KILOWATT });
      else if (x.heat === BY.ELECTRICITY) {
        power += heat;
        powers.push("Q");
      } else if (x.heat === BY.REFRIGERANT) {
        const byPump = Math.min(heat, pump);
        const input = biquadratic(hot.input, room, outdoor);
        if (Number.isFinite(pump)) sheet.add("Q_p", "of it by the heat pump", "W", byPump, "min(Q, H_pump)", { shown: KILOWATT });
        sheet.add("f_Ph", "input per capacity now over its rating", "1", input, null, { source: "biquadratic of room and outdoors, typical, unverified" });
        const p = machineInput(byPump, pump, 1 / x.heatingCop, input, hot.part);
        sheet.add(
          "P_h",
          "electricity of the heat pump",
          "W",
          p,
          Number.isFinite(pump) && pump > 0
            ? "if(Q_p > 0, H_pump / cop_h * f_Ph * (h0 + Q_p / H_pump * (h1 + h2 * Q_p / H_pump)), 0)"
            : Number.isFinite(pump)
              ? "0"
              : "Q / cop_h * f_Ph",
          { shown: KILOWATT },
        );
        power += p + heat - byPump;
        powers.push("P_h");
        if (x.backup && Number.isFinite(pump)) {
          sheet.add("P_b", "backup element", "W", heat - byPump, "Q - Q_p", { shown: KILOWATT });
          powers.push("P_b");
        }
      }
    }
    if (cools) {
      let most = x.coolCapacity;
      if (x.cold === BY.REFRIGERANT) {
        const f = biquadratic(cold.capacity, room, outdoor);
        sheet.add("f_C", "cooling capacity now over its rating", "1", f, null, { source: "biquadratic of room and outdoors, typical, unverified" });
        most = x.coolCapacity * f;
        if (Number.isFinite(most)) sheet.add("C_most", "cooling capacity now", "W", most, "C_rated * f_C", { shown: KILOWATT });
      }
      const cool = Math.min(at("Q_c"), most);
      sheet.add("Q_k", "heat taken out", "W", cool, Number.isFinite(most) ? `min(Q_c, ${x.cold === BY.REFRIGERANT ? "C_most" : "C_rated"})` : "Q_c", {
        shown: KILOWATT,
      });
      if (x.fanShare > 0) fan.push("Q_k");
      if (x.cold === BY.REFRIGERANT) {
        const input = biquadratic(cold.input, room, outdoor);
        sheet.add("f_Pc", "input per capacity now over its rating", "1", input, null, { source: "biquadratic of room and outdoors, typical, unverified" });
        const p = machineInput(cool, most, 1 / x.coolingCop, input, cold.part);
        sheet.add(
          "P_c",
          "electricity of cooling",
          "W",
          p,
          Number.isFinite(most) ? "if(Q_k > 0, C_most / cop_c * f_Pc * (k0 + Q_k / C_most * (k1 + k2 * Q_k / C_most)), 0)" : "Q_k / cop_c * f_Pc",
          { shown: KILOWATT },
        );
        power += p;
        powers.push("P_c");
      }
    }
    if (fan.length > 0) {
      const moved = fan.reduce((s, n) => s + (sheet.steps.find((q) => q.name === n)?.value ?? 0), 0);
      sheet.add("P_fan", "fan", "W", x.fanShare * moved, `x_fan * (${fan.join(" + ")})`);
      power += x.fanShare * moved;
      powers.push("P_fan");
    }
    if (powers.length > 0) sheet.add("P", "electricity together", "W", power, powers.join(" + "), { shown: KILOWATT });
    return sheet.steps;
  };
  const main = x.cold === BY.REFRIGERANT || x.heat === BY.REFRIGERANT ? "P" : cools ? "Q_k" : "Q";
  return { title, inputs, figures, outcomes: [main, ...["Q", "Q_k", "P", "F", "P_fan"].filter((n) => n !== main)], over: cools ? "Q_c" : "Q_h", run };
}

/** A terminal of an air system: its air by what the room needs, and its reheat. */
export function terminalBench(model: ServiceModel, x: DeviceModel, site: { readonly density: number }): Bench {
  const title = model.components[x.component].name;
  const system = model.systems[x.system];
  const reheats = x.heat !== BY.NONE;
  const most = CP * x.flow * 12;
  const warmest = Number.isFinite(x.warmest) ? x.warmest : 35;
  const capacity = Number.isFinite(x.heatCapacity) ? x.heatCapacity : 1e9;
  const inputs: BenchInput[] = [
    { name: "Q_c", words: "cold the room needs, sensible", unit: "W", value: 0.5 * most, min: 0, max: 1.2 * most, shown: KILOWATT },
    ...(reheats
      ? [{ name: "Q_h", words: "heat the room needs", unit: "W", value: 0, min: 0, max: Math.max(500, Math.min(1.3 * capacity, 4 * most)), shown: KILOWATT }]
      : []),
    { name: "t_i", words: "room", unit: "°C", value: 23, min: 12, max: 32 },
    { name: "t_s", words: "supply air", unit: "°C", value: system.supply.value, min: 8, max: 40 },
  ];
  const figures: BenchFigure[] = [
    { name: "m_design", words: "design flow", unit: "kg/s", value: x.flow },
    { name: "m_least", words: system.variable ? "least flow" : "constant flow", unit: "kg/s", value: x.least },
    { name: "rho", words: "density of air of 20 °C at the site", unit: "kg/m³", value: site.density },
    { name: "cp", words: "specific heat of air", unit: "J/kg·K", value: CP },
    ...(reheats
      ? [
          { name: "Q_most", words: "reheat capacity", unit: "W", value: capacity, shown: KILOWATT },
          { name: "t_warm", words: "warmest air", unit: "°C", value: warmest },
        ]
      : []),
  ];
  const run = (given: Readonly<Record<string, number>>): readonly BenchStep[] => {
    const at = (name: string): number => given[name] ?? inputs.find((i) => i.name === name)?.value ?? 0;
    const [cold, warm, room, supply] = [at("Q_c"), at("Q_h"), at("t_i"), at("t_s")];
    const sheet = new Sheet(title);
    const cooling = system.variable && cold > 0 && room > supply ? Math.max(x.least, Math.min(x.flow, cold / (CP * (room - supply)))) : x.least;
    sheet.add(
      "m_c",
      "air by what cooling needs",
      "kg/s",
      cooling,
      system.variable ? "if(Q_c > 0 and t_i > t_s, max(m_least, min(m_design, Q_c / (cp * (t_i - t_s)))), m_least)" : "m_least",
    );
    let flow = cooling;
    let heat = 0;
    if (reheats) {
      const needed = sheet.add(
        "L",
        "heat the room and the least air need",
        "W",
        warm > 0 ? warm + x.least * CP * Math.max(0, room - supply) : 0,
        "if(Q_h > 0, Q_h + m_least * cp * max(0, t_i - t_s), 0)",
        { shown: KILOWATT },
      );
      const plain = sheet.add(
        "L_1",
        "what the least air can carry",
        "W",
        Math.min(capacity, x.least * CP * Math.max(0, warmest - supply)),
        "min(Q_most, m_least * cp * max(0, t_warm - t_s))",
        { shown: KILOWATT },
      );
      const more = warm > 0 && needed > plain && x.flow > x.least && room < warmest && warmest > supply;
      const carry = more ? Math.max(x.least, Math.min(x.flow, warm / (CP * (warmest - room)), capacity / (CP * (warmest - supply)))) : cooling;
      sheet.add(
        "m",
        "air",
        "kg/s",
        carry,
        "if(Q_h > 0 and L > L_1 and m_design > m_least and t_i < t_warm and t_warm > t_s, max(m_least, min(m_design, Q_h / (cp * (t_warm - t_i)), Q_most / (cp * (t_warm - t_s)))), m_c)",
        { source: "beyond what the least air can carry the air is the warmest allowed, and more of it" },
      );
      flow = carry;
      heat = more && carry > x.least ? carry * CP * (warmest - supply) : Math.min(needed, plain);
      sheet.add("Q", "reheat", "W", heat, "if(m > m_least and L > L_1, m * cp * (t_warm - t_s), min(L, L_1))", { shown: KILOWATT });
    } else sheet.add("m", "air", "kg/s", cooling, "m_c");
    sheet.add("V", "air of 20 °C at the site", "m³/s", flow / site.density, "m / rho", { shown: LITRES });
    sheet.add("t_out", "air into the room", "°C", flow > 0 ? supply + heat / (flow * CP) : supply, reheats ? "if(m > 0, t_s + Q / (m * cp), t_s)" : "t_s");
    sheet.add("Q_room", "heat into the room", "W", flow * CP * (supply - room) + heat, `m * cp * (t_s - t_i)${reheats ? " + Q" : ""}`, { shown: KILOWATT });
    return sheet.steps;
  };
  return { title, inputs, figures, outcomes: ["V", "Q_room", "t_out", ...(reheats ? ["Q"] : [])], over: "Q_c", run };
}

/** Water through a floor or a ceiling, per area of it. */
function slabBench(model: ServiceModel, x: DeviceModel, title: string, site: { readonly pressure: number }): Bench {
  const slab = x.slab;
  if (slab === null) throw new RangeError(`${title} has no circuit`);
  const loop = x.heatLoop >= 0 ? model.loops[x.heatLoop] : model.loops[x.coldLoop];
  const inputs: BenchInput[] = [
    { name: "t_w", words: "water that comes in", unit: "°C", value: loop?.supply.value ?? 35, min: 5, max: 60 },
    { name: "t_l", words: "layer of the pipes", unit: "°C", value: 24, min: 10, max: 40 },
    {
      name: "m",
      words: "water flow per area",
      unit: "kg/s·m²",
      value: slab.flow,
      min: 0.0002,
      max: 3 * slab.flow,
      shown: { unit: "kg/h·m²", factor: 3600, digits: 1 },
    },
    { name: "w_i", words: "room, humidity ratio", unit: "kg/kg", value: 0.009, min: 0, max: 0.02, shown: { unit: "g/kg", factor: 1000, digits: 2 } },
  ];
  const figures: BenchFigure[] = [
    { name: "c_w", words: "specific heat of water", unit: "J/kg·K", value: WATER_CP },
    { name: "guard", words: "kept above the dew point by", unit: "K", value: slab.guard },
  ];
  if (slab.pipes)
    figures.push(
      { name: "T", words: "spacing of pipes", unit: "m", value: slab.pipes.spacing },
      { name: "d", words: "outer diameter", unit: "m", value: slab.pipes.diameter },
      { name: "s", words: "wall", unit: "m", value: slab.pipes.wall },
      { name: "l", words: "length of one circuit", unit: "m", value: slab.pipes.length },
      { name: "lambda", words: "conductivity about the pipes, taken here", unit: "W/m·K", value: SCREED },
    );
  const run = (given: Readonly<Record<string, number>>): readonly BenchStep[] => {
    const at = (name: string): number => given[name] ?? inputs.find((i) => i.name === name)?.value ?? 0;
    const [water, layer, flow] = [at("t_w"), at("t_l"), at("m")];
    const sheet = new Sheet(title);
    const r = slab.pipes
      ? pipeResistance(slab.pipes.spacing, slab.pipes.diameter, slab.pipes.wall, slab.pipes.conductivity, SCREED, flow, slab.pipes.length)
      : resistanceOf(slab.effectiveness, slab.flow);
    sheet.add("R", "resistance between water and layer", "m²K/W", r, null, {
      source: slab.pipes ? "film, wall of the pipe and layer about it, ISO 11855-2:2012, annex B" : "from the effectiveness at the design flow",
    });
    const effectiveness = sheet.add("e", "effectiveness", "1", circuitEffectiveness(r, flow), null, { shown: SHARE, source: "1 − exp(−1 / (R · m · c_w))" });
    const flux = effectiveness * flow * WATER_CP * (water - layer);
    const limit = saturated(water - slab.guard, site.pressure);
    sheet.add("w_s", "humidity ratio at which it would sweat", "kg/kg", limit, null, {
      shown: { unit: "g/kg", factor: 1000, digits: 2 },
      source: "saturated at t_w − guard",
    });
    sheet.add("q", "heat into the layer", "W/m²", flux < 0 && limit < at("w_i") ? 0 : flux, "if(t_w < t_l and w_s < w_i, 0, e * m * c_w * (t_w - t_l))", {
      source: "cooling stops before it sweats",
    });
    sheet.add("t_r", "water that leaves", "°C", flux < 0 && limit < at("w_i") ? water : water - flux / (flow * WATER_CP), "t_w - q / (m * c_w)");
    return sheet.steps;
  };
  return { title, inputs, figures, outcomes: ["q", "t_r", "e", "R"], over: "m", run };
}
