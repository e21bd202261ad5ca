import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { intoTable } from '../../src/core/import/into-table';
import { plainColumn, plainTable, type Column, type Table } from '../../src/core/table/model';
import { ok } from '../../src/core/kernel/result';
import { applyChanges } from '../../src/data/runtime/tables/tables';
import { asOwner } from '../../src/data/transaction';
import { exportTable } from '../../src/use-cases/records/export-table';
import { personNamed } from '../../demo/people';
import { brought, triedOut } from '../support/importing';
import { as, must, newId, useWorld } from '../support/world';

/** What is exported and brought back changes nothing: of every kind, with whatever texts there are. */
const world = useWorld(undefined, []);
const column = (key: string, kind: Column['kind'], more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id: `c${key}`,
  key,
  label: key[0]?.toUpperCase() + key.slice(1),
  kind,
  ...more,
});
const places: Table = {
  ...plainTable,
  id: newId(),
  key: 'places',
  label: 'Places',
  prefix: 'PL',
  title: ['cname'],
  columns: [column('name', 'text', { unique: true, required: true })],
};
const everything: Table = {
  ...plainTable,
  id: newId(),
  key: 'everything',
  label: 'Everything',
  prefix: 'EV',
  columns: [
    column('note', 'text'),
    column('pieces', 'whole', { decimals: 0 }),
    column('depth', 'decimal', { decimals: 3, unit: 'm' }),
    column('price', 'money', { decimals: 2, unit: 'GBP' }),
    column('day', 'date'),
    column('clock', 'time'),
    column('moment', 'date-time'),
    column('open', 'yes-no'),
    column('state', 'choice', {
      choices: [
        { code: 'a', label: 'b' },
        { code: 'b', label: 'a' },
        { code: 'sum', label: '=SUM(1)' },
        { code: '1', label: 'In the open, "north"' },
      ],
    }),
    column('signs', 'choices', {
      choices: [
        { code: 'wilt', label: 'Wilting' },
        { code: 'a b', label: 'Red, dark' },
        { code: 'red', label: 'Red' },
        { code: '{x}', label: 'Scale "insects"' },
        { code: 'a', label: 'red; other' },
      ],
    }),
    column('mail', 'e-mail'),
    column('site', 'web-address'),
    column('telephone', 'phone'),
    column('place', 'reference', { target: places.id }),
  ],
};

const text = fc
  .oneof(
    fc.constantFrom(
      '=1+1',
      "'=1+1",
      "''x",
      "'",
      '-3',
      '+44',
      '@all',
      '＝1',
      '007',
      '1,5',
      'n/a',
      '"quoted"',
      'two\nlines',
      'a;b',
      'نبات 🌿',
      '<b>x</b>',
      'NULL',
      'two  spaces',
      'yes',
      '2026-02-30',
    ),
    fc.string({ unit: 'grapheme', maxLength: 30 }),
  )
  .map((one) => one.replaceAll('\u0000', '').replace(/\r\n?/g, '\n').trim())
  .filter((one) => one !== '');
const two = (n: number): string => String(n).padStart(2, '0');
const maybe = <T>(of: fc.Arbitrary<T>) => fc.option(of, { freq: 4 });
const day = fc
  .date({ min: new Date('1600-01-01'), max: new Date('2400-12-31'), noInvalidDate: true })
  .map((one) => one.toISOString().slice(0, 10));
const clock = fc
  .tuple(fc.nat(23), fc.nat(59), fc.nat(59))
  .map(([h, m, s]) => `${two(h)}:${two(m)}:${two(s)}`);
const row = fc.record({
  note: maybe(text),
  pieces: maybe(fc.integer({ min: -1_000_000, max: 1_000_000 })),
  depth: maybe(fc.integer({ min: -10_000_000, max: 10_000_000 }).map((n) => (n / 1_000).toFixed(3))),
  price: maybe(fc.integer({ min: -1_000_000, max: 100_000_000 }).map((n) => (n / 100).toFixed(2))),
  day: maybe(day),
  clock: maybe(clock),
  moment: maybe(fc.tuple(day, clock).map(([d, at]) => `${d} ${at}`)),
  open: maybe(fc.boolean()),
  state: maybe(fc.constantFrom('a', 'b', 'sum', '1')),
  signs: maybe(fc.subarray(['wilt', 'a b', 'red', '{x}', 'a'], { minLength: 1 })),
  mail: maybe(fc.constantFrom('maren@quillmere.example', 'a+b@c.example')),
  site: maybe(fc.constantFrom('https://quillmere.example/a?b=1', 'www.quillmere.example')),
  telephone: maybe(fc.constantFrom('+44 1632 960001', '(01632) 960-001', '-101')),
  place: maybe(fc.nat(19)),
});

beforeAll(async () => {
  await must(
    asOwner({ person: personNamed('Ines').id }, async (tx) =>
      ok(
        await applyChanges(
          tx,
          new Map(),
          [places, everything].map((table) => ({ t: 'make-table' as const, table })),
          ['owner'],
        ),
      ),
    ),
  );
  const names =
    fc.sample(fc.uniqueArray(text, { minLength: 20, maxLength: 20, selector: (one) => one.toLowerCase() }), {
      numRuns: 1,
      seed: 7,
    })[0] ?? [];
  await world.sql('INSERT INTO records.places (name) SELECT * FROM unnest($1::text[])', [names]);
  const ids = (await world.sql('SELECT id FROM records.places ORDER BY number')).map(({ id }) => id);
  const rows = fc
    .sample(row, { numRuns: 400, seed: 7 })
    .map((one) => ({ ...one, place: one.place === null ? null : ids[one.place] }));
  await world.sql(
    `INSERT INTO records.everything (note, pieces, depth, price, day, clock, moment, open, state, signs, mail, site, telephone, place)
     SELECT note, pieces, depth, price, day, clock, moment, open, state, signs, mail, site, telephone, place FROM jsonb_populate_recordset(NULL::records.everything, $1::jsonb)`,
    [JSON.stringify(rows)],
  );
});

async function exported(key: string, format: 'csv' | 'xlsx'): Promise<Buffer> {
  const { body } = await must(exportTable(as('Ines'), key, format));
  const pieces: Uint8Array[] = [];
  for await (const piece of body) pieces.push(piece);
  return Buffer.concat(pieces);
}

describe('a table that is exported and brought back', () => {
  it.each(['csv', 'xlsx'] as const)('as %s is the same in every record', async (format) => {
    const data = await brought({ [`everything.${format}`]: await exported('everything', format) });
    const [found] = data.detection?.sheets ?? [];
    const target = data.tables.find(({ key }) => key === 'everything');
    if (found === undefined || target === undefined) throw new Error('nothing was detected');
    const tried = await triedOut(data, {
      sheets: { [found.name]: { into: { ...intoTable(found, target), by: ['number'] } } },
    });
    const result = tried.trial?.result;
    expect(result?.refusals.slice(0, 5)).toEqual([]);
    expect(result?.tables.map(({ merged }) => merged)).toMatchObject([
      { added: 0, changed: 0, same: 400, leftOut: 0 },
    ]);
  });
});
