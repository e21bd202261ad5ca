import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { aboutColumn } from './about';
import {
  addCheck,
  addChoices,
  addColumns,
  asKind,
  bringBack,
  changeCheck,
  changeColumn,
  changeTogether,
  dropCheck,
  keysOf,
  moveColumn,
  nameTable,
  newTable,
  removeForGood,
  takeOut,
} from './edit';
import { columnKinds, plainColumn, plainTable, type Column, type Table } from './model';
import { tableIssues } from './table-issues';

const column = (id: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id.toUpperCase(),
  ...more,
});
const lots: Table = {
  ...plainTable,
  id: '01900000-0000-7000-8000-0000000000aa',
  key: 'lots',
  label: 'Lots',
  prefix: 'LO',
  columns: [column('ca'), column('cb'), column('cc')],
  title: ['ca'],
  together: [['ca', 'cb']],
};
const ids = (table: Table): string[] => table.columns.map(({ id }) => id);

describe('a table that is not there yet', () => {
  const empty = newTable('01900000-0000-7000-8000-0000000000bb');

  it('takes its key and its numbers from its name, until they are set by hand', () => {
    const named = nameTable(nameTable(empty, 'Seed', [], true), 'Seed lots', [lots], true);
    expect([named.key, named.prefix, named.label]).toEqual(['seed_lots', 'SL', 'Seed lots']);
    expect(nameTable(named, 'Lots', [lots], true)).toMatchObject({ key: 'lots_2', prefix: 'LOT' });
    expect(nameTable({ ...named, key: 'my_seeds' }, 'Other', [lots], true)).toMatchObject({
      key: 'my_seeds',
      label: 'Other',
    });
    expect(nameTable(lots, 'Other', [], false)).toMatchObject({ key: 'lots', prefix: 'LO', label: 'Other' });
  });

  it('gets columns of the kinds their words suggest, each with a key of its own; the first names its records', () => {
    const made = addColumns(
      empty,
      ['Plant', 'Planted on', 'How many', 'Price', 'E-mail', 'Is it rare?', 'Plant', 'نبات', 'Number'].map(
        (label, i) => ({ id: `c${i}`, label }),
      ),
    );
    expect(made.columns.map(({ key, kind }) => `${key} ${kind}`)).toEqual([
      'plant text',
      'planted_on date',
      'how_many whole',
      'price decimal',
      'e_mail e-mail',
      'is_it_rare yes-no',
      'plant_2 text',
      'column text',
      'number_2 text',
    ]);
    expect([made.title, made.columns[2]?.decimals, made.columns[3]?.decimals]).toEqual([['c0'], 0, 2]);
    expect(tableIssues({ ...made, key: 'made', label: 'Made', prefix: 'M' }, null, new Map())).toEqual([]);
  });
});

describe('a column', () => {
  it('keeps what two kinds have in common', () => {
    const area = column('ca', {
      kind: 'decimal',
      decimals: 3,
      unit: 'm²',
      default: '1',
      choices: [{ code: 'a', label: 'A' }],
      target: 'x',
    });
    expect(asKind(area, 'whole')).toMatchObject({
      decimals: 0,
      unit: 'm²',
      default: '',
      choices: [],
      target: null,
    });
    expect(asKind(area, 'money')).toMatchObject({ decimals: 3, unit: 'GBP' });
    expect(asKind({ ...area, unit: 'EUR' }, 'money').unit).toBe('EUR');
    expect(asKind(area, 'text')).toMatchObject({ decimals: null, unit: '' });
    expect(asKind(area, 'choice').choices).toHaveLength(1);
    expect(asKind(area, 'decimal')).toMatchObject({ default: '1', decimals: 3 });
    for (const kind of columnKinds) expect(asKind(asKind(area, kind), kind)).toEqual(asKind(area, kind));
  });

  it('moves, and stays where it is at the ends', () => {
    expect(ids(moveColumn(lots, 'cb', -1))).toEqual(['cb', 'ca', 'cc']);
    expect([moveColumn(lots, 'ca', -1), moveColumn(lots, 'cc', 1), moveColumn(lots, 'none', 1)]).toEqual([
      lots,
      lots,
      lots,
    ]);
    fc.assert(
      fc.property(fc.constantFrom('ca', 'cb', 'cc'), fc.constantFrom(1 as const, -1 as const), (id, by) => {
        const moved = moveColumn(lots, id, by);
        expect(
          moved === lots || JSON.stringify(moveColumn(moved, id, by === 1 ? -1 : 1)) === JSON.stringify(lots),
        ).toBe(true);
      }),
    );
  });

  it('that holds values is retired and can be brought back; one that was only drawn goes', () => {
    const out = takeOut(
      { ...lots, columns: [column('ca', { required: true, default: '1' }), column('cb')] },
      'ca',
      true,
    );
    expect([ids(out), out.retired, out.title, out.together]).toEqual([['cb'], [column('ca')], [], []]);
    expect([ids(bringBack(out, 'ca')), bringBack(out, 'ca').retired]).toEqual([['cb', 'ca'], []]);
    expect([
      removeForGood(out, 'ca').retired,
      takeOut(lots, 'cc', false).retired,
      takeOut(lots, 'none', true),
      bringBack(lots, 'none'),
    ]).toEqual([[], [], lots, lots]);
    expect(keysOf(out)).toEqual(new Set(['cb', 'ca']));
    expect(changeColumn(lots, 'cb', { label: 'Bed' }).columns[1]?.label).toBe('Bed');
  });

  it('says what it holds with an example', () => {
    expect(
      [
        ['A code', 'B-12'],
        ['A code.', 'B-12'],
        ['', 'B-12'],
        ['A code', ''],
      ].map(([description = '', example = '']) => aboutColumn({ description, example })),
    ).toEqual(['A code. For example B-12', 'A code. For example B-12', 'For example B-12', 'A code']);
  });
});

describe('sets and choices', () => {
  it('a set is replaced, added, or goes when nothing is left in it', () => {
    expect(changeTogether(lots, ['cb', 'ca'], ['cb', 'cc']).together).toEqual([['cb', 'cc']]);
    expect(changeTogether(lots, null, ['cb', 'cc']).together).toEqual([
      ['ca', 'cb'],
      ['cb', 'cc'],
    ]);
    expect(changeTogether(lots, ['ca', 'cb'], []).together).toEqual([]);
  });

  it('choices get codes of their own; those there are keep theirs', () => {
    expect(
      addChoices(
        [
          { code: 'x1', label: 'Seed', retired: true },
          { code: 'x2', label: 'Bulb', retired: true },
        ],
        'Seed',
      ),
    ).toEqual([
      { code: 'x1', label: 'Seed' },
      { code: 'x2', label: 'Bulb', retired: true },
    ]);
    const choices = addChoices([{ code: 'x1', label: 'Seed' }], ' Seed \n\nCutting\ncutting!\nCutting\n🌿');
    expect(choices).toEqual([
      { code: 'x1', label: 'Seed' },
      { code: 'cutting', label: 'Cutting' },
      { code: 'cutting_2', label: 'cutting!' },
      { code: 'choice', label: '🌿' },
    ]);
  });
});

describe('the checks of a table', () => {
  const stop = { id: 'ka', on: 'ca', must: 'ca > 0', message: 'More', otherwise: 'stop' as const };
  const both = addCheck(addCheck(lots, stop), { ...stop, id: 'kb' });

  it('are added behind those there are, changed and dropped one by one', () => {
    expect(both.checks.map(({ id }) => id)).toEqual(['ka', 'kb']);
    expect(lots.checks).toEqual([]);
    const changed = changeCheck(both, 'kb', { message: 'Most' });
    expect(changed.checks).toEqual([stop, { ...stop, id: 'kb', message: 'Most' }]);
    expect(dropCheck(changed, 'ka').checks.map(({ id }) => id)).toEqual(['kb']);
  });

  it('keep nothing of a condition when they become one among records, and the other way round', () => {
    const unique = { id: 'ka', on: 'ca', message: 'Once', same: ['ca'], rule: { t: 'unique' as const } };
    const among = changeCheck(both, 'ka', unique);
    expect(among.checks[0]).toEqual(unique);
    expect(changeCheck(among, 'ka', { message: 'Twice' }).checks[0]).toEqual({ ...unique, message: 'Twice' });
    expect(changeCheck(among, 'ka', stop).checks[0]).toEqual(stop);
  });
});

describe('what is left of a table', () => {
  it('is everything else', () => {
    const out = takeOut(lots, 'ca', true);
    expect([out.title, out.together, out.columns.map(({ id }) => id)]).toEqual([[], [], ['cb', 'cc']]);
    expect(takeOut(lots, 'cc', false)).toMatchObject({
      title: ['ca'],
      together: [['ca', 'cb']],
      retired: [],
    });
    const two = takeOut(takeOut(lots, 'ca', true), 'cb', true);
    expect(bringBack(two, 'ca').retired.map(({ id }) => id)).toEqual(['cb']);
    expect(removeForGood(two, 'cb').retired.map(({ id }) => id)).toEqual(['ca']);
    expect(changeColumn(lots, 'cb', { label: 'New' }).columns.map(({ label }) => label)).toEqual([
      'CA',
      'New',
      'CC',
    ]);
  });

  it('keeps a title that was chosen when columns come', () => {
    const added = (of: Table) => addColumns(of, [{ id: 'cx', label: 'More' }]).title;
    expect([
      added(lots),
      added({ ...lots, title: [] }),
      added({ ...lots, columns: [], title: ['cb'] }),
    ]).toEqual([['ca'], [], ['cb']]);
    expect(asKind(column('ca', { kind: 'choice', list: { id: 'l', label: 'L' } }), 'choice').list).toEqual({
      id: 'l',
      label: 'L',
    });
    expect(asKind(column('ca', { kind: 'choice', list: { id: 'l', label: 'L' } }), 'text').list).toBeNull();
    expect(['EUROS', 'xEUR', 'EUR'].map((unit) => asKind(column('ca', { unit }), 'money').unit)).toEqual([
      'GBP',
      'GBP',
      'EUR',
    ]);
    expect(asKind(column('ca', { unit: 'm' }), 'whole').unit).toBe('m');
  });
});
