"use client";
import { setChange, type Problem, type Project } from "@arroyo/core";
import { Act, Head, Quantity, Row, SelectInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";

/** A crawl space and edge insulation to begin from: typical, unverified. */
const SUSPENDED = { kind: "suspended", height: 0.5, wallU: 1.5, vents: 0.0015, shelter: 0.05, groundResistance: 0 } as const;
const EDGE = { position: "horizontal", depth: 1, thickness: 0.06, conductivity: 0.035 } as const;

/** The ground: soil, how lowest floors meet it, edge insulation, or temperatures typed by month. */
export function GroundRows() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const { ground } = project.site;
  const set = (words: string, key: readonly string[], value: unknown): readonly Problem[] =>
    edit(`Ground: ${words}`, [setChange(project, ["site", "ground", ...key], value)]);
  const number = (label: string, key: readonly string[], value: number, unit: string, digits: number, shown = unit) => (
    <Row key={label} label={label}>
      <Quantity
        label={`Ground: ${label}`}
        value={value}
        unit={unit}
        shown={shown}
        digits={digits}
        onCommit={(v) => set(`${label} ${Number(v.toPrecision(4))}`, key, v)}
      />
    </Row>
  );
  return (
    <>
      <Head>Ground</Head>
      {number("Conductivity", ["conductivity"], ground.conductivity, "W/m·K", 2)}
      {number("Heat capacity", ["heatCapacity"], ground.heatCapacity, "J/m³K", 2, "MJ/m³K")}
      <Row label="Temperature" title="By ISO 13370 from soil, perimeter and insulation, or typed for each month">
        <SelectInput
          label="Ground temperature"
          width="124px"
          value={ground.temperature ? "typed" : "iso"}
          options={[
            { value: "iso", label: "by ISO 13370" },
            { value: "typed", label: "typed" },
          ]}
          onChange={(v) => set(v === "typed" ? "temperature typed" : "by ISO 13370", ["temperature"], v === "typed" ? new Array<number>(12).fill(12) : null)}
        />
      </Row>
      {ground.temperature ? (
        <Row label="January, July" title="The months between follow a cosine">
          <Quantity
            bare
            label="Ground temperature in January"
            value={ground.temperature[0]}
            unit="°C"
            digits={1}
            onCommit={(v) => set(`January ${v} °C`, ["temperature"], swing(v, (ground.temperature as number[])[6]))}
          />
          <Quantity
            label="Ground temperature in July"
            value={ground.temperature[6]}
            unit="°C"
            digits={1}
            onCommit={(v) => set(`July ${v} °C`, ["temperature"], swing((ground.temperature as number[])[0], v))}
          />
        </Row>
      ) : (
        <>
          <Row label="Lowest floors" title="Floors below the ground are basements by themselves">
            <SelectInput
              label="Lowest floors"
              width="124px"
              value={ground.floor.kind}
              options={[
                { value: "slab", label: "on the ground" },
                { value: "suspended", label: "suspended" },
              ]}
              onChange={(v) => set(`floors ${v}`, ["floor"], v === "slab" ? { kind: "slab" } : SUSPENDED)}
            />
          </Row>
          {ground.floor.kind === "suspended" && (
            <>
              {number("Above ground", ["floor", "height"], ground.floor.height, "m", 2)}
              {number("U of its walls", ["floor", "wallU"], ground.floor.wallU, "W/m²K", 2)}
              {number("Vents", ["floor", "vents"], ground.floor.vents, "m²/m", 0, "cm²/m")}
              {number("On its ground", ["floor", "groundResistance"], ground.floor.groundResistance, "m²K/W", 2)}
            </>
          )}
          {ground.floor.kind === "slab" && (
            <Row label="Edge insulation">
              <SelectInput
                label="Edge insulation"
                width="124px"
                value={ground.edge?.position ?? ""}
                options={[
                  { value: "", label: "none" },
                  { value: "horizontal", label: "horizontal" },
                  { value: "vertical", label: "vertical" },
                ]}
                onChange={(v) => set(v === "" ? "no edge insulation" : `edge ${v}`, ["edge"], v === "" ? null : { ...(ground.edge ?? EDGE), position: v })}
              />
            </Row>
          )}
          {ground.floor.kind === "slab" && ground.edge && (
            <>
              {number("Its depth", ["edge", "depth"], ground.edge.depth, "m", 2)}
              {number("Its thickness", ["edge", "thickness"], ground.edge.thickness, "m", 0, "mm")}
              {number("Its conductivity", ["edge", "conductivity"], ground.edge.conductivity, "W/m·K", 3)}
            </>
          )}
        </>
      )}
      {ground.temperature && <Act onClick={() => set("by ISO 13370", ["temperature"], null)}>back to ISO 13370</Act>}
    </>
  );
}

/** Twelve months of a cosine between January and July. */
function swing(january: number, july: number): number[] {
  return Array.from({ length: 12 }, (_, m) => Math.round(100 * ((january + july) / 2 + ((january - july) / 2) * Math.cos((2 * Math.PI * m) / 12))) / 100);
}
