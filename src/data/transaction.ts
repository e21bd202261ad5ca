import type { Readable, Writable } from 'node:stream';
import { sql, type SQL } from 'drizzle-orm';
import { PgDialect } from 'drizzle-orm/pg-core';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import { fail, ok, type Result } from '../core/kernel/result';
import { stale, unavailable, type Refusal } from '../core/kernel/refusal';
import type { Catalogue } from '../core/catalogue/catalogue';
import { catalogueAt, catalogueNumber } from './catalogue';
import { holdApp, holdOutside, holdOwner, ownerDatabase, type Database, type Held, type Tx } from './connect';
import { databaseFault } from './field-issues';
import { isOutdatedPlan } from './named-statements';
import { isOtherwiseShown } from './otherwise-shown';
import { isLostConnection, isOutOfRoom, isTooSlow } from './lost-connection';
import { isLooking } from './looking';
import { narrowedByWayIn, saidOfWayIn } from './way-in';

/** Who asks; row-level security reads it for the length of the transaction. */
export interface Asking {
  readonly person: string;
  readonly release?: string;
  readonly submission?: string;
  /** Set for a transaction that may wait for another database. */
  readonly outside?: 'yes';
}

/** What is done in a transaction, with the catalogue as it was when that began. */
type Work<T> = (tx: Tx, catalogue: Catalogue) => Promise<Result<T, Refusal>>;

/**
 * Thrown where a transaction would have to wait for another database: it is undone, and begun again where
 * that keeps nobody else waiting.
 */
export class GoOutside extends Error {}

/**
 * Carries out `work` as the application role. A refusal rolls everything back. When the connection is lost before anything can have been
 * committed, `work` is done anew on another one; so it must change nothing outside the database.
 */
export function asPerson<T>(asking: Asking, work: Work<T>): Promise<Result<T, Refusal>> {
  return held(holdApp, RETRIES, ({ db }) => run(db, asking, work)).catch((error: unknown) => {
    if (error instanceof GoOutside) return asPersonOutside(asking, work);
    throw error;
  });
}

async function asPersonOutside<T>(asking: Asking, work: Work<T>): Promise<Result<T, Refusal>> {
  try {
    return await held(holdOutside, 0, ({ db }) => run(db, { ...asking, outside: 'yes' }, work));
  } catch (error) {
    if (isLostConnection(error)) return fail(unavailable('outside', 15));
    throw error;
  }
}

/** As the owner role, for changing tables. What it does may reach beyond the database, so it is not done anew. */
export function asOwner<T>(asking: Asking, work: Work<T>): Promise<Result<T, Refusal>> {
  return held(holdOwner, 0, ({ db }) => run(db, asking, work));
}

/** Says who asks and whose times of day are meant, and is told the number of the catalogue in the same breath. */
async function begun(tx: Tx, asking: Asking): Promise<Catalogue> {
  const { rows } = await tx.execute<{ number: string; owns: boolean }>(
    sql`SELECT ${saying({ ...asking, ...saidOfWayIn() })}, slate.in_workspace_zone(), ${catalogueNumber}`,
  );
  return narrowedByWayIn(await catalogueAt(tx, rows[0]?.number ?? '', rows[0]?.owns === true));
}

/** Adds to what the current transaction says of itself. */
export async function nowAsking(tx: Tx, asking: Partial<Asking>): Promise<void> {
  await tx.execute(sql`SELECT ${saying(asking)}`);
}

const saying = (asking: Partial<Asking> & Readonly<Record<string, string>>): SQL =>
  sql.join(
    Object.entries(asking).map(([key, value]) => sql`set_config(${`slate.${key}`}, ${value}, true)`),
    sql`, `,
  );

class RolledBack extends Error {
  constructor(readonly refusal: Refusal) {
    super('refused');
  }
}

/** Carries what was found out of a transaction that is undone, for whoever only looks. */
class Looked extends Error {
  constructor(readonly result: unknown) {
    super('looked');
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

/** Long enough for what is not in anybody's way. */
const IMPATIENT = { lock: '500ms', statement: '3s' };

/** Gives up at once where a lock is held, and soon in all it does: for what is undone anyway, and must keep nobody waiting. */
export async function impatient(tx: Tx): Promise<void> {
  await tx.execute(
    sql`SELECT set_config('lock_timeout', ${IMPATIENT.lock}, true), set_config('statement_timeout', ${IMPATIENT.statement}, true)`,
  );
}

/** Streams rows into a table with COPY, within a transaction of the owner role. */
export type CopyInto = (statement: SQL) => Writable;

/** Bytes that may be on their way: rows are made while the database still takes those before. */
const IN_FLIGHT = 4 << 20;

const dialect = new PgDialect();

const copyingInto =
  ({ client }: Held): CopyInto =>
  (statement) =>
    client.query(copyFrom(dialect.sqlToQuery(statement).sql, { highWaterMark: IN_FLIGHT }));

/** As the owner role, with a way to copy many rows: both on one connection, so that all of it is one transaction. */
export function asOwnerCopying<T>(
  asking: Asking,
  work: (tx: Tx, copy: CopyInto) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> {
  return held(holdOwner, 0, (one) => run(one.db, asking, (tx) => work(tx, copyingInto(one))));
}

/** As the owner role, what COPY gives of a query, streamed to `take`. */
export async function asOwnerCopyingOut(
  asking: Asking,
  statement: SQL,
  take: (bytes: Readable) => Promise<void>,
): Promise<void> {
  await held(holdOwner, 0, ({ db, client }) =>
    run(db, asking, async () => ok(await take(client.query(copyTo(dialect.sqlToQuery(statement).sql))))),
  );
}

/**
 * As the owner role, two transactions on one connection: what the first put into temporary tables is there
 * for the second. Nobody else does both for the same `alone` meanwhile; null when somebody is at it.
 */
export async function asOwnerInSteps<A, T>(
  asking: Asking,
  alone: string,
  first: (tx: Tx, copy: CopyInto) => Promise<Result<A, Refusal>>,
  second: (tx: Tx, given: A) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal> | null> {
  return held(holdOwner, 0, (one) =>
    whileAlone(one, alone, async () => {
      const given = await run(one.db, asking, (tx) => first(tx, copyingInto(one)));
      const done = given.ok ? await run(one.db, asking, (tx) => second(tx, given.value)) : given;
      await one.db.execute(sql`DROP TABLE IF EXISTS pg_temp.bringing`).catch(() => undefined);
      return done;
    }),
  );
}

/**
 * Does `work` while nobody else, in any process, does what goes by the same name; null when somebody is at
 * it. The lock is the connection's: a process that ends gives it up.
 */
export function asOwnerAlone<T>(alone: string, work: () => Promise<T>): Promise<T | null> {
  return held(holdOwner, 0, (one) => whileAlone(one, alone, work));
}

async function whileAlone<T>({ db }: Held, alone: string, work: () => Promise<T>): Promise<T | null> {
  const lock = sql`hashtext('slate alone'), hashtext(${alone})`;
  const { rows } = await db.execute<{ alone: boolean }>(sql`SELECT pg_try_advisory_lock(${lock}) AS alone`);
  if (rows[0]?.alone !== true) return null;
  try {
    return await work();
  } finally {
    await db.execute(sql`SELECT pg_advisory_unlock(${lock})`).catch(() => undefined);
  }
}

/** For the few statements PostgreSQL carries out only by themselves. */
export async function outsideTransaction(statement: SQL): Promise<Record<string, unknown>[]> {
  return (await ownerDatabase().execute(statement)).rows;
}

/**
 * Times a request begins again after it lost its connection, or met a plan older than its table or a view that has gone; and how long
 * it waits before: a database that restarts is back in a second or two.
 */
const RETRIES = 2;
const RETRY_AFTER_MS = 150;

/** Thrown for a connection that was lost while COMMIT was on its way: whether it arrived is not known. */
class Unsure extends Error {}

/** Takes a connection, does `work` with it and gives it back; begins again when the connection is lost and nothing can have been done. */
async function held<T>(
  take: () => Promise<Held>,
  retries: number,
  work: (one: Held) => Promise<T>,
): Promise<T> {
  let one: Held | null = null;
  let fault: unknown;
  try {
    one = await take();
    return await work(one);
  } catch (error) {
    fault = error;
    const again = isLostConnection(error) || isOutdatedPlan(error) || isOtherwiseShown(error);
    if (retries === 0 || error instanceof Unsure || !again) throw error;
  } finally {
    one?.giveBack(isLostConnection(fault) || fault instanceof Unsure ? fault : undefined);
  }
  if (isLostConnection(fault)) await new Promise((resolve) => setTimeout(resolve, RETRY_AFTER_MS));
  return held(take, retries - 1, work);
}

const LOST_RACES = new Set(['40001', '40P01', '55P03']);

async function run<T>(db: Database, asking: Asking, work: Work<T>): Promise<Result<T, Refusal>> {
  let committing = false;
  try {
    return await db.transaction(async (tx) => {
      const result = await work(tx, await begun(tx, asking));
      // Throwing is how the library is told to roll back.
      if (!result.ok) throw new RolledBack(result.error);
      if (isLooking()) throw new Looked(result);
      committing = true;
      return result;
    });
  } catch (error) {
    if (error instanceof RolledBack) return fail(error.refusal);
    // It was given by this very work.
    if (error instanceof Looked) return error.result as Result<T, Refusal>;
    if (LOST_RACES.has(databaseFault(error)?.code ?? '')) return fail(stale('busy'));
    if (committing && isLostConnection(error)) throw new Unsure('lost while committing', { cause: error });
    throw error;
  }
}

/** What a thrown error means to the person who waits; null for a fault of ours. */
export function refusedBy(error: unknown): Refusal | null {
  if (error instanceof Unsure) return unavailable('unsure');
  if (isLostConnection(error)) return unavailable('database');
  if (isOutOfRoom(error)) return unavailable('no-room', 30);
  return isTooSlow(error) ? unavailable('too-slow', 30) : null;
}
