import { expect, test } from '@playwright/test';
import { choose, expectAccessible, find, inDays, open, seat, settled, typeDay } from './people';

/** From an idea to rows in a table: the owner designs, a colleague fills, the approver sends back and approves. */
test('a designed form saves an approved submission into a shared table', async ({ browser }) => {
  const ines = await seat(browser, 'ines.okafor');
  const { page: bench } = ines;

  await test.step('the owner asks', async () => {
    await open(bench, '/forms');
    await bench.getByLabel('What is it called?').fill('Tool loan');
    await bench.getByRole('button', { name: 'Make the form' }).click();
    await expect(bench.getByRole('navigation', { name: 'Faces of the form' })).toBeVisible();
    await settled(bench);
    const next = bench.getByLabel('Next question');
    for (const question of [
      'Who borrows?',
      'When is it fetched?',
      'When is it back?',
      'Is it urgent?',
      'Which house?',
      'Bed',
    ]) {
      await next.fill(question);
      await next.press('Enter');
    }
    await choose(bench, /Kind of answer/, 'lookup');
    await choose(bench, /Table to pick from/, 'Beds');
    await bench.getByRole('button', { name: /^Which house/ }).click();
    await bench.getByLabel('of these, a line each').fill('Fern house\nArid house');
    await bench.getByRole('button', { name: /^Who borrows/ }).click();
    await choose(bench, /Must it be filled/, 'must be filled');
    await next.fill('Tools');
    await next.press('Enter');
    await choose(bench, /Kind of answer/, 'repeating rows');
    const column = bench.getByLabel('Next column of Tools');
    for (const one of ['Tool', 'How many', 'Price of one', 'Price']) {
      await column.fill(one);
      await column.press('Enter');
    }
    await choose(bench, /Kind of answer/, 'calculated value');
    await bench.getByLabel('Expression', { exact: true }).fill('how_many * price_of_on');
    await expect(bench.getByText('did you mean price_of_one?').first()).toBeVisible();
    await bench.getByLabel('Expression', { exact: true }).fill('how_many * price_of_one');
    await choose(bench, /^What is shown of Price:/, 'the sum');
    await bench.keyboard.press('Escape');
    await bench.getByRole('button', { name: /^Tool$/ }).click();
    await choose(bench, /Must it be filled/, 'must be filled');
    await expectAccessible(bench);
  });

  await test.step('the owner checks, asks for approval, and sees the tables before they are made', async () => {
    const face = (name: string) =>
      bench.getByRole('navigation', { name: 'Faces of the form' }).getByRole('button', { name }).click();
    await face('Check');
    await choose(bench, /Line of the new check/, /When is it back/);
    await choose(bench, /Comparison/, 'on or after');
    await choose(bench, /Compared with/, 'when_is_it_fetched');
    await bench.getByLabel('Message').fill('Back before it was fetched.');
    await expect(bench.getByText('must be on or after').first()).toBeVisible();
    await expectAccessible(bench);
    await face('Approve');
    await choose(bench, /Person of the new step/, 'Tomasz Bielak, Fern house');
    await expectAccessible(bench);
    await face('Store');
    await expect(bench.getByText('The table Tool loan is made, with 7 columns')).toBeVisible();
    await expect(bench.getByText('is made, with 4 columns')).toBeVisible();
    await expectAccessible(bench);
    await bench.getByRole('button', { name: 'Release', exact: true }).first().click();
    await expectAccessible(bench);
    // Whoever has chosen who fills it, and not saved that, does not let everybody fill it.
    const release = bench.getByRole('button', { name: 'Release 1 for everybody to fill' });
    await choose(bench, /Who may fill/, /^Plant health/);
    await bench.keyboard.press('Escape');
    await expect(release).toBeDisabled();
    await bench.getByRole('button', { name: 'Leave it as it was' }).click();
    await release.click();
    await expect(bench.getByText('Release 1 is live')).toBeVisible();
  });

  const table = await ines.context.newPage();
  await open(table, '/tables/tool_loan');
  await expect(table.getByText('No record yet')).toBeVisible();

  const maren = await seat(browser, 'maren.solheim');
  const { page: sheet } = maren;
  await test.step('the colleague fills; what is wrong stands beside the answer; the draft keeps itself', async () => {
    await open(sheet, '/');
    await sheet.getByRole('link', { name: /Tool loan/ }).click();
    await expect(sheet).toHaveURL(/\/fill\//);
    await settled(sheet);
    // Whoever it is, is found in the directory by part of a name.
    await find(sheet, 'Who borrows?', 'solh', 'Maren Solheim');
    await typeDay(sheet, 'When is it fetched?', inDays(3));
    await typeDay(sheet, 'When is it back?', inDays(1));
    await sheet.getByLabel('Tool, row a').fill('Spade مجرفة 🌿');
    await sheet.getByLabel('How many, row a').fill('3');
    await sheet.getByLabel('Price of one, row a').fill('12.4');
    await expect(sheet.getByText('37.20').first()).toBeVisible();
    await sheet.getByLabel('How many, row b').fill('1');
    await expect(sheet.getByText('Back before it was fetched.')).toHaveCount(2);
    await sheet.getByRole('button', { name: /Send for approval/ }).click();
    await expect(sheet.getByText('b · Tool is not filled')).toBeVisible();
    await expectAccessible(sheet);
    await expect(sheet.getByText(/^Saved/).first()).toBeVisible();
    await expect(sheet).toHaveURL(/\/submissions\//);
    await open(sheet, sheet.url());
    await expect(sheet.getByLabel('Tool, row a')).toHaveValue('Spade مجرفة 🌿');
    await expect(sheet.getByLabel('Who borrows?').last()).toHaveValue('Maren Solheim');
    await sheet.getByRole('button', { name: 'Remove row b' }).click();
    await sheet.getByRole('button', { name: 'Undo' }).click();
    await sheet.getByLabel('Tool, row b').fill('Hoe');
    await typeDay(sheet, 'When is it back?', inDays(9));
    await find(sheet, 'Bed', 'fern G4-0', /G4-01/);
    await sheet.getByRole('button', { name: /Send for approval/ }).click();
    await expect(sheet.getByText(/^Sent as TL-/)).toBeVisible();
    await expectAccessible(sheet);
  });

  const tomasz = await seat(browser, 'tomasz.bielak');
  const { page: desk } = tomasz;
  await test.step('the approver sends it back with a word; it comes again with what changed marked', async () => {
    await open(desk, '/approvals');
    await expectAccessible(desk);
    await desk.getByRole('link', { name: /Tool loan/ }).click();
    await expect(desk).toHaveURL(/\/submissions\//);
    await settled(desk);
    await desk.getByRole('button', { name: 'Send back' }).click();
    await expect(desk.getByText('Write a word for Maren first')).toBeVisible();
    await desk.getByLabel('A word for Maren').fill('Two spades are enough.');
    await desk.getByRole('button', { name: 'Send back' }).click();
    await expect(desk.getByText('Sent back', { exact: true })).toBeVisible();

    await open(sheet, '/');
    await sheet
      .getByRole('link', { name: /Tool loan/ })
      .first()
      .click();
    await expect(sheet).toHaveURL(/\/submissions\//);
    await settled(sheet);
    await expect(sheet.getByText('Two spades are enough.')).toBeVisible();
    await sheet.getByLabel('How many, row a').fill('2');
    await sheet.getByRole('button', { name: /Send for approval/ }).click();
    await expect(sheet.getByText(/^Sent as TL-/)).toBeVisible();

    await expect(desk.getByText('Sent again: 1 answer changed')).toBeVisible();
    await expect(desk.locator('mark').first()).toHaveText('2');
    await expectAccessible(desk);
  });

  await test.step('approved, it stands in the table on a screen that was open all the while', async () => {
    await desk.getByRole('button', { name: 'Approve' }).click();
    await expect(desk.getByText('Approved and kept')).toBeVisible();
    await expect(table.getByRole('gridcell', { name: 'Maren Solheim' })).toBeVisible();
    await expect(table.getByRole('gridcell', { name: /G4-01 · Fern house/ })).toBeVisible();
    await table.getByRole('gridcell', { name: 'Maren Solheim' }).click();
    await expect(table.getByText('Spade مجرفة 🌿 · 2 · 12.40 · 24.80')).toBeVisible();
    await expectAccessible(table);
  });
  expect([...ines.troubles, ...maren.troubles, ...tomasz.troubles]).toEqual([]);
});

test('a colleague in a hurry, by keyboard alone', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/bed_inspection');
  await page.getByRole('combobox', { name: 'Bed', exact: true }).focus();
  await page.keyboard.type('G4-03');
  await expect(page.getByRole('option', { name: /G4-03/ })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  const day = inDays(-1).split('-');
  await page.keyboard.type(`${day[2]}/${day[1]}/${day[0]}`);
  // Past the button of the calendar.
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  await page.keyboard.type('2');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Space');
  // Pests were seen, so what is asked of them appears: two of the signs, and that the tools are clean.
  await expect(page.getByRole('group', { name: 'What was seen?' }).first()).toBeVisible();
  await page.keyboard.press('Tab');
  for (const press of ['Tab', 'Space', 'Tab', 'Tab', 'Space', 'Tab', 'Tab', 'Tab', 'Tab', 'Space'])
    await page.keyboard.press(press);
  await expect(page.getByRole('checkbox', { name: 'Wilting' })).toBeChecked();
  await expect(page.getByRole('checkbox', { name: 'Leaf spots' })).toBeChecked();
  await expect(page.getByRole('checkbox', { name: /^I have cleaned my tools/ })).toBeChecked();
  await expect(page.getByText('Everything holds.')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(/^Sent as BI-/)).toBeVisible();
  await expect(page.getByText('Kept', { exact: true })).toBeVisible();
  await expect(page.getByText('Wilting, Leaf spots')).toBeVisible();
  expect(troubles).toEqual([]);
});

test('a pick in a hurry never takes what does not match the words', async ({ browser }) => {
  const { page } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/bed_inspection');
  const box = page.getByRole('combobox', { name: 'Bed', exact: true });
  await box.click();
  await expect(page.getByRole('option').first()).toBeVisible();
  await page.keyboard.type('G4-12');
  await page.getByRole('option').first().click();
  // The list may vanish under the pointer while it looks anew; then nothing is picked, and never another bed.
  await expect(page.getByRole('listbox')).toHaveCount(0);
  expect(await box.inputValue()).toMatch(/^(G4-12.*)?$/);
});

test('what is typed without a connection is kept on the device and sent later', async ({ browser }) => {
  const { page, context } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/bed_inspection');
  await context.setOffline(true);
  await page.getByLabel('Notes').last().fill('Written in the far corner');
  await expect(page.getByText('No connection · saved on this device')).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByText(/^Saved/).first()).toBeVisible({ timeout: 15_000 });
  await open(page, page.url());
  await expect(page.getByLabel('Notes').last()).toHaveValue('Written in the far corner');
});

test('where neither the server nor the device keeps what is typed, it is said, and comes once the server is back', async ({
  browser,
}) => {
  const { page, context } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/bed_inspection');
  await page.evaluate(() => {
    let piece = 'x'.repeat(1 << 20);
    for (let n = 0; piece !== ''; n++)
      try {
        localStorage.setItem(`other ${n}`, piece);
      } catch {
        piece = piece.slice(0, piece.length >> 1);
      }
  });
  await context.setOffline(true);
  await page
    .getByLabel('Notes')
    .last()
    .fill(`Full and away ${'y'.repeat(400)}`);
  await expect(page.getByText('this device keeps no more: leave this page open')).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByText(/^Saved \d/).first()).toBeVisible();
  await page.evaluate(() => localStorage.clear());
  await page.reload();
  await expect(page.getByLabel('Notes').last()).toHaveValue(/^Full and away/);
});

test('what was typed a moment before a reload is there, is saved, and is what is sent', async ({
  browser,
}) => {
  const { page } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/bed_inspection');
  const notes = () => page.getByLabel('Notes').last();
  await notes().fill('Seven');
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  await expect(page).toHaveURL(/\/submissions\//);
  // Nothing is waited for: the save of this is not even begun when the page goes.
  await notes().fill('Eight');
  await page.reload();
  await settled(page);
  await expect(notes()).toHaveValue('Eight');
  const id = new URL(page.url()).pathname.split('/').at(-1) ?? '';
  await expect
    .poll(async () => {
      const answer = await page.context().request.get(`/api/submissions/${id}`);
      return ((await answer.json()) as { answers: { values: Record<string, unknown> } }).answers.values[
        'qbinotes'
      ];
    })
    .toBe('Eight');
});

test('a page that asked for the empty form again while its draft was being kept goes on with the draft', async ({
  browser,
}) => {
  const { page } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/bed_inspection');
  await page.getByLabel('Notes').last().fill('Kept while the page was on its way');
  await expect(page).toHaveURL(/\/submissions\//);
  // As if the address had not become that of the draft yet.
  await page.evaluate(() => history.replaceState(null, '', '/fill/bed_inspection'));
  await page.reload();
  await expect(page).toHaveURL(/\/submissions\//);
  await expect(page.getByLabel('Notes').last()).toHaveValue('Kept while the page was on its way');
  // Whoever begins another one does, also after loading it anew.
  await open(page, '/fill/bed_inspection');
  await page.reload();
  await settled(page);
  await expect(page.getByLabel('Notes').last()).toHaveValue('');
  expect(new URL(page.url()).pathname).toBe('/fill/bed_inspection');
});

test('what one person typed on a shared browser is shown to nobody who signs in after them, and to them again', async ({
  browser,
}) => {
  const { page, context } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/bed_inspection');
  await context.route('**/api/submissions/*', (route) =>
    route.request().method() === 'PUT' ? route.abort() : route.continue(),
  );
  await page.getByLabel('Notes').last().fill('Only mine');
  await expect(page.getByText('No connection · saved on this device')).toBeVisible();
  const stored = await page.evaluate(() => JSON.stringify(Object.entries(localStorage)));
  expect(stored).toContain('slate:unsent');
  expect(stored).not.toContain('Only mine');
  const signIn = (email: string) =>
    context.request.post('/api/sign-in', {
      data: { email: `${email}@quillmere.example`, password: 'quillmere-garden' },
    });
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page).toHaveURL(/sign-in/);
  await signIn('osei.marchetti');
  await open(page, '/fill/bed_inspection');
  await page.waitForTimeout(500);
  await expect(page.getByLabel('Notes').last()).toHaveValue('');
  await context.unroute('**/api/submissions/*');
  await signIn('maren.solheim');
  await open(page, '/fill/bed_inspection');
  await expect(page.getByLabel('Notes').last()).toHaveValue('Only mine');
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
});
