import { sql, type SQL } from 'drizzle-orm';
import { unreachable } from '../../core/kernel/result';
import type { Column, Table } from '../../core/table/model';
import type { TableChange } from '../../core/table/plan';
import { kinds } from '../../core/table/kinds/list';
import { columnName, constraintName, stampName, tableConstraint, tableName } from '../identifiers';

/** The SQL of one change, in order. `keyOf` gives the key of any table referred to. */
export function changeSql(change: TableChange, keyOf: (id: string) => string): SQL[] {
  switch (change.t) {
    case 'make-table': return makeTable(change.table, keyOf);
    case 'add-column': return [sql`ALTER TABLE ${tableName(change.table)} ${sql.join([sql`ADD COLUMN ${plainColumn(change.column)}`, ...columnConstraints(change.column, change.table, keyOf).map((one) => sql`ADD ${one}`)], sql`, `)}`, ...columnExtras(change.column, change.table)];
    case 'relabel-table': return [comment(sql`TABLE ${tableName(change.table)}`, change.table.label)];
    case 'relabel-column': return [columnComment(change.column, change.table)];
    case 'loosen-column': return [sql`ALTER TABLE ${tableName(change.table)} ALTER COLUMN ${columnName(change.column)} DROP NOT NULL`];
    case 'change-choices': return [
      sql`ALTER TABLE ${tableName(change.table)} DROP CONSTRAINT ${constraintName(change.column, 'choice', change.table)}`,
      sql`ALTER TABLE ${tableName(change.table)} ADD ${choiceSql(change.column, change.table)}`,
    ];
    default: return unreachable(change);
  }
}

const makeTable = (table: Table, keyOf: (id: string) => string): SQL[] => [...bareTable(table), ...finishedTable(table, keyOf)];

/** A table without indexes, references and triggers: how one that is filled at once is made, for each row would pay for them. */
export function bareTable(table: Table): SQL[] {
  const name = tableName(table);
  const columns = [
    sql`id uuid NOT NULL DEFAULT slate.uuid_v7()`,
    sql`number text NOT NULL DEFAULT slate.next_number(${literal(table.id)})`,
    ...(table.parent === null ? [] : [sql`parent_id uuid NOT NULL`, sql`position integer NOT NULL`]),
    ...table.columns.map((column) => plainColumn(column)),
    sql`created_at timestamptz NOT NULL DEFAULT now()`, sql`created_by uuid`,
    sql`updated_at timestamptz NOT NULL DEFAULT now()`, sql`updated_by uuid`,
    sql`version integer NOT NULL DEFAULT 1`, sql`submission_id uuid`, sql`removed_at timestamptz`,
  ];
  return [sql`CREATE TABLE ${name} (${sql.join(columns, sql`, `)})`, comment(sql`TABLE ${name}`, table.label)];
}

/** All that keeps its rows sound; fails when rows that are there already are not. */
export function finishedTable(table: Table, keyOf: (id: string) => string): SQL[] {
  const name = tableName(table);
  const parent = table.parent === null ? [] : [sql`ADD FOREIGN KEY (parent_id) REFERENCES ${tableName({ key: keyOf(table.parent) })} ON DELETE CASCADE`];
  const constraints = [
    sql`ADD PRIMARY KEY (id)`, sql`ADD CONSTRAINT ${tableConstraint(table, 'number')} UNIQUE (number)`, ...parent,
    ...table.columns.flatMap((column) => columnConstraints(column, table, keyOf).map((one) => sql`ADD ${one}`)),
    sql`ADD FOREIGN KEY (created_by) REFERENCES slate.person (id)`, sql`ADD FOREIGN KEY (updated_by) REFERENCES slate.person (id)`,
  ];
  return [
    sql`ALTER TABLE ${name} ${sql.join(constraints, sql`, `)}`,
    ...table.columns.flatMap((column) => columnExtras(column, table)),
    ...(table.parent === null ? [] : [sql`CREATE INDEX ${tableConstraint(table, 'parent')} ON ${name} (${stampName('parent_id')}, ${stampName('position')})`]),
    ...guards(table),
  ];
}

/** Row-level security, the stamps, the trail and the telling: no path to the rows, not even plain SQL, goes round them. */
function guards(table: Table): SQL[] {
  const name = tableName(table);
  const id = literal(table.id);
  return [
    sql`ALTER TABLE ${name} ENABLE ROW LEVEL SECURITY`,
    sql`CREATE POLICY seen ON ${name} FOR SELECT USING ((SELECT slate.may(${id}, 'see')) OR (SELECT slate.picks_from(${id})) OR (SELECT slate.keeps_in(${id})))`,
    sql`CREATE POLICY added ON ${name} FOR INSERT WITH CHECK ((SELECT slate.may(${id}, 'add')) OR (SELECT slate.keeps_in(${id})))`,
    sql`CREATE POLICY changed ON ${name} FOR UPDATE USING ((SELECT slate.may(${id}, 'change')))`,
    sql`CREATE POLICY removed ON ${name} FOR DELETE USING ((SELECT slate.may(${id}, 'remove')))`,
    sql`CREATE TRIGGER stamp BEFORE INSERT OR UPDATE ON ${name} FOR EACH ROW EXECUTE FUNCTION slate.stamp()`,
    sql`CREATE TRIGGER trail AFTER INSERT OR UPDATE OR DELETE ON ${name} FOR EACH ROW EXECUTE FUNCTION slate.trail(${id})`,
    sql`CREATE TRIGGER told AFTER INSERT OR UPDATE OR DELETE ON ${name} FOR EACH STATEMENT EXECUTE FUNCTION slate.tell_table(${id})`,
  ];
}

const plainColumn = (column: Column): SQL => sql`${columnName(column)} ${sql.raw(kinds[column.kind].columnType(column))}${column.required ? sql` NOT NULL` : sql``}`;

/** What a column's values must fulfil, as constraints of the table. */
function columnConstraints(column: Column, table: Table, keyOf: (id: string) => string): SQL[] {
  return [
    ...(column.unique ? [sql`CONSTRAINT ${constraintName(column, 'key', table)} UNIQUE (${columnName(column)})`] : []),
    ...(column.kind === 'choice' ? [choiceSql(column, table)] : []),
    ...(column.target === null ? [] : [sql`CONSTRAINT ${constraintName(column, 'fkey', table)} FOREIGN KEY (${columnName(column)}) REFERENCES ${tableName({ key: keyOf(column.target) })} (id)`]),
  ];
}

function choiceSql(column: Column, table: Table): SQL {
  const codes = sql.join(column.choices.map(({ code }) => literal(code)), sql`, `);
  return sql`CONSTRAINT ${constraintName(column, 'choice', table)} CHECK (${columnName(column)} IN (${codes}))`;
}

function columnExtras(column: Column, table: Table): SQL[] {
  const index = column.target === null ? [] : [sql`CREATE INDEX ${constraintName(column, 'idx', table)} ON ${tableName(table)} (${columnName(column)})`];
  return [columnComment(column, table), ...index];
}

const columnComment = (column: Column, table: Table): SQL =>
  comment(sql`COLUMN ${tableName(table)}.${columnName(column)}`, column.unit === '' ? column.label : `${column.label}, ${column.unit}`);
const comment = (what: SQL, words: string): SQL => sql`COMMENT ON ${what} IS ${literal(words)}`;

/** Statements that change tables take no parameters, so text is written in, as PostgreSQL's own quote_literal does. */
function literal(value: string): SQL {
  const escaped = value.replaceAll('\u0000', '').replaceAll("'", "''").replaceAll('\\', '\\\\');
  return sql.raw(escaped.includes('\\') ? `E'${escaped}'` : `'${escaped}'`);
}
