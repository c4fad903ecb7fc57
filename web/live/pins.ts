import type { Summary } from "@arroyo/core";

/** Figures kept to compare with. */
export interface Pin {
  readonly name: string;
  readonly summary: Summary;
}

const address = (project: string): string => `/api/projects/${encodeURIComponent(project)}/pins`;

/** Pins of a project as the server keeps them; null: it could not be asked. */
export async function fetchPins(project: string): Promise<readonly Pin[] | null> {
  try {
    const response = await fetch(address(project));
    const { pins } = response.ok ? ((await response.json()) as { pins?: Pin[] }) : {};
    return pins ?? null;
  } catch {
    return null;
  }
}

/** Keeps a list of pins; whether the server has it now. */
export async function sendPins(project: string, pins: readonly Pin[]): Promise<boolean> {
  try {
    const response = await fetch(address(project), { method: "PUT", headers: { "content-type": "application/json" }, body: JSON.stringify({ pins }) });
    return response.ok;
  } catch {
    return false;
  }
}
