import { keepImage, reply } from "../../../server/index.ts";

/** Keeps an image to trace over. */
export const POST = (request: Request): Promise<Response> =>
  reply(async () => ({ hash: await keepImage(request.headers.get("content-type")?.split(";")[0] ?? "", Buffer.from(await request.arrayBuffer())) }));
