import { describe, expect, it } from 'vitest';
import { plainColumn, type Column } from '../../core/table/model';
import { cellText } from '../../core/record/cell-text';
import { heading, isNumeric } from './record-text';

const column = (part: Partial<Column>): Column => ({
  ...plainColumn,
  id: 'c',
  key: 'c',
  label: 'Area',
  ...part,
});

describe('a stored cell as people read it', () => {
  it.each<[Partial<Column>, string | boolean | null, string]>([
    [{}, null, ''],
    [{}, 'Fern', 'Fern'],
    [{ kind: 'decimal', decimals: 2 }, '1942.50', '1\u202f942.50'],
    [{ kind: 'whole' }, '12', '12'],
    [{ kind: 'date' }, '2026-11-25', 'Wed 25 Nov 2026'],
    [{ kind: 'yes-no' }, false, 'No'],
    [
      { kind: 'choice', choices: [{ code: 'in_quarantine', label: 'In quarantine' }] },
      'in_quarantine',
      'In quarantine',
    ],
    [{ kind: 'choice' }, 'gone_code', 'gone_code'],
    [{ kind: 'reference' }, 'G4-12 · Fern house', 'G4-12 · Fern house'],
  ])('%j %j is %j', (part, cell, wanted) => expect(cellText(column(part), cell)).toBe(wanted));

  it('stands under its label with its unit, numbers to the right', () => {
    expect(heading(column({ unit: 'm²' }))).toBe('Area, m²');
    expect([column({ kind: 'decimal' }), column({ kind: 'date' })].map(isNumeric)).toEqual([true, false]);
  });
});
