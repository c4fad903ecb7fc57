"use client";
import { Flex, Text } from "@chakra-ui/react";
import { checkProject, setChange, type Change, type Project } from "@arroyo/core";
import { Act, Head, Row, Quantity } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";

/** Points at which daylight is reckoned in one space, in plan coordinates. */
export function Sensors({ space }: { space: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const own = Object.entries(project.sensors).filter(([, s]) => s.space === space);
  const name = project.spaces[space].name;
  const add = (): void => {
    const outline = checkProject(project).geometry.spaces.get(space)?.outline ?? [];
    const middle = (axis: 0 | 1): number => Math.round((100 * outline.reduce((s, p) => s + p[axis], 0)) / Math.max(1, outline.length)) / 100;
    let n = own.length + 1;
    while (Object.hasOwn(project.sensors, `${space}_sensor_${n}`)) n++;
    const value = { name: `${name} ${n}`, space, x: middle(0), y: middle(1), height: 0.8, share: Math.max(0, 1 - own.reduce((s, [, o]) => s + o.share, 0)) };
    edit(`Sensor point in ${name}`, [{ op: "insert", path: ["sensors", `${space}_sensor_${n}`], value } as Change]);
  };
  return (
    <>
      <Head>Sensor points</Head>
      {own.length === 0 && (
        <Text color="ink2" fontSize="12px">
          None typed; where lighting answers daylight, one is proposed in the middle.
        </Text>
      )}
      {own.map(([id, s]) => {
        const number = (key: "x" | "y" | "height" | "share", label: string, unit: string, digits: number, bare = false) => (
          <Quantity
            bare={bare}
            label={`${label} of ${s.name}`}
            width="46px"
            value={s[key]}
            unit={key === "share" ? "1" : "m"}
            shown={unit}
            digits={digits}
            onCommit={(v) => edit(`${s.name}: ${label}`, [setChange(project, ["sensors", id, key], v)])}
          />
        );
        return (
          <Row
            key={id}
            label={s.name}
            note={
              <Flex as="span" gap="1" justify="flex-end" align="center">
                {number("share", "controlled share", "%", 0, true)} % of lighting, {number("height", "height", "m", 1)} up{" "}
                <Act onClick={() => edit(`Remove ${s.name}`, [{ op: "remove", path: ["sensors", id], old: s }])}>remove</Act>
              </Flex>
            }
          >
            {number("x", "x", "m", 1, true)}
            {number("y", "y", "m", 1)}
          </Row>
        );
      })}
      <Act onClick={add}>Add a sensor point</Act>
    </>
  );
}
