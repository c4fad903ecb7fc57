import { listRuns, reply, startRun } from "../../../../../server/index.ts";

type Context = { params: Promise<{ id: string }> };
const query = (request: Request, name: string): string | null => new URL(request.url).searchParams.get(name);

/** Runs of a project; with `since`, only those that changed after that answer's `at`. */
export const GET = (request: Request, { params }: Context): Promise<Response> => reply(async () => listRuns((await params).id, query(request, "since")));

/** Queues a run of the saved project; with `revision`, only of that one; with `keep`, classes of series kept besides the usual ones. */
export const POST = (request: Request, { params }: Context): Promise<Response> =>
  reply(async () => startRun((await params).id, query(request, "revision"), true, query(request, "keep")));
