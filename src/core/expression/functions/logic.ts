import { TEXT, YES_NO } from '../type';
import { isList, type Value } from '../value';
import { a, aListOf, anything, type Builtin } from './builtin';

/** Kleene over a list: one deciding member is enough, an empty one leaves it open. */
const over = (name: string, decides: boolean): Builtin => ({
  name,
  ways: [{ takes: [aListOf(YES_NO)], gives: YES_NO }, { takes: [a(YES_NO)], rest: true, gives: YES_NO }],
  run: (args) => {
    const list: readonly Value[] = args.length === 1 && isList(args[0] ?? null) ? (args[0] as readonly Value[]) : args;
    if (list.includes(decides)) return decides;
    return list.includes(null) ? null : !decides;
  },
});

export const logicFunctions: readonly Builtin[] = [
  { name: 'not', ways: [{ takes: [a(YES_NO)], gives: YES_NO }], run: ([of = null]) => (typeof of === 'boolean' ? !of : null) },
  over('all', false),
  over('any', true),
  {
    // An extension the trade cannot do without: empty, or a text of nothing but spaces. Two-valued.
    name: 'is blank', ways: [{ takes: [a(TEXT)], gives: YES_NO }, { takes: [anything], gives: YES_NO }],
    run: ([of = null]) => of === null || (typeof of === 'string' && of.trim() === ''),
  },
];
