import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root, run, succeeds, wait } from './run.mjs';

/** The folder of PostgreSQL's server programs, newest first; null when it is not installed. */
export function postgresPrograms() {
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base) ? readdirSync(base).sort((a, b) => Number(b) - Number(a)) : [];
  const found = versions
    .map((version) => join(base, version, 'bin'))
    .find((bin) => existsSync(join(bin, 'initdb')));
  return found ?? null;
}

/** Installs Debian packages whose programs are missing. */
export async function debianPackages({ browser = false } = {}) {
  const missing = [
    ...(postgresPrograms() ? [] : ['postgresql']),
    ...(browser && !existsSync('/usr/bin/chromium') ? ['chromium'] : []),
  ];
  if (missing.length === 0) return 'skipped';
  const sudo = !root && succeeds('sudo', ['-n', 'true']);
  if (!root && !sudo)
    throw new Error(
      `These programs are missing and only an administrator can install them. Ask for: apt-get install ${missing.join(' ')}`,
    );
  const apt = (...args) =>
    run(sudo ? 'sudo' : 'apt-get', [...(sudo ? ['-n', 'apt-get'] : []), ...args], {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  if (missing.includes('postgresql')) await noMainCluster(sudo);
  await apt('update');
  await apt('install', '-y', '--no-install-recommends', ...missing);
}

/** Without this Debian makes and starts a cluster of its own. */
async function noMainCluster(sudo) {
  const folder = '/etc/postgresql-common/createcluster.d';
  const line = 'create_main_cluster = false';
  if (sudo)
    return run('sudo', ['-n', 'sh', '-c', `mkdir -p ${folder} && echo '${line}' > ${folder}/no-main.conf`]);
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'no-main.conf'), `${line}\n`);
}

/** npm ci, unless this very lock file was installed already. It empties node_modules first, so only one process of this folder installs. */
export function npmPackages(project) {
  return alone(project, () => installed(project));
}

async function installed(project) {
  const stamp = join(project, 'node_modules', '.tidy-slate-lock');
  const lock = hashOf([join(project, 'package-lock.json')]);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return 'skipped';
  await run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund'], { cwd: project });
  writeFileSync(stamp, lock);
}

/** Builds the pages and islands, unless nothing they are made of changed. */
export function build(project) {
  return alone(project, () => built(project));
}

async function built(project) {
  const stamp = join(project, 'dist', '.stamp');
  const sources = hashOf([
    join(project, 'package-lock.json'),
    join(project, 'astro.config.mjs'),
    ...filesIn(join(project, 'src')),
    ...filesIn(join(project, 'public')),
  ]);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return 'skipped';
  await run(join(project, 'node_modules', '.bin', 'astro'), ['build'], {
    cwd: project,
    env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' },
  });
  writeFileSync(stamp, sources);
}

/** Whoever is second waits, and finds the work done. A lock whose process has gone is taken over. */
async function alone(project, work) {
  const lock = join(project, '.installing');
  for (let waited = 0; !taken(lock); waited += 200) {
    if (waited > LONGEST_MS)
      throw new Error(
        `Another start has been installing for ${LONGEST_MS / 60_000} minutes; if there is none, remove ${lock}`,
      );
    await wait(200);
  }
  try {
    return await work();
  } finally {
    rmSync(lock, { force: true });
  }
}

const LONGEST_MS = 15 * 60_000;

function taken(lock) {
  try {
    writeFileSync(lock, String(process.pid), { flag: 'wx' });
    return true;
  } catch (error) {
    if (error.code !== 'EEXIST') throw error;
    if (isLeftBehind(lock)) rmSync(lock, { force: true });
    return false;
  }
}

function isLeftBehind(lock) {
  const pid = existsSync(lock) ? readFileSync(lock, 'utf8').trim() : '';
  // An empty one is being written just now.
  return pid !== '' && !existsSync(`/proc/${pid}`);
}

function hashOf(files) {
  const hash = createHash('sha256');
  for (const file of files) hash.update(file).update(readFileSync(file));
  return hash.digest('hex');
}

function filesIn(folder) {
  if (!existsSync(folder)) return [];
  return readdirSync(folder, { withFileTypes: true })
    .flatMap((one) => (one.isDirectory() ? filesIn(join(folder, one.name)) : [join(folder, one.name)]))
    .sort();
}
