import { describe, expect, it } from 'vitest';
import { foundColumn as column, foundTable as table } from '../../../tests/support/found';
import { plainTable } from '../table/model';
import { leftBehindSentence } from '../wording/source-sentence';
import { carriedColumn, leftBehindReasons, plainPreset } from './carry-column';
import type { FoundColumn, FoundTable } from './found-table';
import { notLinked, planLinks } from './plan-link';
import { samePlace } from './source';

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
