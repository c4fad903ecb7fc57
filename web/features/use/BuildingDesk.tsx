"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { effective, fullHours, modelledArea, modelledPart, setChange, shareWords, spaceShapes, spaceUses, type Change, type Project } from "@arroyo/core";
import { Act, Head, Quantity, Row } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

const ASK = {
  headcount: { given: "peopleGiven", is: "share of headcount", label: "Headcount", unit: "person", shown: "" },
  lighting: { given: "lightingGiven", is: "share of yearly energy", label: "Lighting in a year", unit: "kWh", shown: "kWh" },
  appliances: { given: "applianceGiven", is: "share of yearly energy", label: "Appliances in a year", unit: "kWh", shown: "kWh" },
} as const;
type Asked = keyof typeof ASK;

/** What is known of the whole building, spread over the spaces that ask for their share. */
export function BuildingDesk() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const own = modelledArea(project);
  const part = modelledPart(project);
  const shapes = spaceShapes(project);
  const uses = spaceUses(project);
  const known = project.known;
  const set = (field: keyof Project["known"], value: number | null, words: string) =>
    edit(`The whole building: ${words}`, [setChange(project, ["known", field], value)]);
  const asking = (a: Asked): string[] => Object.keys(project.spaces).filter((id) => effective(project, "space", id, ASK[a].given).value === ASK[a].is);
  const letAll = (a: Asked): void => {
    const { given, is, label } = ASK[a];
    const changes: Change[] = Object.keys(project.spaceTypes).map((t) => setChange(project, ["spaceTypes", t, "inputs", given], is));
    for (const [id, s] of Object.entries(project.spaces))
      if (s.spaceType === null || (s.inputs[given] !== undefined && s.inputs[given] !== is))
        changes.push(setChange(project, ["spaces", id, "inputs", given], is));
    edit(`${label}: every space takes its share`, changes);
  };
  const times = (id: string): number => project.storeys[project.spaces[id].storey].multiplier;
  const figures = (a: Asked): { perArea: number; sum: number } => {
    let area = 0;
    let size = 0;
    let sum = 0;
    for (const id of asking(a)) {
      const u = uses.get(id);
      if (!u) continue;
      area += (shapes.get(id)?.floorArea ?? 0) * times(id);
      const power = a === "headcount" ? u.people : a === "lighting" ? u.lighting : u.appliances.power;
      size += power * times(id);
      const schedule = effective(project, "space", id, a === "lighting" ? "lightingSchedule" : "applianceSchedule").value as string | null;
      sum += a === "headcount" ? power * times(id) : (power * times(id) * fullHours(project, schedule)) / 1000;
    }
    return { perArea: area > 0 ? size / area : 0, sum };
  };
  return (
    <Flex direction="column" gap="3" maxW="860px">
      <Text as="h2" textStyle="title">
        The whole building
      </Text>
      <Text color="ink2">
        What is known of the whole building is scaled to the part that is modelled, by floor area, and spread over the spaces that ask for their share. It
        follows every change of area and schedule.
      </Text>
      <Box maxW="420px">
        <Row
          label="Floor area of the building"
          note={
            known.area === null ? (
              "all of it is modelled"
            ) : (
              <>
                the model has {units.words(own, "m²", 0)}: {Number((100 * part).toPrecision(3))} %, {shareWords(part)} ·{" "}
                <Act onClick={() => set("area", null, "all of it is modelled")}>all of it is modelled</Act>
              </>
            )
          }
        >
          <Quantity
            label="Floor area of the building"
            value={known.area ?? own}
            unit="m²"
            digits={0}
            width="96px"
            onCommit={(v) => set("area", v, "floor area")}
          />
        </Row>
        {(Object.keys(ASK) as Asked[]).map((a) => (
          <Row
            key={a}
            label={ASK[a].label}
            note={
              <>
                {asking(a).length} of {Object.keys(project.spaces).length} spaces ask for their share ·{" "}
                <Act onClick={() => letAll(a)}>let every space ask for it</Act>
                {known[a] !== null && (
                  <>
                    {" "}
                    · <Act onClick={() => set(a, null, `${ASK[a].label.toLowerCase()} not known`)}>not known</Act>
                  </>
                )}
              </>
            }
          >
            <Quantity
              label={ASK[a].label}
              electric
              value={known[a]}
              unit={ASK[a].unit}
              digits={0}
              width="96px"
              onCommit={(v) => set(a, v, ASK[a].label.toLowerCase())}
            />
          </Row>
        ))}
      </Box>
      <Box>
        <Head>What it comes to</Head>
        <Grid
          label="What is known of the building, spread"
          head={[{ text: "", left: true }, { text: "Of the part modelled" }, { text: "Per floor area" }, { text: "Adds up to" }, { text: "", left: true }]}
          rows={(Object.keys(ASK) as Asked[])
            .filter((a) => known[a] !== null)
            .map((a) => {
              const wanted = (known[a] as number) * Math.min(1, part);
              const { perArea, sum } = figures(a);
              const unit = ASK[a].shown;
              const good = Math.abs(sum - wanted) <= 1e-6 * Math.max(1, wanted);
              return {
                key: a,
                cells: [
                  ASK[a].label,
                  units.words(wanted, unit, a === "headcount" ? 1 : 0, true),
                  a === "headcount" ? units.words(perArea, "person/m²", 3) : units.words(perArea, "W/m²", 2, true),
                  units.words(sum, unit, a === "headcount" ? 1 : 0, true),
                  <Text key="g" as="span" color={good ? "water" : "clay"} data-testid={`adds-up-${a}`}>
                    {good ? "✓ adds up" : asking(a).length === 0 ? "no space asks for it" : "✗ does not add up"}
                  </Text>,
                ],
              };
            })}
        />
        <Text color="ink2" fontSize="12px" mt="1">
          Lighting is worked back without control by daylight, which then saves from it.
        </Text>
      </Box>
    </Flex>
  );
}
