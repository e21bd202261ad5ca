import { sql } from 'drizzle-orm';
import type { Tx } from '../connect';
import { unsealed } from '../secret';
import { linksAmong, type SourceRow } from '../system/links';

/** The secret of a source can be read no more: the key of the workspace is another. */
export class SecretLost extends Error {}

export const secretOf = ({ id, secret }: Pick<SourceRow, 'id' | 'secret'>): string | null =>
  secret === null ? '' : unsealed(secret, id);

/** How long one statement may wait for another database: a job goes through a whole table, somebody who sends a form waits for the answer. */
export const patience = { job: '10min', person: '20s' } as const;

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

/** Does `work`, which writes to these tables, with the sources open that some of them are linked to. When it throws, the transaction must be undone. */
export async function withSources<T>(
  tx: Tx,
  tables: readonly string[],
  longest: Patience,
  work: () => Promise<T>,
): Promise<T> {
  const written = (await linksAmong(tx, tables)).filter(
    ({ link: { mapping } }) => mapping.t === 'table' && (mapping.adds || mapping.changes),
  );
  // In one order everywhere, so that no two transactions wait for one another.
  const sources = [...new Map(written.map(({ source }) => [source.id, source])).values()].sort((a, b) =>
    a.id.localeCompare(b.id),
  );
  for (const source of sources) await openSource(tx, source, longest);
  const done = await work();
  for (const source of sources) await closeSource(tx, source);
  return done;
}
