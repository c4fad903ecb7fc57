"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { Download, Plus, Trash2, Upload } from "lucide-react";
import { useMemo, useRef, useState } from "react";
import { freeId, scheduleFromValues, setChange, valuesOfText, type Change, type Project, type Schedule } from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { DateInput, firstMessage, SelectInput, TextInput } from "../../ui/fields.tsx";
import { saveCsv } from "../../ui/saveCsv.ts";
import { useStore } from "../store.ts";
import { HourRow } from "./HourRow.tsx";
import { dayNames, scheduleCsv, spanOf, weekValues } from "./scheduleParts.ts";
import { UseHead } from "./UseHead.tsx";
import { YearMap } from "./YearMap.tsx";

/** A week of a schedule as a small area chart. */
export function WeekStrip({ schedule }: { schedule: Schedule }) {
  const [low, high] = spanOf(schedule);
  const values = useMemo(() => weekValues(schedule).map((v) => (v - low) / (high - low)), [schedule, low, high]);
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

/** One schedule: its day profiles, drawn or typed, the rules that place them in the year, and the year they make. */
export function ScheduleDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const s = project.schedules[id];
  const at = (...path: string[]): string[] => ["schedules", id, ...path];
  const span = spanOf(s);
  const usedBy = (p: string): string[] => s.weeks.filter((w) => w.days.includes(p)).map((w) => w.id);
  const addProfile = (): void => {
    const key = freeId(s.profiles, "day");
    const [first] = Object.values(s.profiles);
    edit(`${s.name}: another day`, [
      { op: "insert", path: at("profiles", key), value: { name: `Day ${Object.keys(s.profiles).length + 1}`, values: [...first.values] } },
    ]);
  };
  return (
    <Flex direction="column" gap="4">
      <UseHead part="schedules" id={id}>
        <SelectInput
          label="Kind of schedule"
          align="left"
          width="150px"
          value={s.kind}
          options={[
            { value: "fraction", label: "share, 0 to 1" },
            { value: "temperature", label: "temperature, °C" },
          ]}
          onChange={(v) => edit(`${s.name}: ${v}`, [setChange(project, at("kind"), v)])}
        />
        <ScheduleFile id={id} />
      </UseHead>
      <YearMap project={project} schedule={s} />
      <Box>
        <Flex align="center" gap="2">
          <Text fontWeight="600">Days</Text>
          <IconButton label="Add a day profile" icon={Plus} onClick={addProfile} />
          <Text color="ink2" fontSize="12px">
            drawn over with the mouse, or typed hour by hour; clock time
          </Text>
        </Flex>
        {Object.entries(s.profiles).map(([p, profile]) => (
          <Box key={p} mb="2">
            <Flex gap="3" align="center">
              <TextInput
                label={`Name of day ${profile.name}`}
                width="180px"
                title
                value={profile.name}
                onCommit={(t) => firstMessage(edit(`${profile.name} is now ${t}`, [setChange(project, at("profiles", p, "name"), t)]))}
              />
              <Text color="ink2" fontSize="12px" flex="1">
                {usedBy(p).length === 0
                  ? "used on no day yet"
                  : `${Number(profile.values.reduce((a, b) => a + b, 0).toFixed(2))} ${s.kind === "fraction" ? "full hours a day" : "°C·h"}`}
              </Text>
              <IconButton
                label={`Remove day ${profile.name}`}
                icon={Trash2}
                onClick={() => edit(`${s.name}: without ${profile.name}`, [{ op: "remove", path: at("profiles", p), old: profile }])}
                {...(usedBy(p).length > 0 ? { not: "a rule below uses it" } : {})}
              />
            </Flex>
            <HourRow
              label={profile.name}
              values={profile.values}
              kind={s.kind}
              span={span}
              onCommit={(values) => firstMessage(edit(`${s.name}: ${profile.name}`, [setChange(project, at("profiles", p, "values"), values)]))}
            />
          </Box>
        ))}
      </Box>
      <Rules id={id} />
    </Flex>
  );
}

/** Which day is used when: rules by dates, later ones winning. */
function Rules({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const s = project.schedules[id];
  const days = Object.entries(s.profiles).map(([value, p]) => ({ value, label: p.name }));
  const at = (w: string, ...path: string[]): string[] => ["schedules", id, "weeks", w, ...path];
  const add = (exception: boolean): void => {
    const key = freeId(Object.fromEntries(s.weeks.map((w) => [w.id, w])), "dates");
    const last = s.weeks[s.weeks.length - 1];
    const value = {
      id: key,
      from: exception ? [12, 24] : [7, 1],
      to: exception ? [12, 24] : [8, 31],
      days: exception ? new Array(8).fill(last.days[6]) : [...last.days],
    };
    edit(`${s.name}: another rule`, [{ op: "insert", path: at(key), value }]);
  };
  return (
    <Box>
      <Flex align="center" gap="2">
        <Text fontWeight="600">When each day is used</Text>
        <IconButton label="Add a stretch of dates" icon={Plus} onClick={() => add(false)} />
        <chakra.button type="button" color="water" fontSize="12px" cursor="pointer" onClick={() => add(true)}>
          add an exception of one day
        </chakra.button>
        <Text color="ink2" fontSize="12px">
          where stretches overlap, the later one counts
        </Text>
      </Flex>
      {s.weeks.map((w, i) => (
        <Box key={w.id} py="1.5" borderBottom="1px solid" borderColor="line" role="group" aria-label={`Rule ${i + 1}`}>
          <Flex align="center" gap="2">
            <Text color="ink2" w="18px">
              {i + 1}
            </Text>
            {(["from", "to"] as const).map((end) => (
              <Flex key={end} align="center" gap="1">
                <Text color="ink2">{end}</Text>
                <DateInput
                  label={`Rule ${i + 1} ${end}`}
                  value={w[end]}
                  onCommit={(date) => firstMessage(edit(`${s.name}: dates`, [setChange(project, at(w.id, end), date)]))}
                />
              </Flex>
            ))}
            <Box ml="auto">
              <IconButton
                label={`Remove rule ${i + 1}`}
                icon={Trash2}
                onClick={() => edit(`${s.name}: one rule less`, [{ op: "remove", path: at(w.id), old: w } as Change])}
                {...(s.weeks.length === 1 ? { not: "a schedule needs one" } : {})}
              />
            </Box>
          </Flex>
          <Flex pl="18px" mt="0.5">
            {w.days.map((d, k) => (
              <Box key={k} flex="1" minW="0" pr="1">
                <Text fontSize="10.5px" color="ink2" pl="1">
                  {dayNames[k]}
                </Text>
                <SelectInput
                  label={`Rule ${i + 1}, ${dayNames[k]}`}
                  align="left"
                  width="100%"
                  value={d}
                  options={days}
                  onChange={(v) =>
                    edit(`${s.name}: ${dayNames[k]}`, [
                      setChange(
                        project,
                        at(w.id, "days"),
                        w.days.map((x, j) => (j === k ? v : x)),
                      ),
                    ])
                  }
                />
              </Box>
            ))}
          </Flex>
        </Box>
      ))}
    </Box>
  );
}

/** To and from a file of 24, 168 or 8,760 values. */
function ScheduleFile({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const input = useRef<HTMLInputElement>(null);
  const [told, setTold] = useState<string | null>(null);
  const s = project.schedules[id];
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    if (input.current) input.current.value = "";
    if (file.size > 5e6) return setTold(`${file.name} is larger than 5 MB.`);
    const values = valuesOfText(await file.text());
    if (typeof values === "string") return setTold(`${file.name}: ${values}`);
    const made = scheduleFromValues(s.name, s.kind, values, project.calendar);
    if (!made.ok) return setTold(`${file.name}: ${made.message}`);
    const { schedule } = made;
    setTold(
      firstMessage(
        edit(`${s.name} from ${file.name}`, [
          setChange(project, ["schedules", id], { ...s, profiles: schedule.profiles, weeks: schedule.weeks, source: file.name.slice(0, 200) }),
        ]),
      ),
    );
  };
  return (
    <Flex align="center" gap="0.5">
      <IconButton label="Save the year as CSV" icon={Download} onClick={() => saveCsv(`${project.name} ${s.name}`, scheduleCsv(project, s))} />
      <IconButton label="Read 24, 168 or 8760 values from a CSV" icon={Upload} onClick={() => input.current?.click()} />
      <chakra.input
        ref={input}
        type="file"
        accept=".csv,.txt,text/csv,text/plain"
        display="none"
        aria-label="Schedule file"
        onChange={(e) => void take(e.target.files?.[0])}
      />
      {told && (
        <Text role="alert" color="clay" fontSize="12px">
          {told}
        </Text>
      )}
    </Flex>
  );
}
