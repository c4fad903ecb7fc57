import { reply, runSummary } from "../../../../server/index.ts";

/** The summary of a stored run. */
export const GET = (_request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> =>
  reply(async () => runSummary((await params).hash));
