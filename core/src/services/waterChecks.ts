import { quantity, settingOf, zonesOfWater, type Problem, type Project } from "../model/index.ts";
import { expandSchedule, signalSpan } from "../use/index.ts";

/** What can run but makes no hot water, or less than it seems. */
export function waterProblems(project: Project): Problem[] {
  const problems: Problem[] = [];
  const warn = (code: string, path: string, message: string, stage: Problem["stage"] = "services", fix?: Problem["fix"]): void =>
    void problems.push({ code, severity: "warning", stage, path, message, ...(fix ? { fix } : {}) });
  for (const [id, x] of Object.entries(project.waterSystems)) {
    const path = `waterSystems/${id}`;
    if (!x.parts.some((p) => p.kind === "waterHeater"))
      warn("no-heater", path, `${x.name} has no heater: what the sun does not warm is drawn cold.`, "services", {
        label: "Add a gas heater",
        changes: [{ op: "insert", path: ["waterSystems", id, "parts", "heater"], value: { id: "heater", kind: "waterHeater", inputs: {} } }],
      });
    if (zonesOfWater(project, id).length === 0) warn("serves-nothing", path, `${x.name} serves no zone: other systems make the hot water of all of them.`);
    const collectors = x.parts.find((p) => p.kind === "solarCollector");
    if (collectors && settingOf("waterSystem", x.inputs, "store") === "none")
      warn("no-store", `${path}/inputs/store`, `${x.name} has solar collectors and no store; they do nothing.`);
    const kept = signalSpan(project, settingOf("waterSystem", x.inputs, "supplyTemperature"));
    const tap = settingOf("waterSystem", x.inputs, "tapTemperature") as number;
    if (kept && kept.mean < tap)
      warn(
        "cold-store",
        `${path}/inputs/supplyTemperature`,
        `${x.name} is kept at ${quantity(kept.mean, "°C")} and ${quantity(tap, "°C")} is wanted at its taps.`,
      );
  }
  for (const [id, d] of Object.entries(project.drawPoints)) {
    if (d.kind !== "taps") continue;
    if (d.taps.length === 0) warn("no-taps", `drawPoints/${id}/taps`, `"${d.name}" has no taps yet; nothing is drawn.`, "use");
    else if (d.schedule === null || expandSchedule(project.schedules[d.schedule], project.calendar).every((v) => v > 0))
      warn("never-stops", `drawPoints/${id}/schedule`, `"${d.name}" is drawn in every hour of the year; give it a schedule of when its taps run.`, "use");
  }
  return problems;
}
