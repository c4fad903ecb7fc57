import { cancelRun, reply } from "../../../../../server/index.ts";

export const POST = (_request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> =>
  reply(async () => cancelRun((await params).hash));
