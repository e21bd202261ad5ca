import fc from 'fast-check';
import { expect, it } from 'vitest';
import { fold } from './cell';
import { foldedHash, hashesOf, hashOf, oneHash } from './hash';

it('a text has one hash, however it is come by', () => {
  fc.assert(
    fc.property(
      fc.string({ unit: 'grapheme', maxLength: 40 }),
      (text) => oneHash(...hashesOf(text)) === hashOf(text) && hashOf(text) > 0,
    ),
  );
});

it('without case and spaces a text of ASCII has the hash of its folded self, and others are left to others', () => {
  let plain = 0;
  fc.assert(
    fc.property(
      fc.string({
        unit: fc.constantFrom('a', 'Z', ' ', '7', '-', '@', '[', '~', '\t', 'é', '🌿'),
        maxLength: 12,
      }),
      fc.nat({ max: 5 }),
      (text, before) => {
        const bytes = Buffer.from(`${'x'.repeat(before)}${text}y`);
        const hash = foldedHash(bytes, before, bytes.length - 1);
        if (/^[\x20-\x7e]*$/.test(text)) plain++;
        return hash === (/^[\x20-\x7e]*$/.test(text) ? hashOf(fold(text)) : 0);
      },
    ),
    { numRuns: 1_000 },
  );
  expect(plain).toBeGreaterThan(100);
});
