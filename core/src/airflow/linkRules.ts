import { orientationOf, type Face } from "../geometry/index.ts";
import {
  leakageClasses,
  type AirLink,
  type AirNetworkInput,
  type LeakagePart,
  type OpeningControl,
  type OpeningRule,
  type OpeningType,
} from "../model/index.ts";

/** Discharge coefficient of an opening (ASHRAE Fundamentals 2017, ch. 16). */
const DISCHARGE = 0.6;
/** Rules without a limit of their own use these: °C, K, ppm. */
export const USUAL_LIMIT: Partial<Record<OpeningRule, number>> = { temperature: 24, "temperature difference": 2, "carbon dioxide": 1000 };

/** Part of the envelope whose leakage class a face has. */
export function leakagePart(face: Face): LeakagePart {
  if (face.contact === "space") return "inside";
  if (face.kind === "wall") return orientationOf(face.azimuth);
  return face.normal[2] > 0 ? "roof" : "floor";
}

/** Leakage of a face, m³/h through each m² at 50 Pa. */
export function faceLeakage(input: AirNetworkInput, face: Face): number {
  const own = Object.values(input.cracks ?? {}).find((c) => c.host === face.host);
  return own ? own.leakage : leakageClasses[input.leakage[leakagePart(face)] ?? "usual"];
}

/** What is usual for an opening that has neither a type nor a rule of its own. */
export function usualControl(kind: AirLink["kind"] | "crack", inside: boolean, use: "window" | "door" | "opening" = "window"): OpeningControl {
  if (kind === "opening" && !inside) return use === "door" ? { rule: "constant", share: 0 } : { rule: "windows of the space" };
  if (kind === "opening" && use === "door") return { rule: "constant", share: 0 };
  return { rule: "constant" };
}

/** What a link opens by: its own rule, its type's, else what is usual; with its discharge coefficient and free share. */
export function openingWay(
  input: AirNetworkInput,
  link: Exclude<AirLink, { kind: "fan" }>,
  usual: OpeningControl,
): { readonly control: OpeningControl; readonly discharge: number; readonly free: number | undefined; readonly from: "own" | "type" | "usual" } {
  const type: OpeningType | undefined = link.type && Object.hasOwn(input.types, link.type) ? input.types[link.type] : undefined;
  return {
    control: link.control ?? type?.control ?? usual,
    discharge: link.discharge ?? type?.discharge ?? DISCHARGE,
    free: (link.kind === "opening" ? link.free : undefined) ?? type?.free,
    from: link.control ? "own" : type ? "type" : "usual",
  };
}
