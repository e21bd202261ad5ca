import { expect, test, type Browser, type Page } from '@playwright/test';
import { choose, expectAccessible, open, seat, settled } from './people';

const face = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Faces of the form' }).getByRole('button', { name }).click();

async function fillAndSend(page: Page, hours: string): Promise<string> {
  await open(page, '/fill/overtime');
  await page.getByRole('textbox', { name: 'How many hours?' }).fill(hours);
  await page.getByRole('button', { name: /^Send for approval/ }).click();
  await expect(page.getByText('Waiting · Leads')).toBeVisible();
  return page.url();
}

/** Everybody signs in once and keeps their window. */
const windows = new Map<string, Page>();
async function windowOf(browser: Browser, who: string): Promise<Page> {
  const page = windows.get(who) ?? (await seat(browser, who)).page;
  windows.set(who, page);
  return page;
}

/** Whoever comes next meets what this one decided. */
async function pressApprove(page: Page): Promise<void> {
  const decided = page.waitForResponse((answer) => answer.url().endsWith('/decide'));
  await page.getByRole('button', { name: 'Approve' }).click();
  const answer = await decided;
  expect(`${answer.status()} ${await answer.text()}`).toMatch(/^200/);
}

async function approve(browser: Browser, who: string, address: string): Promise<Page> {
  const page = await windowOf(browser, who);
  await open(page, address);
  await pressApprove(page);
  return page;
}

/** Two must approve, a third only where there is much; everybody sees how far it is. */
test('a step asks for all of those it names, and another only where much is asked for', async ({
  browser,
}) => {
  const [{ page }, maren] = [await seat(browser, 'ines.okafor'), await seat(browser, 'maren.solheim')];
  await open(page, '/forms');
  await page.getByLabel('What is it called?').fill('Overtime');
  await page.getByRole('button', { name: 'Make the form' }).click();
  await expect(page.getByRole('navigation', { name: 'Faces of the form' })).toBeVisible();
  await settled(page);
  await page.getByLabel('Next question').fill('How many hours?');
  await page.getByLabel('Next question').press('Enter');

  await test.step('the path is designed', async () => {
    await face(page, 'Approve');
    await choose(page, /Person of the new step/, /Pell Adeyemi/);
    await page.getByLabel('Name of the step').fill('Leads');
    await choose(page, /Who is asked/, /Tomasz Bielak/);
    await page.keyboard.press('Escape');
    await choose(page, /How many of them must approve/, 'all of them must approve');
    await choose(page, /Whether there is a time to decide/, 'within');
    await choose(page, /Person of the new step/, /Kofi Renwick/);
    const second = page
      .getByRole('listitem')
      .filter({ has: page.getByRole('textbox', { name: 'Name of the step' }) })
      .last();
    await second.getByRole('button', { name: /When the step is asked/ }).click();
    await page.getByRole('option', { name: 'only where' }).click();
    await second.getByRole('textbox', { name: 'It is asked where' }).fill('how_many_hours > 10');
    await expect(second.getByText('how_many_hours is more than 10')).toBeVisible();
    // A third is asked at the same time as the second.
    await choose(page, /Person of the new step/, /Osei/);
    const third = page
      .getByRole('listitem')
      .filter({ has: page.getByRole('textbox', { name: 'Name of the step' }) })
      .last();
    await third.getByRole('textbox', { name: 'Name of the step' }).fill('Budget');
    await third.getByRole('button', { name: /Whether the step waits for the one before/ }).click();
    await page.getByRole('option', { name: 'at the same time as the step before it,' }).click();
    await third.getByRole('button', { name: /When the step is asked/ }).click();
    await page.getByRole('option', { name: 'only where' }).click();
    await third.getByRole('textbox', { name: 'It is asked where' }).fill('how_many_hours > 20');
    await expect(third.getByText('how_many_hours is more than 20')).toBeVisible();
    // It is drawn as it goes, and the drawing leads to the sentences of a step.
    const path = page.getByRole('list', { name: 'The path' });
    const aside = path.getByRole('listitem').filter({ hasText: 'at the same time' });
    await expect(aside.getByRole('button')).toHaveCount(2);
    await expect(aside).toContainText('only where how_many_hours is more than 20');
    await path.getByRole('button', { name: /Leads/ }).click();
    await expect(page.getByRole('textbox', { name: 'Name of the step' }).first()).toBeInViewport();
    await expectAccessible(page);
    await face(page, 'Release');
    await page.getByRole('button', { name: /^Release 1/ }).click();
    await expect(page.getByText('Release 1 is live')).toBeVisible();
  });

  await test.step('a little is kept once both have approved', async () => {
    await open(maren.page, '/fill/overtime');
    const who = maren.page.getByRole('region', { name: 'Who will see it' });
    await expect(who.getByText('all of Pell Adeyemi, Tomasz Bielak, within 2 working days')).toBeVisible();
    await maren.page.getByRole('textbox', { name: 'How many hours?' }).fill('4');
    await expect(who.getByText('not asked about these answers')).toHaveCount(2);
    const address = await fillAndSend(maren.page, '4');
    const pell = await approve(browser, 'pell.adeyemi', address);
    await expect(pell.getByText('1 of 2 approvals given')).toBeVisible();
    const tomasz = await approve(browser, 'tomasz.bielak', address);
    await expect(tomasz.getByText('Approved and kept')).toBeVisible();
    await face(page, 'Approve');
    const would = page.getByRole('region', { name: 'Who would be asked' });
    await expect(would.getByText('4 > 20')).toBeVisible();
    await expect(would.getByText(/^all of Pell Adeyemi, Tomasz Bielak/)).toBeVisible();
    await would.getByRole('textbox', { name: 'Day of the example' }).fill('24/12/2027');
    await would.getByRole('textbox', { name: 'Day of the example' }).press('Tab');
    await expect(would.getByText(/^by \w+ \d+ Dec 2027/)).toBeVisible();
  });

  await test.step('much goes on to the third', async () => {
    const address = await fillAndSend(maren.page, '40');
    await approve(browser, 'tomasz.bielak', address);
    const pell = await approve(browser, 'pell.adeyemi', address);
    await expect(pell.getByText(/^Waiting · .* and Budget$/)).toBeVisible();
    const osei = await windowOf(browser, 'osei.marchetti');
    await open(osei, address);
    await expect(osei.getByText('Of the step Budget; others are asked at the same time.')).toBeVisible();
    await expectAccessible(osei);
    await pressApprove(osei);
    await expect(osei.getByText(/^Waiting · (?!.*Budget)/)).toBeVisible();
    const kofi = await windowOf(browser, 'kofi.renwick');
    await open(kofi, address);
    await kofi.getByLabel(/^A word for/).fill('Is that really all of one week?');
    await choose(kofi, /To which step/, 'Leads');
    await kofi.getByRole('button', { name: 'Send it there' }).click();
    await expect(kofi.getByText('Kofi Renwick sent it back to Leads')).toBeVisible();
    await approve(browser, 'tomasz.bielak', address);
    await approve(browser, 'pell.adeyemi', address);
    await approve(browser, 'osei.marchetti', address);
    await expect(
      (await approve(browser, 'kofi.renwick', address)).getByText('Approved and kept'),
    ).toBeVisible();
  });

  await test.step('one is away, another asks and hands over, and it is decided all the same', async () => {
    const tomasz = await windowOf(browser, 'tomasz.bielak');
    await open(tomasz, '/approvals');
    // A long list is narrowed down, and is again after a reload.
    const find = tomasz.getByRole('searchbox', { name: 'Words in it' });
    await find.fill('nothing like this');
    await expect(tomasz.getByText('None of what waits is like that.')).toBeVisible();
    await open(tomasz, new URL(tomasz.url()).pathname + new URL(tomasz.url()).search);
    await expect(find).toHaveValue('nothing like this');
    await tomasz.getByRole('button', { name: /^Show all/ }).click();
    await tomasz.getByRole('button', { name: /^Late/ }).click();
    await expect(
      tomasz
        .getByRole('region', { name: 'Waiting for you' })
        .getByText(/^was due/)
        .first(),
    ).toBeVisible();
    await expectAccessible(tomasz);
    await tomasz.getByRole('button', { name: 'Going away?' }).click();
    await tomasz.getByLabel('First day away', { exact: true }).fill(daysAhead(0));
    await tomasz.getByLabel('Last day away', { exact: true }).fill(daysAhead(3));
    await choose(tomasz, /Who stands in/, /Ada Quist/);
    await expectAccessible(tomasz);
    await tomasz.getByRole('button', { name: 'Save' }).click();
    await expect(tomasz.getByText(/You are away until .*stands in/)).toBeVisible();

    const address = await fillAndSend(maren.page, '5');
    await expect(maren.page.getByText(/Tomasz Bielak is away until .*Ada Quist stands in/)).toBeVisible();
    const pell = await windowOf(browser, 'pell.adeyemi');
    await open(pell, address);
    await pell.getByLabel(/^A word for/).fill('On which day?');
    await pell.getByRole('button', { name: 'Say it without deciding' }).click();
    await expect(pell.getByText('“On which day?”')).toBeVisible();
    // The sender has the page open, and hears of it by itself.
    await expect(maren.page.getByText('“On which day?”')).toBeVisible();
    await maren.page.getByLabel('A word to all on the path').fill('On Sunday');
    await maren.page.getByRole('button', { name: 'Say it', exact: true }).click();
    await expect(pell.getByText('“On Sunday”')).toBeVisible();
    await choose(pell, /To whom/, /Ruo Lindqvist/);
    await pell.getByRole('button', { name: 'Hand it over', exact: true }).click();
    await expect(pell.getByText('Pell Adeyemi handed it over to Ruo Lindqvist')).toBeVisible();

    const ada = await seat(browser, 'ada.quist');
    await open(ada.page, '/approvals');
    await ada.page.getByRole('link', { name: /^Overtime .*for Tomasz Bielak/ }).click();
    await expect(ada.page.getByText('For Tomasz Bielak, who is away; you stand in.')).toBeVisible();
    await expectAccessible(ada.page);
    await ada.page.getByRole('button', { name: 'Approve' }).click();
    await expect(ada.page.getByText('Ada Quist approved for Tomasz Bielak')).toBeVisible();
    // With nothing unusual in it, it is approved from the list.
    const ruo = await seat(browser, 'ruo.lindqvist');
    await open(ruo.page, '/approvals');
    await ruo.page.getByLabel(/^Approve Overtime/).check();
    await expectAccessible(ruo.page);
    await ruo.page.getByRole('button', { name: 'Approve it' }).click();
    await expect(ruo.page.getByText('1 approved')).toBeVisible();
    await expect(maren.page.getByText('Approved and kept')).toBeVisible();
    await tomasz.reload();
    await tomasz.getByRole('button', { name: 'Back already' }).click();
    await expect(tomasz.getByText(/You are away until/)).toHaveCount(0);
  });

  await test.step('the sender finds it under the bell, and whoever was answered in their mailbox', async () => {
    const bell = maren.page.getByRole('button', { name: /^Notices/ });
    await bell.focus();
    await maren.page.keyboard.press('Enter');
    const notices = maren.page.getByRole('dialog', { name: 'Notices' });
    const told = notices.getByRole('link', {
      name: /Ruo Lindqvist approved Overtime OV-\S+, and it is kept/,
    });
    await expect(told).toBeVisible();
    await expect(notices.getByText('“On which day?”').first()).toBeVisible();
    await expectAccessible(maren.page);
    await maren.page.keyboard.press('Escape');
    await expect(notices).toBeHidden();
    await expect(bell).toHaveAccessibleName('Notices');
    await expect(bell).toBeFocused();
    // Pell was answered, and has not looked at that since.
    const mails = async (): Promise<{ to: string; subject: string; text: string }[]> =>
      (
        await maren.context.request.get(`http://127.0.0.1:${process.env['SLATE_MAIL_PAGE_PORT']}/mails.json`)
      ).json();
    const about = async () =>
      (await mails()).filter(
        ({ to, text }) =>
          to.includes('pell.adeyemi') &&
          /Maren Solheim wrote about Overtime OV-\S+\.\n> On Sunday/.test(text),
      ).length;
    await expect.poll(about, { timeout: 90_000 }).toBeGreaterThan(0);
  });
});

/** As it is typed, so many days from now. */
const daysAhead = (days: number): string =>
  new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10).split('-').reverse().join('/');

test('a figure out of the usual is told by what, with what was sent before', async ({ browser }) => {
  const { page, context, troubles } = await seat(browser, 'osei.marchetti');
  const { waiting } = (await (await context.request.get('/api/approvals')).json()) as {
    waiting: { id: string; senderName?: string }[];
  };
  const told = await Promise.all(
    waiting.map(async ({ id }) => {
      const past = (await (await context.request.get(`/api/submissions/${id}/past`)).json()) as {
        beyond: { times: number }[];
      };
      return { id, most: Math.max(0, ...past.beyond.map(({ times }) => times)) };
    }),
  );
  const slip = told.find(({ most }) => most > 100);
  await open(page, `/submissions/${slip?.id ?? ''}`);
  const unusual = page.getByRole('region', { name: 'Out of the usual' });
  await expect(unusual).toContainText(/How many, 2000, is \d+ times what is usual: the middle one of \d+/);
  await unusual.getByRole('button', { name: 'line 3a' }).first().click();
  await expect(page.getByRole('region', { name: 'For comparison' })).toContainText('Supplier');
  await expectAccessible(page);
  expect(troubles).toEqual([]);
});
