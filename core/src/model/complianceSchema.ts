import { z } from "zod";
import { scopeParts } from "./packSchema.ts";
import { fuels } from "./priceSchema.ts";
import { id, text } from "./schemaParts.ts";

export const workKinds = ["new building", "addition", "alteration"] as const;
export type WorkKind = (typeof workKinds)[number];
export const compliancePaths = ["prescriptive", "performance"] as const;
export type CompliancePath = (typeof compliancePaths)[number];

/** How the project is submitted under a code: what is asked for, what a person attests, and who signs. No figure of a run depends on it. */
export const complianceInputSchema = z.strictObject({
  pack: text(64).describe("Id of the pack: one that ships, or one of the project's own."),
  path: z.enum(compliancePaths),
  work: z.enum(workKinds),
  parts: z.array(z.enum(scopeParts)).max(scopeParts.length).describe("Parts submitted; the others are equal in both buildings."),
  spaces: z.array(id).max(20000).optional().describe("Spaces submitted; absent: all of them."),
  climateZone: text(10).nullable().describe("Climate zone, typed; null: from the weather year."),
  fuels: z.array(z.enum(fuels)).max(fuels.length).optional().describe("Fuels of the site; absent: those the design uses."),
  uses: z.record(id, text(64)).optional().describe("Use of the pack by space type; absent: suggested by its name."),
  spaceUses: z.record(id, text(64)).optional().describe("Use of the pack by space, over that of its type."),
  attested: z
    .record(text(64), z.strictObject({ by: text(120), date: text(20), note: text(500).optional() }))
    .optional()
    .describe("Rows attested by hand, by their id in the pack."),
  exceptions: z.record(text(600), text(500)).optional().describe("Reason for which a failed row is excepted, by the row."),
  receipts: z
    .array(z.strictObject({ id, receipt: text(120), at: text(40), hash: text(128), pack: text(64) }))
    .max(100)
    .optional()
    .describe("What a registry answered, in order."),
  signed: z
    .strictObject({ prepared: text(120).optional(), checked: text(120).optional(), date: text(20).optional(), licence: text(120).optional() })
    .optional()
    .describe("Sign-off fields of the certificate."),
});
export type ComplianceInput = z.infer<typeof complianceInputSchema>;
