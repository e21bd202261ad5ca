import pg from 'pg';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Answers } from '../../src/core/form/answers';
import { withPlaceOf } from '../../src/core/storage/merged-answers';
import { decideSubmission } from '../../src/use-cases/submissions/decide-submission';
import { openRecordSheet, openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { recordNow } from '../../src/use-cases/submissions/record-now';
import { saveDraft } from '../../src/use-cases/submissions/save-draft';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import {
  as,
  formIds,
  inspectionAnswers,
  must,
  newId,
  plantGarden,
  refusal,
  releaseSampleForms,
  sent,
  treatmentAnswers,
  useWorld,
  type Garden,
} from '../support/world';

const world = useWorld();
let garden: Garden;

/** Kofi keeps the tables: he may change their records, and nobody else. */
beforeAll(async () => {
  await releaseSampleForms();
  garden = await plantGarden(world);
  await world.sql(
    "INSERT INTO slate.access_grant (table_id, role, action) SELECT id, 'steward', action FROM slate.designed_table, unnest(ARRAY['see', 'change']) AS action ON CONFLICT DO NOTHING",
  );
});

const decide = (name: string, id: string, version: number, decision: 'approve' | 'send-back' = 'approve') =>
  decideSubmission(as(name), id, { key: newId(), version, decision, word: 'A word' });

/** A treatment that has been approved and kept. */
async function treatment(): Promise<string> {
  const one = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
  const first = await must(decide('Tomasz', one.id, one.version));
  await must(decide('Pell', one.id, first.version));
  return one.number;
}
const inspection = (more: Answers['values'] = {}) =>
  sent('Maren', formIds.inspection, inspectionAnswers(garden.bed, more));

/** Opens a record by its form and keeps a change of it as a draft. */
async function changed(
  name: string,
  form: 'treatment' | 'intake' | 'inspection',
  number: string,
  edit: (was: Answers) => Answers,
) {
  const key = { treatment: 'treatment_request', intake: 'plant_intake', inspection: 'bed_inspection' }[form];
  const sheet = await must(openRecordSheet(as(name), key, number, 'change'));
  const record = sheet.record?.id ?? '';
  const id = newId();
  const draft = (version: number, base: Answers, answers: Answers) =>
    saveDraft(as(name), id, { form: formIds[form], version, answers, of: { record, base } });
  const { version } = await must(draft(0, sheet.record?.base ?? sheet.answers, edit(sheet.answers)));
  return { id, version, record, sheet, draft };
}
const withValue =
  (question: string, raw: string | boolean | null) =>
  (was: Answers): Answers => ({ ...was, values: { ...was.values, [question]: raw } });
const send = (name: string, { id, version }: { id: string; version: number }) =>
  sendSubmission(as(name), id, { key: newId(), version });

describe('a record is changed by the form it was made with', () => {
  it('after its steps, by what was changed alone, as its sender, whoever approves it', async () => {
    const number = await treatment();
    const one = await changed('Kofi', 'treatment', number, (was) => ({
      ...was,
      rows: {
        qtrlines: [
          { id: 'fresh', cells: { qtrproduct: garden.soap, qtrrate: '10' } },
          ...(was.rows['qtrlines'] ?? [])
            .slice(1)
            .map((row) => ({ ...row, cells: { ...row.cells, qtrrate: '35' } })),
        ],
      },
    }));
    expect(one.sheet.answers.values).toMatchObject({
      qtrbed: garden.bed,
      qtrplanned: '2026-11-25',
      qtrclosed: true,
    });
    const done = await must(send('Kofi', one));
    expect(done).toMatchObject({ number, state: 'waiting' });
    // Whoever is asked sees what it would change, without seeing the table.
    const seen = await must(openSubmission(as('Tomasz'), one.id));
    expect(seen.submission?.earlierAnswers?.rows['qtrlines']?.map(({ cells }) => cells['qtrrate'])).toEqual([
      '60.0',
      '30.0',
    ]);
    expect(seen.record?.number).toBe(number);
    const first = await must(decide('Tomasz', one.id, done.version));
    expect((await must(decide('Pell', one.id, first.version))).state).toBe('kept');
    const [record] = await world.sql(
      'SELECT t.version, t.total, t.seen, p.name AS by, t.submission_id <> $2 AS other FROM records.treatments t JOIN slate.person p ON p.id = t.updated_by WHERE t.number = $1',
      [number, one.id],
    );
    expect(record).toEqual({ version: 2, total: '832.5', seen: 'Scale', by: 'Kofi Renwick', other: true });
    expect(
      await world.sql(
        'SELECT l.rate, l.amount, l.position, l.version, l.removed_at IS NULL AS there FROM records.treatment_lines l JOIN records.treatments t ON t.id = l.parent_id WHERE t.number = $1 ORDER BY l.removed_at NULLS FIRST, l.position',
        [number],
      ),
    ).toEqual([
      { rate: '10.0', amount: '185.0', position: 1, version: 1, there: true },
      { rate: '35.0', amount: '647.5', position: 2, version: 2, there: true },
      { rate: '60.0', amount: '1110.0', position: 1, version: 2, there: false },
    ]);
    const trail = await world.sql(
      'SELECT h.change, p.name FROM slate.history h JOIN slate.person p ON p.id = h.by_id WHERE h.submission_id = $1',
      [one.id],
    );
    expect(trail.map(({ change, name }) => `${String(change)} ${String(name)}`).sort()).toEqual([
      'changed Kofi Renwick',
      'changed Kofi Renwick',
      'changed Kofi Renwick',
      'made Kofi Renwick',
    ]);
    // What it changed is still to be seen, now that it is done.
    const kept = await must(openSubmission(as('Kofi'), one.id));
    expect(kept.submission).toMatchObject({ state: 'kept', recordId: one.record });
    expect(kept.submission?.earlierAnswers?.rows['qtrlines']?.[0]?.cells['qtrrate']).toBe('60.0');
    // What becomes of the record after that is none of theirs who decided.
    expect((await must(openSubmission(as('Tomasz'), one.id))).record).toBeNull();
  });

  it('merges with what others changed meanwhile, and asks about what both did', async () => {
    const { number } = await inspection({ qbinotes: 'Dry' });
    const mine = await changed('Kofi', 'inspection', number, (was) =>
      withValue('qbidead', '3')(withValue('qbinotes', 'Very dry')(was)),
    );
    const [at] = await world.sql('SELECT id, version FROM records.inspections WHERE number = $1', [number]);
    const other = (version: number, before: Record<string, string>, values: Record<string, string>) =>
      must(
        saveEdits(as('Ines'), {
          key: newId(),
          edits: [
            {
              t: 'change',
              table: mine.sheet.design.table.id,
              id: String(at?.['id']),
              version,
              before,
              values,
            },
          ],
        }),
      );
    await other(1, { qbistate: 'fair', qbinotes: 'Dry' }, { qbistate: 'poor', qbinotes: 'Wet' });
    expect(await refusal(send('Kofi', mine))).toMatchObject({
      kind: 'invalid',
      issues: [{ code: 'value-changed', path: ['qbinotes'], facts: { label: 'Notes' } }],
    });
    // Opened again, theirs has come in where only they changed it, and the rest is named.
    const again = await must(openRecordSheet(as('Kofi'), 'bed_inspection', number, 'change'));
    expect(again.submission?.id).toBe(mine.id);
    expect(again.answers.values).toMatchObject({ qbistate: 'poor', qbidead: '3', qbinotes: 'Very dry' });
    expect(again.record?.clashes).toEqual([['qbinotes']]);
    const { now, base } = again.record ?? { now: again.answers, base: again.answers };
    expect(now.values['qbinotes']).toBe('Wet');
    const settled = withPlaceOf(again.design, base, now, ['qbinotes']);
    const { version } = await must(mine.draft(mine.version, settled, again.answers));
    expect(await must(send('Kofi', { id: mine.id, version }))).toMatchObject({ state: 'kept', number });
    expect(
      await world.sql(
        'SELECT condition, plants_lost, notes, version FROM records.inspections WHERE number = $1',
        [number],
      ),
    ).toEqual([{ condition: 'poor', plants_lost: '3', notes: 'Very dry', version: 3 }]);
  });

  it('is asked about once more when it is approved, and goes back to be settled', async () => {
    const number = await treatment();
    const one = await changed('Kofi', 'treatment', number, withValue('qtrseen', 'Scale and mites'));
    const done = await must(send('Kofi', one));
    await world.sql("UPDATE records.treatments SET seen = 'Mites alone' WHERE number = $1", [number]);
    const first = await must(decide('Tomasz', one.id, done.version));
    const asked = await must(openSubmission(as('Pell'), one.id));
    expect(asked.record?.clashes).toEqual([['qtrseen']]);
    expect(await refusal(decide('Pell', one.id, first.version))).toMatchObject({
      issues: [{ code: 'value-changed', path: ['qtrseen'] }],
    });
    const back = await must(decide('Pell', one.id, first.version, 'send-back'));
    const mine = await must(openSubmission(as('Kofi'), one.id));
    expect(mine.record?.clashes).toEqual([['qtrseen']]);
    const { version } = await must(one.draft(back.version, mine.record?.now ?? mine.answers, mine.answers));
    const again = await must(send('Kofi', { id: one.id, version }));
    const next = await must(decide('Tomasz', one.id, again.version));
    await must(decide('Pell', one.id, next.version));
    expect(await world.sql('SELECT seen FROM records.treatments WHERE number = $1', [number])).toEqual([
      { seen: 'Scale and mites' },
    ]);
  });

  it('is nothing where nothing was changed, and asks nothing about what was so before', async () => {
    const { number } = await inspection();
    // A day that the form would not take any more, and that nobody touches.
    await world.sql("UPDATE records.inspections SET inspected_on = '2030-01-01' WHERE number = $1", [number]);
    const one = await changed('Kofi', 'inspection', number, (was) => was);
    expect(await refusal(send('Kofi', one))).toMatchObject({ issues: [{ code: 'nothing-changed' }] });
    const other = await changed('Kofi', 'inspection', number, withValue('qbinotes', 'Seen again'));
    expect((await must(send('Kofi', other))).state).toBe('kept');
    const third = await changed('Kofi', 'inspection', number, withValue('qbion', '2030-01-02'));
    expect(await refusal(send('Kofi', third))).toMatchObject({
      issues: [{ code: 'check-stops', path: ['qbion'] }],
    });
  });
});

describe('checks among records', () => {
  it('are asked about a change of what they compare, and of nothing else', async () => {
    const intake = async (qpipermit: string) => {
      const [taxon] = await world.sql(
        "INSERT INTO records.taxa (name, family) VALUES ('Testa ' || gen_random_uuid(), 'Testaceae') RETURNING id",
      );
      const one = await sent('Maren', formIds.intake, {
        values: {
          qpireceived: '2026-11-20',
          qpigiver: 'Harbour Garden Exchange',
          qpisource: 'exchange',
          qpiabroad: true,
          qpipermit,
        },
        rows: {
          qpiplants: [
            {
              id: 'r1',
              cells: {
                qpitaxon: String(taxon?.['id']),
                qpiquantity: '3',
                qpibed: garden.bed,
                qpistate: 'in_quarantine',
              },
            },
          ],
        },
        reasons: {},
      });
      await must(decide('Ada', one.id, one.version));
      return one.number;
    };
    const [first, second] = [await intake('PN-1'), await intake('PN-2')];
    // Two that are alike came about beside the form.
    await world.sql("UPDATE records.intakes SET permit = 'PN-1' WHERE number = $1", [second]);
    const change = (number: string, edit: (was: Answers) => Answers) =>
      changed('Kofi', 'intake', number, edit);
    expect(await must(send('Kofi', await change(second, withValue('qpigiver', 'Fenwick'))))).toMatchObject({
      state: 'waiting',
    });
    expect(await refusal(send('Kofi', await change(first, withValue('qpipermit', 'PN-1 '))))).toMatchObject({
      issues: [{ code: 'nothing-changed' }],
    });
    await intake('PN-3');
    expect(await refusal(send('Kofi', await change(first, withValue('qpipermit', 'PN-3'))))).toMatchObject({
      issues: [{ code: 'check-stops', path: ['qpipermit'] }],
    });
  });
});

describe('who may', () => {
  it('change records by a form: whoever fills it and may change what its tables hold', async () => {
    const number = await treatment();
    const record = (await must(openRecordSheet(as('Kofi'), 'treatment_request', number, 'view'))).record;
    const nowFor = (name: string) => recordNow(as(name), formIds.treatment, record?.id ?? '');
    expect((await must(nowFor('Kofi'))).answers).toEqual(record?.now);
    expect(await refusal(nowFor('Maren'))).toMatchObject({ kind: 'not-found' });
    expect(await refusal(openRecordSheet(as('Maren'), 'treatment_request', number, 'view'))).toMatchObject({
      kind: 'not-found',
    });
    await world.sql(
      "INSERT INTO slate.access_grant (table_id, person_id, action) SELECT t.id, p.id, 'see' FROM slate.designed_table t, slate.person p WHERE p.name LIKE 'Maren%'",
    );
    expect(await refusal(openRecordSheet(as('Maren'), 'treatment_request', number, 'change'))).toEqual({
      kind: 'forbidden',
      why: 'change-by-form',
    });
    const view = await must(openRecordSheet(as('Maren'), 'treatment_request', number, 'view'));
    expect(view.record).toMatchObject({ number, mayChange: false, mayRemove: null });
    expect(
      await refusal(openRecordSheet(as('Kofi'), 'treatment_request', 'TR-1999-0001', 'view')),
    ).toMatchObject({
      kind: 'not-found',
    });
    const answers = view.answers;
    const of = { record: view.record?.id ?? '', base: answers };
    expect(
      await refusal(saveDraft(as('Maren'), newId(), { form: formIds.treatment, version: 0, answers, of })),
    ).toMatchObject({ kind: 'forbidden', why: 'change-by-form' });
    // A record of another table is none of this form's.
    const elsewhere = { record: garden.bed, base: answers };
    expect(
      await refusal(
        saveDraft(as('Kofi'), newId(), { form: formIds.treatment, version: 0, answers, of: elsewhere }),
      ),
    ).toMatchObject({ kind: 'not-found', what: 'record' });
  });

  it('and when that right is taken away before the end, nothing is changed, not even by plain SQL', async () => {
    const number = await treatment();
    const one = await changed('Kofi', 'treatment', number, withValue('qtrseen', 'Taken away'));
    const done = await must(send('Kofi', one));
    const first = await must(decide('Tomasz', one.id, done.version));
    const client = new pg.Client({ connectionString: world.appUrl });
    await client.connect();
    const as = async (person: string, submission: string): Promise<number | null> => {
      await client.query('BEGIN');
      await client.query(
        "SELECT set_config('slate.person', $1, true), set_config('slate.submission', $2, true)",
        [person, submission],
      );
      const { rowCount } = await client.query(
        "UPDATE records.treatments SET seen = 'by hand' WHERE number = $1",
        [number],
      );
      await client.query('ROLLBACK');
      return rowCount;
    };
    try {
      const [pell] = await world.sql("SELECT id FROM slate.person WHERE name LIKE 'Pell%'");
      // It is not at its end yet.
      expect(await as(String(pell?.['id']), one.id)).toBe(0);
      await world.sql(
        "UPDATE slate.access_grant SET role = 'nobody' WHERE role = 'steward' AND action = 'change'",
      );
      await expect(decide('Pell', one.id, first.version)).resolves.toMatchObject({ ok: false });
      expect(await world.sql('SELECT seen FROM records.treatments WHERE number = $1', [number])).toEqual([
        { seen: 'Scale' },
      ]);
    } finally {
      await world.sql("UPDATE slate.access_grant SET role = 'steward' WHERE role = 'nobody'");
      await client.end();
    }
  });

  it('no more of a record that was removed', async () => {
    const { number } = await inspection();
    const one = await changed('Kofi', 'inspection', number, withValue('qbinotes', 'Late'));
    await world.sql('UPDATE records.inspections SET removed_at = now() WHERE number = $1', [number]);
    expect(await refusal(send('Kofi', one))).toMatchObject({ issues: [{ code: 'record-removed' }] });
  });
});
