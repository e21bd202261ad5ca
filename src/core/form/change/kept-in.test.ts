import { describe, expect, it } from 'vitest';
import { form, lines, number, section, sum, text } from '../../../../tests/support/small-form';
import { check } from '../../../../tests/support/small-form';
import { tablesOf } from '../../storage/tables-of';
import { planTables } from '../../table/plan';
import { plainColumn, plainTable, type Column, type Table } from '../../table/model';
import { compileForm } from '../compile-form';
import { allQuestions, type FormDesign } from '../design';
import { askedAsKept, keptAnew, keptIn, keptInNewTable, keptInTable, namedAs } from './kept-in';

const column = (id: string, label: string, kind: Column['kind'], more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: label.toLowerCase().replaceAll(' ', '_'),
  label,
  kind,
  ...more,
});
const orders: Table = {
  ...plainTable,
  id: 't-orders',
  key: 'orders',
  label: 'Orders',
  prefix: 'O',
  columns: [
    column('cnote', 'Note', 'text'),
    column('cmany', 'How many', 'whole'),
    column('cwhen', 'Sent on', 'date'),
  ],
};
const orderLines: Table = {
  ...plainTable,
  id: 't-lines',
  key: 'order_lines',
  label: 'Order lines',
  prefix: 'OL',
  parent: 't-orders',
  columns: [column('lcount', 'Count', 'whole')],
};
const tables = new Map([orders, orderLines].map((table) => [table.id, table]));

const design: FormDesign = form(
  [
    section('s', [
      text('remark', { label: 'What should we know?' }),
      number('many', { label: 'How many' }),
      sum('twice', 'many * 2'),
      lines([number('cnt', { label: 'Count' }), sum('all', 'cnt * many')], {
        totals: [{ id: 'total', key: 'total', label: 'Total', column: 'all' }],
      }),
    ]),
  ],
  { checks: [check('c1', 'many', 'many > 0 and count(lines) > 0')] },
);
let fresh = 0;
const newId = () => `fresh${++fresh}`;
const make = { id: newId, rowsTable: () => ({ id: newId(), key: 'rows', label: 'Rows', prefix: 'R' }) };
const reads = (of: FormDesign) => compileForm(of, tables);

describe('where answers are kept', () => {
  it('is another column, in all that reads the answer; the column keeps its name, and the question its words', () => {
    const kept = keptIn(design, 'many', orders.columns[1]!, newId);
    expect(kept.checks[0]).toMatchObject({ on: 'cmany', must: 'cmany > 0 and count(lines) > 0' });
    expect(allQuestions(kept).find(({ id }) => id === 'twice')).toMatchObject({ expression: 'cmany * 2' });
    expect(reads(kept).ok).toBe(true);
    const named = keptIn(design, 'remark', orders.columns[0]!, newId);
    expect(allQuestions(named)[0]).toMatchObject({
      id: 'cnote',
      label: 'What should we know?',
      keptAs: 'Note',
    });
  });

  it('is given up by the answer that was kept there, which gets a column of its own', () => {
    const first = keptIn(design, 'many', orders.columns[1]!, newId);
    const second = keptIn(first, 'remark', orders.columns[1]!, newId);
    const ids = allQuestions(second).map(({ id }) => id);
    expect(ids[0]).toBe('cmany');
    expect(ids).not.toContain('many');
    expect(new Set(ids).size).toBe(ids.length);
    expect(second.checks[0]?.on).toBe(ids[1]);
  });

  it('is a table that is there, answers in columns of their name and kind, rows in its rows, the others anew', () => {
    const kept = keptInTable(design, orders, tables, make);
    const ids = new Map(allQuestions(kept).map(({ key, id }) => [key, id]));
    expect([ids.get('many'), ids.get('cnt')]).toEqual(['cmany', 'lcount']);
    expect(ids.get('remark')).toMatch(/^fresh/);
    expect(kept.table).toEqual({ id: 't-orders', key: 'orders', label: 'Orders', prefix: 'O' });
    expect(reads(kept).ok).toBe(true);
    const plan = planTables([orders, orderLines], tablesOf(kept));
    expect(plan.ok && plan.value.map(({ t }) => t)).toEqual(
      ['remark', 'twice', 'total', 'all'].map(() => 'add-column'),
    );
    const back = keptInNewTable(kept, design.table, make);
    expect(back.table).toEqual(design.table);
    const anew = planTables([orders, orderLines], tablesOf(back));
    expect(anew.ok && anew.value.map(({ t }) => t)).toEqual(['make-table', 'make-table']);
    expect(reads(back).ok).toBe(true);
  });

  it('is asked as it is kept by one step, with its words and conditions', () => {
    const asked = text('remark', {
      label: 'When was it sent?',
      hint: 'The day',
      required: true,
      askWhen: 'many > 1',
    });
    expect(askedAsKept(asked, orders.columns[2]!, tables)).toEqual({
      id: 'cwhen',
      key: 'remark',
      label: 'When was it sent?',
      hint: 'The day',
      required: true,
      kind: 'date',
      askWhen: 'many > 1',
      keptAs: 'Sent on',
    });
  });

  it('may have another name than what is asked, and none of its own where both are the same', () => {
    const [question] = allQuestions(design);
    expect(namedAs(question!, 'Note').keptAs).toBe('Note');
    expect(namedAs(question!, question!.label).keptAs).toBeUndefined();
    expect(tablesOf(design)[0]?.columns[0]?.label).toBe('What should we know?');
    const anew = keptAnew(design, 'remark', 'other');
    expect(allQuestions(anew)[0]?.id).toBe('other');
  });
});
