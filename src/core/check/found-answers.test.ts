import { describe, expect, it } from 'vitest';
import { BED, design, NEMAVAR, sheetOf, SOAP } from '../../../tests/support/designs';
import type { Answers } from '../form/answers';
import { checkOutcomes } from './outcomes';
import { findAnswers, type Goal } from './found-answers';
import { sheetIssues } from './sheet-issues';

const picked = (product: string): Answers => ({
  values: { qtrbed: BED },
  rows: { qtrlines: [{ id: 'r1', cells: { qtrproduct: product } }] },
  reasons: {},
});
const means = () => {
  let count = 0;
  return { today: '2026-11-23', newId: () => `n${String(++count)}` };
};
const found = (answers: Answers, goal: Goal) => {
  const sheet = sheetOf(answers);
  const met = findAnswers(sheet, goal, means());
  const fired = checkOutcomes(sheet).filter(({ came }) => came === 'stops' || came === 'asks');
  return { sheet, met, fired: fired.map(({ check }) => check.id) };
};

describe('answers that are looked for', () => {
  it('fit every check', () => {
    const { sheet, met, fired } = found(picked(NEMAVAR), { t: 'fit' });
    expect([met, fired, sheetIssues(sheet)]).toEqual([true, [], []]);
    // What was picked stays.
    expect(sheet.raw(['qtrlines', 'r1', 'qtrproduct'])).toBe(NEMAVAR);
  });

  it('break one check and no other, just beyond its edge', () => {
    // More than the label allows is still in stock of the one, and of the other all that is allowed is too much.
    const products: Readonly<Record<string, string>> = { qtrc1: SOAP, qtrc2: NEMAVAR, qtrc3: SOAP };
    for (const { id } of design.checks) {
      const { met, fired } = found(picked(products[id] ?? ''), { t: 'break', check: id });
      expect([id, met, [...new Set(fired)]]).toEqual([id, true, [id]]);
    }
  });

  it('are not made up where there are none: so much soap is not to be had within its rate', () => {
    const asks = design.checks.find(({ otherwise }) => otherwise === 'ask');
    const { met } = found(picked(SOAP), { t: 'break', check: asks?.id ?? '' });
    expect(met).toBe(false);
  });

  it('leave what is answered already where it fits', () => {
    const begun = picked(NEMAVAR);
    const { sheet } = found({ ...begun, values: { ...begun.values, qtrseen: 'Scale' } }, { t: 'fit' });
    expect(sheet.raw(['qtrseen'])).toBe('Scale');
  });
});
