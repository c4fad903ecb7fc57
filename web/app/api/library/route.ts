import { z } from "zod";
import { changeSchema, issueProblem } from "@arroyo/core";
import { changeLibrary, jsonBody, ownLibrary, Refusal, reply } from "../../../server/index.ts";

export const dynamic = "force-dynamic";
export const GET = (): Promise<Response> => reply(ownLibrary);

const body = z.strictObject({ changes: z.array(changeSchema).min(1).max(10000) });

/** Changes to what the user keeps across projects. */
export const POST = (request: Request): Promise<Response> =>
  reply(async () => {
    const parsed = body.safeParse(await jsonBody(request), { reportInput: true });
    if (!parsed.success) {
      const { path, message } = issueProblem(parsed.error.issues[0]);
      throw new Refusal(400, `The changes cannot be read: ${path === "" ? "" : `${path}: `}${message}`);
    }
    return changeLibrary(parsed.data.changes);
  });
