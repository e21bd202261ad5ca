import { sql } from 'drizzle-orm';
import { personNamed } from '../demo/people';
import { beds, tableId, taxa } from '../demo/tables';
import { ok } from '../src/core/kernel/result';
import { plainColumn, plainTable, type Column, type Table } from '../src/core/table/model';
import { catalogueNow } from '../src/data/catalogue';
import { applyChanges } from '../src/data/runtime/tables/tables';
import { asOwner, asPerson } from '../src/data/transaction';
import { makeSortIndex, makeWordsIndex } from '../src/use-cases/tables/make-index';
import { middle } from './timing';

/** A table of many records, and what is asked of it through a use case with its transaction and rights, against SQL written by hand with the right index. */
export const ROWS = Number(process.env['ROWS'] ?? 1_000_000);
const ROUNDS = Number(process.env['ROUNDS'] ?? 5);
export const ines = { person: { ...personNamed('Ines') }, now: new Date() };

export const column = (key: string, more: Partial<Column> = {}): Column => ({
  ...plainColumn,
  id: `cm${key}`,
  key,
  label: key,
  ...more,
});
export const many: Table = {
  ...plainTable,
  id: tableId(61),
  key: 'many',
  label: 'Many',
  prefix: 'M',
  title: ['cmname'],
  columns: [
    column('name'),
    column('note'),
    column('quantity', { kind: 'whole' }),
    column('price', { kind: 'decimal', decimals: 2 }),
    column('seen', { kind: 'date' }),
    column('wild', { kind: 'yes-no' }),
    column('state', {
      kind: 'choice',
      choices: ['a', 'b', 'c', 'd'].map((code) => ({ code, label: code.toUpperCase() })),
    }),
    column('bed', { kind: 'reference', target: beds.id }),
    column('taxon', { kind: 'reference', target: taxa.id }),
  ],
};

export const must = async <T>(
  result: Promise<{ ok: true; value: T } | { ok: false; error: unknown }>,
): Promise<T> => {
  const settled = await result;
  if (!settled.ok) throw new Error(JSON.stringify(settled.error));
  return settled.value;
};
export const asIs = (statement: string) =>
  asOwner({ person: ines.person.id }, async (tx) => ok(await tx.execute(sql.raw(statement))));
/** As the person who asks, so that the policies hold for what is written by hand as well. */
export const plainly =
  ({ person }: typeof ines, statement: string) =>
  () =>
    asPerson({ person: person.id }, async (tx) => ok(await tx.execute(sql.raw(statement))));
const byHand = (statement: string) => plainly(ines, statement);

export async function timed(work: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  await work();
  for (let i = 0; i < ROUNDS; i++) {
    const began = performance.now();
    await work();
    times.push(performance.now() - began);
  }
  return middle(times);
}

export const compare = (name: string, ours: () => Promise<unknown>, hand: string): Promise<void> =>
  against(name, ours, byHand(hand));

/** One way against another, which comes to the same. */
export async function against(
  name: string,
  ours: () => Promise<unknown>,
  other: () => Promise<unknown>,
): Promise<void> {
  const [mine, plain] = [await timed(ours), await timed(other)];
  console.log(
    `${ROWS} records, ${name}: ${mine.toFixed(1)} ms, by hand ${plain.toFixed(1)} ms, ratio ${(mine / plain).toFixed(2)}`,
  );
}

/** Makes it, with its indexes. */
export async function makeMany(): Promise<void> {
  await must(
    asOwner({ person: ines.person.id }, async (tx) => {
      const there = (await catalogueNow(tx)).tables;
      await applyChanges(tx, there, [{ t: 'make-table', table: many }], ['owner', 'colleague']);
      await tx.execute(
        sql`INSERT INTO slate.access_grant (table_id, role, action) SELECT ${many.id}::uuid, 'steward', action FROM unnest(ARRAY['add', 'change', 'remove']) AS action`,
      );
      // The trail of a million made-up rows would only take time.
      await tx.execute(sql.raw('ALTER TABLE records.many DISABLE TRIGGER USER'));
      await tx.execute(
        sql.raw(`INSERT INTO records.many (id, number, name, note, quantity, price, seen, wild, state, bed, taxon)
        SELECT gen_random_uuid(), 'M-' || lpad(n::text, 8, '0'), 'Frond ' || n::bigint * 7919 % ${ROWS}, 'note ' || n % 1000, n % 500, n % 10000 / 100.0,
          DATE '2015-01-01' + n % 4000, n % 3 = 0, (ARRAY['a', 'b', 'c', 'd'])[1 + n % 4],
          (SELECT array_agg(id ORDER BY number) FROM records.beds)[1 + n % 100], (SELECT array_agg(id ORDER BY number) FROM records.taxa)[1 + n % 200]
        FROM generate_series(1, ${ROWS}) n`),
      );
      await tx.execute(sql.raw('ALTER TABLE records.many ENABLE TRIGGER USER'));
      return ok(null);
    }),
  );
  await asIs('ANALYZE records.many');
  for (const descending of [false, true])
    await makeSortIndex({ table: many.id, column: 'cmquantity', descending });
  await makeSortIndex({ table: many.id, column: 'number', descending: false });
  const begun = performance.now();
  await makeWordsIndex({ table: many.id });
  console.log(`the index for words: ${(performance.now() - begun).toFixed(0)} ms`);
}
