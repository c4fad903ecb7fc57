import type {
  BuildingRecords,
  ConstructionRecord,
  ImportMessage,
  MaterialRecord,
  OpeningRecord,
  ScheduleRecord,
  SpaceRecord,
  SurfaceRecord,
  Vector,
  WindowTypeRecord,
} from "@arroyo/core";
import {
  areaUnits,
  conductivityUnits,
  densityUnits,
  heatUnits,
  lengthUnits,
  powerUnits,
  resistanceUnits,
  toCelsius,
  transmittanceUnits,
  volumeUnits,
} from "./units.ts";
import { childOf, childrenOf, readXml, textOf, type Element } from "./xml.ts";

export type ReadOutcome = { readonly ok: true; readonly records: BuildingRecords } | { readonly ok: false; readonly message: string };

/** A number, or null where there is none. */
function number(text: string | null | undefined): number | null {
  if (text === null || text === undefined || text.trim() === "") return null;
  const v = Number(text.trim());
  return Number.isFinite(v) ? v : null;
}

/** Reads a gbXML document (open schema, 6.01 and later) into neutral records in SI units. Elements may come in any order. */
export function readGbxml(text: string): ReadOutcome {
  const xml = readXml(text);
  if (!xml.ok) return xml;
  const { root } = xml;
  if (root.name !== "gbXML") return { ok: false, message: `The file's root is "${root.name}"; a gbXML file begins with "gbXML".` };
  const messages: ImportMessage[] = [];
  const tell = (kind: ImportMessage["kind"], affects: boolean, words: string): void => void messages.push({ kind, affects, text: words });
  const unit = (units: Readonly<Record<string, number>>, name: string | undefined, fallback: string, what: string): number => {
    if (name === undefined || name === "") return units[fallback];
    const f = Object.hasOwn(units, name) ? units[name] : undefined;
    if (f === undefined) {
      tell("mended", true, `The unit "${name.slice(0, 60)}" of ${what} is not of the schema; ${fallback} is taken.`);
      return units[fallback];
    }
    return f;
  };
  const metre = unit(lengthUnits, root.attributes.lengthUnit, "Meters", "lengths");
  const square = unit(areaUnits, root.attributes.areaUnit, root.attributes.lengthUnit === "Feet" ? "SquareFeet" : "SquareMeters", "areas");
  const cubic = unit(volumeUnits, root.attributes.volumeUnit, root.attributes.lengthUnit === "Feet" ? "CubicFeet" : "CubicMeters", "volumes");
  const degrees = root.attributes.temperatureUnit ?? "C";
  const campuses = childrenOf(root, "Campus");
  if (campuses.length === 0) return { ok: false, message: "The file has no Campus, so it holds no building." };
  if (campuses.length > 1) tell("left out", true, `The file has ${campuses.length} campuses; the first is read.`);
  const [campus] = campuses;
  const buildings = childrenOf(campus, "Building");
  if (buildings.length === 0) return { ok: false, message: "The file has no Building." };
  const location = childOf(campus, "Location");

  const seen = new Map<string, number>();
  /** An id, told apart where the file uses it twice. */
  const own = (e: Element, kind: string): string => {
    const id = (e.attributes.id ?? "").trim() || `${kind}-without-id`;
    const key = `${kind} ${id}`;
    const n = (seen.get(key) ?? 0) + 1;
    seen.set(key, n);
    if (n === 1) return id;
    tell("mended", false, `The id "${id}" is used by ${n} things of kind ${kind}; the last of them is read as "${id}#${n}".`);
    return `${id}#${n}`;
  };
  const ringOf = (e: Element | undefined, owner: string): Vector[] => {
    const loop = childOf(e, "PolyLoop") ?? e;
    if (!loop) return [];
    return childrenOf(loop, "CartesianPoint").flatMap((p): Vector[] => {
      const c = childrenOf(p, "Coordinate").map((x) => number(x.text));
      if (c.length >= 3 && c[0] !== null && c[1] !== null && c[2] !== null) return [[c[0] * metre, c[1] * metre, c[2] * metre]];
      tell("left out", true, `A corner of "${owner}" has no three coordinates; it is left out.`);
      return [];
    });
  };
  const measured = (e: Element | undefined, name: string, units: Readonly<Record<string, number>>, fallback: string, what: string): number | null => {
    const c = childOf(e, name);
    const v = number(c?.text);
    return c && v !== null ? v * unit(units, c.attributes.unit, fallback, what) : null;
  };

  const storeys = buildings.flatMap((b) =>
    childrenOf(b, "BuildingStorey").map((s) => {
      const id = own(s, "storey");
      const level = number(textOf(s, "Level"));
      if (level === null) tell("mended", false, `Storey "${id}" tells no level; 0 m is taken, its spaces keep their own heights.`);
      return { id, name: textOf(s, "Name") ?? id, level: (level ?? 0) * metre };
    }),
  );
  const spaces = buildings.flatMap((b) =>
    childrenOf(b, "Space").map((s): SpaceRecord => {
      const id = own(s, "space");
      const a = s.attributes;
      const people = childOf(s, "PeopleNumber");
      const count = number(people?.text);
      const area = number(textOf(s, "Area"));
      const size = area === null ? null : area * square;
      let persons: number | null = count;
      if (count !== null && people?.attributes.unit === "SquareMPerPerson") persons = size !== null && count > 0 ? size / count : null;
      if (count !== null && people?.attributes.unit === "SquareFtPerPerson")
        persons = size !== null && count > 0 ? size / (count * areaUnits.SquareFeet) : null;
      const volume = number(textOf(s, "Volume"));
      return {
        id,
        name: textOf(s, "Name") ?? id,
        storey: a.buildingStoreyIdRef ?? null,
        zone: a.zoneIdRef ?? null,
        use: a.spaceType ?? null,
        area: size,
        volume: volume === null ? null : volume * cubic,
        outline: null,
        lighting: measured(s, "LightPowerPerArea", powerUnits, "WattPerSquareMeter", "lighting"),
        appliances: measured(s, "EquipPowerPerArea", powerUnits, "WattPerSquareMeter", "equipment"),
        people: persons,
        schedules: { people: a.peopleScheduleIdRef ?? null, lighting: a.lightScheduleIdRef ?? null, appliances: a.equipmentScheduleIdRef ?? null },
      };
    }),
  );
  const shells = new Map<string, Vector[][]>();
  for (const b of buildings)
    for (const s of childrenOf(b, "Space")) {
      const closed = childOf(childOf(s, "ShellGeometry"), "ClosedShell");
      if (closed && s.attributes.id)
        shells.set(
          s.attributes.id,
          childrenOf(closed, "PolyLoop").map((l) => ringOf(l, s.attributes.id)),
        );
    }
  const surfaces = childrenOf(campus, "Surface").map((s) => surfaceOf(s));
  // a space that no surface names is read from its own shell
  for (const s of spaces) {
    if (surfaces.some((f) => f.adjacent.includes(s.id))) continue;
    const loops = shells.get(s.id);
    if (!loops || loops.length < 4) continue;
    tell("mended", true, `${s.name} is named by no surface; it is read from its own shell of ${loops.length} polygons.`);
    loops.forEach((ring, i) =>
      surfaces.push({ id: `${s.id}-shell-${i + 1}`, name: s.name, kind: "wall", underground: false, adjacent: [s.id], ring, construction: null, openings: [] }),
    );
  }

  function surfaceOf(s: Element): SurfaceRecord {
    const id = own(s, "surface");
    const type = s.attributes.surfaceType ?? "";
    const lower = type.toLowerCase();
    const adjacent = childrenOf(s, "AdjacentSpaceId").flatMap((a) => (a.attributes.spaceIdRef ? [a.attributes.spaceIdRef] : []));
    let kind: SurfaceRecord["kind"] = "wall";
    if (lower === "shade" || lower.endsWith("column")) kind = "shade";
    else if (lower === "air") kind = "air";
    else if (lower === "roof") kind = "roof";
    else if (lower === "ceiling" || lower === "undergroundceiling") kind = "ceiling";
    else if (lower.includes("floor") || lower.includes("slab")) kind = "floor";
    else if (!lower.includes("wall")) tell("mended", false, `Surface "${id}" has the type "${type}", which is not of the schema; it is read by its position.`);
    let ring = ringOf(childOf(s, "PlanarGeometry"), id);
    if (ring.length < 3) {
      const made = rectangle(childOf(s, "RectangularGeometry"));
      if (made) {
        ring = made;
        tell("mended", false, `Surface "${id}" has no polygon; it is read from its rectangle.`);
      }
    }
    return {
      id,
      name: textOf(s, "Name") ?? id,
      kind,
      underground: lower.includes("underground") || lower === "slabongrade",
      adjacent: kind === "shade" ? [] : adjacent.slice(0, 2),
      ring,
      construction: s.attributes.constructionIdRef ?? null,
      openings: childrenOf(s, "Opening").map(openingOf),
    };
  }
  function openingOf(o: Element): OpeningRecord {
    const id = own(o, "opening");
    const type = (o.attributes.openingType ?? "").toLowerCase();
    const door = type.includes("door");
    const ring = ringOf(childOf(o, "PlanarGeometry"), id);
    return {
      id,
      name: textOf(o, "Name") ?? id,
      use: door ? "door" : type === "air" ? "opening" : "window",
      operable: type.startsWith("operable"),
      ring: ring.length >= 3 ? ring : (rectangle(childOf(o, "RectangularGeometry")) ?? ring),
      construction: o.attributes.windowTypeIdRef ?? o.attributes.constructionIdRef ?? null,
    };
  }
  /** Corners of a rectangle given by its lower left corner, azimuth, tilt, width and height. */
  function rectangle(e: Element | undefined): Vector[] | null {
    const point = childOf(e, "CartesianPoint");
    const [width, height, azimuth, tilt] = ["Width", "Height", "Azimuth", "Tilt"].map((k) => number(textOf(e, k)));
    const c = point ? childrenOf(point, "Coordinate").map((x) => number(x.text)) : [];
    if (!e || width === null || height === null || azimuth === null || tilt === null || c.length < 3 || c.some((v) => v === null)) return null;
    const a = (azimuth * Math.PI) / 180;
    const t = (tilt * Math.PI) / 180;
    // outward in plan, to the right seen from outside, and up along the plane
    const right: Vector = [-Math.cos(a), Math.sin(a), 0];
    const up: Vector = [-Math.sin(a) * Math.cos(t), -Math.cos(a) * Math.cos(t), Math.sin(t)];
    const o = c.map((v) => (v as number) * metre);
    const at = (w: number, h: number): Vector => [0, 1, 2].map((k) => o[k] + right[k] * w * metre + up[k] * h * metre) as unknown as Vector;
    return [at(0, 0), at(width, 0), at(width, height), at(0, height)];
  }

  const layers = new Map(
    childrenOf(root, "Layer").map((l) => [
      l.attributes.id ?? "",
      childrenOf(l, "MaterialId").flatMap((m) => (m.attributes.materialIdRef ? [m.attributes.materialIdRef] : [])),
    ]),
  );
  const constructions = childrenOf(root, "Construction").map((c): ConstructionRecord => {
    const id = own(c, "construction");
    const refs = childrenOf(c, "LayerId").flatMap((l) => {
      const ref = l.attributes.layerIdRef ?? "";
      const found = layers.get(ref);
      if (!found) tell("left out", true, `Construction "${id}" names a layer "${ref}" the file does not have.`);
      return found ?? [];
    });
    return { id, name: textOf(c, "Name") ?? id, u: measured(c, "U-value", transmittanceUnits, "WPerSquareMeterK", `the U of "${id}"`), materials: refs };
  });
  const materials = childrenOf(root, "Material").map((m): MaterialRecord => {
    const id = own(m, "material");
    const thickness = measured(m, "Thickness", lengthUnits, "Meters", `the thickness of "${id}"`);
    return {
      id,
      name: textOf(m, "Name") ?? id,
      thickness,
      conductivity: measured(m, "Conductivity", conductivityUnits, "WPerMeterK", `the conductivity of "${id}"`),
      density: measured(m, "Density", densityUnits, "KgPerCubicM", `the density of "${id}"`),
      specificHeat: measured(m, "SpecificHeat", heatUnits, "JPerKgK", `the specific heat of "${id}"`),
      resistance: measured(m, "R-value", resistanceUnits, "SquareMeterKPerW", `the resistance of "${id}"`),
    };
  });
  const windowTypes = childrenOf(root, "WindowType").map((w): WindowTypeRecord => {
    const id = own(w, "window type");
    const visible = childrenOf(w, "Transmittance").find((t) => (t.attributes.type ?? "").toLowerCase() === "visible");
    const percent = (e: Element | undefined): number | null => {
      const v = number(e?.text);
      return v === null ? null : e?.attributes.unit === "Percent" ? v / 100 : v;
    };
    const shgc = childOf(w, "SolarHeatGainCoeff");
    return {
      id,
      name: textOf(w, "Name") ?? id,
      u: measured(w, "U-value", transmittanceUnits, "WPerSquareMeterK", `the U of "${id}"`),
      g: percent(shgc),
      visible: percent(visible),
    };
  });
  const zones = childrenOf(root, "Zone").map((z) => {
    const id = own(z, "zone");
    const temperature = (name: string): number | null => {
      const e = childOf(z, name);
      const v = number(e?.text);
      return v === null ? null : toCelsius(v, e?.attributes.unit ?? degrees);
    };
    return { id, name: textOf(z, "Name") ?? id, heating: temperature("DesignHeatT"), cooling: temperature("DesignCoolT") };
  });
  if (surfaces.length === 0) return { ok: false, message: "The file has no Surface, so its spaces have no shape." };
  return {
    ok: true,
    records: {
      format: "gbXML",
      name: textOf(buildings[0], "Name") ?? textOf(campus, "Name") ?? buildings[0].attributes.id ?? "Imported building",
      site: {
        name: textOf(location, "Name"),
        latitude: number(textOf(location, "Latitude")),
        longitude: number(textOf(location, "Longitude")),
        elevation: ((v) => (v === null ? null : v * metre))(number(textOf(location, "Elevation"))),
        north: number(textOf(location, "CADModelAzimuth")),
      },
      storeys,
      zones,
      spaces,
      surfaces,
      constructions,
      materials,
      windowTypes,
      schedules: schedulesOf(root, own, tell),
      messages,
    },
  };
}

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday", "Holiday"];

/** Whether a day of the schema's week covers weekday d, 0 Monday … 7 holiday; particular days win over groups. */
function dayRank(type: string, d: number): number {
  if (type === DAYS[d] || (type === "Mon" && d === 0)) return 3;
  if (type === "Weekday" && d < 5) return 2;
  if ((type === "Weekend" || type === "WeekendOrHoliday") && (d === 5 || d === 6)) return 2;
  if (type === "WeekendOrHoliday" && d === 7) return 2;
  if (type === "All") return 1;
  // a holiday without a day of its own is kept as a Sunday
  return d === 7 ? (dayRank(type, 6) > 0 ? 0.5 : 0) : 0;
}

function schedulesOf(
  root: Element,
  own: (e: Element, kind: string) => string,
  tell: (kind: ImportMessage["kind"], affects: boolean, words: string) => void,
): ScheduleRecord[] {
  const profiles = new Map(
    childrenOf(root, "DaySchedule").map((d) => {
      const raw = childrenOf(d, "ScheduleValue").map((v) => number(v.text) ?? NaN);
      // values for every hour, half hour or quarter are brought to hours
      const per = raw.length % 24 === 0 && raw.length > 0 ? raw.length / 24 : 0;
      const values =
        per > 0
          ? Array.from({ length: 24 }, (_, h) => raw.slice(h * per, (h + 1) * per).reduce((s, v) => s + v, 0) / per)
          : raw.length === 1
            ? (Array(24).fill(raw[0]) as number[])
            : raw;
      return [d.attributes.id ?? "", { id: d.attributes.id ?? "", name: textOf(d, "Name") ?? d.attributes.id ?? "", values }];
    }),
  );
  const weeks = new Map(
    childrenOf(root, "WeekSchedule").map((w) => {
      const days = childrenOf(w, "Day").map((d) => ({ type: d.attributes.dayType ?? "All", ref: d.attributes.dayScheduleIdRef ?? "" }));
      const of = DAYS.map((_, d) => days.filter((x) => dayRank(x.type, d) > 0).sort((a, b) => dayRank(b.type, d) - dayRank(a.type, d))[0]?.ref ?? "");
      return [w.attributes.id ?? "", of];
    }),
  );
  const date = (y: Element, name: string, schedule: string, fallback: readonly [number, number]): readonly [number, number] => {
    const text = textOf(y, name);
    const m = /(\d{1,2})-(\d{1,2})$/.exec(text ?? "");
    const month = m ? Number(m[1]) : 0;
    const day = m ? Number(m[2]) : 0;
    if (month >= 1 && month <= 12 && day >= 1 && day <= 31) return [month, day];
    tell(
      "mended",
      true,
      `Schedule "${schedule}" has ${text === null ? "no" : `the unreadable date "${text}" as`} ${name}; ${fallback.join("-")} (month-day) is taken.`,
    );
    return fallback;
  };
  return childrenOf(root, "Schedule").map((s): ScheduleRecord => {
    const id = own(s, "schedule");
    const parts = childrenOf(s, "YearSchedule").flatMap((y) => {
      const ref = childOf(y, "WeekScheduleId")?.attributes.weekScheduleIdRef ?? "";
      const days = weeks.get(ref);
      if (!days) {
        tell("left out", true, `Schedule "${id}" names a week "${ref}" the file does not have.`);
        return [];
      }
      return [{ from: date(y, "BeginDate", id, [1, 1]), to: date(y, "EndDate", id, [12, 31]), days }];
    });
    const used = new Set(parts.flatMap((p) => p.days));
    return {
      id,
      name: textOf(s, "Name") ?? id,
      temperature: s.attributes.type === "Temp",
      profiles: [...profiles.values()].filter((p) => used.has(p.id)),
      weeks: parts,
    };
  });
}
