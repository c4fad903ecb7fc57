import { SUN_HOURS, SUN_MONTHS } from "../geometry/index.ts";
import type { CompiledModel } from "./model.ts";
import type { Tables } from "./reflections.ts";
import { SKY, type KernelState } from "./state.ts";

const TIMES = SUN_MONTHS * SUN_HOURS;
const MONTHS = SUN_MONTHS;
const HOURS = SUN_HOURS;

/** Sun thrown by ground and things onto every exterior element in the step, W/m²: linear between the months and hours of the tables. */
export function reflectedSun(m: CompiledModel, s: KernelState, day: number, hour: number): void {
  const { row, view, takes } = m.reflections;
  const { reflectedOn, scheduled } = s;
  const { opaqueEnd, groundEnd, exterior } = m;
  const at = placeInTables(m, s, day, hour);
  const { level, rest, albedo } = at;
  for (let i = 0; i < exterior; i++) {
    if (i === opaqueEnd) i = groundEnd;
    if (i >= exterior) break;
    const r = row[i];
    if (r < 0) {
      reflectedOn[i] = albedo * view[i] * (level + rest);
      continue;
    }
    let sum = thrown(m.reflections, r, at);
    for (let k = 0; k < takes.length; k++) sum -= (1 - scheduled[takes[k].schedule]) * thrown(takes[k].tables, r, at);
    reflectedOn[i] = sum;
  }
}

/** Sun of the step as the tables take it, and the four places in them about its time with their weights. */
interface Place {
  albedo: number;
  direct: number;
  level: number;
  rest: number;
  month: number;
  aa: number;
  ab: number;
  ba: number;
  bb: number;
  taa: number;
  tab: number;
  tba: number;
  tbb: number;
}
const PLACE: Place = { albedo: 0, direct: 0, level: 0, rest: 0, month: 0, aa: 0, ab: 0, ba: 0, bb: 0, taa: 0, tab: 0, tba: 0, tbb: 0 };

function placeInTables(m: CompiledModel, s: KernelState, day: number, hour: number): Place {
  const { sky } = s;
  PLACE.albedo = sky[SKY.ALBEDO];
  PLACE.direct = sky[SKY.DIRECT];
  PLACE.month = sky[SKY.MONTH];
  PLACE.level = PLACE.direct * Math.max(0, sky[SKY.UP]);
  // circumsolar light is in the beam; the rest of the sky's light is what is left of it
  PLACE.rest = sky[SKY.DIFFUSE] * (1 - sky[SKY.CIRCUMSOLAR]);
  const place = ((day + 0.5) * MONTHS) / m.year.days - 0.5;
  const m0 = Math.floor(place);
  const mx = place - m0;
  const h0 = Math.floor(hour - 0.5);
  const hx = hour - 0.5 - h0;
  const ha = (h0 + HOURS) % HOURS;
  const hb = (h0 + 1 + HOURS) % HOURS;
  const a = HOURS * ((m0 + MONTHS) % MONTHS);
  const b = HOURS * ((m0 + 1 + MONTHS) % MONTHS);
  PLACE.taa = a + ha;
  PLACE.tab = a + hb;
  PLACE.tba = b + ha;
  PLACE.tbb = b + hb;
  PLACE.aa = (1 - mx) * (1 - hx);
  PLACE.ab = (1 - mx) * hx;
  PLACE.ba = mx * (1 - hx);
  PLACE.bb = mx * hx;
  return PLACE;
}

function thrown(t: Tables, row: number, p: Place): number {
  const base = TIMES * row;
  const { groundBeam, thingBeam } = t;
  const by = MONTHS * row + p.month;
  const lit = p.aa * groundBeam[base + p.taa] + p.ab * groundBeam[base + p.tab] + p.ba * groundBeam[base + p.tba] + p.bb * groundBeam[base + p.tbb];
  const things = p.aa * thingBeam[base + p.taa] + p.ab * thingBeam[base + p.tab] + p.ba * thingBeam[base + p.tba] + p.bb * thingBeam[base + p.tbb];
  return p.albedo * (p.level * lit + p.rest * t.groundDiffuse[by] + (p.level + p.rest) * t.thingGround[by]) + p.direct * things + p.rest * t.thingDiffuse[by];
}
