import { describe, expect, it } from 'vitest';
import { plainColumn, type Column } from '../table/model';
import { jumpValue } from './jump';
import { NUMBER_PLACE, ownPlace } from './places';

const to = (more: Partial<Column>, written: string) => {
  const found = jumpValue(ownPlace({ ...plainColumn, id: 'c', key: 'c', label: 'C', ...more }), written);
  return found.ok ? found.value : found.error.code;
};

describe('what is gone to in an order', () => {
  it('is read as its kind is, a moment by its day, a choice by its words', () => {
    const choices = [{ code: 'g', label: 'Growing on' }];
    expect([
      to({}, ' Fern '),
      to({ kind: 'whole' }, '12 500'),
      to({ kind: 'decimal', decimals: 1 }, '2.5'),
      to({ kind: 'date' }, '5/3/2026'),
      to({ kind: 'date-time' }, '5/3/2026'),
      to({ kind: 'date-time' }, '5/3/2026 14:30'),
      to({ kind: 'choice', choices }, 'growing ON'),
      to({ kind: 'choice', choices }, 'g'),
      to({ kind: 'yes-no' }, 'Yes'),
      to({ kind: 'yes-no' }, 'no'),
      to({ kind: 'reference', target: 'x' }, 'G4'),
    ]).toEqual([
      'Fern',
      '12500',
      '2.5',
      '2026-03-05',
      '2026-03-05T00:00:00',
      '2026-03-05T14:30:00',
      'g',
      'g',
      'true',
      'false',
      'G4',
    ]);
    const number = jumpValue(NUMBER_PLACE(), 'AC-2026-04');
    expect(number.ok && number.value).toBe('AC-2026-04');
  });

  it('is refused where it is no value of its kind', () => {
    expect([
      to({}, ' '),
      to({ kind: 'whole' }, 'x'),
      to({ kind: 'date' }, '31/2/2026'),
      to({ kind: 'date-time' }, 'soon'),
      to({ kind: 'choice' }, 'g'),
      to({ kind: 'yes-no' }, 'maybe'),
    ]).toEqual(['required', 'not-a-number', 'not-a-date', 'not-a-date-time', 'not-a-choice', 'not-yes-no']);
  });
});
