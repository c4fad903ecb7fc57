"use client";
import {
  checkProject,
  effectiveKit,
  faceAssembly,
  freeId,
  orientationOf,
  setChange,
  spaceFields,
  spaceFieldNames,
  unsetChange,
  zoneFieldNames,
  type Change,
  type FieldSpec,
  type Project,
  type SpaceField,
  stackSpace,
  TALL_ROOM,
} from "@arroyo/core";
import { Box, Text } from "@chakra-ui/react";
import { useState } from "react";
import { Act, firstMessage, Head, OriginMark, Row, SelectInput, TextInput, Unit, Quantity } from "../../ui/fields.tsx";
import { InputRow } from "../../ui/InputRow.tsx";
import { Inspector } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { useForm } from "./formStore.ts";
import { contactName } from "./names.ts";
import { Sensors } from "./Sensors.tsx";
import { Told } from "../../ui/Told.tsx";
import { DrivenNote } from "../measured/DrivenNote.tsx";

const HIDDEN: readonly SpaceField[] = ["peopleRadiantShare", "lightingRadiantShare", "applianceRadiantShare"];

/** One space or several: what it is, its height, its inputs, its faces. */
export function SpaceInspector({ ids }: { ids: readonly string[] }) {
  const units = useUnits();
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
      {one && (
        <Row label="Name">
          <TextInput
            label="Space name"
            value={one.name}
            onCommit={(v) => firstMessage(edit(`Name ${v}`, [setChange(project, ["spaces", ids[0], "name"], v)]))}
          />
        </Row>
      )}
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
      <ZoneRow ids={ids} />
      <Row label="Floor area" note="from the outline">
        <b>{units.text(area, "m²", 1)}</b>
        <Unit>{units.unit("m²")}</Unit>
      </Row>
      {one && g && <Levels id={ids[0]} high={g.high - g.low} />}
      {one && g && g.high - g.low > TALL_ROOM && <TallRoom id={ids[0]} />}
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
                note={
                  <>
                    {contactName(project, f)} · {project.assemblies[assembly.id].name}{" "}
                    <Act
                      onClick={() => {
                        select([{ kind: "wall", id: f.host }]);
                        if (f.wall) useForm.getState().set({ view: "elevation" });
                      }}
                    >
                      open
                    </Act>
                  </>
                }
              >
                <OriginMark origin={assembly.origin} />
                {units.text(f.area, "m²", 1)}
                <Unit>{units.unit("m²")}</Unit>
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
          {one.zone && (
            <>
              <DrivenNote of={[`zones/${one.zone}/`]} />
              <Head>Capacity of the zone</Head>
              {zoneFieldNames.map((f) => (
                <InputRow key={f} kind="zone" ids={[one.zone as string]} field={f} />
              ))}
            </>
          )}
        </>
      )}
      <Act onClick={() => select([])}>Clear the selection</Act>
    </Inspector>
  );
}

/** Zone of one space or of several, an existing one or a new one of just these. */
function ZoneRow({ ids }: { ids: readonly string[] }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const zones = new Set(ids.map((id) => project.spaces[id].zone));
  const to = (zone: string, first: readonly Change[] = []): void => {
    edit(first.length > 0 ? "A zone of these" : `Zone ${project.zones[zone].name}`, [
      ...first,
      ...ids.map((id) => setChange(project, ["spaces", id, "zone"], zone)),
    ]);
  };
  return (
    <Row label="Zone">
      <SelectInput
        label="Zone"
        width="130px"
        value={zones.size > 1 ? "varies" : ([...zones][0] ?? "")}
        options={[
          ...(zones.size > 1 ? [{ value: "varies", label: "varies" }] : []),
          ...([...zones][0] === null ? [{ value: "", label: "none" }] : []),
          ...Object.entries(project.zones).map(([id, z]) => ({ value: id, label: z.name })),
        ]}
        onChange={(v) => project.zones[v] && to(v)}
      />
      <Act
        title="A new zone of just what is chosen"
        onClick={() => {
          const name = project.spaces[ids[0]].name;
          const id = freeId(project.zones, name);
          to(id, [{ op: "insert", path: ["zones", id], value: { name, services: null, inputs: {} } }]);
        }}
      >
        new
      </Act>
    </Row>
  );
}

/** Floor and ceiling of one space against its storey, and the roof it follows. */
function Levels({ id, high }: { id: string; high: number }) {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const space = project.spaces[id];
  const { form } = space;
  if (form.kind === "faces")
    return (
      <Row label="Height" note={`bounded by ${Object.keys(form.faces).length} free faces`}>
        <b>{units.text(high, "m", 2)}</b>
        <Unit>{units.unit("m")}</Unit>
      </Row>
    );
  const at = (key: string): string[] => ["spaces", id, "form", key];
  return (
    <>
      <Row
        label="Height"
        note={
          form.roof !== undefined ? (
            "to the highest point of its roof"
          ) : form.height === undefined ? (
            "from the storey"
          ) : (
            <Act onClick={() => edit("Height from the storey", [unsetChange(project, at("height"))])}>back to the storey’s</Act>
          )
        }
      >
        {form.roof !== undefined ? (
          <>
            <b>{units.text(high, "m", 2)}</b>
            <Unit>{units.unit("m")}</Unit>
          </>
        ) : (
          <Quantity
            label="Height"
            value={high}
            unit="m"
            digits={2}
            onCommit={(v) => edit(`Height ${units.words(v, "m", 2)}`, [setChange(project, at("height"), v)])}
          />
        )}
      </Row>
      <Row label="Floor over the storey’s level" note={form.base === undefined ? "at the storey’s level" : undefined}>
        <Quantity
          label="Floor over the storey’s level"
          value={form.base ?? 0}
          unit="m"
          digits={2}
          onCommit={(v) =>
            edit(`Floor at ${units.words(v, "m", 2)}`, [
              v === 0 && form.base !== undefined ? unsetChange(project, at("base")) : setChange(project, at("base"), v),
            ])
          }
        />
      </Row>
      <Row label="Storey">
        <SelectInput
          label="Storey"
          value={space.storey}
          options={Object.entries(project.storeys).map(([k, s]) => ({ value: k, label: s.name }))}
          onChange={(v) => edit(`${space.name} to ${project.storeys[v].name}`, [setChange(project, ["spaces", id, "storey"], v)])}
        />
      </Row>
      {Object.keys(project.roofs).length > 0 && (
        <Row label="Top">
          <SelectInput
            label="Top"
            value={form.roof ?? ""}
            options={[{ value: "", label: "flat ceiling" }, ...Object.entries(project.roofs).map(([k, r]) => ({ value: k, label: r.name }))]}
            onChange={(v) => edit("Top of the space", [v === "" ? unsetChange(project, at("roof")) : setChange(project, at("roof"), v)])}
          />
        </Row>
      )}
    </>
  );
}

/** A room whose air cannot be well mixed over its height, and what to do about it. */
function TallRoom({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const units = useUnits();
  const [layers, setLayers] = useState(3);
  const [said, setSaid] = useState<string | null>(null);
  const cut = (): void => {
    const e = stackSpace(project, id, layers);
    if (!e.ok) return setSaid(e.message);
    const refusal = firstMessage(edit(e.name, e.changes));
    setSaid(refusal);
    if (refusal === null) select(e.select.map((k) => ({ kind: "space" as const, id: k })));
  };
  return (
    <Box fontSize="12px" color="ink2" py="1">
      Taller than {units.words(TALL_ROOM, "m", 0)}: its air is taken as well mixed over the whole height. <Act onClick={cut}>Cut it into stacked zones</Act>{" "}
      <SelectInput
        label="Layers"
        width="86px"
        align="left"
        value={String(layers)}
        options={[2, 3, 4, 5, 6].map((n) => ({ value: String(n), label: `${n} layers` }))}
        onChange={(v) => setLayers(Number(v))}
      />
      {said && (
        <Text role="alert" color="clay">
          <Told text={said} />
        </Text>
      )}
    </Box>
  );
}
