import { sql } from 'drizzle-orm';
import { listeningClient, type Tx } from './connect';
import { log } from './log';

/**
 * One LISTEN connection per process. Whatever any process commits is told here, so a second process misses nothing.
 * When the connection is lost, everybody is told `again` once it is back, for something may have been missed.
 */
type Told = (topic: string) => void;

const listeners = new Set<Told>();
let started = false;

export function listen(told: Told): () => void {
  listeners.add(told);
  if (!started) {
    started = true;
    void connect();
  }
  return () => listeners.delete(told);
}

/** Tells those who follow a topic something that is of interest only now, and is written down nowhere. Words have no spaces in them. */
export async function tellNow(tx: Tx, topic: string, words: readonly string[]): Promise<void> {
  await tx.execute(sql`SELECT pg_notify('slate_live', ${[topic, ...words].join(' ')})`);
}

const RETRY_MS = 1_000;

async function connect(again = false): Promise<void> {
  const client = listeningClient();
  let lost = false;
  const retry = (error?: Error) => {
    if (lost) return;
    lost = true;
    log.warn({ error: error?.message }, 'the live connection was lost; trying again');
    client.end().catch(() => undefined);
    setTimeout(() => void connect(true), RETRY_MS).unref();
  };
  client.on('error', retry);
  client.on('end', () => retry());
  client.on('notification', ({ payload }) => tell(payload ?? ''));
  try {
    await client.connect();
    await client.query('LISTEN slate_live');
    if (again) tell('again');
  } catch (error) {
    retry(error instanceof Error ? error : undefined);
  }
}

function tell(topic: string): void {
  for (const told of listeners) told(topic);
}
