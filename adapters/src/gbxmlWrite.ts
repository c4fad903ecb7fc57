import { areaVector, type BuildingRecords, type SurfaceRecord, type Vector } from "@arroyo/core";
import { escapeXml } from "./xml.ts";

/** Writes neutral records as gbXML (open schema, 6.01) in SI units. */
export function writeGbxml(r: BuildingRecords): string {
  const out: string[] = ['<?xml version="1.0" encoding="UTF-8"?>'];
  const number = (v: number): string => String(Math.round(v * 1e6) / 1e6 + 0);
  const ids = new Map<string, string>();
  const taken = new Set<string>();
  /** Ids of the schema begin with a letter and hold no spaces; one for each kind and thing. */
  const id = (kind: string, own: string): string => {
    const key = `${kind} ${own}`;
    const known = ids.get(key);
    if (known) return known;
    const base = own.replace(/[^A-Za-z0-9_.-]/g, "_").replace(/^[^A-Za-z_]/, "_$&");
    let made = taken.has(base) ? `${kind}-${base}` : base;
    for (let n = 2; taken.has(made); n++) made = `${kind}-${base}-${n}`;
    taken.add(made);
    ids.set(key, made);
    return made;
  };
  const open = (name: string, attributes: Readonly<Record<string, string | null>> = {}, close = false): void => {
    const a = Object.entries(attributes)
      .filter(([, v]) => v !== null)
      .map(([k, v]) => ` ${k}="${escapeXml(v as string)}"`)
      .join("");
    out.push(`<${name}${a}${close ? "/" : ""}>`);
  };
  const leaf = (name: string, text: string, attributes: Readonly<Record<string, string>> = {}): void => {
    const a = Object.entries(attributes)
      .map(([k, v]) => ` ${k}="${escapeXml(v)}"`)
      .join("");
    out.push(`<${name}${a}>${escapeXml(text)}</${name}>`);
  };
  const end = (name: string): void => void out.push(`</${name}>`);
  const loop = (ring: readonly Vector[]): void => {
    open("PolyLoop");
    for (const p of ring) {
      open("CartesianPoint");
      for (const c of p) leaf("Coordinate", number(c));
      end("CartesianPoint");
    }
    end("PolyLoop");
  };
  const planar = (ring: readonly Vector[]): void => {
    open("PlanarGeometry");
    loop(ring);
    end("PlanarGeometry");
  };
  open("gbXML", {
    xmlns: "http://www.gbxml.org/schema",
    version: "6.01",
    temperatureUnit: "C",
    lengthUnit: "Meters",
    areaUnit: "SquareMeters",
    volumeUnit: "CubicMeters",
    useSIUnitsForResults: "true",
  });
  open("Campus", { id: id("campus", "campus") });
  open("Location");
  if (r.site.name) leaf("Name", r.site.name);
  if (r.site.latitude !== null) leaf("Latitude", number(r.site.latitude));
  if (r.site.longitude !== null) leaf("Longitude", number(r.site.longitude));
  if (r.site.elevation !== null) leaf("Elevation", number(r.site.elevation));
  if (r.site.north !== null) leaf("CADModelAzimuth", number(r.site.north));
  end("Location");
  open("Building", { id: id("building", "building"), buildingType: "Unknown" });
  leaf("Name", r.name);
  leaf("Area", number(r.spaces.reduce((s, x) => s + (x.area ?? 0), 0)));
  for (const s of r.storeys) {
    open("BuildingStorey", { id: id("storey", s.id) });
    leaf("Name", s.name);
    leaf("Level", number(s.level));
    end("BuildingStorey");
  }
  for (const s of r.spaces) {
    open("Space", {
      id: id("space", s.id),
      spaceType: s.use,
      buildingStoreyIdRef: s.storey === null ? null : id("storey", s.storey),
      zoneIdRef: s.zone === null ? null : id("zone", s.zone),
      peopleScheduleIdRef: s.schedules.people === null ? null : id("schedule", s.schedules.people),
      lightScheduleIdRef: s.schedules.lighting === null ? null : id("schedule", s.schedules.lighting),
      equipmentScheduleIdRef: s.schedules.appliances === null ? null : id("schedule", s.schedules.appliances),
    });
    leaf("Name", s.name);
    if (s.people !== null) leaf("PeopleNumber", number(s.people), { unit: "NumberOfPeople" });
    if (s.lighting !== null) leaf("LightPowerPerArea", number(s.lighting), { unit: "WattPerSquareMeter" });
    if (s.appliances !== null) leaf("EquipPowerPerArea", number(s.appliances), { unit: "WattPerSquareMeter" });
    if (s.area !== null) leaf("Area", number(s.area));
    if (s.volume !== null) leaf("Volume", number(s.volume));
    const shell = r.surfaces.filter((f) => f.adjacent.includes(s.id));
    open("ShellGeometry", { id: id("shell", `shell-${s.id}`), unit: "Meters" });
    open("ClosedShell");
    for (const f of shell) loop(f.adjacent[0] === s.id ? f.ring : [...f.ring].reverse());
    end("ClosedShell");
    end("ShellGeometry");
    end("Space");
  }
  end("Building");
  for (const s of r.surfaces) {
    open("Surface", {
      id: id("surface", s.id),
      surfaceType: surfaceType(s),
      constructionIdRef: s.construction === null ? null : id("construction", s.construction),
      exposedToSun: String(s.adjacent.length < 2 && !s.underground),
    });
    for (const a of s.adjacent) open("AdjacentSpaceId", { spaceIdRef: id("space", a) }, true);
    const { azimuth, tilt } = facing(s.ring, r.site.north ?? 0);
    open("RectangularGeometry");
    leaf("Azimuth", number(azimuth));
    open("CartesianPoint");
    for (const c of s.ring[0]) leaf("Coordinate", number(c));
    end("CartesianPoint");
    leaf("Tilt", number(tilt));
    end("RectangularGeometry");
    planar(s.ring);
    for (const o of s.openings) {
      const ref = o.construction;
      open("Opening", {
        id: id("opening", o.id),
        openingType:
          o.use === "door"
            ? "NonSlidingDoor"
            : o.use === "opening"
              ? "Air"
              : `${o.operable ? "Operable" : "Fixed"}${s.kind === "roof" ? "Skylight" : "Window"}`,
        windowTypeIdRef: o.use === "window" && ref !== null ? id("construction", ref) : null,
        constructionIdRef: o.use === "door" && ref !== null ? id("construction", ref) : null,
      });
      leaf("Name", o.name);
      planar(o.ring);
      end("Opening");
    }
    leaf("Name", s.name);
    end("Surface");
  }
  end("Campus");
  for (const c of r.constructions) {
    open("Construction", { id: id("construction", c.id) });
    if (c.u !== null) leaf("U-value", number(c.u), { unit: "WPerSquareMeterK" });
    c.materials.forEach((m, i) => open("LayerId", { layerIdRef: id("layer", `layer-${c.id}-${i}-${m}`) }, true));
    leaf("Name", c.name);
    end("Construction");
  }
  for (const c of r.constructions)
    c.materials.forEach((m, i) => {
      open("Layer", { id: id("layer", `layer-${c.id}-${i}-${m}`) });
      open("MaterialId", { materialIdRef: id("material", m) }, true);
      end("Layer");
    });
  for (const m of r.materials) {
    open("Material", { id: id("material", m.id) });
    leaf("Name", m.name);
    if (m.resistance !== null) leaf("R-value", number(m.resistance), { unit: "SquareMeterKPerW" });
    if (m.thickness !== null) leaf("Thickness", number(m.thickness), { unit: "Meters" });
    if (m.conductivity !== null) leaf("Conductivity", number(m.conductivity), { unit: "WPerMeterK" });
    if (m.density !== null) leaf("Density", number(m.density), { unit: "KgPerCubicM" });
    if (m.specificHeat !== null) leaf("SpecificHeat", number(m.specificHeat), { unit: "JPerKgK" });
    end("Material");
  }
  for (const w of r.windowTypes) {
    open("WindowType", { id: id("construction", w.id) });
    leaf("Name", w.name);
    if (w.u !== null) leaf("U-value", number(w.u), { unit: "WPerSquareMeterK" });
    if (w.g !== null) leaf("SolarHeatGainCoeff", number(w.g), { unit: "Fraction" });
    if (w.visible !== null) leaf("Transmittance", number(w.visible), { unit: "Fraction", type: "Visible" });
    end("WindowType");
  }
  for (const s of r.schedules) {
    open("Schedule", { id: id("schedule", s.id), type: s.temperature ? "Temp" : "Fraction" });
    leaf("Name", s.name);
    s.weeks.forEach((w, i) => {
      open("YearSchedule", { id: id("year", `${s.id}-year-${i + 1}`) });
      leaf("BeginDate", date(w.from));
      leaf("EndDate", date(w.to));
      open("WeekScheduleId", { weekScheduleIdRef: id("week", `${s.id}-week-${i + 1}`) }, true);
      end("YearSchedule");
    });
    end("Schedule");
  }
  for (const s of r.schedules)
    s.weeks.forEach((w, i) => {
      open("WeekSchedule", { id: id("week", `${s.id}-week-${i + 1}`), type: s.temperature ? "Temp" : "Fraction" });
      DAYS.forEach((d, k) => open("Day", { dayType: d, dayScheduleIdRef: id("day", w.days[k]) }, true));
      end("WeekSchedule");
    });
  for (const s of r.schedules)
    for (const p of s.profiles) {
      open("DaySchedule", { id: id("day", p.id), type: s.temperature ? "Temp" : "Fraction" });
      leaf("Name", p.name);
      for (const v of p.values) leaf("ScheduleValue", number(v));
      end("DaySchedule");
    }
  for (const z of r.zones) {
    open("Zone", { id: id("zone", z.id) });
    leaf("Name", z.name);
    if (z.heating !== null) leaf("DesignHeatT", number(z.heating), { unit: "C" });
    if (z.cooling !== null) leaf("DesignCoolT", number(z.cooling), { unit: "C" });
    end("Zone");
  }
  end("gbXML");
  return `${out.join("\n")}\n`;
}

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday", "Holiday"];
const date = ([m, d]: readonly [number, number]): string => `2025-${String(m).padStart(2, "0")}-${String(d).padStart(2, "0")}`;

function surfaceType(s: SurfaceRecord): string {
  if (s.kind === "shade") return "Shade";
  if (s.kind === "air") return "Air";
  const inner = s.adjacent.length > 1;
  if (s.kind === "wall") return inner ? "InteriorWall" : s.underground ? "UndergroundWall" : "ExteriorWall";
  if (inner) return "Ceiling";
  if (s.kind === "roof") return "Roof";
  return s.underground ? "SlabOnGrade" : "ExposedFloor";
}

/** True azimuth and tilt of a ring's outward normal, degrees. */
function facing(ring: readonly Vector[], north: number): { azimuth: number; tilt: number } {
  const [x, y, z] = areaVector(ring);
  const l = Math.hypot(x, y, z) || 1;
  const azimuth = Math.hypot(x, y) / l < 1e-9 ? 0 : ((((Math.atan2(x, y) * 180) / Math.PI + north) % 360) + 360) % 360;
  return { azimuth, tilt: (Math.acos(Math.max(-1, Math.min(1, z / l))) * 180) / Math.PI };
}
