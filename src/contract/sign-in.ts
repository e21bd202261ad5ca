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

/** How somebody signs in: whether a code is asked for, and their passkeys; null where none can be made. */
export interface SigningInData {
  readonly asksCode: boolean;
  readonly passkeys: readonly PasskeyData[] | null;
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
