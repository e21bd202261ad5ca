import { fileURLToPath } from 'node:url';
import { createDatabase } from './steps/create-database';
import { setUp, type Login } from '../src/data/system/migrate';

const admin = needed('SLATE_ADMIN_URL');
await createDatabase(admin);
await setUp({
  admin,
  owner: loginOf(needed('SLATE_OWNER_URL')),
  app: loginOf(needed('SLATE_APP_URL')),
  migrations: fileURLToPath(new URL('../src/data/system/migrations', import.meta.url)),
});

function needed(name: string): string {
  const value = process.env[name];
  if (value === undefined || value === '') throw new Error(`${name} is not set`);
  return value;
}

function loginOf(url: string): Login {
  const { username, password } = new URL(url);
  return { name: decodeURIComponent(username), password: decodeURIComponent(password) };
}
