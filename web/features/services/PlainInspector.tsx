"use client";
import { effectiveServices, fuels, setChange, type Project } from "@arroyo/core";
import { Act, Head, OriginMark, Quantity, Row, SelectInput, Unit } from "../../ui/fields.tsx";
import { Inspector } from "../../ui/Panes.tsx";
import { useStore } from "../store.ts";

/** Plain services: efficiencies that turn the loads of their zones into fuel. */
export function PlainInspector({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const s = project.services[id];
  const zonesOf = (key: string): string[] =>
    Object.keys(project.zones).filter((z) => effectiveServices(project, z).id === key && (project.zones[z].equipment ?? []).length === 0);
  /** @param unit of the document and @param shown as it is customarily shown; words after a share or a ratio stand beside it */
  const number = (label: string, path: string[], value: number, unit: string, shown = unit, digits = 2, help = "", beside = "") => (
    <Row label={label} title={help}>
      <Quantity
        label={label}
        value={value}
        unit={unit}
        shown={shown}
        digits={digits}
        help={help}
        onCommit={(v) => edit(`${s.name}: ${label} ${Number(v.toPrecision(4))}`, [setChange(project, ["services", id, ...path], v)])}
      />
      {beside && <Unit>{beside}</Unit>}
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
    <Inspector
      title={s.name}
      about={`plain services · heats and cools ${zonesOf(id).length} zone${zonesOf(id).length === 1 ? "" : "s"}${id === project.defaults.services ? " · the project’s" : ""}`}
    >
      <Head>Heating</Head>
      {fuel("Heating fuel", ["heating", "fuel"], s.heating.fuel)}
      {number(
        "Efficiency or COP",
        ["heating", "efficiency"],
        s.heating.efficiency,
        "1",
        "1",
        2,
        "Efficiency of a boiler, or the seasonal COP of a heat pump: heat delivered over energy used",
      )}
      {number("Pumps, heating", ["pumpShareHeating"], s.pumpShareHeating, "1", "%", 1, "Electricity of pumps over heat delivered", "of heating")}
      <Head>Cooling</Head>
      {fuel("Cooling fuel", ["cooling", "fuel"], s.cooling.fuel)}
      {number("COP", ["cooling", "efficiency"], s.cooling.efficiency, "1", "1", 2, "Seasonal COP: heat removed over energy used")}
      {number("Pumps, cooling", ["pumpShareCooling"], s.pumpShareCooling, "1", "%", 1, "Electricity of pumps over heat removed", "of cooling")}
      <Head>Air</Head>
      {number("Fan power", ["fanPower"], s.fanPower, "W per m³/s", "W per L/s", 2)}
      {number("Sensible recovery", ["heatRecovery", "sensible"], s.heatRecovery.sensible, "1", "%", 0)}
      {number("Latent recovery", ["heatRecovery", "latent"], s.heatRecovery.latent, "1", "%", 0)}
      <Row label="Frost limit of the exhaust" title="Recovery is held back so that the exhaust air is not cooled below this">
        {typeof s.heatRecovery.frostLimit === "number" ? (
          <>
            <Quantity
              label="Frost limit of the exhaust"
              value={s.heatRecovery.frostLimit}
              unit="°C"
              digits={0}
              onCommit={(v) => edit(`${s.name}: frost limit`, [setChange(project, ["services", id, "heatRecovery", "frostLimit"], v)])}
            />
            <Act
              title="No frost limit"
              onClick={() => edit(`${s.name}: no frost limit`, [setChange(project, ["services", id, "heatRecovery", "frostLimit"], null)])}
            >
              ×
            </Act>
          </>
        ) : (
          <Act title="Set one" onClick={() => edit(`${s.name}: frost limit`, [setChange(project, ["services", id, "heatRecovery", "frostLimit"], 2)])}>
            none
          </Act>
        )}
      </Row>
      <Head>Hot water</Head>
      {fuel("Hot-water fuel", ["hotWater", "fuel"], s.hotWater.fuel)}
      {number("Efficiency, hot water", ["hotWater", "efficiency"], s.hotWater.efficiency, "1", "1", 2, "Heat in the water drawn over energy used")}
      {number("At the tap", ["hotWater", "deliveryTemperature"], s.hotWater.deliveryTemperature, "°C", "°C", 0)}
      {number("Cold water main", ["hotWater", "mainsTemperature"], s.hotWater.mainsTemperature, "°C", "°C", 0)}
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
  );
}
