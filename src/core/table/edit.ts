import { isAmongRecords, type TableCheck } from '../check/check';
import { keyFor } from '../form/key';
import { PEOPLE } from '../expression/type';
import { suggestKind } from '../form/suggest-kind';
import { asRetired, sameSet } from './change';
import { prefixFor } from './label';
import {
  hasChoices,
  columnKinds,
  plainColumn,
  plainTable,
  type Column,
  type ColumnKind,
  type Match,
  type Table,
} from './model';

/** Edits of a table as it is wanted: each gives a new one and leaves the old as it was, so that undo is to keep it. */

export const newTable = (id: string): Table => ({ ...plainTable, id, key: '', label: '', prefix: '' });

/** The key and the numbers of a table that is not there yet follow its name, until they are set by hand. */
export function nameTable(table: Table, label: string, others: readonly Table[], isNew: boolean): Table {
  const keys = new Set(others.map(({ key }) => key));
  const prefixes = new Set(others.map(({ prefix }) => prefix));
  const follows = isNew && (table.key === '' || table.key === keyFor(table.label, keys, 'table'));
  return {
    ...table,
    label,
    ...(follows && { key: keyFor(label, keys, 'table'), prefix: prefixFor(label, prefixes) }),
  };
}

/** One column for each label, of the kind its words suggest. The first column of a table names its records. */
export function addColumns(table: Table, labels: readonly { id: string; label: string }[]): Table {
  return labels.reduce<Table>((all, { id, label }) => {
    const kind = [...columnKinds, 'person' as const].find((one) => one === suggestKind(label)) ?? 'text';
    const column = asKind({ ...plainColumn, id, label, key: keyFor(label, keysOf(all), 'column') }, kind);
    return {
      ...all,
      columns: [...all.columns, column],
      title: all.columns.length === 0 && all.title.length === 0 ? [id] : all.title,
    };
  }, table);
}

/** Those of retired columns stay theirs. */
export const keysOf = ({ columns, retired }: Table): Set<string> =>
  new Set([...columns, ...retired].map(({ key }) => key));

export function changeColumn(table: Table, id: string, part: Partial<Column>): Table {
  return {
    ...table,
    columns: table.columns.map((column) => (column.id === id ? { ...column, ...part } : column)),
  };
}

/** What an owner may choose: a person is a record of the directory. */
export type ChosenKind = ColumnKind | 'person';
export const chosenKind = ({ kind, target }: Pick<Column, 'kind' | 'target'>): ChosenKind =>
  kind === 'reference' && target === PEOPLE ? 'person' : kind;

/** Keeps what both kinds have. */
export function asKind(column: Column, chosen: ChosenKind): Column {
  const kind = chosen === 'person' ? 'reference' : chosen;
  const numeric = kind === 'decimal' || kind === 'money';
  const isNumber = numeric || kind === 'whole';
  return {
    ...column,
    kind,
    decimals: numeric ? (column.decimals ?? 2) : kind === 'whole' ? 0 : null,
    target: chosen === 'person' ? PEOPLE : kind === 'reference' ? unlessPeople(column.target) : null,
    default: column.kind === kind ? column.default : '',
    unit:
      kind === 'money' ? (/^[A-Z]{3}$/.test(column.unit) ? column.unit : 'GBP') : isNumber ? column.unit : '',
    unique: kind === 'choices' ? false : column.unique,
    choices: hasChoices({ kind }) ? column.choices : [],
    list: hasChoices({ kind }) ? column.list : null,
  };
}

/** Whoever chooses another record than a person says which. */
const unlessPeople = (target: string | null): string | null => (target === PEOPLE ? null : target);

/** Moves a column up (-1) or down (1). */
export function moveColumn(table: Table, id: string, by: 1 | -1): Table {
  const at = table.columns.findIndex((column) => column.id === id);
  const [one, other] = [table.columns[at], table.columns[at + by]];
  if (one === undefined || other === undefined) return table;
  const columns = [...table.columns];
  [columns[at], columns[at + by]] = [other, one];
  return { ...table, columns };
}

/** Takes a column out: one that holds values already is retired, one that was only drawn goes. */
export function takeOut(table: Table, id: string, isThere: boolean): Table {
  const column = table.columns.find((one) => one.id === id);
  if (column === undefined) return table;
  const left = {
    columns: table.columns.filter((one) => one.id !== id),
    title: table.title.filter((one) => one !== id),
    together: table.together.filter((set) => !set.includes(id)),
    matches: table.matches.filter(
      ({ from, table: other, to }) => from !== id && (other !== table.id || to !== id),
    ),
  };
  return { ...table, ...left, retired: isThere ? [...table.retired, asRetired(column)] : table.retired };
}

export function bringBack(table: Table, id: string): Table {
  const column = table.retired.find((one) => one.id === id);
  return column === undefined
    ? table
    : {
        ...table,
        retired: table.retired.filter((one) => one.id !== id),
        columns: [...table.columns, column],
      };
}

export const removeForGood = (table: Table, id: string): Table => ({
  ...table,
  retired: table.retired.filter((column) => column.id !== id),
});

/** Replaces one set of columns that no two records may share; an empty one goes. */
export function changeTogether(
  table: Table,
  before: readonly string[] | null,
  after: readonly string[],
): Table {
  const others = table.together.filter((set) => before === null || !sameSet(set, before));
  return { ...table, together: after.length === 0 ? others : [...others, after] };
}

/** Puts a match in the place of one of the same id, or after the others. */
export const setMatch = (table: Table, match: Match): Table => ({
  ...table,
  matches: table.matches.some(({ id }) => id === match.id)
    ? table.matches.map((one) => (one.id === match.id ? match : one))
    : [...table.matches, match],
});
export const dropMatch = (table: Table, id: string): Table => ({
  ...table,
  matches: table.matches.filter((one) => one.id !== id),
});

export const addCheck = (table: Table, check: TableCheck): Table => ({
  ...table,
  checks: [...table.checks, check],
});
export const changeCheck = (table: Table, id: string, part: Partial<TableCheck>): Table => ({
  ...table,
  checks: table.checks.map((check) => (check.id === id ? changedCheck(check, part) : check)),
});
export const dropCheck = (table: Table, id: string): Table => ({
  ...table,
  checks: table.checks.filter((check) => check.id !== id),
});

/** One that becomes the other kind keeps nothing but what it is given. */
function changedCheck(check: TableCheck, part: Partial<TableCheck>): TableCheck {
  const isOther = isAmongRecords(check) ? 'must' in part : 'rule' in part;
  return (isOther ? part : { ...check, ...part }) as TableCheck;
}

/** Choices from lines of text, added to those there are; a code is made of the words. One that was retired is offered again. */
export function addChoices(choices: Column['choices'], text: string): Column['choices'] {
  const wanted = new Set(
    text
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== ''),
  );
  const there = choices.map(({ code, label, retired }) => ({
    code,
    label,
    ...(retired === true && !wanted.has(label) && { retired }),
  }));
  const labels = [...wanted].filter((label) => !choices.some((one) => one.label === label));
  return labels.reduce<Column['choices']>(
    (all, label) => [...all, { code: keyFor(label, new Set(all.map(({ code }) => code)), 'choice'), label }],
    there,
  );
}
