import { expect, test } from '@playwright/test';
import { choose, expectAccessible, open, seat, settled } from './people';

const views = [
  '/',
  '/fill/treatment_request',
  '/fill/plant_intake',
  '/approvals',
  '/forms',
  '/imports',
  '/tables',
  '/tables?as=picture',
  '/tables/accessions',
  '/tables/beds/design',
  '/tables/lots',
  '/lists',
  '/lists/01900000-0000-7000-b100-000000000002',
  '/sources',
  '/sources/01900000-0000-7000-b000-000000000001',
  '/new-table',
  '/account',
  '/tables/treatments?sort=-total&find=fern',
  '/nowhere',
  '/submissions/not-an-id',
];

for (const width of [1280, 390]) {
  test(`every view is accessible and fits at ${width} px`, async ({ browser }) => {
    const { page, troubles } = await seat(browser, 'ines.okafor', { width, height: 800 });
    for (const view of views) {
      await open(page, view);
      await expectAccessible(page);
      expect([
        view,
        await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth),
      ]).toEqual([view, 0]);
    }
    expect(troubles).toEqual([]);
  });
}

test('what administrators look at is accessible and fits on a telephone', async ({ browser }) => {
  const { page, troubles } = await seat(browser, 'wren.calloway', { width: 390, height: 800 });
  for (const view of ['/people', '/tokens', '/events', '/trail', '/forgotten']) {
    await open(page, view);
    await expectAccessible(page);
    expect([
      view,
      await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth),
    ]).toEqual([view, 0]);
  }
  expect(troubles).toEqual([]);
});

test('signing in: a wrong password is told, a sample person enters by one click, and only our own paths are gone to', async ({
  page,
}) => {
  await open(page, '/sign-in?to=https://elsewhere.example/');
  await expectAccessible(page);
  await page.getByLabel('E-mail').fill('maren.solheim@quillmere.example');
  await page.getByLabel('Password').fill('wrong-password');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('do not belong together')).toBeVisible();
  await page.getByRole('button', { name: /^Maren Solheim/ }).click();
  await expect(page).toHaveURL(/127\.0\.0\.1:\d+\/$/);
  await settled(page);
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await page.goto('/tables');
  await expect(page).toHaveURL(/\/sign-in\?to=%2Ftables/);
});

test('whoever is quicker than the page signs in all the same, and nothing of it stands in the address', async ({
  browser,
  request,
}) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const page = await context.newPage();
  await page.goto('/sign-in?to=%2Ftables');
  await page.getByLabel('E-mail').fill('maren.solheim@quillmere.example');
  await page.getByLabel('Password').fill('not this one');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/sign-in\?to=%2Ftables$/);
  await expect(page.getByText('This e-mail and password do not belong together')).toBeVisible();
  await page.getByLabel('E-mail').fill('maren.solheim@quillmere.example');
  await page.getByLabel('Password').fill('quillmere-garden');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/tables$/);
  const { origin } = new URL(page.url());
  await context.close();
  // A page of somewhere else signs nobody in.
  const others: Record<string, string>[] = [
    { origin: 'https://elsewhere.example' },
    { origin, 'sec-fetch-site': 'cross-site' },
    {},
  ];
  for (const headers of others) {
    const form = { email: 'maren.solheim@quillmere.example', password: 'quillmere-garden' };
    const foreign = await request.post(`${origin}/sign-in`, { form, headers, maxRedirects: 0 });
    expect([foreign.status(), foreign.headers()['location'], foreign.headers()['set-cookie']]).toEqual([
      303,
      '/sign-in',
      undefined,
    ]);
  }
  // Nor does it lead anywhere else.
  const away = await request.post(`${origin}//elsewhere.example/x`, { form: { a: 'b' }, maxRedirects: 0 });
  expect([away.status(), away.headers()['location']]).toEqual([303, '/elsewhere.example/x']);
});

test('two presses lead past the band to the margin, and none where there is no margin', async ({
  browser,
}) => {
  const { page } = await seat(browser, 'ines.okafor');
  await open(page, '/lists');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('link', { name: 'Skip to the margin' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.locator('#margin')).toBeInViewport();
  await open(page, '/nowhere');
  await expect(page.getByText('Skip to the margin')).toBeHidden();
});

test('conditions stand together as any or none of them, by keyboard, and come back from the address', async ({
  browser,
}) => {
  const { page, troubles } = await seat(browser, 'ines.okafor');
  await open(
    page,
    `/tables/accessions?where=${encodeURIComponent('state in ("growing_on") and quantity > 5')}`,
  );
  const found = page.getByRole('status').filter({ hasText: 'found' });
  const both = Number((await found.innerText()).replace(/\D/g, ''));
  await page.getByRole('button', { name: 'Quantity is more than 5' }).press('Enter');
  await page.getByRole('button', { name: 'or something else' }).press('Enter');
  const condition = page.getByRole('dialog', { name: 'Condition' });
  await choose(page, /Column$/, 'Bed › Section');
  await condition.getByRole('textbox').fill('Fern house');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/quantity\+%3E\+5\+or\+bed\.section/);
  await expect.poll(async () => Number((await found.innerText()).replace(/\D/g, ''))).toBeGreaterThan(both);
  await page.reload();
  const group = page.getByRole('group', { name: 'any of 2 conditions' });
  await expect(group.getByRole('button', { name: 'Bed › Section is Fern house' })).toBeVisible();
  await expectAccessible(page);
  await group.getByRole('button', { name: 'any of' }).press('Enter');
  await expect(page).toHaveURL(/not%28quantity/);
  await expect.poll(async () => Number((await found.innerText()).replace(/\D/g, ''))).toBeLessThan(both);
  expect(troubles).toEqual([]);
});
