import { fold, tidy } from '../import/cell';
import { fit, reader, type Converted } from '../import/convert';
import type { Reading } from '../import/detection';
import { kinds } from './kinds/list';
import { listStored, storedList } from './kinds/stored-list';
import { choicesNamed, inOrder } from './kinds/choices';
import { hasChoices, type Column } from './model';

/** Values of one column on their way into another shape. */
export interface Conversion {
  readonly before: Column;
  readonly column: Column;
  readonly reading: Reading;
  /** What stands instead of a text; the empty text is a blank. */
  readonly mends: Readonly<Record<string, string>>;
}

/** The id of the record a title names, without case, spaces and accents; null when none does, or more than one. */
export type FindRecord = (title: string) => string | null;

/** The different titles of a table's records, for finding and for showing. */
export class Titles {
  private readonly byTitle = new Map<string, string | null>();
  private readonly byId = new Map<string, string>();

  add(id: string, title: string, number: string): void {
    this.byId.set(id, title);
    for (const name of new Set([fold(tidy(title)), fold(number)]))
      this.byTitle.set(name, this.byTitle.has(name) ? null : id);
  }

  readonly find: FindRecord = (title) => this.byTitle.get(fold(tidy(title))) ?? null;
  readonly titleOf = (id: string): string => this.byId.get(id) ?? '';
}

/**
 * How a stored value reads to people, which is what is converted and what is mended: a choice by its label, a reference by its title.
 * `stored` is PostgreSQL's text of it.
 */
export function readableText(
  column: Column,
  titleOf: (id: string) => string,
): (stored: string | null) => string {
  const labels = new Map(column.choices.map(({ code, label }) => [code, label]));
  return (stored) => {
    if (stored === null) return '';
    if (column.kind === 'choice') return labels.get(stored) ?? stored;
    if (column.kind === 'choices' || column.kind === 'files')
      return kinds[column.kind].show(listStored(stored) ?? [], column);
    if (column.kind === 'yes-no') return stored === 'true' || stored === 't' ? 'Yes' : 'No';
    return column.kind === 'reference' ? titleOf(stored) : stored;
  };
}

const NUMBERS: ReadonlySet<Column['kind']> = new Set(['whole', 'decimal', 'money']);

/** Reads readable texts of the old column as values of the new one: PostgreSQL's text, null when blank; or why one does not fit. */
export function convertedBy(
  { before, column, reading, mends }: Conversion,
  find: FindRecord,
  zone: string,
): (text: string) => Converted {
  // What was a number is written with a point, whatever sign people use.
  const how = {
    unit: column.unit,
    ...reading,
    ...(NUMBERS.has(before.kind) && { decimalSign: '.' as const }),
  };
  const read =
    column.kind === 'reference' ? recordReader(column, find) : reader({ column, reading: how }, zone);
  const mended = new Map(Object.entries(mends));
  return (text) => {
    const mend = mended.get(text);
    const kept = mend === undefined ? keptCodes(text, before, column) : null;
    return kept === null ? read(mend ?? text) : fit(kept);
  };
}

/**
 * From choices to choices codes that both have stay, whatever they are called now; the others are found by
 * their words. Null where not all of them do.
 */
function keptCodes(text: string, before: Column, column: Column): string | null {
  const offered = new Set(column.choices.map(({ code }) => code));
  if (text === '' || !hasChoices(before) || !hasChoices(column)) return null;
  const codes =
    before.kind === 'choices'
      ? (choicesNamed(text, before.choices) ?? [])
      : before.choices.flatMap(({ code, label }) => (label === text ? [code] : [])).slice(0, 1);
  const [first = null, ...more] = codes;
  if (!codes.every((code) => offered.has(code))) return null;
  if (column.kind === 'choices') return storedList(inOrder(new Set(codes), column.choices));
  return more.length === 0 ? first : null;
}

function recordReader({ required }: Column, find: FindRecord): (text: string) => Converted {
  return (text) => {
    if (tidy(text) === '') return required ? { code: 'required' } : fit(null);
    const id = find(text);
    return id === null ? { code: 'not-found-there' } : fit(id);
  };
}
