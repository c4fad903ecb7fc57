"use client";
import { Canvas, type ThreeEvent } from "@react-three/fiber";
import { OrbitControls } from "@react-three/drei";
import { useMemo } from "react";
import * as THREE from "three";
import { checkProject, wallCorners, type Face, type Project, type Vector } from "@arroyo/core";
import { useStore } from "../store.ts";

type Pattern = "plain" | "dots" | "hatch";

/** World of the scene: x right, y up, z toward the viewer of the plan. */
const toScene = ([x, y, z]: Vector): THREE.Vector3 => new THREE.Vector3(x, z, -y);

/** A one-metre tile of the pattern that tells what a face touches. */
function patternTexture(pattern: Pattern, paper: string, ink: string): THREE.CanvasTexture {
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = 64;
  const c = canvas.getContext("2d") as CanvasRenderingContext2D;
  c.fillStyle = paper;
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

/** Triangles of a plane piece given by rings in the scene, with texture coordinates in metres. */
function pieceGeometry(rings: Vector[][], normal: Vector): THREE.BufferGeometry {
  const u = Math.abs(normal[2]) > 0.9 ? new THREE.Vector3(1, 0, 0) : toScene([-normal[1], normal[0], 0]);
  const v = Math.abs(normal[2]) > 0.9 ? new THREE.Vector3(0, 0, -1) : new THREE.Vector3(0, 1, 0);
  const flat = rings.map((r) => r.map((p) => new THREE.Vector2(toScene(p).dot(u), toScene(p).dot(v))));
  const triangles = THREE.ShapeUtils.triangulateShape(flat[0], flat.slice(1));
  const points = rings.flat().map(toScene);
  const places = flat.flat();
  const g = new THREE.BufferGeometry();
  g.setAttribute(
    "position",
    new THREE.Float32BufferAttribute(
      points.flatMap((p) => [p.x, p.y, p.z]),
      3,
    ),
  );
  g.setAttribute(
    "uv",
    new THREE.Float32BufferAttribute(
      places.flatMap((p) => [p.x, p.y]),
      2,
    ),
  );
  g.setIndex(triangles.flat());
  const n = toScene(normal);
  g.setAttribute(
    "normal",
    new THREE.Float32BufferAttribute(
      points.flatMap(() => [n.x, n.y, n.z]),
      3,
    ),
  );
  return g;
}

const ringsOf = (face: Face): Vector[][][] =>
  face.wall
    ? [[wallCorners(face, face.wall)]]
    : (face.plate?.polygons ?? []).map((polygon) => polygon.map((ring) => ring.map(([x, y]): Vector => [x, y, face.plate?.level ?? 0])));

/** Upward or outward normal of a plane ring, for its light. */
function normalOf(ring: readonly Vector[]): Vector {
  const a = ring[0];
  const u = ring[1].map((v, i) => v - a[i]);
  const v = ring[2].map((x, i) => x - a[i]);
  const n: Vector = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  const l = Math.hypot(...n) || 1;
  return [n[0] / l, n[1] / l, n[2] / l];
}

function edgeGeometry(pieces: Vector[][][]): THREE.BufferGeometry {
  const points: THREE.Vector3[] = [];
  for (const rings of pieces) for (const ring of rings) ring.forEach((p, i) => points.push(toScene(p), toScene(ring[(i + 1) % ring.length])));
  return new THREE.BufferGeometry().setFromPoints(points);
}

interface Token {
  readonly paper: string;
  readonly ink: string;
  readonly water: string;
  readonly glass: string;
  readonly shade: string;
  readonly leaf: string;
}
function tokens(): Token {
  const dark = document.documentElement.classList.contains("dark");
  return dark
    ? { paper: "#35373A", ink: "#D8D3C8", water: "#6FBCCB", glass: "#47646B", shade: "#6B5B45", leaf: "#66705A" }
    : { paper: "#F3EDE2", ink: "#23262B", water: "#0E6B80", glass: "#A9C6CC", shade: "#D9C7A8", leaf: "#A9B593" };
}

/** The building in three dimensions; what a face touches is told by its pattern. */
export function Scene({ project, upTo, onPick }: { project: Project; upTo: string | null; onPick: (id: string, add: boolean) => void }) {
  const selection = useStore((s) => s.selection);
  const chosen = new Set(selection.filter((s) => s.kind === "space").map((s) => s.id));
  const { geometry, openings, shades, surroundings } = checkProject(project);
  const look = useMemo(() => tokens(), []);
  const textures = useMemo(
    () => ({
      plain: patternTexture("plain", look.paper, look.ink),
      dots: patternTexture("dots", look.paper, look.ink),
      hatch: patternTexture("hatch", look.paper, look.ink),
      chosen: patternTexture("plain", look.water, look.ink),
    }),
    [look],
  );
  const limit = upTo === null ? Infinity : project.storeys[upTo].elevation + 1;
  const parts = useMemo(() => {
    const shown = geometry.faces.filter((f) => {
      const low = f.wall ? f.wall.low : (f.plate?.level ?? 0);
      const space = geometry.spaces.get(f.space);
      if (upTo !== null && ((space?.low ?? 0) > limit || (f.kind === "ceiling" && (f.plate?.level ?? 0) > limit))) return false;
      return f.contact !== "space" || (upTo !== null && low <= limit);
    });
    return shown.map((f) => {
      const pieces = ringsOf(f);
      return {
        face: f,
        pieces: pieces.map((r) => pieceGeometry(r, f.normal)),
        edges: edgeGeometry(pieces),
        pattern: (f.contact === "ground" ? "dots" : f.contact === "space" ? "hatch" : "plain") as Pattern,
      };
    });
  }, [geometry, upTo, limit]);
  const glass = useMemo(
    () =>
      openings.flatMap((o) => {
        const face = geometry.byKey.get(o.face);
        if (!face || (upTo !== null && o.low > limit + 4)) return [];
        const lifted = wallCorners(face, o).map((p): Vector => [p[0] + face.normal[0] * 0.05, p[1] + face.normal[1] * 0.05, p[2]]);
        return [{ o, space: face.space, piece: pieceGeometry([lifted], face.normal), edges: edgeGeometry([[lifted]]) }];
      }),
    [geometry, openings, upTo, limit],
  );
  const planes = useMemo(
    () =>
      [...shades, ...surroundings].map((s) => ({
        key: s.key,
        piece: pieceGeometry([[...s.corners]], normalOf(s.corners)),
        edges: edgeGeometry([[[...s.corners]]]),
        through: s.transmittance !== null,
        around: surroundings.some((x) => x === s),
      })),
    [shades, surroundings],
  );
  const bounds = useMemo(() => {
    const box = new THREE.Box3();
    for (const p of parts) for (const g of p.pieces) box.union(new THREE.Box3().setFromBufferAttribute(g.getAttribute("position") as THREE.BufferAttribute));
    for (const p of planes) if (p.around) box.union(new THREE.Box3().setFromBufferAttribute(p.piece.getAttribute("position") as THREE.BufferAttribute));
    const centre = box.isEmpty() ? new THREE.Vector3() : box.getCenter(new THREE.Vector3());
    const size = box.isEmpty() ? 20 : box.getSize(new THREE.Vector3()).length();
    return { centre, size };
    // the view is framed once for a project, not at every edit
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [project.id]);
  const pick = (id: string) => (e: ThreeEvent<MouseEvent>) => {
    e.stopPropagation();
    if (e.delta < 4) onPick(id, e.shiftKey);
  };
  const { centre, size } = bounds;
  return (
    <Canvas
      frameloop="demand"
      orthographic
      camera={{ position: [centre.x - size, centre.y + size * 0.75, centre.z + size * 1.1], zoom: 300 / size, near: -500, far: 2000 }}
      role="img"
      aria-label="The building in three dimensions"
      gl={{ antialias: true, preserveDrawingBuffer: true }}
    >
      <ambientLight intensity={2.1} />
      <directionalLight position={[-40, 70, 60]} intensity={1.3} />
      {parts.map(({ face, pieces, edges, pattern }) => (
        <group key={face.key}>
          {pieces.map((g, i) => (
            <mesh key={i} geometry={g} onClick={pick(face.space)}>
              <meshLambertMaterial
                map={chosen.has(face.space) ? textures.chosen : textures[pattern]}
                side={THREE.DoubleSide}
                polygonOffset
                polygonOffsetFactor={1}
                polygonOffsetUnits={1}
                transparent={chosen.has(face.space)}
                opacity={chosen.has(face.space) ? 0.45 : 1}
              />
            </mesh>
          ))}
          <lineSegments geometry={edges}>
            <lineBasicMaterial color={chosen.has(face.space) ? look.water : look.ink} />
          </lineSegments>
        </group>
      ))}
      {glass.map(({ o, space, piece, edges }) => (
        <group key={o.key}>
          <mesh geometry={piece} onClick={pick(space)}>
            <meshLambertMaterial color={o.use === "door" ? look.shade : look.glass} side={THREE.DoubleSide} />
          </mesh>
          <lineSegments geometry={edges}>
            <lineBasicMaterial color={look.ink} />
          </lineSegments>
        </group>
      ))}
      {planes.map((p) => (
        <group key={p.key}>
          <mesh geometry={p.piece}>
            <meshLambertMaterial color={p.through ? look.leaf : look.shade} side={THREE.DoubleSide} transparent={p.through} opacity={p.through ? 0.55 : 1} />
          </mesh>
          <lineSegments geometry={p.edges}>
            <lineBasicMaterial color={look.ink} />
          </lineSegments>
        </group>
      ))}
      <OrbitControls makeDefault target={centre} enableDamping={false} />
    </Canvas>
  );
}
