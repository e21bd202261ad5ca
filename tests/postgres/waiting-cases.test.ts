import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { moveCase, openWaiting, type Moving } from '../../src/use-cases/submissions/move-case';
import { howManyWait } from '../../src/use-cases/submissions/open-home';
import { openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { answers, formWith } from '../support/one-question';
import { as, must, newId, refusal, sent, useWorld } from '../support/world';

/** Wren administers; what is sent by Maren waits for Pell, then for Osei and Ruo, then for Dagny. */
const world = useWorld();
const id = (name: string): string => personNamed(name).id;
const form = () =>
  formWith(
    { people: [id('Pell')] },
    { people: [id('Osei'), id('Ruo')], decide: 'all' },
    { people: [id('Dagny')] },
  );
const moving = (more: Partial<Moving> = {}): Moving => ({
  key: newId(),
  from: 0,
  to: 0,
  person: id('Ada'),
  word: 'Pell is on a long journey.',
  ...more,
});
const approve = (name: string, of: string, version: number) =>
  decideSubmission(as(name), of, { key: newId(), version, decision: 'approve', word: '' });
const waits = async (of: string) =>
  (await must(openSubmission(as('Maren'), of))).submission?.waits.map(({ step, asked }) => [
    step,
    ...asked.map((one) => one.name.split(' ')[0]).sort(),
  ]);
const versionOf = async (of: string): Promise<number> =>
  (await must(openSubmission(as('Maren'), of))).submission?.version ?? 0;
const listed = async (of: string) =>
  (await must(openWaiting(as('Wren'), ''))).cases.find((one) => one.id === of);

describe('what waits, for administrators', () => {
  it('is listed with where it is and for whom, not with what was answered, and found by words', async () => {
    const one = await sent('Maren', await form(), answers);
    const found = await listed(one.id);
    expect(found).toMatchObject({
      sender: { name: personNamed('Maren').name },
      steps: ['Step 0', 'Step 1', 'Step 2'],
      waits: [{ step: 0, asked: [{ id: id('Pell'), ended: false }], stuck: false }],
    });
    expect(JSON.stringify(found)).not.toContain('Something');
    const by = async (words: string) =>
      (await must(openWaiting(as('Wren'), words))).cases.some((each) => each.id === one.id);
    expect([
      await by(found?.number.toLowerCase() ?? ''),
      await by('SOLHEIM'),
      await by('no such words'),
    ]).toEqual([true, true, false]);
    expect(await refusal(openWaiting(as('Ines'), ''))).toMatchObject({ kind: 'forbidden' });
  });

  it('stands first and is counted once nobody who is here can decide it', async () => {
    const one = await sent('Maren', await form(), answers);
    const before = await must(howManyWait(as('Wren')));
    await world.sql('UPDATE slate.person SET ended_at = now() WHERE id = $1', [id('Pell')]);
    const { cases } = await must(openWaiting(as('Wren'), ''));
    const stuck = cases.filter((each) => each.waits.some((at) => at.stuck));
    expect(stuck.map((each) => each.id)).toContain(one.id);
    expect(cases.slice(0, stuck.length)).toEqual(stuck);
    expect([before.stuck, (await must(howManyWait(as('Wren')))).stuck]).toEqual([0, stuck.length]);
    expect((await must(howManyWait(as('Ines')))).stuck).toBe(0);
    for (const each of stuck) await must(moveCase(as('Wren'), each.id, moving()));
    expect((await must(howManyWait(as('Wren')))).stuck).toBe(0);
    await world.sql('UPDATE slate.person SET ended_at = NULL WHERE id = $1', [id('Pell')]);
  });

  it('is decided by whom an administrator says, at its step, and the reason stands in its path', async () => {
    const one = await sent('Maren', await form(), answers);
    const how = moving();
    await must(moveCase(as('Wren'), one.id, how));
    // Pressed twice, it is moved once.
    await must(moveCase(as('Wren'), one.id, how));
    expect(await waits(one.id)).toEqual([[0, 'Ada']]);
    const { submission } = await must(openSubmission(as('Maren'), one.id));
    expect(submission?.events.at(-1)).toMatchObject({
      kind: 'move',
      by: personNamed('Wren').name,
      to: personNamed('Ada').name,
      word: how.word,
    });
    expect(await refusal(approve('Pell', one.id, await versionOf(one.id)))).toMatchObject({
      kind: 'forbidden',
    });
    // She looked before it was moved to her: the sheet is the same.
    await must(approve('Ada', one.id, one.version));
    expect(await waits(one.id)).toEqual([[1, 'Osei', 'Ruo']]);
    expect(
      await world.sql(
        `SELECT count(*)::int AS n FROM slate.notice WHERE submission_id = $1 AND person_id = $2 AND kind = 'asked'`,
        [one.id, id('Ada')],
      ),
    ).toEqual([{ n: 1 }]);
  });

  it('goes on from the step it is taken to, with what was approved there before asked for again', async () => {
    const one = await sent('Maren', await form(), answers);
    await must(approve('Pell', one.id, one.version));
    await must(approve('Osei', one.id, await versionOf(one.id)));
    await must(moveCase(as('Wren'), one.id, moving({ from: 1, to: 2, person: id('Kofi') })));
    expect(await waits(one.id)).toEqual([[2, 'Kofi']]);
    await must(moveCase(as('Wren'), one.id, moving({ from: 2, to: 1, person: id('Ruo') })));
    expect(await waits(one.id)).toEqual([[1, 'Ruo']]);
    // All of those who are asked there now, and that is one.
    await must(approve('Ruo', one.id, await versionOf(one.id)));
    expect(await waits(one.id)).toEqual([[2, 'Dagny']]);
    expect((await must(approve('Dagny', one.id, await versionOf(one.id)))).state).toBe('kept');
    expect(await refusal(moveCase(as('Wren'), one.id, moving()))).toMatchObject({
      kind: 'stale',
      why: 'already-decided',
    });
  });

  it('is not moved to its sender, to whoever moves it, to nobody, without a reason, or by anybody else', async () => {
    const one = await sent('Maren', await form(), answers);
    const tried = (more: Partial<Moving>, who = 'Wren') => refusal(moveCase(as(who), one.id, moving(more)));
    expect(await tried({ person: id('Maren') })).toMatchObject({ issues: [{ code: 'hand-over-to-sender' }] });
    expect(await tried({ person: id('Wren') })).toMatchObject({ issues: [{ code: 'move-to-oneself' }] });
    expect(await tried({ person: newId() })).toMatchObject({ issues: [{ code: 'not-a-colleague' }] });
    expect(await tried({ word: '  ' })).toMatchObject({ issues: [{ code: 'word-needed' }] });
    expect(await tried({ to: 9 })).toMatchObject({ issues: [{ code: 'move-to-no-step' }] });
    expect(await tried({ from: 2, to: 2 })).toMatchObject({ kind: 'stale' });
    expect(await tried({}, 'Ines')).toMatchObject({ kind: 'forbidden' });
    expect(await refusal(moveCase(as('Wren'), newId(), moving()))).toMatchObject({ kind: 'not-found' });
    expect(await waits(one.id)).toEqual([[0, 'Pell']]);
  });

  it('law of the database: only administrators, never to themselves or the sender, never without a reason', async () => {
    const one = await sent('Maren', await form(), answers);
    const client = new pg.Client({ connectionString: process.env['SLATE_APP_URL'] });
    await client.connect();
    const tried = async (who: string, of: string, values: readonly unknown[]): Promise<string> => {
      await client.query('BEGIN');
      try {
        await client.query(`SELECT set_config('slate.person', $1, true)`, [id(who)]);
        await client.query(of, [...values]);
        return 'done';
      } catch (error) {
        return (error as { code: string }).code;
      } finally {
        await client.query('ROLLBACK');
      }
    };
    const move = (who: string, from: number, to: number, person: string, word = 'So') =>
      tried(who, 'SELECT slate.move_case($1, $2, $3, $4, $5, now())', [one.id, from, to, id(person), word]);
    expect(await move('Wren', 0, 0, 'Ada')).toBe('done');
    expect(await move('Wren', 0, 2, 'Ada')).toBe('done');
    expect(await move('Ines', 0, 0, 'Ada')).toBe('TS010');
    expect(await move('Wren', 0, 0, 'Maren')).toBe('TS010');
    expect(await move('Wren', 0, 0, 'Wren')).toBe('TS010');
    expect(await move('Wren', 0, 0, 'Ada', ' ')).toBe('TS010');
    expect(await move('Wren', 1, 1, 'Ada')).toBe('TS010');
    expect(await move('Wren', 0, 3, 'Ada')).toBe('TS010');
    expect(await tried('Ines', `SELECT * FROM slate.waiting_cases('', 10)`, [])).toBe('TS010');
    expect(await tried('Ines', 'SELECT slate.case_in_hand($1)', [one.id])).toBe('TS010');
    await client.end();
  });
});
