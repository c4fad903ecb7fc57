"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  assemblyLayers,
  assemblyU,
  checkProject,
  faceAssembly,
  glazingRating,
  kitRoles,
  layersResistance,
  openingConstruction,
  periodicResponse,
  setChange,
  surfaceResistances,
  type Assembly,
  type KitRole,
  type Project,
} from "@arroyo/core";
import { firstMessage, Head, NumberInput, Row, SelectInput } from "../../ui/fields.tsx";
import { Figures } from "../../ui/Figures.tsx";
import { difference, figure } from "../../ui/format.ts";
import { Grid, Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { useStore } from "../store.ts";
import { DayResponse } from "./DayResponse.tsx";
import { GlazingDesk } from "./GlazingDesk.tsx";
import { LayerExtras } from "./LayerExtras.tsx";

const roleNames: Record<KitRole, string> = {
  exteriorWall: "Exterior wall",
  roof: "Roof",
  groundFloor: "Ground floor",
  exposedFloor: "Exposed floor",
  interiorWall: "Inner wall",
  interiorFloor: "Inner floor",
  glazing: "Glazing",
  door: "Door",
};
const layerTint = ["#D8CBB4", "#EFE6D2", "#C7CDC2", "#E3D2C6", "#D3D9DC", "#E6E0EA"];

/** Area, m², each assembly and glazing covers in the model. */
function areas(project: Project): Map<string, number> {
  const { geometry, openings } = checkProject(project);
  const out = new Map<string, number>();
  const add = (id: string, area: number): void => void out.set(id, (out.get(id) ?? 0) + area);
  for (const f of geometry.faces) {
    if (f.contact === "space" && f.partner !== null && f.key > f.partner) continue;
    add(faceAssembly(project, f).id, f.area);
  }
  for (const o of openings) {
    const f = geometry.byKey.get(o.face);
    if (!f) continue;
    add(openingConstruction(project, o, f.space).id, o.area);
    add(faceAssembly(project, f).id, -o.area);
  }
  return out;
}

export function Fabric() {
  const project = useStore((s) => s.project) as Project;
  const selection = useStore((s) => s.selection);
  const select = useStore((s) => s.select);
  const id = selection.find((s) => s.kind === "assembly" && project.assemblies[s.id])?.id ?? Object.keys(project.assemblies)[0];
  const [glazing, setGlazing] = useState<string | null>(null);
  const covered = areas(project);
  const u = (a: string): string => figure(assemblyU(project, project.assemblies[a]), 2);
  return (
    <>
      <Side label="Assemblies" width="236px">
        <SideHead>Assemblies · U, W/m²K</SideHead>
        {Object.entries(project.assemblies).map(([a, x]) => (
          <SideItem
            key={a}
            active={glazing === null && a === id}
            value={u(a)}
            onClick={() => {
              setGlazing(null);
              select([{ kind: "assembly", id: a }]);
            }}
          >
            {x.name}
            {!covered.has(a) && (
              <Text as="span" display="block" fontSize="11px" color="clay">
                used nowhere
              </Text>
            )}
          </SideItem>
        ))}
        <SideHead>Glazing · U, g</SideHead>
        {Object.entries(project.glazings).map(([g, x]) => (
          <SideItem key={g} active={glazing === g} value={`${figure(glazingRating(x).u, 2)}, ${figure(glazingRating(x).g, 2)}`} onClick={() => setGlazing(g)}>
            {x.name}
            {!covered.has(g) && (
              <Text as="span" display="block" fontSize="11px" color="clay">
                used nowhere
              </Text>
            )}
          </SideItem>
        ))}
      </Side>
      <Middle label={glazing === null ? "Assembly" : "Glazing"}>
        {glazing !== null && project.glazings[glazing] ? (
          <GlazingDesk key={glazing} id={glazing} area={covered.get(glazing) ?? 0} />
        ) : (
          id && <AssemblyDesk key={id} id={id} area={covered.get(id) ?? 0} />
        )}
      </Middle>
      <Inspector title="Envelope kits" about="Which assembly each kind of element gets, unless a space or a face says otherwise.">
        {Object.entries(project.kits).map(([k, kit]) => (
          <Kit key={k} id={k} name={kit.name} />
        ))}
      </Inspector>
    </>
  );
}

function AssemblyDesk({ id, area }: { id: string; area: number }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const saved = project.assemblies[id];
  // while a thickness is typed the figures already follow it
  const [draft, setDraft] = useState<{ layer: string; thickness: number } | null>(null);
  const a: Assembly = draft
    ? { ...saved, layers: saved.layers.map((l) => (l.kind === "solid" && l.id === draft.layer ? { ...l, thickness: draft.thickness } : l)) }
    : saved;
  const layers = assemblyLayers(project, a);
  const [rse, rsi] = surfaceResistances(a.use);
  const u = assemblyU(project, a);
  const [before] = useState(() => assemblyU(project, saved));
  const periodic = periodicResponse(layers, 86400, Math.max(rse, 1e-6), rsi);
  const mass = a.layers.reduce((s, l) => s + (l.kind === "solid" ? l.thickness * project.materials[l.material].density : 0), 0);
  const capacity = layers.reduce((s, l) => s + l.thickness * l.density * l.specificHeat, 0);
  const figures: [string, string, string][] = [
    ["U", figure(u, 3), "W/m²K"],
    ["Resistance of layers", figure(layersResistance(layers), 2), "m²K/W"],
    ["Mass", figure(mass, 0), "kg/m²"],
    ["Heat capacity", figure(capacity / 1000, 0), "kJ/m²K"],
    ["Decrement factor, 24 h", figure(periodic.decrement, 2), ""],
    ["Time shift", figure(periodic.timeShift / 3600, 1), "h"],
    ["Periodic transmittance", figure(periodic.periodicTransmittance, 3), "W/m²K"],
    ["Inside admittance", figure(periodic.insideAdmittance, 2), "W/m²K"],
    ["Capacity met from inside", figure((periodic.insideAdmittance * 86400) / (2 * Math.PI) / 1000, 0), "kJ/m²K"],
    ["In the model", figure(area, 0), "m²"],
  ];
  return (
    <>
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          {a.name}
        </Text>
        <Text color="ink2">{a.use}</Text>
        <Flex ml="auto" align="baseline" gap="2">
          <Text textStyle="figure" data-testid="assembly-u">
            {figure(u, 3)}
          </Text>
          <Text color="ink2">W/m²K</Text>
          {Math.abs(u - before) > 5e-4 && (
            <Text color={u > before ? "clay" : "water"}>
              {difference(u - before, 3)} from {figure(before, 3)}
            </Text>
          )}
        </Flex>
      </Flex>
      <Section assembly={a} project={project} />
      <Grid
        label="Layers"
        head={[
          { text: "Layer", left: true },
          { text: "Thickness", unit: "mm" },
          { text: "Conductivity", unit: "W/m·K" },
          { text: "Density", unit: "kg/m³" },
          { text: "Resistance", unit: "m²K/W" },
          { text: "Share of R", unit: "%" },
        ]}
        rows={[
          {
            key: "out",
            cells: [
              <Text key="t" color="ink2">
                outside surface
              </Text>,
              "",
              "",
              "",
              figure(rse, 2),
              figure(100 * rse * u, 0),
            ],
          },
          ...a.layers.map((l, i) => ({
            key: l.id,
            cells:
              l.kind === "solid"
                ? [
                    <SelectInput
                      key="m"
                      label={`Material of layer ${i + 1}`}
                      align="left"
                      width="190px"
                      value={l.material}
                      options={Object.entries(project.materials).map(([m, x]) => ({ value: m, label: x.name }))}
                      onChange={(v) => edit(`${a.name}: ${project.materials[v].name}`, [setChange(project, ["assemblies", id, "layers", l.id, "material"], v)])}
                    />,
                    <NumberInput
                      key="d"
                      label={`Thickness of ${project.materials[l.material].name}`}
                      value={(saved.layers[i] as typeof l).thickness * 1000}
                      onDraft={(mm) => setDraft(mm !== null && mm > 0 && mm <= 10000 ? { layer: l.id, thickness: mm / 1000 } : null)}
                      digits={l.thickness < 0.1 ? 1 : 0}
                      onCommit={(v) =>
                        firstMessage(
                          edit(`${a.name}: ${project.materials[l.material].name} ${v} mm`, [
                            setChange(project, ["assemblies", id, "layers", l.id, "thickness"], v / 1000),
                          ]),
                          1000,
                        )
                      }
                    />,
                    figure(project.materials[l.material].conductivity, 3),
                    figure(project.materials[l.material].density, 0),
                    figure(layers[i].resistance, 2),
                    figure(100 * layers[i].resistance * u, 0),
                  ]
                : l.kind === "circuit"
                  ? [
                      <Text key="n" px="1">
                        {l.name} (embedded circuit)
                      </Text>,
                      "—",
                      "—",
                      "—",
                      "—",
                      "—",
                    ]
                  : [
                      <Text key="n" px="1">
                        {l.name}
                      </Text>,
                      "—",
                      "—",
                      "—",
                      <NumberInput
                        key="r"
                        label={`Resistance of ${l.name}`}
                        value={l.resistance}
                        digits={2}
                        onCommit={(v) =>
                          firstMessage(edit(`${a.name}: ${l.name} ${v}`, [setChange(project, ["assemblies", id, "layers", l.id, "resistance"], v)]))
                        }
                      />,
                      figure(100 * l.resistance * u, 0),
                    ],
          })),
          {
            key: "in",
            cells: [
              <Text key="t" color="ink2">
                inside surface
              </Text>,
              "",
              "",
              "",
              figure(rsi, 2),
              figure(100 * rsi * u, 0),
            ],
          },
        ]}
      />
      <Box mt="3">
        <Figures figures={figures} />
      </Box>
      <DayResponse assembly={a} layers={layers} films={[Math.max(rse, 1e-6), rsi]} project={project} />
      <LayerExtras id={id} assembly={saved} />
    </>
  );
}

/** The build-up drawn to scale, outside left. */
function Section({ assembly, project }: { assembly: Assembly; project: Project }) {
  const thickness = (l: Assembly["layers"][number]): number => (l.kind === "solid" ? l.thickness : l.kind === "resistance" ? 0.03 : 0);
  const total = assembly.layers.reduce((s, l) => s + thickness(l), 0);
  const widths = assembly.layers.map((l) => Math.max(6, (560 * thickness(l)) / Math.max(total, 0.2)));
  const starts = widths.map((_, i) => widths.slice(0, i).reduce((a, b) => a + b, 70));
  const end = widths.reduce((a, b) => a + b, 70);
  return (
    <svg viewBox="0 0 700 138" width="100%" height="126" role="img" aria-label={`Build-up of ${assembly.name}, outside left`} fontFamily="IBM Plex Sans">
      <text x="60" y="72" textAnchor="end" fontSize="12" fill="var(--chakra-colors-ink2)">
        outside
      </text>
      <text x={end + 10} y="72" fontSize="12" fill="var(--chakra-colors-ink2)">
        inside
      </text>
      {assembly.layers.map((l, i) => (
        <g key={l.id}>
          <rect
            x={starts[i]}
            y="10"
            width={widths[i]}
            height="104"
            fill={l.kind === "resistance" ? "var(--chakra-colors-sheet)" : layerTint[i % layerTint.length]}
            stroke="var(--chakra-colors-ink)"
            strokeWidth="0.8"
            strokeDasharray={l.kind === "resistance" ? "3 3" : undefined}
          >
            <title>{l.kind === "solid" ? `${project.materials[l.material].name}, ${figure(l.thickness * 1000, 0)} mm` : l.name}</title>
          </rect>
          {widths[i] > 26 && (
            <text x={starts[i] + widths[i] / 2} y="130" textAnchor="middle" fontSize="11" fill="var(--chakra-colors-ink2)">
              {l.kind === "solid" ? figure(l.thickness * 1000, 0) : l.kind === "resistance" ? "gap" : ""}
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}

function Kit({ id, name }: { id: string; name: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const kit = project.kits[id];
  const uses: Record<Exclude<KitRole, "glazing">, Assembly["use"]> = {
    exteriorWall: "exterior wall",
    roof: "roof",
    groundFloor: "ground floor",
    exposedFloor: "exposed floor",
    interiorWall: "interior wall",
    interiorFloor: "interior floor",
    door: "door",
  };
  const choices = (role: KitRole): { value: string; label: string }[] =>
    role === "glazing"
      ? Object.entries(project.glazings).map(([g, x]) => ({ value: g, label: x.name }))
      : Object.entries(project.assemblies)
          .filter(([, x]) => x.use === uses[role])
          .map(([x, y]) => ({ value: x, label: y.name }));
  return (
    <>
      <Head>
        {name}
        {id === project.defaults.kit ? " · project" : ""}
      </Head>
      {kitRoles.map((role) => (
        <Row key={role} label={roleNames[role]}>
          <SelectInput
            label={`${roleNames[role]} of ${name}`}
            width="164px"
            value={kit[role]}
            options={choices(role)}
            onChange={(v) => edit(`${name}: ${roleNames[role]}`, [setChange(project, ["kits", id, role], v)])}
          />
        </Row>
      ))}
    </>
  );
}
