import { spawn, spawnSync } from 'node:child_process';

export const root = process.getuid?.() === 0;
export const say = (words) => process.stdout.write(`${words}\n`);

/** Says what is being done, does it, and says how long it took. */
export async function step(words, work) {
  const began = Date.now();
  process.stdout.write(`• ${words} …`);
  try {
    const done = await work();
    process.stdout.write(
      ` ${done === 'skipped' ? 'already done' : `${((Date.now() - began) / 1000).toFixed(1)} s`}\n`,
    );
    return done;
  } catch (error) {
    process.stdout.write(' failed\n');
    throw error;
  }
}

/** Does several things side by side, each said when it is done; waits for all of them, and throws the first that failed. */
export async function sideBySide(works) {
  const ended = await Promise.allSettled(
    works.map(async ([words, work]) => {
      const began = Date.now();
      try {
        await work();
        say(`• ${words} … ${((Date.now() - began) / 1000).toFixed(1)} s`);
      } catch (error) {
        say(`• ${words} … failed`);
        throw error;
      }
    }),
  );
  const failed = ended.find(({ status }) => status === 'rejected');
  if (failed !== undefined) throw failed.reason;
}

/** Runs a program to its end; its output is shown only when it fails. */
export function run(command, args, options = {}) {
  const { loud = false, ...rest } = options;
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: loud ? 'inherit' : ['ignore', 'pipe', 'pipe'], ...rest });
    let output = '';
    for (const stream of [child.stdout, child.stderr])
      stream?.on('data', (data) => (output = (output + data).slice(-20_000)));
    child.on('error', reject);
    child.on('close', (code) =>
      code === 0
        ? resolve(output)
        : reject(new Error(`${command} ${args.slice(0, 3).join(' ')} ended with ${code}\n${output}`)),
    );
  });
}

/** PostgreSQL refuses to run as root, so root runs it as the user its package makes. */
export function asPostgres(command, args, options = {}) {
  return root
    ? run('runuser', ['-u', 'postgres', '--', command, ...args], { cwd: '/', ...options })
    : run(command, args, options);
}

export const succeeds = (command, args) => spawnSync(command, args, { stdio: 'ignore' }).status === 0;
export const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
