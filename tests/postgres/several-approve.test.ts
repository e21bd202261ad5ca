import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { noAnswers } from '../../src/core/form/answers';
import { personNamed } from '../../demo/people';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { openApprovals } from '../../src/use-cases/submissions/open-home';
import { openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { saveDraft } from '../../src/use-cases/submissions/save-draft';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { answers, formWith } from '../support/one-question';
import { as, draft, must, newId, refusal, sent, useWorld } from '../support/world';

const world = useWorld(makeColleagues);
const MANY = 12;
const colleagues = Array.from({ length: MANY }, (_, i) => `01900000-0000-7000-b000-0000000000${i + 10}`);
const colleague = (id: string) => ({ person: { ...personNamed('Pell'), id, name: id }, now: as('Pell').now });

async function makeColleagues({
  sql,
}: {
  sql: (text: string, values?: unknown[]) => Promise<unknown>;
}): Promise<void> {
  for (const id of colleagues)
    await sql(`INSERT INTO slate.person (id, name, email, place, roles) VALUES ($1, $2, $3, '', '{}')`, [
      id,
      `C ${id.slice(-2)}`,
      `c${id.slice(-2)}@quillmere.example`,
    ]);
}

const decide = (id: string, of: string, version: number, decision: 'approve' | 'decline' = 'approve') =>
  decideSubmission(colleague(of), id, {
    key: newId(),
    version,
    decision,
    word: decision === 'approve' ? '' : 'No',
  });

describe('a step that several approve', () => {
  it('takes as many as it asks for of all who approve at once, and tells the rest who was first', async () => {
    const form = await formWith({ people: colleagues, decide: 3 });
    const one = await sent('Maren', form, answers);
    // All of them look at the same sheet, and press at the same moment.
    const results = await Promise.all(colleagues.map((who) => decide(one.id, who, one.version)));
    expect(results.filter(({ ok: fine }) => fine)).toHaveLength(3);
    const told = results.flatMap((result) => (result.ok ? [] : [result.error]));
    expect(new Set(told.map(({ kind }) => kind))).toEqual(new Set(['stale']));
    const rows = await world.sql(
      `SELECT kind, count(*)::int AS n FROM slate.submission_event WHERE submission_id = $1 GROUP BY kind ORDER BY kind`,
      [one.id],
    );
    expect(rows).toEqual([
      { kind: 'approve', n: 3 },
      { kind: 'keep', n: 1 },
      { kind: 'send', n: 1 },
    ]);
    expect(
      await world.sql('SELECT count(*)::int AS n FROM slate.ask WHERE submission_id = $1 AND open', [one.id]),
    ).toEqual([{ n: 0 }]);
  });

  it('waits for all where all must, and for nobody twice', async () => {
    const two = colleagues.slice(0, 2);
    const form = await formWith({ people: two, decide: 'all' }, { people: [colleagues[2]!] });
    const one = await sent('Maren', form, answers);
    expect((await must(decide(one.id, two[0]!, one.version))).state).toBe('waiting');
    expect((await must(openApprovals(colleague(two[0]!)))).waiting).toEqual([]);
    expect((await must(openApprovals(colleague(two[1]!)))).waiting).toHaveLength(1);
    expect(await refusal(decide(one.id, two[0]!, one.version + 1))).toMatchObject({
      kind: 'forbidden',
      why: 'not-asked',
    });
    const data = await must(openSubmission(as('Maren'), one.id));
    expect(data.submission).toMatchObject({ waits: [{ step: 0, approved: 1, asked: [{ id: two[1] }] }] });
    // What the other looked at has not changed, though one has approved it meanwhile.
    await must(decide(one.id, two[1]!, one.version));
    expect((await must(openSubmission(as('Maren'), one.id))).submission).toMatchObject({
      waits: [{ step: 1, approved: 0 }],
    });
    expect((await must(decide(one.id, colleagues[2]!, one.version + 2))).state).toBe('kept');
  });

  it('is ended by one who declines, and begun anew when it is sent again', async () => {
    const two = colleagues.slice(0, 2);
    const form = await formWith({ people: two, decide: 2 });
    const one = await sent('Maren', form, answers);
    await must(decide(one.id, two[0]!, one.version));
    const back = await must(
      decideSubmission(colleague(two[1]!), one.id, {
        key: newId(),
        version: one.version,
        decision: 'send-back',
        word: 'Why?',
      }),
    );
    const again = await must(sendSubmission(as('Maren'), one.id, { key: newId(), version: back.version }));
    expect((await must(decide(one.id, two[0]!, again.version))).state).toBe('waiting');
    expect((await must(decide(one.id, two[1]!, again.version, 'decline'))).state).toBe('declined');
  });

  it('cannot be sent where fewer could approve than must', async () => {
    const form = await formWith({ people: [colleagues[0]!, personNamed('Maren').id], decide: 2 });
    const own = await draft('Maren', form, answers);
    expect(
      await refusal(sendSubmission(as('Maren'), own.id, { key: newId(), version: own.version })),
    ).toMatchObject({
      issues: [{ code: 'too-few-to-ask', facts: { wanted: 2, found: 1 } }],
    });
  });

  it('is asked only where its condition is true of what is sent', async () => {
    const [lead, director] = colleagues as [string, string];
    const form = await formWith(
      { people: [lead], when: 'qwhat != "Nothing"' },
      { people: [director], when: 'string length(qwhat) > 5' },
    );
    const state = async (qwhat: string | null) => {
      const one = await sent('Maren', form, { ...noAnswers, values: { qwhat } });
      const { submission } = await must(openSubmission(as('Maren'), one.id));
      return [one.state, submission?.waits[0]?.step ?? null, submission?.skipped];
    };
    expect(await state('Short')).toEqual(['waiting', 0, ['step1']]);
    expect(await state('Something')).toEqual(['waiting', 0, []]);
    expect(await state('Nothing')).toEqual(['waiting', 1, ['step0']]);
    // What cannot be told is asked.
    expect(await state(null)).toEqual(['waiting', 0, []]);
    const none = await formWith({ people: [lead], when: 'qwhat = "Something"' });
    expect((await sent('Maren', none, { ...noAnswers, values: { qwhat: 'Else' } })).state).toBe('kept');
  });

  it('is passed over in what was sent alone, though its condition would come out otherwise later', async () => {
    const [lead, director] = colleagues as [string, string];
    const form = await formWith({ people: [lead] }, { people: [director], when: 'qwhat = "Large"' });
    const one = await sent('Maren', form, { ...noAnswers, values: { qwhat: 'Large' } });
    expect((await must(decide(one.id, lead, one.version))).state).toBe('waiting');
    const small = await sent('Maren', form, { ...noAnswers, values: { qwhat: 'Small' } });
    expect((await must(decide(small.id, lead, small.version))).state).toBe('kept');
    const client = new pg.Client({ connectionString: world.appUrl });
    await client.connect();
    try {
      const own = await draft('Maren', form, answers);
      await client.query('SELECT set_config($1, $2, false)', ['slate.person', personNamed('Maren').id]);
      const send = (skips: string[], state: string, step: number | null, people: string[]) =>
        client.query(
          `SELECT slate.move_submission($1, 'send', $2, $3, $4::uuid[], '', 'X-1', '{}', now(), $5)`,
          [own.id, state, step, people, skips],
        );
      await expect(send(['step0', 'step1'], 'kept', null, [])).rejects.toThrow(/always asked/);
      await expect(send(['step1'], 'waiting', 1, [director])).rejects.toThrow(/does not move/);
    } finally {
      await client.end();
    }
  });

  it('goes on without one who declines where that counts as one against; of all who press at once, as many count as end it', async () => {
    const three = colleagues.slice(0, 3);
    const [ada, lead, chief] = three as [string, string, string];
    const form = await formWith({ people: three, decide: 2, declines: 'against' });
    const said = (of: string, who: string, decision: 'approve' | 'decline', version: number) =>
      decideSubmission(colleague(who), of, { key: newId(), version, decision, word: 'So' });
    const one = await sent('Maren', form, answers);
    expect((await must(said(one.id, ada, 'decline', one.version))).state).toBe('waiting');
    expect(await refusal(said(one.id, ada, 'approve', one.version + 1))).toMatchObject({ kind: 'forbidden' });
    // The other two looked before that, and have nothing to look at again.
    expect((await must(said(one.id, lead, 'approve', one.version))).state).toBe('waiting');
    expect((await must(said(one.id, chief, 'approve', one.version))).state).toBe('kept');
    expect(
      await world.sql(`SELECT kind FROM slate.notice WHERE submission_id = $1 AND kind = 'declined'`, [
        one.id,
      ]),
    ).toEqual([]);
    const two = await sent('Maren', form, answers);
    const all = await Promise.all(three.map((who) => said(two.id, who, 'decline', two.version)));
    expect(all.map((each) => (each.ok ? each.value.state : each.error.kind)).sort()).toEqual([
      'declined',
      'stale',
      'waiting',
    ]);
  });

  it('asks groups, with those within them, and the manager of whoever sends', async () => {
    const [ada, lead, chief, other] = colleagues as [string, string, string, string];
    const [health, officers] = [newId(), newId()];
    for (const id of [health, officers])
      await world.sql('INSERT INTO slate.person_group (id, label) VALUES ($1, $2)', [id, id]);
    await world.sql('INSERT INTO slate.group_member (group_id, person_id) VALUES ($1, $2)', [officers, ada]);
    await world.sql('INSERT INTO slate.group_member (group_id, member_id) VALUES ($1, $2)', [
      health,
      officers,
    ]);
    await world.sql('UPDATE slate.person SET manager_id = $2 WHERE id = $1', [personNamed('Maren').id, lead]);
    await world.sql('UPDATE slate.person SET manager_id = $2 WHERE id = $1', [lead, chief]);
    const form = await formWith({ people: [], manager: true }, { people: [], groups: [health] });
    const one = await sent('Maren', form, answers);
    expect((await must(openSubmission(as('Maren'), one.id))).submission?.waits[0]?.asked).toMatchObject([
      { id: lead },
    ]);
    // Somebody else has another manager, or none.
    const sentBy = async (who: string) => {
      const id = newId();
      const drafted = await must(saveDraft(colleague(who), id, { form, version: 0, answers }));
      return sendSubmission(colleague(who), id, { key: newId(), version: drafted.version });
    };
    expect((await sentBy(lead)).ok).toBe(true);
    expect(await refusal(sentBy(chief))).toMatchObject({ issues: [{ code: 'nobody-to-ask' }] });
    await must(decide(one.id, lead, one.version));
    expect(await refusal(decide(one.id, other, one.version + 1))).toMatchObject({ kind: 'not-found' });
    expect((await must(decide(one.id, ada, one.version + 1))).state).toBe('kept');
    const two = await formWith({ people: [], manager: 2 });
    const above = await sent('Maren', two, answers);
    expect((await must(openSubmission(as('Maren'), above.id))).submission?.waits[0]?.asked).toMatchObject([
      { id: chief, why: 'above the sender' },
    ]);
    expect(
      await world.sql(
        `SELECT slate.above($1, 1) = $2 AS one, slate.above($1, 2) = $3 AS two, slate.above($1, 3) = $3 AS three, slate.above($3, 2) AS none`,
        [personNamed('Maren').id, lead, chief],
      ),
    ).toEqual([{ one: true, two: true, three: true, none: null }]);
    const [row] = await world.sql(
      `SELECT slate.is_asked_by('{"people": [], "manager": true}', $1, $2, '{}') AS own, slate.is_asked_by('{"people": [], "groups": ["${health}"]}', $1, $2, '{}') AS grouped`,
      [lead, personNamed('Maren').id],
    );
    expect(row).toEqual({ own: true, grouped: false });
  });

  it('does not ask again who has approved before, where that is designed', async () => {
    const [first = '', second = ''] = colleagues;
    const form = await formWith(
      { people: [first, second] },
      { people: [first], unlessApproved: true },
      { people: [first, second], unlessApproved: true },
    );
    const one = await sent('Maren', form, answers);
    const next = await must(decide(one.id, first, one.version));
    // The second step asks nobody but who has just approved; the third asks another as well.
    expect(next.state).toBe('waiting');
    expect(await world.sql(`SELECT step FROM slate.submission WHERE id = $1`, [one.id])).toEqual([
      { step: 2 },
    ]);
    expect((await must(decide(one.id, second, one.version + 1))).state).toBe('kept');
  });

  it('is held by the database too', async () => {
    const form = await formWith({ people: colleagues, decide: 3 });
    const one = await sent('Maren', form, answers);
    const client = new pg.Client({ connectionString: world.appUrl });
    await client.connect();
    try {
      await client.query('SELECT set_config($1, $2, false)', ['slate.person', colleagues[0]]);
      const move = (state: string, step: number | null) =>
        client.query(`SELECT slate.move_submission($1, 'approve', $2, $3, '{}', '', NULL, NULL, now())`, [
          one.id,
          state,
          step,
        ]);
      await expect(move('kept', null)).rejects.toThrow(/does not move like this/);
      await move('waiting', 0);
      await expect(move('waiting', 0)).rejects.toThrow(/does not move like this/);
    } finally {
      await client.end();
    }
  });
});
