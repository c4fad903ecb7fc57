/** Plain SVG charts for pages made by commands; readable without a script. */

const INK = "#23262B";
const QUIET = "#62676E";
const LINE = "#DCD4C6";
const COLOURS = ["#0E6B80", "#B24E2B", "#8C9A5B", "#7B6A9C"];
const W = 720;
const H = 280;
const LEFT = 56;
const RIGHT = 16;
const TOP = 46;
const BOTTOM = 40;

const text = (x: number, y: number, s: string, more = ""): string =>
  `<text x="${x.toFixed(1)}" y="${y.toFixed(1)}" font-size="11" fill="${QUIET}" ${more}>${s}</text>`;

/** Round steps that cover a range in about five. */
function ticks(low: number, high: number): number[] {
  const span = high - low || 1;
  const raw = span / 5;
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 5, 10].map((m) => m * power).find((s) => s >= raw) ?? raw;
  const out: number[] = [];
  for (let v = Math.floor(low / step) * step; v < high + step * 0.999; v += step) out.push(Number(v.toPrecision(10)));
  return out;
}

function frame(title: string, names: readonly string[], body: string): string {
  let x = LEFT;
  const legend = names
    .map((n, i) => {
      const item = `<rect x="${x}" y="27" width="10" height="10" fill="${COLOURS[i % COLOURS.length]}"/>${text(x + 15, 36, n)}`;
      x += 30 + 6.2 * n.length;
      return item;
    })
    .join("");
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${W} ${H}" width="${W}" height="${H}" font-family="IBM Plex Sans, sans-serif"><rect width="${W}" height="${H}" fill="#FDFBF7"/><text x="${LEFT}" y="18" font-size="13" font-weight="600" fill="${INK}">${title}</text>${legend}${body}</svg>\n`;
}

function grid(marks: readonly number[], y: (v: number) => number): string {
  return marks
    .map(
      (v) =>
        `<line x1="${LEFT}" x2="${W - RIGHT}" y1="${y(v).toFixed(1)}" y2="${y(v).toFixed(1)}" stroke="${LINE}"/>${text(LEFT - 6, y(v) + 4, v.toLocaleString("en"), 'text-anchor="end"')}`,
    )
    .join("");
}

export interface BarSeries {
  readonly name: string;
  readonly values: readonly number[];
}

/** Groups of bars, one bar a series. */
export function bars(title: string, groups: readonly string[], series: readonly BarSeries[]): string {
  const marks = ticks(0, Math.max(...series.flatMap((s) => s.values)));
  const top = marks[marks.length - 1];
  const y = (v: number): number => H - BOTTOM - ((H - TOP - BOTTOM) * v) / top;
  const room = (W - LEFT - RIGHT) / groups.length;
  const width = (room * 0.76) / series.length;
  const body = groups
    .map((g, i) => {
      const x0 = LEFT + i * room + room * 0.12;
      return (
        series
          .map(
            (s, k) =>
              `<rect x="${(x0 + k * width).toFixed(1)}" y="${y(s.values[i]).toFixed(1)}" width="${(width - 1).toFixed(1)}" height="${(y(0) - y(s.values[i])).toFixed(1)}" fill="${COLOURS[k % COLOURS.length]}"/>`,
          )
          .join("") + text(x0 + room * 0.38, H - BOTTOM + 16, g, 'text-anchor="middle"')
      );
    })
    .join("");
  return frame(
    title,
    series.map((s) => s.name),
    grid(marks, y) + body,
  );
}

export interface LineSeries {
  readonly name: string;
  readonly points: readonly (readonly [number, number])[];
}

/** Lines with marks over one axis. */
export function lines(title: string, axis: string, series: readonly LineSeries[]): string {
  const all = series.flatMap((s) => s.points);
  const xs = ticks(Math.min(...all.map((p) => p[0])), Math.max(...all.map((p) => p[0])));
  const ys = ticks(Math.min(0, ...all.map((p) => p[1])), Math.max(...all.map((p) => p[1])));
  const x = (v: number): number => LEFT + ((W - LEFT - RIGHT) * (v - xs[0])) / (xs[xs.length - 1] - xs[0]);
  const y = (v: number): number => H - BOTTOM - ((H - TOP - BOTTOM) * (v - ys[0])) / (ys[ys.length - 1] - ys[0]);
  const body = series
    .map((s, k) => {
      const colour = COLOURS[k % COLOURS.length];
      const path = s.points.map(([a, b], i) => `${i === 0 ? "M" : "L"}${x(a).toFixed(1)} ${y(b).toFixed(1)}`).join("");
      return `<path d="${path}" fill="none" stroke="${colour}" stroke-width="2"/>${s.points.map(([a, b]) => `<circle cx="${x(a).toFixed(1)}" cy="${y(b).toFixed(1)}" r="3" fill="${colour}"/>`).join("")}`;
    })
    .join("");
  const under = xs.map((v) => text(x(v), H - BOTTOM + 16, v.toLocaleString("en"), 'text-anchor="middle"')).join("");
  return frame(
    title,
    series.map((s) => s.name),
    grid(ys, y) + body + under + text(W - RIGHT, H - 8, axis, 'text-anchor="end"'),
  );
}
