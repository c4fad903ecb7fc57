import { complianceInput, hashOf, packsOf, type Compliance, type ComplianceRow } from "../compliance/index.ts";
import { defaultsLeft, registerOf } from "../inputs/index.ts";
import { inputWords, type Pack, type Project } from "../model/index.ts";
import { yearInView } from "../model/index.ts";
import type { Block, Cell, Report, ReportTable } from "./report.ts";

const figure = (v: number | null, digits: number): Cell => (v === null || !Number.isFinite(v) ? null : { value: v, digits });
const head = (...columns: readonly (string | readonly [string, string])[]): ReportTable["head"] =>
  columns.map((c) => (typeof c === "string" ? { text: c, unit: "" } : { text: c[0], unit: c[1] }));

/** What a certificate says of a row: pass, fail, not known, attested, excepted. */
export function rowVerdict(r: ComplianceRow): string {
  if (r.kind === "attested") return r.pass ? `attested by ${r.attested ?? ""}` : "not attested";
  if (r.exception !== undefined) return `excepted: ${r.exception}`;
  return r.pass === null ? "not known before sizes are" : r.pass ? "pass" : "fail";
}

/** The certificate of a result as a report, for print and DOCX: inputs, checks, reference building, result, assumptions, evidence, sign-off. */
export function certificateReport(project: Project, result: Compliance): Report {
  const pack: Pack = packsOf(project)[result.pack];
  const input = complianceInput(project);
  const blocks: Block[] = [];
  const add = (...b: Block[]): void => void blocks.push(...b);
  const paragraph = (text: string): Block => ({ kind: "paragraph", text });
  const heading = (text: string): Block => ({ kind: "heading", level: 1, text });
  const clause = (c: string): string => `§ ${c}`;
  add(
    paragraph(`${pack.name}, ${pack.edition}, version ${pack.version}. ${pack.jurisdiction}.`),
    heading("Submission"),
    {
      kind: "table",
      caption: "What is submitted",
      head: head("Item", "As submitted"),
      rows: [
        ["Work", result.work],
        ["Path", result.path],
        ["Parts submitted", result.scope.join(", ") || "none"],
        ["Spaces submitted", input.spaces ? input.spaces.map((s) => project.spaces[s]?.name ?? s).join(", ") : "all"],
        ["Place", project.site.name],
        ["Climate zone", result.climateZone],
        ["Weather year", yearInView(project).name],
        ["Hash of the project", result.projectHash],
        ["Hash of the pack", result.packHash],
      ],
    },
    heading("Result"),
    paragraph(verdict(result)),
  );
  if (result.index !== null)
    add({
      kind: "table",
      caption: `By ${result.measure}`,
      head: head("", ["Design", result.unit], ["Reference building", result.unit]),
      rows: [
        ["A year", figure(result.proposed, 0), figure(result.reference, 0)],
        ["Per m²", figure(result.perArea.proposed, 2), figure(result.perArea.reference, 2)],
        ["Hours unmet", figure(result.unmet.proposed, 0), figure(result.unmet.reference, 0)],
      ],
    });
  if (result.turns.length > 1)
    add({
      kind: "table",
      caption: "The reference building by its orientation",
      head: head("Turned by", ["A year", result.unit]),
      rows: result.turns.map((t) => [`${t.turn}°`, figure(t.total, 0)]),
    });
  if (result.endUses.length > 0)
    add({
      kind: "table",
      caption: "By end use",
      head: head("End use", "Fuel", ["Design, energy", "kWh"], ["Reference", "kWh"], [`Design, ${result.measure}`, result.unit], ["Reference", result.unit]),
      rows: result.endUses.map((u) => [
        u.use,
        u.fuel,
        figure(u.energy.proposed, 0),
        figure(u.energy.reference, 0),
        figure(u.counts.proposed, 0),
        figure(u.counts.reference, 0),
      ]),
    });
  for (const kind of ["mandatory", "prescriptive", "attested"] as const) {
    const rows = result.rows.filter((r) => r.kind === kind);
    if (rows.length === 0) continue;
    add(heading({ mandatory: "Mandatory checks", prescriptive: "Prescriptive checks", attested: "Rows attested by hand" }[kind]), {
      kind: "table",
      caption: `${rows.filter((r) => r.pass).length} of ${rows.length} rows pass`,
      head: kind === "attested" ? head("Clause", "What is attested", "Verdict") : head("Clause", "What", "Quantity", "Required", "Proposed", "Unit", "Verdict"),
      rows: rows.map((r) =>
        kind === "attested"
          ? [clause(r.clause), r.subject, rowVerdict(r)]
          : [
              clause(r.clause),
              r.subject,
              r.quantity,
              r.required === null ? null : `${r.rule === "at most" ? "≤" : "≥"} ${Number(r.required.toPrecision(4))}${r.unverified ? " *" : ""}`,
              figure(r.proposed, Math.abs(r.proposed ?? 0) >= 100 ? 0 : 2),
              r.unit === "1" ? "" : r.unit,
              rowVerdict(r),
            ],
      ),
    });
  }
  if (result.rows.some((r) => r.unverified) || result.changes.some((c) => c.unverified))
    add({ kind: "remark", text: "* To be checked: this figure of the pack was not read from the document it is cited from." });
  add(heading("Reference building"), {
    kind: "table",
    caption: `${result.changes.length} changes of the design make it`,
    head: head("Clause", "What", "Design", "Reference"),
    rows: result.changes.map((c) => [clause(c.clause), c.thing, c.from, c.to]),
  });
  if (result.systems.length > 0)
    add({
      kind: "table",
      caption: "Systems of the reference building",
      head: head("Clause", "System", "Zones"),
      rows: result.systems.map((m) => [clause(m.clause), m.row, m.zones.map((z) => project.zones[z]?.name ?? z).join(", ")]),
    });
  const used = new Set([...result.rows, ...result.changes].map((r) => r.clause));
  add(heading("Clauses"), {
    kind: "table",
    caption: "What the clauses named here say",
    head: head("Clause", "What it says"),
    rows: Object.entries(pack.clauses)
      .filter(([c]) => used.has(c))
      .map(([c, text]) => [clause(c), text]),
  });
  const register = registerOf(project);
  const known = register.filter((r) => project.evidence[r.address] || r.taken);
  add(
    heading("Assumptions and evidence"),
    paragraph(`${register.length} typed values, ${known.length} of them with a source; ${defaultsLeft(project).length} inputs run on defaults somewhere.`),
    {
      kind: "table",
      caption: "Typed values",
      head: head("Of", "What", "Value", "Source", "Confidence", "By"),
      rows: register.map((r) => {
        const e = project.evidence[r.address] ?? {};
        return [
          r.thing,
          r.what,
          r.spec && typeof r.value === "number" ? inputWords(r.address.split("/").at(-1) ?? "", r.value) : String(r.value ?? "none"),
          [r.taken && clause(r.taken), e.source].filter(Boolean).join("; ") || null,
          e.confidence ?? null,
          [e.author, e.date].filter(Boolean).join(", ") || null,
        ];
      }),
    },
    heading("Sign-off"),
    {
      kind: "table",
      caption: "Prepared and checked by",
      head: head("", "Name", "Signature"),
      rows: [
        ["Prepared by", input.signed?.prepared ?? null, ""],
        ["Checked by", input.signed?.checked ?? null, ""],
        ["Licence", input.signed?.licence ?? null, ""],
        ["Date", input.signed?.date ?? null, ""],
      ],
    },
  );
  return { title: `${project.name}: certificate under the ${pack.name}`, blocks };
}

/** Why it is not known yet whether a design passes. */
export const unknownWords = (result: Compliance): string =>
  result.index === null || result.unmet.pass !== null ? "Not known before a year is run" : "Not known: hours unmet are told from four steps an hour";

/** The result in one sentence. */
export function verdict(result: Compliance): string {
  const { index, target, letter, points } = result;
  const rated =
    index === null || result.path === "prescriptive"
      ? ""
      : ` Index ${index.toFixed(1)}${target === null ? "" : `, passes at ${target.toFixed(1)} and below`}${letter ? `; letter ${letter}` : ""}${points === null ? "" : `; ${points} points`}.`;
  const why = result.reasons.length > 0 ? `: ${result.reasons.join("; ")}` : "";
  return `${result.pass === null ? unknownWords(result) : result.pass ? "Passes" : `Does not pass${why}`}.${rated}`;
}

/** What a registry is sent: the result with the hash of everything in it. */
export const submissionDocument = (result: Compliance): { readonly hash: string; readonly certificate: Compliance } => ({
  hash: hashOf(result),
  certificate: result,
});
