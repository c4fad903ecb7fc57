import { importWeather, reply } from "../../../server/index.ts";

/** Keeps a weather year from an Arroyo weather CSV. */
export const POST = (request: Request): Promise<Response> => reply(async () => importWeather(await request.text()));
