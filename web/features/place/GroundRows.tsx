"use client";
import { setChange, type Project } from "@arroyo/core";
import { Act, firstMessage, Head, NumberInput, Row, SelectInput, Unit } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";

/** A crawl space and edge insulation to begin from: typical, unverified. */
const SUSPENDED = { kind: "suspended", height: 0.5, wallU: 1.5, vents: 0.0015, shelter: 0.05, groundResistance: 0 } as const;
const EDGE = { position: "horizontal", depth: 1, thickness: 0.06, conductivity: 0.035 } as const;

/** The ground: soil, how lowest floors meet it, edge insulation, or temperatures typed by month. */
export function GroundRows() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const { ground } = project.site;
  const set = (words: string, key: readonly string[], value: unknown, times = 1): string | null =>
    firstMessage(edit(`Ground: ${words}`, [setChange(project, ["site", "ground", ...key], value)]), times);
  const number = (label: string, key: readonly string[], value: number, unit: string, digits: number, factor = 1) => (
    <Row key={label} label={label}>
      <NumberInput label={`Ground: ${label}`} value={value * factor} digits={digits} onCommit={(v) => set(`${label} ${v}`, key, v / factor, factor)} />
      <Unit>{unit}</Unit>
    </Row>
  );
  return (
    <>
      <Head>Ground</Head>
      {number("Conductivity", ["conductivity"], ground.conductivity, "W/m·K", 2)}
      {number("Heat capacity", ["heatCapacity"], ground.heatCapacity, "MJ/m³K", 2, 1e-6)}
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
          <NumberInput
            label="Ground temperature in January"
            value={ground.temperature[0]}
            digits={1}
            onCommit={(v) => set(`January ${v} °C`, ["temperature"], swing(v, (ground.temperature as number[])[6]))}
          />
          <NumberInput
            label="Ground temperature in July"
            value={ground.temperature[6]}
            digits={1}
            onCommit={(v) => set(`July ${v} °C`, ["temperature"], swing((ground.temperature as number[])[0], v))}
          />
          <Unit>°C</Unit>
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
              {number("Vents", ["floor", "vents"], ground.floor.vents, "cm²/m", 0, 1e4)}
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
              {number("Its thickness", ["edge", "thickness"], ground.edge.thickness, "mm", 0, 1000)}
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
