import { pow } from "../numeric/index.ts";
import type { Block, Cell, Report, ReportTable } from "./report.ts";

/** A cell as it is written: figures with their decimals and thin spaces between thousands; nothing is "—". */
export function cellText(c: Cell, thousands = "\u202f"): string {
  if (c === null) return "—";
  if (typeof c === "string") return c;
  const rounded = Math.abs(c.value) < 0.5 * pow(10, -c.digits) ? 0 : c.value;
  const [whole, part] = Math.abs(rounded).toFixed(c.digits).split(".");
  return `${rounded < 0 ? "−" : ""}${whole.replace(/\B(?=(\d{3})+$)/g, thousands)}${part === undefined ? "" : `.${part}`}`;
}
const headText = (h: ReportTable["head"][number]): string => (h.unit === "" ? h.text.trim() : `${h.text.trim()} (${h.unit})`);

const escaped = (t: string): string => t.replace(/([\\|*_`#<>[\]])/g, "\\$1").replace(/\n/g, " ");

/** A report as Markdown. */
export function reportMarkdown(report: Report): string {
  const table = (t: ReportTable): string =>
    [
      `*${escaped(t.caption)}*`,
      "",
      `| ${t.head.map((h) => escaped(headText(h))).join(" | ")} |`,
      `| ${t.head.map((_, i) => (t.rows.some((r) => typeof r[i] === "object" && r[i] !== null) ? "---:" : "---")).join(" | ")} |`,
      ...t.rows.map((r) => `| ${r.map((c) => escaped(cellText(c))).join(" | ")} |`),
    ].join("\n");
  const block = (b: Block): string => {
    switch (b.kind) {
      case "heading":
        return `${"#".repeat(b.level + 1)} ${escaped(b.text)}`;
      case "paragraph":
        return escaped(b.text);
      case "remark":
        return `> ${escaped(b.text)}`;
      case "table":
        return table(b);
    }
  };
  return `${[`# ${escaped(report.title)}`, ...report.blocks.map(block)].join("\n\n")}\n`;
}

const html = (t: string): string => t.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;").replace(/"/g, "&quot;");

const STYLE = `body{font:14px/1.45 "IBM Plex Sans",system-ui,sans-serif;color:#23262B;background:#FDFBF7;max-width:1080px;margin:32px auto;padding:0 24px}
h1{font-size:24px;margin:0 0 18px}h2{font-size:17px;margin:28px 0 8px}h3{font-size:14px;margin:16px 0 6px;color:#62676E}
table{border-collapse:collapse;width:100%;margin:6px 0 14px;font-variant-numeric:tabular-nums;font-size:12.5px}caption{text-align:left;color:#62676E;padding:0 0 4px}
th,td{border-bottom:1px solid #DCD4C6;padding:3px 6px;text-align:left;vertical-align:bottom}th{font-weight:500;color:#62676E}th small{display:block;font-weight:400}
.n{text-align:right;white-space:nowrap}.remark{color:#B24E2B}.wide{overflow-x:auto}
@media print{body{margin:0;max-width:none;background:#fff}h2{break-after:avoid}tr{break-inside:avoid}}`;

/** A report as one HTML file that needs no other. */
export function reportHtml(report: Report): string {
  const table = (t: ReportTable): string => {
    const right = t.head.map((_, i) => t.rows.some((r) => typeof r[i] === "object" && r[i] !== null));
    const of = (i: number): string => (right[i] ? ' class="n"' : "");
    return `<div class="wide"><table><caption>${html(t.caption)}</caption><thead><tr>${t.head
      .map((h, i) => `<th scope="col"${of(i)}>${html(h.text.trim())}${h.unit === "" ? "" : `<small>${html(h.unit)}</small>`}</th>`)
      .join(
        "",
      )}</tr></thead><tbody>${t.rows.map((r) => `<tr>${r.map((c, i) => `<td${of(i)}>${html(cellText(c))}</td>`).join("")}</tr>`).join("\n")}</tbody></table></div>`;
  };
  const block = (b: Block): string => {
    switch (b.kind) {
      case "heading":
        return `<h${b.level + 1}>${html(b.text)}</h${b.level + 1}>`;
      case "paragraph":
        return `<p>${html(b.text).replace(/\n/g, "<br>")}</p>`;
      case "remark":
        return `<p class="remark">${html(b.text)}</p>`;
      case "table":
        return table(b);
    }
  };
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${html(report.title)}</title><style>${STYLE}</style></head>
<body><h1>${html(report.title)}</h1>
${report.blocks.map(block).join("\n")}
</body></html>
`;
}

/** The tables of a report as CSV, each under its caption, a line free between them: the figures as they are written, without spaces in them. */
export function reportCsv(report: Report): string {
  const quoted = (t: string): string => (/[",\n]/.test(t) ? `"${t.replaceAll('"', '""')}"` : t);
  const cell = (c: Cell): string => (c === null ? "" : typeof c === "string" ? quoted(c) : cellText(c, "").replace("−", "-"));
  return report.blocks
    .flatMap((b) =>
      b.kind === "table" ? [[quoted(b.caption), b.head.map((h) => quoted(headText(h))).join(","), ...b.rows.map((r) => r.map(cell).join(","))].join("\n")] : [],
    )
    .join("\n\n")
    .concat("\n");
}
