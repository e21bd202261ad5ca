import { sql, type SQL } from 'drizzle-orm';
import { unreachable } from '../../../core/kernel/result';
import { hashOf } from '../../../core/import/hash';
import { defaultSql } from '../../../core/table/default-value';
import { hasChoices, isCalculated, keptColumns, type Column, type Table } from '../../../core/table/model';
import type { TableChange } from '../../../core/table/change';
import { kinds } from '../../../core/table/kinds/list';
import {
  columnName,
  constraintName,
  constraintText,
  stampName,
  tableConstraint,
  tableName,
} from '../../identifiers';
import { literal } from './literal';
import { makePolicies } from './policies';

/**
 * The SQL of one change, in order. What the database holds of checks is settled once all else is as it is
 * wanted (`hold-checks.ts`). `keyOf` gives the key of any table referred to. Values are converted elsewhere
 * (`convert-rows.ts`).
 */
export function changeSql(change: TableChange, keyOf: (id: string) => string): SQL[] {
  switch (change.t) {
    case 'make-table':
      return makeTable(change.table, keyOf);
    case 'relabel-table':
      return [comment(sql`TABLE ${tableName(change.table)}`, change.table.label)];
    case 'keep-apart':
      return [addUnique(change.columns, change.table)];
    case 'let-share':
      return [alter(change.table, sql`DROP CONSTRAINT ${uniqueName(change.columns, change.table)}`)];
    case 'renumber':
    case 'change-duty':
    case 'retitle':
    case 'order-columns':
    case 'add-check':
    case 'change-check':
    case 'drop-check':
    case 'add-match':
    case 'drop-match':
      return [];
    default:
      return columnSql(change, keyOf);
  }
}

function columnSql(change: Extract<TableChange, { column: Column }>, keyOf: (id: string) => string): SQL[] {
  const { table, column } = change;
  // A calculated column stands in no table (`calculated.ts`).
  if (isCalculated(column)) return [];
  const name = columnName(column);
  switch (change.t) {
    case 'add-column':
      return [
        alter(
          table,
          sql.join(
            [
              sql`ADD COLUMN ${plainColumnSql(column)}`,
              ...columnConstraints(column, table, keyOf).map((one) => sql`ADD ${one}`),
            ],
            sql`, `,
          ),
        ),
        ...columnExtras(column, table),
      ];
    case 'relabel-column':
    case 'describe-column':
      return [columnComment(column, table)];
    case 'rename-column':
      return [alter(table, sql`RENAME COLUMN ${columnName({ key: change.before })} TO ${name}`)];
    case 'require-column':
      return [alter(table, sql`ALTER COLUMN ${name} SET NOT NULL`)];
    case 'loosen-column':
      return [alter(table, sql`ALTER COLUMN ${name} DROP NOT NULL`)];
    case 'make-unique':
      return [addUnique([column.id], table)];
    case 'let-repeat':
      return [alter(table, sql`DROP CONSTRAINT ${uniqueName([column.id], table)}`)];
    case 'change-choices':
      return [
        alter(table, sql`DROP CONSTRAINT ${constraintName(column, 'choice', table)}`),
        alter(table, sql`ADD ${choiceSql(column, table)}`),
      ];
    case 'change-default':
      return [
        alter(
          table,
          sql`ALTER COLUMN ${name} ${column.default === '' ? sql`DROP DEFAULT` : sql`SET ${defaultClause(column)}`}`,
        ),
      ];
    case 'retire-column':
      return [alter(table, sql`ALTER COLUMN ${name} DROP NOT NULL, ALTER COLUMN ${name} DROP DEFAULT`)];
    case 'restore-column':
    case 'change-formula':
    case 'lock-column':
    case 'unlock-column':
      return [];
    case 'remove-column':
      return [alter(table, sql`DROP COLUMN ${name}`)];
    case 'convert-column':
      throw new Error('values are converted by batches, not by one statement');
    default:
      return unreachable(change);
  }
}

const alter = (table: Table, what: SQL): SQL => sql`ALTER TABLE ${tableName(table)} ${what}`;

const makeTable = (table: Table, keyOf: (id: string) => string): SQL[] => [
  ...bareTable(table, stamps(null)),
  primaryKey(table),
  ...finishedTable(table, keyOf),
];

/** Who made and changed a record, when, how often, and by which submission. `by`: who made those that say nothing else. */
export function stamps(by: SQL | null): SQL[] {
  const person = by === null ? sql`uuid` : sql`uuid DEFAULT ${by}`;
  return [
    sql`created_at timestamptz NOT NULL DEFAULT now()`,
    sql`created_by ${person}`,
    sql`updated_at timestamptz NOT NULL DEFAULT now()`,
    sql`updated_by ${person}`,
    sql`version integer NOT NULL DEFAULT 1`,
    sql`submission_id uuid`,
    sql`removed_at timestamptz`,
  ];
}

/**
 * A table without indexes, references and triggers: how one that is filled at once is made, for each row
 * would pay for them. What a value by itself must be is checked as it comes. It may even be without its
 * `stamped` columns, where all rows will have the same in them.
 */
export function bareTable(table: Table, stamped: readonly SQL[]): SQL[] {
  const name = tableName(table);
  const columns = [
    sql`id uuid NOT NULL DEFAULT slate.uuid_v7()`,
    sql`number text NOT NULL DEFAULT slate.next_number(${literal(table.id)})`,
    ...(table.parent === null ? [] : [sql`parent_id uuid NOT NULL`, sql`position integer NOT NULL`]),
    ...keptColumns(table).map((column) => plainColumnSql(column)),
    ...stamped,
    ...keptColumns(table).flatMap((column) => checkConstraints(column, table)),
  ];
  return [
    sql`CREATE TABLE ${name} (${sql.join(columns, sql`, `)})`,
    comment(sql`TABLE ${name}`, table.label),
  ];
}

/** What others refer to, so it comes before any reference. */
export const primaryKey = (table: Table): SQL => alter(table, sql`ADD PRIMARY KEY (id)`);

/** All else that keeps its rows sound; fails when rows that are there already are not. */
export function finishedTable(table: Table, keyOf: (id: string) => string): SQL[] {
  const name = tableName(table);
  const parent =
    table.parent === null
      ? []
      : [
          sql`ADD FOREIGN KEY (parent_id) REFERENCES ${tableName({ key: keyOf(table.parent) })} ON DELETE CASCADE`,
        ];
  const constraints = [
    sql`ADD CONSTRAINT ${tableConstraint(table, 'number')} UNIQUE (number)`,
    ...parent,
    ...keptColumns(table).flatMap((column) =>
      keyConstraints(column, table, keyOf).map((one) => sql`ADD ${one}`),
    ),
    ...table.together.map((columns) => sql`ADD ${uniqueSql(columns, table)}`),
    sql`ADD FOREIGN KEY (created_by) REFERENCES slate.person (id)`,
    sql`ADD FOREIGN KEY (updated_by) REFERENCES slate.person (id)`,
  ];
  return [
    sql`ALTER TABLE ${name} ${sql.join(constraints, sql`, `)}`,
    ...keptColumns(table).flatMap((column) => columnExtras(column, table)),
    ...(table.parent === null
      ? []
      : [
          sql`CREATE INDEX ${tableConstraint(table, 'parent')} ON ${name} (${stampName('parent_id')}, ${stampName('position')})`,
        ]),
    ...guards(table),
  ];
}

/** Row-level security, the stamps, the trail and the telling: no path to the rows, not even plain SQL, goes round them. */
function guards(table: Table): SQL[] {
  const name = tableName(table);
  const id = literal(table.id);
  return [
    sql`ALTER TABLE ${name} ENABLE ROW LEVEL SECURITY`,
    ...makePolicies(table),
    sql`CREATE TRIGGER held BEFORE UPDATE ON ${name} FOR EACH ROW EXECUTE FUNCTION slate.hold_to_rights(${id})`,
    sql`CREATE TRIGGER stamp BEFORE INSERT OR UPDATE ON ${name} FOR EACH ROW EXECUTE FUNCTION slate.stamp()`,
    sql`CREATE TRIGGER trail AFTER INSERT OR UPDATE OR DELETE ON ${name} FOR EACH ROW EXECUTE FUNCTION slate.trail(${id})`,
    sql`CREATE TRIGGER told AFTER INSERT OR UPDATE OR DELETE ON ${name} FOR EACH STATEMENT EXECUTE FUNCTION slate.tell_table(${id})`,
  ];
}

const plainColumnSql = (column: Column): SQL =>
  sql`${columnName(column)} ${columnType(column)}${column.default === '' ? sql`` : sql` ${defaultClause(column)}`}${column.required ? sql` NOT NULL` : sql``}`;
export const columnType = (column: Column): SQL => sql.raw(kinds[column.kind].columnType(column));

/**
 * What is kept where nothing is given; null for nothing. It was checked when the table was designed, so one
 * that is wrong here is a fault.
 */
export function defaultOf(column: Column): SQL | null {
  const preset = defaultSql(column);
  if (!preset.ok) throw new Error(`the default of ${column.key} cannot be said in SQL`);
  return preset.value === null ? null : sql`${sql.raw(preset.value)}::${columnType(column)}`;
}
const defaultClause = (column: Column): SQL => sql`DEFAULT ${defaultOf(column) ?? sql`NULL`}`;

/** What a column's values must fulfil, as constraints of the table. */
function columnConstraints(column: Column, table: Table, keyOf: (id: string) => string): SQL[] {
  return [...checkConstraints(column, table), ...keyConstraints(column, table, keyOf)];
}

/** Those that each value fulfils by itself, so that they can be checked while others write. */
export function valueConstraints(column: Column, table: Table, keyOf: (id: string) => string): SQL[] {
  return [...checkConstraints(column, table), ...referenceConstraints(column, table, keyOf)];
}

/** Those that are told from a value alone. */
const checkConstraints = (column: Column, table: Table): SQL[] =>
  hasChoices(column) ? [choiceSql(column, table)] : [];

/** Those that look at other rows, here or elsewhere. */
const keyConstraints = (column: Column, table: Table, keyOf: (id: string) => string): SQL[] => [
  ...(column.unique ? [uniqueSql([column.id], table)] : []),
  ...referenceConstraints(column, table, keyOf),
];

const referenceConstraints = (column: Column, table: Table, keyOf: (id: string) => string): SQL[] =>
  column.target === null
    ? []
    : [
        sql`CONSTRAINT ${constraintName(column, 'fkey', table)} FOREIGN KEY (${columnName(column)}) REFERENCES ${tableName({ key: keyOf(column.target) })} (id)`,
      ];

/**
 * Of several columns it is named after the first, where its issue is shown. An index built beforehand has its
 * own name until it is made the constraint.
 */
function uniqueName(ids: readonly string[], table: Table, built = false): SQL {
  const { id, what } = uniqueParts(ids, built);
  return constraintName({ id }, what, table);
}

function uniqueParts(ids: readonly string[], built: boolean): { id: string; what: 'key' | `w${string}` } {
  const sorted = [...ids].sort();
  return {
    id: `${built ? 'n' : ''}${sorted[0] ?? ''}`,
    what: sorted.length === 1 ? 'key' : `w${(hashOf(sorted.join(' ')) % 36 ** 5).toString(36)}`,
  };
}

/** The name of an index built beforehand, to look for it. */
export function builtName(ids: readonly string[], table: Table): string {
  const { id, what } = uniqueParts(ids, true);
  return constraintText({ id }, what, table);
}

const columnsNamed = (columns: readonly Column[]): SQL => sql.join(columns.map(columnName), sql`, `);
const columnsOf = (ids: readonly string[], table: Table): Column[] =>
  ids.flatMap((id) => table.columns.find((column) => column.id === id) ?? []);
const uniqueSql = (ids: readonly string[], table: Table): SQL =>
  sql`CONSTRAINT ${uniqueName(ids, table)} UNIQUE (${columnsNamed(columnsOf(ids, table))})`;

/** No two records may share these; `built`, by the index that stands already. */
export const addUnique = (ids: readonly string[], table: Table, built = false): SQL =>
  alter(
    table,
    built
      ? sql`ADD CONSTRAINT ${uniqueName(ids, table)} UNIQUE USING INDEX ${uniqueName(ids, table, true)}`
      : sql`ADD ${uniqueSql(ids, table)}`,
  );

/** Builds that index while others write; not within a transaction. `columns` are those it is on for now. */
export const buildUnique = (ids: readonly string[], table: Table, columns: readonly Column[]): SQL =>
  sql`CREATE UNIQUE INDEX CONCURRENTLY ${uniqueName(ids, table, true)} ON ${tableName(table)} (${columnsNamed(columns)})`;
export const dropBuilt = (ids: readonly string[], table: Table): SQL =>
  sql`DROP INDEX IF EXISTS records.${uniqueName(ids, table, true)}`;

/** A column that took the place of another, made what it ought to be. */
export function dressColumn(column: Column, table: Table): SQL[] {
  const name = columnName(column);
  return [
    columnComment(column, table),
    ...(column.default === '' ? [] : [alter(table, sql`ALTER COLUMN ${name} SET ${defaultClause(column)}`)]),
    ...(column.required ? [alter(table, sql`ALTER COLUMN ${name} SET NOT NULL`)] : []),
  ];
}

/** A column that all records there are get with the same value, whatever later ones get. PostgreSQL notes it once and rewrites nothing. */
export function addFilledColumn(
  column: Column,
  table: Table,
  value: string,
  keyOf: (id: string) => string,
): SQL[] {
  const name = columnName(column);
  const parts = [
    sql`ADD COLUMN ${name} ${columnType(column)} NOT NULL DEFAULT ${literal(value)}::${columnType(column)}`,
    ...columnConstraints(column, table, keyOf).map((one) => sql`ADD ${one}`),
  ];
  return [
    alter(table, sql.join(parts, sql`, `)),
    alter(table, sql`ALTER COLUMN ${name} DROP DEFAULT`),
    ...columnExtras(column, table),
    ...(column.default === '' ? [] : [alter(table, sql`ALTER COLUMN ${name} SET ${defaultClause(column)}`)]),
  ];
}

function choiceSql(column: Column, table: Table): SQL {
  const codes = sql.join(
    column.choices.map(({ code }) => literal(code)),
    sql`, `,
  );
  const name = columnName(column);
  // Nothing chosen is empty, so that there is one way to ask for it.
  const holds =
    column.kind === 'choices'
      ? sql`${name} <@ ARRAY[${codes}]::text[] AND cardinality(${name}) > 0`
      : sql`${name} IN (${codes})`;
  return sql`CONSTRAINT ${constraintName(column, 'choice', table)} CHECK (${holds})`;
}

export function columnExtras(column: Column, table: Table): SQL[] {
  const index =
    column.target === null
      ? []
      : [
          sql`CREATE INDEX ${constraintName(column, 'idx', table)} ON ${tableName(table)} (${columnName(column)})`,
        ];
  return [columnComment(column, table), ...index];
}

const columnComment = (column: Column, table: Table): SQL =>
  comment(
    sql`COLUMN ${tableName(table)}.${columnName(column)}`,
    column.unit === '' ? column.label : `${column.label}, ${column.unit}`,
  );
const comment = (what: SQL, words: string): SQL => sql`COMMENT ON ${what} IS ${literal(words)}`;
