import { expect, it } from 'vitest';
import type { Directory } from './directory';
import { pathFindings } from './path-findings';

const person = (manager: string | null = null, ended = false) => ({ manager, ended, place: '' });
const directory: Directory = {
  people: new Map([
    ['alone', person('alone')],
    ['low', person('ada')],
    ['ada', person('pell')],
    ['pell', person('ada')],
    ['head', person()],
    ['gone', person(null, true)],
  ]),
  groups: new Map([
    ['left', { people: ['gone'], groups: ['inner'] }],
    ['inner', { people: [], groups: [] }],
    ['full', { people: ['head'], groups: ['left'] }],
  ]),
};
const step = (more: object) => ({ id: 's', label: 'S', people: [], ...more });

it('finds groups nobody is in, however they are asked, and managers that go round where managers are asked', () => {
  const found = (more: object, rules?: object) =>
    pathFindings({ steps: [step(more)], ...(rules as { rules?: never }) }, directory);
  expect(found({ groups: ['full', 'left'] })).toEqual([{ t: 'empty-group', step: 's', group: 'left' }]);
  expect(found({ role: { group: 'inner', at: 'q' } })).toEqual([
    { t: 'empty-group', step: 's', group: 'inner' },
  ]);
  expect(found({ manager: true })).toEqual([
    { t: 'managers-go-round', people: ['alone'] },
    { t: 'managers-go-round', people: ['ada', 'pell'] },
  ]);
  const row = { id: 'r', cells: [], gives: [{ step: 's', people: [], groups: ['left'] }] };
  expect(found({}, { rules: [{ id: 't', asks: ['s'], rows: [row] }] })).toEqual([
    { t: 'empty-group', step: 's', group: 'left' },
  ]);
});
