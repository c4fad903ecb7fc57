/// <reference lib="webworker" />
import { guessMapping, WeatherFileReader, type FileGuess, type FileSite, type WeatherFileOutcome, type WeatherMapping } from "@arroyo/core";
import { feedText, headText } from "./textFile.ts";

/** To the reader of weather files: first the file, to be guessed at, then a mapping to read it by. */
export type ToWeatherFile =
  | { readonly kind: "guess"; readonly file: File }
  | {
      readonly kind: "read";
      readonly file: File;
      readonly mapping: WeatherMapping;
      readonly place: FileSite;
      readonly year: number | null;
      readonly turn: number;
    };
export type FromWeatherFile =
  | { readonly kind: "guessed"; readonly guess: FileGuess }
  | { readonly kind: "progress"; readonly turn: number; readonly share: number }
  | { readonly kind: "read"; readonly turn: number; readonly outcome: WeatherFileOutcome }
  | { readonly kind: "refused"; readonly message: string };

const scope = self as unknown as DedicatedWorkerGlobalScope;
const post = (message: FromWeatherFile): void => scope.postMessage(message);
let latest = 0;

async function guess(file: File): Promise<void> {
  const head = await headText(file);
  const found = "message" in head ? head.message : guessMapping(head.text, file.name);
  post(typeof found === "string" ? { kind: "refused", message: `${file.name}: ${found}` } : { kind: "guessed", guess: found });
}

async function read(m: Extract<ToWeatherFile, { kind: "read" }>): Promise<void> {
  const reader = new WeatherFileReader(m.mapping, m.place);
  const whole = await feedText(
    m.file,
    (text) => reader.feed(text),
    () => latest === m.turn,
    (share) => post({ kind: "progress", turn: m.turn, share }),
  );
  if (!whole) return;
  const name = m.mapping.site?.name.trim() || m.file.name.replace(/\.[^.]*$/, "");
  post({ kind: "read", turn: m.turn, outcome: reader.finish(name.slice(0, 150), m.year ?? undefined) });
}

scope.onmessage = (event: MessageEvent<ToWeatherFile>) => {
  const message = event.data;
  if (message.kind === "read") latest = message.turn;
  (message.kind === "guess" ? guess(message.file) : read(message)).catch((error: unknown) =>
    post({ kind: "refused", message: `${message.file.name} cannot be read: ${error instanceof Error ? error.message : String(error)}` }),
  );
};
