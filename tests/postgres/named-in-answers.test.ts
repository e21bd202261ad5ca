import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { PEOPLE } from '../../src/core/expression/type';
import { noAnswers } from '../../src/core/form/answers';
import type { ApprovalStep, FormDesign } from '../../src/core/form/design';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { formWith } from '../support/one-question';
import { as, draft, must, newId, refusal, sent, useWorld } from '../support/world';

const world = useWorld();
const id = (name: string): string => personNamed(name).id;

/** A form whose step asks whoever its second question names. */
async function formNaming(step: Partial<ApprovalStep>): Promise<string> {
  const form = await formWith({ people: [id('Ada')] });
  const { version, design } = await must(openWorkbench(as('Ines'), form));
  const next: FormDesign = {
    ...design,
    sections: design.sections.map((section) => ({
      ...section,
      questions: [
        ...section.questions,
        {
          id: 'qwho',
          key: 'who',
          label: 'Who',
          hint: '',
          required: false,
          kind: 'lookup',
          table: PEOPLE,
          show: ['place'],
        },
      ],
    })),
    steps: design.steps.map((one) => ({ ...one, people: [], named: 'qwho', ...step })),
  };
  const edited = await must(editForm(as('Ines'), form, { version, design: next }));
  await must(releaseForm(as('Ines'), form, { version: edited.version, allow: [], note: '' }));
  return form;
}
const naming = (who: string | null) => ({
  ...noAnswers,
  values: { qwhat: 'Something', ...(who !== null && { qwho: id(who) }) },
});
const asked = async (name: string, of: string) =>
  (await must(openSubmission(as(name), of))).submission?.waits[0]?.asked.map((one) => [one.id, one.why]);

describe('a step that asks whoever the answers name', () => {
  it('asks them, says why, and keeps to what was sent', async () => {
    const form = await formNaming({});
    const one = await sent('Maren', form, naming('Pell'));
    expect(await asked('Maren', one.id)).toEqual([[id('Pell'), 'named in the answers']]);
    const decision = { key: newId(), version: one.version, decision: 'approve' as const, word: '' };
    expect(await refusal(decideSubmission(as('Ada'), one.id, decision))).toMatchObject({ kind: 'not-found' });
    expect((await must(decideSubmission(as('Pell'), one.id, decision))).state).toBe('kept');
  });

  it('asks whoever is named for that where it is nobody, or the sender; without, it cannot be sent', async () => {
    const form = await formNaming({ fallback: id('Ada') });
    for (const who of [null, 'Maren']) {
      const one = await sent('Maren', form, naming(who));
      expect(await asked('Maren', one.id)).toEqual([[id('Ada'), 'because nobody else could be asked']]);
    }
    const strict = await formNaming({});
    for (const who of [null, 'Maren']) {
      const { id: of, version } = await draft('Maren', strict, naming(who));
      expect(await refusal(sendSubmission(as('Maren'), of, { key: newId(), version }))).toMatchObject({
        issues: [{ code: 'nobody-named', path: ['steps', 'step0'] }],
      });
    }
  });

  it('law of the database: nobody else is asked, and nobody is named to a step that asks by no answer', async () => {
    const form = await formNaming({ fallback: id('Ada') });
    const plain = await formWith({ people: [id('Ada')] });
    const client = new pg.Client({ connectionString: process.env['SLATE_APP_URL'] });
    await client.connect();
    const tried = async (of: string, people: string[], names: Record<string, string[]>) => {
      await client.query('BEGIN');
      try {
        await client.query(`SELECT set_config('slate.person', $1, true)`, [id('Maren')]);
        const { rows } = await client.query<{ id: string }>(
          `INSERT INTO slate.submission (id, form_id, release_id, state, sender_id, answers) SELECT gen_random_uuid(), form_id, id, 'draft', $2, '{}' FROM slate.form_release WHERE form_id = $1 ORDER BY number DESC LIMIT 1 RETURNING id`,
          [of, id('Maren')],
        );
        await client.query(
          `SELECT slate.move_submission($1, 'send', 'waiting', 0, $2::uuid[], '', 'X-1', '{}', now(), '{}', $3)`,
          [rows[0]?.id, people, JSON.stringify(names)],
        );
        return 'sent';
      } catch (error) {
        return (error as { code: string }).code;
      } finally {
        await client.query('ROLLBACK');
      }
    };
    const step = 'step0';
    expect(await tried(form, [id('Pell')], { [step]: [id('Pell')] })).toBe('sent');
    expect(await tried(form, [id('Ada')], {})).toBe('sent');
    expect(await tried(form, [id('Pell')], {})).toBe('TS010');
    // Where somebody is named who can be asked, nobody is asked in their place.
    expect(await tried(form, [id('Ada')], { [step]: [id('Pell')] })).toBe('TS010');
    expect(await tried(form, [id('Maren')], { [step]: [id('Maren')] })).toBe('TS010');
    expect(await tried(plain, [id('Ada')], {})).toBe('sent');
    expect(await tried(plain, [id('Pell')], { [step]: [id('Pell')] })).toBe('TS010');
    await client.end();
    expect(await world.sql(`SELECT 1 FROM slate.submission WHERE number = 'X-1'`)).toEqual([]);
  });
});
