import { jsonBody, reply, startFlowStudy } from "../../../server/index.ts";

export const dynamic = "force-dynamic";
/** Starts a flow study around a building; the runner makes it. */
export const POST = (request: Request): Promise<Response> => reply(async () => startFlowStudy(await jsonBody(request)));
