import { beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { personNamed } from '../../demo/people';
import type { Mail } from '../../src/core/wording/notice-mail';
import type { Mailer, Posted } from '../../src/outside/mail';
import { mailNotices } from '../../src/use-cases/notices/mail-notices';
import { endTheirAccess, invitePerson, keepPerson } from '../../src/use-cases/people/keep-person';
import { renewPassword } from '../../src/use-cases/people/sign-in';
import {
  forgot,
  mayAskForPassword,
  readInvitation,
  takeUp,
} from '../../src/use-cases/people/take-invitation';
import { as, must, newId, poolAt, refusal, useWorld } from '../support/world';

/** Whoever forgot their password is mailed a link, and nobody learns from it who is here. */
const world = useWorld();
const PASSWORD = 'four green ferns grow';
const from = (address = '203.0.113.7') => ({ address, headers: new Headers() });

function postOffice() {
  const taken: { to: string; mail: Mail; id: string }[] = [];
  let answer: Posted = 'sent';
  const by: Mailer = {
    send: ({ email }, mail, id) => {
      if (answer === 'sent') taken.push({ to: email, mail, id });
      return Promise.resolve(answer);
    },
    close: () => undefined,
  };
  return { by, taken, answers: (next: Posted) => void (answer = next) };
}
const tokenIn = (mail: Mail | undefined): string => /\/welcome#([\w-]+)/.exec(mail?.text ?? '')?.[1] ?? '';
/** Somebody new, by an address that nobody has. */
async function somebody() {
  const [id, email] = [newId(), `lune.${newId()}@quillmere.example`];
  const input = { name: 'Lune Farrow', email, place: '', roles: [], manager: null, deputy: null };
  await must(keepPerson(as('Wren'), id, input));
  return { id, email };
}
async function mailed(email: string) {
  const { by, taken } = postOffice();
  await mailNotices(new Date(), by);
  return taken.filter(({ to }) => to === email).map(({ mail }) => mail);
}
async function joined() {
  const one = await somebody();
  await must(invitePerson(as('Wren'), one.id));
  await must(takeUp({ token: tokenIn((await mailed(one.email))[0]), password: PASSWORD }, from()));
  return one;
}

beforeAll(() => {
  process.env['SLATE_SECRET'] ??= 'of this test alone, and long enough';
});
beforeEach(async () => {
  vi.stubEnv('SLATE_SMTP_URL', 'smtp://127.0.0.1:1');
  await world.sql('DELETE FROM slate.sign_in_try; DELETE FROM slate.account_mail');
});

describe('an invitation', () => {
  it('is mailed as well, where there is a mail server, and the mail opens the same as the link', async () => {
    const { id, email } = await somebody();
    const made = await must(invitePerson(as('Wren'), id));
    expect(made.mailed).toBe(true);
    const [mail] = await mailed(email);
    expect(mail?.subject).toContain('You are invited');
    expect(made.path).toBe(`/welcome#${tokenIn(mail)}`);
    expect(await must(readInvitation({ token: tokenIn(mail) }))).toMatchObject({ email, again: false });
    vi.stubEnv('SLATE_SMTP_URL', '');
    expect((await must(invitePerson(as('Wren'), id))).mailed).toBe(false);
    expect(await mailed(email)).toEqual([]);
  });
});

describe('a forgotten password', () => {
  it('is chosen anew by a mailed link, once; sessions end, other links with it, and its owner is told', async () => {
    const { id, email } = await joined();
    await must(forgot({ email: email.toUpperCase() }, from()));
    await must(forgot({ email }, from()));
    const mails = await mailed(email);
    expect(mails.map(({ subject }) => subject.slice(0, 14))).toEqual(['A new password', 'A new password']);
    const [one, other] = mails.map(tokenIn);
    expect(await must(readInvitation({ token: one ?? '' }))).toMatchObject({ email, again: true });
    const sessions = () =>
      world.sql(`SELECT count(*)::int AS n FROM slate.session WHERE person_id = '${id}'`);
    expect((await sessions())[0]?.n).toBe(1);
    expect(await refusal(takeUp({ token: one ?? '', password: 'Password123' }, from()))).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'password-common' }],
    });
    await must(takeUp({ token: one ?? '', password: 'another four green ferns' }, from()));
    // The one of those who chose it, and no other.
    expect((await sessions())[0]?.n).toBe(1);
    for (const token of [one, other])
      expect(await refusal(readInvitation({ token: token ?? '' }))).toMatchObject({ kind: 'not-found' });
    const told = await mailed(email);
    expect(told.map(({ subject }) => subject)).toEqual([expect.stringContaining('was changed')]);
    expect(tokenIn(told[0])).toBe('');
  });

  it('answers the same for an address that nobody has, and for somebody who left', async () => {
    const left = await joined();
    await must(endTheirAccess(as('Wren'), left.id, { to: personNamed('Wren').id }));
    for (const email of ['nobody@quillmere.example', left.email]) {
      expect(await must(forgot({ email }, from()))).toBeNull();
      expect(await mailed(email)).toEqual([]);
    }
  });

  it('is mailed three times an hour at most, and ten at once are counted one by one', async () => {
    const { email } = await joined();
    await Promise.all(Array.from({ length: 10 }, () => must(forgot({ email }, from()))));
    expect(await mailed(email)).toHaveLength(3);
    // What they have goes on working.
    await must(forgot({ email }, from()));
    expect(await mailed(email)).toEqual([]);
  });

  it('leaves an invitation, and their password, as they are', async () => {
    const { id, email } = await joined();
    const { path } = await must(invitePerson(as('Wren'), id));
    await must(forgot({ email }, from()));
    expect(await must(readInvitation({ token: path.split('#')[1] ?? '' }))).toMatchObject({ email });
  });

  it('makes somebody who asks for very many wait, wherever those are', async () => {
    const all = await Promise.all(
      Array.from({ length: 25 }, (_, i) =>
        forgot({ email: `nobody.${i}@quillmere.example` }, from('203.0.113.99')),
      ),
    );
    expect(all.filter((one) => !one.ok && one.error.kind === 'too-many').length).toBeGreaterThan(0);
    expect((await forgot({ email: 'somebody@quillmere.example' }, from('203.0.113.98'))).ok).toBe(true);
  });

  it('is nothing that can be asked for where nobody is mailed', async () => {
    vi.stubEnv('SLATE_SMTP_URL', '');
    expect(mayAskForPassword()).toBe(false);
    expect(await refusal(forgot({ email: 'maren.solheim@quillmere.example' }, from()))).toMatchObject({
      kind: 'not-found',
    });
  });

  it('waits for a mail server that cannot take it now', async () => {
    const { email } = await joined();
    await must(forgot({ email }, from()));
    const { by, taken, answers } = postOffice();
    answers('later');
    await mailNotices(new Date(), by);
    answers('sent');
    await mailNotices(new Date(), by);
    expect(taken.filter(({ to }) => to === email)).toHaveLength(1);
  });
});

it('tells whoever changed their password by themselves as well, and not of a first one', async () => {
  const { id, email } = await somebody();
  await must(invitePerson(as('Wren'), id));
  const [mail] = await mailed(email);
  const { cookies } = await must(takeUp({ token: tokenIn(mail), password: PASSWORD }, from()));
  expect(await mailed(email)).toEqual([]);
  const cookie = cookies.map((one) => one.split(';')[0]).join('; ');
  await must(
    renewPassword(
      { person: { ...as('Maren').person, id, email, name: 'Lune Farrow' }, now: new Date() },
      { present: PASSWORD, next: 'another four green ferns' },
      { address: '203.0.113.7', headers: new Headers({ cookie }) },
    ),
  );
  expect((await mailed(email)).map(({ subject }) => subject)).toEqual([
    expect.stringContaining('was changed'),
  ]);
});

it('is nothing that the application role reads past the functions for it', async () => {
  const app = poolAt(world.appUrl);
  await expect(app.query('SELECT person_id, token_of FROM slate.account_mail')).rejects.toThrow(
    /permission denied/,
  );
  await app.end();
});
