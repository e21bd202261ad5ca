import { chromium, type Browser, type Page } from '@playwright/test';

/** A browser in which whoever has these cookies is signed in. */
export async function seatOf(origin: string, cookie: string): Promise<{ browser: Browser; page: Page }> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-dev-shm-usage'],
  });
  const context = await browser.newContext({ baseURL: origin, viewport: { width: 1280, height: 800 } });
  const [name = '', ...value] = (cookie.split(';')[0] ?? '').split('=');
  await context.addCookies([{ name, value: value.join('='), url: origin }]);
  return { browser, page: await context.newPage() };
}
