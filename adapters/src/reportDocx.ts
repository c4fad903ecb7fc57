import {
  AlignmentType,
  BorderStyle,
  Document,
  HeadingLevel,
  Packer,
  PageOrientation,
  Paragraph,
  Table,
  TableCell,
  TableLayoutType,
  TableRow,
  TextRun,
  WidthType,
  type ISectionOptions,
} from "docx";
import { cellText, type Block, type Cell, type Report, type ReportTable } from "@arroyo/core";

/** Tables of more columns stand on landscape pages; of more than fit there, they are split, each part with the first column. */
const UPRIGHT = 8;
const LANDSCAPE = 14;
/** A4 less its margins, twentieths of a point. */
const WIDTH = { upright: 11906 - 2 * 1134, landscape: 16838 - 2 * 1134 } as const;
const FONT = "IBM Plex Sans";
const INK2 = "62676E";
const LINE = "DCD4C6";

const isFigure = (c: Cell | undefined): boolean => typeof c === "object" && c !== null;

/** A table in parts that fit a landscape page, each with the column that names the rows. */
function parts(t: ReportTable): ReportTable[] {
  if (t.head.length <= LANDSCAPE) return [t];
  const rest = t.head.length - 1;
  const count = Math.ceil(rest / (LANDSCAPE - 1));
  const each = Math.ceil(rest / count);
  return Array.from({ length: count }, (_, i): ReportTable => {
    const columns = [0, ...Array.from({ length: Math.min(each, rest - i * each) }, (__, k) => 1 + i * each + k)];
    return { ...t, caption: `${t.caption} (${i + 1} of ${count})`, head: columns.map((c) => t.head[c]), rows: t.rows.map((r) => columns.map((c) => r[c])) };
  });
}

function tableOf(t: ReportTable): Table {
  const right = t.head.map((_, i) => t.rows.some((r) => isFigure(r[i])));
  const width = t.head.length > UPRIGHT ? WIDTH.landscape : WIDTH.upright;
  // texts take as much as their longest word asks for, figures as much as they are long
  const weights = t.head.map((h, i) => {
    const longest = Math.max(h.text.length, h.unit.length, ...t.rows.map((r) => cellText(r[i] ?? null).length));
    return right[i] ? Math.max(6, Math.min(14, longest)) : Math.max(6, Math.min(i === 0 ? 34 : 24, longest));
  });
  const all = weights.reduce((s, w) => s + w, 0);
  const widths = weights.map((w) => Math.floor((width * w) / all));
  const edge = { style: BorderStyle.SINGLE, size: 4, color: LINE };
  const none = { style: BorderStyle.NONE, size: 0, color: "auto" };
  const size = t.head.length > UPRIGHT ? 15 : 17;
  const cell = (texts: readonly { text: string; grey?: boolean; small?: boolean }[], i: number, bold = false): TableCell =>
    new TableCell({
      width: { size: widths[i], type: WidthType.DXA },
      margins: { top: 30, bottom: 30, left: 50, right: 50 },
      borders: { top: none, left: none, right: none, bottom: edge },
      children: texts.map(
        (x) =>
          new Paragraph({
            alignment: right[i] ? AlignmentType.RIGHT : AlignmentType.LEFT,
            children: [new TextRun({ text: x.text, bold, size: x.small ? size - 2 : size, ...(x.grey ? { color: INK2 } : {}) })],
          }),
      ),
    });
  return new Table({
    layout: TableLayoutType.FIXED,
    width: { size: width, type: WidthType.DXA },
    columnWidths: widths,
    borders: { top: none, bottom: none, left: none, right: none, insideHorizontal: none, insideVertical: none },
    rows: [
      new TableRow({
        tableHeader: true,
        cantSplit: true,
        children: t.head.map((h, i) => cell([{ text: h.text.trim(), grey: true }, ...(h.unit === "" ? [] : [{ text: h.unit, grey: true, small: true }])], i)),
      }),
      ...t.rows.map((r) => new TableRow({ cantSplit: true, children: t.head.map((_, i) => cell([{ text: cellText(r[i] ?? null) }], i)) })),
    ],
  });
}

type Child = Paragraph | Table;
const text = (t: string, more: { color?: string; italics?: boolean } = {}): Paragraph =>
  new Paragraph({ spacing: { after: 120 }, children: [new TextRun({ text: t, size: 20, ...more })] });

function childrenOf(b: Block): { readonly wide: boolean; readonly children: Child[] }[] {
  switch (b.kind) {
    case "heading":
      return [
        {
          wide: false,
          children: [
            new Paragraph({
              text: b.text,
              heading: b.level === 1 ? HeadingLevel.HEADING_1 : HeadingLevel.HEADING_2,
              keepNext: true,
              spacing: { before: 240, after: 100 },
            }),
          ],
        },
      ];
    case "paragraph":
      return [{ wide: false, children: [text(b.text)] }];
    case "remark":
      return [{ wide: false, children: [text(b.text, { color: "B24E2B" })] }];
    case "table":
      return parts(b).map((t) => ({
        wide: t.head.length > UPRIGHT,
        children: [
          new Paragraph({ keepNext: true, spacing: { before: 80, after: 40 }, children: [new TextRun({ text: t.caption, size: 18, color: INK2 })] }),
          tableOf(t),
          new Paragraph({ spacing: { after: 120 }, children: [] }),
        ],
      }));
  }
}

/** A report as an office document: tables fit the page, wide ones stand on landscape pages or are split. */
export async function reportDocx(report: Report): Promise<Uint8Array> {
  const runs: { wide: boolean; children: Child[] }[] = [
    { wide: false, children: [new Paragraph({ text: report.title, heading: HeadingLevel.TITLE, spacing: { after: 240 } })] },
  ];
  const pieces = report.blocks.flatMap((b) => childrenOf(b).map((piece) => ({ ...piece, heading: b.kind === "heading" })));
  pieces.forEach((p, i) => {
    // a heading goes where what it heads goes
    const wide = p.heading ? (pieces.slice(i).find((x) => !x.heading)?.wide ?? false) : p.wide;
    const last = runs[runs.length - 1];
    if (last.wide === wide) last.children.push(...p.children);
    else runs.push({ wide, children: [...p.children] });
  });
  const heading = (size: number): { run: { font: string; size: number; bold: boolean; color: string } } => ({
    run: { font: FONT, size, bold: true, color: "23262B" },
  });
  const document = new Document({
    title: report.title,
    creator: "Arroyo",
    styles: { default: { document: { run: { font: FONT, size: 20 } }, title: heading(40), heading1: heading(28), heading2: heading(22) } },
    sections: runs.map((r): ISectionOptions => ({
      properties: {
        page: {
          margin: { top: 1134, bottom: 1134, left: 1134, right: 1134 },
          // the library turns the sides of a landscape page itself
          size: { width: 11906, height: 16838, orientation: r.wide ? PageOrientation.LANDSCAPE : PageOrientation.PORTRAIT },
        },
      },
      children: r.children,
    })),
  });
  // as a blob, which a browser and a terminal both have
  return new Uint8Array(await (await Packer.toBlob(document)).arrayBuffer());
}
