import { expect, test } from '@playwright/test';
import { choose, expectAccessible, open, seat, settled } from './people';

test('a list is pasted once, taken by a column that is looked over, and changed for all who use it', async ({
  browser,
}) => {
  const { page, context, troubles } = await seat(browser, 'ines.okafor');
  await open(page, '/tables');
  await page.getByRole('link', { name: 'Choice lists' }).click();
  await settled(page);
  await expect(
    page.getByText('Used by How does it look? in Inspections, the form Bed inspection'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'New list' }).click();
  await page.keyboard.type('Packings');
  await page.getByLabel('Next choice').fill('Bottle');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Sack');
  await page.keyboard.press('Enter');
  await page.getByLabel('Code of choice 2').fill('bottle');
  await page.getByRole('button', { name: 'Make the list' }).click();
  await expect(page.getByText('“bottle” is among the choices twice')).toBeVisible();
  await page.getByLabel('Code of choice 2').fill('sack');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Make the list' }).click();
  await expect(page.getByText('By nothing yet.')).toBeVisible();
  await settled(page);

  await open(page, '/tables/products/design');
  await page.getByLabel('Next column').fill('Packed in');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /Packed in/ }).click();
  await choose(page, 'Kind of the column', 'one choice');
  await choose(page, 'Where its choices come from', 'the list Packings');
  await expect(page.getByText('Bottle, Sack.')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Look them over' }).click();
  await page.getByRole('button', { name: 'Change the table' }).click();
  await expect(page.getByText('1 change not carried out')).toBeHidden();
  await settled(page);

  const other = await context.newPage();
  await open(other, '/lists');
  await other.getByRole('link', { name: /Packings/ }).click();
  await settled(other);
  await expect(other.getByText('Packed in in Products')).toBeVisible();
  await other.getByLabel('Next choice').fill('Box');
  await other.keyboard.press('Enter');
  await other.getByRole('button', { name: 'Retire Sack' }).click();
  await expect(
    other.getByText('“Sack” is no longer offered, and stays in the records that have it'),
  ).toBeVisible();
  await expectAccessible(other);
  await other.getByRole('button', { name: 'Change the list' }).click();
  // What is to be done reads as what was done does; only when nothing is left of it, it was carried out.
  await expect(other.getByText('Nothing to carry out')).toBeVisible();
  await expect(other.getByText(/“Sack” is no longer offered.*“Box” is offered from now on/)).toBeVisible();
  await open(page, '/tables/products/design');
  await page.getByRole('button', { name: /Packed in/ }).click();
  await expect(page.getByText('Bottle, Box.')).toBeVisible();
  expect(troubles).toEqual([]);
});

test('a colleague sees a change at once, and a second owner brings theirs onto it', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  const wren = await seat(browser, 'wren.calloway');
  const maren = await seat(browser, 'maren.solheim', { width: 390, height: 844 });
  for (const one of [page, wren.page]) {
    await open(one, '/lists');
    await one.getByRole('link', { name: /Conditions/ }).click();
    await settled(one);
  }
  await wren.page.getByLabel('Next choice').fill('Asleep');
  await wren.page.keyboard.press('Enter');
  await page.getByLabel('Next choice').fill('Dormant');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Change the list' }).click();
  await expect(wren.page.getByText('Ines Okafor changed this list since you began.')).toBeVisible();
  await wren.page.getByRole('button', { name: 'Bring my changes onto theirs' }).click();
  await wren.page.getByRole('button', { name: 'Change the list' }).click();
  await expect(page.getByLabel('Words of choice 6')).toHaveValue('Asleep');

  await open(maren.page, '/fill/bed_inspection');
  await choose(maren.page, 'Choose How does it look?', 'Dormant');
  await page.getByRole('button', { name: 'Take Asleep out' }).click();
  await page.getByRole('button', { name: 'Retire Dormant' }).click();
  await page.getByRole('button', { name: 'Change the list' }).click();
  await expect(page.getByText('Nothing to carry out')).toBeVisible();
  await maren.page.reload();
  await settled(maren.page);
  // What she had chosen still stands there, and is said to be offered no more; once she chooses another it is gone.
  await expect(maren.page.getByText('“Dormant” is offered no more; choose another').first()).toBeVisible();
  await choose(maren.page, 'Dormant How does it look?', 'Fair');
  await maren.page.getByRole('button', { name: 'Fair How does it look?' }).click();
  await expect(maren.page.getByRole('option', { name: 'Poor' })).toBeVisible();
  await expect(maren.page.getByRole('option', { name: 'Dormant' })).toHaveCount(0);
  expect([...troubles, ...wren.troubles, ...maren.troubles]).toEqual([]);
});
