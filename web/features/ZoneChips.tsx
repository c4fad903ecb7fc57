"use client";
import { chakra, Flex } from "@chakra-ui/react";
import type { Project } from "@arroyo/core";
import { useStore } from "./store.ts";

/** Every zone as a chip that is in or out. @param told a word for a zone, shown when it is pointed at */
export function ZoneChips({
  chosen,
  change,
  told = () => undefined,
}: {
  chosen: readonly string[];
  change: (zones: string[], name: string) => void;
  told?: (zone: string) => string | undefined;
}) {
  const project = useStore((s) => s.project) as Project;
  return (
    <Flex wrap="wrap" gap="1" pt="1.5">
      {Object.entries(project.zones).map(([z, zone]) => {
        const on = chosen.includes(z);
        return (
          <chakra.button
            key={z}
            type="button"
            aria-pressed={on}
            title={on ? undefined : told(z)}
            px="2"
            fontSize="12px"
            border="1px solid"
            borderColor={on ? "water" : "line"}
            background={on ? "wash" : "sheet"}
            borderRadius="small"
            cursor="pointer"
            onClick={() => change(on ? chosen.filter((x) => x !== z) : [...chosen, z], zone.name)}
          >
            {zone.name}
          </chakra.button>
        );
      })}
    </Flex>
  );
}
