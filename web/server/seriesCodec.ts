import { deflateRawSync, inflateRawSync } from "node:zlib";

/** Step to which values of a unit are stored: temperatures to 0.001 K, powers to 0.1 W, humidity ratios to 1e-6, the rest to 0.001. */
export function resolution(unit: string): number {
  return unit === "W" ? 0.1 : unit === "kg/kg" ? 1e-6 : 0.001;
}

/** Values as whole steps in 32-bit differences, bytes shuffled by significance and deflated. */
export function encodeValues(values: Float64Array, unit: string): Buffer {
  const step = resolution(unit);
  const n = values.length;
  const shuffled = Buffer.alloc(4 * n);
  let last = 0;
  for (let i = 0; i < n; i++) {
    const q = Math.round(values[i] / step);
    const d = (q - last) | 0;
    last = q;
    for (let b = 0; b < 4; b++) shuffled[b * n + i] = (d >>> (8 * b)) & 0xff;
  }
  return deflateRawSync(shuffled);
}

/** Reads back what `encodeValues` wrote. */
export function decodeValues(data: Buffer, unit: string): Float64Array {
  const step = resolution(unit);
  const shuffled = inflateRawSync(data);
  const n = shuffled.length / 4;
  const out = new Float64Array(n);
  let last = 0;
  for (let i = 0; i < n; i++) {
    let d = 0;
    for (let b = 0; b < 4; b++) d |= shuffled[b * n + i] << (8 * b);
    last += d;
    out[i] = last * step;
  }
  return out;
}
