import { z } from "zod";
import { subjects, type SubjectKind } from "./packNames.ts";
import { fuels } from "./priceSchema.ts";
import { componentKinds, type ComponentKind } from "./serviceFields.ts";

const words = z.string().min(1).max(500);
const clause = z.string().min(1).max(40);
const unverified = z.boolean().optional().describe("To be checked: from memory, not read from the document it is cited from.");
/** A value with its unit and the clause it stands in. */
const limit = z.strictObject({ value: z.number().min(-1e9).max(1e9).describe("Value in its unit."), unit: z.string().max(40), clause, unverified });
export type Limit = z.infer<typeof limit>;

export const envelopeParts = ["exteriorWall", "roof", "groundFloor", "exposedFloor"] as const;
export type EnvelopePart = (typeof envelopeParts)[number];
export const letters = ["A", "B", "C", "D", "E", "F", "G"] as const;
export type Letter = (typeof letters)[number];
/** Parts of a submission: what is not submitted is equal in both buildings. */
export const scopeParts = ["envelope", "lighting", "services", "hot water"] as const;
export type ScopePart = (typeof scopeParts)[number];
export const ratingMeasures = ["cost", "carbon", "primary energy", "hourly value"] as const;
export type RatingMeasure = (typeof ratingMeasures)[number];

const expression = z.string().min(1).max(500).describe("Expression, as of a rule.");
const name = z.string().regex(/^[a-z][a-z0-9_]*$/, "it is one word of small letters, digits and _, and begins with a letter");

/** A named value of a pack: one number, one a climate zone, or a formula over others. */
const packValue = z.strictObject({
  label: words,
  unit: z.string().max(40),
  clause,
  unverified,
  value: z.number().optional().describe("Value in its unit."),
  byZone: z.record(z.string(), z.number().describe("Value in its unit.")).optional().describe("Value by climate zone."),
  formula: expression.optional(),
});

/** A row of the check: a quantity of every thing of a kind beside its limit. */
const check = z.strictObject({
  id: name,
  clause,
  kind: z.enum(["mandatory", "prescriptive"]),
  part: z.enum(scopeParts).nullable().describe("Part of the submission it belongs to; null: always checked."),
  of: z.enum(Object.keys(subjects) as [SubjectKind, ...SubjectKind[]]),
  quantity: z.string(),
  rule: z.enum(["at most", "at least"]),
  limit: expression,
  when: expression.optional().describe("Condition under which it is asked."),
  unverified,
});
export type PackCheck = z.infer<typeof check>;

/** A setting of every component of a kind in a system of the reference. */
const setting = z.strictObject({
  of: z.enum(componentKinds as unknown as [ComponentKind, ...ComponentKind[]]),
  field: z.string(),
  value: z.union([z.number().describe("Value in the unit of the field."), expression]).describe("A number, an expression, or one of the field's words."),
  when: expression.optional().describe("Condition; absent: always."),
  clause,
});
export type PackSetting = z.infer<typeof setting>;
/** Systems and plants by plain description, by the names Services makes them under. */
export const arrangements = ["variable", "constant", "variable refrigerant", "single", "fan coils", "split units", "slabs", "baseboards"] as const;
export const plants = ["boiler and chiller", "heat pump and chiller", "district"] as const;
/** One row of the system map: the first whose condition holds is taken. */
const systemRow = z.strictObject({
  id: name,
  name: words,
  clause,
  when: expression.optional().describe("Condition; absent: always."),
  arrangement: z.enum(arrangements).describe("System by plain description, as Services makes it."),
  plant: z.enum(plants).describe("Plant by plain description."),
  recovery: z.boolean().optional().describe("Its air systems get heat recovery also where the arrangement has none."),
  per: z.enum(["building", "storey", "zone"]).describe("What gets a system of its own."),
  set: z.array(setting).max(60),
  unverified,
});
export type SystemRow = z.infer<typeof systemRow>;

const hourlyProfile = z
  .array(z.number().describe("Value of a kWh."))
  .refine((v) => v.length === 288 || v.length === 8760, "it has 288 values, 24 hours for each month, or 8,760")
  .describe("288 values, the hours of a day for each month, or 8,760.");

/** A code or rating as data: every value with its clause. */
export const packSchema = z.strictObject({
  formatVersion: z.literal(2).describe("Version of this layout."),
  id: name,
  name: words,
  edition: words,
  version: z.string().min(1).max(20).describe("Version of these data."),
  jurisdiction: words,
  about: z.string().max(1000),
  clauses: z.record(z.string(), z.string().max(1000)).describe("What each clause says, by its number."),
  climateZones: z
    .record(
      z.string(),
      z.strictObject({
        u: z.strictObject({ exteriorWall: limit, roof: limit, groundFloor: limit, exposedFloor: limit }),
        glazingU: limit,
        glazingG: limit,
      }),
    )
    .describe("Envelope limits by thermal climate zone."),
  windowShare: limit.describe("Largest share of the outdoor walls that may be glazed."),
  skylightShare: limit.optional().describe("Largest share of the roofs that may be skylights."),
  values: z.record(name, packValue).describe("Named values that expressions use."),
  uses: z
    .array(
      z.strictObject({
        id: name,
        name: words,
        words: z.array(z.string()).describe("Words in the name of a space type that suggest this use; none: any other."),
        residential: z.boolean().optional(),
        lighting: limit,
        appliances: limit,
        outdoorAirPerPerson: limit.optional(),
        outdoorAirPerArea: limit.optional(),
        outdoorAirSource: z.string().max(200).optional().describe("Where the outdoor air of the use comes from."),
      }),
    )
    .min(1),
  checks: z.array(check).max(200),
  attested: z
    .array(z.strictObject({ id: name, clause, part: z.enum(scopeParts).nullable(), words: z.string().min(1).max(500) }))
    .max(100)
    .describe("What a person must attest, since no model shows it."),
  daylight: z.strictObject({ clause, over: limit }).nullable().describe("Control of lighting by daylight: asked where more than this hangs in a daylit area."),
  services: z
    .strictObject({
      heatingFuel: z.enum(fuels),
      heating: limit,
      coolingFuel: z.enum(fuels),
      cooling: limit,
      fanPower: limit,
      heatRecovery: limit,
      hotWaterFuel: z.enum(fuels),
      hotWater: limit,
      hotWaterElectric: limit.describe("Efficiency of hot water by electricity, where the site has not the fuel above."),
    })
    .describe("Plain services of the starter set; of the reference the hot water, and the rest where the map has no system."),
  reference: z.strictObject({
    shading: z.strictObject({ clause }).nullable().describe("The reference building has no shading devices; null: as designed."),
    airChanges: limit.nullable().describe("Infiltration of the reference building; null: as designed."),
    equipment: z.enum(["of the use", "as designed"]),
    systems: z.array(systemRow).max(60).describe("In order; the first whose condition holds for a part of the building is taken."),
    sizing: z.strictObject({ heating: limit, cooling: limit }).nullable().describe("Sizing factors of the reference building."),
    orientations: z
      .strictObject({ turns: z.array(z.number().describe("Turn of the plan, degrees.")).min(1).max(8), clause })
      .nullable()
      .describe("Turns over which the reference building is averaged; null: as it stands."),
  }),
  performance: z.strictObject({
    measure: z.enum(ratingMeasures),
    clause,
    target: expression.describe("Largest index that passes; 100: equal to the reference building."),
    primary: z.partialRecord(z.enum(fuels), limit).optional().describe("Primary energy factors by fuel; absent: the project's."),
    carbon: z.partialRecord(z.enum(fuels), limit).optional().describe("Emission factors by fuel, kg CO₂e per kWh; absent: the project's."),
    hourly: z
      .array(
        z.strictObject({
          zones: z.array(z.string()).min(1),
          name: words,
          unit: z.string().max(20),
          clause,
          byFuel: z.partialRecord(z.enum(fuels), hourlyProfile),
        }),
      )
      .optional()
      .describe("Hourly values of a kWh by climate zone and fuel."),
    unmet: z.strictObject({ most: limit, apart: limit }).describe("Hours unmet of either building at most, and how far they may lie apart."),
    rating: z.discriminatedUnion("kind", [
      z.strictObject({ kind: z.literal("none") }),
      z.strictObject({
        kind: z.literal("letters"),
        by: z.enum(["measure per area", "index"]),
        steps: z.array(z.strictObject({ letter: z.enum(letters), upTo: limit })).min(1),
      }),
      z.strictObject({
        kind: z.literal("points"),
        steps: z.array(z.strictObject({ upTo: limit, points: z.number().describe("Points.") })).min(1),
      }),
    ]),
  }),
});
export type Pack = z.infer<typeof packSchema>;
