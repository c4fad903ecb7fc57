"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import {
  fabricLevels,
  plateauPack,
  starterChanges,
  starterMisfits,
  starterUpdate,
  starterUseLabel,
  starterUseOf,
  starterUses,
  type FabricLevel,
  type Project,
  type StarterUse,
} from "@arroyo/core";
import { Head, Row, SelectInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

const levelWords: Record<FabricLevel, string> = { existing: "as existing", code: "to code", better: "better than code" };

/** Envelope, space type, schedules, set-points and plain services by use, climate zone and level, in one step. */
export function StarterDesk() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const found = useStore((s) => s.live.weather?.climateZone ?? null);
  const [use, setUse] = useState<StarterUse>(starterUseOf(project) ?? "office");
  const [level, setLevel] = useState<FabricLevel>(fabricLevels.find((l) => l === project.starter?.level) ?? "code");
  const [typed, setTyped] = useState<string | null>(null);
  const [which, setWhich] = useState<"untyped" | "all" | "none">("untyped");
  const [told, setTold] = useState<string | null>(null);
  const pack = plateauPack;
  const zone = typed ?? (found === null ? null : String(found));
  const spaces = useMemo(
    () => Object.keys(project.spaces).filter((id) => which === "all" || (which === "untyped" && project.spaces[id].spaceType === null)),
    [project.spaces, which],
  );
  const outcome = useMemo(
    () => (zone === null ? null : starterChanges(project, { use, level, zone, pack }, spaces)),
    [project, use, level, zone, pack, spaces],
  );
  const misfits = zone === null ? [] : starterMisfits(project, zone, pack);
  const take = (name: string, made: ReturnType<typeof starterUpdate>): void => {
    if (!made.ok) return setTold(made.message);
    const [refusal] = edit(name, made.changes);
    setTold(refusal ? refusal.message : `${name}: done in one step; Undo takes all of it back.`);
  };
  const bring = (): void => {
    if (zone !== null) take(`Starter set brought up to zone ${zone}`, starterUpdate(project, zone, pack));
  };
  return (
    <Flex direction="column" gap="3" maxW="860px">
      <Text as="h2" textStyle="title">
        Starter set
      </Text>
      <Text color="ink2">
        An envelope for the climate zone, a space type with schedules and set-points, outdoor air, lighting, leakage and plain services, by use and level.
        Everything becomes the project’s own and can be changed; what a code asks for keeps its clause.
      </Text>
      {misfits.length > 0 && (
        <Box borderLeft="3px solid" borderColor="clay" pl="3" role="group" aria-label="What no longer fits">
          <Text fontWeight="600">
            The starter set was made for climate zone {project.starter?.zone}; this place is in zone {zone}.
          </Text>
          {misfits.map((m) => (
            <Text key={m.what} color="ink2">
              {m.what}: U {units.text(m.has, "W/m²K", 2)}, zone {zone} asks for {units.words(m.asked, "W/m²K", 2)}
            </Text>
          ))}
          <Box mt="1">
            <PrimaryButton onClick={bring}>Bring up to date</PrimaryButton>
          </Box>
        </Box>
      )}
      <Flex gap="8" align="flex-start">
        <Box flex="0 0 320px">
          <Row label="Use">
            <SelectInput
              label="Use of the starter set"
              value={use}
              options={starterUses.map((u) => ({ value: u, label: starterUseLabel(u) }))}
              onChange={(v) => setUse(v as StarterUse)}
            />
          </Row>
          <Row label="Level">
            <SelectInput
              label="Level of the starter set"
              value={level}
              options={fabricLevels.map((l) => ({ value: l, label: levelWords[l] }))}
              onChange={(v) => setLevel(v as FabricLevel)}
            />
          </Row>
          <Row label="Climate zone" note={typed === null ? "of the weather year" : "chosen here"}>
            <SelectInput
              label="Climate zone of the starter set"
              value={zone ?? ""}
              options={[
                ...(zone === null || !pack.climateZones[zone] ? [{ value: zone ?? "", label: zone ?? "not known yet" }] : []),
                ...Object.keys(pack.climateZones).map((z) => ({ value: z, label: `zone ${z}` })),
              ]}
              onChange={setTyped}
            />
          </Row>
          <Row label="Limits">{pack.name}</Row>
          <Head>Spaces of this use</Head>
          {(
            [
              ["untyped", "those without a space type"],
              ["all", "all spaces"],
              ["none", "none yet"],
            ] as const
          ).map(([value, label]) => (
            <chakra.label key={value} display="flex" gap="2" py="0.5" cursor="pointer">
              <input type="radio" name="starter-spaces" checked={which === value} onChange={() => setWhich(value)} />
              {label}
            </chakra.label>
          ))}
          <Box mt="3">
            <PrimaryButton
              disabled={!outcome?.ok}
              onClick={() => outcome && take(`Starter set: ${starterUseLabel(use).toLowerCase()}, ${levelWords[level]}`, outcome)}
            >
              Give the starter set
            </PrimaryButton>
          </Box>
          {(told ?? (outcome && !outcome.ok ? outcome.message : null)) && (
            <Text role="status" color="ink2" mt="1">
              {told ?? (outcome && !outcome.ok ? outcome.message : "")}
            </Text>
          )}
        </Box>
        <Box flex="1">
          <Grid
            label="What the starter set gives"
            head={[
              { text: "What", left: true },
              { text: "Value", left: true },
              { text: "From", left: true },
            ]}
            rows={(outcome?.ok ? outcome.sets : []).map((s) => ({ key: s.what, cells: [s.what, units.turned(s.value), s.origin] }))}
          />
        </Box>
      </Flex>
    </Flex>
  );
}
