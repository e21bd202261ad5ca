import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { expectAccessible, open, seat, settled } from './people';

/** What administrators do for all: the workspace itself, and the ways in for programs. */
test('a program comes in by a token, does what that names, and is shut out', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'wren.calloway');
  await open(page, '/people');
  await page.getByRole('link', { name: 'API tokens' }).click();
  await page.waitForURL('**/tokens');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'New token' }).click();
  await page.getByLabel('Which program is it for?').fill('Thermometers of the fern house');
  await page.getByRole('button', { name: /Whom it acts for/ }).click();
  await page.getByRole('option', { name: /Kofi Renwick/ }).click();
  await page.getByRole('button', { name: /Tables it adds to/ }).click();
  await page.getByRole('option', { name: 'Beds', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Make the token' }).click();
  const token = await page.getByLabel('Secret of the token').inputValue();
  await expect(page.getByRole('list', { name: 'Tokens' })).toContainText('Sees Beds; adds to Beds');

  // The guide shows what it reaches, and requests that run as they stand.
  await page.getByRole('link', { name: 'The guide' }).click();
  await page.waitForURL('**/api-guide');
  await settled(page);
  await page.getByRole('textbox', { name: 'Token' }).fill(token);
  await page.getByRole('button', { name: 'Show what it reaches' }).click();
  await expect(page.getByText('This is what the token reaches, and nothing else.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Taxa' })).toHaveCount(0);
  await page.getByRole('button', { name: /POST \/tables\/beds\/records/ }).click();
  const code = `T${Date.now() % 100_000}`;
  const bed = { code, name: 'Bed of a program', section: 'Fern house', area: '2.50', open_to_visitors: true };
  await page.getByRole('textbox', { name: 'Body' }).fill(JSON.stringify(bed));
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Send it' }).click();
  await expect(page.getByText('201 Created')).toBeVisible();
  await expect(page.getByLabel('What was answered')).toContainText(code);
  await page.getByRole('button', { name: /GET \/tables\/beds\/records Records/ }).click();
  await page.getByRole('textbox', { name: 'where' }).fill(`code = "${code}"`);
  const shell = await page.getByLabel('The request').innerText();
  const run = (): { records?: { code: string }[]; status?: number } =>
    JSON.parse(
      execFileSync('bash', ['-c', `${shell} -s`], { env: { ...process.env, SLATE_TOKEN: token } }).toString(),
    ) as never;
  expect(run().records).toMatchObject([bed]);

  // Whoever looks at the record sees by what it came.
  await open(page, `/tables/beds?find=${code}`);
  await page
    .getByRole('row', { name: new RegExp(code) })
    .getByRole('gridcell')
    .first()
    .click();
  await expect(page.getByText('Kofi Renwick, through Thermometers of the fern house')).toBeVisible();

  await open(page, '/tokens');
  await page.getByRole('button', { name: /Thermometers of the fern house/ }).click();
  await page.getByRole('button', { name: 'End it now' }).click();
  await page.getByRole('button', { name: 'End it: its program is shut out at once' }).click();
  await expect(page.getByText('It was ended.')).toBeVisible();
  expect(run()).toMatchObject({ status: 401, code: 'token' });
  expect(troubles).toEqual([]);
});

test('the workspace says when people work, and whoever saves after somebody else is told', async ({
  browser,
}) => {
  const { page, context, troubles } = await seat(browser, 'wren.calloway');
  await open(page, '/people');
  await page.getByRole('link', { name: 'Workspace' }).click();
  await page.waitForURL('**/workspace');
  await expectAccessible(page);
  const margin = page.getByRole('complementary', { name: 'What follows from it' });
  await page.getByRole('button', { name: /Part of it whose holidays are kept/ }).click();
  await page.getByRole('option', { name: 'Scotland' }).click();
  await expect(margin).toContainText('January 2nd');
  await page.getByRole('button', { name: 'Add days one is closed' }).click();
  await page.getByLabel('First day', { exact: true }).fill('1/6/2027');
  await page.getByLabel('Why').fill('Founders’ day');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('Founders’ day, Tue 1 Jun 2027')).toBeVisible();
  await page.getByLabel('When work ends').fill('7:30');
  await page.getByRole('button', { name: 'Save for everybody' }).click();
  await expect(page.getByRole('region', { name: 'Working time' })).toContainText(
    'Work must end after it begins',
  );
  await page.getByLabel('When work ends').fill('16:30');
  await page.getByRole('button', { name: 'Save for everybody' }).click();
  await expect(page.getByText('Saved. It holds from now on')).toBeVisible();

  // As it was, by somebody else meanwhile.
  const { settings } = (await (await context.request.get('/api/workspace')).json()) as {
    settings: { closed: { name: string }[] };
  };
  const before = {
    ...settings,
    holidaysOf: 'GB-ENG',
    closed: settings.closed.filter(({ name }) => name !== 'Founders’ day'),
  };
  expect((await context.request.put('/api/workspace', { data: before })).ok()).toBe(true);
  await page.getByRole('button', { name: 'Save for everybody' }).click();
  await expect(page.getByText('Somebody else changed this meanwhile')).toBeVisible();

  // The logo stands at the top of every page at once, also where nobody has signed in.
  const logo = (file: { name: string; mimeType: string; buffer: Buffer }) =>
    page.locator('input[aria-label=Logo]').setInputFiles(file);
  await logo({ name: 'logo.svg', mimeType: 'image/svg+xml', buffer: Buffer.from('<svg/>') });
  await expect(page.getByRole('alert').filter({ hasText: /picture|photo/i })).toBeVisible();
  const drawn = await page.screenshot({ clip: { x: 0, y: 0, width: 80, height: 40 } });
  await logo({ name: 'logo.png', mimeType: 'image/png', buffer: drawn });
  await expect(page.getByRole('img', { name: 'The logo there is' })).toBeVisible();
  await settled(page);
  await expectAccessible(page);
  const stranger = await (await browser.newContext()).newPage();
  await stranger.goto('/sign-in');
  const shown = stranger.getByRole('img', { name: 'Quillmere Botanic Garden' });
  await expect.poll(() => shown.evaluate((one: HTMLImageElement) => one.naturalWidth)).toBe(80);
  await stranger.context().close();
  await page.getByRole('button', { name: 'Take it off' }).click();
  await expect(page.getByRole('button', { name: 'Choose a picture' })).toBeVisible();
  expect(troubles).toEqual([]);
});

test('a table shows somebody some of its records, which is seen by looking as they do', async ({
  browser,
}) => {
  const ines = await seat(browser, 'ines.okafor');
  const who = '/api/tables/taxa/who';
  const said = async () =>
    (await (await ines.context.request.get(who)).json()) as {
      grants: {
        id: string;
        action: string;
        role: string | null;
        groupId: string | null;
        personId: string | null;
        where: string | null;
      }[];
    };
  const { grants: before } = await said();
  try {
    await open(ines.page, '/tables/taxa/design');
    const margin = ines.page.getByRole('complementary');
    // All who see to the tables see all of it; everybody else those of one family.
    await margin.getByRole('button', { name: /^Who may see: / }).click();
    await ines.page.getByRole('option', { name: 'All who see to the tables' }).click();
    await ines.page.keyboard.press('Escape');
    await margin.getByRole('button', { name: 'Somebody may see its records, but some only' }).click();
    await margin.getByRole('button', { name: /^Who may see some: / }).click();
    await ines.page.getByRole('option', { name: 'Everybody' }).click();
    await ines.page.keyboard.press('Escape');
    await margin.getByRole('button', { name: 'Save who may do what' }).click();
    await expect(margin.getByText('Say for which records, or take the line away')).toBeVisible();
    await margin.getByRole('button', { name: 'add a condition' }).click();
    await ines.page.getByRole('button', { name: / Column$/ }).click();
    await ines.page.getByRole('option', { name: 'Family' }).click();
    await ines.page.getByRole('textbox', { name: 'Value' }).fill('Aspleniaceae');
    await ines.page.getByRole('button', { name: 'Use this' }).click();
    await expect(margin.getByRole('list', { name: 'What people would see' })).toContainText('seen today');
    await expectAccessible(ines.page);
    await margin.getByRole('button', { name: 'Save who may do what' }).click();
    await expect(margin.getByRole('button', { name: 'Save who may do what' })).toHaveCount(0);

    const wren = await seat(browser, 'wren.calloway');
    await open(wren.page, '/people');
    await wren.page.getByRole('button', { name: /^Maren Solheim/ }).click();
    await wren.page.getByRole('button', { name: 'Look as Maren Solheim' }).click();
    await expect(wren.page.getByText('you are looking as Maren Solheim')).toBeVisible();
    await open(wren.page, '/tables/taxa');
    await expect(wren.page.getByRole('status').first()).toContainText(/^\d records? shown to you/);
    await expectAccessible(wren.page);
    const refused = await wren.context.request.post('/api/edits', { data: { key: '', edits: [] } });
    expect(refused.status()).toBe(403);
    await wren.page.getByRole('button', { name: 'Stop looking' }).click();
    await wren.page.waitForURL('**/people');

    const maren = await seat(browser, 'maren.solheim');
    await open(maren.page, '/account');
    await expect(maren.page.getByRole('list', { name: 'Who looked' })).toContainText('Wren Calloway');
    await open(maren.page, '/tables/taxa');
    await expect(maren.page.getByRole('status').first()).toContainText('shown to you');
    expect([...ines.troubles, ...wren.troubles, ...maren.troubles]).toEqual([]);
  } finally {
    const { grants: stands } = await said();
    const grants = before.map(({ action, role, groupId, personId, where }) => ({
      action,
      role,
      groupId,
      personId,
      where,
    }));
    const back = await ines.context.request.put(who, { data: { grants, seen: stands.map(({ id }) => id) } });
    expect(back.ok()).toBe(true);
  }
});

test('the trail says who did what, is narrowed down, and goes out as a file', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'wren.calloway');
  const label = `Meadow keepers ${Date.now() % 10_000}`;
  await open(page, '/people');
  await page.getByRole('button', { name: 'New group' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill(label);
  await page.getByRole('button', { name: 'Make the group' }).click();
  await expect(page.getByRole('list', { name: 'Groups' }).getByText(label)).toBeVisible();
  await page.getByRole('link', { name: 'Trail' }).click();
  await page.waitForURL('**/trail');
  await settled(page);
  const lines = page.getByRole('list', { name: /Lines of the trail/ });
  await expect(lines.getByText(`Made the group ${label}`)).toBeVisible();
  await expect(page.getByText(/lines are as written/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: /What it is about/ }).click();
  await page.getByRole('option', { name: 'releases' }).click();
  await expect(lines.getByText('Released Treatment request').first()).toBeVisible();
  await expect(lines.getByText(label)).toHaveCount(0);
  await page.getByRole('searchbox', { name: 'Words in it' }).fill('nothing is called this');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Nothing that was done is like this')).toBeVisible();
  const file = page.waitForEvent('download');
  await page.getByRole('link', { name: 'CSV' }).click();
  expect((await file).suggestedFilename()).toBe('trail.csv');
  expect(troubles).toEqual([]);
});

test('a column is shown to some of those who see its table, and is nowhere for the others', async ({
  browser,
}) => {
  const wren = await seat(browser, 'wren.calloway');
  const maren = await seat(browser, 'maren.solheim');
  await open(maren.page, '/tables/volunteers');
  await expect(maren.page.getByRole('columnheader', { name: 'Team' })).toBeVisible();
  await expect(maren.page.getByRole('columnheader', { name: 'Telephone' })).toHaveCount(0);
  await maren.page.getByRole('row').nth(1).getByRole('gridcell').first().click();
  const record = maren.page.getByRole('complementary');
  await expect(record.getByText('restricted', { exact: true })).toBeVisible();
  await expectAccessible(maren.page);
  await open(maren.page, '/tables/volunteers?where=phone+%21%3D+null');
  await maren.page.getByRole('link', { name: 'Show it without' }).click();
  await expect(maren.page.getByRole('columnheader', { name: 'Team' })).toBeVisible();

  // An administrator lets her see it, and keeps when somebody was here last from all but those who design the table.
  await open(wren.page, '/tables/volunteers/design');
  const columns = wren.page.getByRole('group', { name: 'Restricted columns' });
  await columns.getByRole('button', { name: /^Who sees Telephone: / }).click();
  await wren.page.getByRole('option', { name: /^Maren Solheim/ }).click();
  await wren.page.keyboard.press('Escape');
  await columns.getByRole('button', { name: /Restrict a column$/ }).click();
  await wren.page.getByRole('option', { name: 'Last here' }).click();
  await expect(columns.getByText('Last here')).toBeVisible();
  await expectAccessible(wren.page);
  await wren.page.getByRole('button', { name: 'Save who may do what' }).click();
  await expect(wren.page.getByRole('button', { name: 'Save who may do what' })).toHaveCount(0);
  await open(maren.page, '/tables/volunteers');
  await expect(maren.page.getByRole('columnheader', { name: 'Telephone' })).toBeVisible();
  await expect(maren.page.getByRole('columnheader', { name: 'Last here' })).toHaveCount(0);

  // As it was.
  await columns.getByRole('button', { name: 'Restrict Last here no more' }).click();
  await columns.getByRole('button', { name: /^Who sees Telephone: / }).click();
  await wren.page.getByRole('option', { name: /^Maren Solheim/ }).click();
  await wren.page.keyboard.press('Escape');
  await wren.page.getByRole('button', { name: 'Save who may do what' }).click();
  await expect(wren.page.getByRole('button', { name: 'Save who may do what' })).toHaveCount(0);
  await open(maren.page, '/tables/volunteers');
  await expect(maren.page.getByRole('columnheader', { name: 'Last here' })).toBeVisible();
  await expect(maren.page.getByRole('columnheader', { name: 'Telephone' })).toHaveCount(0);
  expect([wren.troubles, maren.troubles]).toEqual([[], []]);
});

test('what is kept about somebody is found by their number, taken out, and erased from their record and its history', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'wren.calloway');
  const [name, number, telephone] = ['Mina Dunmore', 'V-2023-0058', '960312'];
  await open(page, '/personal-data');
  const section = page.getByRole('region', { name: 'One person’s data' });
  const find = async (words: string): Promise<void> => {
    await section.getByRole('searchbox').fill(words);
    await page.keyboard.press('Enter');
  };
  await find('nobody is called this');
  await expect(section.getByText(/^Nothing was found/)).toBeVisible();
  await find(telephone);
  await section.getByRole('checkbox', { name: new RegExp(name) }).check();
  await expectAccessible(page);
  const download = page.waitForEvent('download');
  await section.getByRole('button', { name: 'Take out as JSON' }).click();
  const kept = JSON.parse(readFileSync(await (await download).path(), 'utf8')) as { records: object[] };
  expect(kept.records).toMatchObject([{ table: 'Volunteers', number, values: { Name: name } }]);

  await section.getByRole('button', { name: 'Erase' }).click();
  const erase = page.getByRole('region', { name: 'Erase' });
  await expect(
    erase.getByRole('button', { name: 'What is emptied in Volunteers: Name and Telephone' }),
  ).toBeVisible();
  await expect(erase.getByText(name)).toBeVisible();
  await expectAccessible(page);
  await erase.getByRole('button', { name: 'Erase it for good' }).click();
  await expect(section.getByText('Erased from 1 record and 0 submissions.')).toBeVisible();
  await find(telephone);
  await expect(section.getByText(/^Nothing was found/)).toBeVisible();
  await open(page, `/tables/volunteers/${number}`);
  await expect(page.getByRole('heading', { name: `erased ${number}` })).toBeVisible();
  await expect(page.getByText(name)).toHaveCount(0);
  await open(page, '/trail');
  const lines = page.getByRole('list', { name: /Lines of the trail/ });
  await expect(lines.getByText(`Erased what is kept about somebody: ${number}`)).toBeVisible();
  expect(troubles).toEqual([]);
});

test('a table says for how long its records must be kept, and why', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/tables/suppliers/design');
  await page.getByRole('button', { name: /How long its records must be kept$/ }).click();
  await page.getByRole('option', { name: '10 years' }).click();
  await expect(page.getByText('Say which law or rule asks that its records are kept')).toBeVisible();
  await page.getByRole('textbox', { name: 'Which law or rule asks for it' }).fill('the tax code');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Look them over' }).click();
  await expect(
    page.getByText('Records are kept for 10 years whatever is asked, because of the tax code'),
  ).toBeVisible();
  expect(troubles).toEqual([]);
});
