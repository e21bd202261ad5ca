import { describe, expect, it } from 'vitest';
import { dataPackage, packageClash, packagedKeys, withWhatItNeeds } from './data-package';
import { plainColumn, plainTable, type Column, type Table } from './model';

const column = (key: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id: `c${key}`,
  key,
  label: key.toUpperCase(),
  ...more,
});
const table = (id: string, more: Partial<Table> = {}): Table => ({
  ...plainTable,
  id,
  key: `${id}_key`,
  label: `Table ${id}`,
  prefix: 'T',
  ...more,
});
const beds = table('beds', { columns: [column('code', { required: true, unique: true })] });
const plants = table('plants', {
  columns: [
    column('name', { description: 'As on its label', example: 'Fern' }),
    column('bed', { kind: 'reference', target: 'beds' }),
    column('state', { kind: 'choice', choices: [{ code: 'g', label: 'Growing on' }] }),
    column('seen', { kind: 'date-time' }),
  ],
  retired: [column('old', { kind: 'whole' })],
  linked: { source: 'Exchange', adds: true, changes: false },
});
const moves = table('moves', {
  parent: 'plants',
  columns: [column('from', { kind: 'reference', target: 'gone' })],
});
const all = new Map([beds, plants, moves].map((one) => [one.id, one]));
const make = () => dataPackage('garden', 'The garden', '2026-11-29T00:00:00Z', [beds, plants, moves]);
const resource = (name: string) => {
  const found = make().resources.find((one) => one.name === name);
  if (found === undefined) throw new Error(`no resource ${name}`);
  return found;
};

describe('tables as a Data Package', () => {
  it('stand in an order in which what refers comes before what it refers to, each with its file', () => {
    const made = make();
    expect([made.profile, made.name, made.title, made.created]).toEqual([
      'tabular-data-package',
      'garden',
      'The garden',
      '2026-11-29T00:00:00Z',
    ]);
    expect(
      made.resources.map(({ name, path, title, profile, encoding, dialect }) => [
        name,
        path,
        title,
        profile,
        encoding,
        dialect,
      ]),
    ).toEqual(
      ['moves', 'plants', 'beds'].map((id) => [
        `${id}_key`,
        `data/${id}_key.csv`,
        `Table ${id}`,
        'tabular-data-resource',
        'utf-8',
        { delimiter: ',' },
      ]),
    );
  });

  it('say what each column holds in the words of Table Schema', () => {
    const { schema, slateTable } = resource('plants_key');
    expect(schema).toEqual({
      primaryKey: 'id',
      missingValues: [''],
      fields: [
        { name: 'id', type: 'string', format: 'uuid', constraints: { required: true, unique: true } },
        { name: 'number', type: 'string', constraints: { required: true, unique: true } },
        { name: 'name', type: 'string', title: 'NAME', description: 'As on its label', example: 'Fern' },
        { name: 'bed', type: 'string', format: 'uuid', title: 'BED' },
        {
          name: 'state',
          type: 'string',
          title: 'STATE',
          constraints: { enum: ['g'] },
          categories: [{ value: 'g', label: 'Growing on' }],
        },
        { name: 'seen', type: 'datetime', format: '%Y-%m-%d %H:%M:%S', title: 'SEEN' },
        { name: 'old', type: 'integer', title: 'OLD' },
        { name: 'created_at', type: 'datetime', format: 'any' },
        { name: 'updated_at', type: 'datetime', format: 'any' },
      ],
      foreignKeys: [{ fields: 'bed', reference: { resource: 'beds_key', fields: 'id' } }],
    });
    // Where it is read back there is no source.
    expect([slateTable.linked, slateTable.columns]).toEqual([null, plants.columns]);
    expect(resource('beds_key').schema.fields[2]).toEqual({
      name: 'code',
      type: 'string',
      title: 'CODE',
      constraints: { required: true, unique: true },
    });
  });

  it('name the record a row belongs to and its place; what refers to a table that is not there refers to none', () => {
    const { fields, foreignKeys } = resource('moves_key').schema;
    expect(fields.slice(2, 5)).toEqual([
      { name: 'parent_id', type: 'string', format: 'uuid', constraints: { required: true } },
      { name: 'position', type: 'integer', constraints: { required: true } },
      { name: 'from', type: 'string', format: 'uuid', title: 'FROM' },
    ]);
    expect(foreignKeys).toEqual([
      { fields: 'parent_id', reference: { resource: 'plants_key', fields: 'id' } },
    ]);
    for (const one of [plants, moves])
      expect(packagedKeys(one)).toEqual(resource(one.key).schema.fields.map(({ name }) => name));
  });

  it('come out of a circle all the same', () => {
    const [a, b] = [
      table('a', { columns: [column('b', { kind: 'reference', target: 'b' })] }),
      table('b', {
        columns: [
          column('a', { kind: 'reference', target: 'a' }),
          column('own', { kind: 'reference', target: 'b' }),
        ],
      }),
    ];
    expect(dataPackage('x', 'X', '', [a, b]).resources.map(({ name }) => name)).toEqual(['a_key', 'b_key']);
  });
});

describe('a table of a package', () => {
  it('takes along what it refers to, what its rows belong to, and its rows', () => {
    const ids = (of: Table) => withWhatItNeeds(of, all).map(({ id }) => id);
    expect([ids(beds), ids(plants), ids(moves)]).toEqual([
      ['beds'],
      ['beds', 'plants', 'moves'],
      ['beds', 'plants', 'moves'],
    ]);
  });

  it('does not come where one like it is, or without what it refers to', () => {
    expect(packageClash([beds], [])).toBeNull();
    expect(packageClash([plants], [beds])).toBeNull();
    expect(packageClash([beds, plants], [table('beds', { key: 'other' })])).toEqual({
      clash: 'tables-there',
      tables: 'Table beds',
    });
    expect(packageClash([beds, plants], [table('x', { key: 'plants_key' }), beds])).toMatchObject({
      clash: 'tables-there',
      tables: 'Table beds, Table plants',
    });
    expect(packageClash([plants, moves], [])).toEqual({
      clash: 'tables-missing',
      tables: 'Table plants, Table moves',
    });
  });
});
