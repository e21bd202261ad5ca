import { z } from 'zod';

/** The library hashes what it is given, so its length is bounded before. */
const password = z.string().min(1).max(200);
export const signIn = z.object({ email: z.string().trim().min(1).max(320), password }).strict();
export const newPassword = z.object({ present: password, next: password }).strict();
export const nothing = z.object({}).strict();

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
