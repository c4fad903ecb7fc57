/** One comparison: what, against which source, expected, found, and how far they may lie apart. */
export interface Row {
  readonly group: string;
  readonly source: string;
  readonly name: string;
  readonly quantity: string;
  readonly expected: number;
  readonly found: number;
  readonly within: number;
}

/** Adds one comparison. */
export type Add = (group: string, source: string, name: string, quantity: string, expected: number, found: number, within: number) => void;

/** Comparisons as they are added. */
export function collect(fill: (add: Add) => void): Row[] {
  const rows: Row[] = [];
  fill((group, source, name, quantity, expected, found, within) => void rows.push({ group, source, name, quantity, expected, found, within }));
  return rows;
}
