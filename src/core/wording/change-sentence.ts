import { unreachable } from '../kernel/result';
import type { TableChange } from '../table/change';
import { isCalculated, recordNumber, type Column, type Numbering, type Table } from '../table/model';

/** A change of tables in words, before it runs. With `place`, the table is named where it is not the subject. */
export function changeSentence(change: TableChange, place = true): string {
  const inTable = place ? ` in ${change.table.label}` : '';
  const label = 'column' in change ? `“${change.column.label}”` : '';
  switch (change.t) {
    case 'make-table':
      return `The table ${change.table.label} is made, with ${columnsInWords(change.table.columns.length)}`;
    case 'relabel-table':
      return `The table “${change.before}” is renamed “${change.table.label}”`;
    case 'renumber':
      return `New records${inTable} are numbered ${numberingWords(change.table)}`;
    case 'change-duty':
      return change.table.duty === null
        ? `Records${inTable} need not be kept any more (${change.before?.why ?? ''})`
        : `Records${inTable} are kept for ${yearsInWords(change.table.duty.years)} whatever is asked, because of ${change.table.duty.why}`;
    case 'retitle':
      return `Records${inTable} are named by ${labelsOf(change.table, change.table.title) || 'their number'}`;
    case 'order-columns':
      return `Columns${inTable} are in a different order`;
    case 'keep-apart':
      return `No two records${inTable} may share ${labelsOf(change.table, change.columns)}`;
    case 'let-share':
      return `Records${inTable} may share ${labelsOf(change.table, change.columns)}`;
    case 'add-check':
      return `A check${inTable} is added: “${change.check.message}”`;
    case 'change-check':
      return `The check “${change.check.message}”${inTable} is changed`;
    case 'drop-check':
      return `“${change.check.message}”${inTable} is checked no more`;
    case 'add-match':
      return `Beside a record${inTable}, those of another table are shown that have the same ${labelsOf(change.table, [change.match.from])}`;
    case 'drop-match':
      return `Records${inTable} are matched no more with those of another table that have the same ${labelsOf(change.table, [change.match.from]) || 'value'}`;
    case 'add-column':
      return `${label} (${columnWords(change.column)}${isCalculated(change.column) ? ', worked out' : ''}) is added${place ? ` to ${change.table.label}` : ''}`;
    case 'relabel-column':
      return `“${change.before}”${inTable} is renamed ${label}`;
    case 'rename-column':
      return `The key of ${label}${inTable} is ${change.column.key} instead of ${change.before}`;
    case 'describe-column':
      return `${label}${inTable} has a new description`;
    case 'loosen-column':
      return `${label}${inTable} may be left empty`;
    case 'require-column':
      return `${label}${inTable} must be filled`;
    case 'make-unique':
      return `${label}${inTable} must be different in every record`;
    case 'let-repeat':
      return `${label}${inTable} may be the same in several records`;
    case 'change-choices':
      return change.column.list === null
        ? `The choices of ${label}${inTable} change`
        : `${label}${inTable} takes its choices from the list “${change.column.list.label}”`;
    case 'change-default':
      return change.column.default === ''
        ? `${label}${inTable} has no default any more`
        : `${label}${inTable} is ${change.column.default} where nothing is given`;
    case 'lock-column':
      return `${label}${inTable} is written by forms and imports alone`;
    case 'unlock-column':
      return `${label}${inTable} may be typed in where records are edited`;
    case 'change-formula':
      return `${label}${inTable} is worked out in another way`;
    case 'retire-column':
      return `${label}${inTable} is retired: hidden, its values kept`;
    case 'restore-column':
      return `${label}${inTable} is brought back with its values`;
    case 'remove-column':
      return `${label}${inTable} is removed for good, with its values`;
    case 'convert-column':
      return `${label}${inTable} becomes ${columnWords(change.column)}${detailWords(change.column)} instead of ${columnWords(change.before)}${detailWords(change.before)}`;
    default:
      return unreachable(change);
  }
}

/** How many columns, in words. */
export const columnsInWords = (many: number): string => `${many} ${many === 1 ? 'column' : 'columns'}`;

function labelsOf({ columns, retired }: Table, ids: readonly string[]): string {
  const labels = ids.flatMap(
    (id) => [...columns, ...retired].find((column) => column.id === id)?.label ?? [],
  );
  return labels.length < 2 ? labels.join('') : `${labels.slice(0, -1).join(', ')} and ${labels.at(-1)}`;
}

const detailWords = ({ kind, decimals, list }: Column): string =>
  list !== null
    ? ` of the list “${list.label}”`
    : (kind === 'decimal' || kind === 'money') && decimals !== null
      ? ` with ${decimals} ${decimals === 1 ? 'decimal' : 'decimals'}`
      : '';

export const yearsInWords = (years: number): string => (years === 1 ? 'a year' : `${years} years`);

export const numberingChoices: Readonly<Record<Numbering, string>> = {
  yearly: 'from 1 in each year',
  'running-with-year': 'with the year, going on',
  running: 'going on, without the year',
};
const numberingWords = (table: Table): string =>
  `${recordNumber(table, EXAMPLE_YEAR, 1)} and so on, ${numberingChoices[table.numbering]}`;
const EXAMPLE_YEAR = 2026;

const words: Readonly<Record<Column['kind'], string>> = {
  text: 'text',
  whole: 'whole number',
  decimal: 'decimal number',
  money: 'money',
  date: 'date',
  time: 'time of day',
  'date-time': 'date with time',
  'yes-no': 'yes or no',
  choice: 'one choice',
  choices: 'several choices',
  files: 'photos or files',
  reference: 'a record',
  'e-mail': 'e-mail address',
  'web-address': 'web address',
  phone: 'telephone number',
};
/** The same of a kind that is a fact of an issue. */
export const columnKindWords = (kind: unknown): string =>
  new Map<unknown, string>(Object.entries(words)).get(kind) ?? String(kind);
export const columnWords = (column: Pick<Column, 'kind'>): string => words[column.kind];
