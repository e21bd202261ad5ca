import { compile, type Closure } from '../expression/compile';
import { dependencies, type Expression } from '../expression/tree';
import { SENDER, senderField } from '../expression/person';
import type { Field, Scope } from '../expression/type';
import { isRecord, type Value } from '../expression/value';
import { kinds } from '../table/kinds/list';
import type { Table } from '../table/model';
import type { FormDesign, LookupQuestion, RowsQuestion } from './design';
import { scopeOf, type TablesById } from './scope';

/** The name under which a filter knows a column of the table that is picked from: a form may have a question of the same id. */
const COLUMN = 'pick_';
export const columnNamed = (id: string): string | null =>
  id.startsWith(COLUMN) ? id.slice(COLUMN.length) : null;

/** The formula that tells whether what is picked fits its filter. */
export const fitsId = (id: string): string => `${id}:fits`;

/**
 * What the filter of a lookup may name: the columns of its table, and the answers of the form and of the same
 * row. An answer whose key a column has is `answer_` and its key.
 */
export function pickScope(
  design: FormDesign,
  tables: TablesById,
  { table, id: own }: LookupQuestion,
  group?: RowsQuestion,
): Scope {
  const names = new Map<string, Field>();
  for (const column of tables.get(table)?.columns ?? [])
    names.set(column.key, {
      id: COLUMN + column.id,
      type:
        column.kind === 'reference'
          ? { t: 'record', table: column.target ?? '', fields: new Map() }
          : kinds[column.kind].type,
    });
  for (const [key, field] of scopeOf(design, tables, group))
    if (field.id !== own && field.type.t !== 'rows') names.set(names.has(key) ? `answer_${key}` : key, field);
  if (!names.has(SENDER)) names.set(SENDER, senderField);
  return names;
}

/** The answers a filter reads, by id. */
export const answersRead = (tree: Expression): string[] =>
  [...dependencies(tree)].filter((id) => columnNamed(id) === null);

/** The columns it reads of the table that is picked from. */
export const columnsOfPick = (tree: Expression): string[] =>
  [...dependencies(tree)].flatMap((id) => columnNamed(id) ?? []);

/** Whether what is picked fits: true where nothing is. What cannot be told, because an answer it reads is empty, is null. */
export function fitting(question: LookupQuestion, tree: Expression, table: Table | undefined): Closure {
  const run = compile(tree);
  const references = new Set(table?.columns.filter(({ kind }) => kind === 'reference').map(({ id }) => id));
  return (from) => {
    const record = from.read(question.id);
    if (!isRecord(record)) return true;
    const cell = (column: string): Value => {
      const value = record.values[column] ?? null;
      return references.has(column) && typeof value === 'string'
        ? { id: value, title: '', values: {} }
        : value;
    };
    const { today, now, calendar, sender, budget } = from;
    return run({
      today,
      now,
      calendar,
      sender,
      ...(budget !== undefined && { budget }),
      read: (id) => {
        const column = columnNamed(id);
        return column === null ? from.read(id) : cell(column);
      },
      column: (group, id) => from.column(group, id),
      gaveUp: () => from.gaveUp(),
    });
  };
}

/** The formula by which a group is begun with a row for each record. */
export const startsId = (group: string): string => `${group}:starts`;

/**
 * The lookup of which a new sheet gets a row for each record, and the condition of which records: what the
 * lookup offers and what the rows are begun with, together.
 */
export function begunBy({ starts, columns }: RowsQuestion): { lookup: LookupQuestion; where: string } | null {
  if (starts?.t !== 'each') return null;
  const lookup = columns.find(({ id }) => id === starts.lookup);
  if (lookup?.kind !== 'lookup') return null;
  const conditions = [lookup.where, starts.where].filter((one) => one !== undefined && one.trim() !== '');
  return { lookup, where: conditions.map((one) => `(${one})`).join(' and ') };
}
