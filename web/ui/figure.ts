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
