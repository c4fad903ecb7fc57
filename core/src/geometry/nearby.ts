import type { Box } from "./polygon.ts";

/** Width of a cell of the index, m. */
const CELL = 6;

/** Calls `meet(i, j)`, i < j, once for every pair of boxes that come within `reach` of each other. */
export function eachNearPair(boxes: readonly Box[], reach: number, meet: (i: number, j: number) => void): void {
  const cells = new Map<number, number[]>();
  const place = (v: number): number => Math.floor(v / CELL);
  const seen = new Int32Array(boxes.length).fill(-1);
  const key = (x: number, y: number): number => x * 131072 + y;
  boxes.forEach((b, j) => {
    const [x0, x1, y0, y1] = [place(b[0] - reach), place(b[2] + reach), place(b[1] - reach), place(b[3] + reach)];
    for (let x = x0; x <= x1; x++)
      for (let y = y0; y <= y1; y++) {
        const cell = cells.get(key(x, y));
        if (!cell) {
          cells.set(key(x, y), [j]);
          continue;
        }
        for (const i of cell) {
          if (seen[i] === j) continue;
          seen[i] = j;
          const a = boxes[i];
          if (a[0] < b[2] + reach && b[0] < a[2] + reach && a[1] < b[3] + reach && b[1] < a[3] + reach) meet(i, j);
        }
        cell.push(j);
      }
  });
}
