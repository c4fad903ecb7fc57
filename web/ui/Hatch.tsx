import { endUseColour } from "./colours.ts";

const id = "heating-hatch";
/** Fill that tells heating from cooling without colour. */
export const hatchFill = `url(#${id})`;

/** Its pattern, once in a chart. */
export function HeatingHatch() {
  return (
    <defs>
      <pattern id={id} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="7" height="7" fill={endUseColour.heating} />
        <rect width="2.4" height="7" fill="#CE8472" />
      </pattern>
    </defs>
  );
}
