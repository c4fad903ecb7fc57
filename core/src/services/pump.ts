/** Power of a pump with a speed drive over that at its design flow, by flow over design flow. Typical, unverified. */
export const PUMP_SHAPE = [0, 0.5726, -0.301, 0.7284] as const;
/** Specific heat of water, J/kg·K, and its density, kg/m³. */
export const WATER_CP = 4186;
export const WATER_DENSITY = 1000;
/** Pump power at the design point, W. @param flow m³/s @param head Pa @param efficiency pump and motor */
export const pumpDesignPower = (flow: number, head: number, efficiency: number): number => (flow * head) / efficiency;
