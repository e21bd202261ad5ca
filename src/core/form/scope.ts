import { fail, ok, type Result } from '../kernel/result';
import { under, type Issue } from '../kernel/issue';
import { read } from '../expression/read';
import { oncePer } from '../kernel/once-per';
import { SENDER, senderField } from '../expression/person';
import { storedScope, toShown } from '../expression/stored-text';
import type { Expression } from '../expression/tree';
import { NUMBER, sameNames, type Field, type Scope, type Type } from '../expression/type';
import type { Table } from '../table/model';
import { kinds } from '../table/kinds/list';
import { kindOf } from './column-kind';
import {
  isField,
  outerOf,
  questionsOf,
  totalsBeside,
  type FieldQuestion,
  type FormDesign,
  type RowsQuestion,
} from './design';

export type TablesById = ReadonlyMap<string, Table>;

/**
 * What the columns of a table offer to expressions: `bed.area`. References inside a record are not followed further here. Retired columns
 * keep their values, so what reads them goes on.
 */
export const fieldsOf = oncePer(
  (table: Table): ReadonlyMap<string, Field> =>
    new Map(
      [...table.columns, ...table.retired]
        .filter((column) => column.kind !== 'reference')
        .map((column) => [column.key, { id: column.id, type: kinds[column.kind].type }]),
    ),
);

function typeOf(question: FieldQuestion, tables: TablesById): Type {
  if (question.kind === 'lookup') {
    const table = tables.get(question.table);
    return { t: 'record', table: question.table, fields: table ? fieldsOf(table) : new Map() };
  }
  return kindOf(question).type;
}

/**
 * The names an expression of the form may use; with `group`, those of one of its rows as well, which come
 * first, and those of the row that one stands in. Rows within rows are those of all rows, but in a row only
 * its own.
 */
export const scopeOf = (design: FormDesign, tables: TablesById, group?: RowsQuestion): Scope =>
  scopesWith(tables).of(design)(group ?? OUTSIDE_ROWS);

const OUTSIDE_ROWS = {};

/**
 * What was read in a scope is kept with it, so a design that was edited goes on with the scope it had for as
 * long as its names are the same: a letter typed into a label makes nobody read sixty formulas again.
 */
const scopesWith = oncePer((tables: TablesById) => {
  const latest = new Map<string, Scope>();
  const goingOn = (place: string, made: Scope): Scope => {
    const before = latest.get(place);
    if (before !== undefined && sameNames(before, made)) return before;
    latest.set(place, made);
    return made;
  };
  return {
    of: oncePer((design: FormDesign) =>
      oncePer((group: RowsQuestion | typeof OUTSIDE_ROWS) =>
        'id' in group
          ? goingOn(`${design.table.id} ${group.id}`, namesOf(design, tables, group))
          : goingOn(design.table.id, namesOf(design, tables)),
      ),
    ),
  };
});

function namesOf(design: FormDesign, tables: TablesById, group?: RowsQuestion): Scope {
  const names = new Map<string, Field>([[SENDER, senderField]]);
  const add = (question: FieldQuestion, into: Map<string, Field>) =>
    into.set(question.key, { id: question.id, type: typeOf(question, tables) });
  const addTotals = (beside: RowsQuestion | null, into: Map<string, Field>) => {
    for (const total of totalsBeside(design, beside)) into.set(total.key, { id: total.id, type: NUMBER });
  };
  for (const question of questionsOf(design)) {
    if (isField(question)) add(question, names);
    else if (question.kind === 'rows') {
      const columns = new Map<string, Field>();
      for (const column of question.columns) add(column, columns);
      addTotals(question, columns);
      names.set(question.key, { id: question.id, type: { t: 'rows', group: question.id, columns } });
    }
  }
  addTotals(null, names);
  const outer = group === undefined ? null : outerOf(design, group);
  for (const one of [outer, group]) {
    for (const column of one?.columns ?? []) add(column, names);
    if (one != null) addTotals(one, names);
  }
  return names;
}

/** Reads a stored expression in a scope; issues are placed under `path`, and their spans in the text as it is shown. */
export function readStored(stored: string, scope: Scope, path: Issue['path']): Result<Expression, Issue[]> {
  const tree = read(stored, storedScope(scope));
  if (tree.ok) return ok(tree.value);
  const shown = read(toShown(stored, scope), scope);
  return fail(under(path, shown.ok ? tree.error : shown.error));
}
