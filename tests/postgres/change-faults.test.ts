import { afterAll, expect, it } from 'vitest';
import { plainColumn, plainTable, type Table } from '../../src/core/table/model';
import { runTableChange } from '../../src/use-cases/tables/change-table';
import { openTableDesign, readTableChange, saveTableChange } from '../../src/use-cases/tables/design-table';
import { until, Workers } from '../support/workers';
import { as, must, newId, useWorld } from '../support/world';

/** Long enough to be killed in the middle of. */
const ROWS = 120_000;
const world = useWorld();
const workers = new Workers();
afterAll(async () => {
  workers.end();
});

const run = async (table: Table, base: number): Promise<string> => {
  const id = newId();
  const { version } = await must(
    saveTableChange(as('Ines'), id, { version: 0, base, redesign: { table, readings: {}, mends: {} } }),
  );
  await must(runTableChange(as('Ines'), id, { version }));
  return id;
};

it('a worker that is killed while it fills a column leaves the table as it was, and the next one carries the change out', async () => {
  await run(
    {
      ...plainTable,
      id: newId(),
      key: 'gauges',
      label: 'Gauges',
      prefix: 'GA',
      columns: [
        { ...plainColumn, id: 'cplace', key: 'place', label: 'Place', required: true },
        { ...plainColumn, id: 'clevel', key: 'level', label: 'Level' },
      ],
    },
    0,
  );
  await world.sql(
    `INSERT INTO records.gauges (number, place, level) SELECT 'G-' || i, 'p' || i, i % 500 FROM generate_series(1, $1) i`,
    [ROWS],
  );
  const { table } = await must(openTableDesign(as('Ines'), 'gauges'));
  if (table === null) throw new Error('no table');
  const id = await run(
    {
      ...table,
      columns: table.columns.map((column) =>
        column.id === 'clevel'
          ? { ...column, kind: 'whole', decimals: 0, key: 'water_level' }
          : { ...column, unique: true },
      ),
    },
    table.version,
  );
  const first = workers.begin();
  const middle = await until(async () => {
    const { state, progress } = await must(readTableChange(as('Ines'), id));
    return (state !== 'running' || (progress?.rows ?? 0) > 10_000) && { state, rows: progress?.rows ?? 0 };
  });
  await workers.kill(first);
  expect(middle.state).toBe('running');
  expect(middle.rows).toBeLessThan(ROWS);
  // Nobody sees that anything had begun, and everybody writes as before.
  expect((await must(openTableDesign(as('Ines'), 'gauges'))).table).toEqual(table);
  await world.sql(`UPDATE records.gauges SET level = '77777' WHERE number = 'G-1'`);
  await world.sql(`INSERT INTO records.gauges (place, level) VALUES ('late', '88888')`);

  workers.begin();
  await until(async () => (await must(readTableChange(as('Ines'), id))).state === 'done');
  expect(
    await world.sql(
      `SELECT count(*)::int AS n, sum(water_level)::int AS sum, max(version)::int AS version FROM records.gauges WHERE place NOT IN ('p1', 'late')`,
    ),
  ).toEqual([{ n: ROWS - 1, sum: (ROWS / 500) * 124_750 - 1, version: 1 }]);
  expect(
    await world.sql(`SELECT water_level FROM records.gauges WHERE place IN ('p1', 'late') ORDER BY 1`),
  ).toEqual([{ water_level: '77777' }, { water_level: '88888' }]);
  await expect(world.sql(`INSERT INTO records.gauges (place) VALUES ('late')`)).rejects.toMatchObject({
    code: '23505',
  });
  expect(
    await world.sql(
      `SELECT count(*)::int AS n FROM pg_attribute WHERE attrelid = 'records.gauges'::regclass AND attname LIKE 'becoming%' AND NOT attisdropped`,
    ),
  ).toEqual([{ n: 0 }]);
}, 240_000);

it('a second worker that starts meanwhile lets the first go on, and no value is missing', async () => {
  const columns = [{ ...plainColumn, id: 'cdepth', key: 'depth', label: 'Depth' }];
  await run({ ...plainTable, id: newId(), key: 'wells', label: 'Wells', prefix: 'WE', columns }, 0);
  await world.sql(
    `INSERT INTO records.wells (number, depth) SELECT 'W-' || i, i % 500 FROM generate_series(1, $1) i`,
    [ROWS],
  );
  const { table } = await must(openTableDesign(as('Ines'), 'wells'));
  if (table === null) throw new Error('no table');
  const id = await run(
    { ...table, columns: table.columns.map((column) => ({ ...column, kind: 'whole', decimals: 0 })) },
    table.version,
  );
  const first = workers.begin();
  const state = async () => must(readTableChange(as('Ines'), id));
  await until(async () => ((await state()).progress?.rows ?? 0) > 10_000);
  // It asks again for everything that is under way, as every worker does when it starts.
  workers.begin();
  await until(async () => (await state()).state === 'done');
  expect(first.exitCode).toBeNull();
  expect(
    await world.sql(
      'SELECT count(*)::int AS n, count(depth)::int AS filled, sum(depth)::int AS sum FROM records.wells',
    ),
  ).toEqual([{ n: ROWS, filled: ROWS, sum: (ROWS / 500) * 124_750 }]);
}, 240_000);
