import { z } from "zod";
import { changeSchema } from "@arroyo/core";
import { jsonBody, Refusal, reply, saveRevision } from "../../../../../server/index.ts";

const body = z.strictObject({
  base: z.number().int().min(1),
  edits: z.array(z.strictObject({ name: z.string().max(200), changes: z.array(changeSchema).min(1) })).min(1),
});

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  reply(async () => {
    const parsed = body.safeParse(await jsonBody(request));
    if (!parsed.success) throw new Refusal(400, `The edits cannot be read: ${parsed.error.issues[0].message}.`);
    return saveRevision((await params).id, parsed.data.base, parsed.data.edits);
  });
