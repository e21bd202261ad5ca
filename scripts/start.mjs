import { fork } from 'node:child_process';
import { join } from 'node:path';
import { startCluster } from './steps/cluster.mjs';
import { servingEnvironment } from './steps/database.mjs';
import { build } from './steps/packages.mjs';
import { prepare, unlock } from './steps/prepare.mjs';
import { say, step, wait } from './steps/run.mjs';
import { folder, origin, port, project } from './steps/settings.mjs';
import { serveStandIns } from './steps/stand-ins.mjs';

let cluster = null;
let server = null;
let standIns = [];
let stopping = null;
/** What ends again and again is begun again more and more seldom. */
const [PAUSE_MS, LONGEST_MS, STEADY_MS] = [500, 30_000, 60_000];
let pause = PAUSE_MS;
const WATCH_MS = 1_000;

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));

try {
  await start();
} catch (error) {
  say(`\n${error.message}`);
  await stop(1);
}

async function start() {
  const made = await prepare((one) => (cluster = one));
  const { env, world, isSample, sample } = made;
  await step('Pages', () => build(project));
  const settings = { ...env, ...sample, SLATE_ORIGIN: process.env.SLATE_ORIGIN ?? origin };
  const serving = isSample ? serveStandIns(project, env) : null;
  await step('Server', () => serve(settings));
  if (serving !== null) standIns = await step('Stand-ins for services outside', () => serving);
  if (cluster) watchCluster();
  say(`\nTidy Slate is at ${origin}\n${world.replace(/^(sample|own): /, '')}`);
  if (isSample) {
    say(`Mails it sends are at http://127.0.0.1:${env.SLATE_MAIL_PAGE_PORT}`);
    say(`What it tells a noticeboard outside is at http://127.0.0.1:${env.SLATE_NOTICEBOARD_PORT}`);
    say(
      `A service to sign in by is at http://127.0.0.1:${env.SLATE_IDENTITY_PORT} (client tidy-slate, secret shared-with-the-garden)`,
    );
  }
  if (cluster)
    say(
      `The tables, with psql: PGPASSWORD in ${join(folder, 'settings.json')} (adminPassword), then\n  psql -h 127.0.0.1 -p ${cluster.port} -U slate_admin slate`,
    );
  say('Ctrl-C stops everything.\n');
}

/** Starts the server, and again whenever it ends without being asked to; resolves when it first listens. */
function serve(env) {
  return new Promise((started, failed) => {
    const begun = Date.now();
    let listening = false;
    const child = fork(join(project, 'scripts', 'serve.mjs'), [], {
      cwd: project,
      env: { ...servingEnvironment(env), PORT: String(port), NODE_ENV: 'production' },
    });
    server = child;
    child.once('message', () => {
      listening = true;
      started();
    });
    child.once('exit', (code, signal) => {
      if (stopping) return;
      if (!listening && pause === PAUSE_MS) return failed(new Error(`The server ended with ${code}`));
      if (Date.now() - begun > STEADY_MS) pause = PAUSE_MS;
      say(`The server ended (${signal ?? code}); it is started again in ${pause / 1000} s`);
      setTimeout(() => void (stopping || serve(env).catch((error) => say(error.message))), pause);
      pause = Math.min(pause * 2, LONGEST_MS);
    });
  });
}

/** A private cluster that ends without being asked to is started again, on the same port. */
function watchCluster() {
  const look = async () => {
    if (stopping) return;
    if (!cluster.runs()) {
      say('PostgreSQL ended; it is started again');
      try {
        cluster = await startCluster(folder, { again: true });
      } catch (error) {
        say(error.message);
      }
    }
    setTimeout(look, WATCH_MS);
  };
  setTimeout(look, WATCH_MS);
}

/** Server first, then the database it uses. */
function stop(code) {
  stopping ??= (async () => {
    if (server?.exitCode === null) {
      const ended = new Promise((resolve) => server.once('exit', resolve));
      server.kill('SIGTERM');
      await Promise.race([ended, wait(5_000).then(() => server.kill('SIGKILL'))]);
    }
    for (const one of standIns) if (one.exitCode === null) one.kill('SIGTERM');
    await cluster?.stop().catch((error) => say(error.message));
    unlock(folder);
    process.exit(code);
  })();
  return stopping;
}
