import { reply, startStudy, studyAnswer } from "../../../../../../server/index.ts";

type Context = { params: Promise<{ id: string; study: string }> };
const query = (request: Request, name: string): string | null => new URL(request.url).searchParams.get(name);

/** A study with its runs; with `since`, only those told after that answer's `told`. */
export const GET = (request: Request, { params }: Context): Promise<Response> =>
  reply(async () => {
    const { id, study } = await params;
    return studyAnswer(id, study, query(request, "since"));
  });

/** Starts a study of the saved project; with `revision`, only of that one. */
export const POST = (request: Request, { params }: Context): Promise<Response> =>
  reply(async () => {
    const { id, study } = await params;
    return startStudy(id, study, query(request, "revision"));
  });
