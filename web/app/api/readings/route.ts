import { bytesOf, keepReadings, MOST_BYTES, reply } from "../../../server/index.ts";

export const dynamic = "force-dynamic";
/** Keeps the readings of a point. */
export const POST = (request: Request): Promise<Response> => reply(async () => keepReadings(await bytesOf(request, ["application/octet-stream"], MOST_BYTES)));
