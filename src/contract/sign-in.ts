import { z } from 'zod';

/** The library hashes what it is given, so its length is bounded before. */
const password = z.string().min(1).max(200);
export const signIn = z.object({ email: z.string().trim().min(1).max(320), password }).strict();
export const newPassword = z.object({ present: password, next: password }).strict();
export const nothing = z.object({}).strict();
