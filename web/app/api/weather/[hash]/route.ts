import { writeWeatherCsv } from "@arroyo/core";
import { Refusal, storedWeather } from "../../../../server/index.ts";

/** A stored weather year as CSV. */
export async function GET(_request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> {
  try {
    return new Response(writeWeatherCsv(await storedWeather((await params).hash)), { headers: { "content-type": "text/csv; charset=utf-8" } });
  } catch (error) {
    if (error instanceof Refusal) return new Response(error.message, { status: error.status });
    throw error;
  }
}
