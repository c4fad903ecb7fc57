/** A number with sensible digits and thousands separators; "—" for nothing. */
export function figure(value: number | null | undefined, digits = 1): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return "—";
  const v = Math.abs(value) < 0.5 * 10 ** -digits ? 0 : value;
  return v.toLocaleString("en-GB", { minimumFractionDigits: digits, maximumFractionDigits: digits }).replace(/,/g, "\u202f").replace("-", "−");
}

/** A difference with its sign. */
export function difference(value: number, digits = 1): string {
  if (Math.abs(value) < 0.5 * 10 ** -digits) return "±0";
  return `${value > 0 ? "+" : "−"}${figure(Math.abs(value), digits)}`;
}

/** Digits that show about three significant figures. */
export function digitsFor(value: number): number {
  const a = Math.abs(value);
  if (a === 0 || a >= 100) return 0;
  return a >= 10 ? 1 : a >= 1 ? 2 : 3;
}

export const monthNames = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"] as const;

/** "01-14 07:15" as "14 Jan 07:15". */
export function stampText(at: string | null): string {
  const m = at === null ? null : /^(\d\d)-(\d\d) (\d\d:\d\d)$/.exec(at);
  return m ? `${Number(m[2])} ${monthNames[Number(m[1]) - 1]} ${m[3]}` : "—";
}

/** Reads a typed number: spaces and thousands separators allowed, comma or point. Null when it is none. */
export function readNumber(text: string): number | null {
  const t = text
    .trim()
    .replace(/[\s\u202f]/g, "")
    .replace("−", "-")
    .replace(",", ".");
  return t !== "" && Number.isFinite(Number(t)) ? Number(t) : null;
}
