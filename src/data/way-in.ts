import { AsyncLocalStorage } from 'node:async_hooks';
import { narrowed, type Token } from '../core/catalogue/narrowed';
import { visiting, type Visit } from '../core/catalogue/visiting';
import type { Catalogue } from '../core/catalogue/catalogue';

/**
 * By what somebody asks who is not signed in, for as long as their request is answered: a program by a token
 * (ADR 35), a visitor by a link (ADR 37). It is told to every transaction of that request, and narrows the
 * catalogue each is given, so that no use case can forget it.
 */
type WayIn = { readonly t: 'token'; readonly token: Token } | { readonly t: 'visit'; readonly visit: Visit };

const inUse = new AsyncLocalStorage<WayIn>();

export const withToken = <T>(token: Token, work: () => Promise<T>): Promise<T> =>
  inUse.run({ t: 'token', token }, work);

export const withVisit = <T>(visit: Visit, work: () => Promise<T>): Promise<T> =>
  inUse.run({ t: 'visit', visit }, work);

/** The address a request came from, for as long as it is answered. */
const from = new AsyncLocalStorage<string>();

export const comingFrom = <T>(address: string, work: () => T): T => from.run(address, work);

/** What a transaction says of it, by the names the database reads. */
export function saidOfWayIn(): Readonly<Record<string, string>> {
  const way = inUse.getStore();
  const address = from.getStore();
  return {
    ...(address !== undefined && { address }),
    ...(way?.t === 'token' && { token: way.token.id }),
    ...(way?.t === 'visit' && { visit: way.visit.submission }),
  };
}

/** Neither a catalogue nor a way in ever changes. */
const known = new WeakMap<Catalogue, Map<string, Catalogue>>();

export function narrowedByWayIn(catalogue: Catalogue): Catalogue {
  const way = inUse.getStore();
  if (way === undefined) return catalogue;
  const of = known.get(catalogue) ?? new Map<string, Catalogue>();
  known.set(catalogue, of);
  const name = way.t === 'token' ? way.token.id : `${way.visit.person} ${way.visit.form} ${way.visit.fills}`;
  const before = of.get(name);
  if (before !== undefined) return before;
  const made = way.t === 'token' ? narrowed(catalogue, way.token) : visiting(catalogue, way.visit);
  of.set(name, made);
  return made;
}
