import { expect, it } from 'vitest';
import type { WhoData } from '../../contract/people';
import { grantsOf, takenAway, wordsOf } from './who-grants';

const grant = (action: 'fill' | 'design', part: object = {}) => ({
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
};

it('says whom something is granted, and gives the same grants back', () => {
  const words = wordsOf(data);
  expect(words).toEqual({ fill: ['all'], design: ['group health', 'role owner'] });
  expect(
    wordsOf({ grants: [grant('fill', { role: 'colleague' }), grant('fill', { personId: 'ada' })] }),
  ).toEqual({ fill: ['all'] });
  expect(wordsOf({ grants: grantsOf(words).map((one) => ({ ...grant('fill'), ...one })) })).toEqual(words);
});

it('names those from whom a change takes something', () => {
  const before = wordsOf(data);
  const after = { ...before, fill: ['group health'], design: ['group health', 'person ines'] };
  expect(takenAway(data, before, after, 'fill')).toEqual(['Ines']);
  expect(takenAway(data, before, after, 'design')).toEqual([]);
  expect(takenAway(data, before, { design: [] }, 'fill')).toEqual(['Ada', 'Ines', 'Pell']);
});
