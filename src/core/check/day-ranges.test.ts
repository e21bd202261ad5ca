import { describe, expect, it } from 'vitest';
import { worldOf } from '../../../tests/support/workspace';
import { compile } from '../expression/compile';
import { read } from '../expression/read';
import { dayRanges, isRelativeDay, rangeWords, readRelativeDay, relativeDayWords } from './day-ranges';

const dayOn = (today: string, feel: string) => {
  const tree = read(feel, new Map());
  if (!tree.ok) throw new Error(feel);
  return compile(tree.value)({
    ...worldOf(`${today}T10:00:00`),
    gaveUp: () => undefined,
    read: () => null,
    column: () => [],
  });
};

describe('a stretch of days', () => {
  const days = (words: string, today: string) =>
    dayRanges()
      .find((one) => one.words === words)
      ?.days.map((feel) => dayOn(today, feel));

  it('is reckoned from today, over the ends of months, years and weeks', () => {
    expect(days('this week', '2026-11-29')).toEqual(['2026-11-23', '2026-11-29']);
    expect(days('this week', '2026-11-30')).toEqual(['2026-11-30', '2026-12-06']);
    expect(days('this month', '2028-02-29')).toEqual(['2028-02-01', '2028-02-29']);
    expect(days('last month', '2026-01-31')).toEqual(['2025-12-01', '2025-12-31']);
    expect(days('this year', '2026-11-29')).toEqual(['2026-01-01', '2026-12-31']);
    expect(days('last year', '2026-01-01')).toEqual(['2025-01-01', '2025-12-31']);
    expect(days('in the last 30 days', '2026-03-15')).toEqual(['2026-02-13', '2026-03-15']);
    expect(days('in the next 7 days', '2026-12-28')).toEqual(['2026-12-28', '2027-01-04']);
  });

  it('is known by its name again', () => {
    for (const { words, days: sides } of dayRanges()) {
      expect(rangeWords(sides)).toBe(words);
      expect(sides.every((side) => side === 'today()' || isRelativeDay(side))).toBe(true);
    }
    expect(rangeWords(['today()', 'today()'])).toBeNull();
  });
});

describe('a day that is said from today', () => {
  it('is read and said again', () => {
    for (const said of ['today', 'yesterday', 'tomorrow', '3 days ago', 'in 90 days'])
      expect(relativeDayWords(readRelativeDay(said) ?? '')).toBe(said);
    expect(readRelativeDay(' In  1 DAY ')).toBe('today() + duration("P1D")');
    expect(['soon', '3 days', 'in 123456 days'].map(readRelativeDay)).toEqual([null, null, null]);
    expect(['date("2026-01-01")', 'today() + duration("P1M")'].map(relativeDayWords)).toEqual([null, null]);
    expect(isRelativeDay('today() + duration("P1M")')).toBe(false);
  });
});
