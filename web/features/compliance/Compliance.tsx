"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { usePathname, useRouter, useSearchParams } from "next/navigation";
import { letters, plateauPack, scopeParts, type Compliance as Result, type ComplianceRow, type Project } from "@arroyo/core";
import { Head, Row } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Grid, Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { stageAddress, useStore, type Selection } from "../store.ts";
import { scopeFrom, useCompliance } from "./useCompliance.ts";

const views = { checks: "Checks", reference: "Reference building", clauses: "Clauses" } as const;
type View = keyof typeof views;
const pack = plateauPack;

/** A design against a rule pack: rows with pass and fail, the reference building kept current, index and letter. */
export function Compliance() {
  const project = useStore((s) => s.project) as Project;
  const query = useSearchParams();
  const router = useRouter();
  const path = usePathname();
  const scope = scopeFrom(query.get("scope"), scopeParts);
  const view = (query.get("view") ?? "checks") as View;
  const { result, current, message } = useCompliance(project, pack.id, scope);
  const go = (key: string, value: string): void => {
    const next = new URLSearchParams(window.location.search);
    next.set(key, value);
    router.replace(`${path}?${next.toString()}`);
  };
  const failed = result?.rows.filter((r) => !r.pass).length ?? 0;
  return (
    <>
      <Side label="Compliance" width="210px">
        <SideHead>Read</SideHead>
        <SideItem active={view === "checks"} value={result ? `${failed} failed` : ""} onClick={() => go("view", "checks")}>
          {views.checks}
        </SideItem>
        <SideItem active={view === "reference"} value={result ? `${result.changes.length}` : ""} onClick={() => go("view", "reference")}>
          {views.reference}
        </SideItem>
        <SideItem active={view === "clauses"} onClick={() => go("view", "clauses")}>
          {views.clauses}
        </SideItem>
        <SideHead>Submitted</SideHead>
        {scopeParts.map((p) => (
          <chakra.label key={p} display="flex" gap="2" px="3.5" py="1" cursor="pointer">
            <input
              type="checkbox"
              checked={scope.includes(p)}
              onChange={(e) => go("scope", scopeParts.filter((q) => (q === p ? e.target.checked : scope.includes(q))).join(","))}
            />
            {p}
          </chakra.label>
        ))}
        <Text px="3.5" color="ink2" fontSize="12px">
          What is not submitted is equal in both buildings.
        </Text>
      </Side>
      <Middle label={views[view]}>
        {message && (
          <Text role="alert" color="clay" mb="2">
            {message}
          </Text>
        )}
        {!result ? (
          <Text color="ink2">{message ? "" : "Computing the design and its reference building …"}</Text>
        ) : (
          <Box {...(current ? {} : { color: "ink2", fontStyle: "italic" })} data-testid="compliance" data-current={current}>
            {view === "checks" && <Checks rows={result.rows} />}
            {view === "reference" && <Reference result={result} />}
            {view === "clauses" && (
              <Grid
                label="Clauses"
                head={[
                  { text: "Clause", left: true },
                  { text: "What it says", left: true },
                ]}
                rows={Object.entries(pack.clauses).map(([c, text]) => ({ key: c, cells: [c, text] }))}
              />
            )}
          </Box>
        )}
      </Middle>
      <Inspector title={pack.name} about={`${pack.edition} · an invented jurisdiction`}>
        {result && <Verdict result={result} />}
        <Row label="Climate zone" note="thermal zone from the degree days of the weather year (ASHRAE 169)">
          <b>{result?.climateZone ?? "—"}</b>
        </Row>
        <Box mt="4">
          <chakra.a
            href={`/print/${project.id}?scope=${scope.join(",")}${query.get("option") ? `&option=${query.get("option")}` : ""}`}
            target="_blank"
            color="water"
          >
            Printable page with every assumption
          </chakra.a>
        </Box>
      </Inspector>
    </>
  );
}

/** Index, letter on its scale, pass or not and why. */
export function Verdict({ result }: { result: Result }) {
  const units = useUnits();
  const failed = result.rows.filter((r) => !r.pass && r.kind === "mandatory").length;
  return (
    <>
      <Flex align="baseline" gap="2">
        <Text textStyle="figure" data-testid="compliance-index">
          {figure(result.index)}
        </Text>
        <Text color="ink2">index, passes at 100 and below</Text>
      </Flex>
      <Text fontWeight="600" color={result.pass ? "water" : "clay"} data-testid="compliance-pass">
        {result.pass
          ? "✓ passes"
          : `✗ does not pass${result.index > 100 ? "; the index is above 100" : ""}${failed > 0 ? `; ${failed} mandatory row${failed > 1 ? "s" : ""} failed` : ""}`}
      </Text>
      <Head>Letter by primary energy</Head>
      <Box role="img" aria-label={`Letter ${result.letter} at ${units.words(result.primary.proposed, "kWh/m²a", 1)}`}>
        {letters.map((l, i) => {
          const upTo = pack.letters.find((x) => x.letter === l)?.upTo.value;
          const on = l === result.letter;
          return (
            <Flex key={l} align="center" gap="2" py="0.5" fontWeight={on ? "600" : "400"}>
              <Box
                background={on ? "water" : "line"}
                color={on ? "sheet" : "ink2"}
                px="2"
                fontSize="12px"
                style={{ width: `${34 + 9 * i}%` }}
                data-testid={on ? "compliance-letter" : undefined}
              >
                {l}
              </Box>
              <Text fontSize="12px" color="ink2">
                {on ? `${units.text(result.primary.proposed, "kWh/m²a", 1)} here` : upTo ? `to ${units.text(upTo, "kWh/m²a", 0)}` : "beyond"}
              </Text>
            </Flex>
          );
        })}
      </Box>
      <Row label="Primary energy, design">
        <b>{units.text(result.primary.proposed, "kWh/m²a", 1)}</b> {units.unit("kWh/m²a")}
      </Row>
      <Row label="Primary energy, reference">
        <b>{units.text(result.primary.reference, "kWh/m²a", 1)}</b> {units.unit("kWh/m²a")}
      </Row>
    </>
  );
}

/** Lighting and appliances are told in W per area in IP as well. */
const electric = (r: ComplianceRow): boolean => r.unit === "W/m²";

/** Mandatory and prescriptive rows; a click goes to the thing. */
export function Checks({ rows }: { rows: readonly ComplianceRow[] }) {
  const units = useUnits();
  const select = useStore((s) => s.select);
  const router = useRouter();
  const show = (r: ComplianceRow): void => {
    const [part, id] = (r.place ?? "").split("/");
    const target: Record<string, readonly [Selection["kind"], string]> = {
      spaces: ["space", "form"],
      assemblies: ["assembly", "fabric"],
      services: ["services", "services"],
      airSystems: ["airSystem", "services"],
    };
    if (!target[part]) return;
    select([{ kind: target[part][0], id }]);
    router.push(stageAddress(target[part][1]));
  };
  return (
    <>
      {(["mandatory", "prescriptive"] as const).map((kind) => {
        const of = [...rows.filter((r) => r.kind === kind)].sort((a, b) => Number(a.pass) - Number(b.pass));
        return (
          <Box key={kind} mb="5">
            <Flex align="baseline" gap="3" mb="1">
              <Text as="h2" textStyle="title">
                {kind === "mandatory" ? "Mandatory" : "Prescriptive"}
              </Text>
              <Text color="ink2">
                {of.filter((r) => r.pass).length} of {of.length} pass · {kind === "mandatory" ? "cannot be traded" : "may be traded within the index"}
              </Text>
            </Flex>
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
              ]}
              rows={of.map((r, i) => ({
                key: `${r.clause} ${r.place} ${r.quantity} ${i}`,
                onClick: () => show(r),
                cells: [
                  <Text key="p" as="span" color={r.pass ? "water" : "clay"} fontWeight="600" whiteSpace="nowrap">
                    {r.pass ? "✓ pass" : "✗ fail"}
                  </Text>,
                  <span key="c" title={pack.clauses[r.clause]}>
                    § {r.clause}
                  </span>,
                  units.turned(r.subject),
                  r.quantity,
                  `${r.rule === "at most" ? "≤" : "≥"} ${units.text(r.required, r.unit, 2, electric(r))}`,
                  units.text(r.proposed, r.unit, 2, electric(r)),
                  r.unit === "1" ? "" : units.unit(r.unit, electric(r)),
                ],
              }))}
            />
          </Box>
        );
      })}
    </>
  );
}

/** Every change that makes the reference building, with its clause. */
export function Reference({ result }: { result: Result }) {
  const units = useUnits();
  return (
    <>
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          What makes the reference building
        </Text>
        <Text color="ink2">{result.changes.length} changes of the design, each by its clause; kept current with every edit</Text>
      </Flex>
      <Grid
        label="Changes of the reference building"
        head={[{ text: "Clause", left: true }, { text: "What", left: true }, { text: "Design" }, { text: "Reference" }]}
        rows={result.changes.map((c, i) => ({
          key: `${c.path} ${i}`,
          cells: [
            <span key="c" title={pack.clauses[c.clause]}>
              § {c.clause}
            </span>,
            c.thing,
            units.turned(c.from),
            <b key="t">{units.turned(c.to)}</b>,
          ],
        }))}
      />
      {result.changes.length === 0 && <Text color="ink2">None: the design is its own reference.</Text>}
    </>
  );
}
