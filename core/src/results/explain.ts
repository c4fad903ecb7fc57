import { assemblyU, glazingRating } from "../fabric/index.ts";
import { deriveFaces, deriveOpenings } from "../geometry/index.ts";
import { effective, effectiveServices, faceAssembly, openingConstruction, spaceUses, type Origin, type SpaceUse } from "../inputs/index.ts";
import { spaceFields, type FieldSpec, type Project, type SpaceField } from "../model/index.ts";
import { flowNames, type FlowName } from "../simulate/index.ts";
import type { FaceRecord, HourRecord, ZoneStep } from "./hourRecord.ts";

/** A figure behind another: an input with its address in the document and its origin, or a state of the hour. */
export interface FigureBehind {
  /** Name in the formula; "": it is in none. */
  readonly name: string;
  readonly words: string;
  readonly unit: string;
  /** null: words alone. */
  readonly value: number | null;
  /** Address in the document, ids joined by /; null: a state or a result. */
  readonly address: string | null;
  readonly origin: Origin | null;
}
/** A heat flow of one step and what made it. */
export interface Explained {
  /** Flow, key of a face, or id of a space. */
  readonly key: string;
  readonly kind: "flow" | "face" | "space" | "rest";
  readonly words: string;
  /** W */
  readonly value: number;
  /** In the language of expressions over the figures; null: the sum of its parts, or as the source says. */
  readonly formula: string | null;
  readonly source: string;
  readonly figures: readonly FigureBehind[];
  readonly parts: readonly Explained[];
}

const BALANCE = "energy balance of the zone's air and surfaces, ISO 52016-1:2017, 6.5.6";
const SURFACE = "convection and long-wave radiation at the surface, ISO 52016-1:2017, 6.5.6; what lies behind it: state-space wall, step by step";
const GLASS = "transmittance by angle, EN 410:2011 and Fresnel; beam by its shadow, sky by Perez 1990";
const PANES = "heat balance of the panes with both films, ISO 15099:2003, 5";
const AIR = "sensible heat of an air flow, ASHRAE Fundamentals 2017, ch. 18";
const GAINS = "ASHRAE Fundamentals 2017, ch. 18: internal heat gains";
/** Parts smaller than this are rounding, W. */
const NOTHING = 1e-6;

const state = (name: string, words: string, unit: string, value: number): FigureBehind => ({ name, words, unit, value, address: null, origin: null });
const total = (parts: readonly Explained[]): number => parts.reduce((s, p) => s + p.value, 0);

/** Explains the flows of one zone in one step of a recorded hour. */
export class HourExplainer {
  private readonly project: Project;
  private readonly record: HourRecord;
  private readonly uses: ReadonlyMap<string, SpaceUse>;
  private readonly geometry: ReturnType<typeof deriveFaces>;
  private readonly openings: ReturnType<typeof deriveOpenings>["openings"];

  constructor(project: Project, record: HourRecord) {
    this.project = project;
    this.record = record;
    this.uses = spaceUses(project);
    this.geometry = deriveFaces(project);
    this.openings = deriveOpenings(project, this.geometry).openings;
  }

  /**
   * Every flow of a zone that is not nothing, the largest first. They add up to nothing.
   * @throws RangeError when the record has no such zone or step
   */
  flows(zone: string, step: number): Explained[] {
    const z = this.record.zones.find((x) => x.id === zone);
    const s = z?.steps[step];
    if (!s) throw new RangeError(`The hour has no step ${step} of zone "${zone}".`);
    return flowNames
      .filter((f) => Math.abs(s.flows[f]) > 0.005)
      .map((f) => this.flow(zone, f, s, step))
      .sort((a, b) => Math.abs(b.value) - Math.abs(a.value));
  }

  private flow(zone: string, flow: FlowName, s: ZoneStep, step: number): Explained {
    const value = s.flows[flow];
    const summed = (parts: readonly Explained[], rest: string, source: string): Explained => {
      const left = value - total(parts);
      const all =
        Math.abs(left) > 0.01
          ? [...parts, { key: `${flow} rest`, kind: "rest" as const, words: rest, value: left, formula: null, source, figures: [], parts: [] }]
          : parts;
      return {
        key: flow,
        kind: "flow",
        words: flow,
        value,
        formula: null,
        source,
        figures: [],
        parts: all.filter((p) => Math.abs(p.value) > NOTHING).sort((a, b) => Math.abs(b.value) - Math.abs(a.value)),
      };
    };
    const plain = (formula: string, source: string, figures: readonly FigureBehind[]): Explained => ({
      key: flow,
      kind: "flow",
      words: flow,
      value,
      formula,
      source,
      figures,
      parts: [],
    });
    const outdoor = this.record.outdoor[step];
    const air = [
      state("c_p", "specific heat of the outdoor air", "J/kgK", outdoor.cp),
      state("t_o", "outdoor air", "°C", outdoor.t),
      state("t_a", "air of the zone", "°C", s.air),
    ];
    const byAir = (flowOf: number, words: string, more: readonly FigureBehind[] = []): Explained =>
      plain("c_p * m * (t_o - t_a)", AIR, [...air, state("m", words, "kg/s", flowOf), ...more]);
    switch (flow) {
      case "heating":
      case "cooling": {
        const others = flowNames.filter((f) => f !== flow && Math.abs(s.flows[f]) > NOTHING);
        return plain(`0 - (${others.join(" + ") || "0"})`, BALANCE, [...others.map((f) => state(f, f, "W", s.flows[f])), ...this.control(zone, flow, s)]);
      }
      case "sun":
        return summed(this.windowSun(zone, step), "that goes out again through glass, and to or from the rooms next door", GLASS);
      case "glassSun":
        return summed(
          this.of(zone, "glass")
            .filter((f) => f.steps[step].inward !== 0)
            .map((f) => ({ ...this.named(f), value: f.steps[step].inward, formula: null, source: PANES, figures: this.construction(f), parts: [] })),
          "given to the air by blinds",
          PANES,
        );
      case "people":
        return summed(this.people(zone), "not told apart", GAINS);
      case "lighting":
        return summed(this.lighting(zone, s), "not told apart", GAINS);
      case "appliances":
        return summed(this.appliances(zone), "hot water drawn here, its stores and pipes", GAINS);
      case "infiltration":
        return byAir(s.infiltration, "air that leaks in", this.inputs(zone, ["infiltration", "infiltrationFlow", "leakageArea"], "infiltrationSchedule"));
      case "outdoorAir":
        return plain("c_p * m * (1 - e) * (t_o - t_a)", AIR, [
          ...air,
          state("m", "outdoor air for people", "kg/s", s.outdoorAir),
          state("e", "share of its heat that recovery keeps", "1", s.recovered),
          ...this.inputs(zone, ["outdoorAirPerPerson", "outdoorAirPerArea", "outdoorAirChanges"], "outdoorAirSchedule"),
          this.services(zone),
        ]);
      case "openedAir":
        return byAir(
          s.openedAir,
          "air by windows, night ventilation and free cooling",
          this.inputs(zone, ["nightVentilation", "freeCooling", "windowOpenAbove"], null),
        );
      case "betweenZones":
        return summed(this.passes(zone, step), "not told apart", AIR);
      case "storage":
        return plain("0 - C / t * (t_a - t_b)", BALANCE, [
          state("C", "heat capacity of the air, of furniture and inner mass", "J/K", s.capacity),
          state("t", "length of the step", "s", 3600 / this.record.stepsPerHour),
          state("t_a", "air of the zone", "°C", s.air),
          state("t_b", "air a step before", "°C", s.airBefore),
          ...this.inputs(zone, ["innerMass"], null),
        ]);
      default:
        return summed(
          this.record.faces.filter((f) => f.zone === zone && f.flow === flow).map((f) => this.face(f, step)),
          "",
          SURFACE,
        );
    }
  }

  private of(zone: string, role: FaceRecord["role"]): FaceRecord[] {
    return this.record.faces.filter((f) => f.zone === zone && f.role === role);
  }

  private named(f: FaceRecord): Pick<Explained, "key" | "kind" | "words"> {
    return { key: f.key, kind: "face", words: f.role };
  }

  /** Heat from a face to the air and the other faces; sun that came in through glass is told apart. */
  private face(f: FaceRecord, step: number): Explained {
    const s = f.steps[step];
    const zone = this.record.zones.find((z) => z.id === f.zone);
    const figures = [
      state("A", "area", "m²", f.area),
      state("h_c", "convection", "W/m²K", s.convection),
      state("h_r", "radiation", "W/m²K", s.radiation),
      state("t_s", "inside surface", "°C", s.inside),
      state("t_a", "air of the zone", "°C", zone?.steps[step].air ?? NaN),
      state("t_r", "mean radiant temperature", "°C", zone?.steps[step].radiant ?? NaN),
      state("q_t", "sun through glass absorbed here, told as sun", "W/m²", s.taken),
      ...(f.role === "glass" ? [state("Q_g", "sun absorbed in the panes, inward, told apart", "W", s.inward)] : []),
      state("", f.other === null ? "outside surface" : "surface on the other side", "°C", s.outside),
      ...(f.other === null && s.beam + s.diffuse > 0 ? [state("", "sun on the outside", "W/m²", s.beam + s.diffuse)] : []),
      ...this.construction(f),
    ];
    const formula = `A * (h_c * (t_s - t_a) + h_r * (t_s - t_r) - q_t)${f.role === "glass" ? " - Q_g" : ""}`;
    return { ...this.named(f), value: s.flow - (f.role === "glass" ? s.inward : 0), formula, source: SURFACE, figures, parts: [] };
  }

  /** What a face or opening is made of, with where that comes from. */
  private construction(f: FaceRecord): FigureBehind[] {
    const { project } = this;
    const opening = this.openings.find((o) => o.key === f.key.replace(/\|frame$/, ""));
    const face = this.geometry.byKey.get(opening ? opening.face : f.key.split("|")[0]) ?? this.geometry.byKey.get(f.key);
    if (!face) return [];
    if (opening) {
      const { id, origin } = openingConstruction(project, opening, face);
      if (opening.use === "door") {
        const a = project.assemblies[id];
        return [{ name: "", words: `${a.name}, U-value`, unit: "W/m²K", value: assemblyU(project, a), address: `assemblies/${id}`, origin }];
      }
      const { u, g } = glazingRating(project.glazings[id]);
      const of = (words: string, unit: string, value: number): FigureBehind => ({ name: "", words, unit, value, address: `glazings/${id}`, origin });
      return [of(`${project.glazings[id].name}, U-value`, "W/m²K", u), of("solar gain, g-value", "1", g)];
    }
    const { id, origin } = faceAssembly(project, face);
    const a = project.assemblies[id];
    return [
      { name: "", words: `${a.name}, U-value`, unit: "W/m²K", value: assemblyU(project, a), address: `assemblies/${id}`, origin },
      ...(f.absorptance > 0
        ? [{ name: "", words: "solar absorptance outside", unit: "1", value: f.absorptance, address: `assemblies/${id}`, origin: null }]
        : []),
    ];
  }

  private windowSun(zone: string, step: number): Explained[] {
    return this.of(zone, "glass").flatMap((f) => {
      const s = f.steps[step];
      if (s.transmitted === 0) return [];
      return {
        ...this.named(f),
        value: s.transmitted,
        formula: "A * f * (T_b * I_b + T_d * I_d)",
        source: GLASS,
        figures: [
          state("A", "area", "m²", f.area),
          state("f", "share that is glass", "1", f.glassShare),
          state("T_b", "transmittance for the beam at its angle now", "1", s.beamTransmittance),
          state("I_b", "beam on it, shadows taken off", "W/m²", s.beam),
          state("T_d", "transmittance for diffuse light", "1", s.diffuseTransmittance),
          state("I_d", "from sky and ground", "W/m²", s.diffuse),
          ...this.construction(f),
        ],
        parts: [],
      };
    });
  }

  private spaces(zone: string): string[] {
    return Object.keys(this.project.spaces).filter((id) => this.project.spaces[id].zone === zone);
  }

  private input(space: string, field: SpaceField, name = ""): FigureBehind {
    const spec: FieldSpec = spaceFields[field];
    const { value, origin } = effective(this.project, "space", space, field);
    return {
      name,
      words: `${spec.label} of ${this.project.spaces[space].name}`,
      unit: spec.unit,
      value: typeof value === "number" ? value : null,
      address: `spaces/${space}/inputs/${field}`,
      origin,
    };
  }

  /** The schedule a space follows, at its value in the hour; 1 where it follows none. */
  private schedule(space: string, field: SpaceField, name: string): FigureBehind {
    const { value, origin } = effective(this.project, "space", space, field);
    const id = typeof value === "string" ? value : null;
    return {
      name,
      words: id === null ? "no schedule" : `${this.project.schedules[id].name} in this hour`,
      unit: "1",
      value: id === null ? 1 : this.record.schedules[id],
      address: id === null ? `spaces/${space}/inputs/${field}` : `schedules/${id}`,
      origin,
    };
  }

  /** Those inputs of a zone's spaces that are not nothing, and the schedule they follow. */
  private inputs(zone: string, fields: readonly SpaceField[], schedule: SpaceField | null): FigureBehind[] {
    return this.spaces(zone).flatMap((id) => [
      ...fields.map((f) => this.input(id, f)).filter((i) => i.value !== null && i.value !== 0),
      ...(schedule === null ? [] : [this.schedule(id, schedule, "")]),
    ]);
  }

  /** What serves a zone: the air systems of its terminals, else its plain services. */
  private services(zone: string): FigureBehind {
    for (const c of this.project.zones[zone].equipment ?? []) {
      const id = c.kind === "terminal" ? c.inputs.system : null;
      if (typeof id === "string" && Object.hasOwn(this.project.airSystems, id))
        return { name: "", words: `served by ${this.project.airSystems[id].name}`, unit: "", value: null, address: `airSystems/${id}`, origin: null };
    }
    const { id, origin } = effectiveServices(this.project, zone);
    return { name: "", words: `served by ${this.project.services[id].name}`, unit: "", value: null, address: `services/${id}`, origin };
  }

  private control(zone: string, flow: "heating" | "cooling", s: ZoneStep): FigureBehind[] {
    const [largest] = this.spaces(zone).sort((a, b) => (this.uses.get(b)?.area ?? 0) - (this.uses.get(a)?.area ?? 0));
    const target = flow === "heating" ? s.heatTarget : s.coolTarget;
    return [
      state("", "air of the zone", "°C", s.air),
      ...(target === target ? [state("", `${flow} set-point now`, "°C", target)] : []),
      ...(largest ? [this.input(largest, flow === "heating" ? "heatingSetpoint" : "coolingSetpoint")] : []),
      ...(s.supplyAir > 0 ? [state("", "supply air of its system", "kg/s", s.supplyAir)] : []),
      ...(flow === "cooling" && s.dehumidification > 0 ? [state("", "moisture taken out besides", "W", s.dehumidification)] : []),
      this.services(zone),
    ];
  }

  private gain(space: string, formula: string, figures: readonly FigureBehind[]): Explained {
    const at = new Map(figures.map((f) => [f.name, f.value ?? 0]));
    const value = formula.split(" + ").reduce((sum, product) => sum + product.split(" * ").reduce((p, name) => p * (at.get(name) ?? 0), 1), 0);
    return { key: space, kind: "space", words: this.project.spaces[space].name, value, formula, source: GAINS, figures, parts: [] };
  }

  private people(zone: string): Explained[] {
    return this.spaces(zone).map((id) => {
      const given = effective(this.project, "space", id, "peopleGiven").value;
      const field = given === "count" ? "peopleCount" : given === "area each" ? "peopleArea" : given === "per area" ? "peopleDensity" : null;
      return this.gain(id, "n * q * s", [
        state("n", "people when all are there", "1", this.uses.get(id)?.people ?? 0),
        this.input(id, "peopleSensible", "q"),
        this.schedule(id, "peopleSchedule", "s"),
        ...(field === null ? [] : [this.input(id, field)]),
      ]);
    });
  }

  private lighting(zone: string, s: ZoneStep): Explained[] {
    const on = this.spaces(zone).map((id) =>
      this.gain(id, "P * s", [
        state("P", "installed lighting", "W", this.uses.get(id)?.lighting ?? 0),
        this.schedule(id, "lightingSchedule", "s"),
        this.input(id, "lightingPower"),
      ]),
    );
    const full = total(on);
    if (s.lightingLeft >= 1) return on;
    return [
      ...on,
      {
        key: `${zone} daylight`,
        kind: "rest",
        words: "switched off or dimmed by daylight",
        value: -full * (1 - s.lightingLeft),
        formula: "0 - P * (1 - d)",
        source: "illuminance at the sensor points, split flux and sky luminance of Perez 1993",
        figures: [state("P", "lighting by schedule", "W", full), state("d", "share that daylight leaves on", "1", s.lightingLeft)],
        parts: [],
      },
    ];
  }

  private appliances(zone: string): Explained[] {
    return this.spaces(zone).map((id) => {
      const use = this.uses.get(id);
      return this.gain(id, "P * s + P_0", [
        state("P", "sensible heat of equipment at full use", "W", use?.appliances.sensible ?? 0),
        this.schedule(id, "applianceSchedule", "s"),
        state("P_0", "sensible heat of equipment that is always on", "W", use?.standby.sensible ?? 0),
        this.input(id, "appliancePower"),
      ]);
    });
  }

  private passes(zone: string, step: number): Explained[] {
    const air = (id: string): number => this.record.zones.find((z) => z.id === id)?.steps[step].air ?? NaN;
    return this.record.passes[step].flatMap((p, i) => {
      if (p.flow === 0 || (p.from !== zone && p.to !== zone)) return [];
      const [other, weight] = p.from === zone ? [p.to, p.weights[0]] : [p.from, p.weights[1]];
      const { cp } = this.record.outdoor[step];
      return {
        key: `pass ${i}`,
        kind: "rest" as const,
        words: `with ${this.project.zones[other].name}`,
        value: cp * p.flow * weight * (air(other) - air(zone)),
        formula: "c_p * m * w * (t_2 - t_a)",
        source: AIR,
        figures: [
          state("c_p", "specific heat of the air", "J/kgK", cp),
          state("m", "air passed", "kg/s", p.flow),
          state("w", "share of it counted here", "1", weight),
          state("t_2", `air of ${this.project.zones[other].name}`, "°C", air(other)),
          state("t_a", "air of the zone", "°C", air(zone)),
        ],
        parts: [],
      };
    });
  }
}
