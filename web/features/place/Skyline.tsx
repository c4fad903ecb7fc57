"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { Plus, Trash2, Upload } from "lucide-react";
import { useRef, useState } from "react";
import { freeId, setChange, unsetChange, type Project } from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { Act, firstMessage, NumberInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";

/** Points a file of the skyline may have. */
const MOST = 360;

/** Reads rows of azimuth and height, degrees; a sentence where they are none. */
export function skylineOfText(text: string): { azimuth: number; height: number }[] | string {
  const points: { azimuth: number; height: number }[] = [];
  const lines = text.split(/\r?\n/);
  for (let i = 0; i < lines.length; i++) {
    const line = lines[i].trim();
    if (line === "") continue;
    const [azimuth, height] = line.split(/[;,\t ]+/).map((c) => (c === "" ? NaN : Number(c)));
    if (!Number.isFinite(azimuth) || !Number.isFinite(height)) {
      // a header above the figures
      if (points.length === 0 && i < 3) continue;
      return `Line ${i + 1} is no azimuth and height: "${line.slice(0, 40)}".`;
    }
    if (azimuth < 0 || azimuth > 360 || height < 0 || height > 80)
      return `Line ${i + 1}: an azimuth lies between 0 and 360°, a height between 0 and 80°; here they are ${azimuth} and ${height}.`;
    points.push({ azimuth, height });
    if (points.length > MOST) return `At most ${MOST} points can be read.`;
  }
  return points.length > 0 ? points : "The file has no rows of azimuth and height.";
}

/** The skyline far away, by direction: typed or read from a file; it shades beam and sky, and stands in the sun path. */
export function Skyline() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const input = useRef<HTMLInputElement>(null);
  const [told, setTold] = useState<string | null>(null);
  const points = project.site.horizon ?? [];
  const write = (words: string, next: typeof points): string | null => firstMessage(edit(words, [setChange(project, ["site", "horizon"], next)]));
  const add = (): void => {
    const id = freeId(Object.fromEntries(points.map((p) => [p.id, p])), "point");
    write("A point of the skyline", [
      ...points,
      { id, azimuth: points.length === 0 ? 180 : Math.min(360, Math.max(...points.map((p) => p.azimuth)) + 30), height: 10 },
    ]);
  };
  const read = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    if (input.current) input.current.value = "";
    if (file.size > 1e6) return setTold(`${file.name} is larger than 1 MB.`);
    const found = skylineOfText(await file.text());
    setTold(
      typeof found === "string"
        ? `${file.name}: ${found}`
        : write(
            `Skyline from ${file.name}`,
            found.map((p, i) => ({ id: `p${i + 1}`, ...p })),
          ),
    );
  };
  return (
    <Box mt="4">
      <Flex align="center" gap="2">
        <Text as="h2" textStyle="title">
          Skyline
        </Text>
        <IconButton label="Add a point of the skyline" icon={Plus} onClick={add} />
        <IconButton label="Read azimuth and height from a CSV" icon={Upload} onClick={() => input.current?.click()} />
        <Text color="ink2">what stands far away: height above level by true direction, linear between the points</Text>
        <chakra.input
          ref={input}
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          display="none"
          aria-label="Skyline file"
          onChange={(e) => void read(e.target.files?.[0])}
        />
      </Flex>
      {told && (
        <Text role="alert" color="clay">
          {told}
        </Text>
      )}
      {points.length === 0 && <Text color="ink2">Level all round.</Text>}
      <Flex wrap="wrap" columnGap="6" maxW="720px">
        {points.map((p, i) => (
          <Flex key={p.id} align="center" gap="1" role="group" aria-label={`Point ${i + 1} of the skyline`}>
            <NumberInput
              label={`Azimuth of point ${i + 1}`}
              width="52px"
              value={p.azimuth}
              digits={0}
              onCommit={(v) => firstMessage(edit("Skyline", [setChange(project, ["site", "horizon", p.id, "azimuth"], v)]))}
            />
            <Text color="ink2">° is</Text>
            <NumberInput
              label={`Height of point ${i + 1}`}
              width="44px"
              value={p.height}
              digits={1}
              onCommit={(v) => firstMessage(edit("Skyline", [setChange(project, ["site", "horizon", p.id, "height"], v)]))}
            />
            <Text color="ink2">° high</Text>
            <IconButton
              label={`Remove point ${i + 1}`}
              icon={Trash2}
              onClick={() =>
                void write(
                  "Skyline",
                  points.filter((x) => x.id !== p.id),
                )
              }
            />
          </Flex>
        ))}
      </Flex>
      {points.length > 0 && <Act onClick={() => edit("No skyline", [unsetChange(project, ["site", "horizon"])])}>Level all round</Act>}
    </Box>
  );
}
