import { hashFloats } from "../numeric/index.ts";

/** Readings of one point on an even grid of times. */
export interface Readings {
  /** Start of the first interval, minutes from 1 January of the year 0 in local standard time (see `minutesOf`). */
  readonly start: number;
  /** Minutes from reading to reading. */
  readonly interval: number;
  /** Each is the mean over its interval, or what was read at the end of it. */
  readonly at: "interval" | "stamp";
  /** In the unit of the point; NaN: nothing was read. */
  readonly values: Float64Array;
}
/** Readings by their content. */
export type LoggedReadings = Readonly<Record<string, Readings>>;

/** Name of readings by their content. */
export const readingsHash = (r: Readings): string => hashFloats([Float64Array.of(r.start, r.interval, r.at === "stamp" ? 1 : 0), r.values]);

/** First bytes of stored readings. */
const MARK = 0x41524c31;
const HEAD = 32;
/** More readings are some other file: two years of minutes. */
export const MOST_READINGS = 1_100_000;

/** Readings as bytes: a mark, start, interval and kind, then the values as 64-bit floats. */
export function writeReadings(r: Readings): Uint8Array {
  const bytes = new Uint8Array(HEAD + 8 * r.values.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MARK, true);
  view.setUint32(4, r.at === "stamp" ? 1 : 0, true);
  view.setFloat64(8, r.start, true);
  view.setFloat64(16, r.interval, true);
  view.setFloat64(24, r.values.length, true);
  r.values.forEach((v, i) => view.setFloat64(HEAD + 8 * i, v === v ? v : NaN, true));
  return bytes;
}

/** Readings from bytes; a sentence where they are none. */
export function readReadings(bytes: Uint8Array): Readings | string {
  if (bytes.length < HEAD) return "These bytes are no readings: they are too few.";
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  if (view.getUint32(0, true) !== MARK) return "These bytes are no readings.";
  const [start, interval, count] = [8, 16, 24].map((at) => view.getFloat64(at, true));
  if (!(Number.isInteger(count) && count >= 1 && count <= MOST_READINGS && bytes.length === HEAD + 8 * count)) return "The readings are cut off.";
  if (!(Number.isFinite(start) && Math.abs(start) < 1e10 && interval > 0 && interval <= 1440)) return "The times of the readings cannot be.";
  const values = Float64Array.from({ length: count }, (_, i) => view.getFloat64(HEAD + 8 * i, true));
  for (let i = 0; i < count; i++) if (!Number.isFinite(values[i])) values[i] = NaN;
  return { start, interval, at: view.getUint32(4, true) === 1 ? "stamp" : "interval", values };
}
