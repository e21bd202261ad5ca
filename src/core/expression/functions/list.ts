import type { Builtin } from './builtin';
import { count, max, min, sum } from './lists';
import { not, today } from './logic';
import { abs, decimal, roundDown, roundHalfDown, roundHalfUp, roundUp } from './numbers';
import { contains, endsWith, lowerCase, startsWith, stringLength, upperCase } from './texts';

const all: readonly Builtin[] = [
  sum, count, min, max, abs, decimal, roundHalfUp, roundHalfDown, roundUp, roundDown,
  contains, startsWith, endsWith, stringLength, upperCase, lowerCase, not, today,
];

/** Every built-in by its name. */
export const builtins: ReadonlyMap<string, Builtin> = new Map(all.map((one) => [one.name, one]));
