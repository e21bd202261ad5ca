import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { byKeyboard, byMouse, countClicks, designAndRelease } from './hands';
import { choose, expectAccessible, open, seat, settled } from './people';

const folder = mkdtempSync(join(tmpdir(), 'slate-sheets-'));
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function bring(page: Page, ...files: string[]): Promise<void> {
  await open(page, '/imports');
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Choose files' }).click(),
  ]);
  await chooser.setFiles(files);
  await page.waitForURL(/imports\/[0-9a-f-]{36}/);
  await expect(page.getByRole('button', { name: /^Make / })).toBeVisible({ timeout: 30_000 });
  await settled(page);
}

test('the garden’s untidy workbook becomes tables by accepting what is proposed, and one of them a form', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await bring(page, 'demo/quillmere-sheets.xlsx');

  await test.step('each proposal is a sentence, and what would come of it is seen', async () => {
    await expect(
      page.getByText(
        '“Product” names records of Products by their Name: all 14 different values are found there, 8 once case, spaces and accents are left aside.',
      ),
    ).toBeVisible();
    await expect(
      page.getByText(
        'Supplier, Phone and Town come again together in 160 rows: Suppliers gets a table of its own with 5 records.',
      ),
    ).toBeVisible();
    await expect(
      page.getByText(
        'Product 1 to 3 and Rate 1 to 3 are rows written side by side: they become 425 rows of Treatment lines.',
      ),
    ).toBeVisible();
    await expect(page.getByRole('region', { name: 'First rows of Suppliers' }).getByRole('row')).toHaveCount(
      4,
    );
    await expectAccessible(page);
  });

  await test.step('a proposal can be declined and accepted again, a column corrected', async () => {
    const group = page.getByRole('listitem').filter({ hasText: 'Supplier, Phone and Town' });
    await group.getByRole('button', { name: 'Decline' }).click();
    await expect(page.getByRole('button', { name: 'Make 8 tables' })).toBeVisible();
    await group.getByRole('button', { name: 'Accept it' }).click();
    await page.getByRole('button', { name: /^Active substance/ }).click();
    await page.getByLabel('Name of the column').fill('Substance');
    await expect(
      page
        .getByRole('region', { name: 'First rows of Products' })
        .getByRole('columnheader', { name: /^Substance/ }),
    ).toBeVisible();
    await choose(page, 'Whether it must be filled', 'may be empty');
    await expectAccessible(page);
  });

  await test.step('all of it is made at once', async () => {
    await page.getByRole('button', { name: 'Make 9 tables' }).click();
    await expect(page.getByRole('heading', { name: '9 tables are made' })).toBeVisible({ timeout: 30_000 });
    await expectAccessible(page);
    await expect(page.getByRole('listitem').filter({ hasText: 'Treatment lines' })).toContainText(
      '425 records',
    );
    await page.getByRole('link', { name: /records\.products_2/ }).click();
    await settled(page);
    await expect(page.getByRole('columnheader', { name: 'Substance' })).toBeVisible();
    await expect(page.getByText('14 records')).toBeVisible();
  });

  await test.step('one of them becomes a form with lookup, rows, three checks and a step', async () => {
    const clicks = await countClicks(page);
    await designAndRelease(page, byMouse(page), 'treatments_2');
    const counted = clicks();
    test.info().annotations.push({ type: 'clicks', description: String(counted) });
    expect(counted).toBeLessThanOrEqual(25);
    // Another of the same table, without touching the mouse.
    await designAndRelease(page, byKeyboard(page), 'treatments_2');
    expect(clicks()).toBe(counted);
  });
  expect(troubles).toEqual([]);
});

test('what cannot be told is asked, what does not fit is refused with its place, and the rest may be kept', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor', { width: 390, height: 844 });
  const rows = Array.from(
    { length: 40 },
    (_, i) => `${i + 1},0${(i % 9) + 1}/0${((i + 3) % 9) + 1}/2026,${i === 20 ? 'a few' : i % 12}`,
  );
  writeFileSync(join(folder, 'garden_walks.csv'), `No,Walked on,Guests\n${rows.join('\n')}\n`);
  await bring(page, join(folder, 'garden_walks.csv'));
  await expect(page.getByRole('button', { name: 'Make the table' })).toBeDisabled();
  await page.getByRole('button', { name: 'garden_walks, Walked on: day or month first' }).click();
  await choose(page, 'Order of day and month', 'day, month, year');
  await expectAccessible(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBe(0);
  await page.getByRole('button', { name: /^Guests/ }).click();
  await expect(page.getByText('1 cell does not fit')).toBeVisible();
  await page.getByRole('button', { name: 'Make the table' }).click();
  await expect(page.getByText('garden_walks, row 22: “a few”: Guests must be a number')).toBeVisible({
    timeout: 30_000,
  });
  await choose(page, 'What happens when a row does not fit', 'keep the others');
  await page.getByRole('button', { name: 'Make the table' }).click();
  await expect(page.getByRole('heading', { name: 'One cell did not fit; its row was left out' })).toBeVisible(
    { timeout: 30_000 },
  );
  await expect(page.getByText('39 records')).toBeVisible();
  expect(troubles).toEqual([]);
});

test('the row of the headings is corrected, and the sheet is read anew', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  writeFileSync(
    join(folder, 'north_shed.csv'),
    'Stock of the north shed,,\nkind,where,how much\nTool,Shelf,Pieces\nspade,north,4\nrake,south,7\n',
  );
  await bring(page, join(folder, 'north_shed.csv'));
  await choose(page, 'Where the headings of north_shed stand', 'row 3: Tool · Shelf · Pieces');
  await expect(page.getByRole('button', { name: /^Pieces/ })).toBeVisible({ timeout: 30_000 });
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make the table' }).click();
  await expect(page.getByText('2 records', { exact: true })).toBeVisible({ timeout: 30_000 });
  expect(troubles).toEqual([]);
});

test('what a sheet names and is not there is listed, and gets records; a column that names nothing found is told what it names', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  const bays = join(folder, 'Compost bays.csv');
  const turns = join(folder, 'Compost turns.csv');
  writeFileSync(
    bays,
    `Bay,Holds\n${Array.from({ length: 12 }, (_, i) => `C${i},${i + 2} barrows`).join('\n')}\n`,
  );
  writeFileSync(
    turns,
    `No,Bay,Then to\n${Array.from({ length: 30 }, (_, i) => `${i + 1},${i === 4 ? 'C77' : `c${i % 12}`},${i < 2 ? `C${i}` : ''}`).join('\n')}\n`,
  );
  await bring(page, bays, turns);
  await expect(page.getByText('Not found: “C77” in row 6.')).toBeVisible();
  await choose(
    page,
    'What becomes of what Bay names and is not there',
    'Compost bays gets a record for each',
  );
  await expect(page.getByText('12 records, and 1 for what is named and not there')).toBeVisible();
  await page.getByRole('button', { name: /^Then to/ }).click();
  await choose(page, 'Kind of the column', 'a record of Compost bays, by its Bay');
  await expect(
    page.getByText('“Then to” names records of Compost bays by their Bay, as you said.'),
  ).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make 2 tables' }).click();
  await expect(page.getByRole('heading', { name: '2 tables are made' })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('listitem').filter({ hasText: 'Compost bays' })).toContainText('13 records');
  // The same of a table that is there by now.
  const checks = join(folder, 'Compost checks.csv');
  writeFileSync(
    checks,
    `Check,Bay\n${Array.from({ length: 20 }, (_, i) => `K${i},${i === 2 ? 'C98' : `c${i % 12}`}`).join('\n')}\n`,
  );
  await bring(page, checks);
  await choose(
    page,
    'What becomes of what Bay names and is not there',
    'Compost bays gets a record for each',
  );
  await expect(
    page.getByText('Compost bays gets one record for what Compost checks names and is not there.'),
  ).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make the table' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Compost bays' })).toContainText('1 new', {
    timeout: 30_000,
  });
  await expect(page.getByRole('listitem').filter({ hasText: 'Compost checks' })).toContainText('20 records');
  expect(troubles).toEqual([]);
});

test('a file that is no sheet is refused with a word, and the import of another is not shown', async ({
  browser,
}) => {
  const { page } = await seat(browser, 'ines.okafor');
  writeFileSync(join(folder, 'picture.csv'), Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 1, 2, 3, 4, 5]));
  await open(page, '/imports');
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Choose files' }).click(),
  ]);
  await chooser.setFiles(join(folder, 'picture.csv'));
  await expect(
    page.getByText('This is neither CSV nor an XLSX workbook. Save it as one of them and choose it again.'),
  ).toBeVisible({ timeout: 30_000 });
  await expectAccessible(page);
  const address = page.url();
  const other = await seat(browser, 'tomasz.bielak');
  await open(other.page, address);
  await expect(other.page.getByText('There is no such import, or it is not shown to you')).toBeVisible();
  await open(other.page, '/imports');
  await expect(other.page.getByText('Designing forms and tables is for owners')).toBeVisible();
});

test('rows come into a table there is: tried out, brought in, the refused mended and brought again', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/imports');
  const rows = [
    ...Array.from({ length: 12 }, (_, i) => `Y${i},House ${i},Palm court,${i}.5`),
    'Y12,House 12,Palm court,broad',
    'Y13,House 13,,4',
  ];
  await page.locator('input[type=file]').setInputFiles({
    name: 'more-beds.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`Code,Name,Section,Area (m²)\n${rows.join('\n')}\n`),
  });
  await expect(page.getByText('4 of 4 headings are columns of your table Beds.')).toBeVisible({
    timeout: 30_000,
  });
  await page.getByRole('button', { name: 'Bring the rows into it' }).click();
  await expect(page.getByText('Rows come into Beds.')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Try it out' }).click();
  await expect(page.getByText('12 new, 0 changed')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('“broad”: Area must be a number')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Bring in the others' })).toBeDisabled();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Rows of more-beds to fix' }).click();
  const file = await (await download).createReadStream();
  const chunks: Buffer[] = [];
  for await (const chunk of file) chunks.push(Buffer.from(chunk as Uint8Array));
  await choose(page, 'What happens when a row does not fit', 'keep the others');
  await page.getByRole('button', { name: 'Bring in the others' }).click();
  await expect(page.getByRole('heading', { name: 'The rows are in' })).toBeVisible({ timeout: 30_000 });
  await expectAccessible(page);

  const mended = Buffer.concat(chunks)
    .toString('utf8')
    .replace(',broad', ',9')
    .replace('House 13,,', 'House 13,Palm court,');
  await open(page, '/imports');
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'mended.csv', mimeType: 'text/csv', buffer: Buffer.from(mended) });
  await page.getByRole('button', { name: 'Bring the rows into it' }).click({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Try it out' }).click();
  await expect(page.getByText('2 new, 0 changed')).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Bring them in' }).click();
  await expect(page.getByRole('heading', { name: 'The rows are in' })).toBeVisible({ timeout: 30_000 });
  expect(troubles).toEqual([]);
});
