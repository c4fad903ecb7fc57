import { flowStudy, reply, turnFlowStudy } from "../../../../server/index.ts";

export const dynamic = "force-dynamic";
type Asked = { params: Promise<{ hash: string }> };
/** A flow study as it stands. */
export const GET = (_request: Request, { params }: Asked): Promise<Response> => reply(async () => flowStudy((await params).hash));
/** Pauses, resumes or cancels it: ?to=pause. */
export const POST = (request: Request, { params }: Asked): Promise<Response> =>
  reply(async () => turnFlowStudy((await params).hash, new URL(request.url).searchParams.get("to") ?? ""));
