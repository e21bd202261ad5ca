/** What lines of the trail are about. */
export const trailSubjects = [
  'person',
  'group',
  'right',
  'form',
  'release',
  'table',
  'column',
  'list',
  'source',
  'linked-table',
  'form-writes',
  'token',
  'address',
  'outside-link',
  'outside-words',
  'workspace',
  'absence',
  'password',
  'invitation',
  'session',
  'second-step',
  'passkey',
  'provider',
  'look',
  'people-list',
  'personal-search',
  'personal-data',
] as const;
export type TrailSubject = (typeof trailSubjects)[number];

/** `refused`: of a session, that somebody was not let in. */
export type TrailVerb = 'made' | 'changed' | 'removed' | 'refused';

/**
 * By the names of columns: what stood there and what stands there now, as texts, cut off after 300 letters;
 * of a secret only that it is another.
 */
export type Changed = Readonly<Record<string, readonly [string | null, string | null] | 'secret'>>;

/** A line as it is kept. */
export interface TrailLine {
  readonly id: number;
  readonly at: Date;
  readonly byId: string | null;
  readonly tokenId: string | null;
  readonly address: string | null;
  readonly subject: TrailSubject;
  readonly verb: TrailVerb;
  readonly label: string;
  readonly changed: Changed;
}
