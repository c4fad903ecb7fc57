"use client";
import { Text } from "@chakra-ui/react";
import { checkProject, freeId, orientationOf, setChange, type Project, type Shade } from "@arroyo/core";
import { Act, firstMessage, Head, Row, SelectInput, TextInput, Unit, Quantity } from "../../ui/fields.tsx";
import { Inspector } from "../../ui/Panes.tsx";
import { VaryThis } from "../../ui/VaryThis.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { useForm } from "./formStore.ts";
import { hostName } from "./names.ts";
import { Told } from "../../ui/Told.tsx";

const kindName = {
  ratio: "openings by share of wall",
  repeated: "openings by repeated unit",
  placed: "placed opening",
  skylight: "skylight",
  outline: "opening by its corners",
};

/** One opening record: size and place, glazing, what it makes, what shades it. */
export function OpeningInspector({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const units = useUnits();
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const set = useForm((s) => s.set);
  const o = project.openings[id];
  const { openings, inner, geometry, problems } = checkProject(project);
  const made = [...openings, ...inner].filter((x) => x.record === id);
  const within = inner.some((x) => x.record === id);
  const own = problems.filter((p) => p.path === `openings/${id}` || p.path.startsWith(`openings/${id}/`));
  const put = (key: string, label: string, value: unknown, times = 1): string | null =>
    firstMessage(edit(`${o.name}: ${label}`, [setChange(project, ["openings", id, key], value)]), times);
  const number = (key: string, label: string, value: number, unit: string, shown = unit, digits = 2) => (
    <Row key={key} label={label} actions={<VaryThis addresses={[`openings/${id}/${key}`]} label={label} />}>
      <Quantity
        label={label}
        value={value}
        unit={unit}
        shown={shown}
        digits={digits}
        onCommit={(v) => edit(`${o.name}: ${label} ${Number(v.toPrecision(6))}`, [setChange(project, ["openings", id, key], v)])}
      />
    </Row>
  );
  const rule = o.kind === "ratio" || o.kind === "repeated";
  const where = rule
    ? o.host
      ? hostName(project, o.host)
      : [o.orientation ?? "every side", o.space ? project.spaces[o.space].name : o.storey ? project.storeys[o.storey].name : null].filter(Boolean).join(" · ")
    : hostName(project, o.host);
  const window = rule || o.kind === "skylight" || o.use === "window";
  const upright = !within && made.some((m) => geometry.byKey.get(m.face)?.wall);
  const shades = Object.entries(project.shades).filter(([, s]) => "target" in s && s.target.kind === "opening" && s.target.opening === id);
  const shade = (value: Shade): void => {
    const key = freeId(project.shades, value.name);
    if (firstMessage(edit(`Add ${value.name}`, [{ op: "insert", path: ["shades", key], value }])) === null) select([{ kind: "shade", id: key }]);
  };
  const target = { kind: "opening" as const, opening: id };
  return (
    <Inspector title={o.name} about={`${kindName[o.kind]} · ${where}`}>
      {own.map((p, i) => (
        <Text key={i} color={p.severity === "error" ? "clay" : "ink2"} fontSize="12px" mb="1">
          <Told text={p.message} /> {p.fix && <Act onClick={() => edit(p.fix?.label ?? "Fix", p.fix?.changes ?? [])}>{p.fix.label}</Act>}
        </Text>
      ))}
      <Row label="Name">
        <TextInput label="Opening name" value={o.name} onCommit={(v) => put("name", `name ${v}`, v)} />
      </Row>
      {rule && !o.host && (
        <>
          <Row label="Walls facing">
            <SelectInput
              label="Walls facing"
              value={o.orientation ?? ""}
              options={[{ value: "", label: "every side" }, ...["south", "east", "north", "west"].map((v) => ({ value: v, label: v }))]}
              onChange={(v) => put("orientation", v || "every side", v || null)}
            />
          </Row>
          <Row label="On storey">
            <SelectInput
              label="On storey"
              value={o.storey ?? ""}
              options={[{ value: "", label: "every storey" }, ...Object.entries(project.storeys).map(([k, s]) => ({ value: k, label: s.name }))]}
              onChange={(v) => put("storey", v || "every storey", v || null)}
            />
          </Row>
          <Row label="Of space">
            <SelectInput
              label="Of space"
              value={o.space ?? ""}
              options={[{ value: "", label: "every space" }, ...Object.entries(project.spaces).map(([k, s]) => ({ value: k, label: s.name }))]}
              onChange={(v) => put("space", v || "every space", v || null)}
            />
          </Row>
        </>
      )}
      {o.kind === "ratio" && [
        number("ratio", "Share of wall", o.ratio, "1", "%", 0),
        number("sill", "Sill", o.sill, "m"),
        number("height", "Height", o.height, "m"),
      ]}
      {o.kind === "repeated" && [
        number("width", "Width of one", o.width, "m"),
        number("height", "Height", o.height, "m"),
        number("sill", "Sill", o.sill, "m"),
        number("spacing", "Middle to middle", o.spacing, "m"),
      ]}
      {o.kind === "placed" && [
        number("offset", "From the corner", o.offset, "m"),
        number("sill", "Sill", o.sill, "m"),
        number("width", "Width", o.width, "m"),
        number("height", "Height", o.height, "m"),
      ]}
      {o.kind === "placed" && within && (
        <Row label="Is">
          <SelectInput
            label="What it is"
            value={o.use}
            options={[
              { value: "door", label: "a door" },
              { value: "opening", label: "a way through, without a leaf" },
            ]}
            onChange={(v) => put("use", v === "door" ? "a door" : "a way through", v)}
          />
        </Row>
      )}
      {o.kind === "skylight" && [
        number("x", "Middle, plan x", o.x, "m"),
        number("y", "Middle, plan y", o.y, "m"),
        number("width", "Along plan x", o.width, "m"),
        number("depth", "Along plan y", o.depth, "m"),
      ]}
      {o.kind === "outline" && (
        <Row label="Corners" note="as the imported file gives them">
          <b>{o.ring.length}</b>
        </Row>
      )}
      {window && number("operable", "Can be opened", o.operable ?? 0, "1", "%", 0)}
      {!within && (
        <Row label={window ? "Glazing" : "Assembly"} actions={<VaryThis addresses={[`openings/${id}/glazing`]} label={window ? "Glazing" : "Assembly"} />}>
          <SelectInput
            label={window ? "Glazing" : "Assembly"}
            value={o.glazing ?? ""}
            options={[
              { value: "", label: "from the kit" },
              ...Object.entries(window ? project.glazings : project.assemblies).map(([g, x]) => ({ value: g, label: x.name })),
            ]}
            onChange={(v) => put("glazing", "glazing", v === "" ? null : v)}
          />
        </Row>
      )}
      <Row
        label="Makes"
        note={[
          ...new Set(
            made.map((m) => {
              const f = geometry.byKey.get(m.face);
              return f?.contact === "space" ? "inner wall" : f?.kind === "wall" ? orientationOf(f.azimuth) : "roof";
            }),
          ),
        ].join(", ")}
      >
        <b>
          {made.length} × {units.text(made.length > 0 ? made.reduce((a, x) => a + x.area, 0) / made.length : 0, "m²", 2)}
        </b>
        <Unit>{units.unit("m²")}</Unit>
      </Row>
      {upright && (
        <>
          <Head>Shading</Head>
          {shades.map(([key, s]) => (
            <Row key={key} label={s.name}>
              <Act onClick={() => select([{ kind: "shade", id: key }])}>open</Act>
            </Row>
          ))}
          <Row label="Add">
            <Act onClick={() => shade({ kind: "overhang", name: `Overhang, ${o.name}`, target, depth: 0.8, gap: 0.1, extension: 0.2 })}>overhang</Act>
            <Act onClick={() => shade({ kind: "fins", name: `Fins, ${o.name}`, target, sides: "both", depth: 0.5, gap: 0.05, extension: 0 })}>fins</Act>
            <Act onClick={() => shade({ kind: "louvres", name: `Louvres, ${o.name}`, target, count: 8, depth: 0.15, gap: 0.05, angle: 20 })}>louvres</Act>
          </Row>
        </>
      )}
      <Row label="">
        {"host" in o && o.host && o.kind !== "skylight" && <Act onClick={() => set({ view: "elevation" })}>Show on its elevation</Act>}
        <Act
          onClick={() => {
            const gone = shades.map(([key, s]) => ({ op: "remove" as const, path: ["shades", key], old: s }));
            if (edit(`Remove ${o.name}`, [...gone, { op: "remove", path: ["openings", id], old: o }]).length === 0) select([]);
          }}
        >
          Remove
        </Act>
      </Row>
    </Inspector>
  );
}
