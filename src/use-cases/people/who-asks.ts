import type { Person } from '../../core/access/rules';
import { personOf } from '../../data/accounts';
import { appDatabase } from '../../data/connect';
import { readPeople } from '../../data/system/people';

/** The person whose session a request carries, with today's roles. */
export async function whoAsks(headers: Headers): Promise<Person | null> {
  return headers.has('cookie') ? personOf(headers) : null;
}

/** The sample people, for the list on the sign-in page; empty unless the sample world is loaded. */
export async function samplePeople(): Promise<{ name: string; email: string; place: string }[]> {
  if (process.env['SLATE_SAMPLE'] !== 'yes') return [];
  return (await readPeople(appDatabase())).map(({ name, email, place }) => ({ name, email, place }));
}

/** The password all sample people share; told to the page only together with their list. */
export const samplePassword = (): string => process.env['SLATE_SAMPLE_PASSWORD'] ?? '';
