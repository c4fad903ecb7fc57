import { createProject, jsonBody, listProjects, reply } from "../../../server/index.ts";

export const dynamic = "force-dynamic";
export const GET = (): Promise<Response> => reply(listProjects);

/** Imports a project: the body is the JSON text of the document. */
export const POST = (request: Request): Promise<Response> => reply(async () => createProject(await jsonBody(request)));
