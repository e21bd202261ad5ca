import type { Followed, MetOutside, SentFromOutside } from '../../contract/outside';
import type { LookupOptions, SheetData } from '../../contract/sheet-from-server';
import type { Catalogue } from '../../core/catalogue/catalogue';
import type { Answers } from '../../core/form/answers';
import { forbidden, notFound, type Refusal } from '../../core/kernel/refusal';
import { fail, ok, type Result } from '../../core/kernel/result';
import { unopened } from '../../core/outside/link';
import { isProof, proofText } from '../../core/outside/proof';
import type { Tx } from '../../data/connect';
import { followSecret, sha256 } from '../../data/secret';
import { liveRelease } from '../../data/system/forms';
import { takePlace } from '../../data/system/outside';
import { readEvents, readSubmission } from '../../data/system/submissions';
import { asPerson } from '../../data/transaction';
import { withdrawSubmission, type Decided } from '../submissions/decide-submission';
import { openNewSheet, openSubmission } from '../submissions/open-sheet';
import { draftSaved } from '../submissions/save-draft';
import { eachOfLookup, nameLookup, searchLookup } from '../submissions/search-lookup';
import { draftSent, type Sent } from '../submissions/send-submission';
import { once } from '../workspace/once';
import { asVisitor, comeByLink, sitesOf, type Visitor } from './come-in';
import { forOutside } from './met-outside';

/** The form that a link leads to, ready to be filled. */
export function openForm(visitor: Visitor): Promise<Result<MetOutside, Refusal>> {
  const { link } = visitor;
  return asVisitor(visitor, async (context) => {
    const waits = await asPerson({ person: context.person.id }, async (tx, catalogue) => {
      const refused = await isWaiting(tx, catalogue, visitor);
      return refused === null ? ok(null) : fail(refused);
    });
    if (!waits.ok) return waits;
    const sheet = await openNewSheet(context, link.formKey);
    return sheet.ok ? ok(met(visitor, sheet.value)) : sheet;
  });
}

/** The same by the address somebody has opened, with the sites that may show what is there, also where it is closed. */
export async function comeByAddress(
  secret: string,
  now: Date,
): Promise<{ origins: readonly string[]; met: Result<MetOutside, Refusal> }> {
  const visitor = await comeByLink(secret, now);
  return visitor.ok
    ? { origins: visitor.value.link.origins, met: await openForm(visitor.value) }
    : { origins: await sitesOf(secret), met: visitor };
}

/** Where nothing is said to people outside in particular, they read what everybody reads who has sent it. */
const met = ({ link: { secret, welcome, thanks } }: Visitor, sheet: SheetData): MetOutside => ({
  link: secret,
  welcome,
  thanks: thanks || (sheet.design.after?.message ?? ''),
  sheet: forOutside(sheet),
});

/** Whether the form shows something to look up that nobody has opened to people outside. */
async function isWaiting(tx: Tx, catalogue: Catalogue, { link }: Visitor): Promise<Refusal | null> {
  const release = await liveRelease(tx, catalogue, link.form);
  if (release === null) return notFound('form');
  return unopened(release.design, link.lookups).length > 0 ? forbidden('link-waits') : null;
}

interface Sending {
  readonly id: string;
  readonly key: string;
  readonly answers: Answers;
  readonly proof: number;
}

/** Makes a submission and sends it, in one transaction: of somebody outside nothing is kept that was not sent. */
export function sendFromOutside(
  visitor: Visitor,
  { id, key, answers, proof }: Sending,
): Promise<Result<SentFromOutside, Refusal>> {
  const { link } = visitor;
  if (!isProof(sha256(proofText(link.secret, id, proof)))) return Promise.resolve(fail(forbidden('proof')));
  const asked = { operation: 'send-from-outside', of: id, said: answers };
  return sending(visitor, id, async (tx, catalogue) =>
    once(tx, visitor.context, key, asked, async () => {
      const refused = await isWaiting(tx, catalogue, visitor);
      if (refused !== null) return fail(refused);
      // What was sent is met by what was given for following it, and never by its id alone.
      if ((await readSubmission(tx, id)) !== null) return fail(notFound('submission'));
      if (!(await takePlace(tx))) return fail(forbidden('link-full'));
      const kept = await draftSaved(tx, catalogue, visitor.context, id, {
        form: link.form,
        version: 0,
        answers,
      });
      return kept.ok ? draftSent(tx, catalogue, visitor.context, id, kept.value.version) : kept;
    }),
  );
}

/** Answers what was sent back. */
export function sendAgain(
  visitor: Visitor,
  { key, version, answers }: { key: string; version: number; answers: Answers },
): Promise<Result<SentFromOutside, Refusal>> {
  const id = visitor.visit.submission;
  const asked = { operation: 'send-from-outside', of: id, said: [version, answers] };
  return sending(visitor, id, async (tx, catalogue) =>
    once(tx, visitor.context, key, asked, async () => {
      const kept = await draftSaved(tx, catalogue, visitor.context, id, {
        form: visitor.link.form,
        version,
        answers,
      });
      return kept.ok ? draftSent(tx, catalogue, visitor.context, id, kept.value.version) : kept;
    }),
  );
}

const sending = (
  visitor: Visitor,
  id: string,
  work: (tx: Tx, catalogue: Catalogue) => Promise<Result<Sent, Refusal>>,
): Promise<Result<SentFromOutside, Refusal>> =>
  asVisitor(visitor, async ({ person }) => {
    const sent = await asPerson({ person: person.id }, work);
    return sent.ok ? ok({ ...told(sent.value), follow: `${id}.${followSecret(id)}` }) : sent;
  });

const told = ({ number, state }: Sent): Pick<SentFromOutside, 'number' | 'state'> => ({ number, state });

/** How what they sent stands. */
export function openFollowed(visitor: Visitor): Promise<Result<Followed, Refusal>> {
  const { submission } = visitor.visit;
  return asVisitor(visitor, async (context) => {
    const sheet = await openSubmission(context, submission);
    if (!sheet.ok) return sheet;
    return asPerson({ person: context.person.id }, async (tx) => {
      const row = await readSubmission(tx, submission);
      if (row === null || row.number === null) return fail(notFound('submission'));
      const said = (await readEvents(tx, submission)).findLast(
        ({ kind }) => kind === 'send-back' || kind === 'decline',
      );
      return ok({
        ...met(visitor, sheet.value),
        id: row.id,
        number: row.number,
        version: row.version,
        state: row.state,
        sentAt: row.sentAt?.toISOString() ?? null,
        word: row.state === 'sent-back' || row.state === 'declined' ? (said?.word ?? '') : '',
      });
    });
  });
}

export const withdrawFromOutside = (
  visitor: Visitor,
  input: { key: string; version: number },
): Promise<Result<Decided, Refusal>> =>
  asVisitor(visitor, (context) => withdrawSubmission(context, visitor.visit.submission, input));

/** What whoever looks something up asks, in the form of their link. */
interface Looking<Asks> {
  readonly question: string;
  readonly asks: Asks;
}
type AskedOf<F extends (context: never, input: never) => unknown> = Omit<
  Parameters<F>[1],
  'form' | 'question' | 'submission'
>;

export const searchFromOutside = (
  visitor: Visitor,
  asked: Looking<AskedOf<typeof searchLookup>>,
): Promise<Result<LookupOptions, Refusal>> =>
  looking(visitor, asked, async (context, input) => {
    const found = await searchLookup(context, { ...asked.asks, ...input });
    return found.ok ? ok({ ...found.value, addsTo: null, copied: null }) : found;
  });

export const nameFromOutside = (visitor: Visitor, asked: Looking<AskedOf<typeof nameLookup>>) =>
  looking(visitor, asked, (context, input) => nameLookup(context, { ...asked.asks, ...input }));

export const eachFromOutside = (visitor: Visitor, asked: Looking<AskedOf<typeof eachOfLookup>>) =>
  looking(visitor, asked, (context, input) => eachOfLookup(context, { ...asked.asks, ...input }));

interface PlaceAsked {
  readonly form: string;
  readonly question: string;
  readonly submission: string | null;
}

/** Only what was opened to people outside; of what was sent, by the release it was sent under. */
const looking = <T>(
  visitor: Visitor,
  { question }: { readonly question: string },
  look: (context: Visitor['context'], input: PlaceAsked) => Promise<Result<T, Refusal>>,
): Promise<Result<T, Refusal>> => {
  const { link, visit } = visitor;
  if (!link.lookups.includes(question)) return Promise.resolve(fail(notFound('question')));
  return asVisitor(visitor, (context) =>
    look(context, { form: link.form, question, submission: visit.fills ? null : visit.submission }),
  );
};
