import { issue, type Issue } from '../kernel/issue';
import { MOST_STEPS } from '../expression/step';
import { limits } from '../limits';
import { comparedInForm, existingIssues } from '../check/existing';
import { findings } from '../check/findings';
import { carryIssues } from './carry';
import { compileForm, worstStepsOf, type CompiledForm } from './compile-form';
import { messageIssues } from './written-expressions';
import {
  besides,
  isField,
  groupsIn,
  groupsOf,
  questionsOf,
  rulesIn,
  type ApprovalStep,
  type FieldQuestion,
  type FormDesign,
  type Question,
  type RowsQuestion,
  type TableTarget,
} from './design';
import { rulesFor } from '../rules/ruled-steps';
import { ruleIssues } from './rule-issues';
import { beginningIssues } from './defaults';
import { findable } from './findable';
import { furtherIssues } from './further-writes';
import { isKey, isPrefix, isReservedKey } from './key';
import { choiceIssues, labelIssues } from './label-issues';
import { formulaPath } from './formula';
import type { TablesById } from './scope';
import { startingIssues } from './starting-rows';

/**
 * Everything that keeps a design from being released. Paths: `[question id, field?]`, `['checks', id]`, `['steps', id]`,
 * `['rules', table id, row or condition id?, condition or step id?]`, `['further', id, column?]`, `['store', table id]`, or `['title']`.
 */
export function designIssues(design: FormDesign, tables: TablesById, people: ReadonlySet<string>): Issue[] {
  const issues: Issue[] = [];
  issues.push(...labelIssues(design.title, ['title']));
  if (design.record !== undefined) issues.push(...labelIssues(design.record, ['store', design.table.id]));
  if (questionsOf(design).length === 0) issues.push(issue('questions-missing', ['sections']));
  if (questionsOf(design).length > limits.questions)
    issues.push(issue('too-many', ['sections'], { what: 'questions', most: limits.questions }));
  issues.push(
    ...scopeKeyIssues(
      questionsOf(design).flatMap((one) => [
        one,
        ...(one.kind === 'rows' && one.within === undefined ? one.totals : []),
      ]),
    ),
  );
  for (const question of questionsOf(design)) issues.push(...questionIssues(design, question, tables));
  for (const target of [design.table, ...groupsOf(design).map((group) => group.table)])
    issues.push(...targetIssues(target));
  if ((design.finds ?? []).some((id) => !findable(design).some((one) => one.id === id)))
    issues.push(issue('finds-gone', ['store', design.table.id]));
  issues.push(...checkIssues(design), ...stepIssues(design, people), ...ruleIssues(design, people));
  issues.push(...furtherIssues(design, tables));
  const compiled = compileForm(design, tables);
  issues.push(
    ...carryIssues(design, tables),
    ...messageIssues(design, tables),
    ...(design.existing ?? []).flatMap((check) => existingIssues(check, comparedInForm(design, check))),
  );
  return compiled.ok
    ? [...issues, ...costIssues(compiled.value), ...findings(compiled.value)]
    : [...issues, ...compiled.error];
}

/** A formula that by its text alone takes more steps than a sheet may, and all of them together. */
function costIssues(form: CompiledForm): Issue[] {
  const heavy = form.formulas.flatMap((formula) =>
    (form.costs.get(formula.id) ?? 0) > MOST_STEPS ? [issue('too-many-steps', formulaPath(formula))] : [],
  );
  if (heavy.length > 0) return heavy;
  const given = worstStepsOf(form);
  return given > MOST_STEPS ? [issue('sheet-too-heavy', ['sections'], { given, most: MOST_STEPS })] : [];
}

function scopeKeyIssues(named: readonly { id: string; key: string }[]): Issue[] {
  const seen = new Set<string>();
  return named.flatMap(({ id, key }) => {
    const taken = seen.has(key);
    seen.add(key);
    if (!isKey(key)) return [issue('key-invalid', [id, 'key'], { key, most: limits.key })];
    if (isReservedKey(key)) return [issue('key-reserved', [id, 'key'], { key })];
    return taken ? [issue('key-taken', [id, 'key'], { key })] : [];
  });
}

function questionIssues(design: FormDesign, question: Question, tables: TablesById): Issue[] {
  const own = [
    ...labelIssues(question.label, [question.id]),
    ...(question.keptAs === undefined ? [] : labelIssues(question.keptAs, [question.id, 'keptAs'])),
  ];
  return question.kind === 'rows'
    ? [...own, ...groupIssues(design, question, tables)]
    : isField(question)
      ? [...own, ...fieldIssues(question, tables), ...beginningIssues(question)]
      : question.text.trim() === ''
        ? [issue('text-missing', [question.id])]
        : [];
}

function groupIssues(design: FormDesign, group: RowsQuestion, tables: TablesById): Issue[] {
  const issues: Issue[] = [];
  if (group.columns.length === 0) issues.push(issue('columns-missing', [group.id]));
  if (group.columns.length > limits.columns)
    issues.push(issue('too-many', [group.id], { what: 'columns', most: limits.columns }));
  if (group.least > group.most || group.most > limits.rows)
    issues.push(issue('row-limits', [group.id], { most: limits.rows }));
  const inner = groupsIn(design, group);
  if (group.within !== undefined && group.starts !== undefined)
    issues.push(issue('rows-within-begin', [group.id, 'starts']));
  issues.push(...startingIssues(group));
  issues.push(...scopeKeyIssues([...group.columns, ...inner.flatMap(({ totals }) => totals)]));
  for (const column of group.columns) issues.push(...questionIssues(design, column, tables));
  return issues;
}

function fieldIssues(question: FieldQuestion, tables: TablesById): Issue[] {
  if (question.kind === 'lookup')
    return tables.has(question.table) ? [] : [issue('table-unknown', [question.id])];
  if (question.kind === 'files' && (question.most < 1 || question.most > limits.files))
    return [issue('too-many', [question.id], { what: 'files', most: limits.files })];
  return 'choices' in question ? choiceIssues(question.choices, [question.id]) : [];
}

function targetIssues({ id, key, label, prefix }: TableTarget): Issue[] {
  return [
    ...labelIssues(label, ['store', id]),
    ...(isKey(key) ? [] : [issue('key-invalid', ['store', id], { key, most: limits.key })]),
    ...(isPrefix(prefix) ? [] : [issue('prefix-invalid', ['store', id], { prefix })]),
  ];
}

function checkIssues(design: FormDesign): Issue[] {
  const places = new Set(
    questionsOf(design).flatMap((one) => [
      one.id,
      ...(one.kind === 'rows' ? [...one.columns, ...one.totals].map(({ id }) => id) : []),
    ]),
  );
  return design.checks.flatMap((check) => [
    ...(places.has(check.on) ? [] : [issue('check-place', ['checks', check.id])]),
    ...(check.message.trim() === '' ? [issue('check-message-missing', ['checks', check.id])] : []),
  ]);
}

/** Whom it asks besides those it names depends on the moment, and on who sends. */
const asksOthers = ({ groups = [], manager, named, role }: ApprovalStep): boolean =>
  role !== undefined || groups.length > 0 || manager !== undefined || named !== undefined;

function stepIssues(design: FormDesign, people: ReadonlySet<string>): Issue[] {
  return design.steps.flatMap((step) => [
    ...labelIssues(step.label, ['steps', step.id]),
    ...(step.people.length === 0 && !asksOthers(step) && rulesFor(rulesIn(design), step.id).length === 0
      ? [issue('approver-missing', ['steps', step.id], { step: step.label })]
      : []),
    ...(typeof step.decide === 'number' &&
    step.decide > step.people.length &&
    step.people.length > 0 &&
    !asksOthers(step)
      ? [issue('approvers-too-few', ['steps', step.id], { step: step.label, wanted: step.decide })]
      : []),
    ...(step.soon !== undefined && step.within !== undefined && step.soon >= step.within
      ? [issue('soon-too-early', ['steps', step.id], { step: step.label })]
      : []),
    ...([
      ...step.people,
      ...(step.groups ?? []),
      ...(step.role === undefined ? [] : [step.role.group]),
      ...besides(step),
    ].every((one) => people.has(one))
      ? []
      : [issue('approver-unknown', ['steps', step.id], { step: step.label })]),
  ]);
}
