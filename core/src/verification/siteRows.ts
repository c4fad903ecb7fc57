import services from "../services/closedForms.json" with { type: "json" };
import { arrayElectric, arrayPower, batteryStep, fitModule, inverterEfficiency, MADE, MADES, placeArrays, toldOf, turbinePower } from "../electric/index.ts";
import { deriveFaces, deriveOpenings } from "../geometry/index.ts";
import { WATER_HEAT } from "../inputs/index.ts";
import type { PvArray } from "../model/index.ts";
import { mixedTank } from "../services/index.ts";
import { boxProject } from "./box.ts";
import { collect, type Row } from "./row.ts";

/** An invented data sheet: what a single diode with its maximum there and the coefficient of V_oc must meet. */
const SHEET = { cells: 54, voc: 37.1, isc: 13.8, vmp: 31, imp: 12.9, alpha: 0.0005 * 13.8, beta: -0.0028 * 37.1 };

/** Hot water, and electricity made and stored on site, against data sheets, closed forms and sums by hand. */
export function siteRows(): Row[] {
  return collect((add) => {
    const tank = services["tank cooling"];
    for (const [i, hours] of tank.hours.entries()) {
      const { end } = mixedTank(tank.start, {
        capacity: tank.volume * 1000 * WATER_HEAT,
        loss: tank.ua,
        heat: 0,
        draw: 0,
        inlet: 10,
        ambient: tank.ambient,
        dt: 3600 * hours,
      });
      add("store", "exponential", `${tank.volume} m³, ${tank.ua} W/K, ${hours} h`, "°C", tank.t[i], end, 0.001);
    }
    const draw = mixedTank(60, { capacity: 1e12, loss: 0, heat: 0, draw: (0.1 * WATER_HEAT) / 3600, inlet: 10, ambient: 20, dt: 3600 });
    add("store", "m·c·ΔT", "0.1 kg drawn over an hour from 60 °C, main of 10 °C", "J", 0.1 * WATER_HEAT * 50, draw.drawn, 0.01);

    const fit = fitModule(SHEET);
    if (!fit.ok) throw new RangeError(fit.message);
    const told = toldOf(fit.model);
    const source = "data sheet";
    add("module", source, "1000 W/m², 25 °C", "short circuit, A", SHEET.isc, told.isc, 1e-6);
    add("module", source, "1000 W/m², 25 °C", "open circuit, V", SHEET.voc, told.voc, 1e-6);
    add("module", source, "1000 W/m², 25 °C", "most power, W", SHEET.vmp * SHEET.imp, told.vmp * told.imp, 1e-4);
    // silicon loses a third of a per cent a kelvin: what such sheets tell lies between 0.30 and 0.36 %
    add("module", "coefficient of sheets of its kind, −0.33 %/K", "1000 W/m², 45 °C", "W", SHEET.vmp * SHEET.imp * (1 - 0.0033 * 20), told.warm, 2.4);

    const inverter = { rated: 5000, loads: [0.1, 0.3, 0.5, 1], efficiencies: [0.93, 0.968, 0.972, 0.968], start: 0, night: 0 };
    add("inverter", "straight line by hand", "at 40 % of its load", "efficiency, 1", 0.97, inverterEfficiency(inverter, 0.4), 1e-9);
    add(
      "turbine",
      "straight line by hand",
      "between 6 m/s (600 W) and 7 m/s (1000 W)",
      "W",
      800,
      turbinePower({ speeds: [6, 7], powers: [600, 1000] }, 6.5),
      1e-9,
    );

    // a battery over 100 days of surplus and use: in = out + lost + held
    const battery = { capacity: 36e6, charge: 3000, discharge: 3000, efficiency: 0.9, standing: 0.002 };
    let [held, into, out, lost] = [0, 0, 0, 0];
    for (let h = 0; h < 2400; h++) {
      const r = batteryStep(battery, held, h % 24 < 10 ? 2500 : -1800, 3600);
      held = r.content;
      lost += r.lost;
      if (r.power > 0) into += r.power * 3600;
      else out -= r.power * 3600;
    }
    add("battery", "balance", "100 days", "in less out, lost and held, of what went in", 0, (into - out - lost - held) / into, 1e-12);

    // an array whose cells are at 25 °C under the sun of its sheet gives its peak less what is stated
    const p = boxProject();
    const a: PvArray = { kind: "pvArray", name: "Array", host: "a/ceiling", inputs: { soiling: 0, wiring: 0.03 } };
    p.onSite = { pv: a };
    const geometry = deriveFaces(p);
    const [placed] = placeArrays(p, geometry, deriveOpenings(p, geometry).openings).arrays;
    const x = arrayElectric(a, placed);
    const given = new Float64Array(MADES);
    const rise = ((45 - 20) * 1000) / 800;
    arrayPower(x, { cosine: 1, beam: 1000, diffuse: 0, ground: 0, litBeam: 1000, seenDiffuse: 0 }, 25 - rise * (1 - x.efficiency / 0.9), 1, given);
    add(
      "array",
      "modules × peak × 0.97 of wiring",
      `${x.modules} modules`,
      "direct current, W",
      x.modules * 31 * 12.9 * 0.97,
      given[MADE.GIVEN] + given[MADE.INVERTER] + given[MADE.LIMIT],
      0.5,
    );
  });
}
