import Big from 'big.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiledForm, world } from '../../../tests/support/designs';
import { sheetIssues } from '../check/sheet-issues';
import { rowsToWrite } from '../storage/rows-to-write';
import { tablesOf } from '../storage/tables-of';
import { loadPatterns } from '../expression/functions/patterns';
import type { RecordValue } from '../expression/value';
import { isBig } from '../expression/value';
import type { Answers } from './answers';
import { recordKey, type Place, type Records } from './cells';
import type { FormDesign } from './design';
import { designIssues } from './design-issues';
import { isReservedKey } from './key';
import { worldOf } from '../../../tests/support/workspace';
import { Sheet } from './sheet';

/** A form with everything a sheet has to keep in order: conditions of sections, questions and cells, copies, followers, filters over rows. */
const BED = '01900000-0000-7000-9000-000000000001';
const base = (id: string, label = id) => ({ id, key: id, label, hint: '', required: false });
const target = { id: '01900000-0000-7000-8000-000000000009', key: 'visits', label: 'Visits', prefix: 'V' };
const design: FormDesign = {
  format: 1,
  title: 'Visit',
  area: '',
  steps: [],
  table: target,
  checks: [
    {
      id: 'clong',
      on: 'qkeep',
      must: 'count(qlines[qcount > 3]) <= 1',
      message: 'Only one large lot',
      otherwise: 'stop',
    },
    {
      id: 'cguide',
      on: 'qguide',
      must: 'string length(qguide) > 2',
      message: 'A longer name',
      otherwise: 'stop',
    },
  ],
  sections: [
    {
      id: 's1',
      title: 'Visit',
      questions: [
        { ...base('qguided'), kind: 'yes-no' },
        { ...base('qguide'), kind: 'text', long: false, askWhen: 'qguided', required: true },
        { ...base('qbed'), kind: 'lookup', table: BED, show: [] },
        {
          ...base('qarea'),
          kind: 'decimal',
          decimals: 2,
          unit: '',
          carry: { lookup: 'qbed', column: 'carea', keep: 'copied' },
        },
        {
          ...base('qhouse'),
          kind: 'text',
          long: false,
          carry: { lookup: 'qbed', column: 'chouse', keep: 'following' },
        },
        { ...base('qnote'), kind: 'text', long: true, requireWhen: 'qarea > 20' },
        {
          ...base('qkeep'),
          kind: 'calculated',
          expression: 'sum(for x in qlines[qdone] return x.qcount * 2)',
          decimals: 0,
          unit: '',
        },
        {
          ...base('qdue'),
          kind: 'calculated',
          expression: 'qday + duration("P14D")',
          decimals: 0,
          unit: '',
          gives: 'date',
        },
        { ...base('qday'), kind: 'date' },
      ],
    },
    {
      id: 's2',
      title: 'Lots',
      showWhen: 'qguided or qarea > 10',
      questions: [
        {
          ...base('qlines'),
          kind: 'rows',
          required: true,
          least: 0,
          most: 20,
          table: { ...target, id: '01900000-0000-7000-8000-000000000008', key: 'lots' },
          totals: [{ id: 'qall', key: 'qall', label: 'All', column: 'qcount' }],
          columns: [
            { ...base('qcount'), kind: 'whole', unit: '' },
            { ...base('qdone'), kind: 'yes-no' },
            { ...base('qwhy'), kind: 'text', long: false, askWhen: 'not(qdone)', required: true },
            {
              ...base('qshare'),
              kind: 'calculated',
              expression: 'qcount / sum(qlines.qcount)',
              decimals: 4,
              unit: '',
            },
            {
              ...base('qtype'),
              kind: 'choice',
              choices: [
                { code: 'seed', label: 'Seed' },
                { code: 'plant', label: 'Plant' },
              ],
            },
          ],
        },
      ],
    },
  ],
};
const bed = (n: number, area: string, house: string): RecordValue => ({
  id: `b${n}`,
  title: `Bed ${n}`,
  values: { carea: new Big(area), chouse: house },
});
const records: Records = new Map(
  [bed(1, '18.5', 'Fern'), bed(2, '25', 'Palm')].map((one) => [recordKey(BED, one.id), one]),
);
const empty: Answers = { values: {}, rows: {}, reasons: {} };
const sheetOf = (answers: Answers = empty): Sheet => new Sheet(compiledForm(design), answers, records, world);
const codes = (sheet: Sheet) => sheetIssues(sheet).map(({ code, path }) => [code, ...path]);
const shownAt = (sheet: Sheet, ...place: string[]) => {
  const value = sheet.value(place as unknown as Place);
  return isBig(value) ? value.toString() : value;
};
const lines = (...cells: Record<string, string | boolean>[]): Answers['rows'] => ({
  qlines: cells.map((one, i) => ({ id: `r${i}`, cells: one })),
});

describe('who sends it', () => {
  it('is known to checks, conditions and rows by the name sender, and to nobody as a question', () => {
    const byPlace: FormDesign = {
      ...design,
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
          records,
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
    const required = tablesOf(design).flatMap(({ columns }) =>
      columns.filter((column) => column.required).map(({ id }) => id),
    );
    expect(required).toEqual([]);
    expect(tablesOf(design)[0]?.columns.find(({ id }) => id === 'qdue')?.kind).toBe('date');
  });
});

describe('what lookups bring along', () => {
  it('copies when a record is picked, to be changed at will, and takes its copy back with it', () => {
    const sheet = sheetOf();
    sheet.pick(['qbed'], BED, bed(1, '18.5', 'Fern'));
    expect([sheet.raw(['qarea']), shownAt(sheet, 'qhouse')]).toEqual(['18.5', 'Fern']);
    sheet.pick(['qbed'], BED, null);
    expect([sheet.raw(['qarea']), shownAt(sheet, 'qhouse')]).toEqual([null, null]);
    sheet.pick(['qbed'], BED, bed(1, '18.5', 'Fern'));
    sheet.set(['qarea'], '19');
    sheet.pick(['qbed'], BED, null);
    expect(sheet.raw(['qarea'])).toBe('19');
  });

  it('follows the record as it is, and keeps a copy as it was', () => {
    const sheet = new Sheet(
      compiledForm(design),
      { ...empty, values: { qbed: 'b1', qarea: '18.5' } },
      new Map([[recordKey(BED, 'b1'), bed(1, '99', 'Moved')]]),
      world,
    );
    expect([shownAt(sheet, 'qarea'), shownAt(sheet, 'qhouse')]).toEqual(['18.5', 'Moved']);
    expect(rowsToWrite(sheet).values.get('qhouse')).toBe('Moved');
  });
});

describe('undo', () => {
  it('takes a pick back with its copies as one step, and does it again', () => {
    const sheet = sheetOf();
    sheet.pick(['qbed'], BED, bed(2, '25', 'Palm'));
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
    const left = sheet.paste(
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

/** All that a sheet shows. */
const worth = (sheet: Sheet) => {
  const places: Place[] = [
    ...['qkeep', 'qdue', 'qall', 'qguide', 'qhouse', 'clong'].map((id): Place => [id]),
    ...(sheet.answers().rows['qlines'] ?? []).flatMap((row) =>
      ['qshare', 'qwhy', 'qcount'].map((id): Place => ['qlines', row.id, id]),
    ),
  ];
  return JSON.stringify(
    [
      sheet.answers(),
      places.map((place) => [place, sheet.isAsked(place), shownAt(sheet, ...place)]),
      codes(sheet),
    ],
    (_, value: unknown) => (value === null ? undefined : value),
  );
};

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
              one.which === null ? null : (records.get(recordKey(BED, `b${one.which}`)) ?? null),
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
        expect(worth(new Sheet(compiledForm(design), sheet.answers(), records, world))).toBe(after);
        while (sheet.canUndo) sheet.undo();
        expect(worth(sheet)).toBe(before);
        while (sheet.canRedo) sheet.redo();
        expect(worth(sheet)).toBe(after);
      }),
      { numRuns: 120 },
    );
  });
});

describe('what takes too long', () => {
  it('is reported at its line instead of counting as fulfilled', () => {
    const endless: FormDesign = {
      ...design,
      checks: [
        {
          id: 'cend',
          on: 'qnote',
          must: 'every i in 1..100000000 satisfies i > 0',
          message: 'never told',
          otherwise: 'stop',
        },
      ],
    };
    const sheet = new Sheet(compiledForm(endless), empty, records, world);
    expect(codes(sheet)).toEqual([['too-many-steps', 'qnote']]);
    expect(sheet.wasGivenUp).toBe(true);
  });

  const counting = (times: number, to: string): FormDesign => ({
    ...design,
    checks: Array.from({ length: times }, (_, i) => ({
      id: `cn${i}`,
      on: 'qnote',
      must: `count(for i in 1..${to} return i) > 0`,
      message: 'never told',
      otherwise: 'stop' as const,
    })),
  });

  it('is given up by what all formulas spend together, not each by itself', () => {
    const form = compiledForm(counting(20, '100'));
    const codesWithin = (steps: number) => codes(new Sheet(form, empty, records, world, { steps }));
    expect(codesWithin(10_000)).toEqual([]);
    // Ten fit; those after them find nothing left.
    expect(codesWithin(1_300).length).toBeGreaterThan(5);
    expect(codesWithin(1_300).every(([code]) => code === 'too-many-steps')).toBe(true);
  });

  it('is refused when it is written, where its text tells', () => {
    const told = (of: FormDesign) =>
      designIssues(of, new Map(), new Set()).flatMap(({ code, path }) =>
        code === 'too-many-steps' || code === 'sheet-too-heavy' ? [[code, ...path]] : [],
      );
    expect(told(counting(1, '100000000'))).toEqual([['too-many-steps', 'checks', 'cn0']]);
    expect(told(counting(20, '100000'))).toEqual([['sheet-too-heavy', 'sections']]);
    expect(told(counting(2, '1000'))).toEqual([]);
  });

  it('may be calculated elsewhere: what is taken over gives the same sheet', () => {
    const filled: Answers = {
      values: { qguided: true, qguide: 'A', qkeep: '3' },
      rows: {
        qlines: [
          { id: 'r1', cells: { qcount: '4' } },
          { id: 'r2', cells: { qcount: '9' } },
        ],
      },
      reasons: {},
    };
    const here = new Sheet(compiledForm(design), filled, records, world);
    const there = new Sheet(compiledForm(design), filled, records, world, { worked: here.worked() });
    expect(worth(there)).toBe(worth(here));
    expect(codes(there)).toEqual(codes(here));
    for (const sheet of [here, there]) sheet.set(['qlines', 'r1', 'qcount'], '1');
    expect(worth(there)).toBe(worth(here));
  });
});

describe('patterns', () => {
  it('cannot be told until their engine is there, and then are', async () => {
    const patterned: FormDesign = {
      ...design,
      checks: [
        {
          id: 'cpat',
          on: 'qnote',
          must: 'matches(qnote, "^[A-Z]{2}-[0-9]+$")',
          message: 'Like AB-12',
          otherwise: 'stop',
        },
      ],
    };
    const form = compiledForm(patterned);
    expect([form.usesPatterns, compiledForm(design).usesPatterns]).toEqual([true, false]);
    const sheet = new Sheet(form, { ...empty, values: { qnote: 'x' } }, records, world);
    expect(codes(sheet)).toEqual([]);
    await loadPatterns();
    sheet.refresh();
    expect(codes(sheet)).toEqual([['check-stops', 'qnote']]);
    sheet.set(['qnote'], 'AB-12');
    expect(codes(sheet)).toEqual([]);
  });
});
