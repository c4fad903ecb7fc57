import { CP_AIR, CP_VAPOUR, LATENT_HEAT } from "../airflow/index.ts";
import { humidityRatio, saturationPressure, wetBulb } from "../climate/index.ts";
import {
  AIR,
  airPath,
  AIRS,
  biquadratic,
  BY,
  machineInput,
  MOIST,
  OUT,
  OUTS,
  saturated,
  STEAM_HEAT,
  type AirPart,
  type AirSystemModel,
  type ServiceModel,
} from "../services/index.ts";
import { GRAMS, KILOWATT, LITRES, SHARE, Sheet, type Bench, type BenchFigure, type BenchInput, type BenchStep } from "./types.ts";

/** Humidity ratio that c_p is taken at here, kg/kg. */
const HUMID = 0.008;
/** Specific heat of air on a bench, J/kg·K. */
export const CP = CP_AIR + CP_VAPOUR * HUMID;

interface Site {
  /** Air that flows are given for, kg/m³, and pressure, Pa. */
  readonly density: number;
  readonly pressure: number;
}

/**
 * Parts of an air system that follow each other, on air of a chosen state: what each does is the calculation's own (`airPath`), what is said of
 * it is a formula over the same figures.
 * @param chosen the parts, in their order; the return fan is not among them
 */
export function airBench(model: ServiceModel, system: AirSystemModel, chosen: readonly AirPart[], title: string, site: Site): Bench {
  const mixing = chosen.find((p) => p.kind === "mixing") ?? null;
  const recovery = chosen.find((p) => p.kind === "recovery") ?? null;
  const cools = chosen.some((p) => p.kind === "coolingCoil");
  const heats = chosen.some((p) => p.kind === "heatingCoil" && !(p.leaving === p.leaving));
  const direct = chosen.some((p) => p.kind === "coolingCoil" && p.by !== BY.WATER);
  const fans = chosen.flatMap((p) => (p.kind === "supplyFan" || p.kind === "returnFan" ? [p] : []));
  const moistens = chosen.some((p) => p.kind === "humidifier");
  const returns = mixing !== null || recovery !== null || moistens;
  const design =
    [...fans, ...system.parts].flatMap((f) => (f.kind === "supplyFan" || f.kind === "returnFan" ? [f.flow / site.density] : [])).find((f) => f > 0) ??
    systemFlow(model, system) / site.density;
  const own: AirSystemModel = {
    ...system,
    parts: chosen,
    returnFan: null,
    mixing: mixing?.kind === "mixing" ? mixing : null,
    recovery: recovery?.kind === "recovery" ? recovery : null,
    mixesAt: chosen.findIndex((p) => p.kind === "mixing"),
  };
  const coldest = system.supply.value;
  const sup = mixing !== null || recovery !== null ? "outdoor air" : "entering air";
  const inputs: BenchInput[] = [
    { name: "flow", words: "air flow", unit: "m³/s", value: design, min: fans.length === chosen.length ? 0 : 0.02 * design, max: 1.2 * design, shown: LITRES },
    { name: "t0", words: `${sup}, temperature`, unit: "°C", value: returns ? 5 : cools ? 27 : 10, min: -25, max: 45 },
    { name: "w0", words: `${sup}, humidity ratio`, unit: "kg/kg", value: returns ? 0.004 : cools ? 0.011 : 0.005, min: 0, max: 0.025, shown: GRAMS },
    ...(returns
      ? [
          { name: "tr", words: "return air, temperature", unit: "°C", value: 23, min: 10, max: 35 },
          { name: "wr", words: "return air, humidity ratio", unit: "kg/kg", value: 0.007, min: 0, max: 0.02, shown: GRAMS },
        ]
      : []),
    ...(mixing ? [{ name: "least", words: "least outdoor air, share of the flow", unit: "1", value: 0.25, min: 0, max: 1, shown: SHARE }] : []),
    ...(mixing?.kind === "mixing" && mixing.economizer > 0
      ? [{ name: "open", words: "economizer open (1) or shut (0)", unit: "1", value: 1, min: 0, max: 1 }]
      : []),
    ...(cools || heats || returns ? [{ name: "wanted", words: "supply temperature wanted", unit: "°C", value: coldest, min: 5, max: 45 }] : []),
    ...(direct ? [{ name: "outdoor", words: "outdoors, at the condenser", unit: "°C", value: 35, min: 5, max: 48 }] : []),
  ];
  const figures: BenchFigure[] = [
    { name: "rho", words: "density of air of 20 °C at the site", unit: "kg/m³", value: site.density },
    { name: "cp", words: "specific heat of air", unit: "J/kg·K", value: CP },
  ];
  if (cools || moistens) figures.push({ name: "hfg", words: "latent heat of water", unit: "J/kg", value: LATENT_HEAT });
  const suffix = (i: number): string => (chosen.length > 1 ? `_${i + 1}` : "");
  chosen.forEach((p, i) => {
    const s = suffix(i);
    if (p.kind === "supplyFan" || p.kind === "returnFan") {
      figures.push(
        { name: `m_design${s}`, words: "design flow", unit: "kg/s", value: p.flow },
        { name: `P_design${s}`, words: "power at the design flow: flow · pressure rise / efficiency", unit: "W", value: p.power, shown: KILOWATT },
        { name: `x_heat${s}`, words: "motor heat into the air", unit: "1", value: p.heat, shown: SHARE },
      );
      if (system.variable) p.shape.forEach((c, k) => figures.push({ name: `c${k}${s}`, words: `power at part flow, coefficient ${k}`, unit: "1", value: c }));
    } else if (p.kind === "heatingCoil") {
      figures.push({ name: `Q_most${s}`, words: "capacity", unit: "W", value: p.capacity, shown: KILOWATT });
      if (p.by === BY.GAS) figures.push({ name: `eta${s}`, words: "efficiency", unit: "1", value: p.efficiency, shown: SHARE });
      if (p.leaving === p.leaving) figures.push({ name: `leaving${s}`, words: "heats to", unit: "°C", value: p.leaving });
    } else if (p.kind === "coolingCoil") {
      figures.push(
        { name: `Q_rated${s}`, words: "capacity at its rating", unit: "W", value: p.capacity, shown: KILOWATT },
        { name: `b${s}`, words: "by-pass factor", unit: "1", value: p.bypass, shown: SHARE },
      );
      if (p.by !== BY.WATER) {
        figures.push({ name: `cop${s}`, words: "COP at its rating", unit: "1", value: p.cop });
        p.curves.part.forEach((c, k) => figures.push({ name: `p${k}${s}`, words: `input at part load, coefficient ${k}`, unit: "1", value: c }));
      }
    } else if (p.kind === "humidifier") {
      figures.push({ name: `phi${s}`, words: "least relative humidity of the return air", unit: "1", value: p.least, shown: SHARE });
      if (p.by !== MOIST.EVAPORATION) figures.push({ name: `h_steam${s}`, words: "heat that makes steam", unit: "J/kg", value: STEAM_HEAT });
      if (p.by === MOIST.GAS) figures.push({ name: `eta${s}`, words: "efficiency", unit: "1", value: p.efficiency, shown: SHARE });
    } else if (p.kind === "recovery")
      figures.push(
        { name: `e_s${s}`, words: "sensible effectiveness", unit: "1", value: p.sensible, shown: SHARE },
        { name: `e_l${s}`, words: "latent effectiveness", unit: "1", value: p.latent, shown: SHARE },
      );
  });

  const run = (x: Readonly<Record<string, number>>): readonly BenchStep[] => {
    const at = (name: string): number => x[name] ?? inputs.find((i) => i.name === name)?.value ?? 0;
    const mass = at("flow") * site.density;
    const a = new Float64Array(AIRS);
    const wanted = at("wanted");
    a[AIR.OUTDOOR] = at("t0");
    a[AIR.OUTDOOR_RATIO] = at("w0");
    a[AIR.PRESSURE] = site.pressure;
    a[AIR.RETURN] = returns ? at("tr") : at("t0");
    a[AIR.RETURN_RATIO] = returns ? at("wr") : at("w0");
    a[AIR.FLOW] = mass;
    a[AIR.LEAST_OUTDOOR] = mixing ? at("least") * mass : mass;
    a[AIR.HEAT_TO] = heats || returns ? wanted : -Infinity;
    a[AIR.COOL_TO] = cools || returns ? wanted : Infinity;
    a[AIR.ECONOMIZER] = mixing?.kind === "mixing" && mixing.economizer > 0 && at("open") >= 0.5 ? 1 : 0;
    a[AIR.CP] = CP;
    const out = new Float64Array(OUTS * model.components.length);
    const limit = new Float64Array(model.components.length).fill(Infinity);
    const wet = wetBulb(at("t0"), at("w0"), site.pressure);
    a[AIR.WET_BULB] = wet;
    for (const p of chosen) {
      if (p.kind === "heatingCoil") limit[p.component] = p.capacity;
      if (p.kind === "coolingCoil") limit[p.component] = p.by === BY.WATER ? p.capacity : p.capacity * biquadratic(p.curves.capacity, wet, at("outdoor"));
    }
    airPath(own, a, out, limit);
    const steps: BenchStep[] = [];
    const first = new Sheet(title);
    first.add("m", "mass flow of air", "kg/s", mass, "flow * rho");
    // fans warm the air behind the coils: coils aim below by as much
    let rise = "0";
    chosen.forEach((p, i) => {
      if (p.kind !== "supplyFan") return;
      const s = suffix(i);
      const power = out[OUTS * p.component + OUT.POWER];
      first.add(`r${s}`, "share of the design flow", "1", p.flow > 0 ? mass / p.flow : 0, `m / m_design${s}`, { shown: SHARE });
      first.add(`P${s}`, "fan power", "W", power, fanFormula(s, system.variable), {
        shown: KILOWATT,
        source: system.variable ? "polynomial over the share of the design flow" : "in proportion to flow, pressure held",
      });
      first.add(`dT${s}`, "warming of the air by the fan", "K", mass > 0 ? (power * p.heat) / (mass * CP) : 0, `if(m > 0, P${s} * x_heat${s} / (m * cp), 0)`);
      rise = rise === "0" ? `dT${s}` : `${rise} + dT${s}`;
    });
    steps.push(...first.steps);
    let [t, w, through] = ["t0", "w0", "m"];
    chosen.forEach((p, i) => {
      const s = suffix(i);
      const o = OUTS * p.component;
      const sheet = new Sheet(model.components[p.component].name);
      const value = (k: number): number => out[o + k];
      if (p.kind === "recovery") {
        const acts = actsOf(p, value, at("tr"));
        sheet.add(`m_o${s}`, "outdoor air through it", "kg/s", value(OUT.FLOW), null, { source: "the share of outdoor air that the mixing box takes" });
        sheet.add(`share${s}`, "part of it that acts", "1", acts, null, {
          shown: SHARE,
          source: "as much as brings the air toward what is wanted, exhaust above its frost limit; by-passed while an economizer cools",
        });
        sheet.add(`t${s || "_out"}`, "leaving temperature", "°C", value(OUT.OUT), `${t} + share${s} * e_s${s} * (tr - ${t})`, { source: "ISO 16494" });
        sheet.add(`w${s || "_out"}`, "leaving humidity ratio", "kg/kg", value(OUT.OUT_RATIO), `${w} + share${s} * e_l${s} * (wr - ${w})`, { shown: GRAMS });
        sheet.add(`Q${s}`, "heat recovered", "W", value(OUT.HEAT), `m_o${s} * cp * (t${s || "_out"} - ${t})`, { shown: KILOWATT });
        sheet.add(`t_exhaust${s}`, "exhaust air", "°C", a[AIR.EXHAUST], `tr - (t${s || "_out"} - ${t})`);
        through = `m_o${s}`;
      } else if (p.kind === "mixing") {
        const share = mass > 0 ? value(OUT.FLOW) / mass : 0;
        sheet.add(`x_o${s}`, "share of outdoor air", "1", share, null, {
          shown: SHARE,
          source: "the least share, or as much as an open economizer needs to bring the mixture to what is wanted",
        });
        sheet.add(`t${s || "_out"}`, "mixed temperature", "°C", value(OUT.OUT), `if(m > 0, x_o${s} * ${t} + (1 - x_o${s}) * tr, 0)`);
        sheet.add(`w${s || "_out"}`, "mixed humidity ratio", "kg/kg", value(OUT.OUT_RATIO), `if(m > 0, x_o${s} * ${w} + (1 - x_o${s}) * wr, 0)`, {
          shown: GRAMS,
        });
        through = "m";
      } else if (p.kind === "heatingCoil") {
        const aim = p.leaving === p.leaving ? `leaving${s}` : `(wanted - (${rise}))`;
        sheet.add(`Q${s}`, "heat given", "W", value(OUT.HEAT), `min(Q_most${s}, max(0, ${through} * cp * (${aim} - ${t})))`, { shown: KILOWATT });
        sheet.add(`t${s || "_out"}`, "leaving temperature", "°C", value(OUT.OUT), `if(${through} > 0, ${t} + Q${s} / (${through} * cp), 0)`);
        if (p.by === BY.GAS) sheet.add(`F${s}`, "gas", "W", value(OUT.FUEL), `Q${s} / eta${s}`, { shown: KILOWATT });
        if (p.by === BY.ELECTRICITY) sheet.add(`P${s}`, "electricity", "W", value(OUT.POWER), `Q${s}`, { shown: KILOWATT });
        sheet.add(`w${s || "_out"}`, "leaving humidity ratio", "kg/kg", value(OUT.OUT_RATIO), mass > 0 ? w : "0", { shown: GRAMS });
      } else if (p.kind === "coolingCoil") {
        const [tIn, tOut] = [value(OUT.IN), value(OUT.OUT)];
        const apparatus = (tOut - p.bypass * tIn) / (1 - p.bypass);
        const wetIn = wet;
        if (p.by !== BY.WATER) {
          sheet.add(`t_wet${s}`, "entering wet bulb", "°C", wetIn, null, { source: "ASHRAE Fundamentals 2017, ch. 1" });
          sheet.add(`f_Q${s}`, "capacity now over its rating", "1", biquadratic(p.curves.capacity, wetIn, at("outdoor")), null, {
            source: "biquadratic of entering wet bulb and outdoors; typical, unverified",
          });
          sheet.add(`Q_most${s}`, "capacity now", "W", limit[p.component], `Q_rated${s} * f_Q${s}`, { shown: KILOWATT });
        }
        sheet.add(`t${s || "_out"}`, "leaving temperature", "°C", tOut, null, {
          source: "what is wanted of it, or as cold as its capacity takes the air, sensible and latent together",
        });
        sheet.add(`t_adp${s}`, "apparatus dew point", "°C", apparatus, `(t${s || "_out"} - b${s} * ${t}) / (1 - b${s})`);
        sheet.add(`w_adp${s}`, "humidity ratio at saturation there", "kg/kg", saturated(apparatus, site.pressure), null, {
          shown: GRAMS,
          source: `0.621945 · p_s / (p − p_s), p_s = ${Math.round(saturationPressure(apparatus))} Pa`,
        });
        sheet.add(
          `w${s || "_out"}`,
          "leaving humidity ratio",
          "kg/kg",
          value(OUT.OUT_RATIO),
          `if(t${s || "_out"} < ${t} and w_adp${s} < ${w}, b${s} * ${w} + (1 - b${s}) * w_adp${s}, ${mass > 0 ? w : "0"})`,
          { shown: GRAMS },
        );
        sheet.add(`Q_s${s}`, "sensible heat taken out", "W", -value(OUT.HEAT), `${through} * cp * (${t} - t${s || "_out"})`, { shown: KILOWATT });
        sheet.add(`Q_l${s}`, "latent heat taken out", "W", -value(OUT.LATENT), `${through} * hfg * (${w} - w${s || "_out"})`, { shown: KILOWATT });
        sheet.add(`Q${s}`, "heat taken out", "W", -value(OUT.HEAT) - value(OUT.LATENT), `Q_s${s} + Q_l${s}`, { shown: KILOWATT });
        if (p.by !== BY.WATER) {
          sheet.add(`f_P${s}`, "input per capacity now over its rating", "1", biquadratic(p.curves.input, wetIn, at("outdoor")), null, {
            source: "biquadratic of entering wet bulb and outdoors; typical, unverified",
          });
          sheet.add(
            `plr${s}`,
            "part load",
            "1",
            limit[p.component] > 0 ? (-value(OUT.HEAT) - value(OUT.LATENT)) / limit[p.component] : 0,
            `if(Q_most${s} > 0, Q${s} / Q_most${s}, 0)`,
            { shown: SHARE },
          );
          const total = -value(OUT.HEAT) - value(OUT.LATENT);
          const power = machineInput(total, limit[p.component], 1 / p.cop, biquadratic(p.curves.input, wetIn, at("outdoor")), p.curves.part);
          sheet.add(
            `P${s}`,
            "electricity",
            "W",
            power,
            `if(Q${s} > 0, Q_most${s} / cop${s} * f_P${s} * if(plr${s} > 1, plr${s}, p0${s} + plr${s} * (p1${s} + p2${s} * plr${s})), 0)`,
            { shown: KILOWATT },
          );
        }
      } else if (p.kind === "humidifier") {
        const set = humidityRatio(at("tr"), p.least, site.pressure);
        const water = value(OUT.OUT_RATIO) - value(OUT.IN_RATIO);
        sheet.add(`w_set${s}`, "humidity ratio of the return air at its least humidity", "kg/kg", set, null, {
          shown: GRAMS,
          source: "ASHRAE Fundamentals 2017, ch. 1, eq. 20",
        });
        sheet.add(`w_to${s}`, "humidity ratio wanted of the supply air", "kg/kg", 2 * set - at("wr"), `2 * w_set${s} - wr`, {
          shown: GRAMS,
          source: "moister by as much as the return air is too dry",
        });
        sheet.add(`dw${s}`, "moisture added", "kg/kg", water, null, { shown: GRAMS, source: "what is wanted, within its water and what the air holds" });
        sheet.add(`w${s || "_out"}`, "leaving humidity ratio", "kg/kg", value(OUT.OUT_RATIO), `${w} + dw${s}`, { shown: GRAMS });
        sheet.add(`t${s || "_out"}`, "leaving temperature", "°C", value(OUT.OUT), p.by === MOIST.EVAPORATION ? `${t} - hfg * dw${s} / cp` : t);
        sheet.add(`W${s}`, "water", "kg/s", mass * water, `m * dw${s}`, { shown: { unit: "kg/h", factor: 3600, digits: 1 } });
        if (p.by === MOIST.ELECTRIC) sheet.add(`P${s}`, "electricity", "W", value(OUT.POWER), `W${s} * h_steam${s}`, { shown: KILOWATT });
        if (p.by === MOIST.GAS) sheet.add(`F${s}`, "gas", "W", value(OUT.FUEL), `W${s} * h_steam${s} / eta${s}`, { shown: KILOWATT });
      } else {
        if (p.kind === "returnFan") {
          sheet.add(`r${s}`, "share of the design flow", "1", p.flow > 0 ? mass / p.flow : 0, `m / m_design${s}`, { shown: SHARE });
          sheet.add(`P${s}`, "fan power", "W", value(OUT.POWER), fanFormula(s, system.variable), { shown: KILOWATT });
          sheet.add(`dT${s}`, "warming of the air by the fan", "K", value(OUT.OUT) - value(OUT.IN), `if(m > 0, P${s} * x_heat${s} / (m * cp), 0)`);
        } else
          rise =
            rise
              .split(" + ")
              .filter((r) => r !== `dT${s}`)
              .join(" + ") || "0";
        sheet.add(`t${s || "_out"}`, "leaving temperature", "°C", value(OUT.OUT), `if(m > 0, ${t} + dT${s}, 0)`);
        sheet.add(`w${s || "_out"}`, "leaving humidity ratio", "kg/kg", value(OUT.OUT_RATIO), mass > 0 ? w : "0", { shown: GRAMS });
      }
      t = `t${s || "_out"}`;
      w = `w${s || "_out"}`;
      steps.push(...sheet.steps);
    });
    return steps;
  };

  const last = chosen.length - 1;
  const s = suffix(last);
  const lead = chosen[last];
  const main =
    chosen.length > 1
      ? `t${s}`
      : lead.kind === "supplyFan" || lead.kind === "returnFan"
        ? "P"
        : lead.kind === "mixing"
          ? "x_o"
          : lead.kind === "humidifier"
            ? "W"
            : "Q";
  const over =
    chosen.length > 1 || lead.kind === "mixing" || lead.kind === "recovery" || lead.kind === "heatingCoil"
      ? "t0"
      : lead.kind === "coolingCoil"
        ? "wanted"
        : "flow";
  return { title, inputs, figures, outcomes: [main, ...["t_out", "w_out", "P", `w${s}`].filter((n) => n !== main)], over, run };
}

const fanFormula = (s: string, variable: boolean): string =>
  variable
    ? `if(r${s} <= 0, 0, P_design${s} * if(r${s} > 1, (c0${s} + c1${s} + c2${s} + c3${s}) * r${s}, max(0, c0${s} + r${s} * (c1${s} + r${s} * (c2${s} + r${s} * c3${s})))))`
    : `P_design${s} * r${s}`;

/** Share of a recovery that acts, from what it did. */
function actsOf(p: AirPart & { kind: "recovery" }, value: (k: number) => number, returned: number): number {
  const full = p.sensible * (returned - value(OUT.IN));
  if (full !== 0) return (value(OUT.OUT) - value(OUT.IN)) / full;
  return 0;
}

/** Design flow of a system's terminals together, kg/s. */
const systemFlow = (model: ServiceModel, system: AirSystemModel): number =>
  [...system.terminals].reduce((sum, d) => sum + model.devices[d].flow * model.devices[d].times, 0) || 1;
