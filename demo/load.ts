import { sql } from 'drizzle-orm';
import type { FormDesign } from '../src/core/form/design';
import type { ClosedDays } from '../src/core/workspace';
import { ok } from '../src/core/kernel/result';
import { appDatabase, closeConnections, type Tx } from '../src/data/connect';
import { readPeople } from '../src/data/system/people';
import { applyChanges, grantSee } from '../src/data/runtime/tables/tables';
import { insertForm } from '../src/data/system/forms';
import { tablesOf } from '../src/core/storage/tables-of';
import { asOwner } from '../src/data/transaction';
import { keepList } from '../src/use-cases/lists/keep-list';
import { keepGroup } from '../src/use-cases/people/keep-group';
import { keepPerson } from '../src/use-cases/people/keep-person';
import { besideUses } from '../src/core/form/further-writes';
import { releaseForm } from '../src/use-cases/forms/release-form';
import { addLink, sayOutside } from '../src/use-cases/outside/keep-outside';
import type { Context } from '../src/use-cases/workspace/asking';
import { renewHolidays } from '../src/use-cases/workspace/renew-holidays';
import { addPeople } from './add-people';
import { bedRows, pastRows, productRows, taxonRows, type Row } from './generate';
import { must } from './must';
import { everydayForms, suppliers, volunteers } from './everyday-forms';
import { everydayPast, supplierRows, volunteerRows, withHours } from './everyday-rows';
import { bedInspection, plantIntake, treatmentRequest } from './forms';
import { choiceLists } from './lists';
import { matchTaxa } from './matches';
import { groups, managers, people, personNamed, samplePassword } from './people';
import { seeded } from './random';
import { loadEveryday, loadSubmissions } from './submissions';
import { linkStandIns, settleStandIns } from './stand-ins';
import { baseTables, beds, products, taxa } from './tables';
import { addPhotos } from './photos';

/** All forms of the garden, in the order of their ids. */
const forms: readonly { readonly key: string; readonly design: FormDesign }[] = [
  { key: 'treatment_request', design: treatmentRequest },
  { key: 'plant_intake', design: plantIntake },
  { key: 'bed_inspection', design: bedInspection },
  ...everydayForms,
];

/** Loads Quillmere Botanic Garden into an empty workspace; anywhere else it does nothing. The last line says which world there is. */
const LOADED = 'the sample world is loaded';
const known = await readPeople(appDatabase());
const isSample = known.length === 0 || known.some(({ email }) => email === personNamed('Ines').email);
if (isSample && !(await isLoaded())) {
  if (known.length > 0) await clearHalf();
  await load();
}
if (isSample) await settleStandIns();
process.stdout.write(
  isSample
    ? `sample: Sign in as ines.okafor@quillmere.example (owner), maren.solheim@… (gardener) or tomasz.bielak@… (section lead), password ${samplePassword}\n`
    : 'own: Sign in with your own account.\n',
);
await closeConnections();

/** Groups and managers, as an administrator says them. */
async function gathered(now: Date): Promise<void> {
  const wren = { person: { ...personNamed('Wren') }, now };
  const made = new Map<string, string>();
  for (const { label, people: names, groups: inner } of groups) {
    const id = crypto.randomUUID();
    made.set(label, id);
    const kept = await keepGroup(wren, id, {
      label,
      people: names.map((name) => personNamed(name).id),
      groups: inner.map((one) => made.get(one) ?? ''),
    });
    if (!kept.ok) throw new Error(JSON.stringify(kept.error));
  }
  for (const [name, manager] of managers) {
    const { id, email, place, roles, name: whole } = personNamed(name);
    const kept = await keepPerson(wren, id, {
      name: whole,
      email,
      place,
      roles: roles.filter((role) => role !== 'colleague'),
      manager: personNamed(manager).id,
      deputy: null,
    });
    if (!kept.ok) throw new Error(JSON.stringify(kept.error));
  }
}

/** Schools have no account, and ask for a visit by a link on the garden's website. */
async function openedToSchools(context: Context): Promise<void> {
  const form = formId(forms.findIndex(({ key }) => key === 'school_visit'));
  await must(
    sayOutside(context, form, {
      version: 0,
      welcome: 'Tell us about your class, and we write to you within two working days.',
      thanks: '',
      lookups: ['qsvplace'],
      origins: [],
      mailTo: 'qsvmail',
      language: null,
    }),
  );
  const link = { id: crypto.randomUUID(), label: 'Garden website', until: null, most: null };
  await must(addLink(context, form, link));
}

async function load(): Promise<void> {
  const random = seeded(20_261_123);
  const now = new Date();
  const base = {
    beds: bedRows(random),
    taxa: taxonRows(random),
    products: productRows(random),
    suppliers: supplierRows(seeded(7)),
    volunteers: volunteerRows(seeded(8)),
  };
  const ines = personNamed('Ines');
  const gardeners = people
    .filter(({ place }) => place.includes('house') || place === 'Nursery')
    .map(({ id }) => id);
  const everyday = everydayPast(seeded(9), now.getTime(), { ...base, people: gardeners });
  await inOwner(async (tx) => {
    await tx.execute(
      sql`UPDATE slate.workspace SET name = 'Quillmere Botanic Garden', zone = 'Europe/London', currency = 'GBP', opens = '08:00', closes = '16:30', holidays_of = 'GB-ENG', closed = ${JSON.stringify([betweenTheYears(now)])}::jsonb`,
    );
    await addPeople(
      tx,
      people.map((person) => ({ ...person, password: samplePassword })),
    );
    await applyChanges(
      tx,
      new Map(),
      [...baseTables, suppliers, volunteers].map((table) => ({ t: 'make-table', table })),
      ['owner', 'steward', 'administrator', 'colleague'],
    );
    for (const [table, rows] of [
      [beds, base.beds],
      [taxa, base.taxa],
      [products, base.products],
      [suppliers, base.suppliers],
      [volunteers, withHours(base.volunteers, everyday)],
    ] as const)
      await insertRows(
        tx,
        table.key,
        rows.map((row) => ({ ...row, created_by: ines.id })),
      );
    for (const [i, form] of forms.entries()) await insertForm(tx, formRow(i, form, ines.id));
  });
  await renewHolidays(now);
  await gathered(now);
  const context = { person: { ...ines }, now };
  for (const { id, ...list } of choiceLists) {
    const kept = await keepList(context, id, list);
    if (!kept.ok) throw new Error(JSON.stringify(kept.error));
  }
  for (const [i, { design }] of forms.entries()) {
    const allow = besideUses(design).map(({ table }) => table);
    const released = await releaseForm(context, formId(i), { version: 1, fill: 'everybody', allow });
    if (!released.ok) throw new Error(JSON.stringify(released.error));
  }
  await openedToSchools(context);
  await inOwner(async (tx) => {
    for (const { table, rows } of pastRows(random, now.getTime(), { ...base, people: gardeners }))
      await insertRows(tx, table, rows);
    for (const { table, rows } of everyday) await insertRows(tx, table, rows);
    await setCounters(tx);
    await addPhotos(tx, random);
    const tables = [
      treatmentRequest.table.id,
      plantIntake.table.id,
      bedInspection.table.id,
      '01900000-0000-7000-9000-000000000005',
      '01900000-0000-7000-9000-000000000007',
      ...everydayForms.flatMap(({ design }) => tablesOf(design).map(({ id }) => id)),
    ];
    await grantSee(tx, tables, 'colleague');
    // Stewards keep the tables: they work in the records themselves.
    await tx.execute(
      sql`INSERT INTO slate.access_grant (table_id, role, action) SELECT id, 'steward', action FROM slate.designed_table, unnest(ARRAY['add', 'change', 'remove']) AS action ON CONFLICT DO NOTHING`,
    );
    await tx.execute(
      sql`INSERT INTO slate.access_grant (table_id, role, action, columns) VALUES (${volunteers.id}, 'steward', 'see-columns', ARRAY['cvolphone'])`,
    );
  });
  await loadSubmissions(random, now, base);
  await loadEveryday(seeded(10), now, base);
  await linkStandIns(now);
  await matchTaxa({ person: ines, now });
  // What happened before today is no news to anybody, and none of it is mailed.
  await inOwner((tx) =>
    tx.execute(
      sql`UPDATE slate.notice SET mailed_at = at, seen_at = CASE WHEN at < now() - interval '3 days' THEN at ELSE seen_at END WHERE at < now() - interval '1 day'`,
    ),
  );
  await inOwner((tx) => tx.execute(sql`ANALYZE`));
  await inOwner((tx) => tx.execute(sql`COMMENT ON SCHEMA records IS ${sql.raw(`'${LOADED}'`)}`));
}

async function isLoaded(): Promise<boolean> {
  const { rows } = await appDatabase().execute<{ words: string | null }>(
    sql`SELECT obj_description('records'::regnamespace, 'pg_namespace') AS words`,
  );
  return rows[0]?.words === LOADED;
}

/** A load that was killed half way is begun anew; nothing but the sample can be there, for nobody could sign in yet. */
async function clearHalf(): Promise<void> {
  await inOwner(async (tx) => {
    const { rows } = await tx.execute<{ name: string }>(
      sql`SELECT tablename AS name FROM pg_tables WHERE schemaname = 'records'`,
    );
    for (const { name } of rows) await tx.execute(sql`DROP TABLE records.${sql.identifier(name)} CASCADE`);
    await tx.execute(sql`DROP SCHEMA outside CASCADE`);
    await tx.execute(sql`CREATE SCHEMA outside`);
    const servers = await tx.execute<{ name: string }>(
      sql`SELECT srvname AS name FROM pg_foreign_server WHERE srvname LIKE 'source\\_%'`,
    );
    for (const { name } of servers.rows) await tx.execute(sql`DROP SERVER ${sql.identifier(name)} CASCADE`);
    await tx.execute(
      sql`TRUNCATE slate.person, slate.source, slate.designed_table, slate.choice_list, slate.choice_list_version, slate.number_counter, slate.history, slate.outbox CASCADE`,
    );
  });
}

function formId(i: number): string {
  return `01900000-0000-7000-a000-00000000000${i + 1}`;
}

function formRow(
  i: number,
  { key, design }: (typeof forms)[number],
  ownerId: string,
): Parameters<typeof insertForm>[1] {
  return {
    id: formId(i),
    key,
    ownerId,
    editedBy: ownerId,
    design,
  };
}

async function inOwner(work: (tx: Tx) => Promise<unknown>): Promise<void> {
  const done = await asOwner({ person: personNamed('Ines').id }, async (tx) => ok(await work(tx)));
  if (!done.ok) throw new Error(JSON.stringify(done.error));
}

/** jsonb_populate_recordset reads each row by the types of the table, so one statement serves every table. */
async function insertRows(tx: Tx, table: string, rows: readonly Row[]): Promise<void> {
  const columns = Object.keys(rows[0] ?? {});
  const names = sql.join(
    columns.map((name) => sql.identifier(name)),
    sql`, `,
  );
  for (let at = 0; at < rows.length; at += 1_000) {
    await tx.execute(
      sql`INSERT INTO records.${sql.identifier(table)} (${names}) SELECT ${names} FROM jsonb_populate_recordset(NULL::records.${sql.identifier(table)}, ${JSON.stringify(rows.slice(at, at + 1_000))}::jsonb)`,
    );
  }
}

/** The counters go on from the numbers of the past. */
async function setCounters(tx: Tx): Promise<void> {
  for (const key of [
    'intakes',
    'accessions',
    'treatments',
    'treatment_lines',
    'inspections',
    ...everydayForms.flatMap(({ design }) => tablesOf(design).map((table) => table.key)),
  ]) {
    await tx.execute(sql`INSERT INTO slate.number_counter (table_id, year, last)
      SELECT t.id, split_part(r.number, '-', 2)::int, max(split_part(r.number, '-', 3)::int) FROM records.${sql.identifier(key)} r, slate.designed_table t WHERE t.key = ${key} GROUP BY 1, 2
      ON CONFLICT (table_id, year) DO UPDATE SET last = excluded.last`);
  }
}

/** The garden opens its gates again in January. */
function betweenTheYears(now: Date): ClosedDays {
  const year = now.getUTCFullYear();
  return { from: `${year}-12-27`, until: `${year}-12-31`, name: 'Closed between the years' };
}
