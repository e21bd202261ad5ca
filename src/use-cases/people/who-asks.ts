import type { Person } from '../../core/access/rules';
import { signedIn, type SignedIn } from '../../data/accounts';
import { appDatabase } from '../../data/connect';
import { readPeople } from '../../data/system/people';

/** Whose session a request carries, and who looks as them where somebody does. */
export async function whoIsSignedIn(headers: Headers): Promise<SignedIn | null> {
  return headers.has('cookie') ? signedIn(headers) : null;
}

/** The person it is answered for, with today's roles. */
export const whoAsks = async (headers: Headers): Promise<Person | null> =>
  (await whoIsSignedIn(headers))?.person ?? null;

/** Answers a request of somebody who only looks: nothing stays of what it does. */
export { whileLooking } from '../../data/looking';

/** Answers in the formats of whoever looks. */
export { showingTo } from '../../data/shown-to';

/** Answers a request that came from an address, which is told to every transaction of it. */
export { comingFrom } from '../../data/way-in';

/** The sample people, for the list on the sign-in page; empty unless the sample world is loaded. */
export async function samplePeople(): Promise<{ name: string; email: string; place: string }[]> {
  if (process.env['SLATE_SAMPLE'] !== 'yes') return [];
  return (await readPeople(appDatabase())).map(({ name, email, place }) => ({ name, email, place }));
}

/** The password all sample people share; told to the page only together with their list. */
export const samplePassword = (): string => process.env['SLATE_SAMPLE_PASSWORD'] ?? '';
