import { z } from "zod";
import { textFrom } from "./outside.ts";
import { Refusal } from "./projects.ts";

const listSchema = z.array(z.strictObject({ name: z.string().regex(/^[A-Za-z0-9_.-]{1,100}$/), title: z.string().max(200) })).max(200);
/** A file of trend data that a logger offers. */
export type LoggedFile = z.infer<typeof listSchema>[number];

const at = (service: string | undefined): string => {
  if (!service) throw new Refusal(503, "No logger is set up here: ARROYO_LOGGER names its address.");
  return service.replace(/\/$/, "");
};

/** Files a logger offers. @throws Refusal where it does not answer as one */
export async function loggedFiles(service = process.env.ARROYO_LOGGER): Promise<LoggedFile[]> {
  const text = await textFrom("logger", `${at(service)}/logs`);
  try {
    return listSchema.parse(JSON.parse(text));
  } catch {
    throw new Refusal(502, "The logger answers with something that is no list of files.");
  }
}

/** Text of a file of trend data. @throws Refusal for a name that is none, and where the logger does not answer */
export async function loggedFile(name: string, service = process.env.ARROYO_LOGGER): Promise<string> {
  if (!/^[A-Za-z0-9_.-]{1,100}$/.test(name)) throw new Refusal(404, "The logger has no such file.");
  return textFrom("logger", `${at(service)}/logs/${encodeURIComponent(name)}`);
}
