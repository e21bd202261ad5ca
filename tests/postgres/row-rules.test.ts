import fc from 'fast-check';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { beds, tableId } from '../../demo/tables';
import { personNamed } from '../../demo/people';
import type { GrantInput } from '../../src/contract/people';
import type { Catalogue, Grant, TableAction } from '../../src/core/catalogue/catalogue';
import type { Refusal } from '../../src/core/kernel/refusal';
import { rowRuleIssues, storedRowRule } from '../../src/core/record/row-rules';
import { plainColumn, plainTable, type Column, type Table } from '../../src/core/table/model';
import { exportShown } from '../../src/use-cases/records/export-shown';
import { openRecord, openRecords } from '../../src/use-cases/records/open-records';
import { readFacets } from '../../src/use-cases/records/read-facets';
import { readGroups } from '../../src/use-cases/records/read-groups';
import { saveEdits } from '../../src/use-cases/records/save-edits';
import { listRecords } from '../../src/use-cases/api/list-records';
import { writeRecords } from '../../src/use-cases/api/write-records';
import { byToken, takeBySecret } from '../../src/use-cases/tokens/by-token';
import { addToken } from '../../src/use-cases/tokens/keep-tokens';
import { openTableDesign, saveTableChange } from '../../src/use-cases/tables/design-table';
import { runTableChange } from '../../src/use-cases/tables/change-table';
import { listTables } from '../../src/use-cases/tables/read-tables';
import { sayWhoOfTable, whoOfTable } from '../../src/use-cases/people/say-who';
import { tryWho } from '../../src/use-cases/people/try-who';
import { as, must, newId, refusal, useWorld } from '../support/world';
import { ALL_EDITS, cuts, onlyGrants, trees } from '../support/trees';

/** Which records somebody sees, where rules say so: the same in whatever way they are asked for, and also by plain SQL. */
const world = useWorld(undefined, [beds, trees, cuts]);
const tables = new Map([beds, trees, cuts].map((table) => [table.id, table]));
let app: pg.Client;

beforeAll(async () => {
  app = new pg.Client({ connectionString: world.appUrl });
  await app.connect();
  await world.sql(
    `INSERT INTO records.beds (code, name, section, area) VALUES ('G1', 'One', 'Fern house', 10), ('G2', 'Two', 'Nursery', 20), ('G3', 'Three', 'Plant health', 30)`,
  );
  await world.sql(
    `INSERT INTO records.trees (name, count, wild, bed, created_by) SELECT 'Tree ' || n, n, CASE n % 3 WHEN 0 THEN true WHEN 1 THEN false END,
       (SELECT id FROM records.beds WHERE code = 'G' || n % 4), (ARRAY[$1, $2]::uuid[])[1 + n % 2] FROM generate_series(1, 60) n`,
    [personNamed('Maren').id, personNamed('Ada').id],
  );
  // Maren is of the garden's staff by a group that is in it.
  const [houses, staff] = [newId(), newId()];
  await world.sql(
    `INSERT INTO slate.person_group (id, label) VALUES ($1, 'Glasshouses'), ($2, 'Garden staff')`,
    [houses, staff],
  );
  await world.sql(
    `INSERT INTO slate.group_member (group_id, person_id, member_id) VALUES ($1, $3, NULL), ($2, NULL, $1)`,
    [houses, staff, personNamed('Maren').id],
  );
  await world.sql(
    `INSERT INTO records.cuts (parent_id, position, why) SELECT id, 1, 'storm ' || count FROM records.trees`,
  );
});
afterAll(() => app.end());

/** A grant for one person, with a rule as people write it. */
const to = (
  name: string,
  action: TableAction,
  where: string | null = null,
  table: Table = trees,
): GrantInput => ({
  action,
  role: null,
  groupId: null,
  personId: personNamed(name).id,
  where: where === null ? null : storedRowRule(where, table, tables),
});

/** Ines says who may do what with a table, as in its margin. */
async function say(table: Table, ...grants: GrantInput[]): Promise<void> {
  await world.sql(`DELETE FROM slate.access_grant WHERE table_id = $1 AND action <> 'design'`, [table.id]);
  await world.sql(
    `INSERT INTO slate.access_grant (table_id, action, person_id) VALUES ($1, 'design', $2), ($1, 'see', $2) ON CONFLICT DO NOTHING`,
    [table.id, personNamed('Ines').id],
  );
  const { grants: stands } = await must(whoOfTable(as('Ines'), table.key));
  const seen = stands.map(({ id }) => id);
  const all = [...grants, to('Ines', 'design', null, table), to('Ines', 'see', null, table)];
  await must(sayWhoOfTable(as('Ines'), table.key, { grants: all, seen }));
}

/** What Maren's statement gives, as the application's own role. */
async function asMaren(statement: string): Promise<Record<string, unknown>[]> {
  await app.query('BEGIN');
  try {
    await app.query(`SELECT set_config('slate.person', $1, true)`, [personNamed('Maren').id]);
    return (await app.query<Record<string, unknown>>(statement)).rows;
  } finally {
    await app.query('ROLLBACK');
  }
}

const codes = (refused: Refusal): string[] =>
  refused.kind === 'invalid' ? refused.issues.map(({ code }) => code) : [refused.kind];
const counts = (list: readonly Record<string, unknown>[]): number[] =>
  list.map((row) => Number(row['count'])).sort((a, b) => a - b);

/** Rules over what a tree holds, what it refers to, who made it and who looks, each with what it comes to for Maren of the Fern house and the Glasshouses. */
const RULES: readonly (readonly [rule: string, holds: (n: number) => boolean])[] = [
  ['count > 40', (n) => n > 40],
  ['wild = true', (n) => n % 3 === 0],
  ['wild = null', (n) => n % 3 === 2],
  ['not(count > 10)', (n) => n <= 10],
  ['bed.section = me.place', (n) => n % 4 === 1],
  ['bed = null', (n) => n % 4 === 0],
  ['bed.section in ("Fern house", "Nursery") and not(bed.section = me.place)', (n) => n % 4 === 2],
  ['bed.area > 15 or bed.section = null', (n) => n % 4 !== 1],
  ['bed.section != me.place', (n) => n % 4 !== 1],
  ['created_by = me', (n) => n % 2 === 0],
  ['created_by = me and count < 20', (n) => n % 2 === 0 && n < 20],
  ['list contains(me.groups, "Garden staff") and count <= 5', (n) => n <= 5],
  ['list contains(me.groups, "Plant health")', () => false],
  ['name = "Tree 7" or starts with(name, "Tree 1")', (n) => n === 7 || `${n}`.startsWith('1')],
  // Now is a whole second, and a record may have been made within it.
  ['created_at > now() + duration("PT1H")', () => false],
];

it('gives by each door what a plain filter by the rules gives', async () => {
  await onlyGrants(world, []);
  await say(beds, to('Maren', 'see', null, beds));
  await fc.assert(
    fc.asyncProperty(
      fc.subarray([...RULES], { minLength: 1, maxLength: 3 }),
      fc.integer({ min: 0, max: 60 }),
      async (rules, least) => {
        await say(trees, ...rules.map(([rule]) => to('Maren', 'see', rule)));
        await say(cuts, to('Maren', 'see', null, cuts));
        const mine = Array.from({ length: 60 }, (_, i) => i + 1).filter((n) =>
          rules.some(([, holds]) => holds(n)),
        );
        const asked = mine.filter((n) => n > least);
        const where = `count > ${least}`;
        // By SQL that says nothing of rules, in the grid, by the API, in what is exported.
        expect(counts(await asMaren('SELECT count FROM records.trees'))).toEqual(mine);
        expect(await asMaren('SELECT 1 FROM records.cuts')).toHaveLength(mine.length);
        const { rows, total } = await must(openRecords(as('Maren'), 'trees', { sort: 'count', where }));
        expect(rows.map(({ cells }) => Number(cells['ctrcount']))).toEqual(asked);
        expect(total).toBe(asked.length);
        const listed = await must(
          listRecords(as('Maren'), 'trees', {
            where,
            find: '',
            sort: 'count',
            columns: 'count',
            limit: 100,
            count: true,
          }),
        );
        expect(counts(listed.records as Record<string, unknown>[])).toEqual(asked);
        expect(listed.total?.records).toBe(asked.length);
        expect(await exported(where)).toBe(asked.length);
        // Counted by values, in groups, on the page of tables, and among the words that are found.
        const { facets } = await must(readFacets(as('Maren'), 'trees', { find: '', where, about: false }));
        const wild =
          facets
            .find(({ of }) => of.label === 'Wild')
            ?.counts.reduce((sum, { records }) => sum + records, 0) ?? 0;
        expect(wild).toBe(asked.length);
        const groups = await must(readGroups(as('Maren'), 'trees', { by: 'bed', find: '', where }));
        expect(groups.groups.reduce((sum, { records }) => sum + records, 0)).toBe(asked.length);
        const known = await must(listTables(as('Maren')));
        expect(known.tables.find(({ key }) => key === 'trees')?.records).toBe(mine.length);
        expect(known.tables.find(({ key }) => key === 'cuts')?.records).toBe(mine.length);
        const found = await must(openRecords(as('Maren'), 'trees', { sort: 'count', find: 'tree' }));
        expect(found.total).toBe(mine.length);
      },
    ),
    { numRuns: 25 },
  );

  async function exported(where: string): Promise<number> {
    const { body } = await must(
      exportShown(as('Maren'), 'trees', 'csv', { find: '', where, sort: 'count', columns: '' }),
    );
    let text = '';
    for await (const bytes of body) text += Buffer.from(bytes).toString();
    return text.trim().split('\n').length - 1;
  }
}, 120_000);

it('is the place of nobody where somebody has none', async () => {
  await onlyGrants(world, []);
  await say(beds, to('Maren', 'see', null, beds));
  await say(trees, to('Maren', 'see', 'bed.section = me.place'));
  const { id, place } = personNamed('Maren');
  await world.sql(`UPDATE slate.person SET place = '' WHERE id = $1`, [id]);
  expect(await asMaren('SELECT count FROM records.trees')).toEqual([]);
  expect((await must(openRecords(as('Maren'), 'trees', { sort: 'count' }))).rows).toEqual([]);
  await world.sql('UPDATE slate.person SET place = $2 WHERE id = $1', [id, place]);
  expect(await asMaren('SELECT count FROM records.trees')).toHaveLength(15);
});

it('holds for a program that acts for somebody as it does for them', async () => {
  await onlyGrants(world, []);
  await say(beds, to('Maren', 'see', null, beds));
  await say(trees, to('Maren', 'see', 'count <= 7'), to('Maren', 'change', 'count <= 3'));
  const grants = (['see', 'change'] as const).map((action) => ({ tableId: trees.id, formId: null, action }));
  const until = '2026-12-20';
  const { secret } = await must(
    addToken(as('Wren'), newId(), { label: 'Counting', person: personNamed('Maren').id, until, grants }),
  );
  const token = await must(takeBySecret(secret, as('Wren').now));
  const query = { where: '', find: '', sort: 'count', columns: 'count', limit: 100, count: true };
  const listed = await must(
    byToken(token, as('Wren').now, (context) => listRecords(context, 'trees', query)),
  );
  expect(counts(listed.records as Record<string, unknown>[])).toEqual([1, 2, 3, 4, 5, 6, 7]);
  const [five] = await world.sql('SELECT id FROM records.trees WHERE count = 5');
  const edits = [{ op: 'change' as const, id: String(five?.['id']), version: 1, values: { wild: true } }];
  const write = byToken(token, as('Wren').now, (context) =>
    writeRecords(context, 'trees', { key: newId(), edits, at: () => [] }),
  );
  expect(codes(await refusal(write))).toEqual(['record-not-yours']);
});

describe('what is written', () => {
  const held = async () => {
    await onlyGrants(world, []);
    await say(beds, to('Maren', 'see', null, beds));
    await say(
      trees,
      to('Maren', 'see', 'count <= 40'),
      to('Maren', 'add', 'count <= 100'),
      to('Maren', 'change', 'bed.section = me.place'),
      to('Maren', 'remove', 'created_by = me'),
    );
    await say(cuts, ...ALL_EDITS.map((action) => to('Maren', action, null, cuts)));
  };
  const tree = async (n: number): Promise<{ id: string; version: number }> => {
    const [found] = await world.sql('SELECT id, version FROM records.trees WHERE count = $1', [n]);
    return { id: String(found?.['id']), version: Number(found?.['version']) };
  };
  const change = async (n: number, values: Record<string, string>) => {
    const { id, version } = await tree(n);
    return {
      t: 'change' as const,
      table: trees.id,
      id,
      version,
      before: Object.fromEntries(
        Object.keys(values).map((key) => [key, key === 'ctrcount' ? `${n}` : `Tree ${n}`]),
      ),
      values,
    };
  };
  const save = (...edits: Parameters<typeof saveEdits>[1]['edits']) =>
    saveEdits(as('Maren'), { key: newId(), edits });

  it('is within the rules for it, before and after', async () => {
    await held();
    // Tree 5 stands in G1, in the Fern house; tree 6 does not; tree 45 is not seen at all.
    await must(save(await change(5, { ctrname: 'Tree five' })));
    expect(await refusal(save(await change(6, { ctrname: 'Tree six' })))).toMatchObject({
      issues: [{ code: 'record-not-yours', facts: { action: 'change', table: 'Trees' } }],
    });
    expect(codes(await refusal(save(await change(45, { ctrname: 'Tree x' }))))).toEqual(['record-not-there']);
    // Out of what she sees it would be gone for her.
    expect(codes(await refusal(save(await change(9, { ctrcount: '41' }))))).toEqual(['beyond-your-records']);
    const made = (count: string) => ({
      t: 'add' as const,
      table: trees.id,
      id: newId(),
      parent: null,
      values: { ctrname: `New ${count}`, ctrcount: count },
    });
    expect(codes(await refusal(save(made('101'))))).toEqual(['beyond-your-records']);
    const few = made('30');
    await must(save(few));
    // What she made is hers to remove, and another's is not.
    await must(save({ t: 'remove', table: trees.id, id: few.id, version: 1 }));
    const theirs = await tree(7);
    expect(codes(await refusal(save({ t: 'remove', table: trees.id, ...theirs })))).toEqual([
      'record-not-yours',
    ]);
  });

  it('holds in the database as well, where one may remove what one may not change', async () => {
    await held();
    const statements: readonly (readonly [string, boolean])[] = [
      [`UPDATE records.trees SET name = 'x' WHERE count = 8`, false],
      [`UPDATE records.trees SET removed_at = now() WHERE count = 8`, true],
      [`UPDATE records.trees SET name = 'x' WHERE count = 9`, true],
      [`UPDATE records.trees SET removed_at = now() WHERE count = 9`, false],
      [`UPDATE records.trees SET count = 99 WHERE count = 9`, false],
      [`UPDATE records.trees SET name = 'x' WHERE count = 45`, false],
      [`INSERT INTO records.trees (name, count) VALUES ('Many', 200)`, false],
      [`INSERT INTO records.trees (name, count) VALUES ('Few', 20)`, true],
      [
        `INSERT INTO records.cuts (parent_id, position, why) SELECT id, 9, 'x' FROM records.trees WHERE count = 8`,
        true,
      ],
      [
        `INSERT INTO records.cuts (parent_id, position, why) VALUES ('${(await tree(45)).id}', 9, 'x')`,
        false,
      ],
    ];
    for (const [statement, reaches] of statements) {
      const done = await asMaren(`${statement} RETURNING id`).catch((error: { code?: string }) => {
        if (error.code !== '42501') throw error;
        return [];
      });
      expect(done.length > 0, statement).toBe(reaches);
    }
  });

  it('names no record that is not seen', async () => {
    await held();
    await say(beds, to('Maren', 'see', 'section = me.place', beds));
    const [other] = await world.sql(`SELECT id FROM records.beds WHERE code = 'G2'`);
    const named = {
      t: 'add' as const,
      table: trees.id,
      id: newId(),
      parent: null,
      values: { ctrname: 'Named', ctrcount: '3', ctrbed: String(other?.['id']) },
    };
    expect(codes(await refusal(save(named)))).toEqual(['not-a-record']);
  });

  it('is told with what became of it to those who see it', async () => {
    await held();
    const [near, far] = [await tree(10), await tree(50)];
    expect((await must(openRecord(as('Maren'), 'trees', near.id))).history.length).toBeGreaterThan(0);
    expect((await refusal(openRecord(as('Maren'), 'trees', far.id))).kind).toBe('not-found');
    const told = await asMaren(
      `SELECT DISTINCT (after->>'count')::int AS count FROM shown.history WHERE table_id = '${trees.id}' AND last_id IS NULL`,
    );
    expect(counts(told).every((n) => n <= 40)).toBe(true);
    expect(told.length).toBeGreaterThan(30);
  });
});

describe('a rule', () => {
  it('is refused where it cannot be held, at its place', async () => {
    await onlyGrants(world, []);
    await say(beds);
    await say(trees);
    const { grants } = await must(whoOfTable(as('Ines'), 'trees'));
    const tried = (action: TableAction, where: string) =>
      refusal(
        sayWhoOfTable(as('Ines'), 'trees', {
          grants: [{ ...to('Maren', action), where }, to('Ines', 'design')],
          seen: grants.map(({ id }) => id),
        }),
      );
    expect(await tried('see', 'ctrcount + 1')).toMatchObject({
      issues: [{ code: 'not-a-condition', path: ['grants', '0', 'where'] }],
    });
    expect(await tried('see', 'nothing_like_it > 3')).toMatchObject({
      issues: [{ path: ['grants', '0', 'where'] }],
    });
    expect(await tried('design', 'ctrcount > 3')).toMatchObject({ issues: [{ code: 'rule-not-here' }] });
    expect((await refusal(sayWhoOfTable(as('Maren'), 'trees', { grants: [], seen: [] }))).kind).toBe(
      'not-found',
    );
  });

  it('tells before it is said what becomes of what people see', async () => {
    await onlyGrants(world, []);
    await say(beds, to('Maren', 'see', null, beds));
    await say(trees, to('Maren', 'see', 'count <= 40'), to('Ada', 'see'));
    const [there] = await world.sql(
      'SELECT count(*)::int AS n, count(*) FILTER (WHERE count <= 40)::int AS few, count(*) FILTER (WHERE count > 30)::int AS many, count(*) FILTER (WHERE count <= 30)::int AS lost FROM records.trees WHERE removed_at IS NULL',
    );
    const sights = await must(
      tryWho(as('Ines'), 'trees', {
        grants: [to('Maren', 'see', 'count > 30'), to('Ada', 'see'), to('Ines', 'see'), to('Ines', 'design')],
      }),
    );
    expect(sights).toEqual({
      records: there?.['n'],
      people: [
        {
          person: personNamed('Maren').id,
          now: there?.['few'],
          then: there?.['many'],
          lost: there?.['lost'],
        },
      ],
      others: 0,
    });
    expect((await refusal(tryWho(as('Ada'), 'trees', { grants: [] }))).kind).toBe('forbidden');
  });
});

describe('a rule and its table', () => {
  /** The table of a key, as it is wanted, in place of what it is. */
  const designed = async (key: string, change: (table: Table) => Table) => {
    const { table } = await must(openTableDesign(as('Ines'), key));
    if (table === null) throw new Error('no table');
    const id = newId();
    const redesign = { table: change(table), readings: {}, mends: {} };
    const { version } = await must(
      saveTableChange(as('Ines'), id, { version: 0, base: table.version, redesign }),
    );
    expect(await must(runTableChange(as('Ines'), id, { version }))).toEqual({ state: 'done' });
  };
  const columns = (id: string, to: Partial<Column>) => (table: Table) => ({
    ...table,
    columns: table.columns.map((column) => (column.id === id ? { ...column, ...to } : column)),
  });
  const seen = async () =>
    counts(
      await asMaren('SELECT * FROM records.trees WHERE removed_at IS NULL').then((rows) =>
        rows.map((row) => ({ count: row['count'] ?? row['how_many'] })),
      ),
    );

  it('goes on when what it reads is called otherwise or kept otherwise, and stops where it can be read no more', async () => {
    await onlyGrants(world, []);
    await say(beds, to('Maren', 'see', null, beds));
    await say(trees, to('Maren', 'see', 'count < 10 and bed.section = me.place and wild = false'));
    const mine = await seen();
    expect(mine).toEqual([1]);
    await designed('trees', columns('ctrcount', { key: 'how_many' }));
    expect(await seen()).toEqual(mine);
    await designed('beds', columns('cbedhouse', { key: 'house', label: 'House' }));
    expect(await seen()).toEqual(mine);
    await designed('trees', columns('ctrcount', { kind: 'decimal', decimals: 2 }));
    expect(await seen()).toEqual(mine);
    // A column that is retired keeps what it held.
    await designed('trees', (table) => {
      const wild = table.columns.filter(({ id }) => id === 'ctrwild');
      return {
        ...table,
        columns: table.columns.filter(({ id }) => id !== 'ctrwild'),
        retired: [...table.retired, ...wild],
      };
    });
    expect(await seen()).toEqual(mine);
    await designed('trees', columns('ctrcount', { kind: 'text' }));
    expect(await seen()).toEqual([]);
    // It stands there still, and can be mended.
    expect((await must(whoOfTable(as('Ines'), 'trees'))).grants.some(({ where }) => where !== null)).toBe(
      true,
    );
  });

  it('keeps no table from being changed once nobody holds it any more', async () => {
    await onlyGrants(world, []);
    await say(beds, to('Maren', 'see', null, beds));
    await say(trees, to('Maren', 'see', 'height > 3 and bed.area > 5'), to('Maren', 'change', 'height > 4'));
    // As when she leaves: what was granted to her goes with her, and nobody writes the policies anew.
    await world.sql('DELETE FROM slate.access_grant WHERE person_id = $1', [personNamed('Maren').id]);
    // Keys that are reserved by now must go before anything else is changed.
    const renamed = columns('ctrcount', { key: 'how_many' });
    await designed('trees', (table) => renamed(columns('ctrheight', { decimals: 3 })(table)));
    await designed('beds', columns('cbedarea', { kind: 'whole', decimals: null }));
    await designed('trees', columns('ctrheight', { kind: 'text', decimals: null }));
    expect(await asMaren('SELECT 1 FROM records.trees')).toEqual([]);
  });

  it('is refused where it would lead back to its own table', async () => {
    const [left, right] = [tableOf('lefts', 43), tableOf('rights', 44)];
    const pairs: [Table, Table][] = [
      [left, right],
      [right, left],
    ];
    const linked = pairs.map(([table, target]) => ({
      ...table,
      columns: [
        ...table.columns,
        {
          ...plainColumn,
          id: `c${table.key}`,
          key: 'other',
          label: 'Other',
          kind: 'reference' as const,
          target: target.id,
        },
      ],
    }));
    const catalogue = {
      tables: new Map(linked.map((table) => [table.id, table])),
      grants: [],
    } as unknown as Catalogue;
    const [one = left, two = right] = linked;
    const grant = (table: Table): Grant => ({
      id: '',
      tableId: table.id,
      formId: null,
      role: null,
      groupId: null,
      personId: null,
      action: 'see',
      columns: null,
      where: storedRowRule('other.name = me.place', table, catalogue.tables),
    });
    expect(rowRuleIssues(catalogue, one, [grant(one)])).toEqual([]);
    expect(rowRuleIssues({ ...catalogue, grants: [grant(two)] }, one, [grant(one)])).toMatchObject([
      { code: 'rule-circle', path: ['grants', '0', 'where'] },
    ]);
  });
});

const tableOf = (key: string, n: number): Table => ({
  ...plainTable,
  id: tableId(n),
  key,
  label: key,
  prefix: 'X',
  columns: [{ ...plainColumn, id: `n${key}`, key: 'name', label: 'Name' }],
});
