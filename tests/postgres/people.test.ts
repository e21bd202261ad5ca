import { beforeAll, describe, expect, it } from 'vitest';
import type { GroupInput, PersonInput } from '../../src/contract/people';
import type { Refusal } from '../../src/core/kernel/refusal';
import { openSubmission, openNewSheet } from '../../src/use-cases/submissions/open-sheet';
import { openForms, openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { openApprovals, openHome } from '../../src/use-cases/submissions/open-home';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { keepGroup, removeGroup } from '../../src/use-cases/people/keep-group';
import {
  beginTheirAccess,
  endTheirAccess,
  invitePerson,
  keepPerson,
} from '../../src/use-cases/people/keep-person';
import { openPeople } from '../../src/use-cases/people/read-people';
import { sayWhoOfForm, sayWhoOfTable, whoOfForm, whoOfTable } from '../../src/use-cases/people/say-who';
import { readInvitation, takeUp } from '../../src/use-cases/people/take-invitation';
import { listTables } from '../../src/use-cases/tables/read-tables';
import { saveDraft } from '../../src/use-cases/submissions/save-draft';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { enter } from '../../src/use-cases/people/sign-in';
import { personNamed } from '../../demo/people';
import {
  as,
  draft,
  formIds,
  must,
  newId,
  plantGarden,
  refusal,
  releaseSampleForms,
  sent,
  treatmentAnswers,
  type Garden,
  useWorld,
} from '../support/world';

/** People and groups, and what they may do because of it. */
const world = useWorld();
let garden: Garden;
const wren = () => as('Wren');
const from = { address: '127.0.0.1', headers: new Headers() };
const PASSWORD = 'four green ferns grow';
const somebody = (part: Partial<PersonInput> = {}): PersonInput => ({
  name: 'Lune Farrow',
  email: `lune.${newId().slice(0, 8)}@quillmere.example`,
  place: 'Arboretum',
  roles: [],
  manager: null,
  deputy: null,
  ...part,
});
const codesOf = (refused: Refusal): string[] =>
  refused.kind === 'invalid' ? refused.issues.map(({ code }) => code) : [refused.kind];
const tokenOf = async (id: string): Promise<string> =>
  (await must(invitePerson(wren(), id))).path.split('#')[1] ?? '';
const added = async (input = somebody()): Promise<string> =>
  (await must(keepPerson(wren(), newId(), input))).id;
const group = async (input: Partial<GroupInput>, id = newId()): Promise<string> =>
  (await must(keepGroup(wren(), id, { label: `Group ${id}`, people: [], groups: [], ...input }))).id;
const asNew = (id: string, input: PersonInput) => ({
  person: {
    id,
    name: input.name,
    email: input.email,
    place: input.place,
    roles: [...input.roles, 'colleague' as const],
  },
  now: new Date('2026-11-23T12:00:00Z'),
});

beforeAll(async () => {
  process.env['SLATE_SECRET'] ??= 'of this test alone, and long enough';
  await releaseSampleForms();
  garden = await plantGarden(world);
});

describe('somebody new', () => {
  it('is added by administrators only, and each address once', async () => {
    const input = somebody();
    expect(await refusal(keepPerson(as('Ines'), newId(), input))).toEqual({
      kind: 'forbidden',
      why: 'people',
    });
    expect(await refusal(openPeople(as('Maren')))).toEqual({ kind: 'forbidden', why: 'people' });
    const id = await added(input);
    expect(await must(keepPerson(wren(), id, { ...input, place: 'Nursery' }))).toEqual({ id });
    expect(
      codesOf(await refusal(keepPerson(wren(), newId(), { ...input, email: input.email.toUpperCase() }))),
    ).toEqual(['email-taken']);
    expect(codesOf(await refusal(keepPerson(wren(), id, { ...input, manager: id })))).toEqual([
      'not-a-colleague',
    ]);
    const { people } = await must(openPeople(wren()));
    expect(people.find((one) => one.id === id)).toMatchObject({
      place: 'Nursery',
      joined: false,
      ended: false,
    });
  });

  it('chooses a password by a link that is good once, and only the newest', async () => {
    const input = somebody();
    const id = await added(input);
    const [old, token] = [await tokenOf(id), await tokenOf(id)];
    expect(await refusal(readInvitation({ token: old }))).toMatchObject({
      kind: 'not-found',
      what: 'invitation',
    });
    expect(await must(readInvitation({ token }))).toEqual({
      name: input.name,
      email: input.email,
      again: false,
    });
    expect(codesOf(await refusal(takeUp({ token, password: 'short' }, from)))).toEqual(['password-length']);
    expect((await must(takeUp({ token, password: PASSWORD }, from))).cookies.length).toBeGreaterThan(0);
    expect(await refusal(takeUp({ token, password: PASSWORD }, from))).toMatchObject({ kind: 'not-found' });
    expect((await enter({ email: input.email, password: PASSWORD }, from)).ok).toBe(true);
    expect((await must(openPeople(wren()))).people.find((one) => one.id === id)?.joined).toBe(true);
    // What is kept of a link is not the link.
    expect(await world.sql('SELECT 1 FROM slate.invitation WHERE token_hash = $1', [token])).toEqual([]);
    const late = await tokenOf(id);
    await world.sql(
      `UPDATE slate.invitation SET expires_at = now() - interval '1 second' WHERE used_at IS NULL`,
    );
    expect(await refusal(readInvitation({ token: late }))).toMatchObject({ kind: 'not-found' });
  });

  it('leaves: no session, no sign-in, no right, and what they owned is somebody else’s', async () => {
    const input = somebody({ roles: ['owner'] });
    const id = await added(input);
    await must(takeUp({ token: await tokenOf(id), password: PASSWORD }, from));
    await world.sql('UPDATE slate.form SET owner_id = $1 WHERE id = $2', [id, formIds.inspection]);
    expect((await openForms(asNew(id, input))).ok).toBe(true);
    expect(codesOf(await refusal(endTheirAccess(wren(), personNamed('Wren').id, { to: id })))).toEqual([
      'own-access',
    ]);
    expect(codesOf(await refusal(endTheirAccess(wren(), id, { to: id })))).toEqual(['not-a-colleague']);
    await must(endTheirAccess(wren(), id, { to: personNamed('Ines').id }));
    expect(await world.sql('SELECT 1 FROM slate.session WHERE person_id = $1', [id])).toEqual([]);
    expect(await enter({ email: input.email, password: PASSWORD }, from)).toMatchObject({ ok: false });
    expect(await world.sql('SELECT owner_id FROM slate.form WHERE id = $1', [formIds.inspection])).toEqual([
      { owner_id: personNamed('Ines').id },
    ]);
    expect((await must(openHome(asNew(id, input)))).forms).toEqual([]);
    await must(beginTheirAccess(wren(), id));
    expect((await must(openHome(asNew(id, input)))).forms.length).toBeGreaterThan(0);
    expect(await enter({ email: input.email, password: PASSWORD }, from)).toMatchObject({ ok: false });
  });

  it('hands over what waits for them, and what whoever takes over sent themselves to the administrator', async () => {
    const [of, own] = [
      await sent('Maren', formIds.treatment, treatmentAnswers(garden)),
      await sent('Osei', formIds.treatment, treatmentAnswers(garden)),
    ];
    await must(endTheirAccess(wren(), personNamed('Tomasz').id, { to: personNamed('Osei').id }));
    const decide = (id: string, version: number) =>
      decideSubmission(as('Osei'), id, { key: newId(), version, decision: 'approve', word: '' });
    expect((await must(decide(of.id, of.version))).state).toBe('waiting');
    expect(await refusal(decide(own.id, own.version))).toMatchObject({ kind: 'forbidden' });
    expect((await must(openApprovals(wren()))).waiting.map(({ id }) => id)).toEqual([own.id]);
    await must(beginTheirAccess(wren(), personNamed('Tomasz').id));
  });

  it('is never the last who could help: an administrator stays', async () => {
    const { name, email, place } = personNamed('Wren');
    const input = { name, email, place, roles: [], manager: null, deputy: null };
    expect(codesOf(await refusal(keepPerson(wren(), personNamed('Wren').id, input)))).toEqual([
      'last-administrator',
    ]);
  });
});

describe('a group', () => {
  it('holds people and groups, never itself', async () => {
    const inner = await group({ people: [personNamed('Ada').id] });
    const outer = await group({ groups: [inner] });
    expect(
      codesOf(await refusal(keepGroup(wren(), inner, { label: 'In itself', people: [], groups: [outer] }))),
    ).toEqual(['group-in-itself']);
    expect(await refusal(keepGroup(as('Ines'), inner, { label: 'X', people: [], groups: [] }))).toEqual({
      kind: 'forbidden',
      why: 'people',
    });
    expect(await refusal(removeGroup(wren(), newId()))).toMatchObject({ kind: 'not-found' });
  });

  it('fills a form that nobody else may, sees what is sent in it, and designs it, when that is said', async () => {
    const health = await group({ people: [personNamed('Ada').id] });
    const staff = await group({ groups: [health], people: [personNamed('Maren').id] });
    const early = await draft('Tomasz', formIds.treatment, treatmentAnswers(garden));
    const returned = await sent('Osei', formIds.treatment, treatmentAnswers(garden));
    await must(
      decideSubmission(as('Tomasz'), returned.id, {
        key: newId(),
        version: returned.version,
        decision: 'send-back',
        word: 'Which bed?',
      }),
    );
    const to = (
      groupId: string | null,
      action: 'fill' | 'see-all' | 'design',
      personId: string | null = null,
    ) => ({
      action,
      role: null,
      groupId,
      personId,
    });
    const seenOf = async () =>
      (await must(whoOfForm(as('Ines'), formIds.treatment))).grants.map(({ id }) => id);
    const before = await seenOf();
    const grants = [
      to(staff, 'fill'),
      to(health, 'see-all'),
      to(health, 'design'),
      to(null, 'design', personNamed('Ines').id),
    ];
    expect(
      await refusal(sayWhoOfForm(as('Maren'), formIds.treatment, { grants, seen: await seenOf() })),
    ).toMatchObject({
      kind: 'not-found',
    });
    expect(
      codesOf(
        await refusal(sayWhoOfForm(as('Ines'), formIds.treatment, { grants: [to(staff, 'fill')], seen: [] })),
      ),
    ).toEqual(['nobody-designs']);
    expect(
      codesOf(
        await refusal(
          sayWhoOfForm(as('Ines'), formIds.treatment, { grants: [to(newId(), 'design')], seen: [] }),
        ),
      ),
    ).toEqual(['not-a-colleague']);
    await must(sayWhoOfForm(as('Ines'), formIds.treatment, { grants, seen: await seenOf() }));
    // Whoever looked before that is told, and nothing of it is undone; saying the same again is no matter.
    const late = { grants: [to(null, 'design', personNamed('Ines').id)], seen: before };
    expect(await refusal(sayWhoOfForm(as('Ines'), formIds.treatment, late))).toMatchObject({
      kind: 'stale',
      why: 'who-changed',
    });
    await must(sayWhoOfForm(as('Ines'), formIds.treatment, { grants, seen: before }));
    const may = async (name: string) => ({
      home: (await must(openHome(as(name)))).forms.some(({ id }) => id === formIds.treatment),
      fill: (await openNewSheet(as(name), 'treatment_request')).ok,
      begin: (
        await saveDraft(as(name), newId(), {
          form: formIds.treatment,
          version: 0,
          answers: treatmentAnswers(garden),
        })
      ).ok,
    });
    const all = (ok: boolean) => ({ home: ok, fill: ok, begin: ok });
    expect(await may('Maren')).toEqual(all(true));
    expect(await may('Ada')).toEqual(all(true));
    expect(await may('Tomasz')).toEqual(all(false));
    // A draft from before stays, but is not sent; what was sent back is finished.
    const send = (name: string, one: { id: string; version: number }) =>
      sendSubmission(as(name), one.id, { key: newId(), version: one.version });
    expect(await refusal(send('Tomasz', early))).toEqual({ kind: 'forbidden', why: 'fill' });
    expect((await must(openSubmission(as('Tomasz'), early.id))).submission?.state).toBe('draft');
    expect((await must(send('Osei', { id: returned.id, version: returned.version + 1 }))).state).toBe(
      'waiting',
    );
    expect((await openSubmission(as('Ada'), returned.id)).ok).toBe(true);
    expect((await openSubmission(as('Maren'), returned.id)).ok).toBe(false);
    const ada = {
      ...as('Ada'),
      person: { ...as('Ada').person, roles: ['owner' as const, 'colleague' as const] },
    };
    expect((await openWorkbench(ada, formIds.treatment)).ok).toBe(true);
    expect((await must(whoOfForm(as('Ines'), formIds.treatment))).grants).toHaveLength(4);
    await must(removeGroup(wren(), staff));
    expect(await may('Maren')).toEqual(all(false));
  });

  it('sees a table when that is said, and not any more when it is not', async () => {
    const readers = await group({ people: [personNamed('Osei').id] });
    const seen = async (name: string) =>
      (await must(listTables(as(name)))).tables.some(({ key }) => key === 'taxa');
    const to = (action: 'see' | 'design', part: object) => ({
      action,
      role: null,
      groupId: null,
      personId: null,
      ...part,
    });
    const ines = { personId: personNamed('Ines').id };
    await must(
      sayWhoOfTable(as('Ines'), 'taxa', {
        grants: [to('see', ines), to('see', { groupId: readers }), to('design', ines)],
        seen: (await must(whoOfTable(as('Ines'), 'taxa'))).grants.map(({ id }) => id),
      }),
    );
    expect([await seen('Osei'), await seen('Maren'), await seen('Ines')]).toEqual([true, false, true]);
    // Whoever may only look is told whom it is said of, and of nobody else.
    const told = await must(whoOfTable(as('Osei'), 'taxa'));
    expect([told.people.map(({ name }) => name), told.groups.map(({ id, people }) => [id, people])]).toEqual([
      ['Ines Okafor'],
      [[readers, []]],
    ]);
    expect(await refusal(sayWhoOfTable(as('Osei'), 'taxa', { grants: [], seen: [] }))).toMatchObject({
      kind: 'forbidden',
    });
    expect(await refusal(sayWhoOfTable(as('Maren'), 'taxa', { grants: [], seen: [] }))).toMatchObject({
      kind: 'not-found',
    });
    await group({ people: [] }, readers);
    expect(await seen('Osei')).toBe(false);
  });
});
