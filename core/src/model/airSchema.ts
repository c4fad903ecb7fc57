import { z } from "zod";
import { above, host, id, name, records, share, text } from "./schemaParts.ts";

/** Air that leaks through each m² of a façade at 50 Pa, m³/h: classes of building practice (typical, unverified). */
export const leakageClasses = { "very tight": 0.6, tight: 2, usual: 5, leaky: 10, "very leaky": 20 } as const;
export type LeakageClass = keyof typeof leakageClasses;
const classNames = Object.keys(leakageClasses) as [LeakageClass, ...LeakageClass[]];
/** Parts of the envelope whose leakage has a class of its own. */
export const leakageParts = ["north", "east", "south", "west", "roof", "floor", "inside"] as const;
export type LeakagePart = (typeof leakageParts)[number];
const leakageClass = (of: string) => z.enum(classNames).optional().describe(`Leakage class of ${of}; absent: usual.`);

/** What opens an opening of the network. */
export const openingRules = ["windows of the space", "constant", "temperature", "temperature difference", "carbon dioxide", "schedule"] as const;
export type OpeningRule = (typeof openingRules)[number];

const control = z.strictObject({
  rule: z
    .enum(openingRules)
    .describe(
      "By the window inputs of its space; always; above an indoor temperature; where the room is warmer than outdoors by a difference; above a concentration; by the values of a schedule.",
    ),
  share: share("How far it opens, of its free area").optional(),
  above: z
    .number()
    .min(-50)
    .max(10000)
    .optional()
    .describe(
      "Limit by which it opens: °C, K or ppm. It opens 0.5 K (a tenth of the ppm) above it and closes at it; by temperature as far as it is above, all of it from 2 K on. Absent: 24 °C, 2 K or 1000 ppm.",
    ),
  schedule: id.nullable().optional().describe("Of the rule by schedule its share; of the others when it may open (0.5 or more); null or absent: always."),
  outdoorLeast: z.number().min(-60).max(60).nullable().optional().describe("Closed when it is colder outdoors, °C; null or absent: no limit."),
  outdoorMost: z.number().min(-60).max(60).nullable().optional().describe("Closed when it is warmer outdoors, °C; null or absent: no limit."),
  windMost: z.number().min(0).max(60).nullable().optional().describe("Closed in stronger wind at 10 m, m/s; null or absent: no limit."),
});
export type OpeningControl = z.infer<typeof control>;

/** A way to open that many openings share. */
export const openingTypeSchema = z.strictObject({
  name,
  discharge: above(0.05, 1).optional().describe("Discharge coefficient, 1; absent: 0.6."),
  free: share("Free area when it is fully open, of the opening").optional(),
  control,
});
export type OpeningType = z.infer<typeof openingTypeSchema>;

const own = {
  type: id.nullable().optional().describe("Opening type; null or absent: what is usual for its kind."),
  discharge: above(0.05, 1).optional().describe("Discharge coefficient, 1; absent: of its type."),
  control: control.optional().describe("How it opens; absent: as its type says."),
};
/** Where a shaft or fan ends: a zone, or outdoors. */
const end = z.strictObject({
  zone: id.nullable().describe("The zone; null: outdoors."),
  host: host("Outdoors: the face whose wind pressure it feels, as space/edge; absent: none, sheltered from wind.").optional(),
});
export type LinkEnd = z.infer<typeof end>;

export const airLinkSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("opening"),
    name,
    opening: text(300).describe("The window or door: the key of its face and its record, with | between; equal windows of one record in one face are one."),
    free: share("Free area when it is fully open, of the opening").optional(),
    ...own,
  }),
  z.strictObject({
    kind: z.literal("grille"),
    name,
    host: host("The face it lies in, as space/edge."),
    level: z.number().min(0).max(200).describe("Middle above the floor of the space, m."),
    area: above(1e-4, 200).describe("Free area, m²."),
    ...own,
  }),
  z.strictObject({
    kind: z.literal("floor opening"),
    name,
    host: host("The ceiling it goes through, as space/ceiling id."),
    area: above(1e-4, 20000).describe("Free area, m²; at most that of the floor it goes through."),
    ...own,
  }),
  z.strictObject({
    kind: z.literal("shaft"),
    name,
    from: end,
    to: end,
    bottom: z.number().min(-200).max(1000).describe("Level of its lower end, m above ground."),
    top: z.number().min(-200).max(1000).describe("Level of its upper end, m above ground."),
    area: above(1e-4, 200).describe("Cross-section, m²."),
    loss: above(0.1, 1000).describe("Sum of its pressure loss coefficients, 1."),
    ...own,
  }),
  z.strictObject({
    kind: z.literal("fan"),
    name,
    from: end,
    to: end,
    level: z.number().min(-200).max(1000).describe("Level, m above ground."),
    flow: above(1e-4, 1000).describe("Air moved against no pressure, m³/s."),
    pressure: above(1, 5000).describe("Pressure at which it moves none, Pa."),
    schedule: id.nullable().describe("Share of its speed; null: always on."),
  }),
]);
export type AirLink = z.infer<typeof airLinkSchema>;

const tableSchema = z.strictObject({
  reference: above(0.5, 1000).describe("Height whose undisturbed wind the coefficients are for, m above ground."),
  directions: z.array(z.number().min(0).max(359.999)).min(2).max(72).describe("Directions the wind comes from, degrees from north, rising."),
  points: z
    .array(
      z.strictObject({
        name: text(200).describe("Façade point, as the table of points names it."),
        coefficients: z.array(z.number().min(-8).max(2)).min(2).max(72).describe("Wind pressure coefficient by direction, 1."),
      }),
    )
    .max(4000),
  source: text(300).optional().describe("Where the figures come from."),
  shape: text(64).optional().describe("Of a flow study: hash of the building shape that was studied; absent: typed or read from a file."),
  grid: z
    .strictObject({
      cell: above(0.01, 100).describe("Cell of the grid, m."),
      check: z.number().min(0).max(10).nullable().describe("Mean difference to a grid of cells half as large again, 1; null: not made."),
    })
    .optional()
    .describe("Of a flow study: its grid."),
});
export type PressureTable = z.infer<typeof tableSchema>;

export const airNetworkSchema = z.strictObject({
  use: z.boolean().describe("Whether the year runs with it; false: with the simple model."),
  zones: z.array(id).max(5000).describe("Zones that take part; the others keep the simple model."),
  leakage: z
    .strictObject({
      north: leakageClass("walls to the north"),
      east: leakageClass("walls to the east"),
      south: leakageClass("walls to the south"),
      west: leakageClass("walls to the west"),
      roof: leakageClass("roofs"),
      floor: leakageClass("floors over outdoors"),
      inside: leakageClass("inner walls and floors"),
    })
    .describe("Leakage by façade."),
  cracks: records(
    z.strictObject({
      host: host("The face, as space/edge."),
      leakage: z.number().min(0).max(1000).describe("Air that leaks through each m² at 50 Pa, m³/h."),
    }),
  )
    .optional()
    .describe("Faces whose leakage is known."),
  types: records(openingTypeSchema, 200),
  links: records(airLinkSchema),
  pressures: z.enum(["formula", "table", "flow study"]).describe("Where wind pressures come from."),
  table: tableSchema.optional().describe("Wind pressure coefficients by façade point, typed or read from a file."),
  study: tableSchema.optional().describe("Those of the flow study."),
  outdoorCarbonDioxide: z.number().min(200).max(2000).optional().describe("Carbon dioxide outdoors, ppm; absent: 420."),
});
export type AirNetworkInput = z.infer<typeof airNetworkSchema>;
