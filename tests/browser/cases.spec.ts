import { expect, test } from '@playwright/test';
import { choose, expectAccessible, open, seat, settled } from './people';

/** What waits for somebody who cannot decide it is moved by an administrator, who says why and sees nothing of what was answered. */
test('an administrator has somebody else decide what waits, and the reason stands in its path', async ({
  browser,
}) => {
  const [{ page }, maren, wren, ruo] = [
    await seat(browser, 'ines.okafor'),
    await seat(browser, 'maren.solheim'),
    await seat(browser, 'wren.calloway'),
    await seat(browser, 'ruo.lindqvist'),
  ];
  await open(page, '/forms');
  await page.getByLabel('What is it called?').fill('Key loan');
  await page.getByRole('button', { name: 'Make the form' }).click();
  await expect(page.getByRole('navigation', { name: 'Faces of the form' })).toBeVisible();
  await settled(page);
  await page.getByLabel('Next question').fill('Door and reason');
  await page.getByLabel('Next question').press('Enter');
  const face = (name: string) =>
    page.getByRole('navigation', { name: 'Faces of the form' }).getByRole('button', { name }).click();
  await face('Approve');
  await choose(page, /Person of the new step/, /Pell Adeyemi/);
  await face('Release');
  await page.getByRole('button', { name: /^Release 1/ }).click();
  await expect(page.getByText('Release 1 is live')).toBeVisible();

  await open(maren.page, '/fill/key_loan');
  await maren.page.getByRole('textbox', { name: 'Door and reason' }).fill('The seed store');
  await Promise.all([
    maren.page.waitForURL(/[?]sent/),
    maren.page.getByRole('button', { name: /^Send for approval/ }).click(),
  ]);
  await settled(maren.page);
  const address = maren.page.url();

  await test.step('it is found and moved', async () => {
    await open(wren.page, '/people');
    await Promise.all([
      wren.page.waitForURL(/\/cases$/),
      wren.page.getByRole('link', { name: 'Everything that waits' }).click(),
    ]);
    await settled(wren.page);
    await wren.page.getByLabel('Find by number, form or sender').fill('key loan');
    const found = wren.page.getByRole('list', { name: 'What waits' }).getByRole('button');
    await expect(found).toHaveCount(1);
    await expect(found).toContainText('Pell Adeyemi');
    await expect(wren.page.getByText('The seed store')).toHaveCount(0);
    // Ticked, it is moved with all that are.
    await wren.page.getByRole('checkbox', { name: /^Move / }).check();
    await choose(wren.page, /Who is asked instead/, /Ada Quist/);
    await wren.page.getByLabel('Why they are moved').fill('Pell has the keys of another house.');
    await wren.page.getByRole('button', { name: 'Move them' }).click();
    await expect(wren.page.getByText('1 case moved.')).toBeVisible();
    await expect(found).toContainText('Ada Quist');
    await found.click();
    await expect(wren.page.getByRole('button', { name: 'Move it' })).toBeDisabled();
    await choose(wren.page, /Who is asked instead/, /Ruo Lindqvist/);
    await wren.page.getByLabel('Why it is moved').fill('Pell is away without a deputy.');
    await expectAccessible(wren.page);
    await wren.page.getByRole('button', { name: 'Move it' }).click();
    await expect(
      wren.page.getByText('Moved. They are told, and the reason stands in its path.'),
    ).toBeVisible();
    await expect(found).toContainText('Ruo Lindqvist');
  });

  await test.step('its sender reads why, and whom it was moved to decides it', async () => {
    const path = maren.page.getByRole('region', { name: 'Path' });
    await expect(path.getByText('Wren Calloway had Ruo Lindqvist decide it')).toBeVisible();
    await expect(path.getByText('“Pell is away without a deputy.”')).toBeVisible();
    await open(ruo.page, address);
    await ruo.page.getByRole('button', { name: 'Approve' }).click();
    await expect(ruo.page.getByText('Approved and kept')).toBeVisible();
    await Promise.all([
      maren.page.waitForURL(/[?]like=/),
      maren.page.getByRole('link', { name: 'Fill in another like this' }).click(),
    ]);
    await expect(maren.page.getByRole('textbox', { name: 'Door and reason' })).toHaveValue('The seed store');
    await open(wren.page, '/cases');
    await wren.page.getByLabel('Find by number, form or sender').fill('key loan');
    await expect(wren.page.getByText('Nothing that waits has these words.')).toBeVisible();
  });
});
