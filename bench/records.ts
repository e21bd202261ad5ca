import { sql } from 'drizzle-orm';
import type { EditInput } from '../src/core/record/edit-input';
import { newUuid } from '../src/core/kernel/ids';
import { ok } from '../src/core/kernel/result';
import { plainTable, type Table } from '../src/core/table/model';
import { catalogueNow } from '../src/data/catalogue';
import { closeConnections } from '../src/data/connect';
import { applyChanges } from '../src/data/runtime/tables/tables';
import { asOwner } from '../src/data/transaction';
import { openRecords } from '../src/use-cases/records/open-records';
import { readFacets } from '../src/use-cases/records/read-facets';
import { saveEdits } from '../src/use-cases/records/save-edits';
import { listTables } from '../src/use-cases/tables/read-tables';
import { middle } from './timing';
import { asIs, column, compare, ines, makeMany, many, must, ROWS, timed } from './many';

/** What people ask of a table of many records. */
await makeMany();

const page = { sort: '-quantity' };
const open = (more: object) => () => must(openRecords(ines, 'many', { ...page, ...more }));
const titled = 'LEFT JOIN records.beds b ON b.id = t.bed LEFT JOIN records.taxa x ON x.id = t.taxon';
const hand = (where: string) =>
  `SELECT t.*, b.code, b.name AS bed_name, x.name AS taxon_name FROM (SELECT * FROM records.many WHERE removed_at IS NULL ${where} ORDER BY quantity DESC NULLS LAST, id DESC LIMIT 101) t ${titled} ORDER BY t.quantity DESC NULLS LAST, t.id DESC`;
await compare('the first page by a column', open({}), hand(''));
await compare(
  'the newest first',
  () => must(openRecords(ines, 'many', { sort: '-number' })),
  `SELECT t.*, b.code, b.name AS bed_name, x.name AS taxon_name FROM (SELECT * FROM records.many WHERE removed_at IS NULL ORDER BY number DESC LIMIT 101) t ${titled} ORDER BY t.number DESC`,
);
const [{ id: inTheMiddle }] = (await must(
  asOwner({ person: ines.person.id }, async (tx) =>
    ok(
      (await tx.execute<{ id: string }>(sql`SELECT id FROM records.many WHERE quantity = 250 LIMIT 1`)).rows,
    ),
  ),
)) as [{ id: string }];
await compare(
  'a page in the middle',
  open({ after: inTheMiddle }),
  hand(`AND quantity <= 250 AND (quantity < 250 OR id < '${inTheMiddle}')`),
);
const IN_FERN_HOUSE = `AND state = 'a' AND bed = ANY (ARRAY(SELECT id FROM records.beds WHERE section = 'Fern house'))`;
await compare(
  'two conditions, one through a reference, counted',
  open({ where: 'state in ("a") and bed.section = "Fern house"' }),
  `${hand(IN_FERN_HOUSE)}; SELECT count(*) FROM (SELECT 1 FROM records.many WHERE removed_at IS NULL ${IN_FERN_HOUSE} LIMIT 10001) c`,
);
await compare(
  'words in all columns',
  open({ find: 'frond 77777' }),
  hand(
    ['frond', '77777']
      .map(
        (word) =>
          `AND slate.words(ARRAY[number, name, note, slate.letters(quantity), slate.letters(price), slate.letters(seen)]) LIKE '%${word}%'`,
      )
      .join(' '),
  ),
);
await compare(
  'facets of everything',
  () => must(readFacets(ines, 'many', { find: '', where: '', about: false })),
  ['state', 'wild', 'bed', 'taxon', "date_trunc('year', seen)", 'quantity / 100', 'floor(price / 20)']
    .map((by) => `(SELECT (${by})::text, count(*) FROM records.many WHERE removed_at IS NULL GROUP BY 1)`)
    .join(' UNION ALL '),
);

console.log(
  `${ROWS} records, facets of everything, about: ${(await timed(() => must(readFacets(ines, 'many', { find: '', where: '', about: true })))).toFixed(1)} ms`,
);

/** Sixteen people turn pages while two others have everything counted: what a page takes then, and nobody waits for the counting. */
let isCounting = true;
const counting = Array.from({ length: 2 }, async () => {
  while (isCounting) await must(readFacets(ines, 'many', { find: '', where: '', about: false }));
});
const waits: number[] = [];
await Promise.all(
  Array.from({ length: 16 }, async () => {
    for (let i = 0; i < 20; i++) {
      const began = performance.now();
      await open({})();
      waits.push(performance.now() - began);
    }
  }),
);
isCounting = false;
await Promise.all(counting);
waits.sort((a, b) => a - b);
console.log(
  `${ROWS} records, a page for 16 clients beside two that count: ${middle(waits).toFixed(0)} ms, p95 ${(waits[Math.floor(waits.length * 0.95)] ?? 0).toFixed(0)} ms`,
);

/** A hundred tables too large to be counted: what they have is said as the database last knew it. */
const others = Array.from({ length: 100 }, (_, i): Table => ({
  ...plainTable,
  id: newUuid(),
  key: `other_${i}`,
  label: `Other ${i}`,
  prefix: `O${i}`,
  columns: [column(`word${i}`)],
}));
await must(
  asOwner({ person: ines.person.id }, async (tx) => {
    const there = (await catalogueNow(tx)).tables;
    await applyChanges(
      tx,
      there,
      others.map((table) => ({ t: 'make-table' as const, table })),
      ['owner'],
    );
    for (const { key } of others)
      await tx.execute(
        sql.raw(
          `ALTER TABLE records.${key} DISABLE TRIGGER USER; INSERT INTO records.${key} (id, number) SELECT gen_random_uuid(), 'O-' || n FROM generate_series(1, 9000) n; ANALYZE records.${key}`,
        ),
      );
    return ok(null);
  }),
);
console.log(
  `the tables page with 100 large tables: ${(await timed(() => must(listTables(ines)))).toFixed(1)} ms`,
);
await asIs(others.map(({ key }) => `DROP TABLE records.${key} CASCADE`).join('; '));

/** 200 cells of 100 records, there and back, so that every round changes something. */
const { rows: edited } = await must(openRecords(ines, 'many', page));
let versions = new Map(edited.map(({ id, version }) => [id, version]));
let step = 0;
const save = async (): Promise<void> => {
  const [before, after] = [step, ++step];
  const edits = edited.map(({ id, cells }): EditInput => ({
    t: 'change',
    table: many.id,
    id,
    version: versions.get(id) ?? 1,
    before: {
      cmnote: before === 0 ? (cells['cmnote'] ?? null) : `note ${before}`,
      cmprice: before === 0 ? (cells['cmprice'] ?? null) : `${before}.25`,
    },
    values: { cmnote: `note ${after}`, cmprice: `${after}.25` },
  }));
  const saved = await must(saveEdits(ines, { key: newUuid(), edits }));
  versions = new Map(Object.entries(saved.versions));
};
const ids = edited.map(({ id }) => `'${id}'`).join(', ');
await compare(
  'saving 200 cells of 100 records',
  save,
  `UPDATE records.many SET note = 'note ' || clock_timestamp(), price = price + 0.01 WHERE id = ANY (ARRAY[${ids}]::uuid[])`,
);
await asIs('DROP TABLE records.many CASCADE');
await closeConnections();
