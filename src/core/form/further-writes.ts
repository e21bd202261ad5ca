import { issue, type Issue } from '../kernel/issue';
import { PEOPLE, YES_NO, type Type } from '../expression/type';
import { limits } from '../limits';
import type { ColumnSet, FurtherWrite, WriteUse } from '../storage/further-write';
import { kinds } from '../table/kinds/list';
import { hasChoices, isCalculated, type Column, type Table } from '../table/model';
import {
  fieldsOfForm,
  groupsOf,
  isField,
  questionsOf,
  type FormDesign,
  type LookupQuestion,
  type RowsQuestion,
} from './design';
import type { TablesById } from './scope';

/** The formula that says whether something is written further, or what a column of it becomes. */
export const furtherId = (write: string, column: string | null): string => `${write}:${column ?? 'when'}`;

/**
 * The lookup whose record is changed, with the rows it stands in; null where it is not there, or not to be
 * reached from where it is written.
 */
export function lookupOfWrite(
  design: FormDesign,
  write: FurtherWrite,
): { readonly lookup: LookupQuestion; readonly group: RowsQuestion | null } | null {
  if (write.t !== 'change') return null;
  const group = groupOfWrite(design, write);
  for (const [list, home] of [
    [fieldsOfForm(design), null],
    [group?.columns ?? [], group],
  ] as const) {
    const lookup = list.find(({ id }) => id === write.lookup);
    if (lookup?.kind === 'lookup') return { lookup, group: home };
  }
  return null;
}

export const groupOfWrite = (design: FormDesign, { each }: FurtherWrite): RowsQuestion | null =>
  groupsOf(design).find(({ id }) => id === each) ?? null;

/** The table it writes to, by id; empty where that was not said yet. */
export const tableOfWrite = (design: FormDesign, write: FurtherWrite): string =>
  write.t === 'add' ? write.table : (lookupOfWrite(design, write)?.lookup.table ?? '');

/** What a release does to a table beside keeping its own answers there. */
export interface BesideUse {
  readonly table: string;
  readonly use: 'change' | 'add';
  /** The columns that are changed; of a record that is added they may all be filled. */
  readonly columns: readonly string[];
}

/** What a release does to each table it writes to. */
export function writesOf(design: FormDesign): ReadonlyMap<string, readonly WriteUse[]> {
  const uses = new Map<string, WriteUse[]>();
  for (const { id } of [design.table, ...groupsOf(design).map(({ table }) => table)]) uses.set(id, ['write']);
  for (const { table, use } of besideUses(design)) uses.set(table, [...(uses.get(table) ?? []), use]);
  return uses;
}

export function besideUses(design: FormDesign): BesideUse[] {
  const uses = new Map<string, BesideUse>();
  for (const write of design.further ?? []) {
    const table = tableOfWrite(design, write);
    if (table === '') continue;
    const key = `${write.t} ${table}`;
    const columns = write.t === 'change' ? write.sets.map(({ column }) => column) : [];
    const known = uses.get(key)?.columns ?? [];
    uses.set(key, { table, use: write.t, columns: [...new Set([...known, ...columns])] });
  }
  return [...uses.values()];
}

/** One expression of what is written further; `wanted` is what it must give. */
export interface FurtherExpression {
  readonly write: FurtherWrite;
  /** Null for the condition. */
  readonly column: string | null;
  readonly group: RowsQuestion | null;
  readonly stored: string;
  readonly wanted: Type;
}

/**
 * Those that can be read: what is wrong with the others `furtherIssues` tells. Whoever fills a form need not
 * know the tables it writes to beside.
 */
export function furtherExpressions(design: FormDesign, tables: TablesById): FurtherExpression[] {
  return (design.further ?? []).flatMap((write) => {
    const table = tables.get(tableOfWrite(design, write));
    if (table === undefined) return [];
    const group = groupOfWrite(design, write);
    const when: FurtherExpression[] =
      write.when === undefined ? [] : [{ write, column: null, group, stored: write.when, wanted: YES_NO }];
    const sets = write.sets.flatMap(({ column: id, expression }): FurtherExpression[] => {
      const column = table.columns.find((one) => one.id === id);
      return column === undefined
        ? []
        : [{ write, column: id, group, stored: expression, wanted: typeOfColumn(column) }];
    });
    return [...when, ...sets];
  });
}

/** What an expression must give to stand in a column. */
export const typeOfColumn = (column: Column): Type =>
  column.target === null ? kinds[column.kind].type : { t: 'record', table: column.target, fields: new Map() };

export const isCounted = ({ kind }: Column): boolean =>
  kind === 'whole' || kind === 'decimal' || kind === 'money';

/**
 * What keeps a form from being released with what it writes further. Paths: `['further', id, column?]`. What
 * is wrong with the expressions is told when they are read.
 */
export function furtherIssues(design: FormDesign, tables: TablesById): Issue[] {
  const writes = design.further ?? [];
  const many =
    writes.length > limits.further
      ? [issue('too-many', ['further'], { what: 'further writes', most: limits.further })]
      : [];
  return [...many, ...writes.flatMap((write) => writeIssues(design, write, tables))];
}

function writeIssues(design: FormDesign, write: FurtherWrite, tables: TablesById): Issue[] {
  const at = ['further', write.id];
  if (write.each !== undefined && groupOfWrite(design, write) === null) return [issue('further-rows', at)];
  if (write.t === 'change' && lookupOfWrite(design, write) === null) return [issue('further-lookup', at)];
  const table = tables.get(tableOfWrite(design, write));
  if (table === undefined) return [issue('further-table', at)];
  const closed = closedTable(write, table);
  if (closed !== null) return [issue(closed, at, { table: table.label, source: table.linked?.source ?? '' })];
  return [
    ...(write.sets.length === 0 ? [issue('further-nothing', at)] : []),
    ...write.sets.flatMap((set, i) => setIssues(write, set, write.sets.slice(0, i), table)),
    ...(write.t === 'add' ? unfilled(write.sets, table) : []).map(({ id, label }) =>
      issue('further-missing', [...at, id], { label }),
    ),
  ];
}

/** Nobody adds people here, rows come with their record, and a source outside says what may be done with it. */
function closedTable(
  { t }: FurtherWrite,
  { id, parent, linked }: Table,
): 'further-people' | 'further-row' | 'source-fixed' | 'linked-no-adding' | null {
  if (id === PEOPLE) return 'further-people';
  if (t === 'add' && parent !== null) return 'further-row';
  if (linked === null) return null;
  return t === 'add' ? (linked.adds ? null : 'linked-no-adding') : linked.changes ? null : 'source-fixed';
}

function setIssues(
  write: FurtherWrite,
  { column: id, how, expression }: ColumnSet,
  before: readonly ColumnSet[],
  table: Table,
): Issue[] {
  const at = ['further', write.id, id];
  const column = table.columns.find((one) => one.id === id);
  if (column === undefined || isCalculated(column) || column.kind === 'files')
    return [issue('further-column', at, { table: table.label })];
  const facts = { label: column.label };
  if (before.some((one) => one.column === id)) return [issue('further-twice', at, facts)];
  if (how !== 'set' && !isCounted(column)) return [issue('further-number', at, facts)];
  if (expression.trim() === '') return [issue('further-empty', at, facts)];
  const code = /^"((?:\\.|[^"\\])*)"$/.exec(expression.trim())?.[1];
  return hasChoices(column) && code !== undefined && !column.choices.some((one) => one.code === code)
    ? [
        issue('default-choice', at, {
          ...facts,
          codes: column.choices.map((one) => `"${one.code}"`).join(', '),
        }),
      ]
    : [];
}

/** What a new record must have, and would not. */
const unfilled = (sets: readonly ColumnSet[], table: Table): Column[] =>
  table.columns.filter(
    ({ id, required, default: preset }) =>
      required && preset === '' && !sets.some(({ column }) => column === id),
  );

/** The questions that can be picked from where something is written: those of the form, and of the rows it is written for. */
export const lookupsFor = (design: FormDesign, each: string | undefined): LookupQuestion[] =>
  [
    ...questionsOf(design).filter(isField),
    ...(groupsOf(design).find(({ id }) => id === each)?.columns ?? []),
  ].filter((one): one is LookupQuestion => one.kind === 'lookup');
