import pg from 'pg';
import { beforeEach, describe, expect, it } from 'vitest';
import type { WorkspaceInput } from '../../src/contract/workspace';
import { openApprovals } from '../../src/use-cases/submissions/open-home';
import { dueCalendar } from '../../src/use-cases/notices/due-calendar';
import { rehearseForm } from '../../src/use-cases/forms/rehearse-form';
import { lookOverDue } from '../../src/use-cases/notices/look-over-due';
import { makeCalendar } from '../../src/use-cases/notices/own-notices';
import { keepSettings, openSettings, previewHolidays } from '../../src/use-cases/workspace/keep-settings';
import { renewHolidays } from '../../src/use-cases/workspace/renew-holidays';
import { personNamed } from '../../demo/people';
import { as, must, refusal, sent, useWorld } from '../support/world';
import { answers, formWith } from '../support/one-question';

/** What holds for the whole workspace, and what is due by it. */
const world = useWorld();
const wren = () => as('Wren');
const settings = async (): Promise<WorkspaceInput> => (await must(openSettings(wren()))).settings;
const kept = async (part: Partial<WorkspaceInput>): Promise<WorkspaceInput> => {
  await must(keepSettings(wren(), { ...(await settings()), ...part }));
  return settings();
};
const codes = async (part: Partial<WorkspaceInput>): Promise<unknown> => {
  const refused = await refusal(keepSettings(wren(), { ...(await settings()), ...part }));
  return refused.kind === 'invalid'
    ? refused.issues.map(({ code, path }) => [code, path.join('.')])
    : refused.kind;
};
const storedDays = async (): Promise<string[]> =>
  (await world.sql('SELECT unnest(holidays)::text AS day FROM slate.workspace')).map(({ day }) =>
    String(day),
  );

beforeEach(async () => {
  await kept({ workdays: [1, 2, 3, 4, 5], opens: '09:00', closes: '17:00', holidaysOf: '', closed: [] });
});

describe('what holds for the workspace', () => {
  it('is kept with the public holidays of its place, and the days it is closed besides', async () => {
    const after = await kept({
      name: 'Quillmere',
      zone: 'Europe/Berlin',
      holidaysOf: 'GB-SCT',
      closed: [{ from: '2026-12-29', until: '2026-12-31', name: 'Between the years' }],
    });
    expect(after).toMatchObject({
      name: 'Quillmere',
      zone: 'Europe/Berlin',
      holidaysOf: 'GB-SCT',
      opens: '09:00',
    });
    const days = await storedDays();
    // St Andrew's Day and the second of January are Scottish; the year before and three ahead are there.
    expect(days).toEqual(
      expect.arrayContaining(['2026-11-30', '2027-01-04', '2026-12-30', '2025-12-25', '2029-12-25']),
    );
    expect(days).not.toContain('2026-12-24');
    expect(days).toEqual([...new Set(days)].sort());
    const { holidays, countries } = await must(openSettings(wren()));
    expect(holidays.parts.map(({ code }) => code)).toContain('GB-ENG');
    expect(countries.length).toBeGreaterThan(150);
    expect(holidays.days[0]?.day).toBe('2026-11-30');
    await kept({ zone: 'Europe/London' });
  });

  it('is refused at its place where it cannot be', async () => {
    expect(await codes({ zone: 'Europe/Nowhere' })).toEqual([['zone-unknown', 'zone']]);
    expect(await codes({ currency: 'ABC' })).toEqual([['currency-unknown', 'currency']]);
    expect(await codes({ workdays: [], opens: '17:00' })).toEqual([
      ['no-workdays', 'workdays'],
      ['closes-before-opening', 'closes'],
    ]);
    expect(await codes({ holidaysOf: 'GB-XYZ' })).toEqual([['place-unknown', 'holidaysOf']]);
    expect(
      await codes({
        closed: [
          { from: '2026-12-29', until: '2026-12-31', name: '' },
          { from: '2026-12-29', until: '2026-12-28', name: '' },
          { from: '2026-01-01', until: '2027-12-28', name: '' },
        ],
      }),
    ).toEqual([
      ['back-before-away', 'closed.1.until'],
      ['closed-too-long', 'closed.2.until'],
    ]);
  });

  it('is changed by administrators alone, and by one of two at once', async () => {
    expect((await refusal(keepSettings(as('Ines'), await settings()))).kind).toBe('forbidden');
    expect((await refusal(openSettings(as('Kofi')))).kind).toBe('forbidden');
    expect((await refusal(previewHolidays(as('Maren'), { of: 'GB' }))).kind).toBe('forbidden');
    const seen = await settings();
    const both = await Promise.all(['One', 'Two'].map((name) => keepSettings(wren(), { ...seen, name })));
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
    const client = new pg.Client({ connectionString: process.env['SLATE_APP_URL'] });
    await client.connect();
    await expect(client.query(`UPDATE slate.workspace SET name = 'x'`)).rejects.toMatchObject({
      code: '42501',
    });
    await expect(client.query(`SELECT slate.put_workspace('{}', 1)`)).rejects.toMatchObject({
      code: 'TS010',
    });
    await client.end();
  });

  it('has the holidays of a year that came near, and begins no new catalogue where they are the same', async () => {
    await kept({ holidaysOf: 'DE-BY' });
    const number = async () => (await world.sql('SELECT slate.catalogue_at() AS n'))[0]?.['n'];
    const before = await number();
    await renewHolidays(wren().now);
    expect(await number()).toBe(before);
    await renewHolidays(new Date('2028-02-01T03:41:00Z'));
    expect(await storedDays()).toContain('2031-01-06');
    expect(await number()).not.toBe(before);
  });
});

describe('what is due within working hours', () => {
  // It is a Monday, noon in London.
  const moment = (text: string): Date => new Date(`${text}:00Z`);
  const told = async (submission: string, kind: string) =>
    (
      await world.sql('SELECT due_day::text FROM slate.notice WHERE submission_id = $1 AND kind = $2', [
        submission,
        kind,
      ])
    ).map((row) => row['due_day']);
  const inList = async (submission: string) =>
    (await must(openApprovals(as('Ada')))).waiting.find(({ id }) => id === submission)?.due;

  it('has its time of day, is told on that day and late from the minute after, and asks others then', async () => {
    const ruo = personNamed('Ruo').id;
    const form = await formWith({ people: [personNamed('Ada').id], within: 6, hours: true, late: ruo });
    const one = await sent('Maren', form, answers);
    expect(await inList(one.id)).toEqual({ day: '2026-11-24', time: '10:00', late: false });
    await lookOverDue(moment('2026-11-23T18:00'));
    expect(await told(one.id, 'due')).toEqual([]);
    for (const at of ['2026-11-24T06:00', '2026-11-24T10:00']) await lookOverDue(moment(at));
    expect([await told(one.id, 'due'), await told(one.id, 'late')]).toEqual([['2026-11-24'], []]);
    for (const at of ['2026-11-24T10:01', '2026-11-24T10:11']) await lookOverDue(moment(at));
    expect(await told(one.id, 'late')).toContain('2026-11-24');
    const asked = await world.sql('SELECT person_id FROM slate.ask WHERE submission_id = $1 AND open', [
      one.id,
    ]);
    expect(asked.map((row) => row['person_id'])).toContain(ruo);
  });

  it('waits over holidays and closed days, as soon as they are said', async () => {
    const form = await formWith({ people: [personNamed('Ada').id], within: 6, hours: true });
    const one = await sent('Maren', form, answers);
    await kept({
      closed: [{ from: '2026-11-24', until: '2026-11-25', name: 'Works on the boiler' }],
      closes: '16:00',
    });
    expect(await inList(one.id)).toEqual({ day: '2026-11-26', time: '11:00', late: false });
  });

  it('is said when the form is rehearsed, by the clock of the rehearsal', async () => {
    const form = await formWith({ people: [personNamed('Ada').id], within: 6, hours: true });
    const told = await must(
      rehearseForm(as('Ines'), form, { as: personNamed('Maren').id, at: '2026-11-27T15:30', answers }),
    );
    expect(told.steps).toMatchObject([{ due: { day: '2026-11-30', time: '13:30', late: false } }]);
  });

  it('stands at its time in the calendar of whoever is asked', async () => {
    const form = await formWith({ people: [personNamed('Ada').id], within: 6, hours: true });
    const one = await sent('Maren', form, answers);
    const { path } = await must(makeCalendar(as('Ada')));
    const secret = /[\w-]{32}/.exec(path)?.[0] ?? '';
    const feed = await must(dueCalendar(secret, as('Ada').now));
    const event = feed.split('BEGIN:VEVENT').find((each) => each.includes(`/submissions/${one.id}`)) ?? '';
    expect(event).toMatch(/DTSTART(;TZID=Europe\/London)?:20261124T100000Z?/);
  });
});
