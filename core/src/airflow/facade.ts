import { DEG, log, sin, cos } from "../numeric/index.ts";

/**
 * Mean wind pressure coefficient of a wall of a low rectangular block, 1: 0.6 head on, times the normalised curve of Swami and Chandra 1988 (their
 * equation for low buildings, from memory). @param angle between the wall's normal and where the wind comes from, degrees
 * @param ratio length of the wall over that of the wall beside it; 1: a square
 */
export function blockCoefficient(angle: number, ratio: number): number {
  const a = Math.abs(angle - 360 * Math.round(angle / 360));
  const g = log(Math.max(0.1, Math.min(10, ratio)));
  const [half, whole] = [(a / 2) * DEG, a * DEG];
  const [s, c] = [sin(half), cos(half)];
  const side = sin(whole);
  const turned = sin(2 * a * DEG * g);
  return 0.6 * log(1.248 - 0.703 * s - 1.175 * side * side + 0.131 * turned * turned * turned + 0.769 * c + 0.07 * g * g * s * s + 0.717 * c * c);
}

/** Wind pressure coefficients of points of a façade by the direction the wind comes from. */
export interface FacadeTable {
  /** Height whose wind the coefficients are for, m above the ground. */
  readonly reference: number;
  /** Degrees from north, rising from 0 to below 360. */
  readonly directions: readonly number[];
  readonly points: readonly { readonly name: string; readonly coefficients: readonly number[] }[];
}

/** Coefficient of a point at any direction: along a line between the two nearest. */
export function tableCoefficient(table: FacadeTable, point: number, direction: number): number {
  const { directions, points } = table;
  const { coefficients } = points[point];
  const d = ((direction % 360) + 360) % 360;
  const last = directions.length - 1;
  let k = last;
  while (k > 0 && directions[k] > d) k--;
  // before the first direction lies the last one, a turn back
  const before = directions[k] > d;
  if (before) k = last;
  const from = before ? directions[last] - 360 : directions[k];
  const next = k === last ? 0 : k + 1;
  const step = (directions[next] - from + 720) % 360 || 360;
  const share = (d - from) / step;
  return coefficients[k] + share * (coefficients[next] - coefficients[k]);
}

/** Directions further apart than this leave too much of the rose without a figure, degrees. */
const WIDEST = 60;
/** Beyond these a figure is no mean pressure coefficient. */
const BOUNDS = [-8, 2] as const;

/**
 * Reads a table of façade points: a head of "point" and directions in degrees, one row a point; a first line "reference height, m" may tell the height the
 * coefficients are for. @returns sentences with their line where it cannot be used
 */
export function readFacadeCsv(
  text: string,
):
  | { readonly ok: true; readonly table: FacadeTable }
  | { readonly ok: false; readonly problems: readonly { readonly line: number; readonly message: string }[] } {
  const lines = text
    .replace(/^\uFEFF/, "")
    .split(/\r?\n/)
    .map((l, i) => ({ cells: l.split(l.includes(";") ? ";" : ",").map((c) => c.trim()), line: i + 1 }))
    .filter((l) => l.cells.some((c) => c !== ""));
  const problems: { line: number; message: string }[] = [];
  const tell = (line: number, message: string): void => void problems.push({ line, message });
  let reference = 10;
  const first = lines[0] as (typeof lines)[number] | undefined;
  if (first && /^reference/i.test(first.cells[0])) {
    reference = Number(first.cells[1]);
    if (!(reference > 0 && reference <= 1000)) tell(first.line, `"${first.cells[1] ?? ""}" is no reference height in m.`);
    lines.shift();
  }
  const head = lines.shift();
  if (!head) return { ok: false, problems: [...problems, { line: 1, message: "The table is empty: it begins with the directions of the wind." }] };
  const directions = head.cells.slice(1).map(Number);
  directions.forEach((d, i) => {
    if (!(d >= 0 && d < 360)) tell(head.line, `"${head.cells[i + 1]}" is no direction from 0 to below 360°.`);
    else if (i > 0 && !(d > directions[i - 1])) tell(head.line, `The directions rise: ${d}° comes after ${directions[i - 1]}°.`);
    const gap = i === 0 ? d + 360 - directions[directions.length - 1] : d - directions[i - 1];
    if (gap > WIDEST)
      tell(
        head.line,
        `Coefficients are missing between ${i === 0 ? directions[directions.length - 1] : directions[i - 1]}° and ${d}°: directions are at most ${WIDEST}° apart.`,
      );
  });
  if (directions.length < 2) tell(head.line, "The head needs the directions of the wind, in degrees from north.");
  const points = lines.map(({ cells, line }) => {
    if (cells[0] === "") tell(line, "The point has no name.");
    const coefficients = directions.map((d, i) => {
      const v = cells[i + 1] === undefined || cells[i + 1] === "" ? NaN : Number(cells[i + 1]);
      if (!(v >= BOUNDS[0] && v <= BOUNDS[1]))
        tell(
          line,
          v === v ? `${v} at ${d}° is no pressure coefficient: they lie between ${BOUNDS[0]} and ${BOUNDS[1]}.` : `"${cells[0]}" has no coefficient for ${d}°.`,
        );
      return v;
    });
    return { name: cells[0], coefficients };
  });
  if (points.length === 0) tell(head.line, "No point follows the head.");
  return problems.length > 0 ? { ok: false, problems } : { ok: true, table: { reference, directions, points } };
}

/** A table as its CSV. @see readFacadeCsv */
export function writeFacadeCsv({ reference, directions, points }: FacadeTable): string {
  return [
    `reference height,${reference}`,
    ["point", ...directions].join(","),
    ...points.map((p) => [p.name.replaceAll(",", " "), ...p.coefficients.map((c) => Number(c.toFixed(4)))].join(",")),
    "",
  ].join("\n");
}

/** How far an outline is from the rectangle around it that fits it best, as a share of that rectangle: above a twentieth the formula of blocks does not hold. */
export function blockMisfit(outline: readonly (readonly [x: number, y: number])[]): number {
  let area = 0;
  for (let i = 0; i < outline.length; i++) {
    const [a, b] = [outline[i], outline[(i + 1) % outline.length]];
    area += a[0] * b[1] - b[0] * a[1];
  }
  let least = Infinity;
  for (let i = 0; i < outline.length; i++) {
    const [a, b] = [outline[i], outline[(i + 1) % outline.length]];
    const length = Math.sqrt((b[0] - a[0]) * (b[0] - a[0]) + (b[1] - a[1]) * (b[1] - a[1]));
    if (length === 0) continue;
    const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    const [along, across] = [outline.map(([x, y]) => x * ux + y * uy), outline.map(([x, y]) => y * ux - x * uy)];
    const span = (v: readonly number[]): number => v.reduce((m, x) => Math.max(m, x), -Infinity) - v.reduce((m, x) => Math.min(m, x), Infinity);
    least = Math.min(least, span(along) * span(across));
  }
  return least > 0 && least < Infinity ? 1 - Math.abs(area / 2) / least : 0;
}
