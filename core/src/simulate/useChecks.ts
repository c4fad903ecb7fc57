import { drawsOf, effective, fullHours, modelledArea, rateChecks, readRule, resolve, spaceUses } from "../inputs/index.ts";
import { quantity, type Problem, type Project, type SpaceField } from "../model/index.ts";
import { expandSchedule, signalSpan } from "../use/index.ts";

/** Gains above which a space is likely given in the wrong unit, W/m². */
const MOST_GAIN = 150;
/** Share of what is known for a whole building below which the part modelled is likely a slip. */
const LEAST_SHARE = 0.02;
/** Hours a year above which a flow runs all the time, and below which a space is not always in use. */
const ROUND_THE_CLOCK = 8700;
const IN_USE = 8000;
/** Hours of the night in which lighting is not expected, and its mean share there that is told. */
const NIGHT = [0, 5] as const;
const NIGHT_SHARE = 0.5;

/** What can run but is likely a slip in what happens in the spaces, and what rules, draws and shares of the building cannot do. */
export function useProblems(project: Project): Problem[] {
  const problems: Problem[] = [...resolve(project).problems];
  const warn = (code: string, path: string, message: string): void => {
    problems.push({ code, severity: "warning", stage: "use", path, message });
  };
  for (const rule of project.rules) {
    if (!rule.on || (rule.target !== "face" && rule.target !== "opening")) continue;
    const read = readRule(project, rule);
    if (!read.ok) warn("rule", `rules/${rule.id}`, `Rule "${rule.name}": ${read.fault.message}`);
  }
  const uses = spaceUses(project);
  const nights = new Map<string | null, number>();
  const night = (schedule: string | null): number => {
    const known = nights.get(schedule);
    if (known !== undefined) return known;
    const found = schedule === null ? 1 : nightShare(project, schedule);
    nights.set(schedule, found);
    return found;
  };
  const asked = { headcount: false, lighting: false, appliances: false };
  for (const [id, s] of Object.entries(project.spaces)) {
    const value = (f: SpaceField): number | string | null => effective(project, "space", id, f).value;
    const at = (f: SpaceField): string => `spaces/${id}/inputs/${f}`;
    const use = uses.get(id);
    if (!use) continue;
    asked.headcount ||= value("peopleGiven") === "share of headcount";
    asked.lighting ||= value("lightingGiven") === "share of yearly energy";
    asked.appliances ||= value("applianceGiven") === "share of yearly energy";
    const people = use.people * ((value("peopleSensible") as number) + (value("peopleLatent") as number));
    const equipment = use.appliances.sensible + use.appliances.latent + use.standby.sensible + use.standby.latent;
    const gain = use.area > 0 ? (people + use.lighting + equipment) / use.area : 0;
    if (gain > MOST_GAIN)
      warn(
        "gain",
        `spaces/${id}`,
        `The people, lighting and appliances of ${s.name} give ${quantity(gain, "W/m²", 0)} at full use; check their units, or that they are meant.`,
      );
    const [latent, lost] = [value("applianceLatentShare") as number, value("applianceLostShare") as number];
    if (value("applianceGiven") !== "device list" && latent + lost > 1 + 1e-9)
      warn(
        "shares",
        at("applianceLostShare"),
        `The appliances of ${s.name} give more than all of their power: the latent share and the share that leaves add up to ${quantity(100 * (latent + lost), "%", 0)}. The latent share is cut to what is left.`,
      );
    const scheduled = (f: SpaceField, what: string): void => {
      const schedule = value(f) as string | null;
      if (schedule !== null && fullHours(project, schedule) === 0)
        warn("no-hours", at(f), `The ${what} of ${s.name} is never in use: "${project.schedules[schedule].name}" has no hours.`);
    };
    if (use.people > 0) scheduled("peopleSchedule", "occupancy");
    if (use.lighting > 0) scheduled("lightingSchedule", "lighting");
    if (use.appliances.power > 0) scheduled("applianceSchedule", "equipment");
    const lit = value("lightingSchedule") as string | null;
    if (use.lighting > 0 && lit !== null && night(lit) > NIGHT_SHARE && night(value("peopleSchedule") as string | null) < NIGHT_SHARE)
      warn("lit-at-night", at("lightingSchedule"), `The lighting of ${s.name} is on all night while nobody is there: "${project.schedules[lit].name}".`);
    const air = value("outdoorAirSchedule") as string | null;
    if (
      use.people > 0 &&
      use.outdoorAir.supplied > 0 &&
      fullHours(project, air) > ROUND_THE_CLOCK &&
      fullHours(project, value("conditioningSchedule") as string | null) < IN_USE
    )
      warn("all-hours", at("outdoorAirSchedule"), `The outdoor air of ${s.name} runs day and night, though the space is not always in use.`);
    const limits = (low: SpaceField, high: SpaceField, words: string): void => {
      const [a, b] = [value(low), value(high)];
      if (typeof a === "number" && typeof b === "number" && b <= a && value("windowOpenAbove") !== null)
        warn("window-limit", at(high), `The windows of ${s.name} never open: ${words} ${quantity(a, "°C")} and at most ${quantity(b, "°C")}.`);
    };
    limits("windowOpenAbove", "windowIndoorMost", "inside it must be above");
    limits("windowOutdoorLeast", "windowOutdoorMost", "outdoors it must be at least");
    const heat = signalSpan(project, value("heatingSetpoint"))?.most;
    const opened = value("windowOpenAbove");
    if (heat !== undefined && typeof opened === "number" && opened < heat)
      warn(
        "window-limit",
        at("windowOpenAbove"),
        `The windows of ${s.name} open above ${quantity(opened, "°C")} while it is heated to ${quantity(heat, "°C")}.`,
      );
    if (value("applianceGiven") === "device list" && value("deviceList") === null)
      warn("no-devices", at("deviceList"), `The appliances of ${s.name} come from a device list, but it has none.`);
  }
  const unknown = (field: keyof typeof asked, what: string): void => {
    if (asked[field] && project.known[field] === null) warn("not-known", `known/${field}`, `Spaces ask for their share of ${what}, which is not typed yet.`);
  };
  unknown("headcount", "the building's headcount");
  unknown("lighting", "the building's yearly lighting energy");
  unknown("appliances", "the building's yearly energy of equipment");
  for (const c of rateChecks(project))
    if (c.given < c.asked * (1 - 1e-9) - 1e-9)
      warn(
        "outdoor-air",
        `spaces/${c.space}`,
        `${project.spaces[c.space].name} has ${quantity(1000 * c.given, "L/s", 1)} of outdoor air in its breathing zone; ${c.row.name.toLowerCase()} asks for ${quantity(1000 * c.asked, "L/s", 1)}.`,
      );
  const model = modelledArea(project);
  if (project.known.area !== null && model > project.known.area * (1 + 1e-6))
    warn(
      "part",
      "known/area",
      `The model has ${quantity(model, "m²", 0)} of floor, more than the whole building's ${quantity(project.known.area, "m²", 0)}; all of what is known is spread over it.`,
    );
  for (const draw of drawsOf(project)) {
    const point = project.drawPoints[draw.id];
    if (draw.hours === 0) warn("no-hours", `drawPoints/${draw.id}/schedule`, `"${point.name}" is never drawn: its schedule has no hours.`);
    if (draw.share === null || point.kind !== "known") continue;
    if (point.of === "energy" && draw.energy < point.yearly * draw.share * (1 - 1e-6) - 1e-6)
      warn(
        "no-rise",
        `drawPoints/${draw.id}`,
        `"${point.name}" has heat in a year, but where it is drawn the tap is no warmer than the main, or its schedule has no hours; that part is left out.`,
      );
    const percent = `${Number((100 * draw.share).toPrecision(3))} %`;
    if (draw.share > 1 + 1e-9)
      warn(
        "part",
        `drawPoints/${draw.id}/area`,
        `"${point.name}": ${quantity(draw.modelled, "m²", 0)} modelled are ${percent} of the building's ${quantity(point.area, "m²", 0)}; more than all of it cannot be drawn here.`,
      );
    else if (draw.share < LEAST_SHARE)
      warn("part", `drawPoints/${draw.id}/area`, `"${point.name}": the model is ${percent} of the building it is known for; check both floor areas.`);
  }
  return problems;
}

/** Mean share of a schedule in the small hours of the year. */
function nightShare(project: Project, schedule: string): number {
  const values = expandSchedule(project.schedules[schedule], project.calendar);
  let sum = 0;
  for (let h = 0; h < values.length; h++) if (h % 24 >= NIGHT[0] && h % 24 < NIGHT[1]) sum += values[h];
  return sum / (365 * (NIGHT[1] - NIGHT[0]));
}
