import Big from 'big.js';
import { sql } from '../sql/fragment';
import { NUMBER, YES_NO, elementOf, fits, listOf, type Type } from '../type';
import { isList, same, type Value } from '../value';
import { aList, elementOfFirst, isKeptList, itsMember, type Builtin, type Meter, type Want } from './builtin';

const sameList: Want = {
  words: ['list of the same kind'],
  takes: (given, [first]) => {
    const [mine, theirs] = [elementOf(given), first === undefined ? null : elementOf(first)];
    return (
      given.t === 'null' || (mine !== null && (theirs === null || fits(mine, theirs) || fits(theirs, mine)))
    );
  },
};
/** A list of nothing yet takes its type from what is added. */
const ofMembers = (args: readonly Type[]): Type => {
  const types = args
    .map((arg, i) => (i === 0 ? elementOf(arg) : (elementOf(arg) ?? arg)))
    .filter((type): type is Type => type !== null && type.t !== 'null');
  return listOf(types[0] ?? { t: 'null' });
};

function distinct(list: readonly Value[], meter: Meter): Value[] {
  const found: Value[] = [];
  for (const one of list) {
    meter.spend(found.length);
    if (!found.some((known) => same(known, one))) found.push(one);
  }
  return found;
}

const spent = (list: Value[], meter: Meter): Value[] => (meter.spend(list.length), list);

export const listFunctions: readonly Builtin[] = [
  {
    name: 'list contains',
    ways: [{ takes: [aList, itsMember], gives: YES_NO }],
    run: ([list = null, of = null]) => (isList(list) ? list.some((one) => same(one, of)) : null),
    sql: ([list, of]) =>
      list === undefined || of === undefined || !isKeptList(list.tree)
        ? null
        : sql`(${list.sql()} @> ARRAY[${of.sql()}]::text[])`,
  },
  {
    name: 'index of',
    ways: [{ takes: [aList, itsMember], gives: listOf(NUMBER) }],
    run: ([list = null, of = null]) =>
      isList(list) ? list.flatMap((one, i) => (same(one, of) ? [new Big(i + 1)] : [])) : null,
  },
  {
    name: 'append',
    ways: [
      {
        takes: [aList, itsMember],
        rest: true,
        gives: (args) => ofMembers(args.map((arg, i) => (i === 0 ? arg : listOf(arg)))),
      },
    ],
    run: ([list = null, ...more], _, meter) => (isList(list) ? spent([...list, ...more], meter) : null),
  },
  {
    name: 'concatenate',
    ways: [{ takes: [sameList], rest: true, gives: ofMembers }],
    run: (args, _, meter) => (args.every(isList) ? spent(args.flat(1) as Value[], meter) : null),
  },
  {
    name: 'distinct values',
    ways: [{ takes: [aList], gives: (args) => listOf(elementOfFirst(args)) }],
    run: ([list = null], _, meter) => (isList(list) ? distinct(list, meter) : null),
  },
  {
    name: 'reverse',
    ways: [{ takes: [aList], gives: (args) => listOf(elementOfFirst(args)) }],
    run: ([list = null], _, meter) => (isList(list) ? spent([...list].reverse(), meter) : null),
  },
];
