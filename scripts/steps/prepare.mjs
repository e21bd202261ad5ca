import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { freePort, startCluster } from './cluster.mjs';
import { databaseEnvironment, makeReady } from './database.mjs';
import { debianPackages, npmPackages } from './packages.mjs';
import { step, wait } from './run.mjs';
import { settleStandInPorts, toStandIns } from './stand-ins.mjs';
import { folder, isEmpty, port, project } from './settings.mjs';

/**
 * All that must be there before anything can answer: programs, packages, the cluster, the schema and a world. Says what there is now; `hold` is handed the
 * cluster as soon as it runs, so that whoever is interrupted half way can stop it.
 */
export async function prepare(hold) {
  mkdirSync(folder, { recursive: true, mode: 0o755 });
  await lock();
  if ((await freePort(port)) !== port)
    throw new Error(`Port ${port} is in use. Stop what uses it, or choose another: PORT=4400 npm start`);
  const given = process.env.DATABASE_URL;
  if (!given) await step('PostgreSQL from Debian’s packages', () => debianPackages());
  await step('npm packages', () => npmPackages(project));
  const cluster = given
    ? null
    : await step('Private PostgreSQL cluster on loopback', () => startCluster(folder));
  if (cluster !== null) hold(cluster);
  await settleStandInPorts(folder);
  const env = databaseEnvironment(given ?? cluster.url, folder);
  const world = await step(
    isEmpty ? 'Database schema and first administrator' : 'Database schema and sample world',
    () => makeReady(project, env, isEmpty),
  );
  const isSample = world.startsWith('sample');
  const sample = {
    SLATE_SAMPLE: isSample ? 'yes' : 'no',
    ...(isSample && toStandIns(env)),
    SLATE_SAMPLE_PASSWORD: /password (\S+)$/.exec(world)?.[1] ?? '',
  };
  return { env, world, isSample, sample };
}

/** Two starts on one data folder would fight over the cluster; a lock left by a killed start is taken over. */
async function lock() {
  const file = join(folder, 'start.pid');
  if (existsSync(file)) {
    const pid = readFileSync(file, 'utf8').trim();
    if (pid !== String(process.pid) && isStart(pid))
      throw new Error(
        `Tidy Slate is already running from this folder (process ${pid}). Set SLATE_DATA and PORT to run a second one.`,
      );
    // A server whose start was killed notices by itself; give it the moment it needs.
    await wait(1_000);
  }
  writeFileSync(file, String(process.pid));
}

function isStart(pid) {
  try {
    return (
      readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('scripts/start.mjs') &&
      readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]?.[0] !== 'Z'
    );
  } catch {
    return false;
  }
}

/** For whoever has stopped. */
export function unlock(folder) {
  const file = join(folder, 'start.pid');
  if (existsSync(file) && readFileSync(file, 'utf8').trim() === String(process.pid)) rmSync(file);
}
