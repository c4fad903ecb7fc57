import { openProject, replyWith } from "../../../../../server/index.ts";

/** The project document as a file. */
export const GET = (_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  replyWith(async () => {
    const { id } = await params;
    const { document } = await openProject(id);
    return new Response(JSON.stringify(document, null, 2) + "\n", {
      headers: { "content-type": "application/json", "content-disposition": `attachment; filename="${document.id}.json"` },
    });
  });
