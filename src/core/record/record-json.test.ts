import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { storedList } from '../table/kinds/stored-list';
import { columnKinds, type Column, type ColumnKind, type Table } from '../table/model';
import { columnValue, type Values } from './column-value';
import { fromJson, recordJson, recordSchema, valuesFromJson, valuesSchema } from './record-json';

const column = (kind: ColumnKind, more: Partial<Column> = {}): Column => ({
  id: `c${kind.replaceAll('-', '')}`,
  key: kind.replaceAll('-', '_'),
  label: kind,
  kind,
  required: false,
  unique: false,
  decimals: kind === 'decimal' || kind === 'money' ? 3 : null,
  unit: '',
  choices: [
    { code: 'a b', label: 'Ab' },
    { code: 'c,"d', label: 'Cd' },
  ],
  list: null,
  target: kind === 'reference' ? 'other' : null,
  description: '',
  example: '',
  default: '',
  formula: '',
  locked: false,
  personal: null,
  restricted: false,
  ...more,
});
const table = (columns: readonly Column[], more: Partial<Table> = {}): Table => ({
  id: 't',
  key: 'things',
  label: 'Things',
  prefix: 'T',
  numbering: 'yearly',
  parent: null,
  columns,
  title: [],
  together: [],
  checks: [],
  matches: [],
  retired: [],
  duty: null,
  version: 1,
  guarded: false,
  linked: null,
  ...more,
});
const all = table(columnKinds.filter((kind) => kind !== 'files').map((kind) => column(kind)));
const of = { id: 'r', number: 'T-1', version: 3, createdAt: '2026-12-01', updatedAt: '2026-12-01' };

describe('a record as JSON', () => {
  const text = fc.string({ unit: 'grapheme' }).filter((one) => one.trim() === one && one !== '');
  const digits = fc.bigInt({ min: -999_999_999_999_999n, max: 999_999_999_999_999n });
  const two = (n: number): string => String(n).padStart(2, '0');
  const day = fc.tuple(
    fc.integer({ min: 1900, max: 2200 }),
    fc.integer({ min: 1, max: 12 }),
    fc.integer({ min: 1, max: 28 }),
  );
  const time = fc.tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }));
  const date = day.map(([y, m, d]) => `${y}-${two(m)}-${two(d)}`);
  const clock = time.map(([h, m]) => `${two(h)}:${two(m)}:00`);
  const decimal = fc
    .tuple(digits, fc.integer({ min: 0, max: 999 }))
    .map(([whole, part]) => `${whole}.${String(part).padStart(3, '0')}`);
  /** Cells as the database says them. */
  const stored: Readonly<Partial<Record<ColumnKind, fc.Arbitrary<string | boolean>>>> = {
    text,
    whole: digits.map(String),
    decimal,
    money: decimal,
    date,
    time: clock,
    'date-time': fc.tuple(date, clock).map((both) => both.join(' ')),
    'yes-no': fc.boolean(),
    choice: fc.constantFrom('a b', 'c,"d'),
    choices: fc.subarray(['a b', 'c,"d'], { minLength: 1 }).map((codes) => storedList(codes) ?? ''),
    'e-mail': fc.constant('ines@quillmere.example'),
    'web-address': fc.constant('https://quillmere.example/a'),
    phone: fc.constant('+44 1632 960001'),
  };

  it('law: is read, written back and the same, for every kind', () => {
    const cells = fc.record(
      Object.fromEntries(
        Object.entries(stored).map(([kind, one]) => [column(kind as ColumnKind).id, fc.option(one)]),
      ),
    );
    fc.assert(
      fc.property(cells, fc.option(fc.uuid()), (given: Values, named) => {
        const record = {
          ...of,
          cells: { ...given, creference: named === null ? null : 'Bed 4' },
          named: Object.fromEntries(named === null ? [] : [['creference', named]]),
        };
        // As it goes over the line.
        const sent = JSON.parse(JSON.stringify(recordJson(all.columns, record))) as Record<string, unknown>;
        const back = valuesFromJson(all, sent);
        if (!back.ok) throw new Error(JSON.stringify(back.error));
        for (const one of all.columns) {
          const was = one.kind === 'reference' ? named : (given[one.id] ?? null);
          const now = columnValue(one, back.value[one.id] ?? null);
          expect([one.kind, now]).toEqual([one.kind, columnValue(one, was)]);
        }
      }),
    );
  });

  it('is refused at its key where a value is nothing of its kind', () => {
    const wrong = valuesFromJson(all, {
      text: 1,
      whole: true,
      choices: 'a b',
      reference: { name: 'x' },
      colour: 1,
    });
    expect(wrong.ok ? [] : wrong.error.map(({ code, path }) => [code, ...path])).toEqual([
      ['not-text', 'text'],
      ['not-whole', 'whole'],
      ['not-a-choice', 'choices'],
      ['not-a-record', 'reference'],
      ['unknown-column', 'colour'],
    ]);
    expect(fromJson('decimal', 1e30)).toBeUndefined();
    expect(fromJson('decimal', 0.1)).toBe('0.1');
  });

  it('leaves what comes by itself, and refuses what nobody writes', () => {
    const some = table([
      column('text'),
      column('whole', { formula: '1' }),
      column('date', { locked: true }),
      column('files'),
    ]);
    expect(valuesFromJson(some, { id: 'x', number: 'y', version: 9, created_at: '', text: 'a' })).toEqual({
      ok: true,
      value: { ctext: 'a' },
    });
    const refused = valuesFromJson(some, { whole: 1, date: null, files: [] });
    expect(refused.ok ? [] : refused.error.map(({ path }) => path[0])).toEqual(['whole', 'date', 'files']);
  });

  it('is described as it is: what is written, what must be there, what may be null', () => {
    const some = table(
      [column('text', { required: true }), column('whole', { formula: '1' }), column('choice')],
      {
        parent: 'other',
      },
    );
    expect(valuesSchema(some, true)).toMatchObject({
      required: ['parent_id', 'text'],
      properties: { choice: { type: ['string', 'null'], enum: ['a b', 'c,"d', null] } },
    });
    expect(valuesSchema(some, false)).not.toHaveProperty('required');
    expect(Object.keys(valuesSchema(some, false)['properties'] as object)).toEqual(['text', 'choice']);
    expect(recordSchema(some)).toMatchObject({ properties: { whole: { readOnly: true } } });
  });
});
