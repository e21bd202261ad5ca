import { describe, expect, it } from 'vitest';
import { design } from '../../../tests/support/designs';
import type { FieldQuestion, QuestionKind, RowsQuestion } from './design';
import { addColumn, addQuestion, asKind, keysTaken, removeQuestion, replaceCheck } from './edit';

const target = { id: 't', key: 'lines', label: 'Lines', prefix: 'L' };
const asked = { id: 'q1', key: 'amount', label: 'Amount', hint: 'How much', required: true };
const base = { id: 'q1', key: 'amount', label: 'Amount', hint: 'How much', required: true };
const ofGroup = (of = design): RowsQuestion => {
  const group = of.sections
    .flatMap(({ questions }) => questions)
    .find((question) => question.kind === 'rows');
  if (group?.kind !== 'rows') throw new Error('the sample form has rows');
  return group;
};

describe('a question of another kind', () => {
  it('keeps its words, and has what its kind needs to begin with', () => {
    const wanted: Readonly<Record<QuestionKind, object>> = {
      text: { ...base, kind: 'text', long: false },
      whole: { ...base, kind: 'whole', unit: '' },
      decimal: { ...base, kind: 'decimal', decimals: 2, unit: '' },
      money: { ...base, kind: 'money', decimals: 2, unit: 'GBP' },
      date: { ...base, kind: 'date' },
      'yes-no': { ...base, kind: 'yes-no' },
      time: { ...base, kind: 'time' },
      'date-time': { ...base, kind: 'date-time' },
      'e-mail': { ...base, kind: 'e-mail' },
      'web-address': { ...base, kind: 'web-address' },
      phone: { ...base, kind: 'phone' },
      choice: { ...base, kind: 'choice', choices: [] },
      choices: { ...base, kind: 'choices', choices: [] },
      files: { ...base, kind: 'files', what: 'photos', most: 5 },
      // Whoever asks for a tick wants it.
      confirmation: { ...base, required: true, kind: 'confirmation', statement: '' },
      'fixed-text': { ...base, required: false, kind: 'fixed-text', text: '' },
      lookup: { ...base, kind: 'lookup', table: '', show: [] },
      // What is calculated is not asked for.
      calculated: { ...base, required: false, kind: 'calculated', expression: '', decimals: 2, unit: '' },
      rows: { ...base, kind: 'rows', columns: [], least: 1, most: 50, totals: [], table: target },
    };
    for (const [kind, question] of Object.entries(wanted))
      expect(asKind(asked, kind as QuestionKind, target, 'GBP'), kind).toEqual(question);
    expect(asKind(asked, 'money', target)).toMatchObject({ unit: '' });
  });
});

describe('where questions stand', () => {
  const column = asKind({ ...asked, id: 'c9' }, 'whole', target) as FieldQuestion;
  const ids = (of: typeof design, section: string) =>
    of.sections.find(({ id }) => id === section)?.questions.map(({ id }) => id);

  it('a new one stands last in its section, and a column last in its group', () => {
    const [section, other] = design.sections;
    const before = ids(design, section?.id ?? '') ?? [];
    const added = addQuestion(design, section?.id ?? '', asKind(asked, 'text', target));
    expect(ids(added, section?.id ?? '')).toEqual([...before, 'q1']);
    expect(ids(added, other?.id ?? '')).toEqual(ids(design, other?.id ?? ''));
    const group = ofGroup();
    const wider = ofGroup(addColumn(design, group.id, column));
    expect(wider.columns.map(({ id }) => id)).toEqual([...group.columns.map(({ id }) => id), 'c9']);
    // Only a group has columns.
    expect(addColumn(design, before[0] ?? '', column)).toEqual(design);
  });

  it('a column that goes takes the totals of it and the checks at it along, and a total goes alone', () => {
    const group = ofGroup();
    const [total] = group.totals;
    if (total === undefined) throw new Error('the sample form has a total');
    const at = { id: 'k1', on: total.column, must: 'true', message: 'm', stops: true };
    const checked = { ...design, checks: [...design.checks, at as never] };
    const without = removeQuestion(checked, total.column);
    expect(ofGroup(without).columns.map(({ id }) => id)).not.toContain(total.column);
    expect(ofGroup(without).totals).toEqual(group.totals.filter(({ column: of }) => of !== total.column));
    expect(without.checks.some(({ id }) => id === 'k1')).toBe(false);
    const lessTotal = ofGroup(removeQuestion(design, total.id));
    expect([lessTotal.totals.length, lessTotal.columns.length]).toEqual([
      group.totals.length - 1,
      group.columns.length,
    ]);
  });
});

describe('keys that are taken', () => {
  it('are those of the form with its totals, or those of one group', () => {
    const group = ofGroup();
    const ofForm = keysTaken(design);
    expect(
      [group.key, group.totals[0]?.key, group.columns[0]?.key].map((key) => ofForm.has(key ?? '')),
    ).toEqual([true, true, false]);
    expect([...keysTaken(design, group.id)]).toEqual(group.columns.map(({ key }) => key));
    expect([...keysTaken(design, 'nothing')]).toEqual([]);
  });
});

it('a check is changed by its id, and no other is', () => {
  const [one, ...others] = design.checks;
  const changed = replaceCheck(design, one?.id ?? '', { message: 'Otherwise' });
  expect(changed.checks[0]).toEqual({ ...one, message: 'Otherwise' });
  expect(changed.checks.slice(1)).toEqual(others);
});
