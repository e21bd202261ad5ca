import type { Expression } from '../tree';
import type { Type } from '../type';
import { words, type SqlFragment, type SqlType } from './fragment';
import type { NumberSize, SqlNames, SqlTable } from './names';
import { sizeOf } from './size';

/** One aggregated query over the rows of a group: its alias, its place among the joins, and what it works out. */
export interface Aggregation {
  readonly alias: string;
  readonly place: number;
  readonly columns: Map<string, { readonly name: string; readonly sql: SqlFragment }>;
}

/** What a local name stands for while rows are gone through: their table, under its alias. */
interface RowName {
  readonly table: SqlTable;
  readonly alias: string;
}

/** What the pieces of one translation share. */
export interface Writing {
  readonly names: SqlNames;
  readonly locals: ReadonlyMap<number, RowName>;
  readonly joins: SqlFragment[];
  readonly aggregates: Map<string, Aggregation>;
  /** Aliases of looked-up records that are joined already, by the SQL of the link to them. */
  readonly records: Map<string, string>;
  /** Turns any expression into SQL; the pieces call it for their parts. */
  readonly translate: (tree: Expression, writing: Writing) => SqlFragment;
  /** Says that this cannot be said in SQL, and goes on with something that can. */
  cannot(tree: Expression, what: string): SqlFragment;
  alias(): string;
}

export const write = (tree: Expression, writing: Writing): SqlFragment => writing.translate(tree, writing);

/** The same with a name for the rows of a group; what is joined to them is joined in their own query. */
export const inside = (
  writing: Writing,
  slot: number,
  row: RowName,
  joins: SqlFragment[],
  records: Map<string, string>,
): Writing => ({
  ...writing,
  locals: new Map([...writing.locals, [slot, row]]),
  joins,
  records,
  aggregates: new Map(),
});

/** How large a number can get at most, by the columns it is made of. */
export const numberSize = (tree: Expression, writing: Writing): NumberSize | null =>
  sizeOf(tree, (named) => columnSize(named, writing));

function columnSize(tree: Expression, { names, locals }: Writing): NumberSize | null {
  if (tree.op === 'name') return names.name(tree.id)?.size ?? null;
  if (tree.op !== 'field') return null;
  if (tree.of.type.t === 'record')
    return names.records(tree.of.type.table)?.column('', tree.id)?.size ?? null;
  const row = tree.of.op === 'local' ? locals.get(tree.of.slot) : undefined;
  return row?.table.column(row.alias, tree.id)?.size ?? null;
}

/** The type a value has in the database: durations as seconds or months, records as their id. */
export function sqlTypeOf(type: Type): SqlType {
  switch (type.t) {
    case 'yes-no':
      return 'boolean';
    case 'date':
    case 'time':
      return type.t;
    case 'date-time':
      return 'timestamp';
    case 'number':
    case 'days':
    case 'months':
      return 'numeric';
    case 'record':
      return 'uuid';
    default:
      return 'text';
  }
}

/** Texts are ordered by code point on both sides. */
export const collation = (type: Type): SqlFragment => words(type.t === 'text' ? ' COLLATE "C"' : '');
