import { sql, type SQL } from 'drizzle-orm';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, tableName } from '../../identifiers';
import { titleSql } from './records';
import { shownText } from './shown-text';

/** Words of a search that are looked for; more say nothing more. */
const MOST_WORDS = 8;

/** That every word is seen somewhere in a record under the alias `t`: in its number, in its columns as people see them, or in the title of a record it names. */
export function seenIn(tables: ReadonlyMap<string, Table>, table: Table, search: string): SQL | null {
  const words = search
    .trim()
    .split(/\s+/)
    .filter((word) => word !== '')
    .slice(0, MOST_WORDS);
  if (words.length === 0) return null;
  return sql.join(
    words.map((word) => wordIn(tables, table, `%${word.replace(/[\\%_]/g, '\\$&')}%`)),
    sql` AND `,
  );
}

function wordIn(tables: ReadonlyMap<string, Table>, table: Table, pattern: string): SQL {
  const places = table.columns.flatMap((column): SQL[] => {
    if (column.kind !== 'reference') return [sql`${shownText(column, sql`t`)} ILIKE ${pattern}`];
    const target = tables.get(column.target ?? '');
    return target === undefined
      ? []
      : [
          sql`t.${columnName(column)} = ANY (ARRAY(SELECT n.id FROM ${tableName(target)} AS n WHERE ${titleSql(target, sql`n`)} ILIKE ${pattern}))`,
        ];
  });
  return sql`(${sql.join([sql`t.number ILIKE ${pattern}`, ...places], sql` OR `)})`;
}

/** Counting stops there: nobody reads on, and a million takes a fifth of a second. */
const MOST_COUNTED = 10_000;

/** How many records of the alias `t` are like this; beyond some, that there are as many at least. */
export async function countFound(
  tx: Tx,
  table: Table,
  where: SQL,
): Promise<{ readonly records: number; readonly about: boolean }> {
  const { rows } = await tx.execute<{ n: number }>(
    sql`SELECT count(*)::int AS n FROM (SELECT 1 FROM ${tableName(table)} AS t WHERE t.removed_at IS NULL AND ${where} LIMIT ${MOST_COUNTED + 1}) AS found`,
  );
  const n = rows[0]?.n ?? 0;
  return { records: Math.min(n, MOST_COUNTED), about: n > MOST_COUNTED };
}
