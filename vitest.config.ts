import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      // Pure, so they need not be kept from one another: loading everything anew for each file takes longer than the tests.
      {
        test: {
          name: 'unit',
          include: ['src/**/*.test.ts'],
          testTimeout: 30_000,
          isolate: false,
          maxWorkers: 2,
        },
      },
      {
        test: {
          name: 'start',
          include: ['tests/start/**/*.test.ts'],
          testTimeout: 240_000,
          hookTimeout: 60_000,
          maxWorkers: 2,
        },
      },
      {
        test: {
          name: 'postgres',
          env: {
            SLATE_LOG: 'silent',
            SLATE_SOURCES_INSIDE: '127.0.0.1, localhost',
            SLATE_SECRET: 'a secret of the tests, long enough to be one',
          },
          // Each file has a database of its own; the modules may be shared.
          isolate: false,
          include: ['tests/postgres/**/*.test.ts'],
          globalSetup: ['tests/support/world-templates.ts'],
          testTimeout: 30_000,
          hookTimeout: 60_000,
          maxWorkers: 2,
        },
      },
    ],
  },
});
