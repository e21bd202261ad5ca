import { expect, it } from 'vitest';
import { daysOf, daysOff } from './closed-days';

it('counts both ends of days in a row, over the end of a year', () =>
  expect(daysOf({ from: '2026-12-30', until: '2027-01-02', name: 'Closed' }).map(({ day }) => day)).toEqual([
    '2026-12-30',
    '2026-12-31',
    '2027-01-01',
    '2027-01-02',
  ]));

it('has each day once, in order, by its public name first', () =>
  expect(
    daysOff(
      [
        { day: '2027-01-01', name: 'New Year' },
        { day: '2026-12-25', name: 'Christmas' },
      ],
      [{ from: '2026-12-31', until: '2027-01-01', name: 'Closed' }],
    ),
  ).toEqual([
    { day: '2026-12-25', name: 'Christmas' },
    { day: '2026-12-31', name: 'Closed' },
    { day: '2027-01-01', name: 'New Year' },
  ]));
