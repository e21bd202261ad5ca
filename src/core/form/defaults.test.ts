import { describe, expect, it } from 'vitest';
import { design, world } from '../../../tests/support/designs';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import { defaultAnswers } from './defaults';
import { questionsOf, type FormDesign, type Question } from './design';
import { replaceQuestion } from './edit';

/** What a new sheet and a new row begin with: what the columns they are kept in have as their default. */
const column = (id: string, kind: Column['kind'], preset: string): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id,
  kind,
  default: preset,
});
const table = (id: string, columns: Column[]): Table => ({
  ...plainTable,
  id,
  key: id,
  label: id,
  prefix: 'X',
  columns,
});
const group = questionsOf(design).find(({ kind }) => kind === 'rows');
const begins = (columns: Column[], rows: Column[] = [], of: FormDesign = design) => {
  const tables = new Map([[of.table.id, table(of.table.id, columns)]]);
  if (group?.kind === 'rows') tables.set(group.table.id, table(group.table.id, rows));
  return defaultAnswers(of, tables, world);
};

describe('a new sheet', () => {
  it('begins with the defaults of its columns, as they would be typed', () => {
    const { answers, rows } = begins(
      [
        column('qtrplanned', 'date', 'today()'),
        column('qtrclosed', 'yes-no', 'true'),
        column('qtrseen', 'text', ' '),
      ],
      [column('qtrrate', 'decimal', '2.5')],
    );
    expect(answers).toEqual({ values: { qtrplanned: '2026-11-23', qtrclosed: true }, rows: {}, reasons: {} });
    expect(rows).toEqual({ [group?.id ?? '']: { qtrrate: '2.5' } });
  });

  it('begins with nothing where a default cannot be read, is not typed, or comes with a pick', () => {
    expect(begins([column('qtrplanned', 'date', 'today(')]).answers.values).toEqual({});
    // What is calculated is not typed, and rows have no column.
    expect(
      begins([column('qtrtotal', 'decimal', '3'), column('qtrlines', 'text', '"x"')]).answers.values,
    ).toEqual({});
    const carried = replaceQuestion(
      design,
      'qtrseen',
      (question) =>
        ({ ...question, carry: { lookup: 'qtrbed', column: 'cbedname', keep: 'copied' } }) as Question,
    );
    expect(begins([column('qtrseen', 'text', '"x"')]).answers.values).toEqual({ qtrseen: 'x' });
    expect(begins([column('qtrseen', 'text', '"x"')], [], carried).answers.values).toEqual({});
    expect(defaultAnswers(design, new Map(), world).answers.values).toEqual({});
  });
});
