import { expect, it } from 'vitest';
import { plainTable, type Table } from '../table/model';
import { formByKey, idsFor, may, seenTable, tableByKey, type Catalogue, type Grant } from './catalogue';

const table = (id: string): Table => ({ ...plainTable, id, key: `${id}_key`, label: id, prefix: 'X' });
const person = (id: string, ...roles: ('owner' | 'colleague')[]) => ({
  id,
  name: id,
  email: `${id}@quillmere.example`,
  place: '',
  roles,
});
const to = (tableId: string, action: Grant['action'], who: Partial<Grant>): Grant => ({
  tableId,
  action,
  role: null,
  personId: null,
  ...who,
});
const catalogue: Catalogue = {
  number: '1',
  tables: new Map(['beds', 'taxa'].map((id) => [id, table(id)])),
  lists: new Map(),
  people: new Map([person('ines', 'owner'), person('maren', 'colleague')].map((one) => [one.id, one])),
  forms: new Map([['f', { id: 'f', key: 'intake', ownerId: 'ines', live: null }]]),
  grants: [
    to('beds', 'see', { role: 'colleague' }),
    to('taxa', 'see', { role: 'owner' }),
    to('taxa', 'design', { personId: 'maren' }),
  ],
};

it('says who may do what with a table, by role and by name', () => {
  expect([...idsFor(catalogue, 'ines', 'see')]).toEqual(['taxa']);
  expect([...idsFor(catalogue, 'maren', 'see')]).toEqual(['beds']);
  expect([...idsFor(catalogue, 'maren', 'see', 'design')]).toEqual(['beds', 'taxa']);
  expect(may(catalogue, 'maren', 'design', 'beds')).toBe(false);
  expect(may(catalogue, 'nobody', 'see', 'beds')).toBe(false);
});

it('finds tables and forms by their keys, and shows only what may be seen', () => {
  expect(tableByKey(catalogue, 'taxa_key')?.id).toBe('taxa');
  expect(formByKey(catalogue, 'intake')?.id).toBe('f');
  expect(seenTable(catalogue, 'maren', 'taxa_key')).toBeNull();
  expect(seenTable(catalogue, 'ines', 'taxa_key')?.id).toBe('taxa');
  expect(seenTable(catalogue, 'ines', 'none')).toBeNull();
});
