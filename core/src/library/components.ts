import type { ComponentKind, InputValue } from "../model/index.ts";

/** A generic component: settings of a kind. What it leaves out stays as it is: sizes and loops are of the project. */
export interface ShippedComponent {
  readonly kind: ComponentKind;
  readonly name: string;
  readonly inputs: Readonly<Record<string, InputValue>>;
}
const of = (kind: ComponentKind, name: string, inputs: ShippedComponent["inputs"]): ShippedComponent => ({ kind, name, inputs });

/** Generic components by kind: figures are typical of new equipment and unverified; no maker's. */
export const shippedComponents: Readonly<Record<string, ShippedComponent>> = {
  fan_small_direct: of("supplyFan", "Small, direct drive, speed drive", { pressure: 400, efficiency: 0.5, partLoad: "variable-speed drive" }),
  fan_central_plug: of("supplyFan", "Central, free-running wheel, speed drive", { pressure: 800, efficiency: 0.62, partLoad: "variable-speed drive" }),
  fan_central_vanes: of("supplyFan", "Central, belt drive, inlet vanes", { pressure: 900, efficiency: 0.52, partLoad: "inlet vanes" }),
  fan_central_constant: of("supplyFan", "Central, belt drive, no control", { pressure: 800, efficiency: 0.5, partLoad: "pressure held" }),
  return_plug: of("returnFan", "Free-running wheel, speed drive", { pressure: 300, efficiency: 0.6, partLoad: "variable-speed drive" }),
  return_belt: of("returnFan", "Belt drive, no control", { pressure: 350, efficiency: 0.48, partLoad: "pressure held" }),
  recovery_plate: of("recovery", "Plate exchanger, crossflow", { sensible: 0.65, latent: 0, bypass: "while it does not help", frostLimit: 2 }),
  recovery_counter: of("recovery", "Plate exchanger, counterflow", { sensible: 0.82, latent: 0, bypass: "while it does not help", frostLimit: 2 }),
  recovery_wheel: of("recovery", "Rotor, sorption", { sensible: 0.76, latent: 0.68, bypass: "while it does not help", frostLimit: -5 }),
  recovery_membrane: of("recovery", "Membrane exchanger", { sensible: 0.72, latent: 0.55, bypass: "while it does not help", frostLimit: -5 }),
  recovery_runaround: of("recovery", "Run-around coils", { sensible: 0.5, latent: 0, bypass: "while it does not help", frostLimit: 2 }),
  coil_gas: of("heatingCoil", "Gas furnace, non-condensing", { heat: "gas", efficiency: 0.82 }),
  coil_gas_condensing: of("heatingCoil", "Gas furnace, condensing", { heat: "gas", efficiency: 0.93 }),
  coil_electric: of("heatingCoil", "Electric element", { heat: "electricity" }),
  coil_dx: of("coolingCoil", "Direct expansion, one circuit", { cold: "direct expansion", cop: 3.2, bypass: 0.12 }),
  coil_dx_better: of("coolingCoil", "Direct expansion, better compressor and condenser", { cold: "direct expansion", cop: 3.9, bypass: 0.1 }),
  coil_water_four: of("coolingCoil", "Chilled water, four rows", { cold: "chilled water", bypass: 0.15 }),
  coil_water_six: of("coolingCoil", "Chilled water, six rows", { cold: "chilled water", bypass: 0.08 }),
  humidifier_electric: of("humidifier", "Electric steam", { by: "electric steam", least: 0.35 }),
  humidifier_gas: of("humidifier", "Gas-fired steam", { by: "gas steam", least: 0.35, efficiency: 0.82 }),
  humidifier_pad: of("humidifier", "Wetted pad", { by: "evaporation", least: 0.35 }),
  boiler_old: of("boiler", "Gas, atmospheric, old", { fuel: "gas", efficiency: 0.78, condensing: "no", standingLoss: 0.015 }),
  boiler_gas: of("boiler", "Gas, non-condensing", { fuel: "gas", efficiency: 0.88, condensing: "no", standingLoss: 0.005 }),
  boiler_condensing: of("boiler", "Gas, condensing", {
    fuel: "gas",
    efficiency: 0.89,
    condensing: "yes",
    condensingEfficiency: 0.97,
    standingLoss: 0.003,
  }),
  boiler_oil: of("boiler", "Oil", { fuel: "oil", efficiency: 0.87, condensing: "no", standingLoss: 0.006 }),
  boiler_pellets: of("boiler", "Wood pellets", { fuel: "wood", efficiency: 0.85, condensing: "no", standingLoss: 0.012 }),
  boiler_electric: of("boiler", "Electric", { fuel: "electricity", efficiency: 0.99, condensing: "no", standingLoss: 0.002 }),
  chiller_scroll: of("chiller", "Air-cooled, scroll", { condenser: "outdoor air", cop: 3.0, curves: "typical air-cooled" }),
  chiller_screw: of("chiller", "Air-cooled, screw, speed drive", { condenser: "outdoor air", cop: 3.3, curves: "typical air-cooled" }),
  chiller_water_screw: of("chiller", "Water-cooled, screw", { condenser: "water of a tower", waterCop: 5.0, waterCurves: "typical water-cooled" }),
  chiller_water_turbo: of("chiller", "Water-cooled, turbo compressor", { condenser: "water of a tower", waterCop: 6.0, waterCurves: "typical water-cooled" }),
  pump_source_air: of("heatPump", "Air to water, single speed", { cop: 3.0, leastOutdoor: -10, curves: "typical air-source" }),
  pump_source_air_inverter: of("heatPump", "Air to water, speed drive", { cop: 3.6, leastOutdoor: -20, curves: "typical air-source" }),
  tower_open: of("tower", "Open, speed drive", { approach: 4, least: 20, power: 0.025 }),
  tower_closed: of("tower", "Closed circuit", { approach: 6, least: 20, power: 0.04 }),
  pump_constant: of("pump", "Constant speed", { control: "constant", efficiency: 0.55 }),
  pump_drive: of("pump", "Speed drive", { control: "variable", efficiency: 0.62 }),
  pump_small: of("pump", "Small canned rotor, speed drive", { control: "variable", efficiency: 0.4, head: 50000 }),
  split_single: of("splitUnit", "Single split, speed drive", { heat: "heat pump", heatingCop: 3.8, coolingCop: 3.5, leastOutdoor: -15, backup: "none" }),
  split_cold: of("splitUnit", "Single split for cold climates", { heat: "heat pump", heatingCop: 4.1, coolingCop: 3.7, leastOutdoor: -25, backup: "none" }),
  split_cooling: of("splitUnit", "Cooling only", { heat: "none", cooling: "yes", coolingCop: 3.3 }),
  heater_gas: of("unitHeater", "Gas, non-condensing", { heat: "gas", efficiency: 0.8, fanShare: 0.01 }),
  heater_gas_condensing: of("unitHeater", "Gas, condensing", { heat: "gas", efficiency: 0.92, fanShare: 0.012 }),
};

/** Components of the library for a kind, by id. */
export const componentsFor = (kind: ComponentKind): [id: string, item: ShippedComponent][] =>
  Object.entries(shippedComponents).filter(([, c]) => c.kind === kind);
