"use client";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { canonicalJson, figuresKept, physicsHash, studyBase, studyTable, type Project, type Study, type StudyRow, type StudyTable } from "@arroyo/core";
import { ask } from "../../live/server.ts";
import type { StudyAnswer, StudyView } from "../../server/studies.ts";
import { useStore } from "../store.ts";

/** A study under way is asked after this often; lists, ms. */
const EVERY = 800;
const LISTED = 2500;

const address = (project: string, study = ""): string =>
  `/api/projects/${encodeURIComponent(project)}/studies${study === "" ? "" : `/${encodeURIComponent(study)}`}`;
export const isUnderWay = (v: Pick<StudyView, "status"> | null): boolean => v?.status === "queued" || v?.status === "running";

/** Studies of a project that were started, and the threads of the runners that are up. */
export function useStudyList(project: string): { readonly views: readonly StudyView[]; readonly threads: number | null } {
  const [list, setList] = useState<{ studies: StudyView[]; threads: number } | null>(null);
  useEffect(() => {
    let on = true;
    const load = async (): Promise<void> => {
      const answer = await ask<{ studies: StudyView[]; threads: number }>(address(project));
      if (on && answer.ok) setList(answer.body);
    };
    void load();
    const timer = setInterval(() => void load(), LISTED);
    return () => {
      on = false;
      clearInterval(timer);
    };
  }, [project]);
  return { views: list?.studies ?? [], threads: list?.threads ?? null };
}

/** A study with all its runs as far as they are made. */
export interface StudyRun {
  readonly view: StudyView | null;
  readonly made: { readonly study: Study; readonly document: Project } | null;
  readonly rows: readonly StudyRow[];
  /** It was asked for, and whether it was ever started. */
  readonly loaded: boolean;
  readonly refusal: string | null;
  start(): Promise<void>;
  turn(to: "pause" | "resume" | "cancel"): Promise<void>;
}

/** Figures in the order in which they are kept today; those of an earlier version by their names. */
function inOrder(rows: readonly StudyRow[], keys: readonly string[], made: NonNullable<StudyRun["made"]>): readonly StudyRow[] {
  const now = figuresKept(made.document, made.study).map((f) => f.key);
  if (now.join("\n") === keys.join("\n")) return rows;
  const places = now.map((k) => keys.indexOf(k));
  return rows.map((r) => ({ ...r, figures: r.figures && places.map((p) => (p < 0 ? null : (r.figures?.[p] ?? null))) }));
}

interface Loaded {
  readonly key: string;
  readonly startedAt: string;
  readonly view: StudyView;
  readonly made: NonNullable<StudyRun["made"]>;
  readonly rows: ReadonlyMap<string, StudyRow>;
  readonly told: number;
}

/** Follows a study while it is under way: everything is read once, then what was told since. */
export function useStudyRun(project: string, study: string): StudyRun {
  const key = `${project}/${study}`;
  const [state, setState] = useState<Loaded | null>(null);
  const [asked, setAsked] = useState("");
  const [refusal, setRefusal] = useState<string | null>(null);
  const held = useRef<Loaded | null>(null);
  const reading = useRef(false);
  const load = useCallback(async (): Promise<void> => {
    if (reading.current) return;
    reading.current = true;
    try {
      for (;;) {
        const before = held.current?.key === key ? held.current : null;
        const answer = await ask<StudyAnswer>(`${address(project, study)}${before ? `?since=${before.told}` : ""}`);
        setAsked(key);
        if (!answer.ok) {
          if (answer.status !== 404) setRefusal(answer.message);
          return;
        }
        const { body } = answer;
        // started anew elsewhere, or here: everything is read again
        if (before && before.startedAt !== body.startedAt) {
          held.current = null;
          continue;
        }
        const made = before?.made ?? body.made;
        if (!made) return;
        const rows = body.rows.length === 0 && before ? before.rows : new Map(before?.rows);
        if (rows instanceof Map) for (const r of inOrder(body.rows, body.keys, made)) rows.set(`${r.index} ${r.year} ${r.check ? 1 : 0}`, r);
        held.current = { key, startedAt: body.startedAt, view: body, made, rows, told: body.told };
        setState(held.current);
        if (!body.more) return;
      }
    } finally {
      reading.current = false;
    }
  }, [project, study, key]);
  const mine = state?.key === key ? state : null;
  const busy = isUnderWay(mine?.view ?? null);
  useEffect(() => {
    void load();
    if (!busy) return;
    const timer = setInterval(() => void load(), EVERY);
    return () => clearInterval(timer);
  }, [load, busy]);
  const rows = mine?.rows;
  const all = useMemo(() => [...(rows?.values() ?? [])], [rows]);
  return {
    view: mine?.view ?? null,
    made: mine?.made ?? null,
    rows: all,
    loaded: asked === key,
    refusal,
    async start() {
      setRefusal(null);
      await useStore.getState().flush();
      const { saved, revision } = useStore.getState();
      if (saved.state !== "saved") return setRefusal("The last edits are not saved yet, so the study would be of an older state. Nothing was started.");
      const answer = await ask<StudyView>(`${address(project, study)}?revision=${revision}`, { method: "POST" });
      if (!answer.ok) return setRefusal(answer.message);
      held.current = null;
      await load();
    },
    async turn(to) {
      const answer = await ask<StudyView>(`${address(project, study)}/${to}`, { method: "POST" });
      if (!answer.ok) setRefusal(answer.message);
      await load();
    },
  };
}

/** A study as it was run, with the costs of its levels as they are typed now: they need no run. */
function withCosts(made: Study, now: Study | undefined): Study {
  if (!now) return made;
  return {
    ...made,
    judge: now.years.join() === made.years.join() ? now.judge : made.judge,
    axes: made.axes.map((a) => {
      const axis = now.axes.find((x) => x.id === a.id);
      return {
        ...a,
        levels: a.levels.map((l) => {
          const { investment: _was, ...level } = l;
          const investment = axis?.levels.find((x) => x.id === l.id)?.investment;
          return investment === undefined ? level : { ...level, investment };
        }),
      };
    }),
  };
}

/** The runs of a study by columns, and the study they are of. */
export function useStudyTable(run: StudyRun, now: Study | undefined, judge: string | null): { readonly table: StudyTable; readonly study: Study } | null {
  const { made, rows } = run;
  const study = useMemo(() => made && withCosts(made.study, now), [made, now]);
  return useMemo(() => (made && study ? { study, table: studyTable(made.document, study, rows, judge ?? study.judge) } : null), [made, study, rows, judge]);
}

/** What of a study its runs follow from. */
const asRun = ({ name: _name, note: _note, judge: _judge, axes, ...how }: Study): string =>
  canonicalJson({
    ...how,
    axes: axes.map(({ name: _axis, levels, ...axis }) => ({ ...axis, levels: levels.map(({ name: _level, investment: _cost, ...level }) => level) })),
  });

/** What changed since a study was run; null: nothing. */
export function changedSince(document: Project, now: Study | undefined, made: StudyRun["made"]): string | null {
  if (!made || !now) return null;
  if (asRun(now) !== asRun(made.study)) return "The study was changed since it was run.";
  if (now.base !== null && !Object.hasOwn(document.options, now.base)) return "The option it stands on is gone.";
  const then = studyBase(made.document, made.study);
  return physicsHash(studyBase(document, now)) === physicsHash(then) ? null : "The base was changed since it was run.";
}
