import { acos, cos, exp, hashText, canonicalJson, PI } from "../numeric/index.ts";
import { readAngle } from "../fabric/index.ts";
import { castersInFront, centroid, opaqueCaster, planeAxes, type Caster, type Geometry, type Vector } from "../geometry/index.ts";
import { effective } from "../inputs/index.ts";
import type { Problem, Project, SpaceField } from "../model/index.ts";
import type { Element } from "./elements.ts";
import { dimGroups, PATCHES, skyDirections } from "./litTable.ts";

/** Luminous efficacy of beam and of diffuse sun, lm/W: typical, unverified. */
export const BEAM_EFFICACY = 95;
export const DIFFUSE_EFFICACY = 120;
/** Reflectance of ceilings, walls, floors and glass inside for light: typical, unverified. */
const REFLECTANCE = { ceiling: 0.7, wall: 0.5, floor: 0.2, glass: 0.12 };
/** Brightness of what blocks the sky over that of the whole sky: typical, unverified. */
const BLOCKED = 0.1;
/** A window is cut into cells no wider than this for its light on a point, m. */
const CELL = 0.3;
const MOST_CELLS = 16;
/** Height of a proposed sensor point, m. */
const DESK = 0.8;
/** Vertical over horizontal illuminance of the CIE overcast sky, ground of 0.2 included. */
const OVERCAST_WALL = 0.396 + 0.1;

/** One window's light on one sensor point. */
export interface WindowLight {
  readonly element: number;
  /** Sky patches it shows the point, and illuminance per luminance of each, lx per cd/m². */
  readonly patches: Int32Array;
  readonly weights: Float64Array;
  /** Illuminance per beam-normal illuminance over the sun grid, 1. */
  readonly sun: Float64Array;
  /** Light reflected inside, lx per lx on the window's outside. */
  readonly reflected: number;
  /** −1: light of the window; else what a group of the model's `dimmers` (leaves, screens) takes of it where it lets nothing through. */
  readonly dimmer: number;
}

export interface DaylightSensor {
  readonly id: string;
  readonly name: string;
  readonly space: string;
  readonly zone: number;
  readonly proposed: boolean;
  readonly place: Vector;
  readonly windows: readonly WindowLight[];
  /** Daylight factor under the CIE overcast sky, %, without leaves and screens. */
  readonly factor: number;
}

/** Lighting of one space that answers daylight. */
export interface LightingControl {
  readonly zone: number;
  readonly space: string;
  readonly stepped: boolean;
  readonly target: number;
  readonly least: number;
  readonly steps: number;
  readonly sensors: readonly { readonly sensor: number; readonly share: number }[];
}

export interface DaylightModel {
  readonly sensors: readonly DaylightSensor[];
  readonly controls: readonly LightingControl[];
  readonly sky: SkyPatches;
}

/** Relative luminance of the CIE overcast sky (Moon and Spencer 1942). @param sine of the height */
export const overcastSky = (sine: number): number => (1 + 2 * sine) / 3;

/** Relative luminance of the CIE clear sky (CIE 110-1994). @param sine of the height @param angle to the sun and @param zenith of the sun, radians */
export function clearSky(sine: number, angle: number, zenith: number): number {
  const c = cos(angle);
  const z = cos(zenith);
  return ((0.91 + 10 * exp(-3 * angle) + 0.45 * c * c) * gradation(sine)) / ((0.91 + 10 * exp(-3 * zenith) + 0.45 * z * z) * gradation(1));
}

const gradation = (sine: number): number => 1 - exp(-0.32 / Math.max(0.01, sine));

/** Patches of a sky of equal solid angles, and what of their luminance does not follow the sun. */
export interface SkyPatches {
  /** Directions in plan coordinates, [patch][3]. */
  readonly directions: Float64Array;
  /** Relative luminance under the overcast sky, and what a horizontal plane gets of it, both 1. */
  readonly overcast: Float64Array;
  readonly overcastSum: number;
  /** Gradation of the clear sky from zenith to horizon, relative. */
  readonly gradation: Float64Array;
}

/** A sky of patches by their directions. */
export function skyPatches(patches: readonly Vector[]): SkyPatches {
  const overcast = Float64Array.from(patches, (d) => overcastSky(d[2]));
  return {
    directions: Float64Array.from(patches.flat()),
    overcast,
    overcastSum: overcast.reduce((s, l, p) => s + l * patches[p][2], 0),
    gradation: Float64Array.from(patches, (d) => gradation(d[2])),
  };
}

/**
 * Luminance of the sky patches, cd/m², of a sky between overcast and clear that gives a diffuse horizontal
 * illuminance: what of the clear sky's luminance is the same for all patches cancels (see `clearSky`).
 * @param clearness 0 overcast … 1 clear @param sun direction in plan coordinates @param out filled
 */
export function skyLuminance(sky: SkyPatches, illuminance: number, clearness: number, sx: number, sy: number, sz: number, out: Float64Array): void {
  const { directions, overcast, gradation } = sky;
  const n = overcast.length;
  const solid = (2 * PI) / n;
  const a = ((1 - clearness) * illuminance) / (sky.overcastSum * solid);
  if (!(clearness > 0)) {
    for (let p = 0; p < n; p++) out[p] = a * overcast[p];
    return;
  }
  let clear = 0;
  for (let p = 0; p < n; p++) {
    const d = 3 * p;
    const c = Math.max(-1, Math.min(1, directions[d] * sx + directions[d + 1] * sy + directions[d + 2] * sz));
    const relative = (0.91 + 10 * exp(-3 * acos(c)) + 0.45 * c * c) * gradation[p];
    out[p] = relative;
    clear += relative * directions[d + 2];
  }
  const b = (clearness * illuminance) / (clear * solid);
  for (let p = 0; p < n; p++) out[p] = a * overcast[p] + b * out[p];
}

const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Vector, b: Vector): Vector => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];

/** Whether a ray from `p` in direction `d` strikes a convex polygon. */
export function rayStrikes(p: Vector, d: Vector, ring: readonly Vector[]): boolean {
  const normal = cross(minus(ring[1], ring[0]), minus(ring[2], ring[0]));
  const slope = dot(d, normal);
  if (Math.abs(slope) < 1e-12) return false;
  const t = dot(minus(ring[0], p), normal) / slope;
  if (t < 1e-6) return false;
  const at: Vector = [p[0] + d[0] * t, p[1] + d[1] * t, p[2] + d[2] * t];
  let sign = 0;
  for (let i = 0; i < ring.length; i++) {
    const a = ring[i];
    const b = ring[(i + 1) % ring.length];
    const s = dot(cross(minus(b, a), minus(at, a)), normal);
    if (Math.abs(s) < 1e-12) continue;
    if (sign === 0) sign = s;
    else if (sign * s < 0) return false;
  }
  return true;
}

/** Light of one window that does not depend on the room's surfaces, and its daylight factor under the overcast sky. */
type DirectLight = Pick<WindowLight, "patches" | "weights" | "sun"> & { readonly overcast: number };
const lights = new Map<string, DirectLight>();

/** Sensor points and lighting controls of a project. A controlled space without a sensor gets one in its middle, told as proposed. */
export function daylightModel(
  project: Project,
  geometry: Geometry,
  casters: readonly Caster[],
  list: readonly Element[],
  zoneOfSpace: ReadonlyMap<string, number>,
  warnings: Problem[],
): DaylightModel {
  const sky = skyDirections(project.site);
  const sensors: DaylightSensor[] = [];
  const controls: LightingControl[] = [];
  const opaque = casters.filter(opaqueCaster).map((c) => c.corners);
  const groups = dimGroups(casters);
  for (const space of Object.keys(project.spaces).sort()) {
    const g = geometry.spaces.get(space);
    if (!g) continue;
    const read = (f: SpaceField) => effective(project, "space", space, f).value;
    const kind = read("lightingControl") as string;
    const own = Object.entries(project.sensors).filter(([, s]) => s.space === space);
    if (kind === "none" && own.length === 0) continue;
    const zone = zoneOfSpace.get(space) as number;
    const points: { id: string; name: string; place: Vector; share: number; proposed: boolean }[] = own.map(([id, s]) => ({
      id,
      name: s.name,
      place: [s.x, s.y, g.low + s.height],
      share: s.share,
      proposed: false,
    }));
    if (points.length === 0) {
      const [x, y] = centroid(g.outline);
      const share = read("lightingControlledShare") as number;
      points.push({
        id: `${space}_middle`,
        name: `${project.spaces[space].name}, middle`,
        place: [x, y, g.low + Math.min(DESK, (g.high - g.low) / 2)],
        share,
        proposed: true,
      });
    }
    const total = points.reduce((s, p) => s + p.share, 0);
    if (total > 1 + 1e-9)
      warnings.push({
        code: "sensor-share",
        severity: "warning",
        stage: "use",
        path: `spaces/${space}`,
        message: `The sensors of ${project.spaces[space].name} control ${Math.round(100 * total)} % of its lighting; they are scaled to all of it.`,
      });
    const scale = total > 1 ? 1 / total : 1;
    const reflections = innerReflection(list, space);
    const first = sensors.length;
    for (const p of points) {
      const windows: WindowLight[] = [];
      let factor = 0;
      list.forEach((e, element) => {
        if (e.kind !== 1 || !e.glass || !e.opening || e.face.space !== space) return;
        const corners = paneCorners(e.opening.corners, e.face.normal);
        const glass = e.glass.up;
        // light passes the glass: of panes the frame is an element of its own
        const share = 1 - project.glazings[e.glazing as string].frameShare;
        const past = (all: readonly (readonly Vector[])[]): DirectLight => {
          const inFront = castersInFront({ pieces: [corners], normal: e.face.normal }, all);
          const key = sky.key + hashText(canonicalJson([p.place, corners, e.face.normal, share, [...glass.visible], inFront]));
          let light = lights.get(key);
          if (!light) {
            light = windowLight(p.place, corners, e.face.normal, share, glass.visible, inFront, sky);
            if (lights.size > 2000) lights.clear();
            lights.set(key, light);
          }
          return light;
        };
        const light = past(opaque);
        let before = light;
        let taken = opaque;
        groups.forEach((g, dimmer) => {
          taken = [...taken, ...g.corners];
          const after = past(taken);
          if (after === before) return;
          windows.push({ element, ...lightBetween(before, after), reflected: 0, dimmer });
          before = after;
        });
        // integrating sphere: E = Φ·ρ/(A·(1 − ρ)) (Hopkinson, Longmore and Petherbridge 1954, split flux)
        const reflected = (glass.diffuseVisible * share * e.opening.area * reflections.mean) / (reflections.area * (1 - reflections.mean));
        windows.push({ element, patches: light.patches, weights: light.weights, sun: light.sun, reflected, dimmer: -1 });
        factor += 100 * (light.overcast + reflected * (e.face.normal[2] > 0.7 ? 1 : OVERCAST_WALL));
      });
      sensors.push({ id: p.id, name: p.name, space, zone, proposed: p.proposed, place: p.place, windows, factor });
    }
    if (kind === "none") continue;
    controls.push({
      zone,
      space,
      stepped: kind === "stepped",
      target: read("illuminance") as number,
      least: read("lightingLeast") as number,
      steps: read("lightingSteps") as number,
      sensors: points.map((p, i) => ({ sensor: first + i, share: p.share * scale })),
    });
  }
  return { sensors, controls, sky: skyPatches(sky.patches) };
}

/** Corners of a four-sided opening; of another shape those of the rectangle of the same area about its middle. */
function paneCorners(corners: readonly Vector[], normal: Vector): readonly Vector[] {
  if (corners.length === 4) return corners;
  const { ux, v, local } = planeAxes(corners[0], normal);
  const flat = corners.map((p) => local(p));
  const [u0, u1] = [Math.min(...flat.map((p) => p[0])), Math.max(...flat.map((p) => p[0]))];
  const [v0, v1] = [Math.min(...flat.map((p) => p[1])), Math.max(...flat.map((p) => p[1]))];
  let area = 0;
  flat.forEach((p, i) => {
    const q = flat[(i + 1) % flat.length];
    area += (p[0] * q[1] - q[0] * p[1]) / 2;
  });
  const k = Math.sqrt(Math.abs(area) / ((u1 - u0) * (v1 - v0))) / 2;
  const at = (a: number, b: number): Vector => {
    const x = (u0 + u1) / 2 + a * k * (u1 - u0);
    const y = (v0 + v1) / 2 + b * k * (v1 - v0);
    return [corners[0][0] + ux[0] * x + v[0] * y, corners[0][1] + ux[1] * x + v[1] * y, corners[0][2] + ux[2] * x + v[2] * y];
  };
  return [at(-1, -1), at(1, -1), at(1, 1), at(-1, 1)];
}

/** Inside surfaces of a space and their mean reflectance for light. */
function innerReflection(list: readonly Element[], space: string): { area: number; mean: number } {
  let area = 0;
  let sum = 0;
  for (const e of list) {
    const own = e.face.space === space;
    if (!own && e.face.partnerSpace !== space) continue;
    const up = own ? e.face.normal[2] : -e.face.normal[2];
    const r = e.kind === 1 ? REFLECTANCE.glass : up > 0.5 ? REFLECTANCE.ceiling : up < -0.5 ? REFLECTANCE.floor : REFLECTANCE.wall;
    area += e.area;
    sum += e.area * r;
  }
  return { area: Math.max(area, 1e-9), mean: area > 0 ? sum / area : 0 };
}

/** Light through one window onto an upward point: by sky patch, and of the sun over its grid; `overcast` is its part of the daylight factor. */
function windowLight(
  place: Vector,
  corners: readonly Vector[],
  normal: Vector,
  share: number,
  visible: Float64Array,
  casters: readonly (readonly Vector[])[],
  sky: ReturnType<typeof skyDirections>,
): DirectLight {
  const patches = new Float64Array(PATCHES);
  const along = minus(corners[1], corners[0]);
  const up = minus(corners[3], corners[0]);
  const width = Math.sqrt(dot(along, along));
  const height = Math.sqrt(dot(up, up));
  const nu = Math.max(2, Math.min(MOST_CELLS, Math.ceil(width / CELL)));
  const nv = Math.max(2, Math.min(MOST_CELLS, Math.ceil(height / CELL)));
  const cell = (width * height) / (nu * nv);
  for (let i = 0; i < nu; i++)
    for (let j = 0; j < nv; j++) {
      const a = (i + 0.5) / nu;
      const b = (j + 0.5) / nv;
      const at: Vector = [corners[0][0] + a * along[0] + b * up[0], corners[0][1] + a * along[1] + b * up[1], corners[0][2] + a * along[2] + b * up[2]];
      const r = minus(at, place);
      const distance = Math.sqrt(dot(r, r));
      const d: Vector = [r[0] / distance, r[1] / distance, r[2] / distance];
      const through = dot(d, normal);
      if (through <= 0 || d[2] <= 0) continue;
      const weight = share * readAngle(visible, Math.min(1, through)) * d[2] * ((cell * through) / (distance * distance));
      const blocked = casters.some((c) => rayStrikes(at, d, c));
      let best = 0;
      for (let p = 1; p < PATCHES; p++) if (dot(sky.patches[p], d) > dot(sky.patches[best], d)) best = p;
      patches[best] += blocked ? BLOCKED * weight : weight;
    }
  const sun = new Float64Array(sky.suns.length);
  sky.up.forEach((g, k) => {
    const s = sky.raised[k];
    const c = dot(s, normal);
    if (c <= 1e-6 || !rayStrikes(place, s, corners) || casters.some((q) => rayStrikes(place, s, q))) return;
    sun[g] = share * readAngle(visible, Math.min(1, c)) * s[2];
  });
  // share of a horizontal illuminance of 1 lx under the overcast sky
  let norm = 0;
  let overcast = 0;
  for (let p = 0; p < PATCHES; p++) {
    const l = overcastSky(sky.patches[p][2]);
    norm += l * sky.patches[p][2] * ((2 * PI) / PATCHES);
    overcast += l * patches[p];
  }
  const seen = Int32Array.from([...patches.keys()].filter((p) => patches[p] !== 0));
  return { patches: seen, weights: Float64Array.from(seen, (p) => patches[p]), sun, overcast: overcast / norm };
}

/** What one light has more than another, dimmer one through the same window. */
function lightBetween(before: DirectLight, after: DirectLight): Pick<DirectLight, "patches" | "weights" | "sun"> {
  const left = new Float64Array(PATCHES);
  after.patches.forEach((p, i) => (left[p] = after.weights[i]));
  return { patches: before.patches, weights: before.weights.map((w, i) => w - left[before.patches[i]]), sun: before.sun.map((v, g) => v - after.sun[g]) };
}

/** Share of a control's lighting power left, from the daylight at its sensors, lx. */
export function lightingLeft(c: LightingControl, illuminance: Float64Array): number {
  let left = 1;
  for (let i = 0; i < c.sensors.length; i++) {
    const { sensor, share } = c.sensors[i];
    const short = Math.max(0, Math.min(1, 1 - illuminance[sensor] / c.target));
    const power = c.stepped ? Math.ceil(short * c.steps - 1e-9) / c.steps : c.least + (1 - c.least) * short;
    left -= share * (1 - power);
  }
  return left;
}
