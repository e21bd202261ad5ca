import { describe, expect, it, vi } from 'vitest';
import { compiledForm, world } from '../../../tests/support/designs';
import { codes, empty, visitDesign, visitRecords, worth } from '../../../tests/support/visit';
import type { Answers } from './answers';
import type { FormDesign } from './design';
import { designIssues } from './design-issues';
import { Sheet } from './sheet';

describe('what takes too long', () => {
  it('is reported at its line instead of counting as fulfilled', () => {
    const endless: FormDesign = {
      ...visitDesign,
      checks: [
        {
          id: 'cend',
          on: 'qnote',
          must: 'every i in 1..100000000 satisfies i > 0',
          message: 'never told',
          otherwise: 'stop',
        },
      ],
    };
    const sheet = new Sheet(compiledForm(endless), empty, visitRecords, world);
    expect(codes(sheet)).toEqual([['too-many-steps', 'qnote']]);
    expect(sheet.wasGivenUp).toBe(true);
  });

  const counting = (times: number, to: string): FormDesign => ({
    ...visitDesign,
    checks: Array.from({ length: times }, (_, i) => ({
      id: `cn${i}`,
      on: 'qnote',
      must: `count(for i in 1..${to} return i) > 0`,
      message: 'never told',
      otherwise: 'stop' as const,
    })),
  });

  it('is given up by what all formulas spend together, not each by itself', () => {
    const form = compiledForm(counting(20, '100'));
    const codesWithin = (steps: number) => codes(new Sheet(form, empty, visitRecords, world, { steps }));
    expect(codesWithin(10_000)).toEqual([]);
    // Ten fit; those after them find nothing left.
    expect(codesWithin(1_300).length).toBeGreaterThan(5);
    expect(codesWithin(1_300).every(([code]) => code === 'too-many-steps')).toBe(true);
  });

  it('is refused when it is written, where its text tells', () => {
    const told = (of: FormDesign) =>
      designIssues(of, new Map(), new Set()).flatMap(({ code, path }) =>
        code === 'too-many-steps' || code === 'sheet-too-heavy' ? [[code, ...path]] : [],
      );
    expect(told(counting(1, '100000000'))).toEqual([['too-many-steps', 'checks', 'cn0']]);
    expect(told(counting(20, '100000'))).toEqual([['sheet-too-heavy', 'sections']]);
    expect(told(counting(2, '1000'))).toEqual([]);
  });

  it('may be calculated elsewhere: what is taken over gives the same sheet', () => {
    const filled: Answers = {
      values: { qguided: true, qguide: 'A', qkeep: '3' },
      rows: {
        qlines: [
          { id: 'r1', cells: { qcount: '4' } },
          { id: 'r2', cells: { qcount: '9' } },
        ],
      },
      reasons: {},
    };
    const here = new Sheet(compiledForm(visitDesign), filled, visitRecords, world);
    const there = new Sheet(compiledForm(visitDesign), filled, visitRecords, world, {
      worked: here.worked(),
    });
    expect(worth(there)).toBe(worth(here));
    expect(codes(there)).toEqual(codes(here));
    for (const sheet of [here, there]) sheet.set(['qlines', 'r1', 'qcount'], '1');
    expect(worth(there)).toBe(worth(here));
  });
});

describe('patterns', () => {
  it('cannot be told until their engine is there, and then are', async () => {
    const patterned: FormDesign = {
      ...visitDesign,
      checks: [
        {
          id: 'cpat',
          on: 'qnote',
          must: 'matches(qnote, "^[A-Z]{2}-[0-9]+$")',
          message: 'Like AB-12',
          otherwise: 'stop',
        },
      ],
    };
    // Another test may have loaded the engine already.
    vi.resetModules();
    const { compiledForm: compiledAnew } = await import('../../../tests/support/designs');
    const { Sheet: SheetAnew } = await import('./sheet');
    const { loadPatterns } = await import('../expression/functions/patterns');
    const form = compiledAnew(patterned);
    expect([form.usesPatterns, compiledForm(visitDesign).usesPatterns]).toEqual([true, false]);
    const sheet = new SheetAnew(form, { ...empty, values: { qnote: 'x' } }, visitRecords, world);
    expect(codes(sheet)).toEqual([]);
    await loadPatterns();
    sheet.refresh();
    expect(codes(sheet)).toEqual([['check-stops', 'qnote']]);
    sheet.set(['qnote'], 'AB-12');
    expect(codes(sheet)).toEqual([]);
  });
});
