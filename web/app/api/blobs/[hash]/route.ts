import { keptImage, replyWith } from "../../../../server/index.ts";

/** A kept image; never run as a page, whatever it holds. */
export const GET = (_request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> =>
  replyWith(async () => {
    const { mediaType, bytes } = await keptImage((await params).hash);
    return new Response(new Uint8Array(bytes), {
      headers: {
        "content-type": mediaType,
        "cache-control": "private, max-age=31536000, immutable",
        "content-security-policy": "default-src 'none'; style-src 'unsafe-inline'; img-src data:; frame-ancestors 'none'; sandbox",
        "x-content-type-options": "nosniff",
      },
    });
  });
