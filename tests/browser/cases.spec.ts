import { expect, test } from '@playwright/test';
import pg from 'pg';
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

/** Two working weeks pass for what waits under one form, and it is looked at what is due. */
async function twoWeeksPass(form: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['SLATE_ADMIN_URL'] });
  await client.connect();
  await client.query('BEGIN');
  // Nothing that watches over what people do must refuse that time has passed.
  await client.query(`SET LOCAL session_replication_role = replica`);
  const of = `(SELECT s.id FROM slate.submission s JOIN slate.form f ON f.id = s.form_id WHERE f.key = $1)`;
  await client.query(`UPDATE slate.submission SET sent_at = sent_at - interval '14 days' WHERE id IN ${of}`, [
    form,
  ]);
  const asked = await client.query(
    `UPDATE slate.ask SET since = since - interval '14 days' WHERE submission_id IN ${of}`,
    [form],
  );
  expect(asked.rowCount).toBeGreaterThan(0);
  await client.query('COMMIT');
  await client.query(`SELECT graphile_worker.add_job('look-over-due')`);
  await client.end();
}

test('what is late goes to somebody else, or goes on without, and its path says so', async ({ browser }) => {
  const [{ page }, maren, dagny] = [
    await seat(browser, 'ines.okafor'),
    await seat(browser, 'maren.solheim'),
    await seat(browser, 'dagny.farrow'),
  ];
  await open(page, '/forms');
  await page.getByLabel('What is it called?').fill('Lamps');
  await page.getByRole('button', { name: 'Make the form' }).click();
  await expect(page.getByRole('navigation', { name: 'Faces of the form' })).toBeVisible();
  await settled(page);
  await page.getByLabel('Next question').fill('Where and how many');
  await page.getByLabel('Next question').press('Enter');
  const face = (name: string) =>
    page.getByRole('navigation', { name: 'Faces of the form' }).getByRole('button', { name }).click();
  await face('Approve');
  const step = page
    .getByRole('listitem')
    .filter({ has: page.getByRole('textbox', { name: 'Name of the step' }) });
  const design = async (who: RegExp, label: string, late: RegExp) => {
    await choose(page, /Person of the new step/, who);
    const made = step.last();
    await made.getByRole('textbox', { name: 'Name of the step' }).fill(label);
    await made.getByRole('button', { name: /Whether there is a time to decide/ }).click();
    await page.getByRole('option', { name: 'within' }).click();
    await made.getByRole('button', { name: /What happens once it is late/ }).click();
    await page.getByRole('option', { name: late }).click();
  };
  await design(/Pell Adeyemi/, 'Looked over', /it goes on without them/);
  await design(/Ada Quist/, 'Bought', /Dagny Farrow.* is asked as well/);
  await face('Release');
  await page.getByRole('button', { name: /^Release 1/ }).click();
  await expect(page.getByText('Release 1 is live')).toBeVisible();

  await open(maren.page, '/fill/lamps');
  await maren.page.getByRole('textbox', { name: 'Where and how many' }).fill('Four in the fern house');
  await Promise.all([
    maren.page.waitForURL(/[?]sent/),
    maren.page.getByRole('button', { name: /^Send for approval/ }).click(),
  ]);
  await settled(maren.page);
  const path = maren.page.getByRole('region', { name: 'Path' });
  await test.step('it goes on without whoever has not decided', async () => {
    await twoWeeksPass('lamps');
    await expect(path.getByText('Looked over · late, and gone on without')).toBeVisible();
    await expect(maren.page.getByText(/^Waiting · Bought/)).toBeVisible();
  });
  await test.step('then somebody else is asked as well, and decides it', async () => {
    await twoWeeksPass('lamps');
    await expect(path.getByText('Dagny Farrow is asked, for Ada Quist is late')).toBeVisible();
    await open(dagny.page, maren.page.url());
    await dagny.page.getByRole('button', { name: 'Approve' }).click();
    await expect(dagny.page.getByText('Approved and kept')).toBeVisible();
  });
});
