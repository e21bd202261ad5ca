import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { personNamed } from '../demo/people';
import { closeConnections } from '../src/data/connect';
import { lookOverDue } from '../src/use-cases/notices/look-over-due';
import { decideSubmission } from '../src/use-cases/submissions/decide-submission';
import { openApprovals } from '../src/use-cases/submissions/open-home';
import { digestWaiting } from '../src/use-cases/submissions/digest';
import { middle } from './timing';

/**
 * What waits for somebody among a million submissions: the list against a query written by hand, and the round that looks over what is due, once with
 * everything to tell and once with nothing new.
 */
const ALL = Number(process.env['SLATE_BENCH_ROWS'] ?? 1_000_000);
const WAITING = 200;
const DUE = ALL / 10;
const ROUNDS = 60;
const [tomasz, maren] = [personNamed('Tomasz'), personNamed('Maren')];
const now = new Date();
const client = new pg.Client({ connectionString: process.env['SLATE_OWNER_URL'] });
await client.connect();

/** Made without triggers, for a million notices of what is long over are nothing to measure. */
async function make(count: number, state: string, asks: string, daysAgo: number): Promise<void> {
  await client.query(
    `WITH release AS (SELECT r.id, r.form_id FROM slate.form_release r JOIN slate.form f ON f.id = r.form_id WHERE f.key = 'treatment_request' ORDER BY r.number DESC LIMIT 1),
     made AS (INSERT INTO slate.submission (id, form_id, release_id, number, state, step, sender_id, answers, sent_answers, sent_at, created_at, updated_at)
       SELECT gen_random_uuid(), form_id, release.id, 'B-' || i, $2, CASE WHEN $2 = 'waiting' THEN 0 END, $3, '{"values": {}, "rows": {}, "reasons": {}}', '{}', at, at, at
       FROM release, generate_series(1, $1::int) i, LATERAL (SELECT now() - make_interval(days => $4::int, secs => i % 3600) AS at) AS moment RETURNING id, sent_at),
     sent AS (INSERT INTO slate.submission_event (submission_id, position, kind, by_id, at) SELECT id, 1, 'send', $3, sent_at FROM made)
     INSERT INTO slate.ask (submission_id, step, person_id, open, since) SELECT made.id, 0, p.id, $2 = 'waiting', sent_at FROM made CROSS JOIN LATERAL (${asks}) AS p`,
    [count, state, maren.id, daysAgo],
  );
}

async function percentiles(work: () => Promise<unknown>): Promise<{ middle: number; p95: number }> {
  const took: number[] = [];
  for (let i = 0; i < ROUNDS; i++) {
    const began = performance.now();
    await work();
    took.push(performance.now() - began);
  }
  return { middle: middle(took), p95: took.sort((a, b) => a - b)[Math.floor(ROUNDS * 0.95)] ?? 0 };
}

await client.query(`SET session_replication_role = replica`).catch(async () => {
  // Only a superuser may; the owner of the tables can switch its triggers off instead.
  for (const table of ['submission', 'submission_event', 'ask'])
    await client.query(`ALTER TABLE slate.${table} DISABLE TRIGGER USER`);
});
await client.query('UPDATE slate.ask SET open = false');
await make(ALL, 'kept', `SELECT '${tomasz.id}'::uuid AS id`, 400);
await make(WAITING, 'waiting', `SELECT '${tomasz.id}'::uuid AS id`, 1);
await client.query('ANALYZE slate.submission, slate.submission_event, slate.ask');

// As the job does it within the minute.
await digestWaiting(now);
const context = { person: tomasz, now };
const list = await percentiles(() => openApprovals(context));
const byHand = await percentiles(() =>
  client.query(
    `SELECT s.id, s.number, s.answers, s.updated_at, s.version, s.step, r.design, f.key, p.name, p.place, a.since FROM slate.ask a JOIN slate.submission s ON s.id = a.submission_id
     JOIN slate.form_release r ON r.id = s.release_id JOIN slate.form f ON f.id = s.form_id JOIN slate.person p ON p.id = s.sender_id
     WHERE a.open AND a.person_id = $1 ORDER BY a.since, s.id LIMIT 100`,
    [tomasz.id],
  ),
);
const said = (name: string, { middle: at, p95 }: typeof list): string =>
  `${name}: ${at.toFixed(0)} ms, p95 ${p95.toFixed(0)}`;
process.stdout.write(
  `${said(`the list, ${WAITING} waiting among ${ALL}`, list)}; ${said('by hand', byHand)}; ratio ${(list.middle / byHand.middle).toFixed(1)}\n`,
);

/** A decision that goes on to the next step, against the rows it writes written by hand; both with all that triggers do, in turn. */
const DECISIONS = 60;
for (const table of ['submission', 'submission_event', 'ask'])
  await client.query(`ALTER TABLE slate.${table} ENABLE TRIGGER USER`).catch(() => undefined);
await client.query('SET session_replication_role = origin').catch(() => undefined);
const { rows: cases } = await client.query<{ id: string; version: number }>(
  `SELECT s.id, s.version FROM slate.submission s JOIN slate.ask a ON a.submission_id = s.id AND a.open AND a.person_id = $1 WHERE s.state = 'waiting' ORDER BY s.id LIMIT $2`,
  [tomasz.id, 2 * DECISIONS],
);
const decided: Record<'ours' | 'by hand', number[]> = { ours: [], 'by hand': [] };
for (const [i, { id, version }] of cases.entries()) {
  const began = performance.now();
  if (i % 2 === 0) {
    const input = { key: randomUUID(), version, decision: 'approve' as const, word: '' };
    const done = await decideSubmission(context, id, input);
    if (!done.ok) throw new Error(JSON.stringify(done.error));
  } else await decideByHand(id);
  decided[i % 2 === 0 ? 'ours' : 'by hand'].push(performance.now() - began);
}
const [own, hand] = [middle(decided.ours), middle(decided['by hand'])];
process.stdout.write(
  `a decision that goes on to the next step: ${own.toFixed(1)} ms; by hand ${hand.toFixed(1)}; ratio ${(own / hand).toFixed(1)}\n`,
);

async function decideByHand(id: string): Promise<void> {
  await client.query('BEGIN');
  await client.query('SELECT 1 FROM slate.submission WHERE id = $1 FOR UPDATE', [id]);
  await client.query('UPDATE slate.ask SET open = false WHERE submission_id = $1 AND open', [id]);
  await client.query(
    'UPDATE slate.submission SET step = 1, version = version + 1, updated_at = now() WHERE id = $1',
    [id],
  );
  await client.query(
    `INSERT INTO slate.submission_event (submission_id, position, kind, step, by_id) VALUES ($1, 2, 'approve', 0, $2)`,
    [id, tomasz.id],
  );
  await client.query(
    `INSERT INTO slate.ask (submission_id, step, person_id, open) SELECT $1, 1, id, true FROM slate.person WHERE id = ANY ($2)`,
    [id, ['Ada', 'Pell', 'Ruo'].map((name) => personNamed(name).id)],
  );
  await client.query('COMMIT');
}

for (const table of ['submission', 'submission_event', 'ask'])
  await client.query(`ALTER TABLE slate.${table} DISABLE TRIGGER USER`).catch(() => undefined);
await make(DUE, 'waiting', `SELECT id FROM slate.person WHERE email LIKE 'pell%'`, 30);
for (const table of ['submission', 'submission_event', 'ask'])
  await client.query(`ALTER TABLE slate.${table} ENABLE TRIGGER USER`).catch(() => undefined);
await client.query('ANALYZE slate.submission, slate.submission_event, slate.ask');
for (const name of ['with all to tell', 'with nothing new']) {
  const began = performance.now();
  await lookOverDue(now);
  process.stdout.write(
    `looking over ${DUE} late steps, ${name}: ${((performance.now() - began) / 1_000).toFixed(1)} s\n`,
  );
}
const { rows } = await client.query<{ told: string }>(
  `SELECT count(*) AS told FROM slate.notice WHERE kind = 'late'`,
);
process.stdout.write(`${rows[0]?.told} told\n`);
await client.end();
await closeConnections();
