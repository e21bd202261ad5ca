import fc from 'fast-check';
import { expect, it } from 'vitest';
import { copiedBytes, piecesOf } from './imports';

/** What COPY gives in its binary form of rows with one column of bytes. */
function binary(values: readonly Uint8Array[]): Buffer {
  const row = (value: Uint8Array): Buffer => {
    const head = Buffer.alloc(6);
    head.writeInt16BE(1, 0);
    head.writeInt32BE(value.length, 2);
    return Buffer.concat([head, value]);
  };
  return Buffer.concat([
    Buffer.from('5047434f50590aff0d0a000000000000000000', 'hex'),
    ...values.map(row),
    Buffer.from('ffff', 'hex'),
  ]);
}

it('the bytes of a file come out of a binary COPY whole, wherever its pieces end', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.uint8Array({ maxLength: 40 }), { maxLength: 6 }),
      fc.array(fc.integer({ min: 1, max: 30 })),
      async (values, cuts) => {
        const all = binary(values);
        async function* pieces(): AsyncGenerator<Buffer> {
          let at = 0;
          for (const size of [...cuts, all.length]) {
            if (at < all.length) yield all.subarray(at, at + size);
            at += size;
          }
        }
        const got: Buffer[] = [];
        for await (const bytes of copiedBytes(pieces())) got.push(Buffer.from(bytes));
        expect(Buffer.concat(got).equals(Buffer.concat(values))).toBe(true);
      },
    ),
    { numRuns: 300 },
  );
});

it('a file is named by a UUID and a number, and by nothing else', () => {
  expect(() => piecesOf("'; DROP TABLE x; --", 0)).toThrow();
  expect(() => piecesOf('01900000-0000-7000-b000-000000000001', 0.5)).toThrow();
});
