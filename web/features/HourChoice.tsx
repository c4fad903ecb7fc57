"use client";
import { Flex, Text } from "@chakra-ui/react";
import { Act } from "../ui/fields.tsx";
import type { YearSeries } from "../live/yearSeries.ts";
import { hourWords } from "./yearSeries.ts";

/** An hour of the run, by day and by hour. */
export function HourChoice({
  year,
  hour,
  onChange,
}: {
  year: Pick<YearSeries, "firstDay" | "leapDays" | "hours">;
  hour: number;
  onChange: (hour: number) => void;
}) {
  const day = Math.floor(hour / 24);
  const last = Math.max(0, year.hours - 1);
  const go = (h: number): void => onChange(Math.max(0, Math.min(last, h)));
  const slider = { flex: 1, minWidth: 60, accentColor: "var(--chakra-colors-water)" } as const;
  return (
    <Flex gap="2" align="center" flex="1" minW="0">
      <Text whiteSpace="nowrap" fontWeight="600" minW="86px" data-testid="chosen-hour">
        {hourWords(year, hour)}
      </Text>
      <Act title="The hour before" onClick={() => go(hour - 1)}>
        ◂
      </Act>
      <Act title="The hour after" onClick={() => go(hour + 1)}>
        ▸
      </Act>
      <input
        type="range"
        aria-label="Day of the run"
        min={0}
        max={Math.floor(last / 24)}
        value={day}
        onChange={(e) => go(24 * Number(e.target.value) + (hour % 24))}
        style={slider}
      />
      <input
        type="range"
        aria-label="Hour of the day"
        min={0}
        max={23}
        value={hour % 24}
        onChange={(e) => go(24 * day + Number(e.target.value))}
        style={slider}
      />
    </Flex>
  );
}
