import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { headerOf } from './header';
import { headingLabel, labelAndUnit, sheetLabel } from './heading';
import { personalByHeading } from './personal';

const word = fc.constantFrom('Code', 'Name', 'Bed', 'Grown at', 'Größe', 'Área', 'نبات', '植物');
const value = fc.oneof(
  fc.integer({ min: 0, max: 9_999 }).map(String),
  fc.constantFrom('3.5', '2026-11-25', '', 'G4-01', 'a@b.example'),
);

describe('headings', () => {
  it('are never blank and never the same twice, whatever stands in the rows', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.oneof(word, value, fc.constant(' ')), { maxLength: 6 }), { maxLength: 8 }),
        fc.option(fc.nat({ max: 7 }), { nil: undefined }),
        (rows, said) => {
          const { names, at, skip } = headerOf(
            rows,
            said === undefined || said >= rows.length ? undefined : said,
          );
          expect(names.every((name) => name.trim() !== '')).toBe(true);
          expect(new Set(names).size).toBe(names.length);
          expect(skip).toBe(at === null ? 0 : at + 1);
          expect(names.length).toBe(
            Math.max(0, ...rows.map((row) => row.findLastIndex((cell) => cell.trim() !== '') + 1)),
          );
        },
      ),
      { numRuns: 500 },
    );
  });

  it('are found above values, below as many titles as there are', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(word, { minLength: 3, maxLength: 6 }),
        fc.nat({ max: 3 }),
        fc.integer({ min: 2, max: 6 }),
        (heads, titles, rows) => {
          const above = Array.from({ length: titles }, (_, i) => [`Stock of the garden, part ${'abc'[i]}`]);
          const below = Array.from({ length: rows }, (_, r) => heads.map((_h, c) => String(r * 10 + c)));
          const { at, names } = headerOf([...above, heads, ...below]);
          expect([at, names]).toEqual([titles, heads]);
        },
      ),
    );
  });

  it('are numbered where there are none, and told apart where they are alike', () => {
    expect(
      headerOf([
        ['1', '2.5'],
        ['3', '4'],
      ]).names,
    ).toEqual(['Column 1', 'Column 2']);
    expect(
      headerOf(
        [
          ['Bed', 'Note', 'Note', ''],
          ['1', 'x', 'y', '9'],
          ['2', 'z', 'w', '8'],
        ],
        0,
      ).names,
    ).toEqual(['Bed', 'Note', 'Note (2)', 'Column 4']);
    expect(headerOf([]).names).toEqual([]);
  });

  it('made for machines are written as people would, and units stand apart', () => {
    expect(['customer_id', 'Customer_id', 'grown at', 'pH', 'net-weight'].map(headingLabel)).toEqual([
      'Customer id',
      'Customer_id',
      'Grown at',
      'pH',
      'net-weight',
    ]);
    expect(['spring_trips', 'north-shed 2026'].map(sheetLabel)).toEqual(['Spring trips', 'North shed 2026']);
    expect(['Area (m²)', 'Area [m²]', 'Area', 'Bed (2026)', '(m²)'].map(labelAndUnit)).toEqual([
      ['Area', 'm²'],
      ['Area', 'm²'],
      ['Area', ''],
      ['Bed (2026)', ''],
      ['(m²)', ''],
    ]);
  });
});

describe('data about people', () => {
  it.each([
    ['contact_email', 'e-mail'],
    ['Courriel', 'e-mail'],
    ['Mobile', 'phone'],
    ['Geburtstag', 'birth'],
    ['date_of_birth', 'birth'],
    ['Straße', 'address'],
    ['Post code', 'address'],
    ['IBAN', 'bank'],
    ['passport', 'bank'],
    ['Surname', 'name'],
    ['Prénom', 'name'],
    ['collected by', 'name'],
    ['Volunteer', 'name'],
    ['contact person', 'name'],
    ['Plant name', null],
    ['Bed', null],
    ['Collected on', null],
    ['Streetlight', 'address'],
    ['Amount', null],
  ])('is told by the heading %j: %j', (heading, wanted) => expect(personalByHeading(heading)).toBe(wanted));
});
