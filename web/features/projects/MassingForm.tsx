"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  areaOf,
  fabricLevels,
  footprintRings,
  massingProject,
  perimeterAndCore,
  starterUseLabel,
  starterUses,
  type Footprint,
  type Massing,
  type MassingContext,
  type Project,
} from "@arroyo/core";
import { typeTint } from "../../ui/colours.ts";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { Head, Row, SelectInput, Unit, Quantity } from "../../ui/fields.tsx";
import { readNumber } from "../../ui/format.ts";
import { useUnits } from "../../ui/units.ts";
import { Told } from "../../ui/Told.tsx";

const kinds: readonly { readonly value: Footprint["kind"]; readonly label: string }[] = [
  { value: "rectangle", label: "rectangle" },
  { value: "L", label: "L" },
  { value: "U", label: "U" },
  { value: "courtyard", label: "round a court" },
  { value: "polygon", label: "typed corners" },
];
const levelWords: Record<(typeof fabricLevels)[number], string> = { existing: "as existing", code: "to code", better: "better than code" };
const sides = ["south", "east", "north", "west"] as const;

/** "0 0, 30 0, 30 20" as corners; null when a corner is not two numbers. */
function readPoints(text: string): [number, number][] | null {
  const points = text
    .split(/[,;\n]+/)
    .map((t) => t.trim())
    .filter((t) => t !== "")
    .map((t) => t.split(/\s+/).map(readNumber));
  return points.every((p) => p.length === 2 && p[0] !== null && p[1] !== null) ? (points as [number, number][]) : null;
}

/** A complete model from a footprint, storeys, glazing, depth, use and level of fabric, with its plan shown while it is typed. */
export function MassingForm({
  context,
  id,
  name,
  onMake,
  onCancel,
}: {
  context: MassingContext;
  id: string;
  name: string;
  onMake: (project: Project) => Promise<string | null>;
  onCancel?: () => void;
}) {
  const [title, setTitle] = useState(name);
  const [kind, setKind] = useState<Footprint["kind"]>("rectangle");
  const [size, setSize] = useState({ length: 40, width: 20, cutLength: 16, cutWidth: 8 });
  const [corners, setCorners] = useState("0 0, 36 0, 44 18, 20 30, 0 22");
  const [storeys, setStoreys] = useState(2);
  const [storeyHeight, setStoreyHeight] = useState(3.6);
  const [depth, setDepth] = useState(4.5);
  const [glazing, setGlazing] = useState({ south: 0.4, east: 0.25, north: 0.3, west: 0.25 });
  const [use, setUse] = useState<Massing["use"]>("office");
  const [level, setLevel] = useState<Massing["level"]>("code");
  const [refusal, setRefusal] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const points = readPoints(corners);
  const footprint: Massing["footprint"] =
    kind === "polygon" ? { kind, points: points ?? [] } : kind === "rectangle" ? { kind, length: size.length, width: size.width } : { kind, ...size };
  const outcome =
    kind === "polygon" && !points
      ? { ok: false as const, message: "Type corners as pairs: x y, x y, … in metres." }
      : massingProject({ name: title, footprint, storeys, storeyHeight, glazing, perimeterDepth: depth, use, level }, context, id);
  const make = async (): Promise<void> => {
    if (!outcome.ok) return;
    setBusy(true);
    setRefusal(await onMake(outcome.project));
    setBusy(false);
  };
  const number = (label: string, value: number, unit: string, set: (v: number) => void, digits = 1, shown = unit, beside = "") => (
    <Row label={label}>
      <Quantity
        label={label}
        value={value}
        unit={unit}
        shown={shown}
        digits={digits}
        onCommit={(v) => {
          set(v);
          return null;
        }}
      />
      {beside && <Unit>{beside}</Unit>}
    </Row>
  );
  return (
    <Flex gap="8" align="flex-start">
      <Box w="300px" flexShrink={0}>
        <Row label="Name">
          <chakra.input
            aria-label="Name of the project"
            value={title}
            onChange={(e) => setTitle(e.target.value)}
            background="transparent"
            borderBottom="1px solid"
            borderColor="line"
            textAlign="right"
            w="190px"
            fontWeight="600"
          />
        </Row>
        <Head>Footprint</Head>
        <Row label="Shape">
          <SelectInput label="Shape" value={kind} options={kinds} onChange={(v) => setKind(v as Footprint["kind"])} />
        </Row>
        {kind === "polygon" ? (
          <chakra.textarea
            aria-label="Corners"
            value={corners}
            onChange={(e) => setCorners(e.target.value)}
            w="100%"
            h="64px"
            mt="1"
            p="1"
            fontFamily="mono"
            fontSize="12px"
            background="sheet"
            border="1px solid"
            borderColor="line"
          />
        ) : (
          <>
            {number("Length", size.length, "m", (v) => setSize({ ...size, length: v }))}
            {number("Width", size.width, "m", (v) => setSize({ ...size, width: v }))}
            {kind !== "rectangle" &&
              number(kind === "courtyard" ? "Length of the court" : "Length cut out", size.cutLength, "m", (v) => setSize({ ...size, cutLength: v }))}
            {kind !== "rectangle" &&
              number(kind === "courtyard" ? "Width of the court" : "Width cut out", size.cutWidth, "m", (v) => setSize({ ...size, cutWidth: v }))}
          </>
        )}
        {number("Storeys", storeys, "1", setStoreys, 0)}
        {number("Storey height", storeyHeight, "m", setStoreyHeight)}
        {number("Perimeter depth", depth, "m", setDepth)}
        <Head>Glazing by side</Head>
        {sides.map((o) => (
          <Box key={o}>{number(o[0].toUpperCase() + o.slice(1), glazing[o], "1", (v) => setGlazing({ ...glazing, [o]: v }), 0, "%", "of wall")}</Box>
        ))}
        <Head>Use and fabric</Head>
        <Row label="Use">
          <SelectInput
            label="Use"
            value={use}
            options={starterUses.map((u) => ({ value: u, label: starterUseLabel(u).toLowerCase() }))}
            onChange={(v) => setUse(v as Massing["use"])}
          />
        </Row>
        <Row label="Fabric">
          <SelectInput
            label="Fabric"
            value={level}
            options={fabricLevels.map((l) => ({ value: l, label: levelWords[l] }))}
            onChange={(v) => setLevel(v as Massing["level"])}
          />
        </Row>
        {(!outcome.ok || refusal) && (
          <Text role="alert" color="clay" mt="2">
            <Told text={outcome.ok ? refusal : outcome.message} />
          </Text>
        )}
        <Flex gap="4" mt="3" align="center">
          <PrimaryButton disabled={!outcome.ok || busy} onClick={() => void make()}>
            Make the model
          </PrimaryButton>
          {onCancel && (
            <chakra.button type="button" color="water" onClick={onCancel} cursor="pointer">
              Cancel
            </chakra.button>
          )}
        </Flex>
      </Box>
      <Preview
        footprint={footprint as Footprint}
        depth={depth}
        storeys={storeys}
        planNorth={context.site.planNorth}
        zones={outcome.ok ? Object.keys(outcome.project.zones).length : null}
      />
    </Flex>
  );
}

/** Plan of one storey as it will be, with what it adds up to. */
function Preview({
  footprint,
  depth,
  storeys,
  planNorth,
  zones,
}: {
  footprint: Footprint;
  depth: number;
  storeys: number;
  planNorth: number;
  zones: number | null;
}) {
  const units = useUnits();
  const rings = footprintRings(footprint);
  if (!rings.ok) return <Box w="420px" h="420px" background="sheet" border="1px solid" borderColor="line" />;
  const cut = perimeterAndCore(rings.polygon, depth, planNorth);
  const all = rings.polygon[0];
  const xs = all.map((p) => p[0]);
  const ys = all.map((p) => p[1]);
  const span = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
  const scale = 360 / span;
  const at = ([x, y]: readonly [number, number]): string =>
    `${210 + (x - (Math.max(...xs) + Math.min(...xs)) / 2) * scale},${210 - (y - (Math.max(...ys) + Math.min(...ys)) / 2) * scale}`;
  const area = areaOf([rings.polygon]);
  return (
    <Box flexShrink={0}>
      <svg
        width="420"
        height="420"
        role="img"
        aria-label="Plan of one storey"
        style={{ background: "var(--chakra-colors-sheet)", border: "1px solid var(--chakra-colors-line)" }}
      >
        {cut.ok ? (
          cut.parts.map((p, i) => (
            <polygon
              key={i}
              points={p.ring.map(at).join(" ")}
              fill={p.orientation === "core" ? "var(--chakra-colors-paper)" : typeTint[["south", "east", "north", "west"].indexOf(p.orientation)]}
              stroke="var(--chakra-colors-ink)"
              strokeWidth="1.2"
            >
              <title>{p.orientation}</title>
            </polygon>
          ))
        ) : (
          <polygon points={all.map(at).join(" ")} fill="none" stroke="var(--chakra-colors-clay)" strokeWidth="1.6" />
        )}
      </svg>
      <Text color="ink2" mt="1">
        {units.words(area, "m²", 0)} a storey · {units.words(area * storeys, "m²", 0)} in all{zones !== null && <> · {zones} zones</>}
      </Text>
    </Box>
  );
}
