"use client";
import { Text } from "@chakra-ui/react";
import { saturationByIso, stations, surfaceResistances, throughSection, vapourExcess, type Assembly, type HumidityClass, type Project } from "@arroyo/core";
import { monthNames } from "../../ui/format.ts";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

const layerTint = ["#D8CBB4", "#EFE6D2", "#C7CDC2", "#E3D2C6", "#D3D9DC", "#E6E0EA"];
/** Temperature of rooms at which the section is drawn, °C. */
const INDOORS = 20;
const [LEFT, TOP, HEIGHT, WIDTH] = [70, 10, 112, 520];

/** The build-up drawn to scale, outside left, with temperature and dew point through it in the coldest month. */
export function Section({ assembly, project, humidity }: { assembly: Assembly; project: Project; humidity: HumidityClass }) {
  const units = useUnits();
  const monthly = useStore((s) => s.live.weather?.monthly ?? null);
  if (assembly.rated)
    return (
      <Text color="ink2" my="2">
        Known by its U and a class of mass alone. Add a layer to build it up; its U then follows from the layers.
      </Text>
    );
  const thickness = (l: Assembly["layers"][number]): number => (l.kind === "circuit" ? 0 : (l.thickness ?? 0.03));
  const total = assembly.layers.reduce((s, l) => s + thickness(l), 0);
  const widths = assembly.layers.map((l) => (l.kind === "circuit" ? 3 : Math.max(6, (WIDTH * thickness(l)) / Math.max(total, 0.2))));
  const starts = widths.map((_, i) => widths.slice(0, i).reduce((a, b) => a + b, LEFT));
  const end = widths.reduce((a, b) => a + b, LEFT);
  /** Place on the drawing of a depth from outside, m: thin layers are drawn wider than they are. */
  const place = (depth: number): number => {
    let rest = depth;
    for (const [i, l] of assembly.layers.entries()) {
      const t = l.kind === "circuit" ? 0 : (l.thickness ?? 0);
      if (rest <= t + 1e-12 && t > 0) return starts[i] + (widths[i] * rest) / t;
      rest -= t;
    }
    return end;
  };
  const [rse, rsi] = surfaceResistances(assembly.use);
  const outer = rse === 0.04;
  const month = monthly ? monthly.meanDryBulb.indexOf(Math.min(...monthly.meanDryBulb)) : -1;
  const places = stations(project, assembly);
  const line = (() => {
    if (!monthly || month < 0 || !outer || !places.ok) return null;
    const outdoors = monthly.meanDryBulb[month];
    const outdoorPressure = (monthly.relativeHumidity[month] / 100) * saturationByIso(outdoors);
    const indoorPressure = Math.min(outdoorPressure + vapourExcess(humidity, outdoors), saturationByIso(INDOORS));
    const points = throughSection(places.list, rsi, { outdoors, indoors: INDOORS, outdoorPressure, indoorPressure });
    const low = Math.min(outdoors, ...points.map((p) => p.dewPoint));
    const y = (t: number): number => TOP + HEIGHT - 6 - ((HEIGHT - 12) * (t - low)) / (INDOORS - low);
    const at = (of: (p: (typeof points)[number]) => number): string => points.map((p) => `${place(p.depth).toFixed(1)},${y(of(p)).toFixed(1)}`).join(" ");
    return {
      outdoors,
      temperature: `${LEFT - 26},${y(outdoors).toFixed(1)} ${at((p) => p.temperature)} ${end + 26},${y(INDOORS).toFixed(1)}`,
      dewPoint: at((p) => p.dewPoint),
      outside: y(outdoors),
      inside: y(INDOORS),
    };
  })();
  return (
    <>
      <svg viewBox="0 0 700 146" width="100%" height="138" role="img" aria-label={`Build-up of ${assembly.name}, outside left`} fontFamily="IBM Plex Sans">
        <text x={LEFT - 30} y={line ? 140 : 72} textAnchor="end" fontSize="12" fill="var(--chakra-colors-ink2)">
          outside
        </text>
        <text x={end + 10} y={line ? 140 : 72} fontSize="12" fill="var(--chakra-colors-ink2)">
          inside
        </text>
        {assembly.layers.map((l, i) => (
          <g key={l.id}>
            <rect
              x={starts[i]}
              y={TOP}
              width={widths[i]}
              height={HEIGHT}
              fill={
                l.kind === "circuit" ? "var(--chakra-colors-clay)" : l.kind === "resistance" ? "var(--chakra-colors-sheet)" : layerTint[i % layerTint.length]
              }
              stroke="var(--chakra-colors-ink)"
              strokeWidth="0.8"
              strokeDasharray={l.kind === "resistance" ? "3 3" : undefined}
            >
              <title>{l.kind === "solid" ? `${project.materials[l.material].name}, ${units.words(l.thickness * 1000, "mm", 0)}` : l.name}</title>
            </rect>
            {/* what bridges a layer, its share of the height */}
            {l.kind !== "circuit" && l.bridge && (
              <rect
                x={starts[i]}
                y={TOP + HEIGHT * (1 - Math.max(0.04, l.bridge.share))}
                width={widths[i]}
                height={HEIGHT * Math.max(0.04, l.bridge.share)}
                fill="#B98F63"
                stroke="var(--chakra-colors-ink)"
                strokeWidth="0.5"
              >
                <title>{`bridged by ${project.materials[l.bridge.material].name}`}</title>
              </rect>
            )}
            {widths[i] > 26 && (
              <text x={starts[i] + widths[i] / 2} y="136" textAnchor="middle" fontSize="11" fill="var(--chakra-colors-ink2)">
                {l.kind === "circuit" ? "" : l.thickness === undefined ? "gap" : units.text(l.thickness * 1000, "mm", 0)}
              </text>
            )}
          </g>
        ))}
        {line && (
          <>
            <polyline points={line.dewPoint} fill="none" stroke="var(--chakra-colors-water)" strokeWidth="1.4" strokeDasharray="4 3" />
            <polyline points={line.temperature} fill="none" stroke="var(--chakra-colors-clay)" strokeWidth="1.8" />
            <text x={LEFT - 30} y={line.outside + 4} textAnchor="end" fontSize="11" fill="var(--chakra-colors-clay)">
              {units.words(line.outdoors, "°C", 1)}
            </text>
            <text x={end + 30} y={line.inside + 4} fontSize="11" fill="var(--chakra-colors-clay)">
              {units.words(INDOORS, "°C", 0)}
            </text>
          </>
        )}
      </svg>
      {outer && (
        <Text color="ink2" fontSize="11.5px" mt="-1">
          {line
            ? `Temperature (line) and dew point (dashed) through it in the mean of ${monthNames[month]}.`
            : places.ok
              ? "Temperature and dew point are drawn as soon as the weather is read."
              : "Temperature and dew point are drawn once every layer states its vapour resistance."}
        </Text>
      )}
    </>
  );
}
