import { ok } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { mailAtOnce, mailOfTheDay, type Told } from '../../core/wording/notice-mail';
import {
  markDay,
  markMailed,
  nextForTheDay,
  nextToMail,
  settleUnmailed,
  type NoticeRow,
} from '../../data/system/notices';
import { asOwner } from '../../data/transaction';
import { mailer, type Mailer } from '../../outside/mail';
import { localTime } from '../workspace/asking';

const NOBODY = { person: '' };

/**
 * Mails what people are to be told and have not looked at: at once, or once a day from `limits.mailFrom` on. What is held while its mail is on its way is marked
 * with it, so two workers never send the same. Whoever is killed between the two sends it once more, under the same Message-ID.
 */
export async function mailNotices(now = new Date(), by = mailer()): Promise<void> {
  if (by === null) return;
  try {
    await asOwner(NOBODY, async (tx) =>
      ok(await settleUnmailed(tx, now, new Date(now.getTime() - limits.newsDays * 86_400_000))),
    );
    await inTurn((after) => atOnce(now, by, after));
    await inTurn((after) => ofTheDay(now, by, after));
  } finally {
    by.close();
  }
}

/** One person after the other. Whose mail cannot be taken now waits for the next round, and holds up nobody. */
async function inTurn(next: (after: string) => Promise<string | null>): Promise<void> {
  let after: string | null = '';
  for (let i = 0; i < limits.mailsAtOnce && after !== null; i++) after = await next(after);
}

/** Gives who it was; null when there is nobody left. */
async function posted(work: Parameters<typeof asOwner<string | null>>[1]): Promise<string | null> {
  const done = await asOwner(NOBODY, work);
  return done.ok ? done.value : null;
}

const atOnce = (now: Date, by: Mailer, after: string): Promise<string | null> =>
  posted(async (tx) => {
    const post = await nextToMail(tx, after);
    if (post === null) return ok(null);
    const { to, notices } = post;
    const ids = notices.map(({ id }) => id);
    const mail = mailAtOnce(to.name, notices.map(told), account());
    if ((await by.send(to, mail, `notices-${ids[0]}-${ids.at(-1)}`)) !== 'later')
      await markMailed(tx, ids, now);
    return ok(post.person);
  });

const ofTheDay = (now: Date, by: Mailer, after: string): Promise<string | null> =>
  posted(async (tx, { workspace }) => {
    const [today = '', time = ''] = localTime(workspace, now).split('T');
    const post = time < limits.mailFrom ? null : await nextForTheDay(tx, today, after);
    if (post === null) return ok(null);
    const { person, to, notices } = post;
    const mail = mailOfTheDay(to.name, notices.map(told), account());
    if ((await by.send(to, mail, `day-${person}-${today}`)) !== 'later') {
      await markMailed(
        tx,
        notices.map(({ id }) => id),
        now,
      );
      await markDay(tx, person, today);
    }
    return ok(person);
  });

const origin = (): string => process.env['SLATE_ORIGIN'] ?? '';
const account = (): string => `${origin()}/account`;
const told = (facts: NoticeRow): Told => ({ facts, link: `${origin()}/submissions/${facts.submissionId}` });
