import { unreachable } from '../kernel/result';
import type { TableChange } from '../table/change';
import { isCalculated, recordNumber, type Column, type Numbering, type Table } from '../table/model';
import { speak, spoken } from './speak';

/** A change of tables in words, before it runs. With `place`, the table is named where it is not the subject. */
export function changeSentence(change: TableChange, place = true): string {
  const inTable = place ? speak` in ${change.table.label}` : '';
  const label = 'column' in change ? `“${change.column.label}”` : '';
  switch (change.t) {
    case 'make-table':
      return speak`The table ${change.table.label} is made, with ${columnsInWords(change.table.columns.length)}`;
    case 'relabel-table':
      return speak`The table “${change.before}” is renamed “${change.table.label}”`;
    case 'renumber':
      return speak`New records${inTable} are numbered ${numberingWords(change.table)}`;
    case 'change-duty':
      return change.table.duty === null
        ? speak`Records${inTable} need not be kept any more (${change.before?.why ?? ''})`
        : speak`Records${inTable} are kept for ${yearsInWords(change.table.duty.years)} whatever is asked, because of ${change.table.duty.why}`;
    case 'retitle':
      return speak`Records${inTable} are named by ${labelsOf(change.table, change.table.title) || speak`their number`}`;
    case 'order-columns':
      return speak`Columns${inTable} are in a different order`;
    case 'keep-apart':
      return speak`No two records${inTable} may share ${labelsOf(change.table, change.columns)}`;
    case 'let-share':
      return speak`Records${inTable} may share ${labelsOf(change.table, change.columns)}`;
    case 'add-check':
      return speak`A check${inTable} is added: “${change.check.message}”`;
    case 'change-check':
      return speak`The check “${change.check.message}”${inTable} is changed`;
    case 'drop-check':
      return speak`“${change.check.message}”${inTable} is checked no more`;
    case 'add-match':
      return speak`Beside a record${inTable}, those of another table are shown that have the same ${labelsOf(change.table, [change.match.from])}`;
    case 'drop-match':
      return speak`Records${inTable} are matched no more with those of another table that have the same ${labelsOf(change.table, [change.match.from]) || speak`value`}`;
    case 'add-column':
      return speak`${label} (${columnWords(change.column)}${isCalculated(change.column) ? speak`, worked out` : ''}) is added${place ? speak` to ${change.table.label}` : ''}`;
    case 'relabel-column':
      return speak`“${change.before}”${inTable} is renamed ${label}`;
    case 'rename-column':
      return speak`The key of ${label}${inTable} is ${change.column.key} instead of ${change.before}`;
    case 'describe-column':
      return speak`${label}${inTable} has a new description`;
    case 'loosen-column':
      return speak`${label}${inTable} may be left empty`;
    case 'require-column':
      return speak`${label}${inTable} must be filled`;
    case 'make-unique':
      return speak`${label}${inTable} must be different in every record`;
    case 'let-repeat':
      return speak`${label}${inTable} may be the same in several records`;
    case 'change-choices':
      return change.column.list === null
        ? speak`The choices of ${label}${inTable} change`
        : speak`${label}${inTable} takes its choices from the list “${change.column.list.label}”`;
    case 'change-default':
      return change.column.default === ''
        ? speak`${label}${inTable} has no default any more`
        : speak`${label}${inTable} is ${change.column.default} where nothing is given`;
    case 'lock-column':
      return speak`${label}${inTable} is written by forms and imports alone`;
    case 'unlock-column':
      return speak`${label}${inTable} may be typed in where records are edited`;
    case 'change-formula':
      return speak`${label}${inTable} is worked out in another way`;
    case 'retire-column':
      return speak`${label}${inTable} is retired: hidden, its values kept`;
    case 'restore-column':
      return speak`${label}${inTable} is brought back with its values`;
    case 'remove-column':
      return speak`${label}${inTable} is removed for good, with its values`;
    case 'convert-column':
      return speak`${label}${inTable} becomes ${columnWords(change.column)}${detailWords(change.column)} instead of ${columnWords(change.before)}${detailWords(change.before)}`;
    default:
      return unreachable(change);
  }
}

/** How many columns, in words. */
export const columnsInWords = (many: number): string =>
  `${many} ${many === 1 ? speak`column` : speak`columns`}`;

function labelsOf({ columns, retired }: Table, ids: readonly string[]): string {
  const labels = ids.flatMap(
    (id) => [...columns, ...retired].find((column) => column.id === id)?.label ?? [],
  );
  return labels.length < 2 ? labels.join('') : speak`${labels.slice(0, -1).join(', ')} and ${labels.at(-1)}`;
}

const detailWords = ({ kind, decimals, list }: Column): string =>
  list !== null
    ? speak` of the list “${list.label}”`
    : (kind === 'decimal' || kind === 'money') && decimals !== null
      ? speak` with ${decimals} ${decimals === 1 ? speak`decimal` : speak`decimals`}`
      : '';

export const yearsInWords = (years: number): string => (years === 1 ? 'a year' : speak`${years} years`);

export const numberingChoices = spoken((): Readonly<Record<Numbering, string>> => ({
  yearly: speak`from 1 in each year`,
  'running-with-year': speak`with the year, going on`,
  running: speak`going on, without the year`,
}));
const numberingWords = (table: Table): string =>
  speak`${recordNumber(table, EXAMPLE_YEAR, 1)} and so on, ${numberingChoices()[table.numbering]}`;
const EXAMPLE_YEAR = 2026;

const words = spoken((): Readonly<Record<Column['kind'], string>> => ({
  text: speak`text`,
  whole: speak`whole number`,
  decimal: speak`decimal number`,
  money: speak`money`,
  date: speak`date`,
  time: speak`time of day`,
  'date-time': speak`date with time`,
  'yes-no': speak`yes or no`,
  choice: speak`one choice`,
  choices: speak`several choices`,
  files: speak`photos or files`,
  reference: speak`a record`,
  'e-mail': speak`e-mail address`,
  'web-address': speak`web address`,
  phone: speak`telephone number`,
}));
/** The same of a kind that is a fact of an issue. */
export const columnKindWords = (kind: unknown): string =>
  new Map<unknown, string>(Object.entries(words())).get(kind) ?? String(kind);
export const columnWords = (column: Pick<Column, 'kind'>): string => words()[column.kind];
