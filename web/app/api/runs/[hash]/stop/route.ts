import { stopRun, reply } from "../../../../../server/index.ts";

export const POST = (_request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> =>
  reply(async () => stopRun((await params).hash));
