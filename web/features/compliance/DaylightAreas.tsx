"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useState } from "react";
import {
  checkProject,
  CONTROL_ABOVE,
  daylightControlChanges,
  daylitAreas,
  outdoorAirChanges,
  packUseOf,
  type Change,
  type DaylitArea,
  type Pack,
  type Project,
} from "@arroyo/core";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { SheetTable } from "../../ui/SheetTable.tsx";
import { useUnits } from "../../ui/units.ts";
import { Building } from "../form/Building.tsx";
import { useForm } from "../form/formStore.ts";
import { useStore } from "../store.ts";
import { useQuery } from "../useQuery.ts";
import { controlSheet, controlSheetNames } from "./controlSheet.ts";

/** Fill and pattern of each area: told apart without colour as well. */
const areas = [
  { key: "primary", words: "primary sidelit", fill: "#E0B04A", pattern: "none" },
  { key: "secondary", words: "secondary sidelit", fill: "#EAD9A6", pattern: "lines" },
  { key: "top", words: "toplit", fill: "#7FB1BC", pattern: "dots" },
] as const;
type Ring = readonly (readonly [number, number])[];
const pathOf = (polygons: readonly (readonly Ring[])[]): string =>
  polygons.map((rings) => rings.map((r) => `M${r.map(([x, y]) => `${x.toFixed(3)} ${(-y).toFixed(3)}`).join("L")}Z`).join("")).join("");

/** Daylight areas on the plan of a storey and on the building, control given where the pack asks for it, and the sheet of controls and outdoor air. */
export function DaylightAreas({ pack }: { pack: Pack }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const [query, change] = useQuery();
  const look = query.get("look") === "building" ? "building" : query.get("look") === "sheet" ? "sheet" : "plan";
  const [chosen, setStorey] = useState<string | null>(null);
  const storey = chosen !== null && project.storeys[chosen] ? chosen : (Object.keys(project.storeys)[0] ?? "");
  const over = pack.daylight?.over.value ?? CONTROL_ABOVE;
  const found = useMemo(() => daylitAreas(project, over), [project, over]);
  const lacking = found.filter((a) => a.needsControl && !a.controlled);
  const air = useMemo(
    (): Change[] =>
      Object.keys(project.spaces).flatMap((id) => {
        const use = packUseOf(project, pack, id);
        return outdoorAirChanges(project, id, use.outdoorAirPerPerson?.value ?? 0, use.outdoorAirPerArea?.value ?? 0);
      }),
    [project, pack],
  );
  return (
    <Flex direction="column" h="100%" minH="0">
      <Flex align="center" gap="3" mb="1" wrap="wrap">
        <Text as="h2" textStyle="title">
          Daylight areas
        </Text>
        {(["plan", "building", "sheet"] as const).map((l) => (
          <Act key={l} onClick={() => change({ look: l })}>
            <span style={{ fontWeight: look === l ? 600 : 400 }}>{l === "plan" ? "On the plan" : l === "building" ? "In 3D" : "Sheet"}</span>
          </Act>
        ))}
        {look === "plan" && (
          <SelectInput
            label="Storey"
            width="150px"
            align="left"
            value={storey}
            options={Object.entries(project.storeys).map(([value, s]) => ({ value, label: s.name }))}
            onChange={setStorey}
          />
        )}
      </Flex>
      <Flex align="center" gap="3" mb="2" wrap="wrap">
        <PrimaryButton
          disabled={lacking.length === 0}
          onClick={() => edit("Lighting controlled by daylight where it is required", daylightControlChanges(project, over))}
        >
          Control where it is required
        </PrimaryButton>
        <Text color="ink2" data-testid="control-lacking">
          {pack.daylight
            ? `§ ${pack.daylight.clause}: more than ${over} W in the primary sidelit or the toplit area. ${lacking.length === 0 ? "Every space that needs control has it." : `${lacking.length} space${lacking.length === 1 ? " lacks" : "s lack"} it.`}`
            : "This pack asks for no control by daylight."}
        </Text>
        {look === "sheet" && (
          <Act disabled={air.length === 0} onClick={() => edit("Outdoor air of the uses of the pack", air)}>
            Outdoor air of the pack’s uses
          </Act>
        )}
      </Flex>
      <Box flex="1" minH="0" position="relative">
        {look === "plan" && <Plan project={project} storey={storey} found={found} />}
        {look === "building" && <OnBuilding project={project} storey={storey} found={found} />}
        {look === "sheet" && <SheetTable project={project} names={controlSheetNames} of={(p, name, units) => controlSheet(p, name, units, pack)} />}
      </Box>
    </Flex>
  );
}

function Legend() {
  return (
    <Flex gap="4" fontSize="12px" color="ink2" position="absolute" right="2" bottom="1" background="sheet" px="2">
      {areas.map((a) => (
        <Flex key={a.key} align="center" gap="1.5">
          <svg width="14" height="14" aria-hidden="true">
            <rect width="14" height="14" fill={a.fill} />
            <rect width="14" height="14" fill={a.pattern === "none" ? "none" : `url(#day-${a.pattern}-small)`} />
            <Patterns scale={1} suffix="-small" />
          </svg>
          {a.words}
        </Flex>
      ))}
    </Flex>
  );
}

/** @param scale of a unit of the drawing, px */
function Patterns({ scale, suffix = "" }: { scale: number; suffix?: string }) {
  return (
    <defs>
      <pattern id={`day-lines${suffix}`} width={6 / scale} height={6 / scale} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2={6 / scale} stroke="#8D8474" strokeWidth={1.2 / scale} />
      </pattern>
      <pattern id={`day-dots${suffix}`} width={6 / scale} height={6 / scale} patternUnits="userSpaceOnUse">
        <circle cx={3 / scale} cy={3 / scale} r={1 / scale} fill="#23262B" />
      </pattern>
    </defs>
  );
}

/** One storey with its areas, the control each space has, and what is asked of it. */
function Plan({ project, storey, found }: { project: Project; storey: string; found: readonly DaylitArea[] }) {
  const units = useUnits();
  const select = useStore((s) => s.select);
  const selection = useStore((s) => s.selection);
  const { geometry } = checkProject(project);
  const here = found.filter((a) => project.spaces[a.space].storey === storey);
  const outlines = here.map((a) => [a, geometry.spaces.get(a.space)?.outline ?? []] as const).filter(([, o]) => o.length > 0);
  if (outlines.length === 0) return <Text color="ink2">There is no space on this storey.</Text>;
  const points = outlines.flatMap(([, o]) => o);
  const [left, right] = [Math.min(...points.map((p) => p[0])), Math.max(...points.map((p) => p[0]))];
  const [low, high] = [Math.min(...points.map((p) => p[1])), Math.max(...points.map((p) => p[1]))];
  const margin = 0.04 * Math.max(right - left, high - low);
  const size = Math.max(right - left + 2 * margin, 1.6 * (high - low + 2 * margin));
  const scale = 740 / size;
  const at = selection[0]?.kind === "space" ? selection[0].id : null;
  return (
    <>
      <chakra.svg
        viewBox={`${left - margin} ${-high - margin} ${right - left + 2 * margin} ${high - low + 2 * margin}`}
        w="100%"
        h="100%"
        role="img"
        aria-label={`Daylight areas of ${project.storeys[storey]?.name ?? ""}: ${here.map((a) => `${project.spaces[a.space].name} ${a.primary.toFixed(0)} m² primary sidelit, ${a.secondary.toFixed(0)} m² secondary sidelit, ${a.top.toFixed(0)} m² toplit`).join("; ")}`}
      >
        <Patterns scale={scale} />
        {outlines.map(([a, outline]) => (
          <g key={a.space} onClick={() => select([{ kind: "space", id: a.space }])} style={{ cursor: "pointer" }}>
            <title>
              {`${project.spaces[a.space].name}: ${units.words(a.primary, "m²", 1)} primary sidelit, ${units.words(a.secondary, "m²", 1)} secondary sidelit, ${units.words(a.top, "m²", 1)} toplit; ${Math.round(Math.max(a.primaryPower, a.topPower))} W there; ${a.controlled ? "controlled" : a.needsControl ? "control required" : "no control required"}`}
            </title>
            <path d={pathOf([[outline as Ring]])} fill="var(--chakra-colors-paper)" />
            {areas.map((r) => (
              <g key={r.key}>
                <path d={pathOf(a.outlines[r.key] as readonly (readonly Ring[])[])} fill={r.fill} fillRule="evenodd" />
                {r.pattern !== "none" && (
                  <path d={pathOf(a.outlines[r.key] as readonly (readonly Ring[])[])} fill={`url(#day-${r.pattern})`} fillRule="evenodd" />
                )}
              </g>
            ))}
            <path d={pathOf([[outline as Ring]])} fill="none" stroke="var(--chakra-colors-ink)" strokeWidth={(at === a.space ? 2.6 : 1.1) / scale} />
          </g>
        ))}
        {outlines.map(([a, outline]) => {
          const [x, y] = middle(outline as Ring);
          return (
            <g
              key={a.space}
              pointerEvents="none"
              textAnchor="middle"
              style={{ paintOrder: "stroke", fontSize: `${11.5 / scale}px` }}
              stroke="#FDFBF7"
              strokeWidth={3 / scale}
              fill="#23262B"
            >
              <text x={x} y={-y}>
                {project.spaces[a.space].name}
              </text>
              <text x={x} y={-y + 13 / scale} fontWeight={600} fill={a.needsControl && !a.controlled ? "#B24E2B" : "#23262B"}>
                {a.controlled ? "✓ controlled" : a.needsControl ? "✗ required" : ""}
              </text>
            </g>
          );
        })}
      </chakra.svg>
      <Legend />
    </>
  );
}
const middle = (ring: Ring): readonly [number, number] => [ring.reduce((a, p) => a + p[0], 0) / ring.length, ring.reduce((a, p) => a + p[1], 0) / ring.length];

/** Walls stay plain, so that the floors are read. */
const plain = (): null => null;

/** The building with each floor by how much of it daylight reaches. */
function OnBuilding({ project, storey, found }: { project: Project; storey: string; found: readonly DaylitArea[] }) {
  const units = useUnits();
  const setForm = useForm((s) => s.set);
  // floors are seen with the storeys above taken off; the Form desk finds its own view again
  useEffect(() => {
    const { cut } = useForm.getState();
    setForm({ cut: true });
    return () => setForm({ cut });
  }, [setForm]);
  const bySpace = useMemo(() => new Map(found.map((a) => [a.space, a])), [found]);
  const reached = useMemo(
    () => found.flatMap((a) => areas.map((r) => ({ space: a.space, fill: r.fill, polygons: a.outlines[r.key] as readonly (readonly Ring[])[] }))),
    [found],
  );
  return (
    <>
      <Building
        project={project}
        storey={storey}
        compact
        paint={plain}
        floors={reached}
        words={(f) => {
          const a = bySpace.get(f.space);
          return a
            ? `${units.words(a.primary, "m²", 1)} primary sidelit, ${units.words(a.secondary, "m²", 1)} secondary sidelit, ${units.words(a.top, "m²", 1)} toplit; ${a.controlled ? "controlled" : a.needsControl ? "control required" : "no control required"}`
            : null;
        }}
      />
      <Legend />
    </>
  );
}
