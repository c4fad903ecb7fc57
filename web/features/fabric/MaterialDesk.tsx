"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { materialKinds, setChange, unsetChange, type Material, type Project } from "@arroyo/core";
import { Act, firstMessage, Head, NumberInput, Quantity, Row, SelectInput, TextInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { ThingHead } from "./ThingHead.tsx";

const roughnesses: readonly Material["roughness"][] = ["very rough", "rough", "medium rough", "medium smooth", "smooth", "very smooth"];

interface Field {
  readonly key: "conductivity" | "density" | "specificHeat";
  readonly label: string;
  readonly unit: string;
  readonly digits: number;
  readonly help: string;
  readonly usual: readonly [number, number];
}
const fields: readonly Field[] = [
  {
    key: "conductivity",
    label: "Conductivity",
    unit: "W/m·K",
    digits: 3,
    help: "Heat through a metre of it per kelvin, at its moisture in use.",
    usual: [0.006, 400],
  },
  {
    key: "density",
    label: "Density",
    unit: "kg/m³",
    digits: 0,
    help: "Mass per volume: with the specific heat it decides how slowly it warms.",
    usual: [1, 12000],
  },
  { key: "specificHeat", label: "Specific heat", unit: "J/kg·K", digits: 0, help: "Heat to warm a kilogram by a kelvin.", usual: [100, 4200] },
];

/** One material of the project: a data sheet's figures typed as they stand there. */
export function MaterialDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const m = project.materials[id];
  const at = (key: string): string[] => ["materials", id, key];
  return (
    <>
      <ThingHead part="materials" id={id} />
      <Flex gap="8" align="flex-start">
        <Box flex="0 1 360px">
          <Head>Figures of the data sheet</Head>
          <Row label="Kind" title="By which it is found.">
            <SelectInput
              label="Kind of material"
              value={m.kind ?? ""}
              options={[...(m.kind ? [] : [{ value: "", label: "not said" }]), ...materialKinds.map((k) => ({ value: k, label: k }))]}
              onChange={(v) => edit(`${m.name}: ${v}`, [setChange(project, at("kind"), v)])}
            />
          </Row>
          {fields.map((f) => (
            <Row key={f.key} label={f.label} title={f.help}>
              <Quantity
                label={f.label}
                value={m[f.key]}
                unit={f.unit}
                digits={f.digits}
                width="96px"
                help={f.help}
                usual={f.usual}
                onCommit={(v) => edit(`${m.name}: ${f.label.toLowerCase()}`, [setChange(project, at(f.key), v)])}
              />
            </Row>
          ))}
          <Row label="Vapour resistance factor µ" title="Resistance to vapour over that of still air; without it condensation is not judged.">
            {m.vapourResistance === undefined ? (
              <Act onClick={() => edit(`${m.name}: vapour resistance`, [setChange(project, at("vapourResistance"), 10)])}>not known: type one</Act>
            ) : (
              <>
                <NumberInput
                  label="Vapour resistance factor"
                  value={m.vapourResistance}
                  digits={m.vapourResistance < 10 ? 1 : 0}
                  width="96px"
                  onCommit={(v) => firstMessage(edit(`${m.name}: µ ${v}`, [setChange(project, at("vapourResistance"), v)]))}
                />
                <Act onClick={() => edit(`${m.name}: µ not known`, [unsetChange(project, at("vapourResistance"))])} title="Not known">
                  ×
                </Act>
              </>
            )}
          </Row>
          <Text color="ink2" fontSize="11.5px" mt="1.5">
            Any unit is taken: 0.49 Btu·in/h·ft²·°F, 18.7 lb/ft³, 0.38 Btu/lb·°F.
          </Text>
        </Box>
        <Box flex="0 1 290px">
          <Head>Bare surface</Head>
          <Row label="Absorbs sun" title="Share of sunlight absorbed where it is the outer or inner surface.">
            <NumberInput
              label="Solar absorptance"
              value={m.solarAbsorptance}
              digits={2}
              onCommit={(v) => firstMessage(edit(`${m.name}: absorbs ${v}`, [setChange(project, at("solarAbsorptance"), v)]))}
            />
          </Row>
          <Row label="Emissivity" title="Long-wave: 0.9 for most, below 0.3 for bright metal.">
            <NumberInput
              label="Emissivity"
              value={m.emissivity}
              digits={2}
              onCommit={(v) => firstMessage(edit(`${m.name}: emissivity ${v}`, [setChange(project, at("emissivity"), v)]))}
            />
          </Row>
          <Row label="Roughness" title="Class of the surface for outside convection.">
            <SelectInput
              label="Roughness"
              value={m.roughness}
              options={roughnesses.map((r) => ({ value: r, label: r }))}
              onChange={(v) => edit(`${m.name}: ${v}`, [setChange(project, at("roughness"), v)])}
            />
          </Row>
          <Head>Source</Head>
          <TextInput
            label="Source of the figures"
            width="285px"
            value={m.source ?? ""}
            onCommit={(t) => firstMessage(edit(`${m.name}: source`, [setChange(project, at("source"), t)]))}
          />
        </Box>
      </Flex>
    </>
  );
}
