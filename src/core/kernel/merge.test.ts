import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mergedFields, mergedList, mergedValue, type Merged } from './merge';

interface Item {
  readonly key: string;
  readonly label: string;
  readonly size?: number;
}

const label = fc.constantFrom('Fern', 'Moss', 'Palm');
const items: fc.Arbitrary<Item[]> = fc.uniqueArray(
  fc.oneof(
    fc.record({ key: fc.constantFrom(...'abcdef'), label }),
    fc.record({ key: fc.constantFrom(...'abcdef'), label, size: fc.nat(2) }),
  ),
  { selector: ({ key }) => key },
);
interface Thing {
  readonly name: string;
  readonly list: readonly Item[];
}
const things: fc.Arbitrary<Thing> = fc.record({ name: label, list: items });

const merged = (base: Thing, mine: Thing, theirs: Thing): Merged<Thing> =>
  mergedFields(base, mine, theirs, {
    list: (b, m, t) => mergedList(b, m, t, ({ key }) => key, mergedFields),
  });
const paths = ({ clashes }: Merged<unknown>): string[] => clashes.map((path) => path.join('/')).sort();

describe('merging what two made of one thing', () => {
  it('is theirs where I changed nothing, mine where they did, and nothing new where both did the same', () => {
    fc.assert(
      fc.property(things, things, (base, other) => {
        expect(merged(base, base, other)).toEqual({ value: other, clashes: [] });
        expect(merged(base, other, base)).toEqual({ value: other, clashes: [] });
        expect(merged(base, other, other)).toEqual({ value: other, clashes: [] });
      }),
    );
  });

  it('is both, whoever was first, where they touched different things', () => {
    fc.assert(
      fc.property(things, items, label, (base, list, name) => {
        const [one, other] = [
          { ...base, list },
          { ...base, name },
        ];
        expect(merged(base, one, other)).toEqual({ value: { name, list }, clashes: [] });
        expect(merged(base, other, one)).toEqual({ value: { name, list }, clashes: [] });
      }),
    );
  });

  it('names the same places as clashing, whoever was first', () => {
    fc.assert(
      fc.property(things, things, things, (base, one, other) => {
        expect(paths(merged(base, one, other))).toEqual(paths(merged(base, other, one)));
      }),
    );
  });

  it('lets what I changed stand where we clash, and keeps what either added', () => {
    fc.assert(
      fc.property(items, items, items, (base, mine, theirs) => {
        const keys = new Set(mergedList(base, mine, theirs, ({ key }) => key).value.map(({ key }) => key));
        const old = new Set(base.map(({ key }) => key));
        for (const { key } of [...mine, ...theirs]) if (!old.has(key)) expect(keys.has(key)).toBe(true);
      }),
    );
    expect(mergedValue('Fern', 'Moss', 'Palm')).toEqual({ value: 'Moss', clashes: [[]] });
  });
});

describe('merging lists', () => {
  const keyed = (...list: string[]): Item[] => list.map((one) => ({ key: one[0] ?? '', label: one }));
  const of = (base: string[], mine: string[], theirs: string[]) => {
    const { value, clashes } = mergedList(keyed(...base), keyed(...mine), keyed(...theirs), ({ key }) => key);
    return { value: value.map((one) => one.label), clashes };
  };

  it('puts what is new behind what it stood behind', () => {
    expect(of(['a', 'b', 'c'], ['a', 'x', 'b', 'c'], ['y', 'a', 'b', 'c', 'z']).value).toEqual([
      'y',
      'a',
      'x',
      'b',
      'c',
      'z',
    ]);
  });

  it('puts what both put in one place behind one another, theirs first', () => {
    expect(of(['a', 'b'], ['a', 'b', 'm', 'n'], ['a', 'b', 't']).value).toEqual(['a', 'b', 't', 'm', 'n']);
    expect(of(['a'], ['m', 'a'], ['t', 'a']).value).toEqual(['t', 'm', 'a']);
  });

  it('keeps my order where I moved anything, else theirs', () => {
    expect(of(['a', 'b', 'c'], ['c', 'a', 'b'], ['b', 'a', 'c']).value).toEqual(['c', 'a', 'b']);
    expect(of(['a', 'b', 'c'], ['a', 'b', 'c'], ['b', 'a', 'c']).value).toEqual(['b', 'a', 'c']);
  });

  it('keeps what I changed and they took out, takes out what I took out and they changed, and says so', () => {
    expect(of(['a', 'b'], ['a', 'b mine'], ['a'])).toEqual({ value: ['a', 'b mine'], clashes: [['b']] });
    expect(of(['a', 'b'], ['a'], ['a', 'b theirs'])).toEqual({ value: ['a'], clashes: [['b']] });
    expect(of(['a', 'b'], ['a'], ['a', 'b'])).toEqual({ value: ['a'], clashes: [] });
  });

  it('asks about what both added under one key, unless it is the same', () => {
    expect(of([], ['a mine'], ['a theirs'])).toEqual({ value: ['a mine'], clashes: [['a']] });
    expect(of([], ['a'], ['a'])).toEqual({ value: ['a'], clashes: [] });
  });
});
