import { sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { ok } from '../../src/core/kernel/result';
import { asOwner, asPerson, refusedBy } from '../../src/data/transaction';
import { personNamed } from '../../demo/people';
import { must, useWorld } from '../support/world';

const world = useWorld();

const asking = { person: personNamed('Ines').id };
/** Ends every connection of the application to this database, as an administrator or a restart would. */
const terminate = () =>
  world.sql(
    `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND application_name = 'tidy-slate'`,
  );

describe('a connection that is lost', () => {
  it('in an open transaction ends nothing, and the request is carried out on another', async () => {
    let tries = 0;
    const done = await must(
      asPerson(asking, async (tx) => {
        tries++;
        if (tries === 1) await terminate();
        const { rows } = await tx.execute<{ n: number }>(sql`SELECT 1 AS n`);
        return ok(rows[0]?.n);
      }),
    );
    expect([done, tries]).toEqual([1, 2]);
  });

  it('again and again is told as the database’s absence, with when to come back', async () => {
    const lost = asPerson(asking, async (tx) => {
      await terminate();
      await tx.execute(sql`SELECT 1`);
      return ok(null);
    });
    const error: unknown = await lost.then(
      () => null,
      (thrown: unknown) => thrown,
    );
    expect(refusedBy(error)).toEqual({ kind: 'unavailable', why: 'database', retryAfter: 2 });
  });

  it('while it is idle is not noticed by anybody', async () => {
    await must(asPerson(asking, async (tx) => ok(await tx.execute(sql`SELECT 1`))));
    await terminate();
    for (let i = 0; i < 20; i++)
      await must(asPerson(asking, async (tx) => ok(await tx.execute(sql`SELECT 1`))));
  });

  it('by the owner role, whose work may reach further, is not carried out twice', async () => {
    let tries = 0;
    const lost = asOwner(asking, async (tx) => {
      tries++;
      await terminate();
      return ok(await tx.execute(sql`SELECT 1`));
    });
    await expect(lost).rejects.toThrow();
    expect(tries).toBe(1);
  });

  it('leaves no place in the pool taken', async () => {
    for (let i = 0; i < 12; i++) {
      const tried = asOwner(asking, async (tx) => {
        await terminate();
        return ok(await tx.execute(sql`SELECT 1`));
      });
      await tried.catch(() => undefined);
    }
    await must(asOwner(asking, async (tx) => ok(await tx.execute(sql`SELECT 1`))));
  });
});

describe('a source that cannot be reached', () => {
  it('is not taken for our own database', () => {
    expect(
      refusedBy(
        Object.assign(new Error('could not connect to server'), { code: '08001', severity: 'ERROR' }),
      ),
    ).toBeNull();
    expect(
      refusedBy(Object.assign(new Error('terminating connection'), { code: '57P01', severity: 'FATAL' }))
        ?.kind,
    ).toBe('unavailable');
    expect(refusedBy(new Error('something else'))).toBeNull();
  });
});

describe('a statement that was planned', () => {
  it('before its table got other columns is planned anew, and nobody notices', async () => {
    await world.sql(
      `INSERT INTO records.beds (code, name, section, area) VALUES ('P1', 'Planned', 'x', 1.5)`,
    );
    const code = `P1`;
    let tries = 0;
    const area = () =>
      must(
        asPerson(asking, async (tx) => {
          tries++;
          const { rows } = await tx.execute(sql`SELECT area FROM records.beds WHERE code = ${code}`);
          return ok(rows[0]?.['area']);
        }),
      );
    // Several at once, so that several connections know the statement.
    await Promise.all(Array.from({ length: 8 }, area));
    await world.sql('ALTER TABLE records.beds ALTER COLUMN area TYPE text USING area::text');
    tries = 0;
    expect(await Promise.all(Array.from({ length: 8 }, area))).toEqual(
      Array.from({ length: 8 }, () => '1.50'),
    );
    expect(tries).toBeGreaterThan(8);
  });
});
