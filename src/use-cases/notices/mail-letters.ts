import { ok } from '../../core/kernel/result';
import { limits } from '../../core/limits';
import { formatsOf, type Workspace } from '../../core/workspace';
import { accountMail, type AccountNews } from '../../core/wording/account-mail';
import type { Mail } from '../../core/wording/notice-mail';
import { outsideMail } from '../../core/wording/outside-mail';
import type { Tx } from '../../data/connect';
import { followSecret, welcomeToken } from '../../data/secret';
import { claimLetter, giveBackLetter, settleLetter, type Letters } from '../../data/system/letters';
import { readOutsideMail } from '../../data/system/outside';
import { readAccountMail } from '../../data/system/people';
import { accountMail as accountLetters, outsideMail as outsideLetters } from '../../data/system/schema';
import { readOwnFormats } from '../../data/system/workspace';
import { showingTo } from '../../data/shown-to';
import { asOwner } from '../../data/transaction';
import type { Mailer } from '../../outside/mail';
import { wordsBesides } from './mail-words';
import { welcomePath } from '../people/keep-person';

const NOBODY = { person: '' };

/** One kind of letters: where they wait, and what each says to whom. */
interface Kind {
  readonly letters: Letters;
  readonly name: string;
  /** In the language of whoever gets it. Null where there is nobody to tell any more. */
  readonly write: (tx: Tx, id: number, house: Workspace) => Promise<Written | null>;
}

interface Written {
  readonly to: { readonly name: string; readonly email: string };
  readonly mail: Mail;
}

/**
 * Mails that go to one address each, whatever its owner has chosen to be told: about coming in, to
 * administrators about what is stuck, and to those outside about what they sent.
 */
export async function mailLetters(by: Mailer, now: Date): Promise<void> {
  await inTurn(by, now, { letters: accountLetters, name: 'account', write: aboutComingIn });
  await inTurn(by, now, { letters: outsideLetters, name: 'outside', write: toSomebodyOutside });
}

/** Where a mail leads that leads to no password. */
const PATHS: Readonly<Partial<Record<AccountNews, string>>> = {
  stuck: '/cases',
  stopped: '/events',
  'signing-in': '/account',
  'people-list': '/people/directory',
};

async function aboutComingIn(tx: Tx, id: number, house: Workspace): Promise<Written | null> {
  const post = await readAccountMail(tx, id);
  if (post === null) return null;
  const { name, email, kind, tokenOf } = post;
  const formats = formatsOf(house, await readOwnFormats(tx, post.person));
  const path = PATHS[kind] ?? (tokenOf === null ? '/forgotten' : welcomePath(welcomeToken(tokenOf)));
  const mail = showingTo(formats, () =>
    accountMail({ kind, email, link: `${origin()}${path}`, house: house.name }),
  );
  return { to: { name, email }, mail };
}

async function toSomebodyOutside(tx: Tx, id: number, house: Workspace): Promise<Written | null> {
  const post = await readOutsideMail(tx, id);
  if (post === null) return null;
  const { submission, address, language } = post;
  const formats = formatsOf(house, language === null ? {} : { language });
  const link = `${origin()}/followed?in=${formats.language}#${submission}.${followSecret(submission)}`;
  const { kind, sender, saysMore } = post;
  return showingTo(formats, async () => {
    const besides =
      saysMore && kind !== 'sent' ? await wordsBesides(sender, submission, kind, new Date()) : '';
    return { to: { name: '', email: address }, mail: outsideMail({ ...post, besides }, link, house.name) };
  });
}

/** One after the other, each claimed, mailed and settled by itself. */
async function inTurn(by: Mailer, now: Date, { letters, name, write }: Kind): Promise<void> {
  const olderThan = new Date(now.getTime() - limits.newsDays * 86_400_000);
  let after = 0;
  for (let i = 0; i < limits.mailsAtOnce; i++) {
    const claimed = await asOwner(NOBODY, async (tx, { workspace }) => {
      const id = await claimLetter(tx, letters, { after, now, olderThan });
      return ok(id === null ? null : { id, written: await write(tx, id, workspace) });
    });
    if (!claimed.ok || claimed.value === null) return;
    const { id, written } = claimed.value;
    const settle = (work: typeof settleLetter) =>
      asOwner(NOBODY, async (tx) => ok(await work(tx, letters, id)));
    try {
      const posted = written === null ? 'refused' : await by.send(written.to, written.mail, `${name}-${id}`);
      await settle(posted === 'later' ? giveBackLetter : settleLetter);
    } catch (error) {
      await settle(giveBackLetter);
      throw error;
    }
    after = id;
  }
}

const origin = (): string => process.env['SLATE_ORIGIN'] ?? '';
