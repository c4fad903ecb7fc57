import { importWeather, reply, textOf } from "../../../server/index.ts";

/** Keeps a weather year from an Arroyo weather CSV. */
export const POST = (request: Request): Promise<Response> => reply(async () => importWeather(await textOf(request, ["text/csv"])));
