import { beforeAll, describe, expect, it } from 'vitest';
import type { FormDesign } from '../../src/core/form/design';
import type { Refusal } from '../../src/core/kernel/refusal';
import { ok } from '../../src/core/kernel/result';
import { plainColumn, plainTable, type Table } from '../../src/core/table/model';
import { applyChanges } from '../../src/data/runtime/tables/tables';
import { asOwner } from '../../src/data/transaction';
import { allowForm } from '../../src/use-cases/forms/allow-form';
import { createFormOf, createForm } from '../../src/use-cases/forms/create-form';
import { openTableDesign, saveTableChange } from '../../src/use-cases/tables/design-table';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { personNamed } from '../../demo/people';
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
  useWorld,
} from '../support/world';

/** Who may build on a table: a release asks rights on all it touches, and a table decides how it may be filled. */
const world = useWorld();
/** Another owner of forms, who made none of the tables. */
const osei = () => ({
  ...as('Osei'),
  person: { ...as('Osei').person, roles: ['owner' as const, 'colleague' as const] },
});
const salaries: Table = {
  ...plainTable,
  id: newId(),
  key: 'salaries',
  label: 'Salaries',
  prefix: 'SA',
  title: ['cwho'],
  columns: [
    { ...plainColumn, id: 'cwho', key: 'who', label: 'Who', required: true },
    { ...plainColumn, id: 'cpay', key: 'pay', label: 'Pay', kind: 'money', decimals: 2, unit: 'GBP' },
  ],
};

beforeAll(async () => {
  await releaseSampleForms();
  await world.sql(`UPDATE slate.person SET roles = '{owner,colleague}' WHERE id = $1`, [
    personNamed('Osei').id,
  ]);
  await must(
    asOwner({ person: personNamed('Ines').id }, async (tx) =>
      ok(await applyChanges(tx, new Map(), [{ t: 'make-table', table: salaries }], ['steward'])),
    ),
  );
});

async function madeBy(who: typeof osei, change: (design: FormDesign) => FormDesign): Promise<string> {
  const id = newId();
  await must(createForm(who(), { id, title: `Form ${id.slice(0, 4)}` }));
  const { design } = await must(openWorkbench(who(), id));
  await must(editForm(who(), id, { version: 1, design: change(design) }));
  return id;
}
const codesOf = (refused: Refusal): string[] =>
  refused.kind === 'invalid' ? refused.issues.map(({ code }) => code) : [refused.kind];
const asking = (design: FormDesign, question: object): FormDesign => ({
  ...design,
  sections: [
    {
      id: 's',
      title: '',
      questions: [
        {
          id: 'qone',
          key: 'one',
          label: 'One',
          hint: '',
          required: false,
          ...question,
        } as FormDesign['sections'][number]['questions'][number],
      ],
    },
  ],
});

describe('a table that somebody may not see', () => {
  it('is not among those they may build on, whatever their draft names', async () => {
    const id = await madeBy(osei, (design) =>
      asking(design, {
        kind: 'rows',
        least: 0,
        most: 5,
        columns: [],
        totals: [],
        table: { id: salaries.id, key: 'salaries', label: 'S', prefix: 'SA' },
      }),
    );
    const { tables } = await must(openWorkbench(osei(), id));
    expect(tables.map(({ key }) => key)).not.toContain('salaries');
    expect(
      (
        await must(
          openWorkbench(
            as('Ines'),
            await madeBy(
              () => as('Ines') as ReturnType<typeof osei>,
              (design) => design,
            ),
          ),
        )
      ).tables.map(({ key }) => key),
    ).toContain('salaries');
  });

  it('is not picked from by a form of theirs', async () => {
    const id = await madeBy(osei, (design) =>
      asking(design, { kind: 'lookup', table: salaries.id, show: ['cpay'] }),
    );
    expect(codesOf(await refusal(releaseForm(osei(), id, { version: 2, fill: 'everybody' })))).toContain(
      'table-no-pick',
    );
    expect(await world.sql('SELECT 1 FROM slate.release_table WHERE table_id = $1', [salaries.id])).toEqual(
      [],
    );
  });

  it('is not relabelled, widened or filled through repeating rows of theirs', async () => {
    const before = await world.sql(`SELECT label, version FROM slate.designed_table WHERE id = $1`, [
      salaries.id,
    ]);
    const id = await madeBy(osei, (design) =>
      asking(design, {
        kind: 'rows',
        least: 0,
        most: 5,
        totals: [],
        table: { id: salaries.id, key: 'salaries', label: 'Mine now', prefix: 'SA' },
        columns: [
          { id: 'qmine', key: 'mine', label: 'Mine', hint: '', required: false, kind: 'text', long: false },
        ],
      }),
    );
    expect(
      codesOf(await refusal(releaseForm(osei(), id, { version: 2, fill: 'everybody' })))[0],
    ).toBeDefined();
    expect(
      await world.sql(`SELECT label, version FROM slate.designed_table WHERE id = $1`, [salaries.id]),
    ).toEqual(before);
    expect(
      await world.sql(
        `SELECT 1 FROM information_schema.columns WHERE table_name = 'salaries' AND column_name = 'mine'`,
      ),
    ).toEqual([]);
  });

  it('is designed by those who may, and by nobody else', async () => {
    expect((await refusal(openTableDesign(osei(), 'salaries'))).kind).toBe('not-found');
    const { table } = await must(
      openTableDesign(osei(), 'beds').catch(() => Promise.reject(new Error('not seen'))),
    );
    if (table === null) throw new Error('no table');
    const redesign = { table: { ...table, label: 'Mine now' }, readings: {}, mends: {} };
    expect(
      await refusal(saveTableChange(osei(), newId(), { version: 0, base: table.version, redesign })),
    ).toEqual({ kind: 'forbidden', why: 'design-table' });
    await must(saveTableChange(as('Ines'), newId(), { version: 0, base: table.version, redesign }));
  });
});

describe('a table that a form fills, with approval', () => {
  const treatments = async () =>
    String((await world.sql(`SELECT id FROM slate.designed_table WHERE key = 'treatments'`))[0]?.['id']);
  /** “Make a form of it”, without steps. */
  const formOf = async (who: typeof osei): Promise<{ id: string; version: number }> => {
    const id = newId();
    await must(createFormOf(who(), { id, table: 'treatments' }));
    return { id, version: 1 };
  };
  const state = async (form: string) =>
    (
      await world.sql('SELECT state FROM slate.table_form WHERE table_id = $1 AND form_id = $2', [
        await treatments(),
        form,
      ])
    )[0]?.['state'];

  it('is not filled by another form before those who design it say so', async () => {
    await world.sql(
      `INSERT INTO slate.access_grant (table_id, role, action) SELECT id, 'owner', a FROM slate.designed_table, unnest(ARRAY['see', 'pick']) a WHERE key IN ('treatments', 'treatment_lines') ON CONFLICT DO NOTHING`,
    );
    const { id, version } = await formOf(osei);
    const refused = await refusal(
      releaseForm(osei(), id, { version, allow: [await treatments()], fill: 'everybody' }),
    );
    expect(new Set(codesOf(refused))).toEqual(new Set(['table-not-open']));
    expect(await state(id)).toBe('asked');
    // Whoever asks cannot give the word themselves.
    expect(await refusal(allowForm(osei(), 'treatments', { form: id, allowed: true }))).toEqual({
      kind: 'forbidden',
      why: 'design-table',
    });
    const { forms } = await must(openTableDesign(as('Ines'), 'treatments'));
    expect(forms.map(({ state: how }) => how)).toEqual(['allowed', 'asked']);
    for (const key of ['treatments', 'treatment_lines'])
      await must(allowForm(as('Ines'), key, { form: id, allowed: true }));
    expect((await must(releaseForm(osei(), id, { version, fill: 'everybody' }))).number).toBe(1);
  });

  it('is opened to one more form of its own designer only on purpose', async () => {
    const { id, version } = await formOf(() => as('Ines') as ReturnType<typeof osei>);
    const refused = await refusal(releaseForm(as('Ines'), id, { version, fill: 'everybody' }));
    expect(new Set(codesOf(refused))).toEqual(new Set(['table-way-in']));
    const tables = refused.kind === 'invalid' ? refused.issues.map(({ path }) => String(path[1])) : [];
    expect(
      (await must(releaseForm(as('Ines'), id, { version, allow: tables, fill: 'everybody' }))).number,
    ).toBe(1);
    expect(await state(id)).toBe('allowed');
  });

  it('takes a form off again: what is on its way there is refused at its end, and nothing new is sent', async () => {
    const garden = await plantGarden(world);
    const waiting = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    const approve = (name: string, version: number) =>
      decideSubmission(as(name), waiting.id, { key: newId(), version, decision: 'approve', word: '' });
    const first = await must(approve('Tomasz', waiting.version));
    const off = (allowed: boolean) =>
      must(allowForm(as('Ines'), 'treatments', { form: formIds.treatment, allowed }));
    await off(false);
    expect(codesOf(await refusal(approve('Pell', first.version)))).toEqual(['table-closed']);
    const fresh = await draft('Maren', formIds.treatment, treatmentAnswers(garden));
    const send = () => sendSubmission(as('Maren'), fresh.id, { key: newId(), version: fresh.version });
    expect(codesOf(await refusal(send()))).toEqual(['table-closed']);
    await world.sql(
      `INSERT INTO slate.table_form (table_id, form_id, state) SELECT id, $1, 'allowed' FROM slate.designed_table WHERE key = 'treatments'`,
      [formIds.treatment],
    );
    expect((await must(approve('Pell', first.version))).state).toBe('kept');
    await must(send());
  });
});
