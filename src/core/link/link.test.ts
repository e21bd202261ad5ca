import { describe, expect, it } from 'vitest';
import { plainTable } from '../table/model';
import { followingSentences, leftBehindSentence } from '../wording/source-sentence';
import { carriedColumn, leftBehindReasons, plainPreset } from './carry-column';
import { followingOf } from './follow';
import type { FoundColumn, FoundTable } from './found-table';
import { listRows } from './list-rows';
import { notLinked, planLinks } from './plan-link';
import { planList } from './plan-list';
import { samePlace } from './source';

const column = (name: string, type: string, more: Partial<FoundColumn> = {}): FoundColumn => ({
  name,
  type,
  domain: null,
  labels: null,
  required: false,
  preset: null,
  generated: false,
  comment: '',
  maySee: true,
  mayAdd: true,
  mayChange: true,
  ...more,
});
const table = (
  name: string,
  columns: readonly FoundColumn[],
  more: Partial<FoundTable> = {},
): FoundTable => ({
  schema: 'public',
  name,
  comment: '',
  isView: false,
  records: null,
  columns,
  primaryKey: [columns[0]?.name ?? ''],
  uniques: [],
  references: [],
  rules: [],
  mayAdd: true,
  mayChange: true,
  ...more,
});

describe('columns of another database', () => {
  it('have a kind here, and say what of them stays behind', () => {
    const kindOf = (type: string, more: Partial<FoundColumn> = {}) => {
      const { column: carried, left } = carriedColumn(column('c', type, more));
      return [carried?.kind ?? null, carried?.decimals ?? null, ...left.map(({ why }) => why)];
    };
    expect(
      [
        'integer',
        'bigint',
        'numeric(8,2)',
        'numeric(5,0)',
        'numeric',
        'numeric(30,2)',
        'double precision',
      ].map((type) => kindOf(type)),
    ).toEqual([
      ['whole', 0],
      ['whole', 0, 'large-numbers'],
      ['decimal', 2],
      ['whole', 0],
      ['decimal', 6, 'rounded'],
      ['decimal', 2, 'large-numbers'],
      ['decimal', 6, 'rounded'],
    ]);
    expect(
      [
        'text',
        'character varying(20)',
        'character(2)',
        'uuid',
        'boolean',
        'date',
        'time without time zone',
        'timestamp with time zone',
        'timestamp(3) without time zone',
      ].map((type) => kindOf(type)[0]),
    ).toEqual(['text', 'text', 'text', 'text', 'yes-no', 'date', 'time', 'date-time', 'date-time']);
    expect(
      [
        'text[]',
        'jsonb',
        'bytea',
        'interval',
        'daterange',
        'point',
        'tsvector',
        'money',
        'time with time zone',
      ].map((type) => kindOf(type)),
    ).toEqual([
      [null, null, 'many-values'],
      [null, null, 'structure'],
      [null, null, 'bytes'],
      [null, null, 'span'],
      [null, null, 'span'],
      [null, null, 'place'],
      [null, null, 'search'],
      [null, null, 'other-type'],
      [null, null, 'other-type'],
    ]);
    expect(kindOf('public.state', { labels: ['open', 'shut'] })).toEqual(['choice', null]);
    expect(kindOf('public.state', { labels: ['x'.repeat(101)] })).toEqual(['text', null, 'choice-labels']);
    expect(kindOf('numeric(5,2)', { domain: 'percent' })).toEqual(['decimal', 2, 'domain-rule']);
    expect(kindOf('text', { maySee: false })).toEqual([null, null, 'no-right']);
  });

  it('give their default only where it is nothing but a value', () => {
    expect(
      [
        "'seed'::catalogue.lot_kind",
        "'it''s'::text",
        '0',
        '(-1)',
        '1.50',
        'true',
        'now()',
        "nextval('x'::regclass)",
        "('a'::text || 'b'::text)",
      ].map(plainPreset),
    ).toEqual(['seed', "it's", '0', '-1', '1.50', 'true', null, null, null]);
  });

  it('that stay behind are told with a sentence each', () => {
    for (const why of leftBehindReasons)
      expect(leftBehindSentence({ column: 'c', why, detail: 'd' })).toMatch(/^[^ ].{10,}/);
  });
});

describe('tables of another database', () => {
  const gardens = table('gardens', [
    column('code', 'text', { required: true }),
    column('garden_name', 'text'),
  ]);
  const lots = table(
    'lots',
    [
      column('lot_no', 'text', { required: true }),
      column('garden_code', 'text', { required: true }),
      column('grams', 'numeric(8,2)', { mayChange: false }),
      column('offered_at', 'date', { required: true, preset: 'now()' }),
    ],
    { references: [{ columns: ['garden_code'], schema: 'public', table: 'gardens', to: ['code'] }] },
  );

  it('refer to one another when both are linked, and show what is written there when only one is', () => {
    const [, both] = planLinks([gardens, lots], [], [], (name) => name);
    expect(both?.table.columns.find(({ key }) => key === 'garden_code')).toMatchObject({
      kind: 'reference',
      target: 'public.gardens',
      label: 'Garden',
    });
    expect(both?.mapping.columns[1]?.refers).toBe(
      planLinks([gardens], [], [], (name) => name)[0]?.mapping.by[0],
    );
    const [alone] = planLinks([lots], [], [], (name) => name);
    expect(alone?.table.columns[1]).toMatchObject({ kind: 'text', target: null });
    expect(alone?.left.map(({ why }) => why)).toEqual(['filled-there', 'reference-elsewhere']);
  });

  it('may be known by what they refer to, and are then named by their number', () => {
    const wishes = table(
      'wishes',
      [column('lot_no', 'text', { required: true }), column('garden_code', 'text', { required: true })],
      {
        primaryKey: ['lot_no', 'garden_code'],
        references: [
          { columns: ['lot_no'], schema: 'public', table: 'lots', to: ['lot_no'] },
          ...lots.references,
        ],
      },
    );
    const made = planLinks([gardens, lots, wishes], [], [], (name) => name)[2];
    expect(made?.table.columns.map(({ kind, target }) => [kind, target])).toEqual([
      ['reference', 'public.lots'],
      ['reference', 'public.gardens'],
    ]);
    expect([made?.mapping.by, made?.table.together, made?.table.title]).toEqual([
      made?.table.columns.map(({ id }) => id),
      [made?.table.columns.map(({ id }) => id)],
      [],
    ]);
  });

  it('are named apart from tables there are, titled by what they are known by, and require only what must be given', () => {
    const [first] = planLinks(
      [gardens],
      [],
      [{ ...plainTable, id: 'x', key: 'gardens', label: 'Gardens', prefix: 'GA' }],
      (name) => name,
    );
    expect(first?.table).toMatchObject({ key: 'gardens_2', prefix: 'GAR' });
    expect(first?.table.title.map((id) => first.table.columns.find((one) => one.id === id)?.key)).toEqual([
      'code',
      'garden_name',
    ]);
    const [made] = planLinks([lots], [], [], (name) => name);
    expect(made?.table.columns.map(({ required }) => required)).toEqual([true, true, false, false]);
    expect(made?.mapping.columns.map(({ adds, changes }) => [adds, changes])).toEqual([
      [true, true],
      [true, true],
      [true, false],
      [false, true],
    ]);
  });

  it('may be written only as far as the rights go', () => {
    const rights = (more: Partial<FoundTable>) =>
      planLinks([{ ...lots, ...more }], [], [], (name) => name).map(({ mapping: { adds, changes } }) => [
        adds,
        changes,
      ])[0];
    expect(rights({})).toEqual([true, true]);
    expect(rights({ mayAdd: false })).toEqual([false, true]);
    expect(rights({ mayAdd: false, mayChange: false })).toEqual([false, false]);
    expect(rights({ isView: true })).toEqual([false, false]);
    // A key that counts by itself there cannot be given from here, nor can what is required and not carried over.
    expect(
      rights({
        columns: [column('lot_no', 'integer', { required: true, preset: "nextval('s'::regclass)" })],
      }),
    ).toEqual([false, true]);
    expect(rights({ columns: [...lots.columns, column('shape', 'point', { required: true })] })).toEqual([
      false,
      true,
    ]);
  });

  it('need something that tells their records apart', () => {
    expect(notLinked(gardens)).toBeNull();
    expect(notLinked({ ...gardens, primaryKey: [] })).toBe('no-key');
    expect(notLinked({ ...gardens, primaryKey: [], uniques: [['garden_name'], ['code']] })).toBeNull();
    expect(notLinked(table('places', [column('at', 'point')]))).toBe('key-not-carried');
    expect(
      notLinked(
        table(
          'wide',
          Array.from({ length: 251 }, (_, i) => column(`c${i}`, 'text')),
        ),
      ),
    ).toBe('too-many-columns');
  });
});

describe('a list at an address', () => {
  const entries = [
    { id: 'a', name: 'Blechnora nova', range: { region: 'Isles' }, seen: 3, tags: ['x'], kind: 'fern' },
    { id: 'b', name: null, range: { region: 'Fens' }, seen: 12, tags: [], kind: 'fern', note: 'nul\u0000l' },
  ];

  it('is found wherever it lies, with the fields of all its entries', () => {
    const found = listRows({ total: 2, empty: [], page: { numbers: [1, 2, 3], names: entries } }, null);
    expect(found).toMatchObject({
      ok: true,
      value: {
        at: ['page', 'names'],
        fields: ['id', 'name', 'range.region', 'seen', 'kind', 'note'],
        manyValued: ['tags'],
      },
    });
    expect(found.ok && [...(found.value.rows[1]?.values() ?? [])]).toEqual([
      'b',
      '',
      'Fens',
      '12',
      'fern',
      'null',
    ]);
    expect(listRows({ page: { names: entries } }, ['page', 'names']).ok).toBe(true);
  });

  it('is refused when it is none, or is not where it was', () => {
    for (const answer of [null, 'x', 3, {}, [], [1, 2], { names: [] }, { names: ['a'] }])
      expect(listRows(answer, null)).toMatchObject({ ok: false, error: { code: 'no-list' } });
    expect(listRows({ list: entries }, ['names'])).toMatchObject({ ok: false, error: { code: 'no-list' } });
    expect(listRows({ list: entries }, ['constructor'])).toMatchObject({ ok: false });
  });

  it('becomes a table known by its key, in which nothing else is demanded', () => {
    const list = listRows(
      Array.from({ length: 40 }, (_, i) => ({ ...entries[0], id: `N-${i}`, seen: i })),
      null,
    );
    const plan = list.ok ? planList(list.value, 'Names', [], '01900000-0000-7000-8000-000000000001') : null;
    expect(plan?.table).toMatchObject({ key: 'names', label: 'Names' });
    expect(
      plan?.table.columns.map(({ label, kind, required, unique }) => [label, kind, required, unique]),
    ).toEqual([
      ['Id', 'text', true, true],
      ['Name', 'text', false, false],
      ['Range region', 'text', false, false],
      ['Seen', 'whole', false, false],
      ['Kind', 'text', false, false],
    ]);
    expect(plan?.mapping).toMatchObject({
      t: 'list',
      at: [],
      columns: [
        { field: 'id' },
        { field: 'name' },
        { field: 'range.region' },
        { field: 'seen' },
        { field: 'kind' },
      ],
    });
    expect(plan?.left).toEqual([{ column: 'tags', why: 'many-values', detail: '' }]);
    const alike = listRows([{ a: 1 }, { a: 1 }, { a: 1 }], null);
    expect(alike.ok && planList(alike.value, 'Alike', [], '01900000-0000-7000-8000-000000000001')).toBeNull();
  });
});

it('sends a secret only to the place it was given for', () => {
  const database = { t: 'database', host: 'a', port: 1, database: 'd', user: 'u' } as const;
  const list = { t: 'list', url: 'https://register.example/names', header: 'Key' } as const;
  expect(samePlace(database, database)).toBe(true);
  for (const other of [
    { ...database, host: 'b' },
    { ...database, port: 2 },
    { ...database, user: 'v' },
    list,
  ])
    expect(samePlace(database, other)).toBe(false);
  expect(samePlace(list, { ...list, url: 'https://register.example/other' })).toBe(true);
  for (const other of [
    { ...list, url: 'https://elsewhere.example/names' },
    { ...list, url: 'http://register.example/names' },
    { ...list, header: 'Other' },
    { ...list, url: 'no' },
  ])
    expect(samePlace(list, other)).toBe(false);
});

describe('a linked table that has become another', () => {
  const gardens = table('gardens', [
    column('code', 'text', { required: true }),
    column('garden_name', 'text'),
  ]);
  const before = [
    column('lot_no', 'text', { required: true }),
    column('garden', 'text'),
    column('kind', 'x.kind', { labels: ['seed', 'spore'] }),
    column('grams', 'numeric(8,2)', { required: true }),
    column('old', 'text', { required: true }),
  ];
  const refers = { references: [{ columns: ['garden'], schema: 'public', table: 'gardens', to: ['code'] }] };
  const linked = planLinks([gardens, table('lots', before, refers)], [], [], (name) => name).map((plan) => ({
    table: plan.table,
    mapping: plan.mapping,
  }));
  const now = (columns: readonly FoundColumn[], more: Partial<FoundTable> = {}) =>
    followingOf(
      table('lots', columns, { ...refers, ...more }),
      linked,
      linked.map((one) => one.table),
    );

  it('is followed: what it gained comes, what it lost stays as it was, choices grow', () => {
    const [lotNo, garden, , grams] = before as [FoundColumn, FoundColumn, FoundColumn, FoundColumn];
    const change =
      now([
        lotNo,
        column('weighed_on', 'date', { required: true }),
        garden,
        column('kind', 'x.kind', { labels: ['seed', 'spore', 'bulb'] }),
        grams,
      ]) ?? expect.fail('nothing is different');
    expect(change.changes.map((one) => [one.t, 'column' in one ? one.column.key : ''])).toEqual([
      ['loosen-column', 'old'],
      ['change-choices', 'kind'],
      ['add-column', 'weighed_on'],
    ]);
    expect(change.mapping.columns.map(({ name, refers: known }) => [name, known !== null])).toEqual([
      ['lot_no', false],
      ['garden', true],
      ['kind', false],
      ['grams', false],
      ['weighed_on', false],
    ]);
    expect([change.gained[0]?.required, change.keyLost, change.rights]).toEqual([false, false, false]);
    expect(followingSentences(change, 'Seed exchange')).toEqual([
      '“Weighed on” is there now, and not here yet',
      '“Old” is not there any more: its last values stay here',
      '“Kind” may be “bulb” as well',
    ]);
  });

  it('is nothing new when it is the same, in whatever order', () => {
    expect(now([...before].reverse(), { primaryKey: ['lot_no'] })).toBeNull();
    expect(followingOf(table('elsewhere', before), linked, [])).toBeNull();
  });

  it('is not followed in a kind, nor without what told its records apart, and says what may be done now', () => {
    const kinds =
      now(before.map((one) => (one.name === 'grams' ? column('grams', 'text') : one))) ??
      expect.fail('nothing is different');
    expect([
      kinds.differs.map(({ key }) => key),
      kinds.changes,
      kinds.mapping.columns.find(({ name }) => name === 'grams')?.type,
    ]).toEqual([['grams'], [], 'numeric(8,2)']);
    const keyless =
      now(
        before.map((one) => (one.name === 'lot_no' ? column('id', 'integer', { required: true }) : one)),
        { primaryKey: ['id'] },
      ) ?? expect.fail('nothing is different');
    expect([keyless.keyLost, followingSentences(keyless, 'X')[0]]).toEqual([
      true,
      'What told its records apart has changed: end the link, and link it again',
    ]);
    const rights = now(before, { mayAdd: false, mayChange: false }) ?? expect.fail('nothing is different');
    expect([rights.rights, rights.mapping.adds, followingSentences(rights, 'Seed exchange')]).toEqual([
      true,
      false,
      [
        'What may be done is another now: Its records are looked at here and kept in Seed exchange; they are not changed from here',
      ],
    ]);
  });
});
