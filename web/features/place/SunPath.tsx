"use client";
import { Box, Text } from "@chakra-ui/react";
import { useMemo } from "react";
import { deriveSurroundings, SKYLINE, skylineHeight, sunVector, yearEpoch, type Project, type WeatherYear } from "@arroyo/core";
import { figure } from "../../ui/format.ts";
import { useStore } from "../store.ts";

const [W, H] = [720, 400];
/** Place of a direction from left to right: north at the edges, or south at the edges below the equator. */
const fromNorth = (azimuth: number): number => 30 + ((W - 50) * azimuth) / 360;
const fromSouth = (azimuth: number): number => fromNorth((azimuth + 180) % 360);
const y = (height: number): number => H - 40 - ((H - 60) * height) / 90;

/** What stands around, as seen from the middle of the building a little above the ground: blocks and trees, and the skyline far away. */
function seenAround(project: Project, x: (azimuth: number) => number, up: (height: number) => number, north: boolean): { around: string[]; skyline: string } {
  const corners = Object.values(project.spaces).flatMap((s) => (s.form.kind === "prism" ? s.form.outline : []));
  const mid = (of: (v: { x: number; y: number }) => number): number => (corners.length > 0 ? corners.reduce((t, v) => t + of(v), 0) / corners.length : 0);
  const [mx, my] = [mid((v) => v.x), mid((v) => v.y)];
  const around = deriveSurroundings(project).flatMap((plane) => {
    if (plane.record === SKYLINE) return [];
    const seen = plane.corners.map((c) => ({
      azimuth: ((Math.atan2(c[0] - mx, c[1] - my) * 180) / Math.PI + project.site.planNorth + 720) % 360,
      height: Math.max(0, (Math.atan2(c[2] - EYE, Math.hypot(c[0] - mx, c[1] - my)) * 180) / Math.PI),
    }));
    const places = seen.map((p) => x(p.azimuth));
    // one that goes around the edge of the picture would be drawn across it
    if (Math.max(...places) - Math.min(...places) > (W - 50) / 2) return [];
    return [`M${seen.map((p, i) => `${places[i].toFixed(1)} ${up(p.height).toFixed(1)}`).join("L")}Z`];
  });
  const { horizon } = project.site;
  if (!horizon) return { around, skyline: "" };
  const line = Array.from({ length: 145 }, (_, i) => {
    const azimuth = (Math.min(2.5 * i, 359.999) + (north ? 0 : 180)) % 360;
    return `${x(azimuth).toFixed(1)} ${up(skylineHeight(horizon, azimuth)).toFixed(1)}`;
  });
  return { around, skyline: `M30 ${up(0)}L${line.join("L")}L${W - 20} ${up(0)}Z` };
}

/** Height above the ground from which surroundings are seen, m. */
const EYE = 1.5;
const MONTH_DAYS = [355, 20, 51, 79, 110, 140, 171] as const;

/** Height of the sun by azimuth through the day, from midwinter to midsummer. */
export function SunPath({ w }: { w: WeatherYear }) {
  const project = useStore((s) => s.project) as Project;
  const { latitude, longitude, timeZone } = project.site;
  const north = latitude >= 0;
  const x = north ? fromNorth : fromSouth;
  const at = (hour: number): { azimuth: number; height: number } => {
    const [e, n, up] = sunVector(hour, latitude, longitude, timeZone, yearEpoch(w.year, w.dryBulb.length > 8760));
    return { azimuth: ((Math.atan2(e, n) * 180) / Math.PI + 360) % 360, height: (Math.asin(Math.max(-1, Math.min(1, up))) * 180) / Math.PI };
  };
  const curve = (day: number): string => {
    let path = "";
    let last = NaN;
    for (let k = 0; k <= 96; k++) {
      const p = at(24 * day + k / 4);
      if (p.height < 0) continue;
      path += `${path === "" || Math.abs(x(p.azimuth) - last) > 200 ? "M" : "L"}${x(p.azimuth).toFixed(1)} ${y(p.height).toFixed(1)}`;
      last = x(p.azimuth);
    }
    return path;
  };
  const { around, skyline } = useMemo(() => seenAround(project, north ? fromNorth : fromSouth, y, north), [project, north]);
  const names = [
    "21 December",
    "21 January, 21 November",
    "20 February, 23 October",
    "20 March, 22 September",
    "20 April, 23 August",
    "21 May, 23 July",
    "21 June",
  ];
  return (
    <Box>
      <Text textStyle="title">
        Path of the sun{" "}
        <Text as="span" color="ink2" fontWeight="400">
          height above the horizon by direction, {figure(Math.abs(latitude), 1)}° {north ? "north" : "south"}; dots at full hours of standard time
        </Text>
      </Text>
      <svg width={W} height={H} role="img" aria-label="Path of the sun by month">
        {[0, 15, 30, 45, 60, 75, 90].map((h) => (
          <g key={h}>
            <line x1="30" x2={W - 20} y1={y(h)} y2={y(h)} stroke="var(--chakra-colors-line)" />
            <text x="24" y={y(h) + 4} textAnchor="end" fontSize="11" fill="var(--chakra-colors-ink2)">
              {h}°
            </text>
          </g>
        ))}
        {["N", "NE", "E", "SE", "S", "SW", "W", "NW"].map((t, i) => (
          <text key={t} x={x(45 * i)} y={H - 22} textAnchor="middle" fontSize="11.5" fill="var(--chakra-colors-ink2)">
            {t}
          </text>
        ))}
        {around.map((d, i) => (
          <path key={i} d={d} fill="var(--chakra-colors-ink2)" opacity="0.25" stroke="none" />
        ))}
        {skyline !== "" && <path d={skyline} fill="var(--chakra-colors-ink2)" opacity="0.35" stroke="var(--chakra-colors-ink2)" />}
        {MONTH_DAYS.map((d, i) => (
          <g key={d}>
            <path
              d={curve(d - 1)}
              fill="none"
              stroke={i === 0 || i === 6 || i === 3 ? "var(--chakra-colors-water)" : "var(--chakra-colors-ink2)"}
              strokeWidth={i === 0 || i === 6 ? 2 : 1.1}
            >
              <title>{names[i]}</title>
            </path>
            {Array.from({ length: 24 }, (_, h) => at(24 * (d - 1) + h)).map((p, h) =>
              p.height > 0 ? <circle key={h} cx={x(p.azimuth)} cy={y(p.height)} r="2" fill="var(--chakra-colors-ink2)" /> : null,
            )}
          </g>
        ))}
      </svg>
      <Text color="ink2" fontSize="12px">
        Curves from {names[0]} below to {names[6]} above; the date shows on hover. In grey: the skyline, and blocks and trees as seen from the middle of the
        building.
      </Text>
    </Box>
  );
}
