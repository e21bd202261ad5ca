import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { hashPassword, verifyPassword } from 'better-auth/crypto';
import { twoFactor } from 'better-auth/plugins/two-factor';
import { and, eq, gt, isNotNull, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { mayAdminister, type Person, type Role } from '../core/access/rules';
import { passwordLength } from '../core/access/password';
import type { FormatsHere } from '../core/formats/formats';
import { formatsOf } from '../core/workspace';
import { newUuid } from '../core/kernel/ids';
import { appDatabase } from './connect';
import { origin } from './origin';
import { account, ownFormats, person, secondStep, session, verification, workspace } from './system/schema';

const secret = (): string => process.env['SLATE_SECRET'] ?? '';

/**
 * Sign-in by e-mail and password, and a code besides for those who want that. People are made by
 * administrators, never by signing up, and what the library offers besides signing in and out and changing
 * one's password has no address here. How often somebody may try is counted in the database, before the
 * library is asked.
 */
function makeAccounts() {
  return betterAuth({
    database: drizzleAdapter(appDatabase(), {
      provider: 'pg',
      schema: { user: person, session, account, verification, twoFactor: secondStep },
    }),
    baseURL: origin(),
    secret: secret(),
    trustedOrigins: [origin(), origin().replace('127.0.0.1', 'localhost')],
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: passwordLength.least,
      maxPasswordLength: passwordLength.most,
    },
    session: { expiresIn: SESSION_SECONDS, disableSessionRefresh: true },
    // It would log every wrong password; what is counted is counted in the database.
    logger: { disabled: true },
    rateLimit: { enabled: false },
    advanced: {
      cookiePrefix: 'slate',
      ipAddress: { ipAddressHeaders: ['x-slate-address'] },
      database: { generateId: () => newUuid() },
    },
    telemetry: { enabled: false },
    // Who guesses is made to wait as with passwords; nobody is locked out by what others type.
    plugins: [twoFactor({ accountLockout: { enabled: false } })],
  });
}

/** What is made of the application's connections: once, and anew when they are others. */
function onceForDatabase<T>(make: () => T): () => T {
  let kept: { readonly database: unknown; readonly made: T } | null = null;
  return () => {
    const database = appDatabase();
    if (kept?.database !== database) kept = { database, made: make() };
    return kept.made;
  };
}

/** A fortnight after signing in, one signs in again. */
const SESSION_SECONDS = 60 * 60 * 24 * 14;

export const accounts = onceForDatabase(makeAccounts);

/** What a password leads to: a session, or the question for a code. */
export interface Entry {
  readonly cookies: string[];
  readonly asksCode: boolean;
}

/** Null when e-mail and password do not belong together. */
export async function signIn(email: string, password: string, headers: Headers): Promise<Entry | null> {
  const response = await accounts().api.signInEmail({ body: { email, password }, headers, asResponse: true });
  if (!answered(response, 'sign-in')) return null;
  const cookies = response.headers.getSetCookie();
  const told = (await response.json()) as { twoFactorRedirect?: boolean };
  return told.twoFactorRedirect === true
    ? { cookies, asksCode: true }
    : { cookies: await proven(cookies), asksCode: false };
}

/** The session of these cookies is somebody's from now on: all was given that signing in asks for. */
export async function proven(cookies: string[]): Promise<string[]> {
  const tokens = cookies.flatMap((one) => signedToken(one.split(';')[0] ?? '') ?? []);
  for (const token of tokens)
    await appDatabase().update(session).set({ provenAt: new Date() }).where(eq(session.token, token));
  return cookies;
}

const TOKEN_BYTES = 24;

/** The cookie of a session for somebody who has proven otherwise who they are. */
export async function beginSession(who: string, { address, headers }: { address: string; headers: Headers }) {
  const token = randomBytes(TOKEN_BYTES).toString('base64url');
  await appDatabase()
    .insert(session)
    .values({
      id: newUuid(),
      token,
      userId: who,
      expiresAt: new Date(Date.now() + SESSION_SECONDS * 1_000),
      ipAddress: address === '' ? null : address,
      userAgent: headers.get('user-agent'),
      provenAt: new Date(),
    });
  const value = encodeURIComponent(`${token}.${signatureOf(token)}`);
  return `${cookieName()}=${value}; Max-Age=${SESSION_SECONDS}; Path=/; HttpOnly; SameSite=Lax${secure()}`;
}

/** Ends the session; gives the cookies that clear the browser's. */
export async function signOut(headers: Headers): Promise<string[]> {
  const response = await accounts().api.signOut({ headers, asResponse: true });
  return response.headers.getSetCookie();
}

/** Whether this is somebody's password, for what is not done by a session alone. */
export async function passwordIs(who: string, password: string): Promise<boolean> {
  const [kept] = await appDatabase()
    .select({ hash: account.password })
    .from(account)
    .where(and(eq(account.userId, who), eq(account.providerId, 'credential')));
  return kept?.hash != null && (await verifyPassword({ hash: kept.hash, password }));
}

/** Changes the password and ends all sessions but a new one; null when the present password is another. */
export async function changePassword(
  present: string,
  next: string,
  headers: Headers,
): Promise<string[] | null> {
  const response = await accounts().api.changePassword({
    body: { currentPassword: present, newPassword: next, revokeOtherSessions: true },
    headers,
    asResponse: true,
  });
  return answered(response, 'change-password') ? proven(response.headers.getSetCookie()) : null;
}

/**
 * The library says no with a 4xx; anything else that is not a yes is the database's absence or a fault, and
 * the password is not to blame.
 */
export function answered(response: Response, what: string): boolean {
  if (response.status >= 500) throw new AccountsFault(`${what} answered ${response.status}`);
  return response.ok;
}

/** The sign-in library could not do its work. */
export class AccountsFault extends Error {}

const isSecure = (): boolean => origin().startsWith('https:');
const secure = (): string => (isSecure() ? '; Secure' : '');
const named = (name: string): string => `${isSecure() ? '__Secure-' : ''}slate.${name}`;
const cookieName = (): string => named('session_token');

/** Who a request comes from. */
export interface SignedIn {
  readonly person: Person;
  /** Where an administrator looks as that person: who it is. */
  readonly lookedBy: Person | null;
  /** How days and numbers are shown to whoever sits there. */
  readonly formats: FormatsHere;
}

/** Whose session the request carries, with today's roles: one look-up, for every request makes it. */
export async function signedIn(headers: Headers): Promise<SignedIn | null> {
  const token = sessionToken(headers);
  if (token === null) return null;
  const [found] = await sessionLookUp().execute({ token, now: new Date() });
  if (found === undefined) return null;
  const own = asPerson(found.own);
  const seen = found.as;
  const formats = formatsOf({ formats: found.house, zone: found.zone }, found.ownFormats ?? {});
  // Whoever is no administrator any more looks with their own eyes, and as somebody who has left nobody looks.
  return seen === null || seen.endedAt !== null || !mayAdminister(own)
    ? { person: own, lookedBy: null, formats }
    : { person: asPerson(seen), lookedBy: own, formats };
}

const asPerson = ({
  id,
  name,
  email,
  place,
  roles,
}: Record<'id' | 'name' | 'email' | 'place', string> & { roles: string[] }): Person => ({
  id,
  name,
  email,
  place,
  roles: roles as Role[],
});

/** The token of the session a request carries; null when it is not one that we signed. */
export const sessionToken = (headers: Headers): string | null => signedToken(headers.get('cookie') ?? '');

/** As whom an administrator looks. */
const looked = alias(person, 'looked');

/** Made once: putting its text together costs as much as carrying it out. */
function makeSessionLookUp() {
  const { id, name, email, place, roles } = person;
  return appDatabase()
    .select({
      own: { id, name, email, place, roles },
      as: {
        id: looked.id,
        name: looked.name,
        email: looked.email,
        place: looked.place,
        roles: looked.roles,
        endedAt: looked.endedAt,
      },
      house: workspace.formats,
      ownFormats: ownFormats.formats,
      zone: workspace.zone,
    })
    .from(session)
    .innerJoin(person, eq(person.id, session.userId))
    .innerJoin(workspace, eq(workspace.onlyOne, true))
    .leftJoin(looked, eq(looked.id, session.looksAsId))
    .leftJoin(ownFormats, eq(ownFormats.personId, person.id))
    .where(
      and(
        eq(session.token, sql.placeholder('token')),
        gt(session.expiresAt, sql.placeholder('now')),
        isNotNull(session.provenAt),
        isNull(person.endedAt),
      ),
    )
    .prepare('person_of_session');
}
const sessionLookUp = onceForDatabase(makeSessionLookUp);

/** The token of the session cookie; null when it is not one that we signed. */
const signedToken = (cookies: string): string | null => signedValue(cookies, cookieName());

function signedValue(cookies: string, name: string): string | null {
  const start = `${name}=`;
  const found = cookies.split(/;\s*/).find((one) => one.startsWith(start));
  const value = found === undefined ? '' : decoded(found.slice(start.length));
  const at = value.lastIndexOf('.');
  if (at < 1) return null;
  const token = value.slice(0, at);
  return sameText(value.slice(at + 1), signatureOf(token)) ? token : null;
}

const signatureOf = (text: string): string => createHmac('sha256', secret()).update(text).digest('base64');

/** What the library calls the question for a code that a request carries; null when it carries none that we signed. */
export const codeQuestion = (headers: Headers): string | null =>
  signedValue(headers.get('cookie') ?? '', named('two_factor'));

/** The same request without any session: a code is taken for the password that was given, whoever else is signed in there. */
export function withoutSession(headers: Headers): Headers {
  const bare = new Headers(headers);
  const cookies = (headers.get('cookie') ?? '').split(/;\s*/);
  bare.set('cookie', cookies.filter((one) => !one.startsWith(`${cookieName()}=`)).join('; '));
  return bare;
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return '';
  }
}

const sameText = (a: string, b: string): boolean =>
  a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));

/** A cookie of ours that only the server reads, for so many seconds. */
export const setCookie = (name: string, value: string, seconds: number): string =>
  `slate.${name}=${value}; Path=/; Max-Age=${seconds}; HttpOnly; SameSite=Lax${secure()}`;

export function cookieOf(headers: Headers, name: string): string | null {
  const start = `slate.${name}=`;
  const found = (headers.get('cookie') ?? '').split(/;\s*/).find((one) => one.startsWith(start));
  return found === undefined ? null : found.slice(start.length);
}

/** What a browser is given after somebody signed in on it, so that tries from elsewhere cannot lock that person out here. */
const DEVICE = 'device';
const DEVICE_SECONDS = 60 * 60 * 24 * 365;
const deviceMark = (email: string): string =>
  createHmac('sha256', secret()).update(`device of ${email.toLowerCase()}`).digest('base64url');

export const deviceCookie = (email: string): string => setCookie(DEVICE, deviceMark(email), DEVICE_SECONDS);

export function isKnownDevice(headers: Headers, email: string): boolean {
  const found = cookieOf(headers, DEVICE);
  return found !== null && sameText(found, deviceMark(email));
}

/** Whom a link to choose a password is for. */
export interface Invited {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly place: string;
  /** They have a password, and choose another. */
  readonly again: boolean;
}

/** Whom an invitation is for; null when it is not good any more. Asked before anybody is signed in. */
export async function invited(tokenHash: string): Promise<Invited | null> {
  const { rows } = await appDatabase().execute<Invited & Record<string, unknown>>(
    sql`SELECT * FROM slate.invited(${tokenHash})`,
  );
  return rows[0] ?? null;
}

/**
 * Somebody forgot the password for this address: a link is on its way to it, where somebody here has it.
 * Tells nobody whether that is so.
 */
export async function askForPassword(
  email: string,
  { tokenHash, until, mailedOf }: { tokenHash: string; until: Date; mailedOf: string },
): Promise<void> {
  await appDatabase().execute(
    sql`SELECT slate.forgotten(${email}, ${tokenHash}, ${until.toISOString()}::timestamptz, ${mailedOf}::uuid)`,
  );
}

/** Gives them the password they chose; false when somebody has taken the invitation up meanwhile. */
export async function takeInvitation(tokenHash: string, password: string): Promise<boolean> {
  const hash = await hashPassword(password);
  const { rows } = await appDatabase().execute<{ who: string | null }>(
    sql`SELECT slate.take_invitation(${tokenHash}, ${hash}) AS who`,
  );
  return rows[0]?.who != null;
}
