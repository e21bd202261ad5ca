import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isBig } from '../../expression/value';
import { limits } from '../../limits';
import { kinds } from './list';

const readAs = (kind: keyof typeof kinds, raw: string | boolean | null, facts = {}) => {
  const read = kinds[kind].read(raw, facts);
  return read.ok ? (isBig(read.value) ? read.value.toString() : read.value) : read.error.code;
};

describe('numbers as people type them', () => {
  it.each([
    ['12.5', '12.5'],
    [' 1 942.5 ', '1942.5'],
    ['1\u202f942', '1942'],
    ['-3', '-3'],
    ['−3', '-3'],
    ['.5', '0.5'],
    ['5.', '5'],
    ['007', '7'],
    ['2.50', '2.5'],
    ['1,5', 'not-a-number'],
    ['abc', 'not-a-number'],
    ['1e3', 'not-a-number'],
    ['0x10', 'not-a-number'],
    ['.', 'not-a-number'],
    ['-', 'not-a-number'],
    ['1.2.3', 'not-a-number'],
    ['1.234', 'too-many-decimals'],
    ['NaN', 'not-a-number'],
    ['Infinity', 'not-a-number'],
    ['9'.repeat(limits.numberDigits), '9'.repeat(limits.numberDigits)],
    ['9'.repeat(limits.numberDigits + 1), 'number-too-large'],
  ])('%j is %s', (raw, wanted) => expect(readAs('decimal', raw, { decimals: 2 })).toBe(wanted));

  it('asks for a point instead of guessing what a comma meant', () => {
    const read = kinds.decimal.read('1,500', { decimals: 2 });
    expect(read.ok ? null : read.error.facts['comma']).toBe(true);
  });

  it('wants whole numbers whole', () => {
    expect(readAs('whole', '4.0')).toBe('4');
    expect(readAs('whole', '4.5')).toBe('not-whole');
    expect(readAs('whole', true)).toBe('not-a-number');
  });

  it('reads back what it shows', () => {
    fc.assert(
      fc.property(
        fc.bigInt({ min: 1n - 10n ** 15n, max: 10n ** 15n - 1n }),
        fc.integer({ min: 0, max: 4 }),
        (digits, decimals) => {
          const text = digits.toString();
          const negative = text.startsWith('-');
          const padded = text.replace('-', '').padStart(decimals + 1, '0');
          const raw = `${negative ? '-' : ''}${padded.slice(0, padded.length - decimals)}${decimals === 0 ? '' : `.${padded.slice(-decimals)}`}`;
          const read = kinds.decimal.read(raw, { decimals });
          if (!read.ok) throw new Error(raw);
          const again = kinds.decimal.read(kinds.decimal.show(read.value, { decimals }), { decimals });
          expect(again.ok && isBig(again.value) && isBig(read.value) && again.value.eq(read.value)).toBe(
            true,
          );
        },
      ),
    );
  });

  it('groups thousands and rounds half up when shown', () => {
    const shown = (raw: string, decimals: number) => {
      const read = kinds.decimal.read(raw, { decimals: 8 });
      return read.ok ? kinds.decimal.show(read.value, { decimals }) : '';
    };
    expect(shown('1942.5', 1)).toBe('1\u202f942.5');
    expect(shown('0.125', 2)).toBe('0.13');
    expect(shown('-1234567', 0)).toBe('-1\u202f234\u202f567');
  });
});

describe('the other kinds', () => {
  it('knows the days of the calendar', () => {
    expect(readAs('date', '2028-02-29')).toBe('2028-02-29');
    for (const wrong of ['2026-02-30', '2026-1-5', '0000-01-01', 'today'])
      expect(readAs('date', wrong)).toBe('not-a-date');
    expect(kinds.date.show('2026-11-25', {})).toBe('Wed 25 Nov 2026');
  });

  it('counts the characters of a text as people see them', () => {
    expect(readAs('text', '🌿'.repeat(limits.shortText))).toBe('🌿'.repeat(limits.shortText));
    expect(readAs('text', 'x'.repeat(limits.shortText + 1))).toBe('too-long');
    expect(readAs('text', 'x'.repeat(limits.shortText + 1), { long: true })).toHaveLength(
      limits.shortText + 1,
    );
    expect(readAs('text', ' نبات \u0000')).toBe('نبات');
  });

  it('takes only yes or no, only known choices, only ids of records', () => {
    expect(readAs('yes-no', false)).toBe(false);
    expect(readAs('yes-no', 'false')).toBe('not-yes-no');
    const choices = [{ code: 'seed', label: 'Seed' }];
    expect(readAs('choice', 'seed', { choices })).toBe('seed');
    expect(readAs('choice', 'Seed', { choices })).toBe('not-a-choice');
    expect(kinds.choice.show('seed', { choices })).toBe('Seed');
    expect(readAs('reference', '01900000-0000-7000-8000-000000000001')).toBe(
      '01900000-0000-7000-8000-000000000001',
    );
    expect(readAs('reference', "x'; drop table beds")).toBe('not-a-record');
  });

  it('reads times, addresses and money', () => {
    expect([
      readAs('time', ' 14:30'),
      readAs('time', '24:00'),
      readAs('date-time', '2026-11-23 14:30'),
      readAs('date-time', '2026-11-23'),
    ]).toEqual(['14:30:00', 'not-a-time', '2026-11-23T14:30:00', 'not-a-date-time']);
    expect([
      kinds.time.show('14:30:00', {}),
      kinds.time.show('14:30:05', {}),
      kinds['date-time'].show('2026-11-23 09:05:00', {}),
    ]).toEqual(['14:30', '14:30:05', 'Mon 23 Nov 2026, 09:05']);
    expect([
      readAs('e-mail', 'a@b.example '),
      readAs('e-mail', 'a@b'),
      readAs('web-address', 'quillmere'),
      readAs('phone', '+44 1632 960114'),
      readAs('phone', 'none'),
    ]).toEqual(['a@b.example', 'not-an-e-mail', 'not-a-web-address', '+44 1632 960114', 'not-a-phone']);
    const price = kinds.money.read('1234.5', { unit: 'GBP' });
    expect(price.ok && kinds.money.show(price.value, { unit: 'GBP' })).toBe('GBP\u00a01\u202f234.50');
  });

  it('says the column type of each', () => {
    expect(kinds.whole.columnType({})).toBe('numeric(15, 0)');
    expect(kinds.decimal.columnType({ decimals: 2 })).toBe('numeric(17, 2)');
    expect(
      [kinds.text, kinds.date, kinds['yes-no'], kinds.choice, kinds.reference].map((kind) =>
        kind.columnType({}),
      ),
    ).toEqual(['text', 'date', 'boolean', 'text', 'uuid']);
  });

  it('gives each value a column of its own size, and writes it as it is stored', () => {
    expect([
      kinds.money.columnType({}),
      kinds.money.columnType({ decimals: 3 }),
      kinds.decimal.columnType({}),
      kinds['date-time'].columnType({}),
      kinds.time.columnType({}),
    ]).toEqual(['numeric(17, 2)', 'numeric(18, 3)', 'numeric(15, 0)', 'timestamp', 'time']);
    const stored = (kind: 'whole' | 'decimal' | 'money', raw: string, facts = {}) => {
      const read = kinds[kind].read(raw, facts);
      return read.ok ? kinds[kind].write(read.value, facts) : read.error;
    };
    expect([
      stored('whole', '-0'),
      stored('decimal', '1.5', { decimals: 3 }),
      stored('money', '3'),
      stored('money', '3.', { decimals: 0 }),
      stored('decimal', '-.5', { decimals: 1 }),
      stored('decimal', '+4', {}),
    ]).toEqual(['0', '1.500', '3.00', '3', '-0.5', '4']);
    for (const kind of ['whole', 'decimal', 'money'] as const)
      expect([kinds[kind].write(null, {}), kinds[kind].show('x', {})]).toEqual([null, '']);
  });

  it('says of a number what is wrong with it, and how far it may go', () => {
    const wrong = (raw: string | boolean, facts: { decimals?: number; unit?: string }) => {
      const read = kinds.decimal.read(raw, facts);
      return read.ok ? null : read.error;
    };
    expect(wrong('1.234', { decimals: 2 })).toEqual({
      code: 'too-many-decimals',
      path: [],
      facts: { most: 2 },
    });
    expect(wrong('1'.padEnd(16, '0'), { decimals: 2 })).toEqual({
      code: 'number-too-large',
      path: [],
      facts: { most: limits.numberDigits },
    });
    expect([wrong('x', {}), wrong(true, {})]).toEqual([
      { code: 'not-a-number', path: [], facts: { comma: false } },
      { code: 'not-a-number', path: [], facts: {} },
    ]);
    expect(readAs('decimal', '1.5000', { decimals: 1 })).toBe('1.5');
    expect(readAs('decimal', '1.0500', { decimals: 1 })).toBe('too-many-decimals');
    expect(readAs('decimal', '-' + '0'.repeat(20) + '7', { decimals: 0 })).toBe('-7');
    expect([
      readAs('decimal', '5 m', { unit: 'm' }),
      readAs('decimal', '5 m', {}),
      readAs('decimal', 'm', { unit: 'm' }),
    ]).toEqual(['5', 'not-a-number', 'not-a-number']);
  });

  it('leaves whole numbers below ten thousand undivided, for they may be years', () => {
    const shown = (raw: string) => {
      const read = kinds.whole.read(raw, {});
      return read.ok ? kinds.whole.show(read.value, {}) : '';
    };
    expect(['1884', '-9999', '10000', '0'].map(shown)).toEqual(['1884', '-9999', '10\u202f000', '0']);
  });
});

describe('days as people write them', () => {
  it.each([
    ['2026-11-25', '2026-11-25'],
    ['25/11/2026', '2026-11-25'],
    ['1.2.2027', '2027-02-01'],
    ['Wed 25 Nov 2026', '2026-11-25'],
    ['25 november 2026', '2026-11-25'],
    ['2nd Feb 2027', '2027-02-02'],
    ['29/02/2028', '2028-02-29'],
    ['2026/11/5', '2026-11-05'],
    ['30/02/2027', 'not-a-date'],
    ['29/02/2027', 'not-a-date'],
    ['31/04/2027', 'not-a-date'],
    ['00/01/2027', 'not-a-date'],
    ['25/13/2026', 'not-a-date'],
    ['25/11/26', 'not-a-date'],
    ['tomorrow', 'not-a-date'],
  ])('%s is %s', (raw, wanted) => expect(readAs('date', raw)).toBe(wanted));
  it.each([
    ['25/11/2026 14:30', '2026-11-25T14:30:00'],
    ['Wed 25 Nov 2026, 9:05', '2026-11-25T09:05:00'],
    ['2026-11-25T14:30:10', '2026-11-25T14:30:10'],
    ['30/02/2027 14:30', 'not-a-date-time'],
    ['25/11/2026', 'not-a-date-time'],
    ['25/11/2026 24:30', 'not-a-date-time'],
  ])('with a time, %s is %s', (raw, wanted) => expect(readAs('date-time', raw)).toBe(wanted));
  it('money may be typed with its currency', () => {
    expect(readAs('money', 'GBP 12500.00', { unit: 'GBP', decimals: 2 })).toBe('12500');
    expect(readAs('money', '12 500 gbp', { unit: 'GBP', decimals: 2 })).toBe('12500');
    expect(readAs('money', 'EUR 12', { unit: 'GBP', decimals: 2 })).toBe('not-a-number');
  });
});
