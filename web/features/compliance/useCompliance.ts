"use client";
import { useMemo } from "react";
import {
  complianceInput,
  packsOf,
  physicsHash,
  setChange,
  submissionOf,
  withAttested,
  type Change,
  type ComplianceInput,
  type Pack,
  type Project,
  type Submission,
  type TradeOff,
} from "@arroyo/core";
import type { ComplianceAnswer, ToCompliance } from "../../live/compliance.ts";
import { useFound, type Found } from "../../live/useFound.ts";
import { firstMessage } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";

const worker = (): Worker => new Worker(new URL("../../live/compliance.ts", import.meta.url), { type: "module" });

/** What the figures of a result depend on: not what a person attests, excepts or signs. */
function contentOf(project: Project, input: ComplianceInput): string {
  const { attested: _a, exceptions: _e, receipts: _r, signed: _s, ...asked } = input;
  const own = project.packs && Object.hasOwn(project.packs, input.pack) ? project.packs[input.pack] : null;
  return `${physicsHash(project)} ${JSON.stringify([asked, own, project.prices, project.factors])}`;
}

/** The compliance result of a project, computed again after every edit: first its rows and its reference building, then by the hour, then whole. */
export function useCompliance(project: Project | null, over: Partial<ComplianceInput> = {}): Found<ComplianceAnswer> {
  const key = project ? `${contentOf(project, { ...complianceInput(project), ...over })} result` : "";
  const found = useFound<ComplianceAnswer>(key, project, worker, (stored): ToCompliance => ({
    project: project as Project,
    stored,
    over,
    ask: "result",
  }));
  const answer = found.result;
  // the hash of a whole document is not found at every drawing
  const result = useMemo(() => (answer && project ? { ...answer, result: withAttested(answer.result, project) } : null), [answer, project]);
  return { ...found, result };
}

/** What each part of a design wins and loses; asked only where it is shown. */
export const useTradeOff = (project: Project): Found<readonly TradeOff[]> =>
  useFound<readonly TradeOff[]>(`${contentOf(project, complianceInput(project))} trade-off`, project, worker, (stored): ToCompliance => ({
    project,
    stored,
    over: {},
    ask: "trade-off",
  }));

export interface Submitting {
  readonly input: ComplianceInput;
  readonly pack: Pack;
  /** Changes what is submitted as one step; the sentence that refuses it, or null. */
  set(name: string, part: Partial<ComplianceInput>): string | null;
}

/** What a change of the submission comes to in the document. */
export const inputChange = (project: Project, part: Partial<ComplianceInput>): Change => {
  const next = { ...complianceInput(project), ...part };
  return setChange(project, ["compliance"], Object.fromEntries(Object.entries(next).filter(([, v]) => v !== undefined)));
};

/** The submission of the project that is open, and a way to change it. */
export function useSubmitting(): Submitting {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const input = complianceInput(project);
  const all = packsOf(project);
  return {
    input,
    pack: all[input.pack] ?? all.plateau,
    set: (name, part) => firstMessage(edit(name, [inputChange(project, part)])),
  };
}

/** The submission in the climate zone that a result was found for; null where it cannot be told. */
export function submissionIn(project: Project, zone: string): Submission | null {
  const outcome = submissionOf(project, null, { climateZone: zone });
  return outcome.ok ? outcome.submission : null;
}
