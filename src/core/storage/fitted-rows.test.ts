import { describe, expect, it } from 'vitest';
import { beds, products } from '../../../demo/tables';
import { design } from '../../../tests/support/designs';
import { columnUses } from '../form/column-uses';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import { fittedRow as fittedRowIn } from './fitted-rows';
import type { RowToWrite } from './rows-to-write';
import { tablesOf } from './tables-of';

const fittedRow = (row: RowToWrite, asked: ReadonlyMap<string, Table>, kept: ReadonlyMap<string, Table>) =>
  fittedRowIn(row, asked, kept, 'Europe/London');
const column = (id: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id,
  ...more,
});
const table = (id: string, ...columns: Column[]): Table => ({
  ...plainTable,
  id,
  key: id,
  label: id,
  prefix: 'T',
  columns,
});
const map = (...tables: Table[]): Map<string, Table> => new Map(tables.map((one) => [one.id, one]));
const row = (
  id: string,
  values: Record<string, string | boolean | null>,
  rows: RowToWrite[] = [],
  more: Pick<RowToWrite, 'row'> = {},
): RowToWrite => ({ table: id, values: new Map(Object.entries(values)), rows, ...more });

describe('a release goes on while its tables change', () => {
  it('what is kept as asked stays as it is', () => {
    const tables = map(table('t', column('ca'), column('cb', { kind: 'decimal', decimals: 2 })));
    const written = row('t', { ca: ' 12 ', cb: '1.50' });
    expect(fittedRow(written, tables, tables)).toEqual({ row: written, unfitting: [] });
  });

  it('answers are read as the kind that is kept now, or refused at their place', () => {
    const asked = map(
      table(
        't',
        column('ca'),
        column('cb', { kind: 'choice', choices: [{ code: 'r', label: 'Raised' }] }),
        column('cc', { kind: 'decimal', decimals: 2 }),
      ),
    );
    const kept = map(
      table(
        't',
        column('ca', { kind: 'whole', decimals: 0 }),
        column('cb'),
        column('cc', { kind: 'decimal', decimals: 1 }),
      ),
    );
    expect([...fittedRow(row('t', { ca: '12', cb: 'r', cc: '1.50' }), asked, kept).row.values]).toEqual([
      ['ca', '12'],
      ['cb', 'Raised'],
      ['cc', '1.50'],
    ]);
    expect(fittedRow(row('t', { ca: 'many', cb: null, cc: '1.55' }), asked, kept).unfitting).toEqual([
      { table: 't', row: null, column: 'ca', code: 'not-a-number' },
      { table: 't', row: null, column: 'cc', code: 'too-many-decimals' },
    ]);
  });

  it('rows are told by their ids, retired columns are filled still, and what was removed goes nowhere', () => {
    const asked = map(table('t', column('ca')), table('u', column('cx'), column('cy')));
    const kept = map({ ...table('t'), retired: [column('ca')] }, table('u', column('cx', { kind: 'date' })));
    const fitted = fittedRow(
      row('t', { ca: 'stays' }, [
        row('u', { cx: '2026-01-02', cy: 'gone' }),
        row('u', { cx: 'soon', cy: '' }, [], { row: 'r2' }),
      ]),
      asked,
      kept,
    );
    expect([...fitted.row.values]).toEqual([['ca', 'stays']]);
    expect(fitted.row.rows.map(({ values }) => [...values.keys()])).toEqual([['cx'], ['cx']]);
    expect(fitted.unfitting).toEqual([{ table: 'u', row: 'r2', column: 'cx', code: 'not-a-date' }]);
  });
});

describe('where a form uses a column', () => {
  const tables = map(beds, products, ...tablesOf(design));
  it('is told: what it asks, shows, carries along and reckons with', () => {
    const uses = (of: Table) =>
      Object.fromEntries([...columnUses(design, tables, of)].map(([id, places]) => [id, [...places].sort()]));
    expect(uses(products)).toMatchObject({
      cpromax: expect.arrayContaining(['expression']) as string[],
      cproname: expect.arrayContaining(['shown']) as string[],
    });
    expect(uses(beds)['cbedcode']).toEqual(['shown']);
    const [own] = tablesOf(design);
    expect(Object.values(uses(own!)).every((places) => places.includes('asked'))).toBe(true);
    expect(uses(table('other', column('ca')))).toEqual({});
  });

  it('takes a column that keeps fewer decimals, another target or another kind for another column, and one with more for the same', () => {
    const of = (asked: Partial<Column>, kept: Partial<Column>, value: string) =>
      fittedRow(
        row('t', { ca: value }),
        map(table('t', column('ca', asked))),
        map(table('t', column('ca', kept))),
      );
    const decimals = (n: number | null) => ({ kind: 'decimal' as const, decimals: n });
    expect(of(decimals(1), decimals(3), '1.5')).toEqual({ row: row('t', { ca: '1.5' }), unfitting: [] });
    expect(of(decimals(2), decimals(0), '1.55').unfitting).toMatchObject([
      { table: 't', row: null, column: 'ca' },
    ]);
    expect(of(decimals(null), decimals(null), '1').unfitting).toEqual([]);
    expect(
      of({ kind: 'reference', target: 'a' }, { kind: 'reference', target: 'b' }, 'x').unfitting,
    ).toHaveLength(1);
    // What is required now may still be empty then: the table itself says so.
    expect(of({}, { kind: 'whole', decimals: 0, required: true }, ' ')).toEqual({
      row: row('t', { ca: null }),
      unfitting: [],
    });
  });

  it('leaves what is no text, and what the release did not ask, as it is; and tells rows by their ids', () => {
    const asked = map(
      table('t', column('ca', { kind: 'yes-no' })),
      table('u', column('cb')),
      table('v', column('cc')),
    );
    const kept = map(
      table('t', column('ca'), column('cx', { kind: 'whole' })),
      table('u', column('cb', { kind: 'whole', decimals: 0 })),
      { ...table('v'), retired: [column('cc')] },
    );
    const inner = [
      row('u', { cb: '1' }),
      row('v', { cc: 'kept' }),
      row('u', { cb: 'no' }, [], { row: 'r3' }),
    ];
    const fitted = fittedRow(row('t', { ca: true, cx: '7' }, inner), asked, kept);
    expect(Object.fromEntries(fitted.row.values)).toEqual({ ca: true, cx: '7' });
    expect(fitted.row.rows[1]?.values.get('cc')).toBe('kept');
    expect(fitted.unfitting).toMatchObject([{ table: 'u', row: 'r3', column: 'cb' }]);
  });
});
