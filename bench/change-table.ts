import pg from 'pg';
import { sql } from 'drizzle-orm';
import { personNamed } from '../demo/people';
import { ok } from '../src/core/kernel/result';
import { plainColumn, plainTable, type Column, type Table } from '../src/core/table/model';
import { closeConnections } from '../src/data/connect';
import { asOwner } from '../src/data/transaction';
import { changeTable, runTableChange } from '../src/use-cases/tables/change-table';
import { openTableDesign, saveTableChange } from '../src/use-cases/tables/design-table';

/** Changes of a large table while others write to it: how long each takes, whether any writer is refused, and how long one waits at most. */
const SIZES = (process.env['SLATE_BENCH_ROWS'] ?? '10000,100000,1000000').split(',').map(Number);
const CLIENTS = 8;
const context = { person: { ...personNamed('Ines'), roles: ['owner' as const] }, now: new Date() };

const column = (id: string, more: Partial<Column>): Column => ({
  ...plainColumn,
  id: `c${id}`,
  key: id,
  label: id,
  ...more,
});

async function run(table: Table, base: number, mends = {}): Promise<void> {
  const id = crypto.randomUUID();
  const saved = await saveTableChange(context, id, {
    version: 0,
    base,
    redesign: { table, readings: {}, mends },
  });
  const begun = saved.ok ? await runTableChange(context, id, { version: saved.value.version }) : saved;
  if (!begun.ok) throw new Error(JSON.stringify(begun.error));
  if (begun.value.state === 'running') await changeTable(id);
}

async function now(key: string): Promise<Table> {
  const opened = await openTableDesign(context, key);
  if (!opened.ok || opened.value.table === null) throw new Error('no table');
  if (opened.value.draft !== null)
    throw new Error(`a change was not carried out: ${JSON.stringify(opened.value.draft.issues)}`);
  return opened.value.table;
}

interface Writing {
  written: number;
  refused: number;
  longest: number;
}

/** Eight clients that change and add records one after the other, until `work` has ended; each waits a moment between. */
async function whileWriting(
  key: string,
  rows: number,
  work: () => Promise<void>,
): Promise<Writing & { ms: number }> {
  const writing: Writing = { written: 0, refused: 0, longest: 0 };
  let going = true;
  const clients = await Promise.all(
    Array.from({ length: CLIENTS }, async (_, client) => {
      const connection = new pg.Client({ connectionString: process.env['SLATE_OWNER_URL'] });
      await connection.connect();
      const loop = (async () => {
        for (let i = 0; going; i++) {
          const began = performance.now();
          const place = `c${client}-${i}-${began}`;
          const done =
            i % 4 === 0
              ? connection.query(`INSERT INTO records.${key} (place, level) VALUES ($1, '12')`, [place])
              : connection.query(`UPDATE records.${key} SET level = '34' WHERE number = $1`, [
                  `G-${1 + ((client * 7919 + i * 104_729) % rows)}`,
                ]);
          await done.then(
            () => (writing.written += 1),
            (error: unknown) => (
              (writing.refused += 1),
              console.log('refused:', error instanceof Error ? error.message : error)
            ),
          );
          writing.longest = Math.max(writing.longest, performance.now() - began);
          await new Promise((resolve) => setTimeout(resolve, 5));
        }
      })();
      return { connection, loop };
    }),
  );
  const began = performance.now();
  await work();
  const ms = performance.now() - began;
  going = false;
  for (const { connection, loop } of clients) {
    await loop;
    await connection.end();
  }
  return { ...writing, ms };
}

for (const rows of SIZES) {
  const key = `gauges_${rows}`;
  await run(
    {
      ...plainTable,
      id: crypto.randomUUID(),
      key,
      label: key,
      prefix: 'G',
      columns: [column('place', { required: true }), column('level', {}), column('note', {})],
    },
    0,
  );
  await asOwner({ person: context.person.id }, async (tx) => {
    const name = sql.identifier(key);
    await tx.execute(sql`ALTER TABLE records.${name} DISABLE TRIGGER USER`);
    await tx.execute(
      sql`INSERT INTO records.${name} (number, place, level, note) SELECT 'G-' || i, 'p' || i, (i % 5000)::text, 'a note of some words ' || i FROM generate_series(1, ${rows}::int) i`,
    );
    await tx.execute(sql`ALTER TABLE records.${name} ENABLE TRIGGER USER`);
    return ok(null);
  });
  await asOwner({ person: '' }, async (tx) =>
    ok(await tx.execute(sql`ANALYZE records.${sql.identifier(key)}`)),
  );
  const say = (what: string, { ms, written, refused, longest }: Writing & { ms: number }) =>
    console.log(
      `${rows} rows, ${CLIENTS} clients writing, ${what}: ${(ms / 1000).toFixed(1)} s, ${written} writes, ${refused} refused, longest wait ${longest.toFixed(0)} ms`,
    );
  say(
    'nothing else',
    await whileWriting(key, rows, () => new Promise((resolve) => setTimeout(resolve, 3_000))),
  );
  const added = await now(key);
  say(
    'a column that must be filled is added',
    await whileWriting(key, rows, () =>
      run(
        {
          ...added,
          columns: [
            ...added.columns,
            column('state', {
              kind: 'choice',
              choices: [{ code: 'dry', label: 'Dry' }],
              required: true,
              default: '"dry"',
            }),
          ],
        },
        added.version,
        { cstate: { '': 'Dry' } },
      ),
    ),
  );
  const converted = await now(key);
  say(
    'a text becomes a number',
    await whileWriting(key, rows, () =>
      run(
        {
          ...converted,
          columns: converted.columns.map((one) =>
            one.id === 'clevel' ? { ...one, kind: 'whole', decimals: 0 } : one,
          ),
        },
        converted.version,
      ),
    ),
  );
  const unique = await now(key);
  say(
    'a column is made unique',
    await whileWriting(key, rows, () =>
      run(
        {
          ...unique,
          columns: unique.columns.map((one) => (one.id === 'cplace' ? { ...one, unique: true } : one)),
        },
        unique.version,
      ),
    ),
  );
  await now(key);
}
await closeConnections();
