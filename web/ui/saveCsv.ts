/** Offers a table as a CSV file. Text cells are quoted where they need it. */
export function saveCsv(name: string, rows: readonly (readonly (string | number | null | undefined)[])[]): void {
  const cell = (v: string | number | null | undefined): string => {
    const s = v === null || v === undefined ? "" : String(v);
    return /[",\n]/.test(s) ? `"${s.replaceAll('"', '""')}"` : s;
  };
  const a = document.createElement("a");
  a.href = `data:text/csv;charset=utf-8,${encodeURIComponent(rows.map((r) => r.map(cell).join(",")).join("\n"))}`;
  a.download = `${name}.csv`;
  a.click();
}
