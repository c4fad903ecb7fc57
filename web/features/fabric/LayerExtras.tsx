"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { setChange, unsetChange, type Assembly, type Change, type Project } from "@arroyo/core";
import { Act, Quantity } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";

/** What a build-up may hold besides plain layers: an embedded circuit, and materials that melt. */
export function LayerExtras({ id, assembly }: { id: string; assembly: Assembly }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const circuit = assembly.layers.find((l) => l.kind === "circuit");
  const inner = assembly.layers[assembly.layers.length - 1];
  const materials = [...new Set(assembly.layers.flatMap((l) => (l.kind === "solid" ? [l.material] : [])))];
  const embed = (): void =>
    void edit(`${assembly.name}: embedded circuit`, [
      { op: "insert", path: ["assemblies", id, "layers", "circuit"], value: { kind: "circuit", id: "circuit", name: "Circuit" }, before: inner.id } as Change,
    ]);
  return (
    <Box mt="3">
      <Flex gap="4" align="baseline">
        <Text color="ink2">{circuit ? "An embedded circuit lies in it; a system gives it heat." : "No embedded circuit."}</Text>
        {circuit ? (
          <Act onClick={() => edit(`${assembly.name}: no circuit`, [{ op: "remove", path: ["assemblies", id, "layers", circuit.id], old: circuit }])}>
            Take it out
          </Act>
        ) : (
          inner.kind !== "circuit" && <Act onClick={embed}>Embed one before the innermost layer</Act>
        )}
      </Flex>
      {materials.map((m) => {
        const material = project.materials[m];
        const p = material.phaseChange;
        const number = (key: "from" | "to" | "latentHeat", label: string, unit: string, digits: number, shown = unit) =>
          p && (
            <Quantity
              label={`${label} of ${material.name}`}
              width="46px"
              value={p[key]}
              unit={unit}
              shown={shown}
              digits={digits}
              onCommit={(v) => edit(`${material.name}: ${label}`, [setChange(project, ["materials", m, "phaseChange", key], v)])}
            />
          );
        return p ? (
          <Flex key={m} gap="1.5" align="center">
            <Text>{material.name} melts from</Text>
            {number("from", "melting begins", "°C", 1)} to {number("to", "melting ends", "°C", 1)} with{" "}
            {number("latentHeat", "latent heat", "J/kg", 0, "kJ/kg")}
            <Act onClick={() => edit(`${material.name}: does not melt`, [unsetChange(project, ["materials", m, "phaseChange"])])}>it does not</Act>
          </Flex>
        ) : null;
      })}
      {!materials.some((m) => project.materials[m].phaseChange) && inner.kind === "solid" && (
        <Act
          onClick={() =>
            edit(`${project.materials[inner.material].name} melts`, [
              setChange(project, ["materials", inner.material, "phaseChange"], { from: 22, to: 25, latentHeat: 60000 }),
            ])
          }
        >
          Let {project.materials[inner.material].name.toLowerCase()} hold a melting filler
        </Act>
      )}
    </Box>
  );
}
