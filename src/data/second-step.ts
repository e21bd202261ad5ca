import { createHash } from 'node:crypto';
import { and, eq, gt, gte, isNull, lt, ne, or } from 'drizzle-orm';
import { accounts, answered, codeQuestion, proven, withoutSession } from './accounts';
import { appDatabase } from './connect';
import { person, secondStep, session, verification } from './system/schema';

/** What somebody needs to set their codes up: the address their program reads, and codes that are good once each. */
export interface SecondStep {
  readonly uri: string;
  readonly spare: readonly string[];
}

/** A code of the present and of the half minute before and after is taken, so that it can come again so long. */
const CODE_LIVES_MS = 120_000;

/**
 * Sets codes up for whoever asks; they are asked for once the first was typed. `there` where they are
 * already. Null when the password is another.
 */
export async function beginSecondStep(
  password: string,
  issuer: string,
  headers: Headers,
): Promise<SecondStep | 'there' | null> {
  const body = { password, method: 'totp' as const, issuer };
  const response = await accounts().api.enableTwoFactor({ body, headers, asResponse: true });
  if (!answered(response, 'second step')) {
    const { code } = (await response.json()) as { code?: string };
    return code === 'TOTP_ALREADY_ENABLED' ? 'there' : null;
  }
  const { totpURI, backupCodes } = (await response.json()) as { totpURI: string; backupCodes: string[] };
  return { uri: totpURI, spare: backupCodes };
}

/** The first code: from now on one is asked for. Cookies of a new session, or null when it is not right. */
export async function confirmSecondStep(code: string, headers: Headers): Promise<string[] | null> {
  const response = await accounts().api.verifyTOTP({ body: { code }, headers, asResponse: true });
  return answered(response, 'first code') ? proven(response.headers.getSetCookie()) : null;
}

/** Cookies of a new session, or null when the password is another. */
export async function endSecondStep(password: string, headers: Headers): Promise<string[] | null> {
  const response = await accounts().api.disableTwoFactor({ body: { password }, headers, asResponse: true });
  return answered(response, 'end of second step') ? proven(response.headers.getSetCookie()) : null;
}

/** Whom a code is asked of now; null where nobody's password was given a moment ago. */
async function whoIsAsked(headers: Headers): Promise<string | null> {
  const question = codeQuestion(headers);
  if (question === null) return null;
  const [asked] = await appDatabase()
    .select({ who: verification.value })
    .from(verification)
    .where(and(eq(verification.identifier, question), gt(verification.expiresAt, new Date())));
  return asked?.who ?? null;
}

/** The address of whom a code is asked of now, as long as they are here. */
export async function askedForCode(headers: Headers): Promise<{ email: string } | null> {
  const who = await whoIsAsked(headers);
  if (who === null) return null;
  const [found] = await appDatabase()
    .select({ email: person.email })
    .from(person)
    .where(and(eq(person.id, who), isNull(person.endedAt)));
  return found ?? null;
}

/** Signs in whoever gave their password, by a code or a spare one; null where it is not right, or was taken before. */
export async function passCode(code: string, from: Headers): Promise<string[] | null> {
  const headers = withoutSession(from);
  const { verifyTOTP, verifyBackupCode } = accounts().api;
  const isSpare = !/^\d{6}$/.test(code);
  // Asked first, so that a code that was taken does not use up the question.
  if (!isSpare && (await wasTaken(await whoIsAsked(headers), code))) return null;
  const response = isSpare
    ? await verifyBackupCode({ body: { code }, headers, asResponse: true })
    : await verifyTOTP({ body: { code }, headers, asResponse: true });
  if (!answered(response, 'code')) return null;
  const { token, user } = (await response.json()) as { token: string; user: { id: string } };
  if (!isSpare && !(await isFirst(user.id, code))) {
    await appDatabase().delete(session).where(eq(session.token, token));
    return null;
  }
  return proven(response.headers.getSetCookie());
}

const hashOf = (who: string, code: string): string =>
  createHash('sha256').update(`${who} ${code}`).digest('base64url');

async function wasTaken(who: string | null, code: string): Promise<boolean> {
  if (who === null) return false;
  const since = new Date(Date.now() - CODE_LIVES_MS);
  const taken = await appDatabase()
    .select({ id: secondStep.id })
    .from(secondStep)
    .where(
      and(
        eq(secondStep.userId, who),
        eq(secondStep.lastCode, hashOf(who, code)),
        gte(secondStep.lastAt, since),
      ),
    );
  return taken.length > 0;
}

/** Whoever has seen somebody type a code cannot type it again; of two at once, one is first. */
async function isFirst(who: string, code: string): Promise<boolean> {
  const [hashed, now] = [hashOf(who, code), new Date()];
  const taken = await appDatabase()
    .update(secondStep)
    .set({ lastCode: hashed, lastAt: now })
    .where(
      and(
        eq(secondStep.userId, who),
        or(
          isNull(secondStep.lastCode),
          ne(secondStep.lastCode, hashed),
          lt(secondStep.lastAt, new Date(now.getTime() - CODE_LIVES_MS)),
        ),
      ),
    )
    .returning({ id: secondStep.id });
  return taken.length > 0;
}
