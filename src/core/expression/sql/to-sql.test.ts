import { describe, expect, it } from 'vitest';
import { builtins } from '../functions/list';
import { read } from '../read';
import { NUMBER, TEXT, YES_NO, type Scope } from '../type';
import { identifier, sql, value } from './fragment';
import { inlined } from './inline';
import { atMoment, type SqlNames } from './names';
import { toSql } from './to-sql';

const scope: Scope = new Map([
  ['rate', { id: 'rate', type: NUMBER }],
  ['area', { id: 'area', type: NUMBER }],
  ['name', { id: 'name', type: TEXT }],
  ['closed', { id: 'closed', type: YES_NO }],
  [
    'product',
    {
      id: 'product',
      type: {
        t: 'record',
        table: 'products',
        fields: new Map([
          ['max_rate', { id: 'max_rate', type: NUMBER }],
          ['stock', { id: 'stock', type: NUMBER }],
        ]),
      },
    },
  ],
  [
    'lines',
    {
      id: 'lines',
      type: {
        t: 'rows',
        group: 'lines',
        columns: new Map([
          ['amount', { id: 'amount', type: NUMBER }],
          ['done', { id: 'done', type: YES_NO }],
        ]),
      },
    },
  ],
]);
const sizes: Readonly<Record<string, { whole: number; decimals: number }>> = {
  rate: { whole: 20, decimals: 1 },
  area: { whole: 20, decimals: 2 },
};
const names: SqlNames = {
  name: (id) => ({ sql: identifier('r', id), ...(sizes[id] && { size: sizes[id] }) }),
  rowId: identifier('r', 'id'),
  rows: () => ({
    table: identifier('records', 'lines'),
    column: (alias, id) => ({ sql: identifier(alias, id) }),
    parent: (alias) => identifier(alias, 'parent_id'),
    live: (alias) => sql`${identifier(alias, 'removed_at')} IS NULL`,
  }),
  records: (table) => ({
    table: identifier('records', table),
    column: (alias, id) => ({ sql: identifier(alias, id) }),
  }),
  ...atMoment('2026-11-23', '2026-11-23 10:00:00'),
};

function written(text: string): { expression: string; joins: string } {
  const tree = read(text, scope);
  if (!tree.ok) throw new Error(JSON.stringify(tree.error));
  const found = toSql(tree.value, names);
  if (!found.ok) throw new Error(JSON.stringify(found.error));
  return { expression: inlined(found.value.expression), joins: inlined(found.value.joins) };
}

describe('SQL of an expression', () => {
  it('compares plainly, so that an index serves', () =>
    expect(written('rate <= 5').expression).toBe(`("r"."rate" <= '5'::numeric)`));

  it('leaves sums that keep within 34 digits to PostgreSQL, and rounds those that may not', () => {
    expect(written('rate + area').expression).toBe('("r"."rate" + "r"."area")');
    expect(written('rate * area').expression).toMatch(
      /^\(CASE WHEN "r"."rate" BETWEEN -1e15 AND 1e15 .* ELSE slate\.cut_to_34/,
    );
    expect(written('rate * area * rate').expression).toMatch(/^slate\.digits34\(/);
  });

  it('joins a looked-up record once, however often it is read', () => {
    const { expression, joins } = written('rate <= product.max_rate and rate <= product.stock');
    expect(expression).toBe('(("r"."rate" <= "x1"."max_rate") AND ("r"."rate" <= "x1"."stock"))');
    expect(joins).toBe(' LEFT JOIN "records"."products" "x1" ON "x1"."id" = "r"."product"');
  });

  it('asks child rows in one grouped query, however many aggregates there are', () => {
    const { joins } = written(
      'sum(lines.amount) > max(lines.amount) and count(lines) < 5 and every x in lines satisfies x.done',
    );
    expect(joins.match(/LEFT JOIN/g)).toHaveLength(1);
    expect(joins).toContain('GROUP BY "lines_row"."parent_id"');
  });

  it('asks per record where rows are held against the record itself', () => {
    expect(written('count(lines[amount > rate])').joins).toContain('LATERAL');
  });

  it('quotes whatever a text or a name holds', () => {
    expect(inlined([...identifier('we"ird; drop'), ' = ', ...value(`it's \\ "x"`, 'text')])).toBe(
      `"we""ird; drop" =  E'it''s \\\\ "x"'::text`,
    );
    expect(() => inlined(value('a\u0000b', 'text'))).toThrow();
  });

  it.each([
    ['matches(name, "^a")', 'matches'],
    ['lines[1].amount > 1', 'amount'],
    ['sum(for x in [1, 2] return x) > rate', 'sum'],
    ['rate ** 2', '**'],
    ['some x in [1, 2] satisfies x > rate', 'some'],
    ['is working day(today())', 'is working day'],
    ['rate in lines.amount', 'in'],
    ['count([rate])', 'count'],
  ])('says that %s cannot be said', (text, what) => {
    const tree = read(text, scope);
    const found = tree.ok ? toSql(tree.value, names) : tree;
    expect(found.ok ? [] : found.error.map(({ code, facts }) => [code, facts['what']])).toContainEqual([
      'not-in-sql',
      what,
    ]);
  });

  it('has an SQL form for every built-in but these', () => {
    const overRows = ['sum', 'mean', 'min', 'max', 'count', 'all', 'any', 'list contains'];
    const without = [...builtins.values()]
      .filter((one) => one.sql === undefined && !overRows.includes(one.name))
      .map(({ name }) => name);
    expect(without.sort()).toEqual([
      'add working days',
      'append',
      'concatenate',
      'distinct values',
      'duration',
      'during',
      'includes',
      'index of',
      'is working day',
      'matches',
      'median',
      'mode',
      'now',
      'number',
      'overlaps',
      'replace',
      'reverse',
      'split',
      'string join',
      'today',
      'working days between',
    ]);
  });
});
