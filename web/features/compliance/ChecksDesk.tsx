"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { fixOf, type Compliance, type ComplianceRow, type Pack, type Project } from "@arroyo/core";
import { Act, TextInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits, type Units } from "../../ui/units.ts";
import { useShowThing } from "../showThing.ts";
import { useStore } from "../store.ts";
import { submissionIn, useSubmitting } from "./useCompliance.ts";

/** Lighting and equipment are told in W per area in IP as well. */
const electric = (r: ComplianceRow): boolean => r.unit === "W/m²" || r.unit === "W";

/** Mark and word of a row. */
export function rowMark(r: ComplianceRow): { readonly text: string; readonly good: boolean } {
  if (r.exception !== undefined) return { text: "◇ excepted", good: true };
  if (r.pass === null) return { text: "… open", good: false };
  if (r.kind === "attested") return r.pass ? { text: "✓ attested", good: true } : { text: "✗ not attested", good: false };
  return r.pass ? { text: "✓ pass", good: true } : { text: "✗ fail", good: false };
}
/** Required and proposed figures of a row, as they are shown. */
export function rowFigures(r: ComplianceRow, units: Units): readonly [required: string, proposed: string, unit: string] {
  const yesNo = r.quantity === "control by daylight" || r.quantity === "economizer";
  const of = (v: number | null): string =>
    v === null ? "with sizes" : yesNo ? (v >= 1 ? "yes" : "no") : units.text(v, r.unit, Math.abs(v) >= 100 ? 0 : 2, electric(r));
  return [`${yesNo ? "" : r.rule === "at most" ? "≤ " : "≥ "}${of(r.required)}`, of(r.proposed), r.unit === "1" ? "" : units.unit(r.unit, electric(r))];
}

const titles = {
  mandatory: ["Mandatory", "cannot be traded on either path"],
  prescriptive: ["Prescriptive", "may be traded on the performance path"],
  attested: ["Attested by hand", "what no model shows"],
} as const;

/** Rows with pass and fail, failures first; a click goes to the thing; what has a fix offers it, what has a reason is excepted. */
export function Checks({ result, pack, project = null }: { result: Compliance; pack: Pack; project?: Project | null }) {
  return (
    <>
      {(["mandatory", "prescriptive", "attested"] as const).map((kind) => {
        const rows = result.rows.filter((r) => r.kind === kind);
        if (rows.length === 0) return null;
        const passed = rows.filter((r) => r.pass === true || r.exception !== undefined).length;
        return (
          <Box key={kind} mb="5">
            <Flex align="baseline" gap="3" mb="1">
              <Text as="h2" textStyle="title">
                {titles[kind][0]}
              </Text>
              <Text color="ink2">
                {passed} of {rows.length} pass · {titles[kind][1]}
              </Text>
            </Flex>
            {kind === "attested" ? (
              project === null ? (
                <Grid
                  label="attested checks"
                  head={["", "Clause", "What is attested", "By"].map((text) => ({ text, left: true }))}
                  rows={rows.map((r) => ({ key: r.id, cells: [rowMark(r).text, `§ ${r.clause}`, r.subject, r.attested ?? "—"] }))}
                />
              ) : (
                <Attested rows={rows} pack={pack} />
              )
            ) : (
              <Rows kind={kind} rows={rows} pack={pack} result={result} project={project} />
            )}
          </Box>
        );
      })}
      {result.rows.some((r) => r.unverified) && (
        <Text color="ink2" fontSize="12px">
          * to be checked: this limit was not read from the document it is cited from.
        </Text>
      )}
    </>
  );
}

function Rows({
  kind,
  rows,
  pack,
  result,
  project,
}: {
  kind: string;
  rows: readonly ComplianceRow[];
  pack: Pack;
  result: Compliance;
  project: Project | null;
}) {
  const units = useUnits();
  const show = useShowThing();
  const sorted = [...rows].sort((a, b) => Number(rowMark(a).good) - Number(rowMark(b).good));
  return (
    <Grid
      label={`${kind} checks`}
      head={[
        { text: "", left: true },
        { text: "Clause", left: true },
        { text: "What", left: true },
        { text: "Quantity", left: true },
        { text: "Required" },
        { text: "Proposed" },
        { text: "Unit", left: true },
        ...(project ? [{ text: "", left: true }] : []),
      ]}
      rows={sorted.map((r) => {
        const mark = rowMark(r);
        const [required, proposed, unit] = rowFigures(r, units);
        return {
          key: r.id,
          cells: [
            <Text key="p" as="span" color={mark.good ? "water" : "clay"} fontWeight="600" whiteSpace="nowrap" title={r.exception}>
              {mark.text}
            </Text>,
            <span key="c" title={pack.clauses[r.clause]}>
              § {r.clause}
              {r.unverified ? " *" : ""}
            </span>,
            r.place !== null && project ? (
              <Act key="w" onClick={() => show(r.place as string)}>
                {units.turned(r.subject)}
              </Act>
            ) : (
              units.turned(r.subject)
            ),
            r.quantity,
            required,
            proposed,
            unit,
            ...(project ? [<RowActions key="a" row={r} result={result} project={project} />] : []),
          ],
        };
      })}
    />
  );
}

/** The fix of a failed row, or the reason for which it is excepted. */
function RowActions({ row, result, project }: { row: ComplianceRow; result: Compliance; project: Project }) {
  const edit = useStore((s) => s.edit);
  const { input, set } = useSubmitting();
  const [typing, setTyping] = useState(false);
  if (row.pass === true) return null;
  const except = (reason: string | undefined): string | null => {
    const { [row.id]: _now, ...others } = input.exceptions ?? {};
    const said = set(`Exception: ${row.subject}`, { exceptions: reason === undefined ? others : { ...others, [row.id]: reason } });
    if (said === null) setTyping(false);
    return said;
  };
  if (typing) return <TextInput label={`Reason for the exception of ${row.subject}`} value="" width="180px" align="left" onCommit={(t) => except(t)} />;
  const s = submissionIn(project, result.climateZone);
  const fix = s && row.exception === undefined ? fixOf(project, s, row) : null;
  return (
    <Flex gap="3" justify="flex-end" whiteSpace="nowrap">
      {fix && (
        <Act title={`${row.subject}: ${fix.label.toLowerCase()}`} onClick={() => edit(`${row.subject}: ${fix.label.toLowerCase()}`, fix.changes)}>
          {fix.label}
        </Act>
      )}
      {row.exception === undefined ? (
        <Act onClick={() => setTyping(true)}>Make an exception</Act>
      ) : (
        <Act onClick={() => except(undefined)}>Take the exception back</Act>
      )}
    </Flex>
  );
}

/** Rows a person attests: by whom and when. */
function Attested({ rows, pack }: { rows: readonly ComplianceRow[]; pack: Pack }) {
  const { input, set } = useSubmitting();
  const change = (id: string, part: Partial<{ by: string; date: string }> | null): string | null => {
    const { [id]: now = { by: "", date: "" }, ...others } = input.attested ?? {};
    return set("Attested by hand", { attested: part === null ? others : { ...others, [id]: { ...now, ...part } } });
  };
  return (
    <Grid
      label="attested checks"
      head={[
        { text: "", left: true },
        { text: "Clause", left: true },
        { text: "What is attested", left: true },
        { text: "By", left: true },
        { text: "Date", left: true },
        { text: "" },
      ]}
      rows={rows.map((r) => {
        const id = r.id.split(" ")[1];
        const now = input.attested?.[id];
        const mark = rowMark(r);
        return {
          key: r.id,
          cells: [
            <Text key="p" as="span" color={mark.good ? "water" : "clay"} fontWeight="600" whiteSpace="nowrap">
              {mark.text}
            </Text>,
            <span key="c" title={pack.clauses[r.clause]}>
              § {r.clause}
            </span>,
            r.subject,
            <TextInput key="b" label={`Attested by: ${r.subject}`} value={now?.by ?? ""} width="140px" align="left" onCommit={(t) => change(id, { by: t })} />,
            <chakra.input
              key="d"
              type="date"
              aria-label={`Date: ${r.subject}`}
              background="transparent"
              value={now?.date ?? ""}
              onChange={(e) => void change(id, { date: e.target.value })}
            />,
            now ? (
              <Act key="x" onClick={() => void change(id, null)}>
                Take back
              </Act>
            ) : (
              ""
            ),
          ],
        };
      })}
    />
  );
}
