import { deflateRawSync, inflateRawSync } from "node:zlib";
import { MOST_READINGS, readingsHash, readReadings, writeReadings, type Project, type Readings } from "@arroyo/core";
import { BlobRow } from "./models.ts";
import { isHash, Refusal } from "./projects.ts";
import { store } from "./store.ts";

/** Kind under which readings are kept beside images. */
const KIND = "application/x-arroyo-readings";
/** Most bytes of one point. */
export const MOST_BYTES = 32 + 8 * MOST_READINGS;

/** Keeps readings of a point, named by their content. @throws Refusal where the bytes are none */
export async function keepReadings(bytes: Uint8Array): Promise<{ hash: string }> {
  const readings = readReadings(bytes);
  if (typeof readings === "string") throw new Refusal(422, `${readings} Nothing was saved.`);
  const hash = readingsHash(readings);
  await store();
  await BlobRow.findOrCreate({ where: { hash }, defaults: { hash, mediaType: KIND, bytes: deflateRawSync(writeReadings(readings)) } });
  return { hash };
}

/** Kept readings; null: there are none of this name. */
async function found(hash: string): Promise<Uint8Array | null> {
  await store();
  const row = isHash(hash) ? await BlobRow.findByPk(hash) : null;
  return row?.mediaType === KIND ? new Uint8Array(inflateRawSync(row.bytes)) : null;
}

/** Kept readings as bytes. @throws Refusal (404) when there are none of this name */
export async function keptReadings(hash: string): Promise<Uint8Array> {
  const bytes = await found(hash);
  if (!bytes) throw new Refusal(404, `The readings "${hash.slice(0, 64)}" are not stored here.`);
  return bytes;
}

/** Readings that a project's drives and, where asked for, its pairs and masks need; those that are not here are left out. */
export async function loggedOf(project: Project, pairs: readonly string[] = []): Promise<Record<string, Readings>> {
  const ids = new Set(Object.values(project.drives ?? {}).map((d) => d.point));
  for (const p of project.pairs ?? []) if (pairs.includes(p.id)) ids.add(p.point);
  for (const id of [...ids]) for (const mask of project.points?.[id]?.masks ?? []) ids.add(mask.point);
  const out: Record<string, Readings> = {};
  for (const id of ids) {
    const hash = project.points?.[id]?.hash;
    const bytes = hash !== undefined && !Object.hasOwn(out, hash) ? await found(hash) : null;
    const readings = bytes && readReadings(bytes);
    if (hash !== undefined && readings && typeof readings !== "string") out[hash] = readings;
  }
  return out;
}
