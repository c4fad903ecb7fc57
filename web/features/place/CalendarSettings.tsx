"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { freeId, isLeapYear, setChange, WEEKDAY_NAMES, type Change, type Project } from "@arroyo/core";
import type { WeatherGlance } from "../../live/messages.ts";
import { Act, DateInput, firstMessage, NumberInput, SelectInput, TextInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useStore } from "../store.ts";
import { Setting } from "./RunSettings.tsx";

/** Summer time to begin from, north and south of the equator: typical, unverified. */
const SUMMER_TIME = { north: { from: [3, 29], to: [10, 24] }, south: { from: [10, 4], to: [4, 4] } } as const;

/** What a calendar year means for the weather in use. */
function yearNote(year: number, weather: WeatherGlance | null): ReactNode {
  if (weather?.year && weather.year !== year)
    return (
      <Text as="span" color="clay">
        the weather was measured in {String(weather.year)}
      </Text>
    );
  return isLeapYear(year) && weather?.days === 365 ? "the weather has no 29 February" : "";
}

/** Weekdays, holidays and summer time: which day of the weather is which day of the schedules. */
export function CalendarSettings() {
  const project = useStore((s) => s.project) as Project;
  const weather = useStore((s) => s.live.weather);
  const edit = useStore((s) => s.edit);
  const { calendar } = project;
  const set = (words: string, key: string, value: unknown): string | null =>
    firstMessage(edit(`Calendar: ${words}`, [setChange(project, ["calendar", key], value)]));
  const saving = calendar.daylightSaving;
  const holidays = [...calendar.holidays].sort((a, b) => a.month - b.month || a.day - b.day);
  const addHoliday = (): void => {
    const id = freeId(Object.fromEntries(calendar.holidays.map((h) => [h.id, h])), "holiday");
    edit("New holiday", [{ op: "insert", path: ["calendar", "holidays", id], value: { id, name: "Holiday", month: 1, day: 1 } } as Change]);
  };
  const move = (h: (typeof holidays)[number], [month, day]: [number, number]): string | null => {
    const path = ["calendar", "holidays", h.id];
    const changes = [
      ...(month === h.month ? [] : [setChange(project, [...path, "month"], month)]),
      ...(day === h.day ? [] : [setChange(project, [...path, "day"], day)]),
    ];
    return changes.length === 0 ? null : firstMessage(edit(`${h.name} on ${day}/${month}`, changes));
  };
  return (
    <Box maxW="760px">
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title" whiteSpace="nowrap">
          Calendar
        </Text>
        <Text color="ink2">which day of the weather is which day of the schedules</Text>
      </Flex>
      <Setting
        name="Year"
        about="A typical year begins on the weekday beside it; a calendar year fixes the weekdays, and has a 29 February where its weather has one."
        usual={!calendar.year}
      >
        <SelectInput
          label="Kind of year"
          width="126px"
          align="left"
          value={calendar.year ? "named" : "typical"}
          options={[
            { value: "typical", label: "typical" },
            { value: "named", label: "calendar year" },
          ]}
          onChange={(v) => set(v === "named" ? "a calendar year" : "typical year", "year", v === "named" ? (weather?.year ?? 2026) : null)}
        />
        {calendar.year ? (
          <NumberInput label="Calendar year" width="56px" value={calendar.year} digits={0} plain onCommit={(v) => set(`year ${v}`, "year", v)} />
        ) : (
          <>
            <Text color="ink2" fontSize="12px">
              from a
            </Text>
            <SelectInput
              label="First weekday"
              width="104px"
              align="left"
              value={String(calendar.firstWeekday)}
              options={WEEKDAY_NAMES.map((d, i) => ({ value: String(i), label: d }))}
              onChange={(v) => set(`1 January is a ${WEEKDAY_NAMES[Number(v)]}`, "firstWeekday", Number(v))}
            />
          </>
        )}
        {calendar.year && (
          <Text fontSize="11.5px" color="ink2" w="100%">
            {yearNote(calendar.year, weather)}
          </Text>
        )}
      </Setting>
      <Setting
        name="Summer time"
        about="Between these days, both included, people’s clock runs an hour ahead of the weather’s; results stay in standard time."
        usual={saving === null}
      >
        <SelectInput
          label="Summer time"
          width="126px"
          align="left"
          value={saving ? "yes" : "no"}
          options={[
            { value: "no", label: "never" },
            { value: "yes", label: "between" },
          ]}
          onChange={(v) =>
            set(
              v === "yes" ? "summer time" : "no summer time",
              "daylightSaving",
              v === "yes" ? SUMMER_TIME[project.site.latitude < 0 ? "south" : "north"] : null,
            )
          }
        />
        {saving && (
          <Box w="100%">
            {(["from", "to"] as const).map((end) => (
              <Flex key={end} align="flex-start">
                <Text color="ink2" fontSize="12px" w="36px" pt="0.5">
                  {end}
                </Text>
                <DateInput
                  label={`Summer time ${end}`}
                  value={saving[end]}
                  onCommit={(d) => set(`summer time ${end}`, "daylightSaving", { ...saving, [end]: d })}
                />
              </Flex>
            ))}
          </Box>
        )}
      </Setting>
      <Box py="2">
        <Text fontWeight="600">Holidays</Text>
        <Text color="ink2" fontSize="12px" mb="1">
          On a holiday every schedule takes its profile for holidays, whatever the weekday.
        </Text>
        {holidays.length > 0 && (
          <Box maxW="460px" mb="1">
            <Grid
              label="Holidays"
              head={[{ text: "Holiday", left: true }, { text: "Day" }, { text: "" }]}
              rows={holidays.map((h) => ({
                key: h.id,
                cells: [
                  <TextInput
                    key="n"
                    label={`Name of ${h.name}`}
                    value={h.name}
                    onCommit={(v) => firstMessage(edit(`Holiday ${v}`, [setChange(project, ["calendar", "holidays", h.id, "name"], v)]))}
                  />,
                  <DateInput key="d" label={`Day of ${h.name}`} value={[h.month, h.day]} onCommit={(date) => move(h, date)} />,
                  <Act key="x" onClick={() => edit(`Remove ${h.name}`, [{ op: "remove", path: ["calendar", "holidays", h.id], old: h }])}>
                    Remove
                  </Act>,
                ],
              }))}
            />
          </Box>
        )}
        <Act onClick={addHoliday}>Add a holiday</Act>
      </Box>
    </Box>
  );
}
