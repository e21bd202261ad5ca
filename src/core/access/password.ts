import { issue, type Issue } from '../kernel/issue';

/** Length is what makes a password hard to guess; what is guessed first is refused, however long it is. */
export const passwordLength = { least: 10, most: 200 } as const;

/**
 * Ten to this power guesses must not find it: what leaked, names, keys beside one another and years are found
 * sooner. Zxcvbn (Wheeler 2016) calls it score 2.
 */
const LEAST_GUESSES = 6;

/** What is wrong with a new password; null when it may be used. `guesses`: how many find it, as a power of ten. */
export function passwordIssue(password: string, guesses: (password: string) => number): Issue | null {
  const { least, most } = passwordLength;
  const length = [...password].length;
  if (length < least || length > most) return issue('password-length', ['password'], { least, most });
  return guesses(password) < LEAST_GUESSES ? issue('password-common', ['password']) : null;
}
