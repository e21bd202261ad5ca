import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'tests/browser',
  testMatch: '*.spec.ts',
  // One world is shared by the journeys that are run together.
  workers: 1,
  // On a busy machine everything takes several times as long; that is no fault.
  timeout: 300_000,
  expect: { timeout: 30_000 },
  reporter: [['list']],
  use: {
    baseURL: process.env['SLATE_ORIGIN'] ?? 'http://127.0.0.1:4321',
    // What is not there within a minute never comes, and a journey says so instead of waiting to its own end.
    actionTimeout: 60_000,
    navigationTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-dev-shm-usage',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
        '--disable-quic',
      ],
    },
  },
});
