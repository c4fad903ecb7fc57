"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { pairFigures, signatureOf, type PairYear, type Project, type Signature } from "@arroyo/core";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { SelectInput } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { Dots } from "./Dots.tsx";
import { pairName, shownUnit } from "./shown.ts";
import type { Compared } from "./useLogged.ts";

/** Energy signature: days or months of a pair over the outdoor temperature, measured and modelled, each with its change-point line. */
export function SignatureDesk({ project, pair, compared }: { project: Project; pair: PairYear; compared: Compared }) {
  const units = useUnits();
  const [by, setBy] = useState<"day" | "month">("day");
  const { unit, factor } = shownUnit(pair.unit);
  const sumUnit = pair.kind === "sum" && unit === "kW" ? "kWh" : unit;
  const found = useMemo(() => {
    const f = pairFigures(pair, compared.hourOf);
    const of = by === "day" ? f.days : f.ofMonths;
    const outdoor = new Float64Array(of.hours.length);
    const count = new Int32Array(of.hours.length);
    const monthOf = compared.points.days.monthOfDay;
    compared.hourOf.forEach((h) => {
      const day = Math.floor(h / 24);
      const k = by === "day" ? day : monthOf[day];
      if (k >= outdoor.length) return;
      outdoor[k] += compared.weather.dryBulb[h];
      count[k]++;
    });
    // days with hours missing come to a whole one by their mean
    const whole = (values: Float64Array): Float64Array =>
      values.map((v, k) => {
        const hours = of.hours[k];
        const full = by === "day" ? 24 : count[k];
        return hours < 0.75 * full ? NaN : pair.kind === "sum" ? (v * factor * full) / hours : v * factor;
      });
    const t = outdoor.map((v, k) => (count[k] > 0 ? v / count[k] : NaN));
    const [measured, modelled] = [whole(of.measured), whole(of.modelled)];
    return { t, measured, modelled, lines: [signatureOf(measured, t), signatureOf(modelled, t)] as const };
  }, [pair, compared, by, factor]);
  const cloud = (key: string, colour: string, values: Float64Array, s: Signature) => {
    const temperatures = [...found.t].filter((v) => v === v);
    const [low, high] = [Math.min(...temperatures), Math.max(...temperatures)];
    const corners = [low, ...[s.heatingBelow, s.coolingAbove].filter((v) => v !== null), high];
    const at = (x: number): number =>
      s.base + s.heating * Math.max(0, (s.heatingBelow ?? -Infinity) - x) + s.cooling * Math.max(0, x - (s.coolingAbove ?? Infinity));
    const shown = (x: number, y: number): readonly [number, number] => [units.value(x, "°C"), units.value(y, sumUnit)];
    return {
      key,
      label: key,
      colour,
      points: [...found.t].flatMap((x, k) => (x === x && values[k] === values[k] ? [shown(x, values[k])] : [])),
      line: corners.map((x) => shown(x, at(x))),
    };
  };
  const row = (name: string, s: Signature) => ({
    key: name,
    cells: [
      name,
      units.text(s.base, sumUnit, 1),
      s.heatingBelow === null ? "—" : units.text(s.heatingBelow, "°C", 1),
      s.heatingBelow === null ? "—" : figure(s.heating, 2),
      s.coolingAbove === null ? "—" : units.text(s.coolingAbove, "°C", 1),
      s.coolingAbove === null ? "—" : figure(s.cooling, 2),
      figure(s.r2, 2),
      figure(s.cvrmse, 0),
    ],
  });
  return (
    <Box>
      <Flex align="baseline" gap="3">
        <Text as="h2" textStyle="title">
          Signature of {pairName(project, pair.pair)}
        </Text>
        <SelectInput
          label="Gathered by"
          align="left"
          width="90px"
          value={by}
          options={[
            { value: "day", label: "days" },
            { value: "month", label: "months" },
          ]}
          onChange={(v) => setBy(v as "day" | "month")}
        />
      </Flex>
      <ChartFrame
        title={pair.kind === "sum" ? "Over the outdoor temperature" : "Mean over the outdoor temperature"}
        unit={`${units.unit(sumUnit)} a ${by}; water: measured, clay: modelled`}
        csv={() => ["outdoor,measured,modelled", ...[...found.t].map((t, k) => `${t},${found.measured[k]},${found.modelled[k]}`)].join("\n")}
      >
        <Dots
          label="Measured and modelled over the outdoor temperature"
          height={290}
          x={`outdoor temperature, ${units.unit("°C")}`}
          y={`${units.unit(sumUnit)} a ${by}`}
          clouds={[cloud("measured", "#0E6B80", found.measured, found.lines[0]), cloud("modelled", "#B24E2B", found.modelled, found.lines[1])]}
        />
      </ChartFrame>
      <Grid
        label="Change-point lines"
        head={[
          { text: "", left: true },
          { text: "Base", unit: units.unit(sumUnit) },
          { text: "Heating below", unit: units.unit("°C") },
          { text: "rises by", unit: `${sumUnit}/K` },
          { text: "Cooling above", unit: units.unit("°C") },
          { text: "rises by", unit: `${sumUnit}/K` },
          { text: "R²" },
          { text: "CV(RMSE)", unit: "%" },
        ]}
        rows={[row("measured", found.lines[0]), row("modelled", found.lines[1])]}
      />
    </Box>
  );
}
