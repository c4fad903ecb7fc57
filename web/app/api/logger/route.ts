import { loggedFile, loggedFiles, reply, replyWith } from "../../../server/index.ts";

export const dynamic = "force-dynamic";

/** Files the logger offers; of one that is named its text. */
export const GET = (request: Request): Promise<Response> => {
  const file = new URL(request.url).searchParams.get("file");
  if (file === null) return reply(loggedFiles);
  return replyWith(
    async () => new Response(await loggedFile(file), { headers: { "content-type": "text/plain; charset=utf-8", "x-content-type-options": "nosniff" } }),
  );
};
