import { sql } from 'drizzle-orm';
import { beforeAll, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { seenIn } from '../../src/data/runtime/records/find-records';
import { asPerson } from '../../src/data/transaction';
import { ok } from '../../src/core/kernel/result';
import { listTables } from '../../src/use-cases/tables/read-tables';
import { openRecords } from '../../src/use-cases/records/open-records';
import { readFacets } from '../../src/use-cases/records/read-facets';
import { makeSortIndex, makeWordsIndex } from '../../src/use-cases/tables/make-index';
import { as, must, refusal, useWorld } from '../support/world';

/** A table that is too large to be counted and sorted each time somebody looks at it. */
const ROWS = Number(process.env['ROWS'] ?? 9_000);
const world = useWorld();
beforeAll(async () => {
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area, open_to_visitors) SELECT 'C' || n, 'Bed ' || (n * 7919 % ${ROWS}), 'House ' || n % 40, n % 900, CASE WHEN n % 3 = 0 THEN NULL ELSE n % 2 = 0 END FROM generate_series(1, ${ROWS}) n`,
  );
  await world.sql('ANALYZE records.beds');
}, 300_000);

type Order = 'up' | 'down';
const page = async (sort: string, order: Order, from: { after?: string; before?: string } = {}) =>
  must(openRecords(as('Ines'), 'beds', { sort: order === 'down' ? `-${sort}` : sort, ...from }));
const names = async (sort: string, order: Order) =>
  (await page(sort, order)).rows.map(({ number }) => number);
const jobs = async () =>
  (
    await world.sql(`SELECT key FROM graphile_worker.jobs WHERE task_identifier = 'sort-index' ORDER BY key`)
  ).map(({ key }) => String(key).split(':').slice(2).join(' '));

it('says about how many there are at once', async () => {
  const first = await page('number', 'down');
  expect([first.about, first.total, first.rows.length]).toEqual([true, ROWS, 100]);
  expect((await must(listTables(as('Ines')))).tables.find(({ key }) => key === 'beds')).toMatchObject({
    records: ROWS,
    about: true,
  });
});

it('goes on from any record, both ways, through those without a value, which come last', async () => {
  const orders = [
    ['name', 'name COLLATE slate.in_order ASC NULLS LAST, id ASC', 'name'],
    ['-name', 'name COLLATE slate.in_order DESC NULLS LAST, id DESC', 'name'],
    ['open_to_visitors', 'open_to_visitors ASC NULLS LAST, id ASC', 'open_to_visitors'],
    ['-open_to_visitors', 'open_to_visitors DESC NULLS LAST, id DESC', 'open_to_visitors'],
    // By several, each its own way.
    [
      'open_to_visitors,-section,name',
      'open_to_visitors ASC NULLS LAST, section COLLATE slate.in_order DESC, name COLLATE slate.in_order ASC, id ASC',
      'open_to_visitors',
    ],
    [
      '-section,-open_to_visitors',
      'section COLLATE slate.in_order DESC, open_to_visitors DESC NULLS LAST, id DESC',
      'open_to_visitors',
    ],
  ] as const;
  for (const [sort, order, column] of orders) {
    const all = (
      await world.sql(`SELECT id, ${column} IS NULL AS blank FROM records.beds ORDER BY ${order}`)
    ).map(({ id, blank }) => ({ id: String(id), blank }));
    const ids = all.map(({ id }) => id);
    const blanks = all.findIndex(({ blank }) => blank === true);
    for (const at of [0, 1, 50, ROWS / 2, blanks - 1, blanks, blanks + 30, ROWS - 2, ROWS - 1]) {
      const id = ids[at];
      if (id === undefined) continue;
      const [after, before] = [
        await must(openRecords(as('Ines'), 'beds', { sort, after: id })),
        await must(openRecords(as('Ines'), 'beds', { sort, before: id })),
      ];
      const said = `${sort} ${at}`;
      expect(
        after.rows.map((row) => row.id),
        said,
      ).toEqual(ids.slice(at + 1, at + 101));
      expect(
        before.rows.map((row) => row.id),
        said,
      ).toEqual(ids.slice(Math.max(0, at - 100), at));
      expect([after.more.after, before.more.before], said).toEqual([at + 101 < ROWS, at > 100]);
    }
  }
});

it('is sorted in one total order, both ways, whether or not there is an index for it', async () => {
  const both = async () => [
    await names('name', 'up'),
    await names('name', 'down'),
    await names('open_to_visitors', 'down'),
    await names('open_to_visitors', 'up'),
  ];
  const before = await both();
  expect(before[0]).toHaveLength(100);
  // What stands in every record needs one index for both ways; where nothing may stand, each way has its own.
  expect(await jobs()).toEqual(['cbedname false', 'cbedopen false', 'cbedopen true', 'number false']);
  const [{ id } = { id: '' }] = await world.sql(`SELECT id FROM slate.designed_table WHERE key = 'beds'`);
  for (const [column, descending] of [
    ['cbedname', false],
    ['number', false],
    ['cbedopen', false],
    ['cbedopen', true],
    ['gone', true],
  ])
    await makeSortIndex({ table: String(id), column, descending });
  expect(await both()).toEqual(before);
  const plan = await world.sql(
    `EXPLAIN SELECT id FROM records.beds t WHERE t.removed_at IS NULL ORDER BY t.open_to_visitors DESC NULLS LAST, t.id DESC LIMIT 50`,
  );
  expect(plan.map((line) => line['QUERY PLAN']).join('\n')).toContain('cbedopen_down_');
  await world.sql(`DELETE FROM graphile_worker._private_jobs`);
  await both();
  expect(await jobs()).toEqual([]);
});

it('is gone to by a value of what it is sorted by, whichever way', async () => {
  const at = async (sort: string, value: string) => {
    const { rows, more } = await must(openRecords(as('Ines'), 'beds', { sort, at: value }));
    return [rows[0]?.cells['cbedname'] ?? rows[0]?.number ?? null, more.before];
  };
  expect([
    await at('name', 'Bed 5'),
    await at('-name', 'Bed 5'),
    await at('name', 'Bed 4999'),
    await at('name', 'Zz'),
  ]).toEqual([
    ['Bed 5', true],
    ['Bed 5', true],
    ['Bed 4999', true],
    [null, true],
  ]);
  const [first] = (await must(openRecords(as('Ines'), 'beds', { sort: '-area', at: '300' }))).rows;
  expect(first?.cells['cbedarea']).toBe('300.00');
  expect(
    (await must(openRecords(as('Ines'), 'beds', { sort: 'open_to_visitors', at: 'yes' }))).rows[0]?.cells[
      'cbedopen'
    ],
  ).toBe(true);
  // Those beyond go on from it as from any other.
  const page = await must(openRecords(as('Ines'), 'beds', { sort: 'name', at: 'Bed 4999' }));
  const next = await must(openRecords(as('Ines'), 'beds', { sort: 'name', after: page.rows[0]?.id }));
  expect(next.rows[0]?.id).toBe(page.rows[1]?.id);
  expect(await refusal(openRecords(as('Ines'), 'beds', { sort: 'area', at: 'much' }))).toMatchObject({
    kind: 'invalid',
    issues: [{ code: 'not-a-number', path: ['at'] }],
  });
});

it('tells about what its columns hold from a few of its records', async () => {
  const facets = async (about: boolean, where = '') =>
    must(readFacets(as('Ines'), 'beds', { find: '', where, about }));
  const [exact, sampled] = [await facets(false), await facets(true)];
  const counts = ({ facets: all }: typeof exact) =>
    new Map(
      all.flatMap(({ of, counts }) => counts.map(({ label, records }) => [`${of.label}: ${label}`, records])),
    );
  const told = counts(sampled);
  expect([exact.about, sampled.about, told.size]).toEqual([false, true, counts(exact).size]);
  for (const [label, records] of counts(exact)) {
    const about = told.get(label) ?? 0;
    expect(about > records * 0.4 && about < records * 2.2, `${label} ${records} ${about}`).toBe(true);
  }
  // Too few in the sample tell nothing.
  expect((await facets(true, 'code = "C7"')).facets).toEqual([]);
});

it('finds words whatever their case and accents, and by an index although policies hold', async () => {
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area) VALUES ('Q-77', 'Élan 50%_off', 'Hidden corner', 12.5)`,
  );
  const [{ id } = { id: '' }] = await world.sql(`SELECT id FROM slate.designed_table WHERE key = 'beds'`);
  const found = async () =>
    Promise.all(
      ['elan', 'ÉLAN', '50%_o', '%', 'q-77 CORNER', 'q-77 nursery', '12.5', 'bed 7919', 'lan 5'].map(
        async (find) => {
          const { rows, total } = await must(openRecords(as('Ines'), 'beds', { sort: 'number', find }));
          return total <= 1 ? (rows[0]?.cells['cbedname'] ?? null) : total;
        },
      ),
    );
  const same = [
    'Élan 50%_off',
    'Élan 50%_off',
    'Élan 50%_off',
    'Élan 50%_off',
    'Élan 50%_off',
    null,
    'Élan 50%_off',
    2,
    'Élan 50%_off',
  ];
  expect(await found()).toEqual(same);
  const asked = () => world.sql(`SELECT key FROM graphile_worker.jobs WHERE task_identifier = 'words-index'`);
  expect(await asked()).toEqual([{ key: `words-index:${String(id)}` }]);
  await world.sql('DELETE FROM graphile_worker._private_jobs');
  // Done twice, and after one that was made for other columns, it stands once.
  await world.sql(
    `CREATE INDEX words_00000000_${String(id).slice(-12)} ON records.beds USING gin (name public.gin_trgm_ops)`,
  );
  for (let i = 0; i < 2; i++) await makeWordsIndex({ table: String(id) });
  expect(
    await world.sql(`SELECT indexname FROM pg_indexes WHERE indexname LIKE 'words%' AND tablename = 'beds'`),
  ).toHaveLength(1);
  expect(await found()).toEqual(same);
  expect(await asked()).toEqual([]);
  const plan = await must(
    asPerson({ person: personNamed('Ines').id }, async (tx, { tables }) => {
      const beds = tables.get(String(id));
      const seen = beds === undefined ? null : await seenIn(tx, tables, beds, 'elan');
      return ok(
        (
          await tx.execute(
            sql`EXPLAIN SELECT id FROM records.beds AS t WHERE t.removed_at IS NULL AND ${seen}`,
          )
        ).rows,
      );
    }),
  );
  expect(plan.map((line) => line['QUERY PLAN']).join('\n')).toContain(`words_`);
});
