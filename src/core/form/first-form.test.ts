import { describe, expect, it } from 'vitest';
import { baseTables } from '../../../demo/tables';
import { columnKinds, plainColumn, plainTable, type Column, type Table } from '../table/model';
import { planTables } from '../table/plan';
import { tablesOf } from '../storage/tables-of';
import { designIssues } from './design-issues';
import { groupsOf } from './design';
import { firstForm } from './first-form';

const column = (kind: Column['kind'], i: number): Column => ({
  ...plainColumn,
  id: `c${i}`,
  key: `c${i}`,
  label: `Column ${i}`,
  kind,
  required: i % 2 === 0,
  decimals: kind === 'decimal' ? 3 : kind === 'money' ? 2 : null,
  unit: kind === 'money' ? 'GBP' : '',
  choices: kind === 'choice' || kind === 'choices' ? [{ code: 'a', label: 'A' }] : [],
  target: kind === 'reference' ? (baseTables[0]?.id ?? null) : null,
  description: `About ${i}`,
});
const visits: Table = {
  ...plainTable,
  id: '01900000-0000-7000-9000-0000000000f1',
  key: 'visits',
  label: 'Visits',
  prefix: 'V',
  columns: columnKinds.map(column),
};
const lines: Table = {
  ...visits,
  id: '01900000-0000-7000-9000-0000000000f2',
  key: 'visit_lines',
  label: 'Visit lines',
  prefix: 'VL',
  parent: visits.id,
};
const marks: Table = {
  ...visits,
  id: '01900000-0000-7000-9000-0000000000f3',
  key: 'visit_marks',
  label: 'Visit marks',
  prefix: 'VM',
  parent: lines.id,
  columns: visits.columns.slice(0, 2),
};
const tables = new Map([...baseTables, visits, lines, marks].map((table) => [table.id, table]));
const design = firstForm(visits, tables, { section: 'qsection', rows: (i) => `qrows${i}` });

describe('the first form of a table', () => {
  it('asks for every column of every kind, and for the rows that belong to it', () => {
    expect(design.title).toBe('New visit');
    expect(design.sections[0]?.questions.map(({ kind }) => kind)).toEqual([
      ...columnKinds.map((kind) => (kind === 'reference' ? 'lookup' : kind)),
      'rows',
      'rows',
    ]);
    // Rows of rows stand in them.
    const [, inner] = groupsOf(design);
    expect([inner?.table.key, inner?.within]).toEqual(['visit_marks', 'qrows0']);
    expect(design.sections[0]?.questions[0]).toMatchObject({ hint: 'About 0', required: true });
  });

  it('can be released at once, and changes no table', () => {
    expect(designIssues(design, tables, new Set())).toEqual([]);
    expect(planTables([...tables.values()], tablesOf(design))).toEqual({ ok: true, value: [] });
  });
});
