"use client";
import { Box, Text } from "@chakra-ui/react";
import { signalName, signalSpan, type InputValue, type Project } from "@arroyo/core";
import { useStore } from "../store.ts";
import { useUnits } from "../../ui/units.ts";

type Field = "heatingSetpoint" | "heatingSetback" | "coolingSetpoint" | "coolingSetback" | "windowOpenAbove" | "windowIndoorMost";

/** Heating, opened windows and cooling on one line of temperature, and what would make them fight. */
export function SetpointLine({ read }: { read: (f: Field) => InputValue }) {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  // what follows a schedule or a reset is drawn to the middle of its year, and told with its span
  const span = (f: Field): { least: number; most: number; mean: number } | null => signalSpan(project, read(f));
  const at = (f: Field): number | null => span(f)?.mean ?? null;
  const told = (f: Field): string => {
    const s = span(f);
    if (!s) return "";
    if (s.most === s.least) return units.words(s.mean, "°C", 1);
    return `${units.text(s.least, "°C", 1)} to ${units.words(s.most, "°C", 1)}, ${signalName(project, read(f)) ?? ""}`;
  };
  const [heat, back, cool, coolBack, open, shut] = [
    at("heatingSetpoint"),
    at("heatingSetback"),
    at("coolingSetpoint"),
    at("coolingSetback"),
    at("windowOpenAbove"),
    at("windowIndoorMost"),
  ];
  const known = [heat, back, cool, coolBack, open, shut].filter((v): v is number => v !== null);
  const low = Math.min(10, ...known) - 2;
  const high = Math.max(34, ...known) + 2;
  const x = (t: number): number => (100 * (t - low)) / (high - low);
  const bars: { key: string; from: number; to: number; y: number; fill: string; label: string }[] = [];
  if (heat !== null) bars.push({ key: "heating", from: low, to: heat, y: 8, fill: "#B5533C", label: `heated to ${told("heatingSetpoint")}` });
  if (open !== null)
    bars.push({
      key: "open",
      from: open,
      to: Math.min(shut ?? high, cool ?? high),
      y: 26,
      fill: "#C4CBB0",
      label: `windows opened above ${units.words(open, "°C", 1)}`,
    });
  if (cool !== null) bars.push({ key: "cooling", from: cool, to: high, y: 44, fill: "#3B7EA1", label: `cooled to ${told("coolingSetpoint")}` });
  const fights = [
    heat !== null && open !== null && open < heat ? "The windows open while the space is still heated." : null,
    open !== null && cool !== null && open >= cool ? "The windows open only where the space is already cooled, so they stay closed." : null,
    heat !== null && cool !== null && cool <= heat ? "The space is cooled and heated at the same time." : null,
    open !== null && shut !== null && shut <= open ? "The windows are closed before they open." : null,
  ].filter((s): s is string => s !== null);
  const ticks = Array.from({ length: Math.floor((high - low) / 4) + 1 }, (_, i) => Math.ceil(low) + 4 * i).filter((t) => t <= high);
  return (
    <Box>
      <Text as="h2" textStyle="title">
        Set-points in use
      </Text>
      <Box
        position="relative"
        h="84px"
        maxW="720px"
        role="img"
        aria-label={[...bars.map((b) => b.label), ...fights].join("; ") || "neither heated nor cooled"}
        data-testid="setpoint-line"
      >
        {ticks.map((t) => (
          <Box key={t} position="absolute" top="4px" h="60px" borderLeft="1px solid" borderColor="line" style={{ left: `${x(t)}%` }}>
            <Text position="absolute" top="60px" left="-8px" fontSize="10.5px" color="ink2">
              {units.text(t, "°C", 0)}
            </Text>
          </Box>
        ))}
        {bars.map((b) => (
          <Box
            key={b.key}
            position="absolute"
            h="14px"
            style={{
              top: b.y,
              left: `${x(b.from)}%`,
              width: `${Math.max(0.6, x(Math.max(b.from, b.to)) - x(b.from))}%`,
              background: b.key === "heating" ? `repeating-linear-gradient(135deg, ${b.fill} 0 3px, transparent 3px 5px)` : b.fill,
              opacity: 0.85,
            }}
          />
        ))}
        {bars.map((b) => (
          <Text
            key={b.key}
            position="absolute"
            fontSize="11.5px"
            style={b.key === "heating" ? { top: b.y - 1, left: `calc(${x(b.to)}% + 6px)` } : { top: b.y - 1, right: `calc(${100 - x(b.from)}% + 6px)` }}
          >
            {b.label}
          </Text>
        ))}
      </Box>
      {heat === null && <Text color="ink2">Not heated{back === null ? "" : `; out of hours to ${units.words(back, "°C", 1)}`}.</Text>}
      {cool === null && <Text color="ink2">Not cooled{coolBack === null ? "" : `; out of hours to ${units.words(coolBack, "°C", 1)}`}.</Text>}
      {fights.map((f) => (
        <Text key={f} color="clay" role="status">
          {f}
        </Text>
      ))}
    </Box>
  );
}
