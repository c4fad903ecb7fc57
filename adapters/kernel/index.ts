// The walks of a step over faces and zones, for WebAssembly. Built by `npm run kernel`.
import { coefficients, faceTemperatures } from "./films";
import { solveZones } from "./zones";

export * from "./arrays";
export { book } from "./book";
export { eliminate, terms } from "./zones";
export { darken, sunInside, sunOutside } from "./sun";

/** One pass: films and closures, the zones' system, temperatures of faces. */
export function pass(first: bool, anew: bool, last: bool): void {
  coefficients(first, anew);
  solveZones(last);
  faceTemperatures();
}
