import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { say } from './steps/run.mjs';

/**
 * Mutation testing of the pure core: small faults are put into it, one at a time, and the tests ought to notice each. Not part of the test command, for it
 * takes minutes for a folder. `npm run mutants -- approval check` does those folders of `src/core`, `npm run mutants -- changed` what differs from main,
 * and without words everything is done.
 */
const project = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '');
const core = join(project, 'src', 'core');
/** What is asked of a folder, in percent of its mutants; the rest of the core is asked for the last figure. */
const ASKED = { approval: 85, check: 85, form: 85, storage: 85, access: 85, table: 85 };
const ASKED_ELSE = 75;

const words = process.argv.slice(2);
const report = join(tmpdir(), `slate-mutants-${process.pid}.json`);
const config = join(project, `.stryker-${process.pid}.json`);
const isSource = (path) => /^src\/core\/.*\.ts$/.test(path) && !path.endsWith('.test.ts');

const files = wanted();
if (files.length === 0) {
  say('Nothing of the core is to be tried.');
  process.exit(0);
}
writeFileSync(
  config,
  JSON.stringify({
    testRunner: 'vitest',
    plugins: ['@stryker-mutator/vitest-runner'],
    vitest: { configFile: 'scripts/steps/mutants.vitest.ts' },
    mutate: files,
    reporters: ['json', 'progress-append-only'],
    jsonReporter: { fileName: report },
    ignorePatterns: ['dist', 'docs', '.data', 'tests/browser', 'tests/postgres', 'src/pages', 'src/islands'],
    ignoreStatic: true,
    timeoutMS: 10_000,
    tempDirName: '.stryker-tmp',
    concurrency: 2,
  }),
);
const done = spawnSync(join(project, 'node_modules', '.bin', 'stryker'), ['run', config], {
  cwd: project,
  stdio: ['ignore', words.includes('--quiet') ? 'ignore' : 'inherit', 'inherit'],
});
rmSync(config, { force: true });
rmSync(join(project, '.stryker-tmp'), { recursive: true, force: true });
if (!existsSync(report)) {
  say(`Stryker ended with ${done.status ?? done.signal}, and without a report.`);
  process.exit(1);
}
const failed = told(JSON.parse(readFileSync(report, 'utf8')));
rmSync(report, { force: true });
process.exit(failed ? 1 : 0);

function wanted() {
  if (words.includes('changed')) {
    const { stdout } = spawnSync('git', ['diff', '--name-only', '--diff-filter=d', 'main'], {
      cwd: project,
      encoding: 'utf8',
    });
    return stdout.split('\n').filter(isSource);
  }
  const folders = words.filter((word) => !word.startsWith('-'));
  const known = readdirSync(core, { withFileTypes: true }).filter((one) => one.isDirectory());
  return (folders.length > 0 ? folders : known.map(({ name }) => name)).map((name) =>
    name.endsWith('.ts') ? `src/core/${name}` : `src/core/${name}/**/!(*.test).ts`,
  );
}

/** The table of scores and the survivors by place; whether a folder has less than is asked of it. */
function told({ files: byFile }) {
  const folders = new Map();
  for (const [path, { mutants }] of Object.entries(byFile)) {
    const folder = path.split('/')[2];
    const known = folders.get(folder) ?? { noticed: 0, all: 0, left: [] };
    folders.set(folder, known);
    for (const { status, mutatorName, replacement, location } of mutants) {
      if (['Ignored', 'CompileError', 'RuntimeError', 'Pending'].includes(status)) continue;
      known.all += 1;
      if (status === 'Killed' || status === 'Timeout') known.noticed += 1;
      else
        known.left.push(
          `${path}:${location.start.line}:${location.start.column} ${mutatorName}${status === 'NoCoverage' ? ' (no test comes here)' : ''} → ${String(replacement).replace(/\s+/g, ' ').slice(0, 70)}`,
        );
    }
  }
  let failed = false;
  for (const [, { left }] of folders) for (const line of left) say(line);
  say('\n| folder | mutants | noticed | score | asked |\n|---|---|---|---|---|');
  for (const [folder, { noticed, all }] of folders) {
    const [score, asked] = [all === 0 ? 100 : (noticed / all) * 100, ASKED[folder] ?? ASKED_ELSE];
    failed ||= score < asked;
    say(`| ${folder} | ${all} | ${noticed} | ${score.toFixed(1)} % | ${asked} % |`);
  }
  return failed;
}
