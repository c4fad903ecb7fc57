"use client";
import { useState } from "react";
import { setChange, undisturbedSoil, type Problem, type Project } from "@arroyo/core";
import { Act, firstMessage, Head, Quantity, Row, SelectInput } from "../../ui/fields.tsx";
import { monthNames } from "../../ui/format.ts";
import { useStore } from "../store.ts";
import { Months } from "./Months.tsx";

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
        <Typed temperatures={ground.temperature} set={set} />
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

/** Ground temperatures typed month by month, or taken from the year in view at a depth. */
function Typed({ temperatures, set }: { temperatures: readonly number[]; set: (words: string, key: readonly string[], value: unknown) => readonly Problem[] }) {
  const project = useStore((s) => s.project) as Project;
  const hours = useStore((s) => s.live.weather?.hours);
  const [depth, setDepth] = useState(1);
  const { conductivity, heatCapacity } = project.site.ground;
  return (
    <>
      <Months
        label="ground temperature"
        values={temperatures}
        unit="°C"
        onCommit={(m, v) =>
          firstMessage(
            set(
              `${monthNames[m]} ${v} °C`,
              ["temperature"],
              temperatures.map((t, i) => (i === m ? v : t)),
            ),
          )
        }
      />
      <Row label="From the year in view" title="Undisturbed soil at a depth, from the daily means of the air (Kusuda and Achenbach 1965)">
        <Quantity
          label="Depth of the ground temperature"
          width="46px"
          value={depth}
          unit="m"
          digits={1}
          onCommit={(v) => {
            if (!(v >= 0 && v <= 30)) return "A depth lies between 0 and 30 m.";
            setDepth(v);
            return null;
          }}
        />
        <Act
          disabled={!hours}
          onClick={() =>
            hours &&
            set(
              `soil at ${depth} m`,
              ["temperature"],
              undisturbedSoil(hours, depth, conductivity, heatCapacity).map((t) => Math.round(100 * t) / 100),
            )
          }
        >
          take
        </Act>
      </Row>
    </>
  );
}
