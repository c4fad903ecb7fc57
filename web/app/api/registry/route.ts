import { z } from "zod";
import { complianceSchema, hashOf, issueProblem } from "@arroyo/core";
import { jsonBody, Refusal, reply } from "../../../server/index.ts";

export const dynamic = "force-dynamic";

const body = z.strictObject({ hash: z.string().max(128), certificate: complianceSchema });
/** How long the slow registry takes, ms. */
const SLOW = 8000;

/**
 * A simulated registry of certificates: it checks what it is sent against its hash and answers with a receipt. `manner` makes it slow
 * or fail, so that what becomes of a submission then can be seen. It keeps nothing.
 */
export const POST = (request: Request): Promise<Response> =>
  reply(async () => {
    const manner = new URL(request.url).searchParams.get("manner") ?? "at once";
    const parsed = body.safeParse(await jsonBody(request, 4 * 1024 * 1024), { reportInput: true });
    if (!parsed.success) {
      const { path, message } = issueProblem(parsed.error.issues[0]);
      throw new Refusal(400, `The registry cannot read the certificate: ${path === "" ? "" : `${path}: `}${message}`);
    }
    if (manner === "not at all") throw new Refusal(503, "The registry is down. Nothing was submitted; try again later.");
    if (manner === "slowly") await new Promise((r) => setTimeout(r, SLOW));
    const { hash, certificate } = parsed.data;
    if (hashOf(certificate) !== hash) throw new Refusal(409, "The hash is not that of the certificate: it was changed on its way. Nothing was submitted.");
    if (certificate.pass === null || (certificate.path === "performance" && certificate.index === null))
      throw new Refusal(409, "The certificate does not say whether the design passes: no whole year was run. Nothing was submitted.");
    const at = new Date().toISOString();
    return { receipt: `PLT-${at.slice(0, 10).replaceAll("-", "")}-${hashOf([hash, at]).slice(0, 8).toUpperCase()}`, at };
  });
