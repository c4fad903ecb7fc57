import { jsonBody, keepPins, projectPins, reply } from "../../../../../server/index.ts";

export const dynamic = "force-dynamic";
type Context = { params: Promise<{ id: string }> };

/** Figures the user keeps to compare with, in order. */
export const GET = (_: Request, { params }: Context): Promise<Response> => reply(async () => ({ pins: await projectPins((await params).id) }));

/** Puts a whole list of pins in place of the one there is. */
export const PUT = (request: Request, { params }: Context): Promise<Response> =>
  reply(async () => {
    await keepPins((await params).id, await jsonBody(request));
    return { kept: true };
  });
