"use client";
import { Text } from "@chakra-ui/react";
import { checkProject, orientationOf, proposeZones, setChange, zoningRules, type Opening, type Orientation, type Project } from "@arroyo/core";
import { Act, firstMessage, Head, NumberInput, Row, Unit } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Inspector } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useState } from "react";
import { useStore } from "../store.ts";
import { StoreyRows } from "./StoreyRows.tsx";
import { Told } from "../../ui/Told.tsx";

const orientations: readonly Orientation[] = ["south", "east", "north", "west"];

/** Share of the outdoor wall area that is glazed, by side of the building. */
function glazedShare(project: Project): Record<Orientation, { wall: number; glass: number }> {
  const { geometry, openings } = checkProject(project);
  const out = { north: { wall: 0, glass: 0 }, east: { wall: 0, glass: 0 }, south: { wall: 0, glass: 0 }, west: { wall: 0, glass: 0 } };
  for (const f of geometry.faces) if (f.kind === "wall" && f.contact === "outdoors") out[orientationOf(f.azimuth)].wall += f.area;
  for (const o of openings) {
    const f = geometry.byKey.get(o.face);
    if (f && o.use === "window") out[orientationOf(f.azimuth)].glass += o.area;
  }
  return out;
}

/** The whole building, or one storey of it. */
export function BuildingInspector({ storey }: { storey: string | null }) {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const [said, setSaid] = useState<string | null>(null);
  const { geometry } = checkProject(project);
  const shares = glazedShare(project);
  const area = [...geometry.spaces.values()].reduce((a, s) => a + s.floorArea, 0);
  const volume = [...geometry.spaces.values()].reduce((a, s) => a + s.volume, 0);
  const envelope = geometry.faces.filter((f) => f.contact === "outdoors" || f.contact === "ground").reduce((a, f) => a + f.area, 0);
  const general = (o: Orientation): [string, Extract<Opening, { kind: "ratio" }>] | undefined =>
    Object.entries(project.openings).find(
      (e): e is [string, Extract<Opening, { kind: "ratio" }>] =>
        e[1].kind === "ratio" && e[1].orientation === o && e[1].space === null && e[1].storey === null && !e[1].host,
    );
  const level = storey ? project.storeys[storey] : null;
  const setRatio = (o: Orientation, percent: number): string | null => {
    const existing = general(o);
    if (existing) return firstMessage(edit(`Glazing ${o} ${percent} %`, [setChange(project, ["openings", existing[0], "ratio"], percent / 100)]), 100);
    const id = `${o}_windows`;
    return firstMessage(
      edit(`Glazing ${o} ${percent} %`, [
        {
          op: "insert",
          path: ["openings", id],
          value: {
            kind: "ratio",
            name: `Windows ${o}`,
            orientation: o,
            storey: null,
            space: null,
            ratio: percent / 100,
            sill: 0.9,
            height: 1.8,
            glazing: null,
          },
        },
      ]),
    );
  };
  return (
    <Inspector
      title={level ? level.name : project.name}
      about={level ? "storey" : "Select a space in the plan, the list or the building to see and change what it is made of."}
    >
      {level && storey && (
        <>
          <StoreyRows id={storey} />
        </>
      )}
      <Head>Glazing by side</Head>
      {orientations.map((o) => {
        const record = general(o);
        const s = shares[o];
        return (
          <Row
            key={o}
            label={o[0].toUpperCase() + o.slice(1)}
            note={s.wall > 0 ? `${figure((100 * s.glass) / s.wall, 0)} % of ${units.words(s.wall, "m²", 0)} wall, all windows` : "no outdoor wall"}
          >
            <NumberInput label={`Glazing ${o}`} value={record ? 100 * record[1].ratio : null} digits={0} onCommit={(v) => setRatio(o, v)} />
            <Unit>% of wall</Unit>
          </Row>
        );
      })}
      <Head>Building</Head>
      <Row label="Floor area">
        <b>{units.text(area, "m²", 0)}</b>
        <Unit>{units.unit("m²")}</Unit>
      </Row>
      <Row label="Volume">
        <b>{units.text(volume, "m³", 0)}</b>
        <Unit>{units.unit("m³")}</Unit>
      </Row>
      <Row label="Envelope" note="walls, roofs and floors to outdoors and ground">
        <b>{units.text(envelope, "m²", 0)}</b>
        <Unit>{units.unit("m²")}</Unit>
      </Row>
      <Row label="Envelope per volume">
        <b>{units.text(envelope / volume, "1/m", 2)}</b>
        <Unit>{units.unit("1/m")}</Unit>
      </Row>
      <Row label="Turn of the plan" note="true direction of the top of the plan, clockwise from north">
        <NumberInput
          label="Turn of the plan"
          value={project.site.planNorth}
          digits={0}
          onCommit={(v) => firstMessage(edit(`Plan turned to ${v}°`, [setChange(project, ["site", "planNorth"], v)]))}
        />
        <Unit>°</Unit>
      </Row>
      <Head>Zones</Head>
      <Row label="Zones" note="a zone is one or more spaces held by one thermostat">
        <b>{Object.keys(project.zones).length}</b>
        <Unit>for {Object.keys(project.spaces).length} spaces</Unit>
      </Row>
      <Text color="ink2" fontSize="12px" mt="1">
        Propose, by
      </Text>
      {zoningRules.map((rule) => (
        <Row key={rule} label={rule}>
          <Act
            onClick={() => {
              const e = proposeZones(project, rule);
              setSaid(e.ok ? firstMessage(edit(e.name, e.changes)) : e.message);
            }}
          >
            Make these zones
          </Act>
        </Row>
      ))}
      {said && (
        <Text role="status" color="ink2" fontSize="12px" mt="1">
          <Told text={said} />
        </Text>
      )}
      {level && <Act onClick={() => select([])}>Clear the selection</Act>}
    </Inspector>
  );
}
