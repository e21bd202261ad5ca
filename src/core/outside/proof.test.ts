import { createHash } from 'node:crypto';
import { expect, it } from 'vitest';
import { foundProof, isProof, proofText } from './proof';

const sha256 = (text: string): Uint8Array => createHash('sha256').update(text).digest();
const of = { link: 'l', submission: 's' };

it('counts zero bits from the first', () => {
  expect(isProof(Uint8Array.of(0, 0x1f), 11)).toBe(true);
  expect(isProof(Uint8Array.of(0, 0x1f), 12)).toBe(false);
  expect(isProof(Uint8Array.of(0), 9)).toBe(false);
});

it('is found, and is one of nothing else', () => {
  const number = foundProof(sha256, of, 0, 100_000, 10) ?? -1;
  expect(isProof(sha256(proofText('l', 's', number)), 10)).toBe(true);
  expect(foundProof(sha256, of, 0, number, 10)).toBeNull();
  const elsewhere = Array.from({ length: 50 }, (_, i) =>
    isProof(sha256(proofText('l', `s${i}`, number)), 10),
  );
  expect(elsewhere.filter(Boolean).length).toBeLessThan(5);
});
