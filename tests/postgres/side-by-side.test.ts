import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { decideSubmission, handOver, returnToStep } from '../../src/use-cases/submissions/decide-submission';
import { lookOverDue } from '../../src/use-cases/notices/look-over-due';
import { openApprovals } from '../../src/use-cases/submissions/open-home';
import { openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { answers, formWith } from '../support/one-question';
import { as, must, newId, refusal, sent, useWorld } from '../support/world';

/** Two steps that are asked at the same time, and one after them. */
const world = useWorld();
const id = (name: string): string => personNamed(name).id;
const form = (more: object = {}) =>
  formWith(
    { people: [id('Ada'), id('Pell')] },
    { people: [id('Ada'), id('Osei')], beside: true, ...more },
    { people: [id('Dagny')] },
  );
const decide = (
  name: string,
  of: string,
  version: number,
  { step, decision = 'approve' }: { step?: number; decision?: 'approve' | 'decline' } = {},
) =>
  decideSubmission(as(name), of, {
    key: newId(),
    version,
    step,
    decision,
    word: decision === 'decline' ? 'No' : '',
  });
const waits = async (of: string) =>
  (await must(openSubmission(as('Maren'), of))).submission?.waits.map(({ step, asked }) => [
    step,
    ...asked.map((one) => one.name.split(' ')[0]),
  ]);
const open = (of: string) =>
  world.sql(
    'SELECT step, count(*)::int AS n FROM slate.ask WHERE submission_id = $1 AND open GROUP BY 1 ORDER BY 1',
    [of],
  );
const inList = async (name: string, of: string) =>
  (await must(openApprovals(as(name)))).waiting
    .filter((one) => one.id === of)
    .map(({ step, place }) => [step, place]);

describe('steps side by side', () => {
  it('are asked together, decided in any order on the sheet as it was looked at, and followed once both are done', async () => {
    const one = await sent('Maren', await form(), answers);
    expect(await waits(one.id)).toEqual([
      [0, 'Ada', 'Pell'],
      [1, 'Ada', 'Osei'],
    ]);
    // In the list of whoever is asked in both it stands once, with the first.
    expect([await inList('Ada', one.id), await inList('Osei', one.id)]).toEqual([
      [['Step 0', 0]],
      [['Step 1', 1]],
    ]);
    expect(await must(decide('Osei', one.id, one.version, { step: 1 }))).toMatchObject({ state: 'waiting' });
    expect([await waits(one.id), await open(one.id)]).toEqual([[[0, 'Ada', 'Pell']], [{ step: 0, n: 2 }]]);
    // Pell looked before that, and has nothing to look at again.
    expect(await must(decide('Pell', one.id, one.version, { step: 0 }))).toMatchObject({ state: 'waiting' });
    expect(await waits(one.id)).toEqual([[2, 'Dagny']]);
    const { submission } = await must(openSubmission(as('Dagny'), one.id));
    expect(submission?.events.map(({ kind, step }) => [kind, step])).toEqual([
      ['send', null],
      ['approve', 1],
      ['approve', 0],
    ]);
    expect((await must(decide('Dagny', one.id, submission?.version ?? 0))).state).toBe('kept');
  });

  it('are two words of whoever is asked in both, of which none is taken for the other', async () => {
    const one = await sent('Maren', await form(), answers);
    const first = await must(decide('Pell', one.id, one.version));
    // Ada looked at the first step, which Pell has decided meanwhile.
    expect(await refusal(decide('Ada', one.id, one.version, { step: 0 }))).toMatchObject({
      kind: 'stale',
      why: 'already-decided',
      facts: { by: personNamed('Pell').name },
    });
    expect(await inList('Ada', one.id)).toEqual([['Step 1', 1]]);
    await must(
      handOver(as('Ada'), one.id, { key: newId(), version: first.version, step: 1, to: id('Ruo'), word: '' }),
    );
    expect(await waits(one.id)).toEqual([[1, 'Ruo', 'Osei']]);
    expect((await must(decide('Ruo', one.id, first.version + 1))).state).toBe('waiting');
    expect(await waits(one.id)).toEqual([[2, 'Dagny']]);
  });

  it('end together where one declines; both pressed at the same moment both count', async () => {
    const gone = await sent('Maren', await form(), answers);
    expect((await must(decide('Osei', gone.id, gone.version, { decision: 'decline' }))).state).toBe(
      'declined',
    );
    expect([await open(gone.id), await inList('Pell', gone.id)]).toEqual([[], []]);
    const one = await sent('Maren', await form(), answers);
    const both = await Promise.all([
      decide('Pell', one.id, one.version, { step: 0 }),
      decide('Osei', one.id, one.version, { step: 1 }),
    ]);
    expect(both.map(({ ok }) => ok)).toEqual([true, true]);
    expect(await waits(one.id)).toEqual([[2, 'Dagny']]);
  });

  it('are sent back to an earlier step, which is asked alone and once more, and those after it again', async () => {
    const one = await sent('Maren', await form(), answers);
    await must(decide('Pell', one.id, one.version));
    const both = await must(decide('Osei', one.id, one.version));
    const back = (name: string, to: number, version: number, word = 'Look again') =>
      returnToStep(as(name), one.id, { key: newId(), version, to, word, step: null });
    expect(await refusal(back('Pell', 0, both.version))).toMatchObject({ why: 'not-asked' });
    expect(await refusal(back('Dagny', 2, both.version))).toMatchObject({
      issues: [{ code: 'return-to-earlier' }],
    });
    expect(await refusal(back('Dagny', 1, both.version, ' '))).toMatchObject({
      issues: [{ code: 'word-needed' }],
    });
    const returned = await must(back('Dagny', 1, both.version));
    expect([returned.state, await waits(one.id)]).toEqual(['waiting', [[1, 'Ada', 'Osei']]]);
    // Whoever approved it before is asked once more, and is told.
    const { submission } = await must(openSubmission(as('Osei'), one.id));
    expect([submission?.decidesAt, submission?.waits[0]?.approved, submission?.returnTo]).toEqual([1, 0, []]);
    expect(submission?.events.at(-1)).toMatchObject({
      kind: 'return',
      step: 2,
      toStep: 1,
      word: 'Look again',
    });
    expect(
      await world.sql(
        `SELECT count(*)::int AS n FROM slate.notice WHERE submission_id = $1 AND person_id = $2 AND kind = 'asked'`,
        [one.id, id('Osei')],
      ),
    ).toEqual([{ n: 2 }]);
    await must(decide('Osei', one.id, returned.version));
    expect(await waits(one.id)).toEqual([[2, 'Dagny']]);
    expect((await must(decide('Dagny', one.id, returned.version + 1))).state).toBe('kept');
  });

  it('are late each for itself', async () => {
    await world.sql(`UPDATE slate.workspace SET workdays = '{1,2,3,4,5,6,7}', holidays = '{}'`);
    const one = await sent('Maren', await form({ within: 1, late: id('Ruo') }), answers);
    await lookOverDue(new Date(as('Maren').now.getTime() + 4 * 86_400_000));
    const asked = await world.sql(
      `SELECT step, for_id FROM slate.submission_event WHERE submission_id = $1 AND kind = 'late' ORDER BY position`,
      [one.id],
    );
    expect(asked).toEqual([{ step: 1, for_id: id('Ada') }]);
    expect((await waits(one.id))?.map(([step, ...who]) => [step, who.length])).toEqual([
      [0, 2],
      [1, 3],
    ]);
  });

  it('law of the database: each step of a round is asked, by its own people, and none goes on before both are done', async () => {
    const of = await form();
    const client = new pg.Client({ connectionString: process.env['SLATE_APP_URL'] });
    await client.connect();
    const asPlain = async (name: string, work: () => Promise<unknown>): Promise<string> => {
      await client.query('BEGIN');
      try {
        await client.query(`SELECT set_config('slate.person', $1, true)`, [id(name)]);
        await work();
        return 'done';
      } catch (error) {
        return (error as { code: string }).code;
      } finally {
        await client.query('ROLLBACK');
      }
    };
    const send = (people: string[], beside: Record<string, string[]>) =>
      asPlain('Maren', async () => {
        const { rows } = await client.query<{ id: string }>(
          `INSERT INTO slate.submission (id, form_id, release_id, state, sender_id, answers) SELECT gen_random_uuid(), form_id, id, 'draft', $2, '{}' FROM slate.form_release WHERE form_id = $1 ORDER BY number DESC LIMIT 1 RETURNING id`,
          [of, id('Maren')],
        );
        await client.query(
          `SELECT slate.move_submission($1, 'send', 'waiting', 0, $2::uuid[], '', 'X-1', '{}', now(), '{}', '{}', $3)`,
          [rows[0]?.id, people, JSON.stringify(beside)],
        );
      });
    const [ada, pell, osei] = ['Ada', 'Pell', 'Osei'].map(id) as [string, string, string];
    expect(await send([ada, pell], { 1: [ada, osei] })).toBe('done');
    expect(await send([ada, pell], {})).toBe('TS010');
    expect(await send([ada, pell], { 1: [] })).toBe('TS010');
    expect(await send([ada, pell], { 1: [pell] })).toBe('TS010');
    expect(await send([ada, pell], { 1: [osei], 2: [id('Dagny')] })).toBe('TS010');
    const one = await sent('Maren', of, answers);
    const move = (name: string, state: string, step: number | null, people: string[]) =>
      asPlain(name, () =>
        client.query(
          `SELECT slate.move_submission($1, 'approve', $2, $3, $4::uuid[], '', NULL, NULL, now())`,
          [one.id, state, step, people],
        ),
      );
    expect(await move('Pell', 'waiting', 1, [])).toBe('done');
    expect(await move('Osei', 'waiting', 0, [])).toBe('done');
    expect(await move('Pell', 'waiting', 2, [id('Dagny')])).toBe('TS010');
    expect(await move('Pell', 'kept', null, [])).toBe('TS010');
    expect(await move('Dagny', 'kept', null, [])).toBe('TS010');
    const back = (name: string, to: number, people: string[]) =>
      asPlain(name, () =>
        client.query(
          `SELECT slate.move_submission($1, 'return', 'waiting', $2, $3::uuid[], 'No', NULL, NULL, now())`,
          [one.id, to, people],
        ),
      );
    // Nothing is before the first of them, and the other is beside it.
    for (const to of [-1, 0, 1, 2]) expect(await back('Osei', to, [ada, pell])).toBe('TS010');
    const first = await must(decide('Pell', one.id, one.version));
    await must(decide('Osei', one.id, first.version));
    expect(await back('Dagny', 1, [ada, osei])).toBe('done');
    expect(await back('Dagny', 1, [pell])).toBe('TS010');
    expect(await back('Ada', 1, [ada, osei])).toBe('TS010');
    await client.end();
  });
});
