import { escaped, type Mail } from './notice-mail';
import { speak } from './speak';

/**
 * What is told somebody about coming in: that they may, that they asked for a new password, that theirs is
 * another one now, or that a code or a passkey is asked for or no longer. And administrators, of what nobody
 * can decide, of an address that is told nothing more, and of a list of people that is not followed.
 */
export type AccountNews =
  'invited' | 'forgotten' | 'changed' | 'signing-in' | 'stuck' | 'stopped' | 'people-list';

interface About {
  readonly kind: AccountNews;
  /** Theirs. */
  readonly email: string;
  /** Where a password is chosen, where another one is asked for, where one sees how one signs in, or what waits. */
  readonly link: string;
  /** The name of the workspace; may be empty. */
  readonly house: string;
}

/** Nobody but us has written anything in it, so that nobody sends others a word of their own by asking for a password. */
export function accountMail({ kind, email, link, house }: About): Mail {
  const here = house === '' ? speak`Tidy Slate` : house;
  const { subject, before, todo, after } = texts[kind](email, here);
  return {
    subject,
    text: [before, `${todo}: ${link}`, after].join('\n\n'),
    html: [
      `<p>${escaped(before)}</p>`,
      `<p><a href="${escaped(link)}">${todo}</a></p>`,
      `<p style="color:#555">${escaped(after)}</p>`,
    ].join('\n'),
  };
}

interface Text {
  readonly subject: string;
  readonly before: string;
  readonly todo: string;
  readonly after: string;
}

const texts: Readonly<Record<AccountNews, (email: string, here: string) => Text>> = {
  invited: (email, here) => ({
    subject: speak`You are invited to ${here}`,
    before: speak`You are invited to ${here}. You sign in with ${email} and a password that you choose.`,
    todo: speak`Choose a password`,
    after: speak`The link is good once, for 14 days. Whoever has it comes in as you, so send it on to nobody.`,
  }),
  forgotten: (email, here) => ({
    subject: speak`A new password for ${here}`,
    before: speak`Somebody asked for a new password for ${email} at ${here}.`,
    todo: speak`Choose a new password`,
    after: speak`The link is good once, for an hour. If it was not you who asked, nothing need be done: your password stays as it is.`,
  }),
  changed: (email, here) => ({
    subject: speak`Your password for ${here} was changed`,
    before: speak`The password for ${email} at ${here} was changed just now, and all who were signed in with the one before have to sign in again.`,
    todo: speak`Choose another one`,
    after: speak`If it was you, nothing need be done. If it was not, choose another one at once, and tell an administrator.`,
  }),
  'signing-in': (email, here) => ({
    subject: speak`How you sign in to ${here} was changed`,
    before: speak`How ${email} signs in to ${here} was changed just now: codes were set up or taken off, or a passkey was added or removed.`,
    todo: speak`See how you sign in now`,
    after: speak`If it was you, nothing need be done. If it was not, tell an administrator at once.`,
  }),
  stuck: (_, here) => ({
    subject: speak`Something waits at ${here} that nobody can decide`,
    before: speak`Since yesterday, something has come to wait where nobody is left who may decide it, or it could not go on without a step that is late.`,
    todo: speak`Look at what waits`,
    after: speak`You are told of each once. There you have somebody else decide it, or take it to another step.`,
  }),
  stopped: (_, here) => ({
    subject: speak`An address outside is told nothing more by ${here}`,
    before: speak`It has failed for days, says that it is gone, or can be told nothing any more. What happens meanwhile is kept for it, and told in its order once it goes on.`,
    todo: speak`Look at the addresses`,
    after: speak`There you see what it answered, mend its address, and let it go on.`,
  }),
  'people-list': (_, here) => ({
    subject: speak`The list of people is not followed by ${here}`,
    before: speak`It cannot be read since yesterday, or so many have left it at once that somebody should look first. Who may come in stays as it is until then.`,
    todo: speak`Look at the list of people`,
    after: speak`There you see what is wrong, and whose access would end.`,
  }),
};
