"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { effective, setChange, signalName, spaceFields, spaceUses, type Project, type SpaceField } from "@arroyo/core";
import { Act, OriginMark, SelectInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { AirDesk } from "./AirDesk.tsx";
import { DeviceSum } from "./DeviceDesk.tsx";
import { SetpointLine } from "./SetpointLine.tsx";
import { WeekStrip } from "./ScheduleDesk.tsx";
import { showUse } from "./useDesk.ts";
import { UseHead } from "./UseHead.tsx";

const SCHEDULES = ["peopleSchedule", "lightingSchedule", "applianceSchedule", "outdoorAirSchedule", "conditioningSchedule"] as const;

/** One space type: its week, what it gives each of its spaces, and who has it. */
export function TypeDesk({ id }: { id: string }) {
  const units = useUnits();
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const type = project.spaceTypes[id];
  const shown = SCHEDULES.map((f) => ({ field: f, schedule: type.inputs[f] as string | null | undefined }));
  const members = Object.entries(project.spaces).filter(([, s]) => s.spaceType === id);
  const uses = spaceUses(project);
  const list = type.inputs.applianceGiven === "device list" ? (type.inputs.deviceList as string | null | undefined) : null;
  const marked = (space: string, fields: readonly SpaceField[], text: string) => {
    const own = fields.map((f) => effective(project, "space", space, f).origin).find((o) => o.kind !== "spaceType" && o.kind !== "default");
    return (
      <span key={fields[0]}>
        {own && <OriginMark origin={own} />} {text}
      </span>
    );
  };
  const temperature = (space: string, f: "heatingSetpoint" | "coolingSetpoint"): string => {
    const { value } = effective(project, "space", space, f);
    return value === null
      ? f === "heatingSetpoint"
        ? "not heated"
        : "not cooled"
      : typeof value === "string"
        ? (signalName(project, value) ?? value)
        : units.text(value, "°C", 1);
  };
  return (
    <Flex direction="column" gap="4">
      <Box>
        <UseHead part="spaceTypes" id={id}>
          <Text color="ink2">an ordinary week, Monday to Sunday; share in use, hour by hour</Text>
        </UseHead>
        {shown.map(({ field, schedule }) => (
          <Flex key={field} align="center" gap="3" mb="1">
            <Text w="130px" color="ink2">
              {spaceFields[field].label.replace(" schedule", "")}
            </Text>
            <Box flex="1">{schedule ? <WeekStrip schedule={project.schedules[schedule]} /> : <Text color="ink2">always on</Text>}</Box>
            <Box w="130px">{schedule && <Act onClick={() => showUse("schedules", schedule)}>{project.schedules[schedule].name}</Act>}</Box>
          </Flex>
        ))}
      </Box>
      <SetpointLine read={(f) => type.inputs[f] ?? spaceFields[f].default} />
      {list && (
        <Box>
          <Text as="h2" textStyle="title">
            Appliances from <Act onClick={() => showUse("deviceLists", list)}>{project.deviceLists[list].name}</Act>
          </Text>
          <DeviceSum devices={project.deviceLists[list].devices} />
        </Box>
      )}
      <Box>
        <Text as="h2" textStyle="title" mb="1">
          Spaces of this type, at full use
        </Text>
        <Grid
          label="Spaces of this type"
          head={[
            { text: "Space", left: true },
            { text: "Area", unit: units.unit("m²") },
            { text: "People" },
            { text: "Lighting", unit: units.unit("W", true) },
            { text: "Appliances", unit: units.unit("W", true) },
            { text: "of it latent", unit: "%" },
            { text: "Outdoor air", unit: units.unit("L/s") },
            { text: "Heat to", unit: units.unit("°C") },
            { text: "Cool to", unit: units.unit("°C") },
          ]}
          rows={members.map(([space, s]) => {
            const u = uses.get(space);
            const power = u ? u.appliances.power + u.standby.power : 0;
            const air = u?.outdoorAir;
            return {
              key: space,
              cells: [
                s.name,
                units.text(u?.area, "m²", 1),
                marked(space, ["peopleDensity", "peopleGiven", "peopleCount", "peopleArea"], units.text(u?.people, "1", 1)),
                marked(space, ["lightingPower", "lightingGiven", "lightingSpacePower"], units.text(u?.lighting, "W", 0, true)),
                marked(space, ["appliancePower", "applianceGiven", "applianceSpacePower", "deviceList"], units.text(power, "W", 0, true)),
                power > 0 && u ? String(Math.round((100 * (u.appliances.latent + u.standby.latent)) / power)) : "—",
                <span key="air" title={air ? airWords(air, units.words) : ""}>
                  {marked(
                    space,
                    ["outdoorAirPerSpace", "outdoorAirPerPerson", "outdoorAirPerArea", "outdoorAirChanges", "outdoorAirCombined"],
                    units.text(air && 1000 * air.supplied, "L/s", 1),
                  )}
                </span>,
                marked(space, ["heatingSetpoint"], temperature(space, "heatingSetpoint")),
                marked(space, ["coolingSetpoint"], temperature(space, "coolingSetpoint")),
              ],
            };
          })}
        />
        {members.length === 0 && <Text color="ink2">No space has this type. Give it to one in Form, or from the list below.</Text>}
      </Box>
      {members.length > 0 && <AirDesk type={id} />}
      <Flex gap="3" align="center">
        <Text color="ink2">Give this type to</Text>
        <SelectInput
          label="Give this type to"
          align="left"
          width="200px"
          value=""
          options={[
            { value: "", label: "a space …" },
            ...Object.entries(project.spaces)
              .filter(([, s]) => s.spaceType !== id)
              .map(([space, s]) => ({ value: space, label: s.name })),
          ]}
          onChange={(v) => v && edit(`${project.spaces[v].name} becomes ${type.name}`, [setChange(project, ["spaces", v, "spaceType"], id)])}
        />
      </Flex>
    </Flex>
  );
}

/** Outdoor air term by term. */
export function airWords(
  air: {
    readonly people: number;
    readonly area: number;
    readonly changes: number;
    readonly needed: number;
    readonly supplied: number;
    readonly makeup: number;
  },
  words: (v: number, si: string, digits?: number) => string,
): string {
  const flow = (v: number): string => words(1000 * v, "L/s", 1);
  const terms = [`people ${flow(air.people)}`, `area ${flow(air.area)}`, ...(air.changes > 0 ? [`air changes ${flow(air.changes)}`] : [])];
  return `${terms.join(" + ")}; needed ${flow(air.needed)}, supplied ${flow(air.supplied)}${air.makeup > 0 ? `; ${flow(air.makeup)} drawn in by exhaust` : ""}`;
}
