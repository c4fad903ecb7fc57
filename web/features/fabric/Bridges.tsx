"use client";
import { Box, Text } from "@chakra-ui/react";
import {
  checkProject,
  effectiveKit,
  junctions,
  setChange,
  thermalBridges,
  transmission,
  unsetChange,
  type Junction,
  type Kit,
  type Project,
} from "@arroyo/core";
import { Act, Head, Quantity, Row } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

const words: Readonly<Record<Junction, string>> = {
  eaves: "Wall and roof",
  ground: "Wall and ground floor",
  exposed: "Wall and exposed floor",
  storey: "Wall and floor between storeys",
  corner: "Outward corner of walls",
  reentrant: "Inward corner of walls",
  opening: "Edge of windows and doors",
};
/** Usual ψ, W/m·K (ISO 14683:2017, default values of good and of plain details). */
const USUAL = [-0.2, 1] as const;

/** Thermal bridges of a kit: ψ typed for each kind of junction, its length found in the model; or a share of U where no more is known. */
export function Bridges({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const kit = project.kits[id];
  const { geometry, openings } = checkProject(project);
  const mine = new Set(Object.keys(project.spaces).filter((s) => effectiveKit(project, s).id === id));
  const found = [...thermalBridges(project, geometry, openings, true)].filter(([s]) => mine.has(s)).map(([, b]) => b);
  const length = (j: Junction): number => found.reduce((s, b) => s + b.lengths[j], 0);
  const sum = found.reduce((s, b) => s + b.junctions, 0);
  let through: number | null = null;
  try {
    through = transmission(project, geometry, openings, mine);
  } catch {
    // an assembly that cannot be computed is told as a problem of its own
  }
  const write = (key: keyof NonNullable<Kit["bridges"]>, value: number, label: string) =>
    edit(`${kit.name}: ${label}`, [
      kit.bridges ? setChange(project, ["kits", id, "bridges", key], value) : setChange(project, ["kits", id, "bridges"], { [key]: value }),
    ]);
  const clear = (key: keyof NonNullable<Kit["bridges"]>, label: string): void =>
    void edit(`${kit.name}: no ${label}`, [
      unsetChange(project, Object.keys(kit.bridges ?? {}).length > 1 ? ["kits", id, "bridges", key] : ["kits", id, "bridges"]),
    ]);
  return (
    <Box maxW="640px" mt="4">
      <Head>Thermal bridges</Head>
      <Grid
        label="Thermal bridges"
        head={[
          { text: "Junction", left: true },
          { text: "ψ", unit: units.unit("W/K·m") },
          { text: "In the model", unit: units.unit("m") },
          { text: "ψ·l", unit: units.unit("W/K") },
          { text: "" },
        ]}
        rows={junctions.map((j) => {
          const psi = kit.bridges?.[j];
          return {
            key: j,
            cells: [
              words[j],
              <Quantity
                key="p"
                bare
                label={`ψ of ${words[j].toLowerCase()}`}
                width="64px"
                value={psi ?? null}
                unit="W/m·K"
                shown="W/K·m"
                digits={2}
                usual={USUAL}
                help="Linear thermal transmittance with external dimensions (ISO 14683)."
                onCommit={(v) => write(j, v, words[j].toLowerCase())}
              />,
              units.text(length(j), "m", 1),
              psi === undefined ? "—" : units.text(psi * length(j), "W/K", 1),
              psi === undefined ? (
                ""
              ) : (
                <Act key="x" title="None" onClick={() => clear(j, words[j].toLowerCase())}>
                  ×
                </Act>
              ),
            ],
          };
        })}
      />
      <Row
        label="Or a share of U"
        title="Added to the U of every outdoor wall, roof and floor, where no more is known of the details."
        note={
          through !== null && through > 0 ? (
            <Text as="span" data-testid="bridges-sum">
              Junctions {units.words(sum, "W/K", 1)}, {figure((100 * sum) / through, 0)} % of {units.words(through, "W/K", 0)} through the outdoor faces by
              their U.
            </Text>
          ) : undefined
        }
      >
        <Quantity
          label="Share of U for thermal bridges"
          width="64px"
          value={kit.bridges?.share ?? null}
          unit="1"
          shown="%"
          digits={0}
          usual={[0, 0.4]}
          onCommit={(v) => write("share", v, "share of thermal bridges")}
        />
        {kit.bridges?.share !== undefined && (
          <Act title="None" onClick={() => clear("share", "share of thermal bridges")}>
            ×
          </Act>
        )}
      </Row>
    </Box>
  );
}
