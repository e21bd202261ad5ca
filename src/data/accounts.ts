import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { uuidV7 } from '../core/kernel/ids';
import { appDatabase } from './connect';
import { account, person, session, verification } from './system/schema';

/** Sign-in by e-mail and password. People are made by administrators, never by signing up. */
function makeAccounts() {
  const origin = process.env['SLATE_ORIGIN'] ?? 'http://127.0.0.1:4321';
  return betterAuth({
    database: drizzleAdapter(appDatabase(), {
      provider: 'pg',
      schema: { user: person, session, account, verification },
    }),
    baseURL: origin,
    secret: process.env['SLATE_SECRET'] ?? '',
    trustedOrigins: [origin, origin.replace('127.0.0.1', 'localhost')],
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: 8, maxPasswordLength: 200 },
    user: { additionalFields: {} },
    session: { expiresIn: 60 * 60 * 24 * 14, updateAge: 60 * 60 * 24 },
    rateLimit: {
      enabled: process.env['SLATE_RATE_LIMIT'] !== 'off',
      window: 60,
      max: 100,
      customRules: { '/sign-in/email': { window: 60, max: 20 } },
    },
    advanced: {
      cookiePrefix: 'slate',
      database: { generateId: () => uuidV7(Date.now(), crypto.getRandomValues(new Uint8Array(10))) },
    },
    telemetry: { enabled: false },
  });
}

let made: ReturnType<typeof makeAccounts> | null = null;
const accounts = (): ReturnType<typeof makeAccounts> => (made ??= makeAccounts());

/** Answers a request of the sign-in library's own. */
export const answerAccounts = (request: Request): Promise<Response> => accounts().handler(request);

/** The id of the person whose session the request carries. */
export async function signedIn(headers: Headers): Promise<string | null> {
  return (await accounts().api.getSession({ headers }))?.user.id ?? null;
}
