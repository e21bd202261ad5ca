import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { expect, test, type Browser, type Page } from '@playwright/test';
import { choose, expectAccessible, find, open, seat, settled, typeDay } from './people';

/** People without an account fill a form by a link, follow what they sent, and are let into nothing else. */
const form = '01900000-0000-7000-a000-000000000006';

/** Somebody with a telephone and no account. */
async function outsider(browser: Browser): Promise<{ page: Page; troubles: string[] }> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  const troubles: string[] = [];
  page.on('pageerror', (error) => void troubles.push(error.message));
  return { page, troubles };
}

const textbox = (page: Page, name: string) => page.getByRole('textbox', { name, exact: true });

test('a school fills a form by a link, is asked again, answers, and the link is stopped', async ({
  browser,
}) => {
  const { page, context, troubles } = await seat(browser, 'ines.okafor');
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await open(page, `/forms/${form}`);
  await page.getByRole('button', { name: /Release$/ }).click();
  await page.getByRole('button', { name: 'Make a link' }).click();
  await page.getByLabel('What it is called').fill('School newsletter');
  await choose(page, /How many may be sent by it/, 'At most');
  await page.getByLabel('Most sent by it').fill('2');
  await page.getByRole('button', { name: 'Make it', exact: true }).click();
  await expect(page.getByText('0 of 2 sent · made by Ines Okafor')).toBeVisible();
  await expectAccessible(page);
  // What may be looked up is opened by the form's owner; while it is not, nobody outside gets in.
  const beds = page.getByRole('checkbox', { name: /^Bed: Code, Name/ });
  await beds.uncheck();
  await expect(page.getByText('Nobody outside gets in just now')).toBeVisible();
  await page.getByRole('button', { name: 'Copy the address of School newsletter' }).click();
  await expect(page.getByText('Copied')).toBeVisible();
  const address = await page.evaluate(() => navigator.clipboard.readText());
  const visitor = await outsider(browser);
  expect((await visitor.page.goto(address))?.status()).toBe(403);
  await expect(visitor.page.getByText('This form is closed for a moment')).toBeVisible();
  await beds.check();
  await expect(page.getByText('Anybody who has one of these links can fill it')).toBeVisible();

  await open(visitor.page, address);
  await expect(visitor.page.getByText('Tell us about your class')).toBeVisible();
  await expectAccessible(visitor.page);
  await textbox(visitor.page, 'School').fill('Hill Lane School');
  await expect(visitor.page.getByText('Kept on this device')).toBeVisible();
  await visitor.page.reload();
  await settled(visitor.page);
  await expect(textbox(visitor.page, 'School')).toHaveValue('Hill Lane School');
  await textbox(visitor.page, 'Who arranges it?').fill('Jo Field');
  await textbox(visitor.page, 'E-mail').fill('jo.field@hill-lane.example');
  const day = new Date(Date.now() + 40 * 86_400_000).toISOString().slice(0, 10);
  await typeDay(visitor.page, 'Day', day);
  await textbox(visitor.page, 'Arrives at').fill('10:00');
  await textbox(visitor.page, 'Children').fill('24');
  await find(visitor.page, 'What would they like to see?', 'fern', /Fern house/);
  await choose(visitor.page, 'Choose School year', 'Primary');
  // What is wrong is told before it is sent, and stays.
  await visitor.page.getByRole('button', { name: 'Send', exact: true }).click();
  await visitor.page.getByRole('checkbox', { name: /A teacher stays/ }).check();
  await visitor.page.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(visitor.page.getByRole('heading', { name: /^Sent as SV-/ })).toBeVisible();
  await expect(visitor.page.getByText('Please bring clothes for any weather')).toBeVisible();
  await expectAccessible(visitor.page);
  const followed = (await visitor.page.getByRole('link', { name: /followed/ }).getAttribute('href')) ?? '';
  const number = ((await visitor.page.getByRole('heading', { name: /^Sent as/ }).textContent()) ?? '').slice(
    8,
  );
  // Nothing of it is left on the device, and another one begins empty.
  await visitor.page.getByRole('button', { name: 'Fill another one' }).click();
  await expect(textbox(visitor.page, 'School')).toHaveValue('');

  // It comes in the name of the link, and is sent back.
  const dagny = await seat(browser, 'dagny.farrow');
  await open(dagny.page, '/approvals');
  await dagny.page.getByRole('link', { name: new RegExp(number) }).click();
  await settled(dagny.page);
  await expect(dagny.page.getByText('School newsletter, from outside')).toBeVisible();
  await dagny.page.getByRole('button', { name: 'Send back' }).click();
  await dagny.page.getByRole('textbox', { name: /word/i }).fill('All 24 at once?');
  await dagny.page.getByRole('button', { name: 'Send back' }).last().click();
  await expect(dagny.page.getByText('Sent back').first()).toBeVisible();

  await visitor.page.goto(followed);
  await visitor.page.reload();
  await expect(visitor.page.getByText('All 24 at once?')).toBeVisible();
  await textbox(visitor.page, 'Children').fill('12');
  await expectAccessible(visitor.page);
  await visitor.page.getByRole('button', { name: 'Send it again' }).click();
  await expect(visitor.page.getByText('Being looked at')).toBeVisible();
  await expectAccessible(visitor.page);
  await visitor.page.getByRole('button', { name: 'Take it back' }).click();
  await visitor.page.getByRole('button', { name: 'Take it back for good' }).click();
  await expect(visitor.page.getByText('Taken back')).toBeVisible();

  await page.reload();
  await settled(page);
  await page.getByRole('button', { name: /Release$/ }).click();
  await expect(page.getByText('1 of 2 sent · made by Ines Okafor')).toBeVisible();
  await page.getByRole('button', { name: 'Stop School newsletter' }).click();
  await page.getByRole('button', { name: 'Stop School newsletter for good' }).click();
  await expect(page.getByText('School newsletter leads nowhere from now on')).toBeVisible();
  expect((await visitor.page.goto(address))?.status()).toBe(403);
  await expect(visitor.page.getByText('This form is not taken any more')).toBeVisible();
  expect([...troubles, ...visitor.troubles, ...dagny.troubles]).toEqual([]);
});

/** A site of somebody else on this machine, whose one page shows another within it. */
async function siteShowing(address: string): Promise<{ origin: string; close: () => void }> {
  const server = createServer((_, answer) =>
    answer
      .setHeader('content-type', 'text/html')
      .end(`<iframe src="${address}" title="Form" width="800" height="600"></iframe>`),
  );
  await new Promise<void>((listening) => server.listen(0, 'localhost', listening));
  const { port } = server.address() as AddressInfo;
  return { origin: `http://localhost:${port}`, close: () => server.close() };
}

test('somebody outside fills a form in German, by a link, and types as it is written there', async ({
  browser,
}) => {
  const { page, context, troubles } = await seat(browser, 'ines.okafor');
  await open(page, `/forms/${form}?face=release`);
  await choose(page, /Language people outside meet it in/, 'Deutsch');
  await expect(page.getByText('Saved; it holds from now on.')).toBeVisible();
  const { links } = (await (await context.request.get(`/api/forms/${form}/outside`)).json()) as {
    links: { state: string; address: string }[];
  };
  const address = links.find(({ state }) => state === 'open')?.address ?? '';
  const visitor = await outsider(browser);
  await open(visitor.page, address);
  await expect(visitor.page.locator('html')).toHaveAttribute('lang', 'de-DE');
  await visitor.page.getByRole('button', { name: 'Senden', exact: true }).click();
  await expect(visitor.page.getByText('School ist nicht ausgefüllt').first()).toBeVisible();
  await expectAccessible(visitor.page);
  await textbox(visitor.page, 'School').fill('Schule am Hang');
  await expect(visitor.page.getByText('Auf diesem Gerät gespeichert')).toBeVisible();
  const day = new Date(Date.now() + 45 * 86_400_000).toISOString().slice(0, 10);
  await textbox(visitor.page, 'Day').fill(day.split('-').reverse().join('.'));
  await textbox(visitor.page, 'Arrives at').fill('10:00');
  await expect(textbox(visitor.page, 'Day')).toHaveValue(day.split('-').reverse().join('.'));
  await textbox(visitor.page, 'Who arranges it?').fill('Jo Feld');
  await textbox(visitor.page, 'E-mail').fill('jo.feld@hang.example');
  await textbox(visitor.page, 'Children').fill('12');
  await find(visitor.page, 'What would they like to see?', 'fern', /Fern house/);
  await choose(visitor.page, 'Auswählen School year', 'Primary');
  await visitor.page.getByRole('checkbox', { name: /A teacher stays/ }).check();
  await visitor.page.getByRole('button', { name: 'Senden', exact: true }).click();
  await expect(visitor.page.getByRole('heading', { name: /^Gesendet als SV-/ })).toBeVisible();
  const followed = (await visitor.page.getByRole('link', { name: /followed/ }).getAttribute('href')) ?? '';
  await visitor.page.goto(followed);
  await visitor.page.reload();
  await expect(visitor.page.getByText('Wird angesehen')).toBeVisible();
  await visitor.page.getByRole('button', { name: 'Zurücknehmen', exact: true }).click();
  await visitor.page.getByRole('button', { name: 'Endgültig zurücknehmen' }).click();
  await expect(visitor.page.getByText('Zurückgenommen')).toBeVisible();
  expect([...troubles, ...visitor.troubles]).toEqual([]);

  await choose(page, /Language people outside meet it in/, 'the language of the workspace');
  await expect(page.getByText('Saved; it holds from now on.')).toBeVisible();
});

test('a site that is named may show the form within its page, and no other may', async ({ browser }) => {
  const { page, context } = await seat(browser, 'ines.okafor');
  const at = `/api/forms/${form}/outside`;
  const { version, welcome, thanks, lookups, mailTo, language, links } = await (
    await context.request.get(at)
  ).json();
  const [{ address }] = links.filter(({ state }: { state: string }) => state === 'open');
  const [named, other] = [await siteShowing(address), await siteShowing(address)];
  const said = { welcome, thanks, lookups, mailTo, language };
  const { version: next } = await (
    await context.request.put(at, { data: { ...said, version, origins: [`${named.origin}/`] } })
  ).json();
  const { 'content-security-policy': policy, 'x-frame-options': framing } = (
    await page.request.get(address)
  ).headers();
  expect(policy).toContain(`frame-ancestors ${named.origin}`);
  expect(framing).toBeUndefined();
  expect((await page.request.get('/')).headers()['x-frame-options']).toBe('DENY');
  const frame = page.frameLocator('iframe');
  await page.goto(named.origin);
  // What is typed before the page within the page answers is nobody's. Browsers that keep nothing for a page within another one's are told of as such.
  await expect(async () => {
    await frame.getByRole('textbox', { name: 'School', exact: true }).fill(`Framed ${Math.random()}`);
    await expect(frame.getByText(/Kept on this device|This device keeps nothing/)).toBeVisible({
      timeout: 1_000,
    });
  }).toPass();
  await page.goto(other.origin);
  await expect(frame.getByRole('heading', { name: 'School visit' })).toHaveCount(0);
  await context.request.put(at, { data: { ...said, version: next, origins: [] } });
  named.close();
  other.close();
});

test('a photo is brought from outside, and is there again after a reload', async ({ browser }) => {
  const { context } = await seat(browser, 'ines.okafor');
  const inspection = '/api/forms/01900000-0000-7000-a000-000000000003';
  const { version, shows } = await (await context.request.get(`${inspection}/outside`)).json();
  const lookups = shows.map(({ id }: { id: string }) => id);
  await context.request.put(`${inspection}/outside`, {
    data: { version, welcome: '', thanks: '', lookups, origins: [], mailTo: null, language: null },
  });
  const link = { id: crypto.randomUUID(), label: 'Sign at the gate 🌿 بوابة', until: null, most: 1 };
  const { links } = await (await context.request.post(`${inspection}/links`, { data: link })).json();
  const visitor = await outsider(browser);
  await open(visitor.page, links[0].address);
  await visitor.page
    .locator('input[type=file]')
    .setInputFiles(join(import.meta.dirname, '../../docs/screenshots/fill.png'));
  await expect(visitor.page.getByText('fill.png')).toBeVisible();
  // It has arrived once it is part of the answer.
  await expect(visitor.page.getByText('Kept on this device')).toBeVisible();
  await visitor.page.reload();
  await settled(visitor.page);
  await expect(visitor.page.getByText('fill.png')).toBeVisible();
  await expectAccessible(visitor.page);
  expect((await context.request.delete(`${inspection}/links/${link.id}`, { data: {} })).ok()).toBe(true);
  expect(visitor.troubles).toEqual([]);
});
