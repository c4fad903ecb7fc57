import { reply, runSummary } from "../../../../server/index.ts";

/** The summary of a stored run; `project` names the one whose prices count. */
export const GET = (request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> =>
  reply(async () => runSummary((await params).hash, new URL(request.url).searchParams.get("project")));
