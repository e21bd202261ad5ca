import { fork } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { freePort, startCluster } from './steps/cluster.mjs';
import { databaseEnvironment, loadWorld, migrate, runTs, servingEnvironment } from './steps/database.mjs';
import { build, debianPackages, npmPackages, postgresPrograms } from './steps/packages.mjs';
import { say, step } from './steps/run.mjs';
import { settleStandInPorts } from './steps/stand-ins.mjs';

/**
 * Speed as ratios within one run, for machines are noisy. Bounded in count; loopback only; a durable cluster of its own.
 * `npm run bench -- import` (or another file of `bench/`, or several) does only that.
 */
const only = process.argv.slice(2);
const wanted = (file) => only.length === 0 || only.includes(file);
const ALONE = ['evaluate', 'recalculate'];
/** What asks the whole application, whose pages are built for it. */
const SERVED = ['send', 'form', 'typing'];
const WITH_DATABASE = [
  'differential',
  'check-impact',
  'change-table',
  'import',
  'records',
  'lookup',
  'workbench',
  'approvals',
  'api',
  'restricted',
];
const project = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '');
const folder = mkdtempSync(join(tmpdir(), 'slate-bench-'));
let cluster = null;
let server = null;
let code = 0;

try {
  chmodSync(folder, 0o755);
  await step(
    'Packages',
    async () => (
      await debianPackages({ browser: ['recalculate', 'form', 'typing'].some(wanted) }),
      npmPackages(project)
    ),
  );
  for (const file of ALONE.filter(wanted)) say((await runTs(project, `bench/${file}.ts`, [], {})).trim());
  if ([...WITH_DATABASE, ...SERVED].some(wanted)) await withDatabase();
} catch (error) {
  say(error.message);
  code = 1;
}
server?.kill('SIGTERM');
await cluster?.stop();
rmSync(folder, { recursive: true, force: true });
process.exit(code);

async function withDatabase() {
  cluster = await step('A cluster of its own', () => startCluster(folder));
  // The sample world links the stand-in of the plant-name register, wherever it answers.
  await settleStandInPorts(folder);
  const env = databaseEnvironment(cluster.url, folder);
  await step('Database schema', () => migrate(project, env));
  await step('Sample world', () => loadWorld(project, env, false));
  for (const file of WITH_DATABASE.filter(wanted))
    say((await runTs(project, `bench/${file}.ts`, [], env)).trim());
  if (SERVED.some(wanted)) await served(env);
}

async function served(env) {
  await step('Pages', () => build(project));
  const port = await freePort();
  const settings = {
    ...env,
    PORT: String(port),
    SLATE_ORIGIN: `http://127.0.0.1:${port}`,
    NODE_ENV: 'production',
    SLATE_BENCH_FOLDER: folder,
    SLATE_PGBENCH: join(postgresPrograms(), 'pgbench'),
  };
  server = await new Promise((started) => {
    const child = fork(join(project, 'scripts', 'serve.mjs'), [], {
      cwd: project,
      env: servingEnvironment(settings),
    });
    child.once('message', () => started(child));
  });
  for (const file of SERVED.filter(wanted))
    say((await runTs(project, `bench/${file}.ts`, [], settings)).trim());
}
