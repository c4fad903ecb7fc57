"use client";
import { Text } from "@chakra-ui/react";
import {
  checkProject,
  effectiveKit,
  faceAssembly,
  orientationOf,
  setChange,
  spaceFields,
  spaceFieldNames,
  type FieldSpec,
  type Opening,
  type Orientation,
  type Project,
  type SpaceField,
} from "@arroyo/core";
import { Act, firstMessage, Head, NumberInput, OriginMark, Row, SelectInput, Unit } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { InputRow } from "../../ui/InputRow.tsx";
import { Inspector } from "../../ui/Panes.tsx";
import { useStore } from "../store.ts";
import { Sensors } from "./Sensors.tsx";

const orientations: readonly Orientation[] = ["south", "east", "north", "west"];
const HIDDEN: readonly SpaceField[] = ["peopleRadiantShare", "lightingRadiantShare", "applianceRadiantShare"];

export function FormInspector() {
  const project = useStore((s) => s.project) as Project;
  const selection = useStore((s) => s.selection);
  const spaces = selection.filter((s) => s.kind === "space" && project.spaces[s.id]).map((s) => s.id);
  const opening = selection.find((s) => s.kind === "opening" && project.openings[s.id]);
  const storey = selection.find((s) => s.kind === "storey" && project.storeys[s.id]);
  if (spaces.length > 0) return <SpaceInspector ids={spaces} />;
  if (opening) return <OpeningInspector id={opening.id} />;
  return <BuildingInspector storey={storey?.id ?? null} />;
}

function SpaceInspector({ ids }: { ids: readonly string[] }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const { geometry } = checkProject(project);
  const one = ids.length === 1 ? project.spaces[ids[0]] : null;
  const g = geometry.spaces.get(ids[0]);
  const area = ids.reduce((a, id) => a + (geometry.spaces.get(id)?.floorArea ?? 0), 0);
  const types = new Set(ids.map((id) => project.spaces[id].spaceType));
  const groups = [...new Set(spaceFieldNames.map((f) => spaceFields[f].group))];
  const faces = one ? geometry.faces.filter((f) => f.space === ids[0]) : [];
  return (
    <Inspector
      title={one ? one.name : `${ids.length} spaces`}
      about={
        one ? `space · zone “${one.zone ? project.zones[one.zone]?.name : "none"}” · ${project.storeys[one.storey].name}` : "shared values edit all of them"
      }
    >
      <Row label="Space type">
        <SelectInput
          label="Space type"
          value={types.size > 1 ? "varies" : ([...types][0] ?? "")}
          options={[
            ...(types.size > 1 ? [{ value: "varies", label: "varies" }] : []),
            ...([...types][0] === null ? [{ value: "", label: "none" }] : []),
            ...Object.entries(project.spaceTypes).map(([id, t]) => ({ value: id, label: t.name })),
          ]}
          onChange={(v) =>
            project.spaceTypes[v] &&
            edit(
              `Space type ${project.spaceTypes[v].name}`,
              ids.map((id) => setChange(project, ["spaces", id, "spaceType"], v)),
            )
          }
        />
      </Row>
      <Row label="Floor area" note="from the outline">
        <b>{figure(area)}</b>
        <Unit>m²</Unit>
      </Row>
      {one && g && (
        <Row label="Height" note={one.form.kind === "prism" && one.form.height === undefined ? "from the storey" : undefined}>
          <NumberInput
            label="Height"
            value={g.high - g.low}
            digits={2}
            onCommit={(v) => firstMessage(edit(`Height ${v} m`, [setChange(project, ["spaces", ids[0], "form", "height"], v)]))}
          />
          <Unit>m</Unit>
        </Row>
      )}
      {groups.map((group) => (
        <div key={group}>
          <Head>{group}</Head>
          {spaceFieldNames
            .filter((f) => (spaceFields[f] as FieldSpec).group === group && !HIDDEN.includes(f))
            .map((f) => (
              <InputRow key={f} kind="space" ids={ids} field={f} />
            ))}
        </div>
      ))}
      {one && (
        <>
          <Sensors space={ids[0]} />
          <Head>Faces</Head>
          {faces.map((f) => {
            const assembly = faceAssembly(project, f);
            return (
              <Row
                key={f.key}
                label={`${f.kind}${f.kind === "wall" ? ` ${orientationOf(f.azimuth)}` : ""}`}
                note={`${f.contact === "space" ? `to ${project.spaces[f.partnerSpace as string].name}` : f.contact} · ${project.assemblies[assembly.id].name}`}
              >
                <OriginMark origin={assembly.origin} />
                {figure(f.area)}
                <Unit>m²</Unit>
              </Row>
            );
          })}
          <Row label="Envelope kit">
            <OriginMark origin={effectiveKit(project, ids[0]).origin} />
            <SelectInput
              label="Envelope kit"
              value={one.kit ?? ""}
              options={[
                { value: "", label: `project: ${project.kits[project.defaults.kit].name}` },
                ...Object.entries(project.kits).map(([id, k]) => ({ value: id, label: k.name })),
              ]}
              onChange={(v) => edit("Envelope kit", [setChange(project, ["spaces", ids[0], "kit"], v === "" ? null : v)])}
            />
          </Row>
          <Row label="Zone">
            <SelectInput
              label="Zone"
              value={one.zone ?? ""}
              options={[
                ...(one.zone === null ? [{ value: "", label: "none" }] : []),
                ...Object.entries(project.zones).map(([id, z]) => ({ value: id, label: z.name })),
              ]}
              onChange={(v) => edit("Zone", [setChange(project, ["spaces", ids[0], "zone"], v)])}
            />
          </Row>
          {one.zone && (
            <>
              <Head>Capacity of the zone</Head>
              <InputRow kind="zone" ids={[one.zone]} field="heatingCapacity" />
              <InputRow kind="zone" ids={[one.zone]} field="coolingCapacity" />
            </>
          )}
        </>
      )}
      <Act onClick={() => select([])}>Clear the selection</Act>
    </Inspector>
  );
}

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

function BuildingInspector({ storey }: { storey: string | null }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const { geometry } = checkProject(project);
  const shares = glazedShare(project);
  const area = [...geometry.spaces.values()].reduce((a, s) => a + s.floorArea, 0);
  const volume = [...geometry.spaces.values()].reduce((a, s) => a + s.volume, 0);
  const envelope = geometry.faces.filter((f) => f.contact !== "space").reduce((a, f) => a + f.area, 0);
  const general = (o: Orientation): [string, Extract<Opening, { kind: "ratio" }>] | undefined =>
    Object.entries(project.openings).find(
      (e): e is [string, Extract<Opening, { kind: "ratio" }>] => e[1].kind === "ratio" && e[1].orientation === o && e[1].space === null && e[1].storey === null,
    );
  const level = storey ? project.storeys[storey] : null;
  const setRatio = (o: Orientation, percent: number): string | null => {
    const existing = general(o);
    if (existing) return firstMessage(edit(`Glazing ${o} ${percent} %`, [setChange(project, ["openings", existing[0], "ratio"], percent / 100)]));
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
          {(["elevation", "height"] as const).map((k) => (
            <Row key={k} label={k === "elevation" ? "Level" : "Floor to floor"}>
              <NumberInput
                label={k}
                value={level[k]}
                digits={2}
                onCommit={(v) => firstMessage(edit(`${level.name}, ${k} ${v} m`, [setChange(project, ["storeys", storey, k], v)]))}
              />
              <Unit>m</Unit>
            </Row>
          ))}
          <Row label="Stands for">
            <NumberInput
              label="Storey multiplier"
              value={level.multiplier}
              digits={0}
              onCommit={(v) => firstMessage(edit(`${level.name} ×${v}`, [setChange(project, ["storeys", storey, "multiplier"], v)]))}
            />
            <Unit>storeys</Unit>
          </Row>
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
            note={s.wall > 0 ? `${figure((100 * s.glass) / s.wall, 0)} % of ${figure(s.wall, 0)} m² wall, all windows` : "no outdoor wall"}
          >
            <NumberInput label={`Glazing ${o}`} value={record ? 100 * record[1].ratio : null} digits={0} onCommit={(v) => setRatio(o, v)} />
            <Unit>% of wall</Unit>
          </Row>
        );
      })}
      <Head>Building</Head>
      <Row label="Floor area">
        <b>{figure(area, 0)}</b>
        <Unit>m²</Unit>
      </Row>
      <Row label="Volume">
        <b>{figure(volume, 0)}</b>
        <Unit>m³</Unit>
      </Row>
      <Row label="Envelope" note="walls, roofs and floors to outdoors and ground">
        <b>{figure(envelope, 0)}</b>
        <Unit>m²</Unit>
      </Row>
      <Row label="Envelope per volume">
        <b>{figure(envelope / volume, 2)}</b>
        <Unit>1/m</Unit>
      </Row>
      <Head>Shading</Head>
      {Object.entries(project.shades).map(([id, s]) => (
        <Row key={id} label={s.name}>
          <NumberInput
            label={`${s.name} depth`}
            value={s.depth}
            digits={2}
            onCommit={(v) => firstMessage(edit(`${s.name} ${v} m deep`, [setChange(project, ["shades", id, "depth"], v)]))}
          />
          <Unit>m deep</Unit>
        </Row>
      ))}
      {Object.keys(project.shades).length === 0 && <Text color="ink2">None.</Text>}
      {level && <Act onClick={() => select([])}>Clear the selection</Act>}
    </Inspector>
  );
}

function OpeningInspector({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const o = project.openings[id];
  const { openings } = checkProject(project);
  const made = openings.filter((x) => x.record === id);
  const number = (key: string, label: string, value: number, unit: string, factor = 1, digits = 2) => (
    <Row label={label}>
      <NumberInput
        label={label}
        value={value * factor}
        digits={digits}
        onCommit={(v) => firstMessage(edit(`${o.name}: ${label} ${v}`, [setChange(project, ["openings", id, key], v / factor)]))}
      />
      <Unit>{unit}</Unit>
    </Row>
  );
  return (
    <Inspector
      title={o.name}
      about={
        o.kind === "ratio"
          ? `openings by ratio · ${o.orientation} · ${o.space ? project.spaces[o.space].name : o.storey ? project.storeys[o.storey].name : "every space"}`
          : `${o.use} in ${project.spaces[o.host.split("/")[0]]?.name}`
      }
    >
      {o.kind === "ratio" ? (
        <>
          {number("ratio", "Share of wall", o.ratio, "%", 100, 0)}
          {number("sill", "Sill", o.sill, "m")}
          {number("height", "Height", o.height, "m")}
        </>
      ) : (
        <>
          {number("offset", "From the corner", o.offset, "m")}
          {number("sill", "Sill", o.sill, "m")}
          {number("width", "Width", o.width, "m")}
          {number("height", "Height", o.height, "m")}
        </>
      )}
      {(o.kind === "ratio" || o.use === "window") && number("operable", "Can be opened", o.operable ?? 0, "%", 100, 0)}
      {(o.kind === "ratio" || o.use === "window") && (
        <Row label="Glazing">
          <SelectInput
            label="Glazing"
            value={o.glazing ?? ""}
            options={[{ value: "", label: "from the kit" }, ...Object.entries(project.glazings).map(([g, x]) => ({ value: g, label: x.name }))]}
            onChange={(v) => edit(`${o.name}: glazing`, [setChange(project, ["openings", id, "glazing"], v === "" ? null : v)])}
          />
        </Row>
      )}
      <Row label="Makes" note={`${made.length} opening${made.length === 1 ? "" : "s"}`}>
        <b>{figure(made.reduce((a, x) => a + x.area, 0))}</b>
        <Unit>m²</Unit>
      </Row>
      <Act onClick={() => edit(`Remove ${o.name}`, [{ op: "remove", path: ["openings", id], old: o }])}>Remove</Act>
    </Inspector>
  );
}
