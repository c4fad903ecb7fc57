import * as THREE from "three";
import { describe, expect, it } from "vitest";
import { checkProject, deriveFaces, facePolygons, type Face, type Project, type Vector } from "@arroyo/core";
import { clinic } from "../../../demo/clinic.ts";
import { library } from "../../../demo/library.ts";
import { faceName } from "../results/faceName.ts";
import { shownBy } from "./formStore.ts";
import { contactName, hostName } from "./names.ts";
import { Batch, classOf, faultyPlaces, lineGeometry, normalOf, rampColour, tellFace, toScene } from "./sceneParts.ts";

const square = (x: number, z: number): Vector[] => [
  [x, 0, z],
  [x + 1, 0, z],
  [x + 1, 2, z],
  [x, 2, z],
];
const faces = checkProject(clinic).geometry.faces;
const face = (test: (f: Face) => boolean): Face => {
  const found = faces.find(test);
  if (!found) throw new Error("the clinic has no such face");
  return found;
};
const copy = (p: Project): Project => JSON.parse(JSON.stringify(p)) as Project;

/** Area of the triangles of each owner, m². */
function areas(batch: Batch): Map<string, number> {
  const g = batch.geometry();
  const position = g.getAttribute("position") as THREE.BufferAttribute;
  const index = g.getIndex() as THREE.BufferAttribute;
  const at = (i: number): THREE.Vector3 => new THREE.Vector3().fromBufferAttribute(position, index.getX(i));
  const area = new Map<string, number>();
  batch.owners.forEach((owner, t) => {
    const a = new THREE.Triangle(at(3 * t), at(3 * t + 1), at(3 * t + 2)).getArea();
    area.set(owner, (area.get(owner) ?? 0) + a);
  });
  return area;
}

describe("pieces of the building in few geometries", () => {
  it("keep the area of what was put in, and whose each triangle is", () => {
    const batch = new Batch();
    batch.add("roof", [[square(0, 3)]], [0, 0, 1], "#ffffff");
    // a plate with a hole in it
    batch.add("plate", [[square(5, 0).map(([x, y, z]): Vector => [5 + 4 * (x - 5), 2 * y, z]), square(6, 0)]], [0, 0, -1], "#000000");
    const area = areas(batch);
    expect(batch.geometry().getIndex()?.count).toBe(3 * batch.owners.length);
    expect(area.get("roof")).toBeCloseTo(2, 6);
    expect(area.get("plate")).toBeCloseTo(16 - 2, 6);
  });
  it("turn plan coordinates so that up is up and north goes away from the viewer", () => {
    expect(toScene([1, 2, 3]).toArray()).toEqual([1, 3, -2]);
    expect(normalOf(square(0, 0))).toEqual([0, 0, 1]);
    expect(normalOf([...square(0, 0)].reverse())).toEqual([0, 0, -1]);
  });
  it("draw each edge of an outline once, closed", () => {
    const g = lineGeometry([{ polygons: [[square(0, 0), square(3, 0)]], colour: "#123456" }]);
    expect(g.getAttribute("position").count).toBe(2 * 8);
  });
  it("of the whole library have the area of its faces, each under its own key", () => {
    const batch = new Batch();
    const all = deriveFaces(library).faces;
    for (const f of all) batch.add(f.key, facePolygons(f), f.normal, "#ffffff");
    const area = areas(batch);
    for (const f of all) expect(area.get(f.key)).toBeCloseTo(f.area, 2);
  });
});

describe("the scale of a map", () => {
  it("rises in lightness from end to end, and holds beyond them", () => {
    const lightness = (share: number): number => {
      const { r, g, b } = new THREE.Color(rampColour(share));
      return 0.2126 * r + 0.7152 * g + 0.0722 * b;
    };
    for (let i = 0; i < 20; i++) expect(lightness((i + 1) / 20)).toBeGreaterThan(lightness(i / 20));
    expect(rampColour(-1)).toBe(rampColour(0));
    expect(rampColour(7)).toBe(rampColour(1));
  });
});

describe("names of faces", () => {
  const wall = face((f) => f.space === "office" && f.kind === "wall" && f.contact === "outdoors");
  const roof = face((f) => f.space === "office" && f.kind === "ceiling");
  const floor = face((f) => f.space === "office" && f.kind === "floor");
  const inner = face((f) => f.contact === "space");
  it("say what it is, where it looks and what it borders", () => {
    expect(hostName(clinic, wall.host)).toMatch(/^Office, (north|east|south|west) wall$/);
    expect(hostName(clinic, roof.host)).toBe("Office, roof");
    expect(hostName(clinic, floor.host)).toBe("Office, floor");
    expect(hostName(clinic, "nowhere/x")).toBe("nowhere/x");
    expect(contactName(clinic, wall)).toBe("outdoors");
    expect(contactName(clinic, floor)).toBe("ground");
    expect(contactName(clinic, inner)).toBe(`to ${clinic.spaces[inner.partnerSpace as string].name}`);
    expect(contactName(clinic, { ...wall, contact: "adiabatic", byHand: true })).toBe("adiabatic, set by hand");
    expect(tellFace(clinic, wall)).toBe(`Office: wall ${hostName(clinic, wall.host).split(" ")[1]}, outdoors, ${wall.area.toFixed(1)} m²`);
  });
  it("in results name openings, frames, roofs and neighbours", () => {
    expect(faceName(clinic, wall.key)).toMatch(/^wall [a-z-]+, Office$/);
    expect(faceName(clinic, roof.key)).toBe("roof, Office");
    expect(faceName(clinic, floor.key)).toBe("floor to ground, Office");
    expect(faceName(clinic, inner.key)).toContain(" – ");
    const opening = checkProject(clinic).openings[0];
    expect(faceName(clinic, opening.key)).toContain(`${opening.name}, `);
    expect(faceName(clinic, `${opening.key}|frame`)).toContain(`${opening.name}, frame, `);
    expect(faceName(clinic, "a face of another building")).toBe("a face of another building");
  });
});

describe("ways to show the building", () => {
  it("put every face in a class, or on plain paper where patterns tell it", () => {
    const checked = checkProject(clinic);
    for (const by of shownBy)
      for (const f of faces) {
        const found = classOf(clinic, checked, by, f, new Set());
        if (by === "contact") expect(found).toBeNull();
        else expect(found).toMatch(/\S/);
      }
    const [wall] = faces.filter((f) => f.kind === "wall" && f.contact === "outdoors");
    expect(classOf(clinic, checked, "orientation", wall, new Set())).toMatch(/^(north|east|south|west)$/);
    expect(classOf(clinic, checked, "zone", wall, new Set())).toBe(clinic.zones[clinic.spaces[wall.space].zone as string].name);
  });
  it("mark what has a problem: the space, its zone, and the space of an opening that does not fit", () => {
    const p = copy(clinic);
    const door = p.openings.door;
    if (door.kind !== "placed") throw new Error("the clinic's door is placed");
    door.offset = 50;
    const places = faultyPlaces(p, checkProject(p));
    expect(places).toContain("openings/door");
    const [space] = door.host.split("/");
    expect(places).toContain(`spaces/${space}`);
    const checked = checkProject(p);
    const of = (id: string): string | null =>
      classOf(
        p,
        checked,
        "problem",
        face((f) => f.space === id),
        places,
      );
    expect(of(space)).toBe("has a problem");
    expect(of(Object.keys(p.spaces).find((s) => s !== space) as string)).toBe("sound");
    expect(faultyPlaces(clinic, checkProject(clinic)).size).toBe(0);
  });
});
