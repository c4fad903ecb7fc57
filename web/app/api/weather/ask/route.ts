import { z } from "zod";
import { issueProblem } from "@arroyo/core";
import { askWeather, jsonBody, Refusal, reply } from "../../../../server/index.ts";

const question = z.strictObject({
  latitude: z.number().min(-90).max(90),
  longitude: z.number().min(-180).max(180),
  elevation: z.number().min(-450).max(6000),
  timeZone: z.number().min(-12).max(14),
  year: z.number().int().min(1900).max(2200),
});

/** Asks the weather service for a year and keeps it. */
export const POST = (request: Request): Promise<Response> =>
  reply(async () => {
    const parsed = question.safeParse(await jsonBody(request), { reportInput: true });
    if (!parsed.success) {
      const { path, message } = issueProblem(parsed.error.issues[0]);
      throw new Refusal(400, `The place and year cannot be read: ${path === "" ? "" : `${path}: `}${message}`);
    }
    return askWeather(parsed.data);
  });
