/// <reference lib="webworker" />
import { guessPointFile, PointFileReader, type PointFileGuess, type PointFileOutcome, type PointMapping } from "@arroyo/core";
import { feedText, headText } from "./textFile.ts";

/** To the reader of trend data: first the file, to be guessed at, then a mapping to read it by. */
export type ToPointFile =
  | { readonly kind: "guess"; readonly file: File }
  | { readonly kind: "read"; readonly file: File; readonly mapping: PointMapping; readonly timeZone: number; readonly turn: number };
export type FromPointFile =
  | { readonly kind: "guessed"; readonly guess: PointFileGuess }
  | { readonly kind: "progress"; readonly turn: number; readonly share: number }
  | { readonly kind: "read"; readonly turn: number; readonly outcome: PointFileOutcome }
  | { readonly kind: "refused"; readonly message: string };

const scope = self as unknown as DedicatedWorkerGlobalScope;
const post = (message: FromPointFile): void => scope.postMessage(message);
let latest = 0;

async function guess(file: File): Promise<void> {
  const head = await headText(file);
  const found = "message" in head ? head.message : guessPointFile(head.text, file.name);
  post(typeof found === "string" ? { kind: "refused", message: `${file.name}: ${found}` } : { kind: "guessed", guess: found });
}

async function read(m: Extract<ToPointFile, { kind: "read" }>): Promise<void> {
  const reader = new PointFileReader(m.mapping, m.timeZone);
  const whole = await feedText(
    m.file,
    (text) => reader.feed(text),
    () => latest === m.turn,
    (share) => post({ kind: "progress", turn: m.turn, share }),
  );
  if (whole) post({ kind: "read", turn: m.turn, outcome: reader.finish() });
}

scope.onmessage = (event: MessageEvent<ToPointFile>) => {
  const message = event.data;
  if (message.kind === "read") latest = message.turn;
  (message.kind === "guess" ? guess(message.file) : read(message)).catch((error: unknown) =>
    post({ kind: "refused", message: `${message.file.name} cannot be read: ${error instanceof Error ? error.message : String(error)}` }),
  );
};
