"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { devicesPower, freeId, setChange, shippedDevices, type Device, type Project } from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { Act, firstMessage, NumberInput, Quantity, Row, TextInput } from "../../ui/fields.tsx";
import { Find } from "../../ui/Find.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { UseHead } from "./UseHead.tsx";

/** The devices of a room: found in the shipped list or typed, and the gain they come to. */
export function DeviceDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const [finding, setFinding] = useState(false);
  const list = project.deviceLists[id];
  const at = (...path: string[]): string[] => ["deviceLists", id, "devices", ...path];
  const add = (device: Omit<Device, "id">, base: string): void => {
    const key = freeId(Object.fromEntries(list.devices.map((d) => [d.id, d])), base);
    edit(`${list.name}: ${device.name}`, [{ op: "insert", path: at(key), value: { id: key, ...device } }]);
  };
  const share = (d: Device, field: "running" | "sensible" | "latent", label: string) => (
    <Quantity
      key={field}
      bare
      label={`${label} of ${d.name}`}
      width="44px"
      value={d[field]}
      unit="1"
      shown="%"
      digits={0}
      onCommit={(v) => edit(`${d.name}: ${label.toLowerCase()}`, [setChange(project, at(d.id, field), v)])}
    />
  );
  const power = (d: Device, field: "power" | "standby", label: string) => (
    <Quantity
      key={field}
      bare
      electric
      label={`${label} of ${d.name}`}
      width="58px"
      value={d[field]}
      unit="W"
      digits={0}
      onCommit={(v) => edit(`${d.name}: ${label.toLowerCase()}`, [setChange(project, at(d.id, field), v)])}
    />
  );
  return (
    <Flex direction="column" gap="3" maxW="900px">
      <UseHead part="deviceLists" id={id} />
      <Text color="ink2">
        The devices of one room. Power is taken in W or Btu/h; what is neither sensible nor latent leaves the room, by a hood, a drain or the product.
      </Text>
      <Grid
        label="Devices"
        head={[
          { text: "Device", left: true },
          { text: "Number" },
          { text: "Running", unit: units.unit("W", true) },
          { text: "Standby", unit: units.unit("W", true) },
          { text: "Runs", unit: "%" },
          { text: "Sensible", unit: "%" },
          { text: "Latent", unit: "%" },
          { text: "Leaves", unit: "%" },
          { text: "In use", unit: units.unit("W", true) },
          { text: "" },
        ]}
        rows={list.devices.map((d) => ({
          key: d.id,
          cells: [
            <TextInput
              key="name"
              label={`Name of ${d.name}`}
              align="left"
              width="176px"
              value={d.name}
              onCommit={(t) => firstMessage(edit(`${d.name} is now ${t}`, [setChange(project, at(d.id, "name"), t)]))}
            />,
            <NumberInput
              key="number"
              label={`Number of ${d.name}`}
              width="40px"
              value={d.number}
              digits={d.number % 1 === 0 ? 0 : 1}
              onCommit={(v) => firstMessage(edit(`${d.name}: ${v}`, [setChange(project, at(d.id, "number"), v)]))}
            />,
            power(d, "power", "Running power"),
            power(d, "standby", "Standby power"),
            share(d, "running", "Time running"),
            share(d, "sensible", "Sensible share"),
            share(d, "latent", "Latent share"),
            units.text(100 * Math.max(0, 1 - d.sensible - d.latent), "%", 0),
            units.text(d.number * (d.running * d.power + (1 - d.running) * d.standby), "W", 0, true),
            <IconButton
              key="remove"
              label={`Remove ${d.name}`}
              icon={Trash2}
              onClick={() => edit(`${list.name}: without ${d.name}`, [{ op: "remove", path: at(d.id), old: d }])}
            />,
          ],
        }))}
      />
      {list.devices.length === 0 && <Text color="ink2">No device yet: find one in the shipped list, or type one.</Text>}
      <Flex gap="3" align="center">
        <IconButton label="Find a device" icon={Plus} onClick={() => setFinding(!finding)} />
        <Act onClick={() => setFinding(!finding)}>Find a device</Act>
        <Act onClick={() => add({ name: "Device", number: 1, power: 100, standby: 0, running: 1, sensible: 1, latent: 0 }, "device")}>Type one</Act>
      </Flex>
      {finding && (
        <Find
          label="Device"
          items={shippedDevices.map((d) => ({
            key: d.id,
            name: d.name,
            group: "Arroyo",
            kind: d.group,
            figures: `${units.words(d.power, "W", 0, true)}, latent ${Math.round(100 * d.latent)} %`,
          }))}
          onChoose={(key) => {
            const found = shippedDevices.find((d) => d.id === key);
            if (!found) return;
            const { id: base, group: _, ...device } = found;
            add({ ...device, number: 1 }, base);
            setFinding(false);
          }}
          onClose={() => setFinding(false)}
        />
      )}
      <DeviceSum devices={list.devices} />
    </Flex>
  );
}

/** The gain a list of devices comes to, and how. */
export function DeviceSum({ devices }: { devices: readonly Device[] }) {
  const units = useUnits();
  const { always, scheduled } = devicesPower(devices);
  const power = always.power + scheduled.power;
  const sensible = always.sensible + scheduled.sensible;
  const latent = always.latent + scheduled.latent;
  const part = (v: number): string => (power > 0 ? `${Math.round((100 * v) / power)} %` : "—");
  return (
    <Box maxW="420px" data-testid="device-sum">
      <Row label="Power in use" title="Number × (time running × running power + the rest × standby power)">
        <b>{units.words(power, "W", 0, true)}</b>
      </Row>
      <Row label="of it sensible in the room">
        {units.words(sensible, "W", 0)} · {part(sensible)}
      </Row>
      <Row label="of it latent in the room">
        {units.words(latent, "W", 0)} · {part(latent)}
      </Row>
      <Row label="of it leaves the room">
        {units.words(power - sensible - latent, "W", 0)} · {part(power - sensible - latent)}
      </Row>
      <Row label="Standby out of use" title="Drawn at all times, also while the schedule is at 0">
        {units.words(always.power, "W", 0, true)}
      </Row>
    </Box>
  );
}
