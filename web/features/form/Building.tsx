"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import dynamic from "next/dynamic";
import { useMemo, useRef, useState } from "react";
import { checkProject, cos, DEG, sin, sunVector, type Face, type Project, type Vector } from "@arroyo/core";
import { Act } from "../../ui/fields.tsx";
import { monthNames } from "../../ui/format.ts";
import type { SceneArrow } from "../airflow/arrows.ts";
import { useStore } from "../store.ts";
import { shownBy, useForm, type ShownBy } from "./formStore.ts";
import { saveDayFilm, saveDayPicture, savePicture } from "./dayFilm.ts";
import { classOf, classTint, faultyPlaces } from "./sceneParts.ts";
import { saveGbxml } from "./saveGbxml.ts";
import type { FloorArea, Paint } from "./Scene.tsx";

const Scene = dynamic(() => import("./Scene.tsx").then((m) => m.Scene), { ssr: false, loading: () => <Box h="100%" aria-busy="true" /> });

const MIDDLES = [17, 47, 75, 105, 135, 162, 198, 228, 258, 288, 318, 344];

/** Direction toward the sun in plan coordinates on a day at an hour of local standard time; null below the horizon. */
export function sunInPlan(project: Project, day: number, hour: number): Vector | null {
  const { latitude, longitude, timeZone, planNorth } = project.site;
  const [e, n, u] = sunVector(day * 24 + hour, latitude, longitude, timeZone);
  if (u <= 0.01) return null;
  const [c, s] = [cos(planNorth * DEG), sin(planNorth * DEG)];
  return [e * c - n * s, e * s + n * c, u];
}

const select = { "& option": { background: "var(--chakra-colors-sheet)", color: "var(--chakra-colors-ink)" } };

/** The building view with what it is shown by, section, hide and isolate, sun and its film. */
export function Building({
  project,
  storey,
  compact = false,
  paint,
  driven = false,
  words,
  floors,
  arrows,
}: {
  project: Project;
  storey: string;
  compact?: boolean;
  paint?: Paint;
  /** Somebody else moves the sun. */
  driven?: boolean;
  /** What is told of a face besides what it is. */
  words?: (face: Face) => string | null;
  /** Areas drawn on floors, seen where the building is cut. */
  floors?: readonly FloorArea[];
  /** Arrows and rings over it. */
  arrows?: readonly SceneArrow[];
}) {
  const { shown, cut, hidden, sun } = useForm();
  const set = useForm((s) => s.set);
  const selection = useStore((s) => s.selection);
  const pick = useStore((s) => s.select);
  const [told, setTold] = useState<string | null>(null);
  const [film, setFilm] = useState<number | null>(null);
  const canvas = useRef<HTMLCanvasElement | null>(null);
  const checked = checkProject(project);
  const light = sun ? sunInPlan(project, sun.day, sun.hour) : null;
  const spaces = selection.filter((s) => s.kind === "space" && project.spaces[s.id]).map((s) => s.id);
  const legend = useMemo(() => {
    if (paint || shown === "contact" || shown === "problem") return [];
    const faulty = faultyPlaces(project, checked);
    return [...new Set(checked.geometry.faces.flatMap((f) => (f.contact === "space" ? [] : (classOf(project, checked, shown, f, faulty) ?? []))))].sort();
  }, [project, checked, shown, paint]);
  const onPick = (f: Face, e: { shiftKey: boolean }): void => {
    const now = { kind: "space" as const, id: f.space };
    // a second click on a chosen space goes on to its side
    if (!e.shiftKey && spaces.length === 1 && spaces[0] === f.space) return pick([{ kind: "wall", id: f.host }]);
    const has = spaces.includes(f.space);
    pick(e.shiftKey ? (has ? selection.filter((s) => s.id !== f.space) : [...selection.filter((s) => s.kind === "space"), now]) : [now]);
  };
  const step = async (hour: number): Promise<void> => {
    set({ sun: { day: sun?.day ?? MIDDLES[5], hour } });
    await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
  };
  const sweep = async (kind: "film" | "picture"): Promise<void> => {
    if (!canvas.current) return;
    const day = sun?.day ?? MIDDLES[5];
    const before = sun;
    const hours = Array.from({ length: 96 }, (_, i) => i / 4).filter((h) => sunInPlan(project, day, h) !== null);
    setFilm(0);
    try {
      const sweep = { canvas: canvas.current, hours, show: step, progress: setFilm, name: `${project.name} sun ${monthNames[MIDDLES.indexOf(day)] ?? ""}` };
      await (kind === "film" ? saveDayFilm(sweep) : saveDayPicture(sweep));
    } finally {
      setFilm(null);
      set({ sun: before });
    }
  };
  return (
    <Box position="absolute" inset="0">
      <Scene
        project={project}
        upTo={cut ? storey : null}
        onPick={onPick}
        sun={light}
        onTell={setTold}
        canvas={(c) => (canvas.current = c)}
        {...(paint ? { paint } : {})}
        {...(words ? { words } : {})}
        {...(floors ? { floors } : {})}
        {...(arrows ? { arrows } : {})}
      />
      <Flex position="absolute" left="3" top="2" right="3" gap="2.5" align="center" flexWrap="wrap" fontSize="12px" rowGap="0">
        <Text fontWeight="600" fontSize="13px">
          Building
        </Text>
        {!paint && (
          <chakra.label color="ink2" display="flex" gap="1">
            by
            <chakra.select
              aria-label="Shown by"
              value={shown}
              background="transparent"
              color="ink"
              css={select}
              onChange={(e) => set({ shown: shownBy.find((s): s is ShownBy => s === e.target.value) ?? "contact" })}
            >
              {shownBy.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </chakra.select>
          </chakra.label>
        )}
        <Act onClick={() => set({ cut: !cut })}>{cut ? "show every storey" : "cut above this storey"}</Act>
        {selection.length > 0 && <Act onClick={() => set({ focus: useForm.getState().focus + 1 })}>zoom to it</Act>}
        {spaces.length > 0 && <Act onClick={() => set({ hidden: new Set([...hidden, ...spaces]) })}>hide</Act>}
        {spaces.length > 0 && <Act onClick={() => set({ hidden: new Set(Object.keys(project.spaces).filter((id) => !spaces.includes(id))) })}>only this</Act>}
        {hidden.size > 0 && <Act onClick={() => set({ hidden: new Set() })}>show all</Act>}
        {!compact && <Act onClick={() => canvas.current && void savePicture(canvas.current, project.name)}>save picture</Act>}
        {!compact && <Act onClick={() => void saveGbxml(project).then((m) => setTold(m))}>gbXML</Act>}
      </Flex>
      <Box position="absolute" left="3" bottom="2" fontSize="12px" color="ink2" maxW="90%">
        {legend.length > 0 && (
          <Box mb="1" maxH="200px" overflowY="auto">
            {legend.map((name, i) => (
              <Flex key={name} align="center" gap="1.5">
                <Box w="11px" h="11px" border="1px solid" borderColor="line" style={{ background: classTint[i % classTint.length] }} />
                {name}
              </Flex>
            ))}
          </Box>
        )}
        <Text pointerEvents="none">{paint ? told : (told ?? "plain outdoors · dotted ground · hatched neighbour · dashed edge set by hand")}</Text>
        <Flex gap="2" align="center" mt="0.5" color="ink2">
          {driven ? null : sun === null ? (
            <Act onClick={() => set({ sun: { day: MIDDLES[5], hour: 12 } })}>sun and shadows</Act>
          ) : (
            <>
              <chakra.select
                aria-label="Day of the sun"
                value={sun.day}
                background="transparent"
                css={select}
                onChange={(e) => set({ sun: { ...sun, day: Number(e.target.value) } })}
              >
                {MIDDLES.map((d, i) => (
                  <option key={d} value={d}>
                    mid {monthNames[i]}
                  </option>
                ))}
              </chakra.select>
              <input
                type="range"
                aria-label="Hour of the sun"
                min={0}
                max={23.75}
                step={0.25}
                value={sun.hour}
                style={{ width: compact ? 90 : 180 }}
                onChange={(e) => set({ sun: { ...sun, hour: Number(e.target.value) } })}
              />
              <Text w="46px">
                {String(Math.floor(sun.hour)).padStart(2, "0")}:{String(Math.round((sun.hour % 1) * 60)).padStart(2, "0")}
              </Text>
              {light === null && <Text>the sun is down</Text>}
              {!compact && film === null && <Act onClick={() => void sweep("film")}>save the day as a film</Act>}
              {!compact && film === null && <Act onClick={() => void sweep("picture")}>as a picture</Act>}
              {film !== null && <Text>{Math.round(100 * film)} %</Text>}
              <Act onClick={() => set({ sun: null })}>even light</Act>
            </>
          )}
        </Flex>
      </Box>
    </Box>
  );
}
