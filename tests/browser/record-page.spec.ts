import { expect, test } from '@playwright/test';
import { choose, expectAccessible, open, seat } from './people';

/** One record at its own address with all that is related to it; what was removed, and the bin; and views that are kept for others. */
test('a record is changed on its page together with what refers to it, by keyboard, and what is removed comes back', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/tables/beds?sort=number');
  await page.getByRole('gridcell', { name: 'G1-02', exact: true }).click();
  await page.getByRole('link', { name: 'Open its page' }).click();
  await expect(page).toHaveURL(/\/tables\/beds\/B-\d{4}-\d{4}\?sort=number$/);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('G1-02');
  const inspections = page.getByRole('region', { name: 'Inspections' });
  await expect(inspections.getByRole('row').nth(1)).toBeVisible();
  await expectAccessible(page);
  const before = Number(await inspections.locator('.tag').first().innerText());

  // A column of its own, and a new record that refers to it: one save for both.
  const area = page.getByRole('button', { name: /^Area: / });
  const wider = ((await area.getAttribute('aria-label')) ?? '').endsWith('33.50') ? '34.5' : '33.5';
  await area.focus();
  await page.keyboard.type(wider);
  await page.keyboard.press('Tab');
  await expect(page.getByRole('button', { name: /^Open to visitors: / })).toBeFocused();
  await inspections.getByRole('button', { name: 'Add to Inspections' }).click();
  await page.keyboard.type('27/11/2026');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Thriving');
  await expect(page.getByRole('option', { name: 'Thriving' })).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type('2');
  await page.keyboard.press('Tab');
  await page.keyboard.type('No');
  await expect(page.getByRole('option', { name: 'No', exact: true })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.locator('.staged-bar')).toContainText('in 2 records');
  await page.keyboard.press('Control+s');
  await expect(page.getByText('2 records saved')).toBeVisible();
  await expect(inspections.locator('.tag').first()).toHaveText(String(before + 1));
  await expect(page.getByRole('complementary').getByText(`${wider}0`).first()).toBeVisible();

  // What others refer to stays, and says who does.
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await page.keyboard.press('Control+s');
  await page.getByRole('button', { name: /to fix$/ }).click();
  await expect(page.getByText(/refer/).first()).toBeVisible();
  await page
    .getByRole('button', { name: 'Drop all' })
    .or(page.getByRole('button', { name: 'Drop it' }))
    .click();
  await page.getByRole('button', { name: 'Back to the record' }).click();

  // The new one has a page as well; removed there, it lies in the bin, and comes back.
  const link = inspections.getByRole('link').first();
  const number = await link.innerText();
  await link.click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText(number);
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await page.keyboard.press('Control+s');
  await expect(page.getByText('1 record saved')).toBeVisible();
  await open(page, '/tables/inspections/bin');
  const removed = page
    .getByRole('list', { name: 'Removed records' })
    .getByRole('listitem')
    .filter({ hasText: number });
  await expect(removed).toContainText('removed by Ines Okafor');
  await expectAccessible(page);
  await removed.getByRole('button', { name: `Bring back ${number}` }).click();
  await expect(page.getByText(`${number} is back`)).toBeVisible();
  await expect(removed).toHaveCount(0);
  await open(page, `/tables/inspections/${number}`);
  await expect(page.getByText('Record brought back')).toBeVisible();
  expect(troubles).toEqual([]);
});

test('a table is shown with what it refers to, in groups, and kept as a view that asks colleagues first', async ({
  browser,
}) => {
  const [{ page, troubles }, kofi] = [
    await seat(browser, 'ines.okafor'),
    await seat(browser, 'kofi.renwick'),
  ];
  await page.request.put('/api/tables/inspections/look', { data: { columns: null, widths: {}, pinned: 0 } });
  await open(page, '/tables/inspections');
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('searchbox', { name: 'Find another column' }).fill('section');
  await page.getByRole('button', { name: 'Show Bed › Section' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('columnheader', { name: 'Bed › Section' })).toBeVisible();
  await page.getByRole('button', { name: 'Bed › Section', exact: true }).click();
  await page.getByRole('button', { name: 'Plants lost', exact: true }).click({ modifiers: ['Shift'] });
  await expect(page).toHaveURL(/sort=bed\.section,plants_lost/);
  await page.getByRole('button', { name: 'add a condition' }).click();
  await choose(page, /Column$/, 'Bed › Section');
  await page.getByLabel('Value').fill('Fern house');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Layout' }).click();
  await choose(page, /Put together by/, 'How does it look?');
  await page.keyboard.press('Escape');
  const groups = page.getByRole('list', { name: 'By How does it look?' });
  await groups.getByRole('button', { name: /Thriving/ }).click();
  await expect(groups.getByRole('grid').getByRole('gridcell', { name: 'Fern house' }).first()).toBeVisible();
  await expectAccessible(page);

  const name = `Looks of a section ${Date.now()}`;
  await page.getByRole('button', { name: 'All records' }).click();
  await page.getByRole('button', { name: 'Keep what is shown as a view' }).click();
  await page.getByLabel('Its name').fill(name);
  await page.getByLabel('everybody who sees the table').check();
  await page.getByLabel('Bed › Section').check();
  await page.getByRole('button', { name: 'Keep this view' }).click();
  await expect(page.getByRole('button', { name })).toBeVisible();

  // A colleague finds it, and is asked before anything is read.
  await open(kofi.page, '/tables/inspections');
  await kofi.page.getByRole('button', { name: 'All records' }).click();
  await kofi.page.getByRole('button', { name: new RegExp(name) }).click();
  await expect(kofi.page.getByRole('heading', { name: `${name}: show which?` })).toBeVisible();
  await kofi.page.getByRole('button', { name: 'Bed › Section is …' }).click();
  await kofi.page.getByLabel('Value').fill('Cool house');
  await kofi.page.keyboard.press('Enter');
  await kofi.page.getByRole('button', { name: 'Show them' }).click();
  await expect(kofi.page.getByRole('list', { name: 'By How does it look?' })).toBeVisible();
  await expect(kofi.page.getByRole('button', { name: 'Bed › Section is Cool house' })).toBeVisible();

  // Ines has the columns as everybody has them again.
  await page.request.put('/api/tables/inspections/look', { data: { columns: null, widths: {}, pinned: 0 } });
  await page.getByRole('button', { name }).click();
  await page.getByRole('button', { name: 'Remove this view' }).click();
  await expect(page.getByRole('button', { name: 'All records' })).toBeVisible();
  expect([troubles, kofi.troubles]).toEqual([[], []]);
});

test('a record is added under the second of three that are opened in the grid', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/tables/beds?sort=number');
  for (const number of ['0001', '0002', '0003'])
    await page.getByRole('button', { name: new RegExp(`^What belongs to B-\\d{4}-${number}$`) }).click();
  const under = page.getByRole('group', { name: /^What is shown under B-\d{4}-0002 / });
  // One is added before those that are there have come: what is typed meanwhile stays.
  let comes = (): void => undefined;
  const hurried = new Promise<void>((resolve) => (comes = resolve));
  await page.route('**/api/tables/inspections/records?*', async (route) => {
    await hurried;
    await route.continue();
  });
  await under.getByRole('button', { name: 'Inspections' }).click();
  const inspections = page.getByRole('grid', { name: /^Inspections of B-\d{4}-0002 / });
  await page.getByRole('button', { name: 'Add to Inspections' }).click();
  await page.keyboard.type('26/11');
  comes();
  await expect(inspections.getByRole('row').nth(2)).toBeVisible();
  await page.keyboard.type('/2026');
  await page.keyboard.press('Enter');
  await expect(inspections.getByText('Thu 26 Nov 2026')).toBeVisible();
  await expect(page.locator('.staged-bar')).toContainText('1 edit in 1 record');
  // Keys in what is opened are its own: the grid around it stays where it is.
  await expect(page.getByRole('grid', { name: 'Records of Beds' })).not.toHaveAttribute(
    'aria-activedescendant',
    /./,
  );
  await page.getByRole('button', { name: 'Drop it' }).click();
  expect(troubles).toEqual([]);
});
