"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useRef, useState } from "react";
import {
  BLOCK_MISFIT,
  checkProject,
  facadePoints,
  flowShapeHash,
  flowStudyHash,
  flowStudySpec,
  formulaCoefficient,
  isTall,
  readFacadeCsv,
  setChange,
  stepsOf,
  studyCells,
  studyGrains,
  studyPressures,
  tableCoefficient,
  writeFacadeCsv,
  type AirNetworkInput,
  type AirPlan,
  type FacadePoint,
  type FlowDirection,
  type PressureTable,
  type Project,
  type StudyGrain,
} from "@arroyo/core";
import { ask } from "../../live/server.ts";
import { Act, firstMessage, SelectInput } from "../../ui/fields.tsx";
import { FileDrop } from "../../ui/FileDrop.tsx";
import { figure } from "../../ui/format.ts";
import { ProgressBar } from "../../ui/ProgressBar.tsx";
import { saveBlob } from "../../ui/saveCsv.ts";
import { Toggle } from "../../ui/Toggle.tsx";
import { Told } from "../../ui/Told.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { hostName } from "./names.ts";
import { rampColour } from "./sceneParts.ts";

/** A flow study as the server tells it. */
interface StudyView {
  readonly hash: string;
  readonly status: "queued" | "running" | "paused" | "done" | "cancelled" | "failed";
  readonly progress: number;
  readonly directions: number;
  readonly found: readonly FlowDirection[];
  readonly gridCheck: number | null;
  readonly error: string | null;
}
const POLL = 900;
const sources = ["formula", "table", "flow study"] as const;
const sourceWords = { formula: "Formula of blocks", table: "Table", "flow study": "Flow study" } as const;

/** Where the pressures of the wind come from, and what they are on each façade. */
export function WindPressures({ project, input, plan }: { project: Project; input: AirNetworkInput; plan: AirPlan }) {
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const [said, setSaid] = useState<string | null>(null);
  const { block } = plan.pressures;
  const { geometry } = checkProject(project);
  const points = useMemo(() => facadePoints(geometry), [geometry]);
  const take = (source: (typeof sources)[number]): void => {
    if (source === "table" && !input.table) return setSaid("Read a table first: save the one below, put your coefficients in, and drop it here.");
    if (source === "flow study" && !input.study) return setSaid("Run the flow study first, and take its coefficients.");
    setSaid(firstMessage(edit(`Wind pressures by ${sourceWords[source].toLowerCase()}`, [setChange(project, ["airNetwork", "pressures"], source)])));
  };
  const misfit = block.misfit > BLOCK_MISFIT;
  return (
    <Box>
      <Flex gap="1" align="center" mb="1">
        {sources.map((s) => (
          <Toggle key={s} on={input.pressures === s} onClick={() => take(s)}>
            {sourceWords[s]}
          </Toggle>
        ))}
        <Text color="ink2" fontSize="12px" ml="2">
          the year runs with the one chosen
        </Text>
      </Flex>
      {said && (
        <Text role="alert" color="clay" fontSize="12px">
          <Told text={said} />
        </Text>
      )}
      <Text fontSize="12px" color={misfit && input.pressures === "formula" ? "clay" : "ink2"} mb="1" maxW="720px">
        {isTall(block) ? "Tall block" : "Low block"}, {units.words(block.height, "m", 1)} high, {units.text(block.sides[0], "m", 1)} by{" "}
        {units.words(block.sides[1], "m", 1)}.{" "}
        {misfit
          ? `Its footprint leaves ${figure(100 * block.misfit, 0)} % of the rectangle around it free: the formula is for rectangular blocks. A flow study or a table fits its shape.`
          : "Its footprint is a rectangle: the formula holds."}
      </Text>
      <Flex gap="6" align="flex-start" flexWrap="wrap">
        <Study project={project} input={input} onSaid={setSaid} />
        <TableOfPoints project={project} input={input} points={points} plan={plan} onSaid={setSaid} />
      </Flex>
      <Facade project={project} input={input} plan={plan} points={points} />
    </Box>
  );
}

function TableOfPoints({
  project,
  input,
  points,
  plan,
  onSaid,
}: {
  project: Project;
  input: AirNetworkInput;
  points: readonly FacadePoint[];
  plan: AirPlan;
  onSaid: (text: string | null) => void;
}) {
  const edit = useStore((s) => s.edit);
  const { geometry } = checkProject(project);
  const save = (): void => {
    const known = input.pressures === "formula" ? null : input.pressures === "table" ? input.table : input.study;
    const directions = known?.directions ?? Array.from({ length: 12 }, (_, i) => 30 * i);
    const rows = new Map(known?.points.map((p, i) => [p.name, i]));
    const table = {
      reference: known?.reference ?? plan.pressures.block.height,
      directions,
      points: points.map((p) => {
        const row = rows.get(p.name);
        const azimuth = geometry.byKey.get(p.face)?.azimuth ?? 0;
        return {
          name: p.name,
          coefficients: directions.map((d) =>
            known && row !== undefined ? tableCoefficient(known, row, d) : formulaCoefficient(plan.pressures.block, p.normal, d - azimuth),
          ),
        };
      }),
    };
    saveBlob(`${project.name} wind pressures.csv`, new Blob([writeFacadeCsv(table)], { type: "text/csv" }));
  };
  const read = async (file: File): Promise<void> => {
    const answer = readFacadeCsv(await file.text());
    if (!answer.ok)
      return onSaid(
        answer.problems
          .slice(0, 3)
          .map((p) => `Line ${p.line}: ${p.message}`)
          .join(" "),
      );
    const { table } = answer;
    const names = new Set(points.map((p) => p.name));
    const strange = table.points.filter((p) => !names.has(p.name));
    if (strange.length === table.points.length)
      return onSaid(
        `No point of this table is one of the building's: it has "${strange[0].name}", the building "${points[0]?.name ?? ""}". Save the table of points first.`,
      );
    const value = {
      reference: table.reference,
      directions: [...table.directions],
      points: table.points.map((p) => ({ name: p.name, coefficients: [...p.coefficients] })),
      source: file.name,
    };
    onSaid(
      firstMessage(
        edit(`Wind pressures from ${file.name}`, [
          setChange(project, ["airNetwork", "table"], value),
          setChange(project, ["airNetwork", "pressures"], "table"),
        ]),
      ) ??
        (strange.length > 0 ? `${strange.length} points of the table are not the building's, such as "${strange[0].name}"; they are kept and not used.` : null),
    );
  };
  return (
    <Box flex="1" minW="250px">
      <Text fontWeight="600" fontSize="12.5px" mb="0.5">
        Table by façade point
      </Text>
      <FileDrop
        label="Table of wind pressures"
        words="Drop a CSV of coefficients here"
        choose="or choose one"
        file={null}
        share={null}
        take={(f) => void read(f)}
      >
        <Text fontSize="12px" color="ink2">
          {points.length} points, one row each, a column for each direction of the wind
        </Text>
      </FileDrop>
      <Act onClick={save}>Save the table of points as CSV</Act>
      {input.table && (
        <Text fontSize="12px" color="ink2">
          Kept: {input.table.source ?? "a table"}, {input.table.points.length} points, {input.table.directions.length} directions
        </Text>
      )}
    </Box>
  );
}

/** The flow study: started, watched, taken. */
function Study({ project, input, onSaid }: { project: Project; input: AirNetworkInput; onSaid: (text: string | null) => void }) {
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const [grain, setGrain] = useState<StudyGrain>("coarse");
  const [directions, setDirections] = useState(12);
  const [view, setView] = useState<StudyView | null>(null);
  const [shown, setShown] = useState(0);
  const { geometry } = checkProject(project);
  const spec = useMemo(() => flowStudySpec(project, geometry, grain, directions), [project, geometry, grain, directions]);
  const hash = useMemo(() => flowStudyHash(spec), [spec]);
  const cells = useMemo(() => studyCells(spec), [spec]);
  const stale = input.study !== undefined && input.study.shape !== flowShapeHash(spec);
  const mine = view?.hash === hash ? view : null;
  const busy = mine !== null && ["queued", "running", "paused"].includes(mine.status);
  useEffect(() => {
    let gone = false;
    const look = async (): Promise<void> => {
      const answer = await ask<StudyView>(`/api/flow/${hash}`);
      if (!gone && answer.ok) setView(answer.body);
    };
    void look();
    return () => {
      gone = true;
    };
  }, [hash]);
  useEffect(() => {
    if (!busy) return;
    const timer = setInterval(() => void ask<StudyView>(`/api/flow/${hash}`).then((a) => a.ok && setView(a.body)), POLL);
    return () => clearInterval(timer);
  }, [busy, hash]);
  const start = async (): Promise<void> => {
    const answer = await ask<StudyView>("/api/flow", { body: JSON.stringify(spec) });
    if (answer.ok) setView(answer.body);
    else onSaid(answer.message);
  };
  const turn = (to: string): void =>
    void ask<StudyView>(`/api/flow/${hash}?to=${to}`, { method: "POST" }).then((a) => (a.ok ? setView(a.body) : onSaid(a.message)));
  const take = (): void => {
    if (!mine) return;
    const value = studyPressures(spec, mine.found, mine.gridCheck);
    onSaid(
      firstMessage(
        edit("Wind pressures by flow study", [
          setChange(project, ["airNetwork", "study"], value),
          setChange(project, ["airNetwork", "pressures"], "flow study"),
        ]),
      ),
    );
  };
  const direction = mine && mine.found.length > 0 ? mine.found[Math.min(shown, mine.found.length - 1)] : null;
  return (
    <Box flex="1.3" minW="320px">
      <Text fontWeight="600" fontSize="12.5px" mb="0.5">
        Flow study
      </Text>
      <Flex gap="2" align="center" flexWrap="wrap" fontSize="12px">
        <SelectInput
          label="Grid of the study"
          width="130px"
          align="left"
          value={grain}
          options={studyGrains.map((g) => ({ value: g, label: g === "tiny" ? "first look" : g }))}
          onChange={(v) => setGrain(studyGrains.find((g) => g === v) ?? "coarse")}
        />
        <SelectInput
          label="Directions of the study"
          width="120px"
          align="left"
          value={String(directions)}
          options={[2, 4, 8, 12, 16].map((n) => ({ value: String(n), label: `${n} directions` }))}
          onChange={(v) => setDirections(Number(v))}
        />
        {!busy && mine?.status !== "done" && <Act onClick={() => void start()}>{mine?.status === "cancelled" ? "Go on with the study" : "Run the study"}</Act>}
        {mine?.status === "running" && <Act onClick={() => turn("pause")}>Pause</Act>}
        {mine?.status === "paused" && <Act onClick={() => turn("resume")}>Go on</Act>}
        {busy && <Act onClick={() => turn("cancel")}>Cancel</Act>}
        {mine?.status === "done" && <Act onClick={take}>Take its coefficients</Act>}
      </Flex>
      <Text fontSize="12px" color="ink2" data-testid="flow-study">
        {mine === null
          ? `Cells of ${units.words(spec.cell, "m", 2)}, ${figure(cells / 1000, 0)} thousand of them, ${stepsOf(spec)} steps a direction: a lattice Boltzmann large-eddy simulation around footprint, heights and neighbours, computed by the runner.`
          : mine.status === "done"
            ? `Done: ${mine.found.length} directions, cells of ${units.words(spec.cell, "m", 2)}${mine.gridCheck === null ? "" : `; against cells half as large again coefficients differ by ${figure(mine.gridCheck, 2)} on average`}.`
            : mine.status === "failed"
              ? `It failed: ${mine.error ?? ""}`
              : mine.status === "cancelled"
                ? `Cancelled; ${mine.found.length} directions are kept.`
                : `${mine.status === "paused" ? "Paused" : mine.status === "queued" ? "Waiting for a runner" : "Running"}: ${mine.found.length} of ${mine.directions} directions, ${figure(100 * mine.progress, 0)} %`}
      </Text>
      {busy && <ProgressBar label="Progress of the flow study" share={mine.progress} width="320px" />}
      {stale && (
        <Text fontSize="12px" color="clay">
          The study taken is of another form of the building; run it again.
        </Text>
      )}
      {direction && mine && (
        <>
          <Flex gap="2" align="center" fontSize="12px" mt="1">
            Wind from
            <SelectInput
              label="Direction shown"
              width="80px"
              align="left"
              value={String(Math.min(shown, mine.found.length - 1))}
              options={mine.found.map((f, i) => ({ value: String(i), label: `${figure(f.direction, 0)}°` }))}
              onChange={(v) => setShown(Number(v))}
            />
            speed at {units.words(direction.map.level, "m", 1)} over that at roof height
          </Flex>
          <SpeedMap of={direction} />
        </>
      )}
    </Box>
  );
}

/** Highest speed that has a colour of its own, over that at roof height. */
const FAST = 1.2;

/** Mean speed near the ground around the building; the wind comes from the left. */
function SpeedMap({ of }: { of: FlowDirection }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { nx, ny, speed } = of.map;
  useEffect(() => {
    const c = canvas.current?.getContext("2d");
    if (!c) return;
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++) {
        const v = speed[j * nx + i];
        c.fillStyle = v < 0 ? "#23262B" : rampColour(v / FAST);
        c.fillRect(i, ny - 1 - j, 1, 1);
      }
  }, [nx, ny, speed]);
  const width = Math.min(420, 6 * nx);
  return (
    <Flex align="center" gap="2">
      <canvas
        ref={canvas}
        width={nx}
        height={ny}
        role="img"
        aria-label={`Speed of the wind near the ground, from ${of.direction}°`}
        style={{ width, height: (width * ny) / nx, imageRendering: "pixelated", border: "1px solid var(--chakra-colors-line)" }}
      />
      <Text fontSize="11px" color="ink2">
        light: still
        <br />
        dark: {figure(FAST, 1)}
        <br />→ wind
      </Text>
    </Flex>
  );
}

/** Span of the colours of coefficients. */
const SPAN = [-1, 1] as const;
const coefficientColour = (v: number): string => rampColour((v - SPAN[0]) / (SPAN[1] - SPAN[0]));

/** Coefficients on one façade: by the formula, by what is at hand besides, and their difference. */
function Facade({ project, input, plan, points }: { project: Project; input: AirNetworkInput; plan: AirPlan; points: readonly FacadePoint[] }) {
  const { geometry } = checkProject(project);
  const hosts = [...new Set(points.filter((p) => geometry.byKey.get(p.face)?.wall).map((p) => p.host))];
  const [host, setHost] = useState<string | null>(null);
  const [direction, setDirection] = useState(180);
  const largest = [...hosts].sort((a, b) => count(points, b) - count(points, a))[0] as string | undefined;
  const now = host !== null && hosts.includes(host) ? host : largest;
  if (now === undefined) return null;
  const own = points.filter((p) => p.host === now);
  const face = geometry.byKey.get(own[0].face);
  const other: PressureTable | undefined = input.pressures === "table" ? input.table : (input.study ?? input.table);
  const rows = new Map(other?.points.map((p, i) => [p.name, i]));
  const formula = (p: FacadePoint): number => formulaCoefficient(plan.pressures.block, p.normal, direction - (face?.azimuth ?? 0));
  const given = (p: FacadePoint): number => {
    const row = rows.get(p.name);
    return other && row !== undefined ? tableCoefficient(other, row, direction) : NaN;
  };
  const mean = (of: (p: FacadePoint) => number): number => own.reduce((s, p) => s + of(p), 0) / own.length;
  return (
    <Box mt="2">
      <Flex gap="2" align="center" fontSize="12px" flexWrap="wrap">
        <Text fontWeight="600" fontSize="12.5px">
          On the façade
        </Text>
        <SelectInput
          label="Façade"
          width="220px"
          align="left"
          value={now}
          options={hosts.map((h) => ({ value: h, label: hostName(project, h) }))}
          onChange={setHost}
        />
        wind from
        <SelectInput
          label="Wind from"
          width="80px"
          align="left"
          value={String(direction)}
          options={Array.from({ length: 24 }, (_, i) => ({ value: String(15 * i), label: `${15 * i}°` }))}
          onChange={(v) => setDirection(Number(v))}
        />
        {other && (
          <Text color="ink2" data-testid="facade-difference">
            on average {figure(mean(formula), 2)} by the formula, {figure(mean(given), 2)} by the {input.pressures === "table" ? "table" : "flow study"},
            difference{" "}
            {figure(
              mean((p) => given(p) - formula(p)),
              2,
            )}
          </Text>
        )}
      </Flex>
      <Flex gap="5" mt="1" flexWrap="wrap">
        <Coefficients title="Formula" points={own} face={face?.wall ?? null} of={formula} />
        {other && <Coefficients title={input.pressures === "table" ? "Table" : "Flow study"} points={own} face={face?.wall ?? null} of={given} />}
        {other && <Coefficients title="Difference to the formula" points={own} face={face?.wall ?? null} of={(p) => given(p) - formula(p)} />}
      </Flex>
    </Box>
  );
}
const count = (points: readonly FacadePoint[], host: string): number => points.filter((p) => p.host === host).length;

function Coefficients({
  title,
  points,
  face,
  of,
}: {
  title: string;
  points: readonly FacadePoint[];
  face: {
    readonly start: readonly [number, number];
    readonly direction: readonly [number, number];
    readonly from: number;
    readonly to: number;
    readonly low: number;
    readonly high: number;
  } | null;
  of: (p: FacadePoint) => number;
}) {
  if (!face) return null;
  const scale = Math.min(230 / (face.to - face.from), 110 / (face.high - face.low));
  const along = (p: FacadePoint): number => (p.at[0] - face.start[0]) * face.direction[0] + (p.at[1] - face.start[1]) * face.direction[1] - face.from;
  const [w, h] = [(face.to - face.from) * scale, (face.high - face.low) * scale];
  return (
    <Box>
      <Text fontSize="11.5px" color="ink2">
        {title}
      </Text>
      <svg width={w + 2} height={h + 2} role="img" aria-label={`${title}: ${points.map((p) => figure(of(p), 2)).join(", ")}`}>
        {points.map((p) => {
          const v = of(p);
          const [x, y] = [(along(p) - p.width / 2) * scale + 1, h - (p.at[2] - face.low + p.height / 2) * scale + 1];
          return (
            <g key={p.name}>
              <rect
                x={x}
                y={y}
                width={p.width * scale}
                height={p.height * scale}
                fill={v === v ? coefficientColour(v) : "transparent"}
                stroke="var(--chakra-colors-line)"
              />
              {p.width * scale > 26 && p.height * scale > 12 && v === v && (
                <text x={x + (p.width * scale) / 2} y={y + (p.height * scale) / 2 + 4} fontSize="10.5" textAnchor="middle" fill={v < 0.25 ? "#fff" : "#23262B"}>
                  {figure(v, 2)}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </Box>
  );
}
