import { describe, expect, it } from 'vitest';
import { visitDesign } from '../../../tests/support/visit';
import { plainColumn, type Column } from '../table/model';
import type { ExistingCheck } from './check';
import { comparedInForm, comparedInTable, existingIssues, existingSentence } from './existing';

const check = (more: Partial<ExistingCheck>): ExistingCheck => ({
  id: 'k1',
  on: 'ca',
  message: 'Taken',
  same: [],
  rule: { t: 'unique' },
  ...more,
});
const columns: Column[] = [
  { ...plainColumn, id: 'ca', key: 'bed', label: 'Bed' },
  { ...plainColumn, id: 'cb', key: 'begun', label: 'Begun', kind: 'date' },
  { ...plainColumn, id: 'cc', key: 'ended', label: 'Ended', kind: 'date' },
];
const compared = comparedInTable({ columns });

describe('what records are held against each other by', () => {
  it('are the columns of a table, the questions of a form, or those of the rows a check stands in', () => {
    expect(compared).toEqual([
      { id: 'ca', key: 'bed', isDate: false },
      { id: 'cb', key: 'begun', isDate: true },
      { id: 'cc', key: 'ended', isDate: true },
    ]);
    const inForm = comparedInForm(visitDesign, check({ on: 'qbed' }));
    expect(inForm.filter(({ isDate }) => isDate).map(({ id }) => id)).toEqual(['qdue', 'qday']);
    expect(inForm.map(({ id }) => id)).not.toContain('qlines');
    expect(comparedInForm(visitDesign, check({ on: 'qdone' })).map(({ id }) => id)).toEqual([
      'qcount',
      'qdone',
      'qwhy',
      'qshare',
      'qtype',
    ]);
  });

  it('are there, and days where days are needed', () => {
    const codes = (more: Partial<ExistingCheck>) =>
      existingIssues(check(more), compared).map(({ code, path }) => [code, ...path]);
    const columnsWrong = [['existing-columns', 'checks', 'k1']];
    expect(codes({ same: ['ca'] })).toEqual([]);
    expect(codes({ same: [] })).toEqual(columnsWrong);
    expect(codes({ same: ['ca', 'gone'] })).toEqual(columnsWrong);
    expect(codes({ on: 'gone', same: ['ca'] })).toEqual(columnsWrong);
    expect(codes({ same: ['ca'], message: ' ' })).toEqual([['check-message-missing', 'checks', 'k1']]);
    expect(codes({ rule: { t: 'no-overlap', from: 'cb', to: 'cc' } })).toEqual([]);
    expect(codes({ rule: { t: 'no-overlap', from: 'cb', to: 'ca' } })).toEqual(columnsWrong);
    const most = (per: 'day' | 'ever', date: string | null) =>
      codes({ rule: { t: 'at-most', most: 2, per, date } });
    expect([most('day', 'cb'), most('day', null), most('day', 'ca'), most('ever', null)]).toEqual([
      [],
      columnsWrong,
      columnsWrong,
      [],
    ]);
  });
});

describe('said as people say it', () => {
  it.each<[Partial<ExistingCheck>, string]>([
    [{ same: ['ca', 'cb'] }, 'no other record has the same bed and begun'],
    [
      { rule: { t: 'no-overlap', from: 'cb', to: 'cc' } },
      'the days from begun to ended overlap with no other record',
    ],
    [
      { same: ['ca'], rule: { t: 'no-overlap', from: 'cb', to: 'x' } },
      'the days from begun to … overlap with no other record with the same bed',
    ],
    [{ rule: { t: 'at-most', most: 2, per: 'month', date: 'cb' } }, 'at most 2 in one month, by begun'],
    [
      { same: ['ca'], rule: { t: 'at-most', most: 3, per: 'ever', date: null } },
      'at most 3 in all with the same bed',
    ],
  ])('%j', (more, sentence) => expect(existingSentence(check(more), compared)).toBe(sentence));
});
