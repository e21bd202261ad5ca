import { describe, expect, it, vi } from 'vitest';
import { personNamed } from '../../demo/people';
import type { Mail } from '../../src/core/wording/notice-mail';
import { ok } from '../../src/core/kernel/result';
import { putOwnFormats, readOwnFormats } from '../../src/data/system/workspace';
import { asPerson } from '../../src/data/transaction';
import type { Mailer } from '../../src/outside/mail';
import { dueCalendar } from '../../src/use-cases/notices/due-calendar';
import { mailNotices } from '../../src/use-cases/notices/mail-notices';
import { makeCalendar } from '../../src/use-cases/notices/own-notices';
import { invitePerson } from '../../src/use-cases/people/keep-person';
import { keepOwnFormats, keepSettings, openSettings } from '../../src/use-cases/workspace/keep-settings';
import { answers, formWith } from '../support/one-question';
import { as, must, sent, useWorld } from '../support/world';

/** Each is written to in the language and the formats of their own, wherever a job does it. */
useWorld();
const now = as('Wren').now;
const id = (name: string): string => personNamed(name).id;

async function mailed(): Promise<Map<string, Mail>> {
  const taken = new Map<string, Mail>();
  const by: Mailer = {
    send: ({ email }, mail) => {
      taken.set(email, mail);
      return Promise.resolve('sent');
    },
    close: () => undefined,
  };
  await mailNotices(new Date(now.getTime() + 60_000), by);
  return taken;
}

describe('how somebody reads and writes', () => {
  it('is said by themselves alone', async () => {
    const of = (who: string) =>
      asPerson({ person: id('Ada') }, async (tx) => ok(await readOwnFormats(tx, id(who))));
    expect(await must(of('Ada'))).toEqual({});
    await must(keepOwnFormats(as('Ada'), { language: 'de', dates: 'dots' }));
    await must(keepOwnFormats(as('Ada'), { language: 'de' }));
    expect(await must(of('Ada'))).toEqual({ language: 'de' });
    await expect(
      asPerson({ person: id('Pell') }, async (tx) => ok(await putOwnFormats(tx, id('Ada'), {}))),
    ).rejects.toThrow();
  });

  it('holds for the mails they get, beside others who get theirs', async () => {
    const form = await formWith({ people: [id('Ada'), id('Pell')], within: 2 });
    await sent('Maren', form, answers);
    const taken = await mailed();
    const [ada, pell] = [taken.get(personNamed('Ada').email), taken.get(personNamed('Pell').email)];
    expect(ada?.text).toMatch(/^Guten Tag Ada.*zu genehmigen/s);
    expect(pell?.text).toMatch(/^Hello Pell.*to approve/s);
  });

  it('holds for mails about coming in, and for their calendar', async () => {
    vi.stubEnv('SLATE_SMTP_URL', 'smtp://127.0.0.1:1');
    await must(invitePerson(as('Wren'), id('Ada')));
    await must(invitePerson(as('Wren'), id('Pell')));
    vi.unstubAllEnvs();
    const taken = await mailed();
    expect(taken.get(personNamed('Ada').email)?.subject).toBe('Sie sind zu Tidy Slate eingeladen');
    expect(taken.get(personNamed('Pell').email)?.subject).toBe('You are invited to Tidy Slate');
    const { path } = await must(makeCalendar(as('Ada')));
    const text = await must(dueCalendar(path.slice('/calendar/'.length, -'.ics'.length), now));
    expect(text).toMatch(/SUMMARY:.* genehmigen/);
    expect(text).toContain('Gesendet von Maren Solheim');
  });

  it('is that of the workspace where somebody did not choose', async () => {
    const { settings } = await must(openSettings(as('Wren')));
    await must(
      keepSettings(as('Wren'), {
        ...settings,
        formats: { ...settings.formats, language: 'de', dates: 'dots' },
      }),
    );
    const form = await formWith({ people: [id('Ruo'), id('Ilse')] });
    await must(keepOwnFormats(as('Ilse'), { language: 'en' }));
    await sent('Maren', form, answers);
    const taken = await mailed();
    expect(taken.get(personNamed('Ruo').email)?.text).toMatch(/^Guten Tag Ruo/);
    expect(taken.get(personNamed('Ilse').email)?.text).toMatch(/^Hello Ilse/);
  });
});
