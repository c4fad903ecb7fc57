"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { closestCenter, DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from "@dnd-kit/core";
import { SortableContext, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { useState, type ReactNode } from "react";
import {
  airLayerResistance,
  heatFlowOf,
  setChange,
  surfaceResistances,
  unsetChange,
  type Assembly,
  type Change,
  type Layer,
  type LayerPhysics,
  type Project,
} from "@arroyo/core";
import { Act, firstMessage, NumberInput, Quantity } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { fromShipped } from "./fabricStore.ts";
import { MaterialFind } from "./MaterialFind.tsx";
import { Told } from "../../ui/Told.tsx";

/** Thickness a new layer begins with by kind of material, m. */
const FIRST: Readonly<Record<string, number>> = {
  insulation: 0.1,
  masonry: 0.1,
  concrete: 0.15,
  board: 0.0125,
  finish: 0.012,
  membrane: 0.001,
  metal: 0.001,
  timber: 0.02,
};
/** Thickness of a new air gap, m. */
const GAP = 0.025;

type Asked = { readonly for: "new" | "bridge" | "material"; readonly layer: string | null };

const freeLayer = (a: Assembly): string => {
  let n = a.layers.length + 1;
  while (a.layers.some((l) => l.id === `l${n}`)) n++;
  return `l${n}`;
};

/** Layers from outside to inside: found by search, dragged or moved by keys, bridged, typed over; U follows every keystroke. */
export function Layers({
  id,
  shown,
  layers,
  u,
  onDraft,
}: {
  id: string;
  /** The assembly with what is being typed. */
  shown: Assembly;
  layers: readonly LayerPhysics[];
  u: number;
  onDraft: (draft: { readonly layer: string; readonly thickness: number } | null) => void;
}) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const [asked, setAsked] = useState<Asked | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const a = project.assemblies[id];
  const [rse, rsi] = surfaceResistances(a.use);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const path = ["assemblies", id];
  const name = (l: Layer): string => (l.kind === "solid" ? project.materials[l.material].name : l.name);

  const move = (from: number, to: number): void => {
    if (to < 0 || to >= a.layers.length || from === to) return;
    const next = a.layers.slice();
    next.splice(to, 0, ...next.splice(from, 1));
    edit(`${a.name}: ${name(a.layers[from])} moved`, [setChange(project, [...path, "layers"], next)]);
  };
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    if (over)
      move(
        a.layers.findIndex((l) => l.id === active.id),
        a.layers.findIndex((l) => l.id === over.id),
      );
  };
  /** A refused removal, as of the last layer, is told. */
  const remove = (l: Layer): void =>
    setSaid(
      firstMessage(
        edit(`${a.name}: without ${name(l)}`, [
          setChange(
            project,
            [...path, "layers"],
            a.layers.filter((x) => x.id !== l.id),
          ),
        ]),
      ),
    );
  /** What was chosen in the list, as a material of the project, with the changes that bring it. */
  const materialOf = (key: string): { id: string; changes: readonly Change[] } =>
    key.startsWith("shipped:") ? fromShipped(project, "materials", key.slice(8)) : { id: key, changes: [] };
  const choose = (key: string): void => {
    if (!asked) return;
    setAsked(null);
    if (asked.for === "new") {
      const layer = freeLayer(a);
      // the first layer takes the place of a rated U
      const rated: Change[] = a.rated ? [{ op: "unset", path: [...path, "rated"], old: a.rated }] : [];
      const put = (value: Layer): Change[] => [...rated, { op: "insert", path: [...path, "layers", layer], value }];
      if (key === "gap")
        return void edit(
          `${a.name}: air gap`,
          put({ kind: "resistance", id: layer, name: "Air gap", thickness: GAP, resistance: airLayerResistance(GAP, heatFlowOf(a.use)) }),
        );
      const m = materialOf(key);
      const kind = (m.changes.find((c) => c.path[1] === m.id)?.value as { kind?: string } | undefined)?.kind ?? project.materials[m.id]?.kind ?? "";
      const label = key.startsWith("shipped:") ? m.id : project.materials[m.id].name;
      edit(`${a.name}: layer of ${label}`, [...m.changes, ...put({ kind: "solid", id: layer, material: m.id, thickness: FIRST[kind] ?? 0.05 })]);
      return;
    }
    const m = materialOf(key);
    if (asked.for === "material")
      return void edit(`${a.name}: another material`, [...m.changes, setChange(project, [...path, "layers", asked.layer as string, "material"], m.id)]);
    edit(`${a.name}: bridged layer`, [...m.changes, setChange(project, [...path, "layers", asked.layer as string, "bridge"], { material: m.id, share: 0.1 })]);
  };
  const setThickness = (l: Layer, d: number) => {
    const at = [...path, "layers", l.id];
    const changes = [setChange(project, [...at, "thickness"], d)];
    // an air gap resists as its thickness says
    if (l.kind === "resistance") changes.push(setChange(project, [...at, "resistance"], Math.max(1e-5, airLayerResistance(d, heatFlowOf(a.use)))));
    return edit(`${a.name}: ${name(l)} ${units.words(d * 1000, "mm")}`, changes);
  };
  return (
    <Box>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={a.layers.map((l) => l.id)} strategy={verticalListSortingStrategy}>
          <chakra.table w="100%" aria-label="Layers" borderCollapse="collapse" fontSize="12.5px">
            <thead>
              <tr>
                {[
                  ["Layer, outside first", "", true],
                  ["Thickness", units.unit("mm")],
                  ["Conductivity", units.unit("W/m·K")],
                  ["Density", units.unit("kg/m³")],
                  ["Resistance", units.unit("m²K/W")],
                  ["Share of R", "%"],
                  ["", ""],
                ].map(([text, unit, left], i) => (
                  <chakra.th
                    key={i}
                    scope="col"
                    textAlign={left ? "left" : "right"}
                    fontWeight="500"
                    color="ink2"
                    py="1"
                    px="1.5"
                    borderBottom="1px solid"
                    borderColor="line"
                    verticalAlign="bottom"
                  >
                    {text}
                    {unit && (
                      <Text as="span" display="block" fontSize="11px">
                        {unit}
                      </Text>
                    )}
                  </chakra.th>
                ))}
              </tr>
            </thead>
            <tbody>
              <Surface text="outside surface" r={rse} u={u} />
              {a.layers.map((l, i) => (
                <LayerRow
                  key={l.id}
                  id={l.id}
                  label={name(l)}
                  onMove={(by) => move(i, i + by)}
                  onRemove={() => remove(l)}
                  onBridge={l.kind === "circuit" || l.bridge ? null : () => setAsked({ for: "bridge", layer: l.id })}
                  below={
                    l.kind !== "circuit" && l.bridge ? (
                      <Flex as="span" align="center" gap="1" fontSize="11.5px" color="ink2" pl="1" flexWrap="wrap">
                        bridged by {project.materials[l.bridge.material].name}
                        <NumberInput
                          label={`Share bridged of ${name(l)}`}
                          width="40px"
                          value={l.bridge.share * 100}
                          digits={l.bridge.share < 0.01 ? 2 : 1}
                          onCommit={(v) =>
                            firstMessage(edit(`${a.name}: bridged ${v} %`, [setChange(project, [...path, "layers", l.id, "bridge", "share"], v / 100)]), 100)
                          }
                        />
                        %<Act onClick={() => edit(`${a.name}: not bridged`, [unsetChange(project, [...path, "layers", l.id, "bridge"])])}>no bridge</Act>
                      </Flex>
                    ) : null
                  }
                  cells={[
                    l.kind === "circuit" ? (
                      "—"
                    ) : (
                      <Quantity
                        key="d"
                        bare
                        label={`Thickness of ${name(l)}`}
                        value={l.thickness ?? null}
                        unit="m"
                        shown="mm"
                        digits={(l.thickness ?? 0) < 0.1 ? 1 : 0}
                        usual={[0.0001, 1]}
                        onDraft={(d) => onDraft(d !== null && d > 0 && d <= 10 && l.kind === "solid" ? { layer: l.id, thickness: d } : null)}
                        onCommit={(d) => setThickness(l, d)}
                      />
                    ),
                    l.kind === "solid" ? units.text(project.materials[l.material].conductivity, "W/m·K", 3) : "—",
                    l.kind === "solid" ? units.text(project.materials[l.material].density, "kg/m³", 0) : "—",
                    l.kind === "resistance" && !l.bridge ? (
                      <Quantity
                        key="r"
                        bare
                        label={`Resistance of ${l.name}`}
                        value={l.resistance}
                        unit="m²K/W"
                        digits={2}
                        onCommit={(v) => edit(`${a.name}: ${l.name} ${v}`, [setChange(project, [...path, "layers", l.id, "resistance"], v)])}
                      />
                    ) : l.kind === "circuit" ? (
                      "—"
                    ) : (
                      units.text(layers[i]?.resistance, "m²K/W", 2)
                    ),
                    l.kind === "circuit" ? "—" : figure(100 * (layers[i]?.resistance ?? 0) * u, 0),
                  ]}
                  material={l.kind === "solid" ? () => setAsked({ for: "material", layer: l.id }) : null}
                />
              ))}
              <Surface text="inside surface" r={rsi} u={u} />
            </tbody>
          </chakra.table>
        </SortableContext>
      </DndContext>
      {said && (
        <Text role="alert" color="clay">
          <Told text={said} />
        </Text>
      )}
      <Flex gap="4" py="1.5" align="baseline">
        <Act onClick={() => setAsked(asked?.for === "new" ? null : { for: "new", layer: null })}>Add a layer inside</Act>
        <Text color="ink2" fontSize="11.5px">
          {shown.layers.length > 1 ? "Drag a layer by its handle, or Alt with ↑ and ↓ on it." : ""}
        </Text>
      </Flex>
      {asked && (
        <MaterialFind
          project={project}
          label={asked.for === "bridge" ? "Material that bridges the layer" : "Material of the layer"}
          extra={
            asked.for !== "new"
              ? []
              : [{ key: "gap", name: "Air gap, still", group: "Without material", kind: "gap", figures: units.words(GAP * 1000, "mm", 0) }]
          }
          onChoose={choose}
          onClose={() => setAsked(null)}
        />
      )}
    </Box>
  );
}

function Surface({ text, r, u }: { text: string; r: number; u: number }) {
  const units = useUnits();
  return (
    <chakra.tr color="ink2">
      <chakra.td px="1.5" py="0.5" pl="26px" borderBottom="1px solid" borderColor="line">
        {text}
      </chakra.td>
      {["", "", "", units.text(r, "m²K/W", 2), figure(100 * r * u, 0), ""].map((c, i) => (
        <chakra.td key={i} textAlign="right" px="1.5" py="0.5" borderBottom="1px solid" borderColor="line">
          {c}
        </chakra.td>
      ))}
    </chakra.tr>
  );
}

function LayerRow({
  id,
  label,
  below,
  cells,
  material,
  onMove,
  onRemove,
  onBridge,
}: {
  id: string;
  label: string;
  below: ReactNode;
  cells: readonly ReactNode[];
  material: (() => void) | null;
  onMove: (by: 1 | -1) => void;
  onRemove: () => void;
  onBridge: (() => void) | null;
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({ id });
  return (
    <chakra.tr
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition: transition ?? undefined }}
      background={isDragging ? "wash" : "transparent"}
      className="layer"
      css={{ "& .quiet": { opacity: 0 }, "&:hover .quiet, &:focus-within .quiet": { opacity: 1 } }}
    >
      <chakra.td px="1.5" py="0.5" borderBottom="1px solid" borderColor="line">
        <Flex align="center" gap="1">
          <chakra.button
            {...attributes}
            {...listeners}
            ref={setActivatorNodeRef}
            type="button"
            aria-label={`Move ${label}`}
            title="Drag, or Alt with ↑ and ↓"
            cursor="grab"
            color="ink2"
            px="0.5"
            onKeyDown={(e) => {
              if (!e.altKey || (e.key !== "ArrowUp" && e.key !== "ArrowDown")) return;
              e.preventDefault();
              onMove(e.key === "ArrowUp" ? -1 : 1);
            }}
          >
            ⠿
          </chakra.button>
          {material ? (
            <chakra.button
              type="button"
              aria-label={`Material: ${label}`}
              title="Choose another material"
              textAlign="left"
              fontWeight="600"
              cursor="pointer"
              _hover={{ textDecoration: "underline" }}
              onClick={material}
            >
              {label}
            </chakra.button>
          ) : (
            <Text fontWeight="600">{label}</Text>
          )}
        </Flex>
        {below && <Box pl="22px">{below}</Box>}
      </chakra.td>
      {cells.map((c, i) => (
        <chakra.td key={i} textAlign="right" px="1.5" py="0.5" borderBottom="1px solid" borderColor="line" verticalAlign="top">
          {c}
        </chakra.td>
      ))}
      <chakra.td textAlign="right" px="1.5" py="0.5" borderBottom="1px solid" borderColor="line" whiteSpace="nowrap" verticalAlign="top">
        <Flex className="quiet" gap="2" justify="flex-end">
          {onBridge && (
            <Act onClick={onBridge} title={`What bridges ${label}: rafters, studs, battens`}>
              bridge
            </Act>
          )}
          <chakra.button type="button" aria-label={`Remove ${label}`} title={`Remove ${label}`} color="ink2" cursor="pointer" onClick={onRemove}>
            ×
          </chakra.button>
        </Flex>
      </chakra.td>
    </chakra.tr>
  );
}
