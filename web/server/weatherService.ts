import { readWeatherCsv } from "@arroyo/core";
import { Refusal } from "./projects.ts";
import { keepWeather } from "./weather.ts";

/** A place and a year that a weather service is asked for. */
export interface WeatherQuestion {
  readonly latitude: number;
  readonly longitude: number;
  readonly elevation: number;
  readonly timeZone: number;
  readonly year: number;
}

/** Longest wait for an answer, ms, and largest answer, bytes. */
const LONGEST = 20000;
const MOST = 8 * 1024 * 1024;

/** Text of an answer, up to a length. */
async function textWithin(response: Response): Promise<string> {
  const reader = response.body?.getReader();
  if (!reader) return "";
  const parts: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return Buffer.concat(parts).toString("utf8");
    size += value.length;
    if (size > MOST) {
      await reader.cancel();
      throw new Refusal(502, `The weather service sends more than ${MOST / 1024 / 1024} MB for one year; nothing was saved.`);
    }
    parts.push(value);
  }
}

/**
 * Asks the weather service for a measured year and keeps it. What it answers in is the open weather CSV (docs/weather-csv.md).
 * @param service address of the service @param longest wait, ms
 * @throws Refusal (502, 503, 504) in words for a service that is away, slow, failing, or answers with something else
 */
export async function askWeather(
  question: WeatherQuestion,
  service = process.env.ARROYO_WEATHER_SERVICE,
  longest = LONGEST,
): Promise<{ hash: string; name: string; year: number | null }> {
  if (!service) throw new Refusal(503, "No weather service is set up here: ARROYO_WEATHER_SERVICE names its address.");
  const query = new URLSearchParams({
    latitude: String(question.latitude),
    longitude: String(question.longitude),
    elevation: String(question.elevation),
    time_zone: String(question.timeZone),
    year: String(question.year),
  });
  let text: string;
  try {
    const response = await fetch(`${service.replace(/\/$/, "")}/year?${query.toString()}`, { signal: AbortSignal.timeout(longest), redirect: "error" });
    text = await textWithin(response);
    if (!response.ok) {
      const said = text.trim().split("\n")[0].slice(0, 200);
      throw new Refusal(502, `The weather service answers ${response.status}${said === "" ? "" : `: ${said}`}`);
    }
  } catch (error) {
    if (error instanceof Refusal) throw error;
    if (error instanceof Error && error.name === "TimeoutError")
      throw new Refusal(504, `The weather service did not answer within ${longest / 1000} s; ask again later, or read a file.`);
    throw new Refusal(502, "The weather service cannot be reached; ask again later, or read a file.");
  }
  const outcome = readWeatherCsv(text);
  if (!outcome.ok)
    throw new Refusal(
      502,
      "The weather service answers with something that is no whole weather year; nothing was saved.",
      outcome.problems.map((p) => ({ code: "weather", severity: "error", stage: "place", path: `line ${p.line}`, message: p.message })),
    );
  if (outcome.weather.year !== question.year)
    throw new Refusal(502, `The weather service was asked for ${question.year} and answers with ${outcome.weather.year ?? "a typical year"}.`);
  return { hash: await keepWeather(outcome.weather), name: outcome.weather.name, year: outcome.weather.year ?? null };
}
