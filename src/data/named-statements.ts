import { createHash } from 'node:crypto';
import type pg from 'pg';
import { databaseFault } from './field-issues';

/**
 * PostgreSQL plans a statement that has a name once for each connection, and planning costs more than
 * carrying out most of ours. So statements with parameters are named by their text. PostgreSQL plans them
 * anew by itself when a table changes, except where the result would have other types: such a statement
 * fails, every name is changed, and its transaction begins again.
 */
const MOST_NAMES = 300;
/** A text longer than this is hardly ever the same twice. */
const LONGEST = 8_000;

let edition = 0;
const hashes = new Map<string, string>();
const used = new WeakMap<pg.ClientBase, Set<string>>();

function nameOf(text: string): string {
  const hash = hashes.get(text) ?? createHash('sha1').update(text).digest('base64url');
  if (hashes.size >= 10 * MOST_NAMES) hashes.clear();
  hashes.set(text, hash);
  return `${hash}_${edition}`;
}

/** Gives the statements of a connection names from now on. */
export function nameStatements(client: pg.ClientBase): void {
  const names = new Set<string>();
  used.set(client, names);
  const query = client.query.bind(client) as (...args: unknown[]) => unknown;
  const named = (config: unknown, values: unknown, ...rest: unknown[]): unknown =>
    query(withName(names, config, values), values, ...rest);
  // The driver's method has a dozen overloads; whatever they were given is handed on.
  client.query = named as typeof client.query;
}

function withName(names: Set<string>, config: unknown, values: unknown): unknown {
  if (!Array.isArray(values) || values.length === 0) return config;
  if (typeof config !== 'object' || config === null || !('text' in config)) return config;
  const { text, name: given } = config as { text: unknown; name?: unknown };
  if (typeof text !== 'string' || given !== undefined || text.length > LONGEST) return config;
  const name = nameOf(text);
  if (!names.has(name) && names.size >= MOST_NAMES) return config;
  names.add(name);
  return { ...config, name };
}

/** A connection that has planned this much is given up for a new one. */
export const hasPlannedEnough = (client: pg.ClientBase): boolean =>
  (used.get(client)?.size ?? 0) >= MOST_NAMES;

/** Whether a statement failed because its plan is older than its table; from then on all go by other names. */
export function isOutdatedPlan(error: unknown): boolean {
  const fault = databaseFault(error);
  if (fault?.code !== '0A000' || fault.message?.startsWith('cached plan') !== true) return false;
  edition += 1;
  return true;
}
