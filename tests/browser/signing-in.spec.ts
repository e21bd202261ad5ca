import { expect, test, type Page } from '@playwright/test';
import { timeCode } from '../support/time-code';
import { expectAccessible, open, password, seat, settled } from './people';

const email = 'ruo.lindqvist@quillmere.example';

async function giveEmailAndPassword(page: Page): Promise<void> {
  await open(page, '/sign-in');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password', { exact: true }).fill(password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
}

test('a code is asked for besides the password, good once, and an administrator takes it off', async ({
  browser,
}) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  await giveEmailAndPassword(page);
  await page.waitForURL(/\/$/);
  let secret = '';
  let spare = '';

  await test.step('it is set up with the password, and holds from the first code on', async () => {
    await open(page, '/account');
    const codes = page.getByRole('region', { name: 'A code besides the password' });
    await codes.getByRole('button', { name: 'Set it up' }).click();
    await codes.getByLabel('Your password, once more').fill('not this one');
    await codes.getByRole('button', { name: 'Set it up' }).click();
    await expect(codes.getByText('This is not your present password')).toBeVisible();
    await codes.getByLabel('Your password, once more').fill(password);
    await codes.getByRole('button', { name: 'Set it up' }).click();
    await expect(codes.getByRole('img', { name: 'The picture for your program' })).toBeVisible();
    await expectAccessible(page);
    secret = await codes.locator('code').innerText();
    spare = await codes.getByRole('list', { name: 'Spare codes' }).getByRole('listitem').first().innerText();
    await codes.getByLabel(/^Type the six figures/).fill('000000');
    await codes.getByRole('button', { name: 'Ask me for a code from now on' }).click();
    await expect(codes.getByText(/^This code is not right/)).toBeVisible();
    await codes.getByLabel(/^Type the six figures/).fill(timeCode(secret));
    await codes.getByRole('button', { name: 'Ask me for a code from now on' }).click();
    await expect(
      codes.getByText('Signing in asks you for a code of your program.', { exact: false }),
    ).toBeVisible();
  });

  const other = await browser.newContext();
  const there = await other.newPage();
  await test.step('the password alone lets nobody in', async () => {
    await giveEmailAndPassword(there);
    await expect(there.getByRole('heading', { name: 'One more step' })).toBeVisible();
    await expectAccessible(there);
    expect((await other.request.get('/api/home')).status()).toBe(401);
    await there.getByLabel('Code', { exact: true }).fill('123456');
    await there.getByRole('button', { name: 'Sign in' }).click();
    await expect(there.getByText(/^This code is not right/)).toBeVisible();
    const code = timeCode(secret);
    await there.getByLabel('Code', { exact: true }).fill(code);
    await Promise.all([there.waitForURL(/\/$/), there.getByRole('button', { name: 'Sign in' }).click()]);
    // Whoever looked over a shoulder is not let in by what they saw.
    const third = await browser.newContext();
    const sent = await third.request.post('/api/sign-in', { data: { email, password } });
    expect(await sent.json()).toEqual({ asksCode: true });
    expect((await third.request.post('/api/sign-in/code', { data: { code } })).status()).toBe(403);
    expect((await third.request.get('/api/home')).status()).toBe(401);
    // Without the telephone a spare code does, once.
    expect((await third.request.post('/api/sign-in/code', { data: { code: spare } })).status()).toBe(200);
    expect((await third.request.get('/api/home')).status()).toBe(200);
    await third.request.post('/api/sign-in', { data: { email, password } });
    expect((await third.request.post('/api/sign-in/code', { data: { code: spare } })).status()).toBe(403);
    await third.close();
  });

  await test.step('an administrator takes it off for whoever has lost it', async () => {
    const wren = await browser.newContext();
    await wren.request.post('/api/sign-in', { data: { email: 'wren.calloway@quillmere.example', password } });
    const people = await wren.newPage();
    await open(people, '/people');
    await people.getByRole('button', { name: /^Ruo Lindqvist/ }).click();
    await people.getByRole('button', { name: 'Take their codes off' }).click();
    await expect(people.getByRole('button', { name: 'Take their codes off' })).toHaveCount(0);
    expect((await other.request.get('/api/home')).status()).toBe(401);
    await open(people, '/trail');
    await expect(people.getByText('Ruo Lindqvist signs in without a code from now on').first()).toBeVisible();
    await giveEmailAndPassword(there);
    await there.waitForURL(/\/$/);
    await wren.close();
  });
  await other.close();
  await context.close();
});

test('a passkey is made on a device, and lets its owner in without a password', async ({
  browser,
  baseURL,
}) => {
  const context = await browser.newContext({
    baseURL: (baseURL ?? '').replace('127.0.0.1', 'localhost'),
  });
  const page = await context.newPage();
  // A device with a key store that asks for a finger, by the protocol of the browser's tools.
  const tools = await context.newCDPSession(page);
  await tools.send('WebAuthn.enable');
  await tools.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  await giveEmailAndPassword(page);
  await page.waitForURL(/\/$/);
  await open(page, '/account');
  const passkeys = page.getByRole('region', { name: 'Passkeys' });
  await passkeys.getByRole('button', { name: 'Add a passkey' }).click();
  await passkeys.getByLabel('Your password, once more').fill(password);
  await passkeys.getByRole('button', { name: 'Add a passkey' }).click();
  await expect(passkeys.getByText(/^since .*, not used yet$/)).toBeVisible();
  await expectAccessible(page);

  const signInByIt = async (): Promise<void> => {
    await page.goto('about:blank');
    await context.clearCookies();
    await open(page, '/sign-in');
    await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
  };
  await signInByIt();
  await page.waitForURL(/\/$/);
  await settled(page);
  await open(page, '/account');
  await expect(passkeys.getByText(/^since .*, used last /)).toBeVisible();
  await passkeys.getByRole('button', { name: /^Remove the passkey/ }).click();
  await expect(passkeys.getByRole('button', { name: 'Add a passkey' })).toBeVisible();
  await signInByIt();
  await expect(page.getByText(/^This passkey is not known here/)).toBeVisible();
  await context.close();
});

test('people come by a service outside that knows them, and nobody else does', async ({ browser }) => {
  const wren = await seat(browser, 'wren.calloway');
  await open(wren.page, '/workspace');
  const provider = wren.page.getByRole('region', { name: 'Signing in by another service' });
  const offer = async (issuer: string): Promise<void> => {
    await provider.getByLabel('What people call it').fill('Garden account');
    await provider.getByLabel('Its address').fill(issuer);
    await provider.getByLabel('What it calls this workspace').fill('tidy-slate');
    await provider.getByLabel('The secret it has given').fill('shared-with-the-garden');
    await provider.getByRole('button', { name: 'Offer it' }).click();
  };
  await offer('http://127.0.0.1:9');
  await expect(provider.getByText(/^No OpenID Connect service answers/)).toBeVisible();
  await offer(`http://127.0.0.1:${process.env['SLATE_IDENTITY_PORT']}`);
  await expect(provider.getByText(/^Saved/)).toBeVisible();
  await expectAccessible(wren.page);

  const context = await browser.newContext();
  const page = await context.newPage();
  const come = async (who: string): Promise<void> => {
    await open(page, '/sign-in?to=%2Fapprovals');
    await page.getByRole('link', { name: 'Sign in with Garden account' }).click();
    await page.getByRole('link', { name: who }).click();
  };
  await come('Somebody else');
  await expect(page.getByText(/^Nobody here has the e-mail address/)).toBeVisible();
  expect((await context.request.get('/api/home')).status()).toBe(401);
  await come('Tomasz Bielak');
  await page.waitForURL(/\/approvals$/);
  await expect(page.getByRole('banner').getByText('Tomasz Bielak')).toBeVisible();
  // What leads back is good once, and in the browser that left alone. The page still asks for what waits, and would
  // lead to the sign-in page in the middle of this without its cookie.
  await page.goto('about:blank');
  await context.clearCookies();
  const back = await page.goto('/sign-in/back?code=made-up&state=made-up');
  expect(back?.status()).toBe(200);
  await expect(page.getByText(/^That took too long, or was done already/)).toBeVisible();

  await provider.getByRole('button', { name: 'Take it away' }).click();
  await expect(provider.getByText('Nobody signs in by it any more.')).toBeVisible();
  await open(page, '/sign-in');
  await expect(page.getByRole('link', { name: /^Sign in with/ })).toHaveCount(0);
  await context.close();
});
