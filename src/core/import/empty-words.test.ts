import { describe, expect, it } from 'vitest';
import { detected, many, type Sheet } from '../../../tests/support/sheets';
import { noDecisions, type Decisions } from './decisions';
import { takesWordsForNothing } from './import-plan';
import { planImport } from './plan-import';
import { eachMade, RecordIds } from './made-rows';
import { answered, proposalsOf } from './proposals';
import { everyRow } from './row-span';
import { RowMaker } from './rows';

const ID = '01900000-0000-7000-b000-000000000001';
const plants: Sheet = [
  ['Label', 'Height', 'Sown on', 'Colour', 'Bed', 'Origin'],
  ...many(20, (i) => [
    `P${i}`,
    i % 4 === 0 ? 'n/a' : String(10 + i),
    i % 5 === 0 ? '-' : `2026-03-${10 + i}`,
    ['red', 'white', 'unknown'][i % 3] ?? '',
    i === 7 ? '?' : `B${i % 4}`,
    i === 3 ? 'unknown' : `from place ${i}`,
  ]),
];
const beds: Sheet = [['Bed', 'Place'], ...many(4, (i) => [`B${i}`, `Place ${i}`])];
const detection = detected({ Plants: plants, Beds: beds });
const sheet = detection.sheets[0] ?? expect.fail();
const columnOf = (name: string) => sheet.columns.find((one) => one.name === name) ?? expect.fail(name);

function made(decisions: Decisions, heading: string): (string | null)[] {
  const plan = planImport(ID, detection, decisions);
  const planned =
    plan.tables.find(({ sheet: from, rows }) => from === 'Plants' && rows.t === 'each') ?? expect.fail();
  const place = planned.columns.findIndex(({ at }) => at[0] === columnOf(heading).at);
  if (place < 0) expect.fail(`${heading} is elsewhere`);
  const maker = new RowMaker({
    zone: 'Europe/London',
    plan: planned,
    ids: new RecordIds(ID, 0),
    parentIds: null,
    found: new Map(),
    noted: new Map(),
    refusedRows: new Set(),
    refuse: () => undefined,
  });
  const rows = eachMade(
    maker.rows({ numbers: plants.map((_, i) => i + 1), rows: plants }, { ...everyRow, after: 1 }),
  );
  return rows.map(({ values }) => values[place] ?? null);
}

describe('words that may mean nothing', () => {
  it('are empty cells where they would not fit, and do not hide the kind of the others', () => {
    expect(columnOf('Height')).toMatchObject({
      kind: 'whole',
      filled: 15,
      blank: 5,
      distinct: 15,
      required: false,
      misfits: 0,
      emptyWords: { words: [{ text: 'n/a', count: 5 }], taken: true },
    });
    expect(columnOf('Sown on')).toMatchObject({ kind: 'date', filled: 16, misfits: 0 });
  });

  it('may be meant among texts and choices, and stay there as they are written', () => {
    expect(columnOf('Colour')).toMatchObject({ kind: 'choice', distinct: 3, required: true });
    expect(columnOf('Colour').emptyWords?.taken).toBe(false);
    expect(columnOf('Origin')).toMatchObject({ kind: 'text', filled: 20, distinct: 20, required: true });
    expect(made({ ...noDecisions, declined: ['relation:Plants/Bed'] }, 'Origin')[3]).toBe('unknown');
  });

  it('name no record', () => {
    expect(detection.relations).toMatchObject([{ from: { column: 'Bed' }, covered: 4, missed: 0 }]);
    const plan = planImport(ID, detection, noDecisions);
    const bed = plan.tables.flatMap(({ columns }) => columns).find(({ finds }) => finds !== null);
    expect([bed?.column.required, bed?.reading.empty]).toEqual([false, ['?']]);
  });

  it('are taken otherwise by a word of their owner, column by column', () => {
    const words = proposalsOf(detection, sheet).filter(({ t }) => t === 'words');
    expect(words.map((one) => (one.t === 'words' ? one.column : ''))).toEqual([
      'Height',
      'Sown on',
      'Colour',
      'Bed',
      'Origin',
    ]);
    const taken = (decisions: Decisions) =>
      words.map((one) =>
        one.t === 'words'
          ? takesWordsForNothing(planImport(ID, detection, decisions), sheet, one.column)
          : null,
      );
    expect(taken(noDecisions)).toEqual([true, true, false, true, false]);
    const all = words.reduce((before, one) => answered(before, one, true), noDecisions);
    expect(taken(all)).toEqual([true, true, true, true, true]);
    const none = words.reduce((before, one) => answered(before, one, false), noDecisions);
    expect(taken(none)).toEqual([false, false, false, false, false]);
    const plan = planImport(ID, detection, all);
    const colour = plan.tables
      .flatMap(({ columns }) => columns)
      .find(({ column }) => column.key === 'colour');
    expect(colour?.column.choices.map(({ label }) => label).sort()).toEqual(['red', 'white']);
    expect(colour?.column.required).toBe(false);
    const origin = { ...all, declined: ['relation:Plants/Bed'] };
    expect(made(origin, 'Origin')[3]).toBeNull();
    expect(made(origin, 'Origin')).toHaveLength(20);
  });
});
