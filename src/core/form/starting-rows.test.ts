import { describe, expect, it } from 'vitest';
import { worldOf } from '../../../tests/support/workspace';
import type { RecordValue } from '../expression/value';
import { plainColumn, plainTable, type Table } from '../table/model';
import { noAnswers, type AnswerRow } from './answers';
import { compileForm, type CompiledForm } from './compile-form';
import { defaultAnswers } from './defaults';
import {
  pickedColumn,
  type FormDesign,
  type LookupQuestion,
  type RowsQuestion,
  type StartingRows,
} from './design';
import { Sheet } from './sheet';
import { startsId } from './lookup-filter';
import { rowsForEach, sameRows, startingIssues } from './starting-rows';

/** What repeating rows begin with, and what becomes of a pick when what it was picked by is answered otherwise. */
const base = (id: string) => ({ id, key: id, label: id, hint: '', required: false });
const target = (n: number) => ({ id: `t${n}`, key: `t${n}`, label: `T${n}`, prefix: 'T' });
const parts: Table = {
  ...plainTable,
  id: 'parts',
  key: 'parts',
  label: 'Parts',
  prefix: 'P',
  columns: [
    { ...plainColumn, id: 'ckit', key: 'kit', label: 'Kit', kind: 'text' },
    { ...plainColumn, id: 'cmany', key: 'many', label: 'Many', kind: 'whole' },
  ],
};
const part = (id: string, kit: string, many: string): RecordValue => ({
  id,
  title: id,
  values: { ckit: kit, cmany: many },
});
const lookup = (id: string, more: Partial<LookupQuestion> = {}): LookupQuestion => ({
  ...base(id),
  kind: 'lookup',
  table: 'parts',
  show: [],
  ...more,
});
const rows = (starts: StartingRows | undefined, more: Partial<RowsQuestion> = {}): RowsQuestion => ({
  ...base('lines'),
  kind: 'rows',
  columns: [
    lookup('part'),
    { ...base('count'), kind: 'whole', unit: '', carry: { lookup: 'part', column: 'cmany', keep: 'copied' } },
    { ...base('when'), kind: 'date' },
  ],
  least: 0,
  most: 3,
  totals: [],
  table: target(2),
  starts,
  ...more,
});
const form = (group: RowsQuestion, own: Partial<LookupQuestion> = {}): FormDesign => ({
  format: 1,
  title: 'A form',
  area: '',
  sections: [
    {
      id: 's',
      title: 'All',
      questions: [
        { ...base('kit'), kind: 'text', long: false },
        { ...lookup('first', own) },
        {
          ...base('note'),
          kind: 'text',
          long: false,
          carry: { lookup: 'first', column: 'ckit', keep: 'copied' },
        },
        group,
      ],
    },
  ],
  checks: [],
  steps: [],
  table: target(1),
});
const tables = new Map([['parts', parts]]);
function compiled(design: FormDesign): CompiledForm {
  const made = compileForm(design, tables);
  if (!made.ok) throw new Error(JSON.stringify(made.error));
  return made.value;
}
const world = worldOf('2026-11-23T10:00:00');
const cells = (list: readonly AnswerRow[]) => list.map((row) => row.cells);

describe('rows that are the same each time', () => {
  const starts: StartingRows = { t: 'same', rows: [{ count: '8', gone: 'x' }, { when: '2026-11-24' }] };

  it('are there in a new sheet, with the defaults of their columns where they say nothing', () => {
    const kept: Table = {
      ...plainTable,
      id: 't2',
      key: 't2',
      label: 'T2',
      prefix: 'T',
      columns: [{ ...plainColumn, id: 'when', key: 'when', label: 'When', kind: 'date', default: 'today()' }],
    };
    const { answers } = defaultAnswers(form(rows(starts)), new Map([['t2', kept]]), world);
    expect(cells(answers.rows['lines'] ?? [])).toEqual([
      { when: '2026-11-23', count: '8' },
      { when: '2026-11-24' },
    ]);
  });

  it('are none where nothing is said, or something else', () => {
    expect(sameRows(form(rows(undefined)), {})).toEqual({});
    expect(sameRows(form(rows({ t: 'empty', count: 2 })), {})).toEqual({});
  });
});

describe('a row for each record', () => {
  it('brings along what is carried over, and no more than there may be', () => {
    const group = rows({ t: 'each', lookup: 'part' });
    let n = 0;
    const made = rowsForEach(
      compiled(form(group)),
      group,
      'part',
      ['a', 'b', 'c', 'd'].map((id, i) => part(id, 'k', String(i))),
      { newId: () => `r${++n}`, defaults: { when: '2026-01-01', count: '9' } },
    );
    expect(made.map(({ id }) => id)).toEqual(['r1', 'r2', 'r3']);
    expect(cells(made)[1]).toEqual({ part: 'b', count: '1', when: '2026-01-01' });
  });

  it('is asked for by what the lookup offers and by what the rows begin with, together', () => {
    const group = rows(
      { t: 'each', lookup: 'part', where: 'pick_cmany > 1' },
      { columns: [lookup('part', { where: 'pick_ckit = kit' })] },
    );
    const formula = compiled(form(group)).formulas.find(({ id }) => id === startsId('lines'));
    expect([...(formula?.reads ?? [])]).toContain('kit');
    expect(formula?.tree?.op).toBe('and');
  });

  it('stands in the place of the rows before as one step', () => {
    const sheet = new Sheet(
      compiled(form(rows(undefined))),
      { ...noAnswers, rows: { lines: [{ id: 'x', cells: { count: '1' } }] } },
      new Map(),
      world,
    );
    sheet.replaceRows('lines', [{ id: 'y', cells: { part: 'a' } }], [['parts', part('a', 'k', '2')]]);
    expect(sheet.rows('lines').map(({ id }) => id)).toEqual(['y']);
    expect(sheet.value(['lines', 'y', 'part'])).toMatchObject({ title: 'a' });
    sheet.undo();
    expect(sheet.rows('lines').map(({ id }) => id)).toEqual(['x']);
  });
});

describe('a design', () => {
  it.each<[string, RowsQuestion, [string, string][]]>([
    ['is in order', rows({ t: 'each', lookup: 'part' }), []],
    ['begins from no lookup', rows({ t: 'each', lookup: 'count' }), [['starts-lookup', 'lines']]],
    ['begins with more than may be', rows({ t: 'empty', count: 4 }), [['row-limits', 'lines']]],
    [
      'begins with what cannot be read',
      rows({ t: 'same', rows: [{}, { count: 'many' }] }),
      [['starts-unread', 'lines']],
    ],
  ])('that %s', (_, group, wrong) => {
    expect(startingIssues(group).map(({ code, path }) => [code, path[0]])).toEqual(wrong);
  });

  it('shows picks only where one lookup stands alone', () => {
    expect(pickedColumn(rows(undefined, { asPicks: true }))).toBeNull();
    expect(pickedColumn(rows(undefined, { asPicks: true, columns: [lookup('part')] }))?.id).toBe('part');
  });
});

describe('a pick that fits no more', () => {
  const sheetOf = (more: Partial<LookupQuestion>) => {
    const sheet = new Sheet(
      compiled(form(rows(undefined), { where: 'pick_ckit = kit', ...more })),
      { ...noAnswers, values: { kit: 'k' } },
      new Map(),
      world,
    );
    sheet.pick(['first'], 'parts', part('a', 'k', '1'));
    return sheet;
  };

  it('stays, unless it is to be taken out', () => {
    const sheet = sheetOf({});
    sheet.set(['kit'], 'other');
    sheet.pause();
    expect(sheet.raw(['first'])).toBe('a');
    expect(sheet.takeDropped()).toEqual([]);
  });

  it('goes with what it brought along, is told once, and comes back with the answer that drove it out', () => {
    const sheet = sheetOf({ misfit: 'clear' });
    expect(sheet.raw(['note'])).toBe('k');
    sheet.set(['kit'], 'oth');
    sheet.set(['kit'], 'other');
    expect(sheet.raw(['first'])).toBe('a');
    sheet.pause();
    expect([sheet.raw(['first']), sheet.raw(['note'])]).toEqual([null, null]);
    expect(sheet.takeDropped()).toEqual([['first']]);
    expect(sheet.takeDropped()).toEqual([]);
    sheet.undo();
    expect([sheet.raw(['kit']), sheet.raw(['first']), sheet.raw(['note'])]).toEqual(['k', 'a', 'k']);
  });

  it('stays while it cannot be told whether it fits', () => {
    const sheet = sheetOf({ misfit: 'clear' });
    sheet.set(['kit'], '');
    sheet.pause();
    expect(sheet.raw(['first'])).toBe('a');
  });
});
