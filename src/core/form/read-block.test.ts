import { describe, expect, it } from 'vitest';
import { bed, compiled, form, lines, number, section, sum, text } from '../../../tests/support/small-form';
import { tableId } from '../../../demo/tables';
import { readBlock } from './read-block';

describe('a block of texts over rows', () => {
  const rows = form([
    section('s', [
      lines([number('n'), sum('x', 'n + 1'), { ...bed, id: 'where', key: 'where' }, text('word')]),
    ]),
  ]);
  const record = { id: '01900000-0000-7000-b000-000000000001', title: 'G4', values: {} };
  const read = (at: readonly [string, string, string], block: readonly (readonly string[])[]) => {
    let made = 0;
    const there = [{ id: 'r1' }, { id: 'r2' }] as never;
    return readBlock(compiled(rows), there, at, block, {
      newId: () => `new${++made}`,
      found: (question, words) => (question === 'where' && words === 'G4' ? record : null),
    });
  };

  it('goes over those there are and adds the rest, passing over what is worked out', () => {
    expect(
      read(
        ['lines', 'r2', 'n'],
        [
          ['5', '9', ' G4 ', 'up', 'beside'],
          ['6', '', 'nowhere', 'down', ''],
        ],
      ),
    ).toEqual({
      rows: [
        { id: 'r2', isNew: false, cells: { n: '5', where: record.id, word: 'up' } },
        { id: 'new1', isNew: true, cells: { n: '6', where: 'nowhere', word: 'down' } },
      ],
      records: [[tableId(1), record]],
      left: 2,
    });
    expect(read(['lines', 'r1', 'where'], [['G4']]).rows).toEqual([
      { id: 'r1', isNew: false, cells: { where: record.id } },
    ]);
  });

  it('goes nowhere from a place that is gone', () => {
    const nothing = { rows: [], records: [], left: 3 };
    const block = [['1', '2'], ['3']];
    expect(read(['lines', 'gone', 'n'], block)).toEqual(nothing);
    expect(read(['lines', 'r1', 'gone'], block)).toEqual(nothing);
    expect(read(['gone', 'r1', 'n'], block)).toEqual(nothing);
  });
});
