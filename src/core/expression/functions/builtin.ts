import type { Type } from '../type';
import type { Value } from '../value';

/** What an expression may ask of the world: nothing but the date it is. */
export interface World {
  /** ISO date in the workspace's time zone. */
  readonly today: string;
}

/** One built-in of the language: its name, what it takes and gives, and its meaning, in one place. */
export interface Builtin {
  readonly name: string;
  /** The types of its arguments; with `rest`, the last may be repeated. */
  readonly takes: readonly Type[];
  readonly optional?: number;
  readonly gives: Type | ((args: readonly Type[]) => Type);
  /** A list of these may be given instead of single arguments: `sum(list)` and `sum(a, b)`. */
  readonly listOf?: readonly Type['t'][];
  readonly run: (args: readonly Value[], world: World) => Value;
}
