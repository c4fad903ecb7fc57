"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { byClass, causesOf, dayKinds, pointUnit, residualsOf, WEEKDAY_NAMES, type PairYear, type Project } from "@arroyo/core";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { ClassBars } from "./ClassBars.tsx";
import { pairName, shownUnit } from "./shown.ts";
import type { Compared } from "./useLogged.ts";

interface Cause {
  readonly key: string;
  readonly name: string;
  readonly told: number;
  readonly labels: readonly string[];
  readonly mean: ArrayLike<number>;
  readonly count: ArrayLike<number>;
}

/** What explains the residuals of a pair: by hour, weekday, weather, and every other point, the one that tells most first. */
export function CausesDesk({ project, pair, compared }: { project: Project; pair: PairYear; compared: Compared }) {
  const units = useUnits();
  const [chosen, setChosen] = useState<string | null>(null);
  const { unit, factor } = shownUnit(pair.unit);
  const causes = useMemo(() => found(project, pair, compared), [project, pair, compared]);
  const shown = causes.find((c) => c.key === chosen) ?? causes[0];
  const residual = unit === "°C" ? "K" : unit;
  const factorOf = factor * (units.system === "SI" ? 1 : Math.abs(units.value(1, residual) - units.value(0, residual)));
  const always = causes.filter((c) => ["hour", "weekday", "dryBulb"].includes(c.key));
  return (
    <Box>
      <Text as="h2" textStyle="title">
        What explains {pairName(project, pair.pair)}
      </Text>
      <Text color="ink2" mb="2" maxW="760px">
        The residual, modelled less measured, gathered by classes of something else. The share told is that of its spread which lies between the classes: a
        series that drives the error tells much of it.
      </Text>
      <Flex gap="5" align="flex-start" wrap="wrap">
        <Box flex="1 1 270px" minW="0">
          <Grid
            label="What explains the residual"
            head={[
              { text: "Against", left: true },
              { text: "Told", unit: "%" },
              { text: "From", unit: units.unit(residual) },
              { text: "to", unit: units.unit(residual) },
            ]}
            rows={causes.slice(0, 16).map((c) => {
              const means = Array.from(c.mean).filter((v, i) => v === v && c.count[i] >= 12);
              return {
                key: c.key,
                active: c.key === shown?.key,
                onClick: () => setChosen(c.key),
                cells: [
                  c.name,
                  figure(100 * c.told, 1),
                  means.length > 0 ? units.difference(Math.min(...means) * factor, residual, 1) : "—",
                  means.length > 0 ? units.difference(Math.max(...means) * factor, residual, 1) : "—",
                ],
              };
            })}
          />
        </Box>
        <Box flex="1 1 400px" minW="0">
          {shown && (
            <ClassBars
              title={`Against ${shown.name}`}
              unit={units.unit(residual)}
              labels={shown.labels}
              mean={Array.from(shown.mean, (v) => v * factorOf)}
              count={shown.count}
            />
          )}
          <Flex gap="3" wrap="wrap">
            {always
              .filter((c) => c.key !== shown?.key)
              .map((c) => (
                <Box key={c.key} flex="1 1 200px" minW="0">
                  <ClassBars
                    title={`Against ${c.name}`}
                    unit={units.unit(residual)}
                    labels={c.labels}
                    mean={Array.from(c.mean, (v) => v * factorOf)}
                    count={c.count}
                    small
                  />
                </Box>
              ))}
          </Flex>
        </Box>
      </Flex>
    </Box>
  );
}

/** Everything the residual is gathered by, the one that tells most first. */
function found(project: Project, pair: PairYear, { hourOf, weather, points, table }: Compared): Cause[] {
  const residual = residualsOf(pair);
  const kinds = dayKinds(project.calendar, 0, points.days);
  const hour = byClass(
    residual,
    Array.from(hourOf, (h) => h % 24),
    24,
  );
  const weekday = byClass(
    residual,
    Array.from(hourOf, (h) => kinds[Math.floor(h / 24)]),
    8,
  );
  const fixed: Cause[] = [
    { key: "hour", name: "hour of the day", ...hour, labels: Array.from({ length: 24 }, (_, h) => String(h)) },
    { key: "weekday", name: "weekday", ...weekday, labels: [...WEEKDAY_NAMES.map((n) => n.slice(0, 2)), "holiday"] },
  ];
  const series: Record<string, ArrayLike<number>> = {
    dryBulb: Float64Array.from(hourOf, (h) => weather.dryBulb[h]),
    wind: Float64Array.from(hourOf, (h) => weather.windSpeed[h]),
    sun: Float64Array.from(hourOf, (h) => weather.globalHorizontal[h]),
  };
  const names: Record<string, string> = { dryBulb: "outdoor temperature, °C", wind: "wind speed, m/s", sun: "global sun, W/m²" };
  for (const [id, p] of Object.entries(project.points ?? {})) {
    if (id === pair.pair.point) continue;
    const values = points.of(id)?.values;
    if (!values) continue;
    series[`point ${id}`] = Float64Array.from(hourOf, (h) => values[h]);
    names[`point ${id}`] = `${p.name}${pointUnit(p) === "1" ? "" : `, ${pointUnit(p)}`}`;
  }
  // what the model does in the same room or component
  const { of, id } = pair.pair.series;
  if (of === "zone")
    for (const [quantity, words] of [
      ["heating", "heat given to the room, W"],
      ["cooling", "heat taken from the room, W"],
      ["sun", "sun into the room, W"],
    ] as const) {
      const values = (table.series[quantity] as Record<string, ArrayLike<number>> | undefined)?.[id];
      if (!values) continue;
      series[`model ${quantity}`] = values;
      names[`model ${quantity}`] = `modelled ${words}`;
    }
  const rest = causesOf(residual, series).map((c): Cause => ({
    key: c.name,
    name: names[c.name],
    told: c.told,
    mean: c.by.mean,
    count: c.by.count,
    labels: Array.from({ length: c.by.mean.length }, (_, k) => figure((c.edges[k] + c.edges[k + 1]) / 2, Math.abs(c.edges[1] - c.edges[0]) < 2 ? 1 : 0)),
  }));
  return [...fixed, ...rest].sort((a, b) => b.told - a.told);
}
