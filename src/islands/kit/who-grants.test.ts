import { expect, it } from 'vitest';
import type { WhoData } from '../../contract/people';
import { columnTaken, columnWordsOf, grantsOf, someOf, takenAway, wordsOf } from './who-grants';

const grant = (action: WhoData['grants'][number]['action'], part: object = {}) => ({
  id: 'g',
  tableId: null,
  formId: 'f',
  action,
  role: null,
  groupId: null,
  personId: null,
  where: null,
  columns: null,
  ...part,
});
const data: WhoData = {
  grants: [
    grant('fill'),
    grant('design', { groupId: 'health' }),
    grant('design', { role: 'owner' }),
    grant('fill', { personId: 'ada', where: 'true' }),
  ],
  people: [
    { id: 'ada', name: 'Ada', place: '', roles: ['colleague'] },
    { id: 'ines', name: 'Ines', place: '', roles: ['owner', 'colleague'] },
    { id: 'pell', name: 'Pell', place: '', roles: ['colleague'] },
  ],
  groups: [{ id: 'health', label: 'Plant health', people: ['ada', 'pell'] }],
  mayChange: true,
  records: null,
};

it('says whom something is granted, and gives the same grants back', () => {
  const words = wordsOf(data);
  expect(words).toEqual({ fill: ['all'], design: ['group health', 'role owner'] });
  expect(
    wordsOf({ grants: [grant('fill', { role: 'colleague' }), grant('fill', { personId: 'ada' })] }),
  ).toEqual({ fill: ['all'] });
  expect(wordsOf({ grants: grantsOf(words).map((one) => ({ ...grant('fill'), ...one })) })).toEqual(words);
});

it('names those from whom a change takes all there is', () => {
  const before = { words: wordsOf(data), some: [], columns: {} };
  const fill = (words: string[], some: string[] = []) => ({
    words: { ...before.words, fill: words, design: ['group health', 'person ines'] },
    some: [{ action: 'fill' as const, where: 'true', words: some }],
    columns: {},
  });
  expect(takenAway(data, before, fill(['group health']), 'fill')).toEqual(['Ines']);
  expect(takenAway(data, before, fill(['group health']), 'design')).toEqual([]);
  expect(takenAway(data, before, fill([]), 'fill')).toEqual(['Ada', 'Ines', 'Pell']);
  // Who may with some records still may.
  expect(takenAway(data, before, fill([], ['group health']), 'fill')).toEqual(['Ines']);
});

it('puts together who may by the same rule, and gives the same grants back', () => {
  const rule = { action: 'fill', where: 'count > 3' };
  const some = someOf({
    grants: [
      grant('fill'),
      grant('fill', { personId: 'ada', where: 'count > 3' }),
      grant('fill', { groupId: 'health', where: 'count > 3' }),
      grant('design', { personId: 'ada', where: 'count > 3' }),
    ],
  });
  expect(some).toEqual([
    { ...rule, words: ['person ada', 'group health'] },
    { ...rule, action: 'design', words: ['person ada'] },
  ]);
  expect(
    someOf({
      grants: grantsOf({}, some).map((one) => ({ ...grant('fill'), ...one, where: one.where ?? null })),
    }),
  ).toEqual(some);
});

it('says who sees a restricted column, gives the same grants back, and names those who would see it no more', () => {
  const table = { columns: [{ id: 'fee', restricted: true }], retired: [] };
  const of: WhoData = {
    ...data,
    grants: [
      grant('see', {}),
      grant('design', { personId: 'ines' }),
      grant('see-columns', { groupId: 'health', columns: ['fee'] }),
    ],
    records: { table, tables: [] } as unknown as WhoData['records'],
  };
  const columns = columnWordsOf(of);
  expect(columns).toEqual({ fee: ['group health'] });
  const [back] = grantsOf({}, [], columns);
  expect(back).toMatchObject({ action: 'see-columns', groupId: 'health', columns: ['fee'], where: null });
  const before = { words: wordsOf(of), some: someOf(of), columns };
  expect([before.words['see'], before.words['see-columns']]).toEqual([['all'], undefined]);
  const taken = (after: typeof before) => columnTaken(of, before, after, 'fee');
  expect(taken({ ...before, columns: { fee: ['person ada'] } })).toEqual(['Pell']);
  expect(taken({ ...before, columns: {} })).toEqual([]);
  expect(columnTaken(of, { ...before, columns: {} }, before, 'fee')).toEqual([]);
  expect(columnTaken(of, { ...before, columns: {} }, { ...before, columns: { fee: [] } }, 'fee')).toEqual([
    'Ada',
    'Pell',
  ]);
});
