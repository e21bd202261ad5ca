import Big from 'big.js';
import fc from 'fast-check';
import { Temporal } from 'temporal-polyfill';
import { describe, expect, it } from 'vitest';
import { byNumber, durationPart, durationText, readDuration, timesNumber } from './duration';
import {
  addMonths,
  between,
  dateOfDay,
  dayNumber,
  moved,
  monthsBetween,
  plainDate,
  plainDateTime,
  plainTime,
  weekday,
} from './moment';
import { numberText } from './number';

/** Our own arithmetic of days against Temporal's, which is slower and right. */
const day = fc.integer({ min: dayNumber('0001-01-01'), max: dayNumber('9999-12-31') });
const later = fc.integer({ min: -400_000, max: 400_000 });
const known = (days: number): string => dateOfDay(days) ?? '';
const duration = (text: string) => {
  const found = readDuration(text);
  if (found === null) throw new Error(text);
  return found;
};

describe('days', () => {
  it('are counted as Temporal counts them, both ways', () => {
    fc.assert(
      fc.property(day, (days) => {
        const date = Temporal.PlainDate.from('1970-01-01').add({ days });
        expect(dateOfDay(days)).toBe(date.toString());
        expect(dayNumber(date.toString())).toBe(days);
        expect(weekday(date.toString())).toBe(date.dayOfWeek);
      }),
    );
  });

  it('end where the calendar ends', () => {
    expect([
      dateOfDay(dayNumber('9999-12-31') + 1),
      dateOfDay(dayNumber('0001-01-01') - 1),
      dateOfDay(NaN),
    ]).toEqual([null, null, null]);
    expect([
      addMonths('9999-12-01', 1),
      addMonths('0001-01-31', -1),
      addMonths('2026-01-31', 1_000_000),
    ]).toEqual([null, null, null]);
  });

  it('are those there are', () => {
    expect(['2024-02-29', '2000-02-29', '2026-12-31'].map(plainDate)).toEqual([
      '2024-02-29',
      '2000-02-29',
      '2026-12-31',
    ]);
    expect(
      [
        '2026-02-29',
        '1900-02-29',
        '2026-13-01',
        '2026-00-10',
        '2026-04-31',
        '0000-01-01',
        '26-1-1',
        '2026-11-23 ',
      ].map(plainDate),
    ).toEqual(Array.from({ length: 8 }, () => null));
  });

  it('moved by months clip as Temporal clips', () => {
    fc.assert(
      fc.property(day, fc.integer({ min: -600, max: 600 }), (days, months) => {
        const date = Temporal.PlainDate.from(known(days)).add({ months });
        expect(addMonths(known(days), months)).toBe(
          date.year >= 1 && date.year <= 9999 ? date.toString() : null,
        );
      }),
    );
  });

  it('are whole months apart when that many months on is not past the other', () => {
    fc.assert(
      fc.property(day, later, (days, more) => {
        const [from, to] = [known(days), dateOfDay(days + more)];
        if (to === null) return;
        const months = monthsBetween(from, to).amount.toNumber();
        const unclipped = (n: number) => {
          // the day n months on, counted without clipping
          const first = addMonths(`${from.slice(0, 7)}-01`, n);
          return first === null ? NaN : dayNumber(first) + Number(from.slice(8)) - 1;
        };
        const end = dayNumber(to);
        if (more >= 0)
          expect([unclipped(months) <= end || Number(from.slice(8)) > 28, months >= 0]).toEqual([true, true]);
        else expect(months).toBeLessThanOrEqual(0);
      }),
    );
    expect(
      [
        ['2026-01-31', '2026-02-28', 0],
        ['2026-01-31', '2026-03-31', 2],
        ['2026-03-31', '2026-02-28', -1],
        ['2024-02-29', '2026-02-28', 23],
      ].map(([a, b]) => monthsBetween(String(a), String(b)).amount.toNumber()),
    ).toEqual([0, 2, -1, 23]);
  });
});

describe('times', () => {
  it('keep millionths and no zeros at their end', () => {
    expect(['10:00:00', '23:59:59.120', '00:00:00.000001'].map(plainTime)).toEqual([
      '10:00:00',
      '23:59:59.12',
      '00:00:00.000001',
    ]);
    expect(
      ['24:00:00', '10:60:00', '10:00', '10:00:60', '10:00:00.1234567', '10:00:00Z'].map(plainTime),
    ).toEqual(Array.from({ length: 6 }, () => null));
    expect(
      [
        '2026-11-23',
        '2026-11-23T10:00:00.50',
        '2026-11-23T',
        '2026-11-23 10:00:00',
        '2026-02-30T10:00:00',
        '2026-11-23T10:00:00+01:00',
      ].map(plainDateTime),
    ).toEqual(['2026-11-23T00:00:00', '2026-11-23T10:00:00.5', null, null, null, null]);
  });

  it('sort as the texts they are', () => {
    const seconds = fc.integer({ min: 0, max: 86_399_999_999 });
    const text = (micros: number) =>
      moved('00:00:00', duration(`PT${numberText(new Big(micros).div(1_000_000))}S`)) ?? '';
    fc.assert(
      fc.property(seconds, seconds, (a, b) => {
        expect(Math.sign(a - b)).toBe(text(a) < text(b) ? -1 : text(a) > text(b) ? 1 : 0);
      }),
    );
  });

  it('moved and taken from one another give the duration back', () => {
    const moment = fc
      .tuple(fc.integer({ min: -20_000, max: 40_000 }), fc.integer({ min: 0, max: 86_399 }))
      .map(([days, second]) => `${known(days)}T${moved('00:00:00', duration(`PT${second}S`)) ?? ''}`);
    fc.assert(
      fc.property(moment, fc.integer({ min: -1_000_000_000, max: 1_000_000_000 }), (from, seconds) => {
        const by = duration(`${seconds < 0 ? '-' : ''}PT${Math.abs(seconds)}S`);
        const to = moved(from, by);
        expect(to === null ? null : between(to, from).amount.toNumber()).toBe(to === null ? null : seconds);
        const exact = Temporal.PlainDateTime.from(from).add({ seconds });
        expect(to).toBe(
          exact.year >= 1 && exact.year <= 9999 ? exact.toString({ smallestUnit: 'second' }) : null,
        );
      }),
    );
  });
});

describe('durations', () => {
  it('read and written are the same', () => {
    const part = fc.nat(50);
    fc.assert(
      fc.property(fc.boolean(), part, part, part, part, (back, d, h, m, s) => {
        const text = durationText(duration(`${back ? '-' : ''}P${d}DT${h}H${m}M${s}S`));
        expect(durationText(duration(text))).toBe(text);
        expect(duration(text).amount.toNumber()).toBe(
          (back ? -1 : 1) * (d * 86_400 + h * 3_600 + m * 60 + s) || 0,
        );
      }),
    );
    expect(
      ['P14M', 'P0M', '-P1Y', 'PT0S', 'PT36H', 'PT1.50S', 'P400D'].map((text) =>
        durationText(duration(text)),
      ),
    ).toEqual(['P1Y2M', 'P0M', '-P1Y', 'PT0S', 'P1DT12H', 'PT1.5S', 'P400D']);
  });

  it('of months and of days are never mixed, and what is none is refused', () => {
    for (const wrong of ['P', 'PT', 'P1', '1D', 'P1M2D', 'P1DT', 'PT1D', 'P-1D', 'P1.5D', 'P99999999Y', ''])
      expect([wrong, readDuration(wrong)]).toEqual([wrong, null]);
  });

  it('have parts with the sign of the whole, and months that are cut to whole ones', () => {
    const parts = (['days', 'hours', 'minutes', 'seconds'] as const).map((part) =>
      durationPart(duration('-P1DT2H3M4.5S'), part).toNumber(),
    );
    expect(parts).toEqual([-1, -2, -3, -4.5]);
    expect(
      [
        timesNumber(duration('P1Y'), new Big('0.3')),
        byNumber(duration('-P7M'), new Big(2)),
        byNumber(duration('P1D'), new Big(0)),
      ].map((one) => one && durationText(one)),
    ).toEqual(['P3M', '-P3M', null]);
  });
});
