import fc from 'fast-check';
import pg from 'pg';
import { describe, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import type { TokenInput } from '../../src/contract/tokens';
import { narrowed, type TokenGrant } from '../../src/core/catalogue/narrowed';
import { may, mayForm, tableActions, type Catalogue } from '../../src/core/catalogue/catalogue';
import { ok } from '../../src/core/kernel/result';
import { asPerson } from '../../src/data/transaction';
import { fillForm, submissionState } from '../../src/use-cases/api/fill-form';
import { listRecords, readOne } from '../../src/use-cases/api/list-records';
import { writeRecords, type SentEdit } from '../../src/use-cases/api/write-records';
import { endTheirAccess } from '../../src/use-cases/people/keep-person';
import { openRecord, openRecords } from '../../src/use-cases/records/open-records';
import { byToken, takeBySecret, type Taken } from '../../src/use-cases/tokens/by-token';
import { addToken, openTokens, stopToken } from '../../src/use-cases/tokens/keep-tokens';
import { listTables } from '../../src/use-cases/tables/read-tables';
import { openPeople } from '../../src/use-cases/people/read-people';
import type { Context } from '../../src/use-cases/workspace/asking';
import {
  as,
  at,
  formIds,
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

/** What programs may, by tokens. */
let garden: Garden;
const ids: Record<string, string> = {};
const world = useWorld(async (made) => {
  garden = await plantGarden(made);
  await releaseSampleForms();
  for (const row of await made.sql('SELECT key, id FROM slate.designed_table'))
    ids[String(row['key'])] = String(row['id']);
  // Stewards keep the tables.
  await made.sql(
    `INSERT INTO slate.access_grant (table_id, role, action) SELECT id, 'steward', action FROM slate.designed_table, unnest(ARRAY['see', 'add', 'change', 'remove']) AS action ON CONFLICT DO NOTHING`,
  );
});
const wren = () => as('Wren');
const on = (table: string, ...actions: TokenGrant['action'][]) =>
  actions.map((action) => ({ tableId: ids[table] ?? '', formId: null, action })) as TokenInput['grants'];
const fill = (formId: string) => [{ tableId: null, formId, action: 'fill' as const }];
const input = (grants: TokenInput['grants'], more: Partial<TokenInput> = {}): TokenInput => ({
  label: 'Weather station',
  person: personNamed('Kofi').id,
  until: '2026-12-31',
  grants,
  ...more,
});
const made = async (grants: TokenInput['grants'], more: Partial<TokenInput> = {}) => {
  const id = newId();
  const { secret } = await must(addToken(wren(), id, input(grants, more)));
  return { id, secret };
};
const taken = async (grants: TokenInput['grants'], more: Partial<TokenInput> = {}): Promise<Taken> =>
  must(takeBySecret((await made(grants, more)).secret, at));
const by = <T>(token: Taken, work: (context: Context) => Promise<T>): Promise<T> => byToken(token, at, work);
const write = (token: Taken, table: string, edits: SentEdit[], key = newId()) =>
  by(token, (context) => writeRecords(context, table, { key, edits, at: (i) => ['edits', i] }));
const everything = { where: '', find: '', sort: '', columns: '', limit: 200, count: true } as const;
const bed = (code: string): SentEdit => ({
  op: 'add',
  values: { code, name: `Bed ${code}`, section: 'Woodland', area: '2.5', open_to_visitors: true },
});
const codes = async (work: Promise<{ ok: boolean } & object>) => {
  const refused = await refusal(work as never);
  return refused.kind === 'invalid'
    ? refused.issues.map(({ code }) => code)
    : 'why' in refused
      ? refused.why
      : refused.kind;
};

describe('a token', () => {
  it('is made by administrators alone, for what its person may, and shows its secret once', async () => {
    expect(await codes(addToken(as('Ines'), newId(), input(on('beds', 'see'))))).toBe('people');
    expect(await codes(openTokens(as('Kofi')))).toBe('people');
    expect(await codes(addToken(wren(), newId(), input([])))).toEqual(['token-nothing']);
    expect(await codes(addToken(wren(), newId(), input(on('beds', 'see'), { until: '2026-11-22' })))).toEqual(
      ['token-lasts'],
    );
    expect(await codes(addToken(wren(), newId(), input(on('beds', 'see'), { until: '2029-01-01' })))).toEqual(
      ['token-lasts'],
    );
    expect(
      await codes(addToken(wren(), newId(), input(on('beds', 'add'), { person: personNamed('Maren').id }))),
    ).toEqual(['token-beyond']);
    const { id, secret } = await made(on('beds', 'add'));
    const [stored] = await world.sql('SELECT hash, hint FROM slate.api_token WHERE id = $1', [id]);
    expect([String(stored?.['hash']).includes(secret.slice(6)), stored?.['hint']]).toEqual([
      false,
      secret.slice(-4),
    ]);
    const { tokens } = await must(openTokens(wren()));
    const shown = tokens.find((one) => one.id === id);
    // Who writes sees.
    expect(shown?.grants.map(({ action }) => action).sort()).toEqual(['add', 'see']);
    expect(JSON.stringify(tokens)).not.toContain(String(stored?.['hash']));
    // Made again under its id it is refused by the database, and stays what it was.
    await expect(addToken(wren(), id, input(on('beds', 'see')))).rejects.toThrow();
  });

  it('is taken by its secret until it ends, its day is over, or its person leaves; and says when it was used', async () => {
    const { id, secret } = await made(on('beds', 'see'), { until: '2026-11-24' });
    expect(await codes(takeBySecret(`${secret.slice(0, -1)}x`, at))).toBe('token');
    expect(await codes(takeBySecret('', at))).toBe('token');
    await must(takeBySecret(secret, new Date('2026-11-24T23:00:00Z')));
    expect(await codes(takeBySecret(secret, new Date('2026-11-25T00:00:00Z')))).toBe('token');
    const used = async () => (await must(openTokens(wren()))).tokens.find((one) => one.id === id)?.lastUsedAt;
    expect(await used()).toBe('2026-11-24T23:00:00.000Z');
    await must(stopToken(wren(), id));
    expect(await codes(takeBySecret(secret, at))).toBe('token');
    expect((await refusal(stopToken(wren(), newId()))).kind).toBe('not-found');
    expect(await codes(stopToken(as('Kofi'), id))).toBe('people');
    const theirs = await made(on('beds', 'see'), { person: personNamed('Osei').id });
    await must(endTheirAccess(wren(), personNamed('Osei').id, { to: personNamed('Ines').id }));
    expect(await codes(takeBySecret(theirs.secret, at))).toBe('token');
  });

  it('that is ended ends what is under way too', async () => {
    const { id, secret } = await made(on('beds', 'add'));
    const token = await must(takeBySecret(secret, at));
    await must(stopToken(wren(), id));
    await expect(write(token, 'beds', [bed('Z1')])).rejects.toThrow();
    expect((await must(by(token, (context) => listRecords(context, 'beds', everything)))).records).toEqual(
      [],
    );
  });

  it('makes at most so many requests in a minute, however many come at once', async () => {
    const { secret, id } = await made(on('beds', 'see'));
    await world.sql('UPDATE slate.api_token SET minute = $2, used = 590 WHERE id = $1', [id, at]);
    const all = await Promise.all(Array.from({ length: 16 }, () => takeBySecret(secret, at)));
    expect(all.filter((one) => one.ok)).toHaveLength(10);
    expect(await codes(takeBySecret(secret, at))).toBe('token');
    expect((await must(takeBySecret(secret, new Date(at.getTime() + 60_000)))).left).toBe(599);
  });
});

describe('records by a token', () => {
  it('are listed with a filter, an order, some columns and pages, and nothing of what it does not name', async () => {
    const token = await taken([...on('beds', 'add'), ...on('taxa', 'see')]);
    await must(write(token, 'beds', ['A1', 'A2', 'A3', 'A4'].map(bed)));
    const list = (more: object, table = 'beds') =>
      by(token, (context) => listRecords(context, table, { ...everything, ...more }));
    const query = {
      where: 'section = "Woodland" and area > 2',
      sort: '-code',
      columns: 'code,area',
      limit: 3,
    };
    const first = await must(list(query));
    expect(first.records.map(({ code }) => code)).toEqual(['A4', 'A3', 'A2']);
    expect(first.total).toEqual({ records: 4, about: false });
    expect(Object.keys(first.records[0] ?? {})).toEqual([
      'id',
      'number',
      'version',
      'created_at',
      'updated_at',
      'code',
      'area',
    ]);
    const second = await must(list({ ...query, after: first.next ?? '' }));
    expect([second.records.map(({ code }) => code), second.next]).toEqual([['A1'], null]);
    expect(await codes(list({ where: 'colour = 1' }))).toEqual(['unknown-name']);
    expect(await codes(list({ columns: 'code,colour' }))).toEqual(['unknown-column']);
    expect(await codes(list({ sort: 'colour' }))).toEqual(['unknown-column']);
    expect((await refusal(list({}, 'products'))).kind).toBe('not-found');
    // A filter reaches no further than what is seen.
    expect(await codes(list({ where: 'some one in treatments satisfies one.seen != null' }))).not.toBe('');
  });

  it('are added, changed and removed through the same door, each version once', async () => {
    const token = await taken([...on('beds', 'add', 'change', 'remove')]);
    const [one] = await must(write(token, 'beds', [bed('B1')]));
    const id = one?.id ?? '';
    const changed = await must(
      write(token, 'beds', [{ op: 'change', id, version: 1, values: { area: 3, name: 'Other' } }]),
    );
    expect(changed).toEqual([{ id, version: 2 }]);
    expect(await codes(write(token, 'beds', [{ op: 'change', id, version: 1, values: { area: 4 } }]))).toBe(
      'record-moved-on',
    );
    await must(write(token, 'beds', [{ op: 'change', id, version: null, values: { area: 4 } }]));
    const race = await Promise.all(
      [5, 6, 7, 8].map((area) => write(token, 'beds', [{ op: 'change', id, version: 3, values: { area } }])),
    );
    expect(race.filter((each) => each.ok)).toHaveLength(1);
    const record = await must(by(token, (context) => readOne(context, 'beds', id)));
    expect(record).toMatchObject({ version: 4, name: 'Other', code: 'B1' });
    expect(
      await codes(
        write(token, 'beds', [{ op: 'change', id, version: null, values: { section: null, area: 'x' } }]),
      ),
    ).toEqual(['not-a-number', 'required']);
    expect(
      await codes(
        write(token, 'beds', [
          {
            op: 'add',
            values: { code: 'B1', name: 'x', section: 'Woodland', area: 1, open_to_visitors: true },
          },
        ]),
      ),
    ).toEqual(['already-used']);
    // All of a batch, or nothing.
    const refused = await refusal(
      write(token, 'beds', [
        bed('B2'),
        bed('B3'),
        { op: 'add', values: { code: 'B4', colour: 1 } },
        { op: 'remove', id, version: 4 },
      ]),
    );
    expect(refused.kind === 'invalid' && refused.issues.map(({ path }) => path)).toEqual([
      ['edits', 2, 'colour'],
    ]);
    expect(await world.sql(`SELECT code FROM records.beds WHERE code IN ('B2', 'B3')`)).toEqual([]);
    await must(write(token, 'beds', [{ op: 'remove', id, version: 4 }]));
    expect((await refusal(by(token, (context) => readOne(context, 'beds', id)))).kind).toBe('not-found');
    expect((await refusal(write(token, 'beds', [{ op: 'remove', id, version: null }]))).kind).toBe(
      'not-found',
    );
  });

  it('are written once under one key, also at the same moment, and not with other words', async () => {
    const token = await taken(on('beds', 'add'));
    const [key, other] = [newId(), newId()];
    const both = await Promise.all([
      write(token, 'beds', [bed('C1')], key),
      write(token, 'beds', [bed('C1')], key),
    ]);
    expect(both[0]).toEqual(both[1]);
    expect(await codes(write(token, 'beds', [bed('C2')], key))).toBe('key-reused');
    await must(write(token, 'beds', [bed('C2')], other));
    expect(await world.sql(`SELECT count(*)::int AS n FROM records.beds WHERE code LIKE 'C_'`)).toEqual([
      { n: 2 },
    ]);
  });

  it('that are rows stand in a record that is there', async () => {
    const token = await taken(on('accessions', 'add'));
    const tryAt = (parent_id: unknown) =>
      codes(write(token, 'accessions', [{ op: 'add', values: { parent_id } }]));
    expect(await tryAt('somewhere')).toContain('not-a-record');
    expect(await tryAt(undefined)).toContain('not-a-record');
    const [rows] = await world.sql(
      'SELECT parent_id IS NOT NULL AS owned FROM slate.designed_table WHERE id = $1',
      [ids['accessions']],
    );
    expect(rows).toEqual({ owned: true });
    const taxon = await world.sql(
      `INSERT INTO records.taxa (name, family) VALUES ('Quilla alba', 'Quillaceae') RETURNING id`,
    );
    const values = { taxon: taxon[0]?.['id'], quantity: 3, bed: garden.bed, state: 'growing_on' };
    expect(
      await codes(write(token, 'accessions', [{ op: 'add', values: { ...values, parent_id: newId() } }])),
    ).toContain('record-gone');
  });

  it('tell in their history by which token, and for whom', async () => {
    const token = await taken(on('beds', 'add'), { label: 'Weather station 7' });
    const [one] = await must(write(token, 'beds', [bed('D1')]));
    const { history } = await must(openRecord(as('Kofi'), 'beds', one?.id ?? ''));
    expect(history).toMatchObject([{ by: personNamed('Kofi').name, through: 'Weather station 7' }]);
  });

  it('may name records of other tables that its person may pick from, and only those', async () => {
    const token = await taken(on('accessions', 'add'));
    const columns = await world.sql(
      `SELECT c.key, c.kind, c.required, t.key AS target FROM slate.designed_column c LEFT JOIN slate.designed_table t ON t.id = c.target_id WHERE c.table_id = $1 AND NOT c.retired`,
      [ids['accessions']],
    );
    expect(columns.some(({ target }) => target === 'beds')).toBe(true);
    const given = Object.fromEntries(
      columns.flatMap(({ key, kind, required, target }) =>
        target === 'beds'
          ? [[key, garden.bed]]
          : required !== true
            ? []
            : [
                [
                  key,
                  kind === 'date' ? '2026-11-01' : kind === 'whole' ? 1 : kind === 'yes-no' ? true : null,
                ],
              ],
      ),
    );
    const sentValues = { ...given, parent_id: newId() } as Record<string, unknown>;
    const refused = await write(token, 'accessions', [{ op: 'add', values: sentValues }]);
    // Whatever else is missing: the bed is a record it may name.
    const issues = !refused.ok && refused.error.kind === 'invalid' ? refused.error.issues : [];
    expect(issues.filter(({ path }) => path.includes('bed'))).toEqual([]);
    expect((await refusal(by(token, (context) => listRecords(context, 'beds', everything)))).kind).toBe(
      'not-found',
    );
  });

  it('law: a program may exactly what its person may and its token names; the same in the database', async () => {
    const client = new pg.Client({ connectionString: process.env['SLATE_APP_URL'] });
    await client.connect();
    const kofi = personNamed('Kofi').id;
    const [catalogue] = await must(asPerson({ person: kofi }, async (_, known) => ok([known as Catalogue])));
    if (catalogue === undefined) throw new Error('no catalogue');
    const named = fc.array(
      fc.tuple(
        fc.constantFrom(...catalogue.tables.keys()),
        fc.constantFrom(...(['see', 'add', 'change', 'remove'] as const)),
      ),
      { minLength: 1, maxLength: 6 },
    );
    await fc.assert(
      fc.asyncProperty(named, fc.boolean(), async (some, fills) => {
        const grants = [
          ...some.map(([tableId, action]) => ({ tableId, formId: null, action })),
          ...(fills ? fill(formIds.treatment) : []),
        ].filter(({ tableId, action }) => tableId === null || may(catalogue, kofi, action as 'see', tableId));
        fc.pre(grants.length > 0);
        const { token } = await taken(grants as TokenInput['grants']);
        const seen = narrowed(catalogue, token);
        await client.query('BEGIN');
        await client.query(
          `SELECT set_config('slate.person', $1, true), set_config('slate.token', $2, true)`,
          [kofi, token.id],
        );
        for (const table of catalogue.tables.keys())
          for (const action of tableActions) {
            const { rows } = await client.query<{ may: boolean }>('SELECT slate.may($1, $2) AS may', [
              table,
              action,
            ]);
            expect([table, action, rows[0]?.may]).toEqual([table, action, may(seen, kofi, action, table)]);
          }
        const { rows } = await client.query<{ may: boolean }>(`SELECT slate.may_form($1, 'fill') AS may`, [
          formIds.treatment,
        ]);
        expect(rows[0]?.may).toBe(mayForm(seen, kofi, 'fill', formIds.treatment));
        expect(mayForm(seen, kofi, 'fill', formIds.intake)).toBe(false);
        await client.query('ROLLBACK');
      }),
      { numRuns: 25 },
    );
    await client.end();
  });

  it('reach no further by any other use case: nothing is seen but what is named, and nobody administers', async () => {
    const token = await taken(on('beds', 'see'), { person: personNamed('Wren').id });
    const seen = await must(by(token, (context) => listTables(context)));
    expect(JSON.stringify(seen)).not.toContain('"taxa"');
    expect((await refusal(by(token, (context) => openRecords(context, 'taxa', { sort: '' })))).kind).toBe(
      'not-found',
    );
    expect(await codes(by(token, (context) => openPeople(context)))).toBe('people');
    const client = new pg.Client({ connectionString: process.env['SLATE_APP_URL'] });
    await client.connect();
    const asToken = async (sql: string): Promise<number | string> => {
      await client.query('BEGIN');
      try {
        await client.query(
          `SELECT set_config('slate.person', $1, true), set_config('slate.token', $2, true)`,
          [personNamed('Wren').id, token.token.id],
        );
        return (await client.query(sql)).rowCount ?? 0;
      } catch (error) {
        return (error as { code: string }).code;
      } finally {
        await client.query('ROLLBACK');
      }
    };
    expect(await asToken('SELECT 1 FROM records.beds')).not.toBe(0);
    expect(await asToken('SELECT 1 FROM records.products')).toBe(0);
    expect(await asToken('SELECT 1 FROM slate.api_token')).toBe(0);
    expect(await asToken(`SELECT slate.end_token('${token.token.id}', now())`)).toBe('TS010');
    expect(await asToken(`SELECT slate.put_workspace('{}', 1)`)).toBe('TS010');
    expect(await asToken('SELECT hash FROM slate.api_token')).toBe('42501');
    await client.end();
  });
});

describe('forms by a token', () => {
  const given = () => ({
    bed: garden.bed,
    planned: '2026-11-25',
    closed: true,
    seen: 'Scale',
    lines: [{ product: garden.soap, rate: 60 }],
  });
  const keyed = async (): Promise<Record<string, unknown>> => {
    // By the keys the form has.
    const answers = treatmentAnswers(garden);
    const design = (await world.sql('SELECT design FROM slate.form WHERE id = $1', [formIds.treatment]))[0]?.[
      'design'
    ] as {
      sections: { questions: { id: string; key: string; columns?: { id: string; key: string }[] }[] }[];
    };
    const questions = design.sections.flatMap((one) => one.questions);
    const keys = new Map(questions.map(({ id, key }) => [id, key]));
    const group = questions.find(({ id }) => id === 'qtrlines');
    const columns = new Map((group?.columns ?? []).map(({ id, key }) => [id, key]));
    return {
      ...Object.fromEntries(Object.entries(answers.values).map(([id, value]) => [keys.get(id), value])),
      [group?.key ?? '']: (answers.rows['qtrlines'] ?? []).map(({ cells }) =>
        Object.fromEntries(Object.entries(cells).map(([id, value]) => [columns.get(id), value])),
      ),
    };
  };
  const filled = (
    token: Taken,
    answers: Record<string, unknown>,
    more: object = {},
    form = 'treatment_request',
  ) =>
    by(token, (context) =>
      fillForm(context, form, { key: newId(), answers, reasons: {}, draft: false, ...more }),
    );

  it('are sent on their path, once under one key, and followed', async () => {
    const token = await taken(fill(formIds.treatment), { person: personNamed('Maren').id });
    const key = newId();
    const answers = await keyed();
    const one = await must(filled(token, answers, { key }));
    expect(one).toMatchObject({ state: 'waiting', record: null });
    expect(one.number).toMatch(/^T/);
    expect(await must(filled(token, answers, { key }))).toEqual(one);
    expect(await codes(filled(token, { ...answers, ...given() }, { key }))).not.toBe('');
    expect(await must(by(token, (context) => submissionState(context, one.id)))).toEqual(one);
    expect(
      await world.sql('SELECT token_id FROM slate.submission_event WHERE submission_id = $1', [one.id]),
    ).toEqual([{ token_id: token.token.id }]);
  });

  it('are refused at the places the program sent, and leave no draft behind', async () => {
    const token = await taken(fill(formIds.treatment), { person: personNamed('Maren').id });
    const before = await world.sql('SELECT count(*)::int AS n FROM slate.submission');
    const answers = await keyed();
    const rows = Object.entries(answers).find(([, value]) => Array.isArray(value)) as [string, object[]];
    const broken = { ...answers, [rows[0]]: [rows[1][0], { ...rows[1][1], rate: null }] };
    const refused = await refusal(filled(token, broken));
    expect(refused.kind === 'invalid' && refused.issues[0]?.path).toEqual(['answers', rows[0], 1, 'rate']);
    expect(await codes(filled(token, { nothing: 1 }))).toEqual(['unknown-answer']);
    expect(await world.sql('SELECT count(*)::int AS n FROM slate.submission')).toEqual(before);
    const draft = await must(filled(token, broken, { draft: true }));
    expect(draft).toMatchObject({ state: 'draft', number: null });
  });

  it('are only those it names: other forms are not there, nor what its person sent in them', async () => {
    const token = await taken(fill(formIds.intake), { person: personNamed('Maren').id });
    expect((await refusal(filled(token, {}))).kind).toBe('not-found');
    const own = await sent('Maren', formIds.treatment, treatmentAnswers(garden));
    expect((await refusal(by(token, (context) => submissionState(context, own.id)))).kind).toBe('not-found');
  });
});
