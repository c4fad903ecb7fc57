"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import dynamic from "next/dynamic";
import { useState } from "react";
import { checkProject, setChange, type Project } from "@arroyo/core";
import { figure } from "../../ui/format.ts";
import { Act, firstMessage } from "../../ui/fields.tsx";
import { Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { MassingForm } from "../projects/MassingForm.tsx";
import { useStore } from "../store.ts";
import { FormInspector } from "./FormInspector.tsx";
import { Plan } from "./Plan.tsx";

const Scene = dynamic(() => import("./Scene.tsx").then((m) => m.Scene), { ssr: false, loading: () => <Box h="100%" aria-busy="true" /> });

/** Plan of a storey and the building beside it; what is selected in one is selected in the other. */
export function Form() {
  const project = useStore((s) => s.project) as Project;
  const selection = useStore((s) => s.selection);
  const select = useStore((s) => s.select);
  const { geometry, problems } = checkProject(project);
  const storeys = Object.entries(project.storeys).sort(([, a], [, b]) => b.elevation - a.elevation);
  const selectedSpace = selection.find((s) => s.kind === "space" && project.spaces[s.id]);
  const [chosen, setChosen] = useState<string | null>(null);
  const [whole, setWhole] = useState(true);
  const selectedStorey = selectedSpace ? project.spaces[selectedSpace.id].storey : selection.find((s) => s.kind === "storey")?.id;
  const storey = selectedStorey && project.storeys[selectedStorey] ? selectedStorey : (chosen ?? storeys[storeys.length - 1]?.[0] ?? "");
  const pick = (id: string, add: boolean): void => {
    const now = { kind: "space" as const, id };
    const has = selection.some((s) => s.kind === "space" && s.id === id);
    select(add ? (has ? selection.filter((s) => s.id !== id) : [...selection.filter((s) => s.kind === "space"), now]) : [now]);
  };
  const faults = problems.filter((p) => p.stage === "form");
  const edit = useStore((s) => s.edit);
  if (Object.keys(project.spaces).length === 0) return <FirstForm project={project} />;
  return (
    <>
      <Side label="Storeys and spaces">
        <SideHead>Storeys</SideHead>
        {storeys.map(([id, s]) => (
          <Box key={id}>
            <SideItem
              active={id === storey && !selectedSpace}
              bold={id === storey}
              value={`${s.elevation > 0 ? "+" : ""}${figure(s.elevation)} m`}
              onClick={() => {
                setChosen(id);
                select([{ kind: "storey", id }]);
              }}
            >
              {s.name}
            </SideItem>
            {id === storey &&
              Object.entries(project.spaces)
                .filter(([, x]) => x.storey === id)
                .map(([spaceId, x]) => (
                  <SideItem
                    key={spaceId}
                    indent
                    active={selection.some((q) => q.kind === "space" && q.id === spaceId)}
                    value={figure(geometry.spaces.get(spaceId)?.floorArea, 0)}
                    onClick={(e) => pick(spaceId, e.shiftKey)}
                  >
                    {x.name}
                  </SideItem>
                ))}
          </Box>
        ))}
        <SideHead>Openings</SideHead>
        {Object.entries(project.openings).map(([id, o]) => (
          <SideItem
            key={id}
            indent
            active={selection.some((q) => q.kind === "opening" && q.id === id)}
            value={o.kind === "ratio" ? `${figure(100 * o.ratio, 0)} %` : `${figure(o.width)} m`}
            onClick={() => select([{ kind: "opening", id }])}
          >
            {o.name}
          </SideItem>
        ))}
        {faults.length > 0 && <SideHead>Problems</SideHead>}
        {faults.map((p, i) => (
          <Box key={i} px="3.5" py="1">
            <Text color="clay">{p.message}</Text>
            {p.fix && <Act onClick={() => edit(p.fix?.label ?? "Fix", p.fix?.changes ?? [])}>{p.fix.label}</Act>}
          </Box>
        ))}
      </Side>
      <Flex as="main" aria-label="Form" flex="1" minW="0" background="sheet">
        <Box flex="1.35" minW="0" position="relative">
          <Plan project={project} storey={storey} onPick={pick} />
        </Box>
        <Box flex="1" minW="0" borderLeft="1px solid" borderColor="line" position="relative">
          <Scene project={project} upTo={whole ? null : storey} onPick={pick} />
          <Flex position="absolute" left="3" top="2" gap="3" align="baseline">
            <Text fontWeight="600">Building</Text>
            <Act onClick={() => setWhole(!whole)}>{whole ? "cut above this storey" : "show every storey"}</Act>
          </Flex>
          <Text position="absolute" left="3" bottom="2" fontSize="12px" color="ink2" pointerEvents="none">
            plain outdoors · dotted ground · hatched neighbour
          </Text>
        </Box>
      </Flex>
      <FormInspector />
    </>
  );
}

/** A project without spaces: start from a massing. */
function FirstForm({ project }: { project: Project }) {
  const edit = useStore((s) => s.edit);
  return (
    <Middle label="Massing">
      <Text textStyle="title">Start from a massing</Text>
      <Text color="ink2" mb="3" maxW="640px">
        This project has no space yet. A footprint, storeys and glazing make a complete model in one step, with perimeter and core zones, to refine afterwards.
      </Text>
      <MassingForm
        context={project}
        id={project.id}
        name={project.name}
        onMake={(made) => {
          const parts = [
            "name",
            "storeys",
            "spaces",
            "zones",
            "openings",
            "shades",
            "faceOverrides",
            "materials",
            "assemblies",
            "glazings",
            "kits",
            "schedules",
            "spaceTypes",
            "services",
            "defaults",
          ] as const;
          return Promise.resolve(
            firstMessage(
              edit(
                "Massing",
                parts.map((part) => setChange(project, [part], made[part])),
              ),
            ),
          );
        }}
      />
    </Middle>
  );
}
