import { describe, expect, it } from 'vitest';
import { detected, untidy } from '../../../tests/support/sheets';
import type { DetectedRelation } from '../import/detection';
import { proposalsOf } from '../import/proposals';
import { fileFaults, fileSentence } from './file-sentence';
import {
  declinedSentence,
  evidenceSentences,
  needsMore,
  proposalSentence,
  refusedSentence,
} from './proposal-sentence';

const detection = detected(untidy);
const orders = detection.sheets.find(({ name }) => name === 'Orders') ?? expect.fail('no orders');

describe('proposals in words', () => {
  it('say what, why and what instead', () => {
    const proposals = proposalsOf(detection, orders);
    expect(proposals.map((one) => proposalSentence(one, 'Made'))).toEqual([
      '“Bed” names records of Beds by their Code: all 12 different values are found there, 4 once case, spaces and accents are left aside',
      'Supplier and Phone come again together in 36 rows: Made gets a table of its own with 3 records',
      'Thing 1 to 2 and Amount 1 to 2 are rows written side by side: they become 54 rows of Made',
    ]);
    expect(proposals.map(declinedSentence)).toEqual([
      '“Bed” stays as it is written',
      'Supplier stays repeated in every row',
      'The numbered columns stay side by side',
    ]);
  });

  it('count what is missing, and say when another column tells it already', () => {
    const relation: DetectedRelation = {
      from: { sheet: 'S', column: 'Bed' },
      to: { sheet: 'Beds', column: 'Code' },
      covered: 1_212,
      missed: 2,
      misses: [],
      tolerant: 0,
      alongWith: null,
      table: { id: 't', column: 'c' },
    };
    const said = (part: Partial<DetectedRelation>) =>
      proposalSentence({ t: 'relation', id: 'r', sheet: 'S', relation: { ...relation, ...part } }, '');
    expect(said({})).toBe(
      '“Bed” names records of your table Beds by their Code: 1\u202f212 of 1\u202f214 different values are found there',
    );
    expect(said({ alongWith: 'Plot' })).toBe(
      '“Bed” says of Beds what “Plot” says already, so it is left out here',
    );
  });

  it('say why a table gets no records of which only a name is known', () => {
    expect([
      needsMore('Beds', ['Section']),
      needsMore('Beds', ['Name', 'Section']),
      needsMore('Beds', ['A', 'B', 'C', 'D', 'E']),
    ]).toEqual([
      'for a record of Beds must have Section as well',
      'for a record of Beds must have Name and Section as well',
      'for a record of Beds must have A, B, C and 2 more as well',
    ]);
  });

  it('give the evidence of a column', () => {
    const said = (name: string) =>
      evidenceSentences(orders.columns.find((one) => one.name === name) ?? expect.fail(name));
    expect(said('No')).toEqual(['Filled in all 36 rows', 'No value comes twice']);
    expect(said('Paid')).toEqual(['Filled in 9 of 36 rows', '1 different value']);
  });
});

describe('refusals in words', () => {
  it('name the place and the reason', () => {
    const cell = { sheet: 'visits', row: 5, column: 'On', text: 'soon' };
    expect(refusedSentence({ ...cell, code: 'not-found-there' })).toBe(
      'visits, row 5: “soon” of On is not found among the records it should name',
    );
    expect(refusedSentence({ ...cell, row: 0, text: '', code: 'twice' })).toBe(
      'visits: On must be different in every record, and a value comes twice',
    );
    expect(refusedSentence({ ...cell, code: 'not-a-date' })).toContain('visits, row 5: “soon”: On');
  });

  it('say of every file that is not read what to do', () => {
    for (const fault of fileFaults)
      expect(fileSentence(fault, { most: 10, row: 3 })).toMatch(/^[A-Z“].{10,}/);
  });
});
