import { describe, expect, it } from 'vitest';
import { plural, prefixFor, singular } from './label';

describe('words made of labels', () => {
  it.each([
    ['Treatment request', 'TR'],
    ['Shift log', 'SL'],
    ['Inspections', 'IN'],
    ['🌿', 'R'],
    ['a b c d e f', 'ABCD'],
    ['Größe', 'GR'],
    ['2nd visit', 'NV'],
  ])('%s numbers as %s', (title, prefix) => expect(prefixFor(title)).toBe(prefix));

  it('take more letters where another table has the first', () => {
    expect([
      prefixFor('Beds', new Set(['BE'])),
      prefixFor('Beds', new Set(['BE', 'BED'])),
      prefixFor('Beds', new Set(['BE', 'BED', 'BEDS'])),
    ]).toEqual(['BED', 'BEDS', 'BEA']);
  });

  it('are one or many', () => {
    expect(['Supplier', 'Box', 'Delivery', 'Day', 'Bench'].map(plural)).toEqual([
      'Suppliers',
      'Boxes',
      'Deliveries',
      'Days',
      'Benches',
    ]);
    expect(['Beds', 'Supplies', 'Glass', 'Taxa', 'Species'].map(singular)).toEqual([
      'Bed',
      'Supply',
      'Glass',
      'Taxa',
      'Specy',
    ]);
  });
});
