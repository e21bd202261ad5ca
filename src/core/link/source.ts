/** A place outside whose records are linked: another PostgreSQL database, or a list at a JSON address. Its secret is kept apart from it. */
export type SourceAddress =
  | {
      readonly t: 'database';
      readonly host: string;
      readonly port: number;
      readonly database: string;
      readonly user: string;
    }
  /** `header` is the name of the request header that carries the secret; empty for none. */
  | { readonly t: 'list'; readonly url: string; readonly header: string };

/** Whether a secret that was given for one address may be sent to another: only to the same place, as the same user. */
export function samePlace(one: SourceAddress, other: SourceAddress): boolean {
  if (one.t === 'database')
    return (
      other.t === 'database' &&
      one.host === other.host &&
      one.port === other.port &&
      one.database === other.database &&
      one.user === other.user
    );
  return (
    other.t === 'list' &&
    URL.canParse(one.url) &&
    URL.canParse(other.url) &&
    new URL(one.url).origin === new URL(other.url).origin &&
    one.header === other.header
  );
}

/** The address as people read it; never with its secret. */
export const addressText = (address: SourceAddress): string =>
  address.t === 'list'
    ? address.url
    : `${address.user} at ${address.host}:${address.port}, database ${address.database}`;

/** Why a source could not be read. `facts` are for its sentence. */
export const sourceFaults = [
  'no-answer',
  'inside',
  'sign-in-refused',
  'not-there',
  'answer-wrong',
  'too-large',
  'no-json',
  'no-list',
  'key-missing',
  'columns-gone',
  'values-unfit',
  'secret-lost',
  'not-possible-here',
  'fault',
] as const;
export interface SourceFault {
  readonly code: (typeof sourceFaults)[number];
  readonly facts: Readonly<Record<string, string | number>>;
}
export const sourceFault = (code: SourceFault['code'], facts: SourceFault['facts'] = {}): SourceFault => ({
  code,
  facts,
});
