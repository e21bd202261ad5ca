import { sql, type SQL } from 'drizzle-orm';
import { isText } from '../../../core/record/jump';
import type { Place } from '../../../core/record/places';
import type { Column, Table } from '../../../core/table/model';
import { alias, columnName, stampName, seenName } from '../../identifiers';
import { shownText } from './shown-text';

type Tables = ReadonlyMap<string, Table>;

/** The title of a record of `table` under an alias: its title columns joined as people see them, or its number. */
export function titleSql(table: Table | undefined, at: SQL): SQL {
  const titles = (table?.title ?? []).flatMap(
    (id) => table?.columns.find((column) => column.id === id) ?? [],
  );
  if (titles.length === 0) return sql`${at}.number`;
  return sql`concat_ws(' · ', ${sql.join(
    titles.map((column) => shownText(column, at)),
    sql`, `,
  )})`;
}

/** A text as it is sorted by; an index for that is spelled the same. */
export const inOrder = (text: SQL): SQL => sql`${text} COLLATE slate.in_order`;

/**
 * What places hold, of records under the alias `t`. What they reach is joined once each; those joins stand
 * after the table, once all places have been asked for.
 */
export class PlacesSql {
  private readonly reached = new Map<string, { readonly at: SQL; readonly join: SQL }>();

  constructor(private readonly tables: Tables) {}

  /** To sort by: texts as people put them in order, where 9 comes before 10 and case makes no difference. */
  sorted(place: Place): SQL {
    return isText(place) ? inOrder(this.of(place)) : this.of(place);
  }

  /** To group by: codes of choices, titles of references. */
  of(place: Place): SQL {
    switch (place.t) {
      case 'stamp':
        return sql`t.${stampName(place.stamp)}`;
      case 'rows': {
        const what = place.of === null ? sql`count(*)` : sql`sum(c.${columnName(place.of)})`;
        return sql`(SELECT ${what} FROM ${seenName(place.rows)} AS c WHERE c.${stampName('parent_id')} = t.id AND c.removed_at IS NULL)`;
      }
      case 'column':
        return this.column(place.path);
    }
  }

  /** As a cell of a page: text, or yes and no. */
  cell(place: Place): SQL {
    const value = this.of(place);
    if (place.t === 'stamp' && place.column.kind === 'date-time')
      return sql`to_char(${value}, 'YYYY-MM-DD HH24:MI:SS')`;
    return place.column.kind === 'yes-no' ? value : sql`${value}::text`;
  }

  private column(path: readonly Column[]): SQL {
    const last = path.at(-1);
    if (last === undefined) throw new Error('a path has a column at least');
    if (last.kind !== 'reference') return sql`${this.at(path.slice(0, -1))}.${columnName(last)}`;
    const target = this.tables.get(last.target ?? '');
    if (target === undefined) return sql`NULL`;
    const at = this.at(path);
    return sql`CASE WHEN ${at}.id IS NOT NULL THEN ${titleSql(target, at)} END`;
  }

  /** The alias of the record that references lead to, one after the other. */
  private at(path: readonly Column[]): SQL {
    const last = path.at(-1);
    if (last === undefined) return sql`t`;
    const key = path.map(({ id }) => id).join('.');
    const known = this.reached.get(key);
    if (known !== undefined) return known.at;
    const from = this.at(path.slice(0, -1));
    const target = this.tables.get(last.target ?? '');
    if (target === undefined) throw new Error(`${last.key} refers to a table that is not there`);
    const at = alias(this.reached.size);
    this.reached.set(key, {
      at,
      join: sql`LEFT JOIN ${seenName(target)} AS ${at} ON ${at}.id = ${from}.${columnName(last)}`,
    });
    return at;
  }

  joins(): SQL {
    return sql.join(
      [...this.reached.values()].map(({ join }) => sql` ${join}`),
      sql``,
    );
  }
}

/** Whether no record is without it. */
export const isAlwaysThere = (place: Place): boolean =>
  place.t === 'column'
    ? place.path.length === 1 && place.column.required && place.column.kind !== 'reference'
    : place.t === 'stamp' || place.of === null;
