import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import { kinds } from '../table/kinds/list';
import Big from 'big.js';
import { dayInDigits, readDay, showDate, typedDay } from './days';
import { dateForms, formatsFrom, languages, numberForms, standardFormats, type Formats } from './formats';
import { numberAsKept, numberAsTyped, writtenNumber } from './numbers';
import { asKept, asTyped } from './typed';

const as = (formats: Partial<Formats>): void =>
  formatsFrom(() => ({ ...standardFormats, zone: 'UTC', ...formats }));
afterEach(() => as({}));

const form = fc.constantFrom(...numberForms);
const formats = fc.record({
  language: fc.constantFrom(...languages),
  dates: fc.constantFrom(...dateForms),
  numbers: form,
  firstDay: fc.integer({ min: 1, max: 7 }),
});
const plain = fc
  .tuple(fc.boolean(), fc.bigInt({ min: 0n, max: 10n ** 24n }), fc.option(fc.integer({ min: 0, max: 999 })))
  .map(
    ([minus, whole, part]) => `${minus && whole > 0n ? '-' : ''}${whole}${part === null ? '' : `.${part}`}`,
  );
const day = fc
  .date({ min: new Date('1000-01-01'), max: new Date('9999-12-31'), noInvalidDate: true })
  .map((one) => one.toISOString().slice(0, 10));

describe('numbers', () => {
  it('are written as is said', () => {
    expect(numberForms.map((one) => writtenNumber('-1234567.50', one))).toEqual([
      '-1\u202f234\u202f567.50',
      '-1\u202f234\u202f567,50',
      '-1,234,567.50',
      '-1.234.567,50',
      '-1’234’567.50',
    ]);
  });

  it('typed as they are shown are the same numbers', () => {
    fc.assert(fc.property(plain, form, (n, one) => numberAsKept(writtenNumber(n, one), one) === n));
  });

  it('typed without groups, with their unit, with blanks', () => {
    expect(numberAsKept('1942,5', 'point-comma')).toBe('1942.5');
    expect(numberAsKept('1.942,5', 'point-comma')).toBe('1942.5');
    expect(numberAsKept('EUR 1.942,50 ', 'point-comma')).toBe('EUR 1942.50 ');
    expect(numberAsKept('12,5 ml', 'space-comma')).toBe('12.5 ml');
    expect(numberAsKept("1'942.5", 'apostrophe-point')).toBe('1942.5');
    expect(numberAsKept('1,942', 'comma-point')).toBe('1942');
    expect(numberAsKept('1 942', 'space-comma')).toBe('1942');
  });

  it('that are none as they are written here are asked about, and read as they were typed', () => {
    const asked = (typed: string, one: (typeof numberForms)[number]): void => {
      const kept = numberAsKept(typed, one);
      expect(kinds.decimal.read(kept, { decimals: 3 }).ok, `${typed} as ${one}`).toBe(false);
      expect(numberAsTyped(kept, one)).toBe(typed);
    };
    asked('1,5', 'space-point');
    asked('1,5', 'comma-point');
    asked('1.5', 'point-comma');
    asked('1.94', 'space-comma');
    asked('1.942', 'space-comma');
    asked('1,94,5', 'space-comma');
    asked('1234.567', 'point-comma');
    asked('soon', 'point-comma');
  });

  it('law: whatever is typed reads the same until it is left', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[-0-9., ]{0,12}$/), form, (typed, one) => {
        const kept = numberAsKept(typed, one);
        // Shown again and kept again, it is what it was.
        expect(numberAsKept(numberAsTyped(kept, one), one)).toBe(kept);
      }),
    );
  });
});

describe('days', () => {
  it('are written as is said', () => {
    const iso = '2026-03-04';
    expect(dateForms.map((dates) => showDate(iso, { ...standardFormats, zone: 'UTC', dates }))).toEqual([
      'Wed 4 Mar 2026',
      '04/03/2026',
      '04.03.2026',
      '03/04/2026',
      '2026-03-04',
    ]);
    expect(showDate(iso, { ...standardFormats, zone: 'UTC', language: 'de' })).toBe('Mi 4. März 2026');
  });

  it('shown, or in digits, and typed again are the same days, in every language and order', () => {
    fc.assert(
      fc.property(day, formats, (iso, given) => {
        as(given);
        expect(typedDay(showDate(iso))).toBe(iso);
        expect(typedDay(dayInDigits(iso))).toBe(iso);
      }),
    );
  });

  it('are told by who types them where two numbers could be either', () => {
    as({ dates: 'month-first' });
    expect(typedDay('11/12/2026')).toBe('2026-11-12');
    expect(typedDay('31/12/2026')).toBeNull();
    as({});
    expect(typedDay('11/12/2026')).toBe('2026-12-11');
    expect(readDay('11/12/2026')).toBe('2026-12-11');
    expect(typedDay('30/02/2026')).toBeNull();
    expect(typedDay('3. Okt. 2026')).toBe('2026-10-03');
  });
});

describe('what is typed for a kind', () => {
  it('law: typed, kept and typed again is the same for every kind, however it is written here', () => {
    fc.assert(
      fc.property(day, plain, formats, (iso, n, given) => {
        as(given);
        for (const [kind, kept] of [
          ['date', iso],
          ['date-time', `${iso} 14:30`],
          ['decimal', n],
          ['text', `${n} ${iso}`],
        ] as const)
          expect(asKept(kind, asTyped(kind, kept))).toBe(kept);
      }),
    );
  });

  it('is read by its kind as it was meant, and shown in the same way', () => {
    as({ numbers: 'point-comma', dates: 'dots' });
    const money = kinds.money.read(asKept('money', '1.942,5'), { decimals: 2, unit: 'EUR' });
    expect(money).toEqual({ ok: true, value: new Big('1942.5') });
    expect(kinds.money.show(new Big('1942.5'), { decimals: 2, unit: 'EUR' })).toBe('EUR\u00a01.942,50');
    expect(kinds['date-time'].read(asKept('date-time', '3.10.2026 9:30'), {})).toEqual({
      ok: true,
      value: '2026-10-03T09:30:00',
    });
    expect(kinds['date-time'].show('2026-10-03T09:30:00', {})).toBe('03.10.2026, 09:30');
  });
});
