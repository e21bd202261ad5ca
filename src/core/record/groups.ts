import { stampFields } from './table-scope';
import { pickedText } from '../check/pick-text';
import type { Column, Table } from '../table/model';
import { periodCount, valueCount } from './facet-counts';
import type { Filterable } from './filter';

/** Records that have something in common, and what their numbers come to. */
export interface RecordGroup {
  readonly label: string;
  readonly records: number;
  /** By column id. */
  readonly totals: Readonly<Record<string, Total>>;
  /** What only these records fulfil, as FEEL; null where they are told by what they refer to. */
  readonly where: string | null;
  /** The record that all of them refer to, by id. */
  readonly of: string | null;
}

/** Decimals as text; null where no record has a value. */
export interface Total {
  readonly sum: string | null;
  readonly mean: string | null;
  readonly least: string | null;
  readonly most: string | null;
}
export const totalKinds = ['sum', 'mean', 'least', 'most'] as const;
export type TotalKind = (typeof totalKinds)[number];

const NUMBERS: ReadonlySet<Column['kind']> = new Set(['whole', 'decimal', 'money']);

/** The columns of a table that come to something. */
export const totalled = (table: Table): Column[] => table.columns.filter(({ kind }) => NUMBERS.has(kind));

/** What records can be put together by: days by their months; numbers by what they are. */
export const groupables = (filterables: readonly Filterable[]): Filterable[] =>
  filterables.filter(
    ({ kind, text }) =>
      !stampFields.has(text) &&
      kind !== 'choices' &&
      kind !== 'files' &&
      (kind !== 'reference' || !text.includes('.')),
  );

export const isPeriod = ({ kind }: Pick<Filterable, 'kind'>): boolean =>
  kind === 'date' || kind === 'date-time';

/** A group by what its records have: a value as it is stored, or a month as 2026-11; of a reference, the record's id and title. */
export function groupOf(
  by: Filterable,
  stored: string | null,
  title: string,
  { records, totals }: Pick<RecordGroup, 'records' | 'totals'>,
): RecordGroup {
  if (by.kind === 'reference' && stored !== null)
    return { label: title, records, totals, where: null, of: stored };
  const { label, picks } =
    isPeriod(by) && stored !== null
      ? periodCount(by, stored, records)
      : valueCount(by, stored, title, records);
  return { label, records, totals, where: pickedText({ join: 'all', picks }), of: null };
}

/** A filter and what else must hold, as FEEL. */
export const bothFeel = (one: string, other: string): string =>
  one.trim() === '' ? other : other.trim() === '' ? one : `(${one}) and (${other})`;
