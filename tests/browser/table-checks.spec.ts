import { expect, test } from '@playwright/test';
import { choose, expectAccessible, open, seat, settled } from './people';

test('a table says what must hold and works a column out; the grid stops, asks for a reason, and keeps it', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  const name = `Seed stock ${Date.now() % 100_000}`;
  await open(page, '/new-table');
  await page.getByLabel('Name of the table').fill(name);
  for (const column of ['Lot', 'Received', 'Used', 'Left over']) {
    await page.getByLabel('Next column').fill(column);
    await page.keyboard.press('Enter');
    if (column !== 'Lot') await choose(page, /Kind of the column/, 'whole number');
  }
  await choose(page, /Filled or worked out/, /worked out/);
  await page.getByLabel('How it is worked out').fill('received - used');
  await expect(page.getByText('worked out: received - used')).toBeVisible();

  await choose(page, /Column of the new check/, 'Used');
  await page.getByLabel('Condition as an expression').fill('left_over >= 0');
  await page.getByLabel('Message').fill('More used than there was');
  await choose(page, /Column of the new check/, 'Received');
  await choose(page, /Comparison/, 'at most');
  await page.getByLabel('Value', { exact: true }).fill('500');
  await choose(page, /What it does/, 'ask for a reason');
  await page.getByLabel('Message').fill('More than a cupboard holds');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Look it over' }).click();
  await page.getByRole('button', { name: 'Make the table' }).click();
  await expect(page).toHaveURL(/\/tables\/seed_stock_\d+$/);
  await settled(page);

  // A new record: the number that stops is marked while it is typed, and so is the one that asks.
  await page.getByRole('button', { name: 'Add a record' }).click();
  for (const text of ['L1', '600', '700']) {
    await page.keyboard.type(text);
    await page.keyboard.press('Tab');
  }
  await expect(page.getByText('2 things to fix')).toBeVisible();
  await page.getByRole('button', { name: 'Look it over' }).click();
  await expect(page.getByText('More used than there was')).toBeVisible();
  await page.getByRole('textbox', { name: 'More than a cupboard holds' }).fill('A gift of the county');
  await expect(page.getByText('1 thing to fix')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Back to the records' }).click();
  await page.getByRole('gridcell', { name: /700/ }).click();
  await page.keyboard.type('40');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Save 1 record/ }).click();
  await expect(page.getByText('1 record saved')).toBeVisible();

  // What is worked out is there at once, is typed by nobody, and the reason stands in the history.
  await page.getByRole('gridcell', { name: '560' }).click();
  await page.keyboard.type('1');
  await expect(page.getByText('This is worked out from the others.')).toBeVisible();
  await expect(page.getByText('A gift of the county')).toBeVisible();
  expect(troubles).toEqual([]);
});
