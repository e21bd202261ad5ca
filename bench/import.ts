import { createReadStream, createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { sql, type SQL } from 'drizzle-orm';
import { PgDialect } from 'drizzle-orm/pg-core';
import { to as copyTo } from 'pg-copy-streams';
import { personNamed } from '../demo/people';
import { detect } from '../src/core/import/detect';
import { ok } from '../src/core/kernel/result';
import { limits } from '../src/core/limits';
import { closeConnections, holdOwner } from '../src/data/connect';
import { asOwner, asOwnerCopying } from '../src/data/transaction';
import { profiled } from '../src/files/sheets';
import { beginImport, bringPiece, readBrought } from '../src/use-cases/imports/begin-import';
import { acceptImport, openImport } from '../src/use-cases/imports/decide-import';
import { keepImport } from '../src/use-cases/imports/keep-import';
import { readSheets } from '../src/use-cases/imports/read-import';

/** Sheets into tables, as the job does it, against PostgreSQL's own COPY of the same file; and relations among twenty sheets. */
const SIZES = (process.env['SLATE_BENCH_ROWS'] ?? '10000,100000,1000000').split(',').map(Number);
const context = { person: { ...personNamed('Ines'), roles: ['owner' as const] }, now: new Date() };
const folder = mkdtempSync(join(tmpdir(), 'slate-bench-import-'));
const heading = 'Code,Name,Bed,Taxon,Received on,Quantity,Price,State,From abroad,Permit,Notes,Recorder';
const states = ['quarantine', 'growing', 'planted'];

/** Independent of one another, so that no column tells another. */
function pick(i: number, column: number, of: number): number {
  let n = Math.imul(i ^ (column * 0x9e3779b1), 0x85ebca6b);
  n = Math.imul(n ^ (n >>> 13), 0xc2b2ae35);
  return ((n ^ (n >>> 16)) >>> 0) % of;
}

function line(i: number): string {
  const day = new Date(Date.UTC(2010, 0, 1) + pick(i, 1, 5_000) * 86_400_000).toISOString().slice(0, 10);
  const permit = pick(i, 9, 5) === 0 ? `PN-${i}` : '';
  return `AC-${String(i).padStart(7, '0')},Plant number ${pick(i, 2, 40_000)},G${pick(i, 3, 7)}-${pick(i, 4, 128)},Taxon ${pick(i, 5, 9_001)},${day},${pick(i, 6, 97)},${pick(i, 7, 1_000) / 4 + 0.25},${states[pick(i, 8, 3)]},${pick(i, 10, 7) > 2 ? 'yes' : 'no'},${permit},"Some notes, row ${pick(i, 11, 33_333)} with words",recorder${pick(i, 12, 29)}@quillmere.example\n`;
}

async function sheet(path: string, rows: number, of: (i: number) => string, first: string): Promise<void> {
  const out = createWriteStream(path);
  let text = `${first}\n`;
  for (let i = 1; i <= rows; i++) {
    text += of(i);
    if (text.length < 1 << 20) continue;
    if (!out.write(text)) await once(out, 'drain');
    text = '';
  }
  out.end(text);
  await once(out, 'finish');
}

async function rawCopy(path: string): Promise<number> {
  await asOwner({ person: '' }, async (tx) =>
    ok(
      await tx.execute(
        sql`DROP TABLE IF EXISTS records.raw; CREATE TABLE records.raw (code text, name text, bed text, taxon text, received_on date, quantity numeric(15, 0), price numeric(17, 2), state text, from_abroad boolean, permit text, notes text, recorder text)`,
      ),
    ),
  );
  const began = performance.now();
  await asOwnerCopying({ person: '' }, async (_, copy) => {
    await pipeline(
      createReadStream(path, { highWaterMark: 1 << 20 }),
      copy(sql`COPY records.raw FROM STDIN (FORMAT csv, HEADER)`),
    );
    return ok(null);
  });
  return performance.now() - began;
}

/** Ways to bring the rows of a finished table into a table again by COPY: as bare columns, with its keys and checks in place, or with its references and triggers too. */
type Again = 'columns' | 'keys' | 'all';

/** How long PostgreSQL takes to copy the rows of a table, as they came to be, into the same columns again. */
async function copyAgain(key: string, path: string, again: Again): Promise<number> {
  const [table, target] = [sql.identifier(key), sql.identifier(again === 'all' ? key : 'again')];
  await copiedOut(sql`COPY records.${table} TO STDOUT`, path);
  await asOwner({ person: context.person.id }, async (tx) => {
    if (again === 'all') return ok(await tx.execute(sql`TRUNCATE records.${table}`));
    return ok(
      await tx.execute(
        sql`DROP TABLE IF EXISTS records.again; CREATE TABLE records.again (LIKE records.${table} INCLUDING DEFAULTS ${again === 'keys' ? sql`INCLUDING INDEXES INCLUDING CONSTRAINTS` : sql``})`,
      ),
    );
  });
  return timed(
    async () =>
      void (await asOwnerCopying({ person: context.person.id }, async (_, copy) => {
        await pipeline(
          createReadStream(path, { highWaterMark: 1 << 20 }),
          copy(sql`COPY records.${target} FROM STDIN`),
        );
        return ok(null);
      })),
  );
}

async function copiedOut(statement: SQL, path: string): Promise<void> {
  const { client, giveBack } = await holdOwner();
  try {
    await pipeline(client.query(copyTo(new PgDialect().sqlToQuery(statement).sql)), createWriteStream(path));
  } finally {
    giveBack();
  }
}

async function brought(path: string, name: string): Promise<string> {
  const id = crypto.randomUUID();
  const { size } = statSync(path);
  await beginImport(context, { id, files: [{ name, bytes: size }] });
  let piece = 0;
  for await (const bytes of createReadStream(path, { highWaterMark: limits.pieceBytes }))
    await bringPiece(context, id, { file: 0, piece: piece++, bytes: bytes as Buffer });
  await readBrought(context, id);
  return id;
}

async function timed(work: () => Promise<void>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

/** One import, from what was brought to the tables, and what it made. */
async function imported(
  path: string,
  name: string,
): Promise<{ reading: number; keeping: number; made: string; key: string }> {
  const id = await brought(path, name);
  const reading = await timed(() => readSheets(id));
  const opened = await openImport(context, id);
  if (!opened.ok) throw new Error('the import is not there');
  await acceptImport(context, id, { version: opened.value.version });
  const keeping = await timed(() => keepImport(id));
  const done = await openImport(context, id);
  const [table] = done.ok ? (done.value.result?.tables ?? []) : [];
  if (table === undefined) throw new Error('the import made nothing');
  return { reading, keeping, made: `${table.key} ${table.records}`, key: table.key };
}

/** As if the table had never been made, for the next import of the same. */
async function forgotten(key: string): Promise<void> {
  await asOwner({ person: context.person.id }, async (tx) => {
    await tx.execute(sql`DROP TABLE records.${sql.identifier(key)}`);
    for (const kept of ['history', 'number_counter', 'access_grant', 'designed_column'])
      await tx.execute(
        sql`DELETE FROM slate.${sql.identifier(kept)} WHERE table_id = (SELECT id FROM slate.designed_table WHERE key = ${key})`,
      );
    return ok(await tx.execute(sql`DELETE FROM slate.designed_table WHERE key = ${key}`));
  });
}

/** Each is measured so often by turns, and the shortest counts: a machine that others use as well is at times three times slower. */
const TURNS = 3;

for (const rows of SIZES) {
  const [path, copied] = [join(folder, `stock_${rows}.csv`), join(folder, 'copied')];
  await sheet(path, rows, line, heading);
  const turns: {
    reading: number;
    keeping: number;
    file: number;
    columns: number;
    keys: number;
    made: string;
    key: string;
  }[] = [];
  for (let turn = 1; turn <= TURNS; turn++) {
    const before = turns.at(-1);
    if (before !== undefined) await forgotten(before.key);
    const file = await rawCopy(path);
    const one = await imported(path, `stock_${rows}.csv`);
    turns.push({
      ...one,
      file,
      columns: await copyAgain(one.key, copied, 'columns'),
      keys: await copyAgain(one.key, copied, 'keys'),
    });
  }
  const [{ reading, keeping, made, key }] = [...turns].sort(
    (m, n) => m.reading + m.keeping - n.reading - n.keeping,
  ) as [(typeof turns)[number]];
  const least = (of: 'file' | 'columns' | 'keys'): number => Math.min(...turns.map((one) => one[of]));
  const beside = (words: string, took: number): string =>
    `${words} ${s(took)}, speed ${(took / (reading + keeping)).toFixed(2)} of it`;
  console.log(
    [
      `import of ${rows} rows x 12 columns: detected in ${s(reading)}, checked and kept with history in ${s(keeping)}; most memory ${Math.round(process.resourceUsage().maxRSS / 1024)} MB; ${made}`,
      beside('COPY of the file into its 12 columns, bare', least('file')),
      beside('COPY of the same rows into the same columns, bare', least('columns')),
      beside('COPY of the same rows into the same columns with their keys and checks', least('keys')),
      beside(
        'COPY of the same rows into the same table, with its keys, references, stamps and history, once',
        await copyAgain(key, copied, 'all'),
      ),
    ].join('\n  '),
  );
  await forgotten(key);
}

for (const rows of [10_000, 100_000]) {
  const files = await Promise.all(
    Array.from({ length: 20 }, async (_, n) => {
      const path = join(folder, `list_${n}_${rows}.csv`);
      await sheet(
        path,
        rows,
        (i) =>
          `L${n}-${i},Name ${pick(i, 1, rows)},${pick(i, 2, 100)},L${(n + 1) % 20}-${pick(i, 3, rows) + 1},L${(n + 7) % 20}-${pick(i, 4, rows) + 1},Group ${pick(i, 5, 40)}\n`,
        `Code,Name,Amount,Follows,Beside,Group`,
      );
      return { path, name: `list_${n}.csv` };
    }),
  );
  let found = 0;
  const took = await timed(async () => {
    found = detect(await profiled(files)).relations.length;
  });
  console.log(
    `relations among 20 sheets of ${rows} rows: ${s(took)}, ${found} found; most memory ${Math.round(process.resourceUsage().maxRSS / 1024)} MB`,
  );
}
rmSync(folder, { recursive: true, force: true });
await closeConnections();

function s(ms: number): string {
  return `${(ms / 1_000).toFixed(2)} s`;
}
