"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { Plus, Trash2 } from "lucide-react";
import { useMemo } from "react";
import {
  designDaysOf,
  designProfile,
  freeId,
  MONTH_NAMES,
  setChange,
  unsetChange,
  type DesignDay,
  type DesignProfile,
  type Project,
  type WeatherYear,
} from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { Act, DateInput, firstMessage, NumberInput, Quantity, SelectInput, TextInput, Unit } from "../../ui/fields.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";

const KINDS = { percentile: "percentile of the year", clear: "clear day of a month", typed: "typed" } as const;

/** The days systems are sized for: found in the year in view or typed, each drawn hour by hour. */
export function DesignDays() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const weather = useStore((s) => s.live.weather?.hours);
  if (!weather) return <Box h="300px" aria-busy="true" />;
  const days = designDaysOf(project, weather);
  const own = project.designDays !== undefined && project.designDays.length > 0;
  /** Writes the whole list: the first edit makes the usual days the project's own. */
  const write = (words: string, next: readonly DesignDay[]): string | null => firstMessage(edit(words, [setChange(project, ["designDays"], next)]));
  const change = (id: string, words: string, to: (d: DesignDay) => DesignDay): string | null =>
    own
      ? firstMessage(edit(words, [setChange(project, ["designDays", id], to(days.find((d) => d.id === id) as DesignDay))]))
      : write(
          words,
          days.map((d) => (d.id === id ? to(d) : d)),
        );
  const add = (load: "heating" | "cooling"): void => {
    const id = freeId(Object.fromEntries(days.map((d) => [d.id, d])), load);
    const percent = load === "heating" ? 99 : 1;
    write(`Another design day for ${load}`, [
      ...days,
      { kind: "percentile", id, name: `${load === "heating" ? "Heating" : "Cooling"} ${percent} %`, for: load, percent, by: "dry bulb" },
    ]);
  };
  return (
    <Flex direction="column" gap="3">
      <Flex align="baseline" gap="3" wrap="wrap">
        <Text as="h2" textStyle="title">
          Design days
        </Text>
        <Text color="ink2">sizing takes the worst of them, by zone and for the building</Text>
        {own ? (
          <Act onClick={() => edit("The usual design days", [unsetChange(project, ["designDays"])])}>Back to the usual days of this year</Act>
        ) : (
          <Text color="ink2">· these are the usual ones, found in the year in view; they follow it until one is changed</Text>
        )}
      </Flex>
      {(["heating", "cooling"] as const).map((load) => (
        <Box key={load}>
          <Flex align="center" gap="2">
            <Text fontWeight="600">For {load}</Text>
            <IconButton label={`Add a design day for ${load}`} icon={Plus} onClick={() => add(load)} />
          </Flex>
          {days
            .filter((d) => d.for === load)
            .map((d) => (
              <DayRow
                key={d.id}
                day={d}
                weather={weather}
                change={(words, to) => change(d.id, words, to)}
                remove={() =>
                  void write(
                    `Without ${d.name}`,
                    days.filter((x) => x.id !== d.id),
                  )
                }
                {...(days.length === 1 ? { not: "one is needed" } : {})}
              />
            ))}
        </Box>
      ))}
    </Flex>
  );
}

function DayRow({
  day,
  weather,
  change,
  remove,
  not,
}: {
  day: DesignDay;
  weather: WeatherYear;
  change: (words: string, to: (d: DesignDay) => DesignDay) => string | null;
  remove: () => void;
  not?: string;
}) {
  const units = useUnits();
  const profile = useMemo(() => designProfile(weather, day), [weather, day]);
  const set = (part: Partial<DesignDay>): string | null => change(`${day.name}`, (d) => ({ ...d, ...part }) as DesignDay);
  const kind = (to: string): void => {
    const { id, name } = day;
    const base = { id, name, for: day.for };
    change(`${name}: ${KINDS[to as keyof typeof KINDS]}`, () =>
      to === "clear"
        ? { kind: "clear", ...base, month: 7, percent: 5 }
        : to === "typed"
          ? {
              kind: "typed",
              ...base,
              date: day.for === "heating" ? [1, 21] : [7, 21],
              dryBulb: Math.round(10 * profile.highest) / 10,
              range: Math.round(10 * profile.range) / 10,
              wetBulb: Math.round(10 * profile.wet) / 10,
              windSpeed: Math.round(10 * profile.windSpeed) / 10,
              windDirection: Math.round(profile.windDirection),
              sky: day.for === "heating" ? "no sun" : "clear",
            }
          : { kind: "percentile", ...base, percent: day.for === "heating" ? 99.6 : 0.4, by: "dry bulb" },
    );
  };
  const percent = (value: number) => (
    <>
      <NumberInput label={`Percent of ${day.name}`} width="52px" value={value} digits={1} onCommit={(v) => set({ percent: v } as Partial<DesignDay>)} />
      <Unit>%</Unit>
    </>
  );
  const quantity = (label: string, key: string, value: number, unit: string) => (
    <Flex align="center" gap="1" key={key}>
      <Text color="ink2">{label}</Text>
      <Quantity label={`${label} of ${day.name}`} width="52px" value={value} unit={unit} digits={1} onCommit={(v) => set({ [key]: v } as Partial<DesignDay>)} />
    </Flex>
  );
  return (
    <Flex gap="4" align="center" py="1.5" borderBottom="1px solid" borderColor="line" role="group" aria-label={day.name}>
      <DayChart profile={profile} name={day.name} />
      <Box flex="1" minW="0">
        <Flex align="center" gap="2" wrap="wrap">
          <TextInput label={`Name of ${day.name}`} align="left" width="170px" title value={day.name} onCommit={(t) => set({ name: t })} />
          <SelectInput
            label={`Kind of ${day.name}`}
            align="left"
            width="170px"
            value={day.kind}
            options={Object.entries(KINDS)
              .filter(([k]) => k !== "clear" || day.for === "cooling")
              .map(([value, label]) => ({ value, label }))}
            onChange={kind}
          />
          {day.kind === "percentile" && (
            <>
              {percent(day.percent)}
              <SelectInput
                label={`Counted by, ${day.name}`}
                align="left"
                width="100px"
                value={day.by}
                options={[
                  { value: "dry bulb", label: "dry bulb" },
                  { value: "wet bulb", label: "wet bulb" },
                ]}
                onChange={(v) => set({ by: v as "dry bulb" | "wet bulb" })}
              />
            </>
          )}
          {day.kind === "clear" && (
            <>
              <SelectInput
                label={`Month of ${day.name}`}
                align="left"
                width="110px"
                value={String(day.month)}
                options={MONTH_NAMES.map((label, i) => ({ value: String(i + 1), label }))}
                onChange={(v) => set({ month: Number(v) })}
              />
              {percent(day.percent)}
            </>
          )}
          {day.kind === "typed" && (
            <>
              <DateInput label={`Date of ${day.name}`} value={day.date} onCommit={(date) => set({ date })} />
              <SelectInput
                label={`Sky of ${day.name}`}
                align="left"
                width="90px"
                value={day.sky}
                options={[
                  { value: "clear", label: "clear sky" },
                  { value: "no sun", label: "no sun" },
                ]}
                onChange={(v) => set({ sky: v as "clear" | "no sun" })}
              />
            </>
          )}
        </Flex>
        {day.kind === "typed" ? (
          <Flex gap="3" wrap="wrap" mt="0.5">
            {quantity("highest", "dryBulb", day.dryBulb, "°C")}
            {quantity("range", "range", day.range, "K")}
            {quantity("wet bulb", "wetBulb", day.wetBulb, "°C")}
            {quantity("wind", "windSpeed", day.windSpeed, "m/s")}
            {quantity("from", "windDirection", day.windDirection, "°")}
          </Flex>
        ) : (
          <Text color="ink2" fontSize="12.5px">
            {profile.range > 0
              ? `${units.text(profile.highest - profile.range, "°C", 1)} to ${units.words(profile.highest, "°C", 1)}`
              : `${units.words(profile.highest, "°C", 1)} all day, no sun`}
            , wet bulb {units.words(profile.wet, "°C", 1)}, wind {units.words(profile.windSpeed, "m/s", 1)} from {Math.round(profile.windDirection)}°
            {day.kind === "percentile" && `; exceeded in ${day.percent} % of the hours of the year`}
          </Text>
        )}
      </Box>
      <IconButton label={`Remove ${day.name}`} icon={Trash2} onClick={remove} {...(not === undefined ? {} : { not })} />
    </Flex>
  );
}

/** Temperature over the day as a line, sun as an area behind it. */
function DayChart({ profile, name }: { profile: DesignProfile; name: string }) {
  const [W, H] = [150, 52];
  const low = Math.min(...profile.dryBulb) - 1;
  const high = Math.max(...profile.dryBulb) + 1;
  const x = (h: number): number => (W * h) / 24;
  const line = Array.from(profile.dryBulb, (t, h) => `${h === 0 ? "M" : "L"}${x(h + 1)} ${4 + ((H - 8) * (high - t)) / (high - low)}`).join("");
  const sun = Array.from(profile.globalHorizontal, (g, h) => `L${x(h + 0.5)} ${H - ((H - 4) * g) / 1150}`).join("");
  return (
    <svg width={W} height={H} role="img" aria-label={`Temperature and sun of ${name}`} style={{ flexShrink: 0 }}>
      <path d={`M0 ${H}${sun}L${W} ${H}Z`} fill="#EAD9A6" />
      {[6, 12, 18].map((h) => (
        <line key={h} x1={x(h)} x2={x(h)} y1="0" y2={H} stroke="var(--chakra-colors-line)" />
      ))}
      <path d={line} fill="none" stroke="var(--chakra-colors-water)" strokeWidth="1.6" />
    </svg>
  );
}
