import { TEXT, YES_NO } from '../type';
import { isList, type Value } from '../value';
import { sql, value } from '../sql/fragment';
import { a, aListOf, anything, type Builtin } from './builtin';
import { SPACES } from './texts';

/** Kleene over a list: one deciding member is enough, an empty one leaves it open. */
const over = (name: string, decides: boolean): Builtin => ({
  name,
  ways: [
    { takes: [aListOf(YES_NO)], gives: YES_NO },
    { takes: [a(YES_NO)], rest: true, gives: YES_NO },
  ],
  run: (args) => {
    const list: readonly Value[] =
      args.length === 1 && isList(args[0] ?? null) ? (args[0] as readonly Value[]) : args;
    if (list.includes(decides)) return decides;
    return list.includes(null) ? null : !decides;
  },
});

export const logicFunctions: readonly Builtin[] = [
  {
    name: 'not',
    sql: ([of]) => (of === undefined ? null : sql`(NOT ${of.sql()})`),
    ways: [{ takes: [a(YES_NO)], gives: YES_NO }],
    run: ([of = null]) => (typeof of === 'boolean' ? !of : null),
  },
  over('all', false),
  over('any', true),
  {
    // An extension the trade cannot do without: empty, or a text of nothing but spaces. Two-valued.
    name: 'is blank',
    ways: [
      { takes: [a(TEXT)], gives: YES_NO },
      { takes: [anything], gives: YES_NO },
    ],
    run: ([of = null]) => of === null || (typeof of === 'string' && of.trim() === ''),
    sql: ([of]) =>
      of === undefined
        ? null
        : of.type.t === 'text'
          ? sql`(coalesce(btrim(${of.sql()}, ${value(SPACES, 'text')}), '') = '')`
          : sql`(${of.sql()} IS NULL)`,
  },
];
