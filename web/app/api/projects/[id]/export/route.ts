import { openProject, Refusal } from "../../../../../server/index.ts";

/** The project document as a file. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  try {
    const { id } = await params;
    const { document } = await openProject(id);
    return new Response(JSON.stringify(document, null, 2) + "\n", {
      headers: { "content-type": "application/json", "content-disposition": `attachment; filename="${id}.json"` },
    });
  } catch (error) {
    if (error instanceof Refusal) return new Response(error.message, { status: error.status });
    throw error;
  }
}
