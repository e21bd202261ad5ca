import { fork } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
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
const clusters = [];
const servers = [];
const standIns = [];
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
    clusters.push(await step('A cluster of its own', () => startCluster(folder, { fast: true })));
  if (wanted('postgres')) await vitest('postgres', { SLATE_TEST_SERVER: clusters[0].server });
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

/** Journeys change what they meet, so each half of them has a world of its own; two cores carry two of those. */
async function browser() {
  const [first, second] = halves(
    readdirSync(join(project, 'tests', 'browser')).filter((one) => one.endsWith('.spec.ts')),
  );
  const another = join(folder, 'another');
  mkdirSync(another);
  chmodSync(another, 0o755);
  clusters.push(await step('Another cluster', () => startCluster(another, { fast: true })));
  const worlds = [
    { at: folder, cluster: clusters[0], specs: first },
    { at: another, cluster: clusters[1], specs: second },
  ];
  // In turn: two that look for free ports at once may find the same.
  for (const { at } of worlds) await settleStandInPorts(at);
  const served = await step('Sample worlds', () => Promise.all(worlds.map(world)));
  await sideBySide(
    served.map((one, i) => [`Half of the journeys, ${one.specs.length} files`, () => journeys(one, i)]),
  );
}

/** Files of about as much work each, by their length. */
function halves(files) {
  const sized = files.map((name) => ({ name, size: statSync(join(project, 'tests', 'browser', name)).size }));
  const parts = [
    { size: 0, names: [] },
    { size: 0, names: [] },
  ];
  for (const { name, size } of sized.sort((one, other) => other.size - one.size)) {
    const [lighter] = [...parts].sort((one, other) => one.size - other.size);
    lighter.names.push(name);
    lighter.size += size;
  }
  return parts.map(({ names }) => names.sort());
}

/** The sample world, its stand-ins and what serves it. */
async function world({ at, cluster, specs }) {
  const env = databaseEnvironment(cluster.url, at);
  await migrate(project, env);
  await loadWorld(project, env, false);
  standIns.push(...(await serveStandIns(project, env)));
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
  await new Promise((started, failed) => {
    const begun = fork(join(project, 'scripts', 'serve.mjs'), [], {
      cwd: project,
      env: servingEnvironment(settings),
    });
    servers.push(begun);
    begun.once('message', () => started(begun));
    begun.once('exit', () => failed(new Error('the server did not start')));
  });
  return { env, origin, specs };
}

async function journeys({ env, origin, specs }, half) {
  const report = join(folder, `browser-${half}.json`);
  try {
    await run(
      bin('playwright'),
      [
        'test',
        '--reporter=list,json',
        `--output=test-results/${half}`,
        ...specs.map((one) => `tests/browser/${one}`),
      ],
      {
        cwd: project,
        loud: true,
        env: {
          ...process.env,
          SLATE_ORIGIN: origin,
          SLATE_ADMIN_URL: env.SLATE_ADMIN_URL,
          SLATE_MAIL_PAGE_PORT: env.SLATE_MAIL_PAGE_PORT,
          SLATE_NOTICEBOARD_PORT: env.SLATE_NOTICEBOARD_PORT,
          SLATE_IDENTITY_PORT: env.SLATE_IDENTITY_PORT,
          PLAYWRIGHT_JSON_OUTPUT_NAME: report,
        },
      },
    );
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
  for (const one of [...servers, ...standIns]) if (one.exitCode === null) one.kill('SIGTERM');
  for (const one of clusters) await one.stop().catch(() => undefined);
  rmSync(folder, { recursive: true, force: true });
  say(`\n${totals.passed} passed, ${totals.failed} failed`);
  process.exit(code);
}
