"use client";
import { Box, Text } from "@chakra-ui/react";
import { useRouter } from "next/navigation";
import { driveTarget, type Project } from "@arroyo/core";
import { Act } from "../../ui/fields.tsx";
import { stageAddress, useStore } from "../store.ts";

/** Which inputs of a thing logged points drive: their origin, told where the thing is edited. @param of beginnings of their addresses */
export function DrivenNote({ of }: { of: readonly string[] }) {
  const project = useStore((s) => s.project) as Project;
  const router = useRouter();
  const drives = Object.entries(project.drives ?? {}).filter(([, d]) => of.some((o) => d.input.startsWith(o)));
  if (drives.length === 0) return null;
  return (
    <Box mt="1" mb="1" fontSize="12.5px" data-testid="driven">
      {drives.map(([id, d]) => (
        <Text key={id}>
          <Text as="span" color="ink2" title="driven by a logged point" role="img" aria-label="driven by a logged point">
            ∿{" "}
          </Text>
          {driveTarget(project, d.input)?.label ?? d.input} is driven by {project.points?.[d.point]?.name ?? d.point}
        </Text>
      ))}
      <Act onClick={() => router.push(stageAddress("measured", { view: "drives" }))}>Driven inputs</Act>
    </Box>
  );
}
