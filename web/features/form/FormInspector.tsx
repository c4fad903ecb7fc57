"use client";
import { airPlan, checkProject, type Project } from "@arroyo/core";
import { useStore } from "../store.ts";
import { AirPathInspector } from "./AirPathInspector.tsx";
import { BuildingInspector } from "./BuildingInspector.tsx";
import { OpeningInspector } from "./OpeningInspector.tsx";
import { RoofInspector } from "./RoofInspector.tsx";
import { ShadeInspector } from "./ShadeInspector.tsx";
import { SpaceInspector } from "./SpaceInspector.tsx";
import { WallInspector } from "./WallInspector.tsx";

/** What is selected on the Form desk, to see and change. */
export function FormInspector({ storey }: { storey: string }) {
  const project = useStore((s) => s.project) as Project;
  const selection = useStore((s) => s.selection);
  const spaces = selection.filter((s) => s.kind === "space" && project.spaces[s.id]).map((s) => s.id);
  const of = (kind: "wall" | "opening" | "shade" | "roof" | "storey") => selection.find((s) => s.kind === kind)?.id;
  const wall = of("wall");
  const opening = of("opening");
  const shade = of("shade");
  const roof = of("roof");
  const { airNetwork } = project;
  const paths = selection.flatMap((s) => (s.kind === "airPath" && airNetwork && Object.hasOwn(airNetwork.links, s.id) ? [s.id] : []));
  if (paths.length > 0 && airNetwork) return <AirPathInspector key={paths.join()} ids={paths} plan={airPlan(project, airNetwork, checkProject(project))} />;
  if (spaces.length > 0) return <SpaceInspector ids={spaces} />;
  if (wall && project.spaces[wall.split("/")[0]]) return <WallInspector host={wall} />;
  if (opening && project.openings[opening]) return <OpeningInspector id={opening} />;
  if (shade && project.shades[shade]) return <ShadeInspector id={shade} />;
  if (roof && project.roofs[roof]) return <RoofInspector id={roof} />;
  return <BuildingInspector storey={of("storey") ? storey : null} />;
}
