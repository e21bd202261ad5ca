import { describe, expect, it } from 'vitest';
import type { Rehearsed } from '../form/rehearsed';
import { rehearsalDifferences } from './rehearsal-differences';

const before: Rehearsed = {
  issues: [],
  mayFill: true,
  steps: [{ id: 's', label: 'Section lead', asked: ['Tomasz'] }],
  checks: [],
  records: [
    {
      table: 'Loans',
      key: 'loans',
      what: 'new',
      number: null,
      cells: [{ key: 'pieces', before: null, after: '3' }],
    },
    {
      table: 'Lines',
      key: 'lines',
      what: 'new',
      number: null,
      cells: [{ key: 'tool', before: null, after: 'Rake' }],
    },
    {
      table: 'Lines',
      key: 'lines',
      what: 'new',
      number: null,
      cells: [{ key: 'tool', before: null, after: 'Spade' }],
    },
  ],
  changedTables: false,
};
const refused = {
  ...before,
  records: [],
  issues: [{ path: ['q'], code: 'check-stops', sentence: 'Too many' }],
};

describe('what is different about a rehearsal', () => {
  it('is nothing where all is as before', () => {
    expect(rehearsalDifferences(before, before)).toEqual([]);
    expect(rehearsalDifferences(refused, refused)).toEqual([]);
  });

  it('is what keeps it from being sent, or no longer does', () => {
    expect(rehearsalDifferences(before, refused)).toEqual(['Now: Too many']);
    expect(rehearsalDifferences(refused, before)).toEqual(['No longer: Too many']);
  });

  it('is who would be asked', () => {
    expect(rehearsalDifferences(before, { ...before, steps: [] })).toEqual([
      'Asked would be nobody; before it was Section lead: Tomasz',
    ]);
  });

  it('is each column that would be written otherwise', () => {
    const [loan, rake] = before.records;
    if (loan === undefined || rake === undefined) throw new Error('there are records');
    const now = {
      ...before,
      records: [{ ...loan, cells: [{ key: 'pieces', before: null, after: '4' }] }, rake],
    };
    expect(rehearsalDifferences(before, now)).toEqual([
      'loans, pieces, would be 4; it was 3',
      'lines 2, tool, would not be written any more; it was Spade',
    ]);
    expect(rehearsalDifferences(now, before)[1]).toBe(
      'lines 2, tool, would be Spade, and was not written before',
    );
  });
});
