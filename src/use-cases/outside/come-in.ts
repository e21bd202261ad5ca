import type { Visit } from '../../core/catalogue/visiting';
import { languages, type Language } from '../../core/formats/formats';
import { isUuid } from '../../core/kernel/ids';
import { forbidden, tooMany, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { linkState } from '../../core/outside/link';
import { appDatabase } from '../../data/connect';
import { followSecret, sameSecret } from '../../data/secret';
import { linkBySecret, linkOfSubmission, type KnownLink } from '../../data/system/outside';
import { claimOutside } from '../../data/system/sign-in-tries';
import { withVisit } from '../../data/way-in';
import type { Context } from '../workspace/asking';

/** Somebody without an account: by which link they came, and as whom they ask. */
export interface Visitor {
  readonly link: KnownLink;
  readonly visit: Visit;
  readonly context: Context;
}

const SECRET = /^[\w-]{43}$/;
/** Nobody's: for whoever has come and sent nothing yet. */
const NONE = '00000000-0000-0000-0000-000000000000';

/** Comes by the address of a link, to fill its form; `submission` is the one about to be sent. */
export async function comeByLink(
  secret: string,
  now: Date,
  submission = NONE,
): Promise<Result<Visitor, Refusal>> {
  const link = SECRET.test(secret) ? await linkBySecret(secret) : null;
  if (link === null) return fail(forbidden('link'));
  const state = linkState(link, now);
  return state === 'open'
    ? ok(visitorOf(link, now, { submission, fills: true }))
    : fail(forbidden(`link-${state}`));
}

/** In which language an address for people outside speaks: that of the form it leads to; null for that of the workspace. */
export async function languageAt({ pathname, searchParams }: URL): Promise<Language | null> {
  const secret = /^\/open\/([\w-]{43})$/.exec(pathname)?.[1];
  if (secret !== undefined) return (await linkBySecret(secret))?.language ?? null;
  // What is followed is told apart by what never reaches the server; the mail that leads there says the language.
  return languages.find((one) => one === searchParams.get('in')) ?? null;
}

/** The sites that may show what a link leads to. */
export const sitesOf = async (secret: string): Promise<readonly string[]> =>
  SECRET.test(secret) ? ((await linkBySecret(secret))?.origins ?? []) : [];

/** Comes back to what they sent, also by a link that is over. */
export async function comeBack(name: string, now: Date): Promise<Result<Visitor, Refusal>> {
  const [submission = '', secret = ''] = name.split('.');
  if (!isUuid(submission) || !sameSecret(secret, followSecret(submission))) return fail(forbidden('link'));
  const link = await linkOfSubmission(submission);
  return link === null ? fail(forbidden('link')) : ok(visitorOf(link, now, { submission, fills: false }));
}

const visitorOf = (
  link: KnownLink,
  now: Date,
  { submission, fills }: Pick<Visit, 'submission' | 'fills'>,
): Visitor => ({
  link,
  visit: { person: link.person.id, form: link.form, fills, submission },
  context: { person: { ...link.person, roles: [] }, now },
});

/** Does what a visitor asks: every transaction of it reaches their one submission and what the form shows, and nothing else. */
export const asVisitor = <T>(
  { visit, context }: Visitor,
  work: (context: Context) => Promise<T>,
): Promise<T> => withVisit(visit, () => work(context));

/** Counts what comes from an address; a refusal where that is more than people do. */
export async function slowedDown(what: 'sent' | 'looked', address: string): Promise<Refusal | null> {
  const wait = await claimOutside(appDatabase(), what, address);
  return wait === null ? null : tooMany('outside', wait);
}
