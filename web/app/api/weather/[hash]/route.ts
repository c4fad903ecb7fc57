import { writeWeatherCsv } from "@arroyo/core";
import { replyWith, storedWeather } from "../../../../server/index.ts";

/** A stored weather year as CSV. */
export const GET = (_request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> =>
  replyWith(
    async () =>
      new Response(writeWeatherCsv(await storedWeather((await params).hash)), {
        headers: { "content-type": "text/csv; charset=utf-8", "cache-control": "private, max-age=31536000, immutable" },
      }),
  );
