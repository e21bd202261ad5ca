import { describe, expect, it } from 'vitest';
import { ontoRecord } from './onto-record';

describe('answers put onto a record that is there', () => {
  it('take the place of what it holds where they are filled, and leave it where they are not; rows come after its own', () => {
    const record = {
      values: { name: 'Otto', town: 'Fenwick', seen: true },
      rows: { visits: [{ id: 'r1', cells: { on: '2026-11-01' } }] },
      reasons: {},
    };
    const mine = {
      values: { name: 'Otto', town: ' ', note: 'New', seen: false },
      rows: { visits: [{ id: 'd1', cells: { on: '2026-11-02' } }], calls: [{ id: 'd2', cells: {} }] },
      reasons: { c1: 'because' },
    };
    expect(ontoRecord(record, mine)).toEqual({
      values: { name: 'Otto', town: 'Fenwick', note: 'New', seen: false },
      rows: { visits: [...record.rows.visits, ...mine.rows.visits], calls: mine.rows.calls },
      reasons: { c1: 'because' },
    });
  });
});
