import type { Vector } from "../geometry/index.ts";
import type { AirNetworkInput, Project } from "../model/index.ts";
import { middleOf, openingKey, type AirShape } from "./places.ts";

/** A window, door or way through without a link. */
export interface Unconnected {
  /** @see openingKey */
  readonly key: string;
  readonly name: string;
  /** Its name with that of its spaces. */
  readonly label: string;
  readonly at: Vector;
  readonly record: string;
  readonly use: "window" | "door" | "opening";
  readonly inside: boolean;
}

/** Windows, doors and ways through that no link of the network has, though their zones take part. */
export function unconnected(project: Project, input: Pick<AirNetworkInput, "links" | "zones">, { geometry, openings, inner }: AirShape): Unconnected[] {
  const linked = new Set(Object.values(input.links).flatMap((l) => (l.kind === "opening" ? [l.opening] : [])));
  const zones = new Set(input.zones);
  const taking = (space: string): boolean => zones.has(project.spaces[space]?.zone ?? "");
  const out: Unconnected[] = [];
  const told = (
    o: { readonly face: string; readonly record: string; readonly name: string; readonly corners: readonly Vector[] },
    use: Unconnected["use"],
    spaces: readonly string[],
  ): void => {
    const key = openingKey(o);
    if (linked.has(key)) return;
    linked.add(key);
    const names = spaces.map((s) => project.spaces[s].name).join(" and ");
    out.push({
      key,
      name: o.name,
      label: names.length > 2 && o.name.includes(names) ? o.name : `${o.name}, ${names}`,
      at: middleOf(o.corners),
      record: o.record,
      use,
      inside: spaces.length > 1,
    });
  };
  for (const o of openings) {
    const face = geometry.byKey.get(o.face);
    if (face && taking(face.space) && (o.use === "door" || o.operable > 0)) told(o, o.use, [face.space]);
  }
  for (const o of inner) if (o.spaces.every(taking) && project.spaces[o.spaces[0]].zone !== project.spaces[o.spaces[1]].zone) told(o, o.use, o.spaces);
  return out;
}
