import Big from 'big.js';
import { pickables } from '../check/pick';
import { dependencies, type Expression } from '../expression/tree';
import type { Scope, Type } from '../expression/type';
import { offered } from '../table/choice-list';
import type { Domain } from '../rules/regions';
import type { RuleCondition } from '../rules/rules';
import { allQuestions, groupsOf, type FormDesign, type Question, type Total } from './design';
import { readStored, scopeOf, type TablesById } from './scope';

/** What a condition of a table of rules may be, and what its codes are called. */
export interface ConditionDomain extends Domain {
  readonly choices?: readonly { readonly code: string; readonly label: string }[];
}

const tested: ReadonlySet<Type['t']> = new Set(['number', 'text', 'yes-no', 'date']);

/** What may be picked as a condition, as one writes it: answers and totals, and columns of looked-up records. */
export const conditionsToPick = (scope: Scope): string[] =>
  pickables(scope).flatMap(({ text, type }) => (tested.has(type.t) ? [text] : []));

/** Null for what cannot be read, or has no values that can be looked through. */
export function conditionDomain(
  design: FormDesign,
  tables: TablesById,
  { expression }: RuleCondition,
): ConditionDomain | null {
  const read = readStored(expression, scopeOf(design, tables), []);
  if (!read.ok || !tested.has(read.value.type.t)) return null;
  const { type } = read.value;
  const all = allQuestions(design);
  const question = (id: string): Question | undefined => all.find((one) => one.id === id);
  const total = groupsOf(design)
    .flatMap(({ totals }) => totals)
    .find(({ id }) => read.value.op === 'name' && read.value.id === id);
  if (total !== undefined) return { type, mayBeEmpty: false, ...stepOf(total, question(total.column)) };
  const found = { type, mayBeEmpty: false, ...known(read.value, question, tables) };
  // What stands in a section that is not always shown reads as empty while it is not.
  return { ...found, mayBeEmpty: found.mayBeEmpty || isInHidden(design, read.value) };
}

const isInHidden = ({ sections }: FormDesign, tree: Expression): boolean =>
  sections.some(
    ({ showWhen, questions }) =>
      showWhen !== undefined && questions.some(({ id }) => dependencies(tree).has(id)),
  );

/** More is known of an answer, and of a column of a record that is picked. */
function known(
  tree: Expression,
  question: (id: string) => Question | undefined,
  tables: TablesById,
): Partial<ConditionDomain> {
  if (tree.op === 'name') {
    const of = question(tree.id);
    return of === undefined ? {} : { mayBeEmpty: mayBeEmpty(of), ...valuesOf(of) };
  }
  if (tree.op !== 'field' || tree.of.op !== 'name') return {};
  const lookup = question(tree.of.id);
  const column =
    lookup?.kind === 'lookup'
      ? tables.get(lookup.table)?.columns.find(({ id }) => id === tree.id)
      : undefined;
  if (lookup === undefined || column === undefined) return {};
  return { mayBeEmpty: mayBeEmpty(lookup) || !column.required, ...valuesOf(column) };
}

/** A sum, and the least and the most, have as many decimals as what they are made of. */
function stepOf({ of }: Total, column: Question | undefined): Partial<ConditionDomain> {
  if (of === 'count') return { step: new Big(1) };
  return of === 'mean' || column === undefined ? {} : valuesOf(column);
}

/** It need not be filled, or not in every use, or is not always asked. */
const mayBeEmpty = (question: Question): boolean =>
  question.kind !== 'calculated' &&
  (!question.required || question.requiredFor !== undefined || question.askWhen !== undefined);

function valuesOf(of: {
  readonly kind: string;
  readonly decimals?: number | null;
  readonly choices?: Parameters<typeof offered>[0];
}): Partial<ConditionDomain> {
  if (of.kind === 'whole') return { step: new Big(1) };
  if (of.decimals != null && ['decimal', 'money', 'calculated'].includes(of.kind))
    return { step: new Big(10).pow(-of.decimals) };
  if (of.kind !== 'choice' || of.choices === undefined) return {};
  const choices = offered(of.choices).map(({ code, label }) => ({ code, label }));
  return { choices, values: choices.map(({ code }) => code) };
}
