"use client";
import { Box, Flex } from "@chakra-ui/react";
import type { Summary } from "@arroyo/core";
import { EndUseStrip } from "../../ui/EndUseStrip.tsx";
import { figure, stampText, unitOf } from "../../ui/format.ts";
import { Figure } from "../../ui/Tally.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import type { ComplianceStage } from "../../live/compliance.ts";

/** Headline figures of the reference building, above those of the design. */
export function ReferenceTally({ summary, stage, current }: { summary: Summary | null; stage: ComplianceStage | null; current: boolean }) {
  const units = useUnits();
  const currency = useStore((s) => s.project?.prices.currency ?? "");
  const approx = stage === "estimate" ? "≈ " : "";
  const stale = !current;
  return (
    <Box borderTop="1px dashed" borderColor="line" background="paper" flexShrink={0} role="region" aria-label="Tally of the reference building">
      <Flex align="center" gap="5" px="4" h="66px">
        <Figure
          id="reference-intensity"
          stale={stale}
          value={`${approx}${units.text(summary?.energy.intensity ?? summary?.energy.perFloorArea, "kWh/m²a", 1)}`}
          unit={units.unit(unitOf("kWh/m²a", summary))}
          below={stage === "estimate" ? "reference, by the hour" : summary === null ? "reference, no year yet" : "reference building"}
        />
        <EndUseStrip summary={summary} faded={stale} />
        <Figure
          stale={stale}
          value={units.text(summary ? summary.peaks.heating.power / 1000 : null, "kW", 1)}
          unit={`${units.unit("kW")} heating`}
          below={summary ? stampText(summary.peaks.heating.at) : "—"}
        />
        <Figure
          stale={stale}
          value={units.text(summary ? summary.peaks.cooling.power / 1000 : null, "kW", 1)}
          unit={`${units.unit("kW")} cooling`}
          below={summary ? stampText(summary.peaks.cooling.at) : "—"}
        />
        <Figure stale={stale} value={figure(summary?.unmetHours, 0)} unit="h unmet" below="in use or occupied" />
        <Figure
          stale={stale}
          value={summary ? figure(summary.energy.cost / 1000) : "—"}
          unit={unitOf(`k${currency}/a`, summary)}
          below={`${summary ? figure(summary.energy.carbon / 1000) : "—"} t CO₂e`}
        />
        {/* as wide as the pins of the design's own Tally, so that figures stand above each other */}
        <Box w="98px" flexShrink={0} ml="auto" />
      </Flex>
    </Box>
  );
}
