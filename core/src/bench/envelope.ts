import { CP_AIR, airDensity } from "../airflow/index.ts";
import { standardPressure } from "../climate/index.ts";
import { assemblyLayers, assemblyU, glazingRating, surfaceResistances } from "../fabric/index.ts";
import { deriveFaces, deriveOpenings } from "../geometry/index.ts";
import { effective, faceAssembly, openingConstruction, spaceUses } from "../inputs/index.ts";
import type { Project } from "../model/index.ts";
import { KILOWATT, LITRES, Sheet, type Bench, type BenchFigure, type BenchInput, type BenchStep } from "./types.ts";

/** A wall, roof or floor in the steady state, its openings apart: sun, air on both sides, and the temperature of each layer's face (ISO 6946:2017). */
export function faceBench(project: Project, key: string): Bench {
  const face = deriveFaces(project).faces.find((f) => f.key === key);
  if (!face) throw new RangeError(`There is no face "${key}".`);
  const assembly = project.assemblies[faceAssembly(project, face).id];
  const layers = assemblyLayers(project, assembly).filter((l) => l.resistance > 0);
  const [outer, inner] = surfaceResistances(assembly.use);
  const title = `${project.spaces[face.space].name}: ${face.kind}, ${assembly.name}`;
  const outdoors = face.contact === "outdoors";
  const first = assembly.layers.find((l) => l.kind === "solid");
  const absorptance = first?.kind === "solid" ? project.materials[first.material].solarAbsorptance : 0.6;
  const named = assembly.rated ? [] : assembly.layers.filter((l) => l.kind !== "circuit");
  const inputs: BenchInput[] = [
    { name: "t_o", words: outdoors ? "outdoors" : "the other side", unit: "°C", value: outdoors ? -5 : 18, min: -30, max: 50 },
    { name: "t_i", words: "room", unit: "°C", value: 21, min: 5, max: 35 },
    ...(outdoors ? [{ name: "I", words: "sun on the face", unit: "W/m²", value: 0, min: 0, max: 1100 }] : []),
  ];
  const figures: BenchFigure[] = [
    { name: "R_o", words: outdoors ? "outer surface" : "surface of the other side", unit: "m²K/W", value: outer },
    ...layers.map((l, i) => ({ name: `R_${i + 1}`, words: layerName(project, named[i], i), unit: "m²K/W", value: l.resistance })),
    { name: "R_i", words: "surface of the room", unit: "m²K/W", value: inner },
    ...(outdoors ? [{ name: "a", words: "solar absorptance", unit: "1", value: absorptance }] : []),
    { name: "A", words: "area of the face with its openings", unit: "m²", value: face.area },
  ];
  const run = (x: Readonly<Record<string, number>>): readonly BenchStep[] => {
    const at = (name: string): number => x[name] ?? inputs.find((i) => i.name === name)?.value ?? 0;
    const sheet = new Sheet(title);
    const total = outer + layers.reduce((s, l) => s + l.resistance, 0) + inner;
    sheet.add("R", "resistance together", "m²K/W", total, ["R_o", ...layers.map((_, i) => `R_${i + 1}`), "R_i"].join(" + "), {
      source: "ISO 6946:2017, 6.7.1",
    });
    sheet.add("U", "thermal transmittance", "W/m²K", 1 / total, "1 / R");
    const sun = outdoors ? at("I") * absorptance * outer : 0;
    const side = sheet.add(
      "t_e",
      outdoors ? "sol-air temperature, long-wave exchange apart" : "temperature of the other side",
      "°C",
      at("t_o") + sun,
      outdoors ? "t_o + a * I * R_o" : "t_o",
      {
        ...(outdoors ? { source: "ASHRAE Fundamentals 2017, ch. 18" } : {}),
      },
    );
    const flux = sheet.add("q", "heat into the room", "W/m²", (side - at("t_i")) / total, "(t_e - t_i) / R");
    let t = sheet.add("t_1", `face of ${layerName(project, named[0], 0)}, outside`, "°C", side - flux * outer, "t_e - q * R_o");
    layers.forEach((l, i) => {
      t -= flux * l.resistance;
      sheet.add(
        `t_${i + 2}`,
        i === layers.length - 1 ? "face to the room" : `behind ${layerName(project, named[i], i)}`,
        "°C",
        t,
        `t_${i + 1} - q * R_${i + 1}`,
      );
    });
    sheet.add("Q", "heat into the room, were all of it this", "W", flux * face.area, "q * A");
    return sheet.steps;
  };
  return { title, inputs, figures, outcomes: ["q", `t_${layers.length + 1}`, "t_e", "Q"], over: "t_o", run };
}

function layerName(project: Project, layer: Project["assemblies"][string]["layers"][number] | undefined, i: number): string {
  if (!layer) return `layer ${i + 1}`;
  if (layer.kind === "solid") return project.materials[layer.material].name.toLowerCase();
  return (layer.name ?? `layer ${i + 1}`).toLowerCase();
}

/** A zone in the steady state: what its outdoor faces, leakage and outdoor air lose, what is gained, and what heats or cools the rest. */
export function zoneBench(project: Project, zone: string): Bench {
  const z = project.zones[zone];
  const spaces = Object.keys(project.spaces).filter((s) => project.spaces[s].zone === zone);
  const geometry = deriveFaces(project);
  const { openings } = deriveOpenings(project, geometry);
  const uses = spaceUses(project);
  let [opaque, glass, sunlit, leak, air, gains, area] = [0, 0, 0, 0, 0, 0, 0];
  for (const f of geometry.faces) {
    if (f.contact !== "outdoors" || !spaces.includes(f.space)) continue;
    const own = openings.filter((o) => o.face === f.key);
    const u = assemblyU(project, project.assemblies[faceAssembly(project, f).id]);
    opaque += u * (f.area - own.reduce((s, o) => s + o.area, 0));
    for (const o of own) {
      const { id } = openingConstruction(project, o, f);
      if (o.use === "door") opaque += assemblyU(project, project.assemblies[id]) * o.area;
      else {
        const rating = glazingRating(project.glazings[id]);
        glass += rating.u * o.area;
        sunlit += rating.g * o.area;
      }
    }
  }
  for (const s of spaces) {
    const use = uses.get(s);
    if (!use) continue;
    area += use.area;
    if (effective(project, "space", s, "infiltrationModel").value === "air changes")
      leak += ((effective(project, "space", s, "infiltration").value as number) * use.volume) / 3600;
    air += use.outdoorAir.supplied;
    gains += use.people * (effective(project, "space", s, "peopleSensible").value as number) + use.lighting + use.appliances.sensible + use.standby.sensible;
  }
  const rho = airDensity(20, standardPressure(project.site.elevation));
  const inputs: BenchInput[] = [
    { name: "t_o", words: "outdoors", unit: "°C", value: -5, min: -30, max: 45 },
    { name: "t_i", words: "room", unit: "°C", value: 21, min: 5, max: 35 },
    { name: "I", words: "sun on its windows, mean", unit: "W/m²", value: 0, min: 0, max: 800 },
    { name: "G", words: "people, lighting and equipment at full use", unit: "W", value: 0, min: 0, max: Math.max(100, 1.2 * gains), shown: KILOWATT },
    { name: "V_l", words: "air leaking in", unit: "m³/s", value: leak, min: 0, max: Math.max(0.01, 4 * leak), shown: LITRES },
    { name: "V_o", words: "outdoor air given to it", unit: "m³/s", value: air, min: 0, max: Math.max(0.01, 3 * air), shown: LITRES },
    { name: "e", words: "heat recovery of that air", unit: "1", value: 0, min: 0, max: 1, shown: { unit: "%", factor: 100, digits: 0 } },
  ];
  const figures: BenchFigure[] = [
    { name: "H_f", words: "opaque outdoor faces and doors, U · A", unit: "W/K", value: opaque },
    { name: "H_g", words: "windows, U · A", unit: "W/K", value: glass },
    { name: "A_s", words: "windows, g · A", unit: "m²", value: sunlit },
    { name: "A", words: "floor area", unit: "m²", value: area },
    { name: "rho", words: "density of air of 20 °C at the site", unit: "kg/m³", value: rho },
    { name: "cp", words: "specific heat of dry air", unit: "J/kg·K", value: CP_AIR },
  ];
  const run = (x: Readonly<Record<string, number>>): readonly BenchStep[] => {
    const at = (name: string): number => x[name] ?? inputs.find((i) => i.name === name)?.value ?? 0;
    const sheet = new Sheet(z.name);
    const moved = rho * CP_AIR * (at("V_l") + (1 - at("e")) * at("V_o"));
    const lost = opaque + glass + moved;
    sheet.add("H_v", "leakage and outdoor air", "W/K", moved, "rho * cp * (V_l + (1 - e) * V_o)");
    sheet.add("H", "heat loss coefficient", "W/K", lost, "H_f + H_g + H_v", { source: "ISO 52016-1, steady; ground and neighbours apart" });
    const loss = sheet.add("Q_l", "lost to outdoors", "W", lost * (at("t_i") - at("t_o")), "H * (t_i - t_o)", { shown: KILOWATT });
    const sun = sheet.add("Q_s", "sun through its windows", "W", sunlit * at("I"), "A_s * I", { shown: KILOWATT });
    const rest = loss - sun - at("G");
    sheet.add("Q_h", "heating that holds the room", "W", Math.max(0, rest), "max(0, Q_l - Q_s - G)", { shown: KILOWATT });
    sheet.add("Q_c", "cooling that holds the room", "W", Math.max(0, -rest), "max(0, Q_s + G - Q_l)", { shown: KILOWATT });
    sheet.add("q", "of the floor area", "W/m²", area > 0 ? Math.abs(rest) / area : 0, "if(A > 0, (Q_h + Q_c) / A, 0)");
    sheet.add(
      "t_f",
      "temperature without heating and cooling",
      "°C",
      lost > 0 ? at("t_o") + (sun + at("G")) / lost : at("t_o"),
      "if(H > 0, t_o + (Q_s + G) / H, t_o)",
    );
    return sheet.steps;
  };
  return { title: z.name, inputs, figures, outcomes: ["Q_h", "Q_c", "Q_l", "t_f"], over: "t_o", run };
}
