import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { TableCheck } from '../check/check';
import { changeSentence } from '../wording/change-sentence';
import { applyChange, asRetired } from './change';
import { defaultSql } from './default-value';
import { columnKinds, plainColumn, plainTable, recordNumber, type Column, type Table } from './model';
import { rebased } from './rebase';
import { planRedesign } from './redesign';
import { tableIssues } from './table-issues';

const column = (id: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id,
  key: id,
  label: id.toUpperCase(),
  ...more,
});
const table = (columns: Column[], more: Partial<Table> = {}): Table => ({
  ...plainTable,
  id: '01900000-0000-7000-8000-0000000000aa',
  key: 'lots',
  label: 'Lots',
  prefix: 'L',
  columns,
  ...more,
});

const ids = ['ca', 'cb', 'cc', 'cd', 'ce'];
const someColumn = (id: string): fc.Arbitrary<Column> =>
  fc
    .record({
      kind: fc.constantFrom(...columnKinds),
      required: fc.boolean(),
      unique: fc.boolean(),
      decimals: fc.constantFrom(null, 0, 2),
      unit: fc.constantFrom('', 'm'),
      default: fc.constantFrom('', '1'),
      key: fc.constantFrom(id, `${id}x`),
      label: fc.constantFrom('A', 'B'),
      description: fc.constantFrom('', 'words'),
      choices: fc.constantFrom([], [{ code: 'a', label: 'A' }]),
      personal: fc.constantFrom(null, 'name' as const),
      locked: fc.boolean(),
    })
    .map((parts) =>
      column(id, {
        ...parts,
        decimals: parts.kind === 'decimal' || parts.kind === 'money' ? (parts.decimals ?? 1) : null,
      }),
    );
/** One that is worked out demands nothing, and is never filled in. */
const someFormula: fc.Arbitrary<Column> = fc
  .record({
    kind: fc.constantFrom('whole' as const, 'decimal' as const),
    decimals: fc.constantFrom(1, 2),
    formula: fc.constantFrom('1 + 1', '2'),
    label: fc.constantFrom('A', 'B'),
  })
  .map((parts) => column('cz', { ...parts, decimals: parts.kind === 'whole' ? 0 : parts.decimals }));
const someCheck = (id: string): fc.Arbitrary<TableCheck> =>
  fc.record({
    id: fc.constant(id),
    on: fc.constant('ca'),
    must: fc.constantFrom('ca != null', 'true'),
    message: fc.constantFrom('One', 'Two'),
    otherwise: fc.constantFrom('stop' as const, 'ask' as const),
  });
const someTable = fc
  .record({
    workedOut: fc.option(someFormula, { nil: undefined }),
    checks: fc
      .shuffledSubarray(['ka', 'kb', 'kc'])
      .chain((chosen) => fc.tuple(...[...chosen].sort().map(someCheck))),
    chosen: fc.shuffledSubarray(ids, { minLength: 1 }),
    hidden: fc.nat({ max: 2 }),
    label: fc.constantFrom('Lots', 'Seeds'),
    prefix: fc.constantFrom('L', 'S'),
    numbering: fc.constantFrom('yearly' as const, 'running' as const),
  })
  .chain(({ chosen, hidden, workedOut, ...rest }) =>
    fc.tuple(...chosen.map(someColumn)).map((columns): Table => {
      const [retired, live] = [
        columns.slice(0, Math.min(hidden, columns.length - 1)).map(asRetired),
        columns.slice(Math.min(hidden, columns.length - 1)),
      ];
      return table([...live, ...(workedOut === undefined ? [] : [workedOut])], {
        ...rest,
        retired,
        title: live.slice(0, 1).map(({ id }) => id),
        together: live.length > 2 ? [live.slice(0, 2).map(({ id }) => id)] : [],
      });
    }),
  );

/** As an owner may wish it: a column goes only by way of retirement, and what comes back or retires does nothing else. */
function reachable(before: Table, after: Table): Table {
  const old = new Map([...before.columns, ...before.retired].map((one) => [one.id, one]));
  const live = after.columns.map((one) =>
    before.retired.some(({ id }) => id === one.id) ? (old.get(one.id) ?? one) : one,
  );
  const gone = before.columns.filter(({ id }) => !live.some((one) => one.id === id)).map(asRetired);
  const stay = after.retired
    .filter(({ id }) => before.retired.some((one) => one.id === id))
    .map(({ id }) => old.get(id))
    .filter((one) => one !== undefined);
  return {
    ...after,
    columns: live,
    retired: [...before.retired.filter((one) => stay.includes(one)), ...gone],
  };
}

describe('a plan', () => {
  it('carried out on the table there is gives the table wanted, and of that there is nothing left to do', () => {
    fc.assert(
      fc.property(someTable, someTable, (before, wish) => {
        const after = reachable(before, wish);
        const made = planRedesign(before, after).reduce(applyChange, before);
        const sets = ({ together }: Table) => together.map((set) => [...set].sort().join()).sort();
        const byId = <T extends { readonly id: string }>(list: readonly T[]) =>
          [...list].sort((a, b) => a.id.localeCompare(b.id));
        expect({
          ...made,
          retired: byId(made.retired),
          checks: byId(made.checks),
          together: sets(made),
        }).toEqual({
          ...after,
          retired: byId(after.retired),
          checks: byId(after.checks),
          together: sets(after),
        });
        expect(planRedesign(after, after)).toEqual([]);
      }),
      { numRuns: 400 },
    );
  });

  it('changes only what differs, and in an order in which each step can be done', () => {
    const stop = { id: 'ka', on: 'ca', must: 'ca > 0', message: 'More', otherwise: 'stop' as const };
    const before = table(
      [
        column('ca', { kind: 'whole', decimals: 0, required: true, unique: true, locked: true }),
        column('cf', { kind: 'decimal', decimals: 1, formula: 'ca + 1' }),
      ],
      { checks: [stop, { ...stop, id: 'kb' }], title: ['ca'] },
    );
    const steps = (after: Table) => planRedesign(before, after).map(({ t }) => t);
    const [ca, cf] = before.columns as [Column, Column];
    const wish = (part: Partial<Table>) => steps({ ...before, ...part });
    expect(wish({ columns: [{ ...ca, locked: false, required: false, unique: false }, cf] })).toEqual([
      'let-repeat',
      'loosen-column',
      'unlock-column',
    ]);
    expect(wish({ columns: [ca, { ...cf, formula: 'ca + 2', label: 'F' }] })).toEqual([
      'relabel-column',
      'change-formula',
    ]);
    expect(wish({ columns: [ca, { ...cf, decimals: 2 }] })).toEqual(['change-formula']);
    expect(wish({ columns: [ca, { ...cf, kind: 'whole', decimals: 0 }] })).toEqual(['change-formula']);
    expect(wish({ columns: [ca, { ...cf, default: '1' }] })).toEqual(['change-default']);
    expect(wish({ columns: [{ ...ca, decimals: 3 }, cf] })).toEqual([]);
    expect(wish({ columns: [cf, ca] })).toEqual(['order-columns']);
    expect(wish({ checks: [{ ...stop, message: 'Most' }] })).toEqual(['drop-check', 'change-check']);
    expect(wish({ checks: [...before.checks, { ...stop, id: 'kc' }] })).toEqual(['add-check']);
    // Money without a number of decimals has two, as it is shown.
    const price = column('cp', { kind: 'money', decimals: null });
    const priced = table([price], { title: ['cp'] });
    expect(planRedesign(priced, { ...priced, columns: [{ ...price, decimals: 2 }] })).toEqual([]);
    expect(
      planRedesign(priced, { ...priced, columns: [{ ...price, decimals: 0 }] }).map(({ t }) => t),
    ).toEqual(['convert-column']);
  });

  it('retires a column with its place in the title, and takes it back as it was', () => {
    const before = table([column('ca'), column('cb', { required: true, default: '1' })], {
      title: ['ca', 'cb'],
    });
    const retired = applyChange(before, {
      t: 'retire-column',
      table: before,
      column: before.columns[1] as Column,
    });
    expect([retired.columns.map(({ id }) => id), retired.title, retired.retired]).toEqual([
      ['ca'],
      ['ca'],
      [{ ...before.columns[1], required: false, default: '' }],
    ]);
    const back = applyChange(retired, {
      t: 'restore-column',
      table: before,
      column: before.columns[1] as Column,
    });
    expect([back.columns.map(({ id }) => id), back.retired]).toEqual([['ca', 'cb'], []]);
    for (const t of ['retire-column', 'restore-column'] as const)
      expect(applyChange(before, { t, table: before, column: column('cx') })).toEqual(before);
    expect(applyChange(before, { t: 'make-table', table: back })).toBe(back);
  });

  it('is said in words, a change a sentence', () => {
    const before = table(
      [column('ca', { label: 'Weight' }), column('cb', { label: 'Bed' }), column('cd', { label: 'Old' })],
      { together: [['ca', 'cb']] },
    );
    const after = table(
      [
        column('cb', { label: 'Place', required: true, unique: true }),
        column('ca', { label: 'Weight', key: 'grams', kind: 'decimal', decimals: 1, default: '0' }),
        column('cc', { label: 'Taken on', kind: 'date' }),
      ],
      { retired: [column('cd', { label: 'Old' })], title: ['cb'], numbering: 'running' },
    );
    expect(planRedesign(before, after).map((change) => changeSentence(change, false))).toEqual([
      'Records may share Weight and Place',
      'New records are numbered L-0001 and so on, going on, without the year',
      '“Old” is retired: hidden, its values kept',
      'The key of “Weight” is grams instead of ca',
      '“Bed” is renamed “Place”',
      '“Weight” becomes decimal number with 1 decimal instead of text',
      '“Weight” is 0 where nothing is given',
      '“Place” must be filled',
      '“Place” must be different in every record',
      '“Taken on” (date) is added',
      'Columns are in a different order',
      'Records are named by Place',
    ]);
    expect(planRedesign(null, after).map((change) => changeSentence(change))).toEqual([
      'The table Lots is made, with 3 columns',
    ]);
    expect(
      planRedesign({ ...before, retired: [column('cx', { label: 'Gone' })] }, before).map((change) =>
        changeSentence(change),
      ),
    ).toEqual(['“Gone” in Lots is removed for good, with its values']);
  });
});

describe('what is drawn on an older table', () => {
  const base = table([column('ca'), column('cb')]);
  it('keeps what only they changed, and what I changed', () => {
    const theirs = table([column('ca', { label: 'Theirs', unit: 'm' }), column('cb'), column('cnew')], {
      version: 2,
      label: 'Seeds',
    });
    const mine = table([column('cb'), column('ca', { required: true }), column('cmine')], { prefix: 'M' });
    expect(rebased(base, mine, theirs)).toEqual(
      table(
        [
          column('cb'),
          column('cnew'),
          column('ca', { label: 'Theirs', unit: 'm', required: true }),
          column('cmine'),
        ],
        { version: 2, label: 'Seeds', prefix: 'M' },
      ),
    );
  });

  it('retires what I retired, and keeps retired what they did, with what I changed of it', () => {
    expect(
      rebased(
        base,
        table([column('ca')], { retired: [column('cb')] }),
        table([column('ca'), column('cb'), column('cc')], { version: 2 }),
      ),
    ).toEqual(table([column('ca'), column('cc')], { version: 2, retired: [column('cb')] }));
    expect(
      rebased(
        base,
        table([column('ca'), column('cb', { label: 'Mine' })]),
        table([column('ca')], { version: 2, retired: [column('cb')] }),
      ),
    ).toEqual(table([column('ca')], { version: 2, retired: [column('cb', { label: 'Mine' })] }));
  });

  it('is mine where they changed nothing, and theirs where I did', () => {
    fc.assert(
      fc.property(someTable, someTable, (before, wish) => {
        const after = reachable(before, wish);
        expect(rebased(before, before, after)).toEqual(after);
        const mine = rebased(before, after, before);
        expect(mine.columns).toEqual(after.columns);
      }),
      { numRuns: 200 },
    );
  });
});

describe('a default', () => {
  it('is FEEL that needs no record, as SQL', () => {
    expect(defaultSql(column('ca', { kind: 'date', default: 'today() + duration("P7D")' }))).toMatchObject({
      ok: true,
    });
    expect(defaultSql(column('ca', { kind: 'whole', default: '2 * 3' }))).toMatchObject({ ok: true });
    expect(defaultSql(column('ca', { default: '  ' }))).toEqual({ ok: true, value: null });
    expect(defaultSql(column('ca', { default: `"it's \\\\ fine"` }))).toMatchObject({ ok: true });
  });

  it.each([
    [{ kind: 'whole', default: '"x"' }, 'default-kind'],
    [{ kind: 'choice', default: '"z"', choices: [{ code: 'a', label: 'A' }] }, 'default-choice'],
    [{ default: 'other + 1' }, 'unknown-name'],
    [{ kind: 'reference', default: '"a"' }, 'default-kind'],
    [{ default: '1 +' }, 'expression-broken'],
  ] as const)('%j is refused at its place', (more, code) => {
    const made = defaultSql(column('ca', more as Partial<Column>));
    expect(made.ok ? [] : made.error.map((one) => [one.code, ...one.path])).toEqual([
      [code, 'ca', 'default'],
    ]);
  });
});

describe('what keeps a table from being made', () => {
  it('is said at its column', () => {
    const wanted = table(
      [
        column('ca', { label: '' }),
        column('cb', { key: 'Select Me' }),
        column('cc', { key: 'number' }),
        column('cd', { kind: 'choice' }),
        column('ce', { kind: 'reference' }),
        column('cf', { key: 'ca' }),
      ],
      { prefix: '1', label: ' ', together: [['ca']] },
    );
    expect(tableIssues(wanted, null, new Map()).map(({ code, path }) => `${code} ${path.join('.')}`)).toEqual(
      [
        'label-missing table.label',
        'prefix-invalid table.prefix',
        'label-missing ca.label',
        'key-invalid cb.key',
        'key-reserved cc.key',
        'choices-missing cd.choices',
        'table-unknown ce.target',
        'key-taken cf.key',
        'together-too-few table.together',
      ],
    );
    expect(
      tableIssues(table([column('ca')]), table([column('ca'), column('cb')]), new Map()).map(
        ({ code }) => code,
      ),
    ).toEqual(['retire-first']);
  });
});

it('numbers of records', () => {
  expect(
    (['yearly', 'running-with-year', 'running'] as const).map((numbering) =>
      recordNumber({ prefix: 'AC', numbering }, 2026, 12),
    ),
  ).toEqual(['AC-2026-0012', 'AC-2026-0012', 'AC-0012']);
});
