import type { DrawPoint } from "../model/index.ts";

/** A generic set of taps, for a stated number of people. */
export interface ShippedTaps {
  readonly name: string;
  readonly people: number | null;
  /** Temperature wanted, °C, and the shares of the heat that stay in the room. */
  readonly temperature: number;
  readonly sensible: number;
  readonly latent: number;
  readonly taps: readonly { readonly name: string; readonly number: number; readonly litresPerMinute: number }[];
}

/** Sets of taps: flows of water-saving fittings, typical, unverified. */
export const shippedTaps: Readonly<Record<string, ShippedTaps>> = {
  washroom: {
    name: "Washroom of an office",
    people: 20,
    temperature: 38,
    sensible: 0.1,
    latent: 0.02,
    taps: [
      { name: "Wash basin", number: 2, litresPerMinute: 4 },
      { name: "Cleaner’s sink", number: 1, litresPerMinute: 8 },
    ],
  },
  kitchen: {
    name: "Small kitchen",
    people: null,
    temperature: 50,
    sensible: 0.15,
    latent: 0.05,
    taps: [
      { name: "Sink", number: 2, litresPerMinute: 8 },
      { name: "Hand basin", number: 1, litresPerMinute: 4 },
    ],
  },
  changing: {
    name: "Changing room",
    people: 30,
    temperature: 40,
    sensible: 0.2,
    latent: 0.1,
    taps: [
      { name: "Shower", number: 4, litresPerMinute: 8 },
      { name: "Wash basin", number: 2, litresPerMinute: 4 },
    ],
  },
  surgery: {
    name: "Treatment rooms",
    people: 10,
    temperature: 45,
    sensible: 0.1,
    latent: 0.02,
    taps: [
      { name: "Scrub sink", number: 1, litresPerMinute: 6 },
      { name: "Wash basin", number: 2, litresPerMinute: 4 },
    ],
  },
};

/** A draw with a set's taps in place of its own; when and where it is drawn stay. */
export function withTaps(point: Extract<DrawPoint, { kind: "taps" }>, id: string): Extract<DrawPoint, { kind: "taps" }> {
  const set = shippedTaps[id];
  return {
    ...point,
    temperature: set.temperature,
    sensible: set.sensible,
    latent: set.latent,
    people: set.people,
    taps: set.taps.map((t, i) => ({ id: `tap${i + 1}`, name: t.name, number: t.number, flow: t.litresPerMinute / 60000 })),
  };
}
