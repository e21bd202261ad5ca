import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect, test } from '@playwright/test';
import pg from 'pg';
import { choose, expectAccessible, find, open, seat, settled } from './people';

test('a table of another database is linked, and a form into it picks from it and keeps its records there', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/tables');
  await page.getByRole('link', { name: 'Sources outside' }).click();
  await settled(page);
  await page.getByRole('link', { name: /^Seed exchange/ }).click();
  await settled(page);
  await expect(page.getByText('nothing tells its records apart')).toBeVisible();
  await page.getByLabel('Link catalogue.wishes').check();
  await expect(page.getByText('“wished_on” fills itself there')).toBeVisible();
  await expect(page.getByText('Records may be added, but not changed from here')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Link this table' }).click();
  await page.getByRole('link', { name: 'Wishes' }).click();
  await settled(page);
  await expect(page.getByRole('heading', { name: /^Wishes/ })).toContainText(/1\d\d records/, {
    timeout: 30_000,
  });
  await expect(page.getByText(/as it was (just now|a minute ago)/)).toBeVisible();

  await open(page, '/tables/lots');
  await page.getByRole('button', { name: 'Make a form of it' }).click();
  await page.waitForURL(/\/forms\//);
  await settled(page);
  await page.getByRole('button', { name: 'Release', exact: true }).first().click();
  await page.getByRole('button', { name: 'Release 1' }).click();
  await expect(page.getByText('Release 1 is live')).toBeVisible();
  await settled(page);
  await page.getByRole('link', { name: 'Fill it in' }).first().click();
  await page.waitForURL(/\/fill\//);
  await settled(page);
  await page.getByRole('textbox', { name: 'Lot no' }).fill('X-7001');
  await page.getByRole('textbox', { name: 'Taxon' }).fill('Quillmeria nova');
  await page.getByRole('combobox', { name: 'Garden', exact: true }).click();
  await expect(page.getByText(/^From Seed exchange, as it was/)).toBeVisible();
  await find(page, 'Garden', 'larkrise', /Larkrise/);
  await page.getByRole('textbox', { name: 'Grams' }).fill('4.5');
  await page.getByRole('button', { name: /^Send/ }).last().click();
  await page.waitForURL(/\?sent/);
  await open(page, '/tables/lots');
  await expect(page.getByRole('gridcell', { name: 'X-7001' })).toBeVisible();
  await page.getByRole('button', { name: 'Refresh now' }).click();
  await expect(page.getByText(/The last time (nothing was different|1 changed)/)).toBeVisible({
    timeout: 30_000,
  });
  await expect(page.getByRole('gridcell', { name: 'X-7001' })).toBeVisible();
  expect(troubles).toEqual([]);
});

/** Something happens at the seed exchange, which is nobody's here. */
async function atExchange(statement: string): Promise<void> {
  const url = new URL(process.env['SLATE_ADMIN_URL'] ?? '');
  url.pathname = `${url.pathname}_exchange`;
  const client = new pg.Client({ connectionString: url.toString() });
  await client.connect();
  await client.query(statement);
  await client.end();
}

test('a linked table that has become another at its source is looked at, and taken up', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await atExchange(
    `ALTER TABLE catalogue.lots ADD COLUMN shelf text, DROP COLUMN collected; UPDATE catalogue.lots SET shelf = 'North shelf'`,
  );
  await open(page, '/tables/lots');
  await page.getByRole('button', { name: 'Refresh now' }).click();
  await page.getByRole('link', { name: 'See what has become of it there' }).click({ timeout: 30_000 });
  await settled(page);
  await expect(page.getByText('it has changed there')).toBeVisible();
  await page.getByRole('button', { name: 'lots', exact: true }).click();
  await expect(page.getByText('“Shelf” is there now, and not here yet.')).toBeVisible();
  await expect(page.getByText('“Collected” is not there any more: its last values stay here.')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Take it up here' }).click();
  await expect(page.getByText('it has changed there')).toBeHidden();
  await page.getByRole('link', { name: 'Lots' }).click();
  await settled(page);
  await expect(page.getByRole('gridcell', { name: 'North shelf' }).first()).toBeVisible({ timeout: 30_000 });
  expect(troubles).toEqual([]);
});

test('a list is set up by an administrator, linked, and goes on with its last good copy when its address is silent', async ({
  browser,
}) => {
  let calls = 0;
  const list: Server = createServer((request, response) => {
    calls++;
    response.writeHead(request.headers['x-key'] === 'sesame' ? 200 : 401).end(
      JSON.stringify(
        Array.from({ length: 12 }, (_, i) => ({
          code: `W${i}`,
          station: `Weather station ${i}`,
          metres: i * 10,
        })),
      ),
    );
  });
  await new Promise<void>((listening) => list.listen(0, '127.0.0.1', listening));
  const { page, troubles } = await seat(browser, 'wren.calloway', { width: 390, height: 844 });
  await open(page, '/sources');
  await page.getByRole('button', { name: 'New source' }).click();
  await page.getByLabel('a list at a JSON address').check();
  await page.getByLabel('Name', { exact: true }).fill('Stations');
  await page.getByRole('textbox', { name: 'Address' }).fill('register.example/list');
  await page.getByRole('button', { name: 'Keep it and look into it' }).click();
  await expect(page.getByText('Give the whole address')).toBeVisible();
  await page
    .getByRole('textbox', { name: 'Address' })
    .fill(`http://127.0.0.1:${(list.address() as AddressInfo).port}/`);
  await page.getByLabel(/^Header that carries/).fill('X-Key');
  await page.getByLabel('Secret', { exact: true }).fill('not sesame');
  await page.getByRole('button', { name: 'Keep it and look into it' }).click();
  await page.waitForURL(/\/sources\/[0-9a-f-]{36}/);
  await settled(page);
  await expect(page.getByText('It refuses the user or the secret')).toBeVisible();
  await page.getByRole('button', { name: 'Change the source' }).click();
  await expect(page.getByLabel('Secret', { exact: true })).toHaveValue('');
  await page.getByLabel('Secret', { exact: true }).fill('sesame');
  await page.getByRole('button', { name: 'Keep the source' }).click();
  await expect(page.getByRole('heading', { name: '12 entries' })).toBeVisible();
  await expectAccessible(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBe(0);
  await choose(page, /How often it is refreshed/, 'every hour');
  await page.getByRole('button', { name: 'Link this list' }).click();
  await page.getByRole('link', { name: 'Stations' }).click();
  await settled(page);
  await expect(page.getByRole('gridcell', { name: 'Weather station 11' })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('button', { name: 'Make a form of it' })).toHaveCount(0);
  expect(calls).toBeGreaterThan(2);
  await new Promise((closed) => {
    list.close(closed);
    list.closeAllConnections();
  });
  await page.getByRole('button', { name: 'Refresh now' }).click();
  await expect(page.getByRole('alert')).toContainText(
    'Stations cannot be read: It does not answer. These records are the last good copy',
    { timeout: 30_000 },
  );
  await expect(page.getByRole('gridcell', { name: 'Weather station 11' })).toBeVisible();
  await expectAccessible(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBe(0);
  await page.getByRole('button', { name: 'End the link' }).click();
  await page.getByRole('button', { name: 'End the link' }).click();
  await expect(page.getByRole('button', { name: 'Refresh now' })).toHaveCount(0);
  expect(troubles).toEqual([]);
});
