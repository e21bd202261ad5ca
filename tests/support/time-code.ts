import { createHmac } from 'node:crypto';

const HALF_MINUTE_MS = 30_000;

/** RFC 4648. */
function fromBase32(text: string): Buffer {
  const bits = [...text.replace(/=+$/, '')]
    .map((one) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(one).toString(2).padStart(5, '0'))
    .join('');
  return Buffer.from((bits.match(/.{8}/g) ?? []).map((byte) => Number.parseInt(byte, 2)));
}

/** The code of this half minute, by RFC 6238: written here once more, so that the library is held against the standard. */
export function timeCode(secret: string, now = Date.now()): string {
  const count = Buffer.alloc(8);
  count.writeBigUInt64BE(BigInt(Math.floor(now / HALF_MINUTE_MS)));
  const hash = createHmac('sha1', fromBase32(secret)).update(count).digest();
  const at = (hash.at(-1) ?? 0) & 15;
  return String((hash.readUInt32BE(at) & 0x7fffffff) % 1_000_000).padStart(6, '0');
}
