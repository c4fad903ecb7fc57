import { Box, Flex, Text } from "@chakra-ui/react";

/** Headline figures in a row: label, value, unit. */
export function Figures({ figures }: { figures: readonly (readonly [label: string, value: string, unit: string])[] }) {
  return (
    <Flex wrap="wrap" columnGap="6" rowGap="1.5">
      {figures.map(([label, value, unit]) => (
        <Box key={label}>
          <Text fontSize="12px" color="ink2">
            {label}
          </Text>
          <Text fontSize="15px" fontWeight="600">
            {value}{" "}
            <Text as="span" fontSize="12px" color="ink2" fontWeight="400">
              {unit}
            </Text>
          </Text>
        </Box>
      ))}
    </Flex>
  );
}
