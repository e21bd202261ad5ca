import { sql, type SQL } from 'drizzle-orm';
import type { PickedRecord } from '../../../core/form/picked-record';
import { slipsOf } from '../../../core/record/slips-of';
import type { Tx } from '../../connect';
import { also, joined, type Condition } from './filter-sql';
import { seenName } from '../../identifiers';
import { picked, seenOf, type PickFrom } from './pick-records';
import { tableSizes } from './record-counts';
import { isLettered, wordsOf } from './words-sql';

export interface PickSearch {
  readonly search: string;
  /** What records must be like to be offered; null for all. */
  readonly where: Condition | null;
  readonly most: number;
}

/** Options, the best first; `near` where nothing shows the words as they are written, and these do but for one letter. */
export interface FoundPicks {
  readonly options: PickedRecord[];
  readonly near: boolean;
}

/** Words of a search that are looked for; more say nothing more. */
const MOST_WORDS = 8;
/**
 * Records that are put in order before the first of them are shown: of those that begin so, and of all
 * others. Each is read and folded, 0.05 ms.
 */
const MOST_RANKED = { begun: 100, inside: 300 };
/**
 * Every letter of a slip makes two or three patterns, each its own walk through the index: 1.5 s of a million
 * records, for whoever types a word that is not there.
 */
const MOST_NEAR = 100_000;
/** Shorter words are like too many others. */
const LEAST_NEAR = 4;

/**
 * Records that show every word of a search, in their number, their title or the columns shown, as people see
 * them; case and accents make no difference. First those that are called just so, then those that begin so,
 * those in which a word does, and the others. What is not shown is not searched.
 */
export async function searchPicks(
  tx: Tx,
  from: PickFrom,
  { search, where, most }: PickSearch,
): Promise<FoundPicks> {
  const words = search
    .trim()
    .split(/\s+/)
    .filter((word) => word !== '')
    .slice(0, MOST_WORDS);
  const { about: large = false, records = 0 } = (await tableSizes(tx, [from.table])).get(from.table.id) ?? {};
  const asked: Asked = { from, where, large, most, words };
  if (words.length === 0) return { options: await first(tx, asked), near: false };
  const options = await called(tx, asked);
  if (options.length > 0 || words.join('').length < LEAST_NEAR || records > MOST_NEAR)
    return { options, near: false };
  const near = await nearly(tx, asked);
  return { options: near, near: near.length > 0 };
}

/** All records that are offered, by their titles. */
export const allPicks = (
  tx: Tx,
  from: PickFrom,
  where: Condition | null,
  most: number,
): Promise<PickedRecord[]> =>
  picked(
    tx,
    from,
    sql`${joined(where)} WHERE t.removed_at IS NULL${also(where)} ORDER BY 2, 1 LIMIT ${most}`,
  );

interface Asked {
  readonly from: PickFrom;
  readonly where: Condition | null;
  /** Whether it has an index for words. */
  readonly large: boolean;
  readonly most: number;
  readonly words: readonly string[];
}

/** Of very many, the newest are there at once; in the order of their titles all would be sorted first. */
const first = (tx: Tx, { from, where, large, most }: Asked): Promise<PickedRecord[]> =>
  picked(
    tx,
    from,
    sql`${joined(where)} WHERE t.removed_at IS NULL${also(where)} ORDER BY ${large ? sql`t.id DESC` : sql`2`} LIMIT ${most}`,
  );

/** All that is seen of a record, folded, a line each: worked out once for each record, as `l.text`. */
const shownLines = (from: PickFrom): SQL =>
  sql` CROSS JOIN LATERAL (SELECT slate.words(ARRAY[${sql.join([sql`t.number`, ...seenOf(from).map((one) => sql`coalesce(${one}, '')`)], sql`, `)}]) AS text OFFSET 0) AS l`;

const found = (word: string): SQL => sql`slate.found_in(${word})`;
const all = (conditions: readonly SQL[]): SQL => sql.join([...conditions], sql` AND `);
const any = (text: SQL, patterns: readonly SQL[]): SQL =>
  sql`(${sql.join(
    patterns.map((pattern) => sql`${text} LIKE ${pattern}`),
    sql` OR `,
  )})`;

async function called(tx: Tx, asked: Asked): Promise<PickedRecord[]> {
  const { from, large, most, words } = asked;
  const shows = all(words.map((word) => any(sql`l.text`, [found(word)])));
  const order = sql`ORDER BY ${rankOf(words.join(' '))}, 2 LIMIT ${most}`;
  if (!large) return picked(tx, from, sql`${within(asked)} AND ${shows} ${order}`);
  const inside = await idsOf(
    tx,
    asked,
    sql`${indexed(asked, (word) => [found(word)])}${shows}`,
    MOST_RANKED.inside,
  );
  // Of so many that not all are looked at, those that begin so are looked for by themselves.
  const { begins } = startOf(words.join(' '));
  const begun =
    inside.length < MOST_RANKED.inside
      ? []
      : await idsOf(
          tx,
          asked,
          sql`${indexed(asked, () => [begins, sql`'%' || chr(10) || ${begins}`])}${any(sql`l.text`, [begins, sql`'%' || chr(10) || ${begins}`])}`,
          MOST_RANKED.begun,
        );
  const ids = [...new Set([...begun, ...inside])];
  if (ids.length === 0) return [];
  return picked(tx, from, sql`${shownLines(from)} WHERE t.id = ANY (${sql.param(ids)}::uuid[]) ${order}`);
}

/** What shows the words but for one letter of each; in a large table of the rarest alone. */
async function nearly(tx: Tx, asked: Asked): Promise<PickedRecord[]> {
  const { from, large, most, words } = asked;
  const slips = (word: string): SQL[] => slipsOf(word).map((slip) => sql`slate.folded(${`%${slip}%`})`);
  const rarest = rarestOf(words);
  const shows = all(
    words.map((word) => any(sql`l.text`, large && word !== rarest ? [found(word)] : slips(word))),
  );
  const like = sql`public.word_similarity(slate.folded(${words.join(' ')}), slate.folded(${titleOf(from)}))`;
  const order = sql`ORDER BY ${like} DESC, 2 LIMIT ${most}`;
  if (!large) return picked(tx, from, sql`${within(asked)} AND ${shows} ${order}`);
  const ids = await idsOf(tx, asked, sql`${indexed(asked, slips)}${shows}`, MOST_RANKED.inside);
  return ids.length === 0
    ? []
    : picked(tx, from, sql` WHERE t.id = ANY (${sql.param(ids)}::uuid[]) ${order}`);
}

const titleOf = (from: PickFrom): SQL => seenOf(from)[0] ?? sql`t.number`;

const within = ({ from, where }: Asked): SQL =>
  sql`${joined(where)}${shownLines(from)} WHERE t.removed_at IS NULL${also(where)}`;

/**
 * That the index for words, which holds all letters of a record, may have the rarest word; nothing where not
 * all that is shown stands in it.
 */
function indexed({ from, words }: Asked, patterns: (word: string) => readonly SQL[]): SQL {
  const { table, show } = from;
  const titled = table.columns.filter(({ id }) => table.title.includes(id));
  if (![...titled, ...show].every((column) => isLettered(column) && !column.restricted)) return sql``;
  return sql`${any(wordsOf(table, sql`t.`), patterns(rarestOf(words)))} AND `;
}

/** Digits tell more apart than letters, and long words more than short ones. */
const rarestOf = (words: readonly string[]): string =>
  [...words].sort((a, b) => weightOf(b) - weightOf(a))[0] ?? '';
const weightOf = (word: string): number => word.length + 2 * word.replaceAll(/\D/g, '').length;

async function idsOf(tx: Tx, asked: Asked, condition: SQL, most: number): Promise<string[]> {
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT t.id FROM ${seenName(asked.from.table)} AS t${within(asked)} AND ${condition} LIMIT ${most}`,
  );
  return rows.map(({ id }) => id);
}

/** A search as the beginning of a text: a pattern in which its letters stand for themselves. */
const startOf = (text: string): { whole: SQL; begins: SQL } => ({
  whole: sql`slate.folded(${text})`,
  begins: sql`substr(${found(text)}, 2)`,
});

/** 0 called just so, 1 begins so, 2 a word does, 3 holds it somewhere. */
function rankOf(text: string): SQL {
  const { whole, begins } = startOf(text);
  return sql`CASE WHEN ${whole} = ANY (string_to_array(l.text, chr(10))) THEN 0 WHEN l.text LIKE ${begins} OR l.text LIKE '%' || chr(10) || ${begins} THEN 1 WHEN translate(l.text, ${BETWEEN}, ${' '.repeat(BETWEEN.length)}) LIKE '% ' || ${begins} THEN 2 ELSE 3 END`;
}
/** What stands between words. */
const BETWEEN = '-·/,.;:()\n';
