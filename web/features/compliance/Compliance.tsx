"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import type { Compliance as Result, Pack, Project } from "@arroyo/core";
import type { ComplianceAnswer } from "../../live/compliance.ts";
import { Head, Row } from "../../ui/fields.tsx";
import { Grid, Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { useStore } from "../store.ts";
import { useQuery } from "../useQuery.ts";
import { Checks } from "./ChecksDesk.tsx";
import { ChecksBuilding } from "./ChecksBuilding.tsx";
import { DaylightAreas } from "./DaylightAreas.tsx";
import { MatchDesk } from "./MatchDesk.tsx";
import { PackDesk } from "./PackDesk.tsx";
import { PerformanceDesk } from "./PerformanceDesk.tsx";
import { ReferenceDesk } from "./ReferenceDesk.tsx";
import { ReferenceTally } from "./ReferenceTally.tsx";
import { SignDesk } from "./SignDesk.tsx";
import { SubmissionDesk } from "./SubmissionDesk.tsx";
import { useCompliance, useSubmitting } from "./useCompliance.ts";
import { Verdict } from "./Verdict.tsx";

const views = {
  submission: "What is submitted",
  match: "Uses matched",
  checks: "Checks",
  building: "Pass and fail in 3D",
  daylight: "Daylight areas",
  reference: "Reference building",
  performance: "Performance",
  certificate: "Certificate",
  clauses: "Clauses",
  packs: "Rule packs",
} as const;
type View = keyof typeof views;

/** A design under a code or rating: what is submitted, its checks, its reference building kept current, the result and the certificate. */
export function Compliance() {
  const project = useStore((s) => s.project) as Project;
  const [query, change] = useQuery();
  const asked = query.get("view") ?? "checks";
  const view: View = Object.hasOwn(views, asked) ? (asked as View) : "checks";
  const { pack, input } = useSubmitting();
  const { result: answer, current, message } = useCompliance(project);
  const result = answer?.result ?? null;
  const failed = result?.rows.filter((r) => r.pass !== true && r.exception === undefined).length ?? 0;
  const value: Partial<Record<View, string>> = result
    ? {
        checks: `${failed} open`,
        reference: `${result.changes.length}`,
        performance: result.index === null ? "…" : result.index.toFixed(1),
        submission: result.climateZone,
      }
    : {};
  const item = (v: View) => (
    <SideItem key={v} active={view === v} value={value[v] ?? ""} onClick={() => change({ view: v })}>
      {views[v]}
    </SideItem>
  );
  const whole = current && answer?.stage === "exact";
  return (
    <Flex direction="column" flex="1" minW="0" minH="0">
      <Flex flex="1" minH="0">
        <Side label="Compliance" width="200px">
          <SideHead>Asked</SideHead>
          {(["submission", "match"] as const).map(item)}
          <SideHead>Checked</SideHead>
          {(["checks", "building", "daylight"] as const).map(item)}
          <SideHead>Compared</SideHead>
          {(["reference", "performance"] as const).map(item)}
          <SideHead>Handed in</SideHead>
          {item("certificate")}
          <SideHead>The code</SideHead>
          {(["clauses", "packs"] as const).map(item)}
        </Side>
        <Middle label={views[view]}>
          {message && (
            <Text role="alert" color="clay" mb="2">
              {message}
            </Text>
          )}
          <Box h="100%" data-testid="compliance" data-current={whole} data-stage={current ? (answer?.stage ?? "none") : "old"}>
            <Shown view={view} answer={answer} pack={pack} project={project} whole={whole} />
          </Box>
        </Middle>
        <Inspector title={pack.name} about={`${pack.edition} · ${pack.jurisdiction}`}>
          {result && (
            <Box {...(whole ? {} : { color: "ink2", fontStyle: "italic" })}>
              <Verdict result={result} pack={pack} approx={answer?.stage === "estimate"} />
            </Box>
          )}
          <Row label="Climate zone" note={input.climateZone === null ? "from the weather year (ASHRAE 169)" : "typed"}>
            <b>{result?.climateZone ?? "—"}</b>
          </Row>
          <Row label="Path">
            <b>{input.path}</b>
          </Row>
          <Row label="Submitted">
            <b>{input.parts.length === 4 ? "all parts" : input.parts.join(", ") || "nothing"}</b>
          </Row>
          {pack.about && (
            <>
              <Head>About this pack</Head>
              <Text color="ink2" fontSize="12px">
                {pack.about}
              </Text>
            </>
          )}
          <Box mt="4">
            <chakra.a href={`/print/${project.id}${query.get("option") ? `?option=${query.get("option")}` : ""}`} target="_blank" color="water">
              Printable page with every assumption
            </chakra.a>
          </Box>
        </Inspector>
      </Flex>
      <ReferenceTally summary={answer?.reference ?? null} stage={answer?.stage ?? null} current={current} />
    </Flex>
  );
}

/** The desk in view. Those that need no result are there at once. */
function Shown({ view, answer, pack, project, whole }: { view: View; answer: ComplianceAnswer | null; pack: Pack; project: Project; whole: boolean }) {
  if (view === "submission") return <SubmissionDesk zone={answer?.result.climateZone ?? null} />;
  if (view === "match") return <MatchDesk />;
  if (view === "daylight") return <DaylightAreas pack={pack} />;
  if (view === "packs") return <PackDesk zone={answer?.result.climateZone ?? null} />;
  if (view === "clauses")
    return (
      <Grid
        label="Clauses"
        head={[
          { text: "Clause", left: true },
          { text: "What it says", left: true },
        ]}
        rows={Object.entries(pack.clauses).map(([c, text]) => ({ key: c, cells: [c, text] }))}
      />
    );
  if (!answer) return <Text color="ink2">The checks and the reference building are being made …</Text>;
  const result: Result = answer.result;
  if (view === "checks") return <Checks result={result} pack={pack} project={project} />;
  if (view === "building") return <ChecksBuilding result={result} />;
  if (view === "reference") return <ReferenceDesk result={result} pack={pack} building={answer.building} />;
  if (view === "performance") return <PerformanceDesk result={result} pack={pack} />;
  return <SignDesk result={result} whole={whole} />;
}
