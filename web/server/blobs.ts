import { createHash } from "node:crypto";
import { BlobRow } from "./models.ts";
import { isHash, Refusal } from "./projects.ts";
import { store } from "./store.ts";

export const imageKinds = ["image/png", "image/jpeg", "image/svg+xml"];
export const MOST_IMAGE = 20 * 1024 * 1024;

/** Whether the first bytes are those of the kind they claim. */
function isKind(bytes: Buffer, mediaType: string): boolean {
  if (mediaType === "image/png") return bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]));
  if (mediaType === "image/jpeg") return bytes[0] === 0xff && bytes[1] === 0xd8;
  return /<svg[\s>]/.test(bytes.subarray(0, 4096).toString("utf8"));
}

/** Keeps an image, named by its content. */
export async function keepImage(mediaType: string, bytes: Buffer): Promise<string> {
  if (!imageKinds.includes(mediaType)) throw new Refusal(422, "Only PNG, JPEG and SVG images are kept; nothing was saved.");
  if (bytes.length > MOST_IMAGE) throw new Refusal(413, "This image is larger than 20 MB; nothing was saved.");
  if (!isKind(bytes, mediaType))
    throw new Refusal(422, `This file is no ${mediaType.split("/")[1].replace("+xml", "").toUpperCase()} image; nothing was saved.`);
  await store();
  const hash = createHash("sha256").update(bytes).digest("hex");
  await BlobRow.findOrCreate({ where: { hash }, defaults: { hash, mediaType, bytes } });
  return hash;
}

/** A kept image. @throws Refusal (404) when there is none of this name */
export async function keptImage(hash: string): Promise<{ mediaType: string; bytes: Buffer }> {
  await store();
  const row = isHash(hash) ? await BlobRow.findByPk(hash) : null;
  if (!row) throw new Refusal(404, "There is no image of this name.");
  return { mediaType: row.mediaType, bytes: row.bytes };
}
