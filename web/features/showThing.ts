"use client";
import { useRouter } from "next/navigation";
import type { Problem } from "@arroyo/core";
import { showPlace } from "./form/showPlace.ts";
import { stageAddress, useStore, type Selection } from "./store.ts";

type Stage = Problem["stage"];

const kinds: Record<string, readonly [Selection["kind"], Stage]> = {
  spaces: ["space", "form"],
  zones: ["zone", "form"],
  openings: ["opening", "form"],
  storeys: ["storey", "form"],
  shades: ["shade", "form"],
  roofs: ["roof", "form"],
  assemblies: ["assembly", "fabric"],
  glazings: ["glazing", "fabric"],
  materials: ["material", "fabric"],
  kits: ["kit", "fabric"],
  spaceTypes: ["spaceType", "use"],
  schedules: ["schedule", "use"],
  resets: ["reset", "use"],
  deviceLists: ["deviceList", "use"],
  drawPoints: ["drawPoint", "use"],
  siteLights: ["siteLight", "use"],
  rules: ["rule", "use"],
  services: ["services", "services"],
  airSystems: ["airSystem", "services"],
  loops: ["loop", "services"],
};

/** Selects the thing at an address of the document; answers the stage it is on. @param stage where its kind does not say */
export function selectAt(address: string, stage: Stage): Stage {
  const { select } = useStore.getState();
  const parts = address.split("/");
  const [part, id] = parts;
  if (part === "waterSystems" || part === "onSite") {
    select([{ kind: "component", id: parts.slice(0, parts[2] === "parts" ? 4 : 2).join("/") }]);
    return "services";
  }
  const known = Object.hasOwn(kinds, part) && id ? kinds[part] : null;
  if (!known) return stage;
  const [kind, on] = known;
  if (on === "form") showPlace(address);
  else if ((part === "airSystems" || part === "loops") && parts[2] === "parts") select([{ kind: "component", id: parts.slice(0, 4).join("/") }]);
  else select([{ kind, id }]);
  return on;
}

/** Opens the stage a thing of the document is on, with it selected. */
export function useShowThing(): (address: string, stage?: Stage) => void {
  const router = useRouter();
  return (address, stage = "use") => router.push(stageAddress(selectAt(address, stage)));
}
