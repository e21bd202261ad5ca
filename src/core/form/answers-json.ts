import { issue, type Issue } from '../kernel/issue';
import { fail, ok, type Result } from '../kernel/result';
import { fromJson, NOT_LIKE_THIS } from '../record/record-json';
import type { Answers, AnswerRow, Raw } from './answers';
import { columnKindOf } from './column-kind';
import {
  allQuestions,
  groupsIn,
  groupsOf,
  isTyped,
  outerOf,
  questionsOf,
  type FieldQuestion,
  type FormDesign,
  type Question,
  type RowsQuestion,
} from './design';

/** Answers as a program sends them: by the keys of questions, rows as arrays, as `answersSchema` describes them. */
type Sent = Readonly<Record<string, unknown>>;

/**
 * Answers of JSON as a sheet keeps them; each issue by keys and places in arrays. `newRow` names a row.
 * Reasons are by the id of the check, as the issue says that asks for one.
 */
export function answersFromJson(
  design: FormDesign,
  given: Sent,
  reasons: Readonly<Record<string, string>>,
  newRow: () => string,
): Result<Answers, Issue[]> {
  const issues: Issue[] = [];
  const rows: Record<string, AnswerRow[]> = {};
  const outside = questionsOf(design).filter((one) => one.kind !== 'rows' || one.within === undefined);
  const values = read(given, outside, []);
  return issues.length > 0 ? fail(issues) : ok({ values, rows, reasons });

  function read(
    object: Sent,
    asked: readonly Question[],
    path: Issue['path'],
    of?: string,
  ): Record<string, Raw> {
    const found: Record<string, Raw> = {};
    for (const [key, value] of Object.entries(object)) {
      const question = asked.find((one) => 'key' in one && one.key === key);
      const at = [...path, key];
      if (question === undefined || question.kind === 'fixed-text') issues.push(issue('unknown-answer', at));
      else if (question.kind === 'rows') readRows(question, value, at, of);
      else readCell(question, value, at, found);
    }
    return found;
  }

  function readCell(
    question: FieldQuestion,
    value: unknown,
    at: Issue['path'],
    into: Record<string, Raw>,
  ): void {
    const kind = columnKindOf(question);
    const raw = isTyped(question) && kind !== 'files' ? fromJson(kind, value) : undefined;
    if (raw !== undefined) into[question.id] = raw;
    else issues.push(isTyped(question) ? issue(NOT_LIKE_THIS[kind], at) : issue('unknown-answer', at));
  }

  function readRows(group: RowsQuestion, value: unknown, at: Issue['path'], of?: string): void {
    if (!Array.isArray(value) || !value.every(isObject)) return void issues.push(issue('unknown-answer', at));
    for (const [i, one] of value.entries()) {
      const id = newRow();
      const cells = read(one, [...group.columns, ...groupsIn(design, group)], [...at, i], id);
      (rows[group.id] ??= []).push({ id, ...(of !== undefined && { of }), cells });
    }
  }
}

const isObject = (value: unknown): value is Sent =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

type Path = Issue['path'];

/**
 * The place of an answer as a program knows it: keys, and the place of each row among those that were sent.
 * What it does not know stays as it is.
 */
export function placeByKeys(design: FormDesign, { rows }: Pick<Answers, 'rows'>, path: Path): Path {
  const [first = '', row, column] = path;
  const keys = new Map(
    allQuestions(design).flatMap((one) => ('key' in one ? [[one.id, one.key] as const] : [])),
  );
  const keyOf = (id: string | number): string | number => keys.get(String(id)) ?? id;
  const group = groupsOf(design).find(({ id }) => id === first);
  if (group === undefined || row === undefined) return [keyOf(first), ...path.slice(1)];
  return [...rowPlace(group, row), ...(column === undefined ? [] : [keyOf(column)]), ...path.slice(3)];

  function rowPlace(of: RowsQuestion, id: string | number): Path {
    const own = rows[of.id] ?? [];
    const found = own.find((one) => one.id === id);
    const outer = found?.of === undefined ? null : outerOf(design, of);
    const before = outer === null ? [] : rowPlace(outer, found?.of ?? '');
    const beside = own.filter((one) => one.of === found?.of);
    return [...before, of.key, found === undefined ? id : beside.indexOf(found)];
  }
}
