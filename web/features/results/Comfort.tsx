"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { adaptiveBands, type AdaptiveBand, type Summary } from "@arroyo/core";
import { useState } from "react";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { saveCsv } from "../../ui/saveCsv.ts";

/** Comfort of every zone while people are there: vote, dissatisfied, hours outside an adaptive band. */
export function Comfort({ summary, source }: { summary: Summary; source: string }) {
  const [band, setBand] = useState<AdaptiveBand>("EN 16798-1 II");
  const zones = summary.zones.filter((z) => z.comfort !== null);
  const empty = summary.zones.length - zones.length;
  const outside = (z: (typeof zones)[number]) => z.comfort?.outside.find((o) => o.band === band);
  const csv = (): void =>
    saveCsv("comfort", [
      ["zone", "hours with people", "coldest vote", "mean vote", "warmest vote", "dissatisfied (%)", `too cold, ${band} (h)`, `too warm, ${band} (h)`],
      ...zones.map((z) => [
        z.name,
        z.comfort?.hours,
        z.comfort?.vote.min,
        z.comfort?.vote.mean,
        z.comfort?.vote.max,
        z.comfort?.dissatisfied,
        outside(z)?.cold,
        outside(z)?.warm,
      ]),
    ]);
  return (
    <>
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          Comfort
        </Text>
        <Text color="ink2">{source} · hours with people only</Text>
        <Flex ml="auto" align="baseline" gap="3">
          <Text color="ink2">adaptive band</Text>
          <SelectInput
            label="Adaptive band"
            align="left"
            width="170px"
            value={band}
            options={adaptiveBands.map((b) => ({ value: b, label: b }))}
            onChange={(v) => setBand(v as AdaptiveBand)}
          />
          <Act onClick={csv}>CSV</Act>
        </Flex>
      </Flex>
      <Grid
        label="Comfort"
        head={[
          { text: "Zone", left: true },
          { text: "With people", unit: "h" },
          { text: "Coldest vote" },
          { text: "Mean vote" },
          { text: "Warmest vote" },
          { text: "Dissatisfied", unit: "%" },
          { text: "Too cold", unit: "h" },
          { text: "Too warm", unit: "h" },
          { text: "Outside", unit: "% of hours" },
        ]}
        rows={zones.map((z) => {
          const c = z.comfort;
          const o = outside(z);
          const defined = (c?.hours ?? 0) - (o?.undefined ?? 0);
          const bad = (o?.cold ?? 0) + (o?.warm ?? 0);
          return {
            key: z.id,
            cells: [
              z.name,
              figure(c?.hours, 0),
              figure(c?.vote.min, 2),
              figure(c?.vote.mean, 2),
              figure(c?.vote.max, 2),
              <Text as="span" key="d" color={(c?.dissatisfied ?? 0) > 15 ? "clay" : undefined}>
                {figure(c?.dissatisfied)}
              </Text>,
              figure(o?.cold, 0),
              figure(o?.warm, 0),
              <Text as="span" key="o" color={defined > 0 && bad / defined > 0.05 ? "clay" : undefined}>
                {defined > 0 ? figure((100 * bad) / defined) : "—"}
              </Text>,
            ],
          };
        })}
      />
      <Box mt="3" maxW="720px" color="ink2">
        <Text>
          Vote from −3 cold to +3 hot and share of dissatisfied by ISO 7730 with the activity, clothing and air speed of each space. Bands by the running mean
          of the outdoor temperature; hours in which it is outside the range a band is defined for are left out. Meant for spaces whose people can open windows.
        </Text>
        {empty > 0 && (
          <Text mt="1">{empty === 1 ? "One zone never has people and is not listed." : `${empty} zones never have people and are not listed.`}</Text>
        )}
      </Box>
    </>
  );
}
