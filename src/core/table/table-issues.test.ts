import { describe, expect, it } from 'vitest';
import { limits } from '../limits';
import { linkedIssues } from './linked-issues';
import { plainColumn, plainTable, type Column, type Table } from './model';
import { planRedesign } from './redesign';
import { tableIssues } from './table-issues';

const column = (id: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id.toUpperCase(),
  ...more,
});
const beds: Table = {
  ...plainTable,
  id: 't',
  key: 'beds',
  label: 'Beds',
  prefix: 'B',
  columns: [column('ca'), column('cb')],
};
const issues = (
  wanted: Partial<Table>,
  before: Table | null = null,
  others: readonly Table[] = [],
): string[] =>
  tableIssues({ ...beds, ...wanted }, before, new Map(others.map((one) => [one.id, one]))).map(
    ({ code, path }) => `${code} ${path.join('.')}`,
  );

describe('what keeps a table from being made', () => {
  it('is nothing of one that is as it should be', () => expect(issues({})).toEqual([]));

  it.each<[string, Partial<Table>, string[]]>([
    ['no name', { label: ' ' }, ['label-missing table.label']],
    ['a key with spaces', { key: 'the beds' }, ['key-invalid table.key']],
    ['a key of the database', { key: 'xmin' }, ['key-reserved table.key']],
    ['a prefix in small letters', { prefix: 'b' }, ['prefix-invalid table.prefix']],
    ['no columns', { columns: [] }, ['columns-missing table.columns']],
    [
      'too many columns',
      { columns: Array.from({ length: limits.tableColumns + 1 }, (_, i) => column(`c${i}`)) },
      ['too-many table.columns'],
    ],
    [
      'as many as may be',
      { columns: Array.from({ length: limits.tableColumns }, (_, i) => column(`c${i}`)) },
      [],
    ],
    ['a column without a name', { columns: [column('ca', { label: '' })] }, ['label-missing ca.label']],
    ['a column’s key', { columns: [column('ca', { key: '1st' })] }, ['key-invalid ca.key']],
    [
      'one key twice, retired columns counted in',
      { columns: [column('ca'), column('cb', { key: 'ca' })], retired: [column('cc', { key: 'ca' })] },
      ['key-taken cb.key', 'key-taken cc.key'],
    ],
    ['no choices', { columns: [column('ca', { kind: 'choice' })] }, ['choices-missing ca.choices']],
    [
      'a reference to no table',
      { columns: [column('ca', { kind: 'reference', target: 'gone' })] },
      ['table-unknown ca.target'],
    ],
    ['a reference to itself', { columns: [column('ca', { kind: 'reference', target: 't' })] }, []],
    [
      'too many decimals',
      { columns: [column('ca', { kind: 'decimal', decimals: limits.decimals + 1 })] },
      ['too-many ca.decimals'],
    ],
    ['one column together', { together: [['ca'], ['ca', 'cb']] }, ['together-too-few table.together']],
  ])('%s', (_, wanted, expected) => expect(issues(wanted)).toEqual(expected));

  it('is another table of its key, unless it is there itself', () => {
    const other = { ...beds, id: 'o' };
    expect(issues({}, null, [other])).toEqual(['table-key-taken table.key']);
    expect(issues({}, null, [beds])).toEqual([]);
    expect(issues({}, beds, [beds, other])).toEqual([]);
    expect(
      issues({ columns: [column('ca', { kind: 'reference', target: 'o' })] }, null, [{ ...other, key: 'x' }]),
    ).toEqual([]);
  });

  it('is a column taken away that was not retired first', () => {
    expect(issues({ columns: [column('ca')] }, beds)).toEqual(['retire-first cb']);
    expect(issues({ columns: [column('ca')], retired: [column('cb')] }, beds)).toEqual([]);
  });
});

describe('a linked table', () => {
  const state = column('state', {
    kind: 'choice',
    choices: [
      { code: 'g', label: 'Growing on' },
      { code: 'p', label: 'Planted out' },
    ],
  });
  const linked: Table = {
    ...beds,
    columns: [column('ca'), state],
    linked: { source: 'Exchange', adds: true, changes: true },
  };
  const told = (wanted: Partial<Table>, before: Table | null = linked) =>
    linkedIssues(before, planRedesign(before, { ...linked, ...wanted })).map(({ code, path, facts }) => [
      code,
      ...path,
      facts['source'],
    ]);

  it('is named, described and ordered here', () => {
    expect(
      told({
        label: 'Their beds',
        prefix: 'X',
        title: ['ca'],
        columns: [state, column('ca', { label: 'Code', description: 'As painted on the sign' })],
      }),
    ).toEqual([]);
    expect(
      told({
        columns: [
          column('ca'),
          {
            ...state,
            choices: [
              { code: 'p', label: 'Out' },
              { code: 'g', label: 'In' },
            ],
          },
        ],
      }),
    ).toEqual([]);
  });

  it('is what its source makes it in everything else', () => {
    expect(told({ columns: [column('ca'), state, column('cn')] })).toEqual([
      ['linked-structure', 'cn', 'Exchange'],
    ]);
    expect(told({ columns: [column('ca', { kind: 'whole' }), state] })).toEqual([
      ['linked-structure', 'ca', 'Exchange'],
    ]);
    expect(told({ columns: [column('ca'), { ...state, choices: [{ code: 'g', label: 'In' }] }] })).toEqual([
      ['linked-structure', 'state', 'Exchange'],
    ]);
    expect(told({ columns: [column('ca'), { ...state, list: { id: 'l', label: 'States' } }] })).toEqual([
      ['linked-structure', 'state', 'Exchange'],
    ]);
    expect(told({ together: [['ca', 'state']] })).toEqual([['linked-structure', 'table', 'Exchange']]);
  });

  it('holds of no other table', () => {
    const own = { ...linked, linked: null };
    expect(told({ columns: [column('cn')] }, own)).toEqual([]);
    expect(linkedIssues(null, planRedesign(null, own))).toEqual([]);
  });
});
