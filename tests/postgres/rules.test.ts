import pg from 'pg';
import { beforeAll, describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { noAnswers } from '../../src/core/form/answers';
import type { ApprovalStep, FormDesign } from '../../src/core/form/design';
import type { Rule, RuleGives, RuleTable } from '../../src/core/rules/rules';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { rehearseForm } from '../../src/use-cases/forms/rehearse-form';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { lookOverDue } from '../../src/use-cases/notices/look-over-due';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { openApprovals } from '../../src/use-cases/submissions/open-home';
import { openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { formWith } from '../support/one-question';
import { as, draft, must, newId, refusal, sent, useWorld } from '../support/world';

const world = useWorld();
const id = (name: string): string => personNamed(name).id;
const gives = (step: string, ...people: string[]): RuleGives => ({ step, people: people.map(id) });
const row = (name: string, test: string, ...all: RuleGives[]): Rule => ({
  id: name,
  cells: [{ condition: 'cost', test }],
  gives: all,
});

/** Up to 500 nobody but the second step; to 5 000 Ada, in a day; from 9 000 the manager and plant health. */
const health = newId();
beforeAll(async () => {
  await world.sql(`INSERT INTO slate.person_group (id, label) VALUES ($1, 'Plant health')`, [health]);
  for (const name of ['Ada', 'Pell', 'Ruo'])
    await world.sql('INSERT INTO slate.group_member (group_id, person_id) VALUES ($1, $2)', [
      health,
      id(name),
    ]);
  await world.sql('UPDATE slate.person SET manager_id = $2 WHERE id = $1', [id('Maren'), id('Tomasz')]);
});
const table = (more: Partial<RuleTable> = {}): RuleTable => ({
  id: 'limits',
  label: 'Spending limits',
  hit: 'U',
  conditions: [{ id: 'cost', expression: 'qcost' }],
  asks: ['step0'],
  days: ['step0'],
  rows: [
    row('small', '<= 500', { ...gives('step0'), nobody: true }),
    row('middle', '(500..5000]', { ...gives('step0', 'Ada'), days: 1 }),
    row('large', '>= 9000', { ...gives('step0'), manager: true, groups: [health] }),
  ],
  ...more,
});

async function formByRules(
  rules: readonly RuleTable[],
  steps: Partial<ApprovalStep>[] = [{}],
): Promise<string> {
  const form = await formWith(...steps.map(() => ({ people: [id('Osei')] })), { people: [id('Dagny')] });
  const { version, design } = await must(openWorkbench(as('Ines'), form));
  const next: FormDesign = {
    ...design,
    sections: design.sections.map((section) => ({
      ...section,
      questions: [
        ...section.questions,
        { id: 'qcost', key: 'cost', label: 'Cost', hint: '', required: false, kind: 'whole', unit: '' },
      ],
    })),
    steps: design.steps.map((step, i) => ({ ...step, ...steps[i] })),
    rules,
  };
  const edited = await must(editForm(as('Ines'), form, { version, design: next }));
  await must(releaseForm(as('Ines'), form, { version: edited.version, allow: [], note: '' }));
  return form;
}
const costing = (cost: number | null) => ({
  ...noAnswers,
  values: { qwhat: 'Something', ...(cost !== null && { qcost: String(cost) }) },
});
const waits = async (of: string, name = 'Maren') =>
  (await must(openSubmission(as(name), of))).submission?.waits.map(({ step, asked, due }) => [
    step,
    due?.day ?? null,
    ...asked.map((one) => [one.id, one.why]),
  ]);
const refused = async (form: string, cost: number | null) => {
  const { id: of, version } = await draft('Maren', form, costing(cost));
  return refusal(sendSubmission(as('Maren'), of, { key: newId(), version }));
};

describe('a step that asks whom the rules say', () => {
  it('asks those of the row that fits, within its days, and says which row', async () => {
    const form = await formByRules([table()]);
    const middle = await sent('Maren', form, costing(1200));
    expect(await waits(middle.id)).toEqual([[0, '2026-11-24', [id('Ada'), 'Spending limits, row 2']]]);
    const large = await sent('Maren', form, costing(20_000));
    expect(await waits(large.id)).toEqual(
      [
        [
          0,
          null,
          ...['Ada', 'Pell', 'Ruo'].map((name) => [id(name), 'in Plant health; Spending limits, row 3']),
          [id('Tomasz'), 'the sender’s manager; Spending limits, row 3'],
        ].sort(),
      ].map((all) => expect.arrayContaining(all) as unknown),
    );
    // A step that the rules leave out is not asked; the one after it is.
    const small = await sent('Maren', form, costing(20));
    expect(await waits(small.id)).toEqual([[1, null, [id('Dagny'), null]]]);
    const { submission } = await must(openSubmission(as('Maren'), small.id));
    expect(submission?.skipped).toEqual(['step0']);
  });

  it('keeps to the rows that were told when it was sent, on the release it was sent under', async () => {
    const form = await formByRules([table()]);
    const one = await sent('Maren', form, costing(1200));
    const { version, design } = await must(openWorkbench(as('Ines'), form));
    const rules = (design.rules ?? []).map((rule) => ({
      ...rule,
      rows: rule.rows.map((each) => ({ ...each, gives: [gives('step0', 'Osei')] })),
    }));
    const edited = await must(editForm(as('Ines'), form, { version, design: { ...design, rules } }));
    await must(releaseForm(as('Ines'), form, { version: edited.version, allow: [], note: '' }));
    const said = { key: newId(), version: one.version, decision: 'approve' as const, word: '' };
    expect((await must(decideSubmission(as('Ada'), one.id, said))).state).toBe('waiting');
    expect(await waits(one.id)).toEqual([[1, null, [id('Dagny'), null]]]);
    expect(await world.sql('SELECT ruled, days FROM slate.submission WHERE id = $1', [one.id])).toEqual([
      { ruled: { limits: ['middle'] }, days: { step0: 1 } },
    ]);
  });

  it('is not sent where no row fits, or more than may, but for somebody who is named for that', async () => {
    const strict = await formByRules([table()]);
    for (const cost of [7000, null])
      expect(await refused(strict, cost)).toMatchObject({
        issues: [{ code: 'rules-undecided', path: ['steps', 'step0'], facts: { rules: 'Spending limits' } }],
      });
    const both = table();
    const twice = await formByRules([
      { ...both, rows: [...both.rows, row('again', '> 1000', gives('step0', 'Osei'))] },
    ]);
    expect(await refused(twice, 1200)).toMatchObject({ issues: [{ code: 'rules-undecided' }] });
    const kind = await formByRules([table()], [{ fallback: id('Osei') }]);
    const one = await sent('Maren', kind, costing(7000));
    expect(await waits(one.id)).toEqual([
      [0, null, [id('Osei'), 'because nobody else could be asked; Spending limits does not say']],
    ]);
  });

  it('is asked by several rows together where they are collected, with all of them', async () => {
    const all = table({
      hit: 'C',
      rows: [
        row('any', '', { ...gives('step0', 'Ada'), days: 3 }),
        row('more', '> 500', { ...gives('step0', 'Osei'), days: 2 }),
      ],
    });
    const form = await formByRules([all], [{ decide: 'all' }]);
    const one = await sent('Maren', form, costing(1200));
    expect(await waits(one.id)).toEqual(
      [[0, '2026-11-25', ...['Ada', 'Osei'].map((name) => [id(name), 'Spending limits, rows 1, 2'])]].map(
        (each) => expect.arrayContaining(each) as unknown,
      ),
    );
    const few = await sent('Maren', form, costing(100));
    expect(await waits(few.id)).toEqual([[0, '2026-11-26', [id('Ada'), 'Spending limits, row 1']]]);
  });

  it('is late by its days, and stands so in the list', async () => {
    await world.sql(`UPDATE slate.workspace SET workdays = '{1,2,3,4,5,6,7}', holidays = '{}'`);
    const form = await formByRules([table()], [{ within: 30, late: id('Ruo') }]);
    const one = await sent('Maren', form, costing(1200));
    const listed = (await must(openApprovals(as('Ada')))).waiting.find((each) => each.id === one.id);
    expect(listed?.due?.day).toBe('2026-11-24');
    await lookOverDue(new Date(as('Maren').now.getTime() + 4 * 86_400_000));
    expect(
      await world.sql(`SELECT to_id FROM slate.submission_event WHERE submission_id = $1 AND kind = 'late'`, [
        one.id,
      ]),
    ).toEqual([{ to_id: id('Ruo') }]);
  });

  it('is rehearsed as it would be asked', async () => {
    const form = await formByRules([table()]);
    const rehearsed = async (cost: number) =>
      (
        await must(
          rehearseForm(as('Ines'), form, { as: id('Maren'), at: '2026-11-23T12:00', answers: costing(cost) }),
        )
      ).steps[0];
    const { label } = table();
    expect(await rehearsed(1200)).toMatchObject({
      asked: [personNamed('Ada').name],
      reasons: [`${label}, row 2`],
    });
    expect(await rehearsed(20)).toMatchObject({ skipped: true, because: `${label}, row 1` });
  });

  it('law of the database: only rows of its tables are told, one where one may be, and nobody but theirs is asked', async () => {
    const form = await formByRules([table()]);
    const client = new pg.Client({ connectionString: process.env['SLATE_APP_URL'] });
    await client.connect();
    const tried = async (
      people: string[],
      ruled: Record<string, string[]>,
      { step = 0, skips = [] as string[] } = {},
    ) => {
      await client.query('BEGIN');
      try {
        await client.query(`SELECT set_config('slate.person', $1, true)`, [id('Maren')]);
        const { rows } = await client.query<{ id: string }>(
          `INSERT INTO slate.submission (id, form_id, release_id, state, sender_id, answers) SELECT gen_random_uuid(), form_id, id, 'draft', $2, '{}' FROM slate.form_release WHERE form_id = $1 ORDER BY number DESC LIMIT 1 RETURNING id`,
          [form, id('Maren')],
        );
        await client.query(
          `SELECT slate.move_submission($1, 'send', 'waiting', $4, $2::uuid[], '', 'X-1', '{}', now(), $5, '{}', '{}', $3)`,
          [rows[0]?.id, people.map(id), JSON.stringify(ruled), step, skips],
        );
        return 'sent';
      } catch (error) {
        return (error as { code: string }).code;
      } finally {
        await client.query('ROLLBACK');
      }
    };
    expect(await tried(['Ada'], { limits: ['middle'] })).toBe('sent');
    expect(await tried(['Tomasz', 'Ada', 'Pell', 'Ruo'], { limits: ['large'] })).toBe('sent');
    expect(await tried(['Dagny'], { limits: ['small'] }, { step: 1, skips: ['step0'] })).toBe('sent');
    // Its own people are asked no more, nor those of another row.
    expect(await tried(['Osei'], { limits: ['middle'] })).toBe('TS010');
    expect(await tried(['Ada'], { limits: ['small'] })).toBe('TS010');
    expect(await tried(['Ada'], {})).toBe('TS010');
    expect(await tried(['Ada'], { limits: ['middle', 'large'] })).toBe('TS010');
    expect(await tried(['Ada'], { limits: ['none'] })).toBe('TS010');
    expect(await tried(['Ada'], { others: ['middle'] })).toBe('TS010');
    // Only a row that says so leaves a step out.
    expect(await tried(['Dagny'], { limits: ['middle'] }, { step: 1, skips: ['step0'] })).toBe('TS010');
    expect(await tried(['Dagny'], {}, { step: 1, skips: ['step0'] })).toBe('TS010');
    await client.end();
  });
});
