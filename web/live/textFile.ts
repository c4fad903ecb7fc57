/** Largest file, bytes. */
const MOST = 200e6;
/** Bytes looked at for the first guess. */
const HEAD = 400_000;

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

/** The first part of a file as text, for a first guess; or the sentence that refuses it. */
export async function headText(file: File): Promise<{ readonly text: string } | { readonly message: string }> {
  if (file.size > MOST) return { message: `${file.name} has ${Math.round(file.size / 1e6)} MB; at most ${MOST / 1e6} MB can be read.` };
  const bytes = await headOf(file);
  return { text: new TextDecoder(encodingOf(bytes)).decode(bytes) };
}

/**
 * Feeds a file's text to a reader piece by piece.
 * @param alive false: a newer reading has begun, and this one stops @returns whether it came to the end
 */
export async function feedText(file: File, feed: (text: string) => void, alive: () => boolean, progress: (share: number) => void): Promise<boolean> {
  const decoder = new TextDecoder(encodingOf(await headOf(file)));
  const stream = file.stream().getReader();
  let done = 0;
  let told = performance.now();
  for (;;) {
    const piece = await stream.read();
    if (!alive()) {
      void stream.cancel();
      return false;
    }
    if (piece.done) break;
    done += piece.value.length;
    const text = decoder.decode(piece.value, { stream: true });
    feed(done === piece.value.length && text.charCodeAt(0) === 0xfeff ? text.slice(1) : text);
    if (performance.now() - told > 150) {
      told = performance.now();
      progress(done / file.size);
    }
  }
  feed(decoder.decode());
  return true;
}
