import { expect, test, type Page } from '@playwright/test';
import { choose, expectAccessible, open, seat } from './people';

/** The next answer of the server that something was kept. */
const kept = (page: Page) =>
  page.waitForResponse((response) => response.request().method() === 'PUT' && response.ok(), {
    timeout: 15_000,
  });

/** Two people, or two windows, at the same thing. */
test('two approvers at once: one decision counts, the other is told who was first', async ({ browser }) => {
  const [ada, pell] = [await seat(browser, 'ada.quist'), await seat(browser, 'pell.adeyemi')];
  await open(ada.page, '/approvals');
  const address = await ada.page
    .getByRole('link', { name: /Treatment request/ })
    .first()
    .getAttribute('href');
  await open(ada.page, address ?? '');
  await open(pell.page, address ?? '');
  // Pell's page no longer hears of changes, as on a poor connection: the server alone must hold.
  await pell.page.route('**/api/live**', (route) => route.abort());
  await pell.page.route(`**/api/submissions/*`, (route) =>
    route.request().method() === 'GET' ? route.abort() : route.continue(),
  );
  await ada.page.getByRole('button', { name: 'Approve' }).click();
  await expect(ada.page.getByText('Approved and kept')).toBeVisible();
  await pell.page.evaluate(() => undefined);
  const decline = pell.page.getByRole('button', { name: 'Decline' });
  if (await decline.isVisible()) {
    await pell.page.getByLabel(/A word for/).fill('Rather not');
    await decline.click();
    await expect(pell.page.getByText('Ada Quist decided this already: approved and kept')).toBeVisible();
  } else await expect(pell.page.getByText('Approved and kept')).toBeVisible();
});

test('one draft in two windows: the second is told, and nothing is overwritten', async ({ browser }) => {
  const { page, context } = await seat(browser, 'kofi.renwick');
  await open(page, '/fill/bed_inspection');
  await page.getByLabel('Notes').last().fill('First window');
  await expect(page).toHaveURL(/\/submissions\//);
  const second = await context.newPage();
  await open(second, page.url());
  // A window that opens takes up what is unsaved on the device just then; this one is to be there before anything is.
  await second.waitForTimeout(1_000);
  const saved = kept(page);
  await page.getByLabel('Notes').last().fill('First window, more');
  await saved;
  await second.getByLabel('Notes').last().fill('Second window');
  await expect(second.getByText('This draft was changed in another window')).toBeVisible();
  await expectAccessible(second);
  await open(page, page.url());
  await expect(page.getByLabel('Notes').last()).toHaveValue('First window, more');
});

test('designing: undo takes an edit back, what two editors change comes together, a broken form cannot be released', async ({
  browser,
}) => {
  const [ines, wren] = [await seat(browser, 'ines.okafor'), await seat(browser, 'wren.calloway')];
  await open(ines.page, '/forms');
  await ines.page.getByLabel('What is it called?').fill('Visitor count');
  await ines.page.getByRole('button', { name: 'Make the form' }).click();
  await expect(ines.page).toHaveURL(/\/forms\/[0-9a-f-]{36}/);
  await open(ines.page, ines.page.url());
  const next = ines.page.getByLabel('Next question');
  await next.fill('How many came?');
  await next.press('Enter');
  await next.fill('Weather');
  await next.press('Enter');
  await ines.page.getByRole('button', { name: 'Undo' }).click();
  await expect(ines.page.getByRole('button', { name: /^Weather/ })).toHaveCount(0);
  await expect(ines.page.getByRole('button', { name: /^How many came/ })).toBeVisible();
  const address = new URL(ines.page.url()).pathname.replace('/forms/', '/api/forms/');
  await expect
    .poll(async () =>
      (await (await ines.context.request.get(`${address}/design`)).json()).design.sections[0].questions.map(
        (one: { key: string }) => one.key,
      ),
    )
    .toEqual(['how_many_came']);

  await open(wren.page, ines.page.url());
  const saved = kept(wren.page);
  await wren.page.getByLabel('Title of the form').fill('Visitors counted');
  await saved;
  await ines.page.getByRole('button', { name: /^How many came/ }).click();
  await choose(ines.page, /Must it be filled/, 'must be filled');
  await expect(ines.page.getByLabel('Title of the form')).toHaveValue('Visitors counted');
  await expect(wren.page.locator('[data-line]').getByLabel('must be filled')).toBeVisible();
  await wren.page.getByRole('button', { name: /^How many came/ }).click();
  await choose(wren.page, /Kind of answer/, 'lookup');
  await expect(wren.page.getByText('Say which table to pick from')).toBeVisible();
  await wren.page.getByRole('button', { name: 'Release', exact: true }).first().click();
  await expect(wren.page.getByText('1 thing to fix first')).toBeVisible();
  await expect(wren.page.getByRole('button', { name: 'Release 1' })).toHaveCount(0);
  await wren.page.getByRole('button', { name: /How many came\?: Say which table/ }).click();
  await expect(wren.page.getByRole('button', { name: /Table to pick from/ })).toBeVisible();
  await expectAccessible(wren.page);
});

test('a release of one form changes only what it says, and its new question is asked', async ({
  browser,
}) => {
  const { page } = await seat(browser, 'ines.okafor');
  await open(page, '/forms');
  await page.getByRole('link', { name: 'Bed inspection' }).click();
  await expect(page).toHaveURL(/\/forms\/[0-9a-f-]{36}/);
  await open(page, page.url());
  const next = page.getByLabel('Next question');
  await next.fill('Is the label readable?');
  await next.press('Enter');
  await page
    .getByRole('navigation', { name: 'Faces of the form' })
    .getByRole('button', { name: 'Store' })
    .click();
  await expect(page.getByText('“Is the label readable?” (yes or no) is added to Inspections')).toBeVisible();
  await page.getByRole('button', { name: 'Release', exact: true }).first().click();
  await page.getByRole('button', { name: 'Release 2' }).click();
  await expect(page.getByText('Release 2 is live')).toBeVisible();
  await expect(page.getByText('Nothing to release')).toBeVisible();
  await open(page, '/fill/bed_inspection');
  await expect(page.getByText('Is the label readable?')).toBeVisible();
  await open(page, '/tables/inspections');
  await expect(page.getByRole('columnheader', { name: 'Is the label readable?' })).toBeVisible();
});
