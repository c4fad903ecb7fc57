import { listStudies, reply } from "../../../../../server/index.ts";

/** Studies of a project that were started, and the threads at hand. */
export const GET = (_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => reply(async () => listStudies((await params).id));
