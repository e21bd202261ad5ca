import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Browser, type BrowserContext, type Page } from '@playwright/test';

/** A signed-in page of its own, whose console errors fail the test that looks at them. */
export interface Seat {
  readonly page: Page;
  readonly context: BrowserContext;
  readonly troubles: string[];
}

export async function seat(
  browser: Browser,
  email: string,
  viewport = { width: 1280, height: 800 },
): Promise<Seat> {
  await leaveOthers();
  const context = await browser.newContext({ viewport });
  opened.set(context, test.info().testId);
  const page = await context.newPage();
  const troubles: string[] = [];
  // A refused request is logged by the browser itself, and is part of what is tested.
  page.on(
    'console',
    (message) =>
      void (
        message.type() === 'error' &&
        !message.text().includes('the server responded with a status of') &&
        troubles.push(message.text())
      ),
  );
  page.on('pageerror', (error) => void troubles.push(error.message));
  await signIn(context, email);
  return { page, context, troubles };
}

/** The windows of all journeys. Those of one that is over are closed, for a person listens in so many at most. */
const opened = new Map<BrowserContext, string>();
async function leaveOthers(): Promise<void> {
  const now = test.info().testId;
  for (const [context, of] of opened)
    if (of !== now) {
      opened.delete(context);
      await context.close();
    }
}

/** Of everybody in the sample world. */
export const password = 'quillmere-garden';

/** A session lasts from one journey to the next: checking a password takes as long as opening three pages, and is to. */
const sessions = new Map<string, Awaited<ReturnType<BrowserContext['cookies']>>>();

async function signIn(context: BrowserContext, email: string): Promise<void> {
  await context.addCookies(sessions.get(email) ?? []);
  // Somebody may have signed out of it, or been shown out, in a journey before.
  if (sessions.has(email) && (await context.request.get('/api/waiting')).ok()) return;
  const entered = await context.request.post('/api/sign-in', {
    data: { email: `${email}@quillmere.example`, password },
  });
  expect(entered.ok()).toBe(true);
  sessions.set(email, await context.cookies());
}

/** Opens an address and waits until its islands answer. */
export async function open(page: Page, path: string): Promise<void> {
  // A page that is told of a change at this very moment loads itself anew, and ends the way to another one.
  await page.goto(path).catch((error: unknown) => {
    if (!String(error).includes('ERR_ABORTED')) throw error;
    return page.goto(path);
  });
  await settled(page);
}

/** After a link or a button led to another page. */
export async function settled(page: Page): Promise<void> {
  await page.waitForLoadState('domcontentloaded');
  // Looked for with every frame; an expectation waits up to half a second between two looks. An island that says it answers may not have taken up its buttons yet, and
  // what is typed before that is nobody's. Where the page goes on to another meanwhile, that one is waited for.
  await page.waitForFunction(() => {
    const isTakenUp = (one: Element): boolean =>
      Object.keys(one).some((key) => key.startsWith('__reactProps'));
    return (
      document.querySelector('astro-island[ssr], [data-likeness]') === null &&
      [...document.querySelectorAll('astro-island button')].every(isTakenUp)
    );
  });
}

export async function expectAccessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
    // What passes is not described, and no page of its own is opened to put frames together, for there are none: each takes longer than looking.
    .options({ resultTypes: ['violations'], selectors: false })
    .setLegacyMode(true)
    .analyze();
  expect(
    violations.map(({ id, nodes }) => ({ id, at: nodes.slice(0, 3).map(({ html }) => html.slice(0, 160)) })),
  ).toEqual([]);
}

/** Picks one of several in a select or a lookup. */
export async function choose(page: Page, name: string | RegExp, option: string | RegExp): Promise<void> {
  await page.getByRole('button', { name }).click();
  await page
    .getByRole('option', { name: option, exact: typeof option === 'string' })
    .first()
    .click();
}

export async function find(page: Page, name: string, words: string, option: string | RegExp): Promise<void> {
  const box = page.getByRole('combobox', { name, exact: true });
  await box.click();
  await box.fill(words);
  // What stands there while it is looked for is an option too, of nothing.
  await page.getByRole('option', { name: option }).and(page.locator('[data-key]')).first().click();
}

/** Types a day as people here write it. */
export async function typeDay(page: Page, name: string, day: string): Promise<void> {
  const box = page.getByRole('textbox', { name, exact: true });
  await box.fill(day.split('-').reverse().join('/'));
  await box.blur();
}

export const inDays = (days: number): string =>
  new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
