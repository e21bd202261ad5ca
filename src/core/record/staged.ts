import { issue, type Issue } from '../kernel/issue';
import type { ColumnValue } from '../storage/rows-to-write';
import type { Column, Table } from '../table/model';
import { asKept } from '../formats/typed';
import { pastedRaw } from '../form/pasted';
import { columnIn, columnValue, type Values } from './column-value';
import type { RecordEdit } from './edit';

/** What stands in a cell that was typed in; with the title of the record it names. */
export interface TypedCell {
  readonly raw: ColumnValue;
  readonly title?: string;
}
/** By column id. */
export type Typed = Readonly<Record<string, TypedCell>>;

/** What is to become of one record, not saved yet. It is plain data, so that it can be kept where a reload finds it. */
export type StagedRecord = StagedAdd | StagedChange | StagedRemoval;
interface OfStaged {
  /** Its table, by id. */
  readonly table: string;
  readonly id: string;
}
interface StagedAdd extends OfStaged {
  readonly t: 'add';
  /** The record whose row it is, by id; null for a record of its own. */
  readonly parent: string | null;
  readonly typed: Typed;
}
interface StagedChange extends OfStaged {
  readonly t: 'change';
  /** As people know it, for looking it over. */
  readonly name: string;
  /** As the record was when the first of its cells was typed in. */
  readonly version: number;
  readonly before: Typed;
  readonly typed: Typed;
  /** What stood in columns that checks read beside those typed in; left out where there are none. */
  readonly beside?: Typed;
}
interface StagedRemoval extends OfStaged {
  readonly t: 'remove';
  readonly name: string;
  readonly version: number;
}

/** Staged edits of records of a table, and of those that belong or refer to them, in the order they were begun. */
export type Staged = readonly StagedRecord[];

/** The most that are saved together; what is more is imported. */
export const MOST_STAGED = 5_000;

/** A record of the grid, as an edit begins from it. */
export interface EditedRecord {
  readonly table: string;
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly cells: Typed;
  /** Of `cells`, those that checks of its table read, as far as they are known. */
  readonly beside: Typed;
}

/** A record that is still to be made: whose row it is, and what stands in it without having been typed. */
export interface NewRecord {
  readonly table: string;
  readonly id: string;
  readonly parent: string | null;
  readonly given: Typed;
}

export const stagedOf = (staged: Staged, id: string): StagedRecord | undefined =>
  staged.find((one) => one.id === id);

const put = (staged: Staged, next: StagedRecord): Staged =>
  staged.some(({ id }) => id === next.id)
    ? staged.map((one) => (one.id === next.id ? next : one))
    : [...staged, next];

/** A cell of a record that is there. What is typed as it stands is no edit, and a record without one is staged no more. */
export function typeCell(staged: Staged, record: EditedRecord, column: Column, cell: TypedCell): Staged {
  const known = stagedOf(staged, record.id);
  if (known?.t === 'add') return typeNew(staged, { ...known, given: {} }, column, cell);
  if (known?.t === 'remove') return staged;
  const before = known?.before[column.id] ?? record.cells[column.id] ?? { raw: null };
  const change: StagedChange = {
    t: 'change',
    table: record.table,
    id: record.id,
    name: record.name,
    version: known?.version ?? record.version,
    before: { ...known?.before, [column.id]: before },
    typed: { ...known?.typed, [column.id]: cell },
    ...(Object.keys(record.beside).length > 0 && { beside: known?.beside ?? record.beside }),
  };
  return isSame(column, before, cell)
    ? dropCell(put(staged, change), record.id, column.id)
    : put(staged, change);
}

/** A cell of a record that is to be added. */
export function typeNew(staged: Staged, fresh: NewRecord, column: Column, cell: TypedCell): Staged {
  const { table, id, parent, given } = fresh;
  const known = stagedOf(staged, id);
  const { [column.id]: _, ...others } = known?.t === 'add' ? known.typed : given;
  return put(staged, {
    t: 'add',
    table,
    id,
    parent,
    typed: isBlank(cell.raw) ? others : { ...others, [column.id]: cell },
  });
}

/** A record that is to be removed; one that is not there yet is simply not added. */
export function stageRemoval(staged: Staged, { table, id, name, version }: EditedRecord): Staged {
  if (stagedOf(staged, id)?.t === 'add') return drop(staged, id);
  return put(drop(staged, id), { t: 'remove', table, id, name, version });
}

export const drop = (staged: Staged, id: string): Staged => staged.filter((one) => one.id !== id);

export function dropCell(staged: Staged, id: string, column: string): Staged {
  const known = stagedOf(staged, id);
  if (known === undefined || known.t === 'remove') return staged;
  const { [column]: _, ...typed } = known.typed;
  if (known.t === 'add') return put(staged, { ...known, typed });
  const { [column]: __, ...before } = known.before;
  return Object.keys(typed).length === 0 ? drop(staged, id) : put(staged, { ...known, typed, before });
}

/**
 * What somebody wrote in a cell, or pasted there, as it is staged. A record is named by picking it; a text in
 * its place stays, and is reported.
 */
export const writtenIn = (column: Column, text: string): TypedCell =>
  column.kind === 'reference'
    ? { raw: text.trim() === '' ? null : text }
    : { raw: pastedRaw(column, asKept(column.kind, text)) };

const isBlank = (raw: ColumnValue): boolean => raw === null || (typeof raw === 'string' && raw.trim() === '');

function isSame(column: Column, a: TypedCell, b: TypedCell): boolean {
  const [one, other] = [columnValue(column, a.raw), columnValue(column, b.raw)];
  return one.ok && other.ok ? one.value === other.value : a.raw === b.raw;
}

/** What keeps a staged record from being saved, each issue at `[record, column]`. */
export function stagedIssues(table: Table, staged: StagedRecord): Issue[] {
  if (staged.t === 'remove') return [];
  const { id, typed } = staged;
  const wrong = Object.entries(typed).flatMap(([key, { raw }]) => {
    const column = columnIn(table, key);
    if (column === undefined) return [issue('unknown-column', [id, key], { name: key })];
    const read = columnValue(column, raw);
    if (!read.ok) return [{ ...read.error, path: [id, key] } as Issue];
    return read.value === null && column.required
      ? [issue('required', [id, key], { label: column.label })]
      : [];
  });
  const missing =
    staged.t === 'change'
      ? []
      : table.columns.filter((one) => one.required && one.default === '' && !(one.id in typed));
  return [...wrong, ...missing.map(({ id: key, label }) => issue('required', [id, key], { label }))];
}

/** The batch that saves them. Records without anything typed in them are none. */
export function editsOf(staged: Staged): RecordEdit[] {
  const values = (typed: Typed): Values =>
    Object.fromEntries(Object.entries(typed).map(([id, { raw }]) => [id, raw]));
  return staged.flatMap((one): RecordEdit[] => {
    const of = { table: one.table, id: one.id };
    switch (one.t) {
      case 'add':
        return Object.keys(one.typed).length === 0
          ? []
          : [
              {
                t: 'add',
                ...of,
                number: null,
                parent: one.parent === null ? null : { id: one.parent, position: 0 },
                values: values(one.typed),
              },
            ];
      case 'change':
        return [
          { t: 'change', ...of, version: one.version, before: values(one.before), values: values(one.typed) },
        ];
      case 'remove':
        return [{ t: 'remove', ...of, version: one.version }];
    }
  });
}

/** What others made of a record meanwhile, as far as somebody has typed in it: the same cell changed by both is asked about. */
export interface Clash {
  readonly column: string;
  readonly before: TypedCell;
  readonly theirs: TypedCell;
  readonly mine: TypedCell;
}

/** Where a staged change and the record as it is now differ from how it was, each its own way. */
export function clashesOf(table: Table, staged: StagedChange, now: EditedRecord): Clash[] {
  return Object.entries(staged.typed).flatMap(([id, mine]): Clash[] => {
    const column = columnIn(table, id);
    if (column === undefined) return [];
    const [before, theirs] = [staged.before[id] ?? { raw: null }, now.cells[id] ?? { raw: null }];
    const isTheirs = !isSame(column, before, theirs);
    return isTheirs && !isSame(column, theirs, mine) ? [{ column: id, before, theirs, mine }] : [];
  });
}

/**
 * A staged change drawn on the record as it is now: what is kept of one's own stands against what is there,
 * and what is there already is no edit.
 */
export function redrawn(
  table: Table,
  staged: Staged,
  now: EditedRecord,
  keepTheirs: ReadonlySet<string>,
): Staged {
  const known = stagedOf(staged, now.id);
  if (known === undefined || known.t === 'add') return staged;
  if (known.t === 'remove') return put(staged, { ...known, version: now.version });
  const mine = Object.entries(known.typed).filter(([id, cell]) => {
    const column = columnIn(table, id);
    return (
      column !== undefined && !keepTheirs.has(id) && !isSame(column, now.cells[id] ?? { raw: null }, cell)
    );
  });
  if (mine.length === 0) return drop(staged, now.id);
  return put(staged, {
    ...known,
    version: now.version,
    before: Object.fromEntries(mine.map(([id]) => [id, now.cells[id] ?? { raw: null }])),
    typed: Object.fromEntries(mine),
    ...(Object.keys(now.beside).length > 0 && { beside: now.beside }),
  });
}

/** How much is staged: cells typed in and records added or removed. */
export function countStaged(staged: Staged): { edits: number; records: number } {
  const counts = staged.map((one) => (one.t === 'change' ? Object.keys(one.typed).length : 1));
  return { edits: counts.reduce((sum, n) => sum + n, 0), records: staged.length };
}

/**
 * What is still staged once `sent` was saved: what was typed after it was sent stands against what was saved.
 * A new record that was dropped meanwhile is there now, and so is to be removed.
 */
export function afterSaved(staged: Staged, sent: Staged, versions: Readonly<Record<string, number>>): Staged {
  const left = staged.flatMap((now): Staged => {
    const before = stagedOf(sent, now.id);
    const version = versions[now.id];
    if (before === undefined) return [now];
    if (version === undefined) return JSON.stringify(before) === JSON.stringify(now) ? [] : [now];
    if (now.t === 'remove') return before.t === 'remove' ? [] : [{ ...now, version }];
    if (before.t === 'remove') return [];
    const typed = Object.entries(now.typed).filter(([id, { raw }]) => before.typed[id]?.raw !== raw);
    // A cell that was emptied again in a record that is there now.
    const emptied = now.t === 'add' ? Object.keys(before.typed).filter((id) => !(id in now.typed)) : [];
    const cells: Typed = {
      ...Object.fromEntries(typed),
      ...Object.fromEntries(emptied.map((id) => [id, { raw: null }])),
    };
    if (Object.keys(cells).length === 0) return [];
    const stood = (id: string): TypedCell =>
      before.typed[id] ?? (now.t === 'change' ? now.before[id] : undefined) ?? { raw: null };
    return [
      {
        t: 'change',
        table: now.table,
        id: now.id,
        name: now.t === 'change' ? now.name : '',
        version,
        before: Object.fromEntries(Object.keys(cells).map((id) => [id, stood(id)])),
        typed: cells,
      },
    ];
  });
  const dropped = sent.filter(
    ({ t, id }) => t === 'add' && versions[id] !== undefined && stagedOf(staged, id) === undefined,
  );
  return [
    ...left,
    ...dropped.map(({ table, id }) => ({
      t: 'remove' as const,
      table,
      id,
      name: '',
      version: versions[id] ?? 1,
    })),
  ];
}
