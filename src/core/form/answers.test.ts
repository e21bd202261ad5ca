import { describe, expect, it } from 'vitest';
import { design, full } from '../../../tests/support/designs';
import { unknownAnswers } from './answers';

const found = (more: Partial<typeof full>) =>
  unknownAnswers(design, { ...full, ...more }).map(({ path }) => path);

describe('answers', () => {
  it('of a form are all known', () => expect(found({})).toEqual([]));
  it.each<[string, Partial<typeof full>, unknown[]]>([
    ['of a question that is not there', { values: { qghost: 'x' } }, [['qghost']]],
    ['of rows, given as one value', { values: { qtrlines: 'x' } }, [['qtrlines']]],
    ['of a group that is not there', { rows: { qghost: [] } }, [['qghost']]],
    ['of a question given as rows', { rows: { qtrbed: [] } }, [['qtrbed']]],
    [
      'of a column that is not there',
      { rows: { qtrlines: [{ id: 'r1', cells: { qghost: 'x' } }] } },
      [['qtrlines', 'r1', 'qghost']],
    ],
  ])('%s belong to nothing', (_, more, paths) => expect(found(more)).toEqual(paths));
  it('may hold a reason for a check that is asked no more', () =>
    expect(found({ reasons: { cghost: 'because' } })).toEqual([]));
  it('are not listed without end', () =>
    expect(
      found({ values: Object.fromEntries(Array.from({ length: 500 }, (_, i) => [`q${i}`, 'x'])) }),
    ).toHaveLength(20));
});
