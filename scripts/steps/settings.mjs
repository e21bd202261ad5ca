import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Where this copy of the project is, its data, and the address it answers on: what `npm start` and `npm run dev` are told by the environment. */
export const project = fileURLToPath(new URL('../..', import.meta.url)).replace(/\/$/, '');
export const folder = resolve(process.env.SLATE_DATA ?? join(project, '.data'));
export const port = Number(process.env.PORT ?? 4321);
export const origin = `http://127.0.0.1:${port}`;
export const isEmpty = process.argv.includes('--empty');
