"use client";
import { Box, Text } from "@chakra-ui/react";
import { setChange, type Project } from "@arroyo/core";
import { Quantity, Row, SelectInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { ScheduleSelect } from "./ScheduleSelect.tsx";
import { UseHead } from "./UseHead.tsx";

/** Lighting outside of the building: an end use of its own that warms nothing. */
export function SiteLightDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const light = project.siteLights[id];
  const at = (field: string): string[] => ["siteLights", id, field];
  return (
    <Box maxW="420px">
      <UseHead part="siteLights" id={id} />
      <Text color="ink2" mb="2">
        Lighting of paths, yards and signs: told as an end use of its own; its heat stays outside.
      </Text>
      <Row label="Installed power">
        <Quantity
          label="Installed power"
          electric
          value={light.power}
          unit="W"
          digits={0}
          width="96px"
          onCommit={(v) => edit(`${light.name}: power`, [setChange(project, at("power"), v)])}
        />
      </Row>
      <Row label="Switched" title="By dusk: on while the sun is below the horizon, to the part of the hour.">
        <SelectInput
          label="Switched"
          value={light.control}
          options={[
            { value: "dusk", label: "from dusk to dawn" },
            { value: "schedule", label: "by a schedule" },
          ]}
          onChange={(v) => edit(`${light.name}: ${v}`, [setChange(project, at("control"), v)])}
        />
      </Row>
      <Row label="Schedule" note={light.control === "dusk" ? "acts while the sun is down, so as to switch off late at night" : undefined}>
        <ScheduleSelect
          label="Schedule"
          value={light.schedule}
          none="always on"
          onChange={(v) => edit(`${light.name}: schedule`, [setChange(project, at("schedule"), v)])}
        />
      </Row>
    </Box>
  );
}
