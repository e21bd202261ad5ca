import type { RecordData } from '../../contract/answers-from-server';
import {
  stagedOf,
  typeCell,
  typeNew,
  type EditedRecord,
  type NewRecord,
  type Staged,
  type StagedRecord,
  type TypedCell,
} from '../../core/record/staged';
import type { Column, Table } from '../../core/table/model';
import { editedRecord, storedCell } from './record-cells';
import type { StagedTrouble } from './reasons';

/**
 * A cell as it stands in the grid: what is typed, or what is stored; with what stood there where an edit is
 * staged, and what is wrong with it.
 */
export interface GridCell {
  readonly cell: TypedCell;
  readonly before: TypedCell | null;
  readonly trouble: string | null;
}

/** A line of the grid: a record that is there, one that is to be added, or the blank one that typing makes a record of. */
export interface GridLine {
  readonly id: string;
  readonly number: string;
  readonly state: 'stored' | 'changed' | 'remove' | 'add' | 'blank';
  /** Seen, and none of those that whoever looks may change. */
  readonly isFixed: boolean;
  readonly record: EditedRecord | null;
  /** Of one that is to be added. */
  readonly fresh: NewRecord | null;
  readonly cellOf: (column: Column) => GridCell;
}

export const BLANK_LINE = 'blank';
const NOTHING: TypedCell = { raw: null };

interface Given {
  readonly table: Table;
  readonly rows: readonly RecordData[];
  readonly staged: Staged;
  readonly troubles: readonly StagedTrouble[];
  /** Whether what is shown ends with the last record there is; else new ones stand first, where they are seen. */
  readonly isWhole: boolean;
  /** What a new record here begins with; those that are staged here have the same. */
  readonly fresh: Omit<NewRecord, 'id'>;
  readonly hasBlank: boolean;
}

/** The lines of the grid in their order. A line whose record and edits are the same as before is the same. */
export class GridLines {
  private known = new Map<string, { readonly from: readonly unknown[]; readonly line: GridLine }>();

  of({ table, rows, staged, troubles, isWhole, fresh, hasBlank }: Given): GridLine[] {
    const next: typeof this.known = new Map();
    const troubleKey = (id: string): string =>
      troubles
        .filter((one) => one.id === id)
        .map(({ column, sentence }) => `${column} ${sentence}`)
        .join('\n');
    const kept = (id: string, from: readonly unknown[], make: () => GridLine): GridLine => {
      const before = this.known.get(id);
      const line = before?.from.every((one, i) => one === from[i]) === true ? before.line : make();
      next.set(id, { from, line });
      return line;
    };
    const stored = rows.map((row) => {
      const edit = stagedOf(staged, row.id);
      return kept(row.id, [table, row, edit, troubleKey(row.id)], () =>
        storedLine(table, row, edit, troubles),
      );
    });
    const added = staged.flatMap((edit) =>
      edit.t === 'add' && isMadeHere(edit, fresh)
        ? [kept(edit.id, [table, edit, troubleKey(edit.id)], () => addedLine(edit, troubles))]
        : [],
    );
    const blank = hasBlank ? [kept(BLANK_LINE, [table, fresh], () => newLine(fresh, BLANK_LINE))] : [];
    this.known = next;
    return isWhole ? [...stored, ...added, ...blank] : [...blank, ...added, ...stored];
  }
}

const isMadeHere = (edit: Extract<StagedRecord, { t: 'add' }>, fresh: Omit<NewRecord, 'id'>): boolean =>
  edit.table === fresh.table &&
  edit.parent === fresh.parent &&
  Object.entries(fresh.given).every(([id, { raw }]) => edit.typed[id]?.raw === raw);

const troubleAt = (troubles: readonly StagedTrouble[], id: string, column: string): string | null =>
  troubles.find((one) => one.id === id && one.column === column)?.sentence ?? null;

function storedLine(
  table: Table,
  row: RecordData,
  edit: StagedRecord | undefined,
  troubles: readonly StagedTrouble[],
): GridLine {
  const change = edit?.t === 'change' ? edit : null;
  return {
    id: row.id,
    number: row.number,
    state: edit === undefined ? 'stored' : edit.t === 'remove' ? 'remove' : 'changed',
    isFixed: row.isFixed === true,
    record: editedRecord(table, row),
    fresh: null,
    cellOf: (column) => {
      const typed = change?.typed[column.id];
      const there = storedCell(column, row);
      return {
        cell: typed ?? there,
        before: typed === undefined ? null : (change?.before[column.id] ?? NOTHING),
        trouble: troubleAt(troubles, row.id, column.id),
      };
    },
  };
}

const addedLine = (
  edit: Extract<StagedRecord, { t: 'add' }>,
  troubles: readonly StagedTrouble[],
): GridLine => ({
  id: edit.id,
  number: '',
  state: 'add',
  isFixed: false,
  record: null,
  fresh: { table: edit.table, id: edit.id, parent: edit.parent, given: {} },
  cellOf: (column) => ({
    cell: edit.typed[column.id] ?? NOTHING,
    before: edit.typed[column.id] === undefined ? null : NOTHING,
    trouble: troubleAt(troubles, edit.id, column.id),
  }),
});

/** One that is not staged yet, under an id. */
export const newLine = (fresh: Omit<NewRecord, 'id'>, id: string): GridLine => ({
  id,
  number: '',
  state: id === BLANK_LINE ? 'blank' : 'add',
  isFixed: false,
  record: null,
  fresh: { ...fresh, id },
  cellOf: (column) => ({ cell: fresh.given[column.id] ?? NOTHING, before: null, trouble: null }),
});

/** A cell of a line, staged. */
export function writtenTo(staged: Staged, line: GridLine, column: Column, cell: TypedCell): Staged {
  if (line.record !== null) return typeCell(staged, line.record, column, cell);
  return line.fresh === null ? staged : typeNew(staged, line.fresh, column, cell);
}
