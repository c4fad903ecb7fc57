"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { setChange, type Change, type Project, type Surrounding } from "@arroyo/core";
import { Act, firstMessage, NumberInput, Quantity, SelectInput } from "../../ui/fields.tsx";
import { monthNames } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { SitePlan } from "./SitePlan.tsx";
import { Skyline } from "./Skyline.tsx";

/** Leaves from May to October: typical, unverified. */
const LEAVES = [0.6, 0.6, 0.55, 0.45, 0.25, 0.2, 0.2, 0.2, 0.25, 0.35, 0.55, 0.6];
type Column = { readonly key: string; readonly label: string; readonly unit: string };
const blockColumns: readonly Column[] = [
  { key: "x", label: "x", unit: "m" },
  { key: "y", label: "y", unit: "m" },
  { key: "width", label: "Width", unit: "m" },
  { key: "depth", label: "Depth", unit: "m" },
  { key: "angle", label: "Turned", unit: "°" },
  { key: "base", label: "Underside", unit: "m" },
  { key: "height", label: "Height", unit: "m" },
];
const treeColumns: readonly Column[] = [
  { key: "x", label: "x", unit: "m" },
  { key: "y", label: "y", unit: "m" },
  { key: "crown", label: "Crown", unit: "m" },
  { key: "base", label: "Clear below", unit: "m" },
  { key: "height", label: "Height", unit: "m" },
];

/** Neighbouring blocks and trees: all cast shade; leaves let part of the sun through by month. */
export function Surroundings() {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const all = Object.entries(project.surroundings);
  const shares = Object.entries(project.schedules).flatMap(([value, s]) => (s.kind === "fraction" ? [{ value, label: s.name }] : []));
  const fresh = (): string => {
    let n = all.length + 1;
    while (Object.hasOwn(project.surroundings, `s${n}`)) n++;
    return `s${n}`;
  };
  const insert = (s: Surrounding): void => void edit(`New: ${s.name}`, [{ op: "insert", path: ["surroundings", fresh()], value: s } as Change]);
  const block = (): void => insert({ kind: "block", name: "Block", x: 0, y: -30, width: 20, depth: 12, angle: 0, base: 0, height: 10 });
  const tree = (): void => insert({ kind: "tree", name: "Tree", x: 0, y: -10, crown: 6, base: 2, height: 7, transmittance: LEAVES });
  const table = (kind: Surrounding["kind"], columns: readonly Column[]) => {
    const rows = all.filter(([, s]) => s.kind === kind);
    if (rows.length === 0) return null;
    return (
      <Box mt="3">
        <Grid
          label={kind === "block" ? "Blocks" : "Trees"}
          head={[
            { text: kind === "block" ? "Block" : "Tree", left: true },
            ...columns.map((c) => ({ text: c.label, unit: units.unit(c.unit) })),
            ...(kind === "tree" ? [{ text: "Lets through" }, { text: "Jan / Jul", unit: "%" }] : []),
            { text: "" },
          ]}
          rows={rows.map(([id, s]) => ({
            key: id,
            cells: [
              s.name,
              ...columns.map((c) => (
                <Quantity
                  key={c.key}
                  bare
                  label={`${c.label} of ${s.name}`}
                  width="56px"
                  value={s[c.key as keyof Surrounding] as unknown as number}
                  unit={c.unit}
                  digits={1}
                  onCommit={(v) => edit(`${s.name}: ${c.label} ${units.words(v, c.unit, 1)}`, [setChange(project, ["surroundings", id, c.key], v)])}
                />
              )),
              ...(s.kind === "tree"
                ? [
                    <SelectInput
                      key="s"
                      label={`What drives the leaves of ${s.name}`}
                      width="104px"
                      value={s.transmittanceSchedule ?? ""}
                      options={[{ value: "", label: "by season" }, ...shares]}
                      onChange={(v) =>
                        edit(`${s.name}: ${v === "" ? "by season" : project.schedules[v].name}`, [
                          setChange(project, ["surroundings", id, "transmittanceSchedule"], v === "" ? null : v),
                        ])
                      }
                    />,
                    s.transmittanceSchedule ? (
                      "—"
                    ) : (
                      <Flex key="t" gap="1" justify="flex-end">
                        {[0, 6].map((m) => (
                          <NumberInput
                            key={m}
                            label={`${s.name} lets through in ${monthNames[m]}`}
                            width="40px"
                            value={s.transmittance[m] * 100}
                            digits={0}
                            onCommit={(v) =>
                              firstMessage(
                                edit(`${s.name}: ${v} % in ${monthNames[m]}`, [
                                  setChange(project, ["surroundings", id, "transmittance"], season(s.transmittance, m, v / 100)),
                                ]),
                                100,
                              )
                            }
                          />
                        ))}
                      </Flex>
                    ),
                  ]
                : []),
              <Act key="x" onClick={() => edit(`Remove ${s.name}`, [{ op: "remove", path: ["surroundings", id], old: s }])}>
                Remove
              </Act>,
            ],
          }))}
        />
      </Box>
    );
  };
  return (
    <Box maxW="900px">
      <Text as="h2" textStyle="title">
        Surroundings
      </Text>
      <Text color="ink2" mb="2">
        Neighbouring blocks and trees in plan coordinates; they shade beam and sky and stand in Form’s 3D view. A tree lets through its share of sun, more
        without leaves.
      </Text>
      <SitePlan />
      <Flex gap="4">
        <Act onClick={block}>Add a block</Act>
        <Act onClick={tree}>Add a tree</Act>
      </Flex>
      {all.length === 0 && (
        <Text mt="3" color="ink2">
          None yet: the building stands free. A block to the south takes winter sun from a façade up to three times its height away.
        </Text>
      )}
      {table("block", blockColumns)}
      {table("tree", treeColumns)}
      <Skyline />
    </Box>
  );
}

/** Leaf of each month between bare (0) and full (1): typical, unverified. */
const LEAF = [0, 0, 0.12, 0.38, 0.88, 1, 1, 1, 0.88, 0.62, 0.12, 0];

/** A year of leaves from its January (bare) and July (in leaf) values, the months between in proportion. */
function season(now: readonly number[], month: number, value: number): number[] {
  const bare = month === 0 ? value : now[0];
  const leaf = month === 6 ? value : now[6];
  return LEAF.map((x) => bare + x * (leaf - bare));
}
