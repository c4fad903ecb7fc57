import { BaseError, ConnectionError, DatabaseError } from "sequelize";
import { Refusal } from "./projects.ts";

/** What a log keeps of an error: never the statement or its values, which hold documents. */
export function loggable(error: unknown): Record<string, string | undefined> {
  if (!(error instanceof Error)) return { message: String(error) };
  const cause = error instanceof DatabaseError ? error.original : undefined;
  const code = cause && "code" in cause ? String(cause.code) : "code" in error ? String(error.code) : undefined;
  return {
    name: error.name,
    message: (cause ?? error).message.slice(0, 300),
    code,
    at: error instanceof BaseError ? undefined : error.stack?.split("\n")[1]?.trim(),
  };
}

/** PostgreSQL's words for a server that is going, coming, or cut off. */
const AWAY = ["57P01", "57P02", "57P03", "ECONNREFUSED", "ECONNRESET", "08006", "08001", "08003"];
/** Whether an error says that the database cannot be reached now, rather than that it was asked for something wrong. */
export function isAway(error: unknown): boolean {
  const { code, message } = loggable(error);
  return (
    error instanceof ConnectionError || AWAY.includes(code ?? "") || /Connection terminated|terminating connection|ECONNREFUSED|ECONNRESET/.test(message ?? "")
  );
}

/** The answer to an error: a refusal's own status and sentence; 503 while the database is away; anything else is logged once and answered with 500. */
export function refused(error: unknown): Response {
  if (error instanceof Refusal) return Response.json({ message: error.message, problems: error.problems, ...error.detail }, { status: error.status });
  if (isAway(error)) {
    console.error("the database does not answer:", loggable(error).message);
    return Response.json({ message: "The database does not answer; nothing was saved. It is asked again.", problems: [] }, { status: 503 });
  }
  console.error("unexpected:", loggable(error));
  return Response.json({ message: "Something went wrong on the server; nothing was saved.", problems: [] }, { status: 500 });
}

/** Answers with JSON. @see refused */
export async function reply(work: () => Promise<unknown>): Promise<Response> {
  try {
    return Response.json((await work()) ?? {});
  } catch (error) {
    return refused(error);
  }
}

/** Answers with something other than JSON. @see refused */
export async function replyWith(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    return refused(error);
  }
}
