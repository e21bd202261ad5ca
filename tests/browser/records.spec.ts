import { expect, test, type Locator, type Page } from '@playwright/test';
import { choose, expectAccessible, open, seat } from './people';

/** A steward works in a table itself: edits staged, looked over, saved together, merged with what others did, and taken back. */
const grid = (page: Page): Locator => page.getByRole('grid');
/** The cell of a record, by its number, in a column. */
async function cellOf(page: Page, number: string, heading: string): Promise<Locator> {
  const column = await page
    .getByRole('columnheader', { name: heading, exact: true })
    .getAttribute('aria-colindex');
  return page
    .getByRole('row')
    .filter({ has: page.getByRole('rowheader', { name: number }) })
    .locator(`[role=gridcell][aria-colindex="${column}"]`);
}
/** What stands in the cells of a column that are drawn. */
async function cellsOf(page: Page, heading: string): Promise<string[]> {
  const column = await page
    .getByRole('columnheader', { name: heading, exact: true })
    .getAttribute('aria-colindex');
  return page.locator(`[role=gridcell][aria-colindex="${column}"]`).allInnerTexts();
}
async function typeIn(page: Page, number: string, heading: string, text: string): Promise<void> {
  await (await cellOf(page, number, heading)).click();
  await page.keyboard.type(text);
  await page.keyboard.press('Enter');
}
const bar = (page: Page): Locator => page.locator('.staged-bar');
const paste = (page: Page, text: string) =>
  grid(page).evaluate((target, block) => {
    const data = new DataTransfer();
    data.setData('text/plain', block);
    target.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, text);

test('three records edited, one invalid, one changed by somebody else meanwhile, saved together and taken back', async ({
  browser,
}) => {
  const [{ page, troubles }, kofi] = [
    await seat(browser, 'ines.okafor'),
    await seat(browser, 'kofi.renwick'),
  ];
  await open(page, '/tables/products?sort=number');
  await open(kofi.page, '/tables/products?sort=number');
  const numbers = await page.getByRole('rowheader').allInnerTexts();
  const [one = '', two = '', three = ''] = numbers.filter((text) => /^[A-Z]+-/.test(text));
  // The world may have been worked in before.
  const mark = Date.now() % 100_000;
  await typeIn(page, one, 'Name', `Renamed by Ines ${mark}`);
  await typeIn(page, two, 'Name', `Also renamed ${mark}`);
  const stock =
    (await page.getByRole('columnheader').allInnerTexts()).find((text) => /stock/i.test(text)) ?? '';
  await typeIn(page, three, stock, 'plenty');
  await expect(bar(page)).toContainText('3 edits');
  await expect(await cellOf(page, three, stock)).toHaveAttribute('aria-invalid', 'true');
  await expect(bar(page).getByRole('button', { name: /Save/ })).toBeDisabled();
  // Nothing typed is lost by a reload.
  await page.waitForTimeout(300);
  await page.reload();
  await expect(bar(page)).toContainText('3 edits');
  await bar(page).getByRole('button', { name: '1 thing to fix' }).click();
  await page.keyboard.type('7');
  await page.keyboard.press('Enter');

  // Meanwhile somebody else changes the same cell of one record, and another of the next.
  await typeIn(kofi.page, one, 'Name', `Renamed by Kofi ${mark}`);
  await typeIn(kofi.page, two, stock, `${mark}`);
  await kofi.page.keyboard.press('Control+s');
  await expect(kofi.page.getByText('2 records saved')).toBeVisible();

  await page.keyboard.press('Control+s');
  await expect(page.getByText('changed meanwhile by Kofi Renwick')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: /Name: which to keep/ }).click();
  await page.getByRole('option', { name: 'yours' }).click();
  await page.getByRole('button', { name: 'Keep these' }).click();
  await bar(page).getByRole('button', { name: /Save/ }).click();
  await expect(page.getByText('3 records saved')).toBeVisible();
  await expect(await cellOf(page, one, 'Name')).toHaveText(`Renamed by Ines ${mark}`);
  await expect(await cellOf(page, two, 'Name')).toHaveText(`Also renamed ${mark}`);
  await expect(await cellOf(page, two, stock)).toContainText(/\d/);
  // The other window shows it by itself.
  await expect(await cellOf(kofi.page, one, 'Name')).toHaveText(`Renamed by Ines ${mark}`);

  // The margin tells of it at once, also of a record that was looked at before.
  await (await cellOf(page, one, 'Name')).click();
  await expect(page.getByRole('complementary').getByText(`Renamed by Ines ${mark}`).first()).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByText('3 records as before')).toBeVisible();
  await expect(await cellOf(page, one, 'Name')).toHaveText(`Renamed by Kofi ${mark}`);
  await expect(await cellOf(page, two, stock)).toContainText(/\d/);
  expect(troubles).toEqual([]);
});

test('a block of 200 rows pasted, looked over, saved; one removed, refused where it is named, and brought back', async ({
  browser,
}) => {
  test.setTimeout(90_000);
  const { page } = await seat(browser, 'ines.okafor');
  await open(page, '/tables/beds?sort=number');
  await page.getByRole('button', { name: 'Add a record' }).click();
  await page.keyboard.press('Escape');
  // Codes are unique, and the world may have been worked in before.
  const code = `Q${Date.now() % 100_000}`;
  const block = Array.from(
    { length: 200 },
    (_, i) =>
      `${code}-${i}\tBed “${i}” 🌱 ${'name '.repeat(8)}\tHouse ${i % 7}\t${i}.5\t${i % 2 === 0 ? 'yes' : 'No'}`,
  );
  await paste(page, block.join('\n'));
  await expect(bar(page)).toContainText('200 edits in 200 records');
  await page.getByRole('button', { name: 'Look them over' }).click();
  await expect(page.getByRole('list', { name: 'Staged edits' }).getByRole('listitem')).toHaveCount(200);
  await page.keyboard.press('Control+s');
  await expect(page.getByText('200 records saved')).toBeVisible();
  await page.getByRole('searchbox', { name: 'Find in all columns' }).fill(`${code}-19 house`);
  await expect(page.getByText('11 found')).toBeVisible();

  // One that is named by others stays, with the reason.
  await page.getByRole('searchbox', { name: 'Find in all columns' }).fill('G4-12');
  await expect(page.getByText('1 found', { exact: true })).toBeVisible();
  await page.getByRole('gridcell').first().click();
  await page.getByRole('button', { name: 'Remove this record' }).click();
  await page.keyboard.press('Control+s');
  await expect(bar(page)).toContainText(/things? to fix/);
  await page.getByRole('button', { name: 'Look it over' }).click();
  await expect(page.getByText(/records of Accessions refer to it: AC-/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Drop', exact: true }).click();

  await page.getByRole('button', { name: 'Back to the records' }).click();
  await page.getByRole('searchbox', { name: 'Find in all columns' }).fill(`${code}-199`);
  await expect(page.getByRole('gridcell').first()).toHaveText(`${code}-199`);
  await page.getByRole('gridcell').first().click();
  await page.keyboard.press('Control+Delete');
  await page.keyboard.press('Control+s');
  await expect(page.getByText('Nothing found')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByText('1 found', { exact: true })).toBeVisible();
});

test('by keyboard alone: a record is added, filled, copied down, undone and saved', async ({ browser }) => {
  const { page } = await seat(browser, 'kofi.renwick');
  await open(page, '/tables/taxa?sort=number');
  await grid(page).focus();
  const before = await page.locator('[role=gridcell][aria-selected=true]').innerText();
  await page.keyboard.press('F2');
  await page.keyboard.press('End');
  await page.keyboard.type(' forma nova');
  // Whoever looks further down meanwhile finds what they typed.
  await grid(page).evaluate((scroller) => scroller.scrollTo({ top: 4_000 }));
  await expect(page.getByRole('row').filter({ hasText: before })).not.toBeInViewport();
  await grid(page).evaluate((scroller) => scroller.scrollTo({ top: 0 }));
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+d');
  await expect(bar(page)).toContainText('3 edits in 3 records');
  await page.keyboard.press('Control+z');
  await expect(bar(page)).toContainText('1 edit in 1 record');
  await page.keyboard.press('Control+s');
  await expect(page.getByText('1 record saved')).toBeVisible();
  await expect(page.getByRole('gridcell', { name: `${before} forma nova` })).toBeVisible();
});

test('who may only look types nothing, and is told so', async ({ browser }) => {
  const { page } = await seat(browser, 'maren.solheim');
  await open(page, '/tables/beds');
  await page.getByRole('gridcell').first().click();
  await page.keyboard.type('x');
  await expect(page.getByText('You may look at these records, but not change them.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Add a record' })).toHaveCount(0);
  await expectAccessible(page);
});

test('narrowing down: a value chosen, a condition added, read back from the address, and taken away', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'tomasz.bielak');
  await open(page, '/tables/accessions');
  await page.getByRole('checkbox', { name: /In quarantine/ }).check();
  await page.getByRole('checkbox', { name: /Growing on/ }).check();
  await expect(page.getByRole('button', { name: 'State is In quarantine or Growing on' })).toBeVisible();
  await page.getByRole('button', { name: 'and …' }).press('Enter');
  await choose(page, /Column$/, 'Bed › Section');
  await page.getByLabel('Value').fill('Fern house');
  await page.getByLabel('Value').press('Enter');
  await expect(page.getByRole('button', { name: 'Bed › Section is Fern house' })).toBeVisible();
  const found = page.getByText(/^[\d\u202f]+ found$/);
  await expect(found).toBeVisible();
  await expectAccessible(page);
  const [words, state] = [await found.innerText(), await cellsOf(page, 'State')];
  expect(new Set(state)).toEqual(new Set(['Growing on', 'In quarantine']));
  // The address says it all.
  await open(page, page.url());
  await expect(found).toHaveText(words);
  await page.getByRole('button', { name: 'Bed › Section is Fern house' }).click();
  await page.getByRole('button', { name: 'Take it away' }).click();
  await expect(found).not.toHaveText(words);
  await page.getByRole('checkbox', { name: /In quarantine/ }).uncheck();
  await page.getByRole('checkbox', { name: /Growing on/ }).uncheck();
  await expect(page.getByRole('status').filter({ hasText: /^about .* records$/ })).toBeVisible();

  // What picking cannot say is written, and told where it is wrong; conditions are joined by or.
  await page.getByRole('button', { name: 'or write an expression' }).click();
  await page.keyboard.type('quantity > 150 or');
  await page.getByRole('button', { name: 'Show these' }).click();
  await expect(page.getByRole('alert')).toContainText('missing or extra');
  await page.getByLabel('Show those where, in FEEL').fill('quantity > 150 or state in ("quarantine")');
  await page.getByRole('button', { name: 'Show these' }).click();
  await expect(page.getByRole('button', { name: 'Quantity is more than 150' })).toBeVisible();
  const any = await found.innerText();
  await page.getByRole('button', { name: 'or', exact: true }).click();
  await expect(found).not.toHaveText(any);
  await expectAccessible(page);

  // One goes to a value in the order that is shown.
  await open(page, '/tables/accessions?sort=number');
  await page.getByRole('button', { name: 'go to a value' }).press('Enter');
  // A number is found without the zeros before it as well.
  await page.keyboard.type('AC-2025-100');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('rowheader').first()).toContainText('AC-2025-0100');
  await page.getByRole('button', { name: 'Show them from the first' }).click();
  await expect(page.getByRole('rowheader').first()).toContainText('AC-2023-0001');
  expect(troubles.filter((one) => !one.includes('422'))).toEqual([]);
});
