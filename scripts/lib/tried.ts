/** What was tried for speed, and the time of the year after it over the time before. Kept for docs/performance.md. */
export const tried: readonly (readonly [change: string, gave: string])[] = [
  ["basis period of 12 h before falling back to finite volume (3688 → 690 modes)", "about 0.5"],
  ["early pass: one zone solve without a settled thermostat search", "within noise"],
  ["spare the updates of held air nodes in the scalar elimination", "0.8"],
  ["cube root of films to 1e-4 instead of 2 ulp", "0.95"],
  ["2×2 blocks in the zone elimination; film coefficients and wind factors hoisted; one division a closure", "0.73"],
  ["glass as a conductance without modes; sun positions and derived weather remembered between runs", "0.95"],
  ["films and closures as walks of their own instead of one long body", "0.9"],
  ["booking and the advance of the modes in one walk; sums by month taken in the kernel, not by the log", "0.96"],
  ["films of the first pass from the last pass of the step before (annual loads move by less than 0.01 %)", "0.93"],
  ["clothing temperature by Newton's rule", "0.98"],
  ["sweeps instead of elimination: 20 zones, 100 zones", "0.95, 0.66"],
  ["no numbers as arguments of calls in the step (each becomes an object on the heap): 1,240 → 2 bytes a step", "0.98"],
  ["what the states bring to the faces summed in the walk that advances them", "0.96"],
  ["one pass instead of two in the hourly estimate (loads off by 2 % in the library, 15 % in the bench's rooms)", "0.6, dropped"],
  ["form: near sides found by a grid of cells in plan and height instead of every pair (500 spaces)", "0.5"],
  ["cube root seeded in single precision", "within noise, dropped"],
];
