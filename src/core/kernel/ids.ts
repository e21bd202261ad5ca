/** A version 7 UUID (RFC 9562): `ms` since 1970 and 10 random bytes, so that ids sort by the time they were made. */
export function uuidV7(ms: number, random: Uint8Array): string {
  const bytes = new Uint8Array(16);
  for (let i = 0, rest = ms; i < 6; i++, rest = Math.floor(rest / 256)) bytes[5 - i] = rest % 256;
  bytes.set(random.subarray(0, 10), 6);
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x70;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-');
}

/** A short id that is also a FEEL name, for questions, checks and steps: `q` and 12 characters of the given randomness. */
export function shortId(random: Uint8Array): string {
  return 'q' + Array.from(random.subarray(0, 12), (byte) => (byte % 36).toString(36)).join('');
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
export const isUuid = (text: string): boolean => UUID.test(text);
