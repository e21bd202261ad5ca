import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect, test, type Page } from '@playwright/test';
import { choose, expectAccessible, open, seat, settled } from './people';

/** What the stand-in for a mail server took for somebody, by words of its subject. */
async function mailsTo(page: Page, email: string, subject: string): Promise<string[]> {
  const answer = await page.request.get(`http://127.0.0.1:${process.env['SLATE_MAIL_PAGE_PORT']}/mails.json`);
  return ((await answer.json()) as { to: string; subject: string; text: string }[])
    .filter((mail) => mail.to.includes(email) && mail.subject.includes(subject))
    .map(({ text }) => text);
}

test('an administrator adds somebody, who chooses a password by a link, fills forms, and is out the moment their access ends', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'wren.calloway');
  const name = `Lune Farrow ${Date.now() % 10_000}`;
  const email = `lune.${Date.now()}@quillmere.example`;
  const newcomer = await (await browser.newContext()).newPage();
  let link = '';

  await test.step('is added, and invited by a link that is shown once', async () => {
    await open(page, '/people');
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Add somebody' }).click();
    await page.getByRole('textbox', { name: 'Name' }).fill(name);
    await page.getByRole('textbox', { name: 'E-mail' }).fill('maren.solheim@quillmere.example');
    await page.getByRole('button', { name: 'Add them' }).click();
    await expect(page.getByText('Maren Solheim has this e-mail address already')).toBeVisible();
    await page.getByRole('textbox', { name: 'E-mail' }).fill(email);
    await page.getByRole('button', { name: 'Add them' }).click();
    await page.getByRole('button', { name: 'Make a link' }).click();
    link = await page.getByLabel('Link').inputValue();
    await expectAccessible(page);
  });

  await test.step('chooses a password and is in', async () => {
    await newcomer.goto(link);
    await settled(newcomer);
    await expect(newcomer.getByRole('heading', { name: `Welcome, ${name}` })).toBeVisible();
    await expectAccessible(newcomer);
    await newcomer.getByLabel('Password', { exact: true }).fill('four green ferns grow');
    await newcomer.getByLabel('Password once more').fill('four green ferns grow');
    await newcomer.getByRole('button', { name: 'Save it and begin' }).click();
    await expect(newcomer.getByText(name)).toBeVisible();
    await expect(newcomer.getByRole('link', { name: /Treatment request/ }).first()).toBeVisible();
  });

  await test.step('forgets it, is mailed a link, and is signed out everywhere else', async () => {
    const elsewhere = await (await browser.newContext()).newPage();
    await elsewhere.goto('/sign-in');
    await settled(elsewhere);
    await elsewhere.getByRole('link', { name: 'Forgotten your password?' }).click();
    await elsewhere.waitForURL(/forgotten/);
    await settled(elsewhere);
    await expectAccessible(elsewhere);
    await elsewhere.getByLabel('E-mail').fill(email);
    await elsewhere.keyboard.press('Enter');
    await expect(elsewhere.getByRole('heading', { name: 'Look into your mailbox' })).toBeVisible();
    await expect.poll(() => mailsTo(elsewhere, email, 'A new password')).toHaveLength(1);
    const [text = ''] = await mailsTo(elsewhere, email, 'A new password');
    await elsewhere.goto(/http\S+\/welcome#[\w-]+/.exec(text)?.[0] ?? 'no link in the mail');
    await settled(elsewhere);
    await expect(elsewhere.getByRole('heading', { name: 'A new password' })).toBeVisible();
    await elsewhere.getByLabel('Password', { exact: true }).fill('Password2026');
    await elsewhere.getByLabel('Password once more').fill('Password2026');
    await elsewhere.keyboard.press('Enter');
    await expect(elsewhere.getByText('one of the passwords that are guessed first')).toBeVisible();
    await expectAccessible(elsewhere);
    await elsewhere.getByLabel('Password', { exact: true }).fill('another four green ferns');
    await elsewhere.getByLabel('Password once more').fill('another four green ferns');
    await elsewhere.keyboard.press('Enter');
    await expect(elsewhere.getByText(name)).toBeVisible();
    await newcomer.goto('/');
    await expect(newcomer).toHaveURL(/sign-in/);
    await expect.poll(() => mailsTo(elsewhere, email, 'was changed')).toHaveLength(1);
    await elsewhere.close();
  });

  await test.step('is in a group with others, each counted once', async () => {
    await page.getByRole('button', { name: 'New group' }).click();
    await page.getByRole('textbox', { name: 'Name' }).fill(`Arboretum ${name}`);
    await choose(page, /People in the group/, new RegExp(name));
    await page.getByRole('option', { name: /^Ada Quist/ }).click();
    await page.keyboard.press('Escape');
    await choose(page, /Groups in the group/, 'Plant health');
    await page.keyboard.press('Escape');
    await expect(page.getByText('4 people, each counted once.')).toBeVisible();
    await page.getByRole('button', { name: 'Make the group' }).click();
    await expect(page.getByRole('list', { name: 'Groups' }).getByText(`Arboretum ${name}`)).toBeVisible();
  });

  await test.step('leaves, and is out at once', async () => {
    await page.getByRole('button', { name: new RegExp(`^${name}`) }).click();
    await choose(page, /Who takes over/, 'Ines Okafor');
    await page.getByRole('button', { name: 'End their access now' }).click();
    await expect(page.getByText('has left. What they did stays under their name.')).toBeVisible();
    await newcomer.goto('/');
    await expect(newcomer).toHaveURL(/sign-in/);
    await newcomer.goto(link);
    await expect(newcomer.getByRole('heading', { name: 'This link does not work' })).toBeVisible();
  });
  expect(troubles).toEqual([]);
});

test('a form says who may do what with it, and what a change would take from whom', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/forms');
  await page.getByRole('link', { name: /Plant intake/ }).click();
  await settled(page);
  await page.getByRole('button', { name: 'Release', exact: true }).first().click();
  await choose(page, /Who may fill/, /^Plant health/);
  await page.keyboard.press('Escape');
  await expect(page.getByText(/may then no longer fill it/)).toContainText('Dagny Farrow');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Leave it as it was' }).click();
  await expect(page.getByRole('button', { name: /Who may fill: Everybody/ })).toBeVisible();
  await choose(page, /Who may design/, 'Ines Okafor, Plant records');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Save who may do what' }).click();
  await expect(page.getByText('Somebody must be left who may change this')).toBeVisible();
  expect(troubles).toEqual([]);
});

test('people come from a list once it was looked over, and whoever has left is out', async ({ browser }) => {
  const { page, context } = await seat(browser, 'wren.calloway');
  const list = (lines: readonly string[]) => ({
    name: 'staff.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['E-mail;Name;Place;Manager;Groups;Desk', ...lines].join('\r\n')),
  });
  await open(page, '/people');
  await Promise.all([page.waitForURL(/directory$/), page.getByRole('link', { name: 'From a list' }).click()]);
  await settled(page);
  await page.getByLabel(/^Choose .*CSV file$/).setInputFiles(list(['hana.brook;Hana Brook;;;;']));
  await expect(page.getByText('“hana.brook” is no e-mail address')).toBeVisible();
  const lines = [
    'hana.brook@quillmere.example;Hana Brook;Alpine house;dagny.farrow@quillmere.example;"Alpines;Leads";4',
    'jory.pell@quillmere.example;Jory Pell;Alpine house;hana.brook@quillmere.example;Alpines;5',
  ];
  await page.getByLabel(/^Choose .*CSV file$/).setInputFiles(list(lines));
  await expect(page.getByText('Not read: Desk.')).toBeVisible();
  await expect(page.getByRole('heading', { name: '2 new' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Add 2, put 2 groups right' }).click();
  await expect(page.getByText('Done: 2 added, 0 changed, 0 left.')).toBeVisible();
  await page.getByLabel(/^Choose .*CSV file$/).setInputFiles(list(lines.slice(0, 1)));
  await page.getByRole('checkbox', { name: 'Jory Pell has left' }).check();
  await page.getByRole('button', { name: 'End the access of 1' }).click();
  await expect(page.getByText('Done: 0 added, 0 changed, 1 left.')).toBeVisible();
  const { people } = (await (await context.request.get('/api/people')).json()) as {
    people: { name: string; ended: boolean }[];
  };
  expect(
    people
      .filter(({ name }) => /^(Hana|Jory)/.test(name))
      .map(({ ended }) => ended)
      .sort(),
  ).toEqual([false, true]);
});

test('a list at an address is followed: who is new comes in, and who is not in it any more is out', async ({
  browser,
}) => {
  const { page, context, troubles } = await seat(browser, 'wren.calloway');
  const entry = (first: string, last: string, department: string) => ({
    email: `${first}.${last}@quillmere.example`.toLowerCase(),
    givenName: first,
    familyName: last,
    department,
  });
  let staff = [entry('Iva', 'Lund', 'Alpine house'), entry('Tove', 'Arkady', 'Alpine house')];
  const server = createServer((_, response) => void response.end(JSON.stringify({ staff })));
  await new Promise<void>((listening) => server.listen(0, '127.0.0.1', listening));
  try {
    const { port } = server.address() as AddressInfo;
    const made = await context.request.put(`/api/sources/${crypto.randomUUID()}`, {
      data: {
        version: 0,
        label: 'List of the alpine house',
        address: { t: 'list', url: `http://127.0.0.1:${port}/`, header: '' },
        secret: null,
      },
    });
    expect(made.ok()).toBe(true);
    await open(page, '/people/directory');
    await choose(page, /List of people/, 'List of the alpine house');
    await choose(page, /How often it is followed/, 'once a day');
    await page.getByRole('button', { name: 'Look it over' }).click();
    await expect(page.getByRole('heading', { name: '2 new' })).toBeVisible();
    await expectAccessible(page);
    // It has become another one since.
    staff = [...staff, entry('Odd', 'Vale', 'Alpine house')];
    await page.getByRole('button', { name: 'Follow it from now on' }).click();
    await expect(page.getByRole('alert').getByText(/meanwhile/)).toBeVisible();
    await page.getByRole('button', { name: 'Look it over' }).click();
    await expect(page.getByRole('heading', { name: '3 new' })).toBeVisible();
    await page.getByRole('button', { name: 'Follow it from now on' }).click();
    await expect(
      page.getByText(/is followed once a day, as Wren Calloway; 3 people came by it/),
    ).toBeVisible();
    staff = staff.slice(1);
    await page.getByRole('button', { name: 'Look it over' }).click();
    await expect(page.getByText('Iva Lund is out at once')).toBeVisible();
    await page.getByRole('button', { name: 'Follow it so' }).click();
    await expect(page.getByText(/Followed just now: 1 left/)).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('link', { name: 'People', exact: true }).last().click();
    await page.waitForURL('**/people');
    await settled(page);
    await page.getByRole('button', { name: /^Tove Arkady/ }).click();
    await expect(page.getByText('what it tells of them is changed there')).toBeVisible();
    await expect(page.getByRole('button', { name: /^Iva Lund/ })).toContainText('Has left');
    await open(page, '/people/directory');
    await page.getByRole('button', { name: 'Follow it no more' }).click();
    await expect(page.getByText(/is followed once a day/)).toBeHidden();
    expect(troubles).toEqual([]);
  } finally {
    server.close();
  }
});
