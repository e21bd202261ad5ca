import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { issue } from '../kernel/issue';
import { afterRefusal, begunProgress, furtherOn, MOST_EXAMPLES } from './bulk-change';

describe('a bulk change', () => {
  it('counts on, and tells of the first that were refused', () => {
    const refused = Array.from({ length: 15 }, (_, i) => ({
      number: `A-${i}`,
      issue: issue('malformed', [`${i}`]),
    }));
    const once = furtherOn(begunProgress(600), { looked: 500, changed: 480, refused });
    expect(once).toMatchObject({ of: 600, looked: 500, changed: 480, refused: 15 });
    const twice = furtherOn(once, { looked: 200, changed: 185, refused });
    // More than were there when it began.
    expect(twice).toMatchObject({ of: 700, looked: 700, changed: 665, refused: 30 });
    expect(twice.examples).toHaveLength(MOST_EXAMPLES);
    expect(twice.examples.slice(0, 15)).toEqual(refused);
  });

  it('tries those again that no reason names, and a batch in halves where none is named', () => {
    expect(afterRefusal(['a', 'b', 'c'], [issue('malformed', ['b', 'x'])])).toEqual({
      tried: [['a', 'c']],
      left: ['b'],
    });
    expect(afterRefusal(['a', 'b', 'c'], [issue('malformed', [])])).toEqual({
      tried: [['a', 'b'], ['c']],
      left: [],
    });
    expect(afterRefusal(['a', 'b'], [issue('malformed', ['a']), issue('malformed', ['b'])])).toEqual({
      tried: [],
      left: ['a', 'b'],
    });
    expect(afterRefusal(['a'], [issue('malformed', [])])).toEqual({ tried: [], left: ['a'] });
  });

  it('leaves none out and none twice, and comes to an end, whatever is named', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.string({ minLength: 1 }), { minLength: 1, maxLength: 20 }),
        fc.array(fc.string()),
        (ids, named) => {
          const { tried, left } = afterRefusal(
            ids,
            named.map((id) => issue('malformed', [id])),
          );
          expect([...tried.flat(), ...left].sort()).toEqual([...ids].sort());
          expect(tried.every((batch) => batch.length < ids.length)).toBe(true);
        },
      ),
    );
  });
});
