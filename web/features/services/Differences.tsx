"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { differencesOf, setChange, systemDifferences, type Difference, type Project } from "@arroyo/core";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { saveCsv } from "../../ui/saveCsv.ts";
import { useUnits } from "../../ui/units.ts";
import { FigureTable } from "../options/FigureTable.tsx";
import { useYears, variantsOf, type Variant } from "../options/useVariants.ts";
import { newOption, useStore } from "../store.ts";

const keyOf = (v: Variant): string => v.id ?? "";

/** Two models or two systems side by side: what differs without being meant to stands first, each with "make equal"; then both years. */
export function Differences() {
  const document = useStore((s) => s.document) as Project;
  const project = useStore((s) => s.project) as Project;
  const [of, setOf] = useState<"models" | "systems">("models");
  const systems = Object.keys(project.airSystems);
  return (
    <Box>
      <Flex align="baseline" gap="4" mb="1">
        <Text as="h2" textStyle="title">
          Differences
        </Text>
        <Flex gap="3" role="tablist">
          {(["models", "systems"] as const).map((k) => (
            <chakra.button
              key={k}
              type="button"
              role="tab"
              aria-selected={of === k}
              cursor="pointer"
              fontWeight={of === k ? "600" : "400"}
              color={of === k ? "ink" : "water"}
              onClick={() => setOf(k)}
            >
              {k === "models" ? "base and options" : "air systems"}
            </chakra.button>
          ))}
        </Flex>
      </Flex>
      {of === "models" ? (
        Object.keys(document.options).length === 0 ? (
          <Box maxW="560px">
            <Text color="ink2" my="2">
              An option is a copy of this model that keeps only what is changed in it. Make one, change one system in it, and this table tells whether anything
              else differs.
            </Text>
            <Act onClick={newOption}>Make an option</Act>
          </Box>
        ) : (
          <Models document={document} />
        )
      ) : systems.length < 2 ? (
        <Text color="ink2">There are not two air systems to compare.</Text>
      ) : (
        <Systems project={project} systems={systems} />
      )}
    </Box>
  );
}

function Models({ document }: { document: Project }) {
  const units = useUnits();
  const option = useStore((s) => s.option);
  const variants = useMemo(() => variantsOf(document), [document]);
  const options = Object.keys(document.options);
  const [first, setFirst] = useState<string>("");
  const [second, setSecond] = useState<string>(option ?? options[options.length - 1]);
  const a = variants.find((v) => keyOf(v) === first) ?? variants[0];
  const b = variants.find((v) => keyOf(v) === second) ?? variants[variants.length - 1];
  const { summaryOf, busy } = useYears([a, b]);
  const meant = b.id === null ? [] : (document.options[b.id].meant ?? []);
  const rows = differencesOf(a.project, b.project, meant);
  const into = (): void => {
    if (useStore.getState().option !== b.id) useStore.getState().look(b.id);
  };
  const equal = (list: readonly Difference[]): void => {
    into();
    const { edit } = useStore.getState();
    edit(
      list.length === 1 ? `${list[0].thing} as in ${a.name}` : `${list.length} differences made equal to ${a.name}`,
      list.flatMap((d) => d.equal),
    );
  };
  const mark = (d: Difference): void => {
    if (b.id === null) return;
    const next = d.meant ? meant.filter((m) => m !== d.address) : [...meant, d.address];
    useStore
      .getState()
      .edit(d.meant ? `${d.thing}: not meant to differ` : `${d.thing}: meant to differ`, [setChange(document, ["options", b.id, "meant"], next)]);
  };
  const names = variants.map((v) => ({ value: keyOf(v), label: v.name }));
  const unmeant = rows.filter((r) => !r.meant);
  return (
    <>
      <Flex align="baseline" gap="2" mb="2" wrap="wrap">
        <SelectInput label="First of the two" align="left" width="170px" value={keyOf(a)} options={names} onChange={setFirst} />
        <Text color="ink2">and</Text>
        <SelectInput label="Second of the two" align="left" width="170px" value={keyOf(b)} options={names} onChange={setSecond} />
        <Text color={unmeant.length > 0 ? "clay" : "ink2"} ml="2">
          {rows.length === 0
            ? "Nothing differs."
            : unmeant.length === 0
              ? `Only what is meant to differs: ${rows.length} setting${rows.length === 1 ? "" : "s"}.`
              : `${unmeant.length} of ${rows.length} not marked as meant`}
        </Text>
        <Flex ml="auto" gap="3">
          {unmeant.length > 1 && <Act onClick={() => equal(unmeant)}>make all unmeant equal</Act>}
          {rows.length > 0 && (
            <Act
              onClick={() =>
                saveCsv("differences", [
                  ["what", a.name, b.name, "meant"],
                  ...rows.map((r) => [r.thing, units.turned(r.a), units.turned(r.b), r.meant ? "yes" : "no"]),
                ])
              }
            >
              CSV
            </Act>
          )}
        </Flex>
      </Flex>
      <Table rows={rows} names={[a.name, b.name]} equal={(d) => equal([d])} mark={b.id === null ? null : mark} />
      <Flex align="baseline" gap="3" mt="4" mb="1">
        <Text fontWeight="600">Both years</Text>
        <Text color="ink2">15-minute years{busy > 0 ? ` · ${busy} still to compute` : ""}</Text>
      </Flex>
      <FigureTable
        label="Both years"
        currency={document.prices.currency}
        columns={[a, b].map((v) => ({ key: v.id ?? "base", name: v.name, summary: summaryOf(v.key), blocked: v.blocked !== null }))}
      />
    </>
  );
}

function Systems({ project, systems }: { project: Project; systems: readonly string[] }) {
  const edit = useStore((s) => s.edit);
  const [first, setFirst] = useState(systems[0]);
  const [second, setSecond] = useState(systems[1]);
  const [a, b] = [project.airSystems[first] ? first : systems[0], project.airSystems[second] ? second : systems[1]];
  const rows = a === b ? [] : systemDifferences(project, a, b);
  const names = systems.map((s) => ({ value: s, label: project.airSystems[s].name }));
  return (
    <>
      <Flex align="baseline" gap="2" mb="2">
        <SelectInput label="First of the two" align="left" width="170px" value={a} options={names} onChange={setFirst} />
        <Text color="ink2">and</Text>
        <SelectInput label="Second of the two" align="left" width="170px" value={b} options={names} onChange={setSecond} />
        <Text color="ink2" ml="2">
          {rows.length === 0 ? "Nothing differs." : `${rows.length} setting${rows.length === 1 ? "" : "s"} differ`}
        </Text>
      </Flex>
      <Table
        rows={rows}
        names={[project.airSystems[a].name, project.airSystems[b].name]}
        equal={(d) => edit(`${project.airSystems[b].name}: ${d.thing.toLowerCase()} as in ${project.airSystems[a].name}`, d.equal)}
        mark={null}
      />
    </>
  );
}

function Table({
  rows,
  names,
  equal,
  mark,
}: {
  rows: readonly Difference[];
  names: readonly [string, string];
  equal: (d: Difference) => void;
  mark: ((d: Difference) => void) | null;
}) {
  const units = useUnits();
  if (rows.length === 0) return null;
  return (
    <Grid
      label="Differences"
      head={[{ text: mark ? "Meant" : "", left: true }, { text: "What", left: true }, { text: names[0] }, { text: names[1] }, { text: "" }]}
      rows={rows.map((d) => ({
        key: d.address,
        cells: [
          mark ? <input key="m" type="checkbox" aria-label={`${d.thing} is meant to differ`} checked={d.meant} onChange={() => mark(d)} /> : "",
          <Text key="t" as="span" color={d.meant ? "ink2" : undefined}>
            {d.thing}
          </Text>,
          units.turned(d.a),
          units.turned(d.b),
          d.equal.length > 0 ? (
            <Act key="e" title={`${d.thing} as in ${names[0]}`} onClick={() => equal(d)}>
              make equal
            </Act>
          ) : (
            ""
          ),
        ],
      }))}
    />
  );
}
