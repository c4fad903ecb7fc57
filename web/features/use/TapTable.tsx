"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { Plus, Trash2 } from "lucide-react";
import { freeId, modelledPeople, setChange, shippedTaps, tapSets, withTaps, type DrawPoint, type Project } from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { Act, firstMessage, NumberInput, Quantity, Row, SelectInput, TextInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

/** The taps of a draw, with a set to begin from and how it grows with people. */
export function TapTable({ id, point }: { id: string; point: Extract<DrawPoint, { kind: "taps" }> }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const at = (...path: string[]): string[] => ["drawPoints", id, ...path];
  const sets = tapSets(project, point);
  const add = (): void => {
    const key = freeId(Object.fromEntries(point.taps.map((t) => [t.id, t])), "tap");
    edit(`${point.name}: another tap`, [{ op: "insert", path: at("taps", key), value: { id: key, name: "Basin tap", number: 1, flow: 5 / 60000 } }]);
  };
  const people = point.space === null ? modelledPeople(project) : null;
  return (
    <Box maxW="760px">
      <Flex align="center" gap="2">
        <Text fontWeight="600">{point.space === null ? "Taps of the building" : `Taps in ${project.spaces[point.space].name}`}</Text>
        <IconButton label="Add a tap" icon={Plus} onClick={add} />
        <SelectInput
          label="Take a set of taps"
          width="170px"
          value=""
          options={[{ value: "", label: "take a set …" }, ...Object.entries(shippedTaps).map(([k, s]) => ({ value: k, label: s.name }))]}
          onChange={(k) => {
            if (Object.hasOwn(shippedTaps, k)) edit(`${point.name}: ${shippedTaps[k].name}`, [setChange(project, ["drawPoints", id], withTaps(point, k))]);
          }}
        />
        <Text color="ink2">the schedule says which share of their full flow runs in each hour</Text>
      </Flex>
      <Grid
        label="Taps"
        head={[
          { text: "Tap", left: true },
          { text: "Number" },
          { text: "Flow of each", unit: units.unit("L/min") },
          { text: "Together", unit: units.unit("L/min") },
          { text: "" },
        ]}
        rows={point.taps.map((t) => ({
          key: t.id,
          cells: [
            <TextInput
              key="name"
              label={`Name of ${t.name}`}
              align="left"
              width="190px"
              value={t.name}
              onCommit={(v) => firstMessage(edit(`${t.name} is now ${v}`, [setChange(project, at("taps", t.id, "name"), v)]))}
            />,
            <NumberInput
              key="number"
              label={`Number of ${t.name}`}
              value={t.number}
              digits={0}
              onCommit={(v) => firstMessage(edit(`${t.name}: number`, [setChange(project, at("taps", t.id, "number"), v)]))}
            />,
            <Quantity
              key="flow"
              bare
              label={`Flow of ${t.name}`}
              value={t.flow}
              unit="m³/s"
              shown="L/min"
              digits={1}
              onCommit={(v) => edit(`${t.name}: flow`, [setChange(project, at("taps", t.id, "flow"), v)])}
            />,
            units.text(60000 * t.flow * t.number, "L/min", 1),
            <IconButton
              key="remove"
              label={`Remove ${t.name}`}
              icon={Trash2}
              onClick={() => edit(`Without ${t.name}`, [{ op: "remove", path: at("taps", t.id), old: t }])}
            />,
          ],
        }))}
      />
      <Box maxW="420px" mt="2">
        <Row
          label="Made for a number of people"
          title="With more or fewer people where it stands, the set grows in proportion."
          note={
            point.people === null ? (
              <Act onClick={() => edit(`${point.name}: grows with the people`, [setChange(project, at("people"), Math.max(1, Math.round(people ?? 10)))])}>
                let it grow with the people
              </Act>
            ) : (
              <>
                {people === null ? "" : `${units.text(people, "1", 0)} in the building: `}the set counts {units.text(sets, "1", 2)} times ·{" "}
                <Act onClick={() => edit(`${point.name}: as it is`, [setChange(project, at("people"), null)])}>as it is</Act>
              </>
            )
          }
        >
          {point.people === null ? (
            "no"
          ) : (
            <NumberInput
              label="Made for a number of people"
              value={point.people}
              onCommit={(v) => firstMessage(edit(`${point.name}: made for ${v} people`, [setChange(project, at("people"), v)]))}
            />
          )}
        </Row>
      </Box>
    </Box>
  );
}
