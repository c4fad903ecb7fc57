"use client";
import { Box, Text } from "@chakra-ui/react";
import { AT_REST, coverageOf, maskOf, momentText, pointUnit, STUCK_HOURS, stuckRuns, type LoggedReadings, type PointYears, type Project } from "@arroyo/core";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { Coverage } from "./Coverage.tsx";
import { rightReadings } from "./useLogged.ts";

/** Every point: its unit, what is there of it over the year, and what it is used for. */
export function PointsDesk({
  project,
  logged,
  at,
  chosen,
  choose,
}: {
  project: Project;
  logged: LoggedReadings | null;
  at: { readonly points: PointYears } | null;
  chosen: string | null;
  choose: (id: string) => void;
}) {
  const points = Object.entries(project.points ?? {});
  return (
    <Box>
      <Text color="ink2" mb="2">
        {points.length} points. What is there of each stands on the time line in water colour; hours that mean nothing, by its masks, in clay.
      </Text>
      <Grid
        label="Points"
        head={[
          { text: "Point", left: true },
          { text: "Unit", left: true },
          { text: "From", left: true },
          { text: "to", left: true },
          { text: "There" },
          { text: "Over the year", left: true },
          { text: "Used", left: true },
        ]}
        rows={points.map(([id, p]) => {
          const r = rightReadings(project, logged, id);
          const year = at?.points.of(id)?.values ?? null;
          const drives = Object.values(project.drives ?? {}).filter((d) => d.point === id).length;
          const pairs = (project.pairs ?? []).filter((x) => x.point === id).length;
          const mask = year && at ? maskOf(p, year.length, (k) => at.points.of(k)?.values ?? null).mask : undefined;
          const still =
            r && p.kind === undefined
              ? stuckRuns(r.values, Math.ceil((STUCK_HOURS * 60) / r.interval), AT_REST).reduce((n, s) => n + ((s.to - s.from) * r.interval) / 60, 0)
              : 0;
          return {
            key: id,
            active: chosen === id,
            onClick: () => choose(id),
            cells: [
              <Text key="n" as="span" fontWeight={chosen === id ? "600" : "400"}>
                {p.name}
              </Text>,
              pointUnit(p) === "1" ? "" : pointUnit(p),
              r ? momentText(r.start).slice(0, 10) : "",
              r ? momentText(r.start + r.interval * r.values.length - 1).slice(0, 10) : "",
              r ? `${figure(100 * coverageOf(r.values), 1)} %` : logged ? "not at hand" : "…",
              <Box key="c" w="240px">
                {year && <Coverage values={year} masked={mask} label={`${p.name} over the year`} />}
              </Box>,
              <Text key="u" as="span" color="ink2" fontSize="12px" whiteSpace="nowrap">
                {[drives > 0 ? "drives" : "", pairs > 0 ? "compared" : ""].filter(Boolean).join(", ")}
                {still > 0 && (
                  <Text as="span" color="clay">
                    {drives + pairs > 0 ? " · " : ""}stands still {figure(still, 0)} h
                  </Text>
                )}
              </Text>,
            ],
          };
        })}
      />
    </Box>
  );
}
