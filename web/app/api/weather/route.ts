import { importWeather, listWeather, reply, textOf } from "../../../server/index.ts";

export const dynamic = "force-dynamic";
/** Weather years kept here, with who uses them. */
export const GET = (): Promise<Response> => reply(listWeather);

/** Keeps a weather year from an Arroyo weather CSV. */
export const POST = (request: Request): Promise<Response> => reply(async () => importWeather(await textOf(request, ["text/csv"])));
