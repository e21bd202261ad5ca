import { describe, expect, it } from 'vitest';
import { BED, full, NEMAVAR, sheetOf, SOAP } from '../../../tests/support/designs';
import type { AnswerRow } from '../form/answers';
import { rowsToWrite } from './rows-to-write';

describe('the rows a sheet becomes', () => {
  it('are the parent with its totals, and its rows in order, as the columns hold them', () => {
    const row = rowsToWrite(sheetOf(full));
    expect(Object.fromEntries(row.values)).toEqual({
      qtrbed: BED,
      qtrbedarea: '18.50',
      qtrtotal: '1665.0',
      qtrplanned: '2026-11-25',
      qtrclosed: true,
      qtrseen: null,
    });
    expect(row.rows.map(({ values }) => Object.fromEntries(values))).toEqual([
      { qtrproduct: SOAP, qtrrate: '60.0', qtrarea: '18.50', qtramount: '1110.0' },
      { qtrproduct: NEMAVAR, qtrrate: '30.0', qtrarea: '18.50', qtramount: '555.0' },
    ]);
  });

  it('leave out rows in which nothing was typed', () => {
    const lines: AnswerRow[] = [
      { id: 'a', cells: { qtrrate: '' } },
      { id: 'b', cells: { qtrproduct: SOAP, qtrrate: '1' } },
      { id: 'c', cells: {} },
    ];
    const rows = { qtrlines: lines };
    expect(rowsToWrite(sheetOf({ ...full, rows })).rows).toHaveLength(1);
  });

  it('hold numbers rounded half up as the sheet shows them', () => {
    const rows = { qtrlines: [{ id: 'a', cells: { qtrproduct: SOAP, qtrrate: '35.5' } }] };
    expect(rowsToWrite(sheetOf({ ...full, rows })).rows[0]?.values.get('qtramount')).toBe('656.8');
  });
});
