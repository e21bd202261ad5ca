import { randomBytes } from 'node:crypto';
import type { NoticesData, TellingData } from '../../contract/notices';
import type { ByMail } from '../../core/notice/notice';
import type { Refusal } from '../../core/kernel/refusal';
import { ok, type Result } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { noticeSentence } from '../../core/wording/notice-sentence';
import { byMailOf, markSeen, noticesOf, setTelling } from '../../data/system/notices';
import { asPerson } from '../../data/transaction';
import { hashOf } from '../people/keep-person';
import { mailsHere } from '../../outside/mail';
import type { Context } from '../workspace/asking';

/** What whoever asks was told of lately, newest first. */
export function readNotices({ person }: Context): Promise<Result<NoticesData, Refusal>> {
  return asPerson({ person: person.id }, async (tx) =>
    ok({
      notices: (await noticesOf(tx, person.id, limits.notices)).map((row) => ({
        id: row.id,
        kind: row.kind,
        submission: row.submissionId,
        sentence: noticeSentence(row),
        word: row.word,
        at: row.at.toISOString(),
        seen: row.seen,
      })),
    }),
  );
}

/** They have looked at all up to one notice, or at one submission. */
export function lookedAt(
  { person }: Context,
  which: { upTo: number } | { submission: string },
): Promise<Result<null, Refusal>> {
  return asPerson({ person: person.id }, async (tx) => {
    await markSeen(tx, person.id, which);
    return ok(null);
  });
}

/** How they are told; and whether anybody can be mailed here. */
export function howTold({ person }: Context): Promise<Result<TellingData, Refusal>> {
  return asPerson({ person: person.id }, async (tx) =>
    ok({ ...(await byMailOf(tx, person.id)), mails: mailsHere() }),
  );
}

export function tellByMail({ person }: Context, byMail: ByMail): Promise<Result<null, Refusal>> {
  return asPerson({ person: person.id }, async (tx) => {
    await setTelling(tx, person.id, { byMail });
    return ok(null);
  });
}

/** A new secret for the address of their calendar, shown once; the one before opens nothing any more. */
export function makeCalendar({ person }: Context): Promise<Result<{ path: string }, Refusal>> {
  return asPerson({ person: person.id }, async (tx) => {
    const secret = randomBytes(24).toString('base64url');
    await setTelling(tx, person.id, { calendarHash: hashOf(secret) });
    return ok({ path: `/calendar/${secret}.ics` });
  });
}

export function endCalendar({ person }: Context): Promise<Result<null, Refusal>> {
  return asPerson({ person: person.id }, async (tx) => {
    await setTelling(tx, person.id, { calendarHash: null });
    return ok(null);
  });
}
