import { fork } from 'node:child_process';
import { join } from 'node:path';
import { freePort, readSettings, writeSettings } from './cluster.mjs';

/** What of the stand-ins listens, by where its port is kept. */
const PORTS = ['registerPort', 'smtpPort', 'mailPagePort', 'noticeboardPort', 'identityPort'];

/** A port of its own for each stand-in, the same at each start where it is free. */
export async function settleStandInPorts(folder) {
  const settings = readSettings(folder);
  const wished = { ...settings };
  // In turn: two that ask at once may be given the same.
  for (const name of PORTS) {
    do wished[name] = await freePort(settings[name]);
    while (PORTS.some((other) => other !== name && wished[other] === wished[name]));
  }
  if (PORTS.some((name) => wished[name] !== settings[name])) writeSettings(folder, wished);
}

/** The stand-ins beside the application, as outside services would be: a register of plant names and the office's list of staff, a mail server with everybody's mailbox, a noticeboard that is told what happens, and a service to sign in by. */
export const serveStandIns = (project, env) =>
  Promise.all([
    serve(project, 'registers.ts', 'registers', env),
    serve(project, 'mail-catcher.ts', 'mail catcher', env),
    serve(project, 'noticeboard.ts', 'noticeboard', env),
    serve(project, 'identity-provider.ts', 'identity provider', env),
  ]);

/** It ends with whoever began it. */
function serve(project, file, name, env) {
  return new Promise((started, failed) => {
    const child = fork(join(project, 'demo', file), [], {
      cwd: project,
      execArgv: ['--import', 'tsx'],
      env: { ...process.env, ...env },
    });
    child.once('message', () => started(child));
    child.once('exit', (code) => failed(new Error(`The ${name} ended with ${code}`)));
  });
}

/** What tells the application of them. The sample world's answer on loopback, where a source may be only when whoever runs the machine says so. */
export const sourcesInside = { SLATE_SOURCES_INSIDE: process.env.SLATE_SOURCES_INSIDE ?? '127.0.0.1' };
export const toStandIns = (env) => ({
  ...sourcesInside,
  SLATE_SMTP_URL: process.env.SLATE_SMTP_URL ?? `smtp://127.0.0.1:${env.SLATE_SMTP_PORT}`,
  SLATE_MAIL_FROM: process.env.SLATE_MAIL_FROM ?? 'Quillmere Botanic Garden <slate@quillmere.example>',
});
