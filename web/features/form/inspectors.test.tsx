import { beforeEach, describe, expect, it, vi } from "vitest";
import { checkProject, type Project } from "@arroyo/core";
import { rendered } from "../../ui/rendered.ts";
import { demo, show } from "../shown.ts";
import { OpeningInspector } from "./OpeningInspector.tsx";
import { SpaceInspector } from "./SpaceInspector.tsx";
import { WallInspector } from "./WallInspector.tsx";

vi.mock("next/navigation", () => ({ useSearchParams: () => new URLSearchParams(), useRouter: () => ({}), usePathname: () => "/" }));

const library = demo("library");
const { geometry, openings } = checkProject(library);
beforeEach(() => show(library));

describe("the inspector of a space", () => {
  const [id] = Object.keys(library.spaces);
  it("shows its area, its faces and where each input comes from", () => {
    const shown = rendered(<SpaceInspector ids={[id]} />);
    expect(shown.value("Space name")).toBe(library.spaces[id].name);
    const area = geometry.spaces.get(id)?.floorArea as number;
    expect(shown.text).toContain(`Floor area ${area.toFixed(1)} m²`);
    const own = geometry.faces.filter((f) => f.space === id);
    expect(own.length).toBeGreaterThan(4);
    for (const f of own) expect(shown.text).toContain(`${f.area.toFixed(1)} m²`);
  });
  it("of several sums their areas and says what varies", () => {
    const ids = Object.keys(library.spaces).slice(0, 4);
    const shown = rendered(<SpaceInspector ids={ids} />);
    const area = ids.reduce((s, i) => s + (geometry.spaces.get(i)?.floorArea as number), 0);
    expect(shown.text).toContain("4 spaces");
    expect(shown.text).toContain(`Floor area ${area.toFixed(1)} m²`);
    expect(shown.value("Zone")).toBe("varies");
  });
});

describe("the inspector of a wall", () => {
  const face = geometry.faces.find(
    (f) => f.kind === "wall" && f.contact === "outdoors" && openings.some((o) => o.face === f.key),
  ) as (typeof geometry.faces)[number];
  it("shows what it touches, what it is made of and its openings", () => {
    const shown = rendered(<WallInspector host={face.host} />);
    expect(shown.text).toContain("outdoors");
    expect(shown.value("Behind it")).toBe("found by geometry");
    for (const o of openings.filter((o) => o.face === face.key)) expect(shown.text).toContain(`${o.name} ${o.area.toFixed(1)} m²`);
  });
  it("tells what is set by hand", () => {
    const hand: Project = { ...library, faceOverrides: { ...library.faceOverrides, h: { host: face.host, assembly: null, contact: "adiabatic" } } };
    show(hand);
    const shown = rendered(<WallInspector host={face.host} />);
    expect(shown.text).toContain("adiabatic, set by hand");
    expect(shown.value("Behind it")).toBe("adiabatic");
  });
  it("of a side that is no more says so", () => {
    expect(rendered(<WallInspector host="nowhere/e0" />).text).toContain("this side has no face");
  });
});

describe("the inspector of openings", () => {
  it("shows every record with what it makes", () => {
    for (const [id, o] of Object.entries(library.openings)) {
      const shown = rendered(<OpeningInspector id={id} />);
      expect(shown.value("Opening name")).toBe(o.name);
      const made = openings.filter((x) => x.record === id);
      expect(made.length).toBeGreaterThan(0);
    }
  });
  it("puts the problem of an opening past its wall in its place, with the way to mend it", () => {
    const [id, placed] = Object.entries(library.openings).find(([, o]) => o.kind === "placed") as [string, Project["openings"][string]];
    const wide = { ...library, openings: { ...library.openings, [id]: { ...placed, width: 400 } } } as Project;
    show(wide);
    const text = rendered(<OpeningInspector id={id} />).text;
    const own = checkProject(wide).problems.filter((p) => p.path.startsWith(`openings/${id}`));
    expect(own.length).toBeGreaterThan(0);
    expect(text).toContain(own[0].message);
    if (own[0].fix) expect(text).toContain(own[0].fix.label);
  });
});
