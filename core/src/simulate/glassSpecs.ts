import { ANGLE_STEPS, glazingPhysics, type GlassState } from "../fabric/index.ts";
import type { Project } from "../model/index.ts";
import { GLASS_NODES, OPTIC, OPTICS, type GlassSpec } from "./model.ts";

const CONTROLS = ["irradiance", "temperature", "schedule", "always"] as const;

/** Constructions of glass in use as rows of one angular table. */
export function glassSpecs(
  project: Project,
  names: readonly string[],
  rowOf: (schedule: string | null) => number,
): { specs: GlassSpec[]; table: Float64Array; optics: Float64Array } {
  const rows: Float64Array[] = [];
  const specs = names.map((name): GlassSpec => {
    const glazing = project.glazings[name];
    const physics = glazingPhysics(glazing);
    const states: readonly GlassState[] = [physics.up, physics.down ?? physics.up];
    const half = (i: number): number =>
      glazing.kind === "panes" && glazing.panes.length > 1 ? (0.5 * glazing.panes[i].thickness) / glazing.panes[i].conductivity : 0;
    const firstRow = states.map((s) => {
      const first = rows.length;
      rows.push(s.transmittance, ...s.absorptance, s.visible);
      return first;
    });
    const control = glazing.blind?.control ?? null;
    return {
      nodes: [states[0].nodes, states[1].nodes],
      conductance: states.map((s) => s.conductance),
      gaps: states.map((s) => s.gaps),
      beside: states.map((s) => {
        let pane = -1;
        return s.gaps.map((g) => {
          if (!g) return 0;
          pane++;
          return half(pane) + half(pane + 1);
        });
      }),
      row: [firstRow[0], firstRow[1]],
      diffuseTransmittance: [states[0].diffuseTransmittance, states[1].diffuseTransmittance],
      diffuseAbsorptance: states.map((s) => s.diffuseAbsorptance),
      visibleRatio: [1, states[0].diffuseVisible > 0 ? states[1].diffuseVisible / states[0].diffuseVisible : 0],
      toAir: states.map((s) => s.toAir),
      hasBlind: physics.down !== null,
      control: control ? CONTROLS.indexOf(control.kind) : 3,
      threshold: control && "above" in control ? control.above : 0,
      schedule: control?.kind === "schedule" ? rowOf(control.schedule) : 0,
      variable: physics.up.gaps.some((g) => g !== null),
    };
  });
  const table = new Float64Array(rows.length * (ANGLE_STEPS + 1));
  rows.forEach((r, i) => table.set(r, i * (ANGLE_STEPS + 1)));
  const optics = new Float64Array(specs.length * 2 * OPTICS);
  specs.forEach((spec, i) => {
    for (const state of [0, 1] as const) {
      const at = (2 * i + state) * OPTICS;
      if (spec.nodes[state] > GLASS_NODES) throw new RangeError(`glazing ${names[i]} has ${spec.nodes[state]} nodes, ${GLASS_NODES} at most`);
      optics[at + OPTIC.NODES] = spec.nodes[state];
      optics[at + OPTIC.ROW] = spec.row[state];
      optics[at + OPTIC.DIFFUSE] = spec.diffuseTransmittance[state];
      optics.set(spec.diffuseAbsorptance[state], at + OPTIC.ABSORBED);
      optics.set(spec.toAir[state], at + OPTIC.TO_AIR);
    }
  });
  return { specs, table, optics };
}
