import { createHash } from 'node:crypto';
import { sql, type SQL } from 'drizzle-orm';
import { keptColumns, type Column, type Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import {
  columnName,
  fullTableName,
  tableName,
  wordsIndexName,
  wordsIndexText,
  wordsIndexesLike,
} from '../../identifiers';

/** What of a column can be found by its letters alone. Choices and yes/no are found by their words, references by their titles. */
function lettersOf(column: Column, cell: SQL): SQL | null {
  switch (column.kind) {
    case 'text':
    case 'e-mail':
    case 'web-address':
    case 'phone':
      return cell;
    case 'whole':
    case 'decimal':
    case 'money':
    case 'date':
    case 'date-time':
    case 'time':
      return sql`slate.letters(${cell})`;
    case 'choice':
    case 'choices':
    case 'files':
    case 'yes-no':
    case 'reference':
      return null;
  }
}

/** Whether what a column shows can be found by letters of the record itself. */
export const isLettered = (column: Column): boolean => lettersOf(column, sql``) !== null;

/** What everybody finds who sees the table: the index is one for all. */
const lettered = (table: Table) =>
  keptColumns(table).filter((column) => isLettered(column) && !column.restricted);

/** What stands in restricted columns, as far as the table shows it; null where it shows none. */
export function restrictedWords(table: Table, at: SQL): SQL | null {
  const own = keptColumns(table)
    .filter(({ restricted }) => restricted)
    .flatMap((column) => lettersOf(column, sql`${at}${columnName(column)}`) ?? []);
  return own.length === 0 ? null : sql`slate.words(ARRAY[${sql.join(own, sql`, `)}])`;
}

/** All that stands in a record itself as one text, folded. Spelled as in the index, or PostgreSQL does not see that it is the same. */
export function wordsOf(table: Table, at: SQL): SQL {
  const own = lettered(table).map((column) => lettersOf(column, sql`${at}${columnName(column)}`) ?? sql``);
  return sql`slate.words(ARRAY[${sql.join([sql`${at}number`, ...own], sql`, `)}])`;
}

/** Another kind or another column makes another text; a new name does not. */
const versionOf = (table: Table): string =>
  createHash('md5')
    .update(
      lettered(table)
        .map(({ id, kind }) => `${id} ${kind}`)
        .join('\n'),
    )
    .digest('hex')
    .slice(0, 8);

/** Has an index made for finding words in a large table, if there is none. */
export async function askWordsIndex(tx: Tx, table: Table): Promise<void> {
  await tx.execute(
    sql`SELECT slate.ask_words_index(${table.id}::uuid) WHERE NOT EXISTS (SELECT 1 FROM pg_index WHERE indexrelid = to_regclass(${`records."${wordsIndexText(table, versionOf(table))}"`}) AND indisvalid)`,
  );
}

interface WordsIndex {
  /** Gives, a row each, the statements that drop what was made for older columns, or was begun and not ended. */
  readonly old: SQL;
  readonly make: SQL;
  /** Without it PostgreSQL does not know which words are rare. */
  readonly after: SQL;
}

/** Made while people go on working. */
export function wordsIndex(table: Table): WordsIndex {
  const name = wordsIndexName(table, versionOf(table));
  return {
    old: sql`SELECT format('DROP INDEX CONCURRENTLY IF EXISTS %s', indexrelid::regclass) AS drop FROM pg_index JOIN pg_class ON pg_class.oid = indexrelid WHERE indrelid = to_regclass(${fullTableName(table)}) AND relname LIKE ${wordsIndexesLike(table)}`,
    make: sql`CREATE INDEX CONCURRENTLY ${name} ON ${tableName(table)} USING gin (${wordsOf(table, sql``)} public.gin_trgm_ops) WHERE removed_at IS NULL`,
    after: sql`ANALYZE ${tableName(table)}`,
  };
}

/** The statements that a query for older ones gave. */
export const dropsOf = (rows: readonly Record<string, unknown>[]): SQL[] =>
  rows.map((row) => sql.raw(String(row['drop'])));
