import type { Check } from '../check/check';
import { messageId, valuesIn } from '../check/message';
import { compile, type Closure } from '../expression/compile';
import { worstSteps } from '../expression/cost';
import { patternFunctions } from '../expression/functions/patterns';
import { columnsRead, dependencies, nodesOf, readsColumns, type Expression } from '../expression/tree';
import { fits } from '../expression/type';
import { isRecord } from '../expression/value';
import { issue, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import { limits } from '../limits';
import {
  calculatedIn,
  groupsOf,
  isField,
  outerOf,
  questionsOf,
  rulesIn,
  type FieldQuestion,
  type FormDesign,
  type RowsQuestion,
  type Total,
} from './design';
import type { Formula, FormulaUse } from './formula';
import { checksOfTables } from './checks-of-tables';
import { filledBy, filledFormula } from './filled-by-rules';
import { inOrder } from './formula-order';
import { rulesTree } from './rules-tree';
import { readStored, scopeOf, type TablesById } from './scope';
import { answersRead, columnsOfPick, fitting, pickScope } from './lookup-filter';
import { totalOf } from './totals';
import { askedId, expressionsOf, messagesOf, type Written } from './written-expressions';

/** A design made ready to be filled: formulas in an order in which each comes after all it reads. */
export interface CompiledForm {
  readonly design: FormDesign;
  readonly tables: TablesById;
  readonly fields: ReadonlyMap<string, { readonly question: FieldQuestion; readonly group: string | null }>;
  readonly groups: ReadonlyMap<string, RowsQuestion>;
  /** By id of a column, of rows within rows and of their totals: the group in whose rows it stands. What stands in none is not here. */
  readonly homes: ReadonlyMap<string, string>;
  /** Its own, and those of the tables it writes to. */
  readonly checks: readonly Check[];
  readonly formulas: readonly Formula[];
  /** By id of what is read: indexes into `formulas`. */
  readonly readers: ReadonlyMap<string, readonly number[]>;
  /** By group: the formulas that stand in it, or read it or a column of it over all rows. */
  readonly groupReaders: ReadonlyMap<string, readonly number[]>;
  /** By id of a question: the formulas that must all be true for it to be asked. Those that are always asked are not here. */
  readonly conditions: ReadonlyMap<string, readonly string[]>;
  /** The ids of those formulas. */
  readonly isCondition: ReadonlySet<string>;
  /** By formula id: the steps it takes at worst, in all rows together. */
  readonly costs: ReadonlyMap<string, number>;
  /** Whether the engine for patterns has to be loaded. */
  readonly usesPatterns: boolean;
  /** By id of a looked-up table: the columns that formulas read. */
  readonly columnsRead: ReadonlyMap<string, ReadonlySet<string>>;
}

/**
 * Reads every expression of a design. The paths of issues are `[question id, field?]`, `[section id,
 * 'showWhen']`, `['checks', check id]` or `['further', id, column]`.
 */
export function compileForm(design: FormDesign, tables: TablesById): Result<CompiledForm, Issue[]> {
  const issues: Issue[] = groupsOf(design).flatMap((group) => withinIssues(design, group));
  // What stands in itself would be looked for without end.
  if (issues.length > 0) return fail(issues);
  const conditions = conditionsOf(design);
  const formulas = expressionsOf(design, tables).flatMap((one) => {
    const formula = read(one, design, tables);
    return formula.ok ? [formula.value] : (issues.push(...formula.error), []);
  });
  const ofTables = checksOfTables(design, tables);
  formulas.push(
    ...ofTables.map(({ check, tree, group }) => formulaOf({ t: 'check', check }, check.id, group, tree)),
  );
  formulas.push(...messageFormulas(design, tables));
  for (const table of rulesIn(design)) {
    const tree = rulesTree(table, scopeOf(design, tables));
    if (tree.ok) formulas.push(formulaOf({ t: 'rules', table }, table.id, null, tree.value));
    else issues.push(...tree.error);
  }
  for (const question of calculatedIn(design)) {
    const table = filledBy(design, question.id);
    if (table !== undefined) formulas.push(filledFormula(question, table));
  }
  for (const { question, group } of placed(design))
    if (question.carry?.keep === 'following') formulas.push(followingFormula(question, group));
  for (const group of groupsOf(design))
    for (const total of group.totals) formulas.push(totalFormula(group, outerOf(design, group), total));
  const fields = new Map(
    placed(design).map(({ question, group }) => [question.id, { question, group: group?.id ?? null }]),
  );
  const groups = new Map(groupsOf(design).map((group) => [group.id, group]));
  const homes = homesIn(design);
  const groupOf = (id: string) => homes.get(id) ?? null;
  const ordered = inOrder(
    formulas.map((formula) => ({ ...formula, reads: withConditions(formula, conditions, groupOf) })),
    issues,
  );
  if (issues.length > 0) return fail(issues);
  return ok({
    design,
    tables,
    fields,
    homes,
    checks: [...design.checks, ...ofTables.map(({ check }) => check)],
    groups,
    formulas: ordered,
    conditions,
    isCondition: new Set([...conditions.values()].flat()),
    readers: readersOf(ordered),
    groupReaders: groupReadersOf(ordered, groupsOf(design), groupOf),
    columnsRead: allColumnsRead(ordered, fields),
    costs: costsOf(ordered, groupsOf(design)),
    usesPatterns: ordered.some(
      ({ tree }) =>
        tree !== null && [...nodesOf(tree)].some((node) => node.op === 'call' && patternNames.has(node.name)),
    ),
  });
}

function costsOf(formulas: readonly Formula[], groups: readonly RowsQuestion[]): Map<string, number> {
  const rows = (id: string): number => {
    const group = groups.find((one) => one.id === id);
    if (group === undefined) return limits.rows;
    return group.within === undefined
      ? group.most
      : Math.min(group.most * rows(group.within), limits.innerRows);
  };
  return new Map(
    formulas.flatMap(({ id, tree, group }) =>
      tree === null ? [] : [[id, worstSteps(tree, rows) * (group === null ? 1 : rows(group))]],
    ),
  );
}

/** The steps a sheet of this form takes at worst, all rows filled. */
export const worstStepsOf = ({ costs }: Pick<CompiledForm, 'costs'>): number =>
  [...costs.values()].reduce((sum, one) => sum + one, 0);

interface Placed {
  readonly question: FieldQuestion;
  readonly group: RowsQuestion | null;
}

function placed(design: FormDesign): Placed[] {
  return questionsOf(design).flatMap((question): Placed[] =>
    question.kind === 'rows'
      ? question.columns.map((column) => ({ question: column, group: question }))
      : isField(question)
        ? [{ question, group: null }]
        : [],
  );
}

/** Rows stand in rows of the form, which stand in no others, and are drawn as rows. */
function withinIssues(design: FormDesign, group: RowsQuestion): Issue[] {
  if (group.within === undefined) return [];
  const outer = outerOf(design, group);
  return outer === null || outer.within !== undefined || outer.asPicks === true
    ? [issue('rows-within', [group.id])]
    : [];
}

const homesIn = (design: FormDesign): Map<string, string> =>
  new Map(
    groupsOf(design).flatMap(({ id, columns, totals, within }) => [
      ...columns.map((column) => [column.id, id] as const),
      ...(within === undefined
        ? []
        : [id, ...totals.map((total) => total.id)].map((one) => [one, within] as const)),
    ]),
  );

const patternNames = new Set(patternFunctions.map(({ name }) => name));

/**
 * What stands in messages and can be read; what cannot is told by `messageIssues`, and keeps no form that is
 * released from being filled.
 */
const messageFormulas = (design: FormDesign, tables: TablesById): Formula[] =>
  messagesOf(design).flatMap(({ what, id, group, message }) =>
    valuesIn(message).flatMap((stored, index) => {
      const tree = readStored(stored, scopeOf(design, tables, group ?? undefined), []);
      return tree.ok ? [formulaOf(what(index), messageId(id, index), group, tree.value)] : [];
    }),
  );

function read(
  { what, id, group, stored, path, wanted }: Written,
  design: FormDesign,
  tables: TablesById,
): Result<Formula, Issue[]> {
  const scope =
    what.t === 'fits' || what.t === 'starts'
      ? pickScope(design, tables, what.question, group ?? undefined)
      : scopeOf(design, tables, group ?? undefined);
  const tree = readStored(stored, scope, path);
  if (!tree.ok) return tree;
  if (!fits(tree.value.type, wanted))
    return fail([issue('result-type', path, { given: tree.value.type.t, wanted: wanted.t })]);
  const formula = formulaOf(what, id, group, tree.value);
  if (what.t !== 'fits' && what.t !== 'starts') return ok(formula);
  return ok({
    ...formula,
    run:
      what.t === 'starts' ? () => null : fitting(what.question, tree.value, tables.get(what.question.table)),
    reads: new Set([what.question.id, ...answersRead(tree.value)]),
  });
}

const formulaOf = (what: FormulaUse, id: string, group: RowsQuestion | null, tree: Expression): Formula => ({
  id,
  what,
  group: group?.id ?? null,
  run: compile(tree),
  tree,
  reads: dependencies(tree),
  wide: readsColumns(tree),
});

/**
 * A question is asked while its section is shown and its own condition is true; a column also needs its
 * group, and rows within rows those they stand in.
 */
function conditionsOf(design: FormDesign): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const section of design.sections) {
    const shown = section.showWhen === undefined ? [] : [askedId(section.id)];
    for (const question of section.questions) {
      const inRows = outerOf(design, question) !== null;
      const own = [
        ...(inRows ? [] : shown),
        ...(question.askWhen === undefined ? [] : [askedId(question.id)]),
      ];
      if (own.length > 0) found.set(question.id, own);
      for (const column of question.kind === 'rows' ? question.columns : [])
        if (column.askWhen !== undefined) found.set(column.id, [askedId(column.id)]);
      for (const total of question.kind === 'rows' && own.length > 0 ? question.totals : [])
        found.set(total.id, own);
    }
  }
  return found;
}

/** What is not asked reads as empty, so whoever reads an answer reads its conditions too, and those of the groups it stands in. */
function withConditions(
  { reads }: Formula,
  conditions: ReadonlyMap<string, readonly string[]>,
  groupOf: (id: string) => string | null,
): Set<string> {
  const all = new Set(reads);
  for (const id of reads)
    for (let at: string | null = id; at !== null; at = groupOf(at))
      for (const one of conditions.get(at) ?? []) all.add(one);
  return all;
}

/** The record's own value, whenever it is looked at. */
function followingFormula(question: FieldQuestion, group: RowsQuestion | null): Formula {
  const { lookup = '', column = '' } = question.carry ?? {};
  const run: Closure = (from) => {
    const record = from.read(lookup);
    return isRecord(record) ? (record.values[column] ?? null) : null;
  };
  return {
    id: question.id,
    what: { t: 'following', question },
    group: group?.id ?? null,
    run,
    tree: null,
    reads: new Set([lookup]),
    wide: false,
  };
}

function totalFormula(group: RowsQuestion, outer: RowsQuestion | null, total: Total): Formula {
  const run: Closure = (from) => totalOf(total.of ?? 'sum', from.column(group.id, total.column));
  return {
    id: total.id,
    what: { t: 'total', total },
    group: outer?.id ?? null,
    run,
    tree: null,
    reads: new Set([total.column, group.id]),
    wide: true,
  };
}

function readersOf(formulas: readonly Formula[]): Map<string, number[]> {
  const readers = new Map<string, number[]>();
  formulas.forEach((formula, i) => {
    for (const id of formula.reads) readers.set(id, [...(readers.get(id) ?? []), i]);
  });
  return readers;
}

function groupReadersOf(
  formulas: readonly Formula[],
  groups: readonly RowsQuestion[],
  groupOf: (id: string) => string | null,
): Map<string, number[]> {
  const readsGroup = (formula: Formula, group: string) =>
    [...formula.reads].some((id) => id === group || groupOf(id) === group);
  return new Map(
    groups.map(({ id }) => [
      id,
      formulas.flatMap((formula, i) =>
        formula.group === id || (formula.wide && readsGroup(formula, id)) || formula.reads.has(id) ? [i] : [],
      ),
    ]),
  );
}

/** Columns of looked-up tables that are read by expressions or carried over. */
function allColumnsRead(
  formulas: readonly Formula[],
  fields: CompiledForm['fields'],
): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>();
  const add = (table: string, column: string) =>
    found.set(table, (found.get(table) ?? new Set()).add(column));
  for (const { tree, what } of formulas) {
    for (const [table, column] of tree === null ? [] : columnsRead(tree)) add(table, column);
    if (what.t === 'fits' && tree !== null)
      for (const column of columnsOfPick(tree)) add(what.question.table, column);
  }
  for (const {
    question: { carry },
  } of fields.values()) {
    const lookup = carry === undefined ? undefined : fields.get(carry.lookup)?.question;
    if (carry !== undefined && lookup?.kind === 'lookup') add(lookup.table, carry.column);
  }
  return found;
}
