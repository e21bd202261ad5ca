/** Where two hashes of a text begin, and how each takes the next byte; a scan does the same as it goes. */
export const A_BEGINS = 0x9e3779b1 | 0;
export const B_BEGINS = 0x85ebca6b | 0;
export const A_TAKES = 0x5bd1e995;
export const B_TAKES = 0x1b873593;

const encoder = new TextEncoder();
let scratch = new Uint8Array(1 << 12);

/** A text as UTF-8. Holds until the next text is asked for. */
export function bytesOf(text: string): Uint8Array {
  if (scratch.length < text.length * 3) scratch = new Uint8Array(text.length * 3);
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    if (unit > 127) return scratch.subarray(0, encoder.encodeInto(text, scratch).written);
    scratch[i] = unit;
  }
  return scratch.subarray(0, text.length);
}

/** The two hashes of a text: [a, b]. */
export function hashesOf(text: string): [number, number] {
  const bytes = bytesOf(text);
  let [a, b] = [A_BEGINS, B_BEGINS];
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i] as number;
    a = Math.imul(a ^ byte, A_TAKES);
    b = Math.imul(b ^ byte, B_TAKES);
  }
  return [a, b];
}

/**
 * 53 bits of a text, never 0. Two multiplicative hashes side by side; among a million values the chance of any two meeting by accident is
 * about 1 in 20 000, and what is proposed is held against the values themselves before a table is made.
 */
export function hashOf(text: string): number {
  const [a, b] = hashesOf(text);
  return oneHash(a, b);
}

/** The same of a text whose two hashes are known. */
export function oneHash(a: number, b: number): number {
  const low = Math.imul(a ^ (a >>> 15), 0x2c1b3c6d) ^ Math.imul(b ^ (b >>> 13), 0x297a2d39);
  const high = Math.imul(b ^ (b >>> 16), 0x846ca68b) ^ Math.imul(low ^ (low >>> 13), 0x9e3779b1);
  return (high & 0x1fffff) * 0x100000000 + (low >>> 0) + 1;
}

/**
 * `hashOf(fold(text))` of a text that stands among bytes, without making texts: of a million different values
 * that is most of the work. 0 where there is more to be done than to leave out spaces and case, for no text
 * has that hash.
 */
export function foldedHash(bytes: Uint8Array, start: number, end: number): number {
  let a = A_BEGINS;
  let b = B_BEGINS;
  for (let i = start; i < end; i++) {
    let byte = bytes[i] as number;
    if (byte < 32 || byte > 126) return 0;
    if (byte === 32) continue;
    if (byte > 64 && byte < 91) byte += 32;
    a = Math.imul(a ^ byte, A_TAKES);
    b = Math.imul(b ^ byte, B_TAKES);
  }
  return oneHash(a, b);
}
