import Big from 'big.js';
import { sql, type SQL } from 'drizzle-orm';
import type { Spread } from '../../../core/approval/compared';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, seenName } from '../../identifiers';

/** The latest that are looked at: older ones say less, and a table may be long. */
const LATEST = 2_000;

interface Asked {
  readonly table: Table;
  /** The figures, as columns of the table. */
  readonly columns: readonly Column[];
  /** Only those that hold this here; all of them where it is null. */
  readonly alike: { readonly column: Column; readonly value: string } | null;
}

/** How figures lie among the latest records of a table, by the id of their column. */
export async function spreadsOf(
  tx: Tx,
  { table, columns, alike }: Asked,
): Promise<ReadonlyMap<string, Spread>> {
  if (columns.length === 0) return new Map();
  const cells = sql.join(
    columns.map((column, i) => sql`t.${columnName(column)}::numeric AS ${at(i)}`),
    sql`, `,
  );
  const told = sql.join(
    columns.map(
      (_, i) =>
        sql`json_build_object('count', count(${at(i)}), 'at', percentile_cont(ARRAY[0.25, 0.5, 0.75]) WITHIN GROUP (ORDER BY ${at(i)})) AS ${at(i)}`,
    ),
    sql`, `,
  );
  const like = alike === null ? sql`` : sql` AND t.${columnName(alike.column)}::text = ${alike.value}`;
  const { rows } = await tx.execute<Record<string, { count: number; at: number[] | null }>>(
    sql`SELECT ${told} FROM (SELECT ${cells} FROM ${seenName(table)} AS t WHERE t.removed_at IS NULL${like} ORDER BY t.id DESC LIMIT ${LATEST}) AS latest`,
  );
  return new Map(
    columns.flatMap((column, i) => {
      const found = rows[0]?.[`c${i}`];
      const [low, middle, high] = found?.at ?? [];
      return found === undefined || low === undefined || middle === undefined || high === undefined
        ? []
        : [
            [
              column.id,
              { count: found.count, low: new Big(low), middle: new Big(middle), high: new Big(high) },
            ],
          ];
    }),
  );
}

const at = (i: number): SQL => sql`${sql.identifier(`c${i}`)}`;
