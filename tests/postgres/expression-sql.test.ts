import { PgDialect } from 'drizzle-orm/pg-core';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { read } from '../../src/core/expression/read';
import { identifier, value, type SqlFragment } from '../../src/core/expression/sql/fragment';
import { inlined } from '../../src/core/expression/sql/inline';
import { atMoment, type SqlNames } from '../../src/core/expression/sql/names';
import { toSql } from '../../src/core/expression/sql/to-sql';
import { DATE, NUMBER, TEXT, type Scope } from '../../src/core/expression/type';
import { rendered } from '../../src/data/identifiers';
import { useWorld } from '../support/world';
import { compareAtRandom, makeSubjects } from '../support/differential';

/** An expression is worth the same in the browser and in PostgreSQL. `npm run bench` compares twenty thousand; here are some hundreds. */
const world = useWorld();
let client: pg.Client;

beforeAll(async () => {
  client = new pg.Client({ connectionString: world.ownerUrl });
  await client.connect();
});
afterAll(async () => {
  await client.end();
});

const names: SqlNames = {
  name: (id) => (id === 'mine' ? { sql: value('fern', 'text') } : { sql: identifier('plant', id) }),
  rowId: null,
  rows: () => null,
  records: () => null,
  ...atMoment('2026-11-23', '2026-11-23 10:00:00'),
};
const scope: Scope = new Map([
  ['kind', { id: 'kind', type: TEXT }],
  ['many', { id: 'many', type: NUMBER }],
  ['due', { id: 'due', type: DATE }],
  ['mine', { id: 'mine', type: TEXT }],
]);

function written(text: string): SqlFragment {
  const tree = read(text, scope);
  const found = tree.ok ? toSql(tree.value, names) : tree;
  if (!found.ok) throw new Error(JSON.stringify(found.error));
  return found.value.expression;
}

describe('the same expression where PostgreSQL wants it', () => {
  beforeAll(async () => {
    await client.query(`CREATE SCHEMA places; CREATE TABLE places.plant (kind text, many numeric, due date);
      INSERT INTO places.plant VALUES ('fern', 3, '2026-11-30'), ('palm', 30, '2026-11-01'), ('fern', NULL, NULL), ('it''s "odd" \\', 1, '2027-01-01')`);
  });
  const kinds = async (where: string) =>
    (
      await client.query<{ kind: string }>(`SELECT kind FROM places.plant WHERE ${where} ORDER BY many`)
    ).rows.map(({ kind }) => kind);

  it('filters records, with an answer of the sheet as a value', async () => {
    expect(await kinds(inlined(written('kind = mine and many < 10')))).toEqual(['fern']);
    expect(await kinds(inlined(written('due >= today() or many in [20..40]')))).toEqual([
      'it\'s "odd" \\',
      'fern',
      'palm',
    ]);
    expect(await kinds(inlined(written('kind = "it\'s \\"odd\\" \\\\"')))).toEqual(['it\'s "odd" \\']);
  });

  it('is a policy, under which an empty answer gives no access', async () => {
    await client.query(`CREATE ROLE places_reader; GRANT USAGE ON SCHEMA places, slate TO places_reader; GRANT SELECT ON places.plant TO places_reader; ALTER TABLE places.plant ENABLE ROW LEVEL SECURITY;
      CREATE POLICY seen ON places.plant FOR SELECT TO places_reader USING ((${inlined(written('many * 2 <= 10 and kind != "palm"'))}) IS TRUE)`);
    try {
      await client.query('SET ROLE places_reader');
      expect(await kinds('TRUE')).toEqual(['it\'s "odd" \\', 'fern']);
    } finally {
      await client.query('RESET ROLE; DROP OWNED BY places_reader; DROP ROLE places_reader');
    }
  });

  it('is a parameter of the library’s query, never a piece of its text', async () => {
    const { sql, params } = new PgDialect().sqlToQuery(
      rendered(written('kind = "x\'; DROP TABLE places.plant; --" and many > 1')),
    );
    expect(params).toEqual(["x'; DROP TABLE places.plant; --", '1']);
    expect(
      (await client.query(`SELECT count(*)::int AS n FROM places.plant WHERE ${sql}`, params)).rows,
    ).toEqual([{ n: 0 }]);
  });
});

describe('law: closures and SQL give the same', () => {
  it('for expressions and rows made at random', async () => {
    const subjects = await makeSubjects(client, 7, 30);
    const compared = await compareAtRandom(
      client,
      subjects,
      Number(process.env['SLATE_SEED'] ?? 11),
      Number(process.env['SLATE_CASES'] ?? 400),
    );
    expect(compared.differences).toEqual([]);
    // Were nearly all values empty, agreeing would say little.
    expect(compared.empty).toBeLessThan(compared.values * 0.7);
  }, 600_000);
});
