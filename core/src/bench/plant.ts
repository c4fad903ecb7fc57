import {
  AS_RATED,
  biquadratic,
  boilerEfficiency,
  loopState,
  OUT,
  OUTS,
  runLoop,
  sourceCapacity,
  WATER_CP,
  type LoopModel,
  type ServiceModel,
  type SourceModel,
} from "../services/index.ts";
import { KILOWATT, SHARE, Sheet, type Bench, type BenchFigure, type BenchInput, type BenchStep } from "./types.ts";

/**
 * A pump or sources of a loop on a chosen demand: what each does is the calculation's own (`runLoop`).
 * @param sources in their order; @param withPump whether the loop's pump is part of it
 */
export function plantBench(model: ServiceModel, loop: LoopModel, sources: readonly SourceModel[], withPump: boolean, title: string): Bench {
  const { hot } = loop;
  const pump = withPump ? loop.pump : null;
  const total = sources.reduce((s, x) => s + x.capacity, 0);
  const most = pump && sources.length === 0 ? pump.flow * WATER_CP * loop.difference : Number.isFinite(total) && total > 0 ? total : 50000;
  const outdoor = sources.some((x) => x.kind === "chiller" || x.kind === "heatPump");
  const inputs: BenchInput[] = [
    {
      name: "Q",
      words: hot ? "heat drawn from the loop" : "heat brought into the loop",
      unit: "W",
      value: 0.6 * most,
      min: 0,
      max: 1.2 * most,
      shown: KILOWATT,
    },
    {
      name: "t_s",
      words: "supply temperature",
      unit: "°C",
      value: loop.design === loop.design ? loop.design : loop.supply.value,
      min: hot ? 20 : 2,
      max: hot ? 90 : 20,
    },
    { name: "dt", words: "difference between supply and return", unit: "K", value: loop.difference, min: 1, max: 40 },
    ...(outdoor
      ? [
          {
            name: "t_o",
            words: sources.some((x) => x.kind === "chiller" && x.water) ? "condenser water that enters" : "outdoors",
            unit: "°C",
            value: hot ? 2 : 30,
            min: hot ? -20 : 5,
            max: hot ? 25 : 48,
          },
        ]
      : []),
    ...(sources.some((x) => x.kind === "naturalSource")
      ? [{ name: "t_n", words: "water of the source", unit: "°C", value: hot ? 12 : 10, min: 0, max: 40 }]
      : []),
  ];
  const figures: BenchFigure[] = [{ name: "c_w", words: "specific heat of water", unit: "J/kg·K", value: WATER_CP }];
  if (pump)
    figures.push(
      { name: "m_design", words: "design flow of the pump", unit: "kg/s", value: pump.flow },
      { name: "P_design", words: "its power there: flow · pressure rise / efficiency", unit: "W", value: pump.power },
      { name: "x_heat", words: "heat into the water", unit: "1", value: pump.heat, shown: SHARE },
    );
  const suffix = (i: number): string => (sources.length > 1 ? `_${i + 1}` : "");
  sources.forEach((x, i) => {
    const s = suffix(i);
    const add = (name: string, words: string, unit: string, value: number, shown?: BenchFigure["shown"]): void =>
      void figures.push({ name: `${name}${s}`, words, unit, value, ...(shown ? { shown } : {}) });
    if (Number.isFinite(x.capacity)) add("Q_rated", "capacity at its rating", "W", x.capacity, KILOWATT);
    if (x.kind === "boiler") {
      add("eta_hot", "efficiency at return water of 55 °C and more", "1", x.efficiency, SHARE);
      if (x.condensing === x.condensing) add("eta_cold", "efficiency at 30 °C return", "1", x.condensing, SHARE);
      if (Number.isFinite(x.capacity)) add("x_standing", "standing loss", "1", x.standingLoss, SHARE);
    } else if (x.kind === "chiller" || x.kind === "heatPump") {
      add("cop", "COP at its rating", "1", x.cop);
      if (Number.isFinite(x.capacity)) x.curves.part.forEach((c, k) => add(`p${k}`, `input at part load, coefficient ${k}`, "1", c));
    } else if (x.kind === "district") add("eta", "efficiency", "1", x.efficiency, SHARE);
    else {
      add("approach", "approach to the source", "K", x.approach);
      add("x_pump", "electricity over the heat exchanged", "1", x.power, SHARE);
      add("dt_design", "design difference of the loop", "K", loop.difference);
    }
  });

  const run = (x: Readonly<Record<string, number>>): readonly BenchStep[] => {
    const at = (name: string): number => x[name] ?? inputs.find((i) => i.name === name)?.value ?? 0;
    const [demand, supply, difference, out] = [at("Q"), at("t_s"), at("dt"), at("t_o")];
    const own: LoopModel = {
      ...loop,
      // condenser water is what goes in here
      tower: null,
      supply: { value: supply, row: -1, reset: null },
      pump,
      sources: sources.map((q) => (q.kind === "naturalSource" ? { ...q, temperature: { value: at("t_n"), row: -1, reset: null } } : q)),
    };
    const state = loopState(1);
    state.supply[0] = supply;
    state.demand[0] = demand;
    state.water[0] = demand / (WATER_CP * difference);
    const outputs = new Float64Array(OUTS * model.components.length);
    const scheduled = new Float64Array(1);
    runLoop(own, 0, state, outputs, scheduled, out, out);
    const value = (component: number, k: number): number => outputs[OUTS * component + k];
    const water = new Sheet(title);
    water.add("m", "water", "kg/s", state.water[0], "Q / (c_w * dt)");
    let flow = "m";
    let load = "Q";
    const steps: BenchStep[] = [];
    if (pump) {
      const sheet = new Sheet(model.components[pump.component].name);
      if (!pump.variable) {
        flow = "m_p";
        sheet.add(
          "m_p",
          "water at constant flow",
          "kg/s",
          value(pump.component, OUT.FLOW),
          "if(Q > 0.001 * m_design * c_w * " + loop.difference + ", m_design, m)",
        );
      }
      const power = value(pump.component, OUT.POWER);
      sheet.add("r", "share of the design flow", "1", pump.flow > 0 ? value(pump.component, OUT.FLOW) / pump.flow : 0, `${flow} / m_design`, { shown: SHARE });
      sheet.add(
        "P_pump",
        "power of the pump",
        "W",
        power,
        pump.variable
          ? `if(Q > 0.001 * m_design * c_w * ${loop.difference}, P_design * if(r > 1, r, r * (0.5726 + r * (-0.301 + r * 0.7284))), 0)`
          : `if(Q > 0.001 * m_design * c_w * ${loop.difference}, P_design, 0)`,
        { source: pump.variable ? "speed drive, typical, unverified" : "constant flow" },
      );
      const warmed = sheet.add("Q_pump", "warming of the water by the pump", "W", value(pump.component, OUT.HEAT), "P_pump * x_heat");
      load = "L_0";
      sheet.add(
        "L_0",
        "load of the sources",
        "W",
        hot ? Math.max(0, demand - warmed) : demand > 0 ? demand + warmed : 0,
        hot ? "max(0, Q - Q_pump)" : "if(Q > 0, Q + Q_pump, 0)",
        {
          shown: KILOWATT,
        },
      );
      steps.push(...water.steps, ...sheet.steps);
    } else steps.push(...water.steps);
    const back = new Sheet(title);
    back.add(
      "t_r",
      "return temperature",
      "°C",
      state.returned[0],
      hot ? `if(Q > 0, t_s - Q / (${flow} * c_w), t_s)` : `if(Q > 0, t_s + Q / (${flow} * c_w), t_s)`,
    );
    steps.push(...back.steps);
    let left = load;
    own.sources.forEach((q, i) => {
      const s = suffix(i);
      const sheet = new Sheet(model.components[q.component].name);
      const given = Math.abs(value(q.component, OUT.HEAT));
      const now = sourceCapacity(q, hot, supply, loop.difference, out, scheduled);
      const machine = q.kind === "chiller" || q.kind === "heatPump";
      const finite = Number.isFinite(q.capacity);
      let limit = `Q_rated${s}`;
      if (machine && finite) {
        sheet.add(`f_Q${s}`, "capacity now over its rating", "1", now / q.capacity, null, {
          source: `biquadratic of supply temperature and outdoors, typical, unverified${q.kind === "heatPump" ? `; nothing below ${q.leastOutdoor} °C` : ""}`,
        });
        limit = `Q_most${s}`;
        sheet.add(limit, "capacity now", "W", now, `Q_rated${s} * f_Q${s}`, { shown: KILOWATT });
      } else if (q.kind === "naturalSource" && finite) {
        limit = `Q_most${s}`;
        sheet.add(
          limit,
          "capacity now",
          "W",
          now,
          hot
            ? `Q_rated${s} * min(1, max(0, 1 + (t_n - approach${s} - t_s) / dt_design${s}))`
            : `Q_rated${s} * min(1, max(0, 1 + (t_s - t_n - approach${s}) / dt_design${s}))`,
          { shown: KILOWATT, source: "as near to the source as the approach; beyond it in proportion to the difference that is left" },
        );
      }
      sheet.add(`Q${s || "_given"}`, hot ? "heat given" : "heat taken out", "W", given, finite ? `min(${left}, ${limit})` : left, { shown: KILOWATT });
      const done = `Q${s || "_given"}`;
      if (q.kind === "boiler") {
        const condenses = q.condensing === q.condensing;
        sheet.add(
          `eta${s}`,
          "efficiency now",
          "1",
          boilerEfficiency(q.efficiency, q.condensing, state.returned[0]),
          condenses ? `if(t_r >= 55, eta_hot${s}, eta_hot${s} + (55 - max(30, t_r)) / 25 * (eta_cold${s} - eta_hot${s}))` : `eta_hot${s}`,
          { shown: SHARE, ...(condenses ? { source: "straight between 55 and 30 °C of return water; typical, unverified" } : {}) },
        );
        sheet.add(
          `${q.electric ? "P" : "F"}${s}`,
          q.electric ? "electricity" : "fuel",
          "W",
          value(q.component, q.electric ? OUT.POWER : OUT.FUEL),
          `if(${done} > 0, ${done} / eta${s}${finite ? ` + x_standing${s} * Q_rated${s} / eta_hot${s}` : ""}, 0)`,
          { shown: KILOWATT },
        );
      } else if (machine) {
        sheet.add(`f_P${s}`, "input per capacity now over its rating", "1", biquadratic((q.curves ?? AS_RATED).input, supply, out), null, {
          source: "biquadratic of supply temperature and outdoors, typical, unverified",
        });
        if (finite) sheet.add(`plr${s}`, "part load", "1", now > 0 ? given / now : 0, `if(${limit} > 0, ${done} / ${limit}, 0)`, { shown: SHARE });
        const power = sheet.add(
          `P${s}`,
          "electricity",
          "W",
          value(q.component, OUT.POWER),
          finite
            ? `if(${done} > 0, ${limit} / cop${s} * f_P${s} * if(plr${s} > 1, plr${s}, p0${s} + plr${s} * (p1${s} + p2${s} * plr${s})), 0)`
            : `${done} / cop${s} * f_P${s}`,
          { shown: KILOWATT },
        );
        sheet.add(`COP${s}`, "COP now", "1", power > 0 ? given / power : 0, `if(P${s} > 0, ${done} / P${s}, 0)`);
      } else if (q.kind === "district") sheet.add(`F${s}`, "metered", "W", value(q.component, OUT.FUEL), `${done} / eta${s}`, { shown: KILOWATT });
      else sheet.add(`P${s}`, "electricity", "W", value(q.component, OUT.POWER), `x_pump${s} * ${done}`, { shown: KILOWATT });
      const next = `L${s || "_left"}`;
      const before = left;
      if (i < own.sources.length - 1) sheet.add(next, "left for the next", "W", 0, `${before} - ${done}`, { shown: KILOWATT });
      left = next;
      steps.push(...sheet.steps);
    });
    // what is left after each source, by the figures themselves
    let rest = steps.find((p) => p.name === load)?.value ?? demand;
    return steps.map((p) => {
      if (p.words !== "left for the next") return p;
      const k = Number(p.name.slice(2)) - 1;
      rest -= Math.abs(value(own.sources[k].component, OUT.HEAT));
      return { ...p, value: rest };
    });
  };
  const [lead] = sources;
  const s = suffix(0);
  const main = !lead
    ? "P_pump"
    : lead.kind === "boiler"
      ? lead.electric
        ? `P${s}`
        : `F${s}`
      : lead.kind === "district"
        ? `F${s}`
        : lead.kind === "naturalSource"
          ? `Q${s || "_given"}`
          : `COP${s}`;
  return {
    title,
    inputs,
    figures,
    outcomes: [main, `Q${s || "_given"}`, `P${s}`, `F${s}`, "P_pump", "t_r"].filter((n, i, all) => all.indexOf(n) === i),
    over: lead?.kind === "naturalSource" ? "t_n" : "Q",
    run,
  };
}
