import { z } from 'zod';

/** The library hashes what it is given, so its length is bounded before. */
const password = z.string().min(1).max(200);
export const signIn = z.object({ email: z.string().trim().min(1).max(320), password }).strict();
export const newPassword = z.object({ present: password, next: password }).strict();
export const nothing = z.object({}).strict();

/** Six figures, or a spare code. */
export const code = z.object({ code: z.string().trim().min(1).max(40) }).strict();
export const ownPassword = z.object({ password }).strict();

/** Whether a code is asked for besides the password. */
export interface Entered {
  readonly asksCode: boolean;
}

/** What somebody needs to set their codes up. Shown once. */
export interface SecondStepData {
  /** What their program reads, as a picture or by hand. */
  readonly uri: string;
  readonly spare: readonly string[];
}

/** What a device says by the Web Authentication standard; the library checks all of it. */
export const passkeyAnswer = z
  .object({ response: z.looseObject({ id: z.string().min(1).max(1_400) }) })
  .strict();

export interface PasskeyData {
  readonly id: string;
  readonly label: string;
  readonly since: string;
  readonly lastUsed: string | null;
}

/** How somebody signs in: whether a code is asked for, and their passkeys. */
export interface SigningInData {
  readonly asksCode: boolean;
  readonly passkeys: readonly PasskeyData[];
}

/** A service outside by which people sign in; without a secret the one before stays. */
export const keepProvider = z
  .object({
    label: z.string().trim().min(1).max(60),
    issuer: z.url().max(500),
    clientId: z.string().trim().min(1).max(300),
    secret: z.string().max(500),
    version: z.number().int().min(0),
  })
  .strict();
export type ProviderInput = z.infer<typeof keepProvider>;
export const endProvider = z.object({ version: z.number().int().min(0) }).strict();

export interface ProviderData {
  /** The address that is to be known there. */
  readonly back: string;
  readonly provider: Omit<ProviderInput, 'secret'> | null;
}

/** Of one session by its id; null for all but the one that asks. */
export const endSessions = z.object({ id: z.uuid().nullable() }).strict();

/** A browser somebody is signed in on. */
export interface SessionData {
  readonly id: string;
  readonly browser: string;
  readonly address: string;
  readonly since: string;
  readonly isThis: boolean;
}
