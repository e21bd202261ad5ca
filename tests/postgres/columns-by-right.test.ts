import fc from 'fast-check';
import pg from 'pg';
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest';
import { personNamed } from '../../demo/people';
import { beds, tableId } from '../../demo/tables';
import type { GrantInput } from '../../src/contract/people';
import { seenTable, type GrantAction } from '../../src/core/catalogue/catalogue';
import { newUuid } from '../../src/core/kernel/ids';
import type { Refusal } from '../../src/core/kernel/refusal';
import { ok } from '../../src/core/kernel/result';
import { plainColumn, plainTable, type Table } from '../../src/core/table/model';
import { listRecords } from '../../src/use-cases/api/list-records';
import { readFeed } from '../../src/use-cases/events/read-feed';
import { sayWhoOfTable, whoOfTable } from '../../src/use-cases/people/say-who';
import { packagedRows } from '../../src/data/runtime/imports/packaged-rows';
import { asPerson } from '../../src/data/transaction';
import { takeOutWorkspace } from '../../src/use-cases/records/export-table';
import { exportShown } from '../../src/use-cases/records/export-shown';
import { keepView, removeView } from '../../src/use-cases/records/keep-view';
import { openRecord, openRecords } from '../../src/use-cases/records/open-records';
import { openTable } from '../../src/use-cases/records/open-table';
import { readFacets } from '../../src/use-cases/records/read-facets';
import { readGroups } from '../../src/use-cases/records/read-groups';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { openTableAtWork } from '../../src/use-cases/records/table-at-work';
import { runTableChange } from '../../src/use-cases/tables/change-table';
import { openTableDesign, saveTableChange } from '../../src/use-cases/tables/design-table';
import { byToken, takeBySecret } from '../../src/use-cases/tokens/by-token';
import { addToken } from '../../src/use-cases/tokens/keep-tokens';
import { as, must, newId, refusal, useWorld } from '../support/world';

/** Columns that are not for everybody who sees their table: kept from them by whatever door, and by plain SQL. */
const wages: Table = {
  ...plainTable,
  id: tableId(61),
  key: 'wages',
  label: 'Wages',
  prefix: 'WA',
  title: ['cwaname'],
  columns: [
    { ...plainColumn, id: 'cwaname', key: 'name', label: 'Name', required: true },
    { ...plainColumn, id: 'cwafee', key: 'fee', label: 'Fee', kind: 'money', unit: 'EUR', decimals: 2 },
    { ...plainColumn, id: 'cwanote', key: 'note', label: 'Note' },
    { ...plainColumn, id: 'cwabed', key: 'bed', label: 'Bed', kind: 'reference', target: beds.id },
    {
      ...plainColumn,
      id: 'cwatwice',
      key: 'twice',
      label: 'Twice',
      kind: 'money',
      unit: 'EUR',
      decimals: 2,
      formula: 'cwafee * 2',
    },
  ],
  checks: [{ id: 'chfee', must: 'cwafee < 900000', otherwise: 'stop', message: 'Too much', on: 'cwafee' }],
};
const days: Table = {
  ...plainTable,
  id: tableId(62),
  key: 'days',
  label: 'Days',
  prefix: 'DA',
  parent: wages.id,
  columns: [{ ...plainColumn, id: 'cdawhy', key: 'why', label: 'Why' }],
};
/** What stands in each column, in whatever way it is told. */
const MARKS: Readonly<Record<string, string>> = {
  cwafee: '7117',
  cwanote: 'quietly',
  cwatwice: '14235',
  cwabed: 'Hidden corner',
};
const LABELS: Readonly<Record<string, string>> = {
  cwafee: 'fee',
  cwanote: 'note',
  cwatwice: 'twice',
  cwabed: 'bed',
};

const world = useWorld(undefined, [beds, wages, days]);
const [maren, ines] = [personNamed('Maren').id, personNamed('Ines').id];
let app: pg.Client;
let first: string;

beforeAll(async () => {
  app = new pg.Client({ connectionString: world.appUrl });
  await app.connect();
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area) VALUES ('H1', 'Hidden corner', 'Fern house', 10)`,
  );
  await world.sql(
    `INSERT INTO records.wages (name, fee, note, bed) SELECT 'Person ' || n, 7117.5, 'quietly', (SELECT id FROM records.beds WHERE code = 'H1') FROM generate_series(1, 4) n`,
  );
  await world.sql(`UPDATE records.wages SET fee = fee + 0.25, note = note || ' so'`);
  await world.sql(
    `INSERT INTO records.days (parent_id, position, why) SELECT id, 1, 'family' FROM records.wages`,
  );
  first = String((await world.sql('SELECT id FROM records.wages ORDER BY number LIMIT 1'))[0]?.['id']);
});
afterAll(() => app.end());

const to = (person: string, action: GrantAction, columns: readonly string[] | null = null): GrantInput => ({
  action,
  role: null,
  groupId: null,
  personId: person,
  where: null,
  columns,
});
const ALL = ['see', 'add', 'change', 'remove'] as const;

/** Ines says which columns are restricted, and which of them Maren sees all the same. */
async function say(restricted: readonly string[], seen: readonly string[] = [], table = wages) {
  const { grants } = await must(whoOfTable(as('Ines'), table.key));
  return sayWhoOfTable(as('Ines'), table.key, {
    grants: [
      ...ALL.map((action) => to(maren, action)),
      ...ALL.map((action) => to(ines, action)),
      to(ines, 'design'),
      ...(seen.length === 0 ? [] : [to(maren, 'see-columns', [...seen])]),
    ],
    seen: grants.map(({ id }) => id),
    restricted,
  });
}
beforeEach(async () => {
  await must(say([]));
  await must(say([], [], days));
});

/** What a statement gives Maren, as the application's own role; its SQLSTATE where it is refused. */
async function asMaren(statement: string): Promise<Record<string, unknown>[] | string> {
  await app.query('BEGIN');
  try {
    await app.query(`SELECT set_config('slate.person', $1, true)`, [maren]);
    return (await app.query<Record<string, unknown>>(statement)).rows;
  } catch (error) {
    return error instanceof pg.DatabaseError ? (error.code ?? '') : 'unknown';
  } finally {
    await app.query('ROLLBACK');
  }
}
const codes = (refused: Refusal): string[] =>
  refused.kind === 'invalid' ? refused.issues.map(({ code }) => code) : [refused.kind];
const listing = { where: '', find: '', sort: 'number', columns: '', limit: 50, count: true } as const;

/** All that is told of the table to somebody, by each door, as one text. */
async function told(who: string): Promise<Record<string, string>> {
  const { body } = await must(
    exportShown(as(who), 'wages', 'csv', { find: '', where: '', sort: 'number', columns: '' }),
  );
  let exported = '';
  for await (const bytes of body) exported += Buffer.from(bytes).toString();
  return {
    grid: JSON.stringify((await must(openRecords(as(who), 'wages', { sort: 'number' }))).rows),
    record: JSON.stringify(await must(openRecord(as(who), 'wages', first))),
    api: JSON.stringify(await must(listRecords(as(who), 'wages', listing))),
    facets: JSON.stringify(await must(readFacets(as(who), 'wages', { find: '', where: '', about: false }))),
    exported,
  };
}

it('is told by no door to whoever is not to see it, and by each to whoever is', async () => {
  const columns = Object.keys(MARKS);
  await fc.assert(
    fc.asyncProperty(fc.subarray(columns), fc.subarray(columns), async (wanted, also) => {
      // What is worked out of the fee is restricted with it.
      const restricted = wanted.includes('cwafee') ? [...new Set([...wanted, 'cwatwice'])] : wanted;
      const seen = restricted.filter((id) => also.includes(id));
      await must(say(restricted, seen));
      const [hers, all] = [await told('Maren'), await told('Ines')];
      for (const id of columns) {
        const [mark = '', name = '', key = LABELS[id] ?? ''] = [MARKS[id], LABELS[id]];
        const hidden = restricted.includes(id) && !seen.includes(id);
        for (const [door, text] of Object.entries(hers)) {
          // The margin counts only what few values tell apart.
          if (door === 'facets' && !hidden) continue;
          expect([door, id, text.includes(mark)]).toEqual([door, id, !hidden]);
        }
        expect(all['grid']).toContain(mark);
        // Nor by asking about it: in conditions, order, groups, a search, or plain SQL.
        const where = id === 'cwabed' ? 'bed != null' : id === 'cwanote' ? 'note != null' : `${name} > 5`;
        const filtered = openRecords(as('Maren'), 'wages', { sort: 'number', where });
        if (hidden) expect((await refusal(filtered)).kind).toBe('invalid');
        else expect((await must(filtered)).total).toBe(4);
        const sorted = openRecords(as('Maren'), 'wages', { sort: name });
        const order = hidden ? null : (await must(sorted)).sort;
        if (hidden) await sorted.then((result) => expect(result.ok ? result.value.sort : '').not.toBe(name));
        else expect(order).toBe(name);
        const words = id === 'cwanote' || id === 'cwafee' || id === 'cwabed' ? mark : null;
        if (words !== null) {
          const found = await must(openRecords(as('Maren'), 'wages', { sort: 'number', find: words }));
          expect([id, found.total]).toEqual([id, hidden ? 0 : 4]);
        }
        if (id !== 'cwatwice') {
          const raw = await asMaren(`SELECT ${key} FROM records.wages`);
          if (restricted.includes(id)) expect(raw).toBe('42501');
        }
        if (restricted.length > 0) {
          const shown = await asMaren(`SELECT ${key} AS cell FROM shown.wages`);
          expect(typeof shown === 'string' ? shown : shown.map(({ cell }) => cell === null)).toEqual(
            Array.from({ length: 4 }, () => hidden),
          );
          // Also not by the view for those who see all of it, whatever is asked of it.
          const whole = await asMaren(
            `SELECT count(*)::int AS n FROM whole.wages WHERE ${key}::text LIKE '%'`,
          );
          expect(whole).toEqual(seen.length < restricted.length ? '42501' : [{ n: 4 }]);
        }
        const history = await asMaren(
          `SELECT count(*)::int AS n FROM shown.history WHERE table_id = '${wages.id}' AND after ? '${key}'`,
        );
        if (id !== 'cwatwice') expect(history).toEqual([{ n: hidden ? 0 : 8 }]);
      }
    }),
    { numRuns: 12 },
  );
}, 120_000);

it('keeps what changed from the feed of events, and the column from what a table is said to be', async () => {
  await must(say(['cwafee', 'cwatwice']));
  const work = await must(openTableAtWork(as('Maren'), 'wages'));
  expect(work.table.columns.map(({ id }) => id)).toEqual(['cwaname', 'cwanote', 'cwabed']);
  expect(JSON.stringify(work.places)).not.toContain('cwafee');
  expect(work.restricted).toEqual(['Fee', 'Twice']);
  const feed = JSON.stringify(await must(readFeed(as('Maren'), { limit: 200 })));
  expect(feed).toContain('quietly');
  expect(feed).not.toContain('7117');
  expect(feed).not.toContain('"fee"');
  expect((await refusal(readGroups(as('Maren'), 'wages', { by: 'fee', find: '', where: '' }))).kind).toBe(
    'invalid',
  );
});

it('is written over by nobody who does not see it; what must hold of it holds all the same', async () => {
  await must(say(['cwafee', 'cwatwice']));
  const save = (who: string, values: Readonly<Record<string, string>>, version: number) => {
    const before = Object.fromEntries(
      Object.keys(values).map((one) => [one, one === 'cwanote' ? 'quietly so' : '7117.75']),
    );
    return saveEdits(as(who), {
      key: newUuid(),
      edits: [{ t: 'change', table: wages.id, id: first, version, values, before }],
    });
  };
  const version = async () =>
    Number((await world.sql('SELECT version FROM records.wages WHERE id = $1', [first]))[0]?.['version']);
  expect(codes(await refusal(save('Maren', { cwafee: '1' }, await version())))).toEqual([
    'column-restricted',
  ]);
  await must(save('Maren', { cwanote: 'changed' }, await version()));
  expect(codes(await refusal(save('Ines', { cwafee: '900001' }, await version())))).toEqual(['check-stops']);
  await must(save('Ines', { cwafee: '7117.25' }, await version()));
  // As the database says it by itself.
  expect(await asMaren(`UPDATE records.wages SET fee = 1 WHERE id = '${first}' RETURNING id`)).toBe('42501');
  expect(await asMaren(`UPDATE records.wages SET note = 'x' WHERE id = '${first}' RETURNING id`)).toEqual([
    { id: first },
  ]);
  await world.sql(`UPDATE records.wages SET note = 'quietly so', fee = 7117.75 WHERE id = $1`, [first]);
});

it('can be said of columns only that nothing else tells of', async () => {
  expect(codes(await refusal(say(['cwaname'])))).toEqual(['restricted-title']);
  expect(codes(await refusal(say(['cwafee'])))).toEqual(['restricted-read']);
  expect(codes(await refusal(say(['nothing'])))).toEqual(['unknown-column']);
  expect(codes(await refusal(say([], ['cwafee'])))).toEqual(['unknown-column']);
  const { grants } = await must(whoOfTable(as('Maren'), 'wages'));
  expect(
    (
      await refusal(
        sayWhoOfTable(as('Maren'), 'wages', { grants: [], seen: grants.map(({ id }) => id), restricted: [] }),
      )
    ).kind,
  ).toBe('forbidden');
});

it('stays restricted whatever becomes of the table, and after the rights of all tables were given anew', async () => {
  await must(say(['cwafee', 'cwatwice']));
  const { table } = await must(openTableDesign(as('Ines'), 'wages'));
  if (table === null) throw new Error('no table');
  const changed: Table = {
    ...table,
    columns: table.columns.map((column) =>
      column.id === 'cwafee' ? { ...column, label: 'Monthly fee', decimals: 3, restricted: false } : column,
    ),
  };
  const id = newId();
  const redesign = { table: changed, readings: {}, mends: {} };
  const { version } = await must(
    saveTableChange(as('Ines'), id, { version: 0, base: table.version, redesign }),
  );
  expect(await must(runTableChange(as('Ines'), id, { version }))).toEqual({ state: 'done' });
  const { columns } = (await must(openTableAtWork(as('Ines'), 'wages'))).table;
  expect(columns.find((one) => one.id === 'cwafee')).toMatchObject({
    label: 'Monthly fee',
    restricted: true,
  });
  expect(JSON.stringify(await told('Maren'))).not.toContain('7117');
  const [role] = await world.sql('SELECT slate.reading_roles() AS name');
  await world.sql(`GRANT SELECT ON ALL TABLES IN SCHEMA records TO "${String(role?.['name'])}"`);
  await world.sql('SELECT slate.settle_all_shown()');
  expect(await asMaren('SELECT fee FROM records.wages')).toBe('42501');
});

it('is seen by a program as far as its person sees it', async () => {
  await must(say(['cwafee', 'cwatwice', 'cwanote'], ['cwanote']));
  const byProgram = async (who: string) => {
    const grants = [{ tableId: wages.id, formId: null, action: 'see' as const }];
    const person = personNamed(who).id;
    const { secret } = await must(
      addToken(as('Wren'), newId(), { label: `Of ${who}`, person, until: '2026-12-20', grants }),
    );
    const token = await must(takeBySecret(secret, as('Wren').now));
    return JSON.stringify(
      await must(byToken(token, as('Wren').now, (context) => listRecords(context, 'wages', listing))),
    );
  };
  const hers = await byProgram('Maren');
  expect(hers).toContain('quietly');
  expect(hers).not.toContain('7117');
  expect(await byProgram('Ines')).toContain('7117');
});

it('is said while people read, and none of them is met by a fault', async () => {
  let over = false;
  const reader = async (who: string): Promise<number> => {
    let read = 0;
    for (; !over; read++) {
      const { rows } = await must(openRecords(as(who), 'wages', { sort: 'number' }));
      expect(rows).toHaveLength(4);
      // Whether or not it is restricted just now, nobody sees half of it.
      expect(new Set(rows.map(({ cells }) => cells['cwanote'] === undefined)).size).toBe(1);
      await must(openRecord(as(who), 'wages', first));
    }
    return read;
  };
  const readers = ['Maren', 'Maren', 'Ines', 'Ines'].map(reader);
  for (let turn = 0; turn < 8; turn++) await must(say(turn % 2 === 0 ? ['cwanote', 'cwabed'] : []));
  over = true;
  const counts = await Promise.all(readers);
  expect(Math.min(...counts)).toBeGreaterThan(0);
});

it('is asked for by no view that is offered to whoever does not see it', async () => {
  const id = newId();
  const view = {
    label: 'Well paid',
    for: { everybody: true, groups: [], people: [] },
    isFirst: true,
    design: {
      find: '',
      where: 'fee > 5',
      sort: 'number',
      columns: '',
      group: '',
      layout: 'grid',
      day: '',
      asks: [],
    },
  } as const;
  await must(keepView(as('Ines'), 'wages', id, { version: null, view }));
  const offered = async (who: string) =>
    (await must(openTable(as(who), 'wages', {}))).work.views.map(({ label }) => label);
  expect([await offered('Maren'), await offered('Ines')]).toEqual([['Well paid'], ['Well paid']]);
  await must(say(['cwafee', 'cwatwice']));
  // How the table is shown first is no dead end for her.
  expect([await offered('Maren'), await offered('Ines')]).toEqual([[], ['Well paid']]);
  await must(removeView(as('Ines'), 'wages', id));
});

it('goes out with no package of those who do not see it', async () => {
  await must(say(['cwafee', 'cwatwice', 'cwanote'], ['cwanote']));
  let bytes = 0;
  for await (const chunk of (await must(takeOutWorkspace(as('Maren')))).body) bytes += chunk.length;
  expect(bytes).toBeGreaterThan(500);
  const rowsOf = async (who: string) =>
    JSON.stringify(
      await must(
        asPerson({ person: personNamed(who).id }, async (tx, catalogue) => {
          const table = seenTable(catalogue, personNamed(who).id, 'wages');
          return ok(table === null ? [] : await packagedRows(tx, table, null, 10));
        }),
      ),
    );
  expect(await rowsOf('Maren')).toContain('quietly');
  expect(await rowsOf('Maren')).not.toContain('7117');
  expect(await rowsOf('Ines')).toContain('7117');
});
