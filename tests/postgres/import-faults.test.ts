import { afterAll, describe, expect, it } from 'vitest';
import { limits } from '../../src/core/limits';
import { beginImport, bringPiece, readBrought } from '../../src/use-cases/imports/begin-import';
import { acceptImport, openImport } from '../../src/use-cases/imports/decide-import';
import { until, Workers } from '../support/workers';
import { as, must, newId, useWorld } from '../support/world';

/** Long enough to be killed in the middle of. */
const ROWS = 80_000;
const world = useWorld();
const workers = new Workers();
afterAll(async () => {
  workers.end();
});

describe('a worker that is killed', () => {
  it('in the middle of reading and of keeping leaves nothing half done, and the next takes it up', async () => {
    const content = Buffer.from(
      `Code,Name,House,Amount\n${Array.from({ length: ROWS }, (_, i) => `K${i},Plant ${i},House ${i % 40},${i % 97}.5`).join('\n')}\n`,
    );
    const id = newId();
    await must(beginImport(as('Ines'), { id, files: [{ name: 'stock.csv', bytes: content.length }] }));
    for (let piece = 0; piece * limits.pieceBytes < content.length; piece++)
      await must(
        bringPiece(as('Ines'), id, {
          file: 0,
          piece,
          bytes: content.subarray(piece * limits.pieceBytes, (piece + 1) * limits.pieceBytes),
        }),
      );
    await must(readBrought(as('Ines'), id));
    const state = async () => must(openImport(as('Ines'), id));

    const reading = workers.begin();
    await until(
      async () => ((await state()).progress?.rows ?? 0) > 0 || (await state()).state === 'proposed',
    );
    await workers.kill(reading);

    const second = workers.begin();
    const proposed = await until(async () => {
      const now = await state();
      return now.state === 'proposed' && now;
    });
    await must(acceptImport(as('Ines'), id, { version: proposed.version }));
    // In the middle: the transaction that fills the table is open, and nobody sees anything of it.
    await until(
      async () =>
        (
          await world.sql(
            `SELECT 1 FROM pg_stat_activity WHERE query LIKE 'COPY%' AND datname = current_database()`,
          )
        ).length > 0 || (await state()).state === 'kept',
    );
    expect((await state()).state).toBe('keeping');
    await workers.kill(second);
    expect(
      await world.sql(
        `SELECT to_regclass('records.stock')::text AS there, (SELECT count(*)::int FROM slate.designed_table WHERE key = 'stock') AS known`,
      ),
    ).toEqual([{ there: null, known: 0 }]);
    expect((await state()).state).toBe('keeping');

    workers.begin();
    const done = await until(async () => {
      const now = await state();
      return now.state === 'kept' && now;
    });
    expect(done.result?.tables).toEqual([{ key: 'stock', label: 'Stock', records: ROWS }]);
    expect(
      await world.sql('SELECT count(*)::int AS n, count(DISTINCT number)::int AS numbers FROM records.stock'),
    ).toEqual([{ n: ROWS, numbers: ROWS }]);
    expect(
      await world.sql(
        `SELECT count(*)::int AS n FROM records.stock s JOIN slate.history h ON h.change = 'imported' AND s.id BETWEEN h.record_id AND h.last_id`,
      ),
    ).toEqual([{ n: 80000 }]);
  }, 240_000);
});
