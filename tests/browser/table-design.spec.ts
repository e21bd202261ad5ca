import { expect, test, type Page } from '@playwright/test';
import { choose, expectAccessible, open, seat, settled } from './people';

/** Types into whatever has the focus, as a paste of several cells does. */
const paste = (page: Page, name: string, text: string): Promise<void> =>
  page.getByLabel(name).evaluate((input, pasted) => {
    const data = new DataTransfer();
    data.setData('text/plain', pasted);
    input.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, text);

test('a table is designed from pasted headings, and made after it was looked over', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/tables');
  await page.getByRole('link', { name: 'New table' }).click();
  await settled(page);
  await page.getByLabel('Name of the table').fill('Garden tours');
  await paste(page, 'Next column', 'Tour\tHeld on\tGuide’s e-mail\tHow many places\tMeeting point');
  await page.getByRole('button', { name: /^2 Held on/ }).click();
  await expect(page.getByRole('button', { name: 'Kind of the column' })).toContainText('date');
  await page.getByRole('button', { name: /^3 Guide’s e-mail/ }).click();
  await expect(page.getByRole('button', { name: 'Kind of the column' })).toContainText('e-mail address');
  await choose(page, 'Data about people', 'e-mail addresses');
  await page.getByRole('button', { name: /^4 How many places/ }).click();
  await page.getByLabel('Default, as an expression').fill('many');
  await expect(page.getByText('Nothing here is called many').first()).toBeVisible();
  await page.getByLabel('Default, as an expression').fill('12');
  await page.getByRole('button', { name: /^5 Meeting point/ }).click();
  await choose(page, 'Kind of the column', 'a record');
  await choose(page, 'Table it refers to', 'Beds');
  await expect(page.getByText('Its records are named by Code and Name')).toBeVisible();
  await page.getByRole('button', { name: /^1 Tour/ }).click();
  await choose(page, 'May it repeat', 'must be different in every record');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Look it over' }).click();
  await expect(page.getByText('The table Garden tours is made, with 5 columns')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make the table' }).click();
  await expect(page).toHaveURL(/\/tables\/garden_tours$/);
  await settled(page);
  await expect(page.getByText('No record yet')).toBeVisible();
  expect(troubles).toEqual([]);
});

test('a change is looked over with what it meets, values are mended in place, and a second owner is told who was first', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  const other = await seat(browser, 'wren.calloway');
  await open(page, '/tables/products/design');
  await open(other.page, '/tables/products/design');
  await other.page.getByRole('button', { name: /^3 Active substance/ }).click();
  await other.page.getByLabel('What it holds, shown wherever the column is').fill('What acts in it');
  await expect(other.page.getByText('1 change not carried out')).toBeVisible();

  await page.getByRole('button', { name: /^2 Licence/ }).click();
  await choose(page, 'Kind of the column', 'whole number');
  await page.getByLabel('Name of the column').fill('Licence number');
  await page.getByRole('button', { name: 'Look them over' }).click();
  await expect(page.getByText('“Licence” is renamed “Licence number”')).toBeVisible();
  await expect(page.getByText('14 records hold something in it. 14 records do not fit:')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Treatment request' }).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Change the table' })).toBeDisabled();
  await page.getByLabel('Instead of QL-1200').fill('1200');
  await page.keyboard.press('Enter');
  await expect(page.getByText('13 records do not fit:')).toBeVisible();
  await page.getByRole('button', { name: 'Leave all 13 of these empty' }).click();
  await expect(page.getByText('Nothing stands in the way')).toBeVisible();
  // What is drawn is kept: another window goes on from it.
  await open(page, '/tables/products/design');
  await page.getByRole('button', { name: 'Look them over' }).click();
  await expect(page.getByText('Nothing stands in the way')).toBeVisible();
  await page.getByRole('button', { name: 'Change the table' }).click();
  await expect(page.getByText('“Licence number” becomes whole number instead of text')).toBeVisible();
  await expect(page.getByRole('button', { name: /^2 Licence number/ })).toContainText('whole number');

  await expect(other.page.getByText('Ines Okafor changed this table since you began')).toBeVisible();
  await other.page.getByRole('button', { name: 'Bring my changes onto theirs' }).click();
  await expect(other.page.getByRole('button', { name: /^2 Licence number/ })).toBeVisible();
  await expect(other.page.getByText('1 change not carried out')).toBeVisible();
  await other.page.getByRole('button', { name: 'Look them over' }).click();
  await expect(other.page.getByText('“Active substance” has a new description')).toBeVisible();
  await other.page.getByRole('button', { name: 'Change the table' }).click();
  await expect(other.page.getByText('What acts in it')).toBeVisible();
  expect([...troubles, ...other.troubles]).toEqual([]);
});

test('tables that hold the same are proposed, related, and shown beside a record', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/tables/taxa/design');
  await page.getByRole('button', { name: 'Relate Lots no more' }).click();
  await page.getByRole('button', { name: 'Look for tables that hold the same' }).click();
  const lots = page
    .getByRole('listitem')
    .filter({ hasText: /values of Lots › Taxon are found in Taxa › Name/ });
  await lots.getByRole('button', { name: 'Relate Lots' }).click();
  await expect(
    page.getByRole('button', { name: /The column of the other table: Taxon|^Taxon/ }),
  ).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Look them over' }).click();
  await expect(page.getByText(/those of another table are shown that have the same Name/)).toBeVisible();
  await page.getByRole('button', { name: 'Change the table' }).click();
  await expect(page.getByRole('heading', { name: 'What changed' })).toBeVisible();

  // What is added beside a record has the same value from the first; the source of the other table sees it.
  await open(page, '/tables/taxa/T-2026-0003');
  const name =
    (await page.getByRole('button', { name: /^Name: / }).getAttribute('aria-label'))?.slice(6) ?? '';
  const beside = page.getByRole('region', { name: 'Lots' });
  await expect(beside.getByText('whose Taxon is the same as its Name')).toBeVisible();
  await beside.getByRole('button', { name: 'Add to Lots' }).click();
  await expect(beside.getByRole('gridcell', { name, exact: true }).last()).toBeVisible();
  expect(troubles).toEqual([]);
});

test('a column is retired, brought back, and the tables are seen as a picture', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/tables/taxa/design');
  await page.getByRole('button', { name: /^3 Permit needed/ }).click();
  await page.getByRole('button', { name: 'Retire it' }).click();
  await page.getByRole('button', { name: 'Look them over' }).click();
  await expect(page.getByText('256 records keep what they hold in it')).toBeVisible();
  await page.getByRole('button', { name: 'Change the table' }).click();
  await expect(page.getByRole('heading', { name: /^Retired/ })).toBeVisible();
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.getByRole('button', { name: /^3 Permit needed/ })).toBeVisible();
  await page.getByRole('button', { name: 'Look them over' }).click();
  await page.getByRole('button', { name: 'Change the table' }).click();
  await expect(page.getByRole('heading', { name: 'What changed' })).toBeVisible();
  await expect(page.getByRole('heading', { name: /^Retired/ })).toHaveCount(0);
  await open(page, '/tables');
  await page.getByRole('button', { name: 'As a picture' }).click();
  await page.getByRole('link', { name: /^Beds/ }).first().click();
  await expect(page).toHaveURL(/\/tables\/beds(_2)?$/);
  expect(troubles).toEqual([]);
});
