import type { Facts, Issue } from './issue';

/** Why a use case would not do what was asked. The door turns it into an RFC 9457 problem document. */
export type Refusal =
  | { readonly kind: 'invalid'; readonly issues: readonly Issue[] }
  | { readonly kind: 'not-found'; readonly what: Thing }
  | { readonly kind: 'forbidden'; readonly why: ForbiddenReason }
  | Stale
  | { readonly kind: 'too-large'; readonly limitBytes: number }
  | { readonly kind: 'too-many'; readonly why: TooManyReason; readonly retryAfter: number }
  | { readonly kind: 'unavailable'; readonly why: UnavailableReason; readonly retryAfter: number };

export type Thing =
  | 'form'
  | 'release'
  | 'submission'
  | 'table'
  | 'view'
  | 'record'
  | 'question'
  | 'file'
  | 'page'
  | 'import'
  | 'change'
  | 'source'
  | 'choice list'
  | 'person'
  | 'example'
  | 'group'
  | 'invitation'
  | 'token'
  | 'passkey'
  | 'link';
export type ForbiddenReason =
  | 'sign-in'
  | 'password'
  | 'code'
  | 'code-late'
  | 'passkey'
  | 'no-passkeys-here'
  | 'no-provider'
  | 'provider-silent'
  | 'provider-late'
  | 'provider-no'
  | 'provider-nobody'
  | 'design'
  | 'fill'
  | 'change-by-form'
  | 'see'
  | 'design-table'
  | 'remove-records'
  | 'own-only'
  | 'not-asked'
  | 'own-submission'
  | 'origin'
  | 'sources'
  | 'people'
  | 'workspace'
  | 'token'
  | 'beyond-token'
  | 'looking'
  | 'link'
  | 'link-waits'
  | 'proof'
  | 'link-stopped'
  | 'link-over'
  | 'link-full'
  | Shut;
/** Why a form is open to nobody just now. */
type Shut = 'form-closed' | 'form-not-yet' | 'form-over' | 'form-full';
/** Why what somebody asks does not go with what is there now, and what is told of that. */
interface StaleFacts {
  readonly 'design-changed': Told<'by'> & { readonly version?: number };
  readonly 'draft-changed': { readonly version: number };
  readonly 'already-sent': { readonly state: string };
  readonly 'already-decided': { readonly state: string } & Told<'by' | 'decision'>;
  readonly 'not-waiting': { readonly state: string };
  readonly 'table-changed': Told<'by'>;
  readonly 'list-changed': Told<'by'>;
  readonly busy: object;
  readonly 'key-reused': object;
  readonly 'import-moved': object;
  readonly 'import-changed': object;
  readonly 'change-changed': object;
  readonly 'change-ended': object;
  readonly 'source-changed': object;
  readonly 'who-changed': object;
  readonly 'outside-changed': object;
  readonly 'address-changed': object;
  readonly 'view-changed': object;
  readonly 'workspace-changed': object;
  readonly 'people-changed': object;
  readonly 'record-moved-on': object;
  readonly 'bulk-running': object;
}
/** The name of somebody, or a word; left out or null where it is not known. */
type Told<Names extends string> = { readonly [Name in Names]?: string | null };

export type StaleReason = keyof StaleFacts;
export type StaleOf<Why extends StaleReason> = {
  readonly kind: 'stale';
  readonly why: Why;
  readonly facts: StaleFacts[Why] & Facts;
};
export type Stale = { readonly [Why in StaleReason]: StaleOf<Why> }[StaleReason];

export const invalid = (...issues: Issue[]): Refusal => ({ kind: 'invalid', issues });
export const notFound = (what: Thing): Refusal => ({ kind: 'not-found', what });
export const forbidden = (why: ForbiddenReason): Refusal => ({ kind: 'forbidden', why });
export const stale = <Why extends StaleReason>(
  why: Why,
  ...[facts]: object extends StaleFacts[Why] ? [facts?: StaleFacts[Why]] : [facts: StaleFacts[Why]]
): Stale => ({ kind: 'stale', why, facts: facts ?? {} }) as Stale;

/** `retryAfter` is in seconds. */
export type TooManyReason = 'streams' | 'sign-in' | 'token' | 'outside';
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
