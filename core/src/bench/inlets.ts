import { airDensity } from "../airflow/index.ts";
import { standardPressure } from "../climate/index.ts";
import type { ComponentKind, Project } from "../model/index.ts";
import { supplyParts } from "../services/index.ts";
import { CP } from "./air.ts";
import type { BenchOf } from "./types.ts";

/** State of a component: means of an hour or of a step. */
export interface ComponentHour {
  /** W, negative: taken out; and its latent part. */
  readonly heat: number;
  readonly latent: number;
  /** kg/s */
  readonly flow: number;
  /** °C and kg/kg */
  readonly entering: number;
  readonly leaving: number;
  readonly enteringRatio: number;
  readonly leavingRatio: number;
}
/** What a run tells of one moment. */
export interface RunMoment {
  /** By path joined by "/"; null: not known. */
  readonly state: (path: string) => ComponentHour | null;
  /** Air of a zone, °C; null: not known. */
  readonly room: (zone: string) => number | null;
  /** °C and kg/kg; null: not known. */
  readonly outdoor: { readonly t: number; readonly w: number } | null;
}

type Inlets = Record<string, number>;
const known = (all: Readonly<Record<string, number | null | undefined>>): Inlets =>
  Object.fromEntries(Object.entries(all).filter((e): e is [string, number] => typeof e[1] === "number" && Number.isFinite(e[1])));

/** What goes into a bench as a run had it at a moment: values of those of its inputs that the run tells. */
export function inletsAt(project: Project, of: BenchOf, moment: RunMoment): Inlets {
  const rho = airDensity(20, standardPressure(project.site.elevation));
  if (of.kind === "zone") return known({ t_o: moment.outdoor?.t, t_i: moment.room(of.id) });
  if (of.kind === "face") return known({ t_o: moment.outdoor?.t, t_i: moment.room(project.spaces[of.key.split("/")[0]]?.zone ?? "") });
  const { path } = of;
  const [part, id] = path;
  const own = moment.state(path.join("/"));
  if (part === "zones") {
    const kind = project.zones[id]?.equipment?.find((e) => e.id === path[3])?.kind;
    return own ? equipmentInlets(kind, own, moment.room(id), moment.outdoor?.t ?? null) : {};
  }
  if (part === "loops") {
    const loop = moment.state(`loops/${id}`);
    const heat = own && path.length > 2 && project.loops[id].parts.find((p) => p.id === path[3])?.kind !== "pump" ? own : loop;
    if (!loop || !heat) return {};
    const difference = Math.abs(loop.leaving - loop.entering);
    return known({ Q: Math.abs(heat.heat), t_s: loop.leaving, dt: difference >= 1 ? difference : null, t_o: moment.outdoor?.t });
  }
  const system = project.airSystems[id];
  const whole = moment.state(`airSystems/${id}`);
  const parts = supplyParts(system);
  const at = path.length === 2 ? 0 : parts.findIndex((p) => p.id === path[3]);
  const chosen = at < 0 ? [] : parts.slice(at, path.length === 2 ? parts.length : at + 1 + of.more);
  const stateOf = (p: { readonly id: string } | undefined): ComponentHour | null => (p ? moment.state(`airSystems/${id}/parts/${p.id}`) : null);
  const first = stateOf(chosen[0]) ?? own;
  if (!first || !whole) return {};
  const fan = system.parts.find((p) => p.kind === "returnFan");
  const returned = stateOf(fan);
  const mixing = stateOf(chosen.find((p) => p.kind === "mixing"));
  const last = stateOf(chosen[chosen.length - 1]);
  return known({
    flow: whole.flow / rho,
    t0: first.entering,
    w0: first.enteringRatio,
    tr: returned && returned.flow > 0 ? returned.leaving : whole.entering,
    wr: whole.enteringRatio,
    // the share it took, so that what it made of it comes out whatever decided it
    least: mixing && whole.flow > 0 ? Math.min(1, mixing.flow / whole.flow) : null,
    open: mixing ? 0 : null,
    wanted: last?.leaving,
    outdoor: moment.outdoor?.t,
  });
}

function equipmentInlets(kind: ComponentKind | undefined, s: ComponentHour, room: number | null, outdoor: number | null): Inlets {
  if (kind === "terminal") {
    const into = room === null ? null : s.flow * CP * (s.entering - room) + s.heat;
    return known({
      t_s: s.entering,
      t_i: room,
      Q_c: into === null ? null : Math.max(0, -into),
      Q_h: into === null ? null : s.heat > 0 ? Math.max(0, into) : 0,
    });
  }
  if (kind === "slabCircuit") return known({ t_w: s.entering });
  const heat = s.heat + s.latent;
  return known({ Q_h: Math.max(0, heat), Q_c: Math.max(0, -heat), t_i: room ?? s.entering, t_o: outdoor });
}
