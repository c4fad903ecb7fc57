"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { plausibleRanges, type ChainLink, type Outlier } from "@arroyo/core";
import { Act, originText } from "./fields.tsx";
import { useUnits, type Units } from "./units.ts";

const digits = (v: number): number => (Math.abs(v) >= 100 ? 0 : Math.abs(v) >= 10 ? 1 : 2);
const valueWords = (units: Units, l: Pick<ChainLink, "value" | "unit">): string =>
  l.value === null ? "" : l.unit === "" || l.unit === "1" ? units.text(l.value, "1", digits(l.value)) : units.words(l.value, l.unit, digits(l.value));

/** Figures of the year outside the range in which buildings lie, each with the chain that made it, down to an input with its origin. */
export function Implausible({ outliers, show }: { outliers: readonly Outlier[]; show: (address: string, stage: Outlier["stage"]) => void }) {
  const units = useUnits();
  if (outliers.length === 0) return null;
  return (
    <Box data-testid="implausible" mt="3">
      <Text fontWeight="600">Implausible</Text>
      <Text color="ink2" fontSize="11.5px" mb="1">
        Figures of the year outside the range in which buildings lie (typical, unverified), each with what made it.
      </Text>
      {outliers.map((o) => {
        const { range, unit } = plausibleRanges[o.figure];
        return (
          <Box key={o.figure} py="2" borderTop="1px solid" borderColor="line">
            {o.chain.map((l, i) => (
              <Flex key={i} gap="2" align="baseline" pl={`${Math.min(i, 4) * 10}px`}>
                <Text flex="1" color={i === 0 ? "clay" : "ink"}>
                  {l.words}
                  {l.origin && (
                    <Text as="span" color="ink2">
                      {" "}
                      {originText(l.origin).mark} {originText(l.origin).words}
                    </Text>
                  )}
                </Text>
                <Text fontWeight={i === 0 ? "600" : undefined} whiteSpace="nowrap">
                  {valueWords(units, l)}
                </Text>
                {l.address !== null && <Act onClick={() => show(l.address as string, o.stage)}>Show</Act>}
              </Flex>
            ))}
            <Text color="ink2" fontSize="11.5px">
              usual: {valueWords(units, { value: range[0], unit })} to {valueWords(units, { value: range[1], unit })}
            </Text>
          </Box>
        );
      })}
    </Box>
  );
}
