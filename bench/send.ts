import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { asker, signedIn, timed } from './loopback';
import { people, personNamed, samplePassword } from '../demo/people';
import { releaseForm } from '../src/use-cases/forms/release-form';
import { asOwner } from '../src/data/transaction';
import { closeConnections } from '../src/data/connect';
import { insertForm } from '../src/data/system/forms';
import { ok } from '../src/core/kernel/result';
import type { FormDesign } from '../src/core/form/design';

/**
 * Sending a submission with 10 rows through HTTP (checked, numbered, kept with history and outbox), against the
 * statements of the same transaction sent by pgbench to the same cluster.
 */
const ROUNDS = 300;
const WARM = 60;
const CLIENTS = 16;
const origin = process.env['SLATE_ORIGIN'] ?? '';
const [formId, table, child] = [
  '01900000-0000-7000-a000-0000000000b1',
  '01900000-0000-7000-9000-0000000000b1',
  '01900000-0000-7000-9000-0000000000b2',
];
const maren = personNamed('Maren');
const asked = (id: string) => ({ id, key: id, label: id, hint: '', required: true });
const design: FormDesign = {
  format: 1,
  title: 'Bench',
  area: '',
  checks: [{ id: 'qcheck', on: 'qa', must: 'qa <= 1000', message: 'Too much', otherwise: 'stop' }],
  steps: [],
  table: { id: table, key: 'bench', label: 'Bench', prefix: 'BE' },
  sections: [
    {
      id: 'qs',
      title: '',
      questions: [
        { ...asked('qname'), kind: 'text', long: false },
        {
          ...asked('qrows'),
          kind: 'rows',
          least: 1,
          most: 50,
          totals: [{ id: 'qtotal', key: 'total', label: 'Total', column: 'qc' }],
          table: { id: child, key: 'bench_rows', label: 'Bench rows', prefix: 'BR' },
          columns: [
            { ...asked('qa'), kind: 'decimal', decimals: 2, unit: '' },
            { ...asked('qb'), kind: 'decimal', decimals: 2, unit: '' },
            { ...asked('qc'), kind: 'calculated', expression: 'qa * qb', decimals: 2, unit: '' },
          ],
        },
      ],
    },
  ],
};
const answers = {
  values: { qname: 'Bench' },
  rows: {
    qrows: Array.from({ length: 10 }, (_, i) => ({ id: `r${i}`, cells: { qa: `${i + 1}.5`, qb: '2' } })),
  },
  reasons: {},
};

await asOwner({ person: maren.id }, async (tx) =>
  ok(
    await insertForm(tx, {
      id: formId,
      key: 'bench',
      design,
      ownerId: personNamed('Ines').id,
      editedBy: personNamed('Ines').id,
    }),
  ),
);
const ines = people.find(({ name }) => name.startsWith('Ines'));
if (
  ines === undefined ||
  !(await releaseForm({ person: ines, now: new Date() }, formId, { version: 1, fill: 'everybody' })).ok
)
  throw new Error('the bench form could not be released');

const cookie = await signedIn(origin, maren.email, samplePassword);
const one = { http: await throughHttp(1), sql: await byPgbench(1) };
const many = { http: await throughHttp(CLIENTS), sql: await byPgbench(CLIENTS) };
console.log(
  `sending 10 rows, one after another: HTTP ${one.http.each.toFixed(2)} ms, the same SQL by pgbench ${one.sql.each.toFixed(2)} ms, ratio ${(one.http.each / one.sql.each).toFixed(2)} (${ROUNDS} rounds each)`,
);
console.log(
  `sending 10 rows, ${CLIENTS} clients at once: HTTP ${many.http.perSecond.toFixed(0)} a second, the same SQL by pgbench ${many.sql.perSecond.toFixed(0)} a second, share ${(many.http.perSecond / many.sql.perSecond).toFixed(2)}`,
);
// Who released the form sees its tables.
const { ask, close } = asker(origin, await signedIn(origin, ines.email, samplePassword), CLIENTS);
const constant = async () => expectOk(await ask('GET', '/api/health?only=up'));
const page = async () => expectOk(await ask('GET', '/api/tables/bench_rows/records'));
await timed(WARM, CLIENTS, page);
for (const clients of [1, CLIENTS]) {
  const [nothing, records] = [
    await timed(ROUNDS * 2, clients, constant),
    await timed(ROUNDS * 2, clients, page),
  ];
  console.log(
    `a page of 50 records as JSON, ${clients} at once: ${records.perSecond.toFixed(0)} a second, an answer that is always the same ${nothing.perSecond.toFixed(0)}, share ${(records.perSecond / nothing.perSecond).toFixed(2)}`,
  );
}
close();
await closeConnections();

function expectOk({ status, text }: { status: number; text: string }): void {
  if (status !== 200) throw new Error(`${status}: ${text.slice(0, 300)}`);
}

/** Drafts are made first; only their sending is timed. */
async function throughHttp(clients: number): Promise<{ each: number; perSecond: number }> {
  // Connections that were idle while pgbench ran are closed by then.
  const { ask, close } = asker(origin, cookie, clients);
  const drafts = Array.from({ length: ROUNDS + WARM }, () => crypto.randomUUID());
  await timed(drafts.length, clients, async (round) =>
    expectOk(await ask('PUT', `/api/submissions/${drafts[round]}`, { form: formId, version: 0, answers })),
  );
  const send = async (round: number) =>
    expectOk(
      await ask('POST', `/api/submissions/${drafts[round]}/send`, { key: crypto.randomUUID(), version: 1 }),
    );
  await timed(WARM, clients, send);
  const found = await timed(ROUNDS, clients, (round) => send(WARM + round));
  close();
  return found;
}

/** What the application sends, statement by statement, prepared as it prepares them. Every client has drafts of its own. */
async function byPgbench(clients: number): Promise<{ each: number; perSecond: number }> {
  const drafts = (ROUNDS + WARM) * 2;
  const owner = new pg.Client({ connectionString: process.env['SLATE_OWNER_URL'] });
  await owner.connect();
  const release = String(
    (await owner.query('SELECT id FROM slate.form_release WHERE form_id = $1', [formId])).rows[0]?.id,
  );
  await owner.query(`DROP TABLE IF EXISTS slate.bench_draft; DROP SEQUENCE IF EXISTS slate.bench_at;
    CREATE SEQUENCE slate.bench_at; CREATE TABLE slate.bench_draft (n int PRIMARY KEY, id uuid); INSERT INTO slate.bench_draft SELECT n, gen_random_uuid() FROM generate_series(1, ${drafts}) n;
    GRANT USAGE ON SEQUENCE slate.bench_at TO PUBLIC; GRANT SELECT ON slate.bench_draft TO PUBLIC`);
  await owner.query(
    `INSERT INTO slate.submission (id, form_id, release_id, state, sender_id, answers) SELECT id, $1, $2, 'draft', $3, $4 FROM slate.bench_draft`,
    [formId, release, maren.id, JSON.stringify(answers)],
  );
  await owner.end();
  const file = join(process.env['SLATE_BENCH_FOLDER'] ?? '/tmp', 'send.sql');
  writeFileSync(file, statements(release));
  pgbench(file, Math.floor(WARM / clients), clients);
  return pgbench(file, Math.floor(ROUNDS / clients), clients);
}

function statements(release: string): string {
  const json = JSON.stringify(answers);
  const list = (of: (row: (typeof answers.rows.qrows)[number], i: number) => string): string =>
    `ARRAY[${answers.rows.qrows.map(of).join(', ')}]`;
  return `SELECT id AS draft, gen_random_uuid()::text AS key, gen_random_uuid() AS record FROM slate.bench_draft WHERE n = (SELECT nextval('slate.bench_at')) \\gset
BEGIN;
SELECT set_config('slate.person', '${maren.id}', true), slate.catalogue_at() AS number;
INSERT INTO slate.request_key (person_id, key, operation, body_hash) VALUES ('${maren.id}', :key, 'send', 'x') ON CONFLICT DO NOTHING RETURNING key;
SELECT * FROM slate.submission WHERE id = :draft FOR UPDATE;
SELECT set_config('slate.release', '${release}', true), set_config('slate.submission', :draft, true);
SELECT slate.next_number('${table}') AS number \\gset
SELECT slate.move_submission(:draft, 'send', 'kept', NULL, '{}', '', :number, '${json}', now());
INSERT INTO records.bench (id, number, qname, total) SELECT u.id, u.number, u.c0, u.c1 FROM unnest(ARRAY[:record::uuid], ARRAY[:number::text], ARRAY['Bench'], ARRAY[110]) WITH ORDINALITY AS u (id, number, c0, c1, place) ORDER BY place;
INSERT INTO records.bench_rows (id, number, parent_id, position, qa, qb, qc) SELECT u.id, n.number, :record, u.position, u.c0::numeric, u.c1::numeric, u.c2::numeric
  FROM unnest(${list(() => 'gen_random_uuid()')}, ${list((_, i) => String(i + 1))}, ${list(({ cells }) => `'${cells.qa}'`)}, ${list(({ cells }) => `'${cells.qb}'`)}, ${list(({ cells }) => `'${(Number(cells.qa) * 2).toFixed(2)}'`)}) WITH ORDINALITY AS u (id, position, c0, c1, c2, place)
  JOIN slate.take_numbers('${child}', 10) WITH ORDINALITY AS n (number, place) USING (place) ORDER BY place;
SELECT slate.note_kept(:draft, :record, now());
UPDATE slate.request_key SET answer = '{}' WHERE person_id = '${maren.id}' AND key = :key;
COMMIT;
`;
}

function pgbench(file: string, transactions: number, clients: number): { each: number; perSecond: number } {
  const app = new URL(process.env['SLATE_APP_URL'] ?? '');
  const done = spawnSync(
    process.env['SLATE_PGBENCH'] ?? 'pgbench',
    [
      ...['-n', '-M', 'prepared', '-f', file, '-t', String(Math.max(1, transactions)), '-c', String(clients)],
      ...['-j', '2', '-h', app.hostname, '-p', app.port, '-U', app.username, app.pathname.slice(1)],
    ],
    { encoding: 'utf8', env: { ...process.env, PGPASSWORD: app.password } },
  );
  const [each, perSecond] = [
    /latency average = ([\d.]+) ms/.exec(done.stdout),
    /tps = ([\d.]+)/.exec(done.stdout),
  ];
  if (done.status !== 0 || each === null || perSecond === null) throw new Error(done.stderr);
  return { each: Number(each[1]), perSecond: Number(perSecond[1]) };
}
