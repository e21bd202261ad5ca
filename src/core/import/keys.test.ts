import { describe, expect, it } from 'vitest';
import { detected, many } from '../../../tests/support/sheets';
import { canTell, keyScore, namesRows, stemsOf, type KeyColumn } from './keys';
import { isCandidate, isHinted, isTarget } from './relations';

const column = (more: Partial<KeyColumn> = {}): KeyColumn => ({
  at: 0,
  name: 'Code',
  kind: 'text',
  filled: 20,
  distinct: 20,
  longest: 8,
  ...more,
});

describe('columns that name rows', () => {
  it('hold something that tells, and are no remarks', () => {
    expect(
      [
        column(),
        column({ name: 'Remarks' }),
        column({ longest: 200 }),
        column({ kind: 'decimal' }),
        column({ kind: 'whole', name: 'Amount', at: 3 }),
        column({ kind: 'whole', name: 'Amount', at: 0 }),
        column({ kind: 'whole', name: 'Bed no', at: 3 }),
      ].map(namesRows),
    ).toEqual([true, false, false, false, false, true, true]);
    expect(
      [column(), column({ kind: 'date' }), column({ longest: 81 }), column({ kind: 'phone' })].map(canTell),
    ).toEqual([true, false, false, true]);
  });

  it('are the likelier the more their heading says so, the shorter they are, and the further to the left', () => {
    const ordered = [
      column({ name: 'Accession', at: 4 }),
      column({ name: 'Bed id', at: 5 }),
      column({ name: 'Name', at: 1 }),
      column({ name: 'Town', at: 0 }),
      column({ name: 'Town', at: 3 }),
      column({ name: 'Town', at: 3, longest: 40 }),
      column({ name: 'Mail', kind: 'e-mail', at: 3 }),
    ];
    expect([...ordered].reverse().sort((a, b) => keyScore(b) - keyScore(a))).toEqual(ordered);
  });

  it('may be several together, the smallest sets first, or none', () => {
    const keys = (rows: readonly string[][]) =>
      detected({ Sheet: [['Bed', 'Day', 'Turn', 'Done'], ...rows] }).sheets[0]?.keys;
    expect(
      keys(many(24, (i) => [`B${i % 6}`, `2026-03-${String(Math.floor(i / 6) + 10)}`, `T${i % 2}`, 'yes'])),
    ).toEqual([['Bed', 'Day']]);
    expect(
      keys(
        many(24, (i) => [
          `B${i % 2}`,
          `2026-03-${10 + (Math.floor(i / 2) % 4)}`,
          `T${Math.floor(i / 8)}`,
          'yes',
        ]),
      ),
    ).toEqual([['Bed', 'Day', 'Turn']]);
    expect(keys(many(24, () => ['B1', '2026-03-10', 'T1', 'yes']))).toEqual([]);
  });
});

describe('a heading that names another sheet', () => {
  it.each([
    ['Bed', 'Beds', 'Code', true],
    ['Bed code', 'Beds', 'Code', true],
    ['supplierCode', 'Garden suppliers', 'Code', true],
    ['bedCode', 'Garden beds', 'Code', false],
    ['Taxon', 'Taxa', 'Name', true],
    ['Supplies', 'Supply', 'No', true],
    ['Licence', 'Products', 'Licence', true],
    ['Code', 'Beds', 'Code', false],
    ['Name', 'Plants', 'Name', false],
    ['Weight', 'Beds', 'Code', false],
    ['Ref', 'Refs', 'Ref', true],
  ])('%j of %s, known by %s: %s', (heading, sheet, key, wanted) =>
    expect(isHinted(heading, { sheet, column: key }, false)).toBe(wanted),
  );

  it('or its own, when it says that one is part of another', () => {
    expect(
      ['Part of', 'Parent bed', 'Reports to', 'Bed', 'Beside'].map((heading) =>
        isHinted(heading, { sheet: 'Beds', column: 'Code' }, true),
      ),
    ).toEqual([true, true, true, false, false]);
    expect(stemsOf('spring_TripsAnd boxes, addresses (glass)')).toEqual([
      'spring',
      'trip',
      'and',
      'box',
      'address',
      'glass',
    ]);
  });

  it('is looked for where values can name, and looked up where none comes twice', () => {
    expect(
      [
        column({ kind: 'date' }),
        column({ longest: 90 }),
        column({ kind: 'choice', distinct: 3 }),
        column({ filled: 0 }),
      ].map(isCandidate),
    ).toEqual([false, false, true, false]);
    expect(
      [column(), column({ distinct: 19 }), column({ kind: 'phone' }), column({ filled: 1, distinct: 1 })].map(
        isTarget,
      ),
    ).toEqual([true, false, false, false]);
  });
});
