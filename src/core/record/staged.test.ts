import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import {
  afterSaved,
  clashesOf,
  countStaged,
  drop,
  dropCell,
  editsOf,
  redrawn,
  stagedIssues,
  stagedOf,
  stageRemoval,
  typeCell,
  typeNew,
  writtenIn,
  type EditedRecord,
  type NewRecord,
  type Staged,
} from './staged';

const column = (id: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id.toUpperCase(),
  ...more,
});
const name = column('name', { required: true });
const count = column('count', { kind: 'whole' });
const price = column('price', { kind: 'decimal', decimals: 2 });
const state = column('state', {
  kind: 'choice',
  choices: [
    { code: 'g', label: 'Growing on' },
    { code: 'p', label: 'Planted out' },
  ],
});
const bed = column('bed', { kind: 'reference', target: 'b' });
const table: Table = {
  ...plainTable,
  id: 't',
  key: 't',
  label: 'Plants',
  prefix: 'P',
  columns: [name, count, price, state, bed],
};
const BED = '01900000-0000-7000-8000-000000000001';
const record: EditedRecord = {
  table: 't',
  id: 'r1',
  name: 'P-0001',
  version: 3,
  beside: {},
  cells: {
    name: { raw: 'Fern' },
    count: { raw: '12' },
    price: { raw: '1.50' },
    state: { raw: 'g' },
    bed: { raw: BED, title: 'G4' },
  },
};
const fresh = (id: string): NewRecord => ({ table: 't', id, parent: null, given: {} });
const change = (staged: Staged) => {
  const one = stagedOf(staged, 'r1');
  if (one?.t !== 'change') throw new Error('no change is staged');
  return one;
};

describe('what is typed in cells', () => {
  it('is staged against what stood there, with the version it began from', () => {
    const staged = typeCell(typeCell([], record, count, { raw: '13' }), record, count, { raw: '14' });
    expect(staged).toEqual([
      {
        t: 'change',
        table: 't',
        id: 'r1',
        name: 'P-0001',
        version: 3,
        before: { count: { raw: '12' } },
        typed: { count: { raw: '14' } },
      },
    ]);
    // The grid shows a newer record by now; the edit still began from the older.
    const later = typeCell(staged, { ...record, version: 4 }, name, { raw: 'Moss' });
    expect(change(later).version).toBe(3);
    expect(countStaged(later)).toEqual({ edits: 2, records: 1 });
  });

  it('is no edit where it says what stands there, however it is spelled', () => {
    expect(typeCell([], record, price, { raw: '1.5' })).toEqual([]);
    const staged = typeCell(typeCell([], record, price, { raw: '2' }), record, count, { raw: '1' });
    expect(Object.keys(change(typeCell(staged, record, price, { raw: ' 1.50 ' })).typed)).toEqual(['count']);
  });

  it('is read by its words, and a record is named by picking it', () => {
    expect(writtenIn(state, ' planted OUT')).toEqual({ raw: 'p' });
    expect(writtenIn(bed, 'G4')).toEqual({ raw: 'G4' });
    expect(writtenIn(bed, '  ')).toEqual({ raw: null });
    expect(writtenIn(count, ' 12 ')).toEqual({ raw: '12' });
  });

  it('typing and dropping it again leaves nothing, for any cells in any order', () => {
    const cell = fc.constantFrom(name, count, price, state, bed);
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, fc.string({ maxLength: 6 })), { maxLength: 12 }), (writes) => {
        const staged = writes.reduce<Staged>(
          (all, [of, text]) => typeCell(all, record, of, writtenIn(of, text)),
          [],
        );
        expect(writes.reduce<Staged>((all, [of]) => dropCell(all, 'r1', of.id), staged)).toEqual([]);
        // Typing what stood there does the same.
        expect(
          writes.reduce<Staged>(
            (all, [of]) => typeCell(all, record, of, record.cells[of.id] ?? { raw: null }),
            staged,
          ),
        ).toEqual([]);
      }),
    );
  });
});

describe('what keeps it from being saved', () => {
  it('stands at its cell: unreadable, empty where something must be, or not found', () => {
    const staged = [
      [name, '  '],
      [count, 'many'],
      [bed, 'G9'],
      [price, '1.555'],
    ] as const;
    const typed = staged.reduce<Staged>(
      (all, [of, text]) => typeCell(all, record, of, writtenIn(of, text)),
      [],
    );
    expect(stagedIssues(table, change(typed)).map(({ path, code }) => [...path, code])).toEqual([
      ['r1', 'name', 'required'],
      ['r1', 'count', 'not-a-number'],
      ['r1', 'bed', 'not-a-record'],
      ['r1', 'price', 'too-many-decimals'],
    ]);
  });

  it('a new record lacks what must be filled, unless it fills itself', () => {
    const added = typeNew([], fresh('n1'), count, { raw: '2' });
    const issues = (of: Table) => added.flatMap((one) => stagedIssues(of, one)).map(({ path }) => path);
    expect(issues(table)).toEqual([['n1', 'name']]);
    const preset = { ...table, columns: [{ ...name, default: '"Fern"' }, count] };
    expect(issues(preset)).toEqual([]);
  });
});

describe('the batch', () => {
  it('adds, changes and removes, and leaves out rows nothing was typed in', () => {
    const added = typeNew(typeNew([], fresh('n1'), name, { raw: 'Moss' }), fresh('n2'), count, { raw: null });
    const staged = stageRemoval(typeCell(added, record, bed, { raw: null }), { ...record, id: 'r2' });
    expect(editsOf(staged)).toEqual([
      { t: 'add', table: 't', id: 'n1', number: null, parent: null, values: { name: 'Moss' } },
      {
        t: 'change',
        table: 't',
        id: 'r1',
        version: 3,
        before: { bed: BED },
        values: { bed: null },
      },
      { t: 'remove', table: 't', id: 'r2', version: 3 },
    ]);
    const row = typeNew([], { ...fresh('n3'), parent: 'p1', given: { bed: { raw: BED } } }, name, {
      raw: 'x',
    });
    expect(editsOf(row)).toMatchObject([{ parent: { id: 'p1' }, values: { bed: BED, name: 'x' } }]);
  });

  it('a removal takes what was typed in the record with it, and a new record is simply not added', () => {
    const staged = stageRemoval(typeCell([], record, count, { raw: '1' }), record);
    expect(staged).toEqual([{ t: 'remove', table: 't', id: 'r1', name: 'P-0001', version: 3 }]);
    expect(typeCell(staged, record, count, { raw: '1' })).toBe(staged);
    expect(stagedIssues(table, staged[0] as Staged[number])).toEqual([]);
    const added = typeNew([], fresh('n1'), name, { raw: 'Moss' });
    expect(stageRemoval(added, { ...record, id: 'n1' })).toEqual([]);
    expect(drop(staged, 'r1')).toEqual([]);
    expect(dropCell(staged, 'r1', 'count')).toBe(staged);
  });
});

describe('when others changed the record meanwhile', () => {
  const mine = typeCell(typeCell([], record, count, { raw: '14' }), record, state, { raw: 'p' });
  const theirs = {
    ...record,
    version: 4,
    cells: { ...record.cells, count: { raw: '13' }, name: { raw: 'Moss' } },
  };

  it('only the cell that both changed, and not alike, is asked about', () => {
    expect(clashesOf(table, change(mine), theirs)).toEqual([
      { column: 'count', before: { raw: '12' }, theirs: { raw: '13' }, mine: { raw: '14' } },
    ]);
    expect(
      clashesOf(table, change(mine), { ...theirs, cells: { ...theirs.cells, count: { raw: '14' } } }),
    ).toEqual([]);
    expect(clashesOf(table, change(mine), record)).toEqual([]);
  });

  it('is drawn on theirs: what is kept of mine stands against theirs, the rest is no edit', () => {
    const kept = change(redrawn(table, mine, theirs, new Set()));
    expect([kept.version, kept.before, kept.typed]).toEqual([
      4,
      { count: { raw: '13' }, state: { raw: 'g' } },
      { count: { raw: '14' }, state: { raw: 'p' } },
    ]);
    expect(clashesOf(table, kept, theirs)).toEqual([]);
    expect(Object.keys(change(redrawn(table, mine, theirs, new Set(['count']))).typed)).toEqual(['state']);
    expect(redrawn(table, mine, theirs, new Set(['count', 'state']))).toEqual([]);
    expect(redrawn(table, stageRemoval([], record), theirs, new Set())).toMatchObject([
      { t: 'remove', version: 4 },
    ]);
  });
});

describe('once a batch was saved', () => {
  const added = typeNew([], fresh('n1'), name, { raw: 'Moss' });
  const sent = typeCell(added, record, count, { raw: '14' });
  const versions = { n1: 1, r1: 4 };

  it('nothing of it is staged any more', () => {
    expect(afterSaved(sent, sent, versions)).toEqual([]);
    const removal = stageRemoval([], record);
    expect(afterSaved(removal, removal, { r1: 4 })).toEqual([]);
    // What stood there already was saved by saying so: it has no new version.
    expect(afterSaved(sent, sent, { n1: 1 })).toEqual([]);
  });

  it('what was typed after it was sent stands against what was saved', () => {
    const more = typeCell(typeNew(sent, fresh('n1'), price, { raw: '2' }), record, state, { raw: 'p' });
    expect(afterSaved(more, sent, versions)).toEqual([
      {
        t: 'change',
        table: 't',
        id: 'n1',
        name: '',
        version: 1,
        before: { price: { raw: null } },
        typed: { price: { raw: '2' } },
      },
      {
        t: 'change',
        table: 't',
        id: 'r1',
        name: 'P-0001',
        version: 4,
        before: { state: { raw: 'g' } },
        typed: { state: { raw: 'p' } },
      },
    ]);
    const again = typeCell(sent, record, count, { raw: '15' });
    expect(afterSaved(again, sent, versions)).toMatchObject([
      { id: 'r1', version: 4, before: { count: { raw: '14' } }, typed: { count: { raw: '15' } } },
    ]);
    const emptied = typeNew(typeNew([], fresh('n1'), name, { raw: 'Moss' }), fresh('n1'), name, {
      raw: null,
    });
    expect(afterSaved(emptied, added, { n1: 1 })).toMatchObject([
      { t: 'change', before: { name: { raw: 'Moss' } }, typed: { name: { raw: null } } },
    ]);
  });

  it('a new record that was dropped meanwhile is there, and is to be removed', () => {
    expect(afterSaved([], added, { n1: 1 })).toEqual([
      { t: 'remove', table: 't', id: 'n1', name: '', version: 1 },
    ]);
    expect(afterSaved(stageRemoval(drop(sent, 'r1'), record), sent, versions)).toMatchObject([
      { t: 'remove', id: 'r1', version: 4 },
    ]);
  });
});
