import Big from 'big.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ExactSum, divide, modulo, numberText, plus, power, root, rounded, sumOf, times } from './number';

const decimal = fc
  .tuple(fc.bigInt({ min: -(10n ** 20n), max: 10n ** 20n }), fc.integer({ min: -30, max: 12 }))
  .map(([digits, e]) => new Big(`${digits}e${e}`));
const text = (n: Big | null) => (n === null ? null : numberText(n));

describe('numbers of 34 digits', () => {
  it('sum exactly, whatever the order and the sizes', () => {
    const mixed = fc.oneof(
      decimal,
      fc.integer({ min: -999_999, max: 999_999 }).map((n) => new Big(n).div(100)),
      fc.constant(new Big(0)),
    );
    fc.assert(
      fc.property(fc.array(mixed, { minLength: 1, maxLength: 120 }), (list) => {
        const exact = list.reduce((sum, one) => sum.plus(one), new Big(0)).prec(34, Big.roundHalfEven);
        expect(text(sumOf(list))).toBe(numberText(exact));
        expect(text(sumOf([...list].reverse()))).toBe(numberText(exact));
      }),
    );
    expect(text(sumOf(Array.from({ length: 200_000 }, () => new Big('999999.99999999'))))).toBe(
      '199999999999.998',
    );
  });

  it('sum products as if each were made first, whatever their sizes', () => {
    const size = fc
      .tuple(fc.integer({ min: -99_999_999, max: 99_999_999 }), fc.integer({ min: -9, max: 6 }))
      .map(([digits, e]) => new Big(`${digits}e${e}`));
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.oneof(size, decimal), fc.oneof(size, decimal)), { minLength: 1, maxLength: 40 }),
        (pairs) => {
          const sum = new ExactSum();
          for (const [a, b] of pairs) sum.addProduct(a, b);
          expect(text(sum.total())).toBe(text(sumOf(pairs.map(([a, b]) => times(a, b) ?? new Big(0)))));
        },
      ),
      { numRuns: 500 },
    );
    const huge = new ExactSum();
    huge.addProduct(new Big('1e4000'), new Big('1e4000'));
    huge.add(new Big(1));
    expect(huge.total()).toBe(null);
  });

  it('divide to the last digit: multiplied back, the error is below half of it', () => {
    fc.assert(
      fc.property(decimal, decimal, (a, b) => {
        const quotient = divide(a, b);
        expect(quotient === null).toBe(b.eq(0));
        if (quotient === null || quotient.eq(0)) return;
        expect(quotient.c.length).toBeLessThanOrEqual(34);
        const half = new Big(`5e${quotient.e - 34}`).times(b.abs());
        expect(quotient.times(b).minus(a).abs().lte(half)).toBe(true);
      }),
    );
  });

  it('have a rest with the sign of the divisor', () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.integer().filter((n) => n !== 0),
        (a, b) => {
          const rest = modulo(new Big(a), new Big(b));
          expect(text(rest)).toBe(String(a - b * Math.floor(a / b) || 0));
        },
      ),
    );
  });

  it('round as the words say', () => {
    const ways = ['up', 'down', 'half-up', 'half-down', 'half-even', 'floor', 'ceiling'] as const;
    const all = (n: string, places = 0) => ways.map((way) => text(rounded(new Big(n), new Big(places), way)));
    expect(all('5.5')).toEqual(['6', '5', '6', '5', '6', '5', '6']);
    expect(all('-2.5')).toEqual(['-3', '-2', '-3', '-2', '-2', '-3', '-2']);
    expect(all('1.121', 2)).toEqual(['1.13', '1.12', '1.12', '1.12', '1.12', '1.12', '1.13']);
    expect(all('0.0000001', 2)).toEqual(['0.01', '0', '0', '0', '0', '0', '0.01']);
    expect(all('25', -1)).toEqual(['30', '20', '30', '20', '20', '20', '30']);
    expect(rounded(new Big(1), new Big('0.5'), 'up')).toBeNull();
    expect(rounded(new Big(1), new Big(7_000), 'up')).toBeNull();
  });

  it('end where decimal128 ends', () => {
    expect(times(new Big('1e4000'), new Big('1e4000'))).toBeNull();
    expect(text(times(new Big('1e-4000'), new Big('1e-4000')))).toBe('0');
    expect(text(plus(new Big('1e3000'), new Big('-1e-3000')))?.slice(0, 40)).toBe('1' + '0'.repeat(39));
    expect(text(power(new Big(2), new Big(100)))).toBe('1267650600228229401496703205376');
    expect(power(new Big(2), new Big('0.5'))).toBeNull();
    expect(text(root(new Big('1e-10')))).toBe('0.00001');
  });
});
