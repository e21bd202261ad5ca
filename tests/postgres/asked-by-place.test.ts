import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { noAnswers } from '../../src/core/form/answers';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { formWith } from '../support/one-question';
import { as, draft, must, newId, refusal, sent, useWorld } from '../support/world';

const world = useWorld();
const id = (name: string): string => personNamed(name).id;
const LEADS = '01900000-0000-7000-8000-00000000beef';
/** Those who lead a section: of the Fern house, of the Arid house. */
const withLeads = async () => {
  await world.sql(
    `INSERT INTO slate.person_group (id, label) VALUES ($1, 'Section leads') ON CONFLICT DO NOTHING`,
    [LEADS],
  );
  for (const name of ['Tomasz', 'Ilse'])
    await world.sql(
      `INSERT INTO slate.group_member (group_id, person_id) VALUES ($1, $2) ON CONFLICT DO NOTHING`,
      [LEADS, id(name)],
    );
};
const byPlace = { people: [], role: { group: LEADS, at: 'qwhat' } };
const at = (place: string) => ({ ...noAnswers, values: { qwhat: place } });
const asked = async (name: string, of: string) =>
  (await must(openSubmission(as(name), of))).submission?.waits[0]?.asked.map((one) => [one.id, one.why]);

describe('a step that asks whoever of a group is at a place', () => {
  it('asks them, whatever the case of the place, says why, and keeps to what was sent', async () => {
    await withLeads();
    const form = await formWith(byPlace);
    const one = await sent('Maren', form, at(' fern HOUSE'));
    const why = 'in Section leads, at the place in the answers';
    expect(await asked('Maren', one.id)).toEqual([[id('Tomasz'), why]]);
    expect(await asked('Maren', (await sent('Maren', form, at('Arid house'))).id)).toEqual([
      [id('Ilse'), why],
    ]);
    // Whoever moves elsewhere meanwhile is asked all the same.
    await world.sql(`UPDATE slate.person SET place = 'Nursery' WHERE id = $1`, [id('Tomasz')]);
    const decision = { key: newId(), version: one.version, decision: 'approve' as const, word: '' };
    expect(await refusal(decideSubmission(as('Ilse'), one.id, decision))).toMatchObject({
      kind: 'not-found',
    });
    expect((await must(decideSubmission(as('Tomasz'), one.id, decision))).state).toBe('kept');
    await world.sql(`UPDATE slate.person SET place = 'Fern house' WHERE id = $1`, [id('Tomasz')]);
  });

  it('cannot be sent where nobody is there but its sender, or asks whoever is named for that', async () => {
    await withLeads();
    const strict = await formWith(byPlace);
    for (const [name, place] of [
      ['Maren', 'Palm house'],
      ['Tomasz', 'Fern house'],
    ] as const) {
      const { id: of, version } = await draft(name, strict, at(place));
      expect(await refusal(sendSubmission(as(name), of, { key: newId(), version }))).toMatchObject({
        issues: [{ code: 'nobody-at-place', path: ['steps', 'step0'] }],
      });
    }
    const form = await formWith({ ...byPlace, fallback: id('Ada') });
    const one = await sent('Tomasz', form, at('Fern house'));
    expect(await asked('Tomasz', one.id)).toEqual([[id('Ada'), 'because nobody else could be asked']]);
  });

  it('law of the database: nobody outside the group is named', async () => {
    await withLeads();
    const form = await formWith(byPlace);
    const client = new pg.Client({ connectionString: process.env['SLATE_APP_URL'] });
    await client.connect();
    const tried = async (who: string): Promise<string> => {
      await client.query('BEGIN');
      try {
        await client.query(`SELECT set_config('slate.person', $1, true)`, [id('Maren')]);
        const { rows } = await client.query<{ id: string }>(
          `INSERT INTO slate.submission (id, form_id, release_id, state, sender_id, answers) SELECT gen_random_uuid(), form_id, id, 'draft', $2, '{}' FROM slate.form_release WHERE form_id = $1 RETURNING id`,
          [form, id('Maren')],
        );
        await client.query(
          `SELECT slate.move_submission($1, 'send', 'waiting', 0, $2::uuid[], '', 'X-2', '{}', now(), '{}', $3)`,
          [rows[0]?.id, [who], JSON.stringify({ step0: [who] })],
        );
        return 'sent';
      } catch (error) {
        return (error as { code: string }).code;
      } finally {
        await client.query('ROLLBACK');
      }
    };
    expect(await tried(id('Ilse'))).toBe('sent');
    expect(await tried(id('Pell'))).toBe('TS010');
    await client.end();
  });
});
