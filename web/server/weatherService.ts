import { readWeatherCsv } from "@arroyo/core";
import { LONGEST, textFrom } from "./outside.ts";
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
  const text = await textFrom("weather service", `${service.replace(/\/$/, "")}/year?${query.toString()}`, longest);
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
