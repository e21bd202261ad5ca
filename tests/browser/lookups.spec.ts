import { expect, test } from '@playwright/test';
import { choose, expectAccessible, open, seat } from './people';

test('a lookup by keyboard: ranked and marked, near, left in words, and what is missing added on the spot', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'kofi.renwick');
  await open(page, '/fill/shift_log');
  const who = page.locator('td input').first();
  await who.focus();
  await page.keyboard.type('Asta');
  const options = page.getByRole('option');
  await expect(options.first()).toContainText('Asta');
  await expect(options.first().locator('b').first()).toHaveText('Asta');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(who).toHaveValue(/^Asta /);
  const picked = await who.inputValue();
  // A slip is met, and Escape puts back what was picked.
  await who.fill('Edra');
  await expect(page.getByText('Nothing is called that. Did you mean one of these?')).toBeVisible();
  await expect(options.first()).toContainText('Edda');
  await page.keyboard.press('Escape');
  await expect(who).toHaveValue(picked);
  // Words that name one are picked when they are left; others stay to be fixed.
  await who.fill('edda calder');
  await page.keyboard.press('Tab');
  await expect(who).toHaveValue('Edda Calder');
  const newcomer = `Newcomer ${Date.now() % 100_000}`;
  await who.fill(newcomer);
  await page.keyboard.press('Tab');
  await page.keyboard.press('Escape');
  await expect(
    page.getByText(`“${newcomer}” is not found, or names several; pick a record`).first(),
  ).toBeVisible();
  await who.focus();
  await who.fill(`${newcomer} `);
  await expect(page.getByRole('button', { name: `Add “${newcomer}” to Volunteers` })).toBeVisible();
  await page.keyboard.press('Enter');
  const sheet = page.getByRole('dialog', { name: 'New volunteer' });
  await expect(sheet.getByLabel('Name')).toHaveValue(newcomer);
  await expectAccessible(page);
  await page.keyboard.press('Control+Enter');
  await expect(sheet.getByText('Team is not filled')).toBeVisible();
  await sheet.getByRole('button', { name: /Team$/ }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('Woo');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+Enter');
  await expect(sheet).toHaveCount(0);
  await expect(who).toHaveValue(newcomer);
  expect(troubles).toEqual([]);
});

test('what a colleague may not add is not offered to be added', async ({ browser }) => {
  const { page } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/shift_log');
  await page.locator('td input').first().fill('Nobody Of This Name');
  await expect(page.getByText('Nothing found; try another word')).toBeVisible();
  await expect(page.getByText(/to Volunteers/)).toHaveCount(0);
});

test('rows begin with one for each of a team, anew for another team until somebody types in them; several are picked in a line', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/shift_log');
  await expect(page.getByText('Rows come once you have answered Team.')).toBeVisible();
  const rows = page.locator('.rows-table tbody tr');
  await choose(page, /Team$/, 'Woodland');
  await expect.poll(() => rows.count()).toBeGreaterThan(12);
  const first = page.getByLabel('Volunteer, row a');
  const name = await first.inputValue();
  await choose(page, /Team$/, 'Glasshouses');
  await expect(first).not.toHaveValue(name);
  await page.getByLabel('Hours, h, row a').or(page.getByLabel('Hours, row a')).first().fill('3');
  await choose(page, /Team$/, 'Woodland');
  await expect(page.getByText('These rows were begun for another answer.')).toBeVisible();
  await page.getByRole('button', { name: 'Begin the rows anew' }).click();
  await expect(first).toHaveValue(name);
  await page.keyboard.press('Control+z');
  await expect(first).not.toHaveValue(name);

  await open(page, '/fill/school_visit');
  const picks = page.getByRole('list', { name: /what is picked/ }).getByRole('listitem');
  await page.getByRole('combobox', { name: /What would they like to see/ }).focus();
  for (const words of ['G1-08', 'G4-10']) {
    await page.keyboard.type(words);
    await expect(page.getByRole('option').first().locator('b')).toHaveText(words);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect(picks.filter({ hasText: words })).toHaveCount(1);
  }
  // What is picked is not offered again.
  await page.keyboard.type('G1-08');
  await expect(page.getByText('Nothing found; try another word')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Take G1-08/ }).click();
  await expect(picks).toHaveCount(1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(picks).toHaveCount(2);
  await expectAccessible(page);
  expect(troubles).toEqual([]);
});
