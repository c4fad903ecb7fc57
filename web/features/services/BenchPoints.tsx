"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { MONTH_NAMES, pointUnit, turnedTo, unitOfText, type Bench as BenchThing, type LoggedPoint, type Project } from "@arroyo/core";
import { SelectInput } from "../../ui/fields.tsx";
import { usePointYears, useReadings } from "../measured/useLogged.ts";
import { useStore } from "../store.ts";
import type { Log } from "./BenchCurve.tsx";

const fits = (point: LoggedPoint, unit: string): boolean => {
  const [a, b] = [unitOfText(pointUnit(point)), unitOfText(unit)];
  return a !== null && b !== null && a.dimension.every((d, i) => d === b.dimension[i]);
};

/** Logged points as what goes in: a point for each input that is to follow one, over a month; and one that is shown beside what comes out. */
export function LogPoints({ bench, log, onLog }: { bench: BenchThing; log: Log | null; onLog: (log: Log) => void }) {
  const project = useStore((s) => s.project) as Project;
  const logged = useReadings(project);
  const at = usePointYears(project, logged);
  const [chosen, setChosen] = useState<Readonly<Record<string, string>>>({});
  const [month, setMonth] = useState(0);
  const [beside, setBeside] = useState("");
  const points = useMemo(() => Object.entries(project.points ?? {}), [project.points]);
  const none = { value: "", label: "as set below" };
  const make = (next: Readonly<Record<string, string>>, m: number, shown: string): void => {
    setChosen(next);
    setMonth(m);
    setBeside(shown);
    if (!at) return;
    const { days } = at.points;
    const columns = Object.entries(next).flatMap(([input, id]) => {
      const i = bench.inputs.find((x) => x.name === input);
      const point = project.points?.[id];
      const values = i && point ? turnedTo(at.points.of(id)?.values ?? [], pointUnit(point), i.unit) : null;
      return i && values ? [{ input: i, values }] : [];
    });
    if (columns.length === 0) return;
    const other = shown === "" ? null : (at.points.of(shown)?.values ?? null);
    const rows: Record<string, number>[] = [];
    const measured: number[] = [];
    let beyond = 0;
    for (let h = 24 * days.monthStart[m]; h < 24 * days.monthStart[m + 1]; h++) {
      if (columns.some((c) => c.values[h] !== c.values[h])) continue;
      const row: Record<string, number> = {};
      for (const { input, values } of columns) {
        if (values[h] < input.min || values[h] > input.max) beyond++;
        row[input.name] = Math.max(input.min, Math.min(input.max, values[h]));
      }
      rows.push(row);
      measured.push(other ? other[h] : NaN);
    }
    if (rows.length === 0) return;
    const point = project.points?.[shown];
    onLog({
      name: MONTH_NAMES[m],
      rows,
      at: Math.min(log?.at ?? 0, rows.length - 1),
      taken: columns.map((c) => c.input.name),
      beyond,
      ...(other && point ? { beside: { name: point.name, unit: pointUnit(point), values: measured } } : {}),
    });
  };
  if (points.length === 0) return <Text color="ink2">No point is brought in yet: Measured reads trend data.</Text>;
  return (
    <Box py="1" fontSize="12.5px">
      <Flex gap="2" align="baseline">
        <Text color="ink2" w="130px">
          in
        </Text>
        <SelectInput
          label="Month of the log"
          align="left"
          width="120px"
          value={String(month)}
          options={MONTH_NAMES.map((label, i) => ({ value: String(i), label }))}
          onChange={(v) => make(chosen, Number(v), beside)}
        />
      </Flex>
      {bench.inputs.map((i) => {
        const able = points.filter(([, p]) => fits(p, i.unit));
        return able.length === 0 ? null : (
          <Flex key={i.name} gap="2" align="baseline">
            <Text color="ink2" w="130px">
              {i.words}
            </Text>
            <SelectInput
              label={`Point for ${i.words}`}
              align="left"
              width="190px"
              value={chosen[i.name] ?? ""}
              options={[none, ...able.map(([id, p]) => ({ value: id, label: p.name }))]}
              onChange={(id) => make(Object.fromEntries(Object.entries({ ...chosen, [i.name]: id }).filter(([, v]) => v !== "")), month, beside)}
            />
          </Flex>
        );
      })}
      <Flex gap="2" align="baseline">
        <Text color="ink2" w="130px">
          shown beside it
        </Text>
        <SelectInput
          label="Point shown beside"
          align="left"
          width="190px"
          value={beside}
          options={[{ value: "", label: "nothing" }, ...points.map(([id, p]) => ({ value: id, label: p.name }))]}
          onChange={(id) => make(chosen, month, id)}
        />
      </Flex>
      {log && (
        <Text color="ink2" fontSize="11.5px">
          {log.name}: {log.rows.length} hours{log.beyond > 0 ? `; ${log.beyond} values lie beyond the range of their slider, whose end is taken` : ""}
        </Text>
      )}
    </Box>
  );
}
