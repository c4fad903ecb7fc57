"use client";
import { Flex, Text } from "@chakra-ui/react";
import { CONTROL_ABOVE, daylightControlChanges, daylitAreas, effective, type Project } from "@arroyo/core";
import { Grid } from "../../ui/Panes.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

/** Where daylight reaches, how much lighting hangs there, and control by it given to every space that needs it. */
export function DaylightDesk() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const areas = daylitAreas(project);
  const lacking = areas.filter((a) => a.needsControl && !a.controlled);
  return (
    <Flex direction="column" gap="3" maxW="980px">
      <Text as="h2" textStyle="title">
        Control of lighting by daylight
      </Text>
      <Text color="ink2">
        Beside a window daylight reaches as deep as its head is high, and 0.6 m past its sides; as far again beyond; under a skylight past its edges by 0.7 of
        the room’s height. Where more than {CONTROL_ABOVE} W of lighting hang beside windows or under skylights, it is to be controlled (after ASHRAE 90.1-2019,
        9.4.1.1).
      </Text>
      <Flex gap="3" align="center">
        <PrimaryButton
          disabled={lacking.length === 0}
          onClick={() => edit("Lighting controlled by daylight where it is needed", daylightControlChanges(project))}
        >
          Give every space that needs it the control
        </PrimaryButton>
        <Text color="ink2" data-testid="control-lacking">
          {lacking.length === 0
            ? "Every space that needs it has it."
            : `${lacking.length} space${lacking.length === 1 ? "" : "s"} need${lacking.length === 1 ? "s" : ""} it: dimmed, with a sensor point in the middle of the area and its share of the floor.`}
        </Text>
      </Flex>
      <Grid
        label="Where daylight reaches"
        head={[
          { text: "Space", left: true },
          { text: "Floor", unit: units.unit("m²") },
          { text: "Primary sidelit", unit: units.unit("m²") },
          { text: "Secondary sidelit", unit: units.unit("m²") },
          { text: "Toplit", unit: units.unit("m²") },
          { text: "Lighting there", unit: units.unit("W", true) },
          { text: "Needs it" },
          { text: "Control", left: true },
          { text: "Share", unit: "%" },
        ]}
        rows={areas.map((a) => ({
          key: a.space,
          cells: [
            project.spaces[a.space].name,
            units.text(a.floor, "m²", 1),
            units.text(a.primary, "m²", 1),
            units.text(a.secondary, "m²", 1),
            units.text(a.top, "m²", 1),
            units.text(a.primaryPower + a.topPower, "W", 0, true),
            a.needsControl ? "yes" : "no",
            <Text key="c" as="span" color={a.needsControl && !a.controlled ? "clay" : undefined}>
              {String(effective(project, "space", a.space, "lightingControl").value)}
            </Text>,
            a.controlled ? units.text(100 * (effective(project, "space", a.space, "lightingControlledShare").value as number), "%", 0) : "—",
          ],
        }))}
      />
    </Flex>
  );
}
