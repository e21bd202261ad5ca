import { hiddenColumns, may, rowRulesFor, type Catalogue, type TableAction } from '../catalogue/catalogue';
import { grouped } from '../kernel/grouped';
import { issue, under, type Issue } from '../kernel/issue';
import { mergedFields } from '../kernel/merge';
import { fail, ok, type Result } from '../kernel/result';
import { isCalculated, type Table } from '../table/model';
import { columnIn, columnValue, type Values } from './column-value';

/** What is to be done with one record. A batch of them is done together or not at all. */
export type RecordEdit = AddRecord | ChangeRecord | RemoveRecord | RestoreRecord;

interface OfRecord {
  /** Its table, by id. */
  readonly table: string;
  readonly id: string;
}
export interface AddRecord extends OfRecord {
  readonly t: 'add';
  /** Null where it gets the next of its table. */
  readonly number: string | null;
  /** The record whose row it is, and its place among those rows, from 1. */
  readonly parent: { readonly id: string; readonly position: number } | null;
  readonly values: Values;
}
export interface ChangeRecord extends OfRecord {
  readonly t: 'change';
  /** The version it was when the edit began. */
  readonly version: number;
  /** What the columns that are changed held then. */
  readonly before: Values;
  readonly values: Values;
  /** Of a row that is moved: its place among the rows of its record, from 1. */
  readonly position?: number;
}
/** It stays, with all that belongs to it, and is shown no more. */
export interface RemoveRecord extends OfRecord {
  readonly t: 'remove';
  readonly version: number;
}
/** What was removed comes back, with what went away with it. */
export interface RestoreRecord extends OfRecord {
  readonly t: 'restore';
  readonly version: number;
}

/** A record as it stands when an edit meets it. */
export interface StoredRecord {
  readonly version: number;
  readonly removed: boolean;
  readonly values: Values;
}

/** What takes an edit back, once it has left its record at `version`: undoing an undo is the edit again. */
export function inverseOf(edit: RecordEdit, version: number): Exclude<RecordEdit, AddRecord> {
  const { table, id } = edit;
  switch (edit.t) {
    case 'add':
    case 'restore':
      return { t: 'remove', table, id, version };
    case 'remove':
      return { t: 'restore', table, id, version };
    case 'change':
      return { t: 'change', table, id, version, before: edit.values, values: edit.before };
  }
}

/** Which action of a table an edit needs; a record that comes back is a removal undone. */
const needs: Readonly<Record<RecordEdit['t'], TableAction>> = {
  add: 'add',
  change: 'change',
  remove: 'remove',
  restore: 'remove',
};

/** What a person may not do of a batch, each table said once; and records of tables that they may neither see nor pick from. */
export function forbiddenEdits(catalogue: Catalogue, person: string, edits: readonly RecordEdit[]): Issue[] {
  const asked = new Map(edits.map(({ t, table }) => [`${needs[t]} ${table}`, { action: needs[t], table }]));
  const refused = [...asked.values()]
    .filter(({ action, table }) => !may(catalogue, person, action, table))
    .map(({ action, table }) =>
      issue('edit-not-allowed', [], { action, table: catalogue.tables.get(table)?.label ?? '' }),
    );
  const hidden = namesIn(catalogue.tables, edits)
    .filter(({ table }) => !may(catalogue, person, 'see', table) && !may(catalogue, person, 'pick', table))
    .map(({ path, label }) => issue('not-a-record', path, { label }));
  return [...refused, ...hidden, ...edits.flatMap((edit) => writesHidden(catalogue, person, edit))];
}

/** Nobody writes over what they do not see. */
function writesHidden(catalogue: Catalogue, person: string, edit: RecordEdit): Issue[] {
  const table = catalogue.tables.get(edit.table);
  if (table === undefined || !('values' in edit)) return [];
  return hiddenColumns(catalogue, person, table)
    .filter(({ id }) => id in edit.values)
    .map(({ id, label }) => issue('column-restricted', [edit.id, id], { label }));
}

/** The records of edits by what is done with them, where whoever asks may do that with some of a table's records only. */
export function limitedEdits(
  catalogue: Catalogue,
  person: string,
  edits: readonly RecordEdit[],
): { readonly table: Table; readonly action: TableAction; readonly ids: readonly string[] }[] {
  const met = edits.filter(
    (edit) => edit.t !== 'add' && rowRulesFor(catalogue, person, needs[edit.t], edit.table) !== null,
  );
  return [...grouped(met, ({ t, table }) => `${needs[t]} ${table}`).values()].flatMap((own) => {
    const [first] = own;
    const table = catalogue.tables.get(first?.table ?? '');
    return first === undefined || table === undefined
      ? []
      : [{ table, action: needs[first.t], ids: own.map(({ id }) => id) }];
  });
}

/** A record that an edit names: as a value, or as the record whose row is added. */
export interface Named {
  /** Of the record that is named. */
  readonly table: string;
  readonly id: string;
  /** Where it is named, and what that is called. */
  readonly path: Issue['path'];
  readonly label: string;
}

export function namesIn(tables: ReadonlyMap<string, Table>, edits: readonly RecordEdit[]): Named[] {
  return edits.flatMap((edit) => {
    const table = tables.get(edit.table);
    if (table === undefined || !('values' in edit)) return [];
    const values = Object.entries(edit.values).flatMap(([id, value]): Named[] => {
      const { target = null, label = '' } = columnIn(table, id) ?? {};
      return target === null || typeof value !== 'string'
        ? []
        : [{ table: target, id: value, path: [edit.id, id], label }];
    });
    const parent = edit.t === 'add' && table.parent !== null ? edit.parent : null;
    return parent === null
      ? values
      : [...values, { table: table.parent ?? '', id: parent.id, path: [edit.id], label: table.label }];
  });
}

/**
 * An edit, read by its columns: values as they are stored, and what is wrong with it whatever the records
 * are. Paths begin with the record's id. `parent` and `number` are for those who write from a sheet, and are
 * taken as they are.
 */
export function readEdit(tables: ReadonlyMap<string, Table>, edit: RecordEdit): Result<RecordEdit, Issue[]> {
  const table = tables.get(edit.table);
  if (table === undefined) return fail([issue('table-gone', [edit.id])]);
  const issues = fixedOutside(table, edit);
  if (!('values' in edit)) return issues.length > 0 ? fail(under([edit.id], issues)) : ok(edit);
  const read = (given: Values): Values =>
    Object.fromEntries(
      Object.entries(given).flatMap(([id, raw]) => {
        const column = columnIn(table, id);
        const value = column === undefined ? null : columnValue(column, raw);
        if (column !== undefined && isCalculated(column)) {
          issues.push(issue('column-calculated', [id], { label: column.label }));
          return [];
        }
        if (value?.ok === true) return [[id, value.value]];
        issues.push(value === null ? issue('unknown-column', [id], { name: id }) : value.error);
        return [];
      }),
    );
  const values = read(edit.values);
  // Only a row stands in a record, and always in one.
  if (edit.t === 'add' && (edit.parent === null) !== (table.parent === null))
    issues.push(issue('malformed', []));
  issues.push(...missing(table, edit, values));
  if (issues.length > 0) return fail(under([edit.id], issues));
  return ok(
    edit.t === 'add' ? { ...edit, values } : { ...edit, values, before: readLoosely(table, edit.before) },
  );
}

/** What a source outside does not let be done from here. */
function fixedOutside({ label, linked }: Table, { t }: RecordEdit): Issue[] {
  if (linked === null || (t === 'add' && linked.adds) || (t === 'change' && linked.changes)) return [];
  return [
    issue(t === 'add' ? 'linked-no-adding' : 'source-fixed', [], { table: label, source: linked.source }),
  ];
}

/** What must be filled and would not be; what has a default fills itself where a new record says nothing of it. */
const missing = (table: Table, { t }: RecordEdit, values: Values): Issue[] =>
  table.columns
    .filter(({ id, required, default: preset }) =>
      id in values ? required && values[id] === null : t === 'add' && required && preset === '',
    )
    .map(({ id, label }) => issue('required', [id], { label }));

/** Values as their columns hold them, and those that do not fit any more as they are. */
export const readLoosely = (table: Table, values: Values): Values =>
  Object.fromEntries(
    Object.entries(values).map(([id, raw]) => {
      const column = columnIn(table, id);
      const value = column === undefined ? null : columnValue(column, raw);
      return [id, value?.ok === true ? value.value : raw];
    }),
  );

/**
 * An edit that was read, held against its record as it is now: what is still to be written, null for nothing.
 * What others changed meanwhile in other columns stays; the same column changed differently is asked about,
 * and so is the removal of what is not any more as it was seen.
 */
export function meet(
  table: Table,
  edit: Exclude<RecordEdit, AddRecord>,
  stored: StoredRecord | undefined,
): Result<Exclude<RecordEdit, AddRecord> | null, Issue[]> {
  const { id } = edit;
  if (stored === undefined) return fail([issue('record-not-there', [id], { table: table.label })]);
  const { version } = stored;
  switch (edit.t) {
    case 'restore':
      return ok(stored.removed ? { ...edit, version } : null);
    case 'remove':
      if (stored.removed) return ok(null);
      return version === edit.version
        ? ok(edit)
        : fail([issue('record-changed', [id], { table: table.label })]);
    case 'change': {
      if (stored.removed) return fail([issue('record-removed', [id], { table: table.label })]);
      const theirs = readLoosely(table, only(edit.values, stored.values));
      const { value, clashes } = mergedFields<Values>(only(edit.values, edit.before), edit.values, theirs);
      if (clashes.length > 0)
        return fail(clashes.map(([column = '']) => clash(table, id, column, theirs[column] ?? null)));
      const values = Object.fromEntries(Object.entries(value).filter(([key, one]) => one !== theirs[key]));
      return ok(
        Object.keys(values).length === 0 && edit.position === undefined
          ? null
          : { ...edit, version, before: only(values, theirs), values },
      );
    }
  }
}

const only = (these: Values, of: Values): Values =>
  Object.fromEntries(Object.keys(these).map((id) => [id, of[id] ?? null]));

const clash = (table: Table, record: string, id: string, theirs: Values[string]): Issue =>
  issue('value-changed', [record, id], { label: columnIn(table, id)?.label ?? '', theirs });
