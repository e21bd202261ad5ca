import { expect, it } from 'vitest';
import type { Catalogue, Grant } from './catalogue';
import { may, mayForm, peopleHere } from './catalogue';
import { visiting } from './visiting';

const everybody: Omit<Grant, 'id' | 'tableId' | 'formId' | 'action'> = {
  role: null,
  groupId: null,
  personId: null,
  where: null,
  columns: null,
};
const link = {
  id: 'link',
  name: 'Garden website',
  email: '',
  place: 'from outside',
  roles: [],
  manager: 'ines',
  deputy: null,
  ended: true,
  outside: true,
};
const catalogue: Catalogue = {
  number: '1',
  workspace: {} as Catalogue['workspace'],
  tables: new Map(),
  lists: new Map(),
  people: new Map([['link', link]]),
  groups: new Map(),
  forms: new Map(),
  writers: [],
  grants: [
    { ...everybody, id: '1', tableId: 't', formId: null, action: 'see' },
    { ...everybody, id: '2', tableId: null, formId: 'other', action: 'fill' },
    { ...everybody, id: '3', tableId: null, formId: 'f', action: 'see-all' },
  ],
};

it('lets whoever comes by a link fill its form, and nothing that everybody may', () => {
  const met = visiting(catalogue, { person: 'link', form: 'f', fills: true, submission: 's' });
  expect(mayForm(met, 'link', 'fill', 'f')).toBe(true);
  expect(mayForm(met, 'link', 'see-all', 'f')).toBe(false);
  expect(mayForm(met, 'link', 'fill', 'other')).toBe(false);
  expect(may(met, 'link', 'see', 't')).toBe(false);
});

it('lets them only follow what they sent once the link is over', () => {
  const met = visiting(catalogue, { person: 'link', form: 'f', fills: false, submission: 's' });
  expect(mayForm(met, 'link', 'fill', 'f')).toBe(false);
});

it('keeps the person of a link out of every list, and lets them do nothing without a visit', () => {
  expect(peopleHere(catalogue)).toEqual([]);
  expect(may(catalogue, 'link', 'see', 't')).toBe(false);
  expect(mayForm(catalogue, 'link', 'fill', 'f')).toBe(false);
});
