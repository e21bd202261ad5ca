import type { AnswerRow, Answers, Raw } from '../form/answers';
import { emptyCells, readInto, retyped } from '../form/cells';
import { groupsOf, isTyped, fieldsOfForm, type FieldQuestion, type FormDesign } from '../form/design';
import type { Values } from '../record/column-value';

/** A row of a record, as it is stored. */
export interface StoredRow {
  readonly id: string;
  /** The row it stands in, where it is not one of the record itself. */
  readonly of?: string | undefined;
  readonly values: Values;
}

/** A record as it is stored, with the rows that belong to it and to these, by table and in their order. */
export interface StoredSheet {
  readonly values: Values;
  readonly rows: ReadonlyMap<string, readonly StoredRow[]>;
}

/**
 * What would have been typed for a record to become what it is: the inverse of `rowsToWrite`. A row goes by
 * its record's id. What is calculated is not answered.
 */
export function answersOf(design: FormDesign, { values, rows }: StoredSheet): Answers {
  return {
    values: cellsOf(fieldsOfForm(design), values),
    rows: Object.fromEntries(
      groupsOf(design).map((group) => [
        group.id,
        (rows.get(group.table.id) ?? []).map((row): AnswerRow => ({
          id: row.id,
          ...(row.of !== undefined && { of: row.of }),
          cells: cellsOf(group.columns, row.values),
        })),
      ]),
    ),
    reasons: {},
  };
}

const cellsOf = (questions: readonly FieldQuestion[], values: Values): Record<string, Raw> =>
  Object.fromEntries(
    questions
      .filter(isTyped)
      .map((question) => [question.id, typedAgain(question, values[question.id] ?? null)]),
  );

/** Moments are stored with their seconds, which nobody would type. */
function typedAgain(question: FieldQuestion, raw: Raw): Raw {
  if (question.kind !== 'time' && question.kind !== 'date-time') return raw;
  const cells = emptyCells();
  readInto(cells, question, raw, new Map());
  return retyped(question, cells.values.get(question.id) ?? null) ?? raw;
}
