import { z } from "zod";
import { changeSchema, issueProblem } from "@arroyo/core";
import { jsonBody, Refusal, reply, saveRevision } from "../../../../../server/index.ts";

const body = z.strictObject({
  base: z.number().int().min(1).max(2147483647),
  saveId: z
    .string()
    .regex(/^[A-Za-z0-9-]{1,64}$/)
    .optional(),
  edits: z
    .array(z.strictObject({ name: z.string().max(2000), changes: z.array(changeSchema).min(1).max(100000) }))
    .min(1)
    .max(100000),
});

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  reply(async () => {
    const parsed = body.safeParse(await jsonBody(request), { reportInput: true });
    if (!parsed.success) {
      const { path, message } = issueProblem(parsed.error.issues[0]);
      throw new Refusal(400, `The edits cannot be read: ${path === "" ? "" : `${path}: `}${message}`);
    }
    const { base, edits, saveId } = parsed.data;
    return saveRevision((await params).id, base, edits, saveId ?? null);
  });
