import { deriveFaces, deriveOpenings, differenceOf, freeId, type PlanEdit } from "../geometry/index.ts";
import { quantity, setChange, type AirLink, type AirNetworkInput, type Opening, type Project, type Space } from "../model/index.ts";
import { openingKey } from "./places.ts";
import { proposeNetwork } from "./propose.ts";

/** Rooms taller than this are not well mixed over their height, m. */
export const TALL_ROOM = 6;
/** Layers are at least this high, m. */
const LEAST_LAYER = 1;
const MOST_LAYERS = 6;

type Prism = Extract<Space["form"], { kind: "prism" }>;
const round = (v: number): number => Math.round(v * 1e4) / 1e4;

/** What stands on the floor of a room stays in its lowest layer: the layers above have no people, devices, lights and thermostat of their own. */
const ABOVE: Space["inputs"] = {
  peopleDensity: 0,
  lightingPower: 0,
  appliancePower: 0,
  outdoorAirPerPerson: 0,
  outdoorAirPerArea: 0,
  hotWaterPerPerson: 0,
  heatingSetpoint: null,
  heatingSetback: null,
  coolingSetpoint: null,
  coolingSetback: null,
};

/**
 * Cuts a tall space into layers of equal height, each a zone of its own with the whole floor between them open in the airflow network, which is made where
 * there is none. Openings go to the layer they lie in; one that lies in two is parted. What stands on the floor stays in the lowest layer.
 */
export function stackSpace(project: Project, id: string, layers: number): PlanEdit {
  const no = (message: string): PlanEdit => ({ ok: false, message });
  const space = Object.hasOwn(project.spaces, id) ? project.spaces[id] : null;
  if (space?.form.kind !== "prism") return no("Only a space with an outline can be cut into layers.");
  if (space.zone === null) return no(`${space.name} belongs to no zone.`);
  const form: Prism = space.form;
  const storey = project.storeys[space.storey];
  const base = form.base ?? 0;
  const height = form.height ?? storey.height - base;
  if (!(layers >= 2 && layers <= MOST_LAYERS && Number.isInteger(layers))) return no(`A space is cut into 2 to ${MOST_LAYERS} layers.`);
  const each = height / layers;
  if (each < LEAST_LAYER) return no(`Layers of ${quantity(each, "m", 2)} are thinner than ${quantity(LEAST_LAYER, "m", 0)}; take fewer.`);
  const ids = [id];
  const spaces: Record<string, Space> = { ...project.spaces };
  const zones: Project["zones"] = { ...project.zones };
  const { roof, height: _h, base: _b, ...rest } = form;
  for (let k = 0; k < layers; k++) {
    const top = k === layers - 1;
    const piece: Prism = {
      ...rest,
      ...(base + k * each > 0 ? { base: round(base + k * each) } : {}),
      height: round(each),
      ...(top && roof !== undefined ? { roof } : {}),
    };
    if (k === 0) {
      spaces[id] = { ...space, form: piece };
      continue;
    }
    const own = freeId(spaces, `${id}_${k + 1}`);
    const name = `${space.name}, layer ${k + 1}`.slice(0, 200);
    ids.push(own);
    const zone = freeId(zones, own);
    zones[zone] = { name, services: project.zones[space.zone].services, inputs: {} };
    spaces[own] = { ...space, name, zone, form: piece, inputs: { ...space.inputs, ...ABOVE } };
  }
  const layerOf = (z: number): number => Math.max(0, Math.min(layers - 1, Math.floor(z / each + 1e-9)));
  const openings: Record<string, Opening> = {};
  for (const [key, o] of Object.entries(project.openings)) {
    const host = "host" in o && o.host ? o.host : "";
    const [of, part] = host.split("/");
    if (of !== id) {
      openings[key] = o;
      continue;
    }
    if (o.kind === "placed") {
      // a part for each layer it lies in
      let first = true;
      for (let k = layerOf(o.sill); k <= layerOf(o.sill + o.height - 1e-6); k++) {
        const [low, high] = [Math.max(o.sill, k * each), Math.min(o.sill + o.height, (k + 1) * each)];
        if (high - low < 0.02) continue;
        const own = first ? key : freeId({ ...project.openings, ...openings }, `${key}_${k + 1}`);
        openings[own] = {
          ...o,
          ...(first ? {} : { name: `${o.name}, layer ${k + 1}`.slice(0, 200) }),
          host: `${ids[k]}/${part}`,
          sill: round(low - k * each),
          height: round(high - low),
        };
        first = false;
      }
    } else if (o.kind === "skylight") openings[key] = { ...o, host: `${ids[layers - 1]}/${part}` };
    else if (o.kind === "outline") {
      const floor = storey.elevation + base;
      const middle = o.ring.reduce((s, c) => s + c[2] / o.ring.length, 0) - floor;
      openings[key] = { ...o, host: `${ids[part === form.ceiling ? layers - 1 : layerOf(middle)]}/${part}` };
    } else openings[key] = o;
  }
  const faceOverrides: Project["faceOverrides"] = {};
  for (const [key, o] of Object.entries(project.faceOverrides)) {
    const [of, part] = o.host.split("/");
    if (of !== id || part === form.floor) faceOverrides[key] = o;
    else if (part === form.ceiling) faceOverrides[key] = { ...o, host: `${ids[layers - 1]}/${part}` };
    else
      ids.forEach((piece, k) => {
        faceOverrides[k === 0 ? key : freeId({ ...project.faceOverrides, ...faceOverrides }, `${key}_${k + 1}`)] = { ...o, host: `${piece}/${part}` };
      });
  }
  const after: Project = { ...project, spaces, zones, openings, faceOverrides };
  const geometry = deriveFaces(after);
  const placed = deriveOpenings(after, geometry);
  const shape = { geometry, openings: placed.openings, inner: placed.inner };
  const before = project.airNetwork;
  const network: AirNetworkInput = before ? rekeyed(before, shape) : proposeNetwork(after, shape);
  const links: Record<string, AirLink> = { ...network.links };
  for (let k = 0; k + 1 < layers; k++) {
    const host = `${ids[k]}/${form.ceiling}`;
    const area = geometry.faces.filter((f) => f.host === host && f.contact === "space" && f.partnerSpace === ids[k + 1]).reduce((s, f) => s + f.area, 0);
    if (area <= 0) return no(`The layers of ${space.name} do not meet; it may be under a roof that cuts into them.`);
    links[freeId(links, `${ids[k]}_open`)] = { kind: "floor opening", name: `${space.name}, between layers ${k + 1} and ${k + 2}`.slice(0, 200), host, area };
  }
  const known = new Set(network.zones);
  const added = ids.slice(1).flatMap((s) => spaces[s].zone ?? []);
  const value: AirNetworkInput = { ...network, zones: [...network.zones, ...added.filter((z) => !known.has(z))], links };
  return {
    ok: true,
    name: `Cut ${space.name} into ${layers} layers`.slice(0, 200),
    changes: [...differenceOf(project, after), setChange(project, ["airNetwork"], value)],
    select: ids,
  };
}

/** Links of openings whose faces have other keys now, found by their records. */
function rekeyed(
  input: AirNetworkInput,
  shape: { openings: readonly { face: string; record: string }[]; inner: readonly { face: string; record: string }[] },
): AirNetworkInput {
  const now = new Map<string, string[]>();
  for (const o of [...shape.openings, ...shape.inner]) now.set(o.record, [...new Set([...(now.get(o.record) ?? []), openingKey(o)])]);
  const links = Object.fromEntries(
    Object.entries(input.links).map(([id, l]): [string, AirLink] => {
      if (l.kind !== "opening") return [id, l];
      const record = l.opening.slice(l.opening.lastIndexOf("|") + 1);
      const keys = now.get(record) ?? [];
      return [id, keys.length === 0 || keys.includes(l.opening) ? l : { ...l, opening: keys[0] }];
    }),
  );
  return { ...input, links };
}
