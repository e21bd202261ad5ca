import { workspace } from '../../../tests/support/workspace';
import { describe, expect, it } from 'vitest';
import { beds, products, taxa } from '../../../demo/tables';
import { design } from '../../../tests/support/designs';
import type { FormDesign } from '../../core/form/design';
import { tablesOf } from '../../core/storage/tables-of';
import { plainColumn, type Column, type Table } from '../../core/table/model';
import type { Redesign } from '../../core/table/redesign';
import type { UsingForm } from '../../data/system/table-changes';
import { planFor } from './plan-redesign';

const own = tablesOf(design);
const tables = new Map([beds, taxa, products, ...own].map((table) => [table.id, table]));
const there = { tables, workspace };
const live: UsingForm = { id: 'f1', title: design.title, design, release: 2 };
const asDraft: UsingForm = { ...live, release: null };
const redesign = (table: Table, more: Partial<Redesign> = {}): Redesign => ({
  table,
  readings: {},
  mends: {},
  ...more,
});
const withColumn = (table: Table, id: string, change: Partial<Column>): Table => ({
  ...table,
  columns: table.columns.map((one) => (one.id === id ? { ...one, ...change } : one)),
});
const without = (table: Table, id: string): Table => ({
  ...table,
  columns: table.columns.filter((one) => one.id !== id),
  retired: table.columns.filter((one) => one.id === id),
});
const codes = (table: Table, forms: readonly UsingForm[] = [live]) =>
  planFor(redesign(table), there, forms).issues.map(({ code, facts }) => [code, facts['form']]);

describe('a change is held against the forms that use the table', () => {
  it('what a live release reckons with cannot become another kind; a draft is only told of', () => {
    const asText = withColumn(products, 'cpromax', { kind: 'text', decimals: null });
    expect(codes(asText)).toEqual([['form-breaks', design.title]]);
    expect(codes(asText, [asDraft])).toEqual([]);
    expect(planFor(redesign(asText), there, [asDraft, live]).uses).toMatchObject([
      { column: 'cpromax', formId: 'f1', live: false },
    ]);
    expect(planFor(redesign(asText), there, [live, asDraft]).uses).toMatchObject([
      { column: 'cpromax', live: true, where: expect.arrayContaining(['expression']) as string[] },
    ]);
  });

  it('a rename breaks nothing, and is told where it shows', () => {
    const renamed = planFor(
      redesign(withColumn(products, 'cpromax', { key: 'top_rate', label: 'Top rate' })),
      there,
      [live],
    );
    expect([renamed.issues, renamed.changes.map(({ t }) => t)]).toEqual([
      [],
      ['rename-column', 'relabel-column'],
    ]);
    expect(renamed.uses).toHaveLength(1);
    expect(
      planFor(redesign(withColumn(products, 'cpromax', { description: 'Per square metre' })), there, [live])
        .uses,
    ).toEqual([]);
  });

  it('a column goes for good only when no live release fills it', () => {
    const [treatments] = own as [Table];
    const retired = without(treatments, 'qtrseen');
    expect(codes(retired)).toEqual([]);
    const hidden = new Map(tables).set(treatments.id, retired);
    const removed = { ...retired, retired: [] };
    expect(planFor(redesign(removed), { ...there, tables: hidden }, [live]).issues).toMatchObject([
      { code: 'form-writes', path: ['qtrseen'], facts: { form: design.title } },
    ]);
    const asksNoMore: FormDesign = {
      ...design,
      sections: design.sections.map((section) => ({
        ...section,
        questions: section.questions.filter(({ id }) => id !== 'qtrseen'),
      })),
      checks: [],
    };
    expect(
      planFor(redesign(removed), { ...there, tables: hidden }, [{ ...live, design: asksNoMore }]).issues,
    ).toEqual([]);
  });
});

describe('values', () => {
  it('are read anew where the kind changes, and where blanks become something', () => {
    const changed = withColumn(
      withColumn(products, 'cprolicence', { kind: 'whole', decimals: 0 }),
      'cproactive',
      { required: true },
    );
    const plan = planFor(
      redesign(changed, {
        readings: { cprolicence: { decimalSign: ',' } },
        mends: { cproactive: { '': 'unknown' } },
      }),
      there,
      [],
    );
    expect(
      plan.conversions.map(({ before, column, reading, mends }) => [
        before.kind,
        column.kind,
        column.required,
        reading,
        mends,
      ]),
    ).toEqual([
      ['text', 'whole', false, { decimalSign: ',' }, {}],
      ['text', 'text', true, {}, { '': 'unknown' }],
    ]);
    expect(planFor(redesign(changed), there, []).conversions).toHaveLength(1);
  });

  it('of a column that is added are what its owner says, read as its kind', () => {
    const added = (more: Partial<Column>, text: string) =>
      planFor(
        redesign(
          {
            ...products,
            columns: [
              ...products.columns,
              { ...plainColumn, id: 'cnew', key: 'new', label: 'New', required: true, ...more },
            ],
          },
          { mends: { cnew: { '': text } } },
        ),
        there,
        [],
      ).fills.map(({ value }) => value);
    expect([
      added({}, 'shelf 3'),
      added({ kind: 'whole', decimals: 0 }, '3'),
      added({ kind: 'whole', decimals: 0 }, 'three'),
      added({ kind: 'choice', choices: [{ code: 'd', label: 'Dry' }] }, 'dry'),
      added({}, ''),
      added({ kind: 'reference', target: beds.id }, 'G4-12'),
    ]).toEqual([['shelf 3'], ['3'], [null], ['d'], [null], [null]]);
  });
});

describe('what is sent', () => {
  it('counts only as far as it can be changed', () => {
    const forged = { ...plainColumn, id: 'cforged', key: 'forged', label: 'Forged' };
    const { after, changes, issues } = planFor(
      redesign({
        ...beds,
        key: 'other',
        parent: products.id,
        version: 99,
        retired: [forged],
        title: ['cbedcode', 'cnone'],
        together: [['cforged'], ['cbedcode', 'cnone', 'cbedname']],
      }),
      there,
      [],
    );
    expect(after).toMatchObject({
      key: 'beds',
      parent: null,
      version: beds.version,
      retired: [],
      title: ['cbedcode'],
      together: [['cbedcode', 'cbedname']],
    });
    expect([changes.map(({ t }) => t), issues]).toEqual([['keep-apart', 'retitle'], []]);
    expect(
      planFor(
        redesign({
          ...beds,
          id: '01900000-0000-7000-8000-00000000beef',
          key: 'fresh',
          parent: '01900000-0000-7000-8000-00000000dead',
        }),
        there,
        [],
      ).issues,
    ).toMatchObject([{ code: 'table-unknown' }]);
  });

  it('retires a column as it is, whatever is said of it', () => {
    const sent = {
      ...without(beds, 'cbedarea'),
      retired: [
        {
          ...beds.columns.find(({ id }) => id === 'cbedarea')!,
          kind: 'text' as const,
          key: 'forged',
          required: true,
        },
      ],
    };
    expect(planFor(redesign(sent), there, []).after.retired).toMatchObject([
      { id: 'cbedarea', key: 'area', kind: 'decimal', required: false },
    ]);
  });
});
