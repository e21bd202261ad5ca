import { sql } from 'drizzle-orm';
import { appDatabase, type Tx } from '../../connect';
import { databaseFault } from '../../field-issues';
import { log } from '../../log';
import { GoOutside } from '../../transaction';
import { unsealed } from '../../secret';
import { linksAmong, type SourceRow } from '../../system/links';

/** The secret of a source can be read no more: the key of the workspace is another. */
export class SecretLost extends Error {}

export const secretOf = ({ id, secret }: Pick<SourceRow, 'id' | 'secret'>): string | null =>
  secret === null ? '' : unsealed(secret, id);

/**
 * How long one statement may wait for another database: a job goes through a whole table, somebody who sends
 * a form waits for the answer.
 */
export const patience = { job: '10min', person: '10s' } as const;

type Patience = (typeof patience)[keyof typeof patience];

/** Lets this transaction reach another database. It must be closed before the transaction ends, or be undone with it. */
export async function openSource(tx: Tx, source: SourceRow, longest: Patience): Promise<void> {
  const secret = secretOf(source);
  if (source.address.t !== 'database') return;
  if (secret === null) throw new SecretLost();
  await tx.execute(sql`SELECT set_config('statement_timeout', ${longest}, true)`);
  await tx.execute(sql`SELECT slate.open_source(${source.id}::uuid, ${source.address.user}, ${secret})`);
}

export async function closeSource(tx: Tx, source: SourceRow): Promise<void> {
  if (source.address.t === 'database')
    await tx.execute(
      sql`SELECT slate.close_source(${source.id}::uuid), set_config('statement_timeout', reset_val, true) FROM pg_settings WHERE name = 'statement_timeout'`,
    );
}

/**
 * Does `work`, which writes to these tables, with the sources open that some of them are linked to. When it
 * throws, the transaction must be undone. Somebody who waits for an answer is carried out where waiting keeps
 * nobody else, and does not wait at all for a source known to be silent.
 */
export async function withSources<T>(
  tx: Tx,
  tables: readonly string[],
  longest: Patience,
  work: () => Promise<T>,
): Promise<T> {
  const written = (await linksAmong(tx, tables)).filter(
    ({ link: { mapping } }) => mapping.t === 'table' && (mapping.adds || mapping.changes),
  );
  if (written.length === 0) return work();
  // In one order everywhere, so that no two transactions wait for one another.
  const sources = [...new Map(written.map(({ source }) => [source.id, source])).values()].sort((a, b) =>
    a.id.localeCompare(b.id),
  );
  if (longest === patience.person) {
    if (!(await isOutside(tx))) throw new GoOutside();
    if (sources.some(isKnownSilent)) throw new SourceSilent();
  }
  try {
    for (const source of sources) await openSource(tx, source, longest);
    const done = await work();
    for (const source of sources) await closeSource(tx, source);
    for (const source of sources.filter(({ failures }) => failures > 0)) await noteSource(source.id, true);
    return done;
  } catch (error) {
    if (isSilence(error)) for (const source of sources) await noteSource(source.id, false);
    throw error;
  }
}

const isKnownSilent = ({ silentUntil }: Pick<SourceRow, 'silentUntil'>): boolean =>
  silentUntil !== null && silentUntil.getTime() > Date.now();

/** A source did not answer what was asked of it beside the transaction; told by the code PostgreSQL has for that. */
export class SourceAway extends Error {
  readonly code = '08001';
}
/** One that has not answered for a while is not waited for. */
class SourceSilent extends SourceAway {}

/** It could not be reached, or took longer than anybody waits. */
const isSilence = (error: unknown): boolean =>
  !(error instanceof SourceSilent) && /^(08|57014)/.test(databaseFault(error)?.code ?? '');

async function isOutside(tx: Tx): Promise<boolean> {
  const { rows } = await tx.execute<{ outside: boolean }>(
    sql`SELECT coalesce(current_setting('slate.outside', true), '') = 'yes' AS outside`,
  );
  return rows[0]?.outside ?? false;
}

/** Writes down, beside whatever happens to the transaction, whether a source answered. */
export async function noteSource(id: string, answered: boolean): Promise<void> {
  await appDatabase()
    .execute(sql`SELECT slate.note_source(${id}::uuid, ${answered})`)
    .catch((error: unknown) =>
      log.warn({ error: String(error).slice(0, 200) }, 'a source’s silence could not be noted'),
    );
}
