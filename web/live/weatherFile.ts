/// <reference lib="webworker" />
import { guessMapping, WeatherFileReader, type FileGuess, type FileSite, type WeatherFileOutcome, type WeatherMapping } from "@arroyo/core";

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

/** Largest file, bytes. */
const MOST = 200e6;
/** Bytes looked at for the first guess. */
const HEAD = 400_000;

const scope = self as unknown as DedicatedWorkerGlobalScope;
const post = (message: FromWeatherFile): void => scope.postMessage(message);
let latest = 0;

/** Text of the file's bytes: UTF-8, UTF-16 by its mark, else the encoding of older Windows programs. */
function encodingOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return "utf-16le";
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return "utf-16be";
  try {
    // the piece may end within a character
    new TextDecoder("utf-8", { fatal: true }).decode(bytes.subarray(0, Math.max(0, bytes.length - 4)), { stream: true });
    return "utf-8";
  } catch {
    return "windows-1252";
  }
}
const headOf = async (file: File): Promise<Uint8Array> => new Uint8Array(await file.slice(0, HEAD).arrayBuffer());

async function guess(file: File): Promise<void> {
  if (file.size > MOST) return post({ kind: "refused", message: `${file.name} has ${Math.round(file.size / 1e6)} MB; at most ${MOST / 1e6} MB can be read.` });
  const bytes = await headOf(file);
  const found = guessMapping(new TextDecoder(encodingOf(bytes)).decode(bytes), file.name);
  post(typeof found === "string" ? { kind: "refused", message: `${file.name}: ${found}` } : { kind: "guessed", guess: found });
}

async function read(m: Extract<ToWeatherFile, { kind: "read" }>): Promise<void> {
  const decoder = new TextDecoder(encodingOf(await headOf(m.file)));
  const reader = new WeatherFileReader(m.mapping, m.place);
  const stream = m.file.stream().getReader();
  let done = 0;
  let told = performance.now();
  for (;;) {
    const piece = await stream.read();
    // a newer mapping has been chosen
    if (latest !== m.turn) return void stream.cancel();
    if (piece.done) break;
    done += piece.value.length;
    const text = decoder.decode(piece.value, { stream: true });
    reader.feed(done === piece.value.length && text.charCodeAt(0) === 0xfeff ? text.slice(1) : text);
    if (performance.now() - told > 150) {
      told = performance.now();
      post({ kind: "progress", turn: m.turn, share: done / m.file.size });
    }
  }
  reader.feed(decoder.decode());
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
