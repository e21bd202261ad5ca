import { sql, type SQL } from 'drizzle-orm';
import { groupsOf, type ExistingCheck, type FormDesign } from '../../../core/form/design';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { alias, columnName, tableName } from '../../identifiers';

/** A check that the records there are do not allow; for one on rows, which row it is, from 1. */
export interface BrokenExisting {
  readonly check: ExistingCheck;
  readonly group: string | null;
  readonly position: number | null;
}

const [ONE, OTHER] = [alias(0), alias(1)];

/**
 * Holds the record just written, and its rows, against all others. First everybody who writes the same answers is made to wait until this
 * transaction ends, in one order for all, so that no two can wait for each other; only then are the others looked at, who are all done by then.
 */
export async function brokenExisting(
  tx: Tx,
  design: FormDesign,
  tables: ReadonlyMap<string, Table>,
  recordId: string,
): Promise<BrokenExisting[]> {
  const found: BrokenExisting[] = [];
  for (const check of [...(design.existing ?? [])].sort((a, b) => (a.id < b.id ? -1 : 1))) {
    const place = placeOf(check, design, tables);
    if (place === null) continue;
    await waitForOthers(tx, check, place, recordId);
    const { rows } = await tx.execute<{ position: number | null }>(sql`
      SELECT ${place.group === null ? sql`NULL` : sql`${ONE}.position`} AS position FROM ${tableName(place.table)} ${ONE}
      WHERE ${written(place, recordId)} AND ${broken(check, place)} ORDER BY 1 LIMIT 1`);
    const [row] = rows;
    if (row !== undefined) found.push({ check, group: place.group, position: row.position });
  }
  return found;
}

interface Place {
  readonly table: Table;
  readonly group: string | null;
}

/** The table whose records a check compares: that of the group whose columns it names, or the form's own. */
function placeOf(check: ExistingCheck, design: FormDesign, tables: ReadonlyMap<string, Table>): Place | null {
  const group = groupsOf(design).find(({ columns }) => columns.some(({ id }) => id === check.on));
  const table = tables.get((group ?? design).table.id);
  return table === undefined ? null : { table, group: group?.id ?? null };
}

const written = ({ group }: Place, recordId: string): SQL =>
  group === null ? sql`${ONE}.id = ${recordId}::uuid` : sql`${ONE}.parent_id = ${recordId}::uuid`;
const column = ({ table }: Place, id: string | null): Column | undefined =>
  table.columns.find((one) => one.id === id);
const of = (name: SQL, known: Column | undefined): SQL =>
  known === undefined ? sql`NULL` : sql`${name}.${columnName(known)}`;

async function waitForOthers(tx: Tx, check: ExistingCheck, place: Place, recordId: string): Promise<void> {
  const answers = check.same.map((id) => sql`coalesce(${of(ONE, column(place, id))}::text, '')`);
  const key = sql.join([sql`${check.id}::text`, ...answers], sql` || E'\\x1f' || `);
  await tx.execute(
    sql`SELECT pg_advisory_xact_lock(hashtextextended(key, 0)) FROM (SELECT DISTINCT ${key} AS key FROM ${tableName(place.table)} ${ONE} WHERE ${written(place, recordId)} ORDER BY 1) keys`,
  );
}

/** The others with the same answers. An empty answer is the same as none, so such a record breaks nothing. */
function others(check: ExistingCheck, place: Place): SQL {
  const same = check.same.map(
    (id) => sql` AND ${of(OTHER, column(place, id))} = ${of(ONE, column(place, id))}`,
  );
  return sql`FROM ${tableName(place.table)} ${OTHER} WHERE ${OTHER}.removed_at IS NULL${sql.join(same, sql``)}`;
}

function broken(check: ExistingCheck, place: Place): SQL {
  const { rule } = check;
  const another = sql` AND ${OTHER}.id <> ${ONE}.id`;
  switch (rule.t) {
    case 'unique':
      return sql`EXISTS (SELECT 1 ${others(check, place)}${another})`;
    case 'no-overlap': {
      const [from, to] = [column(place, rule.from), column(place, rule.to)];
      const begins = (earlier: SQL, later: SQL) =>
        sql` AND ${of(earlier, from)} <= coalesce(${of(later, to)}, 'infinity')`;
      return sql`EXISTS (SELECT 1 ${others(check, place)}${another}${begins(ONE, OTHER)}${begins(OTHER, ONE)})`;
    }
    case 'at-most': {
      const date = column(place, rule.date);
      const period =
        rule.per === 'ever'
          ? sql``
          : sql` AND date_trunc(${rule.per}, ${of(OTHER, date)}::timestamp) = date_trunc(${rule.per}, ${of(ONE, date)}::timestamp)`;
      return sql`(SELECT count(*) ${others(check, place)}${period}) > ${rule.most}::int`;
    }
  }
}
