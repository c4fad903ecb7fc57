"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState, type ComponentProps } from "react";
import { setChange, suggestedPairs, yearOfReadings, type PairYear, type Project, type SeriesRef } from "@arroyo/core";
import type { SeriesClass } from "../../live/seriesClasses.ts";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { SeriesPicker } from "../results/SeriesPicker.tsx";
import { seriesName } from "../results/seriesThings.ts";
import { useStore } from "../store.ts";
import { useQuery } from "../useQuery.ts";
import { useYearSeries, type FoundYear } from "../yearSeries.ts";
import { addPairs } from "./edits.ts";
import { CalibrateDesk } from "./CalibrateDesk.tsx";
import { CausesDesk } from "./CausesDesk.tsx";
import { DrivesDesk } from "./DrivesDesk.tsx";
import { ErrorsDesk } from "./ErrorsDesk.tsx";
import { PairInspector } from "./PairInspector.tsx";
import { PointInspector } from "./PointInspector.tsx";
import { PointsDesk } from "./PointsDesk.tsx";
import { ReadDesk } from "./ReadDesk.tsx";
import { SignatureDesk } from "./SignatureDesk.tsx";
import { useCompared, usePointYears, useReadings, type Compared } from "./useLogged.ts";
import { WeeksDesk } from "./WeeksDesk.tsx";

const views = {
  read: "Bring in",
  points: "Points",
  drives: "Driven inputs",
  pair: "What is compared",
  weeks: "Week by week",
  errors: "Errors",
  signature: "Energy signature",
  causes: "What explains it",
  calibrate: "Calibrate",
} as const;
type View = keyof typeof views;

/** Logged data: brought in, driving the model, compared with it, and the inputs searched that lower the errors. */
export function Measured() {
  const project = useStore((s) => s.project) as Project;
  const [query, change] = useQuery();
  const points = Object.keys(project.points ?? {});
  const pairs = project.pairs ?? [];
  const asked = query.get("view") ?? (points.length === 0 ? "read" : pairs.length === 0 ? "points" : "weeks");
  const view: View = Object.hasOwn(views, asked) ? (asked as View) : "points";
  const logged = useReadings(project);
  const at = usePointYears(project, logged);
  const comparing = ["weeks", "errors", "signature", "causes"].includes(view);
  const [more, setMore] = useState<readonly SeriesClass[]>([]);
  const [beside, setBeside] = useState<SeriesRef | null>(null);
  const { compared, found } = useCompared(project, logged, comparing, more);
  const chosenPoint = query.get("point") ?? points[0] ?? null;
  const pairId = query.get("pair") ?? pairs[0]?.id ?? null;
  const read = pairId === null ? undefined : compared?.reads.get(pairId);
  const pair = read?.ok ? read.of : null;
  const item = (v: View, value = "") => (
    <SideItem key={v} active={view === v} value={value} onClick={() => change({ view: v })}>
      {views[v]}
    </SideItem>
  );
  return (
    <Flex flex="1" minH="0">
      <Side label="Measured" width="228px">
        <SideHead>Logged</SideHead>
        {item("read")}
        {item("points", points.length > 0 ? String(points.length) : "")}
        <SideHead>In the model</SideHead>
        {item("drives", Object.keys(project.drives ?? {}).length > 0 ? String(Object.keys(project.drives ?? {}).length) : "")}
        <SideHead>Compared</SideHead>
        {item("weeks")}
        {item("errors")}
        {item("signature")}
        {item("causes")}
        <SideHead>Lowered</SideHead>
        {item("calibrate")}
        <SideHead>Pairs</SideHead>
        {pairs.map((p) => (
          <SideItem key={p.id} indent active={comparing && p.id === pairId} onClick={() => change({ pair: p.id, ...(comparing ? {} : { view: "weeks" }) })}>
            {project.points?.[p.point]?.name ?? p.point}
          </SideItem>
        ))}
        <SideItem active={view === "pair"} value="+" onClick={() => change({ view: "pair" })}>
          What is compared
        </SideItem>
      </Side>
      <Middle label={views[view]}>
        <CalendarNote logged={logged} />
        {view === "read" ? (
          <ReadDesk onTaken={() => change({ view: "points" })} />
        ) : view === "calibrate" ? (
          <CalibrateDesk />
        ) : view === "pair" ? (
          <PairDesk onMade={() => change({ view: "weeks" })} />
        ) : points.length === 0 ? (
          <Empty onRead={() => change({ view: "read" })} />
        ) : view === "points" ? (
          <PointsDesk project={project} logged={logged} at={at} chosen={chosenPoint} choose={(id) => change({ point: id })} />
        ) : view === "drives" ? (
          <DrivesDesk logged={logged} at={at} />
        ) : pairs.length === 0 ? (
          <Box>
            <Text mb="2">No point is compared with the model yet.</Text>
            <PrimaryButton onClick={() => change({ view: "pair" })}>Choose what to compare</PrimaryButton>
          </Box>
        ) : !compared ? (
          <Waiting found={found} logged={logged !== null} />
        ) : (
          <Box data-testid="compared" data-current={found.current}>
            {!found.current && (
              <Text color="ink2" fontSize="12px">
                {found.share === null ? "of the model before the last edit" : `the year is run, ${figure(100 * found.share, 0)} %`}
              </Text>
            )}
            <Desk
              view={view}
              project={project}
              pair={pair}
              message={read && !read.ok ? read.message : null}
              compared={compared}
              choose={(id) => change({ pair: id })}
              beside={{ beside, setBeside, needs: (c) => setMore([...new Set([...more, c])].sort()) }}
            />
          </Box>
        )}
      </Middle>
      {view === "points" && chosenPoint !== null && (
        <PointInspector key={chosenPoint} id={chosenPoint} logged={logged} at={at} onGone={() => change({ point: null })} />
      )}
      {["weeks", "signature", "causes"].includes(view) && compared && pair && <PairInspector project={project} pair={pair} compared={compared} />}
      {view === "drives" && (
        <Inspector title="Driven inputs" about="The hourly values of a point take the place of an input.">
          <Text color="ink2" fontSize="12.5px">
            Weather, set-points in force, hours in use, people, lighting and equipment of a zone, its outdoor air, and supply temperatures and hours of systems,
            loops and hot water. Sizing goes on from the design days as before.
          </Text>
        </Inspector>
      )}
    </Flex>
  );
}

function Desk({
  view,
  project,
  pair,
  message,
  compared,
  choose,
  beside,
}: {
  view: View;
  project: Project;
  pair: PairYear | null;
  message: string | null;
  compared: Compared;
  choose: (id: string) => void;
  beside: Pick<ComponentProps<typeof WeeksDesk>, "beside" | "setBeside" | "needs">;
}) {
  const inUse = useMemo(() => hoursInUse(pair, compared), [pair, compared]);
  if (view === "errors") return <ErrorsDesk project={project} pair={pair} compared={compared} choose={choose} reached={inUse} />;
  if (!pair) return <Text color="clay">{message ?? "Choose a pair on the left."}</Text>;
  if (view === "signature") return <SignatureDesk key={pair.pair.id} project={project} pair={pair} compared={compared} />;
  if (view === "causes") return <CausesDesk key={pair.pair.id} project={project} pair={pair} compared={compared} />;
  return <WeeksDesk key={pair.pair.id} project={project} pair={pair} compared={compared} {...beside} />;
}

/** Hours in which people are in the zone of a pair, or anywhere in the building. */
function hoursInUse(pair: PairYear | null, { table }: Compared): ArrayLike<number> | null {
  const rows = (table.series as Readonly<Record<string, Readonly<Record<string, ArrayLike<number>>> | undefined>>).people;
  if (!pair || !rows) return null;
  const zones = pair.pair.series.of === "zone" && Object.hasOwn(rows, pair.pair.series.id) ? [pair.pair.series.id] : Object.keys(rows);
  const out = new Uint8Array(table.hours);
  for (const z of zones) for (let h = 0; h < out.length; h++) if (rows[z][h] > 0) out[h] = 1;
  return out;
}

function Waiting({ found, logged }: { found: FoundYear; logged: boolean }) {
  return (
    <Text color="ink2" role="status">
      {found.message ??
        (!logged
          ? "The readings are fetched …"
          : `The year is run for the series that are compared${found.share === null ? "" : `, ${figure(100 * found.share, 0)} %`} …`)}
    </Text>
  );
}

function Empty({ onRead }: { onRead: () => void }) {
  return (
    <Box maxW="620px">
      <Text mb="2">
        Readings of sensors and meters drive the model and are compared with it, week by week. Begin with a file of trend data, or with the logger that ships
        with Arroyo: a year of an invented library whose fabric, schedules and machines are not quite those of the model.
      </Text>
      <PrimaryButton onClick={onRead}>Bring in trend data</PrimaryButton>
    </Box>
  );
}

/** The readings are of another year than the calendar's: weekdays and holidays are not those of their days. */
function CalendarNote({ logged }: { logged: ReturnType<typeof useReadings> }) {
  const document = useStore((s) => s.document) as Project;
  const edit = useStore((s) => s.edit);
  const first = Object.values(document.points ?? {})[0];
  const readings = first && logged && Object.hasOwn(logged, first.hash) ? logged[first.hash] : null;
  if (!readings) return null;
  const year = yearOfReadings(readings);
  if (document.calendar.year === year) return null;
  return (
    <Flex gap="2" align="baseline" mb="2" role="status">
      <Text color="clay">
        The readings are of {year} and the calendar {typeof document.calendar.year === "number" ? `is that of ${document.calendar.year}` : "names no year"}:
        weekdays and holidays are not those of their days.
      </Text>
      <Act onClick={() => edit(`Calendar of ${year}`, [setChange(document, ["calendar", "year"], year)])}>Set the calendar to {year}</Act>
    </Flex>
  );
}

/** Chooses what is compared: all points that are like a series by their names, or one point and any series. */
function PairDesk({ onMade }: { onMade: () => void }) {
  const project = useStore((s) => s.project) as Project;
  const [point, setPoint] = useState("");
  const [wanted, setWanted] = useState<readonly SeriesClass[]>([]);
  const [told, setTold] = useState<string | null>(null);
  const suggested = useMemo(() => suggestedPairs(project), [project]);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const classes = useMemo(() => (wanted.length > 0 ? wanted : (["zones"] as const)), [wanted]);
  const { year } = useYearSeries(project, classes);
  const points = Object.entries(project.points ?? {});
  const chosen = points.some(([id]) => id === point) ? point : (points[0]?.[0] ?? "");
  const some = suggested.filter((p) => !left.has(p.id));
  if (points.length === 0) return <Text color="ink2">Bring in points first.</Text>;
  return (
    <Box>
      <Text as="h2" textStyle="title">
        Compare by name
      </Text>
      {suggested.length === 0 ? (
        <Text color="ink2">Every point that is like a series by its name is compared already.</Text>
      ) : (
        <Box mb="3">
          {suggested.map((p) => (
            <Flex as="label" key={p.id} gap="2" align="baseline" fontSize="12.5px">
              <input
                type="checkbox"
                aria-label={`Compare ${project.points?.[p.point]?.name ?? p.point}`}
                checked={!left.has(p.id)}
                onChange={(e) => {
                  const next = new Set(left);
                  if (e.target.checked) next.delete(p.id);
                  else next.add(p.id);
                  setLeft(next);
                }}
              />
              <Text w="270px">{project.points?.[p.point]?.name}</Text>
              <Text color="ink2">with {seriesName(project, p.series)}</Text>
            </Flex>
          ))}
          <Box mt="2">
            <PrimaryButton
              disabled={some.length === 0}
              onClick={() => {
                const refused = addPairs(
                  some.map(({ point: of, series }) => ({ point: of, series })),
                  `${some.length} points compared`,
                );
                setTold(refused);
                if (refused === null) onMade();
              }}
            >
              {some.length === 1 ? "Compare this point" : `Compare these ${some.length}`}
            </PrimaryButton>
          </Box>
        </Box>
      )}
      <Text as="h2" textStyle="title" mt="3">
        Or one point with any series
      </Text>
      <SelectInput
        label="Point compared"
        align="left"
        width="280px"
        value={chosen}
        options={points.map(([id, p]) => ({ value: id, label: p.name }))}
        onChange={setPoint}
      />
      <SeriesPicker
        year={year}
        needs={(c) => setWanted([...new Set([...wanted, "zones" as const, c])].sort())}
        pick={(series) => {
          const refused = addPairs([{ point: chosen, series }], `${project.points?.[chosen]?.name ?? chosen} compared with ${seriesName(project, series)}`);
          setTold(refused);
          if (refused === null) onMade();
        }}
        close={onMade}
      />
      {told && (
        <Text role="alert" color="clay">
          {told}
        </Text>
      )}
    </Box>
  );
}
