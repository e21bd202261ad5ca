import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { choose, expectAccessible, find, inDays, open, seat, settled, typeDay } from './people';

/** The first words of each line and column, from the top. */
const labels = (page: Page) =>
  page
    .locator('[data-line]')
    .evaluateAll((all) =>
      all.map((one) => (one.querySelector('.font-semibold') ?? one).firstChild?.textContent?.trim()),
    );

async function newForm(page: Page, title: string): Promise<void> {
  await open(page, '/forms');
  await page.getByLabel('What is it called?').fill(title);
  await page.getByRole('button', { name: 'Make the form' }).click();
  await expect(page.getByRole('navigation', { name: 'Faces of the form' })).toBeVisible();
  await settled(page);
}

async function paste(page: Page, label: string, text: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).evaluate((input, pasted) => {
    const data = new DataTransfer();
    data.setData('text', pasted);
    input.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, text);
}

const drawnPicture = () =>
  sharp({ create: { width: 64, height: 40, channels: 3, background: '#2f6b4f' } })
    .png()
    .toBuffer();

/** Questions are arranged by mouse and by keyboard, several at once, and everything is taken back and done again. */
test('an owner arranges a form', async ({ browser }) => {
  const { page } = await seat(browser, 'ines.okafor');
  await newForm(page, 'Tool check');
  // A block of cells says what kind each column is of.
  await paste(page, 'Next question', 'Tool\tBought\tPieces\nSpade\t2024-03-01\t3\nRake\t2025-04-11\t12');
  await expect.poll(() => labels(page)).toEqual(['Tool', 'Bought', 'Pieces']);
  await page.getByRole('button', { name: /^Bought/ }).click();
  await expect(page.getByRole('button', { name: /Kind of answer/ })).toContainText('date');

  await test.step('finds a setting by typing', async () => {
    await page.keyboard.press('Control+j');
    await page.keyboard.type('hint');
    await expect(page.getByRole('menuitem', { name: /Hint/ })).toBeVisible();
    await expectAccessible(page);
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Hint', { exact: true })).toBeFocused();
    await page.keyboard.press('Control+j');
    await page.keyboard.type('pieces');
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Words of the question')).toHaveValue('Pieces');
    await page.getByRole('button', { name: /^Bought/ }).click();
  });
  await test.step('by keyboard', async () => {
    await page.locator('[data-line]', { hasText: 'Bought' }).focus();
    await page.keyboard.press('Alt+ArrowUp');
    await expect.poll(() => labels(page)).toEqual(['Bought', 'Tool', 'Pieces']);
    await page.keyboard.press('Control+d');
    await expect.poll(() => labels(page)).toEqual(['Bought', 'Bought', 'Tool', 'Pieces']);
    await page.keyboard.press('Control+z');
    await expect.poll(() => labels(page)).toEqual(['Bought', 'Tool', 'Pieces']);
    await page.keyboard.press('Control+Shift+z');
    await expect.poll(() => labels(page)).toEqual(['Bought', 'Bought', 'Tool', 'Pieces']);
    await page.locator('[data-line]').nth(1).focus();
    await page.keyboard.press('Delete');
    await expect.poll(() => labels(page)).toEqual(['Bought', 'Tool', 'Pieces']);
    // Taken up, moved over the next place and put down.
    await page.getByRole('button', { name: 'Move 1 Bought' }).focus();
    await page.keyboard.press('Space');
    // Pressed as by somebody who waits to hear where it would go.
    await expect(page.getByText('1 Bought may be put before Bought.')).toBeAttached();
    await page.keyboard.press('ArrowDown');
    await expect(page.getByText('1 Bought may be put before Tool.')).toBeAttached();
    await page.keyboard.press('ArrowDown');
    await expect(page.getByText('1 Bought may be put before Pieces.')).toBeAttached();
    await page.keyboard.press('Space');
    await expect.poll(() => labels(page)).toEqual(['Tool', 'Bought', 'Pieces']);
  });

  await test.step('by mouse, also into repeating rows', async () => {
    await page.getByLabel('Next question').fill('Parts');
    await page.getByLabel('Next question').press('Enter');
    await choose(page, /Kind of answer/, 'repeating rows');
    const handle = page.getByRole('button', { name: 'Move 3 Pieces' });
    await handle.hover();
    await page.mouse.down();
    await page.getByLabel('Next column of Parts').hover();
    await page.mouse.move(400, 500, { steps: 3 });
    await page.getByLabel('Next column of Parts').hover();
    await page.mouse.up();
    await expect(page.getByRole('button', { name: 'Move the column Pieces' })).toBeAttached();
    await expect(page.getByRole('button', { name: 'Move 3 Parts' })).toBeAttached();
  });

  await test.step('a text shows a picture', async () => {
    await page.getByLabel('Next question').fill('Before you begin');
    await page.getByLabel('Next question').press('Enter');
    await choose(page, /Kind of answer/, 'fixed text');
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('button', { name: 'Add a picture' }).click(),
    ]);
    await chooser.setFiles({ name: 'left_tap.png', mimeType: 'image/png', buffer: await drawnPicture() });
    const picture = page.getByRole('img', { name: 'left tap' });
    await expect.poll(() => picture.evaluate((one: HTMLImageElement) => one.naturalWidth)).toBe(64);
    await page.getByRole('button', { name: 'Take it out' }).click();
    await expect(picture).toBeHidden();
  });

  await test.step('several at once, and in sections', async () => {
    await page.getByRole('button', { name: 'Section', exact: true }).last().click();
    await page.getByLabel('Title of the section, here too').fill('What it costs');
    await choose(page, /Columns of the section/, 'two columns');
    await page.locator('[data-line]', { hasText: 'Tool' }).first().click();
    await page
      .locator('[data-line]', { hasText: 'Bought' })
      .first()
      .click({ modifiers: ['Shift'] });
    await expect(page.getByText('2 lines in hand')).toBeVisible();
    await choose(page, /Must they be filled/, 'must be filled');
    await choose(page, /Where they are taken/, 'What it costs');
    await expect(page.getByRole('region', { name: 'What it costs' }).locator('[data-line]')).toHaveCount(2);
    await expectAccessible(page);
    await expect(page.getByText(/All edits saved/)).toBeVisible();
    await page.reload();
    await settled(page);
    await expect(
      page.getByRole('region', { name: 'What it costs' }).getByLabel('must be filled'),
    ).toHaveCount(2);
  });
});

/** The draft is filled without anything being kept; answers that are kept are played again after an edit. */
test('an owner rehearses a form before anybody fills it', async ({ browser }) => {
  const { page } = await seat(browser, 'ines.okafor');
  const face = (name: string) =>
    page.getByRole('navigation', { name: 'Faces of the form' }).getByRole('button', { name }).click();
  await newForm(page, 'Pot count');
  await paste(page, 'Next question', 'How many pots?\nWhen were they counted?');
  await page.locator('[data-line]', { hasText: 'How many' }).click();
  await choose(page, /Must it be filled/, 'must be filled');
  await face('Rehearse');
  await expect(page.getByText('1 thing to fix before it can be sent')).toBeVisible();
  await page.getByRole('textbox', { name: 'How many pots?' }).fill('12');
  await typeDay(page, 'When were they counted?', inDays(-1));
  const rows = page.getByRole('region', { name: /Rows this would write/ });
  await expect(rows.getByText(/^pot_count/)).toBeVisible();
  await expect(rows).toContainText('how_many_pots 12');
  await expect(rows).toContainText('they were made for the rehearsal, and put back');
  await expectAccessible(page);
  await page.getByLabel('Name of the example').fill('A dozen');
  await page.getByLabel('Name of the example').press('Enter');
  await expect(page.getByText('all end as before')).toBeVisible();

  // A check that the kept answers break is told here and before the release.
  await face('Check');
  await choose(page, /Line of the new check/, /How many pots/);
  await choose(page, /Comparison/, 'at most');
  await page.getByLabel('Value', { exact: true }).fill('10');
  await page.getByLabel('Message').fill('Ten at most.');
  await face('Rehearse');
  await expect(page.getByText('1 ends differently')).toBeVisible();
  await expect(page.getByText('Stops: Ten at most.')).toBeVisible();
  await expect(page.getByText('12 <= 10')).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'How many pots?' })).toHaveValue('12');
  await face('Release');
  await expect(page.getByText(/A dozen ends differently/)).toBeVisible();
  await page.getByRole('button', { name: 'Release 1 for everybody to fill' }).click();
  await expect(page.getByText('Release 1 is live')).toBeVisible();
});

/** Two people design the same form: each sees the other's line in hand, and nothing of either is lost. */
test('two owners work on one draft', async ({ browser }) => {
  const [ines, wren] = [await seat(browser, 'ines.okafor'), await seat(browser, 'wren.calloway')];
  const [one, two] = [ines.page, wren.page];
  await newForm(one, 'Water round');
  await paste(one, 'Next question', 'House\nLitres\nNote');
  await expect(one.getByText(/All edits saved/)).toBeVisible();
  await open(two, new URL(one.url()).pathname);
  await settled(two);
  await expect(one.getByText('Wren Calloway designs it too')).toBeVisible();
  await two.locator('[data-line]', { hasText: 'Litres' }).click();
  await expect(one.getByText('Wren Calloway is here')).toBeVisible();

  // Both type at once, each in another line.
  await two.getByLabel('Words of the question').fill('Litres given');
  await one.locator('[data-line]', { hasText: 'House' }).click();
  await one.getByLabel('Words of the question').fill('Which house');
  for (const page of [one, two]) {
    await expect(page.locator('[data-line]', { hasText: 'Which house' })).toBeVisible();
    await expect(page.locator('[data-line]', { hasText: 'Litres given' })).toBeVisible();
    await expect(page.getByText(/All edits saved/)).toBeVisible();
  }
  // Ines takes back what she did, and not what Wren did.
  await one.keyboard.press('Control+z');
  await expect(two.locator('[data-line]', { hasText: /^House/ })).toBeVisible();
  await expect(one.locator('[data-line]', { hasText: 'Litres given' })).toBeVisible();
});

/** Answers go into columns that are there, by drag and by pick; a stock is lowered with each sheet, and never below nothing. */
test('what is sent is stored where its owner says, and written on besides', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  const mark = Date.now() % 100_000;
  await newForm(page, `Handed out ${mark}`);
  await paste(page, 'Next question', 'Product\tMillilitres\tHanded to\nx\t3\ty');
  await expect.poll(() => labels(page)).toEqual(['Product', 'Millilitres', 'Handed to']);
  await page.getByRole('button', { name: /^Product/ }).click();
  await choose(page, /Kind of answer/, 'lookup');
  await choose(page, /Table to pick from/, 'Products');
  const face = (name: string) =>
    page.getByRole('navigation', { name: 'Faces of the form' }).getByRole('button', { name });
  await face('Store').click();

  await test.step('into a table that is there, and back', async () => {
    await choose(page, /Table the answers go to/, 'Volunteers');
    const columns = page.getByRole('list', { name: 'Columns of Volunteers' });
    await expect(columns.getByText('not asked here')).toHaveCount(6);
    const from = page.getByRole('button', { name: /^Handed to, kept in/ });
    const [a, to] = [
      await from.boundingBox(),
      await columns.getByText('Name', { exact: true }).boundingBox(),
    ];
    await page.mouse.move((a?.x ?? 0) + 60, (a?.y ?? 0) + 15);
    await page.mouse.down();
    await page.mouse.move((to?.x ?? 0) + 10, (to?.y ?? 0) + 10, { steps: 8 });
    await page.mouse.up();
    await expect(page.getByRole('button', { name: 'Handed to, kept in Name' })).toBeVisible();
    // What is of another kind is said, and mended by one click.
    await choose(page, /Column it is kept in/, 'With us since');
    await expect(columns.getByText('other kind')).toBeVisible();
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Ask for date' }).click();
    await expect(columns.getByText('other kind')).toBeHidden();
    for (let i = 0; i < 4; i++) await page.getByRole('button', { name: /^Undo/ }).click();
    await expect(page.getByRole('button', { name: /Table the answers go to/ })).toContainText('a new table');
  });

  await test.step('and takes it from the stock', async () => {
    await choose(page, 'Lookup whose record is changed', 'Product');
    await choose(page, 'Another column', 'In stock');
    await choose(page, /What becomes of In stock/, 'is lowered by');
    await choose(page, /What In stock becomes/, 'millilitres');
    await expect(
      page.getByRole('button', { name: /record of Product is changed: In stock is lowered by/ }),
    ).toBeVisible();
    await expectAccessible(page);
    await face('Release').click();
    await page.getByRole('button', { name: /^Release 1/ }).click();
    await expect(page.getByText(/this form would change records there/)).toBeVisible();
    await page.getByRole('button', { name: 'Release it all the same' }).click();
    await page.getByRole('link', { name: 'Fill it in' }).click();
    await page.waitForURL(/\/fill\//);
    await settled(page);
  });

  await test.step('as whoever sends it, who may not change that table', async () => {
    const maren = await seat(browser, 'maren.solheim');
    await open(maren.page, new URL(page.url()).pathname);
    const fill = async (amount: string) => {
      // Whichever comes first: other journeys rename products.
      await find(maren.page, 'Product', '', /./);
      await maren.page.getByRole('textbox', { name: 'Millilitres' }).fill(amount);
      await maren.page.getByRole('textbox', { name: 'Handed to' }).fill('Pell');
      await maren.page.getByRole('button', { name: /^Send and keep/ }).click();
    };
    await fill('9999999');
    await expect(maren.page.getByText(/so 9999999 cannot be taken from it/).first()).toBeVisible();
    await maren.page.getByRole('textbox', { name: 'Millilitres' }).fill('1');
    await maren.page.getByRole('button', { name: /^Send and keep/ }).click();
    await expect(maren.page).toHaveURL(/[?]sent/);
    expect(maren.troubles).toEqual([]);
    await maren.context.close();
  });
  expect(troubles).toEqual([]);
});

/** A form finds records by what is answered: the second of the same name is a change of the first, looked over before it is sent. */
test('what is there already is changed instead of made twice', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await newForm(page, `Tool register ${Date.now() % 100_000}`);
  await paste(page, 'Next question', 'Tool\tShelf\nSpade\tA');
  await expect.poll(() => labels(page)).toEqual(['Tool', 'Shelf']);
  const face = (name: string) =>
    page.getByRole('navigation', { name: 'Faces of the form' }).getByRole('button', { name });
  await face('Store').click();
  await page.getByRole('button', { name: /Answers that tell a record/ }).click();
  await page.getByRole('option', { name: 'Tool' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByText('which is then changed, by whoever may')).toBeVisible();
  await face('Release').click();
  await page.getByRole('button', { name: /^Release 1/ }).click();
  await page.getByRole('link', { name: 'Fill it in' }).click();
  await page.waitForURL(/\/fill\//);
  await settled(page);
  const address = new URL(page.url()).pathname;
  const fill = async (shelf: string) => {
    await page.getByRole('textbox', { name: 'Tool' }).fill('Spade');
    await page.getByRole('textbox', { name: 'Shelf' }).fill(shelf);
    await page.getByRole('button', { name: /^Send and keep/ }).click();
  };
  await fill('A');
  await expect(page).toHaveURL(/[?]sent/);
  await open(page, address);
  await fill('B');
  await expect(page.getByText(/has this already/).first()).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Go on as a change of it' }).click();
  await expect(page.locator('#margin').getByText('Shelf')).toBeVisible();
  await settled(page);
  await page.getByRole('button', { name: /^Save/ }).first().click();
  await expect(page).toHaveURL(/\?sent/);
  expect(troubles).toEqual([]);
});

/** Whoever has begun goes on with what is new, and sends what the owner went back to. */
test('a draft goes on with the next release, and its owner goes back to the first', async ({ browser }) => {
  const [{ page }, maren] = [await seat(browser, 'ines.okafor'), await seat(browser, 'maren.solheim')];
  const face = (name: string) =>
    page.getByRole('navigation', { name: 'Faces of the form' }).getByRole('button', { name }).click();
  const release = async (number: number, note?: string) => {
    await face('Release');
    if (note !== undefined) await page.getByLabel('What is new, for whoever goes on').fill(note);
    await page.getByRole('button', { name: new RegExp(`^Release ${number}`) }).click();
    await expect(page.getByText(`Release ${number} is live`)).toBeVisible();
    await settled(page);
  };
  await newForm(page, 'Gate count');
  await paste(page, 'Next question', 'Gate\nHow many came?');
  await release(1);
  await open(maren.page, '/fill/gate_count');
  await maren.page.getByRole('textbox', { name: 'Gate' }).fill('North');
  await expect(maren.page.getByText(/^Saved/)).toBeVisible();

  await test.step('what differs is marked, and said to whoever goes on', async () => {
    await face('Ask');
    await page.locator('[data-line]', { hasText: 'How many' }).click();
    await page.getByLabel('Words of the question').fill('How many visitors came?');
    await page.getByLabel('Next question').fill('Weather');
    await page.getByLabel('Next question').press('Enter');
    await expect(page.locator('[data-line]', { hasText: 'Weather' }).getByText('new')).toBeVisible();
    await expect(page.locator('[data-line]', { hasText: 'How many' }).getByText('changed')).toBeVisible();
    await release(2, 'The weather is asked from now on.');
    await maren.page.reload();
    await settled(maren.page);
    await expect(maren.page.getByText('The weather is asked from now on.')).toBeVisible();
    await maren.page.getByRole('button', { name: /Go on with/ }).click();
    await settled(maren.page);
    await expect(maren.page.getByRole('textbox', { name: 'Gate' })).toHaveValue('North');
    await expect(maren.page.getByRole('textbox', { name: 'Weather' })).toBeVisible();
  });

  await test.step('a return is a release like others', async () => {
    await page.getByRole('button', { name: /^Release 1/ }).click();
    await expect(page.getByText('The first.')).toBeVisible();
    await page.getByRole('button', { name: 'Go back to it' }).click();
    await expect(page.getByText('“Weather” is asked no more')).toBeVisible();
    await release(3);
    await maren.page.reload();
    await maren.page.getByRole('button', { name: 'Go on with release 3' }).click();
    await expect(maren.page.getByText('How many came?')).toBeVisible();
    await settled(maren.page);
    await expect(maren.page.getByRole('textbox', { name: 'Gate' })).toHaveValue('North');
    await expect(maren.page.getByRole('textbox', { name: 'Weather' })).toBeHidden();
  });
});
