import { beforeAll, describe, expect, it } from 'vitest';
import { choicesOf, choiceLists, conditions, waysOfComing } from '../../demo/lists';
import type { Answers } from '../../src/core/form/answers';
import { plainColumn, plainTable, type Column, type Table } from '../../src/core/table/model';
import type { Redesign } from '../../src/core/table/redesign';
import { runTableChange } from '../../src/use-cases/tables/change-table';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { openTableDesign, saveTableChange } from '../../src/use-cases/tables/design-table';
import { keepList, removeList } from '../../src/use-cases/lists/keep-list';
import { openNewSheet, openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { listLists, openList } from '../../src/use-cases/lists/read-lists';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
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
  type Garden,
  useWorld,
} from '../support/world';

const world = useWorld();
let garden: Garden;
beforeAll(async () => {
  garden = await plantGarden(world);
  for (const { id, ...list } of choiceLists) await must(keepList(as('Ines'), id, list));
  await releaseSampleForms();
});

const listOf = async (id: string) => (await must(openList(as('Ines'), id))).list;
const change = async (id: string, part: Parameters<typeof keepList>[2] | object) => {
  const { id: _id, ...now } = await listOf(id);
  return keepList(as('Ines'), id, { ...now, ...part });
};
const issuesOf = async (result: Promise<Awaited<ReturnType<typeof keepList>>>): Promise<unknown[]> => {
  const refused = await refusal(result);
  return refused.kind === 'invalid'
    ? refused.issues.map(({ code, facts }) => [
        code,
        facts['choice'] ?? facts['list'] ?? null,
        facts['where'] ?? facts['choices'] ?? null,
      ])
    : [refused.kind];
};
const rule = async (table: string): Promise<string> =>
  String(
    (
      await world.sql(
        `SELECT string_agg(pg_get_constraintdef(oid), ' ') AS says FROM pg_constraint WHERE conrelid = 'records.${table}'::regclass AND contype = 'c'`,
      )
    )[0]?.['says'] ?? '',
  );
const inspection = (state: string): Answers => ({
  values: { qbibed: garden.bed, qbion: '2026-11-23', qbistate: state, qbidead: '0', qbipests: false },
  rows: {},
  reasons: {},
});
const asked = async (): Promise<string[]> => {
  const { design } = await must(openNewSheet(as('Maren'), 'bed_inspection'));
  const question = design.sections.flatMap(({ questions }) => questions).find(({ id }) => id === 'qbistate');
  return question?.kind === 'choice'
    ? question.choices.map(({ label, retired }) => `${label}${retired === true ? ', retired' : ''}`)
    : [];
};

describe('a choice list', () => {
  it('is what its columns may hold and what its forms offer, from one place', async () => {
    const { lists } = await must(listLists(as('Ines')));
    expect(
      lists.map(({ label, uses }) => [
        label,
        uses.columns.map(({ table, column }) => `${table} ${column}`),
        uses.forms.map(({ title, live }) => [title, live]),
      ]),
    ).toEqual([
      ['Conditions', ['Inspections How does it look?'], [['Bed inspection', true]]],
      ['Ways plants come', ['Intakes How did it come?'], [['Plant intake', true]]],
    ]);
    expect(await rule('inspections')).toContain("'thriving'");
    expect(
      await world.sql(`SELECT choices, list_id FROM slate.designed_column WHERE id = 'qbistate'`),
    ).toEqual([{ choices: [], list_id: conditions.id }]);
    expect(await asked()).toEqual(['Thriving', 'Fair', 'Poor', 'Failing']);
  });

  it('is changed for all of them at once, without a release', async () => {
    await must(
      change(conditions.id, {
        choices: [
          ...choicesOf(['Thriving', 'Fair']),
          { code: 'poor', label: 'Weak' },
          ...choicesOf(['Failing', 'Dormant']),
        ],
      }),
    );
    expect(await asked()).toEqual(['Thriving', 'Fair', 'Weak', 'Failing', 'Dormant']);
    expect(await rule('inspections')).toContain("'dormant'");
    await sent('Maren', formIds.inspection, inspection('dormant'));
    const { done } = await must(openList(as('Ines'), conditions.id));
    expect(done.map(({ by, list, before }) => [by, list.version, before?.version ?? null])).toEqual([
      ['Ines Okafor', 2, 1],
      ['Ines Okafor', 1, null],
    ]);
  });

  it('belongs to owners, and to one of them at a time', async () => {
    for (const result of [
      listLists(as('Maren')),
      openList(as('Maren'), conditions.id),
      keepList(as('Maren'), conditions.id, conditions),
      removeList(as('Maren'), conditions.id),
    ])
      expect(await refusal(result as Promise<never>)).toEqual({ kind: 'forbidden', why: 'design' });
    const { id, ...now } = await listOf(conditions.id);
    const both = await Promise.all(
      ['Dry', 'Wet'].map((label) =>
        keepList(as('Ines'), id, { ...now, choices: [...now.choices, ...choicesOf([label])] }),
      ),
    );
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
    expect(both.flatMap((one) => (one.ok ? [] : [one.error]))).toEqual([
      { kind: 'stale', why: 'list-changed', facts: { by: 'Ines Okafor' } },
    ]);
    expect(await refusal(keepList(as('Ines'), newId(), { ...now, version: 3 }))).toMatchObject({
      kind: 'stale',
      why: 'list-changed',
    });
  });

  it('is refused with what is wrong with it, and then nothing has changed', async () => {
    expect(await issuesOf(change(conditions.id, { label: ' ways plants come', choices: [] }))).toEqual([
      ['list-label-taken', ' ways plants come', null],
      ['choices-missing', null, null],
      ['choice-held', 'Dormant', 'one record of Inspections holds it'],
    ]);
    expect((await listOf(conditions.id)).label).toBe('Conditions');
    await expect(
      world.sql(
        `INSERT INTO records.inspections (bed, inspected_on, condition, plants_lost, pests_seen) VALUES ($1, '2026-11-23', 'splendid', 0, false)`,
        [garden.bed],
      ),
    ).rejects.toMatchObject({ code: '23514' });
  });
});

describe('a choice of a list', () => {
  const without = async (code: string) => ({
    choices: (await listOf(conditions.id)).choices.filter((one) => one.code !== code),
  });
  const retired = async (code: string) => ({
    choices: (await listOf(conditions.id)).choices.map((one) =>
      one.code === code ? { ...one, retired: true } : one,
    ),
  });

  it('that records or submissions hold is not taken out; one that nothing holds is', async () => {
    await world.sql(
      `INSERT INTO records.inspections (bed, inspected_on, condition, plants_lost, pests_seen) VALUES ($1, '2026-11-23', 'thriving', 0, false), ($1, '2026-11-24', 'thriving', 0, false)`,
      [garden.bed],
    );
    await draft('Maren', formIds.inspection, inspection('failing'));
    expect(await issuesOf(change(conditions.id, await without('thriving')))).toEqual([
      ['choice-held', 'Thriving', '2 records of Inspections hold it'],
    ]);
    expect(await issuesOf(change(conditions.id, await without('failing')))).toEqual([
      ['choice-held', 'Failing', 'a submission on its way holds it'],
    ]);
    await must(change(conditions.id, await without('fair')));
    expect(await rule('inspections')).not.toContain("'fair'");
    expect((await must(openList(as('Ines'), conditions.id))).held['thriving']).toBe(2);
  });

  it('that is retired stays where it stands with its words, is refused where it is chosen, and goes on where it was sent', async () => {
    const before = await draft('Maren', formIds.inspection, inspection('poor'));
    await must(change(conditions.id, await retired('poor')));
    expect(await asked()).toContain('Weak, retired');
    const refused = await refusal(
      sendSubmission(as('Maren'), before.id, { key: newId(), version: before.version }),
    );
    expect(refused).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'choice-retired', path: ['qbistate'], facts: { choice: 'Weak' } }],
    });
    await world.sql(
      `INSERT INTO records.inspections (bed, inspected_on, condition, plants_lost, pests_seen) VALUES ($1, '2026-11-25', 'poor', 0, false)`,
      [garden.bed],
    );
  });

  it('that is retired while a submission waits is kept when that is approved', async () => {
    const { design } = await must(openWorkbench(as('Ines'), formIds.inspection));
    const steps = [{ id: 'stlook', label: 'Section lead', people: [as('Tomasz').person.id] }];
    const { version } = await must(
      editForm(as('Ines'), formIds.inspection, { version: 1, design: { ...design, steps } }),
    );
    await must(releaseForm(as('Ines'), formIds.inspection, { version, fill: 'everybody' }));
    const waiting = await sent('Maren', formIds.inspection, inspection('failing'));
    await must(change(conditions.id, await retired('failing')));
    await must(
      decideSubmission(as('Tomasz'), waiting.id, {
        key: newId(),
        version: waiting.version,
        decision: 'approve',
        word: '',
      }),
    );
    const opened = await must(openSubmission(as('Maren'), waiting.id));
    expect([
      opened.submission?.state,
      (
        await world.sql(`SELECT count(*)::int AS n FROM records.inspections WHERE condition = 'failing'`)
      )[0]?.['n'],
    ]).toEqual(['kept', 1]);
  });
});

describe('a column of a table', () => {
  const table: Table = {
    ...plainTable,
    id: newId(),
    key: 'pots',
    label: 'Pots',
    prefix: 'PO',
    title: ['cname'],
    columns: [
      { ...plainColumn, id: 'cname', key: 'name', label: 'Name' },
      {
        ...plainColumn,
        id: 'clook',
        key: 'look',
        label: 'Look',
        kind: 'choice',
        choices: choicesOf(['Thriving', 'Dull', 'Quite dull']),
        default: '"thriving"',
      },
    ],
  };
  const withLook = (one: Table, part: Partial<Column>): Table => ({
    ...one,
    columns: one.columns.map((column) => (column.id === 'clook' ? { ...column, ...part } : column)),
  });
  const wanted = async (): Promise<Table> =>
    (await must(openTableDesign(as('Ines'), 'pots'))).table ?? expect.fail('no table');
  const changed = async (to: Table, mends: Redesign['mends'] = {}) => {
    const id = newId();
    const { version } = await must(
      saveTableChange(as('Ines'), id, {
        version: 0,
        base: to.version,
        redesign: { table: to, readings: {}, mends },
      }),
    );
    return runTableChange(as('Ines'), id, { version });
  };

  it('takes a list instead of its own choices by a plan that mends what the list does not have', async () => {
    await must(changed(table));
    await world.sql(
      `INSERT INTO records.pots (name, look) VALUES ('A', 'thriving'), ('B', 'dull'), ('C', 'quite_dull'), ('D', NULL)`,
    );
    const { id, label, choices } = await listOf(conditions.id);
    const to = withLook(await wanted(), { list: { id, label }, choices });
    const refused = await refusal(changed(to));
    expect(refused).toMatchObject({ kind: 'invalid', issues: [{ code: 'values-misfit', path: ['clook'] }] });
    const draftThere = (await must(openTableDesign(as('Ines'), 'pots'))).draft ?? expect.fail('no draft');
    const mends = { clook: { Dull: 'Dormant', 'Quite dull': '' } };
    const { version } = await must(
      saveTableChange(as('Ines'), draftThere.id, {
        version: draftThere.version,
        base: to.version,
        redesign: { table: to, readings: {}, mends },
      }),
    );
    await must(runTableChange(as('Ines'), draftThere.id, { version }));
    expect(
      (await world.sql('SELECT name, look FROM records.pots ORDER BY name')).map(({ look }) => look),
    ).toEqual(['thriving', 'dormant', null, null]);
    expect((await wanted()).columns[1]).toMatchObject({ list: { id, label: 'Conditions' } });
    expect(
      await issuesOf(change(conditions.id, { choices: choices.filter(({ code }) => code !== 'thriving') })),
    ).toEqual([
      [
        'choice-held',
        'Thriving',
        '2 records of Inspections hold it, and one record of Pots holds it, and it is the default of Look in Pots',
      ],
    ]);
    await must(change(conditions.id, { choices: [...choices, ...choicesOf(['Sulking'])] }));
    await world.sql(`UPDATE records.pots SET look = 'sulking' WHERE name = 'D'`);
  });

  it('keeps the list’s choices as its own when it lets go of it, and then the list can change without it', async () => {
    const there = await wanted();
    await must(changed(withLook(there, { list: null })));
    const { choices } = await listOf(conditions.id);
    await must(
      change(conditions.id, {
        choices: choices.map((one) => (one.code === 'sulking' ? { ...one, label: 'Grumpy' } : one)),
      }),
    );
    expect((await wanted()).columns[1]?.choices.find(({ code }) => code === 'sulking')?.label).toBe(
      'Sulking',
    );
  });

  it('keeps a list from being removed while it uses it', async () => {
    expect(await issuesOf(removeList(as('Ines'), waysOfComing.id) as never)).toEqual([
      ['list-used', null, 'How did it come? in Intakes, the form Plant intake'],
    ]);
    const id = newId();
    await must(
      keepList(as('Ines'), id, {
        version: 0,
        label: 'Nothing uses this',
        description: '',
        choices: choicesOf(['A']),
      }),
    );
    await must(removeList(as('Ines'), id));
    expect(await refusal(openList(as('Ines'), id))).toEqual({ kind: 'not-found', what: 'choice list' });
    expect(await world.sql('SELECT label FROM slate.choice_list_version WHERE list_id = $1', [id])).toEqual([
      { label: 'Nothing uses this' },
    ]);
  });
});
