"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import type { Project, Summary } from "@arroyo/core";
import { useState } from "react";
import { Act, Head, Row, SelectInput, Unit } from "../../ui/fields.tsx";
import { difference, figure, stampText, unitOf } from "../../ui/format.ts";
import { Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { ProgressBar } from "../../ui/ProgressBar.tsx";
import { useUnits } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";
import { useQuery } from "../useQuery.ts";
import { SizingTable } from "../services/Sizing.tsx";
import { Balance } from "./Balance.tsx";
import { AirflowRead } from "./Airflow.tsx";
import { AddToOutline } from "./AddToOutline.tsx";
import { BillTable } from "./BillTable.tsx";
import { Compared } from "./Compared.tsx";
import { Comfort } from "./Comfort.tsx";
import { Daylight } from "./Daylight.tsx";
import { faceName } from "./faceName.ts";
import { EnergyByMonth } from "./MonthlyCharts.tsx";
import { HourWhy } from "./HourWhy.tsx";
import { OnBuilding } from "./OnBuilding.tsx";
import { ReportDesk } from "./ReportDesk.tsx";
import { SeriesDesk } from "./SeriesDesk.tsx";
import type { SeriesClass } from "../../live/seriesClasses.ts";
import { useRuns, useSummary, type Run, type RunTurn } from "./useRuns.ts";
import { WhatMatters } from "./WhatMatters.tsx";
import { ZoneFigures } from "./ZoneFigures.tsx";
import { ZoneTable } from "./ZoneTable.tsx";
import { Told } from "../../ui/Told.tsx";

const views = {
  summary: "Energy",
  flows: "Gains and losses",
  peaks: "Peak loads",
  why: "An hour explained",
  series: "Series",
  building: "On the building",
  cost: "Cost and carbon",
  zones: "Zones",
  figures: "Zone figures",
  comfort: "Comfort",
  daylight: "Daylight",
  airflow: "Airflow",
  matters: "What matters",
  compare: "Compared",
  report: "Reports",
  runs: "Stored runs",
} as const;
type View = keyof typeof views;

const statusText = (r: Run): string =>
  r.status === "running"
    ? `running, ${figure(100 * r.progress, 0)} %`
    : r.status === "queued"
      ? "waiting for a runner"
      : r.status === "done"
        ? "done"
        : r.status === "paused"
          ? `paused at ${figure(100 * r.progress, 0)} %`
          : r.status === "stopped"
            ? `stopped at ${figure(100 * r.progress, 0)} %, its series are kept`
            : r.status === "cancelled"
              ? "cancelled"
              : "failed";
const when = (iso: string): string => new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

/** The year as it is now, or a stored run: energy, flows, zones, temperatures. */
export function Results() {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const live = useLiveFigures();
  const [query, go] = useQuery();
  const view = (query.get("view") ?? "summary") as View;
  const wanted = query.get("run");
  const { runs, refusal, start, turn } = useRuns(project.id);
  const stored = wanted ? (runs.find((r) => r.hash === wanted && r.status === "done") ?? null) : null;
  /** A run under way or stopped, whose series can be read as far as they go. */
  const partial = wanted && !stored ? (runs.find((r) => r.hash === wanted && ["running", "paused", "stopped"].includes(r.status)) ?? null) : null;
  const now = tally(live);
  const read = useSummary(stored?.hash ?? null, project);
  const summary = stored ? read.summary : now.summary;
  const source = stored
    ? `stored run of ${when(stored.createdAt)}, ${60 / stored.stepsPerHour} minutes`
    : `${now.mark === "exact" ? "" : now.mark === "estimate" ? "≈ hourly estimate of " : "catching up · "}the year as it is now`;
  return (
    <>
      <Side label="Read">
        <SideHead>Read</SideHead>
        {(Object.keys(views) as View[]).map((v) => (
          <SideItem key={v} active={v === view} onClick={() => go({ view: v })}>
            {views[v]}
          </SideItem>
        ))}
        <AddToOutline key={view} view={view} />
        <SideHead>From</SideHead>
        <SideItem active={!stored} onClick={() => go({ run: null })}>
          The year as it is now
        </SideItem>
        {runs
          .filter((r) => r.status === "done")
          .slice(0, 8)
          .map((r) => (
            <SideItem key={r.hash} active={stored?.hash === r.hash} value={units.text(r.intensity, "kWh/m²a", 1)} onClick={() => go({ run: r.hash })}>
              {when(r.createdAt)}
            </SideItem>
          ))}
      </Side>
      {view === "why" && now.summary ? (
        // the model as it is now is run again, whatever stored run is in view
        <HourWhy summary={now.summary} />
      ) : view === "series" && summary ? (
        <SeriesDesk
          zones={summary.zones}
          period={summary.period}
          weather={partial ? null : summary.weather}
          run={partial ?? stored}
          source={partial ? `run of ${when(partial.createdAt)}, ${statusText(partial)}` : source}
        />
      ) : view === "report" && summary ? (
        <ReportDesk summary={summary} stored={stored !== null} name={stored ? `stored run of ${when(stored.createdAt)}` : "the year as it is now"} />
      ) : view === "building" ? (
        <OnBuilding />
      ) : view === "airflow" && summary ? (
        <AirflowRead summary={summary} source={source} />
      ) : view === "matters" ? (
        <WhatMatters />
      ) : view === "compare" ? (
        <Compared runs={runs} when={when} />
      ) : (
        <>
          <Middle label={views[view]}>
            {view === "figures" ? (
              <ZoneFigures />
            ) : view === "runs" ? (
              <RunList
                runs={runs}
                refusal={refusal}
                start={start}
                turn={turn}
                watch={(hash) => go({ run: hash, view: "series" })}
                open={(hash) => go({ run: hash, view: "summary" })}
              />
            ) : !summary ? (
              <First message={stored ? read.message : live.message} />
            ) : view === "flows" ? (
              <Balance summary={summary} source={source} spaceNames={(key) => faceName(project, key)} />
            ) : view === "peaks" ? (
              <SizingTable />
            ) : view === "comfort" ? (
              <Comfort summary={summary} source={source} />
            ) : view === "daylight" ? (
              <Daylight summary={summary} source={source} project={project} />
            ) : view === "cost" ? (
              summary && <BillTable summary={summary} currency={project.prices.currency} />
            ) : view === "zones" ? (
              <ZoneTable summary={summary} source={source} />
            ) : (
              <EnergyByMonth summary={summary} source={source} />
            )}
          </Middle>
          <Inspector title={stored ? "Stored run" : "This year"} about={source}>
            {summary && (
              <Headlines
                summary={summary}
                currency={project.prices.currency}
                against={stored && now.mark === "exact" ? now.summary : null}
                exact={stored !== null || now.mark === "exact"}
              />
            )}
            <Head mt="5">Stored runs</Head>
            <Text color="ink2" mb="2">
              A stored run keeps the figures and hourly series of the model as it is saved, computed by the runner.
            </Text>
            <Act onClick={() => void start()}>Store a run</Act>
            {refusal && (
              <Text role="alert" color="clay">
                {refusal}
              </Text>
            )}
            {runs.slice(0, 4).map((r) => (
              <RunLine key={r.hash} run={r} turn={turn} watch={(hash) => go({ run: hash, view: "series" })} />
            ))}
          </Inspector>
        </>
      )}
    </>
  );
}

function RunLine({ run, turn, watch }: { run: Run; turn: (hash: string, to: RunTurn) => Promise<void>; watch: (hash: string) => void }) {
  const busy = run.status === "running" || run.status === "queued" || run.status === "paused";
  return (
    <Box py="1.5" borderBottom="1px solid" borderColor="line" data-testid="run" data-status={run.status}>
      <Flex justify="space-between">
        <Text>{when(run.createdAt)}</Text>
        <Text color={run.status === "failed" ? "clay" : "ink2"}>{statusText(run)}</Text>
      </Flex>
      {busy && (
        <Flex align="center" gap="2">
          <ProgressBar label="Progress of the run" share={run.progress} />
        </Flex>
      )}
      {(busy || run.status === "stopped") && (
        <Flex gap="2.5" wrap="wrap">
          {run.status !== "queued" && (
            <Act onClick={() => watch(run.hash)} title="Its series, as far as they are computed">
              Series
            </Act>
          )}
          {run.status === "running" && <Act onClick={() => void turn(run.hash, "pause")}>Pause</Act>}
          {run.status === "paused" && <Act onClick={() => void turn(run.hash, "resume")}>Go on</Act>}
          {(run.status === "running" || run.status === "paused") && (
            <Act onClick={() => void turn(run.hash, "stop")} title="Ends it; what was computed is kept">
              Stop
            </Act>
          )}
          {busy && <Act onClick={() => void turn(run.hash, "cancel")}>Cancel</Act>}
        </Flex>
      )}
      {run.error && <Text color="clay">{run.error}</Text>}
      {run.status === "done" && (
        <Text fontSize="12px" color="ink2">
          revision {run.revision} · <span data-testid="run-intensity">{figure(run.intensity)}</span> kWh/m²a
        </Text>
      )}
    </Box>
  );
}

/** What a run may keep besides the usual series, in words. */
const KEEPS: readonly (readonly [classes: string, words: string])[] = [
  ["", "with temperatures and loads of zones"],
  ["zones", "with all series of zones"],
  ["zones,components,site", "with zones, systems and plant"],
  ["zones,faces", "with zones and faces"],
  ["zones,faces,layers,sensors,components,site", "with every series there is"],
];

function RunList({
  runs,
  refusal,
  start,
  turn,
  watch,
  open,
}: {
  runs: readonly Run[];
  refusal: string | null;
  start: (keep?: readonly SeriesClass[]) => Promise<void>;
  turn: (hash: string, to: RunTurn) => Promise<void>;
  watch: (hash: string) => void;
  open: (hash: string) => void;
}) {
  const [keep, setKeep] = useState("");
  return (
    <Box maxW="560px">
      <Flex align="baseline" gap="3" mb="2">
        <Text as="h2" textStyle="title">
          Stored runs
        </Text>
        <Act onClick={() => void start(keep.split(",").filter(Boolean) as SeriesClass[])}>Store a run</Act>
        <SelectInput
          label="Series the run keeps"
          align="left"
          width="260px"
          value={keep}
          options={KEEPS.map(([value, label]) => ({ value, label }))}
          onChange={setKeep}
        />
      </Flex>
      {refusal && (
        <Text role="alert" color="clay">
          {refusal}
        </Text>
      )}
      {runs.length === 0 && (
        <Text color="ink2">None yet. The figures below are always current without one; store a run to keep its hourly series and to share its number.</Text>
      )}
      {runs.map((r) => (
        <Flex key={r.hash} align="center" gap="4">
          <Box flex="1">
            <RunLine run={r} turn={turn} watch={watch} />
          </Box>
          {r.status === "done" && <Act onClick={() => open(r.hash)}>Read</Act>}
        </Flex>
      ))}
    </Box>
  );
}

function First({ message }: { message: string | null }) {
  return (
    <Box maxW="520px">
      <Text textStyle="title">{message ? "There is no year to read" : "The first year is on its way"}</Text>
      <Text color={message ? "clay" : "ink2"} mt="1">
        {(message && <Told text={message} />) ??
          "Energy by end use, gains and losses, the zones and their temperatures appear here as soon as the first estimate is there, and follow every edit after that."}
      </Text>
    </Box>
  );
}

/** A small number as a power of ten. */
const tenPower = (v: number): string =>
  v === 0
    ? "0"
    : v
        .toExponential(0)
        .replace("e-", " · 10⁻")
        .replace(/⁻(\d+)/, (_, d: string) => `⁻${[...d].map((c) => "⁰¹²³⁴⁵⁶⁷⁸⁹"[Number(c)]).join("")}`);

function Headlines({ summary: s, currency, against, exact }: { summary: Summary; currency: string; against: Summary | null; exact: boolean }) {
  const units = useUnits();
  const peakNote = (p: Summary["peaks"]["cooling"]) =>
    `mean of the hour to ${stampText(p.at)}${p.latent > 0 ? `, ${units.words(p.latent / 1000, "kW", 1)} of it latent` : ""}; largest step ${units.words(p.step / 1000, "kW", 1)}`;
  const change = (now: number | null, other: number | null | undefined) =>
    against && now !== null && typeof other === "number" ? ` (now ${units.difference(other - now, "kWh/m²a", 1)})` : "";
  return (
    <>
      <Row label="Site energy" note={change(s.energy.intensity, against?.energy.intensity)}>
        <b data-testid="result-intensity">{units.text(s.energy.intensity, "kWh/m²a", 1)}</b>
        <Unit>{units.unit(unitOf("kWh/m²a", s))}</Unit>
      </Row>
      {s.energy.intensity === null && s.energy.perFloorArea !== null && (
        <Row label="Site energy by all floors" note="nothing is heated or cooled: there is no conditioned floor to divide by">
          <b>{units.text(s.energy.perFloorArea, "kWh/m²a", 1)}</b>
          <Unit>{units.unit(unitOf("kWh/m²a", s))}</Unit>
        </Row>
      )}
      <Row label="Conditioned floor" note={s.wholeFloorArea > s.floorArea + 0.5 ? `of ${units.words(s.wholeFloorArea, "m²", 0)} in all` : undefined}>
        <b>{units.text(s.floorArea, "m²", 0)}</b>
        <Unit>{units.unit("m²")}</Unit>
      </Row>
      <Row label="Heating">
        <b>{units.text(s.loads.heating.total / 1000, "MWh", 1)}</b>
        <Unit>{units.unit(unitOf("MWh/a", s))}</Unit>
      </Row>
      <Row label="Cooling" note={s.loads.dehumidification.total > 0 ? "sensible" : undefined}>
        <b>{units.text(s.loads.cooling.total / 1000, "MWh", 1)}</b>
        <Unit>{units.unit(unitOf("MWh/a", s))}</Unit>
      </Row>
      {s.loads.dehumidification.total > 0 && (
        <Row label="Latent cooling">
          <b>{units.text(s.loads.dehumidification.total / 1000, "MWh", 1)}</b>
          <Unit>{units.unit(unitOf("MWh/a", s))}</Unit>
        </Row>
      )}
      {s.loads.humidification.total > 0 && (
        <Row label="Humidification">
          <b>{units.text(s.loads.humidification.total / 1000, "MWh", 1)}</b>
          <Unit>{units.unit(unitOf("MWh/a", s))}</Unit>
        </Row>
      )}
      {exact && (
        <>
          <Row label="Peak heating" note={peakNote(s.peaks.heating)}>
            <b>{units.text(s.peaks.heating.power / 1000, "kW", 1)}</b>
            <Unit>{units.unit("kW")}</Unit>
          </Row>
          <Row label="Peak cooling" note={peakNote(s.peaks.cooling)}>
            <b>{units.text(s.peaks.cooling.power / 1000, "kW", 1)}</b>
            <Unit>{units.unit("kW")}</Unit>
          </Row>
        </>
      )}
      <Row
        label="Hours unmet"
        note={
          s.unmetHours === null
            ? "told from 4 steps an hour on: longer ones make some of their own"
            : `any zone more than ${units.words(s.unmetTolerance, "K", 1)} off while people are there or its hours of use hold${causesText(s)}`
        }
      >
        <b>{figure(s.unmetHours, 1)}</b>
        <Unit>h</Unit>
      </Row>
      <Row label="Cost">
        <b>{figure(s.energy.cost, 0)}</b>
        <Unit>{unitOf(`${currency}/a`, s)}</Unit>
      </Row>
      <Row label="Carbon">
        <b>{figure(s.energy.carbon / 1000)}</b>
        <Unit>{unitOf("t CO₂e/a", s)}</Unit>
      </Row>
      <Row label="Primary energy">
        <b>{units.text(s.floorArea > 0 ? s.energy.primary / s.floorArea : null, "kWh/m²a", 1)}</b>
        <Unit>{units.unit(unitOf("kWh/m²a", s))}</Unit>
      </Row>
      {s.energy.site && (
        <>
          <Row
            label="Electricity made on site"
            note={`${units.words(s.energy.site.used / 1000, "MWh", 1, true)} used here, ${units.words(s.energy.site.exported / 1000, "MWh", 1, true)} fed in, ${units.words(s.energy.site.bought / 1000, "MWh", 1, true)} bought`}
          >
            <b>{units.text(s.energy.site.made / 1000, "MWh", 1, true)}</b>
            <Unit>{units.unit(unitOf("MWh/a", s), true)}</Unit>
          </Row>
          <Row
            label="Net site energy"
            note={`net cost ${figure(s.energy.site.cost, 0)} ${currency}, net carbon ${figure(s.energy.site.carbon / 1000)} t CO₂e; figures above are gross`}
          >
            <b>{units.text(s.energy.net, "kWh/m²a", 1)}</b>
            <Unit>{units.unit(unitOf("kWh/m²a", s))}</Unit>
          </Row>
        </>
      )}
      <Row
        label="Energy balance closes to"
        note={`largest residual over gross flow, zones step by step and faces; moisture balance ${tenPower(s.waterClosure)}`}
      >
        <b>{tenPower(s.closure)}</b>
      </Row>
      <Row label="Counted" note="thermostat searches and radiant exchanges that did not settle, of all steps">
        <b>{figure(s.counted.unsettled + s.counted.unconverged, 0)}</b>
        <Unit>of {figure(s.counted.steps, 0)}</Unit>
      </Row>
      {s.shortYear && (
        <Row
          label="Short year"
          note={`${s.shortYear.days.length} days; degree days ${difference(100 * s.shortYear.expected.heating, 1)} % and ${difference(100 * s.shortYear.expected.cooling, 1)} %, sun ${difference(100 * s.shortYear.expected.sun, 1)} % off the year`}
        >
          ≈
        </Row>
      )}
      <Row
        label="Computed in"
        note={
          <span data-testid="computed-by">
            {s.timing.sizing > 0.005 && `design days ${figure(s.timing.sizing, 2)} s, `}shadows {figure(s.timing.cast, 2)} s, {figure(s.timing.recast, 0)}{" "}
            {s.timing.recast === 1 ? "face" : "faces"} cast anew; walks in {s.timing.kernel ?? "TypeScript"}
          </span>
        }
      >
        <b>{figure(s.timing.sizing + s.timing.compile + s.timing.run, 2)}</b>
        <Unit>s</Unit>
      </Row>
      {exact && (
        <Row label="Fingerprint" note="hash of every hourly value; equal figures have equal ones">
          <Text as="span" fontFamily="mono" fontSize="11px" data-testid="fingerprint">
            {s.fingerprint}
          </Text>
        </Row>
      )}
      {s.warnings.map((w) => (
        <Text key={w} color="clay" fontSize="12px" mt="1">
          {w.replace(/^[^:]*: /, "")}
        </Text>
      ))}
    </>
  );
}

/** Hours unmet by cause, in words. */
function causesText(s: Summary): string {
  if (!s.unmetCauses || !s.unmetHours) return "";
  const words = { plant: "plant at its limit", capacity: "too little capacity in the room", start: "start after a setback" } as const;
  const told = Object.entries(words).flatMap(([cause, text]) => {
    const hours = s.unmetCauses?.[cause as keyof typeof words] ?? 0;
    return hours > 0 ? [`${text} ${figure(hours, 1)} h`] : [];
  });
  return told.length > 0 ? `: ${told.join(", ")}` : "";
}
