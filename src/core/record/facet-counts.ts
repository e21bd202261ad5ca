import Big from 'big.js';
import { quotedText } from '../expression/nodes/literals';
import { offered } from '../table/choice-list';
import { hasChoices, keptColumns, type Column, type Table } from '../table/model';
import type { FacetCount } from './facets';
import type { Filterable } from './filter';
import { speak } from '../wording/speak';
import { monthName } from '../formats/days';

/** What is counted of a column by its values, most frequent first. */
export const MOST_VALUES = 8;

/** Columns a table is narrowed down by: choices, yes and no, what is referred to, days and numbers. Texts are found by words. */
export function facetColumns(
  table: Table,
  tables: ReadonlyMap<string, Table>,
): { column: Column; by: Column | null }[] {
  // What is worked out record by record is not counted by value.
  const found = keptColumns(table).flatMap((column): { column: Column; by: Column | null }[] => {
    if (column.kind === 'reference') {
      // Records are told apart by the first of their title's columns.
      const target = tables.get(column.target ?? '');
      const by = target?.columns.find(({ id, kind }) => id === target.title[0] && kind === 'text');
      return by === undefined ? [] : [{ column, by }];
    }
    return FACET_KINDS.has(column.kind) ? [{ column, by: null }] : [];
  });
  // What has few values stands first: it narrows most at a glance.
  const isShort = (column: Column): number => (hasChoices(column) || column.kind === 'yes-no' ? 0 : 1);
  return found.sort((a, b) => isShort(a.column) - isShort(b.column));
}
const FACET_KINDS: ReadonlySet<Column['kind']> = new Set([
  'choice',
  'choices',
  'yes-no',
  'date',
  'date-time',
  'whole',
  'decimal',
  'money',
]);

/** The FEEL text of a value as the database writes it. */
export function literalOf(kind: Column['kind'], stored: string): string {
  switch (kind) {
    case 'whole':
    case 'decimal':
    case 'money':
      return stored;
    case 'yes-no':
      return stored;
    case 'date':
      return `date(${quotedText(stored)})`;
    case 'time':
      return `time(${quotedText(stored)})`;
    case 'date-time':
      return `date and time(${quotedText(stored.replace(' ', 'T'))})`;
    default:
      return quotedText(stored);
  }
}

/** One value of a column, of as many records. */
export function valueCount(
  of: Filterable,
  stored: string | null,
  title: string,
  records: number,
): FacetCount {
  if (stored === null)
    return { label: speak`empty`, records, picks: [{ left: of.text, by: 'empty', right: [] }] };
  const choice = of.choices.find(({ code }) => code === stored);
  const label =
    of.kind === 'yes-no'
      ? stored === 'true'
        ? speak`Yes`
        : speak`No`
      : (choice?.label ?? (title === '' ? stored : title));
  const by = of.kind === 'choices' ? 'has' : 'one-of';
  return { label, records, picks: [{ left: of.text, by, right: [literalOf(of.kind, stored)] }] };
}

/** Choices nothing has are shown as well, so that one sees there are none. */
export const unusedChoices = (of: Filterable, seen: ReadonlySet<string>): FacetCount[] =>
  offered(of.choices)
    .filter(({ code }) => !seen.has(code))
    .map(({ code, label }) => valueCount(of, code, label, 0));

const STEPS = [1, 2, 5];
/** Ranges a column of numbers is parted into, about. */
const RANGES = 5;

/** The width of ranges that people would choose between two numbers: 1, 2 or 5 and noughts, at least one for whole numbers. */
export function niceStep(least: number, most: number, isWhole: boolean): number {
  const rough = Math.max((most - least) / RANGES, isWhole ? 1 : 1e-9);
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = STEPS.map((one) => one * power).find((one) => one >= rough - power * 1e-9) ?? 10 * power;
  return isWhole ? Math.max(1, Math.round(step)) : step;
}

/** The range that begins at `place` steps. */
export function rangeCount(of: Filterable, place: number, step: number, records: number): FacetCount {
  const [from, to] = [new Big(step).times(place).toString(), new Big(step).times(place + 1).toString()];
  const label =
    of.kind === 'whole'
      ? step === 1
        ? from
        : speak`${from} to ${new Big(to).minus(1).toString()}`
      : speak`${from} to below ${to}`;
  return {
    label,
    records,
    picks: [
      { left: of.text, by: '>=', right: [from] },
      { left: of.text, by: '<', right: [to] },
    ],
  };
}

/** A year, as 2026, or a month, as 2026-11, of days or of moments. */
export function periodCount(of: Filterable, period: string, records: number): FacetCount {
  const [year = 0, month] = period.split('-').map(Number);
  const day = (y: number, m: number): string => {
    const iso = `${String(y).padStart(4, '0')}-${String(m).padStart(2, '0')}-01`;
    return of.kind === 'date' ? literalOf('date', iso) : literalOf('date-time', `${iso}T00:00:00`);
  };
  const next =
    month === undefined ? day(year + 1, 1) : month === 12 ? day(year + 1, 1) : day(year, month + 1);
  return {
    label: month === undefined ? String(year) : `${monthName(month)} ${year}`,
    records,
    picks: [
      { left: of.text, by: '>=', right: [day(year, month ?? 1)] },
      { left: of.text, by: '<', right: [next] },
    ],
  };
}
