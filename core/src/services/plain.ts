import { WATER_HEAT } from "../inputs/index.ts";
import type { Fuel, Services } from "../model/index.ts";

export const endUses = [
  "heating",
  "cooling",
  "fans",
  "pumps",
  "heat rejection",
  "humidification",
  "lighting",
  "appliances",
  "hot water",
  "exterior lighting",
] as const;
export type EndUse = (typeof endUses)[number];

/** Loads of one zone over any length of time, J (hot water: kg drawn; fan air: m³ moved). */
export interface ZoneLoads {
  readonly heating: number;
  readonly cooling: number;
  readonly lighting: number;
  readonly appliances: number;
  /** Outdoor air moved by fans, m³. */
  readonly fanAir: number;
  /** Hot water drawn, kg. */
  readonly hotWater: number;
}

export interface FuelUse {
  readonly use: EndUse;
  readonly fuel: Fuel;
  /** J. */
  readonly energy: number;
}

/** Fuel that plain services turn loads into: heat over efficiency, pumps as a share of heat, fans by power per flow, hot water by its temperature rise. */
export function fuelUse(loads: ZoneLoads, s: Services): FuelUse[] {
  return [
    { use: "heating", fuel: s.heating.fuel, energy: loads.heating / s.heating.efficiency },
    { use: "cooling", fuel: s.cooling.fuel, energy: loads.cooling / s.cooling.efficiency },
    { use: "fans", fuel: "electricity", energy: loads.fanAir * s.fanPower },
    { use: "pumps", fuel: "electricity", energy: loads.heating * s.pumpShareHeating + loads.cooling * s.pumpShareCooling },
    { use: "lighting", fuel: "electricity", energy: loads.lighting },
    { use: "appliances", fuel: "electricity", energy: loads.appliances },
    {
      use: "hot water",
      fuel: s.hotWater.fuel,
      energy: (loads.hotWater * WATER_HEAT * Math.max(0, s.hotWater.deliveryTemperature - s.hotWater.mainsTemperature)) / s.hotWater.efficiency,
    },
  ];
}
