import { keptReadings, replyWith } from "../../../../server/index.ts";

/** Kept readings of a point, as bytes. */
export const GET = (_request: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> =>
  replyWith(
    async () =>
      new Response(new Uint8Array(await keptReadings((await params).hash)), {
        headers: {
          "content-type": "application/octet-stream",
          "cache-control": "private, max-age=31536000, immutable",
          "x-content-type-options": "nosniff",
        },
      }),
  );
