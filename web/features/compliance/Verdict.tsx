"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { letters, unknownWords, type Compliance, type Pack } from "@arroyo/core";
import { Head, Row } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { useUnits } from "../../ui/units.ts";

/** Index against its target, rating on its scale, pass or not and why. @param approx the years were run by the hour alone */
export function Verdict({ result, pack, approx = false }: { result: Compliance; pack: Pack; approx?: boolean }) {
  const units = useUnits();
  const { rating } = pack.performance;
  const perArea = `${result.unit}/m²a`;
  const of = (v: number | null): string => (perArea === "kWh/m²a" ? units.text(v, "kWh/m²a", 1) : figure(v, 2));
  return (
    <>
      <Flex align="baseline" gap="2">
        <Text textStyle="figure" data-testid="compliance-index">
          {result.index === null ? "—" : `${approx ? "≈ " : ""}${figure(result.index)}`}
        </Text>
        <Text color="ink2">
          index, passes at {result.target === null ? "its target" : figure(result.target, Number.isInteger(result.target) ? 0 : 1)} and below
        </Text>
      </Flex>
      <Text fontWeight="600" color={result.pass === false ? "clay" : "water"} data-testid="compliance-pass">
        {result.pass === null
          ? `… ${unknownWords(result)}`
          : result.pass
            ? `✓ passes on the ${result.path} path`
            : `✗ does not pass: ${result.reasons.join("; ")}`}
      </Text>
      {rating.kind === "letters" && result.letter !== null && (
        <>
          <Head>{rating.by === "index" ? "Letter by index" : `Letter by ${result.measure}`}</Head>
          <Box role="img" aria-label={`Letter ${result.letter} at ${of(rating.by === "index" ? result.index : result.perArea.proposed)}`}>
            {letters.map((l, i) => {
              const upTo = rating.steps.find((x) => x.letter === l)?.upTo.value;
              const on = l === result.letter;
              const say = (v: number): string => (rating.by === "index" || perArea !== "kWh/m²a" ? figure(v, 0) : units.text(v, "kWh/m²a", 0));
              const here = rating.by === "index" ? figure(result.index) : of(result.perArea.proposed);
              return (
                <Flex key={l} align="center" gap="2" py="0.5" fontWeight={on ? "600" : "400"}>
                  <Box
                    background={on ? "water" : "line"}
                    color={on ? "sheet" : "ink2"}
                    px="2"
                    fontSize="12px"
                    style={{ width: `${34 + 9 * i}%` }}
                    data-testid={on ? "compliance-letter" : undefined}
                  >
                    {l}
                  </Box>
                  <Text fontSize="12px" color="ink2">
                    {on ? `${here} here` : upTo ? `to ${say(upTo)}` : "beyond"}
                  </Text>
                </Flex>
              );
            })}
          </Box>
        </>
      )}
      {result.points !== null && (
        <Row label="Points">
          <b data-testid="compliance-points">{figure(result.points, 0)}</b>
        </Row>
      )}
      <Row label="Design, per area">
        <b>{of(result.perArea.proposed)}</b> {perArea === "kWh/m²a" ? units.unit("kWh/m²a") : perArea}
      </Row>
      <Row label="Reference, per area">
        <b>{of(result.perArea.reference)}</b> {perArea === "kWh/m²a" ? units.unit("kWh/m²a") : perArea}
      </Row>
    </>
  );
}
