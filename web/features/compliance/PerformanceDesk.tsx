"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import type { Compliance, Pack, Project } from "@arroyo/core";
import { Grid } from "../../ui/Panes.tsx";
import { difference, figure } from "../../ui/format.ts";
import { useStore } from "../store.ts";
import { useTradeOff } from "./useCompliance.ts";

/** The result by the measure of the pack: both buildings by end use, the reference by its orientations, hours unmet, and what each part wins and loses. */
export function PerformanceDesk({ result, pack, printed = false }: { result: Compliance; pack: Pack; printed?: boolean }) {
  const total = (side: "proposed" | "reference"): number => result.endUses.reduce((a, u) => a + u.counts[side], 0);
  const made = result.proposed === null ? 0 : result.proposed - total("proposed");
  return (
    <>
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          By end use
        </Text>
        <Text color="ink2">
          {result.measure}, {result.unit} a year · § {pack.performance.clause}
        </Text>
      </Flex>
      {result.endUses.length === 0 ? (
        <Text color="ink2">The years of both buildings are being run …</Text>
      ) : (
        <Grid
          label="Both buildings by end use"
          head={[
            { text: "End use", left: true },
            { text: "Fuel", left: true },
            { text: "Design, energy", unit: "kWh" },
            { text: "Reference", unit: "kWh" },
            { text: `Design, ${result.measure}`, unit: result.unit },
            { text: "Reference", unit: result.unit },
            { text: "Difference", unit: result.unit },
          ]}
          rows={[
            ...result.endUses.map((u) => ({
              key: `${u.use} ${u.fuel}`,
              cells: [
                u.use,
                u.fuel,
                figure(u.energy.proposed, 0),
                figure(u.energy.reference, 0),
                figure(u.counts.proposed, 0),
                figure(u.counts.reference, 0),
                <Text key="d" as="span" color={u.counts.proposed > u.counts.reference ? "clay" : "water"}>
                  {difference(u.counts.proposed - u.counts.reference, 0)}
                </Text>,
              ],
            })),
            ...(Math.abs(made) > 0.5 ? [{ key: "made", cells: ["made on site", "electricity", "", "", difference(made, 0), "", ""] }] : []),
            {
              key: "sum",
              cells: [
                <b key="s">All</b>,
                "",
                "",
                "",
                <b key="p">{figure(result.proposed, 0)}</b>,
                <b key="r">{figure(result.reference, 0)}</b>,
                <b key="d">{difference((result.proposed ?? 0) - (result.reference ?? 0), 0)}</b>,
              ],
            },
          ]}
        />
      )}
      <Flex gap="10" mt="5" wrap="wrap" align="flex-start">
        {!printed && <TradeOffs unit={result.unit} />}
        <Box flex="1" minW="280px">
          <Text as="h2" textStyle="title" mb="1">
            Hours unmet
          </Text>
          <Grid
            label="Hours unmet of both buildings"
            head={[{ text: "Building", left: true }, { text: "Hours" }, { text: "At most" }]}
            rows={[
              { key: "d", cells: ["Design", figure(result.unmet.proposed, 0), figure(result.unmet.most, 0)] },
              { key: "r", cells: ["Reference", figure(result.unmet.reference, 0), figure(result.unmet.most, 0)] },
              {
                key: "a",
                cells: [
                  "Apart",
                  result.unmet.proposed === null || result.unmet.reference === null ? "—" : figure(Math.abs(result.unmet.proposed - result.unmet.reference), 0),
                  figure(result.unmet.apart, 0),
                ],
              },
            ]}
          />
          <Text color={result.unmet.pass === false ? "clay" : "ink2"} fontSize="12px">
            {result.unmet.pass === null ? "Told by a year in steps of 15 minutes." : result.unmet.pass ? "✓ within both limits" : "✗ beyond a limit"}
          </Text>
          {result.turns.length > 1 && (
            <>
              <Text as="h2" textStyle="title" mt="4" mb="1">
                Reference by orientation
              </Text>
              <Grid
                label="Reference building by orientation"
                head={[
                  { text: "Turned by", left: true },
                  { text: "A year", unit: result.unit },
                ]}
                rows={result.turns.map((t) => ({ key: String(t.turn), cells: [`${t.turn}°`, figure(t.total, 0)] }))}
              />
            </>
          )}
        </Box>
      </Flex>
    </>
  );
}

/** What each part of the design wins or loses: the part of the reference swapped in alone. */
function TradeOffs({ unit }: { unit: string }) {
  const project = useStore((s) => s.project) as Project;
  const { result, current, message } = useTradeOff(project);
  const most = Math.max(1e-9, ...(result ?? []).map((r) => Math.abs(r.gain)));
  return (
    <Box flex="1.4" minW="360px">
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          Trade-off
        </Text>
        <Text color="ink2">each part of the reference swapped in alone, by the hour</Text>
      </Flex>
      {message && (
        <Text role="alert" color="clay">
          {message}
        </Text>
      )}
      {!result && !message && <Text color="ink2">Each part is being swapped …</Text>}
      {result && (
        <Box role="table" aria-label="Trade-off between parts" {...(current ? {} : { color: "ink2", fontStyle: "italic" })}>
          {result.map((r) => (
            <Flex key={r.part} role="row" align="center" gap="3" py="1" borderBottom="1px solid" borderColor="line">
              <Text role="cell" w="70px">
                {r.part}
              </Text>
              <Box role="cell" flex="1" position="relative" h="14px" aria-hidden="true">
                <Box position="absolute" left="50%" top="0" bottom="0" borderLeft="1px solid" borderColor="ink2" />
                <Box
                  position="absolute"
                  top="1px"
                  h="12px"
                  background={r.gain >= 0 ? "water" : "clay"}
                  style={{ left: r.gain >= 0 ? "50%" : `${50 - (48 * -r.gain) / most}%`, width: `${(48 * Math.abs(r.gain)) / most}%` }}
                />
              </Box>
              <Text role="cell" w="188px" textAlign="right">
                {Math.abs(r.gain) < 0.5
                  ? "equal to the reference"
                  : `${r.gain > 0 ? "wins" : "loses"} ${figure(Math.abs(r.gain), 0)} ${unit}, ${figure(Math.abs(r.share), 1)} points`}
              </Text>
            </Flex>
          ))}
        </Box>
      )}
    </Box>
  );
}
