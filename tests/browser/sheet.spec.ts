import { expect, test } from '@playwright/test';
import { choose, find, inDays, open, seat, settled, typeDay } from './people';

test('a sheet asks what it must, takes steps back, and takes rows from a spreadsheet', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/plant_intake');
  const permit = page.getByLabel('Number of the permit').last();
  await expect(page.getByText('Number of the permit', { exact: true })).toHaveCount(0);
  await page.getByRole('radio', { name: 'Yes' }).check();
  await permit.fill('PN-1');
  await page.getByRole('radio', { name: 'No' }).check();
  await expect(page.getByText('Number of the permit', { exact: true })).toHaveCount(0);
  // What was typed is not lost by a wrong click.
  await page.keyboard.press('Control+z');
  await expect(permit).toHaveValue('PN-1');
  await page.keyboard.press('Control+z');
  await expect(permit).toHaveValue('');
  await page.keyboard.press('Control+Shift+z');
  await expect(permit).toHaveValue('PN-1');

  const quantity = page.getByLabel('Quantity, row a');
  await quantity.click();
  await quantity.evaluate((cell) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', '3\t\tGrowing on\n4\t\tPlanted out\nx\t\tSold\n');
    cell.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  });
  await expect(page.getByLabel('Quantity, row c')).toHaveValue('x');
  await expect(page.getByRole('button', { name: /State, row b/ })).toContainText('Planted out');
  await expect(page.getByRole('cell', { name: /In all/ })).toContainText('7');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Quantity, row c')).toHaveCount(0);
  await expect(page.getByLabel('Quantity, row a')).toHaveValue('');
  expect(troubles).toEqual([]);
});

test('rows are gone through, moved, doubled and copied by keys as in a sheet', async ({ browser }) => {
  const { page, context, troubles } = await seat(browser, 'maren.solheim');
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await open(page, '/fill/plant_intake');
  const quantity = (letter: string) => page.getByLabel(`Quantity, row ${letter}`);
  await quantity('a').fill('3');
  await page.keyboard.press('Enter');
  await expect(quantity('b')).toBeFocused();
  // What stands above, and then one more of it.
  await page.keyboard.press('Control+d');
  await expect(quantity('b')).toHaveValue('3');
  await quantity('b').fill('4');
  await page.keyboard.press('Alt+ArrowUp');
  await expect(quantity('a')).toHaveValue('4');
  await expect(quantity('a')).toBeFocused();
  await page.keyboard.press('Shift+Enter');
  await expect(quantity('a')).toBeFocused();
  await page.getByRole('button', { name: 'Row a: what to do with it' }).focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(quantity('b')).toHaveValue('4');
  await expect(quantity('c')).toHaveValue('3');
  await page.keyboard.press('Control+z');
  await expect(quantity('b')).toHaveValue('3');
  await page.getByRole('button', { name: 'Copy the rows' }).click();
  await expect(page.getByText('2 rows copied, with headings')).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(
    copied
      .split('\n')
      .map(
        (line) =>
          line.split('\t').includes('Quantity') ||
          line.split('\t').includes('4') ||
          line.split('\t').includes('3'),
      ),
  ).toEqual([true, true, true]);
  expect(troubles).toEqual([]);
});

test('one sheet after the other is filled in a row, with what stays the same kept', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/bed_inspection');
  const fillOne = async (bed: string) => {
    await find(page, 'Bed', bed, new RegExp(bed));
    await choose(page, /How does it look\?$/, 'Fair');
    await page.getByLabel('Plants lost').last().fill('0');
    await page.getByRole('radio', { name: 'No' }).check();
    const here = page.url();
    await page.getByRole('button', { name: 'Send and fill the next' }).click();
    // The next one has an address of its own; what stood there of the one before is gone with it.
    await page.waitForURL((url) => url.href !== here);
    await expect(page.getByText(/^BI-\d{4}-\d+ was sent\.$/)).toBeVisible();
    await settled(page);
  };
  await typeDay(page, 'Inspected on', inDays(-1));
  await fillOne('G4-03');
  // The day stays; the bed is the next one.
  await expect(page.getByRole('combobox', { name: 'Bed', exact: true })).toHaveValue('');
  await fillOne('G4-04');
  await page.waitForLoadState('load');
  await page.reload();
  expect(troubles).toEqual([]);
});

test('the workbench says what a check would mean for what has been kept, and what can never be', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/forms/01900000-0000-7000-a000-000000000001');
  await page.getByRole('button', { name: /Check/ }).first().click();
  const expression = page.getByLabel('Condition as an expression');
  await expect(page.getByText(/rows kept so far (do not )?fulfil it/)).toBeVisible();
  await expression.fill('rate <= 1');
  await expect(page.getByText(/ of .* kept so far do not fulfil it: TRL-/)).toBeVisible({ timeout: 30_000 });
  await expression.fill('rate > 5 and rate < 3');
  await expect(page.getByText('No answer can ever pass this check')).toBeVisible();
  await expression.fill('rate == 5');
  await expect(page.getByText('Write = instead of ==').first()).toBeVisible();
  await expression.fill('rate <= product.max_rate');
  await expect(page.getByText(/All edits saved/)).toBeVisible();
  expect(troubles).toEqual([]);
});
