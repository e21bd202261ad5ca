import Big from 'big.js';
import { describe, expect, it } from 'vitest';
import { design, tables } from '../../../tests/support/designs';
import { beds } from '../../../demo/tables';
import { limits } from '../limits';
import { plainColumn, plainTable, type Column, type Table } from '../table/model';
import { recordKey } from './cells';
import { columnUses } from './column-uses';
import { groupsOf, type Question } from './design';
import { replaceQuestion } from './edit';
import { choiceIssues, labelIssues } from './label-issues';
import { labelOf, lineOf } from './line';
import { asRecord, asRecords, type PickedRecord } from './picked-record';

describe('a place of a sheet', () => {
  const rows = (group: string) => (group === 'qtrlines' ? [{ id: 'r1' }, { id: 'r2' }] : []);
  it('is called by the number of its line, and the letter of its row', () => {
    const [line = ''] = [lineOf(design, rows, ['qtrlines'])];
    expect(line).toMatch(/^\d+$/);
    expect(lineOf(design, rows, ['qtrlines', 'r2', 'qtrrate'])).toBe(`${line}b`);
    // A row that is there no more is called by its line, and what is nowhere by nothing.
    expect(lineOf(design, rows, ['qtrlines', 'gone'])).toBe(line);
    expect([lineOf(design, rows, ['nothing']), lineOf(design, rows, [])]).toEqual(['', '']);
  });

  it('has its question’s words, be it a column or a total', () => {
    const [group] = groupsOf(design);
    const [column, total] = [group?.columns[0], group?.totals[0]];
    expect([labelOf(design, column?.id ?? ''), labelOf(design, total?.id ?? '')]).toEqual([
      column?.label,
      total?.label,
    ]);
    expect([labelOf(design, group?.id ?? ''), labelOf(design, 'nothing')]).toEqual([group?.label, '']);
  });
});

describe('words', () => {
  it('are there, and not without end', () => {
    const codes = (label: string) =>
      labelIssues(label, ['a']).map(({ code, path, facts }) => [code, path, facts]);
    expect(codes('  ')).toEqual([['label-missing', ['a'], {}]]);
    expect(codes('x'.repeat(limits.label))).toEqual([]);
    // Letters are counted, not the pieces they are stored in.
    expect(codes('🌿'.repeat(limits.label))).toEqual([]);
    expect(codes('x'.repeat(limits.label + 1))).toEqual([['label-too-long', ['a'], { most: limits.label }]]);
  });

  it('of choices are there, each once, under codes of their own, and not too many', () => {
    const codes = (...choices: [string, string][]) =>
      choiceIssues(
        choices.map(([code, label]) => ({ code, label })),
        ['q'],
      ).map(({ code, facts }) => [code, facts]);
    expect(codes()).toEqual([['choices-missing', {}]]);
    expect(codes(['a', 'A'], ['b', 'B'])).toEqual([]);
    expect(codes(['a', 'A'], ['b', ' A '])).toEqual([['choice-repeated', { label: 'A' }]]);
    expect(codes(['a', 'A'], ['a', 'B'])).toEqual([['choice-repeated', { label: 'a' }]]);
    expect(codes(['a', ' '])).toEqual([['choice-label-missing', {}]]);
    const many = Array.from({ length: limits.choices }, (_, i): [string, string] => [`c${i}`, `C${i}`]);
    expect(codes(...many)).toEqual([]);
    expect(codes(...many, ['x', 'X'])).toEqual([['too-many', { what: 'choices', most: limits.choices }]]);
  });
});

describe('a record that was picked', () => {
  const column = (id: string, kind: Column['kind']): Column => ({
    ...plainColumn,
    id,
    key: id,
    label: id,
    kind,
  });
  const table: Table = {
    ...plainTable,
    id: 't',
    key: 't',
    label: 'T',
    prefix: 'T',
    columns: [column('n', 'decimal'), column('at', 'date-time'), column('d', 'date'), column('y', 'yes-no')],
  };
  const picked: PickedRecord = {
    id: 'r',
    title: 'R',
    shown: ['shown'],
    values: { n: '1.50', at: '2026-11-23 09:30:00', d: '2026-11-23', y: true, other: '7', none: null },
  };

  it('has its values as expressions see them; a column that is gone holds text', () => {
    expect(asRecord(picked, table)).toEqual({
      id: 'r',
      title: 'R',
      values: {
        n: new Big('1.50'),
        at: '2026-11-23T09:30:00',
        d: '2026-11-23',
        y: true,
        other: '7',
        none: null,
      },
    });
    expect(asRecord(picked, undefined).values['n']).toBe('1.50');
    const all = asRecords({ t: [picked], u: [{ ...picked, id: 's' }] }, new Map([['t', table]]));
    expect([...all.keys()]).toEqual([recordKey('t', 'r'), recordKey('u', 's')]);
    expect(all.get(recordKey('t', 'r'))?.values['n']).toEqual(new Big('1.50'));
    expect(all.get(recordKey('u', 's'))?.values['n']).toBe('1.50');
  });
});

describe('what a form uses of a table', () => {
  const uses = (of = design, table = beds) =>
    Object.fromEntries([...columnUses(of, tables, table)].map(([id, places]) => [id, [...places].sort()]));

  it('is what its lookups show, what it brings along, and what its expressions read', () => {
    const shown = uses();
    for (const id of beds.title) expect(shown[id], id).toContain('shown');
    const bringing = replaceQuestion(
      design,
      'qtrseen',
      (question) =>
        ({ ...question, carry: { lookup: 'qtrbed', column: 'cbedsection', keep: 'copied' } }) as Question,
    );
    expect(uses(bringing)['cbedsection']).toContain('carried');
  });

  it('is what it asks for, in the tables it is kept in', () => {
    const [group] = groupsOf(design);
    const own: Table = { ...plainTable, ...design.table, columns: [], prefix: 'X' };
    const inner: Table = { ...plainTable, ...(group?.table ?? design.table), columns: [], prefix: 'Y' };
    const asked = uses(design, own);
    expect(asked['qtrseen']).toEqual(['asked']);
    // Totals are kept with the form, columns with their rows.
    expect([asked[group?.totals[0]?.id ?? ''], asked[group?.columns[0]?.id ?? '']]).toEqual([
      ['asked'],
      undefined,
    ]);
    expect(uses(design, inner)[group?.columns[0]?.id ?? '']).toEqual(['asked']);
  });
});
