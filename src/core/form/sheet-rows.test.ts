import { describe, expect, it } from 'vitest';
import { worldOf } from '../../../tests/support/workspace';
import { noAnswers, type Answers, type Raw } from './answers';
import { compileForm } from './compile-form';
import type { FieldQuestion, FormDesign } from './design';
import { Sheet, type SheetOptions } from './sheet';

/** A sheet with rows, step by step: what is typed, moved, pasted, explained, taken back and done again, and what is told meanwhile. */
const base = (id: string) => ({ id, key: id, label: id, hint: '', required: false });
const number = (id: string, more: object = {}): FieldQuestion => ({
  ...base(id),
  kind: 'whole',
  unit: '',
  ...more,
});
const target = (n: number) => ({ id: `t${n}`, key: `t${n}`, label: `T${n}`, prefix: 'T' });
const design: FormDesign = {
  format: 1,
  title: 'A form',
  area: '',
  sections: [
    {
      id: 's',
      title: 'All',
      questions: [
        number('a'),
        number('b', { requireWhen: 'a > 5' }),
        {
          ...base('lines'),
          kind: 'rows',
          columns: [
            number('n'),
            number('m', { askWhen: 'n > 3', requireWhen: 'n > 5' }),
            number('k'),
            { ...base('x'), kind: 'calculated', expression: 'n * 2 + sum(lines.n)', decimals: 0, unit: '' },
          ],
          least: 0,
          most: 20,
          totals: [{ id: 'all', key: 'all', label: 'All', column: 'm' }],
          table: target(2),
          askWhen: 'a > 0',
        },
        { ...base('big'), kind: 'calculated', expression: 'count(lines[m > 1])', decimals: 0, unit: '' },
      ],
    },
  ],
  checks: [{ id: 'k1', on: 'a', must: 'a < 10', message: 'Less.', otherwise: 'ask' }],
  steps: [],
  table: target(1),
};
const row = (id: string, cells: Record<string, Raw>) => ({ id, cells });
const answers = (...rows: ReturnType<typeof row>[]): Answers => ({
  ...noAnswers,
  values: { a: '1' },
  rows: { lines: rows },
});
const world = worldOf('2026-11-23T10:00:00');
function sheet(from: Answers, options: SheetOptions = {}): Sheet {
  const form = compileForm(design, new Map());
  if (!form.ok) throw new Error(JSON.stringify(form.error));
  return new Sheet(form.value, from, new Map(), world, options);
}
const shown = (of: Sheet, ...place: readonly string[]): string => String(of.value(place as never));
const ids = (of: Sheet): string[] => of.rows('lines').map(({ id }) => id);

describe('what stands in rows', () => {
  it('is worked out in each, over all, and only where it is asked', () => {
    const filled = sheet(
      answers(row('r1', { n: '2', m: '7' }), row('r2', { n: '4', m: '5' }), row('r3', {})),
    );
    expect(['r1', 'r2', 'r3'].map((id) => shown(filled, 'lines', id, 'x'))).toEqual(['10', '14', 'null']);
    // Of the first row the second column is not asked.
    expect([shown(filled, 'lines', 'r1', 'm'), shown(filled, 'lines', 'r2', 'm')]).toEqual(['null', '5']);
    expect([shown(filled, 'all'), shown(filled, 'big')]).toEqual(['5', '1']);
    filled.set(['lines', 'r1', 'n'], '9');
    expect([shown(filled, 'all'), shown(filled, 'big'), shown(filled, 'lines', 'r2', 'x')]).toEqual([
      '12',
      '2',
      '21',
    ]);
    filled.set(['a'], '0');
    expect(filled.filledRows('lines')).toEqual([]);
    expect([filled.isAsked(['lines']), filled.isAsked(['lines', 'r2', 'm']), shown(filled, 'big')]).toEqual([
      false,
      false,
      '0',
    ]);
    expect(filled.answers().rows['lines']).toHaveLength(2);
  });

  it('must be given where its condition is true, in that row alone', () => {
    const filled = sheet(answers(row('r1', { n: '6' }), row('r2', { n: '4' })));
    expect([
      filled.isRequired(['lines', 'r1', 'm']),
      filled.isRequired(['lines', 'r2', 'm']),
      filled.isRequired(['b']),
    ]).toEqual([true, false, false]);
    filled.set(['a'], '6');
    expect(filled.isRequired(['b'])).toBe(true);
    expect(filled.isRequired(['nothing'])).toBe(false);
  });

  it('is nothing at a place that is not there', () => {
    const filled = sheet(answers(row('r1', { n: '6' })));
    expect([
      filled.raw(['lines', 'gone', 'n']),
      filled.value(['lines', 'gone', 'n']),
      filled.fault(['lines', 'gone', 'n']),
    ]).toEqual([null, null, null]);
    expect(filled.rows('gone')).toEqual([]);
    const { version } = filled;
    filled.removeRow('lines', 'gone');
    filled.moveRow('lines', 'gone', 0);
    expect([filled.version, filled.canUndo]).toEqual([version, false]);
  });
});

describe('rows that are moved', () => {
  const three = () => sheet(answers(row('r1', { n: '1' }), row('r2', { n: '2' }), row('r3', { n: '3' })));
  it('go where they are put, never over an end, and back', () => {
    const filled = three();
    filled.moveRow('lines', 'r1', 99);
    expect(ids(filled)).toEqual(['r2', 'r3', 'r1']);
    filled.moveRow('lines', 'r1', -5);
    expect(ids(filled)).toEqual(['r1', 'r2', 'r3']);
    filled.moveRow('lines', 'r3', 2);
    filled.undo();
    expect(ids(filled)).toEqual(['r2', 'r3', 'r1']);
    filled.undo();
    expect([ids(filled), filled.canUndo, filled.canRedo]).toEqual([['r1', 'r2', 'r3'], false, true]);
    filled.redo();
    expect(ids(filled)).toEqual(['r2', 'r3', 'r1']);
  });

  it('are counted anew when one comes or goes', () => {
    const filled = three();
    expect(filled.removeRow('lines', 'r2')).not.toBeNull();
    expect(shown(filled, 'lines', 'r1', 'x')).toBe('6');
    filled.insertRow('lines', row('r9', { n: '10' }));
    expect([ids(filled), shown(filled, 'lines', 'r1', 'x')]).toEqual([['r1', 'r3', 'r9'], '16']);
    filled.undo();
    filled.undo();
    expect([ids(filled), shown(filled, 'lines', 'r1', 'x')]).toEqual([['r1', 'r2', 'r3'], '8']);
  });
});

describe('a row that is begun', () => {
  const rowDefaults = { lines: { k: '7', n: '1' } };
  it('gets its defaults with the first thing typed, once, and loses them with it', () => {
    const filled = sheet(answers(), { rowDefaults });
    filled.offerRow('lines', 'r1');
    expect([filled.canUndo, filled.answers().rows['lines']]).toEqual([false, []]);
    filled.set(['lines', 'r1', 'n'], '5');
    expect(filled.answers().rows['lines']).toEqual([row('r1', { n: '5', k: '7' })]);
    filled.set(['lines', 'r1', 'k'], null);
    filled.set(['lines', 'r1', 'n'], '6');
    expect(filled.raw(['lines', 'r1', 'k'])).toBeNull();
    for (let i = 0; i < 4; i++) filled.undo();
    expect(filled.answers().rows['lines']).toEqual([]);
  });

  it('gets them where a block is pasted, in new rows too', () => {
    const filled = sheet(answers(), { rowDefaults });
    filled.offerRow('lines', 'r1');
    let made = 0;
    const block = [['2'], ['3', '4', '5', '6', '7']];
    const { left, takeBack } = filled.paste(['lines', 'r1', 'n'], block, () => `p${++made}`);
    expect(left).toBe(1);
    expect(filled.answers().rows['lines']).toEqual([
      row('r1', { n: '2', k: '7' }),
      row('p1', { k: '5', n: '3', m: '4' }),
    ]);
    filled.undo();
    expect(filled.answers().rows['lines']).toEqual([]);
    filled.redo();
    // Taken back later, it leaves what was done since: another answer in a pasted cell, and in another place.
    filled.set(['lines', 'r1', 'n'], '9');
    filled.set(['a'], '8');
    takeBack();
    expect([filled.answers().rows['lines'], filled.raw(['a'])]).toEqual([
      [row('r1', { n: '9', k: null })],
      '8',
    ]);
    takeBack();
    expect(filled.answers().rows['lines']).toHaveLength(1);
    filled.undo();
    expect(filled.answers().rows['lines']).toHaveLength(2);
  });
});

describe('a reason', () => {
  it('is one step while it is typed, and another one for another check', () => {
    const filled = sheet(answers());
    expect(filled.reason('k1')).toBe('');
    for (const text of ['B', 'Be', 'Because']) filled.setReason('k1', text);
    filled.setReason('k2', 'Other');
    filled.setReason('k2', 'Other');
    expect([filled.reason('k1'), filled.reason('k2')]).toEqual(['Because', 'Other']);
    filled.undo();
    expect([filled.reason('k1'), filled.reason('k2')]).toEqual(['Because', '']);
    filled.undo();
    expect([filled.reason('k1'), filled.canUndo]).toEqual(['', false]);
    filled.redo();
    expect(filled.answers().reasons).toEqual({ k1: 'Because', k2: '' });
  });
});

describe('what is told', () => {
  it('is told once for each change, and not for none', () => {
    const filled = sheet(answers(row('r1', { n: '1' })));
    let told = 0;
    const stop = filled.watch(() => told++);
    const { version } = filled;
    filled.set(['a'], '1');
    expect([told, filled.version]).toEqual([0, version]);
    filled.set(['a'], '2');
    expect([told, filled.version]).toEqual([1, version + 1]);
    filled.undo();
    filled.undo();
    expect([told, filled.version]).toEqual([2, version + 2]);
    stop();
    filled.refresh();
    expect([told, filled.version]).toEqual([2, version + 3]);
  });

  it('reaches a cell whose question begins to be asked or required in its row', () => {
    const filled = sheet(answers(row('r1', { n: '1' }), row('r2', { n: '1' })));
    const heard: string[] = [];
    for (const id of ['r1', 'r2']) filled.watchCell(['lines', id, 'm'], () => heard.push(id));
    filled.watchCell(['b'], () => heard.push('b'));
    filled.set(['lines', 'r1', 'n'], '4');
    expect(heard).toEqual(['r1']);
    filled.set(['a'], '6');
    expect(heard).toEqual(['r1', 'b']);
  });
});

describe('what was worked out elsewhere', () => {
  it('is taken over as it is, fault and all, and worked out anew with the next change', () => {
    const first = sheet(answers(row('r1', { n: '2' }), row('r2', { n: '4', m: '5' })));
    const worked = first.worked();
    expect(worked.map(({ group, row: of, id }) => [group, of, id])).toContainEqual(['lines', 'r2', 'x']);
    const fault = { code: 'too-many-steps', path: [], facts: {} } as never;
    const other = sheet(answers(row('r1', { n: '2' }), row('r2', { n: '4', m: '5' })), {
      worked: [
        ...worked.map((cell) =>
          cell.id === 'x' && cell.row === 'r1' ? { ...cell, value: null, fault } : cell,
        ),
        { group: 'lines', row: 'gone', id: 'x', value: null, fault: null },
      ],
    });
    expect([shown(other, 'lines', 'r1', 'x'), other.fault(['lines', 'r1', 'x'])]).toEqual(['null', fault]);
    expect([shown(other, 'lines', 'r2', 'x'), shown(other, 'all'), other.wasGivenUp]).toEqual([
      '14',
      '5',
      false,
    ]);
    expect(other.worked().find(({ id, row: of }) => id === 'x' && of === 'r1')?.fault).toEqual(fault);
    other.set(['lines', 'r2', 'n'], '5');
    expect([shown(other, 'lines', 'r1', 'x'), other.fault(['lines', 'r1', 'x'])]).toEqual(['11', null]);
  });
});
