import { assemblyU, glazingRating, assemblyLayers, layersResistance } from "../fabric/index.ts";
import { plainOutlines, planeAxes, ringHolds, type Face, type PlacedOpening, type Vector } from "../geometry/index.ts";
import { effective, faceAssembly, openingConstruction, spaceUses } from "../inputs/index.ts";
import { ProjectError, type Point, type Project } from "../model/index.ts";
import { checkProject } from "../simulate/index.ts";
import { signalSpan } from "../use/index.ts";
import type { BuildingRecords, ConstructionRecord, OpeningRecord, SurfaceRecord } from "./records.ts";

/** Whether the middle of an opening lies in one of the parts a face is told in. */
function holdsOpening(f: Face, ring: readonly Vector[], o: OpeningRecord): boolean {
  const { local } = planeAxes(ring[0], f.normal);
  const flat = (p: Vector): Point => {
    const [x, y] = local(p);
    return [x, y];
  };
  const n = o.ring.length;
  const middle = [0, 1, 2].map((k) => o.ring.reduce((s, p) => s + p[k], 0) / n) as unknown as Vector;
  return ringHolds(ring.map(flat), flat(middle));
}

/** Neutral records of a project: every face once, inner ones with both their spaces. @throws ProjectError when the form is broken */
export function exportBuilding(project: Project): BuildingRecords {
  const { geometry, openings, inner, shades, problems } = checkProject(project);
  const broken = problems.filter((p) => p.severity === "error" && geometry.faces.length === 0);
  if (broken.length > 0) throw new ProjectError(broken);
  const constructions = new Map<string, ConstructionRecord>();
  const materials = new Map<string, BuildingRecords["materials"][number]>();
  const windowTypes = new Map<string, BuildingRecords["windowTypes"][number]>();
  const construct = (assembly: string): string => {
    const id = `construction-${assembly}`;
    if (constructions.has(id)) return id;
    const a = project.assemblies[assembly];
    const refs = a.layers.flatMap((l): string[] => {
      if (l.kind === "circuit") return [];
      const key = `material-${assembly}-${l.id}`;
      if (l.kind === "resistance") {
        materials.set(key, { id: key, name: l.name, thickness: null, conductivity: null, density: null, specificHeat: null, resistance: l.resistance });
      } else {
        const m = project.materials[l.material];
        materials.set(key, {
          id: key,
          name: m.name,
          thickness: l.thickness,
          conductivity: m.conductivity,
          density: m.density,
          specificHeat: m.specificHeat,
          resistance: l.thickness / m.conductivity,
        });
      }
      return [key];
    });
    constructions.set(id, { id, name: a.name, u: layersResistance(assemblyLayers(project, a)) > 0 ? assemblyU(project, a) : null, materials: refs });
    return id;
  };
  const windowType = (glazing: string): string => {
    const id = `window-${glazing}`;
    if (!windowTypes.has(id)) {
      const g = project.glazings[glazing];
      const r = glazingRating(g);
      // of the whole window: the frame lets no sun through
      windowTypes.set(id, { id, name: g.name, u: r.u, g: r.g * (1 - g.frameShare), visible: r.visibleTransmittance * (1 - g.frameShare) });
    }
    return id;
  };
  const byFace = new Map<string, PlacedOpening[]>();
  for (const o of openings) byFace.set(o.face, [...(byFace.get(o.face) ?? []), o]);
  const surfaces: SurfaceRecord[] = [];
  for (const f of geometry.faces) {
    const partner = f.partner === null ? undefined : geometry.byKey.get(f.partner);
    // inner faces are told once: a floor between storeys by the lower space's ceiling
    if (partner && (f.kind === "wall" ? f.key > partner.key : f.kind === "floor")) continue;
    const id = `surface-${surfaces.length + 1}`;
    const kind = f.kind === "wall" ? "wall" : f.contact === "space" ? "ceiling" : f.kind === "ceiling" ? "roof" : "floor";
    const idOf = (o: { readonly key: string }): string => `opening-${o.key}`.replace(/[^A-Za-z0-9_.-]/g, "-");
    const own = (byFace.get(f.key) ?? []).map((o): OpeningRecord => ({
      id: idOf(o),
      name: o.name,
      use: o.use,
      operable: o.operable > 0,
      ring: o.corners,
      construction: o.use === "window" ? windowType(openingConstruction(project, o, f).id) : construct(openingConstruction(project, o, f).id),
    }));
    for (const o of inner)
      if (o.face === f.key || o.face === partner?.key)
        own.push({
          id: idOf(o),
          name: o.name,
          use: o.use,
          operable: false,
          // seen from the space that is told first
          ring: o.face === f.key ? o.corners : [...o.corners].reverse(),
          construction: null,
        });
    const parts = plainOutlines(f);
    parts.forEach((ring, i) => {
      surfaces.push({
        id: i === 0 ? id : `${id}-${i + 1}`,
        name: `${project.spaces[f.space].name}, ${kind}`,
        kind,
        underground: f.contact === "ground",
        adjacent: partner ? [f.space, partner.space] : [f.space],
        ring,
        construction: construct(faceAssembly(project, f, partner?.host ?? null).id),
        openings: parts.length === 1 ? own : own.filter((o) => holdsOpening(f, ring, o)),
      });
    });
  }
  for (const s of shades)
    surfaces.push({
      id: `shade-${surfaces.length + 1}`,
      name: project.shades[s.record]?.name ?? "Shading",
      kind: "shade",
      underground: false,
      adjacent: [],
      ring: s.corners,
      construction: null,
      openings: [],
    });
  const uses = spaceUses(project);
  const setpoint = (zone: string, field: "heatingSetpoint" | "coolingSetpoint"): number | null => {
    const [member] = Object.entries(project.spaces).find(([, s]) => s.zone === zone) ?? [];
    const v = member === undefined ? null : effective(project, "space", member, field).value;
    return signalSpan(project, v)?.mean ?? null;
  };
  return {
    format: "Arroyo",
    name: project.name,
    site: {
      name: project.site.name,
      latitude: project.site.latitude,
      longitude: project.site.longitude,
      elevation: project.site.elevation,
      north: project.site.planNorth,
    },
    storeys: Object.entries(project.storeys).map(([id, s]) => ({ id, name: s.name, level: s.elevation })),
    zones: Object.entries(project.zones).map(([id, z]) => ({
      id,
      name: z.name,
      heating: setpoint(id, "heatingSetpoint"),
      cooling: setpoint(id, "coolingSetpoint"),
    })),
    spaces: Object.entries(project.spaces).map(([id, s]) => {
      const g = geometry.spaces.get(id);
      const use = uses.get(id);
      const schedule = (f: "peopleSchedule" | "lightingSchedule" | "applianceSchedule"): string | null =>
        effective(project, "space", id, f).value as string | null;
      return {
        id,
        name: s.name,
        storey: s.storey,
        zone: s.zone,
        use: s.spaceType === null ? null : project.spaceTypes[s.spaceType].name,
        area: g?.floorArea ?? null,
        volume: g?.volume ?? null,
        outline: null,
        lighting: perArea(use?.lighting, use?.area),
        appliances: perArea((use?.appliances.power ?? 0) + (use?.standby.power ?? 0), use?.area),
        people: use?.people ?? 0,
        schedules: { people: schedule("peopleSchedule"), lighting: schedule("lightingSchedule"), appliances: schedule("applianceSchedule") },
      };
    }),
    surfaces,
    constructions: [...constructions.values()],
    materials: [...materials.values()],
    windowTypes: [...windowTypes.values()],
    schedules: Object.entries(project.schedules).map(([id, s]) => ({
      id,
      name: s.name,
      temperature: s.kind === "temperature",
      profiles: Object.entries(s.profiles).map(([k, p]) => ({ id: `${id}-${k}`, name: p.name, values: p.values })),
      weeks: s.weeks.map((w) => ({ from: w.from, to: w.to, days: w.days.map((d) => `${id}-${d}`) })),
    })),
    messages: [],
  };
}

const perArea = (power = 0, area = 0): number => (area > 0 ? power / area : 0);
