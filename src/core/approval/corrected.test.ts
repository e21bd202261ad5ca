import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { form, lines, number, section, text } from '../../../tests/support/small-form';
import type { Answers } from '../form/answers';
import { answerChanges } from './changes';
import { correctable, correctedAnswers, correctsOf } from './corrected';

const design = form([
  section('sa', [text('qa'), number('qb'), lines([number('qc'), text('qd')], { id: 'qlines' })]),
]);
const answers: Answers = {
  values: { qa: 'one', qb: '2' },
  rows: {
    qlines: [
      { id: 'r1', cells: { qc: '3', qd: 'four' } },
      { id: 'r2', cells: { qc: '5' } },
    ],
  },
  reasons: { ca: 'So' },
};

describe('corrections', () => {
  it('may be of what is typed or ticked, also in rows, as far as it is there', () => {
    expect(correctable(design).map(({ id }) => id)).toEqual(['qa', 'qb', 'qc', 'qd']);
    expect(correctsOf(design, { corrects: ['qd', 'gone', 'qlines', 'qb'] })).toEqual(['qb', 'qd']);
    expect(correctsOf(design, {})).toEqual([]);
  });

  it('take what may be corrected of what was typed, in the rows there are', () => {
    const typed: Answers = {
      values: { qa: 'other', qb: '20' },
      rows: {
        qlines: [
          { id: 'r2', cells: { qc: '50', qd: 'new' } },
          { id: 'r9', cells: { qc: '9' } },
        ],
        other: [],
      },
      reasons: { cb: 'Because', ca: 'Another story' },
    };
    expect(correctedAnswers(answers, typed, ['qb', 'qc'])).toEqual({
      values: { qa: 'one', qb: '20' },
      rows: {
        qlines: [
          { id: 'r1', cells: { qc: '3', qd: 'four' } },
          { id: 'r2', cells: { qc: '50' } },
        ],
      },
      reasons: { ca: 'So', cb: 'Because' },
    });
  });

  it('law: whatever is typed, nothing else is changed, and no row comes or goes', () => {
    const raw = fc.constantFrom('x', 'y', '1', null, true);
    const cells = fc.dictionary(fc.constantFrom('qa', 'qb', 'qc', 'qd'), raw);
    const rows = fc.array(fc.record({ id: fc.constantFrom('r1', 'r2', 'r3'), cells }), { maxLength: 3 });
    const typed = fc.record({
      values: cells,
      rows: fc.dictionary(fc.constantFrom('qlines', 'other'), rows),
      reasons: fc.constant({}),
    });
    fc.assert(
      fc.property(typed, fc.subarray(['qa', 'qb', 'qc', 'qd']), (given, may) => {
        const { fields, added, removed } = answerChanges(answers, correctedAnswers(answers, given, may));
        expect([...fields.keys()].every((key) => may.includes(key.split('/').at(-1) ?? ''))).toBe(true);
        expect([added.size, removed.size]).toEqual([0, 0]);
      }),
    );
  });
});
