import { sql } from 'drizzle-orm';
import { beforeAll, expect, it } from 'vitest';
import { may, type Catalogue } from '../../src/core/catalogue/catalogue';
import { ok } from '../../src/core/kernel/result';
import { catalogueNow } from '../../src/data/catalogue';
import { asOwner, asPerson } from '../../src/data/transaction';
import { personNamed } from '../../demo/people';
import { must, releaseSampleForms, useWorld } from '../support/world';

/** What is designed is read once for each number, and a number never stands for two things. */
const world = useWorld();
const ines = personNamed('Ines').id;
const maren = personNamed('Maren').id;
const known = (): Promise<Catalogue> =>
  must(asPerson({ person: maren }, (_, catalogue) => Promise.resolve(ok(catalogue))));
const label = (catalogue: Catalogue): string | undefined =>
  [...catalogue.tables.values()].find(({ key }) => key === 'beds')?.label;

beforeAll(async () => {
  await releaseSampleForms();
});

it('is the very same from one transaction to the next, until something of it changes', async () => {
  const first = await known();
  expect(await known()).toBe(first);
  const changes = [
    `UPDATE slate.designed_table SET label = 'Borders' WHERE key = 'beds'`,
    `UPDATE slate.designed_column SET label = 'Where' WHERE key = 'section'`,
    `UPDATE slate.person SET place = 'Fern house' WHERE id = '${maren}'`,
    `INSERT INTO slate.access_grant (table_id, person_id, action) SELECT id, '${maren}', 'design' FROM slate.designed_table WHERE key = 'beds'`,
    `DELETE FROM slate.access_grant WHERE person_id = '${maren}'`,
    `UPDATE slate.workspace SET currency = 'EUR'`,
    `UPDATE slate.form SET owner_id = '${ines}'`,
  ];
  let last = first;
  for (const change of changes) {
    await world.sql(change);
    const next = await known();
    expect(next.number, change).not.toBe(last.number);
    last = next;
  }
  // What is typed, sent and kept is no part of it, nor is a draft of a design.
  await world.sql(`UPDATE slate.form SET version = version + 1`);
  await world.sql(`UPDATE slate.person SET updated_at = now()`);
  await world.sql(`INSERT INTO records.beds (code, name, section, area) VALUES ('Z', 'Z', 'Z', 1)`);
  expect(await known()).toBe(last);
  await world.sql(`UPDATE slate.designed_table SET label = 'Beds' WHERE key = 'beds'`);
});

it('shows a transaction what it has changed itself, and nobody else before it has ended', async () => {
  const before = await known();
  await must(
    asOwner({ person: ines }, async (tx, then) => {
      expect(label(then)).toBe('Beds');
      await tx.execute(`UPDATE slate.designed_table SET label = 'Borders' WHERE key = 'beds'`);
      expect(label(await catalogueNow(tx))).toBe('Borders');
      expect(await known()).toBe(before);
      await tx.execute(`UPDATE slate.designed_table SET label = 'Plots' WHERE key = 'beds'`);
      expect(label(await catalogueNow(tx))).toBe('Plots');
      return ok(null);
    }),
  );
  expect(label(await known())).toBe('Plots');
});

it('is not what a transaction saw that was undone, also for whoever comes after it', async () => {
  await asOwner({ person: ines }, async (tx) => {
    await tx.execute(`UPDATE slate.designed_table SET label = 'Never' WHERE key = 'beds'`);
    expect(label(await catalogueNow(tx))).toBe('Never');
    return { ok: false, error: { kind: 'not-found', what: 'table' } };
  });
  expect(label(await known())).toBe('Plots');
  await world.sql(`UPDATE slate.designed_table SET label = 'Beds' WHERE key = 'beds'`);
  expect(label(await known())).toBe('Beds');
});

it('keeps nobody waiting: while one long transaction has changed it, another changes it and ends', async () => {
  await must(
    asOwner({ person: ines }, async (tx) => {
      await tx.execute(`UPDATE slate.designed_table SET label = 'Long' WHERE key = 'products'`);
      await world.sql(`UPDATE slate.designed_table SET label = 'Short' WHERE key = 'taxa'`);
      expect([...(await known()).tables.values()].map((one) => one.label)).toContain('Short');
      return ok(null);
    }),
  );
  expect([...(await known()).tables.values()].map((one) => one.label)).toContain('Long');
});

it('says who may do what as the database does', async () => {
  const catalogue = await known();
  for (const name of ['Ines', 'Maren', 'Wren', 'Tomasz'])
    for (const table of catalogue.tables.values())
      for (const action of ['see', 'pick', 'design', 'add', 'change', 'remove'] as const) {
        const { id } = personNamed(name);
        const asked = await world.sql(
          `SELECT slate.may($1, $2) AS may FROM set_config('slate.person', $3, false)`,
          [table.id, action, id],
        );
        expect(asked, `${name} ${action} ${table.key}`).toEqual([
          { may: may(catalogue, id, action, table.id) },
        ]);
      }
});

it('holds the settings of the workspace, whose time of day is that of every transaction', async () => {
  const clock = () =>
    must(
      asPerson({ person: maren }, async (tx, { workspace }) => {
        const { rows } = await tx.execute<{ hour: string }>(
          sql`SELECT to_char('2026-07-01T12:00:00Z'::timestamptz, 'HH24:MI') AS hour`,
        );
        return ok([workspace.zone, rows[0]?.hour]);
      }),
    );
  expect(await clock()).toEqual(['Europe/London', '13:00']);
  await world.sql(`UPDATE slate.workspace SET zone = 'Asia/Kathmandu'`);
  expect(await clock()).toEqual(['Asia/Kathmandu', '17:45']);
  for (const wrong of [`zone = 'Europe/Nowhere'`, `currency = 'pounds'`, `workdays = '{0,9}'`])
    await expect(world.sql(`UPDATE slate.workspace SET ${wrong}`), wrong).rejects.toThrow();
  await expect(world.sql(`INSERT INTO slate.workspace (only_one) VALUES (false)`)).rejects.toThrow();
  await world.sql(`UPDATE slate.workspace SET zone = 'Europe/London'`);
});
