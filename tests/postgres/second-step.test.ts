import pg from 'pg';
import { describe, expect, it } from 'vitest';
import {
  insertPasskey,
  notePasskeyUsed,
  ownPasskeys,
  passkeyNamed,
  removePasskey,
} from '../../src/data/passkeys';
import { letInBy, putProvider, readProvider } from '../../src/data/system/sign-in-provider';
import { asPerson } from '../../src/data/transaction';
import { ok } from '../../src/core/kernel/result';
import { takeOffTheirCodes } from '../../src/use-cases/people/keep-person';
import { beginOwnCodes, confirmOwnCodes, endOwnCodes } from '../../src/use-cases/people/second-step';
import { enter, enterWithCode, renewPassword, type Cookies } from '../../src/use-cases/people/sign-in';
import { whoAsks } from '../../src/use-cases/people/who-asks';
import { timeCode } from '../support/time-code';
import { as, must, newId, refusal, useWorld } from '../support/world';

useWorld();

const email = 'ada.quist@quillmere.example';
const password = 'not-needed-here';
const from = (...jars: Cookies[]) => ({
  address: '10.1.0.1',
  headers: new Headers({
    cookie: jars
      .flatMap(({ cookies }) => cookies)
      .filter((one) => !/max-age=0/i.test(one))
      .map((one) => one.split(';')[0])
      .join('; '),
  }),
});

async function rows<T>(text: string, values: readonly unknown[] = []): Promise<T[]> {
  const client = new pg.Client({ connectionString: process.env['SLATE_OWNER_URL'] });
  await client.connect();
  const { rows: found } = await client.query(text, [...values]);
  await client.end();
  return found as T[];
}

/** Ada, signed in, with a code asked of her from now on. */
async function withCodes() {
  await rows(`DELETE FROM slate.second_step`);
  await rows(`DELETE FROM slate.sign_in_try`);
  await rows(`UPDATE slate.person SET asks_code = false`);
  const first = await must(enter({ email, password }, from()));
  const { told } = await must(beginOwnCodes(as('Ada'), { password }, from(first)));
  const secret = new URL(told?.uri ?? '').searchParams.get('secret') ?? '';
  const confirmed = await must(confirmOwnCodes(as('Ada'), { code: timeCode(secret) }, from(first)));
  return { secret, spare: told?.spare ?? [], here: from(confirmed) };
}

const HALF_MINUTE_MS = 30_000;

describe('a code besides the password', () => {
  it('holds from the first right code on, and a session is nobody’s before it is given', async () => {
    const first = await must(enter({ email, password }, from()));
    expect((await refusal(beginOwnCodes(as('Ada'), { password: 'another' }, from(first)))).kind).toBe(
      'invalid',
    );
    await must(beginOwnCodes(as('Ada'), { password }, from(first)));
    // Begun and left: nothing is asked for.
    expect((await must(enter({ email, password }, from()))).told).toEqual({ asksCode: false });
    const { secret, here } = await withCodes();
    expect((await whoAsks(here.headers))?.name).toBe('Ada Quist');
    const asked = await must(enter({ email, password }, from()));
    expect(asked.told).toEqual({ asksCode: true });
    expect(await whoAsks(from(asked).headers)).toBeNull();
    // One that was begun and not yet taken back by the library is nobody's either.
    const [one] = await rows<{ token: string }>(
      `INSERT INTO slate.session (id, token, person_id, expires_at) SELECT gen_random_uuid(), 'unproven', id, now() + interval '1 day' FROM slate.person WHERE email = $1 RETURNING token`,
      [email],
    );
    expect(one?.token).toBe('unproven');
    expect((await refusal(enterWithCode({ code: '000000' }, from(asked)))).kind).toBe('forbidden');
    const entered = await must(enterWithCode({ code: timeCode(secret) }, from(asked)));
    expect((await whoAsks(from(entered).headers))?.name).toBe('Ada Quist');
    await must(endOwnCodes(as('Ada'), { password }, from(entered)));
    expect((await must(enter({ email, password }, from()))).told).toEqual({ asksCode: false });
  });

  it('is good once: of two who come with it at the same time one is let in', async () => {
    const { secret, spare } = await withCodes();
    const questions = await Promise.all([1, 2].map(() => must(enter({ email, password }, from()))));
    const code = timeCode(secret, Date.now() + HALF_MINUTE_MS);
    const tried = await Promise.all(questions.map((one) => enterWithCode({ code }, from(one))));
    expect(tried.filter((one) => one.ok)).toHaveLength(1);
    const spent = await Promise.all(
      [1, 2].map(async () => {
        const asked = await must(enter({ email, password }, from()));
        return enterWithCode({ code: spare[0] ?? '' }, from(asked));
      }),
    );
    expect(spent.filter((one) => one.ok)).toHaveLength(1);
  });

  it('is guessed a few times at most, however often the password is given', async () => {
    await withCodes();
    const kinds: string[] = [];
    for (let i = 0; i < 12; i++) {
      const asked = await enter({ email, password }, from());
      if (!asked.ok) kinds.push(asked.error.kind);
      else kinds.push((await refusal(enterWithCode({ code: `00000${i % 10}` }, from(asked.value)))).kind);
    }
    expect(kinds.filter((kind) => kind === 'forbidden').length).toBeLessThan(5);
    expect(kinds.at(-1)).toBe('too-many');
  });

  it('belongs to the password that was given, whoever else is signed in on that browser', async () => {
    const { secret } = await withCodes();
    const ines = await must(enter({ email: 'ines.okafor@quillmere.example', password }, from()));
    const asked = await must(enter({ email, password }, from()));
    const entered = await must(
      enterWithCode({ code: timeCode(secret, Date.now() + HALF_MINUTE_MS) }, from(ines, asked)),
    );
    expect((await whoAsks(from(entered).headers))?.name).toBe('Ada Quist');
  });

  it('stays when the password is another, and is taken off by administrators alone', async () => {
    const { here } = await withCodes();
    const changed = await must(
      renewPassword(as('Ada'), { present: password, next: 'four quite ordinary words' }, here),
    );
    expect((await whoAsks(from(changed).headers))?.name).toBe('Ada Quist');
    const ada = as('Ada').person.id;
    expect((await refusal(takeOffTheirCodes(as('Ines'), ada))).kind).toBe('forbidden');
    expect((await refusal(takeOffTheirCodes(as('Wren'), as('Wren').person.id))).kind).toBe('invalid');
    await must(takeOffTheirCodes(as('Wren'), ada));
    expect(await whoAsks(from(changed).headers)).toBeNull();
    const entered = await must(enter({ email, password: 'four quite ordinary words' }, from()));
    expect(entered.told).toEqual({ asksCode: false });
    const trail = await rows<{ verb: string; by: string }>(
      `SELECT t.verb, p.name AS by FROM slate.trail t JOIN slate.person p ON p.id = t.by_id WHERE t.subject = 'second-step' ORDER BY t.id`,
    );
    // Whoever signs in otherwise from now on is told of it.
    const mails = await rows<{ kind: string }>(
      `SELECT kind FROM slate.account_mail WHERE person_id = $1 AND kind = 'signing-in'`,
      [ada],
    );
    expect(mails.length).toBeGreaterThanOrEqual(2);
    expect(trail.at(-2)).toEqual({ verb: 'made', by: 'Ada Quist' });
    expect(trail.at(-1)).toEqual({ verb: 'removed', by: 'Wren Calloway' });
  });
});

describe('a passkey', () => {
  it('is seen and removed by whose it is, and a copy of it is found out', async () => {
    const [maren, kofi] = [as('Maren').person.id, as('Kofi').person.id];
    const id = newId();
    const make = (who: string, personId: string) =>
      asPerson({ person: who }, async (tx) => {
        await insertPasskey(tx, {
          id: newId(),
          personId,
          label: 'A browser',
          credentialId: 'held by another',
          publicKey: 'AA',
        });
        return ok(null);
      });
    await asPerson({ person: maren }, async (tx) => {
      await insertPasskey(tx, {
        id,
        personId: maren,
        label: 'A browser',
        credentialId: 'marens',
        publicKey: 'AA',
      });
      return ok(null);
    });
    await expect(make(kofi, maren)).rejects.toThrow();
    const seenBy = async (who: string) =>
      must(asPerson({ person: who }, async (tx) => ok((await ownPasskeys(tx)).map((one) => one.id))));
    expect([await seenBy(maren), await seenBy(kofi)]).toEqual([[id], []]);
    expect(await must(asPerson({ person: kofi }, async (tx) => ok(await removePasskey(tx, id))))).toBe(false);
    expect((await passkeyNamed('marens'))?.person_id).toBe(maren);
    // Devices that count tell a higher count each time; those that do not, always nought.
    expect([await notePasskeyUsed(id, 0), await notePasskeyUsed(id, 0)]).toEqual([true, true]);
    expect([
      await notePasskeyUsed(id, 7),
      await notePasskeyUsed(id, 7),
      await notePasskeyUsed(id, 0),
    ]).toEqual([true, false, false]);
    await rows(`UPDATE slate.person SET ended_at = now() WHERE id = $1`, [maren]);
    expect(await passkeyNamed('marens')).toBeNull();
    await rows(`UPDATE slate.person SET ended_at = NULL WHERE id = $1`, [maren]);
    expect(await must(asPerson({ person: maren }, async (tx) => ok(await removePasskey(tx, id))))).toBe(true);
  });
});

describe('coming by a service outside', () => {
  const at = '01900000-0000-7000-8000-0000000000aa';
  const put = (who: string, id: string | null, version: number) =>
    asPerson({ person: as(who).person.id }, async (tx) =>
      ok(
        await putProvider(
          tx,
          id === null
            ? null
            : {
                id,
                label: 'There',
                issuer: 'https://there.example',
                clientId: 'x',
                secret: Buffer.from('x'),
              },
          version,
        ),
      ),
    );

  it('knows somebody by what they are called there, the first time by their address', async () => {
    await expect(put('Ines', at, 0)).rejects.toThrow();
    expect(await must(put('Wren', at, 0))).toBe(true);
    // Of two administrators who change it at the same time, one is told.
    expect(await must(put('Wren', at, 0))).toBe(false);
    const [maren, kofi] = [as('Maren').person, as('Kofi').person];
    expect(await letInBy(at, 'sub-1', '')).toBeNull();
    expect(await letInBy(at, 'sub-1', 'nobody@quillmere.example')).toBeNull();
    expect(await letInBy(at, 'sub-1', maren.email.toUpperCase())).toBe(maren.id);
    // Another address there is the same person; her address at somebody else's name there is not.
    expect(await letInBy(at, 'sub-1', kofi.email)).toBe(maren.id);
    expect(await letInBy(at, 'sub-2', maren.email)).toBeNull();
    const both = await Promise.all(['sub-3', 'sub-4'].map((sub) => letInBy(at, sub, kofi.email)));
    expect(both.filter((one) => one === kofi.id)).toHaveLength(1);
    await rows(`UPDATE slate.person SET ended_at = now() WHERE id = $1`, [maren.id]);
    expect(await letInBy(at, 'sub-1', maren.email)).toBeNull();
    await rows(`UPDATE slate.person SET ended_at = NULL WHERE id = $1`, [maren.id]);
    // At another service nobody is known yet.
    const another = newId();
    expect(await must(put('Wren', another, 1))).toBe(true);
    expect(await rows(`SELECT 1 FROM slate.provider_person`)).toEqual([]);
    expect(await must(put('Wren', null, 2))).toBe(true);
    expect(await readProvider()).toBeNull();
  });
});
