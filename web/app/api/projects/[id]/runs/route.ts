import { listRuns, reply, startRun } from "../../../../../server/index.ts";

type Context = { params: Promise<{ id: string }> };
export const GET = (_request: Request, { params }: Context): Promise<Response> => reply(async () => listRuns((await params).id));
export const POST = (_request: Request, { params }: Context): Promise<Response> => reply(async () => startRun((await params).id));
