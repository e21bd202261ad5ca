import { beforeAll, expect, it } from 'vitest';
import { listTables } from '../../src/use-cases/tables/read-tables';
import { openRecords } from '../../src/use-cases/records/open-records';
import { makeSortIndex } from '../../src/use-cases/tables/sort-index';
import { as, must, useWorld } from '../support/world';

/** A table that is too large to be counted and sorted each time somebody looks at it. */
const ROWS = Number(process.env['ROWS'] ?? 20_000);
const world = useWorld();
beforeAll(async () => {
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area, open_to_visitors) SELECT 'C' || n, 'Bed ' || (n * 7919 % ${ROWS}), 'House ' || n % 40, n % 900, CASE WHEN n % 3 = 0 THEN NULL ELSE n % 2 = 0 END FROM generate_series(1, ${ROWS}) n`,
  );
  await world.sql('ANALYZE records.beds');
}, 300_000);

const page = async (sort: string, order: 'up' | 'down', n = 1) =>
  must(openRecords(as('Ines'), 'beds', { sort, order, page: n }));
const names = async (sort: string, order: 'up' | 'down', n = 1) =>
  (await page(sort, order, n)).rows.map(({ number }) => number);
const jobs = async () =>
  (
    await world.sql(`SELECT key FROM graphile_worker.jobs WHERE task_identifier = 'sort-index' ORDER BY key`)
  ).map(({ key }) => String(key).split(':').slice(2).join(' '));

it('says about how many there are at once, and which page is the last once somebody has gone beyond it', async () => {
  const first = await page('number', 'down');
  expect([first.about, first.total]).toEqual([true, ROWS]);
  const last = await page('number', 'down', 99_999);
  expect([last.about, last.total, last.page, last.rows.length]).toEqual([false, ROWS, ROWS / 50, 50]);
  expect((await must(listTables(as('Ines')))).tables.find(({ key }) => key === 'beds')).toMatchObject({
    records: ROWS,
    about: true,
  });
});

it('is sorted in one total order, both ways, whether or not there is an index for it', async () => {
  const both = async () => [
    await names('cbedname', 'up'),
    await names('cbedname', 'up', 2),
    await names('cbedname', 'down'),
    await names('cbedopen', 'down'),
    await names('cbedopen', 'up', ROWS / 50),
  ];
  const before = await both();
  expect(before[0]).toHaveLength(50);
  expect(new Set(before.slice(0, 2).flat()).size).toBe(100);
  // What stands in every record needs one index for both ways; where nothing may stand, each way has its own.
  expect(await jobs()).toEqual(['cbedname false', 'cbedopen false', 'cbedopen true']);
  const [{ id } = { id: '' }] = await world.sql(`SELECT id FROM slate.designed_table WHERE key = 'beds'`);
  for (const [column, descending] of [
    ['cbedname', false],
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
