import { once } from 'node:events';
import type { Writable } from 'node:stream';
import { finished } from 'node:stream/promises';
import { sql, type SQL } from 'drizzle-orm';
import { isUuid } from '../../../core/kernel/ids';
import type { MadeRows } from '../../../core/import/made-rows';
import { beforeCount, type Table } from '../../../core/table/model';
import type { Tx } from '../../connect';
import { columnName, stampName, tableName } from '../../identifiers';
import { BEGINNING, BinaryRows, END } from './binary-rows';
import { stamps } from '../tables/change-sql';
import type { CopyInto } from '../../transaction';

/** How much is gathered before it goes to the database. */
const CHUNK = 1 << 18;

/**
 * Copies rows into a table that was just made and has no stamps yet. Numbers are given here, in the order of
 * the rows, and the counter is set after the last. Gives how many there were.
 */
export async function loadRows(
  tx: Tx,
  copy: CopyInto,
  table: Table,
  year: number,
  rows: AsyncIterable<MadeRows>,
): Promise<number> {
  // The table is of this transaction, so nobody else could see a row that is not frozen, and no vacuum need come to freeze it.
  const stream = copy(
    sql`COPY ${tableName(table)} (${sql.join(loadedColumns(table), sql`, `)}) FROM STDIN (FORMAT binary, FREEZE)`,
  );
  const binary = new BinaryRows(table.columns.map(({ kind }) => kind));
  const before = beforeCount(table, year);
  let given = 0;
  await sending(stream, async (send) => {
    await send(BEGINNING);
    for await (const some of rows) {
      binary.add(some, { before, first: given + 1 });
      given += some.marks.length;
      if (binary.size > CHUNK) await send(binary.taken());
    }
    await send(binary.taken());
    await send(END);
  });
  await tx.execute(
    sql`INSERT INTO slate.number_counter (table_id, year, last) VALUES (${table.id}::uuid, ${year}::int, ${given}::int) ON CONFLICT (table_id, year) DO UPDATE SET last = excluded.last`,
  );
  return given;
}

/** Sends something to the database piece by piece, no faster than it is taken; ends, or breaks off, with `work`. */
async function sending(
  stream: Writable,
  work: (send: (piece: Buffer | string) => Promise<void>) => Promise<void>,
): Promise<void> {
  const failed = finished(stream);
  // An error that comes while nobody waits is told when the end is waited for.
  failed.catch(() => undefined);
  try {
    await work(async (piece) => {
      if (!stream.write(piece)) await Promise.race([once(stream, 'drain'), failed]);
    });
  } catch (error) {
    // The database waits for more until it is told that none will come.
    stream.destroy(error instanceof Error ? error : undefined);
    await failed.catch(() => undefined);
    throw error;
  }
  stream.end();
  await failed;
}

/** Sends rows as lines of COPY's text format, some at a time. Gives how many there were. */
export async function copyLines<R>(
  stream: Writable,
  rows: AsyncIterable<readonly R[]>,
  lineOf: (row: R) => string,
): Promise<number> {
  let count = 0;
  await sending(stream, async (send) => {
    let text = '';
    for await (const some of rows) {
      for (const row of some) text += lineOf(row);
      count += some.length;
      if (text.length < CHUNK) continue;
      await send(text);
      text = '';
    }
    await send(text);
  });
  return count;
}

/** The same for rows that are nothing but texts. */
export const copyTexts = (
  stream: Writable,
  rows: AsyncIterable<readonly (readonly (string | null)[])[]>,
): Promise<number> => copyLines(stream, rows, (row) => `${escapedValues(row).slice(1)}\n`);

function loadedColumns(table: Table): SQL[] {
  return [
    stampName('id'),
    stampName('number'),
    ...(table.parent === null ? [] : [stampName('parent_id'), stampName('position')]),
    ...table.columns.map(columnName),
  ];
}

/** Values as COPY reads them, each after a tab. */
export function escapedValues(values: readonly (string | null)[]): string {
  let line = '';
  for (const value of values)
    line += value === null ? '\t\\N' : `\t${SPECIAL.test(value) ? escaped(value) : value}`;
  return line;
}

const SPECIAL = /[\\\t\n\r]/;
const escaped = (value: string): string =>
  value.replaceAll('\\', '\\\\').replaceAll('\t', '\\t').replaceAll('\n', '\\n').replaceAll('\r', '\\r');

/**
 * Who made the rows, and their line of the trail: their values stand in the rows themselves, and in what the next change notes as before.
 * `together`: their ids follow one another and no other record will ever have one between, so that one line tells of all.
 */
export async function stampLoaded(tx: Tx, table: Table, person: string, together: boolean): Promise<void> {
  await tx.execute(
    sql`ALTER TABLE ${tableName(table)} ALTER COLUMN created_by DROP DEFAULT, ALTER COLUMN updated_by DROP DEFAULT`,
  );
  const line = sql`INSERT INTO slate.history (table_id, version, change, by_id, record_id, last_id) SELECT ${table.id}::uuid, 1, 'imported', ${person}::uuid`;
  if (!together) await tx.execute(sql`${line}, id, NULL FROM ${tableName(table)}`);
  else
    await tx.execute(
      sql`${line}, first.id, last.id FROM (SELECT id FROM ${tableName(table)} ORDER BY id LIMIT 1) AS first, (SELECT id FROM ${tableName(table)} ORDER BY id DESC LIMIT 1) AS last`,
    );
}

/** Gives rows that were loaded without stamps their stamps, all the same: PostgreSQL notes them once and rewrites nothing. */
export async function stampColumns(tx: Tx, table: Table, person: string): Promise<void> {
  await tx.execute(
    sql`ALTER TABLE ${tableName(table)} ${sql.join(
      stamps(idOf(person)).map((column) => sql`ADD COLUMN ${column}`),
      sql`, `,
    )}`,
  );
}

/** Until the rows are in, whoever imports is their maker by default: cheaper than the same value in every line. */
export async function madeBy(tx: Tx, table: Table, person: string): Promise<void> {
  const id = idOf(person);
  await tx.execute(
    sql`ALTER TABLE ${tableName(table)} ALTER COLUMN created_by SET DEFAULT ${id}, ALTER COLUMN updated_by SET DEFAULT ${id}`,
  );
}

/** A default takes no parameter. */
function idOf(person: string): SQL {
  if (!isUuid(person)) throw new Error('a person has a UUID');
  return sql.raw(`'${person}'::uuid`);
}
