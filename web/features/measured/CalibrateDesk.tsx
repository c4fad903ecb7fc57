"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import {
  axisChoices,
  CALIBRATION_STUDY,
  calibrationStudy,
  countRuns,
  firstBounds,
  freeId,
  isSearched,
  MISFIT,
  namedAxis,
  nearBest,
  pairKey,
  SCREENING_STUDY,
  screeningEffects,
  setChange,
  studyProblems,
  HELD_MISFIT,
  guidelineLimits,
  type CalibrationSpec,
  type Change,
  type Project,
  type Study,
  type StudyAxis,
  type StudyTable,
} from "@arroyo/core";
import { Act, DateInput, Head, NumberInput, Row, SelectInput } from "../../ui/fields.tsx";
import { Find } from "../../ui/Find.tsx";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { useUnits } from "../../ui/units.ts";
import { adoptChanges } from "../options/ChosenRun.tsx";
import { studyChange } from "../options/studyEdits.ts";
import { isUnderWay, useStudyRun, useStudyTable, type StudyRun } from "../options/useStudy.ts";
import { useStore } from "../store.ts";
import { useQuery } from "../useQuery.ts";
import { seriesName } from "../results/seriesThings.ts";

/** Answers this near to the best, as a share of its misfit, are taken for as good. */
const NEAR = 0.05;
const FIRST: Omit<CalibrationSpec, "axes" | "pairs"> = {
  held: [
    [10, 1],
    [12, 31],
  ],
  trajectories: 4,
  population: 8,
  generations: 8,
  seed: 1,
  stepsPerHour: 1,
};

/** What the two studies were last made of. */
function specOf(document: Project): CalibrationSpec {
  const study = document.studies?.[CALIBRATION_STUDY] ?? document.studies?.[SCREENING_STUDY];
  const screening = document.studies?.[SCREENING_STUDY];
  const pairs = (document.pairs ?? []).map((p) => p.id);
  // no input of the building changes the weather
  if (!study) return { ...FIRST, axes: [], pairs: (document.pairs ?? []).filter((p) => p.series.of !== "outdoors").map((p) => p.id) };
  const { method } = study;
  return {
    ...FIRST,
    ...(method.kind === "evolution" ? { population: method.population, generations: method.generations, seed: method.seed } : {}),
    ...(screening?.method.kind === "morris" ? { trajectories: screening.method.trajectories } : {}),
    axes: study.axes,
    pairs: (study.against?.pairs ?? pairs).filter((id) => pairs.includes(id)),
    held: study.against?.held ?? null,
    stepsPerHour: study.stepsPerHour ?? 1,
  };
}

/** Inputs searched within bounds to lower the errors of chosen pairs: screened first, then searched, tested on a period held out. */
export function CalibrateDesk() {
  const document = useStore((s) => s.document) as Project;
  const option = useStore((s) => s.option);
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const [adding, setAdding] = useState(false);
  const [told, setTold] = useState<string | null>(null);
  const spec = useMemo(() => specOf(document), [document]);
  const base = document.studies?.[CALIBRATION_STUDY]?.base ?? option;
  const screening = useStudyRun(document.id, SCREENING_STUDY);
  const search = useStudyRun(document.id, CALIBRATION_STUDY);
  const screened = useStudyTable(screening, document.studies?.[SCREENING_STUDY], null);
  const searched = useStudyTable(search, document.studies?.[CALIBRATION_STUDY], null);
  const choices = useMemo(() => (adding ? axisChoices(document, document).filter(isSearched) : []), [adding, document]);
  const put = (next: CalibrationSpec, words: string): string | null => {
    if (next.pairs.length === 0) return "Keep at least one pair: its misfit is what is lowered.";
    const of = (kind: "screening" | "search"): Change =>
      studyChange(document, kind === "screening" ? SCREENING_STUDY : CALIBRATION_STUDY, calibrationStudy(kind, next, base));
    const both = document.studies
      ? [of("screening"), of("search")]
      : [
          setChange(document, ["studies"], {
            [SCREENING_STUDY]: calibrationStudy("screening", next, base),
            [CALIBRATION_STUDY]: calibrationStudy("search", next, base),
          }),
        ];
    return edit(`Calibration: ${words}`, both)[0]?.message ?? null;
  };
  const setAxis = (i: number, part: Partial<StudyAxis>): string | null =>
    put({ ...spec, axes: spec.axes.map((a, k) => (k === i ? { ...a, ...part } : a)) }, `bounds of ${spec.axes[i].name}`);
  const problems = (kind: "screening" | "search"): string | null => {
    const study = document.studies?.[kind === "screening" ? SCREENING_STUDY : CALIBRATION_STUDY];
    if (!study) return "Choose at least one input.";
    return studyProblems(document, study).find((p) => p.severity === "error")?.message ?? null;
  };
  const start = (kind: "screening" | "search"): void => {
    const refused = problems(kind);
    if (refused !== null) return setTold(refused);
    setTold(null);
    void (kind === "screening" ? screening : search).start();
  };
  const effects = screened ? screeningEffects(screened.study, screened.table, MISFIT.key) : [];
  const most = Math.max(1e-12, ...effects.map((e) => e.size));
  const found = searched ? nearBest(searched.table, MISFIT.key, NEAR) : null;
  const runs = document.studies?.[CALIBRATION_STUDY] ? countRuns(document.studies[CALIBRATION_STUDY]) : 0;
  const shown = (v: number, axis: StudyAxis, digits?: number): string => units.text(v, axis.unit ?? "1", digits);
  if ((document.pairs ?? []).length === 0)
    return <Text color="ink2">No point is compared with the model yet: choose under “What is compared” on the left what the search is to come near to.</Text>;
  return (
    <Flex gap="6" align="flex-start" wrap="wrap">
      <Box flex="1 1 430px" minW="0">
        <Text as="h2" textStyle="title">
          Calibrate
        </Text>
        <Text color="ink2" mb="2">
          Screening shows which inputs matter; the search lowers the misfit of the pairs chosen; days held out test what it found. Runs are made by the runner,
          with the capacities of the base.
        </Text>
        <Grid
          label="Inputs searched"
          head={[
            { text: "Input", left: true },
            { text: "Between" },
            { text: "and" },
            { text: "", left: true },
            { text: "Matters", left: true },
            { text: "Best" },
            { text: "As good", left: true },
            { text: "" },
          ]}
          rows={spec.axes.map((a, i) => {
            const [low, high] = a.between ?? [0, 1];
            const effect = screened?.study.axes.findIndex((x) => x.id === a.id) ?? -1;
            const e = effect >= 0 ? effects[effect] : undefined;
            const at = searched?.study.axes.findIndex((x) => x.id === a.id) ?? -1;
            const best = found && found.best >= 0 && at >= 0 ? searched?.table.axes[at].values[found.best] : undefined;
            const spread = found && at >= 0 ? found.spread[at] : undefined;
            return {
              key: a.id,
              cells: [
                a.name,
                <NumberInput
                  key="l"
                  label={`Lower bound of ${a.name}`}
                  width="60px"
                  value={low}
                  onCommit={(v) => (v < high ? setAxis(i, { between: [v, high] }) : "It lies below the upper bound.")}
                />,
                <NumberInput
                  key="h"
                  label={`Upper bound of ${a.name}`}
                  width="60px"
                  value={high}
                  onCommit={(v) => (v > low ? setAxis(i, { between: [low, v] }) : "It lies above the lower bound.")}
                />,
                a.unit === "1" ? "" : (a.unit ?? ""),
                e && Number.isFinite(e.size) && e.size > 0 ? (
                  <Box
                    key="m"
                    w="70px"
                    h="9px"
                    background="line"
                    title={`changes the misfit by ${figure(e.size, 3)} over its bounds; spread ${figure(e.spread, 3)}`}
                  >
                    <Box h="9px" background="water" style={{ width: `${(100 * e.size) / most}%` }} />
                  </Box>
                ) : (
                  ""
                ),
                best !== undefined && Number.isFinite(best) ? <b key="b">{shown(best, a)}</b> : "—",
                spread && Number.isFinite(spread[0]) ? `${shown(spread[0], a)} to ${shown(spread[1], a)}` : "—",
                <Act key="r" onClick={() => setTold(put({ ...spec, axes: spec.axes.filter((x) => x.id !== a.id) }, `${a.name} taken out`))}>
                  Take out
                </Act>,
              ],
            };
          })}
        />
        <Flex gap="3" mt="1">
          <Act onClick={() => setAdding(!adding)}>{adding ? "Close the list" : "Add an input"}</Act>
        </Flex>
        {adding && (
          <Find
            label="Input to search"
            items={choices.map((c) => ({ key: c.key, name: c.axis.name, group: c.group, kind: c.stage, figures: c.now }))}
            onClose={() => setAdding(false)}
            onChoose={(key) => {
              const choice = choices.find((c) => c.key === key);
              if (!choice) return;
              const axis = namedAxis(document, choice, freeId(Object.fromEntries(spec.axes.map((a) => [a.id, a])), "axis"));
              setTold(put({ ...spec, axes: [...spec.axes, { ...axis, between: firstBounds(choice) }] }, `${axis.name} added`));
              setAdding(false);
            }}
          />
        )}
        {told && (
          <Text role="alert" color="clay" mt="1">
            {told}
          </Text>
        )}
        <Flex gap="3" mt="3" align="center" wrap="wrap">
          <Act onClick={() => start("screening")} disabled={isUnderWay(screening.view)}>
            Screen the inputs
          </Act>
          <PrimaryButton onClick={() => start("search")} disabled={isUnderWay(search.view)}>
            Search
          </PrimaryButton>
          <Text color="ink2" fontSize="12.5px">
            {spec.axes.length > 0 && `screening ${spec.trajectories * (spec.axes.length + 1)} runs, search ${runs} runs`}
          </Text>
        </Flex>
        <Progress run={screening} words="screening" />
        <Progress run={search} words="search" />
        {searched && found && found.best >= 0 && (
          <Came table={searched.table} study={searched.study} document={document} best={found.best} near={found.rows.length} />
        )}
      </Box>
      <Box w="270px" flexShrink={0}>
        <Head mt="0">Pairs whose misfit counts</Head>
        {(document.pairs ?? []).map((p) => (
          <Flex key={p.id} as="label" gap="2" align="baseline" fontSize="12.5px">
            <input
              type="checkbox"
              checked={spec.pairs.includes(p.id)}
              onChange={(e) =>
                setTold(put({ ...spec, pairs: e.target.checked ? [...spec.pairs, p.id] : spec.pairs.filter((x) => x !== p.id) }, "pairs that count"))
              }
            />
            <Text as="span" title={`with ${seriesName(document, p.series)}`}>
              {document.points?.[p.point]?.name ?? p.point}
            </Text>
          </Flex>
        ))}
        <Head>Held out of the search</Head>
        <Flex as="label" gap="2" align="baseline" fontSize="12.5px">
          <input
            type="checkbox"
            checked={spec.held !== null}
            onChange={(e) =>
              setTold(
                put(
                  {
                    ...spec,
                    held: e.target.checked
                      ? [
                          [10, 1],
                          [12, 31],
                        ]
                      : null,
                  },
                  "what is held out",
                ),
              )
            }
          />
          hold a period out
        </Flex>
        {spec.held &&
          (["from", "to"] as const).map((end, k) => (
            <Row key={end} label={end}>
              <DateInput
                label={end === "from" ? "First day held out" : "Last day held out"}
                value={spec.held?.[k] ?? [1, 1]}
                onCommit={(d) => put({ ...spec, held: k === 0 ? [d, spec.held?.[1] ?? [12, 31]] : [spec.held?.[0] ?? [1, 1], d] }, "what is held out")}
              />
            </Row>
          ))}
        <Head>How it searches</Head>
        <Row label="Steps an hour" note="blinds and daylight want four">
          <SelectInput
            label="Steps an hour"
            width="60px"
            value={String(spec.stepsPerHour)}
            options={["1", "2", "4"].map((v) => ({ value: v, label: v }))}
            onChange={(v) => setTold(put({ ...spec, stepsPerHour: Number(v) as CalibrationSpec["stepsPerHour"] }, "steps an hour"))}
          />
        </Row>
        {(
          [
            ["Trajectories of the screening", "trajectories", 2, 50],
            ["Runs of a generation", "population", 4, 100],
            ["Generations", "generations", 1, 200],
            ["Seed", "seed", 0, 4294967295],
          ] as const
        ).map(([label, key, low, high]) => (
          <Row key={key} label={label}>
            <NumberInput
              label={label}
              width="60px"
              plain
              digits={0}
              value={spec[key]}
              onCommit={(v) =>
                Number.isInteger(v) && v >= low && v <= high ? put({ ...spec, [key]: v }, label.toLowerCase()) : `A whole number from ${low} to ${high}.`
              }
            />
          </Row>
        ))}
      </Box>
    </Flex>
  );
}

/** How far a study is, with what can be done about it. */
function Progress({ run, words }: { run: StudyRun; words: string }) {
  const { view } = run;
  if (run.refusal)
    return (
      <Text role="alert" color="clay">
        {run.refusal}
      </Text>
    );
  if (!view) return null;
  return (
    <Flex gap="3" align="baseline" fontSize="12.5px" data-testid={words} data-status={view.status}>
      <Text color="ink2">
        {words}: {view.status}, {figure(view.done, 0)} of at most {figure(view.planned, 0)} runs
        {view.error ? `: ${view.error}` : ""}
      </Text>
      {isUnderWay(view) && <Act onClick={() => void run.turn("pause")}>Pause</Act>}
      {view.status === "paused" && <Act onClick={() => void run.turn("resume")}>Go on</Act>}
      {(isUnderWay(view) || view.status === "paused") && <Act onClick={() => void run.turn("cancel")}>Cancel</Act>}
    </Flex>
  );
}

/** What the search came to beside the base and the limits, and adopting it. */
function Came({ table, study, document, best, near }: { table: StudyTable; study: Study; document: Project; best: number; near: number }) {
  const edit = useStore((s) => s.edit);
  const look = useStore((s) => s.look);
  const [, go] = useQuery();
  const base = table.index.indexOf(0);
  const value = (key: string, row: number): number => (row < 0 ? NaN : (table.outcomes.find((o) => o.key === key)?.values[row] ?? NaN));
  const text = (v: number, digits: number): string => (Number.isFinite(v) ? figure(v, digits) : "—");
  const pairs = study.against?.pairs ?? [];
  const name = (id: string): string => document.points?.[document.pairs?.find((p) => p.id === id)?.point ?? ""]?.name ?? id;
  const found = adoptChanges(document, study, table.points[best]);
  const adopt = (): void => {
    if ("message" in found) return;
    const id = freeId(document.options, "calibrated");
    const provenance = { ...document.provenance };
    for (const c of found.changes)
      if (c.op === "set" && (typeof c.value === "number" || typeof c.value === "string" || c.value === null))
        provenance[c.path.join("/")] = {
          kind: "calibrated",
          words:
            `calibrated against ${pairs.map(name).join(", ")}: misfit ${text(value(MISFIT.key, best), 3)}, before ${text(value(MISFIT.key, base), 3)}`.slice(
              0,
              500,
            ),
          value: c.value,
        };
    const changes: Change[] = [
      {
        op: "insert",
        path: ["options", id],
        value: {
          name: "Calibrated",
          changes: found.changes.map((c, i) => ({ ...c, id: `c${i + 1}` })),
          ...(study.base === null ? {} : { on: study.base }),
        },
      },
      setChange(document, ["provenance"], provenance),
    ];
    look(null);
    const refused = edit("Calibrated inputs adopted as an option", changes);
    if (refused.length === 0) {
      look(id);
      go({ view: "errors" });
    }
  };
  const falling = running(table);
  const row = (label: string, key: string, digits: number, limit: number | null) => ({
    key,
    cells: [label, text(value(key, base), digits), <b key="b">{text(value(key, best), digits)}</b>, limit === null ? "" : figure(limit, 0)],
  });
  return (
    <Box mt="3">
      <Grid
        label="What the search came to"
        head={[{ text: "", left: true }, { text: "Base" }, { text: `Run ${table.index[best]}` }, { text: "Limit" }]}
        rows={[
          row("Misfit, over the measured deviation", MISFIT.key, 3, null),
          ...pairs.map((id) => row(`CV(RMSE) ${name(id)}, %`, pairKey("cvrmse", id), 1, guidelineLimits.hour.cvrmse)),
          ...pairs.map((id) => row(`NMBE ${name(id)}, %`, pairKey("nmbe", id), 1, guidelineLimits.hour.nmbe)),
          ...(study.against?.held
            ? [
                row("Misfit of the days held out", HELD_MISFIT.key, 3, null),
                ...pairs.map((id) => row(`CV(RMSE) held out ${name(id)}, %`, pairKey("held", id), 1, null)),
              ]
            : []),
        ]}
      />
      <Text color="ink2" fontSize="12.5px" mt="1">
        {near} runs are within {100 * NEAR} % of the best: what they agree on is found, what they do not is open. Misfit of the best so far: {falling}.
      </Text>
      <Flex gap="3" mt="1" align="center">
        <PrimaryButton disabled={"message" in found || found.changes.length === 0} onClick={adopt}>
          Adopt as an option
        </PrimaryButton>
        {"message" in found && <Text color="clay">{found.message}</Text>}
        {!("message" in found) && <Text color="ink2">{found.changes.length} inputs, marked as calibrated</Text>}
      </Flex>
    </Box>
  );
}

/** The best misfit after each quarter of the runs, in words. */
function running(table: StudyTable): string {
  const values = table.outcomes.find((o) => o.key === MISFIT.key)?.values;
  if (!values) return "—";
  const order = Array.from(table.index.keys()).sort((a, b) => table.index[a] - table.index[b]);
  let best = Infinity;
  const out: string[] = [];
  order.forEach((row, k) => {
    if (Number.isFinite(values[row])) best = Math.min(best, values[row]);
    if ((k + 1) % Math.max(1, Math.floor(order.length / 4)) === 0 && out.length < 4) out.push(figure(best, 3));
  });
  return out.join(", ");
}
