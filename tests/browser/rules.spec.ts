import { readFile } from 'node:fs/promises';
import { expect, test, type Page } from '@playwright/test';
import { choose, expectAccessible, open, seat, settled } from './people';

const face = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Faces of the form' }).getByRole('button', { name }).click();

/** A cell of the table of rules: what is typed is read when it is left. */
async function cell(page: Page, name: string, text: string): Promise<void> {
  await page.getByRole('combobox', { name }).or(page.getByRole('textbox', { name })).fill(text);
  await page.keyboard.press('Enter');
}

async function whom(page: Page, row: number, option: string | RegExp): Promise<void> {
  await choose(page, new RegExp(`^Whom row ${row} asks`), option);
  await page.keyboard.press('Escape');
}

/** Who decides what amount is written as a table, its gaps and overlaps are found, and what is sent goes by it. */
test('rules tell who is asked: designed, mended, taken out and in as DMN, and kept to', async ({
  browser,
}) => {
  const [{ page }, maren] = [await seat(browser, 'ines.okafor'), await seat(browser, 'maren.solheim')];
  await open(page, '/forms');
  await page.getByLabel('What is it called?').fill('Course');
  await page.getByRole('button', { name: 'Make the form' }).click();
  await expect(page.getByRole('navigation', { name: 'Faces of the form' })).toBeVisible();
  await settled(page);
  await page.getByLabel('Next question').fill('How many pounds?');
  await page.getByLabel('Next question').press('Enter');
  await expect(page.getByRole('button', { name: /Kind of answer/ })).toBeVisible();

  await test.step('a step asks whom rules say, beginning with whom it asked', async () => {
    await face(page, 'Approve');
    await choose(page, /Person of the new step/, /Osei/);
    await choose(page, /Who is asked/, 'whom rules say, in a table of their own');
    await page.keyboard.press('Escape');
    await page.getByLabel('Name of the rules').fill('Course money');
    await choose(page, /Another condition/, 'how_many_pounds');
    await expect(page.getByText('Something fits whatever is sent.')).toBeVisible();
    await page.getByRole('button', { name: 'Working days' }).click();
  });

  await test.step('gaps and overlaps are found as it is typed', async () => {
    await cell(page, 'how_many_pounds, row 1', 'up to 500');
    await page.getByLabel('Working days of row 1').fill('1');
    await page.getByRole('button', { name: 'Row', exact: true }).click();
    await cell(page, 'how_many_pounds, row 2', 'from 2 000');
    await whom(page, 2, /Dagny/);
    const gap = page.getByRole('listitem').filter({ hasText: 'Nothing fits' });
    await expect(gap.first()).toContainText('over 500 to under 2');
    await gap.first().getByRole('button', { name: 'Add the row' }).click();
    await expect(page.getByText('Say whom, or nobody')).toBeVisible();
    await whom(page, 3, /Dagny/);
    await whom(page, 3, /Osei/);
    await cell(page, 'how_many_pounds, row 3', '> 400');
    await expect(page.getByText(/^Rows 1 and 3 both fit how_many_pounds over 400 to 500/)).toBeVisible();
    await cell(page, 'how_many_pounds, row 3', 'over 500 to many');
    await expect(page.getByRole('table', { name: /Course money/ }).locator('.trouble')).toBeVisible();
    await cell(page, 'how_many_pounds, row 3', '(500..2000)');
    await expect(page.getByText(/No two rows are at odds/)).toBeVisible();
    await expectAccessible(page);
  });

  await test.step('what is empty fits nothing, so somebody is named for that', async () => {
    await expect(page.getByText('Nothing fits how_many_pounds empty. It cannot be sent.')).toBeVisible();
    await choose(page, /Who is asked where nobody is there to ask/, /Kofi/);
    await expect(page.getByText('Then Kofi Renwick is asked.')).toBeVisible();
  });

  await test.step('it is taken out as DMN, and comes back as it was', async () => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Take out as DMN' }).click(),
    ]);
    const xml = await readFile(await download.path(), 'utf8');
    expect(xml).toContain('https://www.omg.org/spec/DMN/20230324/MODEL/');
    expect(xml).toContain('(500..2000)');
    const [drawn] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Take the path out as BPMN' }).click(),
    ]);
    expect(await readFile(await drawn.path(), 'utf8')).toContain('<bpmndi:BPMNShape');
    await page.getByRole('button', { name: 'Take out row 1' }).click();
    await expect(page.getByLabel(/how_many_pounds, row/)).toHaveCount(2);
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Take in from DMN' }).click(),
    ]);
    await chooser.setFiles({ name: 'course.dmn', mimeType: 'application/xml', buffer: Buffer.from(xml) });
    await expect(page.getByText('Taken in: 3 rows.')).toBeVisible();
    await expect(page.getByLabel('how_many_pounds, row 1')).toHaveValue('up to 500');
    await expect(page.getByLabel('Working days of row 1')).toHaveValue('1');
    await expect(page.getByRole('button', { name: /^Whom row 3 asks/ })).toContainText('Dagny Farrow');
    const [other] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Take in from DMN' }).click(),
    ]);
    await other.setFiles({ name: 'no.dmn', mimeType: 'application/xml', buffer: Buffer.from('<a/>') });
    await expect(page.getByText('This file holds no DMN decision table.')).toBeVisible();
  });

  await test.step('a block of a spreadsheet is pasted over it, and taken back as one edit', async () => {
    const block = 'up to 100\tOsei Marchetti\t1\nover 100\tDagny Farrow, Somebody\t3';
    await page.getByLabel('how_many_pounds, row 1').evaluate((input, text) => {
      const data = new DataTransfer();
      data.setData('text/plain', text);
      input.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      );
    }, block);
    await expect(page.getByLabel('how_many_pounds, row 2')).toHaveValue('over 100');
    await expect(page.getByLabel('Working days of row 2')).toHaveValue('3');
    await expect(page.getByText('Not known here, and left out: Somebody')).toBeVisible();
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
    await expect(page.getByLabel('how_many_pounds, row 1')).toHaveValue('up to 500');
  });

  await test.step('it is released, and whoever fills it sees who will be asked as they type', async () => {
    await face(page, 'Release');
    await page.getByRole('button', { name: /^Release 1/ }).click();
    await expect(page.getByText('Release 1 is live')).toBeVisible();
    await open(maren.page, '/fill/course');
    const who = maren.page.getByRole('region', { name: 'Who will see it' });
    await expect(who.getByText('Kofi Renwick')).toBeVisible();
    const pounds = maren.page.getByRole('textbox', { name: 'How many pounds?' });
    await pounds.fill('120');
    await expect(who.getByText('Osei Marchetti, within 1 working day')).toBeVisible();
    await pounds.fill('900');
    await expect(
      who.getByText(/any of (Dagny Farrow, Osei Marchetti|Osei Marchetti, Dagny Farrow)/),
    ).toBeVisible();
  });

  await test.step('it goes by the row that fits, and says so', async () => {
    await Promise.all([
      maren.page.waitForURL(/[?]sent/),
      maren.page.getByRole('button', { name: /^Send for approval/ }).click(),
    ]);
    await settled(maren.page);
    const path = maren.page.getByRole('region', { name: 'Path' });
    await expect(path.getByText(/Course money, row 3/).first()).toBeVisible();
    await expect(path).toContainText('Dagny Farrow');
  });

  await test.step('a change is held against what was sent', async () => {
    await face(page, 'Approve');
    await expect(page.getByRole('heading', { name: 'With the last one sent' })).toBeVisible();
    await expect(page.getByText('It goes the way they went.')).toBeVisible();
    await cell(page, 'how_many_pounds, row 1', 'up to 1000');
    await cell(page, 'how_many_pounds, row 3', 'over 1000 to under 2000');
    await expect(page.getByText('1 would go another way than it did')).toBeVisible();
  });
});
