import type { Meter, World } from './functions/builtin';
import type { Value } from './value';

/** Where a compiled expression finds its names. */
export interface Source extends World {
  read(id: string): Value;
  /** The answers of one column in all rows that have anything in them. */
  column(group: string, id: string): readonly Value[];
  /** Told when an evaluation had to be given up; its value is then empty. */
  gaveUp(): void;
}

/** What one evaluation carries along: the values of inner names, and the steps it has taken. */
export interface Run extends Meter {
  readonly slots: Value[];
}

export type Step = (from: Source, run: Run) => Value;

/** More steps than any form takes (500 rows twice over are 250 000), and still done within a second. */
const MOST_STEPS = 1_000_000;

export class LimitReached extends Error {}

export class CountedRun implements Run {
  readonly slots: Value[] = [];
  private steps = 0;

  spend(steps: number): void {
    this.steps += steps;
    if (this.steps > MOST_STEPS) throw new LimitReached();
  }
}
