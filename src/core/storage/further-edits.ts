import Big from 'big.js';
import { plus, numberText } from '../expression/number';
import type { Place } from '../form/cells';
import type { Use } from '../form/design';
import { furtherId, lookupOfWrite, tableOfWrite } from '../form/further-writes';
import type { Sheet } from '../form/sheet';
import { issue, type Issue } from '../kernel/issue';
import { unreachable } from '../kernel/result';
import type { AddRecord, ChangeRecord, RecordEdit, StoredRecord } from '../record/edit';
import { columnIn, columnValue } from '../record/column-value';
import type { Column, Table } from '../table/model';
import type { ColumnSet, FurtherWrite } from './further-write';
import { written, type ColumnValue } from './rows-to-write';

/** One record to be written beside that of the sheet, as its answers say. */
export interface WantedWrite {
  readonly table: string;
  /** The record it changes; null where it adds one. */
  readonly record: string | null;
  /** What people call that record. */
  readonly title: string;
  /** Where it is told what cannot be written: at the pick; empty where there is none. */
  readonly place: Issue['path'];
  readonly sets: readonly WantedSet[];
}

interface WantedSet {
  readonly column: Column;
  readonly how: ColumnSet['how'];
  readonly belowZero: boolean;
  readonly value: ColumnValue;
  readonly place: Issue['path'];
}

/**
 * What is to be written further, in the order of the design and of its rows. An expression that gives nothing
 * leaves its column as it is, unless it says so outright.
 */
export function wantedWrites(sheet: Sheet, use: Use, tables: ReadonlyMap<string, Table>): WantedWrite[] {
  return (sheet.form.design.further ?? []).flatMap((write): WantedWrite[] => {
    const table = tables.get(tableOfWrite(sheet.form.design, write));
    if (table === undefined || (use === 'change' && write.onChange !== true)) return [];
    const rows = write.each === undefined ? [null] : sheet.filledRows(write.each).map(({ id }) => id);
    return rows.flatMap((row) => wantedWrite(sheet, write, table, row) ?? []);
  });
}

function wantedWrite(
  sheet: Sheet,
  write: FurtherWrite,
  table: Table,
  row: string | null,
): WantedWrite | null {
  const at = (id: string): Place => (row === null || write.each === undefined ? [id] : [write.each, row, id]);
  if (write.when !== undefined && sheet.value(at(furtherId(write.id, null))) !== true) return null;
  const found = lookupOfWrite(sheet.form.design, write);
  const place: Issue['path'] =
    found === null ? [] : found.group === null ? [found.lookup.id] : at(found.lookup.id);
  const picked = found === null ? null : written(sheet.value(place as Place), 0);
  // Nothing was picked, so there is nothing to change.
  if (write.t === 'change' && typeof picked !== 'string') return null;
  const record = write.t === 'change' && typeof picked === 'string' ? picked : null;
  return {
    table: table.id,
    record,
    title: record === null ? '' : (sheet.record(table.id, record)?.title ?? ''),
    place,
    sets: write.sets.flatMap((set) => wantedSet(sheet, write, set, table, { at, place }) ?? []),
  };
}

function wantedSet(
  sheet: Sheet,
  write: FurtherWrite,
  { column: id, how, expression, belowZero }: ColumnSet,
  table: Table,
  { at, place }: { readonly at: (id: string) => Place; readonly place: Issue['path'] },
): WantedSet | null {
  const column = columnIn(table, id);
  if (column === undefined) return null;
  const formula = furtherId(write.id, id);
  const value = written(sheet.value(at(formula)), column.decimals ?? 0);
  if (value === null && (how !== 'set' || expression.trim() !== 'null')) return null;
  return {
    column,
    how,
    belowZero: belowZero === true,
    value,
    place: amountPlace(sheet, formula, at) ?? place,
  };
}

/** Where an amount was typed: the first answer that it is worked out from, in its row where there is one. */
function amountPlace(sheet: Sheet, formula: string, at: (id: string) => Place): Place | null {
  const reads = sheet.form.formulas.find(({ id }) => id === formula)?.reads ?? [];
  for (const id of reads) {
    const field = sheet.form.fields.get(id);
    if (field === undefined || field.question.kind === 'lookup') continue;
    const place = field.group === null ? ([id] as const) : at(id);
    if (place.length === 3 || field.group === null) return place;
  }
  return null;
}

export interface FurtherEdits {
  readonly edits: (AddRecord | ChangeRecord)[];
  /** By record: where in the sheet it is told what is wrong with it, by column; under '' with it as a whole. */
  readonly places: ReadonlyMap<string, ReadonlyMap<string, Issue['path']>>;
  readonly issues: Issue[];
}

/** Edits that hold the records to be changed, with the columns they are changed in. */
export const heldBy = (wanted: readonly WantedWrite[]): ChangeRecord[] =>
  wanted.flatMap(({ table, record, sets }): ChangeRecord[] =>
    record === null
      ? []
      : [
          {
            t: 'change',
            table,
            id: record,
            version: 0,
            before: {},
            values: Object.fromEntries(sets.map(({ column }) => [column.id, null])),
          },
        ],
  );

/** A record while amounts are put to it one after the other. */
interface Changing {
  readonly table: string;
  readonly stored: StoredRecord;
  readonly values: Record<string, ColumnValue>;
}

/** The edits it comes to, of records as they are now and held. Several amounts for one record are put together. */
export function furtherEdits(
  wanted: readonly WantedWrite[],
  stored: ReadonlyMap<string, StoredRecord>,
  tables: ReadonlyMap<string, Table>,
  newId: () => string,
): FurtherEdits {
  const adds: AddRecord[] = [];
  const changing = new Map<string, Changing>();
  const places = new Map<string, Map<string, Issue['path']>>();
  const issues: Issue[] = [];
  const note = (record: string, write: WantedWrite): void => {
    const of = places.get(record) ?? new Map<string, Issue['path']>([['', write.place]]);
    for (const { column, place } of write.sets) of.set(column.id, place);
    places.set(record, of);
  };
  for (const write of wanted) {
    const known = write.record === null ? undefined : stored.get(write.record);
    if (write.record === null) {
      const id = newId();
      note(id, write);
      const values = Object.fromEntries(write.sets.map(({ column, value }) => [column.id, value]));
      adds.push({ t: 'add', table: write.table, id, number: null, parent: null, values });
    } else if (known === undefined || known.removed) {
      issues.push(
        known === undefined
          ? issue('record-not-there', write.place, { table: tables.get(write.table)?.label ?? '' })
          : issue('record-removed', write.place),
      );
    } else {
      note(write.record, write);
      const of = changing.get(write.record) ?? { table: write.table, stored: known, values: {} };
      changing.set(write.record, of);
      issues.push(...put(of, write));
    }
  }
  return { edits: [...[...changing].map(([id, of]) => asChange(id, of)), ...adds], places, issues };
}

function put({ stored, values }: Changing, { sets, title }: WantedWrite): Issue[] {
  return sets.flatMap(({ column, how, value, belowZero, place }): Issue[] => {
    if (how === 'set') {
      values[column.id] = value;
      return [];
    }
    const now = numberOf(column, column.id in values ? values[column.id] : stored.values[column.id]);
    const amount = numberOf(column, value);
    const next = sumOf(now, amount, how);
    values[column.id] = next === null ? null : next.toFixed(column.decimals ?? 0);
    // What is restricted is not told to whoever asked for more than there is.
    const there = column.restricted ? '' : numberText(now);
    const facts = { label: column.label, record: title, there, asked: numberText(amount) };
    if (next === null) return [issue('number-too-large', place, { label: column.label })];
    return how === 'lower' && next.lt(0) && !belowZero ? [issue('too-little', place, facts)] : [];
  });
}

function sumOf(now: Big, amount: Big, how: 'raise' | 'lower'): Big | null {
  switch (how) {
    case 'raise':
      return plus(now, amount);
    case 'lower':
      return plus(now, amount.times(-1));
    default:
      return unreachable(how);
  }
}

/** An empty number counts as none of anything. */
function numberOf(column: Column, value: ColumnValue | undefined): Big {
  const read = columnValue(column, value ?? null);
  return new Big(read.ok && typeof read.value === 'string' ? read.value : 0);
}

const asChange = (id: string, { table, stored, values }: Changing): ChangeRecord => ({
  t: 'change',
  table,
  id,
  version: stored.version,
  before: Object.fromEntries(Object.keys(values).map((column) => [column, stored.values[column] ?? null])),
  values,
});

/** Edits of the sheet with those beside: what both say of one record is one edit. What the sheet removes is not written to. */
export function joinedEdits(own: readonly RecordEdit[], beside: readonly RecordEdit[]): RecordEdit[] {
  const joined = new Map(own.map((edit) => [edit.id, edit]));
  for (const edit of beside) {
    const known = joined.get(edit.id);
    if (known === undefined) joined.set(edit.id, edit);
    else if (known.t === 'change' && edit.t === 'change')
      joined.set(edit.id, {
        ...known,
        before: { ...edit.before, ...known.before },
        values: { ...known.values, ...edit.values },
      });
  }
  return [...joined.values()];
}

/** Where in the sheet it is told what is wrong at `[record, column]`; null where that is not written beside. */
export function placeBeside(
  places: FurtherEdits['places'],
  [record, column]: Issue['path'],
): Issue['path'] | null {
  const of = places.get(String(record));
  return of === undefined ? null : (of.get(String(column ?? '')) ?? of.get('') ?? []);
}
