import { describe, expect, it } from 'vitest';
import { plainColumn, plainTable, type Table } from '../table/model';
import { brokenAlone, brokenIssue, toldAlone } from '../record/own-checks';
import { rowsName } from '../record/table-scope';
import type { StagedRecord } from '../record/staged';
import { checksOfTables } from '../form/checks-of-tables';
import { firstForm } from '../form/first-form';
import { compileForm } from '../form/compile-form';
import { Sheet } from '../form/sheet';
import { worldOf } from '../../../tests/support/workspace';
import { sheetIssues } from './sheet-issues';
import { findings } from './findings';
import type { TableCheck } from './check';
import { checksOf, isTimeless, readTableCheck, tableCheckIssues, tablesChecked } from './table-checks';

const id = (n: number): string => `01900000-0000-7000-8000-00000000000${n}`;
const column = (key: string, kind: Table['columns'][number]['kind'], more = {}) => ({
  ...plainColumn,
  id: `c${key}`,
  key,
  label: key,
  kind,
  ...more,
});
const bays: Table = {
  ...plainTable,
  id: id(1),
  key: 'bays',
  label: 'Bays',
  prefix: 'B',
  columns: [column('room', 'whole')],
};
const stop = (name: string, on: string, must: string, otherwise: 'stop' | 'ask' = 'stop'): TableCheck => ({
  id: name,
  on,
  must,
  message: `Not ${name}`,
  otherwise,
});
const lots: Table = {
  ...plainTable,
  id: id(2),
  key: 'lots',
  label: 'Lots',
  prefix: 'L',
  columns: [
    column('name', 'text'),
    column('many', 'whole'),
    column('top', 'whole'),
    column('sown', 'date'),
    column('bay', 'reference', { target: id(1) }),
    column('open', 'yes-no', { default: 'true' }),
  ],
  checks: [
    stop('kmany', 'cmany', 'cmany <= ctop'),
    stop('klow', 'cmany', 'cmany > 3', 'ask'),
    stop('kday', 'csown', 'csown <= today()'),
    stop('kroom', 'cbay', 'cmany <= cbay.croom'),
    stop('kuses', 'cmany', `sum(${rowsName(id(3))}.cused) <= cmany`),
    stop('kopen', 'copen', 'copen or cmany = 0'),
    { id: 'kone', on: 'cbay', message: 'One a bay', same: ['cbay'], rule: { t: 'unique' } },
  ],
};
const uses: Table = {
  ...plainTable,
  id: id(3),
  key: 'uses',
  label: 'Uses',
  prefix: 'U',
  parent: id(2),
  columns: [column('used', 'whole')],
};
const tables = new Map([bays, lots, uses].map((one) => [one.id, one]));
const withChecks = (...checks: TableCheck[]): Table => ({ ...lots, checks });
const codes = (table: Table) => tableCheckIssues(table, tables).map(({ code, path }) => [code, path[1]]);

describe('checks of a table', () => {
  it('are told apart by what they look at', () => {
    const { conditions, among } = checksOf(lots, tables);
    expect(
      conditions.map(({ check, isOwn, rows, tree }) => [check.id, isOwn, [...rows], isTimeless(tree)]),
    ).toEqual([
      ['kmany', true, [], true],
      ['klow', true, [], true],
      ['kday', true, [], false],
      ['kroom', false, [], true],
      ['kuses', false, [id(3)], true],
      ['kopen', true, [], true],
    ]);
    expect(among.map((one) => one.id)).toEqual(['kone']);
    expect([...tablesChecked(lots, tables)].sort()).toEqual([id(1), id(2), id(3)]);
    expect([...tablesChecked(withChecks(stop('k', 'cmany', 'cmany > 1')), tables)]).toEqual([]);
    // A bay that counts the uses is looked into together with them.
    const counting = {
      ...bays,
      columns: [
        ...bays.columns,
        { ...column('busy', 'whole', { target: null }), formula: `count(${rowsName(id(4))})` },
      ],
    };
    const visits: Table = { ...uses, id: id(4), key: 'visits', parent: bays.id };
    const further = new Map(tables).set(counting.id, counting).set(visits.id, visits);
    expect([...tablesChecked(withChecks(stop('k', 'cmany', 'cmany > cbay.cbusy')), further)].sort()).toEqual([
      id(1),
      id(2),
      id(4),
    ]);
    expect(toldAlone(lots).map(({ check }) => check.id)).toEqual(['kmany', 'klow', 'kopen']);
  });

  it.each<[string, TableCheck, unknown[]]>([
    ['is sound', stop('k', 'cmany', 'cmany > 1'), []],
    ['says nothing', stop('k', 'cmany', ' '), [['check-empty', 'k']]],
    ['stands nowhere', stop('k', 'cgone', 'cmany > 1'), [['check-column', 'k']]],
    ['names what is not there', stop('k', 'cmany', 'cgone > 1'), [['unknown-name', 'k']]],
    ['is no condition', stop('k', 'cmany', 'cmany + 1'), [['result-type', 'k']]],
    ['cannot be asked of a database', stop('k', 'csown', 'is working day(csown)'), [['not-in-sql', 'k']]],
    [
      'has no message',
      { ...stop('k', 'cmany', 'cmany > 1'), message: ' ' },
      [['check-message-missing', 'k']],
    ],
    [
      'compares days that are none',
      { id: 'k', on: 'cmany', message: 'm', same: [], rule: { t: 'no-overlap', from: 'cname', to: 'csown' } },
      [['existing-columns', 'k']],
    ],
  ])('one that %s', (_, check, expected) => expect(codes(withChecks(check))).toEqual(expected));

  it('reads no other kind of value than yes or no', () => {
    const read = readTableCheck(
      { id: 'k', on: 'cmany', must: 'cmany', message: '', otherwise: 'stop' },
      lots,
      tables,
    );
    expect(read.ok).toBe(false);
  });
});

describe('while a record is typed', () => {
  const cells = (values: Record<string, string | null>) =>
    Object.fromEntries(Object.entries(values).map(([key, raw]) => [key, { raw }]));
  const broken = (staged: StagedRecord) => brokenAlone(lots, staged).map((one) => one.id);
  const added = (values: Record<string, string | null>): StagedRecord => ({
    t: 'add',
    table: lots.id,
    id: 'r',
    parent: null,
    typed: cells(values),
  });
  const changed = (
    typed: Record<string, string | null>,
    beside: Record<string, string | null>,
  ): StagedRecord => ({
    t: 'change',
    table: lots.id,
    id: 'r',
    name: 'L',
    version: 1,
    before: {},
    typed: cells(typed),
    beside: cells(beside),
  });
  it.each<[string, StagedRecord, string[]]>([
    ['nothing is told of what is empty', added({ cmany: '9' }), []],
    ['all of a new one is asked', added({ cmany: '2', ctop: '1' }), ['kmany', 'klow']],
    ['what fills itself is not known yet', added({ cmany: '9', cname: 'x' }), []],
    ['what stands beside counts', changed({ cmany: '9' }, { ctop: '5' }), ['kmany']],
    ['what is not known is not told', changed({ cmany: '9' }, {}), []],
    ['what was broken before is let alone', changed({ cname: 'x' }, { cmany: '9', ctop: '5' }), []],
    ['what cannot be read breaks nothing', changed({ cmany: 'many' }, { ctop: '5' }), []],
    ['emptied, it cannot be told', changed({ ctop: null }, { cmany: '9' }), []],
    ['a removal is asked nothing', { t: 'remove', table: lots.id, id: 'r', name: 'L', version: 1 }, []],
  ])('%s', (_, staged, expected) => expect(broken(staged)).toEqual(expected));

  it('a reason lets through what asks, and nothing else', () => {
    const [many, low] = lots.checks as [TableCheck, TableCheck];
    const given = [{ record: 'r', check: 'klow', reason: 'few seeds' }];
    expect(brokenIssue(many, 'r', [{ ...(given[0] as (typeof given)[0]), check: 'kmany' }])?.code).toBe(
      'check-stops',
    );
    expect(brokenIssue(low, 'r', given)).toBeNull();
    expect(brokenIssue(low, 'other', given)?.code).toBe('reason-needed');
    expect(brokenIssue(low, 'r', 'asked before')).toBeNull();
  });
});

describe('in a form that writes to the table', () => {
  const design = firstForm(lots, tables, { section: 's', rows: () => 'quses' });
  const compiled = (of = design) => {
    const form = compileForm(of, tables);
    if (!form.ok) throw new Error(JSON.stringify(form.error));
    return form.value;
  };
  it('they stand at the questions of their columns, rows included', () => {
    expect(checksOfTables(design, tables).map(({ check }) => [check.id, check.on])).toEqual([
      ['kmany', 'cmany'],
      ['klow', 'cmany'],
      ['kday', 'csown'],
      ['kroom', 'cbay'],
      ['kuses', 'cmany'],
      ['kopen', 'copen'],
    ]);
    const answers = {
      values: { cmany: '2', ctop: '1' },
      rows: { quses: [{ id: 'r1', cells: { cused: '5' } }] },
      reasons: {},
    };
    const sheet = new Sheet(compiled(), answers, new Map(), worldOf('2026-11-23T10:00:00'));
    expect(sheetIssues(sheet).map(({ code, path, facts }) => [code, path[0], facts['check']])).toEqual([
      ['check-stops', 'cmany', 'kmany'],
      ['reason-needed', 'cmany', 'klow'],
      ['check-stops', 'cmany', 'kuses'],
    ]);
  });
  it('one whose columns are not asked for is left to the writing, and one at a question that is not goes to one that is', () => {
    const [section] = design.sections;
    const without = (gone: string) => ({
      ...design,
      sections: [
        {
          ...section,
          id: 's',
          title: '',
          questions: (section?.questions ?? []).filter((one) => one.id !== gone),
        },
      ],
    });
    expect(checksOfTables(without('ctop'), tables).map(({ check }) => check.id)).not.toContain('kmany');
    const moved: Table = withChecks(stop('k', 'cname', 'cmany > 1'));
    expect(
      checksOfTables(without('cname'), new Map(tables).set(moved.id, moved)).map(({ check }) => check.on),
    ).toEqual(['cmany']);
  });
  it('what the form itself checks is held against them', () => {
    const own = {
      id: 'kown',
      on: 'cmany',
      must: 'cmany > ctop',
      message: 'More',
      otherwise: 'stop' as const,
    };
    expect(findings(compiled({ ...design, checks: [own] })).map(({ code, path }) => [code, path[1]])).toEqual(
      [['checks-contradict', 'kmany']],
    );
  });
});
