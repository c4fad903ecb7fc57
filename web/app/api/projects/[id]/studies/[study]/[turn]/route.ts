import { cancelStudy, pauseStudy, Refusal, reply, resumeStudy } from "../../../../../../../server/index.ts";

const turns = { pause: pauseStudy, resume: resumeStudy, cancel: cancelStudy } as const;

/** Has a study wait, go on or end. */
export const POST = (_request: Request, { params }: { params: Promise<{ id: string; study: string; turn: string }> }): Promise<Response> =>
  reply(async () => {
    const { id, study, turn } = await params;
    if (!Object.hasOwn(turns, turn)) throw new Refusal(404, `A study can be told ${Object.keys(turns).join(", ")}, not "${turn.slice(0, 32)}".`);
    return turns[turn as keyof typeof turns](id, study);
  });
