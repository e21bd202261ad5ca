import { randomBytes } from 'node:crypto';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { expectAccessible, find, open, seat, settled, typeDay, inDays } from './people';

/** A photo of some megabytes, which needs several pieces. */
async function photo(): Promise<Buffer> {
  const side = 1_000;
  return sharp(randomBytes(side * side * 3), { raw: { width: side, height: side, channels: 3 } })
    .webp({ lossless: true, effort: 0 })
    .toBuffer();
}

test('photos are brought on a line that is cut in the middle, found again after a reload, sent, and seen with the record', async ({
  browser,
}) => {
  const { page, context, troubles } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/bed_inspection');
  const bytes = await photo();
  expect(bytes.length).toBeGreaterThan(1_500_000);
  let pieces = 0;
  const cut = async () => {
    // The second piece is lost on its way, and then the line is gone for a while.
    await context.setOffline(true);
    setTimeout(() => void context.setOffline(false), 2_500);
  };
  await page.route('**/pieces/*', async (route) => {
    pieces += 1;
    if (pieces === 2) {
      await cut();
      return route.abort();
    }
    return route.continue();
  });
  const photos = page.getByRole('group', { name: 'Photos', exact: true }).last();
  await photos.locator('input[type=file]').setInputFiles([
    { name: 'north bench.webp', mimeType: 'application/octet-stream', buffer: bytes },
    { name: 'leaf.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('<html><script>alert(1)</script>') },
  ]);
  // What is typed meanwhile is typed; nothing is sent without what is still on its way.
  await page.getByLabel('Notes').last().fill('With a photo');
  await expect(photos.getByRole('link', { name: /north bench/ })).toBeVisible({ timeout: 60_000 });
  await expect(photos.getByText('This is no photo that can be shown')).toBeVisible();
  expect(pieces).toBeGreaterThan(2);
  await photos.getByRole('button', { name: 'Put away' }).click();
  await expect(photos.getByRole('link', { name: 'north bench.webp' }).locator('img')).toBeVisible();
  await expectAccessible(page);
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  await page.reload();
  await settled(page);
  await expect(page.getByRole('link', { name: 'north bench.webp' }).locator('img')).toBeVisible();
  await find(page, 'Bed', 'G4-03', /G4-03/);
  await typeDay(page, 'Inspected on', inDays(-1));
  await page.getByRole('button', { name: /How does it look\?$/ }).click();
  await page.getByRole('option').first().click();
  await page.getByLabel('Plants lost').last().fill('0');
  await page.getByRole('radio', { name: 'No' }).check();
  await page.getByRole('button', { name: /^Send and keep/ }).click();
  await expect(page.getByText(/^Sent as BI-/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'north bench.webp' }).locator('img')).toBeVisible();
  const number = /BI-\d{4}-\d+/.exec(await page.getByText(/^Sent as BI-/).innerText())?.[0] ?? '';
  await open(page, `/tables/inspections/${number}`);
  await expect(page.getByRole('link', { name: 'north bench.webp' }).locator('img')).toBeVisible();
  // An address of ours that shows what people brought runs nothing of it.
  const address = await page.getByRole('link', { name: 'north bench.webp' }).getAttribute('href');
  const answer = await context.request.get(address ?? '');
  expect(answer.headers()).toMatchObject({
    'content-type': 'image/webp',
    'content-security-policy': "default-src 'none'; sandbox",
    'x-content-type-options': 'nosniff',
  });
  const again = await context.request.get(address ?? '', {
    headers: { 'if-none-match': answer.headers()['etag'] ?? '' },
  });
  expect(again.status()).toBe(304);
  expect(troubles.filter((one) => !/ERR_(FAILED|INTERNET_DISCONNECTED)/.test(one))).toEqual([]);
});

test('a photo that was on its way when the page was closed goes on where it stopped', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'maren.solheim');
  await open(page, '/fill/bed_inspection');
  const brought: string[] = [];
  let isHeld = true;
  await page.route('**/pieces/*', async (route) => {
    const piece = new URL(route.request().url()).pathname.split('/').at(-1) ?? '';
    if (isHeld && piece !== '0') return route.abort();
    brought.push(piece);
    return route.continue();
  });
  const photos = page.getByRole('group', { name: 'Photos', exact: true }).last();
  await photos
    .locator('input[type=file]')
    .setInputFiles([
      { name: 'south bench.webp', mimeType: 'application/octet-stream', buffer: await photo() },
    ]);
  await expect.poll(() => brought).toEqual(['0']);
  // Nothing was typed; the draft is there all the same, and so is what was on its way.
  await expect(page.getByText(/^Saved/).first()).toBeVisible();
  await page.reload();
  isHeld = false;
  await expect(page.getByRole('link', { name: 'south bench.webp' }).locator('img')).toBeVisible();
  expect(brought.length).toBeGreaterThan(2);
  expect(new Set(brought).size).toBe(brought.length);
  await page.reload();
  await settled(page);
  await expect(page.getByRole('link', { name: 'south bench.webp' })).toHaveCount(1);
  await expect(page.getByText(/is on its way/)).toHaveCount(0);
  expect(troubles.filter((one) => !/ERR_FAILED/.test(one))).toEqual([]);
});
