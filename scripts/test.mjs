import { fork } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { freePort, startCluster } from './steps/cluster.mjs';
import { databaseEnvironment, loadWorld, migrate, servingEnvironment } from './steps/database.mjs';
import { build, debianPackages, npmPackages } from './steps/packages.mjs';
import { run, say, sideBySide, step } from './steps/run.mjs';
import { serveStandIns, settleStandInPorts, toStandIns } from './steps/stand-ins.mjs';

/**
 * Everything that must hold, on a cluster and a port of its own, beside a running application if there is one.
 * `npm test -- unit` (or types, format, lint, rules, dead-code, postgres, start, browser) does one part.
 */
const project = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '');
const bin = (name) => join(project, 'node_modules', '.bin', name);
const only = process.argv.slice(2);
const wanted = (part) => only.length === 0 || only.includes(part);
const folder = mkdtempSync(join(tmpdir(), 'slate-test-'));
const totals = { passed: 0, failed: 0 };
let cluster = null;
let server = null;
let standIns = [];
let ended = false;

for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void finish(1));

try {
  await everything();
} catch (error) {
  say(`\n${error.message}`);
  // What a part has counted itself is not counted again.
  totals.failed = Math.max(totals.failed, 1);
}
await finish(totals.failed === 0 ? 0 : 1);

async function everything() {
  chmodSync(folder, 0o755);
  await step('Debian packages', () => debianPackages({ browser: wanted('browser') }));
  await step('npm packages', () => npmPackages(project));
  const tool = (name, args) =>
    run(bin(name), args, { cwd: project, env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' } });
  const inTurn =
    (...tools) =>
    async () => {
      for (const one of tools) if (wanted(one.part)) await tool(one.name, one.args);
    };
  // Pages alone, whose types only this can read; it also writes those of Astro, which all else is checked with.
  const pages = {
    part: 'types',
    name: 'astro',
    args: ['check', '--minimumFailingSeverity', 'warning', '--tsconfig', 'tsconfig.pages.json'],
  };
  // All types are checked by what lints with them, in one reading.
  const lint = { part: 'lint', name: 'oxlint', args: [] };
  const format = { part: 'format', name: 'prettier', args: ['--check', '--log-level', 'warn', '.'] };
  const rules = { part: 'rules', name: 'depcruise', args: ['src'] };
  const deadCode = { part: 'dead-code', name: 'knip', args: ['--no-config-hints'] };
  // Each uses one core, so two at a time.
  if ([pages, format, lint, rules, deadCode].some(({ part }) => wanted(part)))
    await sideBySide([
      ['Types and lint', inTurn(pages, lint)],
      ['Import rules, dead code and formatting', inTurn(rules, deadCode, format)],
    ]);
  if (wanted('unit')) await vitest('unit', {});
  if (wanted('postgres') || wanted('browser'))
    cluster = await step('A cluster of its own', () => startCluster(folder, { fast: true }));
  if (wanted('postgres')) await vitest('postgres', { SLATE_TEST_SERVER: cluster.server });
  if (wanted('browser') || wanted('start')) await step('Pages', () => build(project));
  if (wanted('start')) await vitest('start', {});
  if (wanted('browser')) await browser();
}

async function vitest(name, env) {
  const report = join(folder, `${name}.json`);
  try {
    await run(
      bin('vitest'),
      ['run', '--project', name, '--reporter=default', '--reporter=json', `--outputFile.json=${report}`],
      { cwd: project, loud: true, env: { ...process.env, ...env } },
    );
  } finally {
    const { numPassedTests, numFailedTests, numFailedTestSuites } = JSON.parse(readFileSync(report, 'utf8'));
    count(numPassedTests, Math.max(numFailedTests, numFailedTestSuites > 0 ? 1 : 0));
  }
}

async function browser() {
  await settleStandInPorts(folder);
  const env = databaseEnvironment(cluster.url, folder);
  await step('Database schema', () => migrate(project, env));
  await step('Sample world', () => loadWorld(project, env, false));
  standIns = await serveStandIns(project, env);
  const port = await freePort();
  const origin = `http://127.0.0.1:${port}`;
  const settings = {
    ...env,
    PORT: String(port),
    SLATE_ORIGIN: origin,
    SLATE_SAMPLE: 'yes',
    SLATE_SAMPLE_PASSWORD: 'quillmere-garden',
    ...toStandIns(env),
    NODE_ENV: 'production',
    // Two processes, on a machine with one core too: what one of them keeps to itself the other must not need.
    SLATE_PROCESSES: '2',
  };
  server = await new Promise((started, failed) => {
    const child = fork(join(project, 'scripts', 'serve.mjs'), [], {
      cwd: project,
      env: servingEnvironment(settings),
    });
    child.once('message', () => started(child));
    child.once('exit', () => failed(new Error('the server did not start')));
  });
  const report = join(folder, 'browser.json');
  try {
    await run(bin('playwright'), ['test', '--reporter=list,json'], {
      cwd: project,
      loud: true,
      env: {
        ...process.env,
        SLATE_ORIGIN: origin,
        SLATE_ADMIN_URL: env.SLATE_ADMIN_URL,
        SLATE_MAIL_PAGE_PORT: env.SLATE_MAIL_PAGE_PORT,
        SLATE_NOTICEBOARD_PORT: env.SLATE_NOTICEBOARD_PORT,
        PLAYWRIGHT_JSON_OUTPUT_NAME: report,
      },
    });
  } finally {
    const { stats } = JSON.parse(readFileSync(report, 'utf8'));
    count(stats.expected, stats.unexpected + stats.flaky);
  }
}

function count(passed, failed) {
  totals.passed += passed;
  totals.failed += failed;
}

async function finish(code) {
  if (ended) return;
  ended = true;
  if (server?.exitCode === null) server.kill('SIGTERM');
  for (const one of standIns) if (one.exitCode === null) one.kill('SIGTERM');
  await cluster?.stop().catch(() => undefined);
  rmSync(folder, { recursive: true, force: true });
  say(`\n${totals.passed} passed, ${totals.failed} failed`);
  process.exit(code);
}
