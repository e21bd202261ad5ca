import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { GO_ON } from '../../src/core/form/design';
import { ok } from '../../src/core/kernel/result';
import { asPerson } from '../../src/data/transaction';
import { moveSubmission } from '../../src/data/system/submissions';
import { openWaiting } from '../../src/use-cases/submissions/move-case';
import type { Mail } from '../../src/core/wording/notice-mail';
import type { Mailer, Posted } from '../../src/outside/mail';
import { dueCalendar } from '../../src/use-cases/notices/due-calendar';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { lookOverDue, lookOverStuck } from '../../src/use-cases/notices/look-over-due';
import { mailNotices } from '../../src/use-cases/notices/mail-notices';
import {
  endCalendar,
  lookedAt,
  makeCalendar,
  readNotices,
  tellByMail,
} from '../../src/use-cases/notices/own-notices';
import { sayAway } from '../../src/use-cases/people/absences';
import {
  decideSubmission,
  handOver,
  withdrawSubmission,
} from '../../src/use-cases/submissions/decide-submission';
import { howManyWait } from '../../src/use-cases/submissions/open-home';
import { openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { remark } from '../../src/use-cases/submissions/remark';
import { answers, formWith } from '../support/one-question';
import { as, must, newId, refusal, sent, useWorld } from '../support/world';

const world = useWorld();
const id = (name: string): string => personNamed(name).id;
const nameOf = (name: string): string => personNamed(name).name;
const decide = (name: string, of: string, version: number, decision: 'approve' | 'decline' | 'send-back') =>
  decideSubmission(as(name), of, { key: newId(), version, decision, word: 'Because' });
/** What somebody was told about one submission, oldest first. */
const told = async (name: string, of: string) =>
  (await must(readNotices(as(name)))).notices
    .filter(({ submission }) => submission === of)
    .map(({ kind }) => kind)
    .reverse();
/** Days of the world, all of them working days: nobody waits for a Monday here. */
const everyDay = () => world.sql(`UPDATE slate.workspace SET workdays = '{1,2,3,4,5,6,7}', holidays = '{}'`);
/** The world stands still at this moment. */
const now = as('Maren').now;
const later = (days: number): Date => new Date(now.getTime() + days * 86_400_000);

/** A post office that remembers what it took, and answers as it is told. */
function postOffice(answer: (to: string) => Posted | Error = () => 'sent') {
  const taken: { to: string; mail: Mail; id: string }[] = [];
  const by: Mailer = {
    send: async ({ email }, mail, of) => {
      const posted = answer(email);
      if (posted instanceof Error) throw posted;
      if (posted === 'sent') taken.push({ to: email, mail, id: of });
      return posted;
    },
    close: () => undefined,
  };
  return { by, taken };
}
/** Nothing of what was before is mailed any more. */
const fresh = () => world.sql('UPDATE slate.notice SET mailed_at = now() WHERE mailed_at IS NULL');

describe('a notice', () => {
  it('tells who is asked, the sender of each word, and nobody what they did themselves', async () => {
    const form = await formWith({ people: [id('Ada'), id('Pell')] }, { people: [id('Ruo')] });
    const one = await sent('Maren', form, answers);
    expect(await told('Ada', one.id)).toEqual(['asked']);
    expect(await told('Maren', one.id)).toEqual([]);
    await must(remark(as('Pell'), one.id, { key: newId(), word: 'Which bed?' }));
    expect([await told('Maren', one.id), await told('Ada', one.id), await told('Pell', one.id)]).toEqual([
      ['remark'],
      ['asked', 'remark'],
      ['asked'],
    ]);
    // Whoever spoke is told of the answer, and whoever is not on the path of nothing.
    await must(remark(as('Maren'), one.id, { key: newId(), word: 'G4' }));
    expect(await told('Pell', one.id)).toEqual(['asked', 'remark']);
    expect(await told('Tomasz', one.id)).toEqual([]);
    const next = await must(decide('Ada', one.id, one.version, 'approve'));
    expect(await told('Ruo', one.id)).toEqual(['asked']);
    const back = await must(decide('Ruo', one.id, next.version, 'send-back'));
    expect(back.state).toBe('sent-back');
    expect(await told('Maren', one.id)).toEqual(['remark', 'sent-back']);
  });

  it('of a word about a line goes to whom it names as well, also once they have decided, and to nobody off the path', async () => {
    const form = await formWith({ people: [id('Ada')] }, { people: [id('Ruo')] });
    const one = await sent('Maren', form, answers);
    await must(decide('Ada', one.id, one.version, 'approve'));
    const before = await told('Ada', one.id);
    const word = '@Ada, is this the right one? And @Tomasz?';
    await must(remark(as('Ruo'), one.id, { key: newId(), word, place: 'qwhat' }));
    expect(await told('Ada', one.id)).toEqual([...before, 'remark']);
    expect(await told('Tomasz', one.id)).toEqual([]);
    const { submission } = await must(openSubmission(as('Maren'), one.id));
    expect(submission?.events.at(-1)).toMatchObject({ kind: 'remark', place: 'qwhat', word });
    expect(submission?.onPath.map((each) => each.id)).toEqual([id('Ada'), id('Ruo')]);
  });

  it('of what is decided by another needs no look any more, and one that is looked at is not counted', async () => {
    const form = await formWith({ people: [id('Ada'), id('Pell')] });
    const before = (await must(howManyWait(as('Pell')))).unseen;
    const one = await sent('Maren', form, answers);
    expect((await must(howManyWait(as('Pell')))).unseen).toBe(before + 1);
    await must(decide('Ada', one.id, one.version, 'approve'));
    expect((await must(howManyWait(as('Pell')))).unseen).toBe(before);
    expect(await told('Maren', one.id)).toEqual(['kept']);
    await must(lookedAt(as('Maren'), { submission: one.id }));
    const [newest] = (await must(readNotices(as('Maren')))).notices;
    expect(newest).toMatchObject({ kind: 'kept', seen: true });
  });

  it('goes to whoever it is handed to, to those who need not decide what is withdrawn, and to who stands in', async () => {
    const form = await formWith({ people: [id('Ada'), id('Pell')], decide: 'all' });
    const absence = newId();
    const day = (n: number) => new Date(Date.now() + n * 86_400_000).toISOString().slice(0, 10);
    await must(
      sayAway(as('Pell'), absence, {
        person: id('Pell'),
        from: day(-1),
        until: day(1),
        standIn: id('Tomasz'),
      }),
    );
    const one = await sent('Maren', form, answers);
    expect((await must(readNotices(as('Tomasz')))).notices[0]?.sentence).toBe(
      `${nameOf('Maren')} asks you to approve ${(await titleOf(one.id)) ?? ''} in place of ${nameOf('Pell')}, who is away`,
    );
    const over = await must(
      handOver(as('Ada'), one.id, { key: newId(), version: one.version, to: id('Ruo'), word: '' }),
    );
    expect((await must(readNotices(as('Ruo')))).notices[0]?.sentence).toContain(`${nameOf('Ada')} handed`);
    await must(withdrawSubmission(as('Maren'), one.id, { key: newId(), version: over.version }));
    expect([await told('Pell', one.id), await told('Ruo', one.id), await told('Ada', one.id)]).toEqual([
      ['asked', 'withdrawn'],
      ['asked', 'withdrawn'],
      ['asked'],
    ]);
    await world.sql('UPDATE slate.absence SET ended_at = now()');
  });

  const titleOf = async (of: string): Promise<string | null> =>
    String(
      (
        await world.sql(
          `SELECT (r.design->>'title') || ' ' || s.number AS says FROM slate.submission s JOIN slate.form_release r ON r.id = s.release_id WHERE s.id = '${of}'`,
        )
      )[0]?.['says'],
    );

  it('is seen, marked and made by nobody else, in the database too', async () => {
    const form = await formWith({ people: [id('Ada')] });
    const one = await sent('Maren', form, answers);
    const asRole = async (name: string, statement: string) => {
      const client = new pg.Client({ connectionString: process.env['SLATE_APP_URL'] });
      await client.connect();
      try {
        await client.query(`SELECT set_config('slate.person', $1, false)`, [id(name)]);
        return await client.query(statement);
      } finally {
        await client.end();
      }
    };
    const seen = `UPDATE slate.notice SET seen_at = now() WHERE submission_id = '${one.id}' RETURNING id`;
    expect((await asRole('Pell', seen)).rowCount).toBe(0);
    expect((await asRole('Pell', 'SELECT 1 FROM slate.telling')).rowCount).toBe(0);
    for (const statement of [
      `UPDATE slate.notice SET kind = 'kept'`,
      `INSERT INTO slate.notice (person_id, submission_id, kind, position) VALUES ('${id('Pell')}', '${one.id}', 'kept', 1)`,
      `SELECT slate.put_notice('${id('Pell')}', '${one.id}', 'kept', 1, NULL, now())`,
      `INSERT INTO slate.telling (person_id, by_mail) VALUES ('${id('Ada')}', 'never')`,
      `UPDATE slate.telling SET mailed_day = '2030-01-01'`,
    ])
      await expect(asRole('Pell', statement)).rejects.toMatchObject({ code: '42501' });
    expect((await asRole('Ada', seen)).rowCount).toBe(1);
  });
});

describe('mail', () => {
  it('goes once for each notice and person, however often and by however many it is tried', async () => {
    await fresh();
    const form = await formWith({ people: [id('Ada'), id('Pell')] });
    const one = await sent('Maren', form, answers);
    const { by, taken } = postOffice();
    await Promise.all(Array.from({ length: 6 }, () => mailNotices(now, by)));
    await mailNotices(now, by);
    expect(taken.map(({ to }) => to).sort()).toEqual([personNamed('Ada').email, personNamed('Pell').email]);
    expect(new Set(taken.map((each) => each.id)).size).toBe(2);
    expect(taken[0]?.mail.text).toContain(`/submissions/${one.id}`);
  });

  it('that cannot be taken now waits and holds up no other; one that is refused is not tried again; a server that is away loses nothing', async () => {
    await fresh();
    const form = await formWith({ people: [id('Ada'), id('Pell'), id('Ruo')] });
    await sent('Maren', form, answers);
    await expect(mailNotices(now, postOffice(() => new Error('no route')).by)).rejects.toThrow('no route');
    const grey = postOffice((to) =>
      to === personNamed('Ada').email ? 'later' : to === personNamed('Pell').email ? 'refused' : 'sent',
    );
    await mailNotices(now, grey.by);
    expect(grey.taken.map(({ to }) => to)).toEqual([personNamed('Ruo').email]);
    const after = postOffice();
    await mailNotices(now, after.by);
    expect(after.taken.map(({ to }) => to)).toEqual([personNamed('Ada').email]);
  });

  it('that hangs keeps no decision waiting, and is sent by another worker later, as the same mail', async () => {
    await fresh();
    const form = await formWith({ people: [id('Ada'), id('Pell')], decide: 'all' });
    const one = await sent('Maren', form, answers);
    const ids: string[] = [];
    const hanging: Mailer = {
      send: (_to, _mail, of) => {
        ids.push(of);
        return new Promise(() => undefined);
      },
      close: () => undefined,
    };
    void mailNotices(now, hanging);
    while (ids.length === 0) await new Promise((resolve) => setTimeout(resolve, 20));
    const { by, taken } = postOffice();
    await mailNotices(now, by);
    expect(taken).toHaveLength(1);
    await mailNotices(new Date(now.getTime() + 6 * 60_000), by);
    expect(taken).toHaveLength(2);
    expect(taken[1]?.id).toBe(ids[0]);
    // What it tells of is decided all the while.
    await must(decide('Ada', one.id, one.version, 'approve'));
  });

  it('is not sent of what was looked at, nor of what is no news, nor to who wants none', async () => {
    await fresh();
    const form = await formWith({ people: [id('Ada'), id('Pell'), id('Ruo')] });
    const one = await sent('Maren', form, answers);
    await must(lookedAt(as('Ada'), { submission: one.id }));
    await must(tellByMail(as('Pell'), 'never'));
    const { by, taken } = postOffice();
    await mailNotices(later(10), by);
    await mailNotices(now, by);
    expect(taken).toEqual([]);
    await must(tellByMail(as('Pell'), 'at-once'));
  });

  it('of the day is one, from seven in the morning, also for who was told nothing for days', async () => {
    await fresh();
    await world.sql(`UPDATE slate.workspace SET zone = 'UTC'`);
    const form = await formWith({ people: [id('Ada')] });
    await must(tellByMail(as('Ada'), 'daily'));
    const [first, second] = [await sent('Maren', form, answers), await sent('Maren', form, answers)];
    const at = (time: string, days = 1) => new Date(`${later(days).toISOString().slice(0, 10)}T${time}Z`);
    const { by, taken } = postOffice();
    await mailNotices(at('06:59'), by);
    expect(taken).toEqual([]);
    await Promise.all([mailNotices(at('07:01'), by), mailNotices(at('07:01'), by)]);
    await mailNotices(at('15:00'), by);
    expect(taken.map(({ mail }) => mail.subject)).toEqual(['2 things to know today']);
    for (const { id: of } of [first, second]) expect(taken[0]?.mail.text).toContain(of);
    const third = await sent('Maren', form, answers);
    await mailNotices(at('16:00'), by);
    expect(taken).toHaveLength(1);
    await mailNotices(at('07:00', 2), by);
    expect(taken[1]?.mail.subject).toBe('1 thing to know today');
    expect(taken[1]?.mail.text).toContain(third.id);
    await must(tellByMail(as('Ada'), 'at-once'));
  });
});

describe('what the owner has mails say besides', () => {
  it('stands in them with the values of the answers, for whom it is meant', async () => {
    await fresh();
    const form = await formWith({ people: [id('Ada')] });
    const { version, design } = await must(openWorkbench(as('Ines'), form));
    const mails = [
      { on: 'asked' as const, message: 'It is about {qwhat}, twice {qwhat}.' },
      { on: 'kept' as const, message: 'Fetch it at <noon>.' },
    ];
    const edited = await must(editForm(as('Ines'), form, { version, design: { ...design, mails } }));
    await must(releaseForm(as('Ines'), form, { version: edited.version, allow: [], note: '' }));
    const one = await sent('Maren', form, answers);
    const { by, taken } = postOffice();
    await mailNotices(now, by);
    expect(taken.map(({ mail }) => mail.text).join()).toContain(
      '\nIt is about Something, twice Something.\n',
    );
    await must(decide('Ada', one.id, one.version, 'approve'));
    await mailNotices(now, by);
    const kept = taken.find(({ mail }) => mail.subject.endsWith('and it is kept'))?.mail;
    expect(kept?.text).toContain('> Because\nFetch it at <noon>.\n');
    expect(kept?.html).toContain('Fetch it at &#60;noon&#62;.');
  });

  it('cannot be released while a value in it cannot be read', async () => {
    const form = await formWith({ people: [id('Ada')] });
    const { version, design } = await must(openWorkbench(as('Ines'), form));
    const mails = [{ on: 'kept' as const, message: 'At {qnowhere}.' }];
    const edited = await must(editForm(as('Ines'), form, { version, design: { ...design, mails } }));
    const release = releaseForm(as('Ines'), form, { version: edited.version, allow: [], note: '' });
    expect(await refusal(release)).toMatchObject({ issues: [{ path: ['mails', 'kept'] }] });
  });
});

describe('what is due', () => {
  it('is told on its day and once it is late, each once, also after days without a look', async () => {
    await everyDay();
    const form = await formWith({ people: [id('Ada'), id('Pell')], within: 2 });
    const one = await sent('Maren', form, answers);
    await lookOverDue(later(1));
    expect(await told('Ada', one.id)).toEqual(['asked']);
    await Promise.all([lookOverDue(later(2)), lookOverDue(later(2))]);
    await lookOverDue(later(2));
    expect(await told('Ada', one.id)).toEqual(['asked', 'due']);
    for (const days of [9, 9, 12]) await lookOverDue(later(days));
    expect(await told('Pell', one.id)).toEqual(['asked', 'due', 'late']);
    expect(await told('Maren', one.id)).toEqual([]);
    // Sent again it has its time again.
    const back = await must(decide('Ada', one.id, one.version, 'send-back'));
    await lookOverDue(later(20));
    expect(await told('Pell', one.id)).toEqual(['asked', 'due', 'late']);
    expect(back.state).toBe('sent-back');
  });

  it('is told so long before as well, where the step says so', async () => {
    await everyDay();
    const form = await formWith({ people: [id('Ada')], within: 3, soon: 2 });
    const one = await sent('Maren', form, answers);
    await lookOverDue(now);
    expect(await told('Ada', one.id)).toEqual(['asked']);
    for (const days of [1, 1, 2]) await lookOverDue(later(days));
    expect(await told('Ada', one.id)).toEqual(['asked', 'soon']);
    await lookOverDue(later(3));
    expect(await told('Ada', one.id)).toEqual(['asked', 'soon', 'due']);
  });

  it('is gone on without, where the step says so: once, through the next step, and kept at the end', async () => {
    await everyDay();
    const form = await formWith(
      { people: [id('Ada'), id('Pell')], decide: 'all', within: 1, late: GO_ON },
      { people: [id('Ruo')], within: 1, late: GO_ON },
    );
    const one = await sent('Maren', form, answers);
    await must(decide('Ada', one.id, one.version, 'approve'));
    await lookOverDue(later(1));
    expect((await events(one.id)).map(({ kind }) => kind)).toEqual(['send', 'approve']);
    await Promise.all([lookOverDue(later(2)), lookOverDue(later(2))]);
    expect((await events(one.id)).map(({ kind }) => kind)).toEqual(['send', 'approve', 'lapse']);
    // Whoever was late is told that it is past them; whoever had approved is not.
    expect(await told('Pell', one.id)).toContain('passed');
    expect(await told('Ada', one.id)).not.toContain('passed');
    expect(await refusal(decide('Pell', one.id, one.version, 'decline'))).toMatchObject({
      kind: 'stale',
      facts: { decision: 'lapse' },
    });
    expect(await told('Ruo', one.id)).toEqual(['asked']);
    await lookOverDue(later(4));
    expect((await events(one.id)).map(({ kind }) => kind)).toEqual([
      'send',
      'approve',
      'lapse',
      'lapse',
      'keep',
    ]);
    const [kept] = (await must(readNotices(as('Maren')))).notices;
    expect(kept).toMatchObject({ submission: one.id, kind: 'kept' });
    expect(kept?.sentence).toMatch(/went on without an approval that was late, and it is kept$/);
  });

  it('stays where it cannot be gone on without: administrators are shown why, and mailed once', async () => {
    await everyDay();
    const form = await formWith({ people: [id('Ada')], within: 1, late: GO_ON }, { people: [id('Ruo')] });
    const one = await sent('Maren', form, answers);
    await world.sql(`UPDATE slate.person SET ended_at = now() WHERE id = $1`, [id('Ruo')]);
    await lookOverDue(later(2));
    expect((await events(one.id)).map(({ kind }) => kind)).toEqual(['send']);
    const found = (await must(openWaiting(as('Wren'), ''))).cases.find(({ id }) => id === one.id);
    expect(found?.waits[0]?.trouble).toMatch(/nobody who may decide it/);
    await lookOverStuck(later(2));
    await lookOverStuck(later(3));
    expect(
      await world.sql(
        `SELECT p.name FROM slate.account_mail m JOIN slate.person p ON p.id = m.person_id WHERE m.kind = 'stuck'`,
      ),
    ).toEqual([{ name: nameOf('Wren') }]);
    await world.sql(`UPDATE slate.person SET ended_at = NULL WHERE id = $1`, [id('Ruo')]);
    // It is tried again after a while.
    await lookOverDue(later(3));
    expect((await events(one.id)).map(({ kind }) => kind)).toEqual(['send', 'lapse']);
  });

  it('is gone on without by nobody before it is late', async () => {
    const form = await formWith({ people: [id('Ada')], within: 1, late: GO_ON });
    const one = await sent('Maren', form, answers);
    const tried = await asPerson({ person: id('Maren') }, async (tx) => {
      await moveSubmission(tx, one.id, {
        event: 'lapse',
        state: { state: 'kept', step: null, asked: [], approved: [], beside: [] },
        word: '',
        sent: null,
        at: now,
      });
      return ok(null);
    }).then(
      () => 'moved',
      (error: unknown) => String(error instanceof Error ? (error.cause ?? error) : error),
    );
    expect(tried).toMatch(/does not move like this/);
  });

  it('asks the manager of whoever is late as well, once, and says so in the path', async () => {
    await everyDay();
    const manager = await managerOf('Ada');
    const form = await formWith({ people: [id('Ada'), id('Pell')], within: 1, late: 'manager' });
    const one = await sent('Maren', form, answers);
    await lookOverDue(later(1));
    expect((await events(one.id)).map(({ kind }) => kind)).toEqual(['send']);
    await Promise.all([lookOverDue(later(2)), lookOverDue(later(2)), lookOverDue(later(3))]);
    await lookOverDue(later(9));
    expect((await events(one.id)).filter(({ kind, late }) => kind === 'late' && late === id('Ada'))).toEqual([
      { kind: 'late', late: id('Ada'), to: manager },
    ]);
    // Whoever was asked first still may, on the sheet as they looked at it.
    expect((await must(decide('Ada', one.id, one.version, 'approve'))).state).toBe('kept');
  });

  it('asks somebody instead where all must approve, never the sender, and goes no further than once', async () => {
    await everyDay();
    const form = await formWith({
      people: [id('Ada'), id('Pell')],
      decide: 'all',
      within: 1,
      late: id('Tomasz'),
    });
    const one = await sent('Maren', form, answers);
    await lookOverDue(later(5));
    // One is asked in place of the first who is late; the second stays, for nobody gives one step two words.
    const late = (await events(one.id)).filter(({ kind }) => kind === 'late');
    expect(late).toHaveLength(1);
    expect((await must(readNotices(as('Tomasz')))).notices[0]?.sentence).toMatch(/, for .+ is late$/);
    const own = await sent('Tomasz', form, answers);
    await lookOverDue(later(5));
    expect((await events(own.id)).map(({ kind }) => kind)).toEqual(['send']);
    // What is decided is not late any more.
    const done = await sent('Maren', form, answers);
    await must(decide('Ada', done.id, done.version, 'decline'));
    await lookOverDue(later(5));
    expect((await events(done.id)).map(({ kind }) => kind)).toEqual(['send', 'decline']);
  });

  const events = (of: string) =>
    world.sql(
      `SELECT kind, for_id AS late, to_id AS to FROM slate.submission_event WHERE submission_id = $1 ORDER BY position`,
      [of],
    );
  const managerOf = async (name: string) => {
    await world.sql(`UPDATE slate.person SET manager_id = $1 WHERE id = $2`, [id('Ines'), id(name)]);
    return id('Ines');
  };

  it('stands in a calendar that opens by its secret alone, until another is made', async () => {
    await everyDay();
    const form = await formWith({ people: [id('Ruo')], within: 1 });
    const one = await sent('Maren', form, answers);
    const { path } = await must(makeCalendar(as('Ruo')));
    const secret = path.slice('/calendar/'.length, -'.ics'.length);
    const text = await must(dueCalendar(secret, now));
    const day = later(1).toISOString().slice(0, 10).replaceAll('-', '');
    expect(text).toMatch(/^BEGIN:VCALENDAR\r\n/);
    expect(text).toContain(`DTSTART;VALUE=DATE:${day}`);
    expect(text.replaceAll('\r\n ', '')).toContain(`/submissions/${one.id}`);
    expect(await refusal(dueCalendar(`${secret.slice(1)}x`, now))).toMatchObject({ kind: 'not-found' });
    await must(makeCalendar(as('Ruo')));
    expect(await refusal(dueCalendar(secret, now))).toMatchObject({ kind: 'not-found' });
    await must(endCalendar(as('Ruo')));
  });
});
