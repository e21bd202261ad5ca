import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dateShape, readDate, readMoment, readTime, type DateOrder } from './date';
import { isCodeLike, numberShape, readNumber, type DecimalSign } from './number';
import { isEmail, isPhone, isWebAddress, pairsOf, readYesNo } from './words';

const numberOf = (text: string, sign: DecimalSign) => {
  const shape = numberShape(text);
  return shape === null ? null : readNumber(shape, sign);
};
const dayOf = (text: string, order: DateOrder) => {
  const shape = dateShape(text);
  return shape === null ? null : readDate(shape, order);
};

describe('numbers as sheets have them', () => {
  it.each<[string, DecimalSign, string | null]>([
    ['1,234.5', '.', '1234.5'],
    ['1.234,5', ',', '1234.5'],
    ['1 234,50', ',', '1234.50'],
    ["1'234.5", '.', '1234.5'],
    ['1,234,567', '.', '1234567'],
    ['1.234.567', ',', '1234567'],
    ['1,500', '.', '1500'],
    ['1,500', ',', '1.500'],
    ['1.500', ',', '1500'],
    ['0,500', ',', '0.500'],
    ['12,5', '.', null],
    ['12.5', ',', null],
    ['.5', '.', '0.5'],
    ['(12.50)', '.', '-12.50'],
    ['12.50-', '.', '-12.50'],
    ['−3', '.', '-3'],
    ['-0', '.', '0'],
    ['€ 1.200,00', ',', '1200.00'],
    ['12.50 EUR', '.', '12.50'],
    ['CHF 9.90', '.', '9.90'],
    ['45 %', '.', '45'],
    ['18.5 m²', '.', '18.5'],
    ['1,23,456', '.', null],
    ['12.34.56', '.', null],
    ['G4-01', '.', null],
    ['1e5', '.', null],
    ['(12', '.', null],
    ['', '.', null],
    ['2026-11-23', '.', null],
    ['ABC 12', '.', null],
  ])('%j with %j is %j', (text, sign, wanted) => expect(numberOf(text, sign)).toBe(wanted));

  it('tells by itself which sign comes before the decimals, unless it could be either', () => {
    expect(
      ['12.5', '12,5', '1,234', '1.234', '1,234,567', '1234', '0,123', '1.234,5'].map(
        (text) => numberShape(text)?.sign,
      ),
    ).toEqual(['.', ',', 'either', 'either', '.', null, ',', ',']);
  });

  it('keeps apart what is a code', () => {
    expect(
      ['007', '0', '0.5', '12', '1234567890123456'].map((text) =>
        isCodeLike(numberShape(text) ?? expect.fail(text)),
      ),
    ).toEqual([true, false, false, false, true]);
  });

  it('reads any number written in either habit', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1e9, max: 1e9 }),
        fc.integer({ min: 0, max: 99 }),
        fc.boolean(),
        (whole, cents, german) => {
          const digits = String(Math.abs(whole)).replace(/\B(?=(\d{3})+$)/g, german ? '.' : ',');
          const text = `${whole < 0 ? '-' : ''}${digits}${german ? ',' : '.'}${String(cents).padStart(2, '0')}`;
          expect(Number(numberOf(text, german ? ',' : '.'))).toBeCloseTo(
            Number(`${whole < 0 ? '-' : ''}${Math.abs(whole)}.${String(cents).padStart(2, '0')}`),
            2,
          );
        },
      ),
    );
  });
});

describe('days as people write them', () => {
  it.each<[string, DateOrder, string | null]>([
    ['2026-11-23', 'dmy', '2026-11-23'],
    ['2026/1/5', 'dmy', '2026-01-05'],
    ['23.11.2026', 'mdy', '2026-11-23'],
    ['3/4/2026', 'dmy', '2026-04-03'],
    ['3/4/2026', 'mdy', '2026-03-04'],
    ['23/11/26', 'mdy', '2026-11-23'],
    ['1/2/99', 'dmy', '1999-02-01'],
    ['23 Nov 2026', 'dmy', '2026-11-23'],
    ['Monday, 23 November 2026', 'dmy', '2026-11-23'],
    ['November 23rd, 2026', 'dmy', '2026-11-23'],
    ['23. März 2026', 'dmy', '2026-03-23'],
    ['1er août 2026', 'dmy', '2026-08-01'],
    ['3 de mayo de 2026', 'dmy', '2026-05-03'],
    ['30/02/2026', 'dmy', null],
    ['31.04.2026', 'dmy', null],
    ['13/13/2026', 'dmy', null],
    ['1/2/345', 'dmy', null],
    ['Lot 12 2026', 'dmy', null],
    ['marble 12 2026', 'dmy', null],
    ['12-34-5678', 'dmy', null],
  ])('%j by %s is %j', (text, order, wanted) => expect(dayOf(text, order)).toBe(wanted));

  it.each([
    ['2026-07-01T10:00:00Z', '2026-07-01 11:00:00'],
    ['2026-01-01 10:00:00+02:00', '2026-01-01 08:00:00'],
    ['2026-10-25T00:30:00Z', '2026-10-25 01:30:00'],
    ['2026-10-25T01:30:00Z', '2026-10-25 01:30:00'],
    ['31/12/2026 23:30 -0500', '2027-01-01 04:30:00'],
    ['2026-03-29 01:30 UTC', '2026-03-29 02:30:00'],
    ['2026-03-29 01:30', '2026-03-29 01:30:00'],
    ['3 May 2026, 2:30 pm', '2026-05-03 14:30:00'],
    ['2026-03-29', '2026-03-29 00:00:00'],
    ['2026-03-29T10:00:00+99:00', null],
  ])('tells what clocks here show at %j: %j', (text, wanted) => {
    const shape = dateShape(text);
    expect(shape === null ? null : readMoment(shape, 'dmy', 'Europe/London')).toBe(wanted);
  });

  it('takes a time of day along', () => {
    expect([
      dateShape('2026-11-23T14:05:09')?.time,
      dateShape('3/4/2026 2:30 pm')?.time,
      dateShape('2026-11-23 25:00'),
    ]).toEqual(['14:05:09', '14:30:00', null]);
    expect(
      ['14:30', '2:30 pm', '12:05 am', '14h30', '24:00', '14:60', '13:00 pm', '1430'].map(readTime),
    ).toEqual(['14:30:00', '14:30:00', '00:05:00', '14:30:00', null, null, null, null]);
  });

  it('reads every day back, however it is written', () => {
    const day = fc
      .date({ min: new Date('1971-01-01'), max: new Date('2069-12-31'), noInvalidDate: true })
      .map((at) => at.toISOString().slice(0, 10));
    fc.assert(
      fc.property(day, (iso) => {
        const [y = '', m = '', d = ''] = iso.split('-');
        expect([
          dayOf(`${d}/${m}/${y}`, 'dmy'),
          dayOf(`${m}/${d}/${y}`, 'mdy'),
          dayOf(`${Number(d)}.${Number(m)}.${y.slice(2)}`, 'dmy'),
          dayOf(iso, 'mdy'),
        ]).toEqual([iso, iso, iso, iso]);
      }),
    );
  });
});

describe('words', () => {
  it('mean yes or no in pairs', () => {
    const [english = -1] = pairsOf('Yes');
    expect([readYesNo(' yes', english), readYesNo('N', english), readYesNo('nein', english)]).toEqual([
      true,
      false,
      null,
    ]);
    expect(pairsOf('maybe')).toEqual([]);
  });

  it('are addresses and telephone numbers, or not', () => {
    expect(['a@b.example', 'a@b', 'two words@b.example', 'ünal@gärten.example'].map(isEmail)).toEqual([
      true,
      false,
      false,
      true,
    ]);
    expect(['https://quillmere.example/a?b', 'www.quillmere.example', 'quillmere'].map(isWebAddress)).toEqual(
      [true, true, false],
    );
    expect(
      ['+44 1632 960 114', '(01632) 960114', '01632 960114', '2026-11-23', '1234567', '12'].map(isPhone),
    ).toEqual([true, true, true, false, false, false]);
  });
});
