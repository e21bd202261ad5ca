import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { npmPackages } from './steps/packages.mjs';

/** `npm run -s feel`: installs the packages if they are missing, then reads trials on standard input. */
const project = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '');
await npmPackages(project);
const child = spawn(
  process.execPath,
  ['--import', 'tsx', 'scripts/answer-trials.ts', ...process.argv.slice(2)],
  { cwd: project, stdio: 'inherit' },
);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
child.on('close', (code) => process.exit(code ?? 1));
