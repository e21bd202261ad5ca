import { columnsRead } from '../expression/tree';
import { TEXT } from '../expression/type';
import { issue, withFacts, type Issue } from '../kernel/issue';
import type { Mailed } from '../form/design';
import { mailId } from '../form/written-expressions';
import { isBlank } from '../form/answers';
import type { Check } from './check';
import { filledMessage, messageId } from './message';
import { limits } from '../limits';
import { written } from '../storage/rows-to-write';
import {
  groupsIn,
  homeOf,
  isField,
  isTyped,
  questionsOf,
  type FieldQuestion,
  type RowsQuestion,
} from '../form/design';
import type { Place, RowState } from '../form/cells';
import { rowName } from '../form/line';
import { isRecord } from '../expression/value';
import { fitsId } from '../form/lookup-filter';
import { listStored } from '../table/kinds/stored-list';
import type { Sheet } from '../form/sheet';

/** Everything that keeps a sheet from being sent, in the order of its lines; none is left out because another stands. */
export function sheetIssues(sheet: Sheet): Issue[] {
  const found: Issue[] = [];
  for (const question of questionsOf(sheet.form.design)) {
    if (!sheet.isAsked([question.id])) continue;
    if (question.kind === 'rows') {
      if (question.within === undefined) found.push(...groupIssues(sheet, question, null));
    } else if (isField(question)) found.push(...fieldIssues(sheet, question, null, [question.id]));
  }
  return found;
}

/** Of the rows of a group: of all of them, or of those that stand in a row of another. */
function groupIssues(sheet: Sheet, group: RowsQuestion, outer: RowState | null): Issue[] {
  const rows = sheet.filledRows(group.id, outer?.id);
  const place: Place = outer === null ? [group.id] : [outer.group, outer.id, group.id];
  const found = howManyIssues(sheet, group, rows.length, place);
  for (const row of rows) {
    for (const column of group.columns)
      found.push(...fieldIssues(sheet, column, row, [group.id, row.id, column.id]));
    for (const inner of groupsIn(sheet.form.design, group))
      if (sheet.isAsked([group.id, row.id, inner.id])) found.push(...groupIssues(sheet, inner, row));
  }
  found.push(...repeatedRows(sheet, group, outer));
  for (const { id } of [group, ...group.totals]) found.push(...checkIssues(sheet, id, outer, place));
  return found;
}

function howManyIssues(sheet: Sheet, group: RowsQuestion, given: number, place: Place): Issue[] {
  const { label, most } = group;
  const least = Math.max(group.least, sheet.isRequired(place) ? 1 : 0);
  const inAll = group.within === undefined ? given : sheet.filledRows(group.id).length;
  return [
    ...(given < least ? [issue('too-few-rows', place, { least, given, label })] : []),
    ...(given > most ? [issue('too-many-rows', place, { most, given, label })] : []),
    ...(group.within !== undefined && inAll > limits.innerRows
      ? [issue('too-many-rows', place, { most: limits.innerRows, given: inAll, label })]
      : []),
  ];
}

/**
 * Rows that have all the same in the columns that tell them apart, each at the first of these; where one of
 * them is empty, nothing is the same.
 */
function repeatedRows(
  sheet: Sheet,
  { id: group, distinct = [] }: RowsQuestion,
  outer: RowState | null,
): Issue[] {
  const [first] = distinct;
  if (first === undefined) return [];
  const seen = new Map<string, string>();
  return sheet.rows(group, outer?.id).flatMap((row): Issue[] => {
    const values = distinct.map((id) => written(sheet.value([group, row.id, id]), limits.decimals));
    if (values.includes(null)) return [];
    const key = JSON.stringify(values);
    const before = seen.get(key);
    if (before === undefined) seen.set(key, row.id);
    if (before === undefined) return [];
    const name = rowName(sheet.form.design, (of) => sheet.rows(of), group, before);
    return [issue('row-repeated', [group, row.id, first], { row: name })];
  });
}

function fieldIssues(sheet: Sheet, question: FieldQuestion, row: RowState | null, path: string[]): Issue[] {
  const place: Place = row === null ? [question.id] : [path[0] ?? '', row.id, question.id];
  if (!sheet.isAsked(place)) return [];
  const fault = sheet.fault(place);
  const facts = { label: question.label };
  if (fault !== null) return [{ ...withFacts(fault, { ...facts, ...fault.facts }), path }];
  const gone = retiredChoice(question, sheet.raw(place));
  if (gone !== null) return [issue('choice-retired', path, { ...facts, choice: gone })];
  const misfit = misfits(sheet, question, row, place);
  if (misfit !== null) return [issue('pick-misfits', path, { ...facts, record: misfit })];
  const missing = sheet.isRequired(place) && isTyped(question) && isBlank(sheet.raw(place));
  return [
    ...(missing ? [issue(question.kind === 'confirmation' ? 'not-confirmed' : 'required', path, facts)] : []),
    ...checkIssues(sheet, question.id, row, path),
  ];
}

/** The title of what is picked, where the filter of its lookup does not let it be. */
function misfits(sheet: Sheet, question: FieldQuestion, row: RowState | null, place: Place): string | null {
  if (question.kind !== 'lookup' || question.where === undefined) return null;
  const id = fitsId(question.id);
  const fits = row === null ? sheet.value([id]) : (row.values.get(id) ?? null);
  const picked = sheet.value(place);
  return fits === false && isRecord(picked) ? picked.title : null;
}

/** The words of what was chosen, when its list offers it no more. */
function retiredChoice(question: FieldQuestion, raw: unknown): string | null {
  if (!('choices' in question) || typeof raw !== 'string') return null;
  const chosen = question.kind === 'choices' ? (listStored(raw) ?? []) : [raw];
  return (
    question.choices.find(({ code, retired }) => chosen.includes(code) && retired === true)?.label ?? null
  );
}

/** A check that cannot be told yet, because an answer it reads is empty, stands back: what is required says so itself. */
function checkIssues(sheet: Sheet, on: string, row: RowState | null, path: readonly string[]): Issue[] {
  return sheet.form.checks
    .filter((check) => check.on === on)
    .flatMap((check) => {
      const fault = row === null ? sheet.fault([check.id]) : (row.faults.get(check.id) ?? null);
      if (fault !== null) return [{ ...fault, path }];
      if (!isBroken(sheet, check, row)) return [];
      if (check.otherwise === 'stop')
        return [issue('check-stops', path, { check: check.id, message: messageOf(sheet, check, row) })];
      const given = sheet.reason(check.id).trim() !== '';
      return given
        ? []
        : [issue('reason-needed', path, { check: check.id, message: messageOf(sheet, check, row) })];
    });
}

/** What a check says of a sheet, or of one of its rows: with the values that stand there. */
export const messageOf = (sheet: Sheet, { id, message }: Check, row: RowState | null): string =>
  withValues(sheet, id, message, row);

/** What the owner has a mail about a sheet say besides, with the values that stand there; null where that is nothing. */
export function mailWords(sheet: Sheet, on: Mailed): string | null {
  const message = sheet.form.design.mails?.find((one) => one.on === on)?.message ?? '';
  return message.trim() === '' ? null : withValues(sheet, mailId(on), message, null);
}

function withValues(sheet: Sheet, id: string, message: string, row: RowState | null): string {
  return filledMessage(message, (index) => {
    const formula = messageId(id, index);
    const tree = sheet.form.formulas.find((one) => one.id === formula)?.tree;
    const value = row === null ? sheet.value([formula]) : (row.values.get(formula) ?? null);
    if (tree == null) return null;
    return columnsRead(tree).some(([table, column]) => sheet.untold.has(`${table} ${column}`))
      ? { type: TEXT, value: '…' }
      : { type: tree.type, value };
  });
}

function isBroken(sheet: Sheet, check: Check, row: RowState | null): boolean {
  return (row === null ? sheet.value([check.id]) : (row.values.get(check.id) ?? null)) === false;
}

/** The checks that ask for a reason now, whether or not it has been given, each with what it says; but for what `stood` so before. */
export function reasonsAsked(
  sheet: Sheet,
  stood: (sheet: Sheet, one: Issue) => boolean = () => false,
): Check[] {
  return sheet.form.checks.flatMap((check): Check[] => {
    if (check.otherwise !== 'ask') return [];
    const asks = (path: readonly string[], row: RowState | null): boolean =>
      isBroken(sheet, check, row) &&
      !stood(sheet, issue('reason-needed', path, { check: check.id, message: check.message }));
    const said = (row: RowState | null): Check => ({ ...check, message: messageOf(sheet, check, row) });
    const group = homeOf(sheet.form.design, check.on)?.id ?? null;
    const told = toldAt(sheet, check.on);
    if (group === null) return sheet.isAsked([check.on]) && asks([told], null) ? [said(null)] : [];
    // A reason is given for all rows at once; what is said is of the first.
    const first = sheet
      .filledRows(group)
      .find((row) => sheet.isAsked([group, row.id, check.on]) && asks([group, row.id, told], row));
    return first === undefined ? [] : [said(first)];
  });
}

/** What a check is told at: a total stands at its rows. */
const toldAt = ({ form }: Sheet, on: string): string =>
  [...form.groups.values()].find(({ totals }) => totals.some(({ id }) => id === on))?.id ?? on;
