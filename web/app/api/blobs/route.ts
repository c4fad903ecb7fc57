import { bytesOf, imageKinds, keepImage, mediaTypeOf, MOST_IMAGE, reply } from "../../../server/index.ts";

/** Keeps an image to trace over. */
export const POST = (request: Request): Promise<Response> =>
  reply(async () => ({ hash: await keepImage(mediaTypeOf(request), await bytesOf(request, imageKinds, MOST_IMAGE)) }));
