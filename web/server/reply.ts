import { Refusal } from "./projects.ts";

/** Answers with JSON; refusals become their status with a sentence and problems, anything else a logged 500. */
export async function reply(work: () => Promise<unknown>): Promise<Response> {
  try {
    return Response.json((await work()) ?? {});
  } catch (error) {
    if (error instanceof Refusal) return Response.json({ message: error.message, problems: error.problems, ...error.detail }, { status: error.status });
    console.error(error);
    return Response.json({ message: "Something went wrong on the server; nothing was saved.", problems: [] }, { status: 500 });
  }
}

/** Body as JSON. @throws Refusal (400) when it is not */
export async function jsonBody(request: Request): Promise<unknown> {
  try {
    return await request.json();
  } catch {
    throw new Refusal(400, "The request is not valid JSON.");
  }
}
