import { z } from "zod";
import { above, fromSchema, id, name, share, text } from "./schemaParts.ts";

/** Devices of a room, each row as its data sheet gives it. */
export const deviceListSchema = z.strictObject({
  name,
  devices: z
    .array(
      z.strictObject({
        id,
        name,
        number: z.number().min(0).max(10000).describe("How many there are in each space."),
        power: z.number().min(0).max(1e6).describe("Power while running, each, W."),
        standby: z.number().min(0).max(1e6).describe("Power while not running, each, W."),
        running: share("Share of the time in use in which it runs"),
        sensible: share("Share of its power that becomes sensible heat in the room"),
        latent: share("Share of its power that becomes water vapour in the room; the rest leaves"),
      }),
    )
    .max(200),
  source: text(500).optional().describe("Where the figures come from."),
  from: fromSchema,
});

const drawPointBase = {
  name,
  schedule: id.nullable().describe("How the draw is spread over the year; null: evenly."),
  space: id.nullable().describe("Where the water is drawn, so where its heat stays; null: over all spaces by floor area."),
  sensible: share("Share of the heat of the water that stays in the room as sensible heat"),
  latent: share("Share of the heat of the water that stays in the room as vapour; the rest leaves by the drain"),
  temperature: z.number().min(20).max(95).nullable().optional().describe("Temperature wanted at the tap, °C; null or absent: that of what serves it."),
};
/** Points at which hot water is drawn. */
export const drawPointSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("known"),
    ...drawPointBase,
    of: z.enum(["energy", "volume"]).describe("What is known of a year: the heat in the water drawn, kWh, or its volume, m³."),
    yearly: z.number().min(0).max(1e9).describe("That of the whole building in a year, kWh or m³."),
    area: above(1, 1e7).describe("Floor area of the whole building it is known for, m²."),
    modelled: above(0.1, 1e7).nullable().describe("Floor area that is modelled, m²; null: that of the model's spaces."),
  }),
  z.strictObject({
    kind: z.literal("fixtures"),
    ...drawPointBase,
    fixtures: z
      .array(
        z.strictObject({
          id,
          name,
          litres: z.number().min(0).max(10000).describe("Hot water of one use, L."),
          uses: z.number().min(0).max(1000).describe("Uses a day of each user."),
          users: z.number().min(0).max(1e6).describe("How many use it."),
        }),
      )
      .max(200),
  }),
  z.strictObject({
    kind: z.literal("taps"),
    ...drawPointBase,
    taps: z
      .array(
        z.strictObject({
          id,
          name,
          number: z.number().min(0).max(100000).describe("How many there are."),
          flow: z.number().min(0).max(10).describe("Mixed water through one of them at full draw, m³/s."),
        }),
      )
      .max(200)
      .describe("The schedule says which share of their full draw runs in each hour."),
    people: above(0.1, 1e7).nullable().describe("People this set is made for: with more or fewer where it stands it grows in proportion; null: as it is."),
  }),
]);

/** Lighting outside of the building. */
export const siteLightSchema = z.strictObject({
  name,
  power: z.number().min(0).max(1e7).describe("Installed power, W."),
  control: z.enum(["dusk", "schedule"]).describe("On while the sun is down, or by the schedule alone."),
  schedule: id.nullable().describe("Share in use; with dusk it acts while the sun is down. null: always."),
});

const ruleTargets = ["space", "zone", "face", "opening", "component"] as const;
export type RuleTarget = (typeof ruleTargets)[number];
export const ruleConditionOn = ["spaceType", "storey", "orientation", "name", "tag", "zone", "role", "system"] as const;
export type RuleConditionOn = (typeof ruleConditionOn)[number];
/** One condition of a rule or a group. */
export const conditionSchema = z.strictObject({
  id,
  on: z.enum(ruleConditionOn),
  not: z.boolean().describe("Whether the condition is turned round."),
  is: z.array(text(200)).max(200).describe("Ids, or directions, or words a name contains; one of them is enough."),
});
/** Zones that are read together. */
export const groupSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("by hand"), name, zones: z.array(id).max(5000).describe("Its zones; those that are gone count no more.") }),
  z.strictObject({
    kind: z.literal("by rule"),
    name,
    conditions: z.array(conditionSchema).max(20).describe("All of them hold for its zones; none: every zone."),
  }),
]);
export const ruleSchema = z.strictObject({
  id,
  name,
  on: z.boolean().describe("Whether it acts."),
  target: z.enum(ruleTargets).describe("Kind of thing it fills an input of."),
  field: text(64).describe("The input it fills; of a component its kind, a dot and the setting, such as terminal.flow."),
  conditions: z.array(conditionSchema).max(20).describe("All of them must hold; none: it acts on every thing of its kind."),
  value: text(2000).describe("An expression with units, or what is chosen: an id, a choice, or none."),
});
export type Rule = z.infer<typeof ruleSchema>;

export type RuleCondition = z.infer<typeof conditionSchema>;
export type Group = z.infer<typeof groupSchema>;
export type DeviceList = z.infer<typeof deviceListSchema>;
export type Device = DeviceList["devices"][number];
export type DrawPoint = z.infer<typeof drawPointSchema>;
export type SiteLight = z.infer<typeof siteLightSchema>;
