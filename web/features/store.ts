import { useMemo } from "react";
import { create } from "zustand";
import { useShallow } from "zustand/react/shallow";
import {
  applyChanges,
  ofAllOptions,
  priced,
  pricedLike,
  samePhysics,
  storedHash,
  checkProject,
  NOTHING_STORED,
  implausible,
  parseProject,
  placeProblems,
  readWeatherCsv,
  recordChanges,
  viewOf,
  type Change,
  type Edit,
  type Outlier,
  type Problem,
  type Project,
  type RunResult,
  type StoredYear,
  type Summary,
  type WeatherYear,
} from "@arroyo/core";
import type { FromLive, ToLive, WeatherGlance } from "../live/messages.ts";
import { drivingHashes, fetchLogged } from "../live/logged.ts";
import type { SaveQueue, SaveState } from "../live/saveQueue.ts";
import { fetchPins, sendPins, type Pin } from "../live/pins.ts";
import { fetchProject, openQueue, setAsideCopy, type OpenedProject } from "../live/saves.ts";

export interface Selection {
  readonly kind:
    | "space"
    | "wall"
    | "storey"
    | "roof"
    | "shade"
    | "opening"
    | "airPath"
    | "assembly"
    | "glazing"
    | "material"
    | "kit"
    | "spaceType"
    | "schedule"
    | "reset"
    | "deviceList"
    | "drawPoint"
    | "siteLight"
    | "rule"
    | "services"
    | "airSystem"
    | "loop"
    | "component"
    | "zone";
  readonly id: string;
}
interface Step {
  readonly edit: Edit;
  readonly inverse: readonly Change[];
}

export interface Live {
  /** Version of the document the worker has been told of. */
  readonly version: number;
  readonly estimate: Summary | null;
  /** Exact result; current when `exactVersion` is `version`. */
  readonly exact: RunResult | null;
  readonly exactVersion: number;
  readonly estimateVersion: number;
  readonly progress: { readonly exact: boolean; readonly share: number } | null;
  readonly seconds: number | null;
  readonly message: string | null;
  readonly weather: WeatherGlance | null;
}

interface State {
  /** The base with its options: what is saved. */
  readonly document: Project | null;
  /** The document as the option in view shows it: what every screen reads. */
  readonly project: Project | null;
  /** The option in view; null: the base. */
  readonly option: string | null;
  look(option: string | null): void;
  readonly revision: number;
  readonly saved: SaveState;
  readonly savedAt: Date | null;
  readonly undone: readonly Step[];
  readonly done: readonly Step[];
  readonly selection: readonly Selection[];
  readonly live: Live;
  readonly pins: readonly Pin[];
  /** Whether the server has the pins as they are here. */
  readonly pinsKept: boolean;
  readonly loadError: string | null;
  open(id: string): Promise<void>;
  close(): void;
  /** Applies an edit; returns the problems that refuse it, or nothing. */
  edit(name: string, changes: readonly Change[]): readonly Problem[];
  undo(): void;
  redo(): void;
  select(selection: readonly Selection[]): void;
  pin(): void;
  unpin(): void;
  flush(): Promise<void>;
  /** Asks the server again at once after a failure. */
  saveAgain(): void;
  /** Stores the document as a project of its own; answers its id, or why not. */
  keepMineAsCopy(): Promise<{ readonly id: string } | { readonly message: string }>;
  /** Gives up what is not saved, for the saved state. */
  takeTheirs(): Promise<void>;
  /** Saves what was refused on top of what is saved, where it still fits; answers why not. */
  saveOnTop(): Promise<string | null>;
}

const idle: Live = {
  version: 0,
  estimate: null,
  exact: null,
  exactVersion: -1,
  estimateVersion: -1,
  progress: null,
  seconds: null,
  message: null,
  weather: null,
};
/** No project is open. */
const NOTHING = {
  document: null,
  project: null,
  option: null,
  revision: 0,
  saved: { state: "saved" },
  savedAt: null,
  undone: [],
  done: [],
  selection: [],
  live: idle,
  pins: [],
  pinsKept: true,
  loadError: null,
} satisfies Partial<State>;
const MAX_PINS = 8;
/** Longest time the next project waits for the saves of the one before, ms; they go on behind it. */
const DRAIN = 4000;
/** Longest name of an edit. */
const NAME_MOST = 200;
const clipped = (name: string): string => (name.length > NAME_MOST ? `${name.slice(0, NAME_MOST - 1)}…` : name);

let worker: Worker | null = null;
let queue: SaveQueue | null = null;
/** Raised with every project opened, so that an answer that comes late is not taken for the next one's. */
let opening = 0;
/** The saves of the project left last. */
let leaving: Promise<unknown> = Promise.resolve();

/** What a project's year stands on besides its document: the stored year it follows from, and readings of points that drive inputs; without what is not to be had. */
export async function fetchStored(project: Project, year = project.weather): Promise<StoredYear> {
  const hash = storedHash(project, year);
  const [weather, logged] = await Promise.all([hash === null ? null : fetchYear(hash), fetchLogged(drivingHashes(project))]);
  return { weather, logged };
}
async function fetchYear(hash: string): Promise<WeatherYear | null> {
  const response = await fetch(`/api/weather/${hash}`);
  const outcome = response.ok ? readWeatherCsv(await response.text()) : null;
  return outcome?.ok ? outcome.weather : null;
}
/** Names of what a project's year stands on besides its document. */
const storedNames = (project: Project): string[] => [...[storedHash(project)].filter((h) => h !== null), ...drivingHashes(project)];

export const useStore = create<State>()((set, get) => {
  const tell = (message: ToLive): void => worker?.postMessage(message);

  /** An estimate whose hours are not known: priced as the last exact year is. */
  const estimated = (summary: Summary): Summary => {
    const { live, project } = get();
    const bill = live.exact?.summary.energy.bill;
    if (!bill || !project) return summary;
    return { ...summary, energy: { ...summary.energy, ...pricedLike(summary.energy, bill, project), bill } };
  };
  /** The figures at hand under the prices and factors the project has now. */
  const repriced = (live: Live, project: Project): Live => {
    const exact = live.exact && { ...live.exact, summary: priced(live.exact.summary, live.exact.fuel, project) };
    const bill = exact?.summary.energy.bill;
    const estimate =
      live.estimate && bill ? { ...live.estimate, energy: { ...live.estimate.energy, ...pricedLike(live.estimate.energy, bill, project) } } : live.estimate;
    return { ...live, exact, estimate };
  };

  const hear = (message: FromLive): void => {
    const { live } = get();
    if (message.version !== live.version) return;
    switch (message.kind) {
      case "weather":
        return set({ live: { ...live, weather: message.glance } });
      case "progress":
        return set({ live: { ...live, progress: { exact: message.exact, share: message.share } } });
      case "result": {
        const { project } = get();
        const { result } = message;
        // a year kept from before may have been made under other prices
        const summary = project ? priced(result.summary, result.fuel, project) : result.summary;
        return set({
          live: message.exact
            ? { ...live, exact: { ...result, summary }, exactVersion: message.version, progress: null, seconds: message.seconds, message: null }
            : { ...live, estimate: summary, estimateVersion: message.version, message: null },
        });
      }
      case "glimpse":
        return set({ live: { ...live, estimate: estimated(message.summary), estimateVersion: message.version, message: null } });
      case "blocked":
        return set({ live: { ...live, progress: null, message: `The year cannot run: ${message.problems[0].message}` } });
      case "failed":
        return set({ live: { ...live, progress: null, message: message.message } });
    }
  };

  /** Stored years and readings the worker has, by their content. */
  let sentYears = new Set<string>();
  /** The worker waits for a stored year: what it has is older than the document. */
  let behind = false;
  /** Has the worker open a document, with the stored year it follows from where it has that not yet. */
  const tellOpen = async (project: Project, version: number): Promise<void> => {
    const names = storedNames(project);
    const to = worker;
    behind = true;
    const stored = names.every((n) => sentYears.has(n)) ? NOTHING_STORED : await fetchStored(project);
    // another edit or project may have come while the year was fetched
    if (worker !== to || get().live.version !== version) return;
    const hash = storedHash(project);
    if (hash !== null && stored.weather) sentYears.add(hash);
    for (const name of Object.keys(stored.logged)) sentYears.add(name);
    behind = false;
    tell({ kind: "open", project, stored, version });
  };

  const startWorker = async (project: Project): Promise<void> => {
    worker?.terminate();
    worker = new Worker(new URL("../live/worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = (e: MessageEvent<FromLive>) => hear(e.data);
    worker.onerror = (e) => set({ live: { ...get().live, progress: null, message: `The live year stopped: ${e.message}` } });
    sentYears = new Set();
    set({ live: idle });
    await tellOpen(project, get().live.version);
  };

  /** Puts a changed document in place and tells the worker and the saver; `seen` are the same changes for the view, where they fit it. */
  const adopt = (document: Project, edit: Edit, seen: readonly Change[] | null): void => {
    const before = get();
    const option = before.option !== null && Object.hasOwn(document.options, before.option) ? before.option : null;
    const project = viewOf(document, option).project;
    queue?.push(edit);
    if (before.project && samePhysics(before.project, project)) {
      const asBefore = before.project.prices === project.prices && before.project.factors === project.factors;
      return set({ document, project, option, ...(asBefore ? {} : { live: repriced(before.live, project) }) });
    }
    const version = before.live.version + 1;
    set({ document, project, option, live: { ...before.live, version, progress: { exact: false, share: 0 } } });
    if (behind || !storedNames(project).every((n) => sentYears.has(n))) void tellOpen(project, version);
    else if (seen && seen.every((c) => c.path[0] !== "options")) tell({ kind: "changes", changes: seen, version });
    else void tellOpen(project, version);
  };

  /** Shows a project as it was opened, with its queue. */
  const show = (opened: OpenedProject): void => {
    queue = opened.queue;
    queue.onState = (saved, revision, savedAt) => set({ saved, revision, ...(savedAt ? { savedAt } : {}) });
    set({
      document: opened.document,
      project: opened.document,
      option: null,
      revision: queue.revision,
      saved: queue.current,
      loadError: null,
      pins: [],
      pinsKept: true,
      done: [],
      undone: [],
      selection: [],
    });
    void loadPins(opened.document.id);
  };

  /** Shows a list of pins and has the server keep it. */
  const keep = (project: string, pins: readonly Pin[]): void => {
    set({ pins, pinsKept: true });
    void sendPins(project, pins).then((kept) => {
      if (get().pins === pins) set({ pinsKept: kept });
    });
  };
  /** Takes over the pins the server has of the project that is shown, unless one was set meanwhile. */
  const loadPins = async (project: string): Promise<void> => {
    const shown = get().pins;
    const found = await fetchPins(project);
    if (found && get().document?.id === project && get().pins === shown) set({ pins: found });
  };

  return {
    ...NOTHING,

    async open(id) {
      if (get().document?.id === id) return;
      get().close();
      const mine = ++opening;
      await leaving;
      try {
        const opened = await openQueue(id);
        if (mine !== opening) return;
        if (!opened.ok) return set({ loadError: opened.message });
        show(opened);
        await startWorker(opened.document);
      } catch {
        if (mine === opening) set({ loadError: "The server does not answer. Check that Arroyo is still running, then reload." });
      }
    },

    close() {
      opening++;
      if (queue) {
        queue.onState = null;
        leaving = queue.drain(DRAIN);
      }
      queue = null;
      worker?.terminate();
      worker = null;
      set(NOTHING);
    },

    look(option) {
      const { document, live } = get();
      if (!document || (option !== null && !Object.hasOwn(document.options, option))) return;
      const project = viewOf(document, option).project;
      const version = live.version + 1;
      set({ option, project, live: { ...live, version, progress: { exact: false, share: 0 }, message: null } });
      void tellOpen(project, version);
    },

    edit(name, changes) {
      const { document, project, option, done } = get();
      if (!document || !project) return [];
      // the weather years, and what is kept for reading results and for studies, belong to the document and all its options, as the options themselves do
      const ofOptions = changes.some((c) => c.path[0] === "options") || ofAllOptions(changes);
      const seen = applyChanges(ofOptions ? document : project, changes);
      if (!seen.ok) return [{ code: "stale", severity: "error", path: seen.stale.path.join("/"), message: seen.message, stage: "form" }];
      const parsed = parseProject(seen.project);
      if (!parsed.ok) return parsed.problems;
      const recorded = option !== null && !ofOptions ? recordChanges(document, option, changes) : changes;
      const applied = applyChanges(document, recorded);
      if (!applied.ok) return [{ code: "stale", severity: "error", path: applied.stale.path.join("/"), message: applied.message, stage: "form" }];
      const edit = { name: clipped(name), changes: recorded };
      set({ done: [...done, { edit, inverse: applied.inverse }], undone: [] });
      adopt(applied.project, edit, option === null || !ofOptions ? changes : null);
      return [];
    },

    undo() {
      const { document, option, done, undone } = get();
      const step = done[done.length - 1];
      if (!document || !step) return;
      const back = applyChanges(document, step.inverse);
      if (!back.ok) return;
      set({ done: done.slice(0, -1), undone: [...undone, step] });
      adopt(back.project, { name: clipped(`Undo: ${step.edit.name}`), changes: step.inverse }, option === null ? step.inverse : null);
    },

    redo() {
      const { document, option, done, undone } = get();
      const step = undone[undone.length - 1];
      if (!document || !step) return;
      const again = applyChanges(document, step.edit.changes);
      if (!again.ok) return;
      set({ undone: undone.slice(0, -1), done: [...done, step] });
      adopt(again.project, step.edit, option === null ? step.edit.changes : null);
    },

    select(selection) {
      set({ selection });
    },

    pin() {
      const { live, pins, project } = get();
      if (!project || !live.exact || live.exactVersion !== live.version) return;
      const name = pins.length === 0 ? "start" : `pin ${pins.length + 1}`;
      keep(project.id, [...pins, { name, summary: live.exact.summary }].slice(-MAX_PINS));
    },

    unpin() {
      const { pins, project } = get();
      if (project) keep(project.id, pins.slice(0, -1));
    },

    async flush() {
      await queue?.flush();
    },

    saveAgain() {
      void queue?.tryAgain();
    },

    async keepMineAsCopy() {
      const { document } = get();
      if (!document || !queue) return { message: "There is no project open." };
      const mine = queue;
      const copy = await setAsideCopy(document);
      if ("id" in copy) mine.forget();
      return copy;
    },

    async takeTheirs() {
      const { saved, document } = get();
      if (saved.state !== "refused" || !document || !queue) return;
      const mine = queue;
      const theirs = saved.theirs ?? (await fetchProject(document.id));
      if ("message" in theirs) return set({ saved: { ...saved, message: theirs.message } });
      if (queue !== mine) return;
      mine.forget(theirs.revision);
      show({ ok: true, document: theirs.document, queue: mine });
      await startWorker(theirs.document);
    },

    async saveOnTop() {
      const { document } = get();
      if (!document || !queue) return null;
      const mine = queue;
      const theirs = await fetchProject(document.id);
      if ("message" in theirs) return theirs.message;
      if (queue !== mine) return null;
      const applied = applyChanges(
        theirs.document,
        mine.unsent.flatMap((e) => e.changes),
      );
      if (!applied.ok) return `What you changed no longer fits what is saved: ${applied.message}`;
      const parsed = parseProject(applied.project);
      if (!parsed.ok) return `Together they would make no valid project: ${parsed.problems[0].path}: ${parsed.problems[0].message}`;
      show({ ok: true, document: parsed.project, queue: mine });
      mine.rebase(theirs.revision);
      await startWorker(parsed.project);
      return null;
    },
  };
});

/** Asks before a page is left whose edits the server has not got; they stay in the browser either way. */
if (typeof window !== "undefined")
  window.addEventListener("beforeunload", (event) => {
    if (!queue || queue.empty) return;
    void queue.flush();
    event.preventDefault();
  });

/** What a check tells, and whether the weather year lies somewhere else. */
const withPlace = (project: Project, weather: WeatherYear | null, problems: readonly Problem[]): readonly Problem[] => {
  const placed = weather ? placeProblems(project.site, weather) : [];
  return placed.length > 0 ? [...problems, ...placed] : problems;
};

/** Problems of the document in view. */
export function useProblems(): readonly Problem[] {
  const project = useStore((s) => s.project);
  const weather = useStore((s) => s.live.weather?.hours ?? null);
  const document = useStore((s) => s.document);
  if (!project || !document) return [];
  const own = withPlace(project, weather, checkProject(project).problems);
  return project === document ? own : [...own, ...checkProject(document).problems.filter((p) => p.code === "stale")];
}

const NO_OUTLIERS: readonly Outlier[] = [];
/** Figures of the exact year outside the range of buildings; none while it is not current. */
export function useOutliers(): readonly Outlier[] {
  const project = useStore((s) => s.project);
  const summary = useStore((s) => (s.live.exact && s.live.exactVersion === s.live.version ? s.live.exact.summary : null));
  return useMemo(() => (project && summary ? implausible(project, summary) : NO_OUTLIERS), [project, summary]);
}

/** The live year without its progress, so that charts are not drawn anew while it counts up. */
export const useLiveFigures = (): Live => useStore(useShallow((s) => ({ ...s.live, progress: null })));

/** The figures to show: exact ones where they are current, else the estimate, else the last exact ones. */
export function tally(live: Live): { summary: Summary | null; mark: "exact" | "estimate" | "old" } {
  if (live.exact && live.exactVersion === live.version) return { summary: live.exact.summary, mark: "exact" };
  if (live.estimate && live.estimateVersion === live.version) return { summary: live.estimate, mark: "estimate" };
  return { summary: live.exact?.summary ?? live.estimate, mark: "old" };
}

/** Address of a stage with what is selected and the option in view. */
export function stageAddress(stage: string, also: Readonly<Record<string, string>> = {}): string {
  const { document, selection, option } = useStore.getState();
  const query = new URLSearchParams();
  if (selection.length > 0) query.set("on", selection.map((s) => `${s.kind}:${s.id}`).join(","));
  if (option !== null) query.set("option", option);
  for (const [k, v] of Object.entries(also)) query.set(k, v);
  return `/p/${encodeURIComponent(document?.id ?? "")}/${stage}${query.size > 0 ? `?${query.toString()}` : ""}`;
}

/** Makes an empty option with a free name and looks at it. */
export function newOption(): void {
  const { document, edit, look } = useStore.getState();
  if (!document) return;
  let n = Object.keys(document.options).length + 1;
  while (document.options[`option_${n}`]) n++;
  const id = `option_${n}`;
  edit(`New option ${n}`, [{ op: "insert", path: ["options", id], value: { name: `Option ${n}`, changes: [] } }]);
  look(id);
}
