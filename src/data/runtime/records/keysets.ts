import { sql, type SQL } from 'drizzle-orm';
import { isText } from '../../../core/record/jump';
import type { Place } from '../../../core/record/places';
import { kinds } from '../../../core/table/kinds/list';
import type { Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { seenName } from '../../identifiers';
import { also, joined, type Condition } from './filter-sql';
import { isAlwaysThere, PlacesSql } from './places-sql';

/** By what records are sorted, one after the other; those alike in all of it, by id. */
export interface PlacedSort {
  readonly place: Place;
  readonly descending: boolean;
}

/** The record, by id, after or before which it goes on, or from which on. */
export interface From {
  readonly side: 'after' | 'before' | 'from';
  readonly id: string;
}

type Tables = ReadonlyMap<string, Table>;

/**
 * What stands in every record has no place for nothing, and one index serves both ways; it is spelled as the
 * index is, or PostgreSQL does not see it. Backwards, nothing comes first.
 */
export function orderSql(places: PlacesSql, sorts: readonly PlacedSort[], back: boolean): SQL {
  const by = sorts.map(({ place, descending }) => {
    const way = descending !== back ? sql`DESC` : sql`ASC`;
    const nulls = isAlwaysThere(place) ? sql`` : back ? sql` NULLS FIRST` : sql` NULLS LAST`;
    return sql`${places.sorted(place)} ${way}${nulls}`;
  });
  const id = idDescends(sorts) !== back ? sql`t.id DESC` : sql`t.id ASC`;
  return sql.join([...by, id], sql`, `);
}

const idDescends = (sorts: readonly PlacedSort[]): boolean => sorts.at(-1)?.descending ?? false;

/**
 * The conditions, one after the other, under which the records beyond one are found by an index: those like
 * it in all they are sorted by, then for each place from the last to the first those beyond its value and, in
 * the end, those without one. Each is a stretch of the index; said together, every record of the value would
 * be looked at.
 */
export async function keysets(
  tx: Tx,
  tables: Tables,
  table: Table,
  sorts: readonly PlacedSort[],
  from: From | null,
): Promise<readonly (SQL | null)[]> {
  if (from === null) return [null];
  const here = new PlacesSql(tables);
  const values = sorts.map(({ place }) => here.sorted(place));
  const ofIt = sql`FROM ${seenName(table)} AS t${here.joins()} WHERE t.id = ${from.id}::uuid`;
  const blanks = values.map((value, i) => sql`${value} IS NULL AS ${sql.identifier(`b${i}`)}`);
  const { rows } = await tx.execute<Record<string, boolean>>(
    sql`SELECT ${sql.join([sql`true AS there`, ...blanks], sql`, `)} ${ofIt}`,
  );
  const [row] = rows;
  if (row === undefined) return [null];
  const back = from.side === 'before';
  const isBlank = (i: number): boolean => row[`b${i}`] === true;
  const alike = values.map((value, i) =>
    isBlank(i) ? sql`${value} IS NULL` : sql`${value} = (SELECT ${value} ${ofIt})`,
  );
  const beyond = (descending: boolean): SQL => (descending !== back ? sql`<` : sql`>`);
  const stretches = values.map((value, i): SQL[] => {
    const { place, descending = false } = sorts[i] ?? {};
    if (place === undefined) return [];
    // What is blank comes last.
    if (isBlank(i)) return back ? [sql`${value} IS NOT NULL`] : [];
    const further = sql`${value} ${beyond(descending)} (SELECT ${value} ${ofIt})`;
    return back || isAlwaysThere(place) ? [further] : [further, sql`${value} IS NULL`];
  });
  const within = (i: number, stretch: SQL): SQL => sql.join([...alike.slice(0, i), stretch], sql` AND `);
  return [
    within(
      sorts.length,
      sql`t.id ${beyond(idDescends(sorts))}${from.side === 'from' ? sql`=` : sql``} ${from.id}::uuid`,
    ),
    ...[...stretches.entries()].reverse().flatMap(([i, some]) => some.map((stretch) => within(i, stretch))),
  ];
}

/** No letter comes after it (CLDR's root collation). */
const LAST = '\uffff';

/** The first of all texts that differ from this one in nothing but case, accents and zeros before numbers. */
const leastAlike = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/\d+/g, (digits) => digits.padStart(MOST_DIGITS, '0'));
const MOST_DIGITS = 20;

/** The record that stands first, in an order, among those whose value is this one or beyond it; by id. Null where there is none. */
export async function firstAt(
  tx: Tx,
  tables: Tables,
  table: Table,
  { sorts, where, value }: { sorts: readonly PlacedSort[]; where: Condition | null; value: string },
): Promise<string | null> {
  const [first] = sorts;
  if (first === undefined) return null;
  const places = new PlacesSql(tables);
  const own = places.sorted(first.place);
  const { column } = first.place;
  const type = sql.raw(isText(first.place) ? 'text' : kinds[column.kind].columnType(column));
  // Going down, what begins with a text stands before the text itself.
  const wanted = !isText(first.place) ? value : first.descending ? `${value}${LAST}` : leastAlike(value);
  const order = orderSql(places, sorts, false);
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT t.id FROM ${seenName(table)} AS t${places.joins()}${joined(where)} WHERE t.removed_at IS NULL${also(where)} AND ${own} ${first.descending ? sql`<=` : sql`>=`} ${wanted}::${type} ORDER BY ${order} LIMIT 1`,
  );
  return rows[0]?.id ?? null;
}
