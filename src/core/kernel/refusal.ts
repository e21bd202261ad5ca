import type { Facts, Issue } from './issue';

/** Why a use case would not do what was asked. The door turns it into an RFC 9457 problem document. */
export type Refusal =
  | { readonly kind: 'invalid'; readonly issues: readonly Issue[] }
  | { readonly kind: 'not-found'; readonly what: Thing }
  | { readonly kind: 'forbidden'; readonly why: ForbiddenReason }
  | { readonly kind: 'stale'; readonly why: StaleReason; readonly facts: Facts }
  | { readonly kind: 'too-large'; readonly limitBytes: number }
  | { readonly kind: 'too-many'; readonly why: TooManyReason; readonly retryAfter: number }
  | { readonly kind: 'unavailable'; readonly why: UnavailableReason; readonly retryAfter: number };

export type Thing =
  | 'form'
  | 'release'
  | 'submission'
  | 'table'
  | 'record'
  | 'question'
  | 'page'
  | 'import'
  | 'change'
  | 'source'
  | 'choice list'
  | 'person'
  | 'group'
  | 'invitation';
export type ForbiddenReason =
  | 'sign-in'
  | 'password'
  | 'design'
  | 'fill'
  | 'see'
  | 'design-table'
  | 'own-only'
  | 'not-asked'
  | 'own-submission'
  | 'origin'
  | 'sources'
  | 'people';
export type StaleReason =
  | 'design-changed'
  | 'draft-changed'
  | 'already-sent'
  | 'already-decided'
  | 'not-waiting'
  | 'busy'
  | 'key-reused'
  | 'import-moved'
  | 'import-changed'
  | 'table-changed'
  | 'change-changed'
  | 'change-ended'
  | 'source-changed'
  | 'list-changed'
  | 'who-changed';

export const invalid = (...issues: Issue[]): Refusal => ({ kind: 'invalid', issues });
export const notFound = (what: Thing): Refusal => ({ kind: 'not-found', what });
export const forbidden = (why: ForbiddenReason): Refusal => ({ kind: 'forbidden', why });
export const stale = (why: StaleReason, facts: Facts = {}): Extract<Refusal, { kind: 'stale' }> => ({
  kind: 'stale',
  why,
  facts,
});

/** `retryAfter` is in seconds. */
export type TooManyReason = 'streams' | 'sign-in';
/** `unsure`: the connection was lost while the last word was on its way; the same request sent again finds out. */
export type UnavailableReason = 'database' | 'unsure' | 'too-slow' | 'outside' | 'no-room';

export const tooMany = (why: TooManyReason, retryAfter: number): Refusal => ({
  kind: 'too-many',
  why,
  retryAfter,
});
export const unavailable = (why: UnavailableReason, retryAfter = 2): Refusal => ({
  kind: 'unavailable',
  why,
  retryAfter,
});
