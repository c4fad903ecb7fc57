"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState, type ReactNode } from "react";
import {
  axisChoices,
  countRuns,
  expectedSeconds,
  figuresKept,
  freeId,
  outcomeStatistics,
  ownFigures,
  runsOf,
  setChange,
  shorterWays,
  studyBase,
  studyProblems,
  type Project,
  type Study,
  type StudyMethod,
  type YearTimes,
} from "@arroyo/core";
import { Act, Head, NumberInput, Row, SelectInput, TextInput, Unit } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Find } from "../../ui/Find.tsx";
import { Inspector, Middle } from "../../ui/Panes.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { useUnits } from "../../ui/units.ts";
import { stageName } from "../stages.ts";
import { useStore } from "../store.ts";
import { AxisRows } from "./AxisRows.tsx";
import { withAxis } from "./studyEdits.ts";
import { timeWords } from "./StudyHead.tsx";
import { isUnderWay, type StudyRun } from "./useStudy.ts";

/** A study longer than this is told with what would be sensible, s. */
const LONG = 3600;

/** Composes a study: axes from anything of the model, how the runs are combined, made and judged, with their count and time. */
export function StudyCompose({
  id,
  study,
  run,
  threads,
  onStarted,
}: {
  id: string;
  study: Study;
  run: StudyRun;
  threads: number | null;
  onStarted: () => void;
}) {
  const units = useUnits();
  const document = useStore((s) => s.document) as Project;
  const edit = useStore((s) => s.edit);
  const [finding, setFinding] = useState(study.axes.length === 0);
  const put = (next: Study, words: string): string | null => edit(words, [setChange(document, ["studies", id], next)])[0]?.message ?? null;
  const problems = useMemo(() => studyProblems(document, study), [document, study]);
  const choices = useMemo(
    () => (finding ? axisChoices(document, study.base !== null && !Object.hasOwn(document.options, study.base) ? document : studyBase(document, study)) : []),
    [finding, document, study],
  );
  const of = (where: string): string[] => problems.filter((p) => p.path === where || p.path.startsWith(`${where}/`)).map((p) => p.message);
  const others = problems.filter((p) => !p.path.startsWith("axes/"));
  return (
    <>
      <Middle label="Compose a study">
        <TextInput value={study.name} label="Name of the study" title width="420px" onCommit={(name) => put({ ...study, name }, `Study ${name}`)} />
        <Text color="ink2" mb="1">
          An axis is a list of alternatives for one input, assembly, system, rule or option. A run takes one of each.
        </Text>
        {others.map((p) => (
          <Text key={p.path + p.message} color={study.axes.length === 0 ? "ink2" : "clay"} role={study.axes.length === 0 ? undefined : "alert"}>
            {units.turned(p.message)}
          </Text>
        ))}
        {study.axes.map((axis) => (
          <AxisRows
            key={axis.id}
            document={document}
            study={study}
            axis={axis}
            faults={of(`axes/${axis.id}`)}
            change={(next, words) => void put({ ...study, axes: study.axes.map((a) => (a === axis ? next : a)) }, words)}
            remove={() => void put({ ...study, axes: study.axes.filter((a) => a !== axis) }, `${study.name}: without ${axis.name}`)}
          />
        ))}
        <Box mt="2">
          {finding ? (
            <Find
              label="Vary an input, assembly, system, rule or option"
              height="300px"
              items={choices.map((c) => ({ key: c.key, name: c.axis.name, group: stageName(c.stage), kind: c.group, figures: units.turned(c.now) }))}
              onChoose={(key) => {
                const choice = choices.find((c) => c.key === key);
                if (choice && put(withAxis(document, study, choice), `Vary ${choice.axis.name}`) === null) setFinding(false);
              }}
              onClose={() => setFinding(false)}
            />
          ) : (
            <Act onClick={() => setFinding(true)}>Vary another input</Act>
          )}
        </Box>
      </Middle>
      <RunSettings study={study} document={document} put={put}>
        <RunIt
          study={study}
          document={document}
          run={run}
          threads={threads}
          ready={!problems.some((p) => p.severity === "error")}
          put={put}
          onStarted={onStarted}
        />
      </RunSettings>
    </>
  );
}

const methods: readonly { readonly value: StudyMethod["kind"]; readonly label: string }[] = [
  { value: "grid", label: "every combination" },
  { value: "latin", label: "Latin hypercube" },
  { value: "sobol", label: "Sobol’ indices" },
  { value: "search", label: "search for the best" },
  { value: "morris", label: "elementary effects" },
  { value: "evolution", label: "evolution strategy" },
];
const SEED = 1;
function methodOf(kind: StudyMethod["kind"]): StudyMethod {
  switch (kind) {
    case "grid":
      return { kind };
    case "latin":
      return { kind, runs: 200, seed: SEED };
    case "sobol":
      return { kind, points: 64, seed: SEED };
    case "search":
      return {
        kind,
        population: 24,
        generations: 10,
        seed: SEED,
        objectives: [
          { figure: "netCarbon", aim: "least" },
          { figure: "discomfort", aim: "least" },
        ],
        constraints: [],
      };
    case "morris":
      return { kind, trajectories: 8, seed: SEED };
    case "evolution":
      return { kind, population: 8, generations: 12, seed: SEED, figure: "energy" };
  }
}

function RunSettings({
  study,
  document,
  put,
  children,
}: {
  study: Study;
  document: Project;
  put: (s: Study, words: string) => string | null;
  children: ReactNode;
}) {
  const { method } = study;
  const set = (next: Partial<Study>, words: string): string | null => put({ ...study, ...next }, `${study.name}: ${words}`);
  const setMethod = (next: StudyMethod): string | null => set({ method: next }, "how runs are combined");
  const years = Object.entries(document.weathers);
  return (
    <Inspector title="How it is run">
      {children}
      <Row label="Stands on">
        <SelectInput
          label="Stands on"
          width="150px"
          value={study.base ?? ""}
          options={[{ value: "", label: "the base" }, ...Object.entries(document.options).map(([value, o]) => ({ value, label: o.name }))]}
          onChange={(v) => set({ base: v === "" ? null : v }, "what it stands on")}
        />
      </Row>
      <Row label="Combined as">
        <SelectInput label="Combined as" width="150px" value={method.kind} options={methods} onChange={(v) => setMethod(methodOf(v as StudyMethod["kind"]))} />
      </Row>
      {method.kind === "latin" && (
        <Row label="Runs">
          <NumberInput label="Runs" value={method.runs} digits={0} onCommit={(runs) => setMethod({ ...method, runs })} />
        </Row>
      )}
      {method.kind === "sobol" && (
        <Row label="Base points" note={`${method.points * (study.axes.length + 2)} runs`}>
          <NumberInput label="Base points" value={method.points} digits={0} onCommit={(points) => setMethod({ ...method, points })} />
        </Row>
      )}
      {method.kind === "morris" && (
        <Row label="Trajectories" note={`${method.trajectories * (study.axes.length + 1)} runs`}>
          <NumberInput label="Trajectories" value={method.trajectories} digits={0} onCommit={(trajectories) => setMethod({ ...method, trajectories })} />
        </Row>
      )}
      {method.kind === "evolution" && (
        <>
          <Row label="Lowers">
            <SelectInput
              label="Lowers"
              width="150px"
              value={method.figure}
              options={figuresKept(document, study).map((f) => ({ value: f.key, label: f.words }))}
              onChange={(figure) => setMethod({ ...method, figure })}
            />
          </Row>
          <Row label="Runs a generation">
            <NumberInput label="Runs a generation" value={method.population} digits={0} onCommit={(population) => setMethod({ ...method, population })} />
          </Row>
          <Row label="Generations">
            <NumberInput label="Generations" value={method.generations} digits={0} onCommit={(generations) => setMethod({ ...method, generations })} />
          </Row>
        </>
      )}
      {method.kind === "search" && <SearchRows method={method} setMethod={setMethod} />}
      {method.kind !== "grid" && (
        <Row label="Seed" title="The same seed gives the same runs.">
          <NumberInput label="Seed" value={method.seed} plain onCommit={(seed) => setMethod({ ...method, seed })} />
        </Row>
      )}
      <Row label="Length">
        <SelectInput
          label="Length"
          width="150px"
          value={String(study.length)}
          options={[
            { value: "12", label: "12 days" },
            { value: "24", label: "24 days" },
            { value: "48", label: "48 days" },
            { value: "year", label: "the whole year" },
          ]}
          onChange={(v) => set({ length: v === "year" ? "year" : (Number(v) as 12 | 24 | 48) }, "length")}
        />
      </Row>
      <Row label="Steps">
        <SelectInput
          label="Steps"
          width="150px"
          value={String(study.stepsPerHour ?? "")}
          options={[
            { value: "1", label: "by the hour" },
            { value: "4", label: "15 minutes" },
            { value: "", label: "as the project" },
          ]}
          onChange={(v) => set({ stepsPerHour: v === "" ? null : (Number(v) as 1 | 4) }, "steps")}
        />
      </Row>
      <Row label="Sizing" title="Capacities that are left to sizing.">
        <SelectInput
          label="Sizing"
          width="150px"
          value={study.sizing}
          options={[
            { value: "once", label: "once, of the base" },
            { value: "each", label: "of every run" },
          ]}
          onChange={(v) => set({ sizing: v as Study["sizing"] }, "sizing")}
        />
      </Row>
      {study.length !== "year" && (
        <Row label="Whole years beside" title="Runs that are made of the whole year as well, to tell the error of the days that stand for it.">
          <NumberInput label="Whole years beside" value={study.checks} digits={0} onCommit={(checks) => set({ checks }, "whole years beside")} />
        </Row>
      )}
      {years.length > 1 && (
        <>
          <Head>Judged over</Head>
          {years.map(([key, y]) => (
            <chakra.label key={key} display="flex" gap="1.5" alignItems="center">
              <input
                type="checkbox"
                checked={study.years.includes(key) || (study.years.length === 0 && key === document.weather)}
                onChange={(e) => {
                  const now = study.years.length === 0 ? [document.weather] : study.years;
                  const next = years.map(([k]) => k).filter((k) => (k === key ? e.target.checked : now.includes(k)));
                  set({ years: next, judge: next.includes(study.judge) || ["worst", "mean"].includes(study.judge) ? study.judge : "worst" }, "years");
                }}
              />
              {y.name}
            </chakra.label>
          ))}
          {study.years.length > 1 && (
            <Row label="Outcomes are">
              <SelectInput
                label="Outcomes are"
                width="150px"
                value={study.judge}
                options={[
                  { value: "worst", label: "the worst year’s" },
                  { value: "mean", label: "the mean" },
                  ...study.years.map((y) => ({ value: y, label: document.weathers[y]?.name ?? y })),
                ]}
                onChange={(judge) => set({ judge }, "which year")}
              />
            </Row>
          )}
        </>
      )}
      <Outcomes study={study} document={document} set={set} />
    </Inspector>
  );
}

const figureOptions = ownFigures.map((f) => ({ value: f.key, label: f.words }));

function SearchRows({ method, setMethod }: { method: Extract<StudyMethod, { kind: "search" }>; setMethod: (m: StudyMethod) => string | null }) {
  return (
    <>
      <Row label="Runs of a generation">
        <NumberInput label="Runs of a generation" value={method.population} digits={0} onCommit={(population) => setMethod({ ...method, population })} />
      </Row>
      <Row label="Generations">
        <NumberInput label="Generations" value={method.generations} digits={0} onCommit={(generations) => setMethod({ ...method, generations })} />
      </Row>
      <Head>Objectives</Head>
      {method.objectives.map((o, i) => {
        const with_ = (next: Partial<typeof o>): void =>
          void setMethod({ ...method, objectives: method.objectives.map((x, k) => (k === i ? { ...x, ...next } : x)) });
        return (
          <Flex key={i} gap="1" align="center">
            <SelectInput
              label={`Objective ${i + 1}: aim`}
              align="left"
              width="62px"
              value={o.aim}
              options={[
                { value: "least", label: "least" },
                { value: "most", label: "most" },
              ]}
              onChange={(aim) => with_({ aim: aim as "least" })}
            />
            <SelectInput
              label={`Objective ${i + 1}`}
              align="left"
              width="160px"
              value={o.figure}
              options={figureOptions}
              onChange={(figure) => with_({ figure })}
            />
            {method.objectives.length > 1 && <Act onClick={() => setMethod({ ...method, objectives: method.objectives.filter((_, k) => k !== i) })}>×</Act>}
          </Flex>
        );
      })}
      {method.objectives.length < 4 && (
        <Act onClick={() => setMethod({ ...method, objectives: [...method.objectives, { figure: "cost", aim: "least" }] })}>Another objective</Act>
      )}
      <Head>Limits</Head>
      {method.constraints.map((c, i) => {
        const spec = ownFigures.find((f) => f.key === c.figure);
        const with_ = (next: Partial<typeof c>): string | null =>
          setMethod({ ...method, constraints: method.constraints.map((x, k) => (k === i ? { ...x, ...next } : x)) });
        return (
          <Flex key={i} gap="1" align="center">
            <SelectInput
              label={`Limit ${i + 1}`}
              align="left"
              width="130px"
              value={c.figure}
              options={figureOptions}
              onChange={(figure) => void with_({ figure })}
            />
            ≤
            <NumberInput label={`Limit ${i + 1}: most`} value={c.most ?? null} width="64px" onCommit={(most) => with_({ most })} />
            <Unit>{spec?.unit ?? ""}</Unit>
            <Act onClick={() => setMethod({ ...method, constraints: method.constraints.filter((_, k) => k !== i) })}>×</Act>
          </Flex>
        );
      })}
      <Act onClick={() => setMethod({ ...method, constraints: [...method.constraints, { figure: "discomfort", most: 500 }] })}>Another limit</Act>
    </>
  );
}

/** Outcomes from derived series of the project. */
function Outcomes({ study, document, set }: { study: Study; document: Project; set: (next: Partial<Study>, words: string) => string | null }) {
  const series = Object.entries(document.derived ?? {});
  const own = study.outcomes ?? [];
  return (
    <>
      <Head>Outcomes besides the usual</Head>
      {own.map((o, i) => {
        const with_ = (next: Partial<typeof o>): string | null => set({ outcomes: own.map((x, k) => (k === i ? { ...x, ...next } : x)) }, "an outcome");
        return (
          <Box key={o.id} borderBottom="1px solid" borderColor="line" pb="1" mb="1">
            <TextInput label={`Outcome ${i + 1}`} align="left" width="200px" value={o.name} onCommit={(name) => with_({ name })} />
            <Flex gap="1" align="center">
              <SelectInput
                label={`Outcome ${i + 1}: series`}
                align="left"
                width="110px"
                value={o.series}
                options={series.map(([value, d]) => ({ value, label: d.name }))}
                onChange={(v) => void with_({ series: v })}
              />
              <SelectInput
                label={`Outcome ${i + 1}: statistic`}
                align="left"
                width="94px"
                value={o.statistic}
                options={outcomeStatistics.map((s) => ({ value: s, label: s }))}
                onChange={(v) => void with_({ statistic: v as typeof o.statistic })}
              />
              {o.statistic.startsWith("hours") && (
                <NumberInput label={`Outcome ${i + 1}: limit`} value={o.limit ?? null} width="48px" onCommit={(limit) => with_({ limit })} />
              )}
              <Act onClick={() => set({ outcomes: own.filter((_, k) => k !== i) }, "without an outcome")}>×</Act>
            </Flex>
          </Box>
        );
      })}
      {series.length > 0 ? (
        <Act
          onClick={() =>
            set(
              {
                outcomes: [
                  ...own,
                  {
                    id: freeId(Object.fromEntries(own.map((o) => [o.id, o])), "outcome"),
                    name: series[0][1].name,
                    series: series[0][0],
                    statistic: "mean",
                    aim: "least",
                  },
                ],
              },
              "an outcome",
            )
          }
        >
          Of a derived series
        </Act>
      ) : (
        <Text color="ink2" fontSize="12px">
          Energy, cost, carbon, peaks, hours unmet and of discomfort, daylight, investment and payback are always there. A series derived on the Results desk
          can be one as well.
        </Text>
      )}
    </>
  );
}

/** Count, time, and the start. */
function RunIt({
  study,
  document,
  run,
  threads,
  ready,
  put,
  onStarted,
}: {
  study: Study;
  document: Project;
  run: StudyRun;
  threads: number | null;
  ready: boolean;
  put: (s: Study, words: string) => string | null;
  onStarted: () => void;
}) {
  const exact = useStore((s) => s.live.exact);
  const estimate = useStore((s) => s.live.estimate);
  const [starting, setStarting] = useState(false);
  const units = useUnits();
  const summary = exact?.summary ?? estimate;
  const points = useMemo(() => countRuns(study), [study]);
  const { short, full } = useMemo(() => runsOf(study), [study]);
  const times: YearTimes | null = summary ? { ...summary.timing, stepsPerHour: summary.stepsPerHour } : null;
  const all = Math.max(1, threads ?? 1);
  const seconds = times ? expectedSeconds(study, document, times) / all : null;
  const ways = times && seconds !== null && seconds > LONG ? shorterWays(study, document, times) : [];
  const busy = isUnderWay(run.view);
  return (
    <Box borderBottom="1px solid" borderColor="line" pb="2.5" mb="1" data-testid="study-count">
      <Text>
        <b>{figure(points, 0)}</b> {study.method.kind === "search" ? "runs at most" : points === 1 ? "run" : "runs"}
        {study.years.length > 1 && ` over ${study.years.length} years`}, and the base
        {points > 0 && full > 0 && short > 0 && `; ${full} of the whole year`}
      </Text>
      <Text color="ink2">
        {seconds === null
          ? "The time is told once a year was run."
          : `About ${timeWords(seconds)} on ${threads === null ? "one thread" : `${threads} ${threads === 1 ? "thread" : "threads"}`}`}
        {threads === 0 && "; no runner is up"}
      </Text>
      {ways.length > 0 && (
        <Box mt="1">
          <Text color="clay">That is long with the machines at hand. Sensible:</Text>
          {ways.map((w) => (
            <Act key={w.words} onClick={() => put(w.study, `${study.name}: ${w.words}`)}>
              {w.words}, {timeWords(w.seconds / all)}
            </Act>
          ))}
        </Box>
      )}
      {run.refusal && (
        <Text role="alert" color="clay">
          {units.turned(run.refusal)}
        </Text>
      )}
      <Box mt="2">
        <PrimaryButton
          disabled={!ready || points === 0 || starting || busy}
          onClick={() => {
            setStarting(true);
            void run.start().finally(() => {
              setStarting(false);
              onStarted();
            });
          }}
        >
          {busy ? "Running" : "Run the study"}
        </PrimaryButton>
      </Box>
    </Box>
  );
}
