import { fork } from 'node:child_process';
import { join } from 'node:path';
import { freePort, readSettings, writeSettings } from './cluster.mjs';

/** A port of its own for the stand-in of the plant-name register, the same at each start where it is free. */
export async function settleRegisterPort(folder) {
  const settings = readSettings(folder);
  const port = await freePort(settings.registerPort);
  if (port !== settings.registerPort) writeSettings(folder, { ...settings, registerPort: port });
}

/** The stand-in beside the application, as an outside service would be; it ends with whoever began it. */
export function serveRegister(project, env) {
  return new Promise((started, failed) => {
    const child = fork(join(project, 'demo', 'name-register.ts'), [], {
      cwd: project,
      execArgv: ['--import', 'tsx'],
      env: { ...process.env, ...env },
    });
    child.once('message', () => started(child));
    child.once('exit', (code) => failed(new Error(`The plant-name register ended with ${code}`)));
  });
}
