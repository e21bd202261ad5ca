import type { RecordValue } from '../expression/value';
import type { Raw } from './answers';
import { copiesOf } from './carry';
import { questionAt, type RowState } from './cells';
import type { CompiledForm } from './compile-form';
import { isTyped, type FieldQuestion } from './design';
import { asKept } from '../formats/typed';
import { pastedRaw } from './pasted';

/** Lines of texts, as they come from a spreadsheet. */
export type Block = readonly (readonly string[])[];

export interface ReadBlock {
  readonly rows: readonly {
    readonly id: string;
    /** It is not there yet, and goes behind the others. */
    readonly isNew: boolean;
    readonly cells: Readonly<Record<string, Raw>>;
  }[];
  /** The records that texts named, with their tables. */
  readonly records: readonly (readonly [table: string, record: RecordValue])[];
  /** How many texts fell beside the last column. */
  readonly left: number;
}

interface Reading {
  readonly newId: () => string;
  /** The record that a text names in a lookup. */
  readonly found?: (question: string, text: string) => RecordValue | null;
}

/**
 * What a block of texts becomes over the rows from a place on; below the last of them rows are added. A text
 * that names no record stays, to be fixed; what falls on a calculated column is passed over, and what falls
 * beside the last column is left.
 */
export function readBlock(
  form: CompiledForm,
  rows: readonly RowState[],
  [group, rowId, first]: readonly [group: string, row: string, question: string],
  block: Block,
  { newId, found = () => null }: Reading,
): ReadBlock {
  const columns = form.groups.get(group)?.columns ?? [];
  const start = rows.findIndex((row) => row.id === rowId);
  const from = columns.findIndex((column) => column.id === first);
  if (start < 0 || from < 0) return { rows: [], records: [], left: block.flat().length };
  const records: [string, RecordValue][] = [];
  const cellsOf = (row: string, column: FieldQuestion | undefined, text: string): [string, Raw][] => {
    if (column === undefined || !isTyped(column)) return [];
    const record = column.kind === 'lookup' ? found(column.id, text.trim()) : null;
    if (column.kind !== 'lookup' || record === null)
      return [[column.id, pastedRaw(column, asKept(column.kind, text))]];
    records.push([column.table, record]);
    const copies = copiesOf(form, [group, row, column.id], record, null, () => null);
    return [[column.id, record.id], ...copies.map(([at, raw]): [string, Raw] => [questionAt(at), raw])];
  };
  const read = block.map((line, i) => {
    const there = rows[start + i];
    const id = there?.id ?? newId();
    const cells = Object.fromEntries(line.flatMap((text, j) => cellsOf(id, columns[from + j], text)));
    return { id, isNew: there === undefined, cells };
  });
  const left = block.reduce((sum, line) => sum + Math.max(0, from + line.length - columns.length), 0);
  return { rows: read, records, left };
}
