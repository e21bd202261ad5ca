import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Table } from '../../src/core/table/model';
import { openRecords } from '../../src/use-cases/records/open-records';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { beds } from '../../demo/tables';
import { personNamed } from '../../demo/people';
import { as, must, newId, useWorld } from '../support/world';
import { ALL_EDITS, cuts, onlyGrants, trees } from '../support/trees';

/** What the database itself lets somebody do, whatever a program asks of it: every set of rights by every statement and table. */
const world = useWorld(undefined, [beds, trees, cuts]);
let app: pg.Client;
beforeAll(async () => {
  app = new pg.Client({ connectionString: world.appUrl });
  await app.connect();
});
afterAll(() => app.end());

const subsets = ALL_EDITS.reduce<string[][]>(
  (all, one) => [...all, ...all.map((some) => [...some, one])],
  [[]],
);

/** Whether a statement reaches a record; it is undone. */
async function reaches(person: string, statement: string): Promise<boolean> {
  await app.query('BEGIN');
  try {
    await app.query(`SELECT set_config('slate.person', $1, true)`, [person]);
    const { rowCount } = await app.query(statement);
    return (rowCount ?? 0) > 0;
  } catch (error) {
    if ((error as { code?: string }).code === '42501') return false;
    throw error;
  } finally {
    await app.query('ROLLBACK');
  }
}

it('is seen, added to, changed and removed by those who may, and by nobody else', async () => {
  await onlyGrants(world, []);
  const [tree, cut] = [newId(), newId()];
  await world.sql(`INSERT INTO records.trees (id, name) VALUES ($1, 'Ash')`, [tree]);
  await world.sql(`INSERT INTO records.cuts (id, parent_id, position, why) VALUES ($1, $2, 1, 'storm')`, [
    cut,
    tree,
  ]);
  const statements: readonly (readonly [Table, string, (may: readonly string[]) => boolean])[] = [
    [trees, 'SELECT 1 FROM records.trees', (may) => may.includes('see')],
    [cuts, 'SELECT 1 FROM records.cuts', (may) => may.includes('see')],
    [trees, `INSERT INTO records.trees (name) VALUES ('Elm')`, (may) => may.includes('add')],
    [
      cuts,
      `INSERT INTO records.cuts (parent_id, position, why) VALUES ('${tree}', 2, 'light')`,
      (may) => may.includes('add'),
    ],
    // A statement that names a record has to see it as well.
    [
      trees,
      `UPDATE records.trees SET count = 2 WHERE id = '${tree}'`,
      (may) => may.includes('see') && may.includes('change'),
    ],
    [
      cuts,
      `UPDATE records.cuts SET why = 'x' WHERE id = '${cut}'`,
      (may) => may.includes('see') && may.includes('change'),
    ],
    [
      trees,
      `UPDATE records.trees SET removed_at = now() WHERE id = '${tree}'`,
      (may) => may.includes('see') && may.includes('remove'),
    ],
    [
      cuts,
      `DELETE FROM records.cuts WHERE id = '${cut}'`,
      (may) => may.includes('see') && may.includes('remove'),
    ],
  ];
  const wrong: string[] = [];
  const { id: maren } = personNamed('Maren');
  const { id: ada } = personNamed('Ada');
  for (const may of subsets)
    for (const granted of [trees, cuts]) {
      await onlyGrants(world, [['Maren', granted, ...may]]);
      for (const [table, statement, allowed] of statements) {
        const wanted = table === granted && allowed(may);
        if ((await reaches(maren, statement)) !== wanted)
          wrong.push(`${granted.key} ${may.join('+')}: ${statement}`);
        if (await reaches(ada, statement)) wrong.push(`nothing: ${statement}`);
      }
    }
  expect(wrong).toEqual([]);
});

it('of sixteen who count up one cell at once, every accepted step is in the sum', async () => {
  await onlyGrants(world, [['Ines', trees, ...ALL_EDITS]]);
  const id = newId();
  await world.sql(`INSERT INTO records.trees (id, name, count) VALUES ($1, 'Counted', 0)`, [id]);
  const step = async (): Promise<boolean> => {
    const { rows } = await must(
      openRecords(as('Ines'), 'trees', { sort: 'name', where: 'name = "Counted"' }),
    );
    const [row] = rows;
    const count = Number(row?.cells['ctrcount']);
    const saved = await saveEdits(as('Ines'), {
      key: newId(),
      edits: [
        {
          t: 'change',
          table: trees.id,
          id,
          version: row?.version ?? 1,
          before: { ctrcount: String(count) },
          values: { ctrcount: String(count + 1) },
        },
      ],
    });
    // Where somebody else has written the same meanwhile, there is nothing left to write, and no version is told.
    return saved.ok && saved.value.versions[id] !== undefined;
  };
  const writer = async (): Promise<number> => {
    let accepted = 0;
    for (let i = 0; i < 6; i++) accepted += (await step()) ? 1 : 0;
    return accepted;
  };
  const accepted = await Promise.all(Array.from({ length: 16 }, writer));
  const sum = accepted.reduce((all, one) => all + one, 0);
  const [row] = await world.sql('SELECT count::int AS count, version FROM records.trees WHERE id = $1', [id]);
  // Some got through, some were told that somebody else had; nothing that was accepted is lost, and each is in the trail.
  expect(sum).toBeGreaterThanOrEqual(6);
  expect(row).toEqual({ count: sum, version: sum + 1 });
  const trail = await world.sql('SELECT version FROM slate.history WHERE record_id = $1', [id]);
  expect(trail).toHaveLength(sum + 1);
});
