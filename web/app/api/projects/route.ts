import { parseProjectText } from "@arroyo/core";
import { createProject, listProjects, Refusal, reply } from "../../../server/index.ts";

export const dynamic = "force-dynamic";
export const GET = (): Promise<Response> => reply(listProjects);

/** Imports a project: the body is the JSON text of the document. */
export const POST = (request: Request): Promise<Response> =>
  reply(async () => {
    const outcome = parseProjectText(await request.text());
    if (!outcome.ok) throw new Refusal(422, "This project cannot be read; nothing was saved.", outcome.problems);
    return createProject(outcome.project);
  });
