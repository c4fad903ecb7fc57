"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useRef, useState } from "react";
import { COMMON_YEAR, dateOfDay, expandSchedule, MONTH_NAMES, type Project, type Schedule } from "@arroyo/core";
import { figure } from "../../ui/format.ts";
import { useUnits } from "../../ui/units.ts";
import { spanOf } from "./scheduleParts.ts";

const WATER = [14, 107, 128] as const;
const PAPER = [246, 242, 234] as const;

/** Every hour of the year at a glance: days across, hours of the clock upward. */
export function YearMap({ project, schedule }: { project: Project; schedule: Schedule }) {
  const units = useUnits();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [over, setOver] = useState<{ day: number; hour: number } | null>(null);
  const values = useMemo(() => expandSchedule(schedule, { ...project.calendar, daylightSaving: null }, 1, COMMON_YEAR), [schedule, project.calendar]);
  const [low, high] = useMemo(() => spanOf(schedule), [schedule]);
  useEffect(() => {
    const c = canvas.current?.getContext("2d");
    if (!c) return;
    const image = c.createImageData(365, 24);
    for (let d = 0; d < 365; d++)
      for (let h = 0; h < 24; h++) {
        const x = Math.max(0, Math.min(1, (values[24 * d + h] - low) / (high - low)));
        const at = 4 * ((23 - h) * 365 + d);
        for (let k = 0; k < 3; k++) image.data[at + k] = Math.round(PAPER[k] + x * (WATER[k] - PAPER[k]));
        image.data[at + 3] = 255;
      }
    c.putImageData(image, 0, 0);
  }, [values, low, high]);
  const value = over ? values[24 * over.day + over.hour] : null;
  const date = over ? dateOfDay(over.day) : null;
  return (
    <Box>
      <Flex gap="3" align="baseline">
        <Text fontWeight="600">The year</Text>
        <Text color="ink2" fontSize="12px">
          days across, hours of the clock upward;{" "}
          {schedule.kind === "fraction" ? "share from 0 to 1" : `${units.words(low, "°C", 0)} to ${units.words(high, "°C", 0)}`}
          {value !== null && date && over && (
            <>
              {" · "}
              {date[1]} {MONTH_NAMES[date[0] - 1]}, {over.hour} to {over.hour + 1} o’clock:{" "}
              {schedule.kind === "fraction" ? figure(value, 2) : units.words(value, "°C", 1)}
            </>
          )}
        </Text>
      </Flex>
      <canvas
        ref={canvas}
        width={365}
        height={24}
        role="img"
        aria-label={`The year of ${schedule.name}, hour by hour`}
        style={{ width: "100%", height: 96, imageRendering: "pixelated", border: "1px solid var(--chakra-colors-line)" }}
        onMouseLeave={() => setOver(null)}
        onMouseMove={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          setOver({
            day: Math.max(0, Math.min(364, Math.floor((365 * (e.clientX - box.left)) / box.width))),
            hour: Math.max(0, Math.min(23, 23 - Math.floor((24 * (e.clientY - box.top)) / box.height))),
          });
        }}
      />
      <Flex>
        {MONTH_NAMES.map((m) => (
          <Text key={m} flex="1" fontSize="10.5px" color="ink2">
            {m.slice(0, 3)}
          </Text>
        ))}
      </Flex>
    </Box>
  );
}
