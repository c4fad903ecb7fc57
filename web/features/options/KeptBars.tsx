"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { endUses, fuels, endUseKey, type StudyTable } from "@arroyo/core";
import { endUseColour } from "../../ui/colours.ts";
import { useUnits } from "../../ui/units.ts";

const HATCH = "repeating-linear-gradient(135deg, #B5533C 0 3px, #D08A78 3px 5px)";

/** Energy by end use of the base and of the runs kept, stacked beside each other, kWh/m²a. */
export function KeptBars({
  table,
  rows,
  chosen,
  onChoose,
  onDrop,
}: {
  table: StudyTable;
  rows: readonly number[];
  chosen: number | null;
  onChoose: (row: number) => void;
  onDrop: (row: number) => void;
}) {
  const units = useUnits();
  const of = (key: string): Float64Array | undefined => table.outcomes.find((o) => o.key === key)?.values;
  const energy = of("energy");
  const uses = endUses
    .map((use) => ({ use, columns: fuels.flatMap((f) => table.uses.filter((u) => u.key === endUseKey(use, f))) }))
    .filter((u) => u.columns.length > 0);
  const total = (row: number): number => uses.reduce((s, u) => s + u.columns.reduce((t, c) => t + c.values[row], 0), 0);
  // floor area, from the energy and its intensity; none where nothing is conditioned
  const area = (row: number): number => (energy && energy[row] > 0 ? total(row) / energy[row] : NaN);
  const most = Math.max(1e-9, ...rows.map((r) => total(r) / area(r)).filter(Number.isFinite));
  return (
    <Box as="section" aria-label="Runs kept, by end use">
      <Flex align="baseline" gap="2" mb="1">
        <Text as="h2" textStyle="title">
          {rows.length > 1 ? "Kept beside the base" : "By end use"}
        </Text>
        <Text color="ink2">{units.unit("kWh/m²a")}</Text>
      </Flex>
      {rows.map((row) => {
        const index = table.index[row];
        return (
          <Flex key={index} align="center" gap="2" h="22px">
            <chakra.button
              type="button"
              w="64px"
              textAlign="left"
              fontWeight={row === chosen ? "600" : "400"}
              color={row === chosen ? "clay" : "ink"}
              cursor="pointer"
              flexShrink={0}
              onClick={() => onChoose(row)}
            >
              {index === 0 ? "Base" : `Run ${index}`}
            </chakra.button>
            <Flex flex="1" h="14px" minW="0">
              {uses.map(({ use, columns }) => {
                const v = columns.reduce((t, c) => t + c.values[row], 0) / area(row);
                return v > 0 ? (
                  <Box
                    key={use}
                    h="100%"
                    w={`${(80 * v) / most}%`}
                    background={use === "heating" ? HATCH : endUseColour[use]}
                    title={`${use} ${units.words(v, "kWh/m²a", 1)}`}
                  />
                ) : null;
              })}
              <Text ml="2" color="ink2" fontSize="12px" whiteSpace="nowrap" lineHeight="14px">
                {units.text(total(row) / area(row), "kWh/m²a", 1)}
              </Text>
            </Flex>
            {index !== 0 && (
              <chakra.button type="button" aria-label={`Do not keep run ${index}`} color="ink2" cursor="pointer" px="1" onClick={() => onDrop(row)}>
                ×
              </chakra.button>
            )}
          </Flex>
        );
      })}
      <Flex wrap="wrap" columnGap="3" mt="1" color="ink2" fontSize="11.5px">
        {uses.map(({ use }) => (
          <Flex key={use} align="center" gap="1">
            <Box w="9px" h="9px" background={use === "heating" ? HATCH : endUseColour[use]} />
            {use}
          </Flex>
        ))}
      </Flex>
    </Box>
  );
}
