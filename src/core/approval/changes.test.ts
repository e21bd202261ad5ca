import { describe, expect, it } from 'vitest';
import { full } from '../../../tests/support/designs';
import { answerChanges } from './changes';

describe('what changed between two sendings', () => {
  it('is nothing where nothing changed, or only emptiness', () => {
    expect(answerChanges(full, full).count).toBe(0);
    expect(answerChanges(full, { ...full, values: { ...full.values, qtrseen: '' } }).count).toBe(0);
  });

  it('knows an answer that came from none, and one that went', () => {
    const without = { ...full, values: { qtrbed: full.values['qtrbed'] ?? null } };
    expect([...answerChanges(without, full).fields]).toEqual([
      ['qtrplanned', null],
      ['qtrclosed', null],
    ]);
    expect([...answerChanges(full, without).fields]).toEqual([
      ['qtrplanned', '2026-11-25'],
      ['qtrclosed', true],
    ]);
  });

  it('takes no row in which nothing was typed for one that came or went', () => {
    const blank = { id: 'r9', cells: { qtrrate: ' ', qtrproduct: null } };
    const more = { ...full, rows: { qtrlines: [...full.rows['qtrlines']!, blank] } };
    const changes = answerChanges(full, more);
    expect([changes.count, changes.removed.size, answerChanges(more, full).count]).toEqual([0, 0, 0]);
    // A group that one of the two does not know at all.
    const other = { ...full, rows: {} };
    expect([...answerChanges(other, full).added]).toEqual(['r1', 'r2']);
    expect(answerChanges(full, other).removed.get('qtrlines')).toHaveLength(2);
  });

  it('is each answer, each cell, each row that came or went', () => {
    const [first, second] = full.rows['qtrlines']!;
    const after = {
      ...full,
      values: { ...full.values, qtrclosed: false },
      rows: {
        qtrlines: [
          { ...first!, cells: { ...first!.cells, qtrrate: '38' } },
          { id: 'r3', cells: { qtrrate: '1' } },
        ],
      },
    };
    const changes = answerChanges(full, after);
    expect([...changes.fields]).toEqual([
      ['qtrclosed', true],
      ['qtrlines/r1/qtrrate', '60.0'],
    ]);
    expect([...changes.added]).toEqual(['r3']);
    expect(changes.removed.get('qtrlines')).toEqual([second]);
    expect(changes.count).toBe(4);
  });
});
