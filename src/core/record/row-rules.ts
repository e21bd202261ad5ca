import type { Catalogue, Grant, TableAction } from '../catalogue/catalogue';
import { anyNames } from '../expression/sql/any-names';
import { toSql } from '../expression/sql/to-sql';
import { toStored } from '../expression/stored-text';
import { columnsRead, type Expression } from '../expression/tree';
import { ME } from '../expression/person';
import { PEOPLE } from '../expression/type';
import { readStored } from '../form/scope';
import { issue, under, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import type { Table } from '../table/model';
import { writtenOut } from './formulas';
import { rowRuleScope } from './table-scope';

/**
 * A rule says with which records of a table somebody may do something: FEEL over a record, what it refers to,
 * and whoever asks. Stored text, as all expressions are (ADR 4); the database holds it as a policy
 * (`data/runtime/tables/row-rules.ts`).
 */

type Tables = ReadonlyMap<string, Table>;

/**
 * What may be limited to some records. Designing is of the whole table, and so is offering it in lookups:
 * which records those show is said in the form.
 */
export const limitedActions = ['see', 'add', 'change', 'remove'] as const satisfies readonly TableAction[];
export type LimitedAction = (typeof limitedActions)[number];
export const isLimitedAction = (action: string): action is LimitedAction =>
  limitedActions.some((one) => one === action);

/** A rule as it is stored; issues are placed under `where`, and their spans in the text as it is shown. */
export function readRowRule(stored: string, table: Table, tables: Tables): Result<Expression, Issue[]> {
  const scope = rowRuleScope(table, tables);
  const plain = readStored(stored, scope, ['where']);
  if (!plain.ok) return plain;
  if (plain.value.type.t !== 'yes-no')
    return fail([issue('not-a-condition', ['where'], { given: plain.value.type.t })]);
  // Calculated columns are written out, so that the database works them out for all records at once.
  const whole = readStored(writtenOut(stored, table, scope), scope, ['where']);
  const written = whole.ok ? toSql(whole.value, anyNames) : whole;
  return written.ok && whole.ok ? ok(whole.value) : fail(under(['where'], written.ok ? [] : written.error));
}

export const storedRowRule = (shown: string, table: Table, tables: Tables): string =>
  toStored(shown, rowRuleScope(table, tables));

/**
 * The reference a condition is about, where it is about the record referred to and nothing else of its own,
 * and cannot hold where there is none. The database then looks up once which records of the other table
 * fulfil it, and not anew for each record.
 */
export function aboutReferred(
  tree: Expression,
): { readonly reference: string; readonly table: string } | null {
  const [of, others] =
    tree.op === 'compare' && tree.by !== '!='
      ? [tree.left, [tree.right]]
      : tree.op === 'in' && tree.tests.every(({ t }) => t === 'is')
        ? [tree.of, tree.tests.map(({ value }) => value)]
        : [null, []];
  if (of?.op !== 'field' || of.of.op !== 'name' || of.of.type.t !== 'record') return null;
  const { id, type } = of.of;
  return id !== ME && type.table !== PEOPLE && others.every(isThere)
    ? { reference: id, table: type.table }
    : null;
}

/** Something written, or what is said of whoever asks: never nothing, so that nothing is not the same. */
const isThere = (tree: Expression): boolean =>
  (tree.op === 'literal' && tree.value !== null) ||
  (tree.op === 'field' && tree.of.op === 'name' && tree.of.id === ME);

/** The tables whose records a rule looks at besides its own. */
const readBy = (tree: Expression): string[] => [
  ...new Set(columnsRead(tree).flatMap(([table]) => (table === PEOPLE ? [] : [table]))),
];

/** By table, those that say which of its records are seen: what its rules read, and that whose rows it holds. */
function looksInto(
  { tables }: Pick<Catalogue, 'tables'>,
  grants: readonly Grant[],
): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>();
  for (const { id, parent } of tables.values()) found.set(id, new Set(parent === null ? [] : [parent]));
  for (const { tableId, where } of grants) {
    const table = tables.get(tableId ?? '');
    const read = table === undefined || where === null ? null : readRowRule(where, table, tables);
    if (read?.ok === true) for (const one of readBy(read.value)) found.get(tableId ?? '')?.add(one);
  }
  return found;
}

/** The tables whose policies read what a table holds, itself among them: what must be written anew where it changes. */
export function reliesOn(catalogue: Catalogue, table: string): ReadonlySet<string> {
  const into = looksInto(catalogue, catalogue.grants);
  return new Set([table, ...[...into].flatMap(([id, of]) => (of.has(table) ? [id] : []))]);
}

/**
 * What is wrong with the rules among grants for one table. One that leads back to its own table, over others
 * and their rules, could be answered by nobody.
 */
export function rowRuleIssues(catalogue: Catalogue, table: Table, grants: readonly Grant[]): Issue[] {
  const { tables } = catalogue;
  const others = catalogue.grants.filter(({ tableId }) => tableId !== table.id);
  const into = looksInto(catalogue, [...others, ...grants]);
  const back = isCircle(table.id, into);
  return grants.flatMap(({ where, action }, i): Issue[] => {
    if (where === null) return [];
    const path = ['grants', String(i)];
    if (!isLimitedAction(action)) return [issue('rule-not-here', [...path, 'where'], {})];
    const read = readRowRule(where, table, tables);
    if (!read.ok) return under(path, read.error);
    return back && readBy(read.value).length > 0
      ? [issue('rule-circle', [...path, 'where'], { table: table.label })]
      : [];
  });
}

function isCircle(from: string, into: ReadonlyMap<string, ReadonlySet<string>>): boolean {
  const met = new Set(into.get(from));
  for (const one of met) for (const next of into.get(one) ?? []) met.add(next);
  return met.has(from);
}
