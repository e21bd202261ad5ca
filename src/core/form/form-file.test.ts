import { describe, expect, it } from 'vitest';
import { everydayForms, suppliers, volunteers } from '../../../demo/everyday-forms';
import { bedInspection, plantIntake, treatmentRequest } from '../../../demo/forms';
import { people as garden } from '../../../demo/people';
import { tables as base } from '../../../tests/support/designs';
import { compileForm } from './compile-form';
import { allQuestions, type FormDesign } from './design';
import { designOfFile, formFile } from './form-file';
import { freshCopy, withIds } from './change/fresh-copy';

const people = new Map(
  garden.map((one) => [one.id, { ...one, manager: null, deputy: null, ended: false } as never]),
);
const tables = new Map([...base, ...[suppliers, volunteers].map((one) => [one.id, one] as const)]);
const lists = new Map(
  [treatmentRequest, plantIntake, bedInspection, ...everydayForms.map((form) => form.design)]
    .flatMap(allQuestions)
    .flatMap((one) =>
      'list' in one && one.list !== undefined ? [[one.list.id, one.list as never] as const] : [],
    ),
);
const here = { groups: new Map<string, never>(), tables, people, lists };
const designs: readonly FormDesign[] = [
  treatmentRequest,
  plantIntake,
  bedInspection,
  ...everydayForms.map(({ design }) => design),
];
const sent = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;
const counting = () => {
  let count = 0;
  return () => `n${String(++count)}`;
};

describe('a form as a file', () => {
  it('taken out and in again is the same form', () => {
    for (const design of designs)
      expect(designOfFile(sent(formFile(design, here)), here)).toEqual({
        design: sent(design),
        unknown: { tables: [], people: [], groups: [] },
      });
  });

  it('finds tables by their key and people by their address, and says whom and what it does not find', () => {
    const file = sent(formFile(treatmentRequest, here));
    const elsewhere = new Map(
      [...tables.values()].map((table) => {
        const id = `1${table.id.slice(1)}`;
        return [id, { ...table, id, columns: table.columns.map((one) => ({ ...one, id: `x${one.id}` })) }];
      }),
    );
    const moved = designOfFile(file, { ...here, tables: elsewhere });
    expect(moved.unknown.tables).toEqual([]);
    const bed = allQuestions(moved.design).find(({ id }) => id === 'qtrbed');
    expect(
      bed?.kind === 'lookup' && [elsewhere.has(bed.table), bed.show.every((one) => one.startsWith('x'))],
    ).toEqual([true, true]);
    expect(compileForm(moved.design, elsewhere).ok).toBe(true);
    const nowhere = designOfFile(file, {
      tables: new Map(),
      people: new Map(),
      groups: new Map(),
      lists: new Map(),
    });
    expect(nowhere.unknown.tables).toEqual(['Beds', 'Products']);
    expect(nowhere.unknown.people.length).toBeGreaterThan(2);
    expect(nowhere.design.steps.flatMap((step) => step.people)).toEqual([]);
    const asksGroup = {
      ...treatmentRequest,
      steps: treatmentRequest.steps.map((step) => ({ ...step, groups: ['g1'] })),
    };
    const group = (id: string) => [id, { id, label: 'Plant health', people: [], groups: [] }] as const;
    const withGroup = sent(formFile(asksGroup, { ...here, groups: new Map([group('g1')]) }));
    const found = designOfFile(withGroup, { ...here, groups: new Map([group('g2')]) });
    expect([found.design.steps[0]?.groups, found.unknown.groups]).toEqual([['g2'], []]);
    expect(designOfFile(withGroup, here).unknown.groups).toEqual(['Plant health']);
    expect(allQuestions(nowhere.design).find(({ id }) => id === 'qtrbed')).toMatchObject({
      table: '',
      show: [],
    });
  });
});

describe('a form copied', () => {
  it('has nothing with an id of the first, and works the same', () => {
    for (const design of designs) {
      const tableOf = (table: FormDesign['table']) => ({ ...table, id: `1${table.id.slice(1)}` });
      const copy = freshCopy(design, counting(), tableOf);
      const ids = allQuestions(design).map(({ id }) => id);
      const text = JSON.stringify(copy);
      expect(ids.filter((id) => new RegExp(`\\b${id}\\b`).test(text))).toEqual([]);
      const [before, after] = [compileForm(design, tables), compileForm(copy, tables)];
      expect([before.ok, after.ok]).toEqual([true, true]);
      if (before.ok && after.ok) expect(after.value.formulas.length).toBe(before.value.formulas.length);
      expect(copy.table.id).not.toBe(design.table.id);
    }
  });

  it('leaves texts in quotes alone', () => {
    const ids = new Map([['qa', 'n1']]);
    expect(withIds('qa = "qa" and pick_qa > 1 and qab', ids)).toBe('n1 = "qa" and pick_n1 > 1 and qab');
  });
});
