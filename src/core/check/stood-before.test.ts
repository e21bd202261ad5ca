import { describe, expect, it } from 'vitest';
import { full, sheetOf } from '../../../tests/support/designs';
import type { Answers } from '../form/answers';
import { reasonsAsked, sheetIssues } from './sheet-issues';
import { stoodBefore } from './stood-before';

/** The day has passed, one rate is beyond what its product may have, and one amount beyond the stock. */
const record: Answers = {
  ...full,
  values: { ...full.values, qtrplanned: '2026-11-01', qtrclosed: null },
  rows: {
    qtrlines: (full.rows['qtrlines'] ?? []).map((row, i) =>
      i === 1 ? { ...row, cells: { ...row.cells, qtrrate: '45' } } : row,
    ),
  },
};
const left = (mine: Answers) => {
  const sheet = sheetOf(mine);
  const stood = stoodBefore(sheetOf(record));
  return {
    issues: sheetIssues(sheet)
      .filter((one) => !stood(sheet, one))
      .map(({ code, path }) => `${code} ${path.join('/')}`),
    reasons: reasonsAsked(sheet, stood).map(({ id }) => id),
  };
};
const withRate = (qtrrate: string): Answers => ({
  ...record,
  rows: {
    qtrlines: (record.rows['qtrlines'] ?? []).map((row, i) =>
      i === 1 ? { ...row, cells: { ...row.cells, qtrrate } } : row,
    ),
  },
});

describe('what was wrong with a record before', () => {
  it('is told of a new one, and not of one in which it is left alone', () => {
    expect(sheetIssues(sheetOf(record)).length).toBeGreaterThan(2);
    expect(stoodBefore(null)(sheetOf(record), sheetIssues(sheetOf(record))[0]!)).toBe(false);
    expect(left(record)).toEqual({ issues: [], reasons: [] });
    expect(left({ ...record, values: { ...record.values, qtrseen: 'More' } })).toEqual({
      issues: [],
      reasons: [],
    });
  });

  it('is told once anything is changed that it depends on, and nothing else is', () => {
    expect(left({ ...record, values: { ...record.values, qtrplanned: '2026-11-02' } }).issues).toEqual([
      'check-stops qtrplanned',
    ]);
    expect(left(withRate('50'))).toEqual({
      issues: ['check-stops qtrlines/r2/qtrrate', 'reason-needed qtrlines/r2/qtramount'],
      reasons: ['qtrc2'],
    });
    // Another bed is another area, and so another amount.
    const emptied = { ...record, values: { ...record.values, qtrbed: null } };
    expect(left(emptied).issues).toContain('required qtrbed');
  });

  it('is told of a row that is new, whatever another row was', () => {
    const copy = record.rows['qtrlines']?.[1];
    const rows = { qtrlines: [...(record.rows['qtrlines'] ?? []), { id: 'copy', cells: copy?.cells ?? {} }] };
    expect(left({ ...record, rows }).issues).toContain('check-stops qtrlines/copy/qtrrate');
  });
});
