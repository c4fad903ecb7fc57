"use client";
import type { FileSite, WeatherMapping } from "@arroyo/core";
import { Head, NumberInput, Row, SelectInput, TextInput } from "../../ui/fields.tsx";

const DELIMITERS = [
  { value: ",", label: "comma" },
  { value: ";", label: "semicolon" },
  { value: "\t", label: "tab" },
  { value: "|", label: "bar" },
  { value: " ", label: "blanks" },
] as const;
const ORDERS = [
  { value: "iso", label: "year first, ISO" },
  { value: "ymd", label: "year, month, day" },
  { value: "dmy", label: "day, month, year" },
  { value: "mdy", label: "month, day, year" },
] as const;

type Layout = Pick<WeatherMapping, "skip" | "delimiter" | "decimal" | "missing" | "time" | "stamp" | "clock" | "shift">;

/** A number of how a file is read, within bounds. */
function Bounded({
  label,
  value,
  low,
  high,
  digits,
  write,
}: {
  label: string;
  value: number;
  low: number;
  high: number;
  digits: number;
  write: (v: number) => void;
}) {
  return (
    <Row label={label}>
      <NumberInput
        label={label}
        width="64px"
        value={value}
        digits={digits}
        onCommit={(v) => {
          if (!(v >= low && v <= high)) return `It lies between ${low} and ${high}.`;
          write(v);
          return null;
        }}
      />
    </Row>
  );
}

/** How lines, times and clock of a text file are to be read. */
export function FileLayout({ mapping, set, heads, width }: { mapping: Layout; set: (part: Partial<Layout>) => void; heads: readonly string[]; width: number }) {
  const { time } = mapping;
  const columns = Array.from({ length: width }, (_, c) => ({ value: String(c), label: `${c + 1} ${heads[c] ?? ""}`.trim().slice(0, 40) }));
  const none = { value: "-1", label: "none" };
  const column = (label: string, value: number | null, onChange: (c: number | null) => void, optional = false) => (
    <Row key={label} label={label}>
      <SelectInput
        label={label}
        width="140px"
        value={String(value ?? -1)}
        options={optional || value === null ? [none, ...columns] : columns}
        onChange={(v) => onChange(Number(v) < 0 ? null : Number(v))}
      />
    </Row>
  );
  const number = (label: string, value: number, low: number, high: number, digits: number, write: (v: number) => void) => (
    <Bounded key={label} {...{ label, value, low, high, digits, write }} />
  );
  const kinds: Record<WeatherMapping["time"]["kind"], () => WeatherMapping["time"]> = {
    "one column": () => ({ kind: "one column", column: 0, order: "iso" }),
    "date and time": () => ({ kind: "date and time", date: 0, time: 1, order: "dmy" }),
    parts: () => ({ kind: "parts", year: null, month: 0, day: 1, hour: 2, minute: null }),
    none: () => ({ kind: "none", minutes: 60 }),
  };
  return (
    <>
      <Head mt="0">Lines</Head>
      {number("Lines before the values", mapping.skip, 0, 1000, 0, (v) => set({ skip: Math.round(v) }))}
      <Row label="Delimiter">
        <SelectInput
          label="Delimiter"
          width="110px"
          value={mapping.delimiter}
          options={DELIMITERS}
          onChange={(v) => set({ delimiter: v as WeatherMapping["delimiter"] })}
        />
      </Row>
      <Row label="Decimal sign">
        <SelectInput
          label="Decimal sign"
          width="110px"
          value={mapping.decimal}
          options={[
            { value: ".", label: "point" },
            { value: ",", label: "comma" },
          ]}
          onChange={(v) => set({ decimal: v as "." | "," })}
        />
      </Row>
      <Row label="Missing values" title="What stands where a value is missing, with commas between; an empty cell always does">
        <TextInput
          label="Missing values"
          width="130px"
          value={mapping.missing.join(", ")}
          onCommit={(t) => {
            set({
              missing: t
                .split(",")
                .map((x) => x.trim().slice(0, 20))
                .filter((x) => x !== "")
                .slice(0, 30),
            });
            return null;
          }}
        />
      </Row>
      <Head>Time</Head>
      <Row label="Stands in">
        <SelectInput
          label="Time stands in"
          width="140px"
          value={time.kind}
          options={[
            { value: "one column", label: "one column" },
            { value: "date and time", label: "date and time" },
            { value: "parts", label: "parts of its own" },
            { value: "none", label: "no column" },
          ]}
          onChange={(v) => set({ time: kinds[v as WeatherMapping["time"]["kind"]]() })}
        />
      </Row>
      {time.kind === "one column" && column("Column of the time", time.column, (c) => c !== null && set({ time: { ...time, column: c } }))}
      {time.kind === "date and time" && [
        column("Column of the date", time.date, (c) => c !== null && set({ time: { ...time, date: c } })),
        column("Column of the time of day", time.time, (c) => c !== null && set({ time: { ...time, time: c } })),
      ]}
      {(time.kind === "one column" || time.kind === "date and time") && (
        <Row label="Order of the date">
          <SelectInput
            label="Order of the date"
            width="140px"
            value={time.order}
            options={time.kind === "one column" ? ORDERS : ORDERS.slice(1)}
            onChange={(v) => set({ time: { ...time, order: v } as WeatherMapping["time"] })}
          />
        </Row>
      )}
      {time.kind === "parts" && [
        column("Year", time.year, (c) => set({ time: { ...time, year: c } }), true),
        column("Month", time.month, (c) => c !== null && set({ time: { ...time, month: c } })),
        column("Day", time.day, (c) => c !== null && set({ time: { ...time, day: c } })),
        column("Hour", time.hour, (c) => set({ time: { ...time, hour: c } }), true),
        column("Minute", time.minute, (c) => set({ time: { ...time, minute: c } }), true),
      ]}
      {time.kind === "none" && number("Minutes from row to row", time.minutes, 1, 60, 0, (v) => set({ time: { kind: "none", minutes: Math.round(v) } }))}
      <Row label="The time is" title="Where in the interval of a row its time lies">
        <SelectInput
          label="The time is"
          width="150px"
          value={mapping.stamp}
          options={[
            { value: "start", label: "the start of the row" },
            { value: "middle", label: "its middle" },
            { value: "end", label: "its end" },
          ]}
          onChange={(v) => set({ stamp: v as WeatherMapping["stamp"] })}
        />
      </Row>
      <Row label="Clock">
        <SelectInput
          label="Clock"
          width="150px"
          value={mapping.clock}
          options={[
            { value: "standard", label: "standard time" },
            { value: "saving", label: "with summer time" },
            { value: "utc", label: "UTC" },
          ]}
          onChange={(v) => set({ clock: v as WeatherMapping["clock"] })}
        />
      </Row>
      {number("Minutes added to it", mapping.shift, -720, 720, 0, (v) => set({ shift: v }))}
    </>
  );
}

/** Which year a weather file is of, and where it was measured. */
export function FilePlace({ mapping, set, place }: { mapping: WeatherMapping; set: (part: Partial<WeatherMapping>) => void; place: FileSite }) {
  const { site } = mapping;
  const number = (label: string, value: number, low: number, high: number, digits: number, write: (v: number) => void) => (
    <Bounded key={label} {...{ label, value, low, high, digits, write }} />
  );
  return (
    <>
      <Row label="Year" title="A typical year has months of different years, or of none">
        <SelectInput
          label="Kind of year in the file"
          width="150px"
          value={mapping.typical ? "typical" : "measured"}
          options={[
            { value: "measured", label: "as the file says" },
            { value: "typical", label: "typical" },
          ]}
          onChange={(v) => set({ typical: v === "typical" })}
        />
      </Row>
      <Head>Place</Head>
      <Row label="Measured at">
        <SelectInput
          label="Measured at"
          width="150px"
          value={site ? "own" : "project"}
          options={[
            { value: "project", label: "the project’s site" },
            { value: "own", label: "a place of its own" },
          ]}
          onChange={(v) => set({ site: v === "own" ? { ...place } : null })}
        />
      </Row>
      {site && [
        number("Latitude of the file", site.latitude, -90, 90, 2, (v) => set({ site: { ...site, latitude: v } })),
        number("Longitude of the file", site.longitude, -180, 180, 2, (v) => set({ site: { ...site, longitude: v } })),
        number("Elevation of the file", site.elevation, -450, 6000, 0, (v) => set({ site: { ...site, elevation: v } })),
        number("Time zone of the file", site.timeZone, -12, 14, 1, (v) => set({ site: { ...site, timeZone: v } })),
      ]}
    </>
  );
}
