import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  check,
  compiled,
  form,
  lines,
  number,
  section,
  sum,
  target,
  text,
} from '../../../tests/support/small-form';
import { worldOf } from '../../../tests/support/workspace';
import { sheetIssues } from '../check/sheet-issues';
import { answersOf } from '../storage/answers-of';
import { changesOf, editsOf } from '../storage/rows-to-edits';
import { rowsToWrite } from '../storage/rows-to-write';
import { tablesOf } from '../storage/tables-of';
import { noAnswers, unknownAnswers, type AnswerRow, type Answers, type Raw } from './answers';
import { shown } from './cells';
import { type RowsQuestion } from './design';
import { linesOf } from './numbered-lines';
import { lineOf } from './line';
import { Sheet } from './sheet';

/** Rows within rows: the lots of each line, typed, worked out, checked, moved, kept and brought back. */
const inLines: RowsQuestion = {
  ...lines([
    number('amount'),
    sum('share', 'amount * n'),
    sum('others', 'sum(lots.amount) - amount'),
    text('word', { requireWhen: 'amount > 50' }),
  ]),
  id: 'lots',
  key: 'lots',
  label: 'Lots',
  within: 'lines',
  most: 3,
  table: target(93),
  askWhen: 'n > 0',
  requireWhen: 'n > 100',
  distinct: ['amount'],
  totals: [{ id: 'all', key: 'all', label: 'In all', column: 'amount' }],
};
const design = form(
  [
    section('s', [
      number('a'),
      lines(
        [number('n'), sum('x', 'n + a'), sum('y', 'sum(lots.amount) * 2'), sum('z', 'all + count(lots)')],
        {
          askWhen: 'a > 0',
          label: 'Lines',
        },
      ),
      inLines,
      sum('t', 'sum(lots.amount)'),
      sum('u', 'sum(lines.all)'),
      sum('c', 'count(lots)'),
      sum('w', 'count(lines[all > 10])'),
    ]),
  ],
  {
    checks: [check('k1', 'amount', 'amount <= n', 'More than its line.'), check('k2', 'all', 'all <= 2 * n')],
  },
);
const lot = (id: string, of: string, amount: Raw): AnswerRow => ({ id, of, cells: { amount } });
const answers = (n: readonly [string, Raw][], lots: readonly AnswerRow[] = [], a: Raw = '1'): Answers => ({
  ...noAnswers,
  values: { a },
  rows: { lines: n.map(([id, raw]) => ({ id, cells: { n: raw } })), lots },
});
const compiledForm = compiled(design);
const sheet = (from: Answers): Sheet =>
  new Sheet(compiledForm, from, new Map(), worldOf('2026-12-01T10:00:00'));
const two = answers(
  [
    ['r1', '10'],
    ['r2', '20'],
  ],
  [lot('p', 'r1', '3'), lot('q', 'r2', '5'), lot('r', 'r1', '4')],
);
const text3 = (of: Sheet, group: string, row: string, id: string): string => {
  const question = compiledForm.fields.get(id)?.question;
  return question === undefined
    ? String(of.value([group, row, id]) ?? '')
    : shown(question, of.value([group, row, id]));
};
const top = (of: Sheet): string[] => ['t', 'u', 'c', 'w'].map((id) => String(of.value([id]) ?? ''));

describe('rows within rows', () => {
  it('are read in a row as its own, and outside as those of all rows', () => {
    const filled = sheet(two);
    expect(['r1', 'r2'].map((row) => ['y', 'all', 'z'].map((id) => text3(filled, 'lines', row, id)))).toEqual(
      [
        ['14', '7', '9'],
        ['10', '5', '6'],
      ],
    );
    expect(
      ['p', 'q', 'r'].map((row) => ['share', 'others'].map((id) => text3(filled, 'lots', row, id))),
    ).toEqual([
      ['30', '4'],
      ['100', '0'],
      ['40', '3'],
    ]);
    expect(top(filled)).toEqual(['12', '12', '3', '0']);
  });

  it('are not asked where their row does not ask for them, nor anywhere when no rows are asked', () => {
    const filled = sheet(two);
    filled.set(['lines', 'r1', 'n'], '0');
    expect([filled.isAsked(['lots', 'p', 'amount']), filled.isAsked(['lots', 'q', 'amount'])]).toEqual([
      false,
      true,
    ]);
    // A line without any has no total, and what adds up over one that is empty is empty, as in FEEL.
    expect(top(filled)).toEqual(['5', '', '1', '0']);
    expect(filled.filledRows('lots').map(({ id }) => id)).toEqual(['q']);
    filled.set(['a'], '0');
    expect(filled.isAsked(['lots', 'q', 'amount'])).toBe(false);
    expect(top(filled)).toEqual(['', '', '0', '0']);
    // What was typed is kept in case it is asked again.
    expect(filled.answers().rows['lots']).toHaveLength(3);
  });

  it('make the row they stand in one that counts, go with it, and come back with it where they stood', () => {
    const filled = sheet(answers([['r1', null]], [lot('p', 'r1', '3')]));
    expect(filled.answers().rows['lines']).toHaveLength(1);
    const both = sheet(two);
    const putBack = both.removeRow('lines', 'r1');
    expect([both.answers().rows['lots'], top(both)]).toEqual([[lot('q', 'r2', '5')], ['5', '5', '1', '0']]);
    putBack?.();
    expect(both.answers()).toEqual(two);
    both.undo();
    both.undo();
    expect([both.answers(), both.canUndo]).toEqual([two, false]);
    const id = both.duplicateRow(
      'lines',
      'r1',
      (
        (n) => () =>
          `new${++n}`
      )(0),
    );
    expect(both.rows('lots', id ?? '').map((row) => row.raw.get('amount'))).toEqual(['3', '4']);
    expect(both.rows('lines').map((row) => row.id)).toEqual(['r1', 'new1', 'r2']);
  });

  it('are moved, pasted and added among those of their own row', () => {
    const filled = sheet(two);
    filled.moveRow('lots', 'r', 0);
    expect(filled.rows('lots', 'r1').map(({ id }) => id)).toEqual(['r', 'p']);
    filled.moveRow('lots', 'r', 9);
    expect(filled.rows('lots', 'r1').map(({ id }) => id)).toEqual(['p', 'r']);
    filled.paste(['lots', 'r', 'amount'], [['8'], ['9']], () => 'fresh');
    expect(filled.rows('lots', 'r1').map((row) => row.raw.get('amount'))).toEqual(['3', '8', '9']);
    filled.insertRow('lots', lot('late', 'r2', '1'), 0);
    expect(filled.rows('lots', 'r2').map(({ id }) => id)).toEqual(['late', 'q']);
    expect(filled.rows('lots', 'r1')).toHaveLength(3);
  });

  it('are told by the row they stand in: what is missing, too many, alike or refused', () => {
    const lots = ['3', '3', '12', '1', null].map((amount, i) => lot(`l${i}`, 'r1', amount));
    const told = sheetIssues(
      sheet(
        answers(
          [
            ['r1', '5'],
            ['r2', '200'],
            ['r3', '-1'],
          ],
          lots,
        ),
      ),
    );
    const rows = (group: string): readonly Pick<AnswerRow, 'id' | 'of'>[] =>
      group === 'lots' ? lots : ['r1', 'r2', 'r3'].map((id) => ({ id }));
    const places = told.map(({ code, path }) => [code, path.join('/'), lineOf(design, rows, path)]);
    expect(places).toEqual([
      ['too-many-rows', 'lines/r1/lots', '2a'],
      ['check-stops', 'lots/l2/amount', '2a.3'],
      ['row-repeated', 'lots/l1/amount', '2a.2'],
      ['check-stops', 'lines/r1/lots', '2a'],
      ['too-few-rows', 'lines/r2/lots', '2b'],
    ]);
    expect(
      linesOf(design)
        .get('s')
        ?.map(({ id }) => id),
    ).toEqual(['a', 'lines', 't', 'c']);
  });

  it('whose row is not there are known by nobody, and stand nowhere', () => {
    const lost = answers([['r1', '1']], [lot('p', 'gone', '3'), { id: 'q', cells: { amount: '2' } }]);
    expect(unknownAnswers(design, lost).map(({ path }) => path)).toEqual([
      ['lots', 'p'],
      ['lots', 'q'],
    ]);
    expect(sheet(lost).rows('lots')).toEqual([]);
  });

  it('are kept as rows of the table of the rows they stand in, and are answered again from there', () => {
    expect(
      tablesOf(design).map(({ id, parent, columns }) => [id, parent, columns.map((one) => one.id)]),
    ).toEqual([
      [target(91).id, null, ['a', 't', 'u', 'c', 'w']],
      [target(92).id, target(91).id, ['n', 'x', 'y', 'z', 'all']],
      [target(93).id, target(92).id, ['amount', 'share', 'others', 'word']],
    ]);
    const row = rowsToWrite(sheet(two));
    const { edits } = editsOf(
      row,
      { id: 'R', number: 'T-1' },
      (
        (n) => () =>
          `e${++n}`
      )(0),
    );
    const parents = edits.map((edit) => [edit.id, edit.parent?.id, edit.parent?.position]);
    expect(parents).toEqual([
      ['R', undefined, undefined],
      ['e1', 'R', 1],
      ['e2', 'e1', 1],
      ['e3', 'e1', 2],
      ['e4', 'R', 2],
      ['e5', 'e4', 1],
    ]);
    expect(edits[1]?.values['all']).toBe('7');
    const of = (table: number) => edits.filter((edit) => edit.table === target(table).id);
    const stored = {
      version: 1,
      values: edits[0]?.values ?? {},
      rows: new Map([
        [
          target(92).id,
          of(92).map(({ id, values, parent }) => ({
            id,
            values,
            version: 1,
            position: parent?.position ?? 0,
          })),
        ],
        [
          target(93).id,
          of(93).map(({ id, values, parent }) => ({
            id,
            of: parent?.id,
            values,
            version: 1,
            position: parent?.position ?? 0,
          })),
        ],
      ]),
    };
    const again = sheet(answersOf(design, stored));
    const was = rowsToWrite(again);
    expect(changesOf(was, { record: 'R', stored, was }, () => 'new').edits).toEqual([]);
    // One is changed, one is added to the second row, and the first row goes with its own.
    again.set(['lots', 'e5', 'amount'], '6');
    again.insertRow('lots', lot('fresh', 'e4', '1'));
    again.removeRow('lines', 'e1');
    const { edits: changes, origins } = changesOf(
      rowsToWrite(again),
      { record: 'R', stored, was },
      () => 'new',
    );
    const said = changes.map((edit) => [edit.t, edit.id, 'values' in edit ? Object.keys(edit.values) : []]);
    expect(said).toEqual([
      ['change', 'R', ['t', 'u', 'c']],
      ['change', 'e4', ['y', 'z', 'all']],
      ['change', 'e5', ['amount', 'share', 'others']],
      ['add', 'new', ['amount', 'share', 'others', 'word']],
      ['remove', 'e1', []],
    ]);
    expect(origins.get('new')).toEqual({ table: target(93).id, row: 'fresh' });
  });
});

type Step = (of: Sheet, n: number) => void;
const steps: Step[] = [
  (of, n) => of.set(['a'], String(n % 3)),
  (of, n) => of.set(['lines', `r${(n % 2) + 1}`, 'n'], n % 5 === 0 ? null : String(n)),
  (of, n) => of.set(['lots', ['p', 'q', 'r'][n % 3] ?? '', 'amount'], n % 4 === 0 ? null : String(n)),
  (of, n) => of.insertRow('lots', lot(`n${n}-${of.version}`, `r${(n % 2) + 1}`, String(n)), n % 3),
  (of, n) => void of.removeRow('lots', ['p', 'q', 'r'][n % 3] ?? ''),
  (of, n) => void of.removeRow('lines', `r${(n % 2) + 1}`),
  (of, n) => of.moveRow('lots', ['p', 'q', 'r'][n % 3] ?? '', n % 4),
  (of, n) => of.moveRow('lines', `r${(n % 2) + 1}`, n % 2),
  (of, n) =>
    void of.duplicateRow(
      'lines',
      `r${(n % 2) + 1}`,
      (
        (i) => () =>
          `d${n}-${of.version}-${++i}`
      )(0),
    ),
  (of) => of.undo(),
  (of) => of.redo(),
];

describe('laws of rows within rows', () => {
  const moves = fc.array(fc.tuple(fc.nat(steps.length - 1), fc.nat(30)), { maxLength: 25 });
  it('whatever is done, each step works out what a new sheet of the same answers does', () => {
    fc.assert(
      fc.property(moves, (list) => {
        const one = sheet(two);
        for (const [step, n] of list) steps[step]?.(one, n);
        const fresh = sheet(one.answers());
        const ofBoth = [one, fresh].map((of) => ({
          top: top(of),
          rows: ['lines', 'lots'].map((group) =>
            of
              .filledRows(group)
              .map((row) => [
                row.id,
                row.of,
                ...['x', 'y', 'z', 'all', 'share', 'others'].map((id) => text3(of, group, row.id, id)),
              ]),
          ),
          // A blank row is counted where it stands, and is not kept.
          issues: sheetIssues(of).map(({ code, path }) => [code, path]),
        }));
        expect(ofBoth[0]).toEqual(ofBoth[1]);
      }),
      { numRuns: 300 },
    );
  });

  it('all of it can be taken back', () => {
    fc.assert(
      fc.property(moves, (list) => {
        const one = sheet(two);
        for (const [step, n] of list) steps[step]?.(one, n);
        while (one.canUndo) one.undo();
        expect(one.answers()).toEqual(two);
      }),
    );
  });
});
