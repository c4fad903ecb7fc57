import type { Problem } from "@arroyo/core";

/** What the server answered; `status` 0: it did not. */
export type Answer<T> =
  | { readonly ok: true; readonly status: number; readonly body: T }
  | { readonly ok: false; readonly status: number; readonly message: string; readonly problems: readonly Problem[]; readonly body: Record<string, unknown> };

export interface Asked {
  /** Content type of the body, with which it is sent by POST. */
  readonly kind?: string;
  readonly body?: BodyInit;
  readonly method?: "GET" | "POST" | "DELETE";
  readonly keepalive?: boolean;
  readonly signal?: AbortSignal;
}

/** Asks the server; an answer that is no JSON, or none at all, becomes a sentence. Never throws. */
export async function ask<T>(where: string, { kind, body, method, ...how }: Asked = {}): Promise<Answer<T>> {
  let status = 0;
  let told: Record<string, unknown> = {};
  try {
    const response = await fetch(where, {
      method: method ?? (body === undefined ? "GET" : "POST"),
      ...(body === undefined ? {} : { body, headers: { "content-type": kind ?? "application/json" } }),
      ...how,
    });
    status = response.status;
    const read: unknown = await response.json().catch(() => ({}));
    if (response.ok) return { ok: true, status, body: read as T };
    if (typeof read === "object" && read !== null) told = read as Record<string, unknown>;
  } catch {
    status = 0;
  }
  const without = status === 0 ? "The server does not answer. Check that Arroyo is still running." : `The server answered ${status}.`;
  return {
    ok: false,
    status,
    message: typeof told.message === "string" ? told.message : without,
    problems: Array.isArray(told.problems) ? (told.problems as Problem[]) : [],
    body: told,
  };
}

/** Sends JSON. @see ask */
export const tell = <T>(where: string, value: unknown, how: Pick<Asked, "keepalive" | "signal"> = {}): Promise<Answer<T>> =>
  ask<T>(where, { ...how, body: JSON.stringify(value) });
