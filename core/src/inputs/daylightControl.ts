import { areaOf, centroid, deriveFaces, deriveOpenings, difference, intersection, union, type Polygon } from "../geometry/index.ts";
import { setChange, signedArea, type Change, type Project, type Ring } from "../model/index.ts";
import { spaceUses } from "./gains.ts";
import { effective } from "./resolve.ts";

/** Daylight reaches this far past each side of a window, m. */
const ASIDE = 0.6;
/** And this share of the ceiling's height past each edge of a skylight. */
const UNDER_ROOF = 0.7;
/** Lighting in an area that daylight reaches above which it needs control, W. */
export const CONTROL_ABOVE = 150;
/** Height of a proposed sensor point, m. */
const DESK = 0.8;

/** Floor that daylight reaches in a space, m². */
export interface DaylitArea {
  readonly space: string;
  readonly floor: number;
  /** Beside windows: as deep as their heads are high, and as far again beyond. */
  readonly primary: number;
  readonly secondary: number;
  /** Under skylights, what does not lie beside windows. */
  readonly top: number;
  /** Installed lighting in the primary and in the top-lit area, W. */
  readonly primaryPower: number;
  readonly topPower: number;
  /** Whether either is more than what needs control. */
  readonly needsControl: boolean;
  readonly controlled: boolean;
  /** Outlines of the three areas, plan m, with holes. */
  readonly outlines: { readonly primary: readonly Polygon[]; readonly secondary: readonly Polygon[]; readonly top: readonly Polygon[] };
  /** Middle of the largest part of the area to be controlled, plan m; null: daylight reaches nothing. */
  readonly sensor: readonly [number, number] | null;
}

/**
 * Where daylight reaches the floor of every space by its windows and skylights (after the definitions of sidelighted and
 * toplighted areas in ASHRAE 90.1-2019, 3.2), and where its lighting is to be controlled by it (9.4.1.1: more than 150 W).
 * @param over lighting, W, in one of the areas above which it needs control
 * Walls within a space's outline are not looked for; what lies outside of the outline is cut off.
 */
export function daylitAreas(project: Project, over = CONTROL_ABOVE): DaylitArea[] {
  const geometry = deriveFaces(project);
  const near = new Map<string, { primary: Polygon[]; deep: Polygon[]; top: Polygon[] }>();
  for (const o of deriveOpenings(project, geometry).openings) {
    const face = geometry.byKey.get(o.face);
    const space = face && geometry.spaces.get(face.space);
    if (!face || !space || o.use !== "window") continue;
    let of = near.get(face.space);
    if (!of) near.set(face.space, (of = { primary: [], deep: [], top: [] }));
    if (face.wall) {
      const { start, direction } = face.wall;
      const head = o.high - space.low;
      const strip = (depth: number): Polygon => {
        const at = (along: number, inward: number): readonly [number, number] => [
          start[0] + along * direction[0] - inward * face.normal[0],
          start[1] + along * direction[1] - inward * face.normal[1],
        ];
        return [counterClockwise([at(o.from - ASIDE, 0), at(o.to + ASIDE, 0), at(o.to + ASIDE, depth), at(o.from - ASIDE, depth)])];
      };
      if (head <= 0) continue;
      of.primary.push(strip(head));
      of.deep.push(strip(2 * head));
    } else {
      const reach = UNDER_ROOF * (space.high - space.low);
      const [xs, ys] = [0, 1].map((k) => o.corners.map((c) => c[k]));
      const [left, right, low, high] = [Math.min(...xs) - reach, Math.max(...xs) + reach, Math.min(...ys) - reach, Math.max(...ys) + reach];
      of.top.push([
        [
          [left, low],
          [right, low],
          [right, high],
          [left, high],
        ],
      ]);
    }
  }
  const uses = spaceUses(project);
  return Object.keys(project.spaces).flatMap((id): DaylitArea[] => {
    const shape = geometry.spaces.get(id);
    const use = uses.get(id);
    if (!shape || !use || shape.floorArea <= 0) return [];
    const of = near.get(id) ?? { primary: [], deep: [], top: [] };
    const inside = (polygons: readonly Polygon[]): Polygon[] => (polygons.length === 0 ? [] : intersection(union(polygons), [[shape.outline]]));
    const primary = inside(of.primary);
    const secondary = difference(inside(of.deep), primary);
    const top = difference(inside(of.top), primary);
    const density = use.lighting / shape.floorArea;
    const [primaryPower, topPower] = [density * areaOf(primary), density * areaOf(top)];
    const parts = [...primary, ...top].sort((a, b) => areaOf([b]) - areaOf([a]));
    return [
      {
        space: id,
        floor: shape.floorArea,
        primary: areaOf(primary),
        secondary: areaOf(secondary),
        top: areaOf(top),
        primaryPower,
        topPower,
        needsControl: Math.max(primaryPower, topPower) > over,
        controlled: effective(project, "space", id, "lightingControl").value !== "none",
        outlines: { primary, secondary, top },
        sensor: parts.length > 0 ? centroid(parts[0][0]) : null,
      },
    ];
  });
}

const counterClockwise = (ring: Ring): Ring => (signedArea(ring) < 0 ? [...ring].reverse() : ring);

/** Changes that give every space that needs it control of its lighting by daylight. @param over as of {@link daylitAreas} */
export const daylightControlChanges = (project: Project, over = CONTROL_ABOVE): Change[] =>
  controlChanges(
    project,
    daylitAreas(project, over).filter((a) => a.needsControl),
  );

/** The same for spaces that are named, whether they need it or not. */
export const daylightControlChangesOf = (project: Project, spaces: readonly string[]): Change[] =>
  controlChanges(
    project,
    daylitAreas(project).filter((a) => spaces.includes(a.space)),
  );

/** Lighting dimmed by daylight, its share that of the area reached, a sensor point in its middle. */
function controlChanges(project: Project, areas: readonly DaylitArea[]): Change[] {
  return areas.flatMap((a): Change[] => {
    if (a.controlled || a.sensor === null) return [];
    const share = Math.min(1, Number(((a.primary + a.top) / a.floor).toFixed(3)));
    const inputs = ["spaces", a.space, "inputs"];
    const [x, y] = a.sensor.map((v) => Number(v.toFixed(2)));
    const key = `${a.space.slice(0, 50)}_daylit`;
    const has = Object.values(project.sensors).some((s) => s.space === a.space);
    return [
      setChange(project, [...inputs, "lightingControl"], "dimmed"),
      setChange(project, [...inputs, "lightingControlledShare"], share),
      ...(has || Object.hasOwn(project.sensors, key)
        ? []
        : [
            {
              op: "insert",
              path: ["sensors", key],
              value: { name: `${project.spaces[a.space].name}, daylit`, space: a.space, x, y, height: DESK, share },
            } as Change,
          ]),
    ];
  });
}
