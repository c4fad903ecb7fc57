import { emptyStudy, type Study, type StudyAxis } from "../core/src/index.ts";

const levels = (...of: readonly (readonly [value: number | string, name: string, investment?: number])[]): StudyAxis["levels"] =>
  of.map(([value, name, investment], i) => ({ id: `l${i + 1}`, name, value, ...(investment === undefined ? {} : { investment }) }));

/** The finished study of the library: envelope, shade, air-tightness and the array on the roof. Costs are invented. */
export const libraryStudy: Study = {
  ...emptyStudy("Envelope and array", null),
  note: "What the envelope and a larger array bring together.",
  axes: [
    {
      id: "insulation",
      name: "Wall insulation",
      addresses: ["assemblies/wall_brick/layers/insulation/thickness"],
      unit: "m",
      levels: levels([0.06, "60 mm", -9000], [0.12, "120 mm"], [0.24, "240 mm", 14000]),
    },
    {
      id: "south",
      name: "South glass",
      addresses: ["openings/south/ratio"],
      levels: levels([0.2, "20 %", -11000], [0.4, "40 %"], [0.55, "55 %", 9000]),
    },
    {
      id: "overhang",
      name: "South overhang",
      addresses: ["shades/south/depth"],
      unit: "m",
      levels: levels([0.3, "0.3 m", -2000], [0.9, "0.9 m"], [1.5, "1.5 m", 6000]),
    },
    {
      id: "leaks",
      name: "Air-tightness",
      addresses: ["spaces/*/inputs/infiltration"],
      unit: "1/h",
      levels: [
        { id: "drawn", name: "as drawn" },
        { id: "tight", name: "0.1 1/h", value: 0.1, investment: 8000 },
      ],
    },
    {
      id: "array",
      name: "Array on the roof",
      addresses: ["onSite/roof_array/inputs/rows"],
      levels: levels([4, "4 rows"], [6, "6 rows", 15000]),
    },
  ],
};

/** An example for the terminal, of the clinic: arroyo study demo/clinic.json demo/study.json --out DIR. */
export const exampleStudy: Study = {
  ...emptyStudy("South windows and air-tightness", null),
  axes: [
    { id: "south", name: "South windows", addresses: ["openings/south/ratio"], levels: levels([0.15, "15 %"], [0.3, "30 %"], [0.6, "60 %"]) },
    { id: "leaks", name: "Infiltration", addresses: ["spaces/*/inputs/infiltration"], unit: "1/h", levels: levels([0.1, "0.1 1/h"], [0.6, "0.6 1/h"]) },
    {
      id: "glazing",
      name: "Glazing",
      addresses: ["kits/standard/glazing"],
      levels: [
        { id: "double", name: "Double, low emissivity", value: "double_low_e" },
        { id: "triple", name: "Triple, low emissivity", value: "triple", investment: 6500, only: { axis: "leaks", levels: ["l1"] } },
      ],
    },
  ],
  checks: 2,
};
