import { expect, it } from 'vitest';
import { workspace } from '../../../tests/support/workspace';
import { plainTable, type Table } from '../table/model';
import {
  formByKey,
  idsFor,
  isLimited,
  may,
  mayForm,
  mayWrite,
  peopleHere,
  rowRulesFor,
  seesAll,
  seenTable,
  tableByKey,
  type Catalogue,
  type Grant,
} from './catalogue';

const table = (id: string): Table => ({ ...plainTable, id, key: `${id}_key`, label: id, prefix: 'X' });
const person = (id: string, ...roles: ('owner' | 'colleague')[]) => ({
  id,
  name: id,
  email: `${id}@quillmere.example`,
  place: '',
  roles,
  manager: null,
  deputy: null,
  ended: id === 'gone',
});
const to = (on: Partial<Grant>, action: Grant['action'], who: Partial<Grant>): Grant => ({
  id: '',
  tableId: null,
  formId: null,
  action,
  role: null,
  groupId: null,
  personId: null,
  where: null,
  columns: null,
  ...on,
  ...who,
});
const [beds, taxa, intake] = [{ tableId: 'beds' }, { tableId: 'taxa' }, { formId: 'f' }];
const catalogue: Catalogue = {
  number: '1',
  workspace,
  tables: new Map(['beds', 'taxa'].map((id) => [id, table(id)])),
  lists: new Map(),
  people: new Map(
    [person('ines', 'owner'), person('maren', 'colleague'), person('gone', 'owner'), person('ada')].map(
      (one) => [one.id, one],
    ),
  ),
  groups: new Map(
    [
      { id: 'health', label: 'Plant health', people: ['ada'], groups: [] },
      { id: 'staff', label: 'Staff', people: ['gone'], groups: ['health'] },
    ].map((one) => [one.id, one]),
  ),
  forms: new Map([['f', { id: 'f', key: 'intake', ownerId: 'ines', live: null }]]),
  writers: [{ tableId: 'beds', formId: 'f' }],
  grants: [
    to(beds, 'see', { role: 'colleague' }),
    to(taxa, 'see', { role: 'owner' }),
    to(taxa, 'design', { personId: 'maren' }),
    to(taxa, 'add', { groupId: 'staff' }),
    to(taxa, 'change', { role: 'owner', where: 'section = "Fern house"' }),
    to(intake, 'fill', {}),
    to(intake, 'see-all', { groupId: 'health' }),
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

it('counts who is in a group of a group, and nobody who has left', () => {
  expect(['ada', 'ines', 'gone'].map((who) => may(catalogue, who, 'add', 'taxa'))).toEqual([
    true,
    false,
    false,
  ]);
  expect(['ada', 'ines', 'gone'].map((who) => mayForm(catalogue, who, 'fill', 'f'))).toEqual([
    true,
    true,
    false,
  ]);
  expect(['ada', 'ines', 'maren'].map((who) => mayForm(catalogue, who, 'see-all', 'f'))).toEqual([
    true,
    false,
    false,
  ]);
  expect(['ada', 'ines', 'gone'].map((who) => mayForm(catalogue, who, 'design', 'f'))).toEqual([
    false,
    true,
    false,
  ]);
  expect(peopleHere(catalogue).map(({ id }) => id)).toEqual(['ines', 'maren', 'ada']);
});

it('knows which forms write to a table', () => {
  expect([mayWrite(catalogue, 'f', 'beds'), mayWrite(catalogue, 'f', 'taxa')]).toEqual([true, false]);
});

it('knows where something may be done with some records only, and which', () => {
  expect(may(catalogue, 'ines', 'change', 'taxa')).toBe(true);
  expect(rowRulesFor(catalogue, 'ines', 'change', 'taxa')).toHaveLength(1);
  expect(rowRulesFor(catalogue, 'ines', 'see', 'taxa')).toBeNull();
  expect(rowRulesFor(catalogue, 'maren', 'change', 'taxa')).toEqual([]);
});

it('has the rows of records seen where those are', () => {
  const tables = new Map([table('taxa'), { ...table('rows'), parent: 'taxa' }].map((one) => [one.id, one]));
  const see = (tableId: string, where: string | null): Grant =>
    ({
      id: '',
      tableId,
      formId: null,
      action: 'see',
      role: null,
      groupId: null,
      personId: 'ines',
      where,
      columns: null,
    }) as const;
  const of = (...grants: Grant[]) => {
    const known = { ...catalogue, tables, grants };
    return [...tables.values()].map((table) => [
      seesAll(known, 'ines', table),
      isLimited(known, 'ines', table),
    ]);
  };
  expect(of(see('taxa', null), see('rows', null))).toEqual([
    [true, false],
    [true, false],
  ]);
  expect(of(see('taxa', 'x'), see('rows', null))).toEqual([
    [false, true],
    [false, true],
  ]);
  expect(of(see('taxa', 'x'), see('taxa', null), see('rows', 'y'))).toEqual([
    [true, false],
    [false, true],
  ]);
  // Whoever sees none of the records sees their rows by what is granted of those.
  expect(of(see('rows', null))).toEqual([
    [false, false],
    [true, false],
  ]);
});
