"use client";
import { Flex, Text } from "@chakra-ui/react";
import { setChange, unsetChange, type Change, type Project } from "@arroyo/core";
import { firstMessage, NumberInput, Row, SelectInput, Unit } from "../../ui/fields.tsx";
import { monthNames } from "../../ui/format.ts";
import { useStore } from "../store.ts";

/** Choices beside the schedules; ids have no spaces. */
const NOTHING = "no sun";
const MONTHS = "by month";
/** A woven screen: typical, unverified. */
const SCREEN = 0.3;

/** Sun a shading device lets through: none, a share by month, or one that a schedule drives. */
export function LetsThrough({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const shade = project.shades[id];
  const schedule = shade.transmittanceSchedule ?? null;
  const months = shade.transmittance ?? null;
  const schedules = Object.entries(project.schedules).filter(([, s]) => s.kind === "fraction");
  const at = (key: string): string[] => ["shades", id, key];
  const put = (words: string, changes: Change[]): string | null => firstMessage(edit(`${shade.name}: ${words}`, changes), 100);
  const without = (): Change[] => [
    ...(shade.transmittance === undefined ? [] : [unsetChange(project, at("transmittance"))]),
    ...(shade.transmittanceSchedule === undefined ? [] : [unsetChange(project, at("transmittanceSchedule"))]),
  ];
  const choose = (v: string): void => {
    if (v === NOTHING) put("lets no sun through", without());
    else if (v === MONTHS)
      put("lets sun through by month", [
        ...(schedule === null ? [] : [setChange(project, at("transmittanceSchedule"), null)]),
        ...(months === null ? [setChange(project, at("transmittance"), new Array<number>(12).fill(SCREEN))] : []),
      ]);
    else put(`lets sun through by “${project.schedules[v].name}”`, [setChange(project, at("transmittanceSchedule"), v)]);
  };
  return (
    <>
      <Row
        label="Lets through"
        title="Share of sun that passes: of a screen or pergola by month, of something that is put up and taken away by a schedule of shares, 1 where it is away."
        note={schedule === null ? undefined : "share let through, hour by hour"}
      >
        <SelectInput
          label="Lets through"
          value={schedule ?? (months === null ? NOTHING : MONTHS)}
          options={[NOTHING, MONTHS].map((v) => ({ value: v, label: v })).concat(schedules.map(([value, s]) => ({ value, label: s.name })))}
          onChange={choose}
        />
      </Row>
      {schedule === null && months !== null && (
        <Flex wrap="wrap" columnGap="2" rowGap="0.5" py="1" borderBottom="1px solid" borderColor="line" align="center">
          {monthNames.map((name, m) => (
            <Flex key={name} align="center" gap="1" w="76px" justify="space-between">
              <Text color="ink2" fontSize="12px">
                {name}
              </Text>
              <NumberInput
                label={`Lets through in ${name}`}
                width="44px"
                digits={0}
                value={100 * months[m]}
                onCommit={(v) =>
                  put(`${v} % in ${name}`, [
                    setChange(
                      project,
                      at("transmittance"),
                      months.map((x, i) => (i === m ? v / 100 : x)),
                    ),
                  ])
                }
              />
            </Flex>
          ))}
          <Unit>% of sun</Unit>
        </Flex>
      )}
    </>
  );
}
