import { describe, expect, it } from 'vitest';
import { form, lines, number, section, sum, text } from '../../../tests/support/small-form';
import { answersFromJson, placeByKeys } from './answers-json';

const inner = { ...lines([text('qlot')]), id: 'lots', key: 'lots', within: 'lines' };
const design = form([
  section('sa', [
    { ...text('qname'), key: 'name' },
    { ...number('qmany'), key: 'many' },
    { ...sum('qsum', 'many * 2'), key: 'double' },
    lines([{ ...number('qcount'), key: 'count' }]),
    inner,
  ]),
]);
let made = 0;
const read = (given: Record<string, unknown>) => {
  made = 0;
  return answersFromJson(design, given, {}, () => `r${made++}`);
};
const wrong = (given: Record<string, unknown>) => {
  const found = read(given);
  return found.ok ? [] : found.error.map(({ code, path }) => [code, ...path]);
};

describe('answers of JSON', () => {
  it('are those of a sheet, rows in rows with them', () => {
    expect(
      read({ name: 'Fern', many: 3, lines: [{ count: 1, lots: [{ qlot: 'a' }, { qlot: 'b' }] }, {}] }),
    ).toEqual({
      ok: true,
      value: {
        values: { qname: 'Fern', qmany: '3' },
        rows: {
          lines: [
            { id: 'r0', cells: { qcount: '1' } },
            { id: 'r3', cells: {} },
          ],
          lots: [
            { id: 'r1', of: 'r0', cells: { qlot: 'a' } },
            { id: 'r2', of: 'r0', cells: { qlot: 'b' } },
          ],
        },
        reasons: {},
      },
    });
  });

  it('are refused at their places', () => {
    expect(
      wrong({ name: 1, many: 'x', double: 6, lines: [{ count: {} }, { lots: [{ nope: 1 }] }], colour: null }),
    ).toEqual([
      ['not-text', 'name'],
      ['unknown-answer', 'double'],
      ['not-whole', 'lines', 0, 'count'],
      ['unknown-answer', 'lines', 1, 'lots', 0, 'nope'],
      ['unknown-answer', 'colour'],
    ]);
    expect(wrong({ lines: 'a', lots: [] })).toEqual([
      ['unknown-answer', 'lines'],
      ['unknown-answer', 'lots'],
    ]);
  });

  it('have issues of the sheet told at the places they were sent at', () => {
    const found = read({ lines: [{}, { lots: [{ qlot: 'a' }, { qlot: 'b' }] }] });
    if (!found.ok) throw new Error('not read');
    const at = (...path: string[]) => placeByKeys(design, found.value, path);
    expect(at('qname')).toEqual(['name']);
    expect(at('lines')).toEqual(['lines']);
    expect(at('lines', 'r1', 'qcount')).toEqual(['lines', 1, 'count']);
    expect(at('lots', 'r3', 'qlot')).toEqual(['lines', 1, 'lots', 1, 'qlot']);
    expect(at('qgone')).toEqual(['qgone']);
  });
});
