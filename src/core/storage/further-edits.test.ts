import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BED, full, NEMAVAR, sheetOf, SOAP, tables } from '../../../tests/support/designs';
import { design } from '../../../tests/support/designs';
import { tableId } from '../../../demo/tables';
import type { Answers } from '../form/answers';
import type { FormDesign } from '../form/design';
import type { StoredRecord } from '../record/edit';
import { furtherEdits, heldBy, joinedEdits, placeBeside, wantedWrites } from './further-edits';
import type { FurtherWrite } from './further-write';

const lowerStock: FurtherWrite = {
  t: 'change',
  id: 'fstock',
  each: 'qtrlines',
  lookup: 'qtrproduct',
  sets: [{ column: 'cprostock', how: 'lower', expression: 'qtramount' }],
};
const writing = (...further: FurtherWrite[]): FormDesign => ({ ...design, further });
const wanted = (writes: readonly FurtherWrite[], answers: Answers = full, use: 'new' | 'change' = 'new') =>
  wantedWrites(sheetOf(answers, writing(...writes)), use, tables);
const record = (values: StoredRecord['values'], more: Partial<StoredRecord> = {}): StoredRecord => ({
  version: 3,
  removed: false,
  values,
  ...more,
});
const stock = (many: string | null) => record({ cprostock: many });
let ids = 0;
const edits = (writes: readonly FurtherWrite[], stored: [string, StoredRecord][], answers?: Answers) =>
  furtherEdits(wanted(writes, answers), new Map(stored), tables, () => `new${++ids}`);

describe('what is written beside a sheet', () => {
  it('is one change of each record, rows of one product put together', () => {
    const rows = [...full.rows['qtrlines']!, { id: 'r3', cells: { qtrproduct: SOAP, qtrrate: '10' } }];
    const { edits: made, issues } = edits(
      [lowerStock],
      [
        [SOAP, stock('4000')],
        [NEMAVAR, stock('700')],
      ],
      { ...full, rows: { qtrlines: rows } },
    );
    expect(issues).toEqual([]);
    expect(made).toEqual([
      expect.objectContaining({
        id: SOAP,
        version: 3,
        before: { cprostock: '4000' },
        values: { cprostock: '2705' },
      }),
      expect.objectContaining({ id: NEMAVAR, values: { cprostock: '145' } }),
    ]);
  });

  it('takes nothing that is not there, and says so where the amount comes from', () => {
    const { issues } = edits(
      [lowerStock],
      [
        [SOAP, stock('4000')],
        [NEMAVAR, stock('500')],
      ],
    );
    expect(issues).toEqual([
      {
        code: 'too-little',
        path: ['qtrlines', 'r2', 'qtramount'],
        facts: { label: 'In stock', record: 'Nemavar drench', there: '500', asked: '555' },
      },
    ]);
    const owing: FurtherWrite = { ...lowerStock, sets: [{ ...lowerStock.sets[0]!, belowZero: true }] };
    const held: [string, StoredRecord][] = [
      [SOAP, stock(null)],
      [NEMAVAR, stock('500')],
    ];
    expect(edits([owing], held).edits.map((edit) => 'values' in edit && edit.values)).toEqual([
      { cprostock: '-1110' },
      { cprostock: '-55' },
    ]);
  });

  it('is written on its condition, and for new records alone unless it says otherwise', () => {
    const closed: FurtherWrite = {
      t: 'change',
      id: 'fopen',
      lookup: 'qtrbed',
      when: 'qtrclosed = true',
      sets: [{ column: 'cbedopen', how: 'set', expression: 'not(qtrclosed)' }],
    };
    expect(wanted([closed])).toMatchObject([
      { record: BED, title: 'G4-12 · Fern house, north bench', place: ['qtrbed'], sets: [{ value: false }] },
    ]);
    expect(wanted([closed], { ...full, values: { ...full.values, qtrclosed: false } })).toEqual([]);
    expect(wanted([closed], { ...full, values: { ...full.values, qtrbed: null } })).toEqual([]);
    expect(wanted([closed], full, 'change')).toEqual([]);
    expect(wanted([{ ...closed, onChange: true }], full, 'change')).toHaveLength(1);
  });

  it('leaves a column alone where its expression gives nothing, unless nothing is what it says', () => {
    const seen = (expression: string): FurtherWrite => ({
      t: 'change',
      id: 'fname',
      lookup: 'qtrbed',
      sets: [{ column: 'cbedname', how: 'set', expression }],
    });
    expect(wanted([seen('qtrseen')])[0]?.sets).toEqual([]);
    expect(wanted([seen('null')])[0]?.sets).toMatchObject([{ value: null }]);
  });

  it('adds a record with a reference to what was picked, and is told of at its column', () => {
    const add: FurtherWrite = {
      t: 'add',
      id: 'fadd',
      table: tableId(2),
      each: 'qtrlines',
      sets: [{ column: 'ctaxname', how: 'set', expression: 'string(qtramount)' }],
    };
    const { edits: made, places } = edits([add], []);
    expect(made.map((edit) => 'values' in edit && edit.values)).toEqual([
      { ctaxname: '1110' },
      { ctaxname: '555' },
    ]);
    expect(placeBeside(places, [made[1]!.id, 'ctaxname'])).toEqual(['qtrlines', 'r2', 'qtramount']);
    expect(placeBeside(places, ['another', 'ctaxname'])).toBeNull();
  });

  it('is refused of a record that is gone', () => {
    const held: [string, StoredRecord][] = [[SOAP, record({}, { removed: true })]];
    expect(edits([lowerStock], held).issues.map(({ code, path }) => [code, path])).toEqual([
      ['record-removed', ['qtrlines', 'r1', 'qtrproduct']],
      ['record-not-there', ['qtrlines', 'r2', 'qtrproduct']],
    ]);
  });

  it('of a record the sheet changes itself is the same edit', () => {
    const own = { ...heldBy(wanted([lowerStock]))[0]!, version: 7, before: { a: '1' }, values: { a: '2' } };
    const { edits: beside } = edits(
      [lowerStock],
      [
        [SOAP, stock('4000')],
        [NEMAVAR, stock('700')],
      ],
    );
    expect(joinedEdits([own], beside)).toEqual([
      { ...own, before: { a: '1', cprostock: '4000' }, values: { a: '2', cprostock: '2890' } },
      beside[1],
    ]);
    const gone = { t: 'remove', table: own.table, id: SOAP, version: 7 } as const;
    expect(joinedEdits([gone], beside)).toEqual([gone, beside[1]]);
  });

  it('law: comes to the same as its amounts together, and is refused exactly where they fall below nothing', () => {
    const amounts = fc.array(fc.record({ raise: fc.boolean(), amount: fc.integer({ min: 0, max: 500 }) }), {
      minLength: 1,
      maxLength: 6,
    });
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1000 }), amounts, (there, moves) => {
        const writes = moves.map(({ raise, amount }, i): FurtherWrite => ({
          t: 'change',
          id: `f${i}`,
          lookup: 'qtrbed',
          sets: [{ column: 'cbedarea', how: raise ? 'raise' : 'lower', expression: String(amount) }],
        }));
        const { edits: made, issues } = edits(writes, [[BED, record({ cbedarea: String(there) })]]);
        let sum = there;
        let below = 0;
        for (const { raise, amount } of moves) {
          sum += raise ? amount : -amount;
          if (!raise && sum < 0) below += 1;
        }
        expect(issues).toHaveLength(below);
        expect(made).toMatchObject([{ values: { cbedarea: sum.toFixed(2) } }]);
      }),
      { numRuns: 40 },
    );
  });
});
