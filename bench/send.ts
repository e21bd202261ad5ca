import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { people, personNamed, samplePassword } from '../demo/people';
import { releaseForm } from '../src/use-cases/release-form';
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
if (ines === undefined || !(await releaseForm({ person: ines, now: new Date() }, formId, { version: 1 })).ok)
  throw new Error('the bench form could not be released');

const http = await throughHttp();
const sql = await byPgbench();
console.log(
  `sending 10 rows, one after another: HTTP ${http.toFixed(2)} ms, the same SQL by pgbench ${sql.toFixed(2)} ms, ratio ${(http / sql).toFixed(2)} (${ROUNDS} rounds each)`,
);
await closeConnections();

async function throughHttp(): Promise<number> {
  const entered = await fetch(`${origin}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin },
    body: JSON.stringify({ email: maren.email, password: samplePassword }),
  });
  const headers = {
    'content-type': 'application/json',
    cookie: entered.headers
      .getSetCookie()
      .map((one) => one.split(';')[0])
      .join('; '),
  };
  const times: number[] = [];
  for (let i = 0; i < ROUNDS + WARM; i++) {
    const id = crypto.randomUUID();
    const kept = await fetch(`${origin}/api/submissions/${id}`, {
      method: 'PUT',
      headers,
      body: JSON.stringify({ form: formId, version: 0, answers }),
    });
    if (!kept.ok) throw new Error(await kept.text());
    await kept.json();
    const began = performance.now();
    const sent = await fetch(`${origin}/api/submissions/${id}/send`, {
      method: 'POST',
      headers,
      body: JSON.stringify({ key: crypto.randomUUID(), version: 1 }),
    });
    if (!sent.ok) throw new Error(await sent.text());
    await sent.json();
    if (i >= WARM) times.push(performance.now() - began);
  }
  return times.reduce((all, one) => all + one, 0) / times.length;
}

/** What the application sends, statement by statement, with the answers written in. */
async function byPgbench(): Promise<number> {
  const owner = new pg.Client({ connectionString: process.env['SLATE_OWNER_URL'] });
  await owner.connect();
  const release = String(
    (await owner.query('SELECT id FROM slate.form_release WHERE form_id = $1', [formId])).rows[0]?.id,
  );
  await owner.query(`CREATE SEQUENCE slate.bench_at; CREATE TABLE slate.bench_draft (n int PRIMARY KEY, id uuid); INSERT INTO slate.bench_draft SELECT n, gen_random_uuid() FROM generate_series(1, ${ROUNDS + WARM}) n;
    GRANT USAGE ON SEQUENCE slate.bench_at TO PUBLIC; GRANT SELECT ON slate.bench_draft TO PUBLIC`);
  await owner.query(
    `INSERT INTO slate.submission (id, form_id, release_id, state, sender_id, answers) SELECT id, $1, $2, 'draft', $3, $4 FROM slate.bench_draft`,
    [formId, release, maren.id, JSON.stringify(answers)],
  );
  await owner.end();
  const json = JSON.stringify(answers);
  const rows = answers.rows.qrows
    .map(
      ({ cells }, i) =>
        `(':record'::uuid, ${i + 1}, '${cells.qa}', '${cells.qb}', '${(Number(cells.qa) * 2).toFixed(2)}')`,
    )
    .join(', ');
  const script = `SELECT id AS draft, gen_random_uuid() AS key, gen_random_uuid() AS record FROM slate.bench_draft WHERE n = (SELECT nextval('slate.bench_at')) \\gset
BEGIN;
SELECT set_config('slate.person', '${maren.id}', true);
INSERT INTO slate.request_key (person_id, key) VALUES ('${maren.id}', ':key') ON CONFLICT DO NOTHING RETURNING key;
SELECT * FROM slate.submission WHERE id = ':draft' FOR UPDATE;
SELECT * FROM slate.form_release WHERE id = '${release}';
SELECT set_config('slate.release', '${release}', true);
SELECT * FROM slate.designed_table ORDER BY label;
SELECT * FROM slate.designed_column ORDER BY position;
SELECT slate.next_number('${table}') AS number \\gset
SELECT slate.move_submission(':draft', 'send', 'kept', NULL, '{}', '', ':number', '${json}', now());
SELECT * FROM slate.designed_table ORDER BY label;
SELECT * FROM slate.designed_column ORDER BY position;
SELECT set_config('slate.submission', ':draft', true);
SAVEPOINT rows;
INSERT INTO records.bench (id, number, qname, total) VALUES (':record', ':number', 'Bench', 110);
INSERT INTO records.bench_rows (parent_id, position, qa, qb, qc) VALUES ${rows};
RELEASE SAVEPOINT rows;
SELECT slate.note_kept(':draft', ':record', now());
UPDATE slate.request_key SET answer = '{}' WHERE person_id = '${maren.id}' AND key = ':key';
COMMIT;
`;
  const file = join(process.env['SLATE_BENCH_FOLDER'] ?? '/tmp', 'send.sql');
  writeFileSync(file, script);
  const app = new URL(process.env['SLATE_APP_URL'] ?? '');
  const bench = (transactions: number) => {
    const done = spawnSync(
      process.env['SLATE_PGBENCH'] ?? 'pgbench',
      [
        '-n',
        '-f',
        file,
        '-t',
        String(transactions),
        '-h',
        app.hostname,
        '-p',
        app.port,
        '-U',
        app.username,
        app.pathname.slice(1),
      ],
      { encoding: 'utf8', env: { ...process.env, PGPASSWORD: app.password } },
    );
    const found = /latency average = ([\d.]+) ms/.exec(done.stdout);
    if (done.status !== 0 || found === null) throw new Error(done.stderr);
    return Number(found[1]);
  };
  bench(WARM);
  return bench(ROUNDS);
}
