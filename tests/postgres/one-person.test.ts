import { beforeAll, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import type { Chosen } from '../../src/contract/one-person';
import { ok } from '../../src/core/kernel/result';
import { insertForm } from '../../src/data/system/forms';
import { asOwner } from '../../src/data/transaction';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { erasePerson } from '../../src/use-cases/people/erase-person';
import { findPerson } from '../../src/use-cases/people/find-person';
import { takeOutPerson } from '../../src/use-cases/people/take-out-person';
import { openRecord, openRecords } from '../../src/use-cases/records/open-records';
import { saveDraft } from '../../src/use-cases/submissions/save-draft';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { trailLines } from '../../src/use-cases/trail/read-trail';
import { form, lines, section, target, text } from '../support/small-form';
import { as, draft, must, newId, refusal, sent, useWorld } from '../support/world';

/** What is kept about one person, found wherever it stands, taken out as a file, and erased so that nothing is left of it. */
const guests = '01900000-0000-7000-a000-0000000000f1';
const guestForm = form([
  section('s', [
    text('gname', { required: true, key: 'guest', label: 'Guest' }),
    text('gmail', { key: 'mail', label: 'Mail' }),
    text('gnote', { key: 'note', label: 'Note', long: true }),
    lines([text('gwith', { key: 'companion', label: 'Companion' })]),
  ]),
]);
const table = target(91);
const rows = target(92);
const world = useWorld(async ({ sql }) => {
  const ines = personNamed('Ines').id;
  await must(
    asOwner({ person: ines }, async (tx) =>
      ok(
        await insertForm(tx, { id: guests, key: 'guests', design: guestForm, ownerId: ines, editedBy: ines }),
      ),
    ),
  );
  await must(releaseForm(as('Ines'), guests, { version: 1, fill: 'everybody' }));
  await sql(
    `UPDATE slate.designed_column SET personal = CASE id WHEN 'gmail' THEN 'e-mail' ELSE 'name' END WHERE id IN ('gname', 'gmail', 'gwith')`,
  );
});
const wren = () => as('Wren');
const answers = (name: string, mail: string, note: string, companion: string) => ({
  values: { gname: name, gmail: mail, gnote: note },
  rows: { lines: [{ id: 'r1', cells: { gwith: companion } }] },
  reasons: {},
});

/** In which tables of ours a text stands, whatever they are for. */
async function whereStands(words: string): Promise<string[]> {
  const all = await world.sql(
    `SELECT format('%I.%I', schemaname, tablename) AS name FROM pg_tables WHERE schemaname IN ('slate', 'records')`,
  );
  const found: string[] = [];
  for (const { name } of all) {
    const [row] = await world.sql(
      `SELECT count(*)::int AS n FROM ${String(name)} AS t WHERE t::text ILIKE $1`,
      [`%${words}%`],
    );
    if (row?.['n'] !== 0) found.push(String(name));
  }
  return found.sort();
}

/** Somebody is brought by the form, with a companion; their name is put right in the grid afterwards. */
async function brought(name: string, note = ''): Promise<{ id: string; number: string }> {
  const mail = `${name.toLowerCase().replace(' ', '.')}@people.example`;
  await sent('Maren', guests, answers(`${name} senior`, mail, note, `${name} junior`));
  const found = await must(openRecords(as('Ines'), table.key, { sort: 'number', find: name }));
  const [record] = found.rows;
  if (record === undefined) throw new Error('it was not kept');
  const edit = {
    t: 'change' as const,
    table: table.id,
    id: record.id,
    version: record.version,
    before: { gname: `${name} senior` },
    values: { gname: name },
  };
  await must(saveEdits(as('Ines'), { key: newId(), edits: [edit] }));
  return { id: record.id, number: record.number };
}
beforeAll(async () => {
  await world.sql(
    `INSERT INTO slate.access_grant (table_id, role, action) SELECT $1::uuid, 'owner', action FROM unnest(ARRAY['see', 'add', 'change', 'remove', 'design']) AS action ON CONFLICT DO NOTHING`,
    [table.id],
  );
});
const thisOne = (id: string): Chosen => ({ records: [{ table: table.id, id }], submissions: [] });
const erasing = (chosen: Chosen, columns: Record<string, string[]> = {}) => ({
  key: newId(),
  ...chosen,
  columns,
});

it('is found by a name or an address in every table, and in what became no record, by administrators alone', async () => {
  const ada = await brought('Ada Greenleaf');
  const begun = await draft('Maren', guests, answers('Ada Greenleaf', '', '', ''));
  expect(await refusal(findPerson(as('Ines'), 'Ada Greenleaf'))).toEqual({
    kind: 'forbidden',
    why: 'people',
  });
  const found = await must(findPerson(wren(), 'greenleaf  ADA'));
  expect(found.tables.map(({ label, records }) => [label, records.map(({ number }) => number)])).toEqual([
    [table.label, [ada.number]],
    [rows.label, [expect.any(String)]],
  ]);
  expect(found.tables[0]?.records[0]).toMatchObject({
    values: [
      { label: 'Guest', text: 'Ada Greenleaf' },
      { label: 'Mail', text: 'ada.greenleaf@people.example' },
    ],
    keptUntil: null,
  });
  expect(found.submissions.map(({ id, form: asked, sentAt }) => [id, asked, sentAt])).toEqual([
    [begun.id, 'A form', null],
  ]);
  expect((await must(findPerson(wren(), 'ada.greenleaf@people'))).tables.map(({ label }) => label)).toEqual([
    table.label,
  ]);
  expect(await must(findPerson(wren(), '100%'))).toMatchObject({ tables: [], submissions: [] });
});

it('is taken out with how it was before, its rows and what was sent', async () => {
  const { id, number } = await brought('Bo Larkspur', 'Likes ferns');
  const { name, text: file } = await must(takeOutPerson(wren(), thisOne(id)));
  expect(name).toBe('data-about-a-person-2026-11-23.json');
  const told = JSON.parse(file) as {
    records: {
      table: string;
      values: object;
      belongsTo?: string;
      history: { values: { Guest?: string } }[];
    }[];
    submissions: object[];
  };
  expect(told.records.map((one) => [one.table, one.values])).toEqual([
    [table.label, { Guest: 'Bo Larkspur', Mail: 'bo.larkspur@people.example', Note: 'Likes ferns' }],
    [rows.label, { Companion: 'Bo Larkspur junior' }],
  ]);
  expect(told.records[1]?.belongsTo).toBe(number);
  expect(told.records[0]?.history.map(({ values }) => values.Guest)).toEqual([
    'Bo Larkspur senior',
    'Bo Larkspur',
  ]);
  expect(told.submissions[0]).toMatchObject({
    form: 'A form',
    sentBy: 'Maren Solheim',
    answers: { Guest: 'Bo Larkspur senior', LINES: [{ Companion: 'Bo Larkspur junior' }] },
  });
  expect((await refusal(takeOutPerson(as('Ines'), thisOne(id)))).kind).toBe('forbidden');
  expect((await refusal(takeOutPerson(wren(), thisOne(newId())))).kind).toBe('not-found');
});

it('is erased everywhere at once: nothing in the database holds it any more, and all else stays', async () => {
  const { id, number } = await brought('Cleo Thistle', 'Came with a dog');
  const begun = await draft('Maren', guests, answers('Cleo Thistle', '', 'Not sent', ''));
  await world.sql(`UPDATE records.${table.key} SET note = note || ', again' WHERE id = $1`, [id]);
  const example = newId();
  await world.sql(
    `INSERT INTO slate.form_example (id, form_id, label, sender_id, moment, answers, outcome, kept_by) VALUES ($1, $2, 'One', $3, '2026-11-23T12:00:00', $4, '{}', $3)`,
    [example, guests, personNamed('Ines').id, JSON.stringify(answers('Cleo Thistle', '', 'Example', ''))],
  );
  expect(await whereStands('Cleo Thistle')).toEqual([
    `records.${table.key}`,
    `records.${rows.key}`,
    'slate.form_example',
    'slate.history',
    'slate.request_key',
    'slate.submission',
    'slate.submission_event',
  ]);
  const wanted = erasing({ ...thisOne(id), submissions: [begun.id] });
  const done = await must(erasePerson(wren(), wanted));
  expect(done).toEqual({ records: 2, submissions: 2, kept: [] });
  expect(await whereStands('Cleo Thistle')).toEqual([]);
  expect(await whereStands('cleo.thistle')).toEqual([]);
  // What became a record is not erased behind it.
  const [made] = await world.sql(`SELECT submission_id AS id FROM records.${table.key} WHERE number <> $1`, [
    number,
  ]);
  const behind = erasing({ records: [], submissions: [String(made?.['id'])] });
  expect((await refusal(erasePerson(wren(), behind))).kind).toBe('not-found');
  // Sent twice, it is done once.
  expect(await must(erasePerson(wren(), wanted))).toEqual(done);
  const { record, history } = await must(openRecord(as('Ines'), table.key, id));
  expect(record.cells).toMatchObject({
    gname: `erased ${number}`,
    gmail: null,
    gnote: 'Came with a dog, again',
  });
  expect(JSON.stringify(history)).toContain('Came with a dog');
  const [left] = await world.sql(`SELECT answers FROM slate.submission WHERE id = $1`, [begun.id]);
  expect(left?.['answers']).toMatchObject({ values: { gname: null, gnote: 'Not sent' } });
  // Nor does whoever has it open bring it back by saving what they see.
  const again = answers('Cleo Thistle', '', 'Not sent', '');
  const saved = saveDraft(as('Maren'), begun.id, { form: guests, version: begun.version, answers: again });
  expect((await refusal(saved)).kind).toBe('stale');
  expect(await whereStands('Cleo Thistle')).toEqual([]);
  expect(await whereStands('Ada Greenleaf')).toContain('slate.history');
});

it('leaves what a duty keeps, and says until when and why', async () => {
  const { id, number } = await brought('Dara Sorrel');
  await world.sql(
    `UPDATE slate.designed_table SET duty = '{"years": 10, "why": "the tax code"}' WHERE id = $1`,
    [table.id],
  );
  const made = String(
    (
      await world.sql(`SELECT created_at::date::text AS d FROM records.${table.key} WHERE id = $1`, [id])
    )[0]?.['d'],
  );
  const until = `${Number(made.slice(0, 4)) + 10}${made.slice(4)}`;
  const found = await must(findPerson(wren(), 'dara sorrel'));
  expect(found.tables[0]).toMatchObject({ why: 'the tax code', records: [{ keptUntil: until }] });
  expect(await must(erasePerson(wren(), erasing(thisOne(id))))).toMatchObject({
    records: 0,
    kept: [{ number, table: table.label, until, why: 'the tax code' }],
  });
  expect(await whereStands('Dara Sorrel junior')).toContain(`records.${rows.key}`);
  // Eleven years later nobody has to keep it.
  const later = as('Wren', new Date('2038-01-01T12:00:00Z'));
  expect(await must(erasePerson(later, erasing(thisOne(id))))).toMatchObject({ records: 2, kept: [] });
  expect(await whereStands('Dara Sorrel')).toEqual([]);
  await world.sql(`UPDATE slate.designed_table SET duty = NULL WHERE id = $1`, [table.id]);
});

it('empties other columns where that is chosen, and refuses what cannot be empty', async () => {
  const { id } = await brought('Eli Bramble', 'Eli Bramble likes moss');
  await must(erasePerson(wren(), erasing(thisOne(id), { [table.id]: ['gname', 'gmail', 'gnote'] })));
  expect(await whereStands('Eli Bramble')).toEqual([]);
  const other = await brought('Fen Yarrow');
  await world.sql(`ALTER TABLE records.${table.key} ADD COLUMN born date NOT NULL DEFAULT '1970-05-04'`);
  await world.sql(
    `INSERT INTO slate.designed_column (table_id, id, key, label, kind, required, is_unique, personal, position) VALUES ($1, 'gborn', 'born', 'Born', 'date', true, false, 'birth', 9)`,
    [table.id],
  );
  expect(await refusal(erasePerson(wren(), erasing(thisOne(other.id))))).toEqual({
    kind: 'invalid',
    issues: [
      {
        code: 'cannot-be-emptied',
        path: ['columns', 'gborn'],
        facts: { label: 'Born', table: table.label },
      },
    ],
  });
  expect(await whereStands('Fen Yarrow')).toContain('slate.history');
});

it('is told by the trail: that it was done, by whom and of which records, and never what stood there', async () => {
  const asked = { by: '', from: '', until: '', find: '' } as const;
  const told = await must(trailLines(wren(), { ...asked, about: 'personal-data' }));
  expect(told.lines.map(({ sentence, by }) => [by, sentence.split(':')[0]])).toEqual([
    ...Array.from({ length: 3 }, () => ['Wren Calloway', 'Erased what is kept about somebody']),
    ['Wren Calloway', 'Took out what is kept about somebody'],
  ]);
  const looked = await must(trailLines(wren(), { ...asked, about: 'personal-search' }));
  expect(looked.lines.length).toBe(4);
  expect(JSON.stringify([told, looked])).not.toMatch(/Greenleaf|Thistle|Larkspur|Bramble/i);
});
