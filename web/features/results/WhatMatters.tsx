"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useState } from "react";
import {
  canonicalJson,
  convert,
  hashText,
  influencesOf,
  LIKELIEST,
  physicsOf,
  screenedFigures,
  type Effect,
  type Influence,
  type Project,
  type ScreenedFigure,
  type Screening,
} from "@arroyo/core";
import type { FromWhatMatters, ToWhatMatters } from "../../live/whatMatters.ts";
import { Act, OriginMark, originText, SelectInput } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Grid, Middle } from "../../ui/Panes.tsx";
import { saveCsv } from "../../ui/saveCsv.ts";
import { useUnits } from "../../ui/units.ts";
import { useShowThing } from "../showThing.ts";
import { fetchStored, useStore } from "../store.ts";
import { currentSizes } from "../yearSeries.ts";

/** Points the inputs are moved from. */
const BASES = 4;
/** Longest bar of an effect, px. */
const BAR = 150;

interface Found {
  readonly key: string;
  readonly influences: readonly Influence[];
  readonly screening: Screening | null;
  readonly seconds: number;
  readonly message: string | null;
}

/** Inputs ranked by their effect on a figure, each moved within its usual range while nothing else is to be done. */
export function WhatMatters() {
  const project = useStore((s) => s.project) as Project;
  const ready = useStore((s) => s.live.exact !== null && s.live.exactVersion === s.live.version);
  const units = useUnits();
  const show = useShowThing();
  const [figureName, setFigure] = useState<ScreenedFigure>("cooling");
  const [also, setAlso] = useState<readonly string[]>([]);
  const [found, setFound] = useState<Found | null>(null);
  const all = useMemo(() => influencesOf(project), [project]);
  const asked = useMemo(() => all.filter((x, i) => i < LIKELIEST || also.includes(x.id)), [all, also]);
  const key = useMemo(() => `${hashText(canonicalJson(physicsOf(project)))} ${also.join(" ")}`, [project, also]);
  useEffect(() => {
    if (!ready) return;
    const worker = new Worker(new URL("../../live/whatMatters.ts", import.meta.url), { type: "module" });
    const begin = { key, influences: asked, screening: null, seconds: 0, message: null };
    worker.onmessage = (e: MessageEvent<FromWhatMatters>) =>
      setFound((before) => {
        const mine = before?.key === key ? before : begin;
        return e.data.kind === "failed" ? { ...mine, message: e.data.message } : { ...mine, screening: e.data.screening, seconds: e.data.seconds };
      });
    void fetchStored(project).then((stored) =>
      worker.postMessage({ project, stored, influences: asked, bases: BASES, sizes: currentSizes() } satisfies ToWhatMatters),
    );
    return () => worker.terminate();
    // one screening a content, whatever objects carry it
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, ready]);
  const spec = screenedFigures[figureName];
  const { currency } = project.prices;
  const unit = spec.unit === "" ? `${currency}/a` : `${units.unit(spec.unit)}/a`;
  const current = found?.key === key;
  const rows = useMemo(() => {
    if (!found?.screening) return [];
    const { effects } = found.screening;
    return found.influences
      .map((influence, i) => ({ influence, effect: effects[i][figureName] }))
      .filter((r) => r.effect.of > 0)
      .sort((a, b) => b.effect.size - a.effect.size);
  }, [found, figureName]);
  const most = Math.max(1e-9, ...rows.map((r) => r.effect.size + (Number.isFinite(r.effect.deviation) ? r.effect.deviation : 0)));
  const text = (v: number): string => (spec.unit === "" ? figure(v, 0) : units.text(v, spec.unit, 0));
  const s = found?.screening;
  const share = s ? s.done / s.of : 0;
  const status = !ready
    ? "begins when the year as it is now is done; an edit stops it"
    : found?.message
      ? found.message
      : !s || !current
        ? `${asked.length} inputs, ${BASES * (asked.length + 1)} short years to run …`
        : s.done < s.of
          ? `${s.done} of ${s.of} short years, about ${figure((found.seconds / s.done) * (s.of - s.done), 0)} s left`
          : `${s.of} short years in ${figure(found.seconds, 0)} s`;
  const csv = (): void =>
    saveCsv(`what matters for ${spec.words}`, [
      ["input", "now", "least", "most", "unit", `effect over the range (${spec.unit || currency})`, "size", "deviation", "origin"],
      ...rows.map(({ influence: x, effect: e }) => [x.words, x.now, ...x.range, x.unit, e.mean, e.size, e.deviation, originText(x.origin).words]),
    ]);
  const rest = all.filter((x) => !asked.includes(x));
  return (
    <Middle label="What matters">
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          What matters for
        </Text>
        <SelectInput
          label="Figure"
          align="left"
          width="210px"
          value={figureName}
          options={Object.entries(screenedFigures).map(([value, f]) => ({ value, label: f.words }))}
          onChange={(v) => setFigure(v as ScreenedFigure)}
        />
        <Text color={found?.message ? "clay" : "ink2"} flex="1" aria-live="polite" data-testid="screening">
          {status}
        </Text>
        {rows.length > 0 && <Act onClick={csv}>CSV</Act>}
      </Flex>
      {current && s && s.done < s.of && (
        <Box
          h="3px"
          background="line"
          mb="2"
          role="progressbar"
          aria-label="Short years run"
          aria-valuenow={Math.round(100 * share)}
          aria-valuemin={0}
          aria-valuemax={100}
        >
          <Box h="100%" background="water" style={{ width: `${100 * share}%` }} />
        </Box>
      )}
      <Text color="ink2" fontSize="12px" mb="2">
        Each input is moved by half its usual range, one at a time, from the model as it is and from three other points of the ranges (elementary effects,
        Morris 1991). The bar is μ*, the mean size of the effect over the whole range; the thin line is σ, how much it depends on the other inputs. Twelve
        representative days, capacities as they are now.
      </Text>
      <Grid
        label="What matters"
        head={[
          { text: "Input", left: true },
          { text: "Now" },
          { text: "Usual range" },
          { text: "More of it", left: true },
          { text: "Effect over the range", unit },
          { text: "", left: true },
          { text: "σ", unit },
          { text: "", left: true },
        ]}
        rows={rows.map(({ influence: x, effect: e }, i) => {
          const origin = originText(x.origin);
          const shown = x.shown ?? x.unit;
          const plain = shown === "1" || shown === "";
          const value = (v: number): string => (plain ? figure(v, 2) : units.text(convert(v, x.unit, shown), shown));
          return {
            key: x.id,
            cells: [
              <Box key="w" data-testid={`matters-${i + 1}`}>
                <OriginMark origin={x.origin} /> {x.words}
                <Text as="span" color={x.defaults > 0 ? "clay" : "ink2"} fontSize="11.5px" ml="1.5">
                  {x.defaults > 0 ? (x.places > 1 ? `still a default in ${x.defaults} of ${x.places}` : "still a default") : origin.words}
                </Text>
              </Box>,
              `${value(x.now)} ${plain ? "" : units.unit(shown)}`,
              <Text key="r" as="span" whiteSpace="nowrap">
                {value(x.range[0])} to {value(x.range[1])}
              </Text>,
              direction(e),
              `${e.mean < 0 ? "−" : "+"}${text(Math.abs(e.mean))}`,
              <Box key="b" position="relative" h="12px" w={`${BAR}px`}>
                <Box position="absolute" top="2px" h="8px" background={e.mean < 0 ? "water" : "clay"} style={{ width: `${(BAR * e.size) / most}px` }} />
                {Number.isFinite(e.deviation) && (
                  <Box
                    position="absolute"
                    top="5px"
                    h="2px"
                    background="ink"
                    style={{
                      left: `${(BAR * Math.max(0, e.size - e.deviation)) / most}px`,
                      width: `${(BAR * (Math.min(e.size, e.deviation) + e.deviation)) / most}px`,
                    }}
                  />
                )}
              </Box>,
              Number.isFinite(e.deviation) ? text(e.deviation) : "—",
              <Act key="s" onClick={() => show(x.address)}>
                Show
              </Act>,
            ],
          };
        })}
      />
      {rest.length > 0 && (
        <Flex align="center" gap="2" mt="3">
          <Text color="ink2">The {LIKELIEST} likeliest are looked at.</Text>
          <SelectInput
            label="Look at another input"
            align="left"
            width="300px"
            value=""
            options={[{ value: "", label: `+ one of ${rest.length} others` }, ...rest.map((x) => ({ value: x.id, label: x.words }))]}
            onChange={(v) => v !== "" && setAlso([...also, v])}
          />
        </Flex>
      )}
    </Middle>
  );
}

/** Words for the direction; none where the effects go either way. */
function direction(e: Effect): string {
  if (e.size < 1e-9) return "nothing";
  if (Math.abs(e.mean) < 0.5 * e.size) return "either way";
  return e.mean > 0 ? "raises it" : "lowers it";
}
