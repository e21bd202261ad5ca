import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pickedFilterOf, pickedOf } from '../check/pick';
import { pickedText, type Pick, type PickGroup, type Picked } from '../check/pick-text';
import type { Scope } from '../expression/type';
import { grouped, otherJoin, withGroup } from './picked-filter';

const number = { t: 'number' } as const;
const scope: Scope = new Map(
  ['a', 'b', 'c', 'd', 'e'].map((key) => [key, { id: key, label: key, type: number }]),
);
const pick = (left: string, value = '1'): Pick => ({ left, by: '=', right: [value] });
const any = (...picks: Pick[]): PickGroup => ({ join: 'any', within: 'any', picks });

describe('a filter with conditions that stand together', () => {
  it.each([
    ['a = 1 and (b = 2 or c = 3)', 1],
    ['a = 1 or (b = 2 and c = 3)', 1],
    ['a = 1 and b = 2 and (c = 3 or d = 4) and not(e = 5 or a = 2)', 2],
    ['not(a = 1 or b = 2)', 1],
    ['not(a = 1)', 1],
    ['a = 1 or not(b = 2 or c = 3)', 1],
    ['a = 1 and not(b in (1, 2))', 0],
    ['a = 1 or b = 2', 0],
  ])('is what was written: %s', (text, groups) => {
    const picked = pickedFilterOf(text, scope);
    expect(picked?.groups ?? []).toHaveLength(groups);
    expect(picked === null ? null : pickedText(picked)).toBe(text);
  });

  it.each([
    'a = 1 and (b = 2 or (c = 3 and d = 4))',
    'not(not(a = 1))',
    'a + 1 = 2',
    'not(a = 1 and b = 2)',
    'a =',
  ])('is not what picking could have made: %s', (text) => {
    expect(pickedFilterOf(text, scope)).toBeNull();
  });

  it('is nothing that a check is picked from', () => {
    expect(pickedOf('a = 1 and (b = 2 or c = 3)', scope)).toBeNull();
  });

  it('is begun from one of its conditions, added to, and is a condition again when one is left', () => {
    const two: Picked = { join: 'all', picks: [pick('a'), pick('b')] };
    const begun = grouped(two, 1);
    expect(begun).toEqual({ join: 'all', picks: [pick('a')], groups: [any(pick('b'))] });
    // Until another stands beside it, it says what it said.
    expect(pickedText(begun)).toBe(pickedText(two));
    const more = withGroup(begun, 0, any(pick('b'), pick('c')));
    expect(pickedText(more)).toBe('a = 1 and (b = 1 or c = 1)');
    expect(withGroup(more, 0, any(pick('c')))).toEqual({ join: 'all', picks: [pick('a'), pick('c')] });
    expect(withGroup(more, 0, null)).toEqual({ join: 'all', picks: [pick('a')] });
    expect(pickedText(withGroup(more, 0, { ...any(pick('c')), join: 'none' }))).toBe('a = 1 and not(c = 1)');
    expect(grouped(two, 7)).toBe(two);
  });

  it('turns about as a whole, and back again', () => {
    const filter: Picked = {
      join: 'all',
      picks: [pick('a')],
      groups: [any(pick('b'), pick('c')), { join: 'none', within: 'any', picks: [pick('d')] }],
    };
    expect(pickedText(otherJoin(filter))).toBe('a = 1 or (b = 1 and c = 1) or not(d = 1)');
    expect(otherJoin(otherJoin(filter))).toEqual(filter);
  });

  it('reads back as it was picked, whatever it is', () => {
    const picks = fc.array(
      fc.constantFrom('a', 'b', 'c', 'd', 'e').map((left) => pick(left)),
      { minLength: 2, maxLength: 3 },
    );
    const filters = fc.constantFrom('all' as const, 'any' as const).chain((join) => {
      const within = join === 'all' ? ('any' as const) : ('all' as const);
      const group = fc.record({
        join: fc.constantFrom(within, 'none' as const),
        within: fc.constant(within),
        picks,
      });
      return fc.record({
        join: fc.constant(join),
        picks,
        groups: fc.array(group, { minLength: 1, maxLength: 3 }),
      });
    });
    fc.assert(
      fc.property(filters, (filter) => {
        expect(pickedFilterOf(pickedText(filter), scope)).toEqual(filter);
      }),
    );
  });
});
