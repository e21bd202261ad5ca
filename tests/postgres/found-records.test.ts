import { beforeAll, describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { tableId } from '../../demo/tables';
import type { Answers } from '../../src/core/form/answers';
import type { FieldQuestion, FormDesign } from '../../src/core/form/design';
import { ok } from '../../src/core/kernel/result';
import { insertForm } from '../../src/data/system/forms';
import { asOwner } from '../../src/data/transaction';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { goOnto } from '../../src/use-cases/submissions/go-onto';
import { openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { as, draft, must, newId, refusal, useWorld } from '../support/world';

const world = useWorld();
const FORM = '01900000-0000-7000-a000-0000000000f2';
const asked = (id: string, key: string) => ({ id, key, label: key, hint: '', required: false });
const text = (id: string, key: string): FieldQuestion => ({ ...asked(id, key), kind: 'text', long: false });
/** Whoever is entered twice is changed instead. */
const members: FormDesign = {
  format: 1,
  title: 'Member',
  area: '',
  table: { id: tableId(83), key: 'members', label: 'Members', prefix: 'M' },
  sections: [
    {
      id: 'smember',
      title: '',
      questions: [
        text('qmname', 'name'),
        text('qmtown', 'town'),
        text('qmnote', 'note'),
        {
          ...asked('qmvisits', 'visits'),
          kind: 'rows',
          columns: [{ ...asked('qmday', 'visited_on'), kind: 'date' }],
          least: 0,
          most: 20,
          totals: [],
          table: { id: tableId(84), key: 'visits', label: 'Visits', prefix: 'MV' },
        },
      ],
    },
  ],
  checks: [],
  steps: [],
  finds: ['qmname'],
};
const answers = (values: Record<string, string>, day?: string): Answers => ({
  values,
  rows: day === undefined ? {} : { qmvisits: [{ id: newId(), cells: { qmday: day } }] },
  reasons: {},
});
const send = (name: string, { id, version }: { id: string; version: number }) =>
  sendSubmission(as(name), id, { key: newId(), version });
const all = () => world.sql('SELECT name, town, note, version FROM records.members ORDER BY number');

beforeAll(async () => {
  const ines = personNamed('Ines').id;
  await must(
    asOwner({ person: ines }, async (tx) =>
      ok(await insertForm(tx, { id: FORM, key: 'member', design: members, ownerId: ines, editedBy: ines })),
    ),
  );
  await must(releaseForm(as('Ines'), FORM, { version: 1, fill: 'everybody' }));
  await world.sql(
    "INSERT INTO slate.access_grant (table_id, role, action) SELECT id, 'steward', action FROM slate.designed_table, unnest(ARRAY['see', 'change']) AS action WHERE key IN ('members', 'visits') ON CONFLICT DO NOTHING",
  );
});

describe('a form that finds records by what is answered', () => {
  it('makes one where none is there, and says which is there otherwise', async () => {
    const first = answers({ qmname: 'Otto Calder', qmtown: 'Fenwick', qmnote: 'Old' }, '2026-11-01');
    await must(send('Kofi', await draft('Kofi', FORM, first)));
    const again = await draft(
      'Kofi',
      FORM,
      answers({ qmname: 'Otto Calder', qmtown: 'Larkrise' }, '2026-11-02'),
    );
    const refused = await refusal(send('Kofi', again));
    expect(refused).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'record-found', path: ['qmname'], facts: { record: 'M-2026-0001' } }],
    });
    const [{ id: record } = { id: '' }] = await world.sql('SELECT id FROM records.members');
    const { version } = await must(
      goOnto(as('Kofi'), again.id, { version: again.version, record: String(record) }),
    );
    // Asked again, because the answer was lost, it changes nothing more.
    expect(
      await must(goOnto(as('Kofi'), again.id, { version: again.version, record: String(record) })),
    ).toEqual({
      version,
    });
    const sheet = await must(openSubmission(as('Kofi'), again.id));
    expect(sheet.record?.number).toBe('M-2026-0001');
    expect(sheet.answers.values).toMatchObject({ qmname: 'Otto Calder', qmtown: 'Larkrise', qmnote: 'Old' });
    expect(sheet.answers.rows['qmvisits']?.map(({ cells }) => cells['qmday'])).toEqual([
      '2026-11-01',
      '2026-11-02',
    ]);
    await must(send('Kofi', { id: again.id, version }));
    expect(await all()).toEqual([{ name: 'Otto Calder', town: 'Larkrise', note: 'Old', version: 2 }]);
    expect(
      await world.sql('SELECT count(*)::int AS many FROM records.visits WHERE removed_at IS NULL'),
    ).toEqual([{ many: 2 }]);
  });

  it('tells whoever may not see the table no more than that, and lets them change nothing', async () => {
    const one = await draft('Maren', FORM, answers({ qmname: 'Otto Calder', qmtown: 'Elsewhere' }));
    expect(await refusal(send('Maren', one))).toMatchObject({
      issues: [{ code: 'record-found', facts: { record: '', id: '' } }],
    });
    const [{ id: record } = { id: '' }] = await world.sql('SELECT id FROM records.members');
    const onto = { version: one.version, record: String(record) };
    expect(await refusal(goOnto(as('Maren'), one.id, onto))).toMatchObject({ kind: 'forbidden' });
    expect(await refusal(goOnto(as('Kofi'), one.id, onto))).toMatchObject({ kind: 'not-found' });
    expect((await all())[0]?.['town']).toBe('Larkrise');
  });

  it('makes one of twenty who send the same at once', async () => {
    const drafts = await Promise.all(
      Array.from({ length: 20 }, () => draft('Kofi', FORM, answers({ qmname: 'Mina Brevik' }))),
    );
    const done = await Promise.all(drafts.map((one) => send('Kofi', one)));
    expect(done.filter((one) => one.ok)).toHaveLength(1);
    expect((await all()).filter(({ name }) => name === 'Mina Brevik')).toHaveLength(1);
    // Nothing to find it by makes a new one.
    await must(send('Kofi', await draft('Kofi', FORM, answers({ qmtown: 'Fenwick' }))));
    await must(send('Kofi', await draft('Kofi', FORM, answers({ qmtown: 'Fenwick' }))));
  });
});
