import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { AnswerRow, Answers, Raw } from '../form/answers';
import { baseAfter, mergedAnswers, withPlaceOf } from './merged-answers';

const answers = (values: Record<string, Raw>, lines: AnswerRow[] = []): Answers => ({
  values,
  rows: { lines },
  reasons: {},
});
const row = (id: string, n: Raw, more: Record<string, Raw> = {}): AnswerRow => ({
  id,
  cells: { n, ...more },
});
const base = answers({ bed: 'G4', note: 'dry' }, [row('a', '1'), row('b', '2', { x: 'old' })]);

describe('a change of a record meets what others made of it', () => {
  it('keeps both where they changed different answers, also in one row', () => {
    const mine = answers({ bed: 'G5', note: 'dry' }, [
      row('a', '1'),
      row('b', '3', { x: 'old' }),
      row('c', '9'),
    ]);
    const theirs = answers({ bed: 'G4', note: 'wet' }, [row('b', '2', { x: 'new' })]);
    expect(mergedAnswers(base, mine, theirs)).toEqual({
      answers: answers({ bed: 'G5', note: 'wet' }, [row('b', '3', { x: 'new' }), row('c', '9')]),
      clashes: [],
    });
  });

  it('names what both changed differently, by its place, and leaves mine there', () => {
    const mine = answers({ bed: 'G5', note: '' }, [row('a', '7')]);
    const theirs = answers({ bed: 'G6', note: 'wet' }, [row('b', '2', { x: 'new' })]);
    const met = mergedAnswers(base, mine, theirs);
    expect(met.clashes).toEqual([['note'], ['bed'], ['lines', 'b'], ['lines', 'a']].sort(byName));
    expect(met.answers.values['bed']).toBe('G5');
    expect(met.answers.rows['lines']).toEqual([row('a', '7')]);
  });

  it('takes empty for empty, however it came about', () => {
    const mine = answers({ bed: 'G4', note: 'dry', more: '' }, base.rows['lines'] as AnswerRow[]);
    const theirs = answers({ bed: 'G4', note: 'dry', more: null }, base.rows['lines'] as AnswerRow[]);
    expect(mergedAnswers(base, mine, theirs).clashes).toEqual([]);
  });

  it('is settled once each clash is: then nothing is asked, and nothing of theirs is lost', () => {
    const mine = answers({ bed: 'G5' }, [row('a', '7'), row('b', '5', { x: 'old' })]);
    const theirs = answers({ bed: 'G6', note: 'dry' }, [row('b', '4', { x: 'new' })]);
    const met = mergedAnswers(base, mine, theirs);
    expect(met.clashes).toEqual([['bed'], ['lines', 'b', 'n'], ['lines', 'a']]);
    const waiting = baseAfter(base, theirs, met.clashes);
    expect(mergedAnswers(waiting, met.answers, theirs).clashes).toEqual(met.clashes);
    // Mine stays where it is said to: what it goes on from is theirs now.
    const settled = met.clashes.reduce((now, place) => withPlaceOf(now, theirs, place), waiting);
    expect(mergedAnswers(settled, met.answers, theirs)).toEqual({ answers: met.answers, clashes: [] });
    // Theirs is taken by taking it over.
    const taken = met.clashes.reduce((now, place) => withPlaceOf(now, theirs, place), met.answers);
    expect(mergedAnswers(settled, taken, theirs).answers.rows['lines']).toEqual(theirs.rows['lines']);
  });
});

const byName = (a: string[], b: string[]): number => ORDER.indexOf(a.join()) - ORDER.indexOf(b.join());
const ORDER = ['bed', 'note', 'lines,b', 'lines,a'];

const cells = fc.dictionary(fc.constantFrom('n', 'x'), fc.constantFrom<Raw>('', null, '1', '2', true));
const sheets = fc.record({
  values: fc.dictionary(fc.constantFrom('bed', 'note'), fc.constantFrom<Raw>('', null, 'a', 'b')),
  rows: fc.record({
    lines: fc
      .uniqueArray(fc.constantFrom('a', 'b', 'c', 'd'))
      .chain((ids) => fc.tuple(...ids.map((id) => cells.map((one): AnswerRow => ({ id, cells: one }))))),
  }),
  reasons: fc.constant({}),
}) as fc.Arbitrary<Answers>;

describe('laws of merging answers', () => {
  it('what nobody else touched is mine, what I did not touch is theirs, and the same by both is no clash', () => {
    fc.assert(
      fc.property(sheets, sheets, (was, one) => {
        const clean = mergedAnswers(one, one, one).answers;
        expect(mergedAnswers(was, one, was)).toEqual({ answers: clean, clashes: [] });
        expect(mergedAnswers(was, was, one)).toEqual({ answers: clean, clashes: [] });
        expect(mergedAnswers(was, one, one)).toEqual({ answers: clean, clashes: [] });
      }),
    );
  });

  it('what is asked once is asked until it is settled, and no more then', () => {
    fc.assert(
      fc.property(sheets, sheets, sheets, (was, mine, theirs) => {
        const met = mergedAnswers(was, mine, theirs);
        const waiting = baseAfter(was, theirs, met.clashes);
        const again = mergedAnswers(waiting, met.answers, theirs);
        expect(again.clashes.map(String).sort()).toEqual(met.clashes.map(String).sort());
        const settled = met.clashes.reduce((now, place) => withPlaceOf(now, theirs, place), waiting);
        expect(mergedAnswers(settled, met.answers, theirs).clashes).toEqual([]);
      }),
    );
  });
});
