import pg from 'pg';
import { beforeAll, describe, expect, it } from 'vitest';
import { decideSubmission, withdrawSubmission } from '../../src/use-cases/submissions/decide-submission';
import { openApprovals, openHome } from '../../src/use-cases/submissions/open-home';
import { openNewSheet, openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { dropDraft, saveDraft } from '../../src/use-cases/submissions/save-draft';
import { searchLookup } from '../../src/use-cases/submissions/search-lookup';
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
  treatmentAnswers,
  type Garden,
  useWorld,
} from '../support/world';

const world = useWorld();
let garden: Garden;

beforeAll(async () => {
  await releaseSampleForms();
  garden = await plantGarden(world);
});

const approve = (name: string, id: string, version: number, key = newId()) =>
  decideSubmission(as(name), id, { key, version, decision: 'approve', word: '' });

describe('from draft to rows', () => {
  it('keeps parent and rows in one go after the last approval, readable by a stranger', async () => {
    const one = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    expect(one.number).toMatch(/^TR-\d{4}-\d{4}$/);
    expect(await world.sql('SELECT 1 FROM records.treatments WHERE number = $1', [one.number])).toEqual([]);
    const first = await must(approve('Tomasz', one.id, one.version));
    expect(first.state).toBe('waiting');
    expect((await must(approve('Pell', one.id, first.version))).state).toBe('kept');
    const [parent] = await world.sql(
      `SELECT t.number, b.code, t.bed_area, t.total, t.planned_on::text, t.path_closed, t.version, p.name AS made_by FROM records.treatments t JOIN records.beds b ON b.id = t.bed JOIN slate.person p ON p.id = t.created_by WHERE t.number = $1`,
      [one.number],
    );
    expect(parent).toEqual({
      number: one.number,
      code: 'G4-12',
      bed_area: '18.50',
      total: '1665.0',
      planned_on: '2026-11-25',
      path_closed: true,
      version: 1,
      made_by: 'Maren Solheim',
    });
    const lines = await world.sql(
      `SELECT l.position, p.name, l.rate, l.area, l.amount FROM records.treatment_lines l JOIN records.products p ON p.id = l.product JOIN records.treatments t ON t.id = l.parent_id WHERE t.number = $1 ORDER BY l.position`,
      [one.number],
    );
    expect(lines).toEqual([
      { position: 1, name: 'Soft soap spray 2%', rate: '60.0', area: '18.50', amount: '1110.0' },
      { position: 2, name: 'Nemavar drench', rate: '30.0', area: '18.50', amount: '555.0' },
    ]);
    const trail = await world.sql(
      `SELECT h.change, h.version, p.name FROM slate.history h JOIN slate.person p ON p.id = h.by_id WHERE h.submission_id = $1`,
      [one.id],
    );
    expect(trail).toHaveLength(3);
    expect(trail[0]).toEqual({ change: 'made', version: 1, name: 'Maren Solheim' });
  });

  it('of a form without steps is kept at once', async () => {
    const answers = {
      values: { qbibed: garden.bed, qbion: '2026-11-20', qbistate: 'fair', qbipests: false, qbidead: '2' },
      rows: {},
      reasons: {},
    };
    const { id, version } = await draft('Maren', formIds.inspection, answers);
    expect((await must(sendSubmission(as('Maren'), id, { key: newId(), version }))).state).toBe('kept');
    expect(
      await world.sql('SELECT condition, plants_lost, pests_seen, notes FROM records.inspections'),
    ).toEqual([{ condition: 'fair', plants_lost: '2', pests_seen: false, notes: null }]);
  });

  it('goes back with a word, and comes again with what it was before', async () => {
    const one = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    const back = await must(
      decideSubmission(as('Tomasz'), one.id, {
        key: newId(),
        version: one.version,
        decision: 'send-back',
        word: ' Less soap, please. ',
      }),
    );
    expect(back.state).toBe('sent-back');
    expect((await must(openHome(as('Maren')))).mine.find(({ id }) => id === one.id)?.state).toBe('sent-back');
    const answers = {
      ...treatmentAnswers(garden),
      values: { ...treatmentAnswers(garden).values, qtrclosed: false },
    };
    const kept = await must(
      saveDraft(as('Maren'), one.id, { form: formIds.treatment, version: back.version, answers }),
    );
    const again = await must(sendSubmission(as('Maren'), one.id, { key: newId(), version: kept.version }));
    expect(again.number).toBe(one.number);
    const seen = await must(openSubmission(as('Tomasz'), one.id));
    expect(seen.submission?.earlierAnswers?.values['qtrclosed']).toBe(true);
    expect(seen.answers.values['qtrclosed']).toBe(false);
    expect(seen.submission?.events.map(({ kind, word }) => [kind, word])).toEqual([
      ['send', ''],
      ['send-back', 'Less soap, please.'],
      ['send', ''],
    ]);
    expect(seen.submission?.decidesAt).not.toBeNull();
  });

  it('may be declined, taken back, or thrown away while it is a draft, and then is over', async () => {
    const declined = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    await must(
      decideSubmission(as('Tomasz'), declined.id, {
        key: newId(),
        version: declined.version,
        decision: 'decline',
        word: 'Done last week',
      }),
    );
    expect(await refusal(approve('Tomasz', declined.id, declined.version + 1))).toMatchObject({
      kind: 'stale',
      why: 'already-decided',
      facts: { state: 'declined', by: 'Tomasz Bielak' },
    });
    const taken = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    await must(withdrawSubmission(as('Maren'), taken.id, { key: newId(), version: taken.version }));
    expect((await must(openApprovals(as('Tomasz')))).waiting.map(({ id }) => id)).not.toContain(taken.id);
    const { id } = await draft('Maren', formIds.treatment, treatmentAnswers(garden));
    await must(dropDraft(as('Maren'), id));
    expect(await refusal(openSubmission(as('Maren'), id))).toEqual({ kind: 'not-found', what: 'submission' });
    expect(await refusal(dropDraft(as('Maren'), taken.id))).toMatchObject({
      kind: 'stale',
      why: 'already-sent',
    });
  });
});

describe('the server alone decides', () => {
  it('checks again what the browser checked, and says every place', async () => {
    const bad = {
      values: { qtrbed: newId(), qtrplanned: '2020-01-01' },
      rows: { qtrlines: [{ id: 'r1', cells: { qtrproduct: garden.nemavar, qtrrate: '99' } }] },
      reasons: {},
    };
    const { id, version } = await draft('Maren', formIds.treatment, bad);
    const refused = await refusal(sendSubmission(as('Maren'), id, { key: newId(), version }));
    expect(refused.kind === 'invalid' && refused.issues.map(({ code, path }) => [code, ...path])).toEqual([
      ['record-gone', 'qtrbed'],
      ['check-stops', 'qtrlines', 'r1', 'qtrrate'],
      ['check-stops', 'qtrplanned'],
    ]);
    expect((await must(openSubmission(as('Maren'), id))).submission?.state).toBe('draft');
  });

  it('lets a broken rule of the tables come back at its question, with nothing half-saved', async () => {
    const one = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    const first = await must(approve('Tomasz', one.id, one.version));
    await world.sql(
      'ALTER TABLE records.treatment_lines ADD CONSTRAINT "qtrrate_choice_000000000005" CHECK (rate < 40) NOT VALID',
    );
    const refused = await refusal(approve('Ada', one.id, first.version));
    await world.sql('ALTER TABLE records.treatment_lines DROP CONSTRAINT "qtrrate_choice_000000000005"');
    expect(refused.kind === 'invalid' && refused.issues.map(({ path }) => path)).toEqual([['qtrrate']]);
    expect(await world.sql('SELECT 1 FROM records.treatments WHERE number = $1', [one.number])).toEqual([]);
    expect((await must(openSubmission(as('Ada'), one.id))).submission?.state).toBe('waiting');
    await must(approve('Ada', one.id, first.version));
  });

  it('refuses who is not asked, whose own it is, and who may not see it', async () => {
    const one = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    expect(await refusal(approve('Ada', one.id, one.version))).toMatchObject({ kind: 'not-found' });
    expect(await refusal(approve('Maren', one.id, one.version))).toEqual({
      kind: 'forbidden',
      why: 'own-submission',
    });
    expect(await refusal(openSubmission(as('Osei'), one.id))).toMatchObject({ kind: 'not-found' });
    expect(
      await refusal(
        saveDraft(as('Osei'), one.id, {
          form: formIds.treatment,
          version: 0,
          answers: treatmentAnswers(garden),
        }),
      ),
    ).toMatchObject({ kind: 'not-found' });
    expect((await must(openSubmission(as('Ines'), one.id))).submission?.decidesAt).toBeNull();
    const tomasz = await draft('Tomasz', formIds.treatment, treatmentAnswers(garden));
    expect(
      await refusal(sendSubmission(as('Tomasz'), tomasz.id, { key: newId(), version: tomasz.version })),
    ).toMatchObject({ issues: [{ code: 'nobody-to-ask', facts: { own: true } }] });
  });

  it('finds options by every word and every shown column, and only what the form picks from', async () => {
    const search = (words: string, question = 'qtrbed', form = formIds.treatment) =>
      searchLookup(as('Osei'), { form, question, submission: null, search: words });
    expect((await must(search('fern G4'))).options.map(({ title }) => title)).toEqual([
      'G4-12 · Fern house, north bench',
    ]);
    expect((await must(search('100%'))).options).toEqual([]);
    expect((await must(search('', 'qtrproduct'))).options[0]?.values).toEqual({
      cpromax: '40.0',
      cprostock: '900',
    });
    expect(await refusal(search('', 'qtrrate'))).toEqual({ kind: 'not-found', what: 'question' });
    expect(await refusal(openNewSheet(as('Osei'), 'no_such_form'))).toMatchObject({
      kind: 'not-found',
      what: 'form',
    });
  });
});

describe('two at once, and one thing twice', () => {
  it('gives twenty people sending at once twenty different numbers', async () => {
    const drafts = await Promise.all(
      Array.from({ length: 20 }, () => draft('Maren', formIds.treatment, treatmentAnswers(garden))),
    );
    const done = await Promise.all(
      drafts.map(({ id, version }) => must(sendSubmission(as('Maren'), id, { key: newId(), version }))),
    );
    expect(new Set(done.map(({ number }) => number)).size).toBe(20);
  });

  it('counts one of two decisions, and tells the other who was first', async () => {
    const one = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    const { version } = await must(approve('Tomasz', one.id, one.version));
    const both = await Promise.all([
      approve('Ada', one.id, version),
      decideSubmission(as('Pell'), one.id, { key: newId(), version, decision: 'decline', word: 'No' }),
    ]);
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
    const lost = both.find(({ ok }) => !ok);
    expect(lost).toMatchObject({
      error: {
        kind: 'stale',
        why: 'already-decided',
        facts: { by: both[0].ok ? 'Ada Quist' : 'Pell Adeyemi' },
      },
    });
    const rows = await world.sql('SELECT 1 FROM records.treatments WHERE number = $1', [one.number]);
    expect(rows).toHaveLength(both[0].ok ? 1 : 0);
  });

  it('answers a repeated send the same, and carries it out once', async () => {
    const { id, version } = await draft('Maren', formIds.treatment, treatmentAnswers(garden));
    const key = newId();
    const send = () => must(sendSubmission(as('Maren'), id, { key, version }));
    const [first, second] = await Promise.all([send(), send()]);
    expect(second).toEqual(first);
    expect(await send()).toEqual(first);
    expect(
      await world.sql(
        `SELECT count(*)::int AS n FROM slate.submission_event WHERE submission_id = $1 AND kind = 'send'`,
        [id],
      ),
    ).toEqual([{ n: 1 }]);
  });

  it('keeps the first of two drafts edited apart, and tells the second', async () => {
    const { id, version } = await draft('Maren', formIds.treatment, treatmentAnswers(garden));
    const save = (seen: string) =>
      saveDraft(as('Maren'), id, {
        form: formIds.treatment,
        version,
        answers: { ...treatmentAnswers(garden), values: { qtrseen: seen } },
      });
    await must(save('one'));
    await must(save('one'));
    expect(await refusal(save('two'))).toMatchObject({ kind: 'stale', why: 'draft-changed' });
  });
});

describe('the database holds even against the application', () => {
  const asApp = async (person: string | null, work: (client: pg.Client) => Promise<void>) => {
    const client = new pg.Client({ connectionString: world.appUrl });
    await client.connect();
    try {
      await client.query('BEGIN');
      if (person !== null)
        await client.query(`SELECT set_config('slate.person', $1, true)`, [as(person).person.id]);
      await work(client);
    } finally {
      await client.end();
    }
  };

  it('shows nobody’s submissions to somebody else, and nothing to nobody', async () => {
    await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    await asApp('Osei', async (client) =>
      expect((await client.query('SELECT 1 FROM slate.submission')).rowCount).toBe(0),
    );
    await asApp(null, async (client) =>
      expect((await client.query('SELECT 1 FROM records.treatments')).rowCount).toBe(0),
    );
  });

  it.each([
    [
      'a row without a submission',
      "INSERT INTO records.beds (code, name, section, area) VALUES ('X', 'X', 'X', 1)",
    ],
    ['a changed trail', 'UPDATE slate.history SET by_id = NULL'],
    ['a changed event', "UPDATE slate.submission_event SET word = 'x'"],
    ['a table of its own', 'CREATE TABLE records.mine (id int)'],
    ['a dropped table', 'DROP TABLE records.beds'],
    ['a release', 'DELETE FROM slate.form_release'],
    [
      'a right of its own',
      `INSERT INTO slate.access_grant (table_id, role, action) SELECT id, 'colleague', 'change' FROM slate.designed_table`,
    ],
    ['the counter', 'SELECT * FROM slate.number_counter'],
  ])('refuses the application role %s', async (_, text) => {
    await asApp('Kofi', async (client) =>
      expect(client.query(text)).rejects.toMatchObject({ code: '42501' }),
    );
  });

  it('changes no row without the right to, and keeps version and history of every change, plain SQL too', async () => {
    await asApp('Kofi', async (client) =>
      expect((await client.query(`UPDATE records.beds SET name = 'Mine'`)).rowCount).toBe(0),
    );
    await world.sql(
      `UPDATE records.beds SET name = 'Fern house, north bench, long', version = 40, number = 'B-1' WHERE code = 'G4-12'`,
    );
    const [bed] = await world.sql(
      `SELECT version, number <> 'B-1' AS kept_number FROM records.beds WHERE code = 'G4-12'`,
    );
    expect(bed).toEqual({ version: 2, kept_number: true });
    const lines = await world.sql(
      `SELECT change, before->>'name' AS was, after->>'name' AS is FROM slate.history WHERE record_id = $1 ORDER BY version`,
      [garden.bed],
    );
    expect(lines[1]).toEqual({
      change: 'changed',
      was: 'Fern house, north bench',
      is: 'Fern house, north bench, long',
    });
  });
});
