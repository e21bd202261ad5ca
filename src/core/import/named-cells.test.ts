import { expect, it } from 'vitest';
import { scan } from '../../files/scan';
import { fold } from './cell';
import { hashOf } from './hash';
import { eachName } from './named-cells';
import { TextRows } from './text-rows';

it('what a column names is the same from a text and from cells: between the headings and the totals, tidy, and never blank', () => {
  const rows = [
    ['Bed', 'No', 'Other'],
    [' B-1 ', '1', 'É  2'],
    ['', '2'],
    ['b-1', '3', ''],
    ['Total', '6', ''],
  ];
  const text = new TextRows(
    scan(Buffer.from(rows.map((row) => row.join(',')).join('\n')), { delimiter: ',', newline: '\n' }, true, 0)
      .scanned,
    0,
  );
  const named = (some: Parameters<typeof eachName>[0]) => {
    const seen: [string, number][] = [];
    eachName(some, { after: 1, before: 5 }, [0, 2], (name, hash) => seen.push([name, hash]));
    return seen;
  };
  const wanted = ['B-1', 'É 2', 'b-1'].map((name) => [name, hashOf(fold(name))]);
  expect(named({ numbers: [1, 2, 3, 4, 5], rows })).toEqual(wanted);
  expect(named(text)).toEqual(wanted);
});
