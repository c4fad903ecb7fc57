import { LATENT_HEAT } from "../airflow/index.ts";
import { saturated } from "./coolingCoil.ts";

/** Heat that makes steam of 100 °C from water of 10 °C, J/kg: 2676 less 42 kJ/kg (steam tables). */
export const STEAM_HEAT = 2.634e6;
/** Relative humidity behind a humidifier that is not passed, as its ratio to saturation. */
const WETTEST = 0.95;
const HALVINGS = 24;

/**
 * Moisture a humidifier adds to air, kg/kg: up to a humidity ratio wanted, no more than its water, and no more than the air holds.
 * @param t °C and @param w kg/kg of the air that enters @param wanted kg/kg @param evaporates whether the heat of vaporisation comes from the air
 * @param pressure Pa @param cp J/kg·K @param most kg/kg, Infinity: unlimited
 */
export function addedMoisture(t: number, w: number, wanted: number, evaporates: boolean, pressure: number, cp: number, most: number): number {
  const asked = Math.min(wanted - w, most);
  if (!(asked > 0)) return 0;
  const fits = (d: number): boolean => w + d <= WETTEST * saturated(evaporates ? t - (LATENT_HEAT * d) / cp : t, pressure);
  if (fits(asked)) return asked;
  if (!fits(0)) return 0;
  let low = 0;
  let high = asked;
  for (let i = 0; i < HALVINGS; i++) {
    const mid = 0.5 * (low + high);
    if (fits(mid)) low = mid;
    else high = mid;
  }
  return low;
}
