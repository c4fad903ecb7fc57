import { checkProject, orientationOf, type Face, type Project } from "@arroyo/core";

/** "Kitchen, south wall" for a host "space/edge". */
export function hostName(project: Project, host: string): string {
  const faces = checkProject(project).geometry.faces.filter((f) => f.host === host);
  // a ceiling that is roof in part is named by that
  const face = faces.find((f) => f.contact === "outdoors") ?? faces[0];
  const space = project.spaces[host.split("/")[0]]?.name ?? host;
  if (!face) return space;
  return `${space}, ${face.kind === "wall" ? `${orientationOf(face.azimuth)} wall` : face.kind === "ceiling" ? (face.contact === "outdoors" ? "roof" : "ceiling") : "floor"}`;
}

/** What a face touches, in words. */
export function contactName(project: Project, f: Face): string {
  if (f.contact === "space") return `to ${project.spaces[f.partnerSpace as string]?.name ?? "a space"}`;
  const said = f.contact === "ground" ? "ground" : f.contact === "adiabatic" ? "adiabatic" : "outdoors";
  return f.byHand ? `${said}, set by hand` : said;
}
