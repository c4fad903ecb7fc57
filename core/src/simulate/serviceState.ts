import { AIRS, loopState, OUTS, type ServiceModel } from "../services/index.ts";

/** How a system runs in a step: not, in its hours, out of hours to heat, out of hours to cool. */
export const RUN = { OFF: 0, HOURS: 1, NIGHT_HEATING: 2, NIGHT_COOLING: 3 } as const;
/** Electricity, fuel, and electricity of room units while they cool. */
export const ENERGIES = 3;

/** Everything systems remember or work on; made once a run. */
export function serviceState(model: ServiceModel, zones: number, dt: number) {
  const f = (n: number): Float64Array => new Float64Array(n);
  const devices = model.devices.length;
  const systems = model.systems.length;
  return {
    dt,
    /** Outputs of every component, [component][OUT]; electricity, fuel, and electricity while it cools, used since the reader last emptied them, J, [component][ENERGIES]. */
    out: f(model.components.length * OUTS),
    energy: f(model.components.length * ENERGIES),
    /** Most heat of each coil in a pass, W. */
    limit: f(model.components.length),
    air: model.systems.map(() => f(AIRS)),
    /** One of RUN; rest of the least run out of hours, s; economizer open. */
    run: new Uint8Array(systems),
    left: f(systems),
    open: new Uint8Array(systems),
    /** Supply temperature aimed at, °C, and with the coils off. */
    aim: f(systems),
    coilsOff: f(systems).fill(20),
    loops: loopState(model.loops.length),
    /** Part of a loop's demand that slabs drew at the start of the step, W, and the share of it that the sources have. */
    slabDemand: f(model.loops.length),
    slabShare: f(model.loops.length).fill(1),
    /** Heat that loops gave without a source for it since the books were opened, J. */
    owed: f(model.loops.length),
    slabWater: f(model.loops.length),
    slabOn: new Int8Array(devices),
    slabHeat: f(devices),
    slabReturn: f(devices),
    /** Devices in a pass: capacities, limits by their loops, what they give and take, W; air, kg/s; supply temperature and humidity the zones were solved with. */
    heatMost: f(devices),
    coolMost: f(devices),
    heatLimit: f(devices),
    coolLimit: f(devices),
    heat: f(devices),
    cool: f(devices),
    flow: f(devices),
    used: f(devices),
    /** Heat and water by zone that the last pass leaves to its air, W and kg/s. */
    rest: f(zones),
    restWater: f(zones),
    /** Outdoor wet bulb for towers, °C; NaN: not needed yet. */
    wetBulb: NaN,
  };
}
export type ServiceState = ReturnType<typeof serviceState>;
