import { createServer, type Server } from 'node:http';
import { afterAll, describe, expect, it } from 'vitest';
import type { FollowedLook } from '../../src/contract/people-list';
import type { Refusal } from '../../src/core/kernel/refusal';
import { ok, type Result } from '../../src/core/kernel/result';
import { catalogueNow } from '../../src/data/catalogue';
import { asOwner, asPerson } from '../../src/data/transaction';
import { readDirectory, readMembers } from '../../src/data/system/directory';
import { keepSource, removeSource } from '../../src/use-cases/links/keep-source';
import { endTheirAccess, keepPerson } from '../../src/use-cases/people/keep-person';
import {
  followDueList,
  keepList,
  lookAtList,
  openList,
  stopList,
} from '../../src/use-cases/people/follow-list';
import { as, must, newId, refusal, useWorld } from '../support/world';

/** A list of people that comes again and again, from an address that says something else each time. */
interface Entry {
  readonly who: string;
  readonly department?: string;
  readonly manager?: string;
  readonly id?: number;
}
let list: readonly Entry[] | null = [];
let server: Server | null = null;
const source = newId();
const email = (who: string): string => (who.includes('@') ? who : `${who}@quillmere.example`);
const wren = (now?: Date) => ({ ...as('Wren'), ...(now !== undefined && { now }) });

const world = useWorld(async () => {
  server = createServer((_, response) => {
    const people = list?.map(({ who, manager, ...entry }) => ({
      ...entry,
      email: email(who),
      displayName: who
        .split('.')
        .map((part) => part.charAt(0).toUpperCase() + part.slice(1))
        .join(' '),
      ...(manager !== undefined && { manager: email(manager) }),
    }));
    response
      .writeHead(people === undefined ? 503 : 200, { 'content-type': 'application/json' })
      .end(JSON.stringify({ people }));
  });
  const port = await new Promise<number>((listening) =>
    server?.listen(0, '127.0.0.1', () => {
      const at = server?.address();
      listening(typeof at === 'object' && at !== null ? at.port : 0);
    }),
  );
  await must(
    keepSource(wren(), source, {
      version: 0,
      label: 'Staff list',
      address: { t: 'list', url: `http://127.0.0.1:${port}/people`, header: '' },
      secret: null,
    }),
  );
});
afterAll(() => server?.close());

const looked = async (): Promise<Extract<FollowedLook, { t: 'looked' }>> => {
  const look = await must(lookAtList(wren(), source));
  if (look.t === 'failed') throw new Error(look.fault.code);
  return look;
};
const follow = async (version: number, { endsAccess = true, now = wren().now } = {}) =>
  keepList(wren(now), { source, every: 60, endsAccess, version, seen: (await looked()).seen });
const here = async (who: string) => {
  const { people } = await must(asOwner({ person: '' }, async (tx) => ok(await catalogueNow(tx))));
  return [...people.values()].find((one) => one.email === email(who));
};
const state = async () => (await must(openList(wren()))).followed;
const start = new Date('2026-11-23T12:00:00Z');
const hours = (count: number): Date => new Date(start.getTime() + count * 3_600_000);
const mails = async (): Promise<number> =>
  (await world.sql("SELECT 1 FROM slate.account_mail WHERE kind = 'people-list'")).length;

const staff: readonly Entry[] = [
  { who: 'maren.solheim', department: 'Nursery' },
  { who: 'noor.abadi', department: 'Seed bank', manager: 'sil.voss' },
  { who: 'sil.voss', department: 'Seed bank', manager: 'dagny.farrow' },
  { who: 'ilse.brandvold' },
];

describe('a list of people that is followed', () => {
  it('is looked over, and followed from then on', async () => {
    list = staff;
    const look = await looked();
    expect(look.plan.add.map(({ name }) => name)).toEqual(['Noor Abadi', 'Sil Voss']);
    expect(look.leaving).toEqual([]);
    const now = await must(follow(0, { now: start }));
    expect(now.followed).toMatchObject({
      every: 60,
      namedBy: 'Wren Calloway',
      version: 1,
      members: 4,
      outcome: { t: 'followed', added: 2, changed: 1, left: 0, wrong: 0 },
    });
    expect((await here('noor.abadi'))?.manager).toBe((await here('sil.voss'))?.id);
    expect((await here('maren.solheim'))?.place).toBe('Nursery');
  });

  it('is kept in step when its time has come, and not before', async () => {
    list = [{ who: 'maren.solheim', department: 'Palm house' }, ...staff.slice(1, 3)];
    await followDueList(hours(0.5));
    expect((await here('maren.solheim'))?.place).toBe('Nursery');
    await followDueList(hours(1));
    expect((await here('maren.solheim'))?.place).toBe('Palm house');
    // She came by it, and is not in it any more; who did not come by it stays.
    expect([(await here('ilse.brandvold'))?.ended, (await here('ruo.lindqvist'))?.ended]).toEqual([
      true,
      false,
    ]);
    expect((await state())?.outcome).toMatchObject({ added: 0, changed: 1, left: 1 });
    await followDueList(hours(2));
    expect((await state())?.outcome).toMatchObject({ added: 0, changed: 0, left: 0 });
  });

  it('leaves what is wrong as it is, and carries out the rest', async () => {
    list = [
      { who: 'maren.solheim', department: 'Fern house', manager: 'nobody.here' },
      { who: 'noor.abadi', department: 'x'.repeat(300) },
      { who: 'sil.voss', department: 'Archive', manager: 'dagny.farrow' },
    ];
    await followDueList(hours(3));
    expect((await state())?.outcome).toMatchObject({
      t: 'followed',
      changed: 2,
      left: 0,
      wrong: 2,
      issues: [
        { line: 1, why: 'manager-unknown' },
        { line: 2, why: 'too-long' },
      ],
    });
    expect([(await here('sil.voss'))?.place, (await here('noor.abadi'))?.place]).toEqual([
      'Archive',
      'Seed bank',
    ]);
  });

  it('changes nothing while it cannot be read, tries again, and tells administrators after a day', async () => {
    list = null;
    await followDueList(hours(4));
    expect((await state())?.outcome).toEqual({
      t: 'failed',
      fault: { code: 'answer-wrong', facts: { status: 503 } },
    });
    expect(await mails()).toBe(0);
    await followDueList(hours(4.25));
    await followDueList(hours(29));
    await followDueList(hours(30));
    // Wren alone is an administrator, and is told once.
    expect(await mails()).toBe(1);
    expect((await here('noor.abadi'))?.ended).toBe(false);
    list = staff;
    await followDueList(hours(31));
    expect((await state())?.outcome).toMatchObject({ t: 'followed', changed: 3 });
    expect((await here('ilse.brandvold'))?.ended).toBe(false);
  });

  it('waits for somebody to look where many leave at once, and goes on when they have', async () => {
    list = [...staff, ...['a', 'b', 'c', 'd'].map((one) => ({ who: `gardener.${one}` }))];
    await followDueList(hours(32));
    list = staff.map((one) => ({ ...one, department: 'Elsewhere' }));
    await followDueList(hours(33));
    expect((await state())?.outcome).toEqual({ t: 'held', leaving: 4, of: 8 });
    expect(await mails()).toBe(2);
    expect([(await here('gardener.a'))?.ended, (await here('maren.solheim'))?.place]).toEqual([
      false,
      'Nursery',
    ]);
    expect((await looked()).leaving).toHaveLength(4);
    await must(follow(1, { now: hours(33) }));
    expect([(await here('gardener.a'))?.ended, (await here('maren.solheim'))?.place]).toEqual([
      true,
      'Elsewhere',
    ]);
  });

  it('lets nobody leave where that was not wished for', async () => {
    list = [...staff, { who: 'gardener.e' }];
    await must(follow(2, { endsAccess: false, now: hours(34) }));
    list = staff;
    await followDueList(hours(35));
    expect((await here('gardener.e'))?.ended).toBe(false);
    // They are still known from it, and leave once that is wished for.
    await must(follow(3, { now: hours(35) }));
    expect((await here('gardener.e'))?.ended).toBe(true);
  });

  it('never ends the access of whoever had it followed', async () => {
    list = [...staff, { who: 'wren.calloway' }];
    await followDueList(hours(36));
    list = staff;
    await followDueList(hours(37));
    expect((await here('wren.calloway'))?.ended).toBe(false);
    expect((await state())?.outcome).toMatchObject({ t: 'followed' });
  });

  it('says so where somebody has another address there, whom it then neither lets in nor out', async () => {
    list = [...staff, { who: 'gardener.f', id: 7 }];
    await followDueList(hours(37.5));
    await followDueList(hours(38));
    list = [...staff, { who: 'gardener.married', id: 7 }];
    await followDueList(hours(39));
    expect((await state())?.outcome).toMatchObject({
      added: 0,
      left: 0,
      issues: [{ why: 'other-address', value: email('gardener.f') }],
    });
    expect([(await here('gardener.f'))?.ended, await here('gardener.married')]).toEqual([false, undefined]);
    list = staff;
    await followDueList(hours(40));
    expect((await here('gardener.f'))?.ended).toBe(true);
  });

  it('lets nobody in again who was let out by hand', async () => {
    list = [...staff, { who: 'gardener.g' }];
    await followDueList(hours(40.5));
    await followDueList(hours(41));
    const gardener = await here('gardener.g');
    await must(endTheirAccess(wren(), gardener?.id ?? '', { to: wren().person.id }));
    await followDueList(hours(42));
    expect((await here('gardener.g'))?.ended).toBe(true);
    expect((await state())?.outcome).toMatchObject({ issues: [{ why: 'has-left', value: 'Gardener G' }] });
    list = staff;
    await followDueList(hours(43));
  });

  it('is for administrators, and for what was looked over by whoever was first', async () => {
    const body = { source, every: 60 as const, endsAccess: true, version: 4, seen: (await looked()).seen };
    const refused: readonly Promise<Result<unknown, Refusal>>[] = [
      openList(as('Ines')),
      lookAtList(as('Ines'), source),
      keepList(as('Ines'), body),
      stopList(as('Ines'), 4),
    ];
    for (const asked of refused) expect((await refusal(asked)).kind).toBe('forbidden');
    // Nor through the database.
    const seen = await must(
      asPerson({ person: as('Ines').person.id }, async (tx) =>
        ok([await readDirectory(tx), (await readMembers(tx)).size]),
      ),
    );
    expect(seen).toEqual([null, 0]);
    expect((await refusal(keepList(wren(), { ...body, version: 3 }))).kind).toBe('stale');
    expect((await refusal(keepList(wren(), { ...body, seen: 'another' }))).kind).toBe('stale');
    list = [{ who: 'somebody.else' }];
    expect((await refusal(keepList(wren(), body))).kind).toBe('stale');
    expect((await refusal(lookAtList(wren(), newId()))).kind).toBe('not-found');
    list = staff;
    expect(await here('somebody.else')).toBeUndefined();
    // Two at once: one is first.
    const both = await Promise.all([keepList(wren(), body), keepList(wren(), body)]);
    expect(both.map((one) => one.ok).sort()).toEqual([false, true]);
  });

  it('keeps its source, and stops when whoever had it followed is no administrator', async () => {
    expect(await refusal(removeSource(wren(), source))).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'source-used' }],
    });
    const kofi = as('Kofi').person;
    const { name, email: address, place } = kofi;
    const put = (roles: ('steward' | 'administrator')[]) =>
      keepPerson(wren(), kofi.id, { name, email: address, place, roles, manager: null, deputy: null });
    await must(put(['steward', 'administrator']));
    const asKofi = { ...as('Kofi'), person: { ...kofi, roles: ['administrator' as const] }, now: hours(44) };
    const { seen } = await looked();
    await must(keepList(asKofi, { source, every: 60, endsAccess: true, version: 5, seen }));
    await must(put(['steward']));
    await followDueList(hours(46));
    expect((await state())?.outcome).toMatchObject({ t: 'failed', fault: { code: 'not-administrator' } });
    await must(endTheirAccess(wren(), kofi.id, { to: wren().person.id }));
    await followDueList(hours(47));
    expect((await state())?.outcome).toMatchObject({ t: 'failed', fault: { code: 'not-administrator' } });
  });

  it('is followed no more once that is said, and its trail tells who said what', async () => {
    expect((await must(stopList(wren(), 6))).followed).toBeNull();
    expect((await here('noor.abadi'))?.ended).toBe(false);
    await followDueList(hours(50));
    await must(removeSource(wren(), source));
    const lines = await world.sql(
      "SELECT verb, label FROM slate.trail WHERE subject = 'people-list' ORDER BY id",
    );
    expect(lines.map((line) => line['verb'])).toEqual(['made', 'changed', 'changed', 'changed', 'removed']);
    expect(lines[0]?.['label']).toBe('Staff list');
  });

  it('puts nobody under somebody who works under them', async () => {
    const [noor, sil] = [await here('noor.abadi'), await here('sil.voss')];
    expect(
      await refusal(
        keepPerson(wren(), sil?.id ?? '', {
          name: 'Sil Voss',
          email: email('sil.voss'),
          place: '',
          roles: [],
          manager: noor?.id ?? '',
          deputy: null,
        }),
      ),
    ).toMatchObject({ issues: [{ code: 'manager-circle', path: ['manager'] }] });
  });
});
