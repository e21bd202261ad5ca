import { describe, expect, it } from 'vitest';
import type { FieldQuestion, FormDesign, RowsQuestion } from '../form/design';
import type { Column } from '../table/model';
import { tablesOf } from './tables-of';

const asked = { label: 'Label', hint: 'In words', required: true };
const field = (id: string, more: object): FieldQuestion =>
  ({ ...asked, id, key: `key_${id}`, ...more }) as unknown as FieldQuestion;
const lines: RowsQuestion = {
  ...asked,
  id: 'lines',
  key: 'lines',
  kind: 'rows',
  least: 1,
  most: 5,
  table: { id: 'T2', key: 'lines', label: 'Lines', prefix: 'L' },
  columns: [
    field('amount', { kind: 'decimal', decimals: 3, unit: 'ml' }) as never,
    field('note', { kind: 'text', long: false }) as never,
  ],
  totals: [
    { id: 'sum', key: 'sum', label: 'Sum', column: 'amount' },
    { id: 'odd', key: 'odd', label: 'Odd', column: 'note' },
    { id: 'lost', key: 'lost', label: 'Lost', column: 'gone' },
  ],
};
const designOf = (questions: readonly unknown[], showWhen?: string): FormDesign =>
  ({
    format: 1,
    title: 'Form',
    checks: [],
    steps: [],
    table: { id: 'T1', key: 'things', label: 'Things', prefix: 'TH' },
    sections: [{ id: 's', title: '', questions, ...(showWhen !== undefined && { showWhen }) }],
  }) as unknown as FormDesign;
const columnsOf = (design: FormDesign): ReadonlyMap<string, Column> =>
  new Map((tablesOf(design)[0]?.columns ?? []).map((column) => [column.id, column]));

describe('the tables a design keeps its answers in', () => {
  it('are one for the form, and one for each group, whose rows belong to the first', () => {
    const [own, inner, ...more] = tablesOf(designOf([field('name', { kind: 'text' }), lines]));
    expect(more).toEqual([]);
    expect(own).toMatchObject({ id: 'T1', key: 'things', label: 'Things', prefix: 'TH', parent: null });
    expect(inner).toMatchObject({ id: 'T2', key: 'lines', label: 'Lines', prefix: 'L', parent: 'T1' });
    expect(inner?.columns.map(({ id }) => id)).toEqual(['amount', 'note']);
    expect(own?.columns.map(({ id }) => id)).toEqual(['name', 'sum', 'odd', 'lost']);
  });

  it('have a column for each question, of its kind, in the words of the form', () => {
    const columns = columnsOf(
      designOf([
        field('name', { kind: 'text' }),
        field('size', { kind: 'decimal', decimals: 2, unit: 'm²' }),
        field('place', { kind: 'lookup', table: 'T9', show: [] }),
        field('state', {
          kind: 'choice',
          choices: [{ code: 'a', label: 'A' }],
          list: { id: 'l', label: 'List' },
        }),
        field('other', { kind: 'choice', choices: [{ code: 'b', label: 'B' }] }),
      ]),
    );
    expect(columns.get('name')).toMatchObject({
      key: 'key_name',
      label: 'Label',
      description: 'In words',
      kind: 'text',
      required: true,
      decimals: null,
      unit: '',
      choices: [],
      list: null,
      target: null,
    });
    expect(columns.get('size')).toMatchObject({ kind: 'decimal', decimals: 2, unit: 'm²' });
    expect(columns.get('place')).toMatchObject({ kind: 'reference', target: 'T9' });
    expect(columns.get('state')).toMatchObject({
      kind: 'choice',
      choices: [{ code: 'a', label: 'A' }],
      list: { id: 'l', label: 'List' },
    });
    expect(columns.get('other')).toMatchObject({ choices: [{ code: 'b', label: 'B' }], list: null });
  });

  it('require what is always asked and typed, and nothing else', () => {
    const required = (question: FieldQuestion, showWhen?: string): boolean | undefined =>
      columnsOf(designOf([question], showWhen)).get('q')?.required;
    expect(required(field('q', { kind: 'text' }))).toBe(true);
    expect(required(field('q', { kind: 'text', required: false }))).toBe(false);
    expect(required(field('q', { kind: 'text', askWhen: 'x' }))).toBe(false);
    expect(required(field('q', { kind: 'text' }), 'x')).toBe(false);
    expect(required(field('q', { kind: 'calculated', expression: '1', decimals: 0 }))).toBe(false);
    // A row is asked whole whatever its section waits for: there are no rows then.
    const [, inner] = tablesOf(designOf([lines], 'x'));
    expect(inner?.columns.map(({ required: must }) => must)).toEqual([true, true]);
  });

  it('give a calculated number its decimals, and a calculated text none', () => {
    const of = (more: object) =>
      columnsOf(
        designOf([field('q', { kind: 'calculated', expression: '1', decimals: 2, unit: '', ...more })]),
      ).get('q');
    expect(of({})).toMatchObject({ kind: 'decimal', decimals: 2 });
    expect(of({ gives: 'text' })).toMatchObject({ kind: 'text', decimals: null });
  });

  it('keep a total as precisely, and in the unit, of what it adds up', () => {
    const columns = columnsOf(designOf([lines]));
    expect(columns.get('sum')).toMatchObject({
      key: 'sum',
      label: 'Sum',
      kind: 'decimal',
      decimals: 3,
      unit: 'ml',
      required: false,
    });
    expect(columns.get('odd')).toMatchObject({ decimals: 0, unit: '' });
    expect(columns.get('lost')).toMatchObject({ decimals: 0, unit: '' });
  });
});
