import { daysOf, extraterrestrial, LEAST_COSINE, perezSky, sunVector, yearEpoch, type WeatherYear } from "../climate/index.ts";
import { cachedLitShares, castersInFront, convexPieces, opaqueCaster, type Face, type ReflectedView, type Vector } from "../geometry/index.ts";
import { COMMON_YEAR, LEAP_DAY, LEAP_YEAR, ProjectError, type Project, type YearDays } from "../model/index.ts";
import { cos, DEG, sin } from "../numeric/index.ts";
import { expandSchedule } from "../use/index.ts";
import { checkProject } from "./check.ts";
import { reflectionScene } from "./reflections.ts";
import { allCasters, dimGroups, skyDirections } from "./litTable.ts";

/** Days the sun is followed on through a longer period; each stands for its share of it. */
const MOST_DAYS = 24;
const QUARTERS = 96;

/** Days of a sun study, of a common year; 29 February goes with the 28th where the weather has it. */
export interface SunPeriod {
  /** First day of the year, 0…364. */
  readonly from: number;
  /** Number of days, 1…365. */
  readonly days: number;
}

/** Sun on one outdoor face over a period. */
export interface FaceSun {
  readonly key: string;
  readonly space: string;
  readonly host: string;
  readonly area: number;
  /** Hours in which the sun, were the sky clear, would stand on the face, by its lit share, h. */
  readonly hours: number;
  /** Beam, sky and ground-reflected sun of the weather year on the face, kWh/m². */
  readonly beam: number;
  readonly diffuse: number;
  readonly total: number;
}

/** What a face sees: lit share by direction, shares of sky and of the horizon's band by month. */
interface Seen {
  readonly lit: Float64Array;
  readonly sky: Float64Array;
  readonly horizon: Float64Array;
}

export interface SunProgress {
  readonly done: number;
  readonly of: number;
}

/**
 * Hours of sun and irradiation on every outdoor face, from the form and the weather alone: shadows by exact
 * clipping at quarter hours of the study's days (24 of them at most, evenly through it), beam and diffuse of
 * every day from the weather year, the sky by the run's model (Perez et al. 1990, or isotropic with reflected
 * sun of (1 − cos β)/2: Liu and Jordan 1963). Yields its progress by face.
 * @throws ProjectError where the form is broken
 */
export function* sunStudy(project: Project, weather: WeatherYear, period: SunPeriod): Generator<SunProgress, readonly FaceSun[]> {
  const { geometry, shades, surroundings, problems } = checkProject(project);
  const broken = problems.filter((p) => p.severity === "error" && p.stage === "form" && p.code !== "no-zone");
  if (broken.length > 0 && geometry.faces.length === 0) throw new ProjectError(broken);
  const { latitude, longitude, timeZone, planNorth, albedo } = project.site;
  const [c, s] = [cos(planNorth * DEG), sin(planNorth * DEG)];
  const year = daysOf(weather);
  const { from, days } = studyDays(period, year);
  const epoch = yearEpoch(weather.year, year === LEAP_YEAR);
  const monthOf = (day: number): number => year.monthOfDay[day];
  const samples = Math.min(MOST_DAYS, days);
  const sampleDays = Array.from({ length: samples }, (_, i) => (from + Math.floor(((i + 0.5) * days) / samples)) % year.days);
  const directions: Vector[] = [];
  const months: number[] = [];
  const clock: number[] = [];
  const place = new Int32Array(samples * QUARTERS).fill(-1);
  sampleDays.forEach((d, i) => {
    for (let q = 0; q < QUARTERS; q++) {
      const [e, n, u] = sunVector(d * 24 + (q + 0.5) / 4, latitude, longitude, timeZone, epoch);
      if (u <= 0) continue;
      place[i * QUARTERS + q] = directions.length;
      directions.push([e * c - n * s, e * s + n * c, u]);
      months.push(monthOf(d));
      clock.push(d * 24 + (q >> 2));
    }
  });
  const sampleOf = (k: number): number => Math.min(samples - 1, Math.floor(((k + 0.5) * samples) / days));
  const sky = skyDirections(project.site);
  const key = `${sky.key}${epoch} ${sampleDays.join(" ")} `;
  const casters = allCasters(geometry, shades, surroundings);
  const about = reflectionScene(project, geometry, shades, surroundings);
  const opaque = casters.filter(opaqueCaster).map((x) => x.corners);
  // what each lets through of the sun of each direction, and of the sky by month: of a schedule its mean from 6 to 18 o'clock
  const transmitting = dimGroups(casters).map(({ corners, transmittance, schedule }) => {
    if (schedule === null) return { corners, sun: months.map((m) => (transmittance as readonly number[])[m]), sky: transmittance as readonly number[] };
    const values = expandSchedule(project.schedules[schedule], project.calendar, 1, year);
    const sky = year.monthDays.map((_, m) => {
      const daily = values.subarray(24 * year.monthStart[m], 24 * year.monthStart[m + 1]).filter((_, h) => h % 24 >= 6 && h % 24 < 18);
      return daily.reduce((a, v) => a + v, 0) / daily.length;
    });
    return { corners, sun: clock.map((h) => values[h]), sky };
  });
  const outdoor = geometry.faces.filter((f) => f.contact === "outdoors");
  const rows: FaceSun[] = [];
  for (const f of outdoor) {
    rows.push({ key: f.key, space: f.space, host: f.host, area: f.area, ...faceSun(f, shares(f), thrownBack(f)) });
    yield { done: rows.length, of: outdoor.length };
  }
  return rows;

  /** Lit share by direction, and shares of sky and horizon seen by month; leaves and screens dim by what they let through in the month. */
  function shares(f: Face): Seen {
    const receiver = { pieces: convexPieces(f), normal: f.normal };
    let before = cachedLitShares(receiver, opaque, directions, key, sky);
    const lit = Float64Array.from(before.lit);
    const seen = new Float64Array(12).fill(before.sky);
    const horizon = new Float64Array(12).fill(before.horizon);
    let taken = opaque;
    for (const g of transmitting) {
      if (castersInFront(receiver, g.corners).length === 0) continue;
      taken = [...taken, ...g.corners];
      const after = cachedLitShares(receiver, taken, directions, key, sky);
      for (let k = 0; k < directions.length; k++) lit[k] -= (1 - g.sun[k]) * (before.lit[k] - after.lit[k]);
      for (let m = 0; m < 12; m++) {
        seen[m] -= (1 - g.sky[m]) * (before.sky - after.sky);
        horizon[m] -= (1 - g.sky[m]) * (before.horizon - after.horizon);
      }
      before = after;
    }
    return { lit, sky: seen, horizon };
  }

  /** One reflection by ground and things, as the mean of its sets in each month. */
  function thrownBack(f: Face): (month: number, hour: number, albedo: number, direct: number, level: number, rest: number) => number {
    const views = about.viewsOf({ pieces: convexPieces(f), normal: f.normal });
    return (month, hour, albedo, direct, level, rest) => {
      const of = ({ groundBeam, groundDiffuse, thingBeam, thingDiffuse, thingGround }: ReflectedView): number =>
        albedo * (level * groundBeam[24 * month + hour] + rest * groundDiffuse + (level + rest) * thingGround) +
        direct * thingBeam[24 * month + hour] +
        rest * thingDiffuse;
      let sum = of(views[0]);
      transmitting.forEach((g, k) => (sum -= (1 - g.sky[month]) * (of(views[k]) - of(views[k + 1]))));
      return sum;
    };
  }

  function faceSun(f: Face, { lit, sky: sees, horizon }: Seen, back: ReturnType<typeof thrownBack>): Pick<FaceSun, "hours" | "beam" | "diffuse" | "total"> {
    let [hours, beam, diffuse] = [0, 0, 0];
    const up = f.normal[2];
    const sinTilt = Math.sqrt(Math.max(0, 1 - up * up));
    for (let i = 0; i < samples; i++)
      for (let q = 0; q < QUARTERS; q++) {
        const at = place[i * QUARTERS + q];
        if (at < 0) continue;
        const d = directions[at];
        if (d[0] * f.normal[0] + d[1] * f.normal[1] + d[2] * up > 1e-6) hours += (lit[at] * days) / samples / 4;
      }
    for (let k = 0; k < days; k++) {
      const day = (from + k) % year.days;
      const i = sampleOf(k);
      const seen = sees[monthOf(day)];
      const band = horizon[monthOf(day)];
      for (let q = 0; q < QUARTERS; q++) {
        const at = place[i * QUARTERS + q];
        if (at < 0) continue;
        const hour = day * 24 + (q >> 2);
        const global = weather.globalHorizontal[hour];
        if (global <= 0) continue;
        const sd = weather.diffuseHorizontal[hour];
        const d = directions[at];
        const normal = Math.min(extraterrestrial(day), Math.max(0, global - sd) / Math.max(d[2], LEAST_COSINE));
        const incidence = Math.max(0, d[0] * f.normal[0] + d[1] * f.normal[1] + d[2] * up);
        const direct = normal * incidence * lit[at];
        let dome = sd * ((1 + up) / 2) * seen;
        let circumsolar = 0;
        if (project.run.sky === "perez") {
          const p = perezSky(sd, normal, d[2], extraterrestrial(day));
          // circumsolar light comes from where the sun stands and is shaded with it
          circumsolar = p.circumsolar;
          dome = sd * ((1 - p.circumsolar) * ((1 + up) / 2) * seen + p.circumsolar * (incidence / p.b) * lit[at] + p.horizon * sinTilt * band);
        }
        beam += direct / 4000;
        const rest = sd * (1 - circumsolar);
        const onFacing = normal + (sd * circumsolar) / Math.max(d[2], LEAST_COSINE);
        const reflected = back(monthOf(day), q >> 2, albedo[monthOf(day)], onFacing, Math.max(0, global - rest), rest);
        diffuse += (Math.max(0, dome) + reflected) / 4000;
      }
    }
    return { hours, beam, diffuse, total: beam + diffuse };
  }
}

/** The days of a study in a weather year: a period over the end of February, or to its 28th, takes in the 29th where there is one. */
function studyDays({ from, days }: SunPeriod, year: YearDays): SunPeriod {
  const count = Math.max(1, Math.min(COMMON_YEAR.days, Math.round(days)));
  if (year === COMMON_YEAR) return { from, days: count };
  const last = (from + count - 1) % COMMON_YEAR.days;
  const wraps = from + count > COMMON_YEAR.days;
  const leap = count > 1 && (wraps ? from < LEAP_DAY || last >= LEAP_DAY - 1 : from < LEAP_DAY && last >= LEAP_DAY - 1);
  return { from: from >= LEAP_DAY ? from + 1 : from, days: count + (leap ? 1 : 0) };
}
