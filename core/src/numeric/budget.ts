/** A piece of work was larger than it may be. */
export class BudgetSpent extends Error {
  constructor() {
    super("the work is larger than it may be");
    this.name = "BudgetSpent";
  }
}

let left = Infinity;

/**
 * Does work that may spend so many units, whatever it is given: an intricate input ends it instead of keeping a server or a page
 * for minutes. Units are counted, never timed, so that the same input ends at the same place everywhere.
 * @throws BudgetSpent when there are no units left
 */
export function withinBudget<T>(units: number, work: () => T): T {
  const before = left;
  left = Math.min(left, units);
  const given = left;
  try {
    return work();
  } finally {
    left = before - (given - left);
  }
}

/** Counts work done, about a unit for a step of a few nanoseconds. Without a budget it counts for nothing. @throws BudgetSpent */
export function spend(units: number): void {
  left -= units;
  if (left < 0) throw new BudgetSpent();
}
