"use client";
import { useMemo, useState } from "react";
import { Text } from "@chakra-ui/react";
import { driveTarget, inputsFor, pointUnit, type LoggedPoint, type Project } from "@arroyo/core";
import { Find } from "../../ui/Find.tsx";
import { addDrive } from "./edits.ts";

/** Chooses the input that a point is to drive: those that fit by what it measures, the likeliest by name first. */
export function InputFinder({ project, id, point, close }: { project: Project; id: string; point: LoggedPoint; close: () => void }) {
  const [told, setTold] = useState<string | null>(null);
  const inputs = useMemo(() => inputsFor(project, point), [project, point]);
  const unit = pointUnit(point);
  return (
    <>
      <Find
        label={`Input that ${point.name} drives, in ${unit === "1" ? "no unit" : unit}`}
        items={inputs.map((t) => ({
          key: t.input,
          name: `${t.label}, ${t.of}`,
          group: t.of,
          kind: t.of === "Weather" ? "weather" : "model",
          figures: t.unit === "1" ? "" : t.unit,
        }))}
        onClose={close}
        onChoose={(input) => {
          const t = driveTarget(project, input);
          const refused = addDrive({ point: id, input }, `${point.name} drives ${t ? `${t.label.toLowerCase()} of ${t.of}` : input}`);
          setTold(refused);
          if (refused === null) close();
        }}
      />
      {told && (
        <Text role="alert" color="clay" mt="1">
          {told}
        </Text>
      )}
    </>
  );
}
