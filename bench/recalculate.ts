import { chromium } from '@playwright/test';
import { buildSync } from 'esbuild';
import { fileURLToPath } from 'node:url';
import { measureSheet } from './sheet-case';

/** The same sheet in Node and in Chromium, whose page is handed the bundle as it would be served. */
for (const line of measureSheet('Node')) console.log(line);

const bundle =
  buildSync({
    entryPoints: [fileURLToPath(new URL('./sheet-case.ts', import.meta.url))],
    bundle: true,
    format: 'iife',
    globalName: 'sheetCase',
    write: false,
    minify: true,
    target: 'es2022',
  }).outputFiles[0]?.text ?? '';
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-dev-shm-usage'],
});
const page = await browser.newPage();
await page.setContent('<title>bench</title>');
await page.addScriptTag({ content: bundle });
for (const line of await page.evaluate<string[]>("sheetCase.measureSheet('Chromium')")) console.log(line);
await browser.close();
