import { describe, expect, it } from 'vitest';
import { beds, products, taxa } from '../../../demo/tables';
import { design } from '../../../tests/support/designs';
import { tablesOf } from '../storage/tables-of';
import { dataPackage, packageClash, packagedKeys, withWhatItNeeds } from './data-package';
import { plainColumn, type Table } from './model';
import { portableSql } from './portable-sql';

const [treatments, lines] = tablesOf(design) as [Table, Table];
const all = [beds, taxa, products, treatments, lines];
const byId = new Map(all.map((table) => [table.id, table]));

describe('a Data Package', () => {
  const make = () => dataPackage('garden', 'Garden', '2026-11-23T12:00:00Z', all);
  const resource = (name: string) =>
    make().resources.find((one) => one.name === name) ?? expect.fail(`no ${name}`);

  it('has a Table Schema for each table, in the words of that standard', () => {
    expect(make()).toMatchObject({ profile: 'tabular-data-package', name: 'garden' });
    expect(resource('beds')).toMatchObject({
      path: 'data/beds.csv',
      schema: { primaryKey: 'id', missingValues: [''] },
    });
    expect(
      resource('beds').schema.fields.map(({ name, type, format = '' }) => `${name} ${type} ${format}`.trim()),
    ).toEqual([
      'id string uuid',
      'number string',
      'code string',
      'name string',
      'section string',
      'area number',
      'open_to_visitors boolean',
      'created_at datetime any',
      'updated_at datetime any',
    ]);
    expect(resource('beds').schema.fields.find(({ name }) => name === 'code')).toMatchObject({
      title: 'Code',
      constraints: { required: true, unique: true },
    });
    const choice: Table = {
      ...beds,
      columns: [
        {
          ...plainColumn,
          id: 'ck',
          key: 'kind',
          label: 'Kind',
          kind: 'choice',
          description: 'What it is',
          example: 'Raised',
          choices: [{ code: 'r', label: 'Raised' }],
        },
      ],
    };
    expect(dataPackage('x', 'X', '', [choice]).resources[0]?.schema.fields[2]).toEqual({
      name: 'kind',
      type: 'string',
      title: 'Kind',
      description: 'What it is',
      example: 'Raised',
      constraints: { enum: ['r'] },
      categories: [{ value: 'r', label: 'Raised' }],
    });
  });

  it('says which record refers to which, and the rows of a record to it', () => {
    expect(resource('treatment_lines').schema.foreignKeys).toEqual([
      { fields: 'parent_id', reference: { resource: 'treatments', fields: 'id' } },
      { fields: 'product', reference: { resource: 'products', fields: 'id' } },
    ]);
    expect(packagedKeys(lines).slice(0, 4)).toEqual(['id', 'number', 'parent_id', 'position']);
  });

  it('has those that refer before those they refer to, also in a circle', () => {
    const order = make().resources.map(({ name }) => name);
    expect(order.indexOf('treatment_lines')).toBeLessThan(order.indexOf('treatments'));
    expect(order.indexOf('treatments')).toBeLessThan(order.indexOf('beds'));
    const reference = (target: string) => ({
      ...plainColumn,
      id: 'cref',
      key: 'ref',
      label: 'Ref',
      kind: 'reference' as const,
      target,
    });
    const circle = [
      { ...beds, columns: [reference(taxa.id)] },
      { ...taxa, columns: [reference(beds.id)] },
    ];
    expect(
      dataPackage('x', 'X', '', circle)
        .resources.map(({ name }) => name)
        .sort(),
    ).toEqual(['beds', 'taxa']);
  });

  it('of one table holds what that needs, and the rows that belong to it', () => {
    expect(
      withWhatItNeeds(treatments, byId)
        .map(({ key }) => key)
        .sort(),
    ).toEqual(['beds', 'products', 'treatment_lines', 'treatments']);
    expect(withWhatItNeeds(taxa, byId).map(({ key }) => key)).toEqual(['taxa']);
  });

  it('is not read among tables of the same name or id, nor without what it refers to', () => {
    expect(packageClash([beds], [{ ...taxa, key: 'beds' }])).toEqual({
      clash: 'tables-there',
      tables: 'Beds',
    });
    expect(packageClash([beds, taxa], [{ ...products, id: taxa.id }])).toEqual({
      clash: 'tables-there',
      tables: 'Taxa',
    });
    expect(packageClash([treatments], [])).toEqual({ clash: 'tables-missing', tables: 'Treatments' });
    expect([packageClash([treatments], [beds]), packageClash(all, [])]).toEqual([null, null]);
  });
});

describe('the SQL of a table', () => {
  it('has real types, what must be so, and words for everything', () => {
    const text = portableSql(
      {
        ...beds,
        together: [['cbedname', 'cbedhouse']],
        columns: beds.columns.map((column) =>
          column.id === 'cbedopen' ? { ...column, default: 'true', description: "It's \\ open" } : column,
        ),
      },
      byId,
    );
    expect(text).toContain(
      'CREATE TABLE "beds" (\n  id uuid PRIMARY KEY,\n  number text NOT NULL UNIQUE,\n  "code" text NOT NULL UNIQUE,',
    );
    expect(text).toContain('"area" numeric(17, 2) NOT NULL');
    expect(text).toContain('"open_to_visitors" boolean DEFAULT (TRUE)');
    expect(text).toContain('UNIQUE ("name", "section")');
    expect(text).toContain(`IS  E'Open to visitors, It''s \\\\ open';`);
    expect(portableSql(lines, byId)).toContain(
      '-- When "treatments" is there: ALTER TABLE "treatment_lines" ADD FOREIGN KEY ("parent_id") REFERENCES "treatments" (id);',
    );
  });
});
