import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { endTheirAccess } from '../../src/use-cases/people/keep-person';
import { sayAway, sayBack } from '../../src/use-cases/people/absences';
import {
  decideSubmission,
  handOver,
  withdrawSubmission,
} from '../../src/use-cases/submissions/decide-submission';
import { howManyWait, openApprovals, openHome } from '../../src/use-cases/submissions/open-home';
import { openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { remark } from '../../src/use-cases/submissions/remark';
import { answers, formWith } from '../support/one-question';
import { as, must, newId, refusal, sent, useWorld } from '../support/world';

const world = useWorld();
const id = (name: string): string => personNamed(name).id;
const day = (ahead: number): string => new Date(Date.now() + ahead * 86_400_000).toISOString().slice(0, 10);
const away = (name: string, standIn: string, [from, until] = [day(-1), day(1)], by = name) => {
  const absence = newId();
  return sayAway(as(by), absence, { person: id(name), from, until, standIn: id(standIn) });
};
const noLonger = () => world.sql('UPDATE slate.absence SET ended_at = now() WHERE ended_at IS NULL');
const decide = (name: string, of: string, version: number, decision: 'approve' | 'decline' = 'approve') =>
  decideSubmission(as(name), of, { key: newId(), version, decision, word: 'Because' });
const hand = (name: string, of: string, version: number, to: string) =>
  handOver(as(name), of, { key: newId(), version, to: id(to), word: '' });
/** As whom this one waits for somebody, in the list of what waits: null for themselves, nothing where it does not. */
const waiting = async (name: string, of: string) =>
  (await must(openApprovals(as(name)))).waiting.filter((one) => one.id === of).map((one) => one.standsInFor);

describe('somebody who is away', () => {
  it('is decided for by whoever stands in, from the first day to the last, and the trail says so', async () => {
    const form = await formWith({ people: [id('Ada')] });
    const one = await sent('Maren', form, answers);
    expect(await refusal(openSubmission(as('Pell'), one.id))).toMatchObject({ kind: 'not-found' });
    // What was asked before goes over as well; and both see it.
    const absence = await must(away('Ada', 'Pell'));
    expect(await waiting('Pell', one.id)).toEqual([personNamed('Ada').name]);
    expect(await waiting('Ada', one.id)).toEqual([null]);
    expect(await must(howManyWait(as('Pell')))).toMatchObject({ waiting: 1 });
    expect((await must(openSubmission(as('Pell'), one.id))).submission).toMatchObject({
      decidesAt: 0,
      decidesFor: personNamed('Ada').name,
      waits: [{ asked: [{ id: id('Ada'), away: { until: day(1), standIn: personNamed('Pell').name } }] }],
    });
    expect((await must(decide('Pell', one.id, one.version))).state).toBe('kept');
    const { submission } = await must(openSubmission(as('Pell'), one.id));
    expect(submission?.events.map(({ kind, by, for: whom }) => [kind, by, whom])).toContainEqual([
      'approve',
      personNamed('Pell').name,
      personNamed('Ada').name,
    ]);
    const later = await sent('Maren', form, answers);
    await must(sayBack(as('Ada'), absence.id));
    expect(await refusal(decide('Pell', later.id, later.version))).toMatchObject({ kind: 'not-found' });
    // What they decided they still see.
    expect((await must(openApprovals(as('Pell')))).decided.map((each) => each.id)).toContain(one.id);
  });

  it('is not decided for before or after, and no stand-in decides what they sent', async () => {
    await noLonger();
    const form = await formWith({ people: [id('Ada')] });
    const one = await sent('Maren', form, answers);
    await must(away('Ada', 'Pell', [day(2), day(5)]));
    expect(await refusal(decide('Pell', one.id, one.version))).toMatchObject({ kind: 'not-found' });
    await noLonger();
    await must(away('Ada', 'Maren'));
    expect(await refusal(decide('Maren', one.id, one.version))).toMatchObject({
      kind: 'forbidden',
      why: 'own-submission',
    });
    expect(await waiting('Maren', one.id)).toEqual([]);
    // Nor through somebody who stands in for their stand-in.
    await noLonger();
    await must(away('Ada', 'Pell'));
    await must(away('Pell', 'Maren'));
    expect(await waiting('Maren', one.id)).toEqual([]);
    const own = await sent('Kofi', form, answers);
    expect(await waiting('Maren', own.id)).toEqual([personNamed('Ada').name]);
    expect((await must(decide('Maren', own.id, own.version))).state).toBe('kept');
  });

  it('whose stand-in is asked as well gives them one word, not two', async () => {
    await noLonger();
    const form = await formWith({ people: [id('Ada'), id('Pell')], decide: 'all' });
    const one = await sent('Maren', form, answers);
    await must(away('Ada', 'Pell'));
    const first = await must(decide('Pell', one.id, one.version));
    expect(first.state).toBe('waiting');
    expect(await waiting('Pell', one.id)).toEqual([]);
    expect(await refusal(decide('Pell', one.id, first.version))).toMatchObject({ why: 'not-asked' });
    const client = new pg.Client({ connectionString: world.appUrl });
    await client.connect();
    try {
      await client.query('SELECT set_config($1, $2, false)', ['slate.person', id('Pell')]);
      await expect(
        client.query(
          `SELECT slate.move_submission($1, 'approve', 'kept', NULL, '{}'::uuid[], '', NULL, NULL, now())`,
          [one.id],
        ),
      ).rejects.toThrow(/does not move/);
      await expect(
        client.query('SELECT slate.put_absence($1, $2, $3, $4, $5)', [
          newId(),
          id('Ada'),
          day(0),
          day(9),
          id('Pell'),
        ]),
      ).rejects.toThrow();
    } finally {
      await client.end();
    }
    expect((await must(decide('Ada', one.id, one.version))).state).toBe('kept');
  });

  it('is said by themselves or an administrator, in days that can be, and goes when somebody leaves', async () => {
    await noLonger();
    expect(await refusal(away('Ada', 'Pell', [day(0), day(1)], 'Maren'))).toMatchObject({
      kind: 'forbidden',
    });
    const of = await must(away('Ada', 'Pell', [day(3), day(5)], 'Wren'));
    const codes = async (days: [string, string], standIn = 'Pell') => {
      const told = await refusal(away('Ada', standIn, days));
      return told.kind === 'invalid' ? told.issues.map(({ code }) => code) : told.kind;
    };
    expect(await codes([day(5), day(6)])).toEqual(['away-already']);
    expect(await codes([day(9), day(8)])).toEqual(['back-before-away']);
    expect(await codes([day(-9), day(-8)])).toEqual(['away-in-the-past']);
    expect(await codes([day(8), day(9)], 'Ada')).toEqual(['stands-in-for-self']);
    const same = { person: id('Ada'), from: day(4), until: day(5), standIn: id('Tomasz') };
    await must(sayAway(as('Ada'), of.id, same));
    expect((await must(openApprovals(as('Ada')))).away).toMatchObject([
      { from: day(4), standIn: id('Tomasz') },
    ]);
    expect(await refusal(sayAway(as('Pell'), of.id, { ...same, person: id('Pell') }))).toMatchObject({
      kind: 'not-found',
    });
    await must(endTheirAccess(as('Wren'), id('Tomasz'), { to: id('Pell') }));
    expect((await must(openApprovals(as('Ada')))).away).toEqual([]);
  });
});

describe('whoever is asked', () => {
  it('hands it over to another, who is asked instead; nobody has to look again because of it', async () => {
    await noLonger();
    const form = await formWith({ people: [id('Ada'), id('Pell')], decide: 2 });
    const one = await sent('Maren', form, answers);
    for (const to of ['Maren', 'Pell'])
      expect(await refusal(hand('Ada', one.id, one.version, to))).toMatchObject({ kind: 'invalid' });
    expect(await refusal(hand('Kofi', one.id, one.version, 'Ines'))).toMatchObject({ kind: 'not-found' });
    await must(hand('Ada', one.id, one.version, 'Kofi'));
    expect(await waiting('Ada', one.id)).toEqual([]);
    expect(await refusal(decide('Ada', one.id, one.version))).toMatchObject({ why: 'not-asked' });
    expect((await must(decide('Pell', one.id, one.version))).state).toBe('waiting');
    expect(await refusal(hand('Kofi', one.id, one.version + 2, 'Pell'))).toMatchObject({ kind: 'invalid' });
    expect((await must(decide('Kofi', one.id, one.version))).state).toBe('kept');
    const { submission } = await must(openSubmission(as('Maren'), one.id));
    expect(submission?.events.find(({ kind }) => kind === 'hand-over')).toMatchObject({
      by: personNamed('Ada').name,
      to: personNamed('Kofi').name,
    });
  });

  it('hands it over to one of two, who press at once', async () => {
    const form = await formWith({ people: [id('Ada')] });
    const one = await sent('Maren', form, answers);
    const all = await Promise.all(['Kofi', 'Ines', 'Pell'].map((to) => hand('Ada', one.id, one.version, to)));
    expect(all.filter(({ ok }) => ok)).toHaveLength(1);
    expect(
      await world.sql('SELECT count(*)::int AS n FROM slate.ask WHERE submission_id = $1 AND open', [one.id]),
    ).toEqual([{ n: 1 }]);
  });

  it('asks something and is answered, and nothing moves', async () => {
    const form = await formWith({ people: [id('Ada')] });
    const one = await sent('Maren', form, answers);
    const say = (name: string, word: string, key = newId()) => remark(as(name), one.id, { key, word });
    const key = newId();
    await must(say('Ada', 'Which bed?', key));
    // Sent again, because the answer was lost.
    await must(say('Ada', 'Which bed?', key));
    const said = async () =>
      (await must(openHome(as('Maren')))).mine.find((each) => each.id === one.id)?.said;
    expect(await said()).toEqual({ name: personNamed('Ada').name, word: 'Which bed?' });
    await must(say('Maren', 'The first'));
    expect(await said()).toBeNull();
    expect((await must(openApprovals(as('Ada')))).waiting.find((each) => each.id === one.id)?.said).toEqual({
      name: personNamed('Maren').name,
      word: 'The first',
    });
    expect(await refusal(say('Pell', 'Me too'))).toMatchObject({ kind: 'not-found' });
    expect(await refusal(say('Ada', '  '))).toMatchObject({ issues: [{ code: 'word-needed' }] });
    const { submission } = await must(openSubmission(as('Ada'), one.id));
    expect(submission?.events.map(({ kind }) => kind)).toEqual(['send', 'remark', 'remark']);
    expect((await must(decide('Ada', one.id, one.version))).state).toBe('kept');
    const gone = await sent('Maren', form, answers);
    await must(withdrawSubmission(as('Maren'), gone.id, { key: newId(), version: gone.version }));
    expect(await refusal(hand('Ada', gone.id, gone.version, 'Pell'))).toMatchObject({ kind: 'stale' });
  });
});

describe('a step with a time', () => {
  it('is due working days after it began, however often it is handed over, and first in the list', async () => {
    await noLonger();
    const [slow, quick] = [
      await formWith({ people: [id('Ada')] }),
      await formWith({ people: [id('Ada')], within: 2 }, { people: [id('Ada')] }),
    ];
    const [first, second] = [await sent('Maren', slow, answers), await sent('Maren', quick, answers)];
    // Sent on a Monday.
    const due = { day: '2026-11-25', late: false };
    const list = (await must(openApprovals(as('Ada')))).waiting.map((one) => one.id);
    expect(list.indexOf(second.id)).toBeLessThan(list.indexOf(first.id));
    expect((await must(openHome(as('Maren')))).mine.find((one) => one.id === second.id)?.due).toEqual(due);
    const later = { ...as('Ada'), now: new Date('2026-11-25T09:00:00Z') };
    await must(
      handOver(later, second.id, { key: newId(), version: second.version, to: id('Kofi'), word: '' }),
    );
    const seen = async (now: string) =>
      (await must(openSubmission({ ...as('Kofi'), now: new Date(now) }, second.id))).submission?.waits[0]
        ?.due;
    expect(await seen('2026-11-25T23:59:00Z')).toEqual(due);
    expect(await seen('2026-11-26T00:01:00Z')).toEqual({ ...due, late: true });
    await must(decide('Kofi', second.id, second.version));
    expect((await must(openSubmission(as('Ada'), second.id))).submission?.waits).toMatchObject([
      { step: 1, due: null },
    ]);
  });
});
