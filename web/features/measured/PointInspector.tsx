"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import {
  AT_REST,
  clockShift,
  dayKinds,
  gapsOf,
  hourlyMeans,
  lookedAt,
  momentText,
  pointUnit,
  runWords,
  STUCK_HOURS,
  stuckRuns,
  suggestedSeries,
  unitOfText,
  type LoggedPoint,
  type LoggedReadings,
  type PointYears,
  type Project,
  type WeatherYear,
} from "@arroyo/core";
import { Act, Head, NumberInput, Row, SelectInput, TextInput, Unit } from "../../ui/fields.tsx";
import { Inspector } from "../../ui/Panes.tsx";
import { seriesName } from "../results/seriesThings.ts";
import { useStore } from "../store.ts";
import { addPairs, removePoint, scheduleOf, setPoint } from "./edits.ts";
import { InputFinder } from "./InputFinder.tsx";
import { rightReadings } from "./useLogged.ts";

/** Stretches listed at most. */
const LISTED = 6;

/** One point: how it is put right, what is missing or stuck, where it means nothing, and what it is used for. */
export function PointInspector({
  id,
  logged,
  at,
  onGone,
}: {
  id: string;
  logged: LoggedReadings | null;
  at: { readonly points: PointYears; readonly weather: WeatherYear } | null;
  onGone: () => void;
}) {
  const project = useStore((s) => s.project) as Project;
  const [told, setTold] = useState<string | null>(null);
  const [driving, setDriving] = useState(false);
  const point = project.points?.[id];
  const right = useMemo(() => rightReadings(project, logged, id), [project, logged, id]);
  const found = useMemo(() => {
    if (!right || !point) return null;
    const least = Math.ceil((STUCK_HOURS * 60) / right.interval);
    return { gaps: gapsOf(right.values), stuck: point.kind === undefined ? stuckRuns(right.values, least, AT_REST) : [] };
  }, [right, point]);
  const shift = useMemo(() => {
    // against the outdoors an outdoor sensor tells a clock that runs wrong
    if (!right || !at || !point || !/out|roof|ambient/i.test(point.name) || unitOfText(point.unit)?.dimension.join() !== unitOfText("°C")?.dimension.join())
      return 0;
    return clockShift(hourlyMeans(right, lookedAt(project.calendar, right), at.points.days), at.weather.dryBulb, 8);
  }, [right, at, point, project.calendar]);
  if (!point) return <Inspector title="Point">Choose a point on the left.</Inspector>;
  const set = (part: Partial<Record<keyof LoggedPoint, unknown>>, words: string): string | null => setPoint(id, part, words);
  const unit = point.unit === "1" ? "" : point.unit;
  const series = suggestedSeries(project, point);
  const takeOut = (from: number, to: number, reason: string): void => {
    if (!right) return;
    const start = right.start;
    setTold(
      set(
        { without: [...(point.without ?? []), { from: momentText(start + from * right.interval), to: momentText(start + to * right.interval), reason }] },
        "readings taken out",
      ),
    );
  };
  return (
    <Inspector title={point.name} about={point.source}>
      <Row label="Name">
        <TextInput label="Name" width="160px" value={point.name} onCommit={(t) => (t.trim() === "" ? "It needs a name." : set({ name: t.trim() }, "name"))} />
      </Row>
      <Row label="Unit">
        <TextInput
          label="Unit"
          width="70px"
          value={unit}
          onCommit={(t) =>
            unitOfText(t.trim() === "" ? "1" : t.trim()) ? set({ unit: t.trim() === "" ? "1" : t.trim() }, "unit") : `"${t}" is no unit Arroyo knows.`
          }
        />
      </Row>
      <Row label="Holds">
        <SelectInput
          label="Holds"
          width="130px"
          value={point.kind ?? "reading"}
          options={[
            { value: "reading", label: "a reading" },
            { value: "counter", label: "a counter" },
            { value: "sum", label: "a sum of its row" },
          ]}
          onChange={(v) => setTold(set({ kind: v === "reading" ? undefined : v }, "what it holds"))}
        />
      </Row>
      <Row label="Tags">
        <TextInput
          label="Tags"
          width="150px"
          value={(point.tags ?? []).join(", ")}
          onCommit={(t) => {
            const tags = t
              .split(",")
              .map((x) => x.trim())
              .filter((x) => x !== "");
            return set({ tags: tags.length > 0 ? tags.slice(0, 20) : undefined }, "tags");
          }}
        />
      </Row>
      <Head>Put right</Head>
      <Row
        label="Added to its times"
        title="A clock that runs wrong is put right"
        {...(shift !== 0 ? { note: `it runs ${Math.abs(shift)} h ${shift > 0 ? "behind" : "ahead of"} the weather year` } : {})}
      >
        <NumberInput label="Added to its times" value={point.shift ?? 0} digits={0} onCommit={(v) => set({ shift: v === 0 ? undefined : v }, "clock")} />
        <Unit>min</Unit>
      </Row>
      <Row label="Added to its readings" title="A sensor that reads high or low is put right">
        <NumberInput label="Added to its readings" value={point.offset ?? 0} onCommit={(v) => set({ offset: v === 0 ? undefined : v }, "offset")} />
        <Unit>{unit === "°C" ? "K" : unit}</Unit>
      </Row>
      {found && found.stuck.length > 0 && (
        <Box mt="1">
          {found.stuck.slice(0, LISTED).map((r) => (
            <Flex key={r.from} gap="2" align="baseline" fontSize="12px">
              <Text color="clay" flex="1">
                stands still {right && runWords(right, r)}
              </Text>
              <Act onClick={() => takeOut(r.from, r.to, "stuck")}>Take out</Act>
            </Flex>
          ))}
        </Box>
      )}
      {(point.without ?? []).map((w, i) => (
        <Flex key={`${w.from} ${i}`} gap="2" align="baseline" fontSize="12px">
          <Text color="ink2" flex="1">
            {w.from} to {w.to} taken out: {w.reason}
          </Text>
          <Act
            onClick={() => {
              const rest = (point.without ?? []).filter((_, k) => k !== i);
              setTold(set({ without: rest.length > 0 ? rest : undefined }, "readings put back"));
            }}
          >
            Put back
          </Act>
        </Flex>
      ))}
      {found && (
        <Text color="ink2" fontSize="12px" mt="1">
          {found.gaps.length === 0 ? "No gaps." : `${found.gaps.length} gaps, the longest ${right && runWords(right, longest(found.gaps))}.`}
        </Text>
      )}
      <Head>Means nothing while</Head>
      <Masks id={id} point={point} project={project} at={at} />
      <Head>Used</Head>
      {(project.pairs ?? [])
        .filter((p) => p.point === id)
        .map((p) => (
          <Text key={p.id} fontSize="12.5px">
            compared with {seriesName(project, p.series)}
          </Text>
        ))}
      <Flex gap="3" mt="1" wrap="wrap">
        {series && !(project.pairs ?? []).some((p) => p.point === id) && (
          <Act onClick={() => setTold(addPairs([{ point: id, series }], `${point.name} compared with ${seriesName(project, series)}`))}>
            Compare with {seriesName(project, series)}
          </Act>
        )}
        <Act onClick={() => setDriving(!driving)}>{driving ? "Close the list" : "Drive an input"}</Act>
        {at && (
          <Act
            onClick={() => {
              const values = at.points.of(id)?.values;
              const refused = values
                ? scheduleOf(id, values, pointUnit(point), dayKinds(project.calendar, 0, at.points.days))
                : "The readings are not at hand.";
              setTold(refused ?? "Its mean days are among the schedules now: Use can take them, and keep them in My library.");
            }}
          >
            Make a schedule of it
          </Act>
        )}
        <Act
          onClick={() => {
            const refused = removePoint(id);
            if (refused === null) onGone();
            setTold(refused);
          }}
        >
          Remove the point
        </Act>
      </Flex>
      {driving && (
        <Box mt="1">
          <InputFinder project={project} id={id} point={point} close={() => setDriving(false)} />
        </Box>
      )}
      {told && (
        <Text role="alert" color="clay" mt="1">
          {told}
        </Text>
      )}
    </Inspector>
  );
}

const longest = <T extends { readonly from: number; readonly to: number }>(runs: readonly T[]): T =>
  runs.reduce((a, b) => (b.to - b.from > a.to - a.from ? b : a));

/** Conditions over other points under which the readings mean nothing, each with its reason. */
function Masks({ id, point, project, at }: { id: string; point: LoggedPoint; project: Project; at: { readonly points: PointYears } | null }) {
  const others = Object.entries(project.points ?? {}).filter(([k]) => k !== id);
  const [other, setOther] = useState("");
  const [is, setIs] = useState<"below" | "above">("below");
  const [value, setValue] = useState(0);
  const [reason, setReason] = useState("");
  const [told, setTold] = useState<string | null>(null);
  const chosen = other !== "" && project.points?.[other] ? other : (others.find(([, p]) => /fan|valve|pump/i.test(p.name))?.[0] ?? others[0]?.[0] ?? "");
  const year = at?.points.of(id)?.values ?? null;
  return (
    <Box fontSize="12.5px">
      {(point.masks ?? []).map((m, i) => {
        const values = at?.points.of(m.point)?.values;
        const hours = values && year ? values.reduce((n, v, h) => n + Number(year[h] === year[h] && (m.is === "below" ? v < m.value : v > m.value)), 0) : null;
        return (
          <Flex key={i} gap="2" align="baseline">
            <Text flex="1">
              {m.reason}: {project.points?.[m.point]?.name ?? m.point} {m.is} {m.value} {pointUnit(project.points?.[m.point] ?? { unit: "" })}
              {hours !== null && (
                <Text as="span" color="ink2">
                  {" "}
                  ({hours} h left out)
                </Text>
              )}
            </Text>
            <Act
              onClick={() => {
                const rest = (point.masks ?? []).filter((_, k) => k !== i);
                setTold(setPoint(id, { masks: rest.length > 0 ? rest : undefined }, "a mask removed"));
              }}
            >
              Remove
            </Act>
          </Flex>
        );
      })}
      {others.length > 0 && (
        <Box mt="1">
          <SelectInput
            label="Other point"
            align="left"
            width="250px"
            value={chosen}
            options={others.map(([k, p]) => ({ value: k, label: p.name }))}
            onChange={setOther}
          />
          <Flex gap="1" align="center">
            <SelectInput
              label="Lies"
              align="left"
              width="76px"
              value={is}
              options={[
                { value: "below", label: "below" },
                { value: "above", label: "above" },
              ]}
              onChange={(v) => setIs(v as "below" | "above")}
            />
            <NumberInput
              label="Limit of the other point"
              width="56px"
              value={value}
              onCommit={(v) => {
                setValue(v);
                return null;
              }}
            />
            <Unit>{pointUnit(project.points?.[chosen] ?? { unit: "" })}</Unit>
          </Flex>
          <Text as="span" color="ink2">
            because{" "}
          </Text>
          <TextInput
            label="Reason"
            align="left"
            width="170px"
            value={reason}
            onCommit={(t) => {
              setReason(t.trim().slice(0, 200));
              return null;
            }}
          />
          <Act
            onClick={() => {
              if (reason === "") return setTold("Type the reason, such as: the fan stands still.");
              const refused = setPoint(id, { masks: [...(point.masks ?? []), { point: chosen, is, value, reason }] }, "a mask");
              if (refused === null) setReason("");
              setTold(refused);
            }}
          >
            Leave these hours out
          </Act>
        </Box>
      )}
      {told && (
        <Text role="alert" color="clay">
          {told}
        </Text>
      )}
    </Box>
  );
}
