import { describe, expect, it } from 'vitest';
import { workspace } from '../../../tests/support/workspace';
import { asSeenBy, hiddenColumns, type Catalogue, type Grant } from '../catalogue/catalogue';
import { narrowed } from '../catalogue/narrowed';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import { restrictedTo, restrictionIssues, workedOutOfRestricted } from './restricted';

const column = (id: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id.toUpperCase(),
  ...more,
});
const money = { kind: 'money', decimals: 2, unit: 'EUR' } as const;
const wages: Table = {
  ...plainTable,
  id: 'wages',
  key: 'wages',
  label: 'Wages',
  prefix: 'W',
  title: ['cname'],
  guarded: 'partly',
  columns: [
    column('cname'),
    column('cfee', money),
    column('ctwice', { ...money, formula: 'cfee * 2' }),
    column('cfour', { ...money, formula: 'ctwice * 2' }),
    column('cscan', { kind: 'files' }),
  ],
  together: [['cname', 'cfee']],
  checks: [{ id: 'k', must: 'cfee > 0', otherwise: 'stop', message: 'No', on: 'cfee' }],
};
const shifts: Table = {
  ...plainTable,
  id: 'shifts',
  key: 'shifts',
  label: 'Shifts',
  prefix: 'S',
  columns: [
    column('cwho', { kind: 'reference', target: 'wages' }),
    column('ccost', { ...money, formula: 'cwho.cfour' }),
  ],
};
const grant = (action: Grant['action'], more: Partial<Grant> = {}): Grant => ({
  id: action,
  tableId: 'wages',
  formId: null,
  action,
  role: null,
  groupId: null,
  personId: null,
  where: null,
  columns: null,
  ...more,
});
const people = ['ines', 'kofi', 'maren'].map(
  (id) =>
    [
      id,
      { id, name: id, email: '', place: '', roles: [], manager: null, deputy: null, ended: false },
    ] as const,
);
const catalogue = (kept: readonly string[], ...grants: Grant[]): Catalogue => ({
  number: '1',
  workspace,
  tables: new Map([wages, shifts].map((table) => [table.id, restrictedTo(table, new Set(kept))])),
  lists: new Map(),
  people: new Map(people),
  groups: new Map(),
  forms: new Map(),
  writers: [],
  grants: [
    grant('see'),
    grant('design', { personId: 'ines' }),
    grant('see-columns', { personId: 'kofi', columns: ['cfee'] }),
    ...grants,
  ],
});
const wagesIn = ({ tables }: Catalogue): Table => tables.get('wages') ?? wages;

describe('a restricted column', () => {
  const known = catalogue(['cfee', 'ctwice']);
  const hidden = (of: Catalogue, who: string) => hiddenColumns(of, who, wagesIn(of)).map(({ id }) => id);

  it('is seen by those who design the table, by those who are named, and by nobody else', () => {
    expect([hidden(known, 'ines'), hidden(known, 'kofi'), hidden(known, 'maren')]).toEqual([
      [],
      ['ctwice'],
      ['cfee', 'ctwice'],
    ]);
    expect(asSeenBy(known, 'ines', wagesIn(known))).toEqual({ ...wagesIn(known), guarded: 'whole' });
  });

  it('is not there for whoever does not see it, nor what says anything of it; the same table for all of them', () => {
    const seen = asSeenBy(known, 'maren', wagesIn(known));
    expect(seen.columns.map(({ id }) => id)).toEqual(['cname', 'cfour', 'cscan']);
    expect([seen.together, seen.checks]).toEqual([[], []]);
    expect(asSeenBy(known, 'nobody', wagesIn(known))).toBe(seen);
  });

  it('is seen by a program as by its person, of the tables its token names', () => {
    const token = (person: string, tableId: string) =>
      narrowed(known, { id: 't', person, grants: [{ tableId, formId: null, action: 'see' }] });
    expect(hidden(token('kofi', 'wages'), 'kofi')).toEqual(['ctwice']);
    expect(hidden(token('ines', 'wages'), 'ines')).toEqual([]);
    expect(hidden(token('ines', 'shifts'), 'ines')).toEqual(['cfee', 'ctwice']);
  });
});

it('restricts what is worked out of it, one from the other, in other tables too', () => {
  const found = workedOutOfRestricted(catalogue(['cfee']).tables);
  expect([...found].map(([table, columns]) => [table, [...columns].sort()])).toEqual([
    ['wages', ['cfour', 'ctwice']],
    ['shifts', ['ccost']],
  ]);
  expect(workedOutOfRestricted(catalogue([]).tables).size).toBe(0);
});

it('cannot name records, hold files, say who sees a record, or stand in what all may see', () => {
  const codes = (kept: readonly string[], ...grants: Grant[]) =>
    restrictionIssues(catalogue([], ...grants), wages, new Set(kept)).map(({ code, path }) => [
      code,
      ...path,
    ]);
  expect(codes(['cname'])).toEqual([['restricted-title', 'restricted', 'cname']]);
  expect(codes(['cscan'])).toEqual([['restricted-files', 'restricted', 'cscan']]);
  expect(codes(['gone'])).toEqual([['unknown-column', 'restricted', 'gone']]);
  expect(codes(['cfee'])).toEqual([
    ['restricted-read', 'restricted', 'ctwice'],
    ['restricted-read', 'restricted', 'cfour'],
    ['restricted-read', 'restricted', 'ccost'],
  ]);
  const rule = grant('see', { personId: 'maren', where: 'cfee > 3' });
  expect(codes(['cfee'], rule).map(([code]) => code)).toContain('restricted-rule');
});
