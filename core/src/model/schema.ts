import { z } from "zod";
import { airNetworkSchema } from "./airSchema.ts";
import { optionChangeSchema } from "./changeSchema.ts";
import { complianceInputSchema } from "./complianceSchema.ts";
import { packSchema } from "./packSchema.ts";
import { measureSchema, studySchema } from "./studySchema.ts";
import { spaceInputsSchema, zoneInputsSchema } from "./fields.ts";
import {
  cornerSchema,
  freeFacesSchema,
  openingSchema,
  orientation,
  prismSchema,
  roofSchema,
  shadeSchema,
  surroundingSchema,
  underlaySchema,
} from "./formSchema.ts";
import { above, colourHint, coordinate, dimension, fromSchema, host, id, monthly, name, records, share, text, monthDay } from "./schemaParts.ts";
import { factorsSchema, fuelSchema, pricesSchema } from "./priceSchema.ts";
import { designDaySchema } from "./designSchema.ts";
import { namedYearSchema } from "./weatherSchema.ts";
import { airSystemSchema, equipmentSchema, loopSchema, onSiteSchema, waterSystemSchema } from "./serviceSchema.ts";
import { derivedSchema, reportOutlineSchema } from "./resultsSchema.ts";
import { driveSchema, pairSchema, pointSchema } from "./loggedSchema.ts";
import { resetSchema } from "./signal.ts";
import { deviceListSchema, drawPointSchema, groupSchema, ruleSchema, siteLightSchema } from "./useSchema.ts";

export const FORMAT_VERSION = 9 as const;

export type CopiedFrom = NonNullable<z.infer<typeof fromSchema>>;

/** Kinds of material, by which a library is searched. */
export const materialKinds = ["masonry", "concrete", "timber", "board", "metal", "insulation", "membrane", "finish", "glass", "soil", "gas"] as const;

export const materialSchema = z.strictObject({
  name,
  conductivity: above(0.001, 500).describe("Thermal conductivity, W/m·K."),
  density: z.number().min(0).max(20000).describe("Density, kg/m³."),
  specificHeat: z.number().min(0).max(10000).describe("Specific heat, J/kg·K."),
  solarAbsorptance: z.number().min(0).max(1).describe("Share of sunlight absorbed at a bare surface, 1."),
  emissivity: z.number().min(0.01).max(1).describe("Long-wave emissivity at a bare surface, 1."),
  roughness: z.enum(["very rough", "rough", "medium rough", "medium smooth", "smooth", "very smooth"]).describe("Surface class for outside convection."),
  phaseChange: z
    .strictObject({
      from: z.number().min(-50).max(200).describe("Temperature at which melting begins, °C."),
      to: z.number().min(-50).max(200).describe("Temperature at which all is molten, °C."),
      latentHeat: above(1, 500000).describe("Heat of melting, J/kg, in addition to the specific heat."),
    })
    .optional(),
  vapourResistance: z.number().min(1).max(1e7).optional().describe("Water vapour resistance factor over that of still air (ISO 10456), 1. Absent: not known."),
  kind: z.enum(materialKinds).optional().describe("Kind of material, for finding it."),
  source: text(500).optional().describe("Where the figures come from."),
  from: fromSchema,
});

const bridgeSchema = z
  .strictObject({
    material: id.describe("What bridges the layer: rafters, studs, battens, ties."),
    share: above(0.0001, 0.9).describe("Share of the layer's area it takes, 1."),
  })
  .optional()
  .describe("A second material beside the first in the same layer, by ISO 6946; absent: none.");
const layerSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("solid"), id, material: id, thickness: above(1e-5, 10).describe("Thickness, m."), bridge: bridgeSchema }),
  z.strictObject({
    kind: z.literal("resistance"),
    id,
    name,
    resistance: above(1e-5, 100).describe("Thermal resistance of an air gap or of a layer without mass, m²K/W."),
    thickness: above(1e-5, 10).optional().describe("Thickness, m, for drawing and where it is bridged; it does not change the resistance."),
    bridge: bridgeSchema,
  }),
  z.strictObject({ kind: z.literal("circuit"), id, name: name.describe("An embedded circuit: a plane without thickness that heat can be given to.") }),
]);

/** Classes of heat capacity per area of a component, J/m²K (ISO 52016-1:2017, table B.14). */
export const massClasses = { "very light": 50000, light: 75000, medium: 110000, heavy: 175000, "very heavy": 250000 } as const;
export type MassClass = keyof typeof massClasses;
const massClassNames = Object.keys(massClasses) as [MassClass, ...MassClass[]];

export const assemblySchema = z.strictObject({
  name,
  use: z
    .enum(["exterior wall", "roof", "ground floor", "exposed floor", "interior wall", "interior floor", "door"])
    .describe("Kind of element it is meant for."),
  layers: z.array(layerSchema).max(20).describe("From outside to inside; an interior floor from its lower side to its upper side. None where it is rated."),
  rated: z
    .strictObject({
      u: above(0.03, 6).describe("Thermal transmittance with the surface resistances of its use, W/m²K."),
      mass: z.enum(massClassNames).describe("Class of heat capacity, by ISO 52016-1."),
      at: z.enum(["inside", "outside", "spread"]).describe("Where the mass lies."),
    })
    .optional()
    .describe("Its U and a class of mass alone, where no more is known; then it has no layers."),
  source: text(500).optional().describe("Where the figures come from."),
  from: fromSchema,
});

const blindSchema = z
  .strictObject({
    position: z.enum(["outside", "inside"]),
    solarTransmittance: share("Solar transmittance of the blind as it hangs"),
    solarReflectance: share("Solar reflectance"),
    visibleTransmittance: share("Visible transmittance"),
    control: z.discriminatedUnion("kind", [
      z.strictObject({ kind: z.literal("irradiance"), above: z.number().min(0).max(2000).describe("Lowered above this irradiance on the window, W/m².") }),
      z.strictObject({ kind: z.literal("temperature"), above: z.number().min(-50).max(100).describe("Lowered in sun above this air temperature, °C.") }),
      z.strictObject({ kind: z.literal("schedule"), schedule: id.describe("Lowered where this schedule is 0.5 or more.") }),
      z.strictObject({ kind: z.literal("always") }),
    ]),
  })
  .nullable()
  .describe("Blind; null: none.");
const ratedFilms = z
  .strictObject({
    inside: above(0.1, 1000).describe("Inside film the rated U contains, W/m²K."),
    outside: above(0.1, 1000).describe("Outside film the rated U contains, W/m²K."),
  })
  .describe("Films of the rating, taken out before the run's own films act.");
const frameShare = z.number().min(0).max(0.9).describe("Share of the opening taken by the frame, 1.");

export const glazingSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("rated"),
    name,
    u: above(0.01, 7).describe("U of glass and frame with standard films, W/m²K."),
    g: share("Solar heat gain of the glass at normal incidence"),
    visibleTransmittance: share("Visible transmittance"),
    frameShare,
    ratedFilms,
    blind: blindSchema,
    source: text(500).optional(),
    from: fromSchema,
  }),
  z.strictObject({
    kind: z.literal("panes"),
    name,
    panes: z
      .array(
        z.strictObject({
          id,
          name,
          thickness: above(1e-5, 0.1).describe("m."),
          conductivity: above(0.001, 10).describe("W/m·K."),
          solarTransmittance: share("Solar transmittance at normal incidence"),
          solarReflectanceOut: share("Solar reflectance of the side to outside"),
          solarReflectanceIn: share("Solar reflectance of the side to inside"),
          visibleTransmittance: share("Visible transmittance"),
          visibleReflectance: share("Visible reflectance"),
          emissivityOut: z.number().min(0.01).max(1).describe("Long-wave emissivity of the side to outside, 1."),
          emissivityIn: z.number().min(0.01).max(1).describe("Long-wave emissivity of the side to inside, 1."),
        }),
      )
      .min(1)
      .max(3)
      .describe("From outside to inside."),
    gaps: z
      .array(z.strictObject({ id, fill: z.enum(["air", "argon", "krypton"]), width: z.number().min(0.002).max(0.2).describe("m.") }))
      .max(2)
      .describe("Between the panes: one fewer than there are panes."),
    frameShare,
    frame: z.strictObject({
      u: above(0.01, 12).describe("U of the frame with standard films, W/m²K."),
      absorptance: share("Solar absorptance of the frame"),
    }),
    edge: z.number().min(0).max(0.5).describe("Linear transmittance of the glass edge, W/m·K."),
    ratedFilms,
    blind: blindSchema,
    source: text(500).optional(),
    from: fromSchema,
  }),
]);

export const kitRoles = ["exteriorWall", "roof", "groundFloor", "exposedFloor", "interiorWall", "interiorFloor", "glazing", "skylight", "door"] as const;
export type KitRole = (typeof kitRoles)[number];
/** Whether a role is filled by a glazing, not by an assembly. */
export const isGlazed = (role: KitRole): role is "glazing" | "skylight" => role === "glazing" || role === "skylight";
/** Junctions of the outdoor walls at which heat passes besides what the faces let through. */
export const junctions = ["eaves", "ground", "exposed", "storey", "corner", "reentrant", "opening"] as const;
export type Junction = (typeof junctions)[number];
const psi = (what: string) =>
  z.number().min(-1).max(3).optional().describe(`Linear thermal transmittance of ${what}, external dimensions, W/m·K. Absent: none.`);
const bridgesSchema = z
  .strictObject({
    share: z.number().min(0).max(1).optional().describe("Share added to the U of every outdoor wall, roof and floor, where no more is known, 1."),
    eaves: psi("wall and roof"),
    ground: psi("wall and ground floor"),
    exposed: psi("wall and exposed floor"),
    storey: psi("wall and floor between storeys"),
    corner: psi("a corner of walls that points outward"),
    reentrant: psi("a corner of walls that points inward"),
    opening: psi("the edge of a window or door in its wall"),
  })
  .optional()
  .describe("Thermal bridges (ISO 14683); absent: none.");
export const kitSchema = z.strictObject({
  name,
  exteriorWall: id,
  roof: id,
  groundFloor: id,
  exposedFloor: id,
  interiorWall: id,
  interiorFloor: id,
  glazing: id.describe("Glazing of windows."),
  skylight: id.describe("Glazing of windows in roofs."),
  door: id.describe("Assembly of doors."),
  bridges: bridgesSchema,
  from: fromSchema,
});

const profileSchema = z.strictObject({ name, values: z.array(z.number().min(-100).max(1000)).length(24).describe("One value for each clock hour.") });
export const scheduleSchema = z.strictObject({
  name,
  source: text(500).optional().describe("Where the values come from."),
  from: fromSchema,
  kind: z.enum(["fraction", "temperature"]).describe("What the numbers are: a share of 1, or °C."),
  profiles: records(profileSchema).describe("Day profiles."),
  weeks: z
    .array(
      z.strictObject({
        id,
        from: monthDay.describe("First month and day, inclusive."),
        to: monthDay.describe("Last month and day, inclusive."),
        days: z.array(id).length(8).describe("Profile for Monday … Sunday, then for holidays."),
      }),
    )
    .min(1)
    .max(400)
    .describe("Later entries win where date ranges overlap; together they cover the year."),
});

export const spaceTypeSchema = z.strictObject({
  name,
  colour: colourHint.optional(),
  inputs: spaceInputsSchema,
  rate: id.optional().describe("Row of the table of outdoor-air rates its spaces are checked against; absent: none."),
  source: text(500).optional().describe("Where the values come from."),
  from: fromSchema,
});

export const servicesSchema = z.strictObject({
  name,
  heating: z.strictObject({ fuel: fuelSchema, efficiency: above(0.05, 15).describe("Heat delivered per fuel used (efficiency or COP), 1.") }),
  cooling: z.strictObject({ fuel: fuelSchema, efficiency: above(0.05, 30).describe("Heat removed per fuel used (COP), 1.") }),
  fanPower: z.number().min(0).max(20000).describe("Fan power per outdoor-air flow, W per m³/s."),
  pumpShareHeating: z.number().min(0).max(1).describe("Pump energy per heat delivered, 1."),
  pumpShareCooling: z.number().min(0).max(1).describe("Pump energy per heat removed, 1."),
  heatRecovery: z.strictObject({
    frostLimit: z
      .number()
      .min(-40)
      .max(30)
      .nullable()
      .optional()
      .describe("Exhaust air is not cooled below this, °C, so that it does not freeze; null or absent: no limit."),
    sensible: z.number().min(0).max(1).describe("Sensible effectiveness, 1."),
    latent: z.number().min(0).max(1).describe("Latent effectiveness, 1."),
  }),
  hotWater: z.strictObject({
    fuel: fuelSchema,
    efficiency: above(0.05, 10).describe("Heat in the water drawn per fuel used, 1."),
    deliveryTemperature: z.number().min(20).max(95).describe("Temperature at the tap, °C."),
    mainsTemperature: z.number().min(0).max(40).describe("Annual mean temperature of the cold water main, °C."),
  }),
});

const evidenceSchema = z.strictObject({
  source: z.string().max(500).optional(),
  note: z.string().max(2000).optional(),
  author: z.string().max(200).optional(),
  date: z.string().max(40).optional(),
  confidence: z.enum(["measured", "documented", "estimated", "assumed"]).optional(),
});

const coefficient = (what: string) => z.number().min(0.1).max(200).describe(`${what}, W/m²K.`);
export const runSchema = z.strictObject({
  stepsPerHour: z
    .union([z.literal(1), z.literal(2), z.literal(3), z.literal(4), z.literal(6), z.literal(12)])
    .describe("Steps an hour of the stored and the unmarked figures."),
  period: z
    .strictObject({
      from: monthDay.describe("First month and day."),
      days: z
        .number()
        .min(1 / 24 - 1e-9)
        .max(1825)
        .describe("Number of days; parts of a day are taken to whole hours."),
    })
    .nullable()
    .describe("First month and day and number of days; a period past the year's end goes on in it; null: the year."),
  sky: z.enum(["perez", "isotropic"]).describe("Model of diffuse sky radiation."),
  skyEmissivity: z.enum(["martin-berdahl", "clark-allen"]).describe("Long-wave sky where the weather has no measured infrared."),
  radiation: z.enum(["network", "full"]).describe("Inside long-wave exchange: mean-radiant network or every face with every other."),
  beam: z.enum(["floor", "area", "traced"]).describe("Where beam sun falls inside: on the floor, on all faces by area, or traced to the faces it strikes."),
  insideConvection: z.discriminatedUnion("kind", [
    z.strictObject({ kind: z.literal("temperature difference") }),
    z.strictObject({ kind: z.literal("iso 52016-1") }),
    z.strictObject({
      kind: z.literal("typed"),
      wall: coefficient("Convection at walls"),
      floor: coefficient("Convection at floors"),
      ceiling: coefficient("Convection at ceilings"),
      glass: coefficient("Convection at glass"),
    }),
  ]),
  outsideConvection: z.discriminatedUnion("kind", [
    z.strictObject({ kind: z.literal("wind and temperature") }),
    z.strictObject({ kind: z.literal("iso 52016-1") }),
    z.strictObject({
      kind: z.literal("typed"),
      wall: coefficient("Convection at walls"),
      roof: coefficient("Convection at roofs"),
      floor: coefficient("Convection at exposed floors"),
      glass: coefficient("Convection at glass"),
    }),
  ]),
  unmetTolerance: z.number().min(0).max(5).describe("Hours count as unmet beyond this distance from the set-point, K."),
  shortYear: z.union([z.literal(12), z.literal(24), z.literal(48)]).describe("Representative days of the short year."),
});
export type RunOptions = z.infer<typeof runSchema>;

export const projectSchema = z.strictObject({
  formatVersion: z.literal(FORMAT_VERSION).describe("Version of this document format."),
  id,
  name,
  note: z.string().max(5000).optional(),
  site: z.strictObject({
    name,
    latitude: z.number().min(-90).max(90).describe("Degrees, north positive."),
    longitude: z.number().min(-180).max(180).describe("Degrees, east positive."),
    elevation: z.number().min(-450).max(6000).describe("Metres above sea level."),
    timeZone: z.number().min(-12).max(14).describe("Hours ahead of UTC, local standard time."),
    planNorth: z.number().min(-360).max(360).describe("True direction of the top of the plan, degrees clockwise from north."),
    terrain: z.enum(["open sea", "open country", "suburb", "city"]).describe("Class for the wind profile."),
    albedo: monthly(z.number().min(0).max(1)).describe("Ground reflectance by month, 1."),
    horizon: z
      .array(
        z.strictObject({
          id,
          azimuth: z.number().min(0).max(360).describe("True direction, degrees clockwise from north."),
          height: z.number().min(0).max(80).describe("Height of what stands there far away, degrees above level."),
        }),
      )
      .max(360)
      .optional()
      .describe("The skyline far away, linear between its points; absent: level all round."),
    ground: z.strictObject({
      conductivity: above(0.001, 10).describe("W/m·K."),
      heatCapacity: above(1000, 1e7).describe("Volumetric, J/m³K."),
      floor: z
        .discriminatedUnion("kind", [
          z.strictObject({ kind: z.literal("slab") }),
          z.strictObject({
            kind: z.literal("suspended"),
            height: z.number().min(0).max(10).describe("Height of the floor's upper side above the ground outside, m."),
            wallU: above(0.01, 10).describe("U of the walls of the crawl space, W/m²K."),
            vents: z.number().min(0).max(1).describe("Ventilation openings per length of perimeter, m²/m."),
            shelter: z.number().min(0).max(1).describe("Wind shielding factor of ISO 13370: 0.02 sheltered, 0.05 average, 0.10 exposed."),
            groundResistance: z.number().min(0).max(20).describe("Resistance of insulation on the ground of the crawl space, m²K/W."),
          }),
        ])
        .describe("How lowest floors meet the ground; floors below ground level are basements by themselves."),
      edge: z
        .strictObject({
          position: z.enum(["horizontal", "vertical"]),
          depth: above(0.01, 10).describe("Width of horizontal or depth of vertical edge insulation, m."),
          thickness: above(0.001, 1).describe("m."),
          conductivity: above(0.001, 10).describe("W/m·K."),
        })
        .nullable()
        .describe("Edge insulation of slabs; null: none."),
      temperature: monthly(z.number().min(-40).max(60))
        .nullable()
        .describe("Ground temperature behind floors and basement walls by month, °C; null: by ISO 13370."),
    }),
    shelter: z.enum(["none", "light", "moderate", "heavy", "very heavy"]).describe("Shielding of the building from wind, for leakage."),
  }),
  calendar: z.strictObject({
    firstWeekday: z.number().int().min(0).max(6).describe("Weekday of 1 January: 0 Monday … 6 Sunday."),
    holidays: z
      .array(
        z.strictObject({
          id,
          name,
          month: z.number().int().min(1).max(12).describe("Month, 1 to 12."),
          day: z.number().int().min(1).max(31).describe("Day of the month."),
        }),
      )
      .max(400),
    year: z
      .number()
      .int()
      .min(1900)
      .max(2200)
      .nullable()
      .optional()
      .describe("Calendar year that fixes the weekdays and whether there is a 29 February; null or absent: typical year with the stated first weekday."),
    daylightSaving: z
      .strictObject({
        from: monthDay.describe("First month and day."),
        to: monthDay.describe("Last month and day."),
      })
      .nullable()
      .describe("Days on which the clock is one hour ahead; null: never."),
  }),
  weathers: records(namedYearSchema).describe("Weather years of the project, by what they are called here."),
  weather: id.describe("The weather year in view: the one every run takes."),
  storeys: records(
    z.strictObject({
      name,
      elevation: z.number().min(-1000).max(1000).describe("Level of the floor above the ground, m."),
      height: dimension(100).describe("Floor to floor, m."),
      multiplier: z.number().int().min(1).max(200).describe("How many equal storeys it stands for."),
      underlay: underlaySchema.optional(),
    }),
  ),
  spaces: records(
    z.strictObject({
      name,
      storey: id,
      zone: id.nullable().describe("The zone it belongs to; null: none yet."),
      spaceType: id.nullable().describe("What happens here; null: none yet."),
      kit: id.nullable().describe("Envelope kit; null: the project's."),
      tags: z.array(text(60)).max(20).optional().describe("Words it can be found by, in rules and sheets."),
      form: z.discriminatedUnion("kind", [prismSchema, freeFacesSchema]),
      inputs: spaceInputsSchema,
    }),
  ),
  zones: records(
    z.strictObject({
      name,
      services: id.nullable().describe("Plain services; null: the project's."),
      inputs: zoneInputsSchema,
      equipment: z
        .array(equipmentSchema)
        .max(20)
        .optional()
        .describe("What heats and cools it in place of its plain services: what stands first serves first. Absent or empty: plain services."),
    }),
  ),
  roofs: records(roofSchema),
  openings: records(openingSchema),
  shades: records(shadeSchema),
  surroundings: records(surroundingSchema).describe("Neighbouring blocks and trees."),
  airExchanges: records(
    z.strictObject({
      name,
      zones: z.tuple([id, id]).describe("The two zones."),
      flow: z.number().min(0).max(1000).describe("Air passed each way, m³/s."),
      schedule: id.nullable().describe("Share of the flow; null: always."),
    }),
  ).describe("Air passed between two zones."),
  airNetwork: airNetworkSchema.optional().describe("Pressure network of the air in and around the building; absent: none was made."),
  sensors: records(
    z.strictObject({
      name,
      space: id,
      x: coordinate().describe("Plan x, m."),
      y: coordinate().describe("Plan y, m."),
      height: z.number().min(0).max(50).describe("Above the floor, m."),
      share: z.number().min(0).max(1).describe("Share of the space's lighting it controls, 1."),
    }),
  ).describe("Points at which daylight is reckoned."),
  faceOverrides: records(
    z.strictObject({
      host: host("space/edge, space/floor id or space/ceiling id."),
      assembly: id.nullable().describe("What it is made of; null: from the kit."),
      contact: z
        .enum(["ground", "adiabatic"])
        .optional()
        .describe("What is behind it where it touches no other space, set by hand. Absent: found by geometry."),
    }),
  ),
  materials: records(materialSchema),
  assemblies: records(assemblySchema),
  glazings: records(glazingSchema),
  kits: records(kitSchema),
  schedules: records(scheduleSchema),
  resets: records(resetSchema).describe("Temperatures reset by outdoor temperature, which inputs may follow."),
  spaceTypes: records(spaceTypeSchema),
  deviceLists: records(deviceListSchema).describe("Lists of devices that give a room's appliances."),
  drawPoints: records(drawPointSchema).describe("Where hot water is drawn, besides what is drawn per person."),
  siteLights: records(siteLightSchema).describe("Exterior lighting."),
  rules: z.array(ruleSchema).max(500).describe("They fill inputs across the building, below what is typed on a thing and above its type; later ones win."),
  groups: records(groupSchema, 500).optional().describe("Groups of zones, for reading results; no figure depends on them."),
  derived: records(derivedSchema, 500).optional().describe("Series computed from others, for reading results."),
  outlines: records(reportOutlineSchema, 200).optional().describe("Outlines of reports, which are made of any run."),
  studies: records(studySchema, 200).optional().describe("Studies over many inputs at once; their runs are stored beside the project."),
  compliance: complianceInputSchema.optional().describe("How the project is submitted under a code; absent: all of it under the first pack."),
  packs: records(packSchema, 20).optional().describe("Codes and ratings made here, by id."),
  points: records(pointSchema, 500).optional().describe("Sensors, meters and commands of which readings are stored."),
  drives: records(driveSchema, 500).optional().describe("Points that take the place of inputs for a period."),
  pairs: z.array(pairSchema).max(500).optional().describe("Points beside series of the run."),
  measures: z.array(measureSchema).max(60).optional().describe("Measures in order, for the staircase from the base."),
  values: records(
    z.strictObject({
      name: text(64)
        .regex(/^[A-Za-z][A-Za-z0-9_]*$/, "it is one word of letters, digits and _, and begins with a letter")
        .describe("Its name in expressions."),
      value: z.number().min(-1e12).max(1e12).describe("Value in its own unit."),
      unit: text(40).describe("Unit of the value; 1: none."),
      note: text(500).optional(),
    }),
  ).describe("Named values that expressions may use."),
  known: z
    .strictObject({
      area: above(1, 1e7).nullable().describe("Floor area of the whole building, m²; null: what is modelled is all of it."),
      headcount: z.number().min(0).max(1e7).nullable().describe("People in the whole building at full occupancy; null: not known."),
      lighting: z.number().min(0).max(1e10).nullable().describe("Lighting energy of the whole building in a year, kWh; null: not known."),
      appliances: z.number().min(0).max(1e10).nullable().describe("Energy of equipment of the whole building in a year, kWh; null: not known."),
    })
    .describe("What is known of the whole building, to be spread over the spaces that ask for their share."),
  services: records(servicesSchema),
  airSystems: records(airSystemSchema).describe("Air systems, which the terminals of zones draw from."),
  loops: records(loopSchema).describe("Loops of heating and chilled water with their sources."),
  waterSystems: records(waterSystemSchema, 200).describe("Hot water for the taps; zones without one have that of their plain services."),
  onSite: records(onSiteSchema, 500).describe("Electricity made and stored on site."),
  defaults: z.strictObject({ kit: id, services: id }).describe("What the whole project uses unless said otherwise."),
  sizingDays: z
    .record(text(500), text(64))
    .optional()
    .describe("Design day a quantity is sized by, by the address of its setting; others by the worst of all days."),
  designDays: z.array(designDaySchema).max(60).optional().describe("Days that systems are sized for; absent: those found in the weather year."),
  prices: pricesSchema,
  factors: factorsSchema,
  options: records(
    z.strictObject({
      name,
      changes: z.array(optionChangeSchema).max(20000),
      on: id.optional().describe("The option it stands on; absent: the base."),
      meant: z.array(text(500)).max(2000).optional().describe("Addresses, ids joined by /, in which it is meant to differ from what it is compared with."),
    }),
  ).superRefine((options, context) => {
    for (const [key, o] of Object.entries(options)) {
      const seen = new Set([key]);
      for (let at = o.on; at !== undefined; at = options[at].on) {
        const gone = !Object.hasOwn(options, at);
        if (gone || seen.has(at)) {
          context.addIssue({ code: "custom", path: [key, "on"], message: gone ? `there is no option "${at}" for it to stand on` : "it stands on itself" });
          break;
        }
        seen.add(at);
      }
    }
  }),
  evidence: z
    .record(text(500), evidenceSchema)
    .refine((r) => Object.keys(r).length <= 20000, { message: "It has room for at most 20000 entries" })
    .describe("Evidence for typed values, by address joined with /."),
  starter: z
    .strictObject({
      use: text(40),
      level: text(40),
      zone: text(8).describe("Thermal climate zone it was made for."),
      pack: text(64),
      kit: id.nullable(),
      spaceType: id.nullable(),
      services: id.nullable(),
    })
    .optional()
    .describe("The starter set last taken, so that what no longer fits can be told; absent: none."),
  provenance: z
    .record(
      text(500),
      z.strictObject({
        kind: z.enum(["code", "sized", "imported", "calibrated"]),
        words: text(500).describe("The clause, the run or the file it comes from."),
        value: z.union([z.number(), z.string().max(2000), z.null()]).describe("The value it was; where the value is another now, it holds no more."),
      }),
    )
    .refine((r) => Object.keys(r).length <= 20000, { message: "It has room for at most 20000 entries" })
    .describe("Where values come from that were not typed, by address joined with /."),
  run: runSchema,
});

export type Project = z.infer<typeof projectSchema>;
export type Space = Project["spaces"][string];
export type Zone = Project["zones"][string];
export type Storey = Project["storeys"][string];
export type Opening = z.infer<typeof openingSchema>;
export type Shade = z.infer<typeof shadeSchema>;
export type Material = z.infer<typeof materialSchema>;
export type Assembly = z.infer<typeof assemblySchema>;
export type Surrounding = z.infer<typeof surroundingSchema>;
export type Layer = Assembly["layers"][number];
export type Glazing = z.infer<typeof glazingSchema>;
export type Kit = z.infer<typeof kitSchema>;
export type Schedule = z.infer<typeof scheduleSchema>;
export type SpaceType = z.infer<typeof spaceTypeSchema>;
export type Services = z.infer<typeof servicesSchema>;
export type Orientation = z.infer<typeof orientation>;
export type Roof = z.infer<typeof roofSchema>;
export type Underlay = z.infer<typeof underlaySchema>;
export type Corner = z.infer<typeof cornerSchema>;
/** An opening by rule on many walls. */
export type WallRule = Extract<Opening, { kind: "ratio" | "repeated" }>;

/** JSON Schema (draft 2020-12) of the project document. */
export function projectJsonSchema(): unknown {
  return z.toJSONSchema(projectSchema, { io: "input" });
}
