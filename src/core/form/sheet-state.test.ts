import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiledForm, world } from '../../../tests/support/designs';
import {
  BED,
  visitBed,
  codes,
  empty,
  lines,
  sheetOf,
  shownAt,
  visitDesign,
  visitRecords,
  worth,
} from '../../../tests/support/visit';
import { rowsToWrite } from '../storage/rows-to-write';
import { tablesOf } from '../storage/tables-of';
import { recordKey, type Place } from './cells';
import type { FormDesign } from './design';
import { isReservedKey } from './key';
import { worldOf } from '../../../tests/support/workspace';
import { Sheet } from './sheet';

describe('who sends it', () => {
  it('is known to checks, conditions and rows by the name sender, and to nobody as a question', () => {
    const byPlace: FormDesign = {
      ...visitDesign,
      checks: [
        {
          id: 'cwho',
          on: 'qday',
          must: 'sender.place = "Fern house"',
          message: 'Only the Fern house',
          otherwise: 'stop',
        },
        {
          id: 'crow',
          on: 'qcount',
          must: 'qcount < 3 or sender.name = "Ines Okafor"',
          message: 'Ask Ines',
          otherwise: 'stop',
        },
      ],
    };
    const sentBy = (name: string, place: string) =>
      codes(
        new Sheet(
          compiledForm(byPlace),
          { ...empty, values: { qguided: true, qguide: 'Joan' }, rows: lines({ qcount: '4', qdone: true }) },
          visitRecords,
          worldOf('2026-11-23T10:00:00', { id: 'p1', name, place, email: '' }),
        ),
      );
    expect(sentBy('Tomasz Bielak', 'Fern house')).toEqual([['check-stops', 'qlines', 'r0', 'qcount']]);
    expect(sentBy('Ines Okafor', 'Fern house')).toEqual([]);
    expect(sentBy('Ines Okafor', 'Herbarium')).toEqual([['check-stops', 'qday']]);
    expect(isReservedKey('sender')).toBe(true);
  });
});

describe('what is asked', () => {
  it('follows its condition; what was typed stays, and counts as empty meanwhile', () => {
    const sheet = sheetOf({
      ...empty,
      values: { qguided: true, qguide: 'Jo' },
      rows: lines({ qcount: '1', qdone: true }),
    });
    expect(codes(sheet)).toEqual([['check-stops', 'qguide']]);
    sheet.set(['qguided'], false);
    expect([sheet.isAsked(['qguide']), sheet.raw(['qguide']), sheet.value(['qguide'])]).toEqual([
      false,
      'Jo',
      null,
    ]);
    expect(codes(sheet)).toEqual([]);
    sheet.set(['qguided'], true);
    expect(sheet.value(['qguide'])).toBe('Jo');
  });

  it('is a whole section, and what reads its rows sees none while it is hidden', () => {
    const sheet = sheetOf({ ...empty, values: { qarea: '12' }, rows: lines({ qcount: '4', qdone: true }) });
    expect([shownAt(sheet, 'qkeep'), shownAt(sheet, 'qall')]).toEqual(['8', '4']);
    sheet.set(['qarea'], '5');
    expect([shownAt(sheet, 'qkeep'), shownAt(sheet, 'qall'), sheet.filledRows('qlines').length]).toEqual([
      null,
      null,
      0,
    ]);
    expect(codes(sheet)).toEqual([]);
    expect(rowsToWrite(sheet).rows).toEqual([]);
    expect(sheet.answers().rows['qlines']).toHaveLength(1);
  });

  it('is decided in each row by itself', () => {
    const sheet = sheetOf({
      ...empty,
      values: { qguided: true, qguide: 'Joan' },
      rows: lines({ qcount: '1', qdone: true, qwhy: 'x' }, { qcount: '2', qdone: false }),
    });
    expect(codes(sheet)).toEqual([['required', 'qlines', 'r1', 'qwhy']]);
    expect(rowsToWrite(sheet).rows[0]?.values.get('qwhy')).toBeNull();
  });

  it('may be required only under a condition', () => {
    const sheet = sheetOf({ ...empty, values: { qarea: '21' }, rows: lines({ qcount: '1', qdone: true }) });
    expect(codes(sheet)).toEqual([['required', 'qnote']]);
    sheet.set(['qarea'], '20');
    expect(sheet.isRequired(['qnote'])).toBe(false);
  });

  it('makes a column that may stay empty', () => {
    const required = tablesOf(visitDesign).flatMap(({ columns }) =>
      columns.filter((column) => column.required).map(({ id }) => id),
    );
    expect(required).toEqual([]);
    expect(tablesOf(visitDesign)[0]?.columns.find(({ id }) => id === 'qdue')?.kind).toBe('date');
  });
});

describe('what lookups bring along', () => {
  it('copies when a record is picked, to be changed at will, and takes its copy back with it', () => {
    const sheet = sheetOf();
    sheet.pick(['qbed'], BED, visitBed(1, '18.5', 'Fern'));
    expect([sheet.raw(['qarea']), shownAt(sheet, 'qhouse')]).toEqual(['18.5', 'Fern']);
    sheet.pick(['qbed'], BED, null);
    expect([sheet.raw(['qarea']), shownAt(sheet, 'qhouse')]).toEqual([null, null]);
    sheet.pick(['qbed'], BED, visitBed(1, '18.5', 'Fern'));
    sheet.set(['qarea'], '19');
    sheet.pick(['qbed'], BED, null);
    expect(sheet.raw(['qarea'])).toBe('19');
  });

  it('follows the record as it is, and keeps a copy as it was', () => {
    const sheet = new Sheet(
      compiledForm(visitDesign),
      { ...empty, values: { qbed: 'b1', qarea: '18.5' } },
      new Map([[recordKey(BED, 'b1'), visitBed(1, '99', 'Moved')]]),
      world,
    );
    expect([shownAt(sheet, 'qarea'), shownAt(sheet, 'qhouse')]).toEqual(['18.5', 'Moved']);
    expect(rowsToWrite(sheet).values.get('qhouse')).toBe('Moved');
  });
});

describe('undo', () => {
  it('takes a pick back with its copies as one step, and does it again', () => {
    const sheet = sheetOf();
    sheet.pick(['qbed'], BED, visitBed(2, '25', 'Palm'));
    sheet.undo();
    expect([sheet.raw(['qbed']), sheet.raw(['qarea']), sheet.canUndo, sheet.canRedo]).toEqual([
      null,
      null,
      false,
      true,
    ]);
    sheet.redo();
    expect([sheet.raw(['qbed']), sheet.raw(['qarea'])]).toEqual(['b2', '25']);
  });

  it('takes a word back, not a letter; a place that was left begins anew', () => {
    const sheet = sheetOf();
    for (const text of ['a', 'ab', 'abc']) sheet.set(['qnote'], text);
    sheet.pause();
    sheet.set(['qnote'], 'abcd');
    sheet.undo();
    expect(sheet.raw(['qnote'])).toBe('abc');
    sheet.undo();
    expect(sheet.raw(['qnote'])).toBeNull();
  });

  it('does not count the blank row that is offered', () => {
    const sheet = sheetOf();
    sheet.offerRow('qlines', 'blank');
    expect([sheet.rows('qlines').length, sheet.canUndo]).toEqual([1, false]);
  });
});

describe('rows', () => {
  it('are pasted as a block: over what is there, below it, past what is calculated', () => {
    const sheet = sheetOf({
      ...empty,
      values: { qguided: true, qguide: 'Joan' },
      rows: lines({ qcount: '1', qdone: true }),
    });
    let made = 0;
    const { left } = sheet.paste(
      ['qlines', 'r0', 'qcount'],
      [
        ['5', 'yes', '', 'calculated', 'seed', 'too far'],
        ['6', 'No', 'late', '', 'Plant', ''],
        ['x', 'maybe', '', '', 'tree', ''],
      ],
      () => `n${made++}`,
    );
    expect(left).toBe(3);
    expect(sheet.answers().rows['qlines']?.map(({ cells }) => cells)).toEqual([
      { qcount: '5', qdone: true, qwhy: '', qtype: 'seed' },
      { qcount: '6', qdone: false, qwhy: 'late', qtype: 'plant' },
      { qcount: 'x', qdone: 'maybe', qwhy: '', qtype: 'tree' },
    ]);
    expect(codes(sheet)).toEqual([
      ['check-stops', 'qkeep'],
      ['not-a-number', 'qlines', 'n1', 'qcount'],
      ['not-yes-no', 'qlines', 'n1', 'qdone'],
      ['not-a-choice', 'qlines', 'n1', 'qtype'],
    ]);
    sheet.undo();
    expect(sheet.answers().rows['qlines']?.map(({ cells }) => cells)).toEqual([
      { qcount: '1', qdone: true, qwhy: null, qtype: null },
    ]);
  });

  it('are moved, and the values over them stay right', () => {
    const sheet = sheetOf({
      ...empty,
      values: { qguided: true },
      rows: lines({ qcount: '1' }, { qcount: '2' }, { qcount: '3' }),
    });
    sheet.moveRow('qlines', 'r0', 2);
    expect(sheet.rows('qlines').map(({ id }) => id)).toEqual(['r1', 'r2', 'r0']);
    expect(shownAt(sheet, 'qlines', 'r0', 'qshare')?.toString().slice(0, 6)).toBe('0.1666');
    sheet.undo();
    expect(sheet.rows('qlines').map(({ id }) => id)).toEqual(['r0', 'r1', 'r2']);
  });
});

describe('watching', () => {
  it('tells only the cells that came out differently', () => {
    const sheet = sheetOf({
      ...empty,
      values: { qguided: true, qguide: 'Joan' },
      rows: lines({ qcount: '1', qdone: true }, { qcount: '2', qdone: true }),
    });
    const told: string[] = [];
    for (const place of [
      ['qkeep'],
      ['qdue'],
      ['qall'],
      ['qlines', 'r0', 'qcount'],
      ['qlines', 'r0', 'qshare'],
      ['qlines', 'r1', 'qwhy'],
    ] as unknown as Place[])
      sheet.watchCell(place, () => told.push(place.join('/')));
    sheet.set(['qlines', 'r0', 'qcount'], '3');
    expect(told.sort()).toEqual(['qall', 'qkeep', 'qlines/r0/qcount', 'qlines/r0/qshare']);
    told.length = 0;
    sheet.set(['qlines', 'r1', 'qdone'], false);
    expect(told.sort()).toEqual(['qkeep', 'qlines/r1/qwhy']);
  });

  it('tells a question that begins or ceases to be required', () => {
    const sheet = sheetOf(empty);
    let told = 0;
    sheet.watchCell(['qnote'], () => told++);
    sheet.set(['qarea'], '19');
    told = 0;
    sheet.set(['qarea'], '20');
    expect([told, sheet.isRequired(['qnote'])]).toEqual([0, false]);
    sheet.set(['qarea'], '21');
    expect([told, sheet.isRequired(['qnote'])]).toEqual([1, true]);
    sheet.set(['qarea'], '22');
    expect(told).toBe(1);
  });
});

describe('law: undoing all that was done gives back the sheet, and doing it again the same sheet', () => {
  const edit = fc.oneof(
    fc.record({
      t: fc.constant('set' as const),
      id: fc.constantFrom('qguided', 'qguide', 'qarea', 'qnote'),
      raw: fc.constantFrom('21', 'x', '', true, false, null),
    }),
    fc.record({
      t: fc.constant('cell' as const),
      row: fc.nat(3),
      id: fc.constantFrom('qcount', 'qdone', 'qwhy'),
      raw: fc.constantFrom('4', '', true, false, null),
    }),
    fc.record({ t: fc.constant('pick' as const), which: fc.constantFrom(1, 2, null) }),
    fc.record({ t: fc.constant('add' as const), row: fc.nat(3) }),
    fc.record({ t: fc.constant('remove' as const), row: fc.nat(3) }),
    fc.record({ t: fc.constant('move' as const), row: fc.nat(3), to: fc.nat(4) }),
    fc.record({ t: fc.constant('paste' as const), row: fc.nat(3), n: fc.integer({ min: 1, max: 3 }) }),
    fc.record({ t: fc.constant('pause' as const) }),
  );
  it('holds, and a fresh sheet of the same answers is the same', () => {
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 20 }), (edits) => {
        const sheet = sheetOf({
          ...empty,
          values: { qguided: true, qday: '2026-11-23' },
          rows: lines({ qcount: '1', qdone: true }),
        });
        const before = worth(sheet);
        let made = 0;
        for (const one of edits) {
          const row =
            'row' in one
              ? sheet.rows('qlines')[one.row % Math.max(1, sheet.rows('qlines').length)]?.id
              : undefined;
          if (one.t === 'set') sheet.set([one.id], one.raw);
          else if (one.t === 'pick')
            sheet.pick(
              ['qbed'],
              BED,
              one.which === null ? null : (visitRecords.get(recordKey(BED, `b${one.which}`)) ?? null),
            );
          else if (one.t === 'add')
            sheet.insertRow('qlines', { id: `n${made++}`, cells: { qcount: '7' } }, one.row);
          else if (one.t === 'pause') sheet.pause();
          else if (row === undefined) continue;
          else if (one.t === 'cell') sheet.set(['qlines', row, one.id], one.raw);
          else if (one.t === 'remove') sheet.removeRow('qlines', row);
          else if (one.t === 'move') sheet.moveRow('qlines', row, one.to);
          else
            sheet.paste(
              ['qlines', row, 'qcount'],
              Array.from({ length: one.n }, () => ['9', 'yes', 'so']),
              () => `p${made++}`,
            );
        }
        const after = worth(sheet);
        expect(worth(new Sheet(compiledForm(visitDesign), sheet.answers(), visitRecords, world))).toBe(after);
        while (sheet.canUndo) sheet.undo();
        expect(worth(sheet)).toBe(before);
        while (sheet.canRedo) sheet.redo();
        expect(worth(sheet)).toBe(after);
      }),
      { numRuns: 120 },
    );
  });
});
