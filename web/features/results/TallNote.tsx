"use client";
import { Text } from "@chakra-ui/react";
import { checkProject, TALL_ROOM, type Project } from "@arroyo/core";
import { useUnits } from "../../ui/units.ts";

/** Zones with a space whose air cannot be well mixed over its height. */
export function tallZones(project: Project): ReadonlySet<string> {
  const out = new Set<string>();
  for (const g of checkProject(project).geometry.spaces.values()) {
    const zone = project.spaces[g.id]?.zone;
    if (zone && g.high - g.low > TALL_ROOM) out.add(zone);
  }
  return out;
}

/** What the mark beside such a zone means. */
export function TallNote() {
  const units = useUnits();
  return (
    <Text color="ink2" fontSize="12px" mt="1" data-testid="tall-room">
      * taller than {units.words(TALL_ROOM, "m", 0)}: its air is taken as well mixed over the whole height, which hides warm air under its roof. Cut the space
      into stacked zones (Form, the space’s own panel) to tell them apart.
    </Text>
  );
}
