"use client";
import { Box, Flex } from "@chakra-ui/react";
import { endUses, type EndUse, type Summary } from "@arroyo/core";
import { endUseColour } from "./colours.ts";
import { unitOf } from "./format.ts";
import { useUnits } from "./units.ts";

const perUse = (s: Summary): Record<EndUse, number> =>
  Object.fromEntries(
    endUses.map((u) => [u, s.energy.endUses.filter((r) => r.use === u).reduce((a, r) => a + r.total, 0) / Math.max(1, s.floorArea)]),
  ) as Record<EndUse, number>;

/** Fans and pumps share a place in the strip; Results tells them apart. */
const groups: readonly { readonly label: string; readonly uses: readonly EndUse[]; readonly colour: EndUse }[] = [
  { label: "heating", uses: ["heating"], colour: "heating" },
  { label: "cooling", uses: ["cooling"], colour: "cooling" },
  { label: "fans, pumps", uses: ["fans", "pumps"], colour: "fans" },
  { label: "lighting", uses: ["lighting"], colour: "lighting" },
  { label: "appliances", uses: ["appliances"], colour: "appliances" },
  { label: "hot water", uses: ["hot water"], colour: "hot water" },
  { label: "heat rejection", uses: ["heat rejection"], colour: "heat rejection" },
  { label: "humidification", uses: ["humidification"], colour: "humidification" },
  { label: "exterior lighting", uses: ["exterior lighting"], colour: "exterior lighting" },
];
/** Uses told only where there are any. */
const RARE: readonly EndUse[] = ["heat rejection", "humidification", "exterior lighting"];
export const hatch = "repeating-linear-gradient(135deg, #B5533C 0 5px, #C46A54 5px 9px)";

/** Energy by end use as one strip with its legend. */
export function EndUseStrip({ summary, faded = false }: { summary: Summary | null; faded?: boolean }) {
  const units = useUnits();
  const uses = summary ? perUse(summary) : null;
  const total = uses ? Object.values(uses).reduce((a, b) => a + b, 0) : 0;
  return (
    <Box flex="1" minW="220px">
      <Flex
        opacity={faded ? 0.55 : 1}
        h="13px"
        overflow="hidden"
        gap="1px"
        role="img"
        aria-label={
          uses
            ? `Energy by end use: ${endUses.map((u) => `${u} ${units.text(uses[u], "kWh/m²a", 1)}`).join(", ")} ${units.unit(unitOf("kWh/m²a", summary))}`
            : "No result yet"
        }
      >
        {uses &&
          endUses.map(
            (u) =>
              uses[u] > 0 && (
                <Box
                  key={u}
                  title={`${u} ${units.text(uses[u], "kWh/m²a", 1)} ${units.unit(unitOf("kWh/m²a", summary))}`}
                  style={{ flexGrow: uses[u] / total, background: u === "heating" ? hatch : endUseColour[u] }}
                />
              ),
          )}
      </Flex>
      <Flex wrap="wrap" columnGap="2.5" mt="1" fontSize="11.5px" color="ink2" lineHeight="1.3">
        {uses &&
          groups
            .filter((g) => !g.uses.every((u) => RARE.includes(u) && uses[u] === 0))
            .map((g) => (
              <Flex as="span" key={g.label} align="center" gap="1" whiteSpace="nowrap">
                <Box w="7px" h="7px" background={g.colour === "heating" ? hatch : endUseColour[g.colour]} />
                {g.label}{" "}
                {units.text(
                  g.uses.reduce((a, u) => a + uses[u], 0),
                  "kWh/m²a",
                  1,
                )}
              </Flex>
            ))}
      </Flex>
    </Box>
  );
}
