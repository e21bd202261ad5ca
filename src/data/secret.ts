import {
  createCipheriv,
  createDecipheriv,
  createHash,
  hkdfSync,
  randomBytes,
  timingSafeEqual,
} from 'node:crypto';

/**
 * Secrets of sources as the database keeps them: AES-256-GCM under a key of this workspace, which is given to
 * its processes and is not in the database. Twelve bytes of nonce, sixteen of tag, then the text. `about` is
 * what the secret belongs to: moved elsewhere, it cannot be read.
 */
const [NONCE, TAG] = [12, 16];

const key = (): Buffer => derived('tidy slate: secrets of sources', 32);

/** For what one person's browser keeps on its device; the same whenever they sign in, and nobody else's. Base64 of 64 bytes. */
export const deviceKey = (person: string): string =>
  derived(`tidy slate: device copies of ${person}`, 64).toString('base64');

/** By which whoever sent something from outside follows it, and nobody else; 43 letters. It is kept nowhere. */
export const followSecret = (submission: string): string =>
  derived(`tidy slate: following ${submission}`, 32).toString('base64url');

/** By which somebody chooses a password, once: made anew where it is mailed, and kept nowhere but as its hash. */
export const welcomeToken = (of: string): string =>
  derived(`tidy slate: coming in by ${of}`, 32).toString('base64url');

/** Whether two secrets are the same, in a time that tells nothing of how much of them is. */
export function sameSecret(a: string, b: string): boolean {
  const [one, other] = [sha256(a), sha256(b)];
  return timingSafeEqual(one, other);
}

export const sha256 = (text: string): Buffer => createHash('sha256').update(text).digest();

function derived(purpose: string, bytes: number): Buffer {
  const secret = process.env['SLATE_SECRET'];
  if (secret === undefined || secret === '')
    throw new Error('SLATE_SECRET is not set; start Tidy Slate with npm start');
  return Buffer.from(hkdfSync('sha256', secret, '', purpose, bytes));
}

export function sealed(secret: string, about: string): Buffer {
  const nonce = randomBytes(NONCE);
  const cipher = createCipheriv('aes-256-gcm', key(), nonce).setAAD(Buffer.from(about));
  const text = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), text]);
}

/** Null when it was sealed under another key, for something else, or changed since. */
export function unsealed(bytes: Buffer, about: string): string | null {
  try {
    const decipher = createDecipheriv('aes-256-gcm', key(), bytes.subarray(0, NONCE))
      .setAAD(Buffer.from(about))
      .setAuthTag(bytes.subarray(NONCE, NONCE + TAG));
    return Buffer.concat([decipher.update(bytes.subarray(NONCE + TAG)), decipher.final()]).toString('utf8');
  } catch {
    return null;
  }
}
