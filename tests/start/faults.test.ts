import { spawnSync } from 'node:child_process';
import { expect, it } from 'vitest';

/** The short form of `npm run faults`; what each fault costs the others is printed by the long one. */
it('what was acknowledged survives kill -9, lost connections, floods and hostile forms, once and whole', () => {
  const run = spawnSync(process.execPath, ['scripts/faults.mjs', '--short'], {
    encoding: 'utf8',
    timeout: 230_000,
  });
  // The whole report, for whoever has to find out what went wrong.
  expect(run.status, run.stdout).toBe(0);
  const [, acknowledged, whole] =
    /(\d+) acknowledged, (\d+) of them there, once and whole/.exec(run.stdout) ?? [];
  expect(Number(acknowledged)).toBeGreaterThan(30);
  expect(whole).toBe(acknowledged);
  // A quarter of a gigabyte, four times at once, is not even begun to be kept.
  expect(run.stdout).toMatch(/413, 413, 413, 413; the server grew by \d{1,2} MB/);
});
