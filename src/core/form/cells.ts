import type { RecordValue, Value } from '../expression/value';
import { isRecord } from '../expression/value';
import { isUuid } from '../kernel/ids';
import { issue, type Issue } from '../kernel/issue';
import { isBlank, type AnswerRow, type Raw } from './answers';
import { isTyped, type CalculatedQuestion, type FieldQuestion } from './design';
import { kindOf } from './column-kind';

/** What is typed in one row, or in the sheet itself: `values` holds what was read and what was calculated, by question or formula id. */
export interface Cells {
  readonly raw: Map<string, Raw>;
  readonly values: Map<string, Value>;
  readonly faults: Map<string, Issue>;
}

/** One row while it is filled. */
export interface RowState extends Cells {
  readonly id: string;
  readonly group: string;
  /** The row it stands in, of a group within another. */
  readonly of: string | undefined;
}

/** The records that lookups have picked, by `table/record id`. */
export type Records = ReadonlyMap<string, RecordValue>;
export const recordKey = (table: string, id: string): string => `${table}/${id}`;

/** `[question]`, or `[group, row, question]`. */
export type Place = readonly [question: string] | readonly [group: string, row: string, question: string];
export const questionAt = (place: Place): string => place[place.length - 1] ?? '';

export const emptyCells = (): Cells => ({ raw: new Map(), values: new Map(), faults: new Map() });
export const asAnswerRow = ({ id, of, raw }: RowState): AnswerRow => ({
  id,
  ...(of !== undefined && { of }),
  cells: Object.fromEntries(raw),
});
export const isBlankState = (row: RowState): boolean => {
  for (const raw of row.raw.values()) if (!isBlank(raw)) return false;
  return true;
};

/** Takes in what was typed: kept as it is, and read; what cannot be read is a fault at its place. */
export function readInto(cells: Cells, question: FieldQuestion, raw: Raw, records: Records): void {
  if (!isTyped(question)) return;
  cells.raw.set(question.id, raw);
  cells.faults.delete(question.id);
  cells.values.set(question.id, null);
  if (isBlank(raw)) return;
  const read = readAnswer(question, raw, records);
  if ('code' in read) cells.faults.set(question.id, read);
  else cells.values.set(question.id, read.value);
}

function readAnswer(
  question: Exclude<FieldQuestion, CalculatedQuestion>,
  raw: Raw,
  records: Records,
): Issue | { value: Value } {
  if (question.kind === 'lookup') {
    if (typeof raw !== 'string') return issue('not-a-record', []);
    const record = records.get(recordKey(question.table, raw));
    if (record !== undefined) return { value: record };
    // A text that was pasted and names no record, or several, is shown as it is, to be fixed.
    return isUuid(raw) ? issue('record-gone', []) : issue('record-not-found', [], { text: raw.slice(0, 80) });
  }
  const read = kindOf(question).read(raw, question);
  return read.ok ? read : read.error;
}

/** What an answer looks like to people: names for records and codes, grouped numbers, written-out dates. */
export function shown(question: FieldQuestion, value: Value): string {
  if (question.kind === 'lookup') return isRecord(value) ? value.title : '';
  return kindOf(question).show(value, question);
}

/** A value as it would be typed again. */
export function retyped(question: FieldQuestion, value: Value): Raw {
  if (question.kind === 'lookup') return isRecord(value) ? value.id : null;
  return kindOf(question).write(value, question);
}
