import { sql, type SQL } from 'drizzle-orm';
import { keptColumns, type Column, type Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, tableName } from '../../identifiers';
import { also, joined, type Condition } from './filter-sql';
import { titleSql } from './places-sql';
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
    words.map((word) => wordIn(tables, table, word)),
    sql` AND `,
  );
}

function wordIn(tables: ReadonlyMap<string, Table>, table: Table, word: string): SQL {
  const places = keptColumns(table).flatMap((column) => placeOf(tables, column, word));
  return sql`(${sql.join([sql`t.number ILIKE ${patternOf(word)}`, ...places], sql` OR `)})`;
}

const patternOf = (word: string): string => `%${word.replace(/[\\%_]/g, '\\$&')}%`;

/** Where a word may be seen in a column. A column that cannot show it is not looked at: writing a million days out takes seconds. */
function placeOf(tables: ReadonlyMap<string, Table>, column: Column, word: string): SQL[] {
  const own = sql`t.${columnName(column)}`;
  const small = word.toLowerCase();
  switch (column.kind) {
    case 'reference': {
      const target = tables.get(column.target ?? '');
      return target === undefined
        ? []
        : [
            sql`${own} = ANY (ARRAY(SELECT n.id FROM ${tableName(target)} AS n WHERE ${titleSql(target, sql`n`)} ILIKE ${patternOf(word)}))`,
          ];
    }
    case 'choice': {
      const codes = column.choices.filter(({ label }) => label.toLowerCase().includes(small));
      return codes.length === 0
        ? []
        : [sql`${own} = ANY (${sql.param(codes.map(({ code }) => code))}::text[])`];
    }
    case 'yes-no':
      return (['yes', 'no'] as const).flatMap((shown) =>
        shown.includes(small) ? [shown === 'yes' ? sql`${own}` : sql`NOT ${own}`] : [],
      );
    case 'whole':
    case 'decimal':
    case 'time':
      return /^[-\d.:]+$/.test(word) ? [sql`${shownText(column, sql`t`)} ILIKE ${patternOf(word)}`] : [];
    case 'date':
    case 'date-time':
      return /^[\d:]+$/.test(word) || DAY_WORDS.test(word)
        ? [sql`${shownText(column, sql`t`)} ILIKE ${patternOf(word)}`]
        : [];
    default:
      return [sql`${shownText(column, sql`t`)} ILIKE ${patternOf(word)}`];
  }
}

/** Of the words days are written with, any part. */
const DAY_WORDS =
  /^(?:m|mo|mon|t|tu|tue|w|we|wed|th|thu|f|fr|fri|s|sa|sat|su|sun|ja|jan|fe|feb|ma|mar|ap|apr|may|ju|jun|jul|au|aug|se|sep|oc|oct|no|nov|de|dec)$/i;

/** Counting stops there: nobody reads on, and a million takes a fifth of a second. */
const MOST_COUNTED = 10_000;

/** How many records are like this; beyond some, that there are as many at least. */
export async function countFound(
  tx: Tx,
  table: Table,
  where: Condition,
): Promise<{ readonly records: number; readonly about: boolean }> {
  const { rows } = await tx.execute<{ n: number }>(
    sql`SELECT count(*)::int AS n FROM (SELECT 1 FROM ${tableName(table)} AS t${joined(where)} WHERE t.removed_at IS NULL${also(where)} LIMIT ${MOST_COUNTED + 1}) AS found`,
  );
  const n = rows[0]?.n ?? 0;
  return { records: Math.min(n, MOST_COUNTED), about: n > MOST_COUNTED };
}
