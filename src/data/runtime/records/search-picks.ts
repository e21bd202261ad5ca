import { sql, type SQL } from 'drizzle-orm';
import type { PickedRecord } from '../../../core/form/picked-record';
import { slipsOf } from '../../../core/record/slips-of';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { also, joined, type Condition } from './filter-sql';
import { tableName } from '../../identifiers';
import { picked, seenOf, type PickFrom } from './pick-records';
import { recordCounts } from './record-counts';
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
/** Records that are put in order, best first, before the first of them are shown: of those that begin so, and of all others. */
const MOST_RANKED = { begun: 200, inside: 800 };

/**
 * Records that show every word of a search, in their number, their title or the columns shown, as people see them; case and accents make no difference. First
 * those that are called just so, then those that begin so, those in which a word does, and the others. What is not shown is not searched.
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
  const large = (await recordCounts(tx, [from.table])).get(from.table.id)?.about === true;
  const at = sql`t.removed_at IS NULL${also(where)}`;
  const joins = joined(where);
  if (words.length === 0) {
    // Of very many, the newest are there at once; in the order of their titles all would be sorted first.
    const order = large ? sql`t.id DESC` : sql`2`;
    return {
      options: await picked(tx, from, sql`${joins} WHERE ${at} ORDER BY ${order} LIMIT ${most}`),
      near: false,
    };
  }
  const like = (patterns: (word: string) => SQL): SQL =>
    sql.join(
      words.map((word) => patterns(word)),
      sql` AND `,
    );
  const exact = await ranked(tx, from, {
    at,
    joins,
    large,
    most,
    words,
    holds: like((word) => oneOf(from, large, [found(word)])),
  });
  if (exact.length > 0 || words.join('').length < LEAST_NEAR) return { options: exact, near: false };
  const near = like((word) =>
    oneOf(
      from,
      large,
      slipsOf(word).map((slip) => sql`slate.folded(${`%${slip}%`})`),
    ),
  );
  const options = await picked(tx, from, sql`${joins} WHERE ${at} AND ${near} ORDER BY 2 LIMIT ${most}`);
  return { options, near: options.length > 0 };
}

/** Shorter words are like too many others. */
const LEAST_NEAR = 4;

const found = (word: string): SQL => sql`slate.found_in(${word})`;

/** All that is seen of a record in a lookup, folded, a line each. */
const lines = (from: PickFrom): SQL =>
  sql`slate.words(ARRAY[${sql.join([sql`t.number`, ...seenOf(from).map((one) => sql`coalesce(${one}, '')`)], sql`, `)}])`;

/** That one of these patterns is seen. In a large table the index for words, which holds all letters of a record, finds those that may; which of them show it is asked of them. */
function oneOf(from: PickFrom, large: boolean, patterns: readonly SQL[]): SQL {
  const any = (text: SQL): SQL =>
    sql`(${sql.join(
      patterns.map((pattern) => sql`${text} LIKE ${pattern}`),
      sql` OR `,
    )})`;
  return large && standsInIt(from)
    ? sql`${any(wordsOf(from.table, sql`t.`))} AND ${any(lines(from))}`
    : any(lines(from));
}

/** Whether all that is shown of a record stands in the index for words of its table. */
const standsInIt = ({ table, show }: PickFrom): boolean =>
  [...titleColumns(table), ...show].every(isLettered);
const titleColumns = ({ columns, title }: Table) => columns.filter(({ id }) => title.includes(id));

interface Ranking {
  readonly at: SQL;
  readonly joins: SQL;
  readonly holds: SQL;
  readonly large: boolean;
  readonly words: readonly string[];
  readonly most: number;
}

async function ranked(
  tx: Tx,
  from: PickFrom,
  { at, joins, holds, large, words, most }: Ranking,
): Promise<PickedRecord[]> {
  const text = words.join(' ');
  const whole = sql`slate.folded(${text})`;
  // A pattern in which the letters of the search stand for themselves.
  const begins = sql`substr(${found(text)}, 2)`;
  const own = lines(from);
  const begun = sql`(${own} LIKE ${begins} OR ${own} LIKE '%' || chr(10) || ${begins})`;
  const rank = sql`CASE WHEN ${whole} = ANY (string_to_array(${own}, chr(10))) THEN 0 WHEN ${begun} THEN 1 WHEN ${own} ~ ('[[:space:][:punct:]]' || regexp_replace(${whole}, '([^[:alnum:] ])', ${'\\\\\\1'}, 'g')) THEN 2 ELSE 3 END`;
  if (!large)
    return picked(tx, from, sql`${joins} WHERE ${at} AND ${holds} ORDER BY ${rank}, 2 LIMIT ${most}`);
  // The letters of what begins so are rarer than those of what holds it somewhere, and found first.
  const indexed = standsInIt(from) ? wordsOf(from.table, sql`t.`) : own;
  const first = sql`(${indexed} LIKE ${begins} OR ${indexed} LIKE '%' || chr(10) || ${begins}) AND ${begun}`;
  const some = (condition: SQL, limit: number): SQL =>
    sql`(SELECT t.id FROM ${tableName(from.table)} AS t${joins} WHERE ${at} AND ${condition} LIMIT ${limit})`;
  return picked(
    tx,
    from,
    sql` WHERE t.id = ANY (ARRAY(${some(first, MOST_RANKED.begun)} UNION ${some(holds, MOST_RANKED.inside)})) ORDER BY ${rank}, 2 LIMIT ${most}`,
  );
}
