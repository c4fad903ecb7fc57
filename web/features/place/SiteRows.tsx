"use client";
import { Box, Text } from "@chakra-ui/react";
import { setChange, type Project } from "@arroyo/core";
import { Act, firstMessage, Head, NumberInput, Quantity, Row, SelectInput, Unit } from "../../ui/fields.tsx";
import { monthNames } from "../../ui/format.ts";
import { useStore } from "../store.ts";
import { Months } from "./Months.tsx";
import { GroundRows } from "./GroundRows.tsx";

const siteFields = [
  { key: "latitude", label: "Latitude", unit: "°", digits: 2, help: "North positive. Sets the sun's path." },
  { key: "longitude", label: "Longitude", unit: "°", digits: 2, help: "East positive." },
  { key: "elevation", label: "Elevation", unit: "m", digits: 0, help: "Sets air pressure and density." },
  { key: "timeZone", label: "Time zone", unit: "h", digits: 1, help: "Hours ahead of UTC, standard time." },
  { key: "planNorth", label: "Top of plan from north", unit: "°", digits: 1, help: "True direction of the top of the plan, clockwise from north." },
] as const;

/** The site: where it is, how its surroundings are, and its ground. */
export function SiteRows() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const { site } = project;
  return (
    <Box px="3.5">
      <Text textStyle="title">{site.name}</Text>
      {siteFields.map((f) => (
        <Row key={f.key} label={f.label} title={f.help}>
          {f.unit === "h" ? (
            <>
              <NumberInput
                label={f.label}
                value={site[f.key]}
                digits={f.digits}
                onCommit={(v) => firstMessage(edit(`${f.label} ${v}`, [setChange(project, ["site", f.key], v)]))}
              />
              <Unit>{f.unit}</Unit>
            </>
          ) : (
            <Quantity
              label={f.label}
              value={site[f.key]}
              unit={f.unit}
              digits={f.digits}
              onCommit={(v) => edit(`${f.label} ${Number(v.toPrecision(6))}`, [setChange(project, ["site", f.key], v)])}
            />
          )}
        </Row>
      ))}
      <Row label="Terrain" title="Class of the surroundings, for the wind profile">
        <SelectInput
          label="Terrain"
          value={site.terrain}
          options={["open sea", "open country", "suburb", "city"].map((t) => ({ value: t, label: t }))}
          onChange={(v) => edit(`Terrain ${v}`, [setChange(project, ["site", "terrain"], v)])}
        />
      </Row>
      <Row label="Shelter" title="Shielding from wind by what stands around, for leakage by its area">
        <SelectInput
          label="Shelter"
          value={site.shelter}
          options={["none", "light", "moderate", "heavy", "very heavy"].map((t) => ({ value: t, label: t }))}
          onChange={(v) => edit(`Shelter ${v}`, [setChange(project, ["site", "shelter"], v)])}
        />
      </Row>
      <Albedo />
      <GroundRows />
    </Box>
  );
}

/** Reflectance of ground under snow, and mean air below which a month is taken to lie under it, °C: typical, unverified. */
const SNOW = 0.6;
const SNOW_BELOW = -1;

/** Reflectance of the ground by month, and with snow in the months that freeze. */
function Albedo() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const air = useStore((s) => s.live.weather?.monthly.meanDryBulb);
  const { albedo } = project.site;
  const snowy = air?.length === 12 ? albedo.map((a, m) => (air[m] < SNOW_BELOW ? SNOW : a)) : null;
  return (
    <>
      <Head>Ground reflectance</Head>
      <Months
        label="ground reflectance"
        values={albedo}
        unit="1"
        onCommit={(m, v) =>
          firstMessage(
            edit(`Ground reflectance, ${monthNames[m]}`, [
              setChange(
                project,
                ["site", "albedo"],
                albedo.map((a, i) => (i === m ? v : a)),
              ),
            ]),
          )
        }
      />
      <Act
        disabled={!snowy || snowy.every((a, m) => a === albedo[m])}
        title="Months whose mean air is below −1 °C reflect 0.6: typical, unverified"
        onClick={() => snowy && edit("Ground reflectance with snow", [setChange(project, ["site", "albedo"], snowy)])}
      >
        Snow in the months that freeze
      </Act>
    </>
  );
}
