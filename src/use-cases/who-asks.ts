import type { Person } from '../core/access/rules';
import { appDatabase } from '../data/connect';
import { answerAccounts, signedIn } from '../data/accounts';
import { readPeople, readPerson } from '../data/system/people';

/** The person whose session a request carries, with today's roles. */
export async function whoAsks(headers: Headers): Promise<Person | null> {
  if (!headers.has('cookie')) return null;
  const id = await signedIn(headers);
  return id === null ? null : readPerson(appDatabase(), id);
}

export const answerSignIn = (request: Request): Promise<Response> => answerAccounts(request);

/** The sample people, for the list on the sign-in page; empty unless the sample world is loaded. */
export async function samplePeople(): Promise<{ name: string; email: string; place: string }[]> {
  if (process.env['SLATE_SAMPLE'] !== 'yes') return [];
  return (await readPeople(appDatabase())).map(({ name, email, place }) => ({ name, email, place }));
}

/** The password all sample people share; told to the page only together with their list. */
export const samplePassword = (): string => process.env['SLATE_SAMPLE_PASSWORD'] ?? '';
