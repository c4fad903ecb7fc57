import { deleteProject, openProject, reply } from "../../../../server/index.ts";

type Context = { params: Promise<{ id: string }> };
export const GET = (_request: Request, { params }: Context): Promise<Response> => reply(async () => openProject((await params).id));
export const DELETE = (_request: Request, { params }: Context): Promise<Response> => reply(async () => deleteProject((await params).id));
