"use client";
import { Toggle } from "../../ui/Toggle.tsx";
import { useUnits } from "../../ui/units.ts";
import { chakra, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { mergeSpaces, offsetSpace, perimeterOf, removeSpaces, setEdgeLength, type Orientation, type PlanEdit, type Project, convert } from "@arroyo/core";
import { Act, NumberInput, Quantity, SelectInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { useForm, type Tool } from "./formStore.ts";
import { Told } from "../../ui/Told.tsx";

const names: readonly { readonly tool: Tool; readonly name: string; readonly key: string }[] = [
  { tool: "select", name: "Select", key: "V" },
  { tool: "rectangle", name: "Rectangle", key: "R" },
  { tool: "polygon", name: "Polygon", key: "P" },
  { tool: "split", name: "Split", key: "S" },
];
const sides: readonly Orientation[] = ["south", "east", "north", "west"];

/** What can be done on the plan, the typed entry, and what was refused. */
export function PlanTools({
  project,
  storey,
  typed,
  onTyped,
  onEnter,
  onEdit,
  points,
  said,
  arc,
  onArc,
  onTool,
}: {
  project: Project;
  storey: string;
  typed: string;
  onTyped: (text: string) => void;
  onEnter: () => void;
  onEdit: (e: PlanEdit) => boolean;
  points: number;
  said: string | null;
  arc: { on: boolean; bulge: number; facets: number };
  onArc: (a: { on: boolean; bulge: number; facets: number }) => void;
  onTool: () => void;
}) {
  const units = useUnits();
  const { tool } = useForm();
  const set = useForm((s) => s.set);
  const selection = useStore((s) => s.selection);
  const [panel, setPanel] = useState<"perimeter" | "offset" | null>(null);
  const [depth, setDepth] = useState<Record<Orientation, number>>({ south: 4.5, east: 4.5, north: 4.5, west: 4.5 });
  const [distance, setDistance] = useState(0.3);
  const spaces = selection.filter((s) => s.kind === "space" && project.spaces[s.id]).map((s) => s.id);
  const wall = selection.find((s) => s.kind === "wall");
  const all = Object.entries(project.spaces).flatMap(([id, s]) => (s.storey === storey ? [id] : []));
  const hint =
    tool === "rectangle"
      ? points === 0
        ? "First corner: click, or type x y."
        : "Opposite corner: click, or type width and depth, such as 8 5."
      : tool === "polygon"
        ? points === 0
          ? "First corner: click, or type x y."
          : `Next corner: click, or type length<angle or @x y.${points > 2 ? " Enter closes the outline." : ""}`
        : tool === "split"
          ? points === 0
            ? "First point of the line along which to split."
            : "Second point of the line."
          : tool === "scale"
            ? points < 2
              ? "Click two points of the image whose distance you know."
              : `Type their distance in ${units.unit("m")}, or with a unit.`
            : null;
  const number = (label: string, value: number, onCommit: (v: number) => void, digits = 1) => (
    <NumberInput
      label={label}
      value={value}
      digits={digits}
      width="44px"
      onCommit={(v) => {
        onCommit(v);
        return null;
      }}
    />
  );
  return (
    <>
      <Flex align="center" gap="1" px="2" h="32px" flexShrink={0} borderBottom="1px solid" borderColor="line" role="toolbar" aria-label="Drawing tools">
        {names.map((n) => (
          <Toggle
            key={n.tool}
            on={tool === n.tool}
            title={`${n.name} (${n.key})`}
            onClick={() => {
              onTool();
              set({ tool: n.tool });
            }}
          >
            {n.name}
          </Toggle>
        ))}
        <Text color="line">|</Text>
        <Toggle
          on={panel === "perimeter"}
          title="Perimeter and core of the chosen spaces, or of the whole storey"
          onClick={() => setPanel(panel === "perimeter" ? null : "perimeter")}
        >
          Perimeter
        </Toggle>
        {spaces.length > 1 && (
          <Toggle on={false} onClick={() => onEdit(mergeSpaces(project, spaces))}>
            Merge
          </Toggle>
        )}
        {spaces.length === 1 && (
          <Toggle on={panel === "offset"} onClick={() => setPanel(panel === "offset" ? null : "offset")}>
            Offset
          </Toggle>
        )}
        {spaces.length > 0 && (
          <Toggle on={false} onClick={() => onEdit(removeSpaces(project, spaces))}>
            Remove
          </Toggle>
        )}
      </Flex>
      {(hint !== null || panel !== null || said !== null || (wall && tool === "select")) && (
        <Flex
          align="center"
          gap="2.5"
          px="3"
          py="1"
          minH="30px"
          flexShrink={0}
          borderBottom="1px solid"
          borderColor="line"
          fontSize="12px"
          color="ink2"
          flexWrap="wrap"
        >
          {hint !== null && (
            <>
              <chakra.input
                aria-label="Typed place"
                value={typed}
                placeholder={tool === "rectangle" && points > 0 ? "8 5" : "x y"}
                w="96px"
                h="22px"
                px="1.5"
                border="1px solid"
                borderColor="line"
                borderRadius="small"
                background="sheet"
                color="ink"
                onChange={(e) => onTyped(e.target.value)}
                onKeyDown={(e) => {
                  if (e.key === "Enter") onEnter();
                  if (e.key === "Escape") onTool();
                }}
              />
              <Text>{hint}</Text>
              {(tool === "rectangle" || tool === "polygon") && Object.keys(project.kits).length > 1 && <KitDrawn project={project} />}
              {tool === "polygon" && points > 0 && (
                <>
                  <chakra.label display="flex" gap="1" alignItems="center">
                    <input type="checkbox" checked={arc.on} onChange={(e) => onArc({ ...arc, on: e.target.checked })} /> next side an arc
                  </chakra.label>
                  {arc.on && (
                    <Flex align="center" gap="1">
                      bulge {number("Bulge", arc.bulge * 100, (v) => onArc({ ...arc, bulge: v / 100 }), 0)} % in{" "}
                      {number("Facets", arc.facets, (v) => onArc({ ...arc, facets: Math.max(2, Math.min(64, Math.round(v))) }), 0)} facets
                    </Flex>
                  )}
                </>
              )}
            </>
          )}
          {panel === "perimeter" && tool === "select" && (
            <>
              <Text>{spaces.length > 0 ? `${spaces.length} chosen` : "Whole storey"}, depth:</Text>
              {sides.map((s) => (
                <Flex key={s} align="center" gap="1">
                  {s}
                  {number(`Depth ${s}`, depth[s], (v) => setDepth({ ...depth, [s]: v }))}
                </Flex>
              ))}
              m<Act onClick={() => onEdit(perimeterOf(project, spaces.length > 0 ? spaces : all, depth)) && setPanel(null)}>Make perimeter and core</Act>
            </>
          )}
          {panel === "offset" && spaces.length === 1 && tool === "select" && (
            <>
              <Text>Inward by</Text>
              <Quantity
                label="Offset"
                value={distance}
                unit="m"
                digits={2}
                width="44px"
                onCommit={(v) => {
                  setDistance(v);
                  return null;
                }}
              />{" "}
              (below 0: outward)
              <Act onClick={() => onEdit(offsetSpace(project, spaces[0], distance)) && setPanel(null)}>Offset the walls</Act>
            </>
          )}
          {wall && tool === "select" && panel === null && <WallLength project={project} host={wall.id} onEdit={onEdit} />}
          {said !== null && (
            <Text role="alert" color="clay">
              <Told text={said} />
            </Text>
          )}
        </Flex>
      )}
    </>
  );
}

/** Length of the chosen wall, to type over. */
function WallLength({ project, host, onEdit }: { project: Project; host: string; onEdit: (e: PlanEdit) => boolean }) {
  const [space, edge] = host.split("/");
  const form = project.spaces[space]?.form;
  if (form?.kind !== "prism") return null;
  const i = form.outline.findIndex((p) => p.id === edge);
  if (i < 0) return null;
  const [p, q] = [form.outline[i], form.outline[(i + 1) % form.outline.length]];
  return (
    <Flex align="center" gap="1.5">
      Wall of {project.spaces[space].name}, length
      <Quantity
        label="Wall length"
        value={Math.hypot(q.x - p.x, q.y - p.y)}
        unit="m"
        digits={2}
        width="60px"
        onCommit={(v) => {
          const e = setEdgeLength(project, space, edge, v);
          if (!e.ok) return e.message;
          onEdit(e);
          return null;
        }}
      />
      · drag it or use the arrow keys to move it
    </Flex>
  );
}

/** Envelope kit of what is drawn next. */
function KitDrawn({ project }: { project: Project }) {
  const kit = useForm((s) => s.kit);
  const set = useForm((s) => s.set);
  return (
    <SelectInput
      label="Kit of what is drawn"
      width="170px"
      align="left"
      value={kit !== null && Object.hasOwn(project.kits, kit) ? kit : ""}
      options={[
        { value: "", label: "with the project’s kit" },
        ...Object.entries(project.kits)
          .filter(([k]) => k !== project.defaults.kit)
          .map(([k, x]) => ({ value: k, label: `with ${x.name}` })),
      ]}
      onChange={(v) => set({ kit: v === "" ? null : v })}
    />
  );
}

/** Fit and grid, in the corner of the drawing. */
export function PlanCorner({ onFit }: { onFit: () => void }) {
  const units = useUnits();
  const { grid } = useForm();
  const set = useForm((s) => s.set);
  return (
    <Flex position="absolute" right="2" bottom="1.5" gap="2" align="center" background="sheet" px="1" borderRadius="small">
      <Act onClick={onFit} title="Fit (F)">
        fit
      </Act>
      <chakra.select
        aria-label="Grid"
        value={String(grid)}
        fontSize="12px"
        color="ink2"
        background="transparent"
        css={{ "& option": { background: "var(--chakra-colors-sheet)", color: "var(--chakra-colors-ink)" } }}
        onChange={(e) => set({ grid: Number(e.target.value) })}
      >
        {[...new Set([0, ...(units.system === "SI" ? [0.1, 0.25, 0.5, 1] : [0.5, 1, 2, 5].map((ft) => convert(ft, "ft", "m"))), grid])]
          .sort((a, b) => a - b)
          .map((g) => (
            <option key={g} value={g}>
              {g === 0 ? "no grid" : `grid ${Number(units.value(g, "m").toFixed(2))} ${units.unit("m")}`}
            </option>
          ))}
      </chakra.select>
    </Flex>
  );
}
