"use client";
import { Box, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  moistureLetter,
  morphFields,
  setChange,
  unsetChange,
  shippedClimates,
  shippedMorphs,
  yearInView,
  type Morph,
  type NamedYear,
  type Normals,
  type Project,
} from "@arroyo/core";
import { Act, firstMessage, Head, Row, SelectInput, TextInput, Unit } from "../../ui/fields.tsx";
import { figure, monthNames } from "../../ui/format.ts";
import { Inspector } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { Months } from "./Months.tsx";
import { kindWords } from "./years.ts";
import { DrivenNote } from "../measured/DrivenNote.tsx";

/** Id of the field a year is renamed in. */
export const YEAR_NAME_FIELD = "year-name";

/** The weather year in view: what it is called, what it holds, and what it is made from. */
export function YearInspector() {
  const units = useUnits();
  const project = useStore((s) => s.document) as Project;
  const weather = useStore((s) => s.live.weather);
  const edit = useStore((s) => s.edit);
  const year = yearInView(project);
  const at = (...path: string[]): string[] => ["weathers", project.weather, ...path];
  return (
    <Inspector title={year.name} about={kindWords[year.kind]}>
      <DrivenNote of={["weather/"]} />
      <Box id={YEAR_NAME_FIELD}>
        <Row label="Name">
          <TextInput
            label="Name of the weather year"
            width="160px"
            value={year.name}
            onCommit={(t) => firstMessage(edit(`${year.name} is now ${t}`, [setChange(project, at("name"), t)]))}
          />
        </Row>
      </Box>
      <Row label="Label" title="What kind of year it is, in your words: typical, measured, mid-century">
        <TextInput
          label="Label of the weather year"
          width="120px"
          value={year.label ?? ""}
          onCommit={(t) => firstMessage(edit(`${year.name}: label`, [setChange(project, at("label"), t)]))}
        />
      </Row>
      {year.source && (
        <Text color="ink2" fontSize="12px" my="1" lineClamp={4} title={year.source}>
          {year.source}
        </Text>
      )}
      {weather && (
        <>
          <Row label="Year">
            {weather.year ?? "typical"}, {weather.days} days
          </Row>
          <Row label="Climate zone" title="Thermal zone after ASHRAE 169, from the degree days of this year">
            <b>
              {weather.climateZone}
              {year.precipitation && weather.climateZone < 7 ? moistureLetter(weather.monthly.meanDryBulb, year.precipitation, project.site.latitude) : ""}
            </b>
          </Row>
          <Row label="Coldest hour">
            <b>{units.text(weather.min, "°C", 1)}</b>
            <Unit>{units.unit("°C")}</Unit>
          </Row>
          <Row label="Warmest hour">
            <b>{units.text(weather.max, "°C", 1)}</b>
            <Unit>{units.unit("°C")}</Unit>
          </Row>
          <Row label="Heating degree days" note={`daily means below ${units.words(18, "°C", 0)}`}>
            <b>{units.text(weather.heatingDegreeDays, "K·d", 0)}</b>
            <Unit>{units.unit("K·d")}</Unit>
          </Row>
          <Row label="Cooling degree days" note={`daily means above ${units.words(18, "°C", 0)}`}>
            <b>{units.text(weather.coolingDegreeDays, "K·d", 0)}</b>
            <Unit>{units.unit("K·d")}</Unit>
          </Row>
          <Row label="Sun on the horizontal">
            <b>
              {units.text(
                weather.monthly.global.reduce((a, b) => a + b, 0),
                "kWh/m²a",
                0,
              )}
            </b>
            <Unit>{units.unit("kWh/m²a")}</Unit>
          </Row>
        </>
      )}
      <Precipitation year={year} />
      {year.kind === "normals" && <NormalRows year={year} />}
      {year.kind === "morphed" && <MorphRows year={year} />}
      {year.kind === "stored" && (
        <Box mt="2">
          <Act onClick={() => window.location.assign(`/api/weather/${year.hash}`)}>Save the year as CSV</Act>
        </Box>
      )}
    </Inspector>
  );
}

/** Rain by month, typed or from the file: it tells the moisture letter of the climate zone and nothing else. */
function Precipitation({ year }: { year: NamedYear }) {
  const units = useUnits();
  const project = useStore((s) => s.document) as Project;
  const edit = useStore((s) => s.edit);
  const path = ["weathers", project.weather, "precipitation"];
  const values = year.precipitation;
  if (!values)
    return (
      <Row label="Precipitation" title="By month; it tells the moisture letter of the climate zone">
        <Act onClick={() => edit(`${year.name}: precipitation`, [setChange(project, path, new Array<number>(12).fill(40))])}>type it</Act>
      </Row>
    );
  return (
    <>
      <Head>Precipitation, {units.unit("mm")}</Head>
      <Months
        label="precipitation"
        values={values}
        unit="mm"
        onCommit={(m, v) =>
          firstMessage(
            edit(`Precipitation, ${monthNames[m]}`, [
              setChange(
                project,
                path,
                values.map((x, i) => (i === m ? v : x)),
              ),
            ]),
          )
        }
      />
      <Act onClick={() => edit(`${year.name}: no precipitation`, [unsetChange(project, path)])}>not known</Act>
    </>
  );
}

const normalWords: Readonly<Record<Exclude<keyof Normals, "windDirection">, readonly [label: string, unit: string]>> = {
  dryBulb: ["Mean temperature", "°C"],
  dailyRange: ["Daily range", "K"],
  relativeHumidity: ["Relative humidity", "%"],
  clearness: ["Clearness", "1"],
  windSpeed: ["Wind speed", "m/s"],
};

/** The twelve normals a made year stands on, what the year made of it has, and invented climates to begin from. */
function NormalRows({ year }: { year: Extract<NamedYear, { kind: "normals" }> }) {
  const units = useUnits();
  const project = useStore((s) => s.document) as Project;
  const edit = useStore((s) => s.edit);
  const weather = useStore((s) => s.live.weather);
  const [quantity, setQuantity] = useState<keyof typeof normalWords>("dryBulb");
  const values = year.normals[quantity];
  const path = ["weathers", project.weather, "normals", quantity];
  const [label, unit] = normalWords[quantity];
  const made: readonly number[] | null =
    weather && quantity === "dryBulb"
      ? weather.monthly.meanDryBulb
      : weather && quantity === "relativeHumidity"
        ? weather.monthly.relativeHumidity
        : weather && quantity === "windSpeed"
          ? weather.monthly.windSpeed
          : null;
  const apart = made ? Math.max(...made.map((v, i) => Math.abs(v - values[i]))) : null;
  const takeClimate = (key: string): void => {
    const c = shippedClimates[key];
    edit(`Climate of ${c.name}`, [
      setChange(project, ["weathers", project.weather], { ...year, name: `${c.name} typical year`, normals: c.normals }),
      ...(["latitude", "longitude", "elevation", "timeZone"] as const).map((f) => setChange(project, ["site", f], c[f])),
      setChange(project, ["site", "name"], c.name),
    ]);
  };
  return (
    <>
      <Head>Monthly normals</Head>
      <SelectInput
        label="Quantity"
        align="left"
        width="100%"
        value={quantity}
        options={Object.entries(normalWords).map(([value, [words, u]]) => ({ value, label: u === "1" ? words : `${words}, ${units.unit(u)}` }))}
        onChange={(v) => setQuantity(v as typeof quantity)}
      />
      <Months
        label="normal"
        values={values}
        unit={unit}
        onCommit={(i, v) =>
          firstMessage(
            edit(`${monthNames[i]} normal`, [
              setChange(
                project,
                path,
                values.map((x, k) => (k === i ? v : x)),
              ),
            ]),
          )
        }
      />
      {made && apart !== null && made.length === 12 && (
        <Text color="ink2" fontSize="12px" title={`${label} of the year made, month by month: ${made.map((v) => figure(v, 1)).join(", ")}`}>
          The year made of them is within {units.words(apart, unit === "°C" ? "K" : unit, 2)} of every month.
        </Text>
      )}
      <Box mt="2">
        <SelectInput
          label="Take an invented climate"
          align="left"
          width="100%"
          value=""
          options={[
            { value: "", label: "Take an invented climate and its place …" },
            ...Object.entries(shippedClimates).map(([value, c]) => ({ value, label: `${c.zone} ${c.name}: ${c.about}` })),
          ]}
          onChange={(v) => v !== "" && takeClimate(v)}
        />
      </Box>
    </>
  );
}

const morphWords: Readonly<Record<keyof Morph, readonly [label: string, unit: string]>> = {
  dryBulb: ["Mean temperature, change", "K"],
  dailyRange: ["Daily range, change", "%"],
  humidityRatio: ["Water vapour, change", "%"],
  sun: ["Global irradiation, change", "%"],
  cloudCover: ["Cloud cover, change in points", "%"],
  windSpeed: ["Wind speed, change", "%"],
};

/** The monthly changes that make a future year, and the year they are made to. */
function MorphRows({ year }: { year: Extract<NamedYear, { kind: "morphed" }> }) {
  const units = useUnits();
  const project = useStore((s) => s.document) as Project;
  const edit = useStore((s) => s.edit);
  const [quantity, setQuantity] = useState<keyof Morph>("dryBulb");
  const values = year.morph[quantity];
  const [label, unit] = morphWords[quantity];
  const at = (...path: string[]): string[] => ["weathers", project.weather, ...path];
  const bases = Object.entries(project.weathers).filter(([, y]) => y.kind !== "morphed");
  return (
    <>
      <Head>Monthly changes</Head>
      <Row label="Made of">
        <SelectInput
          label="Made of"
          width="150px"
          value={year.of}
          options={bases.map(([value, y]) => ({ value, label: y.name }))}
          onChange={(v) => edit(`${year.name} is made of ${project.weathers[v].name}`, [setChange(project, at("of"), v)])}
        />
      </Row>
      <SelectInput
        label="Quantity changed"
        align="left"
        width="100%"
        value={quantity}
        options={morphFields.map((value) => ({ value, label: `${morphWords[value][0]}, ${units.unit(morphWords[value][1])}` }))}
        onChange={(v) => setQuantity(v as keyof Morph)}
      />
      <Months
        label="change"
        values={values}
        unit={unit}
        onCommit={(i, v) =>
          firstMessage(
            edit(`${label}, ${monthNames[i]}`, [
              setChange(
                project,
                at("morph", quantity),
                values.map((x, k) => (k === i ? v : x)),
              ),
            ]),
          )
        }
      />
      <Act onClick={() => edit(`${label}: every month as January`, [setChange(project, at("morph", quantity), new Array<number>(12).fill(values[0]))])}>
        Every month as January
      </Act>
      <Box mt="2">
        <SelectInput
          label="Take example changes"
          align="left"
          width="100%"
          value=""
          options={[{ value: "", label: "Take example changes …" }, ...Object.entries(shippedMorphs).map(([value, m]) => ({ value, label: m.name }))]}
          onChange={(v) => v !== "" && edit(`Changes of ${shippedMorphs[v].name}`, [setChange(project, at("morph"), shippedMorphs[v].morph)])}
        />
      </Box>
      <Text color="ink2" fontSize="12px" mt="1">
        Shifts and stretches after Belcher, Hacker and Powell 2005. Air stays below saturation, sun below a clear sky.
      </Text>
    </>
  );
}
