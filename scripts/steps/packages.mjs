import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root, run, succeeds } from './run.mjs';

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

/** npm ci, unless this very lock file was installed already. */
export async function npmPackages(project) {
  const stamp = join(project, 'node_modules', '.tidy-slate-lock');
  const lock = hashOf([join(project, 'package-lock.json')]);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return 'skipped';
  await run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund'], { cwd: project });
  writeFileSync(stamp, lock);
}

/** Builds the pages and islands, unless nothing they are made of changed. */
export async function build(project) {
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
