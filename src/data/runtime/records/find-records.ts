import { SQL, sql } from 'drizzle-orm';
import { keptColumns, type Column, type Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, seenName } from '../../identifiers';
import { also, joined, type Condition } from './filter-sql';
import { titleSql } from './places-sql';
import { tableSizes } from './record-counts';
import { askWordsIndex, restrictedWords, wordsOf } from './words-sql';

/** That words are seen in a record. */
export type WordsSeen = SQL;

/** Words of a search that are looked for; more say nothing more. */
const MOST_WORDS = 8;
/** Records of another table whose titles show a word; where there are more, they are looked for beside the record. */
const MOST_NAMED = 1_000;

/**
 * That every word is seen somewhere in a record under the alias `t`: in its number, in its columns as people
 * see them, or in the title of a record it names. Case and accents make no difference. Which records a word
 * names is looked up beforehand: PostgreSQL then knows how many they are, and takes the index for words where
 * they are few.
 */
export async function seenIn(
  tx: Tx,
  tables: ReadonlyMap<string, Table>,
  table: Table,
  search: string,
): Promise<WordsSeen | null> {
  const words = search
    .trim()
    .split(/\s+/)
    .filter((word) => word !== '')
    .slice(0, MOST_WORDS);
  if (words.length === 0) return null;
  const targets = keptColumns(table).flatMap((column) => {
    const target = column.kind === 'reference' ? tables.get(column.target ?? '') : undefined;
    return target === undefined ? [] : [target];
  });
  await askWordsIndexes(tx, new Set([table, ...targets]));
  const named = await namedByWords(tx, words, [...new Set(targets)]);
  return sql.join(
    words.map((word, i) => wordIn(table, word, (target) => named.get(`${i} ${target}`) ?? NONE)),
    sql` AND `,
  );
}

/** Has the indexes for finding words made for those of the tables that are large. */
export async function askWordsIndexes(tx: Tx, tables: Iterable<Table>): Promise<void> {
  const all = [...tables];
  const sizes = await tableSizes(tx, all);
  for (const table of all) if (sizes.get(table.id)?.about === true) await askWordsIndex(tx, table);
}

const patternOf = (word: string): SQL => sql`slate.found_in(${word})`;
const NONE: readonly string[] = [];

/** The ids of records whose titles show a word, by the place of the word and the id of their table; null where they are many. */
async function namedByWords(
  tx: Tx,
  words: readonly string[],
  targets: readonly Table[],
): Promise<ReadonlyMap<string, readonly string[] | SQL>> {
  const asked = words.flatMap((word, i) =>
    targets.map((target) => ({ at: `${i} ${target.id}`, records: titled(target, word) })),
  );
  if (asked.length === 0) return new Map();
  const { rows } = await tx.execute<{ at: string; ids: string[] | null }>(
    sql.join(
      asked.map(
        ({ at, records }) =>
          sql`SELECT ${at}::text AS at, (SELECT array_agg(id) FROM (${records} LIMIT ${MOST_NAMED + 1}) AS found) AS ids`,
      ),
      sql` UNION ALL `,
    ),
  );
  const ids = new Map(rows.map((row) => [row.at, row.ids ?? NONE]));
  return new Map(
    asked.map(({ at, records }) => {
      const found = ids.get(at) ?? NONE;
      return [at, found.length > MOST_NAMED ? records : found];
    }),
  );
}

/** The records of a table whose title shows a word. What a title shows stands in the record, mostly; then the index for words finds it. */
function titled(target: Table, word: string): SQL {
  const pattern = patternOf(word);
  const plain = target.title.every((id) =>
    keptColumns(target).some((column) => column.id === id && standsAsItIs(column)),
  );
  const within = plain ? sql`${wordsOf(target, sql`n.`)} LIKE ${pattern} AND ` : sql``;
  return sql`SELECT n.id FROM ${seenName(target)} AS n WHERE n.removed_at IS NULL AND ${within}slate.folded(${titleSql(target, sql`n`)}) LIKE ${pattern}`;
}

const standsAsItIs = ({ kind }: Column): boolean => kind === 'text' || kind === 'whole' || kind === 'decimal';

function wordIn(table: Table, word: string, named: (target: string) => readonly string[] | SQL): SQL {
  const kept = restrictedWords(table, sql`t.`);
  const beside = [
    ...(kept === null ? [] : [sql`${kept} LIKE ${patternOf(word)}`]),
    ...keptColumns(table).flatMap((column) => besideLetters(column, word, named)),
  ];
  return sql`(${sql.join([sql`${wordsOf(table, sql`t.`)} LIKE ${patternOf(word)}`, ...beside], sql` OR `)})`;
}

/** Where a word may be seen that the letters of the record do not hold. */
function besideLetters(
  column: Column,
  word: string,
  named: (target: string) => readonly string[] | SQL,
): SQL[] {
  const own = sql`t.${columnName(column)}`;
  const small = folded(word);
  switch (column.kind) {
    case 'reference': {
      const found = named(column.target ?? '');
      if (found instanceof SQL) return [sql`${own} = ANY (ARRAY(${found}))`];
      return found.length === 0 ? [] : [sql`${own} = ANY (${sql.param(found)}::uuid[])`];
    }
    case 'choice':
    case 'choices': {
      const codes = column.choices.filter(({ label }) => folded(label).includes(small));
      return codes.length === 0
        ? []
        : [
            sql`${own} ${column.kind === 'choices' ? sql`&&` : sql`= ANY`} (${sql.param(codes.map(({ code }) => code))}::text[])`,
          ];
    }
    case 'yes-no':
      return (['yes', 'no'] as const).flatMap((shown) =>
        shown.includes(small) ? [shown === 'yes' ? sql`${own}` : sql`NOT ${own}`] : [],
      );
    default:
      return [];
  }
}

/** As the database folds a text, for words of choices. */
const folded = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** Counting stops there: nobody reads on, and a million takes a fifth of a second. */
const MOST_COUNTED = 10_000;

/** All of them, however long that takes: for what is about to be done with each. */
export async function countRecords(tx: Tx, table: Table, where: Condition | null): Promise<number> {
  const { rows } = await tx.execute<{ n: string }>(
    sql`SELECT count(*) AS n FROM ${seenName(table)} AS t${joined(where)} WHERE t.removed_at IS NULL${also(where)}`,
  );
  return Number(rows[0]?.n ?? 0);
}

/** How many records are like this; beyond some, that there are as many at least. */
export async function countFound(
  tx: Tx,
  table: Table,
  where: Condition,
): Promise<{ readonly records: number; readonly about: boolean }> {
  const { rows } = await tx.execute<{ n: number }>(
    sql`SELECT count(*)::int AS n FROM (SELECT 1 FROM ${seenName(table)} AS t${joined(where)} WHERE t.removed_at IS NULL${also(where)} LIMIT ${MOST_COUNTED + 1}) AS found`,
  );
  const n = rows[0]?.n ?? 0;
  return { records: Math.min(n, MOST_COUNTED), about: n > MOST_COUNTED };
}
