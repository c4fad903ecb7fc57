import { resumeRun, reply } from "../../../../../server/index.ts";

export const POST = (_request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> =>
  reply(async () => resumeRun((await params).hash));
