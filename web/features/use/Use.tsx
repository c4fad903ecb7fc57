"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { effective, equivalentHours, setChange, spaceFieldNames, spaceFields, type FieldSpec, type Project, type Schedule } from "@arroyo/core";
import { firstMessage, Head, Row, SelectInput } from "../../ui/fields.tsx";
import { figure, readNumber } from "../../ui/format.ts";
import { TypeInputRow } from "../../ui/InputRow.tsx";
import { Grid, Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { AirExchanges } from "./AirExchanges.tsx";

/** Space types with their gains and set-points; schedules drawn; the sheet of spaces they apply to. */
export function Use() {
  const project = useStore((s) => s.project) as Project;
  const selection = useStore((s) => s.selection);
  const select = useStore((s) => s.select);
  const leapWeather = useStore((s) => s.live.weather?.days === 366);
  const scheduleId = selection.find((s) => s.kind === "schedule" && project.schedules[s.id])?.id;
  const typeId = selection.find((s) => s.kind === "spaceType" && project.spaceTypes[s.id])?.id ?? Object.keys(project.spaceTypes)[0];
  const [asked, setBetween] = useState(false);
  const between = asked && selection.length === 0;
  const count = (t: string): number => Object.values(project.spaces).filter((s) => s.spaceType === t).length;
  return (
    <>
      <Side label="Space types and schedules" width="210px">
        <SideHead>Space types</SideHead>
        {Object.entries(project.spaceTypes).map(([id, t]) => (
          <SideItem
            key={id}
            active={!between && !scheduleId && id === typeId}
            value={count(id) || "unused"}
            onClick={() => select([{ kind: "spaceType", id }])}
          >
            {t.name}
          </SideItem>
        ))}
        <SideHead>Between zones</SideHead>
        <SideItem
          active={between}
          value={Object.keys(project.airExchanges).length || "none"}
          onClick={() => {
            select([]);
            setBetween(true);
          }}
        >
          Air between zones
        </SideItem>
        <SideHead>Schedules</SideHead>
        {Object.entries(project.schedules).map(([id, s]) => (
          <SideItem
            key={id}
            active={id === scheduleId}
            value={s.kind === "fraction" ? `${figure(equivalentHours(s, project.calendar, leapWeather), 0)} h` : ""}
            onClick={() => select([{ kind: "schedule", id }])}
          >
            {s.name}
          </SideItem>
        ))}
      </Side>
      <Middle label="Use">
        {between ? (
          <AirExchanges />
        ) : scheduleId ? (
          <ScheduleDesk key={scheduleId} id={scheduleId} />
        ) : typeId ? (
          <TypeDesk id={typeId} />
        ) : (
          <Text color="ink2">No space type yet.</Text>
        )}
      </Middle>
      {typeId && !scheduleId && !between && (
        <Inspector title={project.spaceTypes[typeId].name} about={`space type · ${count(typeId)} space${count(typeId) === 1 ? "" : "s"}`}>
          {[...new Set(spaceFieldNames.map((f) => spaceFields[f].group))].map((group) => (
            <Box key={group}>
              <Head>{group}</Head>
              {spaceFieldNames
                .filter((f) => (spaceFields[f] as FieldSpec).group === group)
                .map((f) => (
                  <TypeInputRow key={f} type={typeId} field={f} />
                ))}
            </Box>
          ))}
        </Inspector>
      )}
      {scheduleId && (
        <Inspector title={project.schedules[scheduleId].name} about="schedule">
          <Row label="Full-value hours a year">
            <b>{figure(equivalentHours(project.schedules[scheduleId], project.calendar, leapWeather), 0)}</b> h
          </Row>
          <Head>Used by</Head>
          {Object.entries(project.spaceTypes).flatMap(([id, t]) =>
            spaceFieldNames
              .filter((f) => t.inputs[f] === scheduleId)
              .map((f) => (
                <Row key={`${id} ${f}`} label={t.name}>
                  {spaceFields[f].label.replace(" schedule", "").toLowerCase()}
                </Row>
              )),
          )}
        </Inspector>
      )}
    </>
  );
}

function TypeDesk({ id }: { id: string }) {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const select = useStore((s) => s.select);
  const edit = useStore((s) => s.edit);
  const type = project.spaceTypes[id];
  const shown = (["peopleSchedule", "lightingSchedule", "applianceSchedule", "outdoorAirSchedule", "conditioningSchedule"] as const).map((f) => ({
    field: f,
    schedule: type.inputs[f] as string | null | undefined,
  }));
  const members = Object.entries(project.spaces).filter(([, s]) => s.spaceType === id);
  const number = (
    space: string,
    f: "peopleDensity" | "lightingPower" | "appliancePower" | "heatingSetpoint" | "coolingSetpoint" | "infiltration",
    digits: number,
  ): string => {
    const e = effective(project, "space", space, f);
    const mark = e.origin.kind === "typed" ? "● " : e.origin.kind === "default" ? "○ " : "";
    return e.value === null ? `${mark}none` : `${mark}${units.text(e.value as number, spaceFields[f].unit, digits, "electric" in spaceFields[f])}`;
  };
  return (
    <Flex direction="column" gap="4">
      <Box>
        <Flex align="baseline" gap="3" mb="2">
          <Text as="h2" textStyle="title">
            {type.name}
          </Text>
          <Text color="ink2">an ordinary week, Monday to Sunday; share in use, hour by hour</Text>
        </Flex>
        {shown.map(({ field, schedule }) => (
          <Flex key={field} align="center" gap="3" mb="1">
            <Text w="130px" color="ink2">
              {spaceFields[field].label.replace(" schedule", "")}
            </Text>
            <Box flex="1">{schedule ? <WeekStrip schedule={project.schedules[schedule]} /> : <Text color="ink2">always on</Text>}</Box>
            <Text w="110px" fontSize="12px">
              {schedule ? project.schedules[schedule].name : ""}
            </Text>
          </Flex>
        ))}
      </Box>
      <Box>
        <Text as="h2" textStyle="title" mb="1">
          Spaces of this type
        </Text>
        <Grid
          label="Spaces of this type"
          head={[
            { text: "Space", left: true },
            { text: "People", unit: units.unit("1/m²") },
            { text: "Lighting", unit: units.unit("W/m²", true) },
            { text: "Appliances", unit: units.unit("W/m²", true) },
            { text: "Infiltration", unit: "1/h" },
            { text: "Heat to", unit: units.unit("°C") },
            { text: "Cool to", unit: units.unit("°C") },
          ]}
          rows={members.map(([space, s]) => ({
            key: space,
            cells: [
              s.name,
              number(space, "peopleDensity", 2),
              number(space, "lightingPower", 1),
              number(space, "appliancePower", 1),
              number(space, "infiltration", 2),
              number(space, "heatingSetpoint", 1),
              number(space, "coolingSetpoint", 1),
            ],
          }))}
        />
        {members.length === 0 && <Text color="ink2">No space has this type. Give it to one in Form, or from the list below.</Text>}
      </Box>
      <Flex gap="3" align="center">
        <Text color="ink2">Give this type to</Text>
        <SelectInput
          label="Give this type to"
          align="left"
          width="200px"
          value=""
          options={[
            { value: "", label: "a space …" },
            ...Object.entries(project.spaces)
              .filter(([, s]) => s.spaceType !== id)
              .map(([space, s]) => ({ value: space, label: s.name })),
          ]}
          onChange={(v) => v && edit(`${project.spaces[v].name} becomes ${type.name}`, [setChange(project, ["spaces", v, "spaceType"], id)])}
        />
        <Text color="ink2" ml="auto">
          Schedules:{" "}
          {[...new Set(shown.map((s) => s.schedule).filter((s): s is string => typeof s === "string"))].map((s) => (
            <Box as="button" key={s} color="water" mr="2" cursor="pointer" {...{ type: "button", onClick: () => select([{ kind: "schedule", id: s }]) }}>
              {project.schedules[s].name}
            </Box>
          ))}
        </Text>
      </Flex>
    </Flex>
  );
}

const weekValues = (s: Schedule): number[] => s.weeks[s.weeks.length - 1].days.slice(0, 7).flatMap((d) => s.profiles[d].values);

/** A week of a schedule as a small area chart. */
function WeekStrip({ schedule }: { schedule: Schedule }) {
  const values = useMemo(() => weekValues(schedule), [schedule]);
  const path = values.map((v, i) => `${i === 0 ? "M" : "L"}${i} ${32 - 30 * v}L${i + 1} ${32 - 30 * v}`).join("");
  return (
    <svg viewBox="0 0 168 34" preserveAspectRatio="none" width="100%" height="40" role="img" aria-label={`A week of ${schedule.name}`}>
      {Array.from({ length: 8 }, (_, d) => (
        <line key={d} x1={d * 24} x2={d * 24} y1="0" y2="34" stroke="var(--chakra-colors-line)" strokeWidth="1" vectorEffect="non-scaling-stroke" />
      ))}
      <path d={`${path}L168 32L0 32Z`} fill="var(--chakra-colors-wash)" />
      <path d={path} fill="none" stroke="var(--chakra-colors-water)" strokeWidth="1.4" vectorEffect="non-scaling-stroke" />
    </svg>
  );
}

const dayNames = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday", "Holidays"];

/** One schedule: its day profiles, each hour typed over, and the week they make. */
function ScheduleDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const s = project.schedules[id];
  const last = s.weeks[s.weeks.length - 1];
  return (
    <Flex direction="column" gap="4">
      <Box>
        <Text as="h2" textStyle="title" mb="1">
          {s.name}
        </Text>
        <WeekStrip schedule={s} />
      </Box>
      {Object.entries(s.profiles).map(([p, profile]) => (
        <Box key={p}>
          <Flex gap="3" align="baseline">
            <Text fontWeight="600">{profile.name}</Text>
            <Text color="ink2" fontSize="12px">
              {dayNames.filter((_, i) => last.days[i] === p).join(", ") || "not used in an ordinary week"}
            </Text>
          </Flex>
          <HourRow
            values={profile.values}
            onCommit={(values) => firstMessage(edit(`${s.name}: ${profile.name}`, [setChange(project, ["schedules", id, "profiles", p, "values"], values)]))}
          />
        </Box>
      ))}
    </Flex>
  );
}

/** 24 hours side by side; a typed value lands in its hour. */
function HourRow({ values, onCommit }: { values: readonly number[]; onCommit: (v: number[]) => string | null }) {
  const [draft, setDraft] = useState<{ hour: number; text: string } | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const commit = (): void => {
    if (!draft) return;
    const n = readNumber(draft.text);
    const sentence = n === null ? `“${draft.text}” is not a number.` : onCommit(values.map((v, i) => (i === draft.hour ? n : v)));
    setRefusal(sentence);
    if (sentence === null) setDraft(null);
  };
  return (
    <>
      <Flex mt="1" align="flex-end">
        {values.map((v, h) => (
          <Box key={h} flex="1" minW="0">
            <Flex h="44px" align="flex-end" borderRight="1px solid" borderColor="line">
              <Box w="100%" background="wash" borderTop="2px solid" borderColor="water" style={{ height: `${Math.max(0, Math.min(1, v)) * 100}%` }} />
            </Flex>
            <input
              aria-label={`${h} to ${h + 1} o’clock`}
              value={draft?.hour === h ? draft.text : figure(v, v % 1 === 0 ? 0 : 2)}
              onFocus={(e) => e.target.select()}
              onChange={(e) => setDraft({ hour: h, text: e.target.value })}
              onBlur={commit}
              onKeyDown={(e) => (e.key === "Enter" ? commit() : e.key === "Escape" && (setDraft(null), setRefusal(null)))}
              style={{ width: "100%", background: "transparent", textAlign: "center", fontSize: 11, color: "inherit" }}
            />
            <Text fontSize="10px" color="ink2" textAlign="center">
              {h}
            </Text>
          </Box>
        ))}
      </Flex>
      {refusal && (
        <Text role="alert" color="clay" fontSize="12px">
          {refusal}
        </Text>
      )}
    </>
  );
}
