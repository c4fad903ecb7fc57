"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { DEFAULT_RUN, setChange, type Project, type RunOptions } from "@arroyo/core";
import { Act, DateInput, firstMessage, NumberInput, Quantity, SelectInput, Unit } from "../../ui/fields.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

/** Coefficients to begin typing from, W/m²K: typical, unverified. */
const TYPED_INSIDE = { kind: "typed", wall: 3.1, floor: 1.0, ceiling: 1.0, glass: 3.1 } as const;
const TYPED_OUTSIDE = { kind: "typed", wall: 15, roof: 15, floor: 10, glass: 15 } as const;
/** How the year is computed: every choice with what it means, each on a sane default. */
export function RunSettings() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const { run } = project;
  const set = <K extends keyof RunOptions>(key: K, value: RunOptions[K], words: string): string | null =>
    firstMessage(edit(`Calculation: ${words}`, [setChange(project, ["run", key], value)]));
  const changed = JSON.stringify(run) !== JSON.stringify(DEFAULT_RUN);
  const choice = <K extends keyof RunOptions>(key: K, label: string, options: readonly { readonly value: string; readonly label: string }[]): ReactNode => (
    <SelectInput
      label={label}
      width="210px"
      align="left"
      value={String(run[key])}
      options={[...options]}
      onChange={(v) => set(key, (typeof run[key] === "number" ? Number(v) : v) as RunOptions[K], `${label} ${v}`)}
    />
  );
  return (
    <Box maxW="760px">
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title" whiteSpace="nowrap">
          How the year is computed
        </Text>
        <Text color="ink2">stored and unmarked figures; the ≈ estimate always runs hourly</Text>
        {changed && (
          <Flex ml="auto" whiteSpace="nowrap">
            <Act onClick={() => edit("Calculation: usual settings", [setChange(project, ["run"], DEFAULT_RUN)])}>Back to the usual settings</Act>
          </Flex>
        )}
      </Flex>
      <Setting
        name="Steps"
        about="Shorter steps follow peaks and controls more closely; peaks want 15 minutes or finer."
        usual={run.stepsPerHour === DEFAULT_RUN.stepsPerHour}
      >
        {choice(
          "stepsPerHour",
          "Steps",
          [1, 2, 3, 4, 6, 12].map((n) => ({ value: String(n), label: n === 1 ? "1 an hour" : `${n} an hour, ${60 / n} minutes` })),
        )}
      </Setting>
      <Setting
        name="Period"
        about="The year, or a stretch of days with 25 days of warm-up before it; figures per year need the whole year."
        usual={run.period === null}
      >
        <SelectInput
          label="Period"
          width="120px"
          align="left"
          value={run.period ? "days" : "year"}
          options={[
            { value: "year", label: "the year" },
            { value: "days", label: "some days" },
          ]}
          onChange={(v) => set("period", v === "year" ? null : { from: [1, 1], days: 31 }, v)}
        />
        {run.period && (
          <Flex align="center" gap="1.5">
            <NumberInput
              label="Days of the period"
              width="44px"
              value={run.period.days}
              onCommit={(v) => set("period", { ...(run.period as NonNullable<RunOptions["period"]>), days: v }, `${v} days`)}
            />
            <Box whiteSpace="nowrap">
              <Unit>days from</Unit>
            </Box>
            <DateInput
              label="First day"
              value={run.period.from}
              onCommit={([month, day]) => set("period", { from: [month, day], days: run.period?.days ?? 31 }, `from ${day}/${month}`)}
            />
          </Flex>
        )}
      </Setting>
      <Setting
        name="Sky"
        about="Perez brightens the sky about the sun and at the horizon; an isotropic sky is even and gives less sun on walls that face it."
        usual={run.sky === DEFAULT_RUN.sky}
      >
        {choice("sky", "Sky", [
          { value: "perez", label: "Perez 1990" },
          { value: "isotropic", label: "isotropic" },
        ])}
      </Setting>
      <Setting
        name="Sky emissivity"
        about="Emissivity of the sky where the weather has no measured infrared; it cools roofs at night."
        usual={run.skyEmissivity === DEFAULT_RUN.skyEmissivity}
      >
        {choice("skyEmissivity", "Sky emissivity", [
          { value: "martin-berdahl", label: "Martin and Berdahl 1984" },
          { value: "clark-allen", label: "Clark and Allen 1978" },
        ])}
      </Setting>
      <Setting
        name="Beam inside"
        about="Where sun through windows lands first: on the floor, on every face by area, or traced to the faces it strikes."
        usual={run.beam === DEFAULT_RUN.beam}
      >
        {choice("beam", "Beam inside", [
          { value: "floor", label: "on the floor" },
          { value: "area", label: "on all faces by area" },
          { value: "traced", label: "traced to the faces it strikes" },
        ])}
      </Setting>
      <Setting
        name="Radiation inside"
        about="A network about a mean radiant temperature is quick and close; full exchange computes every pair of faces and takes about three times as long."
        usual={run.radiation === DEFAULT_RUN.radiation}
      >
        {choice("radiation", "Radiation inside", [
          { value: "network", label: "mean radiant network" },
          { value: "full", label: "every face with every other" },
        ])}
      </Setting>
      <Setting
        name="Convection inside"
        about="By the temperature difference at each face, by the constants of ISO 52016-1, or typed for each kind of face."
        usual={run.insideConvection.kind === DEFAULT_RUN.insideConvection.kind}
      >
        <SelectInput
          label="Convection inside"
          width="210px"
          align="left"
          value={run.insideConvection.kind}
          options={[
            { value: "temperature difference", label: "by temperature difference" },
            { value: "iso 52016-1", label: "ISO 52016-1 constants" },
            { value: "typed", label: "typed" },
          ]}
          onChange={(v) => set("insideConvection", v === "typed" ? TYPED_INSIDE : { kind: v as "iso 52016-1" }, `convection inside ${v}`)}
        />
        <Films value={run.insideConvection} side="inside" />
      </Setting>
      <Setting
        name="Convection outside"
        about="By wind at the height of the face and temperature, by ISO 52016-1, or typed for each kind of face."
        usual={run.outsideConvection.kind === DEFAULT_RUN.outsideConvection.kind}
      >
        <SelectInput
          label="Convection outside"
          width="210px"
          align="left"
          value={run.outsideConvection.kind}
          options={[
            { value: "wind and temperature", label: "by wind and temperature" },
            { value: "iso 52016-1", label: "ISO 52016-1, by wind" },
            { value: "typed", label: "typed" },
          ]}
          onChange={(v) => set("outsideConvection", v === "typed" ? TYPED_OUTSIDE : { kind: v as "iso 52016-1" }, `convection outside ${v}`)}
        />
        <Films value={run.outsideConvection} side="outside" />
      </Setting>
      <Setting
        name="Unmet beyond"
        about="An hour counts as unmet when a zone is further than this from its set-point while people are there or its hours of use hold."
        usual={run.unmetTolerance === DEFAULT_RUN.unmetTolerance}
      >
        <Quantity
          label="Unmet beyond"
          width="44px"
          value={run.unmetTolerance}
          unit="K"
          digits={1}
          onCommit={(v) => set("unmetTolerance", v, `unmet beyond ${Number(v.toPrecision(3))} K`)}
        />
      </Setting>
      <Setting
        name="Short year"
        about="Days chosen from the weather by clustering that stand for the year where many zones make the whole one slow; shown marked ≈."
        usual={run.shortYear === DEFAULT_RUN.shortYear}
      >
        {choice(
          "shortYear",
          "Short year",
          [12, 24, 48].map((n) => ({ value: String(n), label: `${n} days` })),
        )}
      </Setting>
    </Box>
  );
}

/** One choice: its name, what it means, whether it is as usual, and the choice itself. */
export function Setting({ name, about, usual, children }: { name: string; about: string; usual: boolean; children: ReactNode }) {
  return (
    <Flex gap="4" py="1.5" borderBottom="1px solid" borderColor="line" align="flex-start">
      <Box flex="1">
        <Text fontWeight="600">
          <Text as="span" color="ink2" fontWeight="400" title={usual ? "default" : "typed here"} mr="1">
            {usual ? "○" : "●"}
          </Text>
          {name}
        </Text>
        <Text color="ink2" fontSize="12px">
          {about}
        </Text>
      </Box>
      <Flex w="300px" flexShrink={0} align="center" gap="1.5" wrap="wrap">
        {children}
      </Flex>
    </Flex>
  );
}

/** Typed coefficients for each kind of face. */
function Films({ value, side }: { value: RunOptions["insideConvection"] | RunOptions["outsideConvection"]; side: "inside" | "outside" }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  if (value.kind !== "typed") return null;
  const key = side === "inside" ? "insideConvection" : "outsideConvection";
  return (
    <>
      {Object.entries(value)
        .filter((e): e is [string, number] => typeof e[1] === "number")
        .map(([face, h]) => (
          <Flex key={face} align="center" gap="1">
            <Text color="ink2">{face}</Text>
            <Quantity
              bare
              label={`Convection ${side} at ${face}`}
              width="40px"
              value={h}
              unit="W/m²K"
              digits={1}
              onCommit={(v) => edit(`Calculation: convection at ${face}`, [setChange(project, ["run", key, face], v)])}
            />
          </Flex>
        ))}
      <Unit>{units.unit("W/m²K")}</Unit>
    </>
  );
}
