import { expect, test } from '@playwright/test';
import { choose, expectAccessible, find, inDays, open, seat, settled, typeDay } from './people';

/** Rows within rows: the packets of each plant of a harvest. */
test('packets stand in the plants of a harvest: typed, pasted, put right, kept, and changed with their plant', async ({
  browser,
}) => {
  const [maren, kofi] = await Promise.all([seat(browser, 'maren.solheim'), seat(browser, 'kofi.renwick')]);
  const { page } = maren;
  const cell = (label: string, row: string) =>
    page.getByRole('textbox', { name: `${label}, row ${row}`, exact: true });
  const fill = async (row: string, ...[packet, seeds, moisture]: readonly string[]) => {
    await cell('On the packet', row).fill(packet ?? '');
    await cell('Seeds', row).fill(seeds ?? '');
    await cell('Moisture', row).fill(moisture ?? '');
  };
  await open(page, '/fill/seed_harvest');
  await typeDay(page, 'Gathered on', inDays(-1));
  await find(page, 'Bed', 'G4-12', /G4-12/);
  // Nothing can stand in a row that is not there yet.
  await expect(page.getByText('Lots', { exact: true })).toHaveCount(0);
  await find(page, 'Taxon, row a', 'Cibotina', /^Cibotina/);
  await cell('Mother plants', 'a').fill('3');
  await cell('On the packet', 'a.1').evaluate((box) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', 'Packet 1\t80\t7.5\nPacket 2\t60\t14\n');
    box.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  });
  const margin = page.getByRole('complementary');
  await expect(
    margin.getByRole('button', { name: '3a.2 Above 12 % seeds must be dried first.' }),
  ).toBeVisible();
  await expect(page.getByRole('group', { name: 'Lots, row a' })).toContainText('In all140');
  await margin.getByRole('button', { name: /^3a\.2/ }).click();
  await expect(cell('Moisture', 'a.2')).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('9');
  await page.keyboard.press('Enter');
  await expect(cell('Moisture', 'a.3')).toBeFocused();
  await find(page, 'Taxon, row b', 'Athyrina', /^Athyrina/);
  await cell('Mother plants', 'b').fill('1');
  await fill('b.1', 'Packet 1', '120', '8');
  // A plant goes with its packets, and comes back with them.
  await page.getByRole('button', { name: 'Remove row a', exact: true }).click();
  await expect(cell('On the packet', 'a.1')).toHaveValue('Packet 1');
  await expect(cell('Seeds', 'a.1')).toHaveValue('120');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(cell('Seeds', 'a.2')).toHaveValue('60');
  await page.getByRole('textbox', { name: /Fewer than 50 seeds/ }).fill('A dry summer');
  await expectAccessible(page);
  await page.keyboard.press('Control+Enter');
  await expect(page).toHaveURL(/\?sent/);
  await settled(page);
  await expect(page.getByRole('cell', { name: 'b.1' })).toBeVisible();
  const title = await page.getByRole('heading', { name: /HV-/ }).innerText();
  const [number = ''] = /HV-[\d-]+/.exec(title) ?? [];

  await open(kofi.page, `/fill/seed_harvest/${number}`);
  const seeds = kofi.page.getByRole('textbox', { name: 'Seeds, row b.1', exact: true });
  await expect(seeds).toHaveValue('120');
  await seeds.fill('110');
  await kofi.page.getByRole('button', { name: 'Remove row a.2', exact: true }).click();
  await expect(kofi.page.locator('#margin').getByText('110').first()).toBeVisible();
  await kofi.page.getByRole('textbox', { name: /Fewer than 50 seeds/ }).fill('One packet was lost');
  await kofi.page.keyboard.press('Control+Enter');
  await expect(kofi.page.getByText(`${number} is changed.`)).toBeVisible();
  await open(kofi.page, `/tables/harvested_plants`);
  await expect(kofi.page.getByText('Harvested plants').first()).toBeVisible();
  await open(kofi.page, `/fill/seed_harvest/${number}`);
  await expect(seeds).toHaveValue('110');
  await expect(kofi.page.getByRole('textbox', { name: 'Seeds, row a.2', exact: true })).toHaveValue('');
  expect([...maren.troubles, ...kofi.troubles]).toEqual([]);
});

test('an owner takes rows out of the rows they stand in and puts them back, and sees the check on their total', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/forms');
  await page.getByRole('link', { name: 'Seed harvest' }).click();
  await page.waitForURL(/\/forms\/[0-9a-f-]{36}/);
  await settled(page);
  await page.getByRole('button', { name: /^Lots/ }).click();
  await expect(page.getByRole('textbox', { name: 'Words of the question' })).toHaveValue('Lots');
  await choose(page, /Where these rows stand/, 'the form');
  await expect(page.getByRole('button', { name: 'Move it up' })).toBeVisible();
  await choose(page, /Where these rows stand/, 'each row of Plants');
  await expect(page.getByRole('button', { name: 'Move it up' })).toHaveCount(0);
  await page
    .getByRole('navigation', { name: 'Faces of the form' })
    .getByRole('button', { name: 'Check' })
    .click();
  await expect(page.getByText(/seeds_in_all/).first()).toBeVisible();
  await expectAccessible(page);
  expect(troubles).toEqual([]);
});
