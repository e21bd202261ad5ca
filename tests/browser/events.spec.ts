import { expect, test, type APIRequestContext } from '@playwright/test';
import { choose, expectAccessible, open, seat, settled } from './people';

const NOTICEBOARD = `http://127.0.0.1:${process.env['SLATE_NOTICEBOARD_PORT']}`;
interface Notice {
  readonly id: string;
  readonly type: string;
  readonly data: { readonly id?: string };
}
const noticed = async (request: APIRequestContext): Promise<Notice[]> =>
  (await (await request.get(`${NOTICEBOARD}/events.json`)).json()) as Notice[];

test('a program outside is told what happens, also what it did not take at first; another asks for it by a token', async ({
  browser,
}) => {
  const { page, context, troubles } = await seat(browser, 'wren.calloway');
  const { request } = context;
  const label = `Watering plan ${Date.now() % 10_000}`;
  let token = '';
  const bed = async (): Promise<string> => {
    const made = await request.post('/api/v1/tables/beds/records', {
      headers: { authorization: `Bearer ${token}` },
      data: {
        code: `EV-${Date.now() % 1_000_000}`,
        name: 'By a program',
        section: 'Woodland',
        area: '2',
        open_to_visitors: true,
      },
    });
    expect(made.status()).toBe(201);
    return ((await made.json()) as { id: string }).id;
  };
  const answers = (yes: boolean) =>
    request.post(`${NOTICEBOARD}/answers`, { form: { answers: yes ? 'yes' : 'no' }, maxRedirects: 0 });

  await test.step('a token follows beds', async () => {
    await open(page, '/tokens');
    await page.getByRole('button', { name: 'New token' }).click();
    await page.getByLabel('Which program is it for?').fill(label);
    await choose(page, /Whom it acts for/, /^Kofi Renwick/);
    await choose(page, /Tables it adds to/, 'Beds');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Make the token' }).click();
    token = await page.getByLabel('Secret of the token').inputValue();
  });

  await test.step('an address is told of them as well', async () => {
    await open(page, '/people');
    await page.getByRole('link', { name: 'Events' }).click();
    await page.waitForURL('**/events');
    await settled(page);
    await page.getByRole('button', { name: /^Noticeboard/ }).click();
    await page.getByRole('button', { name: 'Change it' }).click();
    await choose(page, /Tables it follows/, 'Beds');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText(/Records made and removed in Beds and Treatments/)).toBeVisible();
    await expectAccessible(page);
  });

  await test.step('what happens is told at once, signed, and the same by the feed', async () => {
    const id = await bed();
    await expect.poll(async () => (await noticed(request)).map(({ data }) => data.id)).toContain(id);
    const told = (await noticed(request)).find(({ data }) => data.id === id);
    expect(told?.type).toBe('tidy-slate.record.made');
    const feed = await request.get(`/api/v1/events?lastEventId=${Number(told?.id) - 1}`, {
      headers: { authorization: `Bearer ${token}` },
    });
    expect(feed.headers()['content-type']).toContain('application/cloudevents-batch+json');
    expect(((await feed.json()) as Notice[])[0]).toMatchObject({ id: told?.id, data: { id } });
    await expect(page.getByText(/^Record made B-/).first()).toBeVisible();
    await page
      .getByRole('button', { name: /^Tell it again: Record made/ })
      .first()
      .click();
    await expect(page.getByText('It was told again')).toBeVisible();
    // The same event is one notice.
    expect((await noticed(request)).filter(({ data }) => data.id === id)).toHaveLength(1);
  });

  await test.step('what was not taken waits, and is told when it is', async () => {
    await answers(false);
    const id = await bed();
    await expect(page.getByText('Takes nothing')).toBeVisible();
    await expect(page.getByText('answered 503').first()).toBeVisible();
    await expectAccessible(page);
    await answers(true);
    await page.getByRole('button', { name: 'Try again now' }).click();
    await expect.poll(async () => (await noticed(request)).map(({ data }) => data.id)).toContain(id);
    await expect(page.getByText('told as it happens')).toBeVisible();
    // As it was before.
    await choose(page, /Tables it follows/, 'Beds');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText(/Records made and removed in Treatments/)).toBeVisible();
  });

  await test.step('nothing is told inside, or in the open, and what is made is removed', async () => {
    await page.getByRole('button', { name: 'New address' }).click();
    await page.getByLabel('Which program listens there?').fill(label);
    await page.getByLabel('Address', { exact: true }).fill('http://10.0.0.1/told');
    await choose(page, /As whom it sees/, /^Ines Okafor/);
    await choose(page, /Forms it follows/, 'School visit');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Make the address' }).click();
    await expect(page.getByText('lies inside your own network')).toBeVisible();
    await expectAccessible(page);
    await page.getByLabel('Address', { exact: true }).fill(`${NOTICEBOARD}/events`);
    await page.getByRole('button', { name: 'Make the address' }).click();
    await expect(page.getByLabel('Secret of the address')).toHaveValue(/^whsec_/);
    // It was given another secret than the noticeboard knows.
    await page.getByRole('button', { name: new RegExp(`^${label}`) }).click();
    await page.getByRole('button', { name: 'Try it' }).click();
    await expect(page.getByText('answered 401')).toBeVisible();
    await page.getByRole('button', { name: 'Remove it' }).click();
    await page.getByRole('button', { name: /never told/ }).click();
    await expect(page.getByRole('button', { name: new RegExp(`^${label}`) })).toHaveCount(0);
  });
  expect(troubles).toEqual([]);
});
