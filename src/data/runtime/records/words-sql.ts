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

const restricted = (table: Table): Column[] =>
  keptColumns(table).filter((column) => isLettered(column) && column.restricted);

/** What stands in restricted columns, as far as the table shows it; null where it shows none. */
export function restrictedWords(table: Table, at: SQL): SQL | null {
  const own = restricted(table).flatMap((column) => lettersOf(column, sql`${at}${columnName(column)}`) ?? []);
  return own.length === 0 ? null : sql`slate.words(ARRAY[${sql.join(own, sql`, `)}])`;
}

/** All that stands in a record itself as one text, folded. Spelled as in the index, or PostgreSQL does not see that it is the same. */
export function wordsOf(table: Table, at: SQL): SQL {
  const own = lettered(table).map((column) => lettersOf(column, sql`${at}${columnName(column)}`) ?? sql``);
  return sql`slate.words(ARRAY[${sql.join([sql`${at}number`, ...own], sql`, `)}])`;
}

/** Another kind or another column makes another text; a new name does not. */
const versionOf = (columns: readonly Column[]): string =>
  createHash('md5')
    .update(columns.map(({ id, kind }) => `${id} ${kind}`).join('\n'))
    .digest('hex')
    .slice(0, 8);

interface Words {
  readonly version: string;
  readonly text: SQL;
}

/** What has an index of its own: what everybody finds, and what those find besides who see all of the table. */
function indexed(table: Table): Words[] {
  const besides = table.guarded === 'partly' ? null : restrictedWords(table, sql``);
  return [
    { version: versionOf(lettered(table)), text: wordsOf(table, sql``) },
    ...(besides === null ? [] : [{ version: versionOf(restricted(table)), text: besides }]),
  ];
}

/** Has what is missing made of the indexes for finding words in a large table. */
export async function askWordsIndex(tx: Tx, table: Table): Promise<void> {
  const names = indexed(table).map(({ version }) => `records."${wordsIndexText(table, version)}"`);
  await tx.execute(
    sql`SELECT slate.ask_words_index(${table.id}::uuid) WHERE EXISTS (SELECT 1 FROM unnest(${sql.param(names)}::text[]) AS name WHERE NOT EXISTS (SELECT 1 FROM pg_index WHERE indexrelid = to_regclass(name) AND indisvalid))`,
  );
}

interface WordsIndexes {
  /** Gives, a row each, the statements that drop what was made for older columns, or was begun and not ended. */
  readonly old: SQL;
  readonly make: readonly SQL[];
  /** Without it PostgreSQL does not know which words are rare. */
  readonly after: SQL;
}

/** Made while people go on working; of the table as its owner role knows it. */
export function wordsIndexes(table: Table): WordsIndexes {
  const made = indexed(table);
  const names = made.map(({ version }) => wordsIndexText(table, version));
  return {
    old: sql`SELECT format('DROP INDEX CONCURRENTLY IF EXISTS %s', indexrelid::regclass) AS drop FROM pg_index JOIN pg_class ON pg_class.oid = indexrelid
      WHERE indrelid = to_regclass(${fullTableName(table)}) AND relname LIKE ${wordsIndexesLike(table)} AND NOT (indisvalid AND relname = ANY (${sql.param(names)}::text[]))`,
    make: made.map(
      ({ version, text }) =>
        sql`CREATE INDEX CONCURRENTLY IF NOT EXISTS ${wordsIndexName(table, version)} ON ${tableName(table)} USING gin (${text} public.gin_trgm_ops) WHERE removed_at IS NULL`,
    ),
    after: sql`ANALYZE ${tableName(table)}`,
  };
}

/** The statements that a query for older ones gave. */
export const dropsOf = (rows: readonly Record<string, unknown>[]): SQL[] =>
  rows.map((row) => sql.raw(String(row['drop'])));
