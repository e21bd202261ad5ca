import type { Page } from '@playwright/test';
import { randomUUID } from 'node:crypto';
import { personNamed, samplePassword } from '../demo/people';
import { ok } from '../src/core/kernel/result';
import { closeConnections } from '../src/data/connect';
import { insertForm } from '../src/data/system/forms';
import { asOwner } from '../src/data/transaction';
import { largeForm } from './large-form';
import { signedIn } from './loopback';
import { seatOf } from './seat';

/** A letter typed on the workbench of a form of 60 questions and 40 checks, from the press of its key until it is painted. */
const LETTERS = 60;
/** Somebody who types quickly presses so many milliseconds apart. */
const APART = 120;
const origin = process.env['SLATE_ORIGIN'] ?? '';
const ines = personNamed('Ines');

const id = randomUUID();
await asOwner({ person: ines.id }, async (tx) =>
  ok(await insertForm(tx, { id, key: 'large', design: largeForm, ownerId: ines.id, editedBy: ines.id })),
);
const { browser, page } = await seatOf(origin, await signedIn(origin, ines.email, samplePassword));
await open('ask');
await page.locator('[data-line]').nth(30).click();
await typed(page, 'Words of the question', 'Ask');
await open('check');
await typed(page, 'Message', 'Check');
await browser.close();
await closeConnections();

async function open(face: string): Promise<void> {
  await page.goto(`/forms/${id}?face=${face}`);
  await page.waitForFunction(() => document.querySelector('astro-island[ssr]') === null);
}

async function typed(where: Page, label: string, face: string): Promise<void> {
  await where.getByLabel(label, { exact: true }).first().click();
  const times = await where.evaluateHandle(() => {
    const all: number[] = [];
    document.addEventListener(
      'keydown',
      ({ timeStamp }) =>
        requestAnimationFrame(() => setTimeout(() => all.push(performance.now() - timeStamp), 0)),
      true,
    );
    return all;
  });
  for (let i = 0; i < LETTERS; i++) {
    await where.keyboard.type('a');
    await where.waitForTimeout(APART);
  }
  const sorted = (await times.jsonValue()).sort((a, b) => a - b);
  const at = (share: number): string => (sorted[Math.floor(sorted.length * share)] ?? 0).toFixed(0);
  console.log(
    `a letter on ${face} with 60 questions and 40 checks: painted after ${at(0.5)} ms, p95 ${at(0.95)}, longest ${at(0.999)} (${sorted.length} letters; asked for: 50 ms)`,
  );
}
