"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { plantChoices, systemChanges, systemChoices, type PlantChoice, type Project, type SystemChoice } from "@arroyo/core";
import { Act, Head, Row, SelectInput, TextInput } from "../../ui/fields.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { useStore } from "../store.ts";
import { selectionOf } from "./componentPlace.ts";

const WATER: readonly SystemChoice[] = ["variable", "constant", "fan coils", "slabs", "baseboards"];

/** A system chosen by plain description for zones that are ticked: it runs at once, everything left to sizing. */
export function MakeSystem({ done }: { done: (system: string | null) => void }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const [choice, setChoice] = useState<SystemChoice>("variable");
  const [plant, setPlant] = useState<PlantChoice>("boiler and chiller");
  const all = Object.keys(project.zones);
  const free = all.filter((z) => (project.zones[z].equipment ?? []).length === 0);
  const [zones, setZones] = useState<readonly string[]>(free.length > 0 ? free : all);
  const taken = Object.keys(project.airSystems).length;
  const [name, setName] = useState(taken === 0 ? "Air system" : `Air system ${taken + 1}`);
  const storeys = [...new Set(Object.values(project.spaces).map((s) => s.storey))];
  const onStorey = (storey: string): string[] => all.filter((z) => Object.values(project.spaces).some((s) => s.zone === z && s.storey === storey));
  const make = (): void => {
    const words = systemChoices.find((c) => c.id === choice)?.words ?? "";
    const before = new Set(Object.keys(project.airSystems));
    if (edit(`${name}: ${words.toLowerCase()}`, systemChanges(project, choice, plant, zones, name)).length > 0) return;
    const made = Object.keys((useStore.getState().project as Project).airSystems).find((id) => !before.has(id));
    if (made !== undefined) select([selectionOf(["airSystems", made])]);
    done(made ?? null);
  };
  return (
    <Box maxW="720px">
      <Text as="h2" textStyle="title">
        A system for some rooms
      </Text>
      <Text color="ink2" mb="3">
        Choose what it is and the rooms it serves. Everything is left to sizing and runs at once; then open any part of it and make it the real one.
      </Text>
      <Flex gap="6">
        <Box flex="1" role="radiogroup" aria-label="What it is">
          {systemChoices.map((c) => (
            <chakra.button
              key={c.id}
              type="button"
              role="radio"
              aria-checked={choice === c.id}
              display="block"
              w="100%"
              textAlign="left"
              px="2.5"
              py="1"
              borderLeft="3px solid"
              borderColor={choice === c.id ? "water" : "transparent"}
              background={choice === c.id ? "wash" : "transparent"}
              cursor="pointer"
              _hover={{ background: "wash" }}
              onClick={() => setChoice(c.id)}
            >
              <Text fontWeight={choice === c.id ? "600" : "400"}>{c.words}</Text>
              <Text fontSize="11.5px" color="ink2">
                {c.about}
              </Text>
            </chakra.button>
          ))}
        </Box>
        <Box w="270px" flexShrink={0}>
          <Row label="Name">
            <TextInput
              label="Name of the system"
              width="160px"
              value={name}
              onCommit={(t) => {
                setName(t);
                return null;
              }}
            />
          </Row>
          {WATER.includes(choice) && (
            <Row label="Plant" note={Object.keys(project.loops).length > 0 ? "loops that are there already are used" : undefined}>
              <SelectInput
                label="Plant"
                width="190px"
                value={plant}
                options={plantChoices.map((p) => ({ value: p.id, label: p.words }))}
                onChange={(v) => setPlant(v as PlantChoice)}
              />
            </Row>
          )}
          <Flex align="baseline" justify="space-between">
            <Head>Rooms</Head>
            <Text color="ink2" fontSize="11.5px">
              {zones.length} of {all.length}
            </Text>
          </Flex>
          <Flex gap="2.5" wrap="wrap" mb="1">
            <Act onClick={() => setZones(all)}>all</Act>
            <Act onClick={() => setZones([])}>none</Act>
            {free.length > 0 && free.length < all.length && <Act onClick={() => setZones(free)}>not served yet</Act>}
            {storeys.length > 1 &&
              storeys.map((s) => (
                <Act key={s} onClick={() => setZones(onStorey(s))}>
                  {project.storeys[s].name.toLowerCase()}
                </Act>
              ))}
          </Flex>
          <Box maxH="300px" overflowY="auto" tabIndex={0} aria-label="Rooms to be served">
            {all.map((z) => (
              <chakra.label key={z} display="flex" gap="2" py="0.5" cursor="pointer" alignItems="center">
                <input
                  type="checkbox"
                  checked={zones.includes(z)}
                  onChange={(e) => setZones(e.target.checked ? all.filter((x) => x === z || zones.includes(x)) : zones.filter((x) => x !== z))}
                />
                <Text as="span">{project.zones[z].name}</Text>
                {(project.zones[z].equipment ?? []).length > 0 && (
                  <Text as="span" color="ink2" fontSize="11px">
                    served already
                  </Text>
                )}
              </chakra.label>
            ))}
          </Box>
          <Flex gap="3" mt="3" align="center">
            <PrimaryButton onClick={make} disabled={zones.length === 0}>
              Make it
            </PrimaryButton>
            <Act onClick={() => done(null)}>cancel</Act>
          </Flex>
        </Box>
      </Flex>
    </Box>
  );
}
