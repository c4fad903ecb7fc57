"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { resetAt, setChange, type Project } from "@arroyo/core";
import { firstMessage, Quantity } from "../../ui/fields.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { UseHead } from "./UseHead.tsx";

const ENDS = [
  { end: "cold", words: "At the cold end" },
  { end: "warm", words: "At the warm end" },
] as const;
const [W, H] = [460, 190];

/** A temperature that follows the outdoor temperature: its two points, typed, and the line they make. */
export function ResetDesk({ id }: { id: string }) {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const reset = project.resets[id];
  const { cold, warm } = reset;
  const reach = Math.max(4, 0.4 * (warm.outdoor - cold.outdoor));
  const [from, to] = [cold.outdoor - reach, warm.outdoor + reach];
  const low = Math.min(cold.value, warm.value) - 1;
  const high = Math.max(cold.value, warm.value) + 1;
  const x = (t: number): number => 40 + ((W - 60) * (t - from)) / (to - from);
  const y = (v: number): number => H - 34 - ((H - 54) * (v - low)) / (high - low);
  const line = [from, cold.outdoor, warm.outdoor, to].map((t, i) => `${i === 0 ? "M" : "L"}${x(t)} ${y(resetAt(reset, t))}`).join("");
  return (
    <Flex direction="column" gap="3">
      <UseHead part="resets" id={id}>
        <Text color="ink2">linear between the two points, constant beyond them</Text>
      </UseHead>
      {ENDS.map(({ end, words }) => (
        <Flex key={end} align="center" gap="2" role="group" aria-label={words}>
          <Text w="110px">{words}</Text>
          <Quantity
            label={`${words}, outdoors`}
            value={reset[end].outdoor}
            unit="°C"
            shown="°C"
            onCommit={(n) => firstMessage(edit(`${reset.name}: ${words.toLowerCase()}`, [setChange(project, ["resets", id, end, "outdoor"], n)]))}
          />
          <Text color="ink2">outdoors it asks for</Text>
          <Quantity
            label={`${words}, asked for`}
            value={reset[end].value}
            unit="°C"
            shown="°C"
            onCommit={(n) => firstMessage(edit(`${reset.name}: ${words.toLowerCase()}`, [setChange(project, ["resets", id, end, "value"], n)]))}
          />
        </Flex>
      ))}
      <Box>
        <svg width={W} height={H} role="img" aria-label={`${reset.name} by outdoor temperature`}>
          <line x1="40" x2={W - 20} y1={H - 34} y2={H - 34} stroke="var(--chakra-colors-line)" />
          <path d={line} fill="none" stroke="var(--chakra-colors-water)" strokeWidth="2" />
          {ENDS.map(({ end }) => (
            <g key={end}>
              <circle cx={x(reset[end].outdoor)} cy={y(reset[end].value)} r="3.5" fill="var(--chakra-colors-water)" />
              <text x={x(reset[end].outdoor)} y={H - 18} textAnchor="middle" fontSize="11.5" fill="var(--chakra-colors-ink2)">
                {units.text(reset[end].outdoor, "°C", 1)}
              </text>
              <text
                x={x(reset[end].outdoor) + (end === "cold" ? -6 : 6)}
                y={y(reset[end].value) - 8}
                textAnchor={end === "cold" ? "end" : "start"}
                fontSize="11.5"
                fill="var(--chakra-colors-ink)"
              >
                {units.words(reset[end].value, "°C", 1)}
              </text>
            </g>
          ))}
          <text x={(40 + W - 20) / 2} y={H - 3} textAnchor="middle" fontSize="11.5" fill="var(--chakra-colors-ink2)">
            outdoor temperature, {units.unit("°C")}
          </text>
        </svg>
      </Box>
    </Flex>
  );
}
