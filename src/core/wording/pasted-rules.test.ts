import { describe, expect, it } from 'vitest';
import { NUMBER, TEXT } from '../expression/type';
import type { RuleTable } from '../rules/rules';
import { pastedRules } from './pasted-rules';

const table: RuleTable = {
  id: 't',
  label: 'T',
  hit: 'U',
  conditions: [
    { id: 'co', expression: 'qcost' },
    { id: 'ce', expression: 'qcentre' },
  ],
  asks: ['sa'],
  days: ['sa'],
  rows: [
    { id: 'r1', cells: [{ condition: 'co', test: '1' }], gives: [] },
    { id: 'r2', cells: [{ condition: 'co', test: '2' }], gives: [{ step: 'sa', people: ['old'] }] },
  ],
};
const people = new Map([
  ['Osei', 'p1'],
  ['Dagny', 'p2'],
]);
let n = 0;
const paste = (at: [string, string], block: string[][]) =>
  pastedRules(table, at, block, {
    scope: new Map([
      ['cost', { id: 'qcost', type: NUMBER }],
      ['centre', { id: 'qcentre', type: TEXT }],
    ]),
    known: (id) =>
      id === 'co' ? { type: NUMBER } : { type: TEXT, choices: [{ code: 'nur', label: 'Nursery' }] },
    whom: (name) => {
      const id = people.get(name);
      return name === 'nobody' ? 'nobody' : id === undefined ? null : { people: [id] };
    },
    newId: () => `n${++n}`,
  });

describe('a block pasted over rules', () => {
  it('fills tests, whom and days from a cell on, and adds rows below', () => {
    const { table: made, unknown } = paste(
      ['r2', 'co'],
      [
        ['up to 500', 'Nursery', 'Osei, Dagny', '2'],
        ['> 500', 'any', 'nobody', ''],
        ['many', '', 'Somebody', '0'],
      ],
    );
    expect(unknown).toEqual(['Somebody']);
    expect(made.rows.map(({ cells }) => cells.map(({ test }) => test))).toEqual([
      ['1'],
      ['<= 500', '"nur"'],
      ['> 500'],
      ['many'],
    ]);
    expect(
      made.rows.map(({ gives }) => gives.map(({ people: who, days, nobody }) => [who, days, nobody])),
    ).toEqual([[], [[['p1', 'p2'], 2, undefined]], [[[], undefined, true]], [[[], undefined, undefined]]]);
  });

  it('begins at the condition it is pasted at, and is cut where a table has no more rows', () => {
    expect(paste(['r1', 'ce'], [['Nursery', 'Dagny']]).table.rows[0]).toMatchObject({
      cells: [
        { condition: 'co', test: '1' },
        { condition: 'ce', test: '"nur"' },
      ],
      gives: [{ step: 'sa', people: ['p2'] }],
    });
    const long = paste(
      ['r2', 'co'],
      Array.from({ length: 300 }, () => ['5']),
    );
    expect(long.table.rows).toHaveLength(100);
  });
});
