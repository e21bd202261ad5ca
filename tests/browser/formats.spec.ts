import { expect, test } from '@playwright/test';
import { choose, expectAccessible, find, inDays, open, seat, settled } from './people';

/** Somebody reads German and types as it is written there; their colleague reads the same as they are used to. */
test('days and numbers are typed and read as each writes them, and kept the same for everybody', async ({
  browser,
}) => {
  const { page, context, troubles } = await seat(browser, 'ilse.brandvold');
  const day = inDays(20);
  const [year, month, date] = day.split('-');
  let sent = '';
  try {
    await open(page, '/account');
    // What is picked is kept at once, and the page is written anew.
    const pick = async (name: RegExp, option: string) => {
      const anew = page.waitForEvent('load');
      await choose(page, name, option);
      await anew;
      await settled(page);
    };
    await pick(/How days are written/, '25.11.2026');
    await pick(/How numbers are written/, '1.942,50');
    await pick(/Language of the screens/, 'Deutsch');
    await expect(page.locator('html')).toHaveAttribute('lang', 'de-DE');
    await expectAccessible(page);

    await open(page, '/fill/supply_request');
    await find(page, 'Supplier', '', /./);
    await choose(page, /Cost centre$/, /./);
    await page.getByLabel('Item, Zeile a').fill('Heizkessel');
    await page.getByLabel('How many, Zeile a').fill('2');
    const price = page.getByLabel('Price each, Zeile a');
    // A point parts thousands here, so this is no number, and is asked about instead of guessed.
    await price.fill('1.9');
    await price.blur();
    await expect(page.getByText('Price each: Schreiben Sie Dezimalstellen wie in 1,5').first()).toBeVisible();
    await price.fill('1.942,5');
    await price.blur();
    await expect(price).toHaveValue('1942,50');
    await expect(page.getByRole('cell', { name: /Total/ })).toContainText('3.885,00');
    await page.getByRole('textbox', { name: 'Needed by', exact: true }).fill(`${date}.${month}.${year}`);
    await page.getByLabel('What is it for?').last().fill('Damit es warm bleibt');
    await page.getByRole('button', { name: /^Zur Genehmigung senden/ }).click();
    await expect(page).toHaveURL(/[?]sent/);
    await settled(page);
    await expect(page.getByText('3.885,00').first()).toBeVisible();
    await expect(page.getByText(`${date}.${month}.${year}`).first()).toBeVisible();
    sent = new URL(page.url()).pathname;
  } finally {
    await context.request.put('/api/own-formats', { data: {} });
  }
  await open(page, sent);
  await expect(page.getByText('3 885.00').first()).toBeVisible();
  await expect(page.getByText(`${date}.${month}.${year}`)).toHaveCount(0);
  expect(troubles).toEqual([]);
});
