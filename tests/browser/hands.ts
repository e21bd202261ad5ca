import { expect, type Locator, type Page } from '@playwright/test';
import { open, settled } from './people';

/** How somebody goes to a control and chooses in it; typing is the same for everybody. */
export interface Hands {
  readonly to: (control: Locator) => Promise<void>;
  readonly press: (button: Locator) => Promise<void>;
  readonly choose: (select: Locator, option: RegExp) => Promise<void>;
}

export const byMouse = (page: Page): Hands => ({
  to: (control) => control.click(),
  press: (button) => button.click(),
  choose: async (select, option) => {
    await select.click();
    await page.getByRole('option', { name: option }).first().click();
  },
});

/** More than anybody would press; whoever gets lost does not go round for ever. */
const MOST_TABS = 120;

export const byKeyboard = (page: Page): Hands => {
  const focused = (control: Locator) => control.evaluate((one) => one === document.activeElement);
  const to = async (control: Locator) => {
    await expect(control).toBeVisible();
    for (let i = 0; i < MOST_TABS; i++) {
      if (await focused(control)) return;
      await page.keyboard.press('Tab');
    }
    throw new Error(`not reached by Tab: ${control}`);
  };
  const press = async (button: Locator) => {
    await to(button);
    await page.keyboard.press('Enter');
  };
  return {
    to,
    press,
    choose: async (select, option) => {
      await press(select);
      const wanted = page.getByRole('option', { name: option }).first();
      await expect(wanted).toBeVisible();
      for (let i = 0; i < MOST_TABS && !(await focused(wanted)); i++) await page.keyboard.press('ArrowDown');
      await page.keyboard.press('Enter');
      await expect(wanted).toBeHidden();
    },
  };
};

/** Counts what the mouse does, on every page it comes to. */
export async function countClicks(page: Page): Promise<() => number> {
  let clicks = 0;
  await page.exposeFunction('slateClicked', () => void clicks++);
  await page.addInitScript(() => {
    // In the first place: a control may let nobody else hear of it.
    document.addEventListener(
      'pointerdown',
      () => (window as unknown as { slateClicked: () => void }).slateClicked(),
      true,
    );
  });
  return () => clicks;
}

/** Three checks of which one asks for a reason, a step, and a release. */
export async function designAndRelease(page: Page, hands: Hands, table: string): Promise<void> {
  const button = (name: string | RegExp) =>
    page.getByRole('button', { name, exact: typeof name === 'string' });
  const face = (name: string) =>
    hands.press(page.getByRole('navigation', { name: 'Faces of the form' }).getByRole('button', { name }));
  const margin = page.getByRole('complementary', { name: 'The check in hand' });
  const select = (name: string) => margin.getByRole('button', { name: new RegExp(`${name}$`) });
  const say = async (words: string) => {
    for (
      let i = 0;
      i < 3 && !(await margin.getByLabel('Message').evaluate((one) => one === document.activeElement));
      i++
    )
      await page.keyboard.press('Tab');
    await page.keyboard.type(words);
  };
  await open(page, `/tables/${table}`);
  await hands.press(button('Make a form of it'));
  await page.waitForURL(/\/forms\//);
  await settled(page);

  await face('Check');
  await hands.choose(button(/Line of the new check/), /Rate/);
  await page.keyboard.type('90');
  await say('Ninety at most.');

  await hands.choose(button(/Line of the new check/), /Rate/);
  await hands.choose(select('Compared with'), /^product\.top_rate/);
  await hands.choose(select('What it does'), /ask for a reason/);
  await say('Above the top rate of {product.top_rate}.');

  await hands.choose(button(/Line of the new check/), /Planned on/);
  await hands.choose(select('Comparison'), /on or after/);
  await hands.choose(select('Compared with'), /today/);
  await say('Choose a coming day.');

  await face('Approve');
  await hands.choose(button(/Person of the new step/), /Tomasz Bielak/);
  await face('Release');
  await expect(page.getByText('Ready to release')).toBeVisible();
  await hands.press(button(/^Release 1/));
  // Another form writes to this table already, and its designer lets this one as well.
  const live = page.getByText('Release 1 is live');
  const oneMore = button('Release it all the same, and let it write there');
  await expect(live.or(oneMore)).toBeVisible();
  if (await oneMore.isVisible()) await hands.press(oneMore);
  await expect(live).toBeVisible();
}
