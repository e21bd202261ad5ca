import { randomBytes } from 'node:crypto';
import { ok } from '../src/core/kernel/result';
import { appDatabase, closeConnections } from '../src/data/connect';
import { readPeople } from '../src/data/system/people';
import { asOwner } from '../src/data/transaction';
import { addPeople } from './add-people';

/** An empty workspace needs somebody who can begin: one administrator, whose password is said once. */
if ((await readPeople(appDatabase())).length === 0) {
  const id = crypto.randomUUID();
  const password = randomBytes(9).toString('base64url');
  const made = await asOwner({ person: id }, async (tx) => {
    await addPeople(tx, [
      {
        id,
        name: 'Administrator',
        email: 'administrator@tidy-slate.example',
        place: '',
        roles: ['administrator', 'owner', 'steward', 'colleague'],
        password,
      },
    ]);
    return ok(null);
  });
  if (!made.ok) throw new Error('the first administrator could not be made');
  process.stdout.write(
    `own: Sign in as administrator@tidy-slate.example, password ${password} (shown only now)\n`,
  );
} else process.stdout.write('own: Sign in with your own account.\n');
await closeConnections();
