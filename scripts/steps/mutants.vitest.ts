import { defineConfig } from 'vitest/config';

/** The tests that hold the core, for mutation testing: those of one project, for that is all its runner knows. */
export default defineConfig({
  test: { include: ['src/core/**/*.test.ts'], testTimeout: 30_000, watch: false },
});
