import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { AnswerRow, Answers, Raw } from '../form/answers';
import { form, lines, section, target } from '../../../tests/support/small-form';
import { baseAfter, mergedAnswers, withPlaceOf } from './merged-answers';

const design = form([
  section('s', [lines([]), { ...lines([]), id: 'lots', within: 'lines', table: target(93) }]),
]);
const answers = (values: Record<string, Raw>, lines: AnswerRow[] = [], lots: AnswerRow[] = []): Answers => ({
  values,
  rows: { lines, lots },
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
    expect(mergedAnswers(design, base, mine, theirs)).toEqual({
      answers: answers({ bed: 'G5', note: 'wet' }, [row('b', '3', { x: 'new' }), row('c', '9')]),
      clashes: [],
    });
  });

  it('names what both changed differently, by its place, and leaves mine there', () => {
    const mine = answers({ bed: 'G5', note: '' }, [row('a', '7')]);
    const theirs = answers({ bed: 'G6', note: 'wet' }, [row('b', '2', { x: 'new' })]);
    const met = mergedAnswers(design, base, mine, theirs);
    expect(met.clashes).toEqual([['note'], ['bed'], ['lines', 'b'], ['lines', 'a']].sort(byName));
    expect(met.answers.values['bed']).toBe('G5');
    expect(met.answers.rows['lines']).toEqual([row('a', '7')]);
  });

  it('takes empty for empty, however it came about', () => {
    const mine = answers({ bed: 'G4', note: 'dry', more: '' }, base.rows['lines'] as AnswerRow[]);
    const theirs = answers({ bed: 'G4', note: 'dry', more: null }, base.rows['lines'] as AnswerRow[]);
    expect(mergedAnswers(design, base, mine, theirs).clashes).toEqual([]);
  });

  it('takes a row and those that stand in it as one: they come, go and clash together', () => {
    const lot = (id: string, of: string, n: Raw): AnswerRow => ({ id, of, cells: { n } });
    const [a, b] = [row('a', '1'), row('b', '2')];
    const was = answers({}, [a, b], [lot('p', 'a', '1'), lot('q', 'b', '2')]);
    const without = answers({}, [b], [lot('q', 'b', '2')]);
    // What nobody else touched goes with its row, and both may add to the same row.
    expect(mergedAnswers(design, was, without, was)).toEqual({ answers: without, clashes: [] });
    const [one, other] = ['r', 's'].map((id) =>
      answers({}, [a, b], [...(was.rows['lots'] ?? []), lot(id, 'b', id)]),
    );
    const both = mergedAnswers(design, was, one ?? was, other ?? was);
    expect([both.answers.rows['lots']?.map(({ id }) => id).sort(), both.clashes]).toEqual([
      ['p', 'q', 'r', 's'],
      [],
    ]);
    // A lot that both changed is asked about at its own place.
    const [mine, theirs] = ['7', '8'].map((n) => answers({}, [a, b], [lot('p', 'a', n), lot('q', 'b', '2')]));
    expect(mergedAnswers(design, was, mine ?? was, theirs ?? was).clashes).toEqual([['lots', 'p', 'n']]);
    // Whoever changed a lot has changed its row: taking the row out is asked about, and taking theirs brings both back.
    const met = mergedAnswers(design, was, without, theirs ?? was);
    expect([met.answers.rows['lots'], met.clashes]).toEqual([[lot('q', 'b', '2')], [['lines', 'a']]]);
    expect(withPlaceOf(design, met.answers, theirs ?? was, ['lines', 'a']).rows).toEqual({
      lines: [b, a],
      lots: [lot('q', 'b', '2'), lot('p', 'a', '8')],
    });
  });

  it('is settled once each clash is: then nothing is asked, and nothing of theirs is lost', () => {
    const mine = answers({ bed: 'G5' }, [row('a', '7'), row('b', '5', { x: 'old' })]);
    const theirs = answers({ bed: 'G6', note: 'dry' }, [row('b', '4', { x: 'new' })]);
    const met = mergedAnswers(design, base, mine, theirs);
    expect(met.clashes).toEqual([['bed'], ['lines', 'b', 'n'], ['lines', 'a']]);
    const waiting = baseAfter(design, base, theirs, met.clashes);
    expect(mergedAnswers(design, waiting, met.answers, theirs).clashes).toEqual(met.clashes);
    // Mine stays where it is said to: what it goes on from is theirs now.
    const settled = met.clashes.reduce((now, place) => withPlaceOf(design, now, theirs, place), waiting);
    expect(mergedAnswers(design, settled, met.answers, theirs)).toEqual({
      answers: met.answers,
      clashes: [],
    });
    // Theirs is taken by taking it over.
    const taken = met.clashes.reduce((now, place) => withPlaceOf(design, now, theirs, place), met.answers);
    expect(mergedAnswers(design, settled, taken, theirs).answers.rows['lines']).toEqual(theirs.rows['lines']);
  });
});

const byName = (a: string[], b: string[]): number => ORDER.indexOf(a.join()) - ORDER.indexOf(b.join());
const ORDER = ['bed', 'note', 'lines,b', 'lines,a'];

const cells = fc.dictionary(fc.constantFrom('n', 'x'), fc.constantFrom<Raw>('', null, '1', '2', true));
const sheets = fc
  .record({
    values: fc.dictionary(fc.constantFrom('bed', 'note'), fc.constantFrom<Raw>('', null, 'a', 'b')),
    rows: fc.record({
      lines: fc
        .uniqueArray(fc.constantFrom('a', 'b', 'c', 'd'))
        .chain((ids) => fc.tuple(...ids.map((id) => cells.map((one): AnswerRow => ({ id, cells: one }))))),
      lots: fc
        .uniqueArray(fc.constantFrom('a1', 'a2', 'b1', 'c1'))
        .chain((ids) =>
          fc.tuple(
            ...ids.map((id) => cells.map((one): AnswerRow => ({ id, of: id.slice(0, 1), cells: one }))),
          ),
        ),
    }),
    reasons: fc.constant({}),
  })
  .map((one) => ({
    ...one,
    rows: { ...one.rows, lots: one.rows.lots.filter(({ of }) => one.rows.lines.some(({ id }) => id === of)) },
  })) as fc.Arbitrary<Answers>;

describe('laws of merging answers', () => {
  it('what nobody else touched is mine, what I did not touch is theirs, and the same by both is no clash', () => {
    fc.assert(
      fc.property(sheets, sheets, (was, one) => {
        const clean = mergedAnswers(design, one, one, one).answers;
        expect(mergedAnswers(design, was, one, was)).toEqual({ answers: clean, clashes: [] });
        expect(mergedAnswers(design, was, was, one)).toEqual({ answers: clean, clashes: [] });
        expect(mergedAnswers(design, was, one, one)).toEqual({ answers: clean, clashes: [] });
      }),
    );
  });

  it('what is asked once is asked until it is settled, and no more then', () => {
    fc.assert(
      fc.property(sheets, sheets, sheets, (was, mine, theirs) => {
        const met = mergedAnswers(design, was, mine, theirs);
        const waiting = baseAfter(design, was, theirs, met.clashes);
        const again = mergedAnswers(design, waiting, met.answers, theirs);
        expect(again.clashes.map(String).sort()).toEqual(met.clashes.map(String).sort());
        const settled = met.clashes.reduce((now, place) => withPlaceOf(design, now, theirs, place), waiting);
        expect(mergedAnswers(design, settled, met.answers, theirs).clashes).toEqual([]);
      }),
    );
  });
});
