import { sql, type SQL } from 'drizzle-orm';
import { grouped } from '../../../core/kernel/grouped';
import type { AddRecord, ChangeRecord, RecordEdit, StoredRecord } from '../../../core/record/edit';
import type { ColumnValue } from '../../../core/storage/rows-to-write';
import { columnIn } from '../../../core/record/column-value';
import type { Column, Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, seenName, stampName, tableName } from '../../identifiers';
import { withAllInHand } from './in-hand';
import { columnType } from '../tables/change-sql';
import { insertRecords } from './insert-records';
import { PEOPLE } from '../../../core/expression/type';

type Tables = ReadonlyMap<string, Table>;
type OfStored = Exclude<RecordEdit, AddRecord>;

/**
 * The records that edits meet, locked until the transaction ends, always in one order; with the columns that
 * are changed, and `also` those. Those that are not there, or not to be written, are not among them.
 */
export async function lockRecords(
  tx: Tx,
  tables: Tables,
  edits: readonly RecordEdit[],
  also: (table: Table) => readonly string[],
): Promise<ReadonlyMap<string, StoredRecord>> {
  const found = new Map<string, StoredRecord>();
  for (const [table, own] of byTable(tables, edits)) {
    const met = own.filter((edit) => edit.t !== 'add');
    if (met.length === 0) continue;
    const changed = met.flatMap((edit) => ('values' in edit ? Object.keys(edit.values) : []));
    const ids = new Set([...changed, ...(changed.length > 0 ? also(table) : [])]);
    const columns = [...ids].flatMap((id) => columnIn(table, id) ?? []);
    const cells = columns.map((column, i) => sql`, ${columnName(column)}::text AS ${cell(i)}`);
    const stamps = sql`id, version, removed_at IS NOT NULL AS removed`;
    const these = sql`WHERE id = ANY(${sql.param(met.map(({ id }) => id))}::uuid[])`;
    const locked = sql`FROM ${tableName(table)} ${these} ORDER BY id FOR UPDATE`;
    const rows = table.guarded
      ? await inHand(
          tx,
          locked,
          sql`SELECT ${stamps}${sql.join(cells, sql``)} FROM ${seenName(table)} ${these}`,
        )
      : (await tx.execute<Row>(sql`SELECT ${stamps}${sql.join(cells, sql``)} ${locked}`)).rows;
    for (const row of rows)
      found.set(String(row['id']), {
        version: Number(row['version']),
        removed: row['removed'] === true,
        values: Object.fromEntries(columns.map(({ id }, i) => [id, row[`c${i}`] as ColumnValue])),
      });
  }
  return found;
}

type Row = Record<string, string | number | boolean | null>;

/**
 * Locks records, and then reads of them, as they are then, also what is restricted: what is written is held
 * against the whole record, whoever writes it.
 */
async function inHand(tx: Tx, locked: SQL, read: SQL): Promise<Row[]> {
  const { rows: met } = await tx.execute<{ id: string }>(sql`SELECT id ${locked}`);
  const { rows } = await withAllInHand(tx, () => tx.execute<Row>(read));
  const ids = new Set(met.map(({ id }) => id));
  return rows.filter((row) => ids.has(String(row['id'])));
}

/**
 * Writes what was read and met: the records before their rows, in a fixed number of statements for each
 * table. `trying`: nothing of it will stay, so the counters of numbers, which others wait for, are left
 * alone.
 */
export async function writeEdits(
  tx: Tx,
  tables: Tables,
  edits: readonly RecordEdit[],
  trying: boolean,
): Promise<void> {
  for (const [table, own] of byTable(tables, edits)) {
    for (const alike of byShape(own.filter((edit) => edit.t === 'change')))
      await changeRecords(tx, table, alike);
    await removeRecords(tx, tables, table, idsOf(own, 'remove'));
    await restoreRecords(tx, tables, table, idsOf(own, 'restore'));
    for (const alike of byShape(own.filter((edit) => edit.t === 'add')))
      await addRecords(tx, table, alike, trying);
  }
}

/** Tables whose rows belong to others come after those; else by id, so that no two batches wait for each other. */
function byTable(tables: Tables, edits: readonly RecordEdit[]): [Table, RecordEdit[]][] {
  const own = grouped(edits, ({ table }) => table);
  const depth = (table: Table): number => {
    const parent = table.parent === null ? undefined : tables.get(table.parent);
    return parent === undefined ? 0 : 1 + depth(parent);
  };
  return [...own]
    .map(([id, list]): [Table, RecordEdit[]] => [known(tables, id), list])
    .sort(([a], [b]) => depth(a) - depth(b) || (a.id < b.id ? -1 : 1));
}

/** One statement writes what fills the same columns. */
const byShape = <T extends AddRecord | ChangeRecord>(edits: readonly T[]): T[][] => [
  ...grouped(edits, (edit) =>
    JSON.stringify([
      Object.keys(edit.values),
      edit.t === 'add' ? edit.number === null : edit.position === undefined,
    ]),
  ).values(),
];

const idsOf = (edits: readonly RecordEdit[], t: OfStored['t']): string[] =>
  edits.flatMap((edit) => (edit.t === t ? [edit.id] : []));

const cell = (i: number): SQL => sql`${sql.identifier(`c${i}`)}`;

function known(tables: Tables, id: string): Table {
  const table = tables.get(id);
  if (table === undefined) throw new Error(`no table ${id}`);
  return table;
}

/** Edits beside one another as columns of a table to select from: as many parameters as columns, however many edits there are. */
function sideBySide(
  table: Table,
  edits: readonly (AddRecord | ChangeRecord)[],
): { columns: Column[]; cells: SQL[]; lists: SQL[]; names: SQL[] } {
  const columns = Object.keys(edits[0]?.values ?? {}).map((id) => {
    const column = columnIn(table, id);
    // A column the table does not have was refused before.
    if (column === undefined) throw new Error(`${table.key} has no column ${id}`);
    return column;
  });
  return {
    columns,
    names: columns.map((_, i) => cell(i)),
    cells: columns.map((column, i) => sql`u.${cell(i)}::${columnType(column)}`),
    lists: columns.map(
      ({ id }) => sql`${sql.param(edits.map(({ values }) => asText(values[id] ?? null)))}::text[]`,
    ),
  };
}

const asText = (value: ColumnValue): string | null => (value === null ? null : String(value));
const listed = (parts: readonly SQL[]): SQL => sql.join([...parts], sql`, `);

async function addRecords(tx: Tx, table: Table, edits: readonly AddRecord[], trying: boolean): Promise<void> {
  const { columns, cells, lists, names } = sideBySide(table, edits);
  const numbered = edits[0]?.number !== null;
  const isRow = table.parent !== null;
  const param = (list: readonly unknown[], type: string): SQL =>
    sql`${sql.param([...list])}::${sql.raw(type)}[]`;
  const arrays = [
    param(
      edits.map(({ id }) => id),
      'uuid',
    ),
    ...(numbered
      ? [
          param(
            edits.map(({ number }) => number),
            'text',
          ),
        ]
      : []),
    ...(isRow
      ? [
          param(
            edits.map(({ parent }) => parent?.id ?? null),
            'uuid',
          ),
        ]
      : []),
    ...(isRow
      ? [
          param(
            edits.map(({ parent }) => parent?.position ?? null),
            'int',
          ),
        ]
      : []),
    ...lists,
  ];
  const stamps = isRow ? [stampName('parent_id'), stampName('position')] : [];
  const given = [sql`id`, ...(numbered ? [sql`number`] : []), ...stamps, ...names, sql`place`];
  await insertRecords(tx, table, {
    from: sql`unnest(${listed(arrays)}) WITH ORDINALITY AS u (${listed(given)})`,
    names: [...stamps, ...columns.map(columnName)],
    values: [...stamps.map((stamp) => sql`u.${stamp}`), ...cells],
    // A number nobody else can have, for what will not stay.
    number: numbered ? sql`u.number` : trying ? sql`u.id::text` : null,
    many: edits.length,
  });
}

async function changeRecords(tx: Tx, table: Table, edits: readonly ChangeRecord[]): Promise<void> {
  const { columns, cells, lists, names } = sideBySide(table, edits);
  const moved = edits[0]?.position !== undefined;
  const place = stampName('position');
  const sets = [
    ...columns.map((column, i) => sql`${columnName(column)} = ${cells[i] ?? sql`NULL`}`),
    ...(moved ? [sql`${place} = u.${place}`] : []),
  ];
  const ids = sql`${sql.param(edits.map(({ id }) => id))}::uuid[]`;
  const places = moved ? [sql`${sql.param(edits.map(({ position }) => position))}::int[]`] : [];
  await tx.execute(sql`
    UPDATE ${tableName(table)} AS t SET ${listed(sets)}
    FROM unnest(${listed([ids, ...lists, ...places])}) AS u (${listed([sql`id`, ...names, ...(moved ? [place] : [])])}) WHERE t.id = u.id`);
}

const childrenOf = (tables: Tables, table: Table): Table[] =>
  [...tables.values()].filter(({ parent }) => parent === table.id);

/** With the rows that belong to them, and those that belong to these. */
async function removeRecords(tx: Tx, tables: Tables, table: Table, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  const these = sql`${sql.param([...ids])}::uuid[]`;
  for (const child of childrenOf(tables, table))
    await removeRecords(
      tx,
      tables,
      child,
      await idsIn(tx, child, sql`parent_id = ANY(${these}) AND removed_at IS NULL`),
    );
  await tx.execute(
    sql`UPDATE ${tableName(table)} SET removed_at = now() WHERE id = ANY(${these}) AND removed_at IS NULL`,
  );
}

/** Held until the transaction ends, so that nobody adds rows to them meanwhile. */
async function idsIn(tx: Tx, table: Table, where: SQL): Promise<string[]> {
  const { rows } = await tx.execute<{ id: string }>(
    sql`SELECT id FROM ${tableName(table)} AS c WHERE ${where} ORDER BY id FOR UPDATE`,
  );
  return rows.map(({ id }) => id);
}

/** With the rows that went away with them, at the same moment; those that were removed by themselves stay away. */
async function restoreRecords(tx: Tx, tables: Tables, table: Table, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  const these = sql`${sql.param([...ids])}::uuid[]`;
  const wentWith = sql`EXISTS (SELECT 1 FROM ${tableName(table)} AS t WHERE t.id = c.parent_id AND t.id = ANY(${these}) AND c.removed_at = t.removed_at)`;
  for (const child of childrenOf(tables, table))
    await restoreRecords(tx, tables, child, await idsIn(tx, child, wentWith));
  await tx.execute(sql`UPDATE ${tableName(table)} SET removed_at = NULL WHERE id = ANY(${these})`);
}

/**
 * Of records that edits name, by table, those that are removed. Asked after they were written: whoever
 * removes one of them has waited, or is waited for.
 */
export async function removedAmong(
  tx: Tx,
  tables: Tables,
  named: ReadonlyMap<string, readonly string[]>,
): Promise<ReadonlySet<string>> {
  if (named.size === 0) return new Set();
  const parts = [...named].map(
    ([id, ids]) =>
      sql`SELECT id FROM ${tableName(known(tables, id))} WHERE id = ANY(${sql.param([...ids])}::uuid[]) AND removed_at IS NOT NULL`,
  );
  const { rows } = await tx.execute<{ id: string }>(sql.join(parts, sql` UNION ALL `));
  return new Set(rows.map(({ id }) => id));
}

/** The tables whose records these of a table may name: those its columns point to, and the one whose rows they are. */
const namedTables = ({ columns, parent }: Table): string[] => [
  ...columns.flatMap(({ target }) => target ?? []),
  ...(parent === null ? [] : [parent]),
];

/**
 * Lets nobody else remove records of a table, or bring back what names them, until the transaction ends. A
 * record that comes back takes no lock on those it names, for its references have not changed, so without
 * this the two would not see each other.
 */
export async function waitForRemovals(tx: Tx, tables: Tables, edits: readonly RecordEdit[]): Promise<void> {
  const ids = edits.flatMap(({ t, table }) =>
    t === 'remove' ? [table] : t === 'restore' ? namedTables(known(tables, table)) : [],
  );
  if (ids.length === 0) return;
  await tx.execute(
    sql`SELECT pg_advisory_xact_lock(hashtext('slate removals'), hashtext(id)) FROM (SELECT DISTINCT unnest(${sql.param(ids)}::text[]) AS id ORDER BY 1) AS these`,
  );
}

/** Of records that have come back, those that name one that is removed, each with its column; null for the record whose row it is. */
export async function namingRemoved(
  tx: Tx,
  tables: Tables,
  table: string,
  ids: readonly string[],
): Promise<{ id: string; column: string | null }[]> {
  const own = known(tables, table);
  const places = [
    ...own.columns.flatMap((column) =>
      // Whoever has left may still be named.
      column.target === null || column.target === PEOPLE
        ? []
        : [{ id: column.id, name: columnName(column), target: column.target }],
    ),
    ...(own.parent === null ? [] : [{ id: null, name: stampName('parent_id'), target: own.parent }]),
  ];
  if (places.length === 0) return [];
  const parts = places.map(
    ({ id, name, target }) =>
      sql`SELECT t.id, ${id}::text AS column FROM ${seenName(own)} t JOIN ${tableName(known(tables, target))} r ON r.id = t.${name} WHERE t.id = ANY(${sql.param([...ids])}::uuid[]) AND r.removed_at IS NOT NULL`,
  );
  const { rows } = await withAllInHand(tx, () =>
    tx.execute<{ id: string; column: string | null }>(sql.join(parts, sql` UNION ALL `)),
  );
  return rows;
}

/** A record that is still there and names one that is removed. */
export interface Naming {
  readonly record: string;
  readonly table: string;
  /** Its number. */
  readonly number: string;
}

/** Who still names these records of a table. */
export async function namingThese(tx: Tx, table: string, ids: readonly string[]): Promise<Naming[]> {
  const { rows } = await tx.execute<{ record: string; in_table: string; number: string }>(
    sql`SELECT record, in_table, number FROM slate.naming_these(${table}::uuid, ${sql.param([...ids])}::uuid[])`,
  );
  return rows.map(({ record, in_table, number }) => ({ record, table: in_table, number }));
}
