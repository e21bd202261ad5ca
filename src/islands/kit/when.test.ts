import { describe, expect, it } from 'vitest';
import { workspace } from '../../../tests/support/workspace';
import { formatsFrom, standardFormats } from '../../core/formats/formats';
import { clock, when } from './when';

formatsFrom(() => ({ ...standardFormats, zone: workspace.zone }));

describe('times as people of the garden read them', () => {
  it('are those of its zone, over the change of clocks', () => {
    expect(when('2026-11-23T15:12:00Z')).toBe('Mon 23 Nov 2026, 15:12');
    expect(when('2026-07-01T23:30:00Z')).toBe('Thu 2 Jul 2026, 00:30');
    expect(when('2026-10-25T00:59:00Z')).toBe('Sun 25 Oct 2026, 01:59');
    expect(when('2026-10-25T01:01:00Z')).toBe('Sun 25 Oct 2026, 01:01');
  });

  it('say midnight as 00:00', () => expect(clock('2026-01-05T00:00:00Z')).toBe('00:00'));
});
