"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import type { Project, SeriesRef } from "@arroyo/core";
import type { SeriesClass } from "../../live/seriesClasses.ts";
import type { YearSeries } from "../../live/yearSeries.ts";
import { Act } from "../../ui/fields.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { thingKinds, thingsOf, type Thing, type ThingKind } from "./seriesThings.ts";

/** Rows a list shows at most; the search narrows it. */
const MOST = 200;

/** Chooses a series: by kind, by thing, by quantity, or by any words of these. */
export function SeriesPicker({
  year,
  needs,
  pick,
  close,
}: {
  year: YearSeries | null;
  /** A kind is listed once its series are found. */
  needs: (c: SeriesClass) => void;
  pick: (ref: SeriesRef) => void;
  close: () => void;
}) {
  const project = useStore((s) => s.project) as Project;
  const units = useUnits();
  const [kind, setKind] = useState<ThingKind>("zone");
  const [words, setWords] = useState("");
  const [thing, setThing] = useState<string | null>(null);
  const things = useMemo(() => thingsOf(project, kind, year), [project, kind, year]);
  const looked = words.toLowerCase().split(/\s+/).filter(Boolean);
  const matches = (t: Thing, q: Thing["quantities"][number]): boolean => {
    const text = `${t.name} ${q.label}`.toLowerCase();
    return looked.every((w) => text.includes(w));
  };
  const found = looked.length > 0 ? things.flatMap((t) => t.quantities.filter((q) => matches(t, q)).map((q) => ({ t, q }))) : [];
  const chosen = things.find((t) => t.id === thing) ?? things[0];
  const spec = thingKinds.find((k) => k.kind === kind);
  const row = (key: string, text: string, active: boolean, run: () => void, unit = "") => (
    <chakra.button
      key={key}
      type="button"
      display="flex"
      w="100%"
      justifyContent="space-between"
      textAlign="left"
      px="1.5"
      background={active ? "wash" : "transparent"}
      _hover={{ background: "wash" }}
      cursor="pointer"
      fontSize="12.5px"
      onClick={run}
    >
      <span>{text}</span>
      <Text as="span" color="ink2">
        {unit}
      </Text>
    </chakra.button>
  );
  const quantity = (t: Thing, q: Thing["quantities"][number], text: string) =>
    row(`${t.id} ${q.name}`, text, false, () => pick({ of: t.of, id: t.id, quantity: q.name }), q.unit === "1" || q.unit === "" ? "" : units.unit(q.unit));
  const list = { maxH: "168px", overflowY: "auto" as const, borderLeft: "1px solid", borderColor: "line", flex: 1, minW: 0 };
  return (
    <Box border="1px solid" borderColor="line" p="2" mb="1" aria-label="Choose a series" role="group">
      <Flex gap="2" mb="1" align="center">
        <chakra.input
          aria-label="Search series"
          placeholder="search: room and quantity"
          value={words}
          onChange={(e) => setWords(e.target.value)}
          border="1px solid"
          borderColor="line"
          background="sheet"
          px="1.5"
          h="24px"
          flex="1"
        />
        <Act onClick={close}>Done</Act>
      </Flex>
      <Flex>
        <Box w="170px" flexShrink={0} maxH="168px" overflowY="auto" tabIndex={0}>
          {thingKinds.map((k) =>
            row(k.kind, k.label, k.kind === kind, () => {
              setKind(k.kind);
              setThing(null);
              if (k.needs !== null) needs(k.needs);
            }),
          )}
        </Box>
        {looked.length > 0 ? (
          <Box {...list} tabIndex={0}>
            {found.slice(0, MOST).map(({ t, q }) => quantity(t, q, `${t.name}: ${q.label}`))}
            {found.length === 0 && (
              <Text px="1.5" color="ink2">
                Nothing of {spec?.label.toLowerCase()} has these words.
              </Text>
            )}
          </Box>
        ) : (
          <>
            <Box {...list} tabIndex={0}>
              {things.slice(0, MOST).map((t) => row(t.id, t.name, t.id === chosen?.id, () => setThing(t.id)))}
              {things.length > MOST && (
                <Text px="1.5" color="ink2">
                  and {things.length - MOST} more: search for them
                </Text>
              )}
              {things.length === 0 && (
                <Text px="1.5" color="ink2">
                  {year ? "There are none." : "The year is run for them …"}
                </Text>
              )}
            </Box>
            <Box {...list} tabIndex={0}>
              {chosen?.quantities.map((q) => quantity(chosen, q, q.label))}
            </Box>
          </>
        )}
      </Flex>
    </Box>
  );
}
