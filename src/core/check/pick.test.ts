import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { design, tables } from '../../../tests/support/designs';
import { read } from '../expression/read';
import { groupsOf } from '../form/design';
import { scopeOf } from '../form/scope';
import { pickables, pickedOf, pickedSentence } from './pick';
import { comparisonsFor, pickedText, type Pick, type Picked } from './pick-text';

const scope = scopeOf(design, tables, groupsOf(design)[0]);

describe('picking and the expression are one', () => {
  it.each([
    ['rate <= product.max_rate', 'rate must be at most product.max_rate', 'rate is at most product.max_rate'],
    ['planned_on >= today()', 'planned_on must be on or after today', 'planned_on is on or after today'],
    ['path_closed = true', 'path_closed must be the same as yes', 'path_closed is the same as yes'],
    ['rate > -5', 'rate must be more than -5', 'rate is more than -5'],
    [
      'planned_on < date("2027-01-01")',
      'planned_on must be before 2027-01-01',
      'planned_on is before 2027-01-01',
    ],
    [
      'planned_on between today() and date("2027-01-01")',
      'planned_on must be from today to 2027-01-01',
      'planned_on is from today to 2027-01-01',
    ],
    [
      'sum(products.amount) <= 1000 and count(products) < 4',
      'the sum of products.amount must be at most 1000, and the number of products must be less than 4',
      'the sum of products.amount is at most 1000, and the number of products is less than 4',
    ],
    [
      'seen != null or path_closed = false',
      'seen must be filled, or path_closed must be the same as no',
      'seen is filled, or path_closed is the same as no',
    ],
    [
      'seen in ("scale", "moss") and bed != null',
      'seen must be one of "scale", "moss", and bed must be filled',
      'seen is one of "scale", "moss", and bed is filled',
    ],
    ['not(seen in ("scale"))', 'seen must be none of "scale"', 'seen is none of "scale"'],
  ])('%s', (text, check, condition) => {
    const picked = pickedOf(text, scope);
    if (picked === null) throw new Error('not picked');
    expect(pickedText(picked)).toBe(text);
    expect([pickedSentence(picked, scope, 'must be'), pickedSentence(picked, scope, 'is')]).toEqual([
      check,
      condition,
    ]);
  });

  it('leaves alone what picking cannot say', () => {
    for (const text of [
      'rate * 2 <= area',
      'rate <=',
      'not(path_closed)',
      'rate <= 1 and (area > 2 or area < 1)',
      'rate in [1..2]',
      'sum(for x in products return x.rate) > 1',
      'path_closed',
      'products[1].rate > 1',
      'null = rate',
      'rate = null and rate * 2 > 1',
      'string length(seen) > 3',
      'not(rate = 1)',
      'rate in ([1..2], 5)',
      'not(rate in [1..2])',
      'sum(for x in products return x.amount) = 1',
      'mean(products.amount) > 1',
      'count(products[rate > 1]) > 1',
      'max(rate, area) > 1',
      'planned_on > today() + duration("P1M")',
      'planned_on between today() and date(2027, 1, 1)',
    ])
      expect([text, pickedOf(text, scope)]).toEqual([text, null]);
  });

  it('says numbers, dates and lists each in its own way', () => {
    const said = (text: string) => {
      const picked = pickedOf(text, scope);
      return picked === null ? null : pickedSentence(picked, scope, 'is');
    };
    expect([
      said('rate between 1 and 5'),
      said('rate in (1, 2)'),
      said('not(rate in (1, 2))'),
      said('planned_on = today() - duration("P3D")'),
      said('planned_on between date(today().year, 1, 1) and date(today().year, 12, 31)'),
      said('max(products.amount) >= area'),
      said('min(products.amount) >= area'),
      said('seen = "sum(x)"'),
      said('bed = null'),
      said('rate <= bed.area'),
    ]).toEqual([
      'rate is between 1 and 5',
      'rate is one of 1, 2',
      'rate is none of 1, 2',
      'planned_on is on 3 days ago',
      'planned_on is this year',
      'the most of products.amount is at least area',
      'the least of products.amount is at least area',
      'seen is the same as "sum(x)"',
      'bed is left empty',
      'rate is at most bed.area',
    ]);
  });

  it('offers columns of looked-up records, what rows add up to, and comparisons that suit the type', () => {
    expect(pickables(scope).map(({ text }) => text)).toEqual(
      expect.arrayContaining([
        'bed.area',
        'product.max_rate',
        'rate',
        'total',
        'count(products)',
        'sum(products.amount)',
      ]),
    );
    expect(comparisonsFor({ t: 'date' }).map(({ words }) => words)).toContain('on or before');
    expect(comparisonsFor({ t: 'text' }).map(({ by }) => by)).toEqual(['=', '!=', 'filled', 'empty']);
  });
});

describe('law: whatever is picked reads as a tree, and the tree as the same picks', () => {
  const values: Readonly<Record<string, readonly string[]>> = {
    number: ['5', '-2.5', '0'],
    text: ['"fern"', '"it\'s \\"x\\""'],
    date: ['today()', 'date("2027-01-01")'],
    'yes-no': ['true', 'false'],
  };
  const some = pickables(scope).filter(({ type }) => type.t in values);
  const pick: fc.Arbitrary<Pick> = fc.constantFrom(...some).chain(({ text, type }) => {
    const value = fc.constantFrom(
      ...(values[type.t] ?? []),
      ...some.filter((one) => one.type.t === type.t && !one.text.startsWith('count')).map((one) => one.text),
    );
    const one = fc.record({
      left: fc.constant(text),
      by: fc.constantFrom(
        '=' as const,
        '!=' as const,
        ...(type.t === 'yes-no' ? [] : ['<=' as const, '>' as const]),
      ),
      right: value.map((right) => [right]),
    });
    const alone = fc.record({
      left: fc.constant(text),
      by: fc.constantFrom('filled' as const, 'empty' as const),
      right: fc.constant([] as string[]),
    });
    const list = fc.record({
      left: fc.constant(text),
      by: fc.constantFrom('one-of' as const, 'none-of' as const),
      right: fc.array(value, { minLength: 1, maxLength: 3 }),
    });
    const between = fc.record({
      left: fc.constant(text),
      by: fc.constant('between' as const),
      right: fc.tuple(value, value),
    });
    return type.t === 'yes-no' ? fc.oneof(one, alone, list) : fc.oneof(one, alone, list, between);
  });
  const picked: fc.Arbitrary<Picked> = fc
    .record({
      join: fc.constantFrom('all' as const, 'any' as const),
      picks: fc.array(pick, { minLength: 1, maxLength: 3 }),
    })
    .map((one) => (one.picks.length === 1 ? { ...one, join: 'all' as const } : one));

  it('holds', () => {
    fc.assert(
      fc.property(picked, (one) => {
        const text = pickedText(one);
        expect(read(text, scope).ok).toBe(true);
        expect(pickedOf(text, scope)).toEqual(one);
        expect(pickedSentence(one, scope, 'must be')).not.toMatch(/undefined|\(\)|null/);
      }),
      { numRuns: 200 },
    );
  });
});
