import { PgDialect } from 'drizzle-orm/pg-core';
import { describe, expect, it } from 'vitest';
import { plainColumn, plainTable, type Column, type Table } from '../../../core/table/model';
import type { TableChange } from '../../../core/table/change';
import { columnOfConstraint } from '../../identifiers';
import { fieldIssue } from '../../field-issues';
import { addFilledColumn, changeSql } from './change-sql';

const dialect = new PgDialect();
const column = (part: Partial<Column>): Column => ({
  ...plainColumn,
  id: 'qa',
  key: 'a',
  label: 'A',
  ...part,
});
const table = (...columns: Column[]): Table => ({
  ...plainTable,
  id: '01900000-0000-7000-8000-0000000000aa',
  key: 'tools',
  label: 'Tools',
  prefix: 'T',
  parent: null,
  columns,
  title: [],
});
const text = (change: TableChange): string[] =>
  changeSql(change, () => 'beds').map((statement) => {
    const { sql, params } = dialect.sqlToQuery(statement);
    expect(params).toEqual([]);
    return sql;
  });

describe('the SQL of a change', () => {
  it('makes a table with its guards: row-level security, stamps, trail, telling', () => {
    const sql = text({ t: 'make-table', table: table(column({ required: true, unique: true })) });
    expect(sql[0]).toContain('"a" text NOT NULL');
    expect(sql[2]).toBe('ALTER TABLE "records"."tools" ADD PRIMARY KEY (id)');
    expect(sql[3]).toContain('ADD CONSTRAINT "qa_key_0000000000aa" UNIQUE ("a")');
    expect(sql[0]).toContain(`DEFAULT slate.next_number('01900000-0000-7000-8000-0000000000aa')`);
    for (const guard of [
      'ENABLE ROW LEVEL SECURITY',
      'FOR SELECT',
      'FOR INSERT',
      'FOR UPDATE',
      'FOR DELETE',
      'slate.stamp()',
      'slate.trail(',
      'slate.tell_table(',
    ])
      expect(sql.join('\n')).toContain(guard);
  });

  it('gives rows of a parent a reference that removes them with it, and their place', () => {
    const sql = text({ t: 'make-table', table: { ...table(column({})), parent: 'parent' } });
    expect(sql[0]).toContain('parent_id uuid NOT NULL');
    expect(sql[3]).toContain('ADD FOREIGN KEY (parent_id) REFERENCES "records"."beds" ON DELETE CASCADE');
    expect(sql.some((statement) => statement.includes('("parent_id", "position")'))).toBe(true);
  });

  it('changes columns and sets one by one, and finds a set by the first of its columns', () => {
    const [a, b] = [
      column({}),
      column({ id: 'qb', key: 'b', label: 'B', default: '1 + 1', kind: 'whole', decimals: 0 }),
    ];
    const both = { ...table(a, b), together: [['qb', 'qa']] };
    expect(text({ t: 'rename-column', table: both, column: { ...a, key: 'z' }, before: 'a' })).toEqual([
      'ALTER TABLE "records"."tools" RENAME COLUMN "a" TO "z"',
    ]);
    expect(text({ t: 'change-default', table: both, column: b })[0]).toMatch(
      /ALTER COLUMN "b" SET DEFAULT \(.+\)::numeric\(15, 0\)$/,
    );
    expect(text({ t: 'change-default', table: both, column: a })).toEqual([
      'ALTER TABLE "records"."tools" ALTER COLUMN "a" DROP DEFAULT',
    ]);
    expect(text({ t: 'make-unique', table: both, column: a })).toEqual([
      'ALTER TABLE "records"."tools" ADD CONSTRAINT "qa_key_0000000000aa" UNIQUE ("a")',
    ]);
    expect(text({ t: 'let-repeat', table: both, column: a })).toEqual([
      'ALTER TABLE "records"."tools" DROP CONSTRAINT "qa_key_0000000000aa"',
    ]);
    const [apart = ''] = text({ t: 'keep-apart', table: both, columns: ['qb', 'qa'] });
    const name = /ADD CONSTRAINT "([^"]+)" UNIQUE \("b", "a"\)/.exec(apart)?.[1] ?? '';
    expect([columnOfConstraint(name), columnOfConstraint('qa_idx_0000000000aa')]).toEqual(['qa', null]);
    expect(text({ t: 'let-share', table: both, columns: ['qa', 'qb'] })).toEqual([
      `ALTER TABLE "records"."tools" DROP CONSTRAINT "${name}"`,
    ]);
    expect([
      text({ t: 'renumber', table: both, before: { prefix: 'T', numbering: 'yearly' } }),
      text({ t: 'retitle', table: both, before: [] }),
      text({ t: 'restore-column', table: both, column: a }),
    ]).toEqual([[], [], []]);
    expect(text({ t: 'remove-column', table: both, column: a })).toEqual([
      'ALTER TABLE "records"."tools" DROP COLUMN "a"',
    ]);
    expect(() => text({ t: 'convert-column', table: both, column: a, before: b })).toThrow('by batches');
  });

  it('gives records there are a value in a column that is added, and later ones their own', () => {
    const filled = addFilledColumn(
      column({ required: true, default: '"new"' }),
      table(),
      "it's",
      () => '',
    ).map((one) => dialect.sqlToQuery(one).sql);
    expect(filled[0]).toContain(`ADD COLUMN "a" text NOT NULL DEFAULT 'it''s'::text`);
    expect(filled.slice(1)).toEqual([
      'ALTER TABLE "records"."tools" ALTER COLUMN "a" DROP DEFAULT',
      `COMMENT ON COLUMN "records"."tools"."a" IS 'A'`,
      `ALTER TABLE "records"."tools" ALTER COLUMN "a" SET DEFAULT ('new'::text)::text`,
    ]);
  });

  it('quotes what owners write, in names and in text', () => {
    const [sql] = text({
      t: 'add-column',
      table: table(),
      column: column({
        kind: 'choice',
        choices: [
          { code: "it's; --", label: 'x' },
          { code: 'back\\slash', label: 'y' },
        ],
      }),
    });
    expect(sql).toContain(`IN ('it''s; --', E'back\\\\slash')`);
    expect(
      text({
        t: 'relabel-column',
        table: table(),
        column: column({ label: "O'Hara", unit: 'm²' }),
        before: 'A',
      }),
    ).toEqual([`COMMENT ON COLUMN "records"."tools"."a" IS 'O''Hara, m²'`]);
  });

  it('refers to the table a lookup picks from, with an index for the way back', () => {
    const sql = text({
      t: 'add-column',
      table: table(),
      column: column({ kind: 'reference', target: 'beds-id' }),
    });
    expect(sql[0]).toContain(
      '"a" uuid, ADD CONSTRAINT "qa_fkey_0000000000aa" FOREIGN KEY ("a") REFERENCES "records"."beds" (id)',
    );
    expect(sql[2]).toBe('CREATE INDEX "qa_idx_0000000000aa" ON "records"."tools" ("a")');
  });

  it('changes choices by another constraint, loosens, and relabels', () => {
    expect(
      text({
        t: 'change-choices',
        table: table(),
        column: column({ kind: 'choice', choices: [{ code: 'a', label: 'A' }] }),
      }),
    ).toHaveLength(2);
    expect(text({ t: 'loosen-column', table: table(), column: column({}) })).toEqual([
      'ALTER TABLE "records"."tools" ALTER COLUMN "a" DROP NOT NULL',
    ]);
    expect(text({ t: 'relabel-table', table: table(), before: 'Old' })).toEqual([
      `COMMENT ON TABLE "records"."tools" IS 'Tools'`,
    ]);
  });

  it('takes no name that PostgreSQL would cut', () => {
    for (const key of ['', 'x'.repeat(64), 'é'.repeat(32), 'a\u0000b'])
      expect(() => text({ t: 'loosen-column', table: { ...table(), key }, column: column({}) })).toThrow(
        'identifier',
      );
  });
});

describe('a broken constraint finds its question', () => {
  const known = table(column({ id: 'qrate', key: 'rate', label: 'Rate' }));

  it.each([
    [{ code: '23505', constraint: 'qrate_key_0000000000aa' }, 'already-used'],
    [{ code: '23503', constraint: 'qrate_fkey_0000000000aa' }, 'record-gone'],
    [{ code: '23514', constraint: 'qrate_choice_0000000000aa' }, 'not-a-choice'],
    [{ code: '23502', column: 'rate' }, 'required'],
    [{ code: '22003', column: 'rate' }, 'number-too-large'],
  ])('%j', (fault, code) =>
    expect(fieldIssue(fault, known)).toMatchObject({ code, path: ['qrate'], facts: { label: 'Rate' } }),
  );

  it('and what is something else stays a fault', () => {
    for (const fault of [
      { code: '23505', constraint: 'other_pkey' },
      { code: '57014' },
      new Error('x'),
      null,
    ])
      expect(fieldIssue(fault, known)).toBeNull();
    expect(columnOfConstraint('t0190_number')).toBeNull();
    expect(fieldIssue({ code: '23505', constraint: 'qrate_key_0000000000aa' }, undefined)).toBeNull();
  });
});
