"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { compliancePaths, fuels, fuelsUsed, packsOf, scopeParts, workKinds, type ComplianceInput, type Compliance, type Project } from "@arroyo/core";
import { Act, Head, Row, SelectInput, TextInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { useSubmitting } from "./useCompliance.ts";

const toggled = <T,>(all: readonly T[], now: readonly T[], one: T, on: boolean): T[] => all.filter((x) => (x === one ? on : now.includes(x)));
const pathWords: Readonly<Record<ComplianceInput["path"], string>> = {
  prescriptive: "every row must pass",
  performance: "rows may be traded within the index; mandatory rows may not",
};

/** What is submitted: the pack, the kind of work and its parts, climate zone, fuels, path. */
export function SubmissionDesk({ zone }: { zone: string | null }) {
  const project = useStore((s) => s.project) as Project;
  const { input, pack, set } = useSubmitting();
  const all = packsOf(project);
  const choose = (label: string, checked: boolean, change: (on: boolean) => void) => (
    <chakra.label key={label} display="flex" gap="2" py="0.5" cursor="pointer" w="fit-content">
      <input type="checkbox" checked={checked} onChange={(e) => change(e.target.checked)} />
      {label}
    </chakra.label>
  );
  const used = fuelsUsed(project);
  return (
    <Box maxW="620px">
      <Text as="h2" textStyle="title">
        What is submitted
      </Text>
      <Text color="ink2" mb="3">
        The code or rating, and what of the design is judged by it. What is not submitted is equal in the design and in its reference building.
      </Text>
      <Row label="Code or rating" note={`${pack.jurisdiction} · version ${pack.version}`}>
        <SelectInput
          label="Code or rating"
          width="330px"
          value={input.pack}
          options={Object.values(all).map((p) => ({ value: p.id, label: `${p.name}, ${p.edition}` }))}
          onChange={(v) => set("Code or rating", { pack: v, uses: undefined, spaceUses: undefined })}
        />
      </Row>
      <Row label="Path" note={pathWords[input.path]}>
        <SelectInput
          label="Path"
          value={input.path}
          options={compliancePaths.map((p) => ({ value: p, label: p }))}
          onChange={(v) => set("Path", { path: v as ComplianceInput["path"] })}
        />
      </Row>
      <Row label="Work">
        <SelectInput
          label="Work"
          value={input.work}
          options={workKinds.map((w) => ({ value: w, label: w }))}
          onChange={(v) =>
            set("Work", {
              work: v as ComplianceInput["work"],
              // a new building is submitted whole; of an addition the spaces are chosen
              spaces: v === "new building" ? undefined : v === "addition" ? (input.spaces ?? Object.keys(project.spaces)) : input.spaces,
            })
          }
        />
      </Row>
      <Row label="Climate zone" note={input.climateZone === null ? "from the degree days of the weather year (ASHRAE 169)" : "typed"}>
        <Flex gap="3" align="baseline">
          {input.climateZone !== null && <Act onClick={() => set("Climate zone", { climateZone: null })}>from the year</Act>}
          <TextInput label="Climate zone" width="70px" value={input.climateZone ?? zone ?? "—"} onCommit={(t) => set("Climate zone", { climateZone: t })} />
        </Flex>
      </Row>
      <Head>Parts submitted</Head>
      {scopeParts.map((p) => choose(p, input.parts.includes(p), (on) => set(`Submitted: ${p}`, { parts: toggled(scopeParts, input.parts, p, on) })))}
      <Head>Fuels of the site</Head>
      <Text color="ink2" fontSize="12px">
        {input.fuels ? "Typed." : "Those the design uses."} The map of reference systems asks for them.{" "}
        {input.fuels && <Act onClick={() => set("Fuels of the site", { fuels: undefined })}>Those the design uses</Act>}
      </Text>
      <Flex wrap="wrap" columnGap="5">
        {fuels.map((f) =>
          choose(f, (input.fuels ?? [...used]).includes(f), (on) => set(`Fuels: ${f}`, { fuels: toggled(fuels, input.fuels ?? [...used], f, on) })),
        )}
      </Flex>
      {input.spaces && (
        <>
          <Head>Spaces submitted</Head>
          <Text color="ink2" fontSize="12px">
            {input.spaces.length} of {Object.keys(project.spaces).length}. <Act onClick={() => set("Spaces submitted", { spaces: undefined })}>All of them</Act>
          </Text>
          <Flex wrap="wrap" columnGap="5">
            {Object.entries(project.spaces).map(([id, s]) =>
              choose(s.name, (input.spaces ?? []).includes(id), (on) =>
                set(`Submitted: ${s.name}`, { spaces: toggled(Object.keys(project.spaces), input.spaces ?? [], id, on) }),
              ),
            )}
          </Flex>
        </>
      )}
      {!input.spaces && input.work !== "new building" && (
        <Text mt="2">
          Every space is submitted. <Act onClick={() => set("Spaces submitted", { spaces: Object.keys(project.spaces) })}>Choose spaces</Act>
        </Text>
      )}
    </Box>
  );
}

/** What a result says it was found for, in one line. */
export const submittedWords = (result: Compliance): string =>
  `${result.work}, ${result.path} path · ${result.scope.join(", ") || "nothing"} · climate zone ${result.climateZone}`;
