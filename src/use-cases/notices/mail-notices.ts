import type { Mailed } from '../../core/form/design';
import { ok } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { mailAtOnce, mailOfTheDay, type Told } from '../../core/wording/notice-mail';
import { formatsOf } from '../../core/workspace';
import type { Catalogue } from '../../core/catalogue/catalogue';
import type { Tx } from '../../data/connect';
import {
  claimDay,
  claimNext,
  giveBack,
  markMailed,
  settleUnmailed,
  type NoticeRow,
  type Post,
} from '../../data/system/notices';
import { showingTo } from '../../data/shown-to';
import { readOwnFormats } from '../../data/system/workspace';
import { asOwner } from '../../data/transaction';
import { wordsBesides } from './mail-words';
import { mailer, type Mailer } from '../../outside/mail';
import { mailLetters } from './mail-letters';
import { localTime } from '../workspace/asking';

const NOBODY = { person: '' };

/**
 * Mails what people are to be told and have not looked at: at once, or once a day from `limits.mailFrom` on.
 * What is to be mailed is claimed, mailed, and marked, each by itself: two workers never send the same, and
 * nobody waits for the mail server. Of a worker that is killed in between, another sends it a while later, as
 * the same mail.
 */
export async function mailNotices(now = new Date(), by = mailer()): Promise<void> {
  if (by === null) return;
  try {
    await asOwner(NOBODY, async (tx) =>
      ok(await settleUnmailed(tx, now, new Date(now.getTime() - limits.newsDays * 86_400_000))),
    );
    await inTurn(by, now, {
      claim: (tx, _, after) => claimNext(tx, after, now),
      write: mailAtOnce,
      idOf: ({ notices }) => `notices-${notices[0]?.id}-${notices.at(-1)?.id}`,
      ofTheDay: false,
    });
    await inTurn(by, now, {
      claim: async (tx, { workspace }, after) => {
        const [today = '', time = ''] = localTime(workspace, now).split('T');
        return time < limits.mailFrom ? null : claimDay(tx, today, after, now);
      },
      write: mailOfTheDay,
      idOf: ({ person, notices }) => `day-${person}-${notices[0]?.id}`,
      ofTheDay: true,
    });
    await mailLetters(by, now);
  } finally {
    by.close();
  }
}

interface Kind {
  readonly claim: (tx: Tx, catalogue: Catalogue, after: string) => Promise<Post | null>;
  readonly write: typeof mailAtOnce;
  /** The same for the same mail. */
  readonly idOf: (post: Post) => string;
  readonly ofTheDay: boolean;
}

/** One person after the other. Whose mail cannot be taken now waits for the next round, and holds up nobody. */
async function inTurn(by: Mailer, now: Date, kind: Kind): Promise<void> {
  let after = '';
  for (let i = 0; i < limits.mailsAtOnce; i++) {
    const claimed = await asOwner(NOBODY, async (tx, catalogue) =>
      ok(await kind.claim(tx, catalogue, after)),
    );
    if (!claimed.ok || claimed.value === null) return;
    await mailOne(by, now, kind, claimed.value);
    after = claimed.value.person;
  }
}

async function mailOne(by: Mailer, now: Date, kind: Kind, post: Post): Promise<void> {
  const { to, notices } = post;
  const giveItBack = () =>
    asOwner(NOBODY, async (tx) => {
      await giveBack(tx, post, kind.ofTheDay);
      return ok(null);
    });
  try {
    const mail = await inFormatsOf(post.person, async () => {
      const all = await Promise.all(notices.map((one) => told(one, post.person, now)));
      return kind.write(to.name, all, account());
    });
    if ((await by.send(to, mail, kind.idOf(post))) === 'later') return void (await giveItBack());
  } catch (error) {
    await giveItBack();
    throw error;
  }
  await asOwner(NOBODY, async (tx) => {
    await markMailed(
      tx,
      notices.map(({ id }) => id),
      now,
    );
    return ok(null);
  });
}

/** As whoever gets it reads days and numbers, in their language. */
async function inFormatsOf<T>(who: string, work: () => Promise<T>): Promise<T> {
  const found = await asOwner(NOBODY, async (tx, { workspace }) =>
    ok(formatsOf(workspace, await readOwnFormats(tx, who))),
  );
  return found.ok ? showingTo(found.value, work) : work();
}

const origin = (): string => process.env['SLATE_ORIGIN'] ?? '';
const account = (): string => `${origin()}/account`;
const told = async (facts: NoticeRow, who: string, now: Date): Promise<Told> => ({
  facts,
  link: `${origin()}/submissions/${facts.submissionId}`,
  besides: facts.saysMore ? await wordsBesides(who, facts.submissionId, facts.kind as Mailed, now) : '',
});
