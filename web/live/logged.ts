import { readReadings, type LoggedReadings, type Project, type Readings } from "@arroyo/core";
import { ask } from "./server.ts";

const known = new Map<string, Promise<Readings | null>>();

/** Stored readings of a point, fetched once; null where they are not to be had. */
export function fetchReadings(hash: string): Promise<Readings | null> {
  let found = known.get(hash);
  if (!found) {
    found = fetch(`/api/readings/${hash}`)
      .then(async (r) => (r.ok ? readReadings(new Uint8Array(await r.arrayBuffer())) : null))
      .then((r) => (typeof r === "string" ? null : r))
      .catch(() => null);
    known.set(hash, found);
    // one that did not come is asked for again
    void found.then((r) => r === null && known.delete(hash));
  }
  return found;
}

/** Readings by their content; those that are not to be had are left out. */
export async function fetchLogged(hashes: readonly string[]): Promise<LoggedReadings> {
  const found = await Promise.all(hashes.map(async (hash) => [hash, await fetchReadings(hash)] as const));
  return Object.fromEntries(found.flatMap(([hash, r]) => (r ? [[hash, r]] : [])));
}

/** Readings that drive inputs of a project, by their content. */
export const drivingHashes = (project: Pick<Project, "points" | "drives">): string[] => [
  ...new Set(Object.values(project.drives ?? {}).flatMap((d) => project.points?.[d.point]?.hash ?? [])),
];

/** Keeps readings on the server; answers their name, or the sentence that refuses them. */
export async function keepReadings(bytes: Uint8Array): Promise<{ hash: string } | { message: string }> {
  const answer = await ask<{ hash: string }>("/api/readings", { kind: "application/octet-stream", body: new Uint8Array(bytes) });
  return answer.ok ? answer.body : { message: answer.message };
}
