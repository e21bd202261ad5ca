import { expect, test } from '@playwright/test';
import { choose, expectAccessible, open, seat, settled } from './people';

/** Instead of sending a slip back, whoever decides puts right what the form lets them; all see it, and it goes on by what stands there now. */
test('an approver corrects an answer while deciding, and its sender sees what and why', async ({
  browser,
}) => {
  const [{ page }, maren, pell] = [
    await seat(browser, 'ines.okafor'),
    await seat(browser, 'maren.solheim'),
    await seat(browser, 'pell.adeyemi'),
  ];
  await open(page, '/forms');
  await page.getByLabel('What is it called?').fill('Gravel order');
  await page.getByRole('button', { name: 'Make the form' }).click();
  await expect(page.getByRole('navigation', { name: 'Faces of the form' })).toBeVisible();
  await settled(page);
  for (const words of ['How many sacks?', 'Place and purpose']) {
    await page.getByLabel('Next question').fill(words);
    await page.getByLabel('Next question').press('Enter');
  }
  const face = (name: string) =>
    page.getByRole('navigation', { name: 'Faces of the form' }).getByRole('button', { name }).click();
  await face('Approve');
  await choose(page, /Person of the new step/, /Pell Adeyemi/);
  await choose(page, /What they may correct/, /How many sacks/);
  await page.keyboard.press('Escape');
  await face('Release');
  await page.getByRole('button', { name: /^Release 1/ }).click();
  await expect(page.getByText('Release 1 is live')).toBeVisible();

  await open(maren.page, '/fill/gravel_order');
  await maren.page.getByRole('textbox', { name: 'How many sacks?' }).fill('400');
  await maren.page.getByRole('textbox', { name: 'Place and purpose' }).fill('The lower path');
  await Promise.all([
    maren.page.waitForURL(/[?]sent/),
    maren.page.getByRole('button', { name: /^Send for approval/ }).click(),
  ]);
  await settled(maren.page);
  const address = maren.page.url();

  await test.step('corrected by keyboard, and only what may be', async () => {
    await open(pell.page, address);
    await pell.page.getByRole('button', { name: 'Correct what is wrong instead' }).press('Enter');
    const sacks = pell.page.getByRole('textbox', { name: 'How many sacks?' });
    await expect(sacks).toBeVisible();
    await expect(pell.page.getByRole('textbox', { name: 'Place and purpose' })).toHaveCount(0);
    await expect(pell.page.getByRole('button', { name: 'Save the correction' })).toBeDisabled();
    await sacks.fill('many');
    await expect(pell.page.getByRole('button', { name: 'Save the correction' })).toBeDisabled();
    await sacks.fill('40');
    await pell.page.getByLabel('A word for Maren about it').fill('One nought too many.');
    await expectAccessible(pell.page);
    await pell.page.getByRole('button', { name: 'Save the correction' }).press('Enter');
    await expect(pell.page.getByText('Pell Adeyemi corrected it')).toBeVisible();
  });

  await test.step('its sender sees what and why at once, and it is kept as it was corrected', async () => {
    await expect(maren.page.getByText('Corrected: 1 answer')).toBeVisible();
    await expect(maren.page.getByText('“One nought too many.”')).toBeVisible();
    await expect(maren.page.locator('mark', { hasText: /^40$/ })).toBeVisible();
  });

  await test.step('a word about a line stands at it, and whom it names is told', async () => {
    await maren.page.getByLabel('A word to all on the path').fill('It is');
    await choose(maren.page, /What a word is about/, /Place and purpose/);
    await maren.page.getByRole('button', { name: '@Pell Adeyemi' }).click();
    await expect(maren.page.getByText('Pell Adeyemi will be told.')).toBeVisible();
    await maren.page.getByRole('button', { name: 'Say it', exact: true }).click();
    const said = pell.page.getByRole('list', { name: 'Said about this line' });
    await expect(said).toContainText('It is @Pell Adeyemi');
    await pell.page.getByRole('button', { name: /^line \d+$/ }).click();
    await expect(pell.page.locator(':focus')).toContainText('The lower path');
    await expectAccessible(pell.page);
    await pell.page.getByRole('button', { name: 'Approve' }).click();
    await expect(pell.page.getByText('Approved and kept')).toBeVisible();
  });
});
