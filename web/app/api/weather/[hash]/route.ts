import { writeWeatherCsv } from "@arroyo/core";
import { removeWeather, reply, replyWith, storedWeather } from "../../../../server/index.ts";

/** A stored weather year as CSV. */
export const GET = (_request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> =>
  replyWith(
    async () =>
      new Response(writeWeatherCsv(await storedWeather((await params).hash)), {
        headers: { "content-type": "text/csv; charset=utf-8", "cache-control": "private, max-age=31536000, immutable" },
      }),
  );

/** Removes a weather year that nothing uses. */
export const DELETE = (_request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> =>
  reply(async () => removeWeather((await params).hash));
