import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { dropSeedExchange, makeSeedExchange, type ExchangeAddress } from '../../demo/seed-exchange';
import type { SourceLook } from '../../src/contract/sources';
import { questionsOf, type FormDesign } from '../../src/core/form/design';
import { intoTable } from '../../src/core/import/into-table';
import type { Freshness } from '../../src/core/link/link';
import { createFormOf } from '../../src/use-cases/forms/create-form';
import { openTableDesign, saveTableChange } from '../../src/use-cases/tables/design-table';
import { runTableChange } from '../../src/use-cases/tables/change-table';
import { keepSource, removeSource } from '../../src/use-cases/links/keep-source';
import { followSource } from '../../src/use-cases/links/follow-source';
import { askRefresh, changeLink, linkTables, unlinkTable } from '../../src/use-cases/links/link-tables';
import { listSources, lookAtSource, openSource } from '../../src/use-cases/links/look-at-source';
import { openNewSheet } from '../../src/use-cases/submissions/open-sheet';
import { openWorkbench } from '../../src/use-cases/forms/open-workbench';
import { openRecords } from '../../src/use-cases/records/open-records';
import { askDueRefreshes, refreshLink } from '../../src/use-cases/links/refresh-link';
import { releaseForm } from '../../src/use-cases/forms/release-form';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { sendSubmission } from '../../src/use-cases/submissions/send-submission';
import { brought, kept } from '../support/importing';
import { openTableAtWork } from '../../src/use-cases/records/table-at-work';
import { as, draft, must, newId, poolAt, refusal, useWorld } from '../support/world';

const PASSWORD = 'only the exchange knows this';
const KEY = 'only the register knows this';
const world = useWorld(undefined, []);
let exchange: ExchangeAddress;
let there: pg.Pool;
const [sourceId, listId] = [newId(), newId()];
/** What the list answers now. */
let answer: () => { status: number; body: string };
let register: Server;
const entries = (count: number, more: object = {}) => ({
  status: 200,
  body: JSON.stringify({
    names: Array.from({ length: count }, (_, i) => ({
      id: `N-${i}`,
      name: `Blechnora ${i}`,
      seen: i,
      ...more,
    })),
  }),
});

beforeAll(async () => {
  process.env['SLATE_SECRET'] = 'the key of this test';
  exchange = await makeSeedExchange(world.ownerUrl, PASSWORD);
  const url = new URL(world.ownerUrl);
  url.pathname = `/${exchange.database}`;
  there = poolAt(url.toString());
  answer = () => entries(30);
  register = createServer((request, response) => {
    const { status, body } = request.headers['x-key'] === KEY ? answer() : { status: 401, body: '{}' };
    response.writeHead(status, { location: '/elsewhere' }).end(body);
  });
  await new Promise<void>((listening) => register.listen(0, '127.0.0.1', listening));
});
afterAll(async () => {
  await there.end();
  await dropSeedExchange(world.ownerUrl, exchange);
  await new Promise((closed) => register.close(closed));
});

const tableId = async (key: string): Promise<string> =>
  String((await world.sql('SELECT id FROM slate.designed_table WHERE key = $1', [key]))[0]?.['id']);
const refreshed = async (key: string): Promise<Freshness> => {
  await refreshLink(await tableId(key));
  const { freshness } = await must(openRecords(as('Ines'), key, { sort: 'number' }));
  return freshness ?? expect.fail('it is not linked');
};
const inExchange = async (text: string): Promise<Record<string, unknown>[]> =>
  (await there.query<Record<string, unknown>>(text)).rows;
const issueCodes = async (result: Promise<Awaited<ReturnType<typeof sendSubmission>>>) => {
  const refused = await refusal(result);
  return refused.kind === 'invalid' ? refused.issues.map(({ code }) => code) : [refused.kind];
};
const address = () =>
  ({
    t: 'list',
    url: `http://127.0.0.1:${(register.address() as AddressInfo).port}/names`,
    header: 'X-Key',
  }) as const;

describe('a source', () => {
  it('is set up by administrators only, looked into by owners, and never shows its secret', async () => {
    const input = { version: 0, label: 'Seed exchange', address: exchange, secret: PASSWORD };
    expect(await refusal(keepSource(as('Ines'), sourceId, input))).toMatchObject({
      kind: 'forbidden',
      why: 'sources',
    });
    expect(await refusal(keepSource(as('Wren'), sourceId, { ...input, secret: null }))).toMatchObject({
      issues: [{ code: 'secret-missing' }],
    });
    expect(await must(keepSource(as('Wren'), sourceId, input))).toEqual({ version: 1 });
    expect(await refusal(keepSource(as('Wren'), sourceId, input))).toMatchObject({ kind: 'stale' });
    expect(await refusal(listSources(as('Maren')))).toMatchObject({ kind: 'forbidden' });
    const shown = JSON.stringify([
      await must(openSource(as('Wren'), sourceId)),
      await must(listSources(as('Ines'))),
      await must(lookAtSource(as('Ines'), sourceId)),
    ]);
    expect(shown).toContain(exchange.user);
    expect(shown).not.toContain(PASSWORD);
  });

  it('shows the tables its user may read, with what they are and what may be done', async () => {
    const look = (await must(lookAtSource(as('Ines'), sourceId))) as Extract<SourceLook, { t: 'tables' }>;
    expect(
      look.found.map(({ name, isView, primaryKey, mayAdd, mayChange }) => [
        name,
        isView,
        primaryKey,
        mayAdd,
        mayChange,
      ]),
    ).toEqual([
      ['gardens', false, ['code'], false, false],
      ['lots', false, ['lot_no'], true, true],
      ['lots_by_garden', true, [], false, false],
      ['wishes', false, ['lot_no', 'garden'], true, false],
    ]);
    const lots = look.found.find(({ name }) => name === 'lots');
    expect(lots).toMatchObject({
      rules: ['some_weight'],
      references: [{ columns: ['garden'], table: 'gardens', to: ['code'] }],
    });
    expect(lots?.columns.find(({ name }) => name === 'kind')).toMatchObject({
      labels: ['seed', 'spore', 'cutting', 'bulb'],
      preset: "'seed'::catalogue.lot_kind",
    });
    expect(lots?.columns.find(({ name }) => name === 'germination')).toMatchObject({
      type: 'numeric(5,2)',
      domain: 'percent',
      mayChange: true,
      comment: 'Share that came up in the last test, in percent',
    });
    expect(
      look.found
        .find(({ name }) => name === 'gardens')
        ?.columns.map(({ name, type }) => [name, type])
        .slice(-2),
    ).toEqual([
      ['place', 'point'],
      ['notes', 'jsonb'],
    ]);
  });

  it('that does not answer, or not to this user, says so', async () => {
    const [silent, wrong] = [newId(), newId()];
    await must(
      keepSource(as('Wren'), silent, {
        version: 0,
        label: 'Silent',
        address: { ...exchange, port: 1 },
        secret: 'x',
      }),
    );
    await must(
      keepSource(as('Wren'), wrong, { version: 0, label: 'Wrong', address: exchange, secret: 'not it' }),
    );
    expect(await must(lookAtSource(as('Ines'), silent))).toEqual({
      t: 'failed',
      fault: { code: 'no-answer', facts: {} },
    });
    expect(await must(lookAtSource(as('Ines'), wrong))).toEqual({
      t: 'failed',
      fault: { code: 'sign-in-refused', facts: {} },
    });
    // A secret given for one place is not sent to another.
    expect(
      await refusal(
        keepSource(as('Wren'), wrong, {
          version: 1,
          label: 'Wrong',
          address: { ...exchange, host: 'elsewhere.example' },
          secret: null,
        }),
      ),
    ).toMatchObject({ issues: [{ code: 'secret-missing' }] });
    for (const id of [silent, wrong]) await must(removeSource(as('Wren'), id));
    expect((await must(listSources(as('Ines')))).sources.map(({ label }) => label)).toEqual([
      'Seed exchange',
    ]);
  });
});

describe('tables of another database', () => {
  it('become tables here with their records, references and what their source demands', async () => {
    expect(
      await must(
        linkTables(as('Ines'), sourceId, {
          tables: ['catalogue.gardens', 'catalogue.lots', 'catalogue.nowhere'],
          every: 5,
        }),
      ),
    ).toEqual({ keys: ['gardens', 'lots'] });
    expect(
      (await world.sql('SELECT task_identifier AS task FROM graphile_worker.jobs ORDER BY 1')).map(
        ({ task }) => task,
      ),
    ).toEqual(['refresh-link', 'refresh-link']);
    expect(await refreshed('gardens')).toMatchObject({
      source: 'Seed exchange',
      fault: null,
      refreshed: { added: 16, changed: 0, gone: 0, misfits: 0 },
      adds: false,
      changes: false,
    });
    expect(await refreshed('lots')).toMatchObject({ refreshed: { added: 420 }, adds: true, changes: true });
    const page = await must(openRecords(as('Ines'), 'lots', { sort: 'number' }));
    const { table: lots } = await must(openTableAtWork(as('Ines'), 'lots'));
    const cells = (label: string) =>
      page.rows.map((row) => row.cells[lots.columns.find((column) => column.label === label)?.id ?? '']);
    expect(page.total).toBe(420);
    expect(String(cells('Garden')[0])).toMatch(/^[A-Z]{3}\d\d · /);
    expect(
      await world.sql(
        "SELECT confrelid::regclass::text AS to FROM pg_constraint WHERE conrelid = 'records.lots'::regclass AND contype = 'f' AND confrelid = 'records.gardens'::regclass",
      ),
    ).toHaveLength(1);
    expect(await refreshed('lots')).toMatchObject({
      refreshed: { added: 0, changed: 0, gone: 0, same: 420 },
    });
    expect((await world.sql('SELECT max(version)::int AS version FROM records.lots'))[0]).toEqual({
      version: 1,
    });
  });

  it('are linked once, and not when nothing tells their records apart', async () => {
    expect(await must(linkTables(as('Ines'), sourceId, { tables: ['catalogue.gardens'], every: 5 }))).toEqual(
      { keys: [] },
    );
    expect(
      await refusal(linkTables(as('Ines'), sourceId, { tables: ['catalogue.lots_by_garden'], every: 5 })),
    ).toMatchObject({ issues: [{ code: 'not-linkable' }] });
    expect(await refusal(removeSource(as('Wren'), sourceId))).toMatchObject({
      issues: [{ code: 'source-used' }],
    });
  });

  it('may be known by what they refer to', async () => {
    expect(await must(linkTables(as('Ines'), sourceId, { tables: ['catalogue.wishes'], every: 15 }))).toEqual(
      { keys: ['wishes'] },
    );
    const [{ n } = {}] = await inExchange('SELECT count(*)::int AS n FROM catalogue.wishes');
    expect(await refreshed('wishes')).toMatchObject({
      fault: null,
      refreshed: { added: n, misfits: 0 },
      adds: true,
      changes: false,
    });
    expect(await refreshed('wishes')).toMatchObject({
      refreshed: { added: 0, changed: 0, gone: 0, same: n },
    });
    expect(
      await world.sql(
        'SELECT count(*)::int AS n FROM records.wishes w JOIN records.lots l ON l.id = w.lot_no JOIN records.gardens g ON g.id = w.garden',
      ),
    ).toEqual([{ n }]);
  });

  it('follow what happens there: changed, gone and come again, each with its trail', async () => {
    await inExchange(
      "UPDATE catalogue.lots SET grams = 7.77 WHERE lot_no = 'X-1001'; DELETE FROM catalogue.wishes; DELETE FROM catalogue.lots WHERE lot_no = 'X-1002'",
    );
    expect(await refreshed('lots')).toMatchObject({
      refreshed: { added: 0, changed: 1, gone: 1, same: 418 },
    });
    expect(
      await world.sql(
        "SELECT lot_no, grams::text, version, removed_at IS NULL AS there FROM records.lots WHERE lot_no IN ('X-1001', 'X-1002') ORDER BY 1",
      ),
    ).toEqual([
      { lot_no: 'X-1001', grams: '7.77', version: 2, there: true },
      { lot_no: 'X-1002', grams: '4.95', version: 2, there: false },
    ]);
    const [{ id: before } = {}] = await world.sql("SELECT id FROM records.lots WHERE lot_no = 'X-1002'");
    await inExchange(
      "INSERT INTO catalogue.lots (lot_no, taxon, garden, grams) SELECT 'X-1002', 'Farrowia velata', code, 3 FROM catalogue.gardens LIMIT 1",
    );
    expect(await refreshed('lots')).toMatchObject({ refreshed: { added: 1, changed: 1, gone: 0 } });
    expect(
      await world.sql("SELECT id, grams::text, removed_at FROM records.lots WHERE lot_no = 'X-1002'"),
    ).toEqual([{ id: before, grams: '3.00', removed_at: null }]);
    expect(
      await world.sql('SELECT change FROM slate.history WHERE record_id = $1 ORDER BY id', [before]),
    ).toEqual([{ change: 'made' }, { change: 'changed' }, { change: 'changed' }, { change: 'changed' }]);
  });

  it('keep their last good copy while their source is down or has lost a column, and say why', async () => {
    await inExchange('ALTER TABLE catalogue.lots RENAME taxon TO plant');
    expect(await refreshed('lots')).toMatchObject({ fault: { code: 'columns-gone' } });
    await inExchange(
      'ALTER TABLE catalogue.lots RENAME plant TO taxon; REVOKE SELECT ON catalogue.lots FROM PUBLIC',
    );
    await inExchange(`ALTER ROLE ${exchange.user} PASSWORD 'changed'`);
    const failed = await refreshed('lots');
    expect(failed.fault).toEqual({ code: 'sign-in-refused', facts: {} });
    expect(Date.parse(failed.triedAt ?? '')).toBeGreaterThan(Date.parse(failed.refreshedAt ?? ''));
    expect((await must(openRecords(as('Ines'), 'lots', { sort: 'number' }))).total).toBe(420);
    await must(
      keepSource(as('Wren'), sourceId, {
        version: 1,
        label: 'Seed exchange',
        address: { ...exchange, port: 1 },
        secret: PASSWORD,
      }),
    );
    expect(await refreshed('lots')).toMatchObject({ fault: { code: 'no-answer' } });
    await inExchange(`ALTER ROLE ${exchange.user} PASSWORD '${PASSWORD}'`);
    await must(
      keepSource(as('Wren'), sourceId, {
        version: 2,
        label: 'Seed exchange',
        address: exchange,
        secret: PASSWORD,
      }),
    );
    expect(await refreshed('lots')).toMatchObject({ fault: null });
    // Whoever sends goes to the address that was looked up and found fit, whatever the name means by then.
    expect(
      await world.sql(
        `SELECT (SELECT option_value FROM pg_options_to_table(srvoptions) WHERE option_name = 'hostaddr') AS at FROM pg_foreign_server`,
      ),
    ).toEqual([{ at: exchange.host }]);
  });

  it('are added to also where their source makes the ids, which are asked for beforehand', async () => {
    await inExchange(
      `CREATE TABLE catalogue.visits (id serial PRIMARY KEY, who text NOT NULL); CREATE TABLE catalogue.notes (id uuid PRIMARY KEY DEFAULT gen_random_uuid(), said text);
       CREATE TABLE catalogue.stamps (no integer GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY, said text); CREATE TABLE catalogue.fixed (id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY, said text);
       INSERT INTO catalogue.visits (who) VALUES ('Ada'), ('Pell'); GRANT SELECT, INSERT ON catalogue.visits, catalogue.notes, catalogue.stamps, catalogue.fixed TO ${exchange.user};
       GRANT USAGE ON SEQUENCE catalogue.visits_id_seq, catalogue.stamps_no_seq TO ${exchange.user}`,
    );
    const names = ['visits', 'notes', 'stamps', 'fixed'];
    await must(
      linkTables(as('Ines'), sourceId, { tables: names.map((name) => `catalogue.${name}`), every: 5 }),
    );
    const may = await Promise.all(names.map(async (name) => (await refreshed(name)).adds));
    expect(may).toEqual([true, true, true, false]);
    const add = async (key: string, label: string, said: readonly string[]) => {
      const { table } = await must(openTableAtWork(as('Ines'), key));
      const column = table.columns.find((one) => one.label === label)?.id ?? '';
      return must(
        saveEdits(as('Ines'), {
          key: newId(),
          edits: said.map((word) => ({
            t: 'add',
            table: table.id,
            id: newId(),
            parent: null,
            values: { [column]: word },
          })),
        }),
      );
    };
    await add('visits', 'Who', ['Ruo', 'Dagny']);
    await add('notes', 'Said', ['Seen']);
    await add('stamps', 'Said', ['One', 'Two', 'Three']);
    expect(await inExchange('SELECT id, who FROM catalogue.visits ORDER BY id')).toEqual([
      { id: 1, who: 'Ada' },
      { id: 2, who: 'Pell' },
      { id: 3, who: 'Ruo' },
      { id: 4, who: 'Dagny' },
    ]);
    expect(await inExchange('SELECT no, said FROM catalogue.stamps ORDER BY no')).toHaveLength(3);
    // What stands here is what stands there: a refresh finds nothing to do.
    for (const [key, same] of [
      ['visits', 4],
      ['notes', 1],
      ['stamps', 3],
    ] as const)
      expect(await refreshed(key)).toMatchObject({
        fault: null,
        refreshed: { added: 0, changed: 0, gone: 0, same },
      });
    // Somebody there adds the next meanwhile, and neither gets the other's.
    await inExchange(`INSERT INTO catalogue.visits (who) VALUES ('There')`);
    await add('visits', 'Who', ['Here']);
    expect(await inExchange('SELECT max(id) AS last FROM catalogue.visits')).toEqual([{ last: 6 }]);
    // Without the right to count there, nothing is added from here, and that is known beforehand.
    await inExchange(`REVOKE ALL ON SEQUENCE catalogue.visits_id_seq FROM ${exchange.user}`);
    await must(followSource(as('Ines'), sourceId, { table: 'catalogue.visits' }));
    expect(await refreshed('visits')).toMatchObject({ adds: false });
  });

  it('take up what they have become there, when somebody says so, and nothing else', async () => {
    const follow = (person = as('Ines')) => followSource(person, sourceId, { table: 'catalogue.lots' });
    expect(await must(follow())).toEqual({ key: 'lots' });
    const before = await must(openTableDesign(as('Ines'), 'lots'));
    await inExchange(
      `ALTER TABLE catalogue.lots ADD COLUMN shelf text, DROP COLUMN collected; ALTER TYPE catalogue.lot_kind ADD VALUE 'tuber'`,
    );
    await inExchange(
      `UPDATE catalogue.lots SET shelf = 'North ' || lot_no; UPDATE catalogue.lots SET kind = 'tuber' WHERE lot_no = 'X-1003'`,
    );
    expect(await refreshed('lots')).toMatchObject({ fault: { code: 'columns-gone' } });
    expect(await refusal(follow(as('Maren')))).toMatchObject({ kind: 'forbidden' });
    expect(await refusal(followSource(as('Ines'), sourceId, { table: 'catalogue.nowhere' }))).toMatchObject({
      kind: 'not-found',
    });
    const at = Number((await world.sql('SELECT count(collected)::int AS n FROM records.lots'))[0]?.['n']);
    expect(await must(follow())).toEqual({ key: 'lots' });
    expect(await refreshed('lots')).toMatchObject({
      fault: null,
      refreshed: { added: 0, changed: 420, gone: 0, misfits: 0 },
      adds: true,
    });
    expect(
      await world.sql(
        `SELECT count(*) FILTER (WHERE shelf = 'North ' || lot_no)::int AS shelved, count(collected)::int AS collected, max(kind) FILTER (WHERE lot_no = 'X-1003') AS kind FROM records.lots WHERE removed_at IS NULL`,
      ),
    ).toEqual([{ shelved: 420, collected: at, kind: 'tuber' }]);
    const { table } = await must(openTableDesign(as('Ines'), 'lots'));
    expect([table?.version, table?.columns.at(-1)]).toMatchObject([
      (before.table?.version ?? 0) + 1,
      { key: 'shelf', kind: 'text', required: false },
    ]);
    // Taken up once, it is nothing new.
    await must(follow());
    expect((await must(openTableDesign(as('Ines'), 'lots'))).table?.version).toBe(table?.version);
  });

  it('are what their source decides: here they are named and described, and no more', async () => {
    const { table } = await must(openTableDesign(as('Ines'), 'gardens'));
    if (table === null) throw new Error('no table');
    const changed = async (wanted: typeof table) => {
      const id = newId();
      const { version } = await must(
        saveTableChange(as('Ines'), id, {
          version: 0,
          base: table.version,
          redesign: { table: wanted, readings: {}, mends: {} },
        }),
      );
      return runTableChange(as('Ines'), id, { version });
    };
    const converted = {
      ...table,
      columns: table.columns.map((column) =>
        column.key === 'town' ? { ...column, kind: 'whole' as const, decimals: 0 } : column,
      ),
    };
    const refused = await refusal(changed(converted));
    expect(refused.kind === 'invalid' && refused.issues.map(({ code }) => code)).toEqual([
      'linked-structure',
    ]);
  });
});

describe('a form into a linked table', () => {
  let form: string;
  let ids: (label: string) => string;
  const garden = async () =>
    String((await world.sql('SELECT id FROM records.gardens ORDER BY code LIMIT 1'))[0]?.['id']);
  const send = async (values: Readonly<Record<string, string>>) => {
    const { id, version } = await draft('Maren', form, {
      values: Object.fromEntries(Object.entries(values).map(([label, value]) => [ids(label), value])),
      rows: {},
      reasons: {},
    });
    return sendSubmission(as('Maren'), id, { key: newId(), version });
  };
  const lot = async (lotNo: string, more: Readonly<Record<string, string>> = {}) => ({
    'Lot no': lotNo,
    Taxon: 'Solheimia nova',
    Garden: await garden(),
    Grams: '2.5',
    ...more,
  });

  beforeAll(async () => {
    form = newId();
    await must(createFormOf(as('Ines'), { id: form, table: 'lots' }));
    const { design }: { design: FormDesign } = await must(openWorkbench(as('Ines'), form));
    ids = (label) =>
      questionsOf(design).find((question) => 'label' in question && question.label === label)?.id ??
      expect.fail(`no question ${label}`);
    await must(releaseForm(as('Ines'), form, { version: 1, fill: 'everybody' }));
  });

  it('is kept here and there in one moment, and no password stays behind', async () => {
    expect((await must(send(await lot('X-9001', { State: 'reserved' })))).state).toBe('kept');
    expect(
      await inExchange(
        "SELECT l.taxon, l.grams::text, l.kind::text, l.state, l.garden = (SELECT min(code) FROM catalogue.gardens) AS there FROM catalogue.lots l WHERE lot_no = 'X-9001'",
      ),
    ).toEqual([{ taxon: 'Solheimia nova', grams: '2.50', kind: 'seed', state: 'reserved', there: true }]);
    expect(
      await world.sql(
        "SELECT count(*)::int AS n FROM records.lots WHERE lot_no = 'X-9001' AND submission_id IS NOT NULL",
      ),
    ).toEqual([{ n: 1 }]);
    expect(await world.sql('SELECT * FROM pg_user_mappings')).toEqual([]);
    // What fills itself there comes with the next refresh, into the same record.
    await refreshed('lots');
    expect(
      await world.sql(
        "SELECT kind, offered_at IS NOT NULL AS filled, version FROM records.lots WHERE lot_no = 'X-9001'",
      ),
    ).toEqual([{ kind: 'seed', filled: true, version: 2 }]);
  });

  it('is refused whole where the source refuses, with its rule, and where it is known already', async () => {
    const refused = await refusal(send(await lot('X-9002', { Grams: '0' })));
    expect(refused).toMatchObject({
      issues: [{ code: 'source-refused', facts: { source: 'Seed exchange', rule: 'some_weight' } }],
    });
    expect(await issueCodes(send(await lot('X-9001')))).toEqual(['already-used']);
    // Somebody there was quicker, and it has not been copied yet.
    await inExchange(
      "INSERT INTO catalogue.lots (lot_no, taxon, garden, grams) SELECT 'X-9003', 'Farrowia velata', min(code), 3 FROM catalogue.gardens",
    );
    expect(await issueCodes(send(await lot('X-9003')))).toEqual(['source-refused']);
    expect(await world.sql("SELECT 1 FROM records.lots WHERE lot_no IN ('X-9002', 'X-9003')")).toEqual([]);
  });

  it('keeps nothing while the source is silent, and nobody writes past it, not even in plain SQL', async () => {
    await must(
      keepSource(as('Wren'), sourceId, {
        version: 3,
        label: 'Seed exchange',
        address: { ...exchange, port: 1 },
        secret: PASSWORD,
      }),
    );
    expect(await issueCodes(send(await lot('X-9004')))).toEqual(['source-silent']);
    await must(
      keepSource(as('Wren'), sourceId, {
        version: 4,
        label: 'Seed exchange',
        address: exchange,
        secret: PASSWORD,
      }),
    );
    await expect(
      world.sql("INSERT INTO records.gardens (code, name, town, country) VALUES ('ZZZ', 'Z', 'Z', 'GB')"),
    ).rejects.toMatchObject({ code: 'TS001' });
    await expect(world.sql("DELETE FROM records.lots WHERE lot_no = 'X-9001'")).rejects.toMatchObject({
      code: 'TS001',
    });
    expect(await world.sql("SELECT 1 FROM records.lots WHERE lot_no = 'X-9004'")).toEqual([]);
  });

  it('is told when the source does not answer in time, and nothing of it stays', async () => {
    const holding = await there.connect();
    await holding.query('BEGIN; LOCK TABLE catalogue.lots');
    try {
      expect(await issueCodes(send(await lot('X-9005')))).toEqual(['source-silent']);
    } finally {
      await holding.query('ROLLBACK');
      holding.release();
    }
    expect(await world.sql("SELECT 1 FROM records.lots WHERE lot_no = 'X-9005'")).toEqual([]);
    expect(await inExchange("SELECT 1 FROM catalogue.lots WHERE lot_no = 'X-9005'")).toEqual([]);
  }, 60_000);

  it('is not waited for any more after three silences, and is asked again when its time has come', async () => {
    const [{ id } = { id: '' }] = await world.sql(
      "SELECT id FROM slate.source WHERE label = 'Seed exchange'",
    );
    const state = async () =>
      (
        await world.sql('SELECT failures, silent_until > now() AS silent FROM slate.source WHERE id = $1', [
          id,
        ])
      )[0];
    await world.sql('UPDATE slate.source SET failures = 0, silent_until = NULL');
    for (let i = 0; i < 3; i++) await world.sql('SELECT slate.note_source($1, false)', [id]);
    expect(await state()).toEqual({ failures: 3, silent: true });
    const [{ id: form } = { id: '' }] = await world.sql(
      'SELECT id FROM slate.form ORDER BY created_at DESC LIMIT 1',
    );
    const [{ key } = { key: '' }] = await world.sql('SELECT key FROM slate.form WHERE id = $1', [form]);
    expect((await must(openNewSheet(as('Ines'), String(key)))).silent).toEqual(['Seed exchange']);
    // It would answer, but it is not asked.
    expect(await issueCodes(send(await lot('X-9006')))).toEqual(['source-silent']);
    await world.sql("UPDATE slate.source SET silent_until = now() - interval '1 second'");
    expect((await send(await lot('X-9007'))).ok).toBe(true);
    expect(await state()).toEqual({ failures: 0, silent: null });
  });

  it('eight at once are all kept, here and there', async () => {
    const numbers = Array.from({ length: 8 }, (_, i) => `X-95${i}0`);
    const done = await Promise.all(numbers.map(async (lotNo) => send(await lot(lotNo))));
    expect(done.map(({ ok }) => ok)).toEqual(numbers.map(() => true));
    expect(
      (await inExchange("SELECT count(*)::int AS n FROM catalogue.lots WHERE lot_no LIKE 'X-95%'"))[0],
    ).toEqual({ n: 8 });
  });
});

describe('rows brought into a linked table', () => {
  const into = async (csv: string) => {
    const data = await brought({ 'lots.csv': csv });
    const sheet = data.detection?.sheets[0] ?? expect.fail('no sheet');
    const table = data.tables.find(({ key }) => key === 'lots') ?? expect.fail('no table');
    return kept(data, { sheets: { [sheet.name]: { into: { ...intoTable(sheet, table), what: 'change' } } } });
  };

  it('change what may be changed there, and only that', async () => {
    expect(await into('Lot no,Grams\nX-1001,1.25\nX-1003,2.50\n')).toMatchObject({
      state: 'kept',
      result: { tables: [{ merged: { changed: 2 } }] },
    });
    expect(
      await inExchange(
        "SELECT lot_no, grams::text FROM catalogue.lots WHERE lot_no IN ('X-1001', 'X-1003') ORDER BY 1",
      ),
    ).toEqual([
      { lot_no: 'X-1001', grams: '1.25' },
      { lot_no: 'X-1003', grams: '2.50' },
    ]);
    expect(await into('Lot no,Taxon\nX-1001,Pterisia alta\nX-1003,Pterisia alta\n')).toMatchObject({
      state: 'refused',
      result: { refusals: [{ code: 'source-fixed' }] },
    });
  });

  it('are refused when the record was changed there meanwhile; after a refresh they go through', async () => {
    await inExchange("UPDATE catalogue.lots SET grams = 9 WHERE lot_no = 'X-1001'");
    expect(await into('Lot no,Grams\nX-1001,4.00\nX-1003,4.00\n')).toMatchObject({
      state: 'refused',
      result: { refusals: [{ code: 'source-changed' }] },
    });
    expect(
      (
        await inExchange(
          "SELECT grams::text FROM catalogue.lots WHERE lot_no IN ('X-1001', 'X-1003') ORDER BY lot_no",
        )
      ).map(({ grams }) => grams),
    ).toEqual(['9.00', '2.50']);
    await refreshed('lots');
    expect(await into('Lot no,Grams\nX-1001,4.00\nX-1003,4.00\n')).toMatchObject({ state: 'kept' });
  });
});

describe('a list at an address', () => {
  it('becomes a table, is refreshed, and is changed by nobody else', async () => {
    await must(
      keepSource(as('Wren'), listId, { version: 0, label: 'Plant names', address: address(), secret: KEY }),
    );
    expect(await must(lookAtSource(as('Ines'), listId))).toMatchObject({
      t: 'list',
      entries: 30,
      plan: {
        key: 'Id',
        rows: [['N-0', 'Blechnora 0', '0'], ['N-1', 'Blechnora 1', '1'], [], [], []].slice(0, 2).concat([
          ['N-2', 'Blechnora 2', '2'],
          ['N-3', 'Blechnora 3', '3'],
          ['N-4', 'Blechnora 4', '4'],
        ]),
      },
    });
    expect(await must(linkTables(as('Ines'), listId, { tables: [], every: 60 }))).toEqual({
      keys: ['plant_names'],
    });
    expect(await refreshed('plant_names')).toMatchObject({ refreshed: { added: 30, misfits: 0 }, every: 60 });
    answer = () => entries(28, { name: 'Pterisia' });
    expect(await refreshed('plant_names')).toMatchObject({ refreshed: { added: 0, changed: 28, gone: 2 } });
    await expect(world.sql("UPDATE records.plant_names SET name = 'x'")).rejects.toMatchObject({
      code: 'TS001',
    });
  });

  it('leaves a value that does not fit empty and counts it, and keeps the last good copy when it is wrong or down', async () => {
    answer = () => ({
      status: 200,
      body: JSON.stringify({
        names: [
          { id: 'N-0', name: 'Pterisia', seen: 'many' },
          { id: 'N-1', name: 'x', seen: 2 },
        ],
      }),
    });
    expect(await refreshed('plant_names')).toMatchObject({ refreshed: { changed: 2, gone: 26, misfits: 1 } });
    const faults: [() => { status: number; body: string }, string][] = [
      [() => ({ status: 500, body: '' }), 'answer-wrong'],
      [() => ({ status: 302, body: '' }), 'answer-wrong'],
      [() => ({ status: 404, body: '' }), 'not-there'],
      [() => ({ status: 200, body: '<html>' }), 'no-json'],
      [() => ({ status: 200, body: '{"names":[]}' }), 'no-list'],
      [() => ({ status: 200, body: '{"names":[{"id":"a"}]}' }), 'columns-gone'],
      [() => ({ status: 200, body: `"${'x'.repeat(21 * 1024 * 1024)}"` }), 'too-large'],
    ];
    for (const [next, code] of faults) {
      answer = next;
      expect((await refreshed('plant_names')).fault?.code).toBe(code);
    }
    expect((await must(openRecords(as('Ines'), 'plant_names', { sort: 'number' }))).total).toBe(2);
    answer = () => entries(3);
    expect(await refreshed('plant_names')).toMatchObject({ fault: null, refreshed: { added: 1 } });
  });

  it('is asked again by the clock when its time has come, and at once by whoever sees it', async () => {
    const waiting = async () =>
      (await world.sql("SELECT key FROM graphile_worker.jobs WHERE task_identifier = 'refresh-link'")).map(
        ({ key }) => String(key).split(':')[1],
      );
    await world.sql('DELETE FROM graphile_worker._private_jobs');
    await askDueRefreshes();
    expect(await waiting()).toEqual([]);
    await world.sql("UPDATE slate.link SET tried_at = now() - interval '61 minutes' WHERE table_id = $1", [
      await tableId('plant_names'),
    ]);
    await world.sql("UPDATE slate.link SET tried_at = now() - interval '4 minutes' WHERE table_id <> $1", [
      await tableId('plant_names'),
    ]);
    await askDueRefreshes();
    expect(await waiting()).toEqual([await tableId('plant_names')]);
    await must(askRefresh(as('Kofi'), 'lots'));
    await must(askRefresh(as('Kofi'), 'lots'));
    expect(await waiting()).toHaveLength(2);
    expect(await refusal(changeLink(as('Maren'), 'lots', { every: 1 }))).toMatchObject({ kind: 'forbidden' });
    await must(changeLink(as('Ines'), 'lots', { every: 1 }));
    await askDueRefreshes();
    expect((await must(openRecords(as('Ines'), 'lots', { sort: 'number' }))).freshness).toMatchObject({
      every: 1,
    });
  });

  it('stays as a table of our own when its link is ended', async () => {
    const id = await tableId('plant_names');
    expect(await refusal(unlinkTable(as('Maren'), 'plant_names'))).toMatchObject({ kind: 'forbidden' });
    await must(unlinkTable(as('Ines'), 'plant_names'));
    const { freshness, total } = await must(openRecords(as('Ines'), 'plant_names', { sort: 'number' }));
    const { table } = await must(openTableAtWork(as('Ines'), 'plant_names'));
    expect([table.linked, freshness, total]).toEqual([null, null, 3]);
    // One that was asked for before finds nothing to do.
    await refreshLink(id);
    await world.sql("UPDATE records.plant_names SET name = 'ours' WHERE id_2 = 'N-0'");
    await must(removeSource(as('Wren'), listId));
  });
});

it('keeps no secret that can be read in the database, and none at all for other eyes', async () => {
  const columns = await world.sql(
    "SELECT format('%I.%I', table_schema, table_name) AS name FROM information_schema.tables WHERE table_schema IN ('slate', 'records', 'outside', 'graphile_worker') AND table_type = 'BASE TABLE'",
  );
  for (const { name } of columns)
    expect(
      (
        await world.sql(`SELECT 1 FROM ${String(name)} t WHERE t::text LIKE $1 OR t::text LIKE $2`, [
          `%${PASSWORD}%`,
          `%${KEY}%`,
        ])
      ).length,
    ).toBe(0);
  expect(await world.sql('SELECT 1 FROM pg_user_mapping')).toEqual([]);
  expect(
    await world.sql('SELECT 1 FROM pg_foreign_server WHERE srvoptions::text LIKE $1', [`%${PASSWORD}%`]),
  ).toEqual([]);
});
