import type Big from 'big.js';
import { isBig } from '../expression/value';
import { compile, type Closure } from '../expression/compile';
import { columnsRead, dependencies, readsColumns, type Expression } from '../expression/tree';
import { fits, NUMBER, YES_NO } from '../expression/type';
import { issue, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import { groupsOf, questionsOf, type CalculatedQuestion, type Check, type FieldQuestion, type FormDesign, type RowsQuestion, type Total } from './design';
import { readStored, scopeOf, type TablesById } from './scope';

/** Something the sheet works out: a calculated answer, a total, or whether a check holds. */
export interface Formula {
  readonly id: string;
  readonly what: { readonly t: 'calculated'; readonly question: CalculatedQuestion } | { readonly t: 'total'; readonly total: Total } | { readonly t: 'check'; readonly check: Check };
  /** The repeating group it stands in, worked out once per row; null for once per form. */
  readonly group: string | null;
  readonly run: Closure;
  readonly reads: ReadonlySet<string>;
  /** Reads a column over all rows, so that a change in one row may change it in every row. */
  readonly wide: boolean;
}

/** A design made ready to be filled: formulas in an order in which each comes after all it reads. */
export interface CompiledForm {
  readonly design: FormDesign;
  readonly tables: TablesById;
  readonly fields: ReadonlyMap<string, { readonly question: FieldQuestion; readonly group: string | null }>;
  readonly groups: ReadonlyMap<string, RowsQuestion>;
  readonly formulas: readonly Formula[];
  /** By id of what is read: indexes into `formulas`. */
  readonly readers: ReadonlyMap<string, readonly number[]>;
  /** By id of a looked-up table: the columns that formulas read. */
  readonly columnsRead: ReadonlyMap<string, ReadonlySet<string>>;
}

/** Reads every expression of a design. The paths of issues are `[question id]`, or `['checks', check id]`. */
export function compileForm(design: FormDesign, tables: TablesById): Result<CompiledForm, Issue[]> {
  const issues: Issue[] = [];
  const formulas: Formula[] = [];
  const columns = new Map<string, Set<string>>();
  const add = (what: Formula['what'], id: string, group: RowsQuestion | null, stored: string, path: Issue['path'], wanted: typeof NUMBER) => {
    const tree = readStored(stored, scopeOf(design, tables, group ?? undefined), path);
    if (!tree.ok) return void issues.push(...tree.error);
    if (!fits(tree.value.type, wanted)) return void issues.push(issue('result-type', path, { given: tree.value.type.t, wanted: wanted.t }));
    noteColumns(tree.value, columns);
    formulas.push({ id, what, group: group?.id ?? null, run: compile(tree.value), reads: dependencies(tree.value), wide: readsColumns(tree.value) });
  };
  for (const { question, group } of placed(design)) {
    if (question.kind === 'calculated') add({ t: 'calculated', question }, question.id, group, question.expression, [question.id], NUMBER);
  }
  for (const group of groupsOf(design)) for (const total of group.totals) formulas.push(totalFormula(group, total));
  for (const check of design.checks) {
    const home = groupsOf(design).find((group) => group.columns.some((column) => column.id === check.on)) ?? null;
    add({ t: 'check', check }, check.id, home, check.must, ['checks', check.id], YES_NO);
  }
  const ordered = inOrder(formulas, issues);
  return issues.length > 0 ? fail(issues) : ok(compiled(design, tables, ordered, columns));
}

interface Placed {
  readonly question: FieldQuestion;
  readonly group: RowsQuestion | null;
}

function placed(design: FormDesign): Placed[] {
  return questionsOf(design).flatMap((question): Placed[] =>
    question.kind === 'rows' ? question.columns.map((column) => ({ question: column, group: question })) : [{ question, group: null }]);
}

function compiled(design: FormDesign, tables: TablesById, formulas: readonly Formula[], columnsRead: CompiledForm['columnsRead']): CompiledForm {
  const readers = new Map<string, number[]>();
  formulas.forEach((formula, i) => {
    for (const id of formula.reads) readers.set(id, [...(readers.get(id) ?? []), i]);
  });
  const fields = new Map(placed(design).map(({ question, group }) => [question.id, { question, group: group?.id ?? null }]));
  return { design, tables, fields, groups: new Map(groupsOf(design).map((group) => [group.id, group])), formulas, readers, columnsRead };
}

/** A total adds what is there: unlike FEEL's sum, an empty cell does not make it empty, for rows are half typed most of the time. */
function totalFormula(group: RowsQuestion, total: Total): Formula {
  const run: Closure = (from) => {
    let all: Big | null = null;
    for (const value of from.column(group.id, total.column)) if (isBig(value)) all = all === null ? value : all.plus(value);
    return all;
  };
  return { id: total.id, what: { t: 'total', total }, group: null, run, reads: new Set([total.column, group.id]), wide: true };
}

function noteColumns(tree: Expression, into: Map<string, Set<string>>): void {
  for (const [table, column] of columnsRead(tree)) into.set(table, (into.get(table) ?? new Set()).add(column));
}

/** Depth first, so that what is read comes first; a formula met again while it is being placed closes a circle. */
function inOrder(formulas: readonly Formula[], issues: Issue[]): Formula[] {
  const byId = new Map(formulas.map((formula) => [formula.id, formula]));
  const done = new Set<string>();
  const ordered: Formula[] = [];
  const place = (formula: Formula, open: readonly string[]): void => {
    if (done.has(formula.id)) return;
    if (open.includes(formula.id)) {
      const path = formula.what.t === 'check' ? ['checks', formula.id] : [formula.id];
      issues.push(issue('circular', path, { circle: [...open.slice(open.indexOf(formula.id)), formula.id].map((id) => nameOf(byId.get(id))).join(' → ') }));
      done.add(formula.id);
      return;
    }
    for (const id of formula.reads) {
      const read = byId.get(id);
      if (read !== undefined) place(read, [...open, formula.id]);
    }
    if (!done.has(formula.id)) ordered.push(formula);
    done.add(formula.id);
  };
  for (const formula of formulas) place(formula, []);
  return ordered;
}

function nameOf(formula: Formula | undefined): string {
  if (formula === undefined) return '';
  return formula.what.t === 'calculated' ? formula.what.question.label : formula.what.t === 'total' ? formula.what.total.label : formula.what.check.message;
}
