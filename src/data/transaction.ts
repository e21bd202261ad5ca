import type { Readable, Writable } from 'node:stream';
import { sql, type SQL } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import { PgDialect } from 'drizzle-orm/pg-core';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import { fail, ok, type Result } from '../core/kernel/result';
import { stale, type Refusal } from '../core/kernel/refusal';
import { appDatabase, ownerClient, ownerDatabase, type Database, type Tx } from './connect';
import { databaseFault } from './field-issues';
import * as schema from './system/schema';

/** Who asks; row-level security reads it for the length of the transaction. */
export interface Asking {
  readonly person: string;
  readonly release?: string;
  readonly submission?: string;
}

/** Carries out `work` as the application role. A refusal rolls everything back. */
export function asPerson<T>(
  asking: Asking,
  work: (tx: Tx) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  return run(appDatabase(), asking, work);
}

/** As the owner role, for changing tables. */
export function asOwner<T>(
  asking: Asking,
  work: (tx: Tx) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  return run(ownerDatabase(), asking, work);
}

/** Adds to what the current transaction says of itself. */
export async function nowAsking(tx: Tx, asking: Partial<Asking>): Promise<void> {
  await tx.execute(
    sql`SELECT ${sql.join(
      Object.entries(asking).map(([key, value]) => sql`set_config(${`slate.${key}`}, ${value}, true)`),
      sql`, `,
    )}`,
  );
}

class RolledBack extends Error {
  constructor(readonly refusal: Refusal) {
    super('refused');
  }
}

/** Does `work` and undoes it, whatever it gives; the transaction around it goes on as if nothing had been. */
export async function undone<T>(tx: Tx, work: (inner: Tx) => Promise<T>): Promise<T> {
  let given: { readonly value: T } | null = null;
  const undo = new Error('undo');
  try {
    await tx.transaction(async (inner) => {
      given = { value: await work(inner) };
      throw undo;
    });
  } catch (error) {
    if (error !== undo || given === null) throw error;
  }
  return (given as unknown as { value: T }).value;
}

/** Streams rows into a table with COPY, within a transaction of the owner role. */
export type CopyInto = (statement: SQL) => Writable;

/** Bytes that may be on their way: rows are made while the database still takes those before. */
const IN_FLIGHT = 4 << 20;

const dialect = new PgDialect();

/** As the owner role, with a way to copy many rows: both on one connection, so that all of it is one transaction. */
export async function asOwnerCopying<T>(
  asking: Asking,
  work: (tx: Tx, copy: CopyInto) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  const client = await ownerClient();
  try {
    return await run(drizzle(client, { schema }), asking, (tx) =>
      work(tx, (statement) =>
        client.query(copyFrom(dialect.sqlToQuery(statement).sql, { highWaterMark: IN_FLIGHT })),
      ),
    );
  } finally {
    client.release();
  }
}

/** As the owner role, what COPY gives of a query, streamed to `take`. */
export async function asOwnerCopyingOut(
  asking: Asking,
  statement: SQL,
  take: (bytes: Readable) => Promise<void>,
): Promise<void> {
  const client = await ownerClient();
  try {
    await run(drizzle(client, { schema }), asking, async () =>
      ok(await take(client.query(copyTo(dialect.sqlToQuery(statement).sql)))),
    );
  } finally {
    client.release();
  }
}

/**
 * As the owner role, two transactions on one connection: what the first put into temporary tables is there for the second. Nobody else does both
 * for the same `alone` meanwhile; null when somebody is at it.
 */
export async function asOwnerInSteps<A, T>(
  asking: Asking,
  alone: string,
  first: (tx: Tx, copy: CopyInto) => Promise<Result<A, Refusal>>,
  second: (tx: Tx, given: A) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal> | null> {
  const client = await ownerClient();
  const db = drizzle(client, { schema });
  const lock = sql`hashtext('slate steps'), hashtext(${alone})`;
  try {
    const { rows } = await db.execute<{ alone: boolean }>(sql`SELECT pg_try_advisory_lock(${lock}) AS alone`);
    if (rows[0]?.alone !== true) return null;
    try {
      const given = await run(db, asking, (tx) =>
        first(tx, (statement) =>
          client.query(copyFrom(dialect.sqlToQuery(statement).sql, { highWaterMark: IN_FLIGHT })),
        ),
      );
      return given.ok ? await run(db, asking, (tx) => second(tx, given.value)) : given;
    } finally {
      await db.execute(sql`SELECT pg_advisory_unlock(${lock})`).catch(() => undefined);
      await db.execute(sql`DROP TABLE IF EXISTS pg_temp.bringing`).catch(() => undefined);
    }
  } finally {
    client.release();
  }
}

/** For the few statements PostgreSQL carries out only by themselves. */
export async function outsideTransaction(statement: SQL): Promise<void> {
  await ownerDatabase().execute(statement);
}

const LOST_RACES = new Set(['40001', '40P01', '55P03']);

async function run<T>(
  db: Database,
  asking: Asking,
  work: (tx: Tx) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  try {
    return await db.transaction(async (tx) => {
      await nowAsking(tx, asking);
      const result = await work(tx);
      // Throwing is how the library is told to roll back.
      if (!result.ok) throw new RolledBack(result.error);
      return result;
    });
  } catch (error) {
    if (error instanceof RolledBack) return fail(error.refusal);
    if (LOST_RACES.has(databaseFault(error)?.code ?? '')) return fail(stale('busy'));
    throw error;
  }
}
