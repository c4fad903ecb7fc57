import type { Glazing, Project } from "../model/index.ts";

type Panes = Extract<Glazing, { kind: "panes" }>;
export type Pane = Omit<Panes["panes"][number], "id">;
export type Fill = Panes["gaps"][number]["fill"];

const TYPICAL = "typical, unverified";
const RATED_FILMS = { inside: 7.7, outside: 25 } as const;

type PaneRow = readonly [
  name: string,
  mm: number,
  solar: readonly [through: number, reflectedOut: number, reflectedIn: number],
  visible: readonly [through: number, reflected: number],
  emissivity: readonly [out: number, inside: number],
];

/** Generic panes, side to outside first: typical, unverified. */
const paneRows: Readonly<Record<string, PaneRow>> = {
  clear_3: ["Clear, 3 mm", 3, [0.85, 0.08, 0.08], [0.9, 0.08], [0.84, 0.84]],
  clear_4: ["Clear, 4 mm", 4, [0.83, 0.075, 0.075], [0.9, 0.08], [0.84, 0.84]],
  clear_6: ["Clear, 6 mm", 6, [0.78, 0.07, 0.07], [0.88, 0.08], [0.84, 0.84]],
  clear_10: ["Clear, 10 mm", 10, [0.7, 0.065, 0.065], [0.86, 0.08], [0.84, 0.84]],
  white_4: ["Low-iron, 4 mm", 4, [0.89, 0.08, 0.08], [0.91, 0.08], [0.84, 0.84]],
  grey_6: ["Grey, 6 mm", 6, [0.45, 0.055, 0.055], [0.44, 0.05], [0.84, 0.84]],
  green_6: ["Green, 6 mm", 6, [0.48, 0.055, 0.055], [0.73, 0.07], [0.84, 0.84]],
  hard_in_4: ["Low emissivity inside, hard, 4 mm", 4, [0.7, 0.11, 0.12], [0.83, 0.1], [0.84, 0.16]],
  soft_in_4: ["Low emissivity inside, 4 mm", 4, [0.63, 0.19, 0.22], [0.88, 0.06], [0.84, 0.05]],
  soft_out_4: ["Low emissivity outside, 4 mm", 4, [0.63, 0.22, 0.19], [0.88, 0.06], [0.05, 0.84]],
  sun_in_6: ["Solar control inside, neutral, 6 mm", 6, [0.38, 0.3, 0.38], [0.7, 0.12], [0.84, 0.03]],
  sun_dark_in_6: ["Solar control inside, dark, 6 mm", 6, [0.2, 0.3, 0.42], [0.4, 0.18], [0.84, 0.03]],
  mirror_out_6: ["Reflecting outside, 6 mm", 6, [0.25, 0.35, 0.3], [0.22, 0.35], [0.84, 0.6]],
};

/** Panes to build a glazing from, by id. */
export const shippedPanes: Readonly<Record<string, Pane>> = Object.fromEntries(
  Object.entries(paneRows).map(([id, [name, mm, solar, visible, emissivity]]): [string, Pane] => [
    id,
    {
      name,
      thickness: mm / 1000,
      conductivity: 1,
      solarTransmittance: solar[0],
      solarReflectanceOut: solar[1],
      solarReflectanceIn: solar[2],
      visibleTransmittance: visible[0],
      visibleReflectance: visible[1],
      emissivityOut: emissivity[0],
      emissivityIn: emissivity[1],
    },
  ]),
);

/** U of a frame with its films, W/m²K, and edge of the glass, W/m·K: typical, unverified. */
const FRAMES = { timber: [1.6, 0.06], plastic: [1.3, 0.05], aluminium: [5.5, 0.1], "aluminium, thermally broken": [2.2, 0.08], passive: [0.8, 0.035] } as const;

type BuiltRow = readonly [id: string, name: string, panes: readonly string[], fills: readonly (readonly [Fill, number])[], frame: keyof typeof FRAMES];
const built: readonly BuiltRow[] = [
  ["single_clear", "Single, clear", ["clear_4"], [], "timber"],
  ["single_clear_10", "Single, clear, 10 mm", ["clear_10"], [], "aluminium"],
  ["single_grey", "Single, grey", ["grey_6"], [], "aluminium"],
  ["double_clear_air", "Double, clear, air", ["clear_4", "clear_4"], [["air", 12]], "timber"],
  ["double_clear_6", "Double, clear 6 mm, air", ["clear_6", "clear_6"], [["air", 12]], "aluminium"],
  ["double_hard", "Double, hard coating, air", ["clear_4", "hard_in_4"], [["air", 16]], "plastic"],
  ["double_soft_air", "Double, low emissivity, air", ["clear_4", "soft_out_4"], [["air", 16]], "timber"],
  ["double_soft_argon", "Double, low emissivity, argon", ["clear_4", "soft_out_4"], [["argon", 16]], "timber"],
  ["double_soft_argon_al", "Double, low emissivity, argon, aluminium frame", ["clear_6", "soft_out_4"], [["argon", 16]], "aluminium, thermally broken"],
  ["double_soft_krypton", "Double, low emissivity, krypton", ["clear_4", "soft_out_4"], [["krypton", 10]], "timber"],
  ["double_sun_neutral", "Double, solar control, argon", ["sun_in_6", "clear_6"], [["argon", 16]], "aluminium, thermally broken"],
  ["double_sun_dark", "Double, dark solar control, argon", ["sun_dark_in_6", "clear_6"], [["argon", 16]], "aluminium, thermally broken"],
  ["double_grey", "Double, grey outside, air", ["grey_6", "clear_6"], [["air", 12]], "aluminium"],
  ["double_green", "Double, green outside, low emissivity", ["green_6", "soft_out_4"], [["argon", 16]], "aluminium, thermally broken"],
  ["double_mirror", "Double, reflecting outside", ["mirror_out_6", "clear_6"], [["air", 12]], "aluminium"],
  [
    "triple_clear",
    "Triple, clear, air",
    ["clear_4", "clear_4", "clear_4"],
    [
      ["air", 12],
      ["air", 12],
    ],
    "timber",
  ],
  [
    "triple_soft_argon",
    "Triple, two coatings, argon",
    ["soft_in_4", "clear_4", "soft_out_4"],
    [
      ["argon", 16],
      ["argon", 16],
    ],
    "timber",
  ],
  [
    "triple_soft_krypton",
    "Triple, two coatings, krypton",
    ["soft_in_4", "clear_4", "soft_out_4"],
    [
      ["krypton", 12],
      ["krypton", 12],
    ],
    "passive",
  ],
  [
    "triple_white",
    "Triple, low-iron, for solar gain",
    ["white_4", "soft_in_4", "soft_out_4"],
    [
      ["argon", 16],
      ["argon", 16],
    ],
    "passive",
  ],
  [
    "triple_sun",
    "Triple, solar control, argon",
    ["sun_in_6", "clear_4", "soft_out_4"],
    [
      ["argon", 14],
      ["argon", 14],
    ],
    "aluminium, thermally broken",
  ],
];

type RatedRow = readonly [id: string, name: string, u: number, g: number, visible: number];
const rated: readonly RatedRow[] = [
  ["rated_single", "Single, by rating", 5.2, 0.85, 0.88],
  ["rated_double", "Double, by rating", 2.8, 0.72, 0.8],
  ["rated_low_e", "Double with low emissivity, by rating", 1.4, 0.55, 0.75],
  ["rated_sun", "Double with solar control, by rating", 1.4, 0.33, 0.6],
  ["rated_triple", "Triple, by rating", 0.85, 0.48, 0.7],
  ["rated_polycarbonate", "Polycarbonate, multi-wall, by rating", 1.6, 0.5, 0.55],
];

/** Glazings that ship. */
export const shippedGlazings: Project["glazings"] = Object.fromEntries([
  ...built.map(([id, name, panes, fills, frame]): [string, Glazing] => [
    id,
    {
      kind: "panes",
      name,
      panes: panes.map((p, i) => ({ id: `p${i + 1}`, ...shippedPanes[p] })),
      gaps: fills.map(([fill, mm], i) => ({ id: `g${i + 1}`, fill, width: mm / 1000 })),
      frameShare: 0.2,
      frame: { u: FRAMES[frame][0], absorptance: 0.5 },
      edge: fills.length === 0 ? 0 : FRAMES[frame][1],
      ratedFilms: RATED_FILMS,
      blind: null,
      source: TYPICAL,
    },
  ]),
  ...rated.map(([id, name, u, g, visibleTransmittance]): [string, Glazing] => [
    id,
    { kind: "rated", name, u, g, visibleTransmittance, frameShare: 0.2, ratedFilms: RATED_FILMS, blind: null, source: TYPICAL },
  ]),
]);
