import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { noAnswers, type Answers } from '../../src/core/form/answers';
import type { FormDesign } from '../../src/core/form/design';
import type { RuleTable } from '../../src/core/rules/rules';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { correctAnswers } from '../../src/use-cases/submissions/correct-answers';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { formWith } from '../support/one-question';
import { as, must, newId, refusal, sent, useWorld } from '../support/world';

/** Pell or Ada first, who may correct the cost; then Osei, where the rules say so. */
const world = useWorld();
const id = (name: string): string => personNamed(name).id;
const limits: RuleTable = {
  id: 'limits',
  label: 'Limits',
  hit: 'U',
  conditions: [{ id: 'cost', expression: 'qcost' }],
  asks: ['step1'],
  days: [],
  rows: [
    {
      id: 'few',
      cells: [{ condition: 'cost', test: '<= 500' }],
      gives: [{ step: 'step1', people: [], nobody: true }],
    },
    {
      id: 'much',
      cells: [{ condition: 'cost', test: '> 500' }],
      gives: [{ step: 'step1', people: [id('Osei')] }],
    },
  ],
};

async function form(): Promise<string> {
  const made = await formWith({ people: [id('Pell'), id('Ada')] }, { people: [id('Osei')] });
  const { version, design } = await must(openWorkbench(as('Ines'), made));
  const next: FormDesign = {
    ...design,
    sections: design.sections.map((section) => ({
      ...section,
      questions: [
        ...section.questions,
        { id: 'qcost', key: 'cost', label: 'Cost', hint: '', required: true, kind: 'whole', unit: '' },
      ],
    })),
    checks: [
      { id: 'ch', on: 'qcost', must: 'qcost < 10000', message: 'Too much.', otherwise: 'stop' },
      { id: 'ca', on: 'qcost', must: 'qcost < 2000', message: 'Much.', otherwise: 'ask' },
    ],
    steps: design.steps.map((step, i) => (i === 0 ? { ...step, corrects: ['qcost'] } : step)),
    rules: [limits],
  };
  const edited = await must(editForm(as('Ines'), made, { version, design: next }));
  await must(releaseForm(as('Ines'), made, { version: edited.version, allow: [], note: '' }));
  return made;
}
const costing = (cost: number, more: Partial<Answers> = {}): Answers => ({
  ...noAnswers,
  values: { qwhat: 'A ladder', qcost: String(cost) },
  ...more,
});
const correct = (name: string, of: string, version: number, answers: Answers, word = 'A slip') =>
  correctAnswers(as(name), of, { key: newId(), version, answers, word });
const approve = (name: string, of: string, version: number) =>
  decideSubmission(as(name), of, { key: newId(), version, decision: 'approve', word: '' });
const looked = async (name: string, of: string) => {
  const { answers, submission } = await must(openSubmission(as(name), of));
  if (submission === null) throw new Error('no submission');
  return { answers, submission };
};

describe('corrections', () => {
  it('put right what a step may correct, marked for all, told to the sender, kept as corrected', async () => {
    const one = await sent('Maren', await form(), costing(40));
    expect((await looked('Pell', one.id)).submission.corrects).toEqual(['qcost']);
    expect((await looked('Maren', one.id)).submission.corrects).toEqual([]);
    const { version } = await must(
      correct('Pell', one.id, one.version, {
        ...costing(45),
        values: { qwhat: 'Something else', qcost: '45' },
      }),
    );
    const { answers, submission } = await looked('Ada', one.id);
    expect(answers.values).toEqual({ qwhat: 'A ladder', qcost: '45' });
    expect(submission).toMatchObject({ corrected: true, state: 'waiting', version });
    expect(submission.earlierAnswers?.values['qcost']).toBe('40');
    expect(submission.events.at(-1)).toMatchObject({ kind: 'correct', step: 0, word: 'A slip' });
    expect(
      await world.sql(`SELECT person_id FROM slate.notice WHERE submission_id = $1 AND kind = 'corrected'`, [
        one.id,
      ]),
    ).toEqual([{ person_id: id('Maren') }]);
    // Ada looked before that.
    expect(await refusal(approve('Ada', one.id, one.version))).toMatchObject({ why: 'already-decided' });
    expect((await must(approve('Ada', one.id, version))).state).toBe('kept');
    expect((await looked('Maren', one.id)).answers.values['qcost']).toBe('45');
  });

  it('go around no rule: whom the answers ask is told anew', async () => {
    const one = await sent('Maren', await form(), costing(40));
    expect((await looked('Maren', one.id)).submission.skipped).toEqual(['step1']);
    const more = await must(correct('Pell', one.id, one.version, costing(900)));
    expect((await looked('Maren', one.id)).submission.skipped).toEqual([]);
    const { version } = await must(approve('Pell', one.id, more.version));
    const { submission } = await looked('Maren', one.id);
    expect(submission.waits.map(({ step, asked }) => [step, ...asked.map((each) => each.id)])).toEqual([
      [1, id('Osei')],
    ]);
    // His step may correct nothing.
    expect(await refusal(correct('Osei', one.id, version, costing(40)))).toMatchObject({
      issues: [{ code: 'corrects-nothing' }],
    });
  });

  it('are checked, want a reason where one is asked for, and are of somebody who is asked', async () => {
    const one = await sent('Maren', await form(), costing(40));
    const tried = (answers: Answers, name = 'Pell') => refusal(correct(name, one.id, one.version, answers));
    expect(await tried(costing(20_000))).toMatchObject({ issues: [{ code: 'check-stops' }, {}] });
    expect(await tried(costing(3_000))).toMatchObject({ issues: [{ code: 'reason-needed' }] });
    expect(await tried(costing(40))).toMatchObject({ issues: [{ code: 'nothing-changed' }] });
    expect(await tried({ ...noAnswers, values: { qcost: 'many' } })).toMatchObject({ kind: 'invalid' });
    expect(await tried(costing(45), 'Maren')).toMatchObject({ kind: 'forbidden', why: 'own-submission' });
    expect(await tried(costing(45), 'Osei')).toMatchObject({ kind: 'not-found' });
    await must(correct('Pell', one.id, one.version, costing(3_000, { reasons: { ca: 'Two of them' } })));
    const { answers, submission } = await looked('Ada', one.id);
    expect(answers.reasons).toEqual({ ca: 'Two of them' });
    // A reason that was given is nobody's to rewrite.
    await must(
      correct('Ada', one.id, submission.version, costing(3_100, { reasons: { ca: 'Another story' } })),
    );
    expect((await looked('Pell', one.id)).answers.reasons).toEqual({ ca: 'Two of them' });
    expect(await refusal(correct('Ada', one.id, one.version, costing(50)))).toMatchObject({ kind: 'stale' });
  });

  it('of two who correct, or correct and approve, in the same moment one is first, and the other is told', async () => {
    const of = await form();
    const one = await sent('Maren', of, costing(40));
    const both = await Promise.all([
      correct('Pell', one.id, one.version, costing(41)),
      correct('Ada', one.id, one.version, costing(42)),
    ]);
    expect(both.map((each) => (each.ok ? 'ok' : each.error.kind)).sort()).toEqual(['ok', 'stale']);
    const kept = both[0]?.ok === true ? '41' : '42';
    expect((await looked('Maren', one.id)).answers.values['qcost']).toBe(kept);
    const two = await sent('Maren', of, costing(40));
    const mixed = await Promise.all([
      correct('Pell', two.id, two.version, costing(41)),
      approve('Ada', two.id, two.version),
    ]);
    expect(mixed.map(({ ok }) => ok).sort()).toEqual([false, true]);
    const { answers, submission } = await looked('Maren', two.id);
    // What was approved is what stood there then.
    expect([submission.state, answers.values['qcost']]).toEqual(
      mixed[1].ok ? ['kept', '40'] : ['waiting', '41'],
    );
  });

  it('law of the database: nothing else is changed, by whoever is asked, of what waits', async () => {
    const one = await sent('Maren', await form(), costing(40));
    const client = new pg.Client({ connectionString: process.env['SLATE_APP_URL'] });
    await client.connect();
    const tried = async (
      name: string,
      values: object,
      { rows = {}, skips = ['step1'], ruled = { limits: ['few'] } as object } = {},
    ): Promise<string> => {
      await client.query('BEGIN');
      try {
        await client.query(`SELECT set_config('slate.person', $1, true)`, [id(name)]);
        await client.query(`SELECT slate.correct_answers($1, $2, $3, '{}', $4, '', now())`, [
          one.id,
          JSON.stringify({ values, rows, reasons: {} }),
          skips,
          JSON.stringify(ruled),
        ]);
        return 'done';
      } catch (error) {
        return (error as { code: string }).code;
      } finally {
        await client.query('ROLLBACK');
      }
    };
    const ladder = { qwhat: 'A ladder', qcost: '45' };
    expect(await tried('Pell', ladder)).toBe('done');
    expect(await tried('Pell', { ...ladder, qwhat: 'A house' })).toBe('TS010');
    expect(await tried('Pell', { qcost: '45' })).toBe('TS010');
    expect(await tried('Pell', ladder, { rows: { more: [{ id: 'r', cells: {} }] } })).toBe('TS010');
    expect(await tried('Pell', ladder, { ruled: { limits: ['none'] } })).toBe('TS010');
    // Only a row that says so leaves a step out.
    expect(await tried('Pell', ladder, { ruled: { limits: ['much'] } })).toBe('TS010');
    expect(await tried('Osei', ladder)).toBe('TS010');
    expect(await tried('Maren', ladder)).toBe('TS010');
    await client.end();
  });
});
