import { spend } from "../numeric/index.ts";
import type { Box } from "./polygon.ts";

/** Least size of a cell of the index, m. */
const CELL = 6;
/** Cells one box may lie in; a larger one is held against every other. */
const MOST_CELLS = 4096;

/** Cell in a table of 2²⁷; far places may share one, which costs a look and nothing else. */
const cellOf = (x: number, y: number, z: number): number => ((x & 1023) << 17) | ((y & 1023) << 7) | (z & 127);

/**
 * Calls `meet(i, j)`, i < j, once for every pair of things whose boxes in plan come within `reach` of each
 * other, and whose levels, where given, do too. Found by a grid of cells: time grows with the things, not their pairs.
 */
export function eachNearPair(
  boxes: readonly Box[],
  reach: number,
  meet: (i: number, j: number) => void,
  levels?: { readonly low: (i: number) => number; readonly high: (i: number) => number },
): void {
  const cells = new Map<number, number[]>();
  const seen = new Int32Array(boxes.length).fill(-1);
  const size = cellSize(boxes);
  const place = (v: number): number => Math.floor(v / size);
  // what lies in more cells than is worth the while, so far
  const large: number[] = [];
  const look = (i: number, j: number): void => {
    if (seen[i] === j) return;
    seen[i] = j;
    spend(8);
    const a = boxes[i];
    const [left, bottom, right, top] = boxes[j];
    if (a[0] < right + reach && left < a[2] + reach && a[1] < top + reach && bottom < a[3] + reach) {
      if (levels && (levels.low(i) >= levels.high(j) || levels.high(i) <= levels.low(j))) return;
      meet(i, j);
    }
  };
  for (let j = 0; j < boxes.length; j++) {
    const [left, bottom, right, top] = boxes[j];
    const x0 = place(left - reach);
    const x1 = place(right + reach);
    const y0 = place(bottom - reach);
    const y1 = place(top + reach);
    const z0 = place(levels ? levels.low(j) : 0);
    const z1 = place(levels ? levels.high(j) : 0);
    for (const i of large) look(i, j);
    if (!((x1 - x0 + 1) * (y1 - y0 + 1) * (z1 - z0 + 1) <= MOST_CELLS)) {
      for (let i = 0; i < j; i++) look(i, j);
      large.push(j);
      continue;
    }
    for (let x = x0; x <= x1; x++)
      for (let y = y0; y <= y1; y++)
        for (let z = z0; z <= z1; z++) {
          spend(4);
          const key = cellOf(x, y, z);
          const cell = cells.get(key);
          if (cell === undefined) {
            cells.set(key, [j]);
            continue;
          }
          for (let k = 0; k < cell.length; k++) look(cell[k], j);
          if (cell[cell.length - 1] !== j) cell.push(j);
        }
  }
}

/** Size of a cell in which a usual one of the boxes lies whole, m: by the mean of their sides, so that a plan of any scale has few cells. */
function cellSize(boxes: readonly Box[]): number {
  let sum = 0;
  for (const [left, bottom, right, top] of boxes) sum += Math.min(1e6, right - left + top - bottom) / 2;
  return boxes.length === 0 ? CELL : Math.max(CELL, sum / boxes.length / 2);
}
