import { expect, test } from '@playwright/test';
import { expectAccessible, open, seat, settled } from './people';

test('a record is changed by its form by two at once: opened from the grid, merged, asked about, and saved by keyboard', async ({
  browser,
}) => {
  const [kofi, ines] = await Promise.all([seat(browser, 'kofi.renwick'), seat(browser, 'ines.okafor')]);
  const { page } = kofi;
  await open(page, '/tables/inspections');
  const number = await page.getByRole('row').nth(3).getByText(/^BI-/).innerText();
  await page.getByRole('row').nth(3).getByText(/^BI-/).click();
  const margin = page.getByRole('complementary');
  await margin.getByRole('link', { name: 'look at it' }).click();
  await settled(page);
  await expect(page.getByRole('heading', { name: `Inspection ${number}` })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('link', { name: 'Change it' }).click();
  await settled(page);
  await expect(page.getByText('nothing yet')).toBeVisible();
  await settled(page);
  // The page may be there a moment before its keys are.
  await expect(async () => {
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('Nothing has been changed yet.')).toBeVisible({ timeout: 2_000 });
  }).toPass();
  await page.getByLabel('Notes').last().fill('Kofi: dry at the roots');
  await page.getByLabel('Plants lost').last().fill('7');
  await expect(page.getByText('2 changes')).toBeVisible();

  await open(ines.page, `/fill/bed_inspection/${number}`);
  await ines.page.getByLabel('Notes').last().fill('Ines: wet at the roots');
  await ines.page.getByRole('button', { name: /How does it look\?$/ }).click();
  await ines.page.getByRole('option').last().click();
  const look = await ines.page.getByRole('button', { name: /How does it look\?$/ }).innerText();
  await ines.page.keyboard.press('Control+Enter');
  await expect(ines.page.getByText(`${number} is changed.`)).toBeVisible();

  // Who is still typing hears of it before sending.
  await expect(page.getByText('Somebody has changed this record just now.')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  const asked = page.getByRole('alert', { name: 'Changed by somebody else too' });
  await expect(asked.getByText('Kofi: dry at the roots')).toBeVisible();
  await expect(asked.getByText('Ines: wet at the roots')).toBeVisible();
  await settled(page);
  await expectAccessible(page);
  // What only she changed has come in.
  await expect(page.getByRole('button', { name: /How does it look\?$/ })).toContainText(look);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('first say, above, which of the two stands')).toBeVisible();
  await asked.getByRole('button', { name: 'Keep mine' }).focus();
  await page.keyboard.press('Enter');
  await expect(asked).toHaveCount(0);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(`${number} is changed.`)).toBeVisible();
  await expect(page.getByText('Ines: wet at the roots')).toBeVisible();
  await open(page, `/tables/inspections/${number}`);
  await expect(page.getByText('Kofi: dry at the roots').first()).toBeVisible();
  await expect(page.getByText(look).first()).toBeVisible();
  expect([...kofi.troubles, ...ines.troubles]).toEqual([]);
});

test('what is typed into a change and not sent is there again, also without a connection, and can be thrown away', async ({
  browser,
}) => {
  const { page, context, troubles } = await seat(browser, 'kofi.renwick');
  await open(page, '/tables/inspections');
  const number = await page.getByRole('row').nth(6).getByText(/^BI-/).innerText();
  await open(page, `/fill/bed_inspection/${number}`);
  const notes = page.getByLabel('Notes').last();
  const before = await notes.inputValue();
  await context.setOffline(true);
  await notes.fill('Written in the far corner');
  await expect(page.getByText('No connection · saved on this device')).toBeVisible();
  await context.setOffline(false);
  await page.reload();
  await settled(page);
  await expect(notes).toHaveValue('Written in the far corner');
  await expect(page.getByText(/^Saved/).first()).toBeVisible({ timeout: 15_000 });
  // It goes on from wherever it is opened.
  await open(page, `/fill/bed_inspection/${number}`);
  await expect(notes).toHaveValue('Written in the far corner');
  await page.getByRole('button', { name: 'Throw away' }).click();
  await page.getByRole('button', { name: 'Throw it away for good' }).click();
  await page.waitForURL(`**/tables/inspections/${number}`);
  await open(page, `/fill/bed_inspection/${number}`);
  await expect(notes).toHaveValue(before);
  expect(troubles.filter((one) => !/ERR_(FAILED|INTERNET_DISCONNECTED)/.test(one))).toEqual([]);
});
