import { Refusal } from "./projects.ts";

/** Longest wait for an answer, ms, and largest answer, bytes. */
export const LONGEST = 20000;
export const MOST = 8 * 1024 * 1024;

/** Text of an answer, up to a length. */
async function textWithin(response: Response, what: string): Promise<string> {
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
      throw new Refusal(502, `The ${what} sends more than ${MOST / 1024 / 1024} MB at once; nothing was saved.`);
    }
    parts.push(value);
  }
}

/**
 * Text that a service on the network answers with. @param what it is, in words
 * @throws Refusal (502, 504) in words for a service that is away, slow or failing
 */
export async function textFrom(what: string, address: string, longest = LONGEST): Promise<string> {
  try {
    const response = await fetch(address, { signal: AbortSignal.timeout(longest), redirect: "error" });
    const text = await textWithin(response, what);
    if (response.ok) return text;
    const said = text.trim().split("\n")[0].slice(0, 200);
    throw new Refusal(502, `The ${what} answers ${response.status}${said === "" ? "" : `: ${said}`}`);
  } catch (error) {
    if (error instanceof Refusal) throw error;
    if (error instanceof Error && error.name === "TimeoutError")
      throw new Refusal(504, `The ${what} did not answer within ${longest / 1000} s; ask again later, or read a file.`);
    throw new Refusal(502, `The ${what} cannot be reached; ask again later, or read a file.`);
  }
}
