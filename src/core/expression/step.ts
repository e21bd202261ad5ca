import type { Meter, World } from './functions/builtin';
import type { Value } from './value';

/** Where a compiled expression finds its names. */
export interface Source extends World {
  read(id: string): Value;
  /** The answers of one column in all rows that have anything in them. */
  column(group: string, id: string): readonly Value[];
  /** Shared by all that is calculated together; without one, each evaluation has its own. */
  readonly budget?: Meter;
  /** Told when an evaluation had to be given up; its value is then empty. */
  gaveUp(): void;
}

/** What one evaluation carries along: the values of inner names, and the steps it has taken. */
export interface Run extends Meter {
  readonly slots: Value[];
}

export type Step = (from: Source, run: Run) => Value;

/**
 * Steps of one evaluation by itself, and of everything that is calculated at once in a sheet: about a second.
 * 500 rows twice over are 250 000.
 */
export const MOST_STEPS = 1_000_000;

/** A list that is gone through as a whole, as by a sum, costs its length, but its members go quicker than turns of a loop: 0.1 µs each. */
export const MEMBERS_A_STEP = 8;

export class LimitReached extends Error {}

/** What may be spent together: by all formulas of a sheet between two key presses, or by one request. A step takes about a microsecond. */
export class Budget implements Meter {
  constructor(private left: number = MOST_STEPS) {}

  spend(steps: number): void {
    this.left -= steps;
    if (this.left < 0) throw new LimitReached();
  }
}

export class CountedRun implements Run {
  readonly slots: Value[] = [];

  constructor(private readonly budget: Meter) {}

  spend(steps: number): void {
    this.budget.spend(steps);
  }
}
