import { keptColumns, type Column, type Table } from '../../table/model';
import { columnKindOf } from '../column-kind';
import {
  allQuestions,
  fieldsOfForm,
  groupsOf,
  outerFirst,
  outerOf,
  type FieldQuestion,
  type FormDesign,
  type RowsQuestion,
  type TableTarget,
} from '../design';
import { replaceQuestion } from '../edit';
import { questionOf } from '../first-form';
import { keyFor } from '../key';
import { reidentified } from './fresh-copy';

/**
 * Edits of where answers are kept. An answer is kept in the column whose id it has, so keeping it elsewhere
 * gives it another id, in all that reads it; what the column is called stays.
 */

/** Keeps an answer in a column that is there. What was kept there so far gets a column of its own. */
export function keptIn(design: FormDesign, id: string, column: Column, newId: () => string): FormDesign {
  if (id === column.id) return design;
  const taken = allQuestions(design).some((one) => one.id === column.id);
  const ids = new Map([[id, column.id], ...(taken ? [[column.id, newId()] as const] : [])]);
  return replaceQuestion(reidentified(design, ids), column.id, (question) => namedAs(question, column.label));
}

/** Keeps an answer in a new column, whose id this is. */
export const keptAnew = (design: FormDesign, id: string, fresh: string): FormDesign =>
  reidentified(design, new Map([[id, fresh]]));

/** What a column is called, where it is not what is asked. */
export const namedAs = <Q extends { readonly label: string; readonly keptAs?: string | undefined }>(
  question: Q,
  label: string,
): Q => ({ ...question, keptAs: label === question.label || label.trim() === '' ? undefined : label });

/** Asks for what its column holds, where it asks for something else: the words and the conditions stay. */
export function askedAsKept(
  question: FieldQuestion,
  column: Column,
  tables: ReadonlyMap<string, Table>,
): FieldQuestion {
  const { label, hint, key, required } = question;
  const as = questionOf(column, tables);
  const kept = { ...as, label, hint, key, required };
  return namedAs({ ...kept, ...conditionsOf(question) }, column.label);
}

const conditionsOf = ({ askWhen, requireWhen, again, onChange, onNew, requiredFor }: FieldQuestion) => ({
  ...(askWhen !== undefined && { askWhen }),
  ...(requireWhen !== undefined && { requireWhen }),
  ...(again !== undefined && { again }),
  ...(onChange !== undefined && { onChange }),
  ...(onNew !== undefined && { onNew }),
  ...(requiredFor !== undefined && { requiredFor }),
});

/** Columns that could hold an answer, and hold no other yet: of the same name first. */
export function columnFor(question: FieldQuestion, columns: readonly Column[]): Column | null {
  const kind = columnKindOf(question);
  const target = question.kind === 'lookup' ? question.table : null;
  const alike = columns.filter((column) => column.kind === kind && column.target === target);
  const words = namedAlike(question.label);
  return (
    alike.find(({ id }) => id === question.id) ??
    alike.find(({ key }) => key === question.key) ??
    alike.find(({ label }) => namedAlike(label) === words) ??
    null
  );
}

/**
 * Keeps the answers in a table that is there, and its rows in the tables of rows that belong to it, or to
 * these. Answers go into columns of the same name and kind, each into one; the others get columns of their
 * own.
 */
export function keptInTable(
  design: FormDesign,
  table: Table,
  tables: ReadonlyMap<string, Table>,
  make: { readonly id: () => string; readonly rowsTable: (group: RowsQuestion) => TableTarget },
): FormDesign {
  let now: FormDesign = { ...design, table: targetOf(table) };
  now = totalsAnew(matched(now, fieldsOfForm(now), table, make.id), make.id);
  for (const group of outerFirst(now)) {
    const belongsTo = outerOf(now, group)?.table.id ?? table.id;
    const children = [...tables.values()].filter(({ parent }) => parent === belongsTo);
    const child = children.find(
      ({ key, label }) => key === group.key || namedAlike(label) === namedAlike(group.label),
    );
    const home = child ?? (children.length === 1 ? children[0] : undefined);
    const target = home === undefined ? make.rowsTable(group) : targetOf(home);
    now = replaceQuestion(now, group.id, (one) => (one.kind === 'rows' ? { ...one, table: target } : one));
    now = matched(now, group.columns, home ?? null, make.id);
  }
  return now;
}

/** Keeps the answers in a new table. */
export function keptInNewTable(
  design: FormDesign,
  target: TableTarget,
  make: { readonly id: () => string; readonly rowsTable: (group: RowsQuestion) => TableTarget },
): FormDesign {
  let now = matched({ ...design, table: target }, fieldsOfForm(design), null, make.id);
  now = totalsAnew(now, make.id);
  for (const group of groupsOf(now)) {
    const table = make.rowsTable(group);
    now = replaceQuestion(now, group.id, (one) => (one.kind === 'rows' ? { ...one, table } : one));
    now = matched(now, group.columns, null, make.id);
  }
  return now;
}

const totalsAnew = (design: FormDesign, newId: () => string): FormDesign =>
  groupsOf(design)
    .flatMap(({ totals }) => totals)
    .reduce((now, { id }) => keptAnew(now, id, newId()), design);

function matched(
  design: FormDesign,
  fields: readonly FieldQuestion[],
  table: Table | null,
  newId: () => string,
): FormDesign {
  const left = new Set(table === null ? [] : keptColumns(table));
  return fields.reduce((now, question) => {
    const column = columnFor(question, [...left]);
    if (column === null) return keptAnew(now, question.id, newId());
    left.delete(column);
    return keptIn(now, question.id, column, newId);
  }, design);
}

/** A name without what tells spellings apart. */
const namedAlike = (label: string): string => keyFor(label, new Set(), '');

const targetOf = ({ id, key, label, prefix }: Table): TableTarget => ({ id, key, label, prefix });
