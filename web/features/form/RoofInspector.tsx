"use client";
import { removeRoof, setChange, type Project, type Roof } from "@arroyo/core";
import { Act, firstMessage, Row, SelectInput, TextInput, Quantity } from "../../ui/fields.tsx";
import { Inspector } from "../../ui/Panes.tsx";
import { useStore } from "../store.ts";

const kinds: readonly Roof["kind"][] = ["flat", "shed", "gable", "hip"];

/** One roof and what follows it. */
export function RoofInspector({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const roof = project.roofs[id];
  const under = Object.values(project.spaces).filter((s) => s.form.kind === "prism" && s.form.roof === id);
  const number = (key: "pitch" | "direction" | "eaves", label: string, unit: string, note?: string) => (
    <Row label={label} note={note}>
      <Quantity
        label={label}
        value={roof[key]}
        unit={unit}
        digits={key === "eaves" ? 2 : 0}
        onCommit={(v) => edit(`${roof.name}, ${label.toLowerCase()} ${Number(v.toPrecision(6))}`, [setChange(project, ["roofs", id, key], v)])}
      />
    </Row>
  );
  return (
    <Inspector title={roof.name} about={`roof over ${project.storeys[roof.storey].name} · ${under.map((s) => s.name).join(", ") || "nothing follows it"}`}>
      <Row label="Name">
        <TextInput label="Roof name" value={roof.name} onCommit={(v) => firstMessage(edit(`Name ${v}`, [setChange(project, ["roofs", id, "name"], v)]))} />
      </Row>
      <Row label="Shape">
        <SelectInput
          label="Shape"
          value={roof.kind}
          options={kinds.map((k) => ({ value: k, label: k }))}
          onChange={(v) => edit(`${roof.name}: ${v}`, [setChange(project, ["roofs", id, "kind"], v)])}
        />
      </Row>
      {roof.kind !== "flat" && number("pitch", "Pitch", "°")}
      {(roof.kind === "shed" || roof.kind === "gable") &&
        number("direction", roof.kind === "shed" ? "Falls toward" : "Ridge along", "°", "clockwise from the top of the plan")}
      {number("eaves", "Eaves over the storey", "m")}
      <Act
        onClick={() => {
          const e = removeRoof(project, id);
          if (e.ok && edit(e.name, e.changes).length === 0) select([]);
        }}
      >
        Remove this roof
      </Act>
    </Inspector>
  );
}
