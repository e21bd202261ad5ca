import { spawn } from 'node:child_process';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { npmPackages } from './steps/packages.mjs';

/** `npm run -s detect -- FILE…`: installs the packages if they are missing, then says what import would propose for the files. */
const project = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '');
// npm runs scripts in the project's folder; files are named from where one stands.
const files = process.argv.slice(2).map((file) => resolve(process.env['INIT_CWD'] ?? process.cwd(), file));
await npmPackages(project);
const child = spawn(process.execPath, ['--import', 'tsx', 'scripts/detect-sheets.ts', ...files], {
  cwd: project,
  stdio: 'inherit',
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
child.on('close', (code) => process.exit(code ?? 1));
