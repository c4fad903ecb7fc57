/** Hands a file to the browser to keep. */
export function saveBlob(name: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  const a = document.createElement("a");
  a.href = url;
  a.download = name;
  a.click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

/** Offers a table as a CSV file. Text cells are quoted where they need it. */
export function saveCsv(name: string, rows: readonly (readonly (string | number | null | undefined)[])[]): void {
  const cell = (v: string | number | null | undefined): string => {
    const s = v === null || v === undefined ? "" : String(v);
    return /[",\n]/.test(s) ? `"${s.replaceAll('"', '""')}"` : s;
  };
  saveBlob(`${name}.csv`, new Blob([rows.map((r) => r.map(cell).join(",")).join("\n")], { type: "text/csv" }));
}
