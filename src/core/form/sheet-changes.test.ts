import { expect, it } from 'vitest';
import { full, NEMAVAR, sheetOf, SOAP } from '../../../tests/support/designs';
import { sheetChanges } from './sheet-changes';

it('tells what reads differently, in the order of the form, with what follows from it', () => {
  const was = sheetOf(full);
  expect(sheetChanges(was, sheetOf(full))).toEqual([]);
  const [first, second] = full.rows['qtrlines'] ?? [];
  const now = sheetOf({
    ...full,
    values: { ...full.values, qtrclosed: false, qtrplanned: null },
    rows: {
      qtrlines: [
        { id: first?.id ?? '', cells: { ...first?.cells, qtrrate: '50' } },
        { id: 'fresh', cells: { qtrproduct: SOAP, qtrrate: '1' } },
      ],
    },
  });
  expect(
    sheetChanges(was, now).map(({ place, before, after }) => [
      place.join('/'),
      ...[before, after].map((text) => text.replaceAll(/\s/g, ' ')),
    ]),
  ).toEqual([
    ['qtrlines/r1/qtrrate', '60.0', '50.0'],
    ['qtrlines/r1/qtramount', '1 110.0', '925.0'],
    ['qtrlines/fresh', '', 'new row Soft soap spray 2% · 1.0'],
    ['qtrlines/r2', 'Nemavar drench · 30.0', 'removed'],
    ['qtrtotal', '1 665.0', '943.5'],
    ['qtrplanned', 'Wed 25 Nov 2026', 'empty'],
    ['qtrclosed', 'Yes', 'No'],
  ]);
  expect(second?.cells['qtrproduct']).toBe(NEMAVAR);
});

it('says that rows stand in another order', () => {
  const turned = sheetOf({ ...full, rows: { qtrlines: [...(full.rows['qtrlines'] ?? [])].reverse() } });
  expect(sheetChanges(sheetOf(full), turned)).toMatchObject([
    { place: ['qtrlines'], after: 'in another order' },
  ]);
});
