"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { Copy, Trash2 } from "lucide-react";
import { useState } from "react";
import { emptyStudy, freeId, type Project, type Study } from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { Act } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { newOption, useStore } from "../store.ts";
import { useQuery } from "../useQuery.ts";
import { AxesDesk, HandOver, useAxesData } from "./AxesDesk.tsx";
import { ChosenRun } from "./ChosenRun.tsx";
import { OptionChanges } from "./OptionChanges.tsx";
import { IndicesDesk, RunsSheet } from "./RunsSheet.tsx";
import { FrontDesk, ScatterDesk } from "./ScatterDesk.tsx";
import { FirstOption, SideBySide } from "./SideBySide.tsx";
import { StaircaseDesk } from "./StaircaseDesk.tsx";
import { StudyCompose } from "./StudyCompose.tsx";
import { StudyHead, studyWords } from "./StudyHead.tsx";
import { studyChange } from "./studyEdits.ts";
import { useStudyLook } from "./studyViews.ts";
import { changedSince, isUnderWay, useStudyList, useStudyRun, useStudyTable, type StudyRun } from "./useStudy.ts";
import { useVariants } from "./useVariants.ts";

const ofOptions = { side: "Side by side", staircase: "Staircase" } as const;
const ofStudy = { compose: "Compose", axes: "Axes", scatter: "Scatter", front: "Front", indices: "Sobol’ indices", runs: "Runs as a sheet" } as const;
type Reading = keyof typeof ofOptions | keyof typeof ofStudy;

/** Options and studies: the base and its options side by side, measures in order, and many buildings at once. */
export function Options() {
  const units = useUnits();
  const document = useStore((s) => s.document) as Project;
  const option = useStore((s) => s.option);
  const look = useStore((s) => s.look);
  const edit = useStore((s) => s.edit);
  const [query, go] = useQuery();
  const { variants, summaryOf, busy } = useVariants(document);
  const { views, threads } = useStudyList(document.id);
  const studies = Object.entries(document.studies ?? {});
  const wanted = query.get("study");
  const id = wanted !== null && document.studies && Object.hasOwn(document.studies, wanted) ? wanted : null;
  const read = (query.get("read") ?? "") as Reading | "";
  const started = views.some((v) => v.study === id);
  const reading: Reading = id === null ? ((read in ofOptions ? read : "side") as Reading) : read in ofStudy ? (read as Reading) : started ? "axes" : "compose";
  const add = (study: Study): void => {
    const key = freeId(document.studies ?? {}, "study");
    if (edit(`New study ${study.name}`, [studyChange(document, key, study)]).length === 0) go({ study: key, read: "compose" });
  };
  return (
    <>
      <Side label="Options" width="220px">
        <SideHead>In order</SideHead>
        {variants.map((v) => (
          <SideItem
            key={v.id ?? "base"}
            active={v.id === option}
            value={v.blocked ? "—" : units.text(summaryOf(v)?.energy.intensity, "kWh/m²a", 1)}
            onClick={() => {
              look(v.id);
              if (id !== null) go({ study: null, read: null });
            }}
          >
            {v.name}
          </SideItem>
        ))}
        <Box px="3.5" mt="1">
          <Act onClick={newOption}>New option</Act>
        </Box>
        <SideHead>Studies</SideHead>
        {studies.map(([key, s]) => {
          const v = views.find((x) => x.study === key);
          return (
            <SideItem
              key={key}
              active={key === id}
              value={v ? (isUnderWay(v) ? `${v.done} of ${v.planned}` : figure(v.done, 0)) : "not run"}
              onClick={() => go({ study: key, read: null })}
            >
              {s.name}
            </SideItem>
          );
        })}
        <Flex px="3.5" mt="1" gap="2" align="center">
          <Act onClick={() => add(emptyStudy(`Study ${studies.length + 1}`, option))}>New study</Act>
          {id !== null && document.studies && (
            <Flex ml="auto">
              <IconButton
                label={`Copy ${document.studies[id].name}`}
                icon={Copy}
                onClick={() => document.studies && add({ ...document.studies[id], name: `${document.studies[id].name}, copy`.slice(0, 200) })}
              />
              <IconButton
                label={`Remove ${document.studies[id].name}`}
                icon={Trash2}
                onClick={() => {
                  const old = document.studies?.[id];
                  if (old && edit(`Remove ${old.name}`, [{ op: "remove", path: ["studies", id], old }]).length === 0) go({ study: null, read: null });
                }}
              />
            </Flex>
          )}
        </Flex>
        <SideHead>Read</SideHead>
        {(Object.keys(id === null ? ofOptions : ofStudy) as Reading[]).map((r) => (
          <SideItem key={r} active={r === reading} onClick={() => go({ read: r })}>
            {{ ...ofOptions, ...ofStudy }[r]}
          </SideItem>
        ))}
      </Side>
      {id !== null && document.studies ? (
        <StudyDesk key={id} id={id} study={document.studies[id]} document={document} reading={reading} threads={threads} go={(r) => go({ read: r })} />
      ) : reading === "staircase" ? (
        <StaircaseDesk />
      ) : (
        <>
          <Middle label="Options side by side">
            {variants.length === 1 ? <FirstOption /> : <SideBySide document={document} variants={variants} summaryOf={summaryOf} busy={busy} />}
          </Middle>
          <OptionChanges document={document} option={option} />
        </>
      )}
    </>
  );
}

/** One study: composed, or read. */
function StudyDesk({
  id,
  study,
  document,
  reading,
  threads,
  go,
}: {
  id: string;
  study: Study;
  document: Project;
  reading: Reading;
  threads: number | null;
  go: (r: Reading) => void;
}) {
  const run = useStudyRun(document.id, id);
  if (reading === "compose") return <StudyCompose id={id} study={study} run={run} threads={threads} onStarted={() => go("axes")} />;
  return <StudyRead id={id} study={study} document={document} reading={reading} run={run} go={go} />;
}

function StudyRead({
  id,
  study: now,
  document,
  reading,
  run,
  go,
}: {
  id: string;
  study: Study;
  document: Project;
  reading: Reading;
  run: StudyRun;
  go: (r: Reading) => void;
}) {
  const [look, change] = useStudyLook(document.id, id);
  const [canvas, setCanvas] = useState<HTMLCanvasElement | null>(null);
  const found = useStudyTable(run, now, look.judge);
  if (!run.view)
    return (
      <Middle label={now.name}>
        <Text textStyle="title">{now.name}</Text>
        <Text color="ink2" mt="1">
          {run.loaded ? "This study has not been run yet. " : "Its runs are being read …"}
          {run.loaded && <Act onClick={() => go("compose")}>Compose it</Act>}
        </Text>
        {run.refusal && (
          <Text color="clay" role="alert">
            {run.refusal}
          </Text>
        )}
      </Middle>
    );
  return (
    <Middle label={now.name}>
      <StudyHead
        run={run}
        study={{ ...(found?.study ?? now), name: now.name }}
        table={found?.table ?? null}
        judge={look.judge ?? found?.study.judge ?? now.judge}
        changed={changedSince(document, now, run.made)}
      >
        {found && (
          <HandOver
            table={found.table}
            study={{ ...found.study, name: now.name }}
            document={document}
            judge={look.judge ?? found.study.judge}
            canvas={reading === "axes" || reading === "front" ? canvas : null}
          />
        )}
      </StudyHead>
      {found && found.table.points.length > 0 ? (
        <Read reading={reading} found={{ ...found, study: found.study }} name={now.name} document={document} look={look} change={change} onCanvas={setCanvas} />
      ) : (
        <Text color="ink2" aria-live="polite">
          {found && found.table.failed.length > 0 ? `No run could be made so far: ${found.table.failed[0].message}` : "The first runs are being made …"}
        </Text>
      )}
    </Middle>
  );
}

function Read({
  reading,
  found: { table, study },
  name,
  document,
  look,
  change,
  onCanvas,
}: {
  reading: Reading;
  found: NonNullable<ReturnType<typeof useStudyTable>>;
  name: string;
  document: Project;
  look: ReturnType<typeof useStudyLook>[0];
  change: ReturnType<typeof useStudyLook>[1];
  onCanvas: (c: HTMLCanvasElement | null) => void;
}) {
  const data = useAxesData(table, study, studyWords(document, { ...study, name }, look.judge ?? study.judge));
  const props = { table, data, look, change };
  const row = look.chosen === null ? -1 : table.index.indexOf(look.chosen);
  return (
    <>
      {study.years.length > 1 && (
        <Flex gap="3" align="center">
          <Text color="ink2">Outcomes are</Text>
          {[...["worst", "mean"], ...study.years].map((j) => (
            <Act key={j} disabled={(look.judge ?? study.judge) === j} onClick={() => change({ judge: j })}>
              {j === "worst" ? "the worst year’s" : j === "mean" ? "the mean" : (document.weathers[j]?.name ?? j)}
            </Act>
          ))}
        </Flex>
      )}
      {reading === "scatter" ? (
        <ScatterDesk {...props} />
      ) : reading === "front" ? (
        <FrontDesk {...props} onCanvas={onCanvas} />
      ) : reading === "runs" ? (
        <RunsSheet {...props} />
      ) : reading === "indices" ? (
        <IndicesDesk study={study} table={table} />
      ) : (
        <AxesDesk {...props} study={study} onCanvas={onCanvas} />
      )}
      {["scatter", "front", "runs"].includes(reading) && row >= 0 && (
        <Box borderTop="1px solid" borderColor="line" mt="3" pt="2">
          <ChosenRun {...props} row={row} study={study} />
        </Box>
      )}
    </>
  );
}
