import type { Box } from "./polygon.ts";

/** Size of a cell of the index, m. */
const CELL = 6;

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
  const place = (v: number): number => Math.floor(v / CELL);
  const seen = new Int32Array(boxes.length).fill(-1);
  for (let j = 0; j < boxes.length; j++) {
    const [left, bottom, right, top] = boxes[j];
    const x1 = place(right + reach);
    const y1 = place(top + reach);
    const low = levels ? levels.low(j) : 0;
    const high = levels ? levels.high(j) : 0;
    const z1 = place(high);
    for (let x = place(left - reach); x <= x1; x++)
      for (let y = place(bottom - reach); y <= y1; y++)
        for (let z = place(low); z <= z1; z++) {
          const key = cellOf(x, y, z);
          const cell = cells.get(key);
          if (cell === undefined) {
            cells.set(key, [j]);
            continue;
          }
          for (let k = 0; k < cell.length; k++) {
            const i = cell[k];
            if (seen[i] === j) continue;
            seen[i] = j;
            const a = boxes[i];
            if (a[0] < right + reach && left < a[2] + reach && a[1] < top + reach && bottom < a[3] + reach) {
              if (levels && (levels.low(i) >= high || levels.high(i) <= low)) continue;
              meet(i, j);
            }
          }
          if (cell[cell.length - 1] !== j) cell.push(j);
        }
  }
}
