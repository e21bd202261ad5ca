import { AsyncLocalStorage } from 'node:async_hooks';
import { narrowed, type Token } from '../core/catalogue/narrowed';
import type { Catalogue } from '../core/catalogue/catalogue';

/**
 * The token by which a program asks, for as long as its request is answered. It is told to every transaction of that request, and narrows the catalogue each is
 * given, so that no use case can forget it (ADR 35).
 */
const inUse = new AsyncLocalStorage<Token>();

export const withToken = <T>(token: Token, work: () => Promise<T>): Promise<T> => inUse.run(token, work);

export const tokenInUse = (): Token | null => inUse.getStore() ?? null;

/** Neither a catalogue nor a token ever changes. */
const known = new WeakMap<Catalogue, Map<string, Catalogue>>();

export function narrowedByToken(catalogue: Catalogue): Catalogue {
  const token = tokenInUse();
  if (token === null) return catalogue;
  const of = known.get(catalogue) ?? new Map<string, Catalogue>();
  known.set(catalogue, of);
  const before = of.get(token.id);
  if (before !== undefined) return before;
  const made = narrowed(catalogue, token);
  of.set(token.id, made);
  return made;
}
