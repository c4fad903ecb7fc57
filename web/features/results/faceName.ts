import { checkProject, type Project } from "@arroyo/core";

const QUARTERS = ["north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"];

/** A face or opening in words: what it is, where it looks or what it borders. */
export function faceName(project: Project, key: string): string {
  const { geometry, openings } = checkProject(project);
  const frame = key.endsWith("|frame");
  const own = frame ? key.slice(0, -6) : key;
  const opening = openings.find((o) => o.key === own);
  const face = geometry.byKey.get(opening ? opening.face : own);
  if (!face) return key;
  const space = project.spaces[face.space]?.name ?? face.space;
  const other = face.partnerSpace ? project.spaces[face.partnerSpace]?.name : null;
  const side = face.wall ? QUARTERS[Math.round(face.azimuth / 45) % 8] : "";
  if (opening) return `${opening.name}${frame ? ", frame" : ""}, ${space} ${side}`;
  if (other) return `${face.kind} ${space} – ${other}`;
  if (face.contact === "ground") return `${face.kind} to ground, ${space}`;
  return face.wall ? `wall ${side}, ${space}` : `${face.kind === "ceiling" ? "roof" : "exposed floor"}, ${space}`;
}
