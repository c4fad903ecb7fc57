import { keptImage, Refusal } from "../../../../server/index.ts";

/** A kept image; never run as a page, whatever it holds. */
export async function GET(_request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> {
  try {
    const { mediaType, bytes } = await keptImage((await params).hash);
    return new Response(new Uint8Array(bytes), {
      headers: {
        "content-type": mediaType,
        "cache-control": "private, max-age=31536000, immutable",
        "content-security-policy": "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox",
        "x-content-type-options": "nosniff",
      },
    });
  } catch (error) {
    if (error instanceof Refusal) return new Response(error.message, { status: error.status });
    throw error;
  }
}
