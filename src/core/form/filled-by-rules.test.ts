import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiled, form, number, section, sum, tables } from '../../../tests/support/small-form';
import { worldOf } from '../../../tests/support/workspace';
import type { HitPolicy, Rule, RuleTable } from '../rules/rules';
import { compileForm } from './compile-form';
import type { CalculatedQuestion, FormDesign } from './design';
import { designIssues } from './design-issues';
import { fillingPolicies } from './filled-by-rules';
import { beginFilling, fillBy, leaveFilling, setFill } from './rule-edits';
import { Sheet } from './sheet';

const rate = sum('qrate', '7', { decimals: 1 }) as CalculatedQuestion;
const design = form([section('seca', [number('qcost'), rate, sum('qtwice', 'qrate * 2')])]);
const row = (id: string, test: string, gives: string, weight?: number): Rule =>
  setFill(
    {
      id,
      cells: test === '' ? [] : [{ condition: 'cona', test }],
      gives: [],
      ...(weight !== undefined && { weight }),
    },
    'qrate',
    gives,
  );
const filling = (hit: HitPolicy, rows: readonly Rule[]): FormDesign => {
  const table: RuleTable = {
    id: 'rtable',
    label: 'Rates',
    hit,
    conditions: [{ id: 'cona', expression: 'qcost' }],
    asks: [],
    days: [],
    fills: ['qrate'],
    rows,
  };
  return { ...design, rules: [table] };
};
const worked = (of: FormDesign, cost: string) => {
  const from = { values: { qcost: cost }, rows: {}, reasons: {} };
  const sheet = new Sheet(compiled(of), from, new Map(), worldOf('2026-12-01T10:00:00'));
  const told = (id: string) => {
    const value = sheet.value([id]);
    return value === null ? null : String(value);
  };
  return { sheet, told };
};

describe('a calculated answer that rules fill', () => {
  it('is what the row gives that fits, follows what it reads, and is read by others', () => {
    const of = filling('U', [row('rowa', '<= 10', 'qcost / 4'), row('rowb', '(10..100]', '3')]);
    const { sheet, told } = worked(of, '10');
    expect([told('qrate'), told('qtwice')]).toEqual(['2.5', '5']);
    sheet.set(['qcost'], '50');
    expect([told('qrate'), told('qtwice')]).toEqual(['3', '6']);
    // Where the rules do not say, and where a row says nothing of it: what it is worked out from by itself.
    sheet.set(['qcost'], '500');
    expect(told('qrate')).toBe('7');
    expect(worked(filling('U', [row('rowa', '<= 10', '')]), '1').told('qrate')).toBe('7');
  });

  it('law: is what the policy says of the rows that fit', () => {
    const given = fc.record({
      most: fc.integer({ min: 0, max: 20 }),
      gives: fc.integer({ min: 0, max: 3 }),
      weight: fc.integer({ min: 0, max: 3 }),
    });
    fc.assert(
      fc.property(
        fc.constantFrom(...fillingPolicies),
        fc.array(given, { minLength: 1, maxLength: 5 }),
        fc.integer({ min: 0, max: 20 }),
        (hit, rows, cost) => {
          const of = filling(
            hit,
            rows.map(({ most, gives, weight }, i) => row(`row${i}`, `<= ${most}`, String(gives), weight)),
          );
          const fits = rows.filter(({ most }) => cost <= most);
          const alike = fits.every(({ gives }) => gives === fits[0]?.gives);
          const heaviest = Math.max(...fits.map(({ weight }) => weight));
          const wanted =
            fits.length === 0
              ? 7
              : hit === 'F' || (hit === 'A' && alike) || (hit === 'U' && fits.length === 1)
                ? fits[0]?.gives
                : hit === 'P'
                  ? fits.find(({ weight }) => weight === heaviest)?.gives
                  : null;
          expect(worked(of, String(cost)).told('qrate')).toBe(wanted === null ? null : String(wanted));
        },
      ),
      { numRuns: 60 },
    );
  });

  it('tells at its cell what cannot be read or is of another kind, what reads itself, and where several rows count', () => {
    const issuesOf = (of: FormDesign) =>
      designIssues(of, tables, new Set()).map(({ code, path }) => [code, ...path]);
    const broken = filling('C', [row('rowa', '', '"text"'), row('rowb', '', 'qnothing')]);
    expect(issuesOf(broken)).toEqual(
      expect.arrayContaining([
        ['result-type', 'rules', 'rtable', 'rowa', 'qrate'],
        [expect.any(String), 'rules', 'rtable', 'rowb', 'qrate'],
        ['rules-fill-several', 'rules', 'rtable'],
      ]),
    );
    expect(compileForm(filling('U', [row('rowa', '', 'qtwice')]), tables)).toMatchObject({
      ok: false,
      error: expect.arrayContaining([
        expect.objectContaining({
          code: 'circular',
          facts: { circle: 'QTWICE → QRATE → the rules “Rates” → QTWICE' },
        }),
      ]) as unknown,
    });
    expect(issuesOf(filling('U', [row('rowa', '', '1')]))).toEqual([]);
  });

  it('is begun with what it was worked out from, is filled by one table alone, and is as it was once left', () => {
    const begun = beginFilling(design, rate, { table: 'rtable', row: 'rowa', label: 'Rates' });
    expect(worked(begun, '1').told('qrate')).toBe('7');
    const other = filling('U', []).rules?.[0];
    const both: FormDesign = {
      ...begun,
      rules: [...(begun.rules ?? []), { ...other!, id: 'rother', fills: [], asks: ['s'] }],
    };
    expect(fillBy(both, 'qrate', 'rother').rules).toMatchObject([{ id: 'rother', fills: ['qrate'] }]);
    expect(leaveFilling(begun, 'qrate').rules).toBeUndefined();
  });
});
