import { describe, expect, it, vi } from "vitest";
import { glazingRating, type Project } from "@arroyo/core";
import { rendered } from "../ui/rendered.ts";
import { GlazingDesk } from "./fabric/GlazingDesk.tsx";
import { LayerExtras } from "./fabric/LayerExtras.tsx";
import { GroundRows } from "./place/GroundRows.tsx";
import { skylineOfText } from "./place/Skyline.tsx";
import { Surroundings } from "./place/Surroundings.tsx";
import { demo, show } from "./shown.ts";
import { AirExchanges } from "./use/AirExchanges.tsx";

vi.mock("next/navigation", () => ({
  useSearchParams: () => new URLSearchParams(""),
  useRouter: () => ({ replace: () => undefined }),
  usePathname: () => "/p/library",
}));

const library = demo("library");

describe("the ground", () => {
  const ground = (more: Partial<Project["site"]["ground"]>) => {
    show({ ...library, site: { ...library.site, ground: { ...library.site.ground, ...more } } });
    return rendered(<GroundRows />);
  };
  it("of a slab asks for soil and edge insulation, in the units people use", () => {
    const plain = ground({});
    expect(plain.value("Ground temperature")).toBe("by ISO 13370");
    expect(Number(plain.value("Ground: Heat capacity"))).toBeCloseTo(library.site.ground.heatCapacity / 1e6, 9);
    expect(plain.value("Edge insulation")).toBe("none");
    expect(() => plain.value("Ground: Its depth")).toThrow(RangeError);
    const edged = ground({ edge: { position: "vertical", depth: 0.8, thickness: 0.06, conductivity: 0.035 } });
    expect(edged.value("Edge insulation")).toBe("vertical");
    expect(edged.value("Ground: Its depth")).toBe("0.80");
    expect(edged.value("Ground: Its thickness")).toBe("60");
  });
  it("of a suspended floor asks for its crawl space, not for an edge", () => {
    const floor = { kind: "suspended", height: 0.5, wallU: 1.5, vents: 0.0015, shelter: 0.05, groundResistance: 0 } as const;
    const rows = ground({ floor });
    expect(rows.value("Lowest floors")).toBe("suspended");
    expect(rows.value("Ground: Vents")).toBe("15");
    expect(rows.text).toContain("cm²/m");
    expect(() => rows.value("Edge insulation")).toThrow(RangeError);
  });
  it("typed shows January and July and nothing that no longer counts", () => {
    const months = Array.from({ length: 12 }, (_, m) => 12 - 3 * Math.cos((2 * Math.PI * m) / 12));
    const rows = ground({ temperature: months });
    expect(rows.value("Jan ground temperature")).toBe("9.00");
    expect(rows.value("Jul ground temperature")).toBe("15.0");
    expect(() => rows.value("Lowest floors")).toThrow(RangeError);
    expect(rows.text).toContain("back to ISO 13370");
  });
});

describe("surroundings", () => {
  it("list blocks and trees with their measures, and what leaves let through bare and in leaf", () => {
    show(library);
    const shown = rendered(<Surroundings />);
    const { hall, poplar } = library.surroundings;
    if (hall.kind !== "block" || poplar.kind !== "tree") throw new Error("the library's surroundings are others");
    expect(shown.table("Blocks")).toHaveLength(2);
    expect(Number(shown.value(`Width of ${hall.name}`))).toBe(hall.width);
    expect(shown.table("Trees")).toHaveLength(2);
    expect(shown.value(`${poplar.name} lets through in Jan`)).toBe("65");
    expect(shown.value(`${poplar.name} lets through in Jul`)).toBe("20");
    expect(shown.value(`What drives the leaves of ${poplar.name}`)).toBe("by season");
  });
  it("of a tree by schedule names it in place of the seasons", () => {
    const { poplar } = library.surroundings;
    show({ ...library, surroundings: { poplar: { ...poplar, transmittanceSchedule: "open" } as typeof poplar } });
    const shown = rendered(<Surroundings />);
    expect(shown.value(`What drives the leaves of ${poplar.name}`)).toBe(library.schedules.open.name);
    expect(() => shown.value(`${poplar.name} lets through in Jan`)).toThrow(RangeError);
    expect(() => shown.table("Blocks")).toThrow(RangeError);
  });
  it("that are none say that the building stands free", () => {
    show({ ...library, surroundings: {} });
    expect(rendered(<Surroundings />).text).toContain("stands free");
  });
});

describe("air between zones", () => {
  it("shows the flow each way in L/s between its two zones", () => {
    show(library);
    const shown = rendered(<AirExchanges />);
    const { stair } = library.airExchanges;
    expect(Number(shown.value(`Flow of ${stair.name}`))).toBeCloseTo(1000 * stair.flow, 9);
    expect(shown.value(`First zone of ${stair.name}`)).toBe(library.zones[stair.zones[0]].name);
    expect(shown.value(`Second zone of ${stair.name}`)).toBe(library.zones[stair.zones[1]].name);
    expect(shown.value(`Schedule of ${stair.name}`)).toBe(library.schedules[stair.schedule as string].name);
  });
  it("cannot pass in a building of one zone", () => {
    const [[id, zone]] = Object.entries(library.zones);
    show({ ...library, zones: { [id]: zone }, airExchanges: {} });
    expect(rendered(<AirExchanges />).text).toContain("only one zone");
  });
});

describe("what a build-up holds besides layers", () => {
  const [id, wall] = Object.entries(library.assemblies).find(([, a]) => a.name === "Brick cavity wall") ?? [];
  if (id === undefined || wall === undefined) throw new Error("the library has no such wall");
  const inner = wall.layers[wall.layers.length - 1];
  if (inner.kind !== "solid") throw new Error("its inner layer is no material");
  const material = library.materials[inner.material];
  it("is offered where there is none", () => {
    show(library);
    const plain = rendered(<LayerExtras id={id} assembly={wall} />);
    expect(plain.text).toContain("No embedded circuit");
    expect(plain.text).toContain(`Let ${material.name.toLowerCase()} hold a melting filler`);
  });
  it("tells between which temperatures a filler melts, and its heat in kJ/kg", () => {
    show({
      ...library,
      materials: { ...library.materials, [inner.material]: { ...material, phaseChange: { from: 21.5, to: 24, latentHeat: 85000 } } },
    });
    const melting = rendered(<LayerExtras id={id} assembly={wall} />);
    expect(melting.value(`melting begins of ${material.name}`)).toBe("21.5");
    expect(melting.value(`melting ends of ${material.name}`)).toBe("24.0");
    expect(melting.value(`latent heat of ${material.name}`)).toBe("85");
    expect(melting.text).not.toContain("hold a melting filler");
  });
  it("of a floor with a circuit says what gives it heat", () => {
    const [slabId, slab] = Object.entries(library.assemblies).find(([, a]) => a.layers.some((l) => l.kind === "circuit")) ?? [];
    if (slabId === undefined || slab === undefined) throw new Error("the library has no circuit");
    show(library);
    const floor = rendered(<LayerExtras id={slabId} assembly={slab} />);
    expect(floor.text).toContain("a system gives it heat");
    expect(floor.text).toContain("Take it out");
  });
});

describe("a glazing", () => {
  it("shows U and g as they are rated, and says how it is described", () => {
    show(library);
    for (const [id, g] of Object.entries(library.glazings)) {
      const shown = rendered(<GlazingDesk id={id} area={12} />);
      const rating = glazingRating(g);
      expect(shown.text).toContain(rating.u.toFixed(2));
      expect(shown.text).toContain(rating.g.toFixed(2));
      expect(shown.text).toContain(g.kind === "rated" ? "by its rating" : `by panes, ${g.panes.length}`);
    }
  });
  it("by panes lists them outside first with the gaps between, and its blind by what lowers it", () => {
    show(library);
    const [id, g] = Object.entries(library.glazings).find(([, x]) => x.kind === "panes") ?? [];
    if (id === undefined || g?.kind !== "panes" || !g.blind) throw new Error("the library has no glazing by panes with a blind");
    const shown = rendered(<GlazingDesk id={id} area={12} />);
    const rows = shown.table("Panes");
    expect(rows.slice(1).map((r) => r[0])).toEqual(g.panes.map((p) => p.name));
    expect(Number(shown.value("Width of gap 1"))).toBeCloseTo(1000 * g.gaps[0].width, 9);
    expect(rows[rows.length - 1].at(-1)).toContain("room");
    expect(shown.value(`Blind of ${g.name}`)).toBe(g.blind.position);
    expect(Number(shown.value(`Frame share of ${g.name}`))).toBeCloseTo(100 * g.frameShare, 9);
  });
});

describe("a file of the skyline", () => {
  it("is rows of azimuth and height, under a header or not; what is none is told by line", () => {
    expect(skylineOfText("azimuth,height\n0,5\n90;12.5\n180\t0\n\n")).toEqual([
      { azimuth: 0, height: 5 },
      { azimuth: 90, height: 12.5 },
      { azimuth: 180, height: 0 },
    ]);
    expect(skylineOfText("0,5\nabc,def")).toBe('Line 2 is no azimuth and height: "abc,def".');
    expect(skylineOfText("0,5\n90,95")).toContain("Line 2: an azimuth lies between 0 and 360°");
    expect(skylineOfText("hello")).toBe("The file has no rows of azimuth and height.");
  });
});
