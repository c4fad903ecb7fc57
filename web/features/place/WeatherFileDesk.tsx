"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useEffect, useMemo, useRef, useState } from "react";
import {
  fileQuantities,
  HOUR,
  hourWords,
  monthlyWeather,
  setChange,
  weatherLimits,
  writeWeatherCsv,
  type FileGuess,
  type FileQuantity,
  type FileSite,
  type Project,
  type WeatherField,
  type WeatherFileOutcome,
  type WeatherMapping,
} from "@arroyo/core";
import { ask, tell } from "../../live/server.ts";
import type { FromWeatherFile, ToWeatherFile } from "../../live/weatherFile.ts";
import { Act, NumberInput, SelectInput, TextInput } from "../../ui/fields.tsx";
import { FileDrop } from "../../ui/FileDrop.tsx";
import { figure, monthNames } from "../../ui/format.ts";
import { HourMap } from "../../ui/HourMap.tsx";
import { Told } from "../../ui/Told.tsx";
import { useUnits } from "../../ui/units.ts";
import { useMine } from "../fabric/myLibrary.ts";
import { useStore } from "../store.ts";
import { FileLayout, FilePlace } from "./FileLayout.tsx";
import { FirstRows } from "./FirstRows.tsx";
import { KeptYears } from "./KeptYears.tsx";
import { addYear } from "./years.ts";

/** Longest text of what was found that is kept with the year, whole sentences. */
const SOURCE_MOST = 400;
/** How Arroyo's own weather CSV begins: read exactly, without a mapping. */
const OWN = "# arroyo-weather:";

/** Keeps a year of Arroyo's own CSV on the server, adds it to the project and brings it into view; answers what refuses it. */
async function keepYear(
  csv: Blob | string,
  about: {
    readonly file: string;
    readonly name: string | null;
    readonly notes: string;
    readonly calendarYear: number | null;
    readonly precipitation?: readonly number[] | null;
  },
): Promise<readonly string[]> {
  const answer = await ask<{ hash: string; name: string; year: number | null }>("/api/weather", { kind: "text/csv", body: csv });
  if (!answer.ok) return answer.problems.length > 0 ? answer.problems.slice(0, 5).map((p) => `${p.path}: ${p.message}`) : [answer.message];
  return takeYear(answer.body, about);
}

/** Adds a stored year to the project and brings it into view; answers what refuses it. */
function takeYear(
  { hash, name, year }: { readonly hash: string; readonly name: string; readonly year: number | null },
  about: {
    readonly file: string;
    readonly name: string | null;
    readonly notes: string;
    readonly calendarYear: number | null;
    readonly precipitation?: readonly number[] | null;
  },
): readonly string[] {
  const refused = addYear(
    {
      kind: "stored",
      name: `${about.name ?? (name || about.file)}${year === null ? "" : ` ${year}`}`,
      hash,
      label: year === null ? "typical" : "measured",
      source: `From ${about.file}. ${about.notes}`.trim().slice(0, 500),
      ...(about.precipitation ? { precipitation: about.precipitation.map((v) => Math.round(10 * v) / 10) } : {}),
    },
    // a measured year brings its calendar along
    year === null || year === about.calendarYear ? [] : [setChange(useStore.getState().document as Project, ["calendar", "year"], year)],
  );
  return refused === null ? [] : [refused];
}

/** Reads a weather file of any layout: a first guess, the first rows, and the year as it would be read, beside each other. */
export function WeatherFileDesk({ onKept }: { onKept: () => void }) {
  const project = useStore((s) => s.document) as Project;
  const kept = useMine((s) => s.document?.weatherMappings);
  const fetchMine = useMine((s) => s.fetch);
  const worker = useRef<Worker | null>(null);
  const turn = useRef(0);
  const [file, setFile] = useState<File | null>(null);
  const [guess, setGuess] = useState<FileGuess | null>(null);
  const [mapping, setMapping] = useState<WeatherMapping | null>(null);
  const [year, setYear] = useState<number | null>(null);
  const [outcome, setOutcome] = useState<WeatherFileOutcome | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const { latitude, longitude, elevation, timeZone, name } = project.site;
  const place = useMemo((): FileSite => ({ name, latitude, longitude, elevation, timeZone }), [name, latitude, longitude, elevation, timeZone]);
  useEffect(() => {
    void fetchMine();
    const w = new Worker(new URL("../../live/weatherFile.ts", import.meta.url), { type: "module" });
    worker.current = w;
    w.onmessage = (e: MessageEvent<FromWeatherFile>) => {
      const m = e.data;
      if (m.kind === "guessed") {
        setGuess(m.guess);
        setMapping(m.guess.mapping);
        setTold(null);
      } else if (m.kind === "refused") {
        setTold(m.message);
        setShare(null);
      } else if (m.turn === turn.current) {
        if (m.kind === "progress") setShare(m.share);
        else {
          setOutcome(m.outcome);
          setShare(null);
        }
      }
    };
    w.onerror = (e) => setTold(`The reader stopped: ${e.message}`);
    return () => w.terminate();
  }, [fetchMine]);
  useEffect(() => {
    if (!file || !mapping) return;
    turn.current++;
    worker.current?.postMessage({ kind: "read", file, mapping, place, year, turn: turn.current } satisfies ToWeatherFile);
  }, [file, mapping, place, year]);
  const take = (chosen: File): void => {
    turn.current++;
    setShare(null);
    setFile(chosen);
    setGuess(null);
    setMapping(null);
    setOutcome(null);
    setYear(null);
    setTold(null);
    void chosen
      .slice(0, OWN.length)
      .text()
      .then((head) =>
        head === OWN
          ? keepYear(chosen, { file: chosen.name, name: null, notes: "", calendarYear: project.calendar.year ?? null }).then((refused) =>
              refused.length === 0 ? onKept() : setTold(refused.join(" ")),
            )
          : worker.current?.postMessage({ kind: "guess", file: chosen } satisfies ToWeatherFile),
      )
      .catch(() => setTold(`${chosen.name} cannot be opened.`));
  };
  // a public layout says its own place; a mapping kept from another file would say another
  const matching = guess && !guess.certain ? Object.values(kept ?? {}).filter((m) => m.shape === guess.shape) : [];
  const set = (part: Partial<WeatherMapping>): void => {
    if (mapping) setMapping({ ...mapping, ...part });
  };
  return (
    <Flex direction="column" gap="3">
      <FileDrop label="Weather file" words="Drop a weather file here" choose="or choose one" file={file} share={share} take={take}>
        Hourly or finer values as text, in any layout: TMY3, a station’s export, a logger’s, Arroyo’s own weather CSV. What it holds is guessed from its header
        and its values; nothing is taken before you have seen it.
      </FileDrop>
      {!file && (
        <>
          <AskService place={place} calendarYear={project.calendar.year ?? null} onKept={onKept} />
          <KeptYears onTaken={onKept} />
        </>
      )}
      {told && (
        <Text role="alert" color="clay">
          {told}
        </Text>
      )}
      {guess && mapping && file && (
        <>
          {matching.length > 0 && (
            <Flex gap="2" align="baseline" role="status">
              <Text>A file of this shape was read before.</Text>
              {matching.map((m) => (
                <Act key={m.name} onClick={() => setMapping(m.mapping)}>
                  Read it as “{m.name}”
                </Act>
              ))}
            </Flex>
          )}
          <FirstRows guess={guess} mapping={mapping} set={set} />
          <Flex gap="6" align="flex-start">
            <Box w="290px" flexShrink={0}>
              <FileLayout mapping={mapping} set={set} heads={guess.heads} width={guess.rows[0]?.length ?? 0} />
              <FilePlace mapping={mapping} set={set} place={place} />
            </Box>
            <Box flex="1" minW="0">
              <Read
                file={file}
                mapping={mapping}
                shape={guess.shape}
                certain={guess.certain}
                outcome={outcome}
                year={year}
                setYear={setYear}
                set={set}
                onKept={onKept}
                calendarYear={project.calendar.year ?? null}
              />
            </Box>
          </Flex>
        </>
      )}
    </Flex>
  );
}

/** Asks the weather service for a measured year of the project's place. */
function AskService({ place, calendarYear, onKept }: { place: FileSite; calendarYear: number | null; onKept: () => void }) {
  const [year, setYear] = useState(2024);
  const [busy, setBusy] = useState(false);
  const [told, setTold] = useState<string | null>(null);
  const go = async (): Promise<void> => {
    setBusy(true);
    setTold(null);
    const { latitude, longitude, elevation, timeZone } = place;
    const answer = await tell<{ hash: string; name: string; year: number | null }>("/api/weather/ask", { latitude, longitude, elevation, timeZone, year });
    setBusy(false);
    if (!answer.ok) return setTold([answer.message, ...answer.problems.slice(0, 2).map((p) => `${p.path}: ${p.message}`)].join(" "));
    const refused = takeYear(answer.body, { file: "the weather service", name: `${place.name}`, notes: `${answer.body.name}.`, calendarYear });
    if (refused.length > 0) return setTold(refused.join(" "));
    onKept();
  };
  return (
    <Flex align="center" gap="2" wrap="wrap">
      <Text>Or ask the weather service for this place in</Text>
      <NumberInput
        label="Year asked for"
        width="60px"
        plain
        value={year}
        digits={0}
        onCommit={(v) => {
          if (!(Number.isInteger(v) && v >= 1900 && v <= 2200)) return "A calendar year is wanted.";
          setYear(v);
          return null;
        }}
      />
      <Act onClick={() => void go()} disabled={busy}>
        {busy ? "asking …" : "Ask for the year"}
      </Act>
      <Text color="ink2" fontSize="12px">
        The service that ships with Arroyo answers with invented years.
      </Text>
      {told && (
        <Text role="alert" color="clay">
          {told}
        </Text>
      )}
    </Flex>
  );
}

const shownFields = ["dryBulb", "relativeHumidity", "globalHorizontal", "diffuseHorizontal", "windSpeed", "windDirection", "pressure", "cloudCover"] as const;

/** The year as it would be read: what was found, its map with the hours that are not as read, and taking it. */
function Read({
  file,
  mapping,
  shape,
  certain,
  outcome,
  year,
  setYear,
  set,
  onKept,
  calendarYear,
}: {
  file: File;
  mapping: WeatherMapping;
  shape: string;
  certain: boolean;
  outcome: WeatherFileOutcome | null;
  year: number | null;
  setYear: (y: number | null) => void;
  set: (part: Partial<WeatherMapping>) => void;
  onKept: () => void;
  calendarYear: number | null;
}) {
  const units = useUnits();
  const keepMapping = useMine((s) => s.keepMapping);
  const [field, setField] = useState<WeatherField>("dryBulb");
  const [told, setTold] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const weather = outcome?.ok ? outcome.weather : null;
  const report = outcome?.ok ? outcome.report : null;
  const months = useMemo(() => (weather ? monthlyWeather(weather) : null), [weather]);
  const values = weather?.[field] ?? null;
  const flags = report?.flags[field];
  const span = useMemo((): [number, number] => {
    if (!values) return [0, 1];
    return [values.reduce((a, b) => Math.min(a, b)), values.reduce((a, b) => Math.max(a, b))];
  }, [values]);
  const marked = useMemo(() => (flags ? (h: number) => flags[h] !== HOUR.read && flags[h] !== HOUR.derived : undefined), [flags]);
  if (!outcome) return <Box h="300px" aria-busy="true" />;
  const { name, unit } = weatherLimits[field];
  const use = async (): Promise<void> => {
    if (!weather || !report) return;
    setBusy(true);
    const notes = report.findings
      .filter((f) => f.code !== "derived")
      .map((f) => f.message)
      .reduce((all, next) => (all.length + next.length < SOURCE_MOST ? `${all} ${next}` : all), "");
    const refused = await keepYear(writeWeatherCsv(weather), {
      file: file.name,
      name: weather.name,
      notes,
      calendarYear,
      precipitation: report.precipitationByMonth,
    });
    setBusy(false);
    if (refused.length > 0) return setTold(refused.join(" "));
    onKept();
  };
  return (
    <Flex direction="column" gap="3">
      {outcome.years.length > 1 && (
        <Flex align="center" gap="2">
          <Text>Year</Text>
          <SelectInput
            label="Year of the file"
            align="left"
            width="170px"
            value={String(year ?? weather?.year ?? "")}
            options={outcome.years.map((y) => ({ value: String(y.year), label: `${y.year}, ${figure(100 * y.share, 0)} % there` }))}
            onChange={(v) => setYear(Number(v))}
          />
        </Flex>
      )}
      {!outcome.ok &&
        outcome.problems.slice(0, 6).map((p, i) => (
          <Text key={i} role="alert" color="clay">
            {p.line > 0 ? `Line ${p.line}: ` : ""}
            {p.message}
          </Text>
        ))}
      {weather && report && months && values && (
        <>
          <Flex gap="3" align="center" wrap="wrap">
            <chakra.button
              type="button"
              background="water"
              color="sheet"
              px="3.5"
              h="28px"
              borderRadius="small"
              fontWeight="500"
              cursor="pointer"
              disabled={busy}
              opacity={busy ? 0.5 : 1}
              onClick={() => void use()}
            >
              Use this year
            </chakra.button>
            <Text color="ink2" fontSize="12.5px" data-testid="year-as-read">
              {weather.year ?? "typical"}, {values.length / 24} days
              {certain ? "; of a public layout that leaves no question" : ""}; mean {units.words(months.meanDryBulb.reduce((a, b) => a + b, 0) / 12, "°C", 1)},
              sun{" "}
              {units.words(
                months.global.reduce((a, b) => a + b, 0),
                "kWh/m²a",
                0,
              )}
              {report.precipitation === null ? "" : `, precipitation ${units.words(report.precipitation, "mm", 0)}`}
            </Text>
          </Flex>
          <Box>
            <Text fontWeight="600">What was found</Text>
            {report.findings.length === 0 && <Text color="ink2">Nothing: every value is there and can be.</Text>}
            {report.findings.map((f, i) => (
              <Text
                key={i}
                fontSize="12.5px"
                py="0.5"
                borderBottom="1px solid"
                borderColor="line"
                color={["derived", "leap day"].includes(f.code) ? "ink2" : "ink"}
              >
                <Told text={f.message} />{" "}
                {f.shift !== undefined && <Act onClick={() => set({ shift: mapping.shift + (f.shift as number) })}>Put the clock right</Act>}
              </Text>
            ))}
          </Box>
          <SelectInput
            label="Quantity as read"
            align="left"
            width="220px"
            value={field}
            options={shownFields.map((f) => ({ value: f, label: fileQuantities[f].label }))}
            onChange={(v) => setField(v as WeatherField)}
          />
          <HourMap
            title={fileQuantities[field as FileQuantity].label}
            label={`The ${name} as read, hour by hour`}
            values={values}
            span={span}
            {...(marked ? { marked } : {})}
            scale={`${units.text(span[0], unit === "" ? "1" : unit, 1)} to ${units.words(span[1], unit === "" ? "1" : unit, 1)}; in clay what was filled, put right or is doubtful`}
            words={(h) => `${units.words(values[h], unit === "" ? "1" : unit, 1)}, ${hourWords[flags?.[h] ?? 0]}`}
          />
          <chakra.table fontSize="12px" borderCollapse="collapse" w="100%" aria-label="Months as read">
            <tbody>
              {(
                [
                  [`Mean, ${units.unit("°C")}`, months.meanDryBulb.map((v) => units.text(v, "°C", 1))],
                  [`Lowest, ${units.unit("°C")}`, months.minDryBulb.map((v) => units.text(v, "°C", 1))],
                  [`Highest, ${units.unit("°C")}`, months.maxDryBulb.map((v) => units.text(v, "°C", 1))],
                  [`Sun, ${units.unit("kWh/m²")}`, months.global.map((v) => units.text(v, "kWh/m²", 0))],
                ] as const
              ).map(([label, cells]) => (
                <tr key={label}>
                  <chakra.th scope="row" textAlign="left" fontWeight="400" color="ink2" borderBottom="1px solid" borderColor="line">
                    {label}
                  </chakra.th>
                  {cells.map((v, i) => (
                    <chakra.td key={i} textAlign="right" borderBottom="1px solid" borderColor="line" title={monthNames[i]}>
                      {v}
                    </chakra.td>
                  ))}
                </tr>
              ))}
            </tbody>
          </chakra.table>
          <Flex gap="2" align="center">
            <Text color="ink2">Keep how it is read as</Text>
            <TextInput
              label="Name of the mapping"
              width="180px"
              align="left"
              value={mapping.name}
              onCommit={(t) => {
                if (t.trim() === "" || t.length > 200) return "A name has 1 to 200 characters.";
                set({ name: t.trim() });
                return null;
              }}
            />
            <Act
              onClick={() =>
                void keepMapping(mapping, shape).then((refused) => setTold(refused ?? `Kept as “${mapping.name}”: offered for files of this shape.`))
              }
            >
              Keep
            </Act>
          </Flex>
        </>
      )}
      {told && (
        <Text role="status" color="ink2">
          {told}
        </Text>
      )}
    </Flex>
  );
}
