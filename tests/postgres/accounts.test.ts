import { createHmac } from 'node:crypto';
import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { whoAsks } from '../../src/use-cases/people/who-asks';
import { enter, leave, renewPassword } from '../../src/use-cases/people/sign-in';
import { endOwnSessions, ownSessions } from '../../src/use-cases/people/own-sessions';
import { as, must, refusal, useWorld } from '../support/world';

const world = useWorld();

const MAREN = 'maren.solheim@quillmere.example';
const password = 'not-needed-here';
const from = (address: string, cookies: readonly string[] = []) => ({
  address,
  headers: new Headers(
    cookies.length === 0 ? {} : { cookie: cookies.map((one) => one.split(';')[0]).join('; ') },
  ),
});
const wrong = (email: string, address: string, cookies: readonly string[] = []) =>
  refusal(enter({ email, password: 'another one entirely' }, from(address, cookies)));

describe('signing in', () => {
  it('gives a session that says who asks, until it ends', async () => {
    const { cookies } = await must(enter({ email: MAREN, password }, from('10.0.0.1')));
    const { headers } = from('', cookies);
    expect((await whoAsks(headers))?.name).toBe('Maren Solheim');
    await must(leave({ address: '', headers }));
    expect(await whoAsks(headers)).toBeNull();
  });

  it('is listed with the others of that person, who ends them from anywhere', async () => {
    const [here, there, third] = [
      from('', (await must(enter({ email: MAREN, password }, from('10.0.7.1')))).cookies),
      from('', (await must(enter({ email: MAREN, password }, from('10.0.7.2')))).cookies),
      from('', (await must(enter({ email: MAREN, password }, from('10.0.7.3')))).cookies),
    ];
    const theirs = from(
      '',
      (await must(enter({ email: 'ines.okafor@quillmere.example', password }, from('10.0.7.4')))).cookies,
    );
    const told = await must(ownSessions(as('Maren'), here.headers));
    expect(told[0]).toMatchObject({ isThis: true, browser: 'A browser' });
    expect(told.filter(({ isThis }) => isThis)).toHaveLength(1);
    const [other] = await must(ownSessions(as('Maren'), there.headers));
    const [ofInes] = await must(ownSessions(as('Ines'), theirs.headers));
    // Somebody else's is not hers to end, and the one that asks goes on.
    await must(endOwnSessions(as('Maren'), ofInes?.id ?? '', here));
    await must(endOwnSessions(as('Maren'), told[0]?.id ?? '', here));
    await must(endOwnSessions(as('Maren'), other?.id ?? '', here));
    const signed = async () =>
      Promise.all(
        [here, there, third, theirs].map(async ({ headers }) => (await whoAsks(headers))?.name ?? null),
      );
    expect(await signed()).toEqual(['Maren Solheim', null, 'Maren Solheim', 'Ines Okafor']);
    await must(endOwnSessions(as('Maren'), null, here));
    expect(await signed()).toEqual(['Maren Solheim', null, null, 'Ines Okafor']);
    expect(await must(ownSessions(as('Maren'), here.headers))).toHaveLength(1);
  });

  it('believes no cookie that it did not sign', async () => {
    const { cookies } = await must(enter({ email: MAREN, password }, from('10.0.0.1')));
    const value = decodeURIComponent(/session_token=([^;]+)/.exec(cookies.join(' '))?.[1] ?? '');
    const token = value.slice(0, value.lastIndexOf('.'));
    const forged = createHmac('sha256', 'another secret').update(token).digest('base64');
    for (const cookie of [token, `${token}.`, `${token}.${forged}`, `x${value}`, '%', ''])
      expect(
        await whoAsks(new Headers({ cookie: `slate.session_token=${encodeURIComponent(cookie)}` })),
      ).toBeNull();
  });

  it('makes wrong tries wait for one account, and lets the owner through on a browser of theirs', async () => {
    const { cookies } = await must(enter({ email: MAREN, password }, from('10.0.0.1')));
    for (let i = 0; i < 5; i++) expect((await wrong(MAREN, `10.0.1.${i}`)).kind).toBe('forbidden');
    // From many addresses at once it is still one account.
    const next = await Promise.all([1, 2, 3, 4].map((i) => wrong(MAREN, `10.0.2.${i}`)));
    expect(next.filter(({ kind }) => kind === 'too-many').length).toBeGreaterThanOrEqual(3);
    // Even the right password waits elsewhere, but not where she signed in before.
    expect((await refusal(enter({ email: MAREN, password }, from('10.0.3.1')))).kind).toBe('too-many');
    await must(enter({ email: MAREN, password }, from('10.0.3.1', cookies)));
    // Nobody else is kept waiting.
    await must(enter({ email: 'ines.okafor@quillmere.example', password }, from('10.0.1.1')));
  });

  it('makes an address that tries many accounts wait, and no other', async () => {
    for (let i = 0; i < 60; i++) await wrong(`nobody${i}@quillmere.example`, '10.9.9.9');
    await wrong('nobody@quillmere.example', '10.9.9.9');
    expect((await wrong('nobody-else@quillmere.example', '10.9.9.9')).kind).toBe('too-many');
    expect((await wrong('nobody-else@quillmere.example', '10.9.9.8')).kind).toBe('forbidden');
  }, 60_000);
});

describe('changing a password', () => {
  it('ends every other session, and refuses what is easily guessed or not one’s own', async () => {
    const email = 'osei.marchetti@quillmere.example';
    const [here, there] = [
      await must(enter({ email, password }, from('10.0.5.1'))),
      await must(enter({ email, password }, from('10.0.5.2'))),
    ];
    const change = (present: string, next: string) =>
      renewPassword(as('Osei'), { present, next }, from('10.0.5.1', here.cookies));
    expect(await refusal(change(password, 'Password123'))).toMatchObject({
      issues: [{ code: 'password-common', path: ['next'] }],
    });
    expect(await refusal(change('not this one', 'glasshouse at dawn'))).toMatchObject({
      issues: [{ code: 'password-wrong' }],
    });
    const fresh = await must(change(password, 'glasshouse at dawn'));
    expect(await whoAsks(from('', there.cookies).headers)).toBeNull();
    expect((await whoAsks(from('', fresh.cookies).headers))?.name).toBe('Osei Marchetti');
    await must(enter({ email, password: 'glasshouse at dawn' }, from('10.0.5.3')));
  });
});

describe('names', () => {
  it('are never empty and never longer than a line', async () => {
    const client = new pg.Client({ connectionString: world.ownerUrl });
    await client.connect();
    for (const name of ['', '   ', 'x'.repeat(201)])
      await expect(
        client.query('UPDATE slate.person SET name = $1 WHERE email = $2', [name, MAREN]),
      ).rejects.toThrow(/person_named/);
    await client.end();
  });
});
