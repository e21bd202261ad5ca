import pg from 'pg';
import { beforeAll, describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { noAnswers, type AnswerRow, type Answers } from '../../src/core/form/answers';
import type { FormDesign } from '../../src/core/form/design';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { openRecordSheet } from '../../src/use-cases/submissions/open-sheet';
import { saveDraft } from '../../src/use-cases/submissions/save-draft';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { formWith } from '../support/one-question';
import { as, draft, must, newId, refusal, sent, useWorld } from '../support/world';

/** Rows within rows, from the answers to three tables and back: the lots of each line of a delivery. */
const world = useWorld();
let form = '';
let keys = { own: '', lines: '', lots: '' };
const base = (id: string, label: string) => ({
  id,
  key: label.toLowerCase(),
  label,
  hint: '',
  required: false,
});

beforeAll(async () => {
  form = await formWith({ people: [personNamed('Ada').id] });
  const { version, design } = await must(openWorkbench(as('Ines'), form));
  const key = design.table.key;
  keys = { own: key, lines: `${key}_lines`, lots: `${key}_lots` };
  const next: FormDesign = {
    ...design,
    sections: design.sections.map((section) => ({
      ...section,
      questions: [
        ...section.questions,
        {
          ...base('qlines', 'Lines'),
          kind: 'rows',
          columns: [{ ...base('qname', 'Name'), kind: 'text', long: false }],
          least: 0,
          most: 20,
          totals: [],
          table: { id: newId(), key: keys.lines, label: 'Lines', prefix: 'LN' },
        },
        {
          ...base('qlots', 'Lots'),
          kind: 'rows',
          within: 'qlines',
          columns: [
            { ...base('qcode', 'Code'), kind: 'text', long: false, required: true },
            { ...base('qamount', 'Amount'), kind: 'whole', unit: '' },
          ],
          least: 0,
          most: 5,
          totals: [{ id: 'qall', key: 'in_all', label: 'In all', column: 'qamount' }],
          table: { id: newId(), key: keys.lots, label: 'Lots', prefix: 'LT' },
        },
      ],
    })),
    existing: [
      {
        id: 'xcode',
        on: 'qcode',
        same: ['qcode'],
        rule: { t: 'unique' },
        message: 'This lot is there already.',
      },
    ],
  };
  const edited = await must(editForm(as('Ines'), form, { version, design: next }));
  await must(releaseForm(as('Ines'), form, { version: edited.version, allow: [], note: '' }));
  await world.sql(
    "INSERT INTO slate.access_grant (table_id, role, action) SELECT id, 'steward', action FROM slate.designed_table, unnest(ARRAY['see', 'change', 'remove', 'add']) AS action ON CONFLICT DO NOTHING",
  );
});

const lot = (id: string, of: string, qcode: string, qamount: string): AnswerRow => ({
  id,
  of,
  cells: { qcode, qamount },
});
const answers = (mark: string): Answers => ({
  ...noAnswers,
  values: { qwhat: mark },
  rows: {
    qlines: ['l1', 'l2'].map((id) => ({ id, cells: { qname: `${mark} ${id}` } })),
    qlots: [
      lot('a', 'l1', `${mark}-a`, '3'),
      lot('b', 'l2', `${mark}-b`, '5'),
      lot('c', 'l1', `${mark}-c`, '4'),
    ],
  },
});
async function kept(mark: string): Promise<string> {
  const one = await sent('Maren', form, answers(mark));
  const decision = { key: newId(), version: one.version, decision: 'approve' as const, word: '' };
  expect((await must(decideSubmission(as('Ada'), one.id, decision))).state).toBe('kept');
  return one.number;
}
/** Each lot that is there, with its line and its place. */
const lots = (number: string) =>
  world.sql(
    `SELECT l.name, l.in_all::text AS "all", t.code, t.position FROM records."${keys.lots}" t JOIN records."${keys.lines}" l ON l.id = t.parent_id JOIN records."${keys.own}" o ON o.id = l.parent_id WHERE o.number = $1 AND t.removed_at IS NULL ORDER BY l.position, t.position`,
    [number],
  );
const brief = (rows: Record<string, unknown>[]) => rows.map((row) => Object.values(row).join(' '));

describe('rows within rows', () => {
  it('are kept in a table of their own, each with the row it stands in, and its total with that', async () => {
    const number = await kept('K');
    expect(brief(await lots(number))).toEqual(['K l1 7 K-a 1', 'K l1 7 K-c 2', 'K l2 5 K-b 1']);
    const sheet = await must(openRecordSheet(as('Kofi'), keys.own, number, 'view'));
    const [first, second] = sheet.answers.rows['qlines'] ?? [];
    expect(sheet.answers.rows['qlots']?.map(({ of, cells }) => [of, cells['qcode']])).toEqual([
      [first?.id, 'K-a'],
      [first?.id, 'K-c'],
      [second?.id, 'K-b'],
    ]);
  });

  it('are refused at their own place: what is missing in one, and a lot that is there already', async () => {
    const bad = answers('B');
    const without = {
      ...bad,
      rows: { ...bad.rows, qlots: [{ id: 'a', of: 'l2', cells: { qamount: '3' } }] },
    };
    const one = await draft('Maren', form, without);
    expect(
      await refusal(sendSubmission(as('Maren'), one.id, { key: newId(), version: one.version })),
    ).toMatchObject({
      issues: [{ code: 'required', path: ['qlots', 'a', 'qcode'] }],
    });
    await kept('T');
    const again = {
      ...bad,
      rows: { ...bad.rows, qlots: [lot('x', 'l1', 'B-x', '1'), lot('y', 'l2', 'T-b', '1')] },
    };
    const two = await draft('Maren', form, again);
    expect(
      await refusal(sendSubmission(as('Maren'), two.id, { key: newId(), version: two.version })),
    ).toMatchObject({
      issues: [{ code: 'check-stops', path: ['qlots', 'y', 'qcode'] }],
    });
    // One that stands in no row there is belongs to nobody.
    const lost = { ...bad, rows: { ...bad.rows, qlots: [lot('a', 'gone', 'B-a', '1')] } };
    const id = newId();
    expect(await refusal(saveDraft(as('Maren'), id, { form, version: 0, answers: lost }))).toMatchObject({
      issues: [{ code: 'unknown-answer', path: ['qlots', 'a'] }],
    });
  });

  it('are changed with their record by whoever approves it last, though nobody else may, and no others are', async () => {
    const [number, other] = [await kept('C'), await kept('O')];
    const sheet = await must(openRecordSheet(as('Kofi'), keys.own, number, 'change'));
    const { rows } = sheet.answers;
    const [first] = rows['qlines'] ?? [];
    const changed: Answers = {
      ...sheet.answers,
      rows: {
        qlines: rows['qlines'] ?? [],
        qlots: [
          lot('new', first?.id ?? '', 'C-n', '10'),
          ...(rows['qlots'] ?? []).filter(({ cells }) => cells['qcode'] !== 'C-b'),
        ],
      },
    };
    const id = newId();
    const of = { record: sheet.record?.id ?? '', base: sheet.record?.base ?? sheet.answers };
    const { version } = await must(saveDraft(as('Kofi'), id, { form, version: 0, answers: changed, of }));
    const one = await must(sendSubmission(as('Kofi'), id, { key: newId(), version }));
    expect(one.state).toBe('waiting');
    // Ada sees the table by nothing but what she is asked.
    const decision = { key: newId(), version: one.version, decision: 'approve' as const, word: '' };
    expect((await must(decideSubmission(as('Ada'), id, decision))).state).toBe('kept');
    expect(brief(await lots(number))).toEqual(['C l1 17 C-n 1', 'C l1 17 C-a 2', 'C l1 17 C-c 3']);
    // The line whose lot went has no total any more.
    const [line] = await world.sql(`SELECT in_all FROM records."${keys.lines}" WHERE name = 'C l2'`, []);
    expect(line).toEqual({ in_all: null });
    const client = new pg.Client({ connectionString: world.appUrl });
    await client.connect();
    const touched = async (submission: string | null, code: string): Promise<number | null> => {
      await client.query('BEGIN');
      await client.query(
        "SELECT set_config('slate.person', $1, true), set_config('slate.submission', $2, true)",
        [personNamed('Ada').id, submission ?? ''],
      );
      const { rowCount } = await client.query(
        `UPDATE records."${keys.lots}" SET amount = 99 WHERE code = $1`,
        [code],
      );
      await client.query('ROLLBACK');
      return rowCount;
    };
    expect(await touched(id, 'C-a')).toBe(1);
    expect([await touched(id, 'O-a'), await touched(null, 'C-a')]).toEqual([0, 0]);
    expect(brief(await lots(other))).toHaveLength(3);
    await client.end();
  });

  it('go with their row and with the record, at the same moment, and come back with it', async () => {
    const number = await kept('R');
    const [record] = await world.sql(
      `SELECT o.id, o.version, t.id AS table_id FROM records."${keys.own}" o, slate.designed_table t WHERE o.number = $1 AND t.key = $2`,
      [number, keys.own],
    );
    const edit = (t: 'remove' | 'restore', version: number) =>
      must(
        saveEdits(as('Kofi'), {
          key: newId(),
          reasons: [],
          edits: [{ t, table: String(record?.['table_id']), id: String(record?.['id']), version }],
        }),
      );
    const before = brief(await lots(number));
    // One lot was taken out before by itself, and stays out.
    await world.sql(
      `UPDATE records."${keys.lots}" SET removed_at = now() - interval '1 hour' WHERE code = 'R-c'`,
      [],
    );
    await edit('remove', Number(record?.['version']));
    expect(await lots(number)).toEqual([]);
    await edit('restore', Number(record?.['version']) + 1);
    expect(brief(await lots(number))).toEqual(before.filter((one) => !one.includes('R-c')));
  });
});
