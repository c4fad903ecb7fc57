import { z } from "zod";
import { coordinate, dimension, host, id, name, records } from "./schemaParts.ts";

export const pointSchema = z.strictObject({
  id: id.describe("Id of the plan edge that starts at this point."),
  x: coordinate().describe("Plan x, m, to the right of the plan."),
  y: coordinate().describe("Plan y, m, to the top of the plan."),
});

export const prismSchema = z.strictObject({
  kind: z.literal("prism"),
  outline: z.array(pointSchema).min(3).max(1000).describe("Corners in plan, counter-clockwise; each names the edge to the next corner."),
  floor: id.describe("Id of the floor, to which overrides attach."),
  ceiling: id.describe("Id of the ceiling, to which overrides attach."),
  base: z.number().min(-1000).max(1000).optional().describe("Height of the floor above the storey's level, m. Absent: 0."),
  height: dimension(200).optional().describe("Floor to ceiling, m. Absent: the storey's height."),
  roof: id.optional().describe("Roof its top follows in place of a flat ceiling."),
});

export const orientation = z.enum(["north", "east", "south", "west"]);
const wallHost = host("The side it lies in, as space/edge or space/face.");
export const cornerSchema = z.tuple([coordinate(), coordinate(), coordinate()]);

/** Image an outline is traced over. */
export const underlaySchema = z.strictObject({
  image: z
    .string()
    .regex(/^[0-9a-f]{16,64}$/)
    .describe("Name of the stored image."),
  name,
  x: coordinate().describe("Plan x of its lower left corner, m."),
  y: coordinate().describe("Plan y of its lower left corner, m."),
  width: dimension(20000).describe("Width in plan, m."),
  height: dimension(20000).describe("Height in plan, m."),
  angle: z.number().min(-360).max(360).describe("Turn about its lower left corner, degrees counter-clockwise."),
  opacity: z.number().min(0).max(1).describe("Share of 1."),
});

/** Roof over an outline; its planes start at the eaves. */
export const roofSchema = z.strictObject({
  name,
  storey: id,
  kind: z.enum(["flat", "shed", "gable", "hip"]),
  outline: z.array(pointSchema).min(3).max(1000).describe("Outline in plan it covers, counter-clockwise."),
  eaves: z.number().min(0).max(200).describe("Height of the eaves above the storey's level, m."),
  pitch: z.number().min(0).max(75).describe("Slope of its planes from the horizontal, degrees; a flat roof has none."),
  direction: z.number().min(-360).max(360).describe("Shed: plan direction in which it falls; gable: of its ridge; degrees clockwise from the top of the plan."),
});

export const freeFacesSchema = z.strictObject({
  kind: z.literal("faces"),
  faces: records(
    z.strictObject({
      ring: z.array(cornerSchema).min(3).max(500).describe("Corners x, y, z in m, counter-clockwise seen from outside."),
    }),
  ),
});

const operable = z.number().min(0).max(1).optional().describe("Share of the opening that can be opened as free area, 1. Absent: 0.");

/** Which walls a record is about. */
const wallsSchema = {
  orientation: orientation.nullable().describe("Outdoor walls facing within 45° of this true direction; null: every direction."),
  storey: id.nullable().describe("Only walls of this storey; null: every storey."),
  space: id.nullable().describe("Only walls of this space; null: every space."),
  host: host("Only this side, as space/edge; null or absent: every one.").nullable().optional(),
};

export const openingSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("ratio"),
    name,
    ...wallsSchema,
    ratio: z.number().min(0).max(0.98).describe("Opening area over outdoor wall area, 1."),
    sill: z.number().min(0).max(50).describe("Preferred sill above the floor, m; lowered where the ratio needs it."),
    height: dimension(50).describe("Preferred height of the opening, m; raised where the ratio needs it."),
    glazing: id.nullable().describe("Glazing; null: from the envelope kit."),
    operable,
  }),
  z.strictObject({
    kind: z.literal("repeated"),
    name,
    ...wallsSchema,
    width: dimension(100).describe("Width of one, m."),
    height: dimension(50).describe("Height of one, m."),
    sill: z.number().min(0).max(50).describe("Height above the floor of the space, m."),
    spacing: z.number().positive().min(0.1).max(100).describe("From middle to middle, m; as many as fit stand about the middle of each wall."),
    glazing: id.nullable().describe("Glazing; null: from the envelope kit."),
    operable,
  }),
  z.strictObject({
    kind: z.literal("skylight"),
    name,
    host: host("The roof it lies in, as space/ceiling."),
    x: coordinate().describe("Plan x of its middle, m."),
    y: coordinate().describe("Plan y of its middle, m."),
    width: dimension(100).describe("Along plan x, m."),
    depth: dimension(100).describe("Along plan y, m."),
    glazing: id.nullable().describe("Glazing; null: from the envelope kit."),
    operable,
  }),
  z.strictObject({
    kind: z.literal("outline"),
    name,
    host: wallHost,
    use: z.enum(["window", "door"]),
    ring: z.array(cornerSchema).min(3).max(500).describe("Corners x, y, z in m in the plane of its face, counter-clockwise seen from outside."),
    glazing: id.nullable().describe("Glazing of a window or assembly of a door; null: from the envelope kit."),
    operable,
  }),
  z.strictObject({
    kind: z.literal("placed"),
    name,
    host: wallHost,
    use: z
      .enum(["window", "door", "opening"])
      .describe("A door may lie in an outdoor wall or between two spaces; an opening is a way through an inner wall without a door leaf."),
    offset: z.number().min(0).max(20000).describe("Distance from the start of the edge to the opening, m."),
    sill: z.number().min(0).max(200).describe("Height above the floor of the space, m."),
    width: dimension(1000).describe("Width, m."),
    height: dimension(200).describe("Height, m."),
    glazing: id.nullable().describe("Glazing of a window or assembly of a door; null: from the envelope kit."),
    operable,
  }),
]);

const transmittance = z.array(z.number().min(0).max(1)).length(12).describe("Share of sun let through, by month, 1. Absent: none.");
const transmittanceSchedule = id.nullable().describe("Schedule of the share of sun let through, hour by hour, in place of the months. Null or absent: none.");
/** What a shading device lets through. */
const through = { transmittance: transmittance.optional(), transmittanceSchedule: transmittanceSchedule.optional() };

const shadeTarget = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("opening"), opening: id.describe("Every opening this record makes.") }),
  z.strictObject({ kind: z.literal("orientation"), orientation, storey: id.nullable() }),
  z.strictObject({ kind: z.literal("wall"), host: host("Openings in this side, as space/edge.") }),
]);
const extent = (what: string) => z.number().min(0).max(30).describe(`${what}, m.`);

export const shadeSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("overhang"),
    name,
    target: shadeTarget,
    depth: extent("How far it stands out from the wall"),
    gap: extent("From the head of the opening up to the overhang"),
    extension: extent("How far it reaches past each side of the opening"),
    ...through,
  }),
  z.strictObject({
    kind: z.literal("fins"),
    name,
    target: shadeTarget,
    sides: z.enum(["left", "right", "both"]).describe("Seen from outside."),
    depth: extent("How far they stand out from the wall"),
    gap: extent("From the side of the opening to the fin"),
    extension: extent("How far they reach above the head and below the sill"),
    ...through,
  }),
  z.strictObject({
    kind: z.literal("louvres"),
    name,
    target: shadeTarget,
    count: z.number().int().min(1).max(60).describe("Blades over the height of the opening."),
    depth: extent("Width of a blade"),
    gap: extent("From the wall to the blades"),
    angle: z.number().min(-85).max(85).describe("Slope of the blades down to outside, degrees."),
    ...through,
  }),
  z.strictObject({
    kind: z.literal("plate"),
    name,
    host: host("The side it stands on, as space/edge."),
    from: z.number().min(0).max(1000).describe("From the start of the side, m."),
    to: z.number().min(0).max(1000).describe("To, from the start of the side, m."),
    level: z.number().min(-50).max(200).describe("Above the floor of the space, m."),
    depth: extent("How far it stands out from the wall"),
    ...through,
  }),
  z.strictObject({
    kind: z.literal("plane"),
    name,
    ring: z.array(cornerSchema).min(3).max(60).describe("Corners x, y, z in m, in one plane."),
    ...through,
  }),
]);

/** What stands around the building; all of it casts shade. Plan coordinates, m. */
export const surroundingSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("block"),
    name,
    x: coordinate().describe("Plan x of its middle, m."),
    y: coordinate().describe("Plan y of its middle, m."),
    width: dimension(1000).describe("m."),
    depth: dimension(1000).describe("m."),
    angle: z.number().min(-360).max(360).describe("Turn in plan, degrees counter-clockwise."),
    base: z.number().min(-100).max(1000).describe("Level of its underside, m."),
    height: dimension(1000).describe("m."),
  }),
  z.strictObject({
    kind: z.literal("tree"),
    name,
    x: coordinate().describe("Plan x of the trunk, m."),
    y: coordinate().describe("Plan y of the trunk, m."),
    crown: dimension(100).describe("Width of the crown, m."),
    base: z.number().min(0).max(100).describe("Level of the crown's underside, m."),
    height: dimension(150).describe("Height of the crown, m."),
    transmittance,
    transmittanceSchedule: transmittanceSchedule.optional(),
  }),
]);
