import * as THREE from "three";
import { faceAssembly, orientationOf, type Checked, type Face, type Project, type Vector } from "@arroyo/core";
import { contactName } from "./names.ts";
import type { ShownBy } from "./formStore.ts";

/** Patterns tell what a face touches. */
export const patterns = ["plain", "dots", "hatch"] as const;
export type Pattern = (typeof patterns)[number];

/** World of the scene: x right, y up, z toward the viewer of the plan. */
export const toScene = ([x, y, z]: Vector): THREE.Vector3 => new THREE.Vector3(x, z, -y);

/** Mid tints for classes in 3D; more classes than tints go round again. */
export const classTint = ["#B8CBB0", "#DCC79A", "#D3A893", "#A8C3D0", "#C3AFC9", "#C9C28D", "#9FC2B8", "#CFAFB4", "#B7B3A8", "#8FA7A0", "#D9B98A", "#A5AFC8"];
/** Scale of one direction for heat maps: five stops of our own that rise evenly in lightness. */
const RAMP = ["#2B3A57", "#2F6173", "#4B8B7C", "#95B26B", "#EBD56A"];

/** Colour of a share of the scale, 0…1. */
export function rampColour(share: number): string {
  const x = Math.min(1, Math.max(0, share)) * (RAMP.length - 1);
  const i = Math.min(RAMP.length - 2, Math.floor(x));
  return `#${new THREE.Color(RAMP[i]).lerp(new THREE.Color(RAMP[i + 1]), x - i).getHexString()}`;
}

/** A one-metre tile of the pattern, white so that colours show through. */
export function patternTexture(pattern: Pattern, ink: string): THREE.CanvasTexture {
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = 64;
  const c = canvas.getContext("2d") as CanvasRenderingContext2D;
  c.fillStyle = "#ffffff";
  c.fillRect(0, 0, 64, 64);
  c.fillStyle = c.strokeStyle = ink;
  if (pattern === "dots")
    for (const [x, y] of [
      [16, 16],
      [48, 48],
    ])
      c.fillRect(x - 3, y - 3, 6, 6);
  if (pattern === "hatch") {
    c.lineWidth = 3;
    for (let d = -64; d <= 64; d += 16) {
      c.beginPath();
      c.moveTo(d, 64);
      c.lineTo(d + 64, 0);
      c.stroke();
    }
  }
  const texture = new THREE.CanvasTexture(canvas);
  texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
  texture.colorSpace = THREE.SRGBColorSpace;
  texture.anisotropy = 4;
  return texture;
}

/** Pieces of plane things gathered into one geometry; which thing a triangle belongs to is kept for picking. */
export class Batch {
  private readonly positions: number[] = [];
  private readonly places: number[] = [];
  private readonly normals: number[] = [];
  private readonly colours: number[] = [];
  private readonly indices: number[] = [];
  /** Owner of each triangle. */
  readonly owners: string[] = [];
  add(owner: string, polygons: readonly (readonly (readonly Vector[])[])[], normal: Vector, colour: string): void {
    const flat = Math.abs(normal[2]) > 0.9;
    const u = flat ? new THREE.Vector3(1, 0, 0) : toScene([-normal[1], normal[0], 0]).normalize();
    const n = toScene(normal);
    const v = flat ? new THREE.Vector3(0, 0, -1) : new THREE.Vector3().crossVectors(n, u).normalize();
    const { r, g, b } = new THREE.Color(colour);
    for (const rings of polygons) {
      const points = rings.map((ring) => ring.map(toScene));
      const plane = points.map((ring) => ring.map((p) => new THREE.Vector2(p.dot(u), p.dot(v))));
      const first = this.positions.length / 3;
      points.flat().forEach((p, i) => {
        this.positions.push(p.x, p.y, p.z);
        const q = plane.flat()[i];
        this.places.push(q.x, q.y);
        this.normals.push(n.x, n.y, n.z);
        this.colours.push(r, g, b);
      });
      for (const [a, c, d] of THREE.ShapeUtils.triangulateShape(plane[0], plane.slice(1))) {
        this.indices.push(first + a, first + c, first + d);
        this.owners.push(owner);
      }
    }
  }
  geometry(): THREE.BufferGeometry {
    const g = new THREE.BufferGeometry();
    g.setAttribute("position", new THREE.Float32BufferAttribute(this.positions, 3));
    g.setAttribute("uv", new THREE.Float32BufferAttribute(this.places, 2));
    g.setAttribute("normal", new THREE.Float32BufferAttribute(this.normals, 3));
    g.setAttribute("color", new THREE.Float32BufferAttribute(this.colours, 3));
    g.setIndex(this.indices);
    return g;
  }
}

/** Lines of outlines, solid or dashed. */
export function lineGeometry(
  items: readonly { readonly polygons: readonly (readonly (readonly Vector[])[])[]; readonly colour: string }[],
): THREE.BufferGeometry {
  const positions: number[] = [];
  const colours: number[] = [];
  for (const { polygons, colour } of items) {
    const { r, g, b } = new THREE.Color(colour);
    for (const rings of polygons)
      for (const ring of rings)
        ring.forEach((p, i) => {
          const [a, c] = [toScene(p), toScene(ring[(i + 1) % ring.length])];
          positions.push(a.x, a.y, a.z, c.x, c.y, c.z);
          colours.push(r, g, b, r, g, b);
        });
  }
  const out = new THREE.BufferGeometry();
  out.setAttribute("position", new THREE.Float32BufferAttribute(positions, 3));
  out.setAttribute("color", new THREE.Float32BufferAttribute(colours, 3));
  return out;
}

/** Upward or outward normal of a plane ring, for its light. */
export function normalOf(ring: readonly Vector[]): Vector {
  const a = ring[0];
  const u = ring[1].map((v, i) => v - a[i]);
  const v = ring[2].map((x, i) => x - a[i]);
  const n: Vector = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  const l = Math.hypot(...n) || 1;
  return [n[0] / l, n[1] / l, n[2] / l];
}

/** Class of a face under a way of showing; null: plain paper, told by pattern alone. */
export function classOf(project: Project, checked: Checked, shown: ShownBy, f: Face, faulty: ReadonlySet<string>): string | null {
  const space = project.spaces[f.space];
  switch (shown) {
    case "contact":
      return null;
    case "assembly":
      return project.assemblies[faceAssembly(project, f, f.partner ? (checked.geometry.byKey.get(f.partner)?.host ?? null) : null).id]?.name ?? null;
    case "space type":
      return space.spaceType === null ? "no type" : project.spaceTypes[space.spaceType].name;
    case "zone":
      return space.zone === null ? "no zone" : (project.zones[space.zone]?.name ?? "no zone");
    case "orientation":
      return f.kind === "wall" ? orientationOf(f.azimuth) : f.kind === "ceiling" ? "up" : "down";
    case "problem":
      return faulty.has(`spaces/${f.space}`) || faulty.has(`zones/${space.zone ?? ""}`) ? "has a problem" : "sound";
  }
}

/** Spaces and zones with a problem, and openings' spaces. */
export function faultyPlaces(project: Project, checked: Checked): Set<string> {
  const out = new Set<string>();
  for (const p of checked.problems) {
    const [part, id] = p.path.split("/");
    out.add(`${part}/${id}`);
    const o = part === "openings" ? project.openings[id] : null;
    if (o && "host" in o && o.host) out.add(`spaces/${o.host.split("/")[0]}`);
  }
  return out;
}

/** What is under the pointer, in words. */
export function tellFace(project: Project, f: Face): string {
  return `${project.spaces[f.space].name}: ${f.kind}${f.kind === "wall" ? ` ${orientationOf(f.azimuth)}` : ""}, ${contactName(project, f)}, ${f.area.toFixed(1)} m²`;
}
