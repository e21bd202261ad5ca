import { beforeAll, describe, expect, it } from 'vitest';
import { asKind, addQuestion, removeQuestion, replaceQuestion } from '../../src/core/form/edit';
import { questionsOf, type FormDesign, type Question } from '../../src/core/form/design';
import { keyFor } from '../../src/core/form/key';
import { carryDraft } from '../../src/use-cases/submissions/carry-draft';
import { createForm } from '../../src/use-cases/forms/create-form';
import { editForm } from '../../src/use-cases/forms/edit-form';
import { openForms, openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { openNewSheet, openSubmission } from '../../src/use-cases/submissions/open-sheet';
import { listTables } from '../../src/use-cases/tables/read-tables';
import { openRecord, openRecords } from '../../src/use-cases/records/open-records';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { openTableAtWork } from '../../src/use-cases/records/table-at-work';
import { as, draft, must, newId, refusal, useWorld } from '../support/world';

const world = useWorld();

const question = (id: string, label: string, part: object): Question =>
  ({
    ...asKind({ id, key: keyFor(label, new Set()), label, hint: '', required: false }, 'text', {
      id: newId(),
      key: 'rows',
      label: 'Rows',
      prefix: 'R',
    }),
    ...part,
  }) as Question;

async function designed(
  title: string,
  ...questions: Question[]
): Promise<{ id: string; design: FormDesign; version: number }> {
  const { id } = await must(createForm(as('Ines'), { id: newId(), title }));
  const { design: empty } = await must(openWorkbench(as('Ines'), id));
  const design = questions.reduce((all, one) => addQuestion(all, all.sections[0]!.id, one), empty);
  const { version } = await must(editForm(as('Ines'), id, { version: 1, design }));
  return { id, design, version };
}

describe('releasing a form makes its tables', () => {
  it('with real types, constraints, references and comments', async () => {
    const beds = (await must(openWorkbench(as('Ines'), (await designed('Empty')).id))).tables.find(
      ({ key }) => key === 'beds',
    )!;
    const { id, version } = await designed(
      'Tool loan',
      question('qa', 'Tool', { required: true }),
      question('qb', 'How many?', { kind: 'whole', unit: 'pieces', required: true }),
      question('qc', 'Weight', { kind: 'decimal', decimals: 3, unit: 'kg' }),
      question('qd', 'Back on', { kind: 'date' }),
      question('qe', 'Sharp?', { kind: 'yes-no' }),
      question('qf', 'Kind', { kind: 'choice', choices: [{ code: 'hand', label: 'Hand tool' }] }),
      question('qg', 'Bed', { kind: 'lookup', table: beds.id, show: [] }),
    );
    // Nobody has said who fills it.
    expect(await refusal(releaseForm(as('Ines'), id, { version }))).toMatchObject({
      issues: [{ code: 'nobody-fills', path: ['fill'] }],
    });
    expect(await must(releaseForm(as('Ines'), id, { version, fill: 'everybody' }))).toEqual({ number: 1 });
    const columns = await world.sql(
      `SELECT a.attname AS key, format_type(a.atttypid, a.atttypmod) AS type, a.attnotnull AS required, col_description(a.attrelid, a.attnum) AS words FROM pg_attribute a WHERE a.attrelid = 'records.tool_loan'::regclass AND a.attnum > 2 AND a.attname IN ('tool','how_many','weight','back_on','sharp','kind','bed') ORDER BY a.attnum`,
    );
    expect(columns).toEqual([
      { key: 'tool', type: 'text', required: true, words: 'Tool' },
      { key: 'how_many', type: 'numeric(15,0)', required: true, words: 'How many?, pieces' },
      { key: 'weight', type: 'numeric(18,3)', required: false, words: 'Weight, kg' },
      { key: 'back_on', type: 'date', required: false, words: 'Back on' },
      { key: 'sharp', type: 'boolean', required: false, words: 'Sharp?' },
      { key: 'kind', type: 'text', required: false, words: 'Kind' },
      { key: 'bed', type: 'uuid', required: false, words: 'Bed' },
    ]);
    await expect(
      world.sql(`INSERT INTO records.tool_loan (tool, how_many, kind) VALUES ('Spade', 1, 'other')`),
    ).rejects.toMatchObject({ code: '23514' });
    await expect(
      world.sql(`INSERT INTO records.tool_loan (tool, how_many, bed) VALUES ('Spade', 1, gen_random_uuid())`),
    ).rejects.toMatchObject({ code: '23503' });
    expect(await must(releaseForm(as('Ines'), id, { version, fill: 'everybody' }))).toEqual({ number: 1 });
  });

  it.each([
    "Robert'); DROP TABLE beds;--",
    '🌿🌿🌿',
    'x'.repeat(200),
    'select',
    'نباتات الحديقة',
    '"quoted" \\ back',
    'user',
    "O'Hara’s “bed”",
  ])('whatever it is called: %s', async (title) => {
    const label = [...title].slice(0, 200).join('');
    const { id, version, design } = await designed(
      label,
      question('qa', label, { required: true }),
      question('qb', 'Choice', { kind: 'choice', choices: [{ code: "it's; -- \\", label }] }),
      question('qr', 'Rows', {
        kind: 'rows',
        columns: [{ id: 'qrc', key: 'select', label, hint: '', required: false, kind: 'text', long: false }],
        least: 0,
        most: 5,
        totals: [],
        table: { id: newId(), key: `rows_${newId().slice(0, 8)}`, label, prefix: 'R' },
      }),
    );
    await must(releaseForm(as('Ines'), id, { version, fill: 'everybody' }));
    const made = await draft('Ines', id, {
      values: { qa: label, qb: "it's; -- \\" },
      rows: { qr: [{ id: 'a', cells: { qrc: label } }] },
      reasons: {},
    });
    const { state } = await must(
      sendSubmission(as('Ines'), made.id, { key: newId(), version: made.version }),
    );
    expect(state).toBe('kept');
    const { rows } = await must(openRecords(as('Ines'), design.table.key, { sort: 'number' }));
    const { table } = await must(openTableAtWork(as('Ines'), design.table.key));
    expect(rows[0]?.cells['qa']).toBe(label.replaceAll('\u0000', ''));
    const one = await must(openRecord(as('Ines'), table.key, rows[0]!.id));
    expect(one.related[0]?.rows[0]?.cells['qrc']).toBe(label);
    expect(one.history.map(({ change }) => change)).toEqual(['made']);
  });

  it('again with more: adds the column, keeps the rows, and the old release goes on for what is on its way', async () => {
    const { id, version, design } = await designed(
      'Water log',
      question('qa', 'Litres', { kind: 'whole', unit: 'l', required: true }),
    );
    await must(releaseForm(as('Ines'), id, { version, fill: 'everybody' }));
    const early = await draft('Maren', id, { values: { qa: '12' }, rows: {}, reasons: {} });
    const wider = addQuestion(
      replaceQuestion(design, 'qa', (one) => ({ ...one, label: 'Litres of water' })),
      design.sections[0]!.id,
      question('qb', 'Rain', { kind: 'yes-no', required: true }),
    );
    const edited = await must(editForm(as('Ines'), id, { version, design: wider }));
    expect(await must(releaseForm(as('Ines'), id, { version: edited.version, fill: 'everybody' }))).toEqual({
      number: 2,
    });
    await must(sendSubmission(as('Maren'), early.id, { key: newId(), version: early.version }));
    const late = await draft('Maren', id, { values: { qa: '3' }, rows: {}, reasons: {} });
    const refused = await refusal(
      sendSubmission(as('Maren'), late.id, { key: newId(), version: late.version }),
    );
    expect(refused.kind === 'invalid' && refused.issues.map(({ code, path }) => [code, ...path])).toEqual([
      ['required', 'qb'],
    ]);
    expect(await world.sql('SELECT litres, rain FROM records.water_log')).toEqual([
      { litres: '12', rain: null },
    ]);
    expect((await must(openForms(as('Ines')))).forms.find((form) => form.id === id)).toMatchObject({
      release: 2,
      edited: false,
      mine: true,
    });
  });

  it('and a draft begun before goes on under it, with what is still asked; what was sent does not', async () => {
    const [tool, note] = [question('qa', 'Tool borrowed', { required: true }), question('qb', 'Remark', {})];
    const { id, design, version } = await designed('Tool return', tool, note);
    await must(releaseForm(as('Ines'), id, { version, fill: 'everybody' }));
    const answers = { values: { qa: 'Rake', qb: 'a tooth is bent' }, rows: {}, reasons: {} };
    const [open, gone] = [await draft('Maren', id, answers), await draft('Maren', id, answers)];
    await must(sendSubmission(as('Maren'), gone.id, { key: newId(), version: gone.version }));
    const carry = (name: string, one: string, of: number) => carryDraft(as(name), one, { version: of });
    expect((await must(openSubmission(as('Maren'), open.id))).newer).toBeNull();
    expect(await must(carry('Maren', open.id, open.version))).toEqual({ version: open.version });
    const next = removeQuestion(
      addQuestion(design, design.sections[0]!.id, question('qc', 'Clean?', {})),
      'qb',
    );
    await must(editForm(as('Ines'), id, { version, design: next }));
    // Drafts are their senders' alone; how many there are is known to those who design the form.
    const bench = await must(openWorkbench(as('Ines'), id));
    expect(bench.underWay).toEqual({ drafts: 1, sent: 0 });
    await must(releaseForm(as('Ines'), id, { version: version + 1, note: 'No more remarks' }));
    expect((await must(openWorkbench(as('Ines'), id))).releases.map((one) => one.note)).toEqual([
      'No more remarks',
      '',
    ]);
    const before = await must(openSubmission(as('Maren'), open.id));
    expect(before.newer).toEqual({
      number: 2,
      note: 'No more remarks',
      left: [{ label: 'Remark', text: 'a tooth is bent' }],
    });
    expect(await refusal(carry('Maren', open.id, open.version + 1))).toMatchObject({ why: 'draft-changed' });
    expect(await refusal(carry('Tomasz', open.id, open.version))).toMatchObject({ kind: 'not-found' });
    expect(await refusal(carry('Maren', gone.id, gone.version + 1))).toMatchObject({ why: 'already-sent' });
    const now = { version: open.version + 1 };
    expect(await must(carry('Maren', open.id, open.version))).toEqual(now);
    expect(await must(carry('Maren', open.id, open.version))).toEqual(now);
    const after = await must(openSubmission(as('Maren'), open.id));
    expect([after.newer, after.answers.values]).toEqual([null, { qa: 'Rake' }]);
    expect(after.design.sections[0]?.questions.map((one) => one.id)).toEqual(['qa', 'qc']);
    await must(sendSubmission(as('Maren'), open.id, { key: newId(), version: now.version }));
  });

  it('not at all when something is wrong: no table, no release', async () => {
    const { id, version } = await designed(
      'Broken',
      question('qa', 'Area', { kind: 'calculated', expression: 'nothing * 2', decimals: 1, unit: '' }),
    );
    const refused = await refusal(releaseForm(as('Ines'), id, { version, fill: 'everybody' }));
    expect(refused.kind === 'invalid' && refused.issues[0]).toMatchObject({
      code: 'unknown-name',
      path: ['qa'],
    });
    expect(await world.sql(`SELECT to_regclass('records.broken') AS made`)).toEqual([{ made: null }]);
    expect(await refusal(openNewSheet(as('Ines'), 'broken'))).toMatchObject({ kind: 'not-found' });
  });

  it('once, when two press the button at the same moment', async () => {
    const { id, version } = await designed('Pressed twice', question('qa', 'Name', {}));
    const both = await Promise.all([
      must(releaseForm(as('Ines'), id, { version, fill: 'everybody' })),
      must(releaseForm(as('Ines'), id, { version, fill: 'everybody' })),
    ]);
    expect(both).toEqual([{ number: 1 }, { number: 1 }]);
  });
});

describe('designing', () => {
  it('is for owners, each their own form', async () => {
    const { id, design } = await designed('Mine', question('qa', 'Name', {}));
    expect(await refusal(createForm(as('Maren'), { id: newId(), title: 'No' }))).toEqual({
      kind: 'forbidden',
      why: 'design',
    });
    expect(await refusal(editForm(as('Maren'), id, { version: 2, design }))).toEqual({
      kind: 'forbidden',
      why: 'design',
    });
    expect((await must(openWorkbench(as('Wren'), id))).id).toBe(id);
    expect(await refusal(openWorkbench(as('Ines'), newId()))).toEqual({ kind: 'not-found', what: 'form' });
  });

  it('overwrites nobody: the second of two edits is told who was first', async () => {
    const { id, design, version } = await designed('Shared', question('qa', 'Name', {}));
    await must(editForm(as('Wren'), id, { version, design: { ...design, title: 'Theirs' } }));
    expect(await refusal(editForm(as('Ines'), id, { version, design }))).toMatchObject({
      kind: 'stale',
      why: 'design-changed',
      facts: { by: 'Wren Calloway' },
    });
    expect(await refusal(releaseForm(as('Ines'), id, { version, fill: 'everybody' }))).toMatchObject({
      kind: 'stale',
      why: 'design-changed',
    });
  });

  it('makes a form once per id, under a key of its own', async () => {
    const id = newId();
    await must(createForm(as('Ines'), { id, title: 'Same name' }));
    await must(createForm(as('Ines'), { id, title: 'Same name' }));
    await must(createForm(as('Ines'), { id: newId(), title: 'Same name' }));
    expect(
      (await world.sql(`SELECT key FROM slate.form WHERE key LIKE 'same_name%' ORDER BY key`)).map(
        ({ key }) => key,
      ),
    ).toEqual(['same_name', 'same_name_2']);
  });
});

describe('reading tables', () => {
  beforeAll(() =>
    world.sql(
      `INSERT INTO records.beds (code, name, section, area) SELECT 'B' || lpad(n::text, 3, '0'), 'Bed ' || n, 'House', n FROM generate_series(1, 120) n`,
    ),
  );

  it('sorts in a total order, and goes on from any record, both ways', async () => {
    const some = (order: 'up' | 'down', from: { after?: string; before?: string } = {}) =>
      must(openRecords(as('Maren'), 'beds', { sort: order === 'up' ? 'area' : '-area', ...from }));
    const first = await some('up');
    const last = await some('up', { after: first.rows.at(-1)?.id ?? '' });
    expect([first.total, first.rows.length, first.more, last.rows.length, last.more]).toEqual([
      120,
      100,
      { before: false, after: true },
      20,
      { before: true, after: false },
    ]);
    expect([first.rows[0]?.cells['cbedarea'], last.rows.at(-1)?.cells['cbedarea']]).toEqual([
      '1.00',
      '120.00',
    ]);
    const back = await some('up', { before: last.rows[0]?.id ?? '' });
    expect(back.rows.map(({ id }) => id)).toEqual(first.rows.map(({ id }) => id));
    expect(back.more).toEqual({ before: false, after: true });
    expect((await some('down')).rows[0]?.cells['cbedcode']).toBe('B120');
  });

  it('finds what is seen in a record, every word of it, and says how many that are', async () => {
    const found = async (find: string) => {
      const { rows, total, about } = await must(openRecords(as('Maren'), 'beds', { sort: 'area', find }));
      return [rows.map(({ cells }) => cells['cbedcode']), total, about];
    };
    expect(await found('bed 7 house')).toEqual([
      [
        'B007',
        'B017',
        'B027',
        'B037',
        'B047',
        'B057',
        'B067',
        'B070',
        'B071',
        'B072',
        'B073',
        'B074',
        'B075',
        'B076',
        'B077',
        'B078',
        'B079',
        'B087',
        'B097',
        'B107',
        'B117',
      ],
      21,
      false,
    ]);
    expect(await found('100%')).toEqual([[], 0, false]);
  });

  it('shows names for references, and only the tables a person may see', async () => {
    expect((await must(listTables(as('Osei')))).tables.map(({ key }) => key)).toEqual([
      'beds',
      'colleagues',
      'products',
      'taxa',
    ]);
    expect(await refusal(openRecords(as('Osei'), 'tool_loan', { sort: 'number' }))).toEqual({
      kind: 'not-found',
      what: 'table',
    });
    const [bed] = await world.sql(`SELECT id FROM records.beds WHERE code = 'B007'`);
    await world.sql(`INSERT INTO records.tool_loan (tool, how_many, bed) VALUES ('Spade', 2, $1)`, [
      bed!['id'],
    ]);
    const { rows } = await must(openRecords(as('Ines'), 'tool_loan', { sort: 'number' }));
    const { table } = await must(openTableAtWork(as('Ines'), 'tool_loan'));
    expect(rows[0]?.cells['qg']).toBe('B007 · Bed 7');
    expect(questionsOf((await must(openNewSheet(as('Maren'), 'tool_loan'))).design)).toHaveLength(
      table.columns.length,
    );
    expect(await refusal(openRecord(as('Ines'), 'tool_loan', newId()))).toEqual({
      kind: 'not-found',
      what: 'record',
    });
  });
});
