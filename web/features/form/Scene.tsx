"use client";
import { Canvas, useThree, type ThreeEvent } from "@react-three/fiber";
import { OrbitControls } from "@react-three/drei";
import { useEffect, useMemo, useRef, useState } from "react";
import * as THREE from "three";
import { checkProject, facePolygons, opaqueCaster, SKYLINE, type Face, type Project, type Vector } from "@arroyo/core";
import type { SceneArrow } from "../airflow/arrows.ts";
import { useStore } from "../store.ts";
import { useForm } from "./formStore.ts";
import { Batch, classOf, classTint, faultyPlaces, lineGeometry, normalOf, patterns, patternTexture, tellFace, toScene, type Pattern } from "./sceneParts.ts";

interface Token {
  readonly paper: string;
  readonly ink: string;
  readonly water: string;
  readonly wash: string;
  readonly glass: string;
  readonly shade: string;
  readonly leaf: string;
  /** Photovoltaic modules. */
  readonly cells: string;
  readonly clay: string;
}
function tokens(): Token {
  const dark = document.documentElement.classList.contains("dark");
  return dark
    ? {
        paper: "#3B3D40",
        ink: "#D8D3C8",
        water: "#6FBCCB",
        wash: "#3E6A73",
        glass: "#47646B",
        shade: "#6B5B45",
        leaf: "#66705A",
        cells: "#7B97A1",
        clay: "#C97355",
      }
    : {
        paper: "#F3EDE2",
        ink: "#23262B",
        water: "#0E6B80",
        wash: "#A9D3DA",
        glass: "#A9C6CC",
        shade: "#D9C7A8",
        leaf: "#A9B593",
        cells: "#566C76",
        clay: "#D08B6F",
      };
}

/** What colours faces: null leaves the paper. */
/** An area on the floor of a space. */
export interface FloorArea {
  readonly space: string;
  readonly fill: string;
  readonly polygons: readonly (readonly (readonly (readonly [number, number])[])[])[];
}
export type Paint = (face: Face) => string | null;

const patternOf = (f: Face): Pattern => (f.contact === "ground" ? "dots" : f.contact === "space" ? "hatch" : "plain");

interface Orbit {
  target: THREE.Vector3;
  update(): void;
}

/** Turns a camera to a box, keeping its direction unless it is the first look. */
function aim(camera: THREE.OrthographicCamera, orbit: Orbit, box: THREE.Box3, first: boolean, size: { readonly width: number; readonly height: number }): void {
  const middle = box.getCenter(new THREE.Vector3());
  const away = first ? new THREE.Vector3(-1, 0.75, 1.1).normalize().multiplyScalar(200) : camera.position.clone().sub(orbit.target);
  orbit.target.copy(middle);
  camera.position.copy(middle).add(away);
  orbit.update();
  camera.updateMatrixWorld();
  // the box as the camera sees it fills the view
  const seen = new THREE.Box3();
  for (let i = 0; i < 8; i++) {
    const corner = new THREE.Vector3(i & 1 ? box.min.x : box.max.x, i & 2 ? box.min.y : box.max.y, i & 4 ? box.min.z : box.max.z);
    seen.expandByPoint(corner.applyMatrix4(camera.matrixWorldInverse));
  }
  const extent = seen.getSize(new THREE.Vector3());
  camera.zoom = 0.88 * Math.min(size.width / Math.max(3, extent.x), size.height / Math.max(3, extent.y));
  camera.updateProjectionMatrix();
}

/** Frames what is asked for, once for a project and at each request. */
function Framing({ box, focus }: { box: THREE.Box3; focus: THREE.Box3 | null }) {
  const { camera, controls, size, invalidate } = useThree();
  const asked = useForm((s) => s.focus);
  const first = useRef(true);
  const framed = useRef(0);
  const [mine, setMine] = useState(0);
  const reach = box.isEmpty() ? 0 : box.getSize(new THREE.Vector3()).length();
  // what grew out of the view or shrank far within it is framed again
  if (reach > 0 && mine > 0 && (reach > 1.2 * mine || reach < 0.6 * mine)) setMine(reach);
  else if (reach > 0 && mine === 0) setMine(reach);
  useEffect(() => {
    const orbit = controls as unknown as Orbit | null;
    if (!orbit || !(camera instanceof THREE.OrthographicCamera)) return;
    const b = framed.current === mine && focus ? focus : box;
    framed.current = mine;
    if (b.isEmpty()) return;
    aim(camera, orbit, b, first.current, size);
    first.current = false;
    invalidate();
    // framed once, and when asked
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [asked, controls, mine]);
  return null;
}

/** Tells the drawing to the page: draw calls for those who measure. */
function Meter() {
  const { gl, scene, camera } = useThree();
  useEffect(() => {
    (window as unknown as { arroyoScene?: unknown }).arroyoScene = {
      measure: () => {
        const began = performance.now();
        gl.info.reset();
        gl.render(scene, camera);
        return { calls: gl.info.render.calls, triangles: gl.info.render.triangles, script: performance.now() - began };
      },
    };
    return () => {
      (window as unknown as { arroyoScene?: unknown }).arroyoScene = undefined;
    };
  }, [gl, scene, camera]);
  return null;
}

/** An arrow from its place on, or a ring about it, drawn over what stands before it. */
function Arrow({ arrow: { at, way, length, width, ring }, colour }: { arrow: SceneArrow; colour: string }) {
  const material = <meshBasicMaterial color={colour} depthTest={false} transparent opacity={0.9} />;
  const place = toScene(at);
  if (ring)
    return (
      <mesh position={place} renderOrder={10}>
        <sphereGeometry args={[width, 12, 8]} />
        <meshBasicMaterial color={colour} wireframe depthTest={false} />
      </mesh>
    );
  const turn = new THREE.Quaternion().setFromUnitVectors(new THREE.Vector3(0, 1, 0), toScene(way).normalize());
  const head = Math.min(0.45 * length, 3.2 * width + 0.25);
  return (
    <group position={place} quaternion={turn}>
      <mesh position={[0, (length - head) / 2, 0]} renderOrder={10}>
        <cylinderGeometry args={[width / 2, width / 2, length - head, 8]} />
        {material}
      </mesh>
      <mesh position={[0, length - head / 2, 0]} renderOrder={10}>
        <coneGeometry args={[width / 2 + 0.18, head, 12]} />
        {material}
      </mesh>
    </group>
  );
}

/** The building in three dimensions; what a face touches is told by its pattern, what was set by hand by a dashed edge. */
export function Scene({
  project,
  upTo,
  onPick,
  paint,
  sun,
  onTell,
  words,
  floors,
  arrows,
  canvas,
}: {
  project: Project;
  upTo: string | null;
  onPick: (face: Face, e: { shiftKey: boolean }) => void;
  paint?: Paint;
  /** Direction toward the sun in plan coordinates; null: an even light. */
  sun: Vector | null;
  onTell?: (text: string | null) => void;
  /** What is told of a face besides what it is. */
  words?: (face: Face) => string | null;
  /** Areas drawn on the floors of spaces, plan m, with holes. */
  floors?: readonly FloorArea[];
  /** Arrows and rings that are seen through the building. */
  arrows?: readonly SceneArrow[];
  canvas?: (c: HTMLCanvasElement) => void;
}) {
  const selection = useStore((s) => s.selection);
  const { shown, hidden } = useForm();
  const chosen = useMemo(() => new Set(selection.map((s) => (s.kind === "space" ? s.id : ""))), [selection]);
  const wall = selection.find((s) => s.kind === "wall")?.id;
  const opening = selection.find((s) => s.kind === "opening")?.id;
  const checked = checkProject(project);
  const { geometry, openings, inner, shades, surroundings } = checked;
  const look = useMemo(() => tokens(), []);
  const textures = useMemo(() => Object.fromEntries(patterns.map((p) => [p, patternTexture(p, look.ink)])) as Record<Pattern, THREE.CanvasTexture>, [look]);
  const limit = upTo === null ? Infinity : project.storeys[upTo].elevation + 1;

  const parts = useMemo(() => {
    const faulty = faultyPlaces(project, checked);
    const visible = geometry.faces.filter((f) => {
      const space = geometry.spaces.get(f.space);
      if (hidden.has(f.space)) return false;
      if (upTo !== null && ((space?.low ?? 0) > limit || (f.kind === "ceiling" && f.low > limit))) return false;
      // inner faces show where something in front of them is taken away
      return f.contact !== "space" || (upTo !== null && f.low <= limit) || hidden.has(f.partnerSpace ?? "");
    });
    const classes = [...new Set(visible.flatMap((f) => classOf(project, checked, shown, f, faulty) ?? []))].sort();
    const batches = Object.fromEntries(patterns.map((p) => [p, new Batch()])) as Record<Pattern, Batch>;
    const lines: { polygons: Vector[][][]; colour: string }[] = [];
    const dashed: { polygons: Vector[][][]; colour: string }[] = [];
    const box = new THREE.Box3();
    for (const f of visible) {
      const polygons = facePolygons(f);
      const on = chosen.has(f.space) || wall === f.host;
      const own = paint?.(f);
      const name = own === undefined ? classOf(project, checked, shown, f, faulty) : null;
      const tint =
        own ??
        (name === null
          ? look.paper
          : name === "has a problem"
            ? look.clay
            : name === "sound"
              ? look.paper
              : classTint[classes.indexOf(name) % classTint.length]);
      batches[own ? "plain" : patternOf(f)].add(f.key, polygons, f.normal, on && !own ? look.wash : tint);
      (f.byHand ? dashed : lines).push({ polygons, colour: on ? look.water : look.ink });
      for (const ring of polygons.flat()) for (const p of ring) box.expandByPoint(toScene(p));
    }
    return {
      batches,
      geometries: patterns.map((p) => batches[p].geometry()),
      lines: lineGeometry(lines),
      dashed: lineGeometry(dashed),
      box,
      any: dashed.length > 0,
    };
  }, [project, checked, geometry, shown, hidden, upTo, limit, chosen, wall, paint, look]);

  const within = useMemo(() => {
    const batch = new Batch();
    const lines: { polygons: Vector[][][]; colour: string }[] = [];
    for (const o of inner) {
      const face = geometry.byKey.get(o.face);
      // an inner door shows where its wall does
      if (!face || hidden.has(face.space) || !(hidden.has(face.partnerSpace ?? "") || (upTo !== null && face.low <= limit))) continue;
      const lifted = o.corners.map((p): Vector => [p[0] + face.normal[0] * 0.04, p[1] + face.normal[1] * 0.04, p[2]]);
      batch.add(o.face, [[lifted]], face.normal, o.record === opening ? look.clay : o.use === "door" ? look.shade : look.paper);
      lines.push({ polygons: [[lifted]], colour: o.record === opening ? look.water : look.ink });
    }
    return { piece: batch.geometry(), lines: lineGeometry(lines) };
  }, [inner, geometry, hidden, upTo, limit, opening, look]);

  const glass = useMemo(() => {
    const batch = new Batch();
    const lines: { polygons: Vector[][][]; colour: string }[] = [];
    for (const o of openings) {
      const face = geometry.byKey.get(o.face);
      if (!face || hidden.has(face.space) || (upTo !== null && o.low > limit + 4)) continue;
      const lifted = o.corners.map((p): Vector => [p[0] + face.normal[0] * 0.04, p[1] + face.normal[1] * 0.04, p[2] + face.normal[2] * 0.04]);
      batch.add(o.face, [[lifted]], face.normal, o.record === opening ? look.clay : o.use === "door" ? look.shade : look.glass);
      lines.push({ polygons: [[lifted]], colour: o.record === opening ? look.water : look.ink });
    }
    return { batch, piece: batch.geometry(), lines: lineGeometry(lines) };
  }, [openings, geometry, hidden, upTo, limit, opening, look]);

  const drawn = useMemo(() => {
    const batch = new Batch();
    for (const { space, fill, polygons } of floors ?? []) {
      const shape = geometry.spaces.get(space);
      if (!shape || hidden.has(space) || (upTo !== null && shape.low > limit)) continue;
      batch.add(
        space,
        polygons.map((rings) => rings.map((ring) => ring.map(([x, y]): Vector => [x, y, shape.low + 0.06]))),
        [0, 0, 1],
        fill,
      );
    }
    return batch.geometry();
  }, [floors, geometry, hidden, upTo, limit]);

  const around = useMemo(() => {
    const solid = new Batch();
    const leaves = new Batch();
    const lines: { polygons: Vector[][][]; colour: string }[] = [];
    const box = new THREE.Box3();
    // the skyline stands kilometres away: it shades, and would make the building a speck
    const near = surroundings.filter((s) => s.record !== SKYLINE);
    for (const s of [...shades, ...near]) {
      const ring = [...s.corners];
      const solidOne = opaqueCaster(s);
      const tint = Object.hasOwn(project.onSite, s.record) ? look.cells : look.shade;
      (solidOne ? solid : leaves).add(s.key, [[ring]], normalOf(ring), solidOne ? tint : look.leaf);
      lines.push({ polygons: [[ring]], colour: look.ink });
    }
    for (const s of near) for (const p of s.corners) box.expandByPoint(toScene(p));
    return { solid: solid.geometry(), leaves: leaves.geometry(), lines: lineGeometry(lines), box };
  }, [shades, surroundings, look, project.onSite]);

  const focus = useMemo(() => {
    const box = new THREE.Box3();
    for (const f of geometry.faces)
      if (chosen.has(f.space) || f.host === wall || openings.some((o) => o.record === opening && o.face === f.key))
        for (const ring of facePolygons(f).flat()) for (const p of ring) box.expandByPoint(toScene(p));
    return box.isEmpty() ? null : box;
  }, [geometry, openings, chosen, wall, opening]);

  const faceOf = (batch: Batch, e: ThreeEvent<MouseEvent | PointerEvent>): Face | undefined =>
    e.faceIndex === null || e.faceIndex === undefined ? undefined : geometry.byKey.get(batch.owners[e.faceIndex]);
  const pick = (batch: Batch) => (e: ThreeEvent<MouseEvent>) => {
    e.stopPropagation();
    const f = faceOf(batch, e);
    if (e.delta < 4 && f) onPick(f, e);
  };
  const tell = (batch: Batch) => (e: ThreeEvent<PointerEvent>) => {
    e.stopPropagation();
    const f = faceOf(batch, e);
    onTell?.(f ? [tellFace(project, f), words?.(f)].filter(Boolean).join(" · ") : null);
  };
  const whole = useMemo(() => parts.box.clone().union(around.box), [parts, around]);
  const reach = whole.isEmpty() ? 20 : whole.getSize(new THREE.Vector3()).length();
  const middle = whole.isEmpty() ? new THREE.Vector3() : whole.getCenter(new THREE.Vector3());
  const light = sun
    ? toScene(sun)
        .multiplyScalar(reach * 1.5)
        .add(middle)
    : new THREE.Vector3(-40, 70, 60).add(middle);
  return (
    <Canvas
      frameloop="demand"
      orthographic
      shadows={sun ? "percentage" : false}
      camera={{ position: [-100, 75, 110], zoom: 10, near: -2000, far: 4000 }}
      role="img"
      aria-label="The building in three dimensions"
      gl={{ antialias: true, preserveDrawingBuffer: true }}
      onCreated={({ gl }) => canvas?.(gl.domElement)}
      onPointerMissed={() => onTell?.(null)}
    >
      <ambientLight intensity={sun ? 1.5 : 2.1} />
      <directionalLight
        key={sun ? `sun${reach.toFixed(0)}` : "even"}
        position={light}
        target-position={middle}
        intensity={sun ? 2.4 : 1.3}
        castShadow={sun !== null}
        shadow-mapSize={[2048, 2048]}
        shadow-bias={-0.0008}
        shadow-normalBias={0.05}
        shadow-camera-left={-reach}
        shadow-camera-right={reach}
        shadow-camera-top={reach}
        shadow-camera-bottom={-reach}
        shadow-camera-near={0.1}
        shadow-camera-far={reach * 4}
      />
      {sun && (
        <mesh rotation={[-Math.PI / 2, 0, 0]} position={[middle.x, -0.02, middle.z]} receiveShadow>
          <planeGeometry args={[reach * 4, reach * 4]} />
          <shadowMaterial opacity={0.28} />
        </mesh>
      )}
      {patterns.map((p, i) => (
        <mesh key={p} geometry={parts.geometries[i]} castShadow receiveShadow onClick={pick(parts.batches[p])} onPointerMove={tell(parts.batches[p])}>
          <meshLambertMaterial
            vertexColors
            map={textures[p]}
            side={THREE.DoubleSide}
            shadowSide={THREE.DoubleSide}
            polygonOffset
            polygonOffsetFactor={1}
            polygonOffsetUnits={1}
          />
        </mesh>
      ))}
      <lineSegments geometry={parts.lines}>
        <lineBasicMaterial vertexColors />
      </lineSegments>
      {parts.any && (
        <lineSegments geometry={parts.dashed} onUpdate={(l) => l.computeLineDistances()}>
          <lineDashedMaterial vertexColors dashSize={0.4} gapSize={0.25} />
        </lineSegments>
      )}
      <mesh geometry={drawn}>
        <meshLambertMaterial vertexColors side={THREE.DoubleSide} />
      </mesh>
      <mesh geometry={glass.piece} receiveShadow onClick={pick(glass.batch)} onPointerMove={tell(glass.batch)}>
        <meshLambertMaterial vertexColors side={THREE.DoubleSide} />
      </mesh>
      <mesh geometry={within.piece}>
        <meshLambertMaterial vertexColors side={THREE.DoubleSide} />
      </mesh>
      <lineSegments geometry={within.lines}>
        <lineBasicMaterial vertexColors />
      </lineSegments>
      <lineSegments geometry={glass.lines}>
        <lineBasicMaterial vertexColors />
      </lineSegments>
      <mesh geometry={around.solid} castShadow receiveShadow>
        <meshLambertMaterial vertexColors side={THREE.DoubleSide} shadowSide={THREE.DoubleSide} />
      </mesh>
      <mesh geometry={around.leaves} castShadow>
        <meshLambertMaterial vertexColors side={THREE.DoubleSide} transparent opacity={0.55} />
      </mesh>
      <lineSegments geometry={around.lines}>
        <lineBasicMaterial vertexColors />
      </lineSegments>
      {arrows?.map((a, i) => (
        <Arrow key={i} arrow={a} colour={look[a.tint]} />
      ))}
      <OrbitControls makeDefault enableDamping={false} />
      <Framing box={whole} focus={focus} />
      <Meter />
    </Canvas>
  );
}
