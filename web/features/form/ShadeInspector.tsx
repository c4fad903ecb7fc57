"use client";
import { setChange, type Project, type Problem } from "@arroyo/core";
import { Act, Row, SelectInput, TextInput, Quantity, firstMessage } from "../../ui/fields.tsx";
import { Inspector } from "../../ui/Panes.tsx";
import { VaryThis } from "../../ui/VaryThis.tsx";
import { useStore } from "../store.ts";
import { LetsThrough } from "./LetsThrough.tsx";
import { hostName } from "./names.ts";

const kindName = { overhang: "overhang", fins: "side fins", louvres: "louvres", plate: "plate on a wall", plane: "free plane" };

/** Sizes of one shading device. */
export function ShadeInspector({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const s = project.shades[id];
  const put = (key: string, label: string, value: unknown): readonly Problem[] => edit(`${s.name}: ${label}`, [setChange(project, ["shades", id, key], value)]);
  const number = (key: string, label: string, value: number, unit = "m", digits = 2) => (
    <Row key={key} label={label} actions={<VaryThis addresses={[`shades/${id}/${key}`]} label={label} />}>
      <Quantity label={label} value={value} unit={unit} digits={digits} onCommit={(v) => put(key, `${label} ${Number(v.toPrecision(6))}`, v)} />
    </Row>
  );
  const of =
    s.kind === "plane"
      ? `${s.ring.length} corners`
      : s.kind === "plate"
        ? hostName(project, s.host)
        : s.target.kind === "opening"
          ? project.openings[s.target.opening]?.name
          : s.target.kind === "wall"
            ? hostName(project, s.target.host)
            : `${s.target.orientation} windows${s.target.storey ? `, ${project.storeys[s.target.storey].name}` : ""}`;
  return (
    <Inspector title={s.name} about={`${kindName[s.kind]} · ${of ?? ""}`}>
      <Row label="Name">
        <TextInput label="Shading name" value={s.name} onCommit={(v) => firstMessage(put("name", `name ${v}`, v))} />
      </Row>
      {s.kind === "overhang" && [number("depth", "Depth", s.depth), number("gap", "Above the head", s.gap), number("extension", "Past each side", s.extension)]}
      {s.kind === "fins" && (
        <>
          <Row label="Sides" note="seen from outside">
            <SelectInput
              label="Sides"
              value={s.sides}
              options={["left", "right", "both"].map((v) => ({ value: v, label: v }))}
              onChange={(v) => put("sides", v, v)}
            />
          </Row>
          {[number("depth", "Depth", s.depth), number("gap", "From the opening", s.gap), number("extension", "Above and below", s.extension)]}
        </>
      )}
      {s.kind === "louvres" && [
        number("count", "Blades", s.count, "1", 0),
        number("depth", "Width of a blade", s.depth),
        number("gap", "From the wall", s.gap),
        number("angle", "Slope down to outside", s.angle, "°", 0),
      ]}
      {s.kind === "plate" && [
        number("from", "From", s.from),
        number("to", "To", s.to),
        number("level", "Above the floor", s.level),
        number("depth", "Depth", s.depth),
      ]}
      {s.kind === "plane" &&
        s.ring.map((c, i) => (
          <Row key={i} label={`Corner ${i + 1}`} note="x, y in plan, level">
            {([0, 1, 2] as const).map((k) => (
              <Quantity
                key={k}
                bare={k < 2}
                label={`Corner ${i + 1} ${"xyz"[k]}`}
                value={c[k]}
                unit="m"
                digits={2}
                width="52px"
                onCommit={(v) =>
                  put(
                    "ring",
                    `corner ${i + 1}`,
                    s.ring.map((q, j) => (j === i ? q.map((w, m) => (m === k ? v : w)) : q)),
                  )
                }
              />
            ))}
          </Row>
        ))}
      <LetsThrough id={id} />
      <Act onClick={() => edit(`Remove ${s.name}`, [{ op: "remove", path: ["shades", id], old: s }]).length === 0 && select([])}>Remove</Act>
    </Inspector>
  );
}
