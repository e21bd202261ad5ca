import Big from 'big.js';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { Duration } from './duration';
import { pack, unpack } from './transfer';
import { Range, type Value } from './value';

const values = fc.letrec<{ value: Value }>((tie) => ({
  value: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    fc.constantFrom<Value>(null, true, false, '2026-11-28'),
    fc.string(),
    fc.tuple(fc.bigInt(-(10n ** 34n), 10n ** 34n), fc.nat(20)).map(([n, e]): Value => new Big(`${n}e-${e}`)),
    fc
      .tuple(fc.constantFrom('months' as const, 'seconds' as const), fc.integer())
      .map(([unit, n]): Value => new Duration(unit, new Big(n))),
    fc
      .tuple(tie('value'), tie('value'), fc.boolean(), fc.boolean())
      .map(([low, high, a, b]): Value => new Range(low, high, a, b)),
    fc.array(tie('value'), { maxLength: 4 }),
    fc.array(fc.tuple(fc.string(), tie('value')), { maxLength: 4 }).map((entries): Value => new Map(entries)),
    fc
      .dictionary(fc.stringMatching(/^c[a-z]{1,4}$/), tie('value'), { maxKeys: 4 })
      .map((dictionary): Value => ({ id: 'r', title: 'A record', values: { ...dictionary } })),
  ),
})).value;

it('what is packed, cloned and unpacked is the same value', () => {
  fc.assert(
    fc.property(values, (value) => {
      expect(unpack(structuredClone(pack(value)))).toEqual(value);
    }),
  );
});
