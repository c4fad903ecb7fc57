import { reply, runSeries } from "../../../../../server/index.ts";

export const GET = (request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> =>
  reply(async () => {
    const query = new URL(request.url).searchParams;
    return runSeries((await params).hash, query.get("scope") ?? "", query.get("quantity") ?? "");
  });
