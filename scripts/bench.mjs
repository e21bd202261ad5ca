import { fork } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { freePort, readSettings, startCluster } from './steps/cluster.mjs';
import { databaseEnvironment, loadWorld, migrate, runTs } from './steps/database.mjs';
import { build, debianPackages, npmPackages, postgresPrograms } from './steps/packages.mjs';
import { say, step } from './steps/run.mjs';

/** Speed as ratios within one run, for machines are noisy. Bounded in count; loopback only; a durable cluster of its own. */
const project = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '');
const folder = mkdtempSync(join(tmpdir(), 'slate-bench-'));
let cluster = null;
let server = null;
let code = 0;

try {
  chmodSync(folder, 0o755);
  await step('Packages', async () => (await debianPackages({ browser: true }), npmPackages(project)));
  for (const file of ['evaluate', 'recalculate']) say((await runTs(project, `bench/${file}.ts`, [], {})).trim());
  await step('Pages', () => build(project));
  cluster = await step('A cluster of its own', () => startCluster(folder));
  const env = databaseEnvironment(cluster.url, readSettings(folder));
  await step('Database schema', () => migrate(project, env));
  await step('Sample world', () => loadWorld(project, env, false));
  for (const file of ['differential', 'check-impact', 'change-table', 'import']) say((await runTs(project, `bench/${file}.ts`, [], env)).trim());
  const port = await freePort();
  const settings = { ...env, PORT: String(port), SLATE_ORIGIN: `http://127.0.0.1:${port}`, SLATE_RATE_LIMIT: 'off', NODE_ENV: 'production', SLATE_BENCH_FOLDER: folder, SLATE_PGBENCH: join(postgresPrograms(), 'pgbench') };
  server = await new Promise((started) => {
    const child = fork(join(project, 'scripts', 'serve.mjs'), [], { cwd: project, env: { ...process.env, ...settings } });
    child.once('message', () => started(child));
  });
  say((await runTs(project, 'bench/send.ts', [], settings)).trim());
} catch (error) {
  say(error.message);
  code = 1;
}
server?.kill('SIGTERM');
await cluster?.stop();
rmSync(folder, { recursive: true, force: true });
process.exit(code);
