/// <reference lib="webworker" />
import {
  complianceOf,
  projectWeather,
  ratedYear,
  referenceBuilding,
  sizedReference,
  submissionOf,
  tradeOff,
  turned,
  turnsOf,
  yearInView,
  type Compliance,
  type ComplianceInput,
  type Project,
  type RatedYear,
  type Summary,
  type TradeOff,
  type StoredYear,
} from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import type { Reply } from "./useFound.ts";

export interface ToCompliance {
  readonly project: Project;
  readonly stored: StoredYear;
  /** What is asked for in place of what the document says. */
  readonly over: Partial<ComplianceInput>;
  /** Ask for the years, or for the trade-off between parts. */
  readonly ask: "result" | "trade-off";
}
/** How far a result is: no year run yet; by the hour and one orientation; whole. */
export type ComplianceStage = "rules" | "estimate" | "exact";
export interface ComplianceAnswer {
  readonly stage: ComplianceStage;
  readonly result: Compliance;
  /** Of the reference building as it stands. */
  readonly reference: Summary | null;
  /** The reference building itself; its values that depend on sizes are there once a year is run. */
  readonly building: Project;
}
export type FromCompliance = Reply<ComplianceAnswer> | Reply<readonly TradeOff[]>;

installWebAssembly();
const scope = self as unknown as DedicatedWorkerGlobalScope;

scope.onmessage = (event: MessageEvent<ToCompliance>) => {
  const { project, stored, over, ask } = event.data;
  const reply = (message: FromCompliance): void => scope.postMessage(message);
  try {
    const weather = projectWeather(project, stored);
    const outcome = submissionOf(project, weather, over);
    if (!outcome.ok) return reply({ ok: false, message: outcome.message });
    const { submission: s } = outcome;
    if (ask === "result") {
      const early = referenceBuilding(project, s);
      reply({ ok: true, result: { stage: "rules", result: complianceOf(project, s, early, null), reference: null, building: early.project } });
    }
    if (!weather) return reply({ ok: false, message: `The weather year "${yearInView(project).name}" is not at hand, so that no year can be run.` });
    const hourly = { stepsPerHour: 1 };
    if (ask === "trade-off") {
      const { project: made } = sizedReference(project, weather, s);
      const [design, reference] = [ratedYear(project, weather, s, hourly), ratedYear(made, weather, s, hourly)];
      return reply({ ok: true, result: tradeOff(project, weather, s, design.total, reference.total, 1) });
    }
    const reference = sizedReference(project, weather, s);
    const say = (stage: ComplianceStage, proposed: RatedYear, years: readonly { turn: number; year: RatedYear }[]): void =>
      reply({
        ok: true,
        result: {
          stage,
          result: complianceOf(project, s, reference, { proposed, reference: years }),
          reference: years[0].year.summary,
          building: reference.project,
        },
      });
    say("estimate", ratedYear(project, weather, s, hourly), [{ turn: 0, year: ratedYear(reference.project, weather, s, hourly) }]);
    const exact = { stepsPerHour: project.run.stepsPerHour };
    const proposed = ratedYear(project, weather, s, exact);
    const years = turnsOf(s.pack).map((turn) => ({ turn, year: ratedYear(turned(reference.project, turn), weather, s, exact) }));
    say("exact", proposed, years);
  } catch (error) {
    reply({ ok: false, message: error instanceof Error ? error.message : String(error) });
  }
};
