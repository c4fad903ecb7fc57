import { readJson } from "@arroyo/core";
import { Refusal } from "./projects.ts";

const MB = 1024 * 1024;
/** Most bytes a body may have; more is refused before it is read. */
export const MOST_BODY = 32 * MB;

/** Kind of a request's body, without its parameters. */
export const mediaTypeOf = (request: Request): string => (request.headers.get("content-type") ?? "").split(";")[0].trim().toLowerCase();

/** Bytes of a request's body. @throws Refusal (413) as soon as they are too many, (415) for a body of another kind */
export async function bytesOf(request: Request, kinds: readonly string[], most = MOST_BODY): Promise<Buffer> {
  const kind = mediaTypeOf(request);
  if (!kinds.includes(kind))
    throw new Refusal(415, `This takes ${kinds.join(" or ")}, not ${kind === "" ? "a body without a content type" : kind.slice(0, 60)}.`);
  const tooLarge = new Refusal(413, `This is larger than ${Math.round(most / MB)} MB, the most that is taken; nothing was saved.`);
  const told = Number(request.headers.get("content-length") ?? 0);
  if (told > most) throw tooLarge;
  if (!request.body) return Buffer.alloc(0);
  const parts: Uint8Array[] = [];
  let size = 0;
  const reader = request.body.getReader();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return Buffer.concat(parts);
    size += value.length;
    if (size > most) {
      await reader.cancel();
      throw tooLarge;
    }
    parts.push(value);
  }
}

/** A request's body as text. @see bytesOf */
export const textOf = async (request: Request, kinds: readonly string[], most = MOST_BODY): Promise<string> =>
  (await bytesOf(request, kinds, most)).toString("utf8");

/** A request's JSON. @throws Refusal (400) with the line at which it breaks, and as `bytesOf` */
export async function jsonBody(request: Request, most = MOST_BODY): Promise<unknown> {
  const json = readJson(await textOf(request, ["application/json"], most));
  if (!json.ok) throw new Refusal(400, json.message);
  return json.value;
}
