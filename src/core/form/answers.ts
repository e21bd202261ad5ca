import { issue, type Issue } from '../kernel/issue';
import { fieldsOfForm, groupsOf, type FormDesign, type RowsQuestion } from './design';

/**
 * What a colleague has typed, as typed: numbers as text, dates as ISO text, a lookup as the record's id.
 * Text that cannot be read as what was asked is kept too, and reported; nothing typed is lost.
 */
export interface Answers {
  readonly values: Readonly<Record<string, Raw>>;
  readonly rows: Readonly<Record<string, readonly AnswerRow[]>>;
  /** By check id: the reason given where a check asked for one. */
  readonly reasons: Readonly<Record<string, string>>;
}

export type Raw = string | boolean | null;

export interface AnswerRow {
  readonly id: string;
  /** The row it stands in, of a group within another. */
  readonly of?: string | undefined;
  readonly cells: Readonly<Record<string, Raw>>;
}

export const noAnswers: Answers = { values: {}, rows: {}, reasons: {} };

export const isBlank = (raw: Raw | undefined): boolean =>
  raw === undefined || raw === null || (typeof raw === 'string' && raw.trim() === '');
/** A row that has anything typed in it is a row. */
export const isBlankRow = (row: AnswerRow): boolean => Object.values(row.cells).every(isBlank);

/**
 * Answers that belong to no question of a form. Nothing typed in the form makes them. A reason whose check is
 * asked no more is no reason for anything, and stays.
 */
export function unknownAnswers(
  design: FormDesign,
  { values, rows }: Pick<Answers, 'values' | 'rows'>,
): Issue[] {
  const asked = new Set(fieldsOfForm(design).map(({ id }) => id));
  const groups = new Map(groupsOf(design).map((one) => [one.id, one]));
  const places = rowPlaces(rows);
  return [
    ...Object.keys(values)
      .filter((id) => !asked.has(id))
      .map((id) => issue('unknown-answer', [id])),
    ...Object.entries(rows).flatMap(([group, list]) => {
      const known = groups.get(group);
      if (known === undefined) return [issue('unknown-answer', [group])];
      const columns = new Set(known.columns.map(({ id }) => id));
      return list.flatMap((row) => [
        ...(standsSomewhere(known, row, places) ? [] : [issue('unknown-answer', [group, row.id])]),
        ...Object.keys(row.cells)
          .filter((id) => !columns.has(id))
          .map((id) => issue('unknown-answer', [group, row.id, id])),
      ]);
    }),
  ].slice(0, 20);
}

/** The ids of the rows there are, by group. */
export const rowPlaces = (rows: Answers['rows']): ReadonlyMap<string, ReadonlySet<string>> =>
  new Map(Object.entries(rows).map(([group, list]) => [group, new Set(list.map(({ id }) => id))]));

/** Whether the row it is to stand in is there; one of a group of the form stands in none. */
export const standsSomewhere = (
  { within }: RowsQuestion,
  { of }: AnswerRow,
  places: ReturnType<typeof rowPlaces>,
): boolean =>
  within === undefined ? of === undefined : of !== undefined && places.get(within)?.has(of) === true;
