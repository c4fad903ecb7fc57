"use client";
import { Box, Text } from "@chakra-ui/react";
import { useRouter, useSearchParams } from "next/navigation";
import { effectiveServices, fuels, setChange, type Project } from "@arroyo/core";
import { firstMessage, Head, NumberInput, OriginMark, Row, SelectInput, Unit } from "../../ui/fields.tsx";
import { figure, unitOf } from "../../ui/format.ts";
import { Grid, Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { tally, useLiveFigures, useStore } from "../store.ts";
import { SizingTable } from "./Sizing.tsx";

/** Plain services: what turns the loads of each zone into fuel. */
export function Services() {
  const project = useStore((s) => s.project) as Project;
  const selection = useStore((s) => s.selection);
  const select = useStore((s) => s.select);
  const edit = useStore((s) => s.edit);
  const query = useSearchParams();
  const view = query.get("view") === "peaks" ? "peaks" : "services";
  const router = useRouter();
  const setView = (v: "peaks" | "services"): void => {
    const next = new URLSearchParams(window.location.search);
    next.set("view", v);
    router.replace(`${window.location.pathname}?${next.toString()}`);
  };
  const id = selection.find((s) => s.kind === "services" && project.services[s.id])?.id ?? project.defaults.services;
  const s = project.services[id];
  const zonesOf = (key: string): string[] => Object.keys(project.zones).filter((z) => effectiveServices(project, z).id === key);
  const number = (label: string, path: string[], value: number, unit: string, factor = 1, digits = 2, help = "") => (
    <Row label={label} title={help}>
      <NumberInput
        label={label}
        value={value * factor}
        digits={digits}
        onCommit={(v) => firstMessage(edit(`${s.name}: ${label} ${v}`, [setChange(project, ["services", id, ...path], v / factor)]), factor)}
      />
      <Unit>{unit}</Unit>
    </Row>
  );
  const fuel = (label: string, path: string[], value: string) => (
    <Row label={label}>
      <SelectInput
        label={label}
        value={value}
        options={fuels.map((f) => ({ value: f, label: f }))}
        onChange={(v) => edit(`${s.name}: ${label} ${v}`, [setChange(project, ["services", id, ...path], v)])}
      />
    </Row>
  );
  return (
    <>
      <Side label="Services" width="196px">
        <SideHead>Read</SideHead>
        <SideItem active={view === "services"} onClick={() => setView("services")}>
          Zones and services
        </SideItem>
        <SideItem active={view === "peaks"} onClick={() => setView("peaks")}>
          Peaks of design days
        </SideItem>
        <SideHead>Plain services</SideHead>
        {Object.entries(project.services).map(([key, x]) => (
          <SideItem
            key={key}
            active={key === id}
            value={`${zonesOf(key).length} zone${zonesOf(key).length === 1 ? "" : "s"}`}
            onClick={() => select([{ kind: "services", id: key }])}
          >
            {x.name}
          </SideItem>
        ))}
      </Side>
      <Middle label="Zones and their services">{view === "peaks" ? <SizingTable /> : <ZoneServices />}</Middle>
      <Inspector
        title={s.name}
        about={`plain services · ${zonesOf(id).length} zone${zonesOf(id).length === 1 ? "" : "s"}${id === project.defaults.services ? " · the project’s" : ""}`}
      >
        <Head>Heating</Head>
        {fuel("Heating fuel", ["heating", "fuel"], s.heating.fuel)}
        {number(
          "Heat per fuel",
          ["heating", "efficiency"],
          s.heating.efficiency,
          "kWh/kWh",
          1,
          2,
          "Efficiency of a boiler, or the seasonal COP of a heat pump",
        )}
        {number("Pumps, heating", ["pumpShareHeating"], s.pumpShareHeating, "% of heat", 100, 1)}
        <Head>Cooling</Head>
        {fuel("Cooling fuel", ["cooling", "fuel"], s.cooling.fuel)}
        {number("Cold per fuel", ["cooling", "efficiency"], s.cooling.efficiency, "kWh/kWh")}
        {number("Pumps, cooling", ["pumpShareCooling"], s.pumpShareCooling, "% of cold", 100, 1)}
        <Head>Air</Head>
        {number("Fan power", ["fanPower"], s.fanPower, "W per L/s", 0.001, 2)}
        {number("Sensible recovery", ["heatRecovery", "sensible"], s.heatRecovery.sensible, "%", 100, 0)}
        {number("Latent recovery", ["heatRecovery", "latent"], s.heatRecovery.latent, "%", 100, 0)}
        <Head>Hot water</Head>
        {fuel("Hot-water fuel", ["hotWater", "fuel"], s.hotWater.fuel)}
        {number("Heat per fuel, hot water", ["hotWater", "efficiency"], s.hotWater.efficiency, "kWh/kWh")}
        {number("At the tap", ["hotWater", "deliveryTemperature"], s.hotWater.deliveryTemperature, "°C", 1, 0)}
        {number("Cold main", ["hotWater", "mainsTemperature"], s.hotWater.mainsTemperature, "°C", 1, 0)}
        <Box mt="3">
          <Head>Prices and factors</Head>
          {fuels.map((f) => (
            <Row key={f} label={f}>
              <NumberInput
                label={`Price of ${f}`}
                width="54px"
                value={project.prices.perKWh[f]}
                digits={3}
                onCommit={(v) => firstMessage(edit(`Price of ${f}`, [setChange(project, ["prices", "perKWh", f], v)]))}
              />
              <Unit>{project.prices.currency}/kWh</Unit>
              <NumberInput
                label={`Carbon of ${f}`}
                width="46px"
                value={project.factors.carbon[f]}
                digits={2}
                onCommit={(v) => firstMessage(edit(`Carbon of ${f}`, [setChange(project, ["factors", "carbon", f], v)]))}
              />
              <Unit>kg/kWh</Unit>
            </Row>
          ))}
        </Box>
        <Row label="Project uses">
          <OriginMark origin={{ kind: "project" }} />
          <SelectInput
            label="The project’s services"
            value={project.defaults.services}
            options={Object.entries(project.services).map(([key, x]) => ({ value: key, label: x.name }))}
            onChange={(v) => edit("The project’s services", [setChange(project, ["defaults", "services"], v)])}
          />
        </Row>
      </Inspector>
    </>
  );
}

/** Which services meet the loads of each zone. */
function ZoneServices() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const live = useLiveFigures();
  const { summary } = tally(live);
  return (
    <>
      <Text as="h2" textStyle="title">
        Zones and their services
      </Text>
      <Text color="ink2" mb="2">
        Loads of the year as it is now, and the services that meet them.
      </Text>
      <Grid
        label="Zones and their services"
        head={[
          { text: "Zone", left: true },
          { text: "Services" },
          { text: "Heat", unit: unitOf("kWh/a", summary) },
          { text: "Cold", unit: unitOf("kWh/a", summary) },
          { text: "Peak heat", unit: "kW" },
          { text: "Peak cold", unit: "kW" },
        ]}
        rows={Object.entries(project.zones).map(([z, zone]) => {
          const row = summary?.zones.find((x) => x.id === z);
          return {
            key: z,
            cells: [
              zone.name,
              <SelectInput
                key="s"
                label={`Services of ${zone.name}`}
                width="200px"
                value={zone.services ?? ""}
                options={[
                  { value: "", label: `↑ ${project.services[project.defaults.services].name}` },
                  ...Object.entries(project.services).map(([key, x]) => ({ value: key, label: x.name })),
                ]}
                onChange={(v) => edit(`Services of ${zone.name}`, [setChange(project, ["zones", z, "services"], v === "" ? null : v)])}
              />,
              figure(row?.heating, 0),
              figure(row?.cooling, 0),
              figure(row ? row.peakHeating / 1000 : null),
              figure(row ? row.peakCooling / 1000 : null),
            ],
          };
        })}
      />
    </>
  );
}
