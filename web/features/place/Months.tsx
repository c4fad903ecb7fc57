"use client";
import { Flex, Text } from "@chakra-ui/react";
import { Quantity } from "../../ui/fields.tsx";
import { digitsFor, monthNames } from "../../ui/format.ts";

/** Twelve figures, each typed over. */
export function Months({
  label,
  values,
  unit,
  onCommit,
}: {
  label: string;
  values: readonly number[];
  unit: string;
  onCommit: (month: number, v: number) => string | null;
}) {
  return (
    <Flex wrap="wrap">
      {monthNames.map((month, i) => (
        <Flex key={`${label}-${month}`} w="33%" align="center" py="0.5" gap="1">
          <Text color="ink2" w="26px" fontSize="12px">
            {month}
          </Text>
          <Quantity
            bare
            width="50px"
            label={`${month} ${label}`}
            value={values[i]}
            unit={unit}
            digits={Math.min(2, digitsFor(values[i]))}
            onCommit={(v) => onCommit(i, v)}
          />
        </Flex>
      ))}
    </Flex>
  );
}
