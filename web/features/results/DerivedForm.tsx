"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { derivedFault, freeId, quantityOf, setChange, type Change, type Derived, type Project, type SeriesRef } from "@arroyo/core";
import { Act } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { seriesName } from "./seriesThings.ts";

const letter = (i: number): string => String.fromCharCode(97 + i);

/** A series computed from those of a plot: a formula over their letters, its units checked. It is kept in the project. */
export function DerivedForm({ refs, made, close }: { refs: readonly SeriesRef[]; made: (ref: SeriesRef) => void; close: () => void }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const [name, setName] = useState("Difference");
  const [formula, setFormula] = useState(refs.length > 1 ? "a - b" : "a");
  const [unit, setUnit] = useState(() => {
    const first = quantityOf(project, refs[0])?.unit ?? "1";
    return first === "°C" ? "K" : first === "" ? "1" : first;
  });
  const [refusal, setRefusal] = useState<string | null>(null);
  const derived: Derived = { name: name.trim(), formula, unit: unit.trim(), of: Object.fromEntries(refs.map((r, i) => [letter(i), r])) };
  const make = (): void => {
    const fault = derived.name === "" ? "A name is needed." : derivedFault(project, derived);
    setRefusal(fault);
    if (fault !== null) return;
    const id = freeId(project.derived ?? {}, "series");
    const change: Change = project.derived ? { op: "insert", path: ["derived", id], value: derived } : setChange(project, ["derived"], { [id]: derived });
    const [problem] = edit(`New series ${derived.name}`, [change]);
    if (problem) return setRefusal(problem.message);
    made({ of: "derived", id, quantity: id });
    close();
  };
  const input = (label: string, value: string, set: (v: string) => void, width: string) => (
    <chakra.input
      aria-label={label}
      value={value}
      onChange={(e) => set(e.target.value)}
      onKeyDown={(e) => {
        if (e.key === "Enter") make();
        if (e.key === "Escape") close();
      }}
      border="1px solid"
      borderColor="line"
      background="sheet"
      px="1.5"
      h="24px"
      w={width}
      fontFamily={label === "Formula" ? "mono" : undefined}
      fontSize="12.5px"
    />
  );
  return (
    <Box border="1px solid" borderColor="line" p="2" mb="1" role="group" aria-label="Derived series">
      <Flex gap="2" align="center" wrap="wrap">
        {input("Name of the series", name, setName, "150px")}
        <Text>=</Text>
        {input("Formula", formula, setFormula, "260px")}
        <Text color="ink2">in</Text>
        {input("Unit of the series", unit, setUnit, "70px")}
        <Act onClick={make}>Make it</Act>
        <Act onClick={close}>Cancel</Act>
      </Flex>
      <Text color="ink2" fontSize="12px" mt="1">
        {refs.map((r, i) => `${letter(i)}: ${seriesName(project, r)}`).join(" · ")} · numbers with units, + − * /, min, max, abs, if(condition, then, else)
      </Text>
      {refusal && (
        <Text role="alert" color="clay">
          {refusal}
        </Text>
      )}
    </Box>
  );
}
