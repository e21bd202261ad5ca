import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import {
  as,
  draft,
  formIds,
  must,
  newId,
  plantGarden,
  refusal,
  releaseSampleForms,
  sent,
  treatmentAnswers,
  type Garden,
  useWorld,
} from '../support/world';

/** What somebody can do who speaks SQL as the application's role: only what a person whom they claim to be could (ADR 13). */
const world = useWorld();
let garden: Garden;
let client: pg.Client;

beforeAll(async () => {
  await releaseSampleForms();
  garden = await plantGarden(world);
  client = new pg.Client({ connectionString: world.appUrl });
  await client.connect();
});
afterAll(async () => {
  await client.end();
});

/** One statement, claiming to be somebody; gives the SQLSTATE that refused it, or the rows it touched. */
async function tried(name: string, text: string, values: unknown[] = []): Promise<string | number> {
  await client.query('BEGIN');
  try {
    await client.query(`SELECT set_config('slate.person', $1, true)`, [personNamed(name).id]);
    const { rowCount } = await client.query(text, values);
    await client.query('COMMIT');
    return rowCount ?? 0;
  } catch (error) {
    await client.query('ROLLBACK');
    return (error as { code?: string }).code ?? 'unknown';
  }
}
const FORBIDDEN = '42501';
const NOT_LIKE_THIS = 'TS010';

describe('the application’s role by plain SQL', () => {
  it.each([
    [
      'makes itself administrator',
      `UPDATE slate.person SET roles = '{administrator}' WHERE id = slate.asking()`,
    ],
    ['gives itself another name', `UPDATE slate.person SET name = 'Dagny Farrow' WHERE id = slate.asking()`],
    [
      'makes a person',
      `INSERT INTO slate.person (id, name, email) VALUES (gen_random_uuid(), 'X', 'x@y.example')`,
    ],
    ['moves an account to somebody else', `UPDATE slate.account SET person_id = slate.asking()`],
    [
      'grants itself a table',
      `INSERT INTO slate.access_grant (table_id, person_id, action) SELECT id, slate.asking(), 'change' FROM slate.designed_table`,
    ],
    [
      'lets a form write to a table',
      `INSERT INTO slate.table_form (table_id, form_id, state) SELECT t.id, f.id, 'allowed' FROM slate.designed_table t, slate.form f`,
    ],
    ['declares a draft kept', `UPDATE slate.submission SET state = 'kept'`],
    ['gives a draft a number', `UPDATE slate.submission SET number = 'TR-2026-9999'`],
    [
      'asks itself',
      `INSERT INTO slate.ask (submission_id, step, person_id) SELECT id, 0, slate.asking() FROM slate.submission`,
    ],
    [
      'writes an event',
      `INSERT INTO slate.submission_event (submission_id, position, kind, by_id) SELECT id, 99, 'approve', slate.asking() FROM slate.submission`,
    ],
    ['changes what happened', `UPDATE slate.submission_event SET word = 'x'`],
    ['changes the history', `UPDATE slate.history SET by_id = slate.asking()`],
    ['takes a form over', `UPDATE slate.form SET owner_id = slate.asking()`],
    [
      'makes a release',
      `INSERT INTO slate.form_release (id, form_id, number, design, released_by, form_version) SELECT gen_random_uuid(), id, 99, design, slate.asking(), 1 FROM slate.form`,
    ],
    ['adds a record', `INSERT INTO records.beds (code, name, section, area) VALUES ('X', 'X', 'X', 1)`],
    ['takes the tries of others away', `DELETE FROM slate.sign_in_try`],
  ])('never %s', async (_, text) => {
    await draft('Maren', formIds.treatment, treatmentAnswers(garden));
    expect(await tried('Maren', text)).toBe(FORBIDDEN);
  });

  it('keeps nothing that its path has not brought to an end', async () => {
    const one = await draft('Maren', formIds.treatment, treatmentAnswers(garden));
    const move = (event: string, state: string, step: number | null, people: string[]) =>
      tried('Maren', `SELECT slate.move_submission($1, $2, $3, $4, $5::uuid[], '', 'TR-1', '{}', now())`, [
        one.id,
        event,
        state,
        step,
        people,
      ]);
    const tomasz = personNamed('Tomasz').id;
    expect(await move('send', 'kept', null, [])).toBe(NOT_LIKE_THIS);
    expect(await move('send', 'waiting', 1, [tomasz])).toBe(NOT_LIKE_THIS);
    expect(await move('approve', 'kept', null, [])).toBe(NOT_LIKE_THIS);
    // Nor does it ask other people than the step does, or the sender.
    expect(await move('send', 'waiting', 0, [personNamed('Maren').id])).toBe(NOT_LIKE_THIS);
    expect(await move('send', 'waiting', 0, [personNamed('Osei').id])).toBe(NOT_LIKE_THIS);
    expect(await move('send', 'waiting', 0, [])).toBe(NOT_LIKE_THIS);
    expect(await tried('Maren', 'SELECT slate.note_kept($1, gen_random_uuid(), NULL, now())', [one.id])).toBe(
      NOT_LIKE_THIS,
    );
    const elsewhere = [
      one.id,
      '{}',
      (await world.sql('SELECT id FROM slate.form_release WHERE form_id <> $1', [formIds.treatment]))[0]?.[
        'id'
      ],
    ];
    expect(await tried('Maren', 'SELECT slate.carry_draft($1, $3::uuid, $2::jsonb, now())', elsewhere)).toBe(
      NOT_LIKE_THIS,
    );
    expect(await tried('Maren', 'SELECT slate.rehearse_submission($1)', [one.id])).toBe('TS011');
    expect((await world.sql('SELECT state FROM slate.submission WHERE id = $1', [one.id]))[0]).toEqual({
      state: 'draft',
    });
  });

  it('decides for nobody who was not asked, and does not touch what others sent', async () => {
    const one = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    for (const name of ['Osei', 'Maren', 'Pell', 'Ines'])
      expect(
        await tried(
          name,
          `SELECT slate.move_submission($1, 'approve', 'waiting', 1, $2::uuid[], '', NULL, NULL, now())`,
          [one.id, [personNamed('Pell').id]],
        ),
      ).toBe(NOT_LIKE_THIS);
    for (const name of ['Tomasz', 'Maren', 'Ines'])
      expect(
        await tried(name, `UPDATE slate.submission SET answers = '{}' WHERE id = $1`, [one.id]),
      ).toSatisfy((found) => found === FORBIDDEN || found === 0);
  });

  it('sees no draft of anybody else, whoever owns the form', async () => {
    const one = await draft('Maren', formIds.treatment, treatmentAnswers(garden));
    for (const name of ['Ines', 'Tomasz', 'Wren', 'Osei'])
      expect(await tried(name, 'SELECT 1 FROM slate.submission WHERE id = $1', [one.id])).toBe(0);
    expect(await tried('Maren', 'SELECT 1 FROM slate.submission WHERE id = $1', [one.id])).toBe(1);
  });
});

describe('an idempotency key', () => {
  it('answers the same request again, and refuses another one', async () => {
    const one = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    const key = newId();
    const decide = (decision: 'approve' | 'decline', word = '') =>
      decideSubmission(as('Tomasz'), one.id, { key, version: one.version, decision, word });
    const first = await must(decide('approve'));
    expect(await must(decide('approve'))).toEqual(first);
    expect(await refusal(decide('decline', 'No'))).toMatchObject({ kind: 'stale', why: 'key-reused' });
    expect(await refusal(decide('approve', 'Fine'))).toMatchObject({ kind: 'stale', why: 'key-reused' });
    const other = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    expect(
      await refusal(
        decideSubmission(as('Tomasz'), other.id, {
          key,
          version: other.version,
          decision: 'approve',
          word: '',
        }),
      ),
    ).toMatchObject({ kind: 'stale', why: 'key-reused' });
  });
});
