import { PEOPLE } from '../../src/core/expression/type';
import { plainColumn, plainTable, type Table } from '../../src/core/table/model';

/** The directory of people as migration 0033 makes it. */
export const directory: Table = {
  ...plainTable,
  id: PEOPLE,
  key: 'colleagues',
  label: 'Colleagues',
  prefix: 'CO',
  numbering: 'running',
  title: ['name'],
  version: 1,
  linked: { source: 'the directory of people', adds: false, changes: false },
  columns: [
    { ...plainColumn, id: 'name', key: 'name', label: 'Name', required: true, personal: 'name' },
    { ...plainColumn, id: 'email', key: 'email', label: 'E-mail', kind: 'e-mail', personal: 'e-mail' },
    { ...plainColumn, id: 'place', key: 'place', label: 'Place' },
  ],
};
