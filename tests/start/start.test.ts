import { spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';

/** `npm start`, as people use and misuse it, on a folder and port of its own. Ends only what it started. */
const folder = mkdtempSync(join(tmpdir(), 'slate-start-'));
chmodSync(folder, 0o755);
const started: ChildProcess[] = [];

interface Run {
  readonly child: ChildProcess;
  readonly said: () => string;
  readonly ended: Promise<number | null>;
}

function start(port: number): Run {
  const child = spawn(process.execPath, ['scripts/start.mjs', '--empty'], {
    env: { ...process.env, SLATE_DATA: folder, PORT: String(port), NODE_ENV: 'production' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  started.push(child);
  let said = '';
  for (const stream of [child.stdout, child.stderr])
    stream?.on('data', (data: Buffer) => (said += data.toString()));
  return { child, said: () => said, ended: new Promise((resolve) => child.once('exit', resolve)) };
}

async function until(what: () => boolean | Promise<boolean>, words: () => string): Promise<void> {
  for (let i = 0; i < 450; i++) {
    if (await what()) return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error(`it did not come to pass: ${words()}`);
}

const up = (port: number) =>
  fetch(`http://127.0.0.1:${port}/api/health`).then(
    (answer) => answer.ok,
    () => false,
  );
const postmaster = (): number =>
  Number(readFileSync(join(folder, 'pg', 'postmaster.pid'), 'utf8').split('\n')[0]);
const alive = (pid: number): boolean =>
  existsSync(`/proc/${pid}`) && !readFileSync(`/proc/${pid}/stat`, 'utf8').includes(') Z');

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address !== null ? address.port : 0));
    });
  });

afterAll(async () => {
  for (const child of started)
    if (child.exitCode === null && child.signalCode === null) child.kill('SIGTERM');
  await Promise.all(
    started.map((child) =>
      child.exitCode === null && child.signalCode === null
        ? new Promise((resolve) => child.once('exit', resolve))
        : undefined,
    ),
  );
  rmSync(folder, { recursive: true, force: true });
});

describe('npm start', () => {
  it('starts, refuses a second on the same folder, survives kill -9 of everything, and stops cleanly', async () => {
    const port = await freePort();
    const first = start(port);
    await until(() => first.said().includes('Ctrl-C'), first.said);
    expect(first.said()).toMatch(/administrator@tidy-slate\.example, password \S+ \(shown only now\)/);
    expect(await up(port)).toBe(true);
    expect(
      (JSON.parse(readFileSync(join(folder, 'settings.json'), 'utf8')) as { sessionSecret: string })
        .sessionSecret,
    ).toHaveLength(32);

    const second = start(await freePort());
    expect(await second.ended).toBe(1);
    expect(second.said()).toContain('already running from this folder');

    const database = postmaster();
    first.child.kill('SIGKILL');
    process.kill(database, 'SIGKILL');
    await until(
      async () => !alive(database) && !(await up(port)),
      () => 'the killed ones are gone',
    );

    const again = start(port);
    await until(() => again.said().includes('Ctrl-C'), again.said);
    expect(await up(port)).toBe(true);
    expect(again.said()).toContain('Sign in with your own account');

    const last = postmaster();
    again.child.kill('SIGINT');
    expect(await again.ended).toBe(0);
    expect(alive(last)).toBe(false);
    expect(await up(port)).toBe(false);
  });
});
