import { createHash } from 'node:crypto';

/**
 * What a request is named by its sender, as an id (a UUID of version 8, RFC 9562): the same words give the
 * same, for each purpose another.
 */
export function requestKey(words: string, purpose: 'write' | 'fill' | 'submission'): string {
  const bytes = createHash('sha256').update(`${purpose} ${words}`).digest().subarray(0, 16);
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x80;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = bytes.toString('hex');
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-');
}
