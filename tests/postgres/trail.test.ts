import { beforeAll, describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import type { TrailAsked } from '../../src/contract/trail';
import { comingFrom } from '../../src/data/way-in';
import { openEvents } from '../../src/use-cases/events/keep-addresses';
import { keepGroup } from '../../src/use-cases/people/keep-group';
import { invitePerson, keepPerson } from '../../src/use-cases/people/keep-person';
import { sayWhoOfTable, whoOfTable } from '../../src/use-cases/people/say-who';
import { enter } from '../../src/use-cases/people/sign-in';
import { takeUp } from '../../src/use-cases/people/take-invitation';
import { addToken, stopToken } from '../../src/use-cases/tokens/keep-tokens';
import { exportTrail, openTrail, trailLines } from '../../src/use-cases/trail/read-trail';
import {
  as,
  must,
  newId,
  plantGarden,
  poolAt,
  refusal,
  releaseSampleForms,
  useWorld,
} from '../support/world';

/** Who did what to how it all works stands in the trail, and a gap in it shows. */
const world = useWorld();
const wren = () => as('Wren');
const everything: TrailAsked = { by: '', about: '', from: '', until: '', find: '' };
const lines = async (asked: Partial<TrailAsked> = {}) =>
  (await must(trailLines(wren(), { ...everything, ...asked }))).lines;
const sentences = async (asked: Partial<TrailAsked> = {}) =>
  (await lines(asked)).map(({ sentence }) => sentence);
const broken = async () => (await must(openTrail(wren()))).broken;
let beds = '';

beforeAll(async () => {
  process.env['SLATE_SECRET'] ??= 'of this test alone, and long enough';
  await plantGarden(world);
  await releaseSampleForms();
  const [row] = await world.sql(`SELECT id FROM slate.designed_table WHERE key = 'beds'`);
  beds = String(row?.['id']);
});

describe('the trail', () => {
  it('says who did what, from where, with what stood there before, and nothing of secrets', async () => {
    const id = newId();
    const input = {
      name: 'Lune Farrow',
      email: 'lune@quillmere.example',
      place: 'Arboretum',
      roles: [],
      manager: null,
      deputy: null,
    };
    await comingFrom('203.0.113.7', async () => {
      await must(keepPerson(wren(), id, input));
      await must(keepPerson(wren(), id, { ...input, place: 'Nursery', manager: personNamed('Tomasz').id }));
      await must(keepGroup(wren(), newId(), { label: 'Pond', people: [id], groups: [] }));
    });
    const [group, changed, added] = await lines();
    expect(added).toMatchObject({
      sentence: 'Added Lune Farrow',
      by: 'Wren Calloway',
      address: '203.0.113.7',
    });
    expect(changed).toMatchObject({
      sentence: 'Changed what is known of Lune Farrow',
      changed: ['place: Arboretum → Nursery', `manager: nothing → ${personNamed('Tomasz').name}`],
    });
    expect(group?.sentence).toBe('Made the group Pond');
    const token = newId();
    const { secret } = await must(
      addToken(wren(), token, {
        label: 'Rain gauge',
        person: wren().person.id,
        until: '2026-12-31',
        grants: [{ tableId: beds, formId: null, action: 'see' }],
      }),
    );
    await must(stopToken(wren(), token));
    expect((await sentences({ about: 'token' })).slice(0, 2)).toEqual([
      'Changed the API token Rain gauge',
      'Made the API token Rain gauge',
    ]);
    const all = JSON.stringify(await world.sql('SELECT * FROM slate.trail'));
    expect(all).not.toContain(secret);
    expect(all).not.toMatch(/\$argon|scrypt|[0-9a-f]{32}:[0-9a-f]{64}/);
  });

  it('says which rights were given and taken, and what was released', async () => {
    const { grants } = await must(whoOfTable(wren(), 'beds'));
    const seen = grants.map((one) => one.id);
    const said = grants.map(({ role, groupId, personId, action, where }) => ({
      role,
      groupId,
      personId,
      action,
      where,
    }));
    const more = {
      role: null,
      groupId: null,
      personId: personNamed('Maren').id,
      action: 'remove' as const,
      where: null,
    };
    await must(sayWhoOfTable(wren(), 'beds', { grants: [...said, more] as never, seen }));
    const [given] = await lines({ about: 'right' });
    expect(given).toMatchObject({
      sentence: 'Gave a right on Beds',
      changed: ['action: remove', `for: ${personNamed('Maren').name}`],
    });
    expect(await sentences({ about: 'release' })).toContain('Released Treatment request');
    expect(await sentences({ about: 'table' })).toContain('Made the table Beds');
    // Columns come with their table.
    expect(await sentences({ about: 'column' })).toEqual([]);
    await world.sql(
      `UPDATE slate.designed_column SET required = NOT required WHERE table_id = $1 AND key = 'area'`,
      [beds],
    );
    const [column] = await lines({ about: 'column' });
    expect(column).toMatchObject({ sentence: 'Changed the column Beds · Area', by: '' });
    expect(column?.changed).toEqual([expect.stringMatching(/^required: (true → false|false → true)$/)]);
    await world.sql(
      `UPDATE slate.designed_column SET required = NOT required WHERE table_id = $1 AND key = 'area'`,
      [beds],
    );
  });

  it('says who signed in and who was not let in, and keeps nothing else that was typed as an address', async () => {
    const id = newId();
    const email = 'gate@quillmere.example';
    await must(
      keepPerson(wren(), id, {
        name: 'Gate Keeper',
        email,
        place: '',
        roles: [],
        manager: null,
        deputy: null,
      }),
    );
    const token = (await must(invitePerson(wren(), id))).path.split('#')[1] ?? '';
    const from = { address: '203.0.113.9', headers: new Headers({ 'x-slate-address': '203.0.113.9' }) };
    await must(takeUp({ token, password: 'four green ferns grow' }, from));
    await enter({ email, password: 'wrong' }, from);
    await enter({ email: 'my secret password', password: 'wrong' }, from);
    const told = await lines({ about: 'session' });
    expect(told.slice(0, 3).map(({ sentence, address }) => [sentence, address])).toEqual([
      ['Somebody nobody knows was not let in', '203.0.113.9'],
      ['Somebody was not let in as Gate Keeper', '203.0.113.9'],
      ['Gate Keeper signed in', '203.0.113.9'],
    ]);
    expect(JSON.stringify(await world.sql('SELECT * FROM slate.trail'))).not.toContain('my secret password');
    // Whoever chooses a password by a link is signed in nowhere yet, and it is theirs.
    expect((await lines({ about: 'password' }))[0]).toMatchObject({
      sentence: 'Set a first password of Gate Keeper',
      by: 'Gate Keeper',
    });
  });

  it('is narrowed down by whom, what, day and words, and read page by page', async () => {
    expect(await lines({ by: personNamed('Maren').id })).toEqual([]);
    expect(await sentences({ find: 'arboretum' })).toEqual([
      'Changed what is known of Lune Farrow',
      'Added Lune Farrow',
    ]);
    expect(await sentences({ find: '100%' })).toEqual([]);
    const today = new Date().toISOString().slice(0, 10);
    expect((await lines({ from: today, until: today })).length).toBeGreaterThan(0);
    expect(await lines({ until: '2020-01-01' })).toEqual([]);
    const first = await must(trailLines(wren(), everything));
    expect(first).toMatchObject({ more: true, lines: { length: 100 } });
    const second = await lines({ before: first.lines.at(-1)?.id });
    expect(second[0]?.id).toBeLessThan(first.lines.at(-1)?.id ?? 0);
  });

  it('goes out as a file, whole, with what spreadsheets would take for formulas as text', async () => {
    await must(keepGroup(wren(), newId(), { label: '=1+1', people: [], groups: [] }));
    const file = await must(exportTrail(wren(), { ...everything, format: 'csv' }));
    const pieces: Uint8Array[] = [];
    for await (const piece of file.body) pieces.push(piece);
    const text = Buffer.concat(pieces).toString('utf8');
    const [{ n } = { n: 0 }] = await world.sql('SELECT count(*)::int AS n FROM slate.trail');
    expect(text.split('\r\n').filter((line) => /^\d+,/.test(line))).toHaveLength(Number(n));
    expect(text).toContain('Made the group =1+1');
    expect(text).not.toMatch(/(^|,)"?=1/m);
  });

  it('is for administrators alone, and nobody writes in it or changes it', async () => {
    for (const read of [
      openTrail(as('Ines')),
      trailLines(as('Kofi'), everything),
      exportTrail(as('Maren'), { ...everything, format: 'csv' }),
    ])
      expect(await refusal(read)).toMatchObject({ kind: 'forbidden' });
    const app = poolAt(world.appUrl);
    expect((await app.query('SELECT * FROM slate.trail')).rows).toEqual([]);
    await expect(
      app.query(`INSERT INTO slate.trail (subject, verb) VALUES ('person', 'made')`),
    ).rejects.toThrow(/permission denied/);
    await expect(app.query(`UPDATE slate.trail SET label = 'x'`)).rejects.toThrow(/permission denied/);
    await app.end();
    await must(openTrail(wren()));
    await expect(world.sql(`UPDATE slate.trail SET label = 'x' WHERE position = 1`)).rejects.toThrow(
      /stays as it is/,
    );
    await expect(world.sql('DELETE FROM slate.trail WHERE position = 1')).rejects.toThrow(/stays as it is/);
  });

  it('shows a line that was changed, one that is missing, and an end that was cut off, wherever they are', async () => {
    expect(await broken()).toBeNull();
    const { sealed, seal } = await must(openTrail(wren()));
    expect(seal).toMatch(/^[0-9a-f]{64}$/);
    const harm = async (sql: string): Promise<number | null> => {
      await world.sql(
        'ALTER TABLE slate.trail DISABLE TRIGGER trail_stays; CREATE TABLE slate.kept AS SELECT * FROM slate.trail',
      );
      await world.sql(sql);
      const found = await broken();
      await world.sql(
        'DELETE FROM slate.trail; INSERT INTO slate.trail OVERRIDING SYSTEM VALUE SELECT * FROM slate.kept; DROP TABLE slate.kept; ALTER TABLE slate.trail ENABLE TRIGGER trail_stays',
      );
      return found;
    };
    expect(await harm(`UPDATE slate.trail SET by_id = NULL, label = 'Nobody' WHERE position = 7`)).toBe(7);
    expect(await harm(`UPDATE slate.trail SET at = at - interval '1 day' WHERE position = 9`)).toBe(9);
    expect(await harm('DELETE FROM slate.trail WHERE position = 5')).toBe(6);
    expect(await harm('DELETE FROM slate.trail WHERE position = 1')).toBe(2);
    expect(await harm(`DELETE FROM slate.trail WHERE position = ${sealed}`)).toBe(sealed);
    expect(await broken()).toBeNull();
  });

  it('is sealed once by any number who look at the same time, and has what was undone nowhere', async () => {
    const before = (await lines()).length;
    expect(
      await refusal(
        keepPerson(wren(), newId(), {
          name: 'Twice',
          email: 'lune@quillmere.example',
          place: '',
          roles: [],
          manager: null,
          deputy: null,
        }),
      ),
    ).toMatchObject({ kind: 'invalid' });
    expect((await lines()).length).toBe(before);
    await Promise.all([
      ...Array.from({ length: 5 }, (_, i) =>
        must(keepGroup(wren(), newId(), { label: `At once ${i}`, people: [], groups: [] })),
      ),
      ...Array.from({ length: 3 }, () => must(openTrail(wren()))),
      must(openEvents(wren())),
    ]);
    expect(await broken()).toBeNull();
    const [row] = await world.sql(
      'SELECT count(*)::int AS n, count(DISTINCT position)::int AS places, max(position)::int AS last FROM slate.trail',
    );
    expect([row?.['places'], row?.['last']]).toEqual([row?.['n'], row?.['n']]);
  });
});
