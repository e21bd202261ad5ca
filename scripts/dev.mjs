import { fork, spawn } from 'node:child_process';
import { join } from 'node:path';
import { servingEnvironment } from './steps/database.mjs';
import { prepare, unlock } from './steps/prepare.mjs';
import { say, step } from './steps/run.mjs';
import { folder, origin, port, project } from './steps/settings.mjs';
import { serveStandIns } from './steps/stand-ins.mjs';

/** For whoever works on Tidy Slate itself: the same database and world as `npm start`, and pages that follow their files as they are saved. */
const children = [];
let cluster = null;
let stopping = null;

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));

try {
  await develop();
} catch (error) {
  say(`\n${error.message}`);
  await stop(1);
}

async function develop() {
  const made = await prepare((one) => (cluster = one));
  if (made.isSample)
    children.push(
      ...(await step('Plant-name register and mail catcher (stand-ins)', () =>
        serveStandIns(project, made.env),
      )),
    );
  const env = servingEnvironment({
    ...made.env,
    ...made.sample,
    SLATE_ORIGIN: origin,
    ASTRO_TELEMETRY_DISABLED: '1',
  });
  children.push(
    fork(join(project, 'src/jobs/worker.ts'), [], { cwd: project, env, execArgv: ['--import', 'tsx'] }),
  );
  const astro = spawn(
    join(project, 'node_modules/.bin/astro'),
    ['dev', '--host', '127.0.0.1', '--port', String(port)],
    { cwd: project, env, stdio: 'inherit' },
  );
  children.push(astro);
  astro.once('exit', (code) => void stop(code ?? 0));
  say(`\n${made.world.replace(/^(sample|own): /, '')}\n`);
}

function stop(code) {
  stopping ??= (async () => {
    for (const child of children) if (child.exitCode === null) child.kill('SIGTERM');
    await cluster?.stop().catch((error) => say(error.message));
    unlock(folder);
    process.exit(code);
  })();
  return stopping;
}
