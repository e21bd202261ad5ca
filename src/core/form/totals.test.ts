import Big from 'big.js';
import { describe, expect, it } from 'vitest';
import { check, compiled, form, lines, number, section } from '../../../tests/support/small-form';
import { worldOf } from '../../../tests/support/workspace';
import { sheetIssues } from '../check/sheet-issues';
import { rowsToWrite } from '../storage/rows-to-write';
import { tablesOf } from '../storage/tables-of';
import type { Raw } from './answers';
import { Sheet } from './sheet';
import { totalOf, totalShown, type TotalOf } from './totals';

const total = (of?: TotalOf) => ({ id: 'all', key: 'all', label: 'All', column: 'n', ...(of && { of }) });
const numbers = [new Big(4), null, new Big(-1), new Big(3)];
const ofs: readonly TotalOf[] = ['sum', 'count', 'mean', 'least', 'most'];

describe('what is made of a column over the rows', () => {
  it.each([
    ['sum', '6', null],
    ['count', '3', '0'],
    ['mean', '2', null],
    ['least', '-1', null],
    ['most', '4', null],
  ] as const)('%s', (of, expected, ofNothing) => {
    expect(String(totalOf(of, numbers))).toBe(expected);
    const empty = totalOf(of, [null]);
    expect(empty === null ? null : String(empty)).toBe(ofNothing);
  });

  it('is shown and kept with decimals of its own, and read by checks', () => {
    const design = (of: TotalOf) =>
      form([section('s', [lines([number('n', { unit: 'kg' })], { totals: [total(of)] })])], {
        checks: [check('c', 'all', 'all > 2')],
      });
    const shown = ofs.map((of) => {
      const made = compiled(design(of));
      const rows = ['4', '', '-1', '4'].map((n, i) => ({ id: `r${i}`, cells: { n } }));
      const sheet = new Sheet(
        made,
        { values: {}, rows: { lines: rows }, reasons: {} },
        new Map(),
        worldOf('2026-11-23T10:00:00'),
      );
      const [group] = made.groups.values();
      const column = tablesOf(made.design)[0]?.columns.find(({ id }) => id === 'all');
      return [
        of,
        totalShown(group!, group!.totals[0]!, sheet.value(['all'])),
        rowsToWrite(sheet).values.get('all'),
        column?.decimals,
        column?.unit,
        sheetIssues(sheet).some(({ code }) => code === 'check-stops'),
      ];
    });
    expect(shown).toEqual([
      ['sum', '7', '7', 0, 'kg', false],
      ['count', '3', '3', 0, '', false],
      ['mean', '2.3', '2.3', 1, 'kg', false],
      ['least', '-1', '-1', 0, 'kg', true],
      ['most', '4', '4', 0, 'kg', false],
    ]);
  });
});

it('rows that must differ are told apart by all that is said to, and each later one names the first', () => {
  const made = compiled(
    form([section('s', [lines([number('n'), number('m')], { distinct: ['n', 'm'], totals: [] })])]),
  );
  const row = (id: string, n: Raw, m: Raw) => ({ id, cells: { n, m } });
  const rows = [
    row('a', '1', '2'),
    row('b', '1', '3'),
    row('c', '01', '2'),
    row('d', '1', ''),
    row('e', '1', ''),
    row('f', '1', '2'),
  ];
  const sheet = new Sheet(
    made,
    { values: {}, rows: { lines: rows }, reasons: {} },
    new Map(),
    worldOf('2026-11-23T10:00:00'),
  );
  expect(sheetIssues(sheet)).toMatchObject([
    { code: 'row-repeated', path: ['lines', 'c', 'n'], facts: { row: 'a' } },
    { code: 'row-repeated', path: ['lines', 'f', 'n'], facts: { row: 'a' } },
  ]);
});
