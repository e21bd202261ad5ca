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
  readonly cells: Readonly<Record<string, Raw>>;
}

export const noAnswers: Answers = { values: {}, rows: {}, reasons: {} };

export const isBlank = (raw: Raw | undefined): boolean =>
  raw === undefined || raw === null || (typeof raw === 'string' && raw.trim() === '');
/** A row that has anything typed in it is a row. */
export const isBlankRow = (row: AnswerRow): boolean => Object.values(row.cells).every(isBlank);
