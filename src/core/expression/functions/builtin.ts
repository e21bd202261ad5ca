import { joined, sql, words, type SqlFragment } from '../sql/fragment';
import type { Expression } from '../tree';
import {
  DATE,
  DATE_TIME,
  DAYS,
  MONTHS,
  NUMBER,
  TEXT,
  TIME,
  elementOf,
  fits,
  typeName,
  type Type,
} from '../type';
import type { RecordValue, Value } from '../value';

/** The days nobody works: what the working-day functions count by. */
export interface Calendar {
  /** 1 for Monday to 7 for Sunday. */
  readonly workdays: ReadonlySet<number>;
  /** ISO dates. */
  readonly holidays: ReadonlySet<string>;
}

/** What an expression may ask of the world: the date and time it is in the workspace's zone, and its calendar. */
export interface World {
  /** ISO date. */
  readonly today: string;
  /** ISO date-time without a zone. */
  readonly now: string;
  readonly calendar: Calendar;
  /** Whoever sends the form; null where there is none. */
  readonly sender: RecordValue | null;
}

/** Counts the steps of one evaluation; throws `LimitReached` beyond the most there may be. */
export interface Meter {
  spend(steps: number): void;
}

/** What an argument must be. `words` name it in an issue. */
export interface Want {
  readonly words: readonly string[];
  takes(given: Type, args: readonly Type[]): boolean;
}

/** One way to call a built-in. */
export interface Way {
  readonly takes: readonly Want[];
  /** How many of the last may be left out. */
  readonly optional?: number;
  /** The last may be repeated. */
  readonly rest?: boolean;
  readonly gives: Type | ((args: readonly Type[]) => Type);
}

/** One built-in of the language: its name, what it takes and gives, and its meaning, in one place. */
export interface Builtin {
  readonly name: string;
  readonly ways: readonly Way[];
  readonly run: (args: readonly Value[], world: World, meter: Meter) => Value;
  /** The same in PostgreSQL; null where these arguments cannot be said. Left out where nothing can. */
  readonly sql?: (args: readonly SqlArgument[]) => SqlFragment | null;
}

export interface SqlArgument {
  readonly sql: () => SqlFragment;
  readonly type: Type;
  readonly tree: Expression;
}

/** A function of PostgreSQL, or one of ours in schema `slate`, on the arguments as they stand. */
export const named =
  (name: string) =>
  (args: readonly SqlArgument[]): SqlFragment =>
    sql`${words(name)}(${joined(
      args.map((arg) => arg.sql()),
      ', ',
    )})`;

export const a = (...types: Type[]): Want => ({
  words: types.map(typeName),
  takes: (given) => types.some((type) => fits(given, type)),
});
export const ordered = a(NUMBER, TEXT, DATE, TIME, DATE_TIME, DAYS, MONTHS);
export const anything: Want = { words: ['value'], takes: () => true };
export const aList: Want = {
  words: ['list'],
  takes: (given) => given.t === 'null' || elementOf(given) !== null,
};
/** A list whose members are of one of the types. */
export const aListOf = (...types: Type[]): Want => ({
  words: types.map((type) => `list of ${typeName(type)}`),
  takes: (given) => {
    const element = elementOf(given);
    return given.t === 'null' || (element !== null && types.some((type) => fits(element, type)));
  },
});
/** Goes together with the members of the list that came first. */
export const itsMember: Want = {
  words: ['member of the list'],
  takes: (given, [list]) => {
    const element = list === undefined ? null : elementOf(list);
    return element === null || fits(given, element) || fits(element, given);
  },
};
export const elementOfFirst = ([list]: readonly Type[]): Type =>
  (list === undefined ? null : elementOf(list)) ?? { t: 'null' };

/** A list that stands in a column, not one that is written out or worked out. */
export const isKeptList = (tree: Expression): boolean =>
  (tree.op === 'name' || tree.op === 'field') && tree.type.t === 'list';
