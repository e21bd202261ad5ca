import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { readSettings } from './cluster.mjs';
import { run } from './run.mjs';
import { sourcesInside } from './stand-ins.mjs';

/** The environment by which the application finds its database. Roles are named after the database, for roles are shared by a whole cluster. */
export function databaseEnvironment(adminUrl, folder) {
  const settings = readSettings(folder);
  const name = decodeURIComponent(new URL(adminUrl).pathname.slice(1)) || 'slate';
  const login = (role, password) => {
    const url = new URL(adminUrl);
    url.username = `${name}_${role}`;
    url.password = password;
    return url.toString();
  };
  return {
    SLATE_ADMIN_URL: adminUrl,
    SLATE_OWNER_URL: login('owner', settings.ownerPassword),
    SLATE_APP_URL: login('app', settings.appPassword),
    SLATE_SECRET: settings.sessionSecret,
    SLATE_REGISTER_KEY: settings.registerKey,
    SLATE_REGISTER_PORT: String(settings.registerPort),
    SLATE_SMTP_PORT: String(settings.smtpPort),
    SLATE_MAIL_PAGE_PORT: String(settings.mailPagePort),
    SLATE_MAIL_FOLDER: join(folder, 'mails'),
    SLATE_NOTICEBOARD_PORT: String(settings.noticeboardPort),
    SLATE_IDENTITY_PORT: String(settings.identityPort),
    // A key of its own, of those that were made for the stand-ins.
    SLATE_NOTICEBOARD_SECRET: `whsec_${createHash('sha256').update(`noticeboard ${settings.registerKey}`).digest('base64')}`,
  };
}

/** What the serving process is given: everything but an administrator's password, wherever this process had it from. */
export function servingEnvironment(env) {
  const given = { ...process.env, ...env };
  delete given.SLATE_ADMIN_URL;
  delete given.DATABASE_URL;
  return given;
}

/** Roles, schemas, migrations and rights; repeated at every start, and harmless. */
export const migrate = (project, env) => runTs(project, 'scripts/migrate.ts', [], env);

/** People and, unless an empty start is wanted, the sample world. Says which world there is now. */
export async function loadWorld(project, env, empty) {
  const said = await runTs(project, empty ? 'demo/first-person.ts' : 'demo/load.ts', [], {
    ...env,
    ...sourcesInside,
  });
  return said.trim().split('\n').at(-1);
}

/** Both at once. */
export async function makeReady(project, env, empty) {
  const said = await runTs(project, 'scripts/steps/ready.ts', empty ? ['empty'] : [], {
    ...env,
    ...sourcesInside,
  });
  return said.trim().split('\n').at(-1);
}

export function runTs(project, file, args, env) {
  return run(process.execPath, ['--import', 'tsx', join(project, file), ...args], {
    cwd: project,
    env: { ...process.env, ...env },
  });
}
