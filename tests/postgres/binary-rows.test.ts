import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fit, type Fit } from '../../src/core/import/convert';
import { RecordIds } from '../../src/core/import/made-rows';
import { kinds } from '../../src/core/table/kinds/list';
import { columnKinds, type ColumnKind } from '../../src/core/table/model';
import { ok } from '../../src/core/kernel/result';
import { BEGINNING, BinaryRows, END } from '../../src/data/runtime/imports/binary-rows';
import { asOwnerCopying } from '../../src/data/transaction';
import { must, useWorld } from '../support/world';
import { storedList } from '../../src/core/table/kinds/stored-list';

useWorld(undefined, []);

const ids = new RecordIds('0190a2b3-c4d5-7e6f-8a9b-000000000001', 7);
/** So that counts get a digit more on the way. */
const FIRST = 9_990;
/** Beyond 32 bits too. */
const idOf = (i: number): number => i * 77_777_777_777;
const type = (kind: ColumnKind): string => kinds[kind].columnType({ decimals: 4 });

/** Adds the values at some places of a list. */
type Add = (places: readonly number[], list: readonly Fit[]) => void;

/** What PostgreSQL holds after it was sent these, and what it makes of the same texts by itself. */
async function both(
  kind: ColumnKind,
  values: readonly Fit[],
  more: (add: Add) => void = () => undefined,
): Promise<{ sent: (string | null)[]; read: (string | null)[] }> {
  return must(
    asOwnerCopying({ person: '' }, async (tx, copy) => {
      await tx.execute(
        sql`CREATE TEMP TABLE sent (id uuid, number text, parent uuid, position integer, value ${sql.raw(type(kind))}) ON COMMIT DROP`,
      );
      const rows = new BinaryRows([kind]);
      let count = 0;
      const add: Add = (places, list) => {
        const at = count;
        const some = places.map((_, i) => at + i);
        const parents = { ids, marks: Float64Array.from(some, () => 255), positions: Int32Array.from(some) };
        rows.add(
          {
            ids,
            marks: Float64Array.from(some, idOf),
            numbers: Int32Array.from(some),
            parents,
            columns: [{ codes: Int32Array.from(places, (place) => ~place), values: list }],
            text: null,
          },
          { before: 'N°-', first: FIRST + at },
        );
        count += places.length;
      };
      // One list in lots, as rows come.
      for (let at = 0; at < values.length; at += 7)
        add(
          values.slice(at, at + 7).map((_, i) => at + i),
          values,
        );
      more(add);
      const stream = copy(sql`COPY sent FROM STDIN (FORMAT binary)`);
      await new Promise<void>((done, failed) => {
        stream.on('error', failed).on('finish', done);
        for (const piece of [BEGINNING, rows.taken(), END]) stream.write(piece);
        stream.end();
      });
      const { rows: sent } = await tx.execute<{ value: string | null; told: string }>(
        sql`SELECT value::text, id || ' ' || number || ' ' || parent || ' ' || position AS told FROM sent ORDER BY position`,
      );
      expect(sent.map(({ told }) => told)).toEqual(
        Array.from(
          { length: count },
          (_, i) => `${ids.at(idOf(i))} N°-${String(FIRST + i).padStart(4, '0')} ${ids.at(255)} ${i}`,
        ),
      );
      const { rows: read } = await tx.execute<{ value: string | null }>(
        sql`SELECT value::${sql.raw(type(kind))}::text AS value FROM unnest(${sql.param(values.map(({ value }) => value))}::text[]) WITH ORDINALITY AS given (value, at) ORDER BY at`,
      );
      return ok({ sent: sent.map(({ value }) => value), read: read.map(({ value }) => value) });
    }),
  );
}

const number = fc
  .tuple(
    fc.boolean(),
    fc.bigInt({ min: 0n, max: 999_999_999_999_999n }),
    fc.integer({ min: 0, max: 9_999 }),
    fc.integer({ min: 0, max: 4 }),
  )
  .map(
    ([negative, whole, fraction, decimals]) =>
      `${negative ? '-' : ''}${whole}${decimals === 0 ? '' : `.${String(fraction).padStart(4, '0').slice(0, decimals)}`}`,
  );
const day = fc
  .date({ min: new Date('0001-01-01'), max: new Date('9999-12-31'), noInvalidDate: true })
  .map((at) => at.toISOString().slice(0, 10));
const time = fc
  .integer({ min: 0, max: 86_399 })
  .map((seconds) => new Date(seconds * 1_000).toISOString().slice(11, 19));
const text = fc.string({
  unit: fc.constantFrom('a', 'B', ' ', '"', '\\', '\t', '\n', 'é', '漢', '🌿', 'ا'),
  maxLength: 200,
});
const ways: Readonly<Record<ColumnKind, fc.Arbitrary<string>>> = {
  text,
  choice: text,
  choices: fc
    .array(fc.oneof(text, fc.constantFrom('NULL', 'null', '', '\u00a0', '\v', '{}')), {
      minLength: 1,
      maxLength: 5,
    })
    .map((list) => storedList(list) ?? ''),
  files: fc.array(fc.uuid(), { minLength: 1, maxLength: 4 }).map((list) => storedList(list) ?? ''),
  'e-mail': text,
  'web-address': text,
  phone: text,
  whole: number.map((value) => value.split('.')[0] ?? ''),
  decimal: number,
  money: number,
  date: day,
  time,
  'date-time': fc.tuple(day, time).map(([on, at]) => `${on} ${at}`),
  'yes-no': fc.constantFrom('true', 'false'),
  reference: fc.uuid(),
};

describe('values in the binary form of COPY', () => {
  it.each(columnKinds)('%s: PostgreSQL holds what it reads out of the same text', async (kind) => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.option(ways[kind], { freq: 8 }), { minLength: 1, maxLength: 60 }),
        fc.array(fc.nat()),
        async (values, again) => {
          const fits = values.map((value) => fit(value));
          // A value that is remembered is sent more than once.
          const { sent, read } = await both(kind, [
            ...fits,
            ...again.map((n) => fits[n % fits.length] as Fit),
          ]);
          expect(sent).toEqual(read);
        },
      ),
      { numRuns: 30 },
    );
  });

  it('numbers at the edges', async () => {
    const { sent, read } = await both(
      'decimal',
      [
        '0',
        '-0',
        '0.0001',
        '9999',
        '10000',
        '-10000.1',
        '100000000',
        '999999999999999.9999',
        '0.5',
        '00012.50',
      ].map((value) => fit(value)),
    );
    expect(sent).toEqual(read);
  });

  it('are laid down anew with another list of values, and one that has grown goes on', async () => {
    const [first, second] = [
      [fit(null), fit('first'), fit('large'.repeat(800_000))],
      [fit('none'), fit('other'), fit(null), fit('')],
    ];
    const { sent } = await both('text', [], (add) => {
      add([0, 1, 2, 1], first);
      first.push(fit('grown'));
      add([3, 1, 0], first);
      add([1, 0, 2, 3], second);
    });
    expect(sent.map((value) => value?.slice(0, 10) ?? null)).toEqual([
      null,
      'first',
      'largelarge',
      'first',
      'grown',
      'first',
      null,
      'other',
      'none',
      null,
      '',
    ]);
    expect(sent[2]?.length).toBe(4_000_000);
  });
});
