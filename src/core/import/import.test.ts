import { expect, it } from 'vitest';
import { withMade } from './import';

it('what comes into one table out of several sheets is told as one, and tables that are made one by one', () => {
  const merged = (added: number, changed: number) => ({ added, changed, same: 1, leftOut: 0 });
  const beds = { key: 'beds', label: 'Beds', records: 3, merged: merged(2, 1) };
  const made = { key: 'orders', label: 'Orders', records: 7 };
  const all = [
    beds,
    made,
    { ...beds, records: 5, merged: merged(5, 0) },
    { ...made, key: 'lines', label: 'Lines' },
  ].reduce(withMade, [] as Parameters<typeof withMade>[0]);
  expect(all).toEqual([
    { key: 'beds', label: 'Beds', records: 8, merged: { added: 7, changed: 1, same: 2, leftOut: 0 } },
    made,
    { key: 'lines', label: 'Lines', records: 7 },
  ]);
});
