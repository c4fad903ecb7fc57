"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState, type ReactNode } from "react";
import { endUses, isWholeYear, type Summary } from "@arroyo/core";
import { useRouter } from "next/navigation";
import { stageAddress, tally, useStore } from "../features/store.ts";
import { endUseColour } from "./colours.ts";
import { useUnits } from "./units.ts";
import { figure, monthNames, stampText, unitOf } from "./format.ts";
import { EndUseStrip, hatch } from "./EndUseStrip.tsx";
import { Act } from "./fields.tsx";
import { Told } from "./Told.tsx";

/** A figure of the last year that is not of the model as it is now is set in italics, in the second ink. */
export function Figure({
  value,
  unit,
  below,
  id,
  stale = false,
  open,
}: {
  value: string;
  unit: string;
  below: ReactNode;
  id?: string;
  stale?: boolean;
  /** Opens what made it. */
  open?: { readonly label: string; run(): void };
}) {
  return (
    <Box
      minW="0"
      flexShrink={0}
      {...(open
        ? {
            as: "button",
            textAlign: "left",
            cursor: "pointer",
            title: open.label,
            type: "button",
            onClick: () => open.run(),
            _hover: { color: "water" },
          }
        : {})}
    >
      <Flex align="baseline" gap="1.5" whiteSpace="nowrap">
        <Text textStyle="figure" data-testid={id} {...(stale ? { color: "ink2", fontStyle: "italic" } : {})}>
          {value}
        </Text>
        <Text color="ink2">{unit}</Text>
      </Flex>
      <Text fontSize="12px" color="ink2" whiteSpace="nowrap">
        {below}
      </Text>
    </Box>
  );
}

/** Headline figures of the year as it is now, each with its change since the last pin. */
export function Tally() {
  const units = useUnits();
  const live = useStore((s) => s.live);
  const pins = useStore((s) => s.pins);
  const pin = useStore((s) => s.pin);
  const unpin = useStore((s) => s.unpin);
  const currency = useStore((s) => s.project?.prices.currency ?? "");
  const [open, setOpen] = useState(false);
  const { summary, mark } = tally(live);
  const router = useRouter();
  const explain = (load: string): void => router.push(stageAddress("results", { view: "why", load }));
  const reference = pins[pins.length - 1];
  const since = (now: number | null | undefined, then: (s: Summary) => number | null, digits = 1, unit = ""): ReactNode => {
    if (now === null || now === undefined || !reference) return null;
    const was = then(reference.summary);
    if (was === null) return null;
    const d = now - was;
    return (
      <Text as="span" color={d > 0 ? "clay" : "water"}>
        {units.difference(d, unit, digits)}
      </Text>
    );
  };
  const approx = mark === "estimate" ? "≈ " : "";
  const peaks = mark === "exact" ? summary?.peaks : live.exact?.summary.peaks;
  const stalePeak = mark !== "exact";
  const unmet = (mark === "exact" ? summary : live.exact?.summary)?.unmetHours;
  const status = live.message
    ? live.message
    : mark === "exact"
      ? `year re-run in ${figure(live.seconds, 1)} s`
      : live.progress
        ? `${live.progress.exact ? "15-minute year" : "hourly estimate"} ${figure(100 * live.progress.share, 0)} %`
        : "preparing the year";
  return (
    <Box as="footer" aria-label="Tally" borderTop="1px solid" borderColor="line" background="sheet" flexShrink={0} data-mark={mark}>
      {open && summary && <MonthlyPicture summary={summary} />}
      {pins.length > 0 && open && <Trail />}
      <Flex align="center" gap="5" px="4" h="84px">
        <Figure
          id="tally-intensity"
          stale={mark === "old"}
          value={`${approx}${units.text(summary?.energy.intensity ?? summary?.energy.perFloorArea, "kWh/m²a", 1)}`}
          unit={units.unit(unitOf("kWh/m²a", summary))}
          below={
            reference ? (
              <>
                {since(summary?.energy.intensity, (s) => s.energy.intensity, 1, "kWh/m²a")} since “{reference.name}”
              </>
            ) : summary && !isWholeYear(summary) ? (
              "not of a whole year"
            ) : summary && summary.energy.intensity === null ? (
              "by all floors: none is conditioned"
            ) : (
              "site energy"
            )
          }
        />
        {summary?.energy.site && summary.energy.net !== null && (
          <Figure
            id="tally-net"
            stale={mark === "old"}
            value={`${approx}${units.text(summary.energy.net, "kWh/m²a", 1)}`}
            unit="net"
            below={
              <span
                title={`Bought less fed in; net cost ${figure(summary.energy.site.cost / 1000)} k${currency}/a, net carbon ${figure(summary.energy.site.carbon / 1000)} t CO₂e`}
              >
                {units.difference(summary.energy.net - (summary.energy.intensity ?? summary.energy.net), "kWh/m²a", 1)} to gross
              </span>
            }
          />
        )}
        <EndUseStrip summary={summary} faded={mark === "old"} />
        <Figure
          stale={stalePeak}
          id="tally-peak-heating"
          value={units.text(peaks ? peaks.heating.power / 1000 : null, "kW", 1)}
          unit={`${units.unit("kW")} heating`}
          open={{ label: "Explain the largest heating", run: () => explain("heating") }}
          below={
            <>
              {peaks ? stampText(peaks.heating.at) : "—"} {since(peaks ? peaks.heating.power / 1000 : null, (s) => s.peaks.heating.power / 1000, 1, "kW")}
            </>
          }
        />
        <Figure
          stale={stalePeak}
          value={units.text(peaks ? peaks.cooling.power / 1000 : null, "kW", 1)}
          unit={`${units.unit("kW")} cooling`}
          open={{ label: "Explain the largest cooling", run: () => explain("cooling") }}
          below={
            <>
              {peaks ? stampText(peaks.cooling.at) : "—"} {since(peaks ? peaks.cooling.power / 1000 : null, (s) => s.peaks.cooling.power / 1000, 1, "kW")}
            </>
          }
        />
        <Figure stale={stalePeak} value={figure(unmet, 0)} unit="h unmet" below={since(unmet, (s) => s.unmetHours, 0) ?? "in use or occupied"} />
        <Figure
          stale={mark === "old"}
          value={summary ? figure(summary.energy.cost / 1000) : "—"}
          unit={unitOf(`k${currency}/a`, summary)}
          below={
            <>
              {summary ? figure(summary.energy.carbon / 1000) : "—"} t CO₂e{" "}
              {since(summary ? summary.energy.carbon / 1000 : null, (s) => s.energy.carbon / 1000)}
            </>
          }
        />
        <Box textAlign="right" flexShrink={0} maxW="170px" ml="auto">
          <Text fontSize="11.5px" color={live.message ? "clay" : "ink2"} data-testid="tally-status" lineClamp={3}>
            <Told text={status} />
          </Text>
          <Flex gap="2.5" justify="flex-end" mt="0.5">
            <Act onClick={pin} title="Keep these figures to compare with (P)" disabled={mark !== "exact"}>
              Pin
            </Act>
            {pins.length > 0 && (
              <Act onClick={unpin} title="Take the last pin away">
                Unpin
              </Act>
            )}
            <Act onClick={() => setOpen(!open)} title="Months and pins (T)">
              {open ? "close ▾" : "open ▴"}
            </Act>
          </Flex>
        </Box>
      </Flex>
    </Box>
  );
}

function MonthlyPicture({ summary }: { summary: Summary }) {
  const units = useUnits();
  const byMonth = monthNames.map((_, m) => endUses.map((u) => summary.energy.endUses.filter((r) => r.use === u).reduce((a, r) => a + r.monthly[m], 0)));
  const top = Math.max(...byMonth.map((m) => m.reduce((a, b) => a + b, 0)));
  return (
    <Flex px="4" pt="3" gap="3" align="flex-end" borderBottom="1px solid" borderColor="line" h="150px" role="img" aria-label="Energy by month and end use">
      <Text fontSize="12px" color="ink2" w="120px" alignSelf="flex-start">
        Energy by month, {units.unit("MWh")}
      </Text>
      {byMonth.map((values, m) => {
        const sum = values.reduce((a, b) => a + b, 0);
        return (
          <Box key={m} flex="1" textAlign="center">
            <Text fontSize="11px" color="ink2">
              {units.text(sum / 1000, "MWh", 1)}
            </Text>
            <Flex direction="column-reverse" h="86px" justify="flex-start">
              {values.map((v, i) => (
                <Box
                  key={endUses[i]}
                  title={`${endUses[i]} ${units.words(v / 1000, "MWh", 2)}`}
                  style={{ height: `${(86 * v) / top}px`, background: endUses[i] === "heating" ? hatch : endUseColour[endUses[i]] }}
                />
              ))}
            </Flex>
            <Text fontSize="11px" color="ink2">
              {monthNames[m]}
            </Text>
          </Box>
        );
      })}
    </Flex>
  );
}

function Trail() {
  const units = useUnits();
  const pins = useStore((s) => s.pins);
  const kept = useStore((s) => s.pinsKept);
  return (
    <Flex px="4" py="1.5" gap="5" borderBottom="1px solid" borderColor="line" fontSize="12px" aria-label="Pins">
      {!kept && <Text color="clay">not kept: the server does not answer</Text>}
      {pins.map((p, i) => {
        const now = p.summary.energy.intensity;
        const before = i > 0 ? pins[i - 1].summary.energy.intensity : null;
        return (
          <Text key={`${p.name}-${i}`} color="ink2">
            {p.name}{" "}
            <Text as="span" color="ink" fontWeight="600">
              {units.text(now, "kWh/m²a", 1)}
            </Text>
            {now !== null && before !== null && <> ({units.difference(now - before, "kWh/m²a", 1)})</>}
          </Text>
        );
      })}
    </Flex>
  );
}
