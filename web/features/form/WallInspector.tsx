"use client";
import { Text } from "@chakra-ui/react";
import { checkProject, faceAssembly, freeId, type Change, type Face, type Project } from "@arroyo/core";
import { Act, firstMessage, Head, OriginMark, Row, SelectInput, Unit } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Inspector } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { useForm } from "./formStore.ts";
import { contactName, hostName } from "./names.ts";

/** One side of a space: what it touches, what it is made of, what is in and on it. */
export function WallInspector({ host }: { host: string }) {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const set = useForm((s) => s.set);
  const { geometry, openings, inner } = checkProject(project);
  const faces = geometry.faces.filter((f) => f.host === host);
  const override = Object.entries(project.faceOverrides).find(([, o]) => o.host === host);
  const first = faces[0];
  /** One record for each side holds both what it is made of and what is behind it; an empty one goes. */
  const put = (name: string, part: { assembly?: string | null; contact?: "ground" | "adiabatic" | null }): void => {
    const now = override?.[1];
    const assembly = part.assembly === undefined ? (now?.assembly ?? null) : part.assembly;
    const contact = part.contact === undefined ? now?.contact : (part.contact ?? undefined);
    const value = { host, assembly, ...(contact ? { contact } : {}) };
    const changes: Change[] = override
      ? [
          assembly === null && !contact
            ? { op: "remove", path: ["faceOverrides", override[0]], old: now }
            : { op: "set", path: ["faceOverrides", override[0]], value, old: now },
        ]
      : [{ op: "insert", path: ["faceOverrides", freeId(project.faceOverrides, host)], value }];
    edit(name, changes);
  };
  const here = [...openings, ...inner].filter((o) => faces.some((f) => f.key === o.face || (f.partner !== null && f.partner === o.face)));
  const plates = Object.entries(project.shades).filter(([, s]) => s.kind === "plate" && s.host === host);
  const addPlate = (): void => {
    const id = freeId(project.shades, "plate");
    const to = Math.max(...faces.map((f) => f.wall?.to ?? 0));
    const g = geometry.spaces.get(host.split("/")[0]);
    const value = {
      kind: "plate" as const,
      name: `Plate, ${hostName(project, host)}`,
      host,
      from: 0,
      to: Math.round(to * 100) / 100,
      level: Math.round(100 * ((g?.high ?? 3) - (g?.low ?? 0))) / 100,
      depth: 1.2,
    };
    if (firstMessage(edit("Add a plate", [{ op: "insert", path: ["shades", id], value }])) === null) select([{ kind: "shade", id }]);
  };
  /** A door or a way through in the middle of a part of the wall that another space lies behind. */
  const addInner = (f: Face, use: "door" | "opening"): void => {
    const w = f.wall as NonNullable<Face["wall"]>;
    const width = Math.min(use === "door" ? 1 : 2, 0.8 * (w.to - w.from));
    const name = `${use === "door" ? "Door" : "Way through"}, ${project.spaces[f.partnerSpace as string].name}`.slice(0, 200);
    const id = freeId(project.openings, name);
    const floor = geometry.spaces.get(f.space)?.low ?? w.low;
    const value = {
      kind: "placed" as const,
      name,
      host,
      use,
      offset: Math.max(0, Math.round(100 * ((w.from + w.to - width) / 2)) / 100),
      sill: Math.max(0, Math.round(100 * (w.low - floor)) / 100),
      width: Math.round(100 * width) / 100,
      height: Math.round(100 * Math.min(2.1, 0.9 * (w.high - w.low))) / 100,
      glazing: null,
    };
    if (firstMessage(edit(`Add ${name}`, [{ op: "insert", path: ["openings", id], value }])) === null) select([{ kind: "opening", id }]);
  };
  return (
    <Inspector
      title={hostName(project, host)}
      about={
        faces.length === 0
          ? "this side has no face; see the problems"
          : `${units.words(
              faces.reduce((s, f) => s + f.area, 0),
              "m²",
              1,
            )} in ${faces.length} part${faces.length > 1 ? "s" : ""}`
      }
    >
      {faces.map((f) => (
        <Row
          key={f.key}
          label={contactName(project, f)}
          note={f.kind === "wall" ? `faces ${figure(f.azimuth, 0)}°` : f.tilt > 0 && f.tilt < 180 ? `${figure(f.tilt, 0)}° from level` : undefined}
        >
          {units.text(f.area, "m²", 1)}
          <Unit>{units.unit("m²")}</Unit>
        </Row>
      ))}
      <Row label="Where it touches no space" note="what is behind it; set by hand it shows with a dashed edge">
        <OriginMark origin={override?.[1].contact ? { kind: "typed" } : { kind: "default" }} />
        <SelectInput
          label="Behind it"
          value={override?.[1].contact ?? ""}
          options={[
            { value: "", label: "found by geometry" },
            { value: "ground", label: "ground" },
            { value: "adiabatic", label: "adiabatic" },
          ]}
          onChange={(v) => put(`Behind ${hostName(project, host)}: ${v || "found"}`, { contact: v === "ground" || v === "adiabatic" ? v : null })}
        />
      </Row>
      {first && (
        <Row label="Assembly">
          <OriginMark origin={faceAssembly(project, first).origin} />
          <SelectInput
            label="Assembly"
            value={override?.[1].assembly ?? ""}
            options={[
              { value: "", label: `kit: ${project.assemblies[faceAssembly({ ...project, faceOverrides: {} }, first).id].name}` },
              ...Object.entries(project.assemblies).map(([id, a]) => ({ value: id, label: a.name })),
            ]}
            onChange={(v) => put(`Assembly of ${hostName(project, host)}`, { assembly: v === "" ? null : v })}
          />
        </Row>
      )}
      {first?.wall && (
        <>
          <Head>Openings</Head>
          {here.map((o) => (
            <Row key={o.key} label={o.name}>
              {units.text(o.area, "m²", 1)}
              <Unit>{units.unit("m²")}</Unit>
              <Act onClick={() => select([{ kind: "opening", id: o.record }])}>open</Act>
            </Row>
          ))}
          {here.length === 0 && <Text color="ink2">None.</Text>}
          <Act onClick={() => set({ view: "elevation" })}>Place openings on its elevation</Act>
          {faces.flatMap((f) =>
            f.wall && f.contact === "space" && f.partnerSpace
              ? (["door", "opening"] as const).map((use) => (
                  <Row key={`${f.key} ${use}`} label={`To ${project.spaces[f.partnerSpace as string].name}`}>
                    <Act onClick={() => addInner(f, use)}>{use === "door" ? "add a door" : "add a way through"}</Act>
                  </Row>
                ))
              : [],
          )}
          <Head>Plates</Head>
          {plates.map(([id, s]) => (
            <Row key={id} label={s.name}>
              <Act onClick={() => select([{ kind: "shade", id }])}>open</Act>
            </Row>
          ))}
          <Act onClick={addPlate}>Add a plate (balcony, canopy)</Act>
        </>
      )}
      {first && !first.wall && first.normal[2] > 0 && first.contact === "outdoors" && <AddSkylight host={host} />}
      <Row label="">
        <Act onClick={() => select([{ kind: "space", id: host.split("/")[0] }])}>Go to its space</Act>
      </Row>
    </Inspector>
  );
}

function AddSkylight({ host }: { host: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const { geometry } = checkProject(project);
  const faces = geometry.faces.filter((f) => f.host === host && f.contact === "outdoors" && f.plate);
  const add = (): void => {
    const largest = [...faces].sort((a, b) => b.area - a.area)[0];
    const ring = largest.plate?.polygons[0][0] ?? [];
    const middle = [0, 1].map((k) => ring.reduce((s, p) => s + p[k], 0) / Math.max(1, ring.length));
    const id = freeId(project.openings, "skylight");
    const value = {
      kind: "skylight" as const,
      name: `Skylight, ${project.spaces[host.split("/")[0]].name}`,
      host,
      x: Math.round(middle[0] * 100) / 100,
      y: Math.round(middle[1] * 100) / 100,
      width: 1,
      depth: 1,
      glazing: null,
    };
    if (firstMessage(edit("Add a skylight", [{ op: "insert", path: ["openings", id], value }])) === null) select([{ kind: "opening", id }]);
  };
  return <Act onClick={add}>Add a skylight</Act>;
}
