import { workspace } from '../../../tests/support/workspace';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Catalogue, Grant } from '../catalogue/catalogue';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import { columnValue, type Values } from './column-value';
import {
  forbiddenEdits,
  inverseOf,
  meet,
  namesIn,
  readEdit,
  type ChangeRecord,
  type RecordEdit,
  type StoredRecord,
} from './edit';

const column = (id: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id.toUpperCase(),
  ...more,
});
const BEDS = '01900000-0000-7000-8000-0000000000b0';
const PLANTS = '01900000-0000-7000-8000-0000000000c0';
const NOTES = '01900000-0000-7000-8000-0000000000d0';
const R = '01900000-0000-7000-8000-000000000001';
const S = '01900000-0000-7000-8000-000000000002';
const table = (id: string, columns: Column[], more: Partial<Table> = {}): Table => ({
  ...plainTable,
  id,
  key: id,
  label: 'Plants',
  prefix: 'P',
  columns,
  ...more,
});
const plants = table(
  PLANTS,
  [
    column('name', { required: true }),
    column('height', { kind: 'decimal', decimals: 1 }),
    column('alive', { kind: 'yes-no' }),
    column('seen', { kind: 'date-time' }),
    column('bed', { kind: 'reference', target: BEDS }),
    column('state', { required: true, default: '"new"' }),
  ],
  { retired: [column('old')] },
);
const beds = table(BEDS, [column('code')], { label: 'Beds' });
const notes = table(NOTES, [column('text')], { label: 'Notes', parent: PLANTS });
const tables = new Map([plants, beds, notes].map((one) => [one.id, one]));
const change = (before: Values, values: Values, version = 1): ChangeRecord => ({
  t: 'change',
  table: PLANTS,
  id: R,
  version,
  before,
  values,
});
const stored = (values: Values, more: Partial<StoredRecord> = {}): StoredRecord => ({
  version: 3,
  removed: false,
  values,
  ...more,
});
const codes = (result: ReturnType<typeof meet> | ReturnType<typeof readEdit>) =>
  result.ok ? [] : result.error.map(({ code, path }) => [code, ...path.slice(1)]);

describe('an edit, read by its columns', () => {
  it('holds values as they are stored', () => {
    const read = readEdit(
      tables,
      change({}, { height: '1 200.5', alive: 'true', name: ' Fern ', seen: '2026-11-23 9:30' }),
    );
    expect(read).toMatchObject({
      ok: true,
      value: { values: { height: '1200.5', alive: true, name: 'Fern', seen: '2026-11-23T09:30:00' } },
    });
  });

  it('says all that is wrong, each at its column', () => {
    const add: RecordEdit = {
      t: 'add',
      table: PLANTS,
      id: R,
      number: null,
      parent: null,
      values: { height: '1.25', bed: 'G4', nothing: 'x' },
    };
    expect(codes(readEdit(tables, add))).toEqual([
      ['too-many-decimals', 'height'],
      ['not-a-record', 'bed'],
      ['unknown-column', 'nothing'],
      ['required', 'name'],
    ]);
    expect(codes(readEdit(tables, change({}, { name: ' ' })))).toEqual([['required', 'name']]);
    expect(codes(readEdit(tables, { ...add, table: 'gone', values: {} }))).toEqual([['table-gone']]);
  });

  it('is a row only within a record', () => {
    const add = { t: 'add', id: R, number: null, values: {} } as const;
    const parent = { id: S, position: 1 };
    expect(codes(readEdit(tables, { ...add, table: NOTES, parent: null }))).toEqual([['malformed']]);
    expect(codes(readEdit(tables, { ...add, table: BEDS, parent }))).toEqual([['malformed']]);
    expect(readEdit(tables, { ...add, table: NOTES, parent }).ok).toBe(true);
  });

  it('does only what a source outside allows', () => {
    const linked = new Map([[BEDS, { ...beds, linked: { source: 'Stores', adds: false, changes: true } }]]);
    const add: RecordEdit = { t: 'add', table: BEDS, id: R, number: null, parent: null, values: {} };
    expect(codes(readEdit(linked, add))).toEqual([['linked-no-adding']]);
    expect(readEdit(linked, { ...change({}, { code: 'x' }), table: BEDS }).ok).toBe(true);
    expect(codes(readEdit(linked, { t: 'remove', table: BEDS, id: R, version: 1 }))).toEqual([
      ['source-fixed'],
    ]);
  });
});

describe('an edit that meets its record', () => {
  it('leaves what others changed in other columns, and writes only what differs', () => {
    const met = meet(
      plants,
      change({ name: 'Fern', height: '1.0' }, { name: 'Fern', height: '2.0' }),
      stored({ name: 'Moss', height: '1.0' }),
    );
    expect(met).toEqual({ ok: true, value: change({ height: '1.0' }, { height: '2.0' }, 3) });
    expect(meet(plants, change({ name: 'a' }, { name: 'b' }), stored({ name: 'b' }))).toEqual({
      ok: true,
      value: null,
    });
  });

  it('asks where the same column was changed differently', () => {
    expect(codes(meet(plants, change({ name: 'a' }, { name: 'b' }), stored({ name: 'c' })))).toEqual([
      ['value-changed', 'name'],
    ]);
  });

  it('compares what is stored as it is stored, not as it is spelled', () => {
    const met = meet(
      plants,
      change({ seen: '2026-11-23T09:30:00', alive: true }, { seen: '2026-11-24T09:30:00', alive: false }),
      stored({ seen: '2026-11-23 09:30:00', alive: 'true' }),
    );
    expect(met.ok).toBe(true);
  });

  it('knows what is gone, what was removed, and what was changed before it is removed', () => {
    const remove = { t: 'remove', table: PLANTS, id: R, version: 3 } as const;
    expect(codes(meet(plants, remove, undefined))).toEqual([['record-not-there']]);
    expect(codes(meet(plants, change({}, { name: 'b' }), stored({}, { removed: true })))).toEqual([
      ['record-removed'],
    ]);
    expect(codes(meet(plants, { ...remove, version: 2 }, stored({})))).toEqual([['record-changed']]);
    expect(meet(plants, remove, stored({}))).toEqual({ ok: true, value: remove });
    expect(meet(plants, remove, stored({}, { removed: true }))).toEqual({ ok: true, value: null });
    expect(meet(plants, { ...remove, t: 'restore' }, stored({}))).toEqual({ ok: true, value: null });
  });

  it('and then its inverse, is nothing', () => {
    const value = fc.constantFrom(null, 'a', 'b', 'c');
    const values = fc.record({ name: fc.constantFrom('a', 'b'), old: value });
    fc.assert(
      fc.property(values, values, (before, after) => {
        let now = stored(before);
        const apply = (edit: RecordEdit): void => {
          if (edit.t === 'add') throw new Error('only what meets a record');
          const met = meet(plants, edit, now);
          if (!met.ok) throw new Error('it was refused');
          if (met.value === null) return;
          now = {
            version: met.value.version + 1,
            removed: met.value.t === 'remove',
            values: { ...now.values, ...('values' in met.value ? met.value.values : {}) },
          };
        };
        for (const edit of [
          change(before, after, 3),
          { t: 'remove', table: PLANTS, id: R, version: 3 } as const,
        ]) {
          const start = now;
          apply({ ...edit, version: now.version });
          apply(inverseOf(edit, now.version));
          expect({ ...now, version: 0 }).toEqual({ ...start, version: 0 });
        }
      }),
    );
  });

  it('takes back an addition by removing it', () => {
    expect(inverseOf({ t: 'add', table: BEDS, id: R, number: null, parent: null, values: {} }, 1)).toEqual({
      t: 'remove',
      table: BEDS,
      id: R,
      version: 1,
    });
  });
});

describe('what a batch needs', () => {
  const grant = (action: Grant['action'], tableId: string): Grant => ({
    id: action + tableId,
    tableId,
    formId: null,
    action,
    where: null,
    columns: null,
    role: null,
    groupId: null,
    personId: null,
  });
  const catalogue = (...grants: Grant[]): Catalogue => ({
    number: '1',
    workspace,
    tables,
    lists: new Map(),
    people: new Map([
      [
        'p',
        { id: 'p', name: 'P', email: '', place: '', roles: [], manager: null, deputy: null, ended: false },
      ],
    ]),
    groups: new Map(),
    forms: new Map(),
    grants,
    writers: [],
  });
  const edits: RecordEdit[] = [
    change({}, { bed: S }),
    { t: 'remove', table: PLANTS, id: S, version: 1 },
    { t: 'restore', table: PLANTS, id: S, version: 1 },
  ];

  it('is a right for each table and action, and sight of what it names', () => {
    expect(
      forbiddenEdits(catalogue(), 'p', edits).map(({ code, facts }) => [
        code,
        facts['action'] ?? facts['label'],
      ]),
    ).toEqual([
      ['edit-not-allowed', 'change'],
      ['edit-not-allowed', 'remove'],
      ['not-a-record', 'BED'],
    ]);
    const all = catalogue(grant('change', PLANTS), grant('remove', PLANTS), grant('pick', BEDS));
    expect(forbiddenEdits(all, 'p', edits)).toEqual([]);
  });

  it('names what it points to, and the record whose row it is', () => {
    expect(namesIn(tables, edits)).toEqual([{ table: BEDS, id: S, path: [R, 'bed'], label: 'BED' }]);
    const row: RecordEdit = {
      t: 'add',
      table: NOTES,
      id: R,
      number: null,
      parent: { id: S, position: 1 },
      values: {},
    };
    expect(namesIn(tables, [row])).toEqual([{ table: PLANTS, id: S, path: [R], label: 'Notes' }]);
  });
});

it('reads back what PostgreSQL writes of a column as it was written to it', () => {
  const cases: [Partial<Column>, string | boolean, string][] = [
    [{ kind: 'yes-no' }, false, 'false'],
    [{ kind: 'whole' }, '12', '12'],
    [{ kind: 'money', decimals: null }, '12.50', '12.50'],
    [{ kind: 'money', decimals: 0 }, '12', '12'],
    [{ kind: 'time' }, '09:30:00', '09:30:00'],
    [{ kind: 'date' }, '2026-11-23', '2026-11-23'],
  ];
  for (const [more, value, text] of cases)
    expect(columnValue(column('c', more), text)).toEqual({ ok: true, value });
  expect(columnValue(column('c'), '  ')).toEqual({ ok: true, value: null });
});
