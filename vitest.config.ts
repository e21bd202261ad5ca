import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'unit', include: ['src/**/*.test.ts'], testTimeout: 30_000 } },
      {
        test: {
          name: 'start',
          include: ['tests/start/**/*.test.ts'],
          testTimeout: 240_000,
          hookTimeout: 60_000,
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
          include: ['tests/postgres/**/*.test.ts'],
          testTimeout: 30_000,
          hookTimeout: 60_000,
          maxWorkers: 2,
        },
      },
    ],
  },
});
